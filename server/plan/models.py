"""The plan of a project as rows. Durations, money and instants stay as typed; the core reads them."""

import uuid

from django.db import models

from server.plan.rows import BookRow


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
    extra = models.JSONField(default=dict)
    book_extra = models.JSONField(default=dict)

    class Meta:
        ordering = ["id"]

    def to_book(self) -> dict[str, object]:
        """The project object of the book."""
        return {k: v for k, c in self.BOOK.items() if (v := getattr(self, c)) is not None} | self.extra


class Resource(BookRow):
    """A person, role, machine or material with its rates."""

    BOOK = {k: k for k in ("code", "name", "kind", "units", "calendar", "role", "rates")}

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    kind = models.CharField(max_length=20, null=True)
    units = models.FloatField(null=True)
    calendar = models.CharField(max_length=100, null=True)
    role = models.BooleanField(null=True)
    rates = models.JSONField(null=True)


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
