"""The plan of a project as rows. Durations, money and instants stay as typed; the core reads them."""

import uuid

from django.db import models

from server.plan.rows import BookRow, clean, empty


class Project(models.Model):
    """One project. `revision` counts every change, `plan_revision` those of the plan alone."""

    BOOK = {
        k: k
        for k in (
            "code",
            "name",
            "currency",
            "start",
            "calendar",
            "imposed_finish",
            "deadline",
            "treatment",
            "critical_float",
            "measured_against",
            "compared_with",
            "eac",
            "client",
            "manager",
            "description",
            "state",
        )
    }

    uid = models.UUIDField(default=uuid.uuid4, unique=True)
    revision = models.IntegerField(default=1)
    plan_revision = models.IntegerField(default=1)
    code = models.CharField(max_length=100, unique=True)
    name = models.CharField(max_length=300)
    currency = models.CharField(max_length=10)
    start = models.CharField(max_length=16)
    calendar = models.CharField(max_length=100)
    imposed_finish = models.CharField(max_length=16, null=True)
    deadline = models.CharField(max_length=16, null=True)
    treatment = models.CharField(max_length=20, null=True)
    critical_float = models.CharField(max_length=30, null=True)
    measured_against = models.CharField(max_length=100, null=True)
    compared_with = models.JSONField(null=True)
    eac = models.CharField(max_length=20, null=True)
    client = models.CharField(max_length=300, null=True)
    manager = models.CharField(max_length=300, null=True)
    description = models.TextField(null=True)
    state = models.CharField(max_length=100, null=True)
    views = models.JSONField(default=list)
    """Named views of the plan sheet: its columns, filter, grouping and order."""
    extra = models.JSONField(default=dict)
    book_extra = models.JSONField(default=dict)

    class Meta:
        ordering = ["id"]

    def to_book(self) -> dict[str, object]:
        """The project object of the book."""
        return {k: v for k, c in self.BOOK.items() if not empty(v := getattr(self, c))} | self.extra


class Resource(BookRow):
    """A person, role, machine or material with its rates."""

    BOOK = {k: k for k in ("code", "name", "kind", "units", "calendar", "role", "rates", "skills")}

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    kind = models.CharField(max_length=20, null=True)
    units = models.FloatField(null=True)
    calendar = models.CharField(max_length=100, null=True)
    role = models.BooleanField(null=True)
    rates = models.JSONField(null=True)
    skills = models.JSONField(null=True)


class WbsElement(BookRow):
    """One element of the breakdown."""

    BOOK = {"code": "code", "name": "name", "parent": "parent", "weight": "weight"}

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    parent = models.CharField(max_length=100, null=True)
    weight = models.FloatField(null=True)


class Activity(BookRow):
    """One piece of work."""

    BOOK = {
        k: k
        for k in (
            "code",
            "name",
            "calendar",
            "duration",
            "kind",
            "mode",
            "start",
            "finish",
            "constraint",
            "deadline",
            "pauses",
            "driver",
            "value_method",
            "profile",
            "safe_duration",
            "weight",
            "fields",
        )
    } | {"wbs": "wbs"}
    REFERS = {"wbs": "WbsElement"}

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    wbs = models.ForeignKey(WbsElement, on_delete=models.PROTECT, null=True)
    calendar = models.CharField(max_length=100, null=True)
    duration = models.CharField(max_length=30, null=True)
    kind = models.CharField(max_length=20, null=True)
    mode = models.CharField(max_length=20, null=True)
    start = models.CharField(max_length=16, null=True)
    finish = models.CharField(max_length=16, null=True)
    constraint = models.JSONField(null=True)
    deadline = models.CharField(max_length=16, null=True)
    pauses = models.JSONField(null=True)
    driver = models.CharField(max_length=20, null=True)
    value_method = models.JSONField(null=True)
    profile = models.CharField(max_length=20, null=True)
    safe_duration = models.CharField(max_length=30, null=True)
    weight = models.FloatField(null=True)
    fields = models.JSONField(null=True)

    class Meta(BookRow.Meta):
        constraints = [models.UniqueConstraint("project", "code", name="activity_code")]


class Link(BookRow):
    """A dependency between two activities."""

    BOOK = {"from": "source", "to": "target", "type": "type", "lag": "lag", "lag_basis": "lag_basis"}
    REFERS = {"from": "Activity", "to": "Activity"}

    source = models.ForeignKey(Activity, on_delete=models.CASCADE, related_name="+")
    target = models.ForeignKey(Activity, on_delete=models.CASCADE, related_name="+")
    type = models.CharField(max_length=2, null=True)
    lag = models.CharField(max_length=30, null=True)
    lag_basis = models.CharField(max_length=10, null=True)


class Assignment(BookRow):
    """A resource on an activity."""

    BOOK = {k: k for k in ("activity", "resource", "units", "work", "quantity")}
    REFERS = {"activity": "Activity", "resource": "Resource"}

    activity = models.ForeignKey(Activity, on_delete=models.CASCADE, related_name="+")
    resource = models.ForeignKey(Resource, on_delete=models.PROTECT, related_name="+")
    units = models.FloatField(null=True)
    work = models.CharField(max_length=30, null=True)
    quantity = models.FloatField(null=True)


class DirectCost(BookRow):
    """A cost of an activity that is not hours."""

    BOOK = {k: k for k in ("activity", "name", "kind", "amount", "accrual", "in_budget")}
    REFERS = {"activity": "Activity"}

    activity = models.ForeignKey(Activity, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=300)
    kind = models.CharField(max_length=10, null=True)
    amount = models.CharField(max_length=40)
    accrual = models.CharField(max_length=10, null=True)
    in_budget = models.BooleanField(null=True)


class RegisterEntry(BookRow):
    """One row of a register of the project; `values` holds its columns as the book writes them."""

    BOOK = {"code": "code", "name": "name"}

    register = models.CharField(max_length=20)
    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    values = models.JSONField(default=dict)

    def to_book(self, codes: dict[str, dict[int, str]]) -> dict[str, object]:
        return super().to_book(codes) | {
            k: clean(v, "amount" if k in ("impact", "cost") else k) for k, v in self.values.items() if not empty(v)
        }


class Estimate(BookRow):
    """A top-down estimate kept by name, with what each element and activity got of its total."""

    BOOK = {k: k for k in ("code", "name", "measure", "total", "top", "shares")}

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    measure = models.CharField(max_length=10, null=True)
    total = models.CharField(max_length=40)
    top = models.CharField(max_length=100, null=True)
    shares = models.JSONField(default=list)


class Choice(models.Model):
    """A word of a list that the organisation keeps, such as the life-cycle states of a project."""

    list = models.CharField(max_length=30)
    word = models.CharField(max_length=100)
    order = models.IntegerField(default=0)

    class Meta:
        ordering = ["order", "id"]
        constraints = [models.UniqueConstraint("list", "word", name="choice_word")]
