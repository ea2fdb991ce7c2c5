"""The book of a project as rows. Durations, money and instants stay as typed; the core reads them."""

import uuid
from typing import Any, ClassVar

from django.conf import settings
from django.db import models

import server.book.membership  # a model of its own, made known here
import server.book.organisation  # noqa: F401  # the same
from dryledger.book import lists
from dryledger.book.columns import ListOf
from server.book.kept_models import Answer, Estimate, MarkRule, Option, ProgressLine, Promise, ReportLayout, unique
from server.book.rows import BookRow, JsonField, NumberField, clean, columns_of, empty, untouched

Codes = dict[str, dict[int, str]]


class Standing(models.TextChoices):
    """Whether a project counts: what-if copies and retired ones are in no sum, and book nobody's time."""

    REAL = "real"
    WHAT_IF = "what_if"
    RETIRED = "retired"


class Project(models.Model):
    """One project. `revision` counts every change, `plan_revision` those of the plan alone."""

    LIST: ClassVar[ListOf] = lists.PROJECT

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
    compared_with = JsonField(null=True)
    eac = models.CharField(max_length=20, null=True)
    client = models.CharField(max_length=300, null=True)
    manager = models.CharField(max_length=300, null=True)
    description = models.TextField(null=True)
    state = models.CharField(max_length=100, null=True)
    benefit = models.CharField(max_length=40, null=True)
    benefit_basis = models.TextField(null=True)
    kind = models.CharField(max_length=100, null=True)
    fields = JsonField(null=True)
    rhythm = JsonField(null=True)
    limits = JsonField(null=True)
    buffers = JsonField(null=True)
    actuals = models.CharField(max_length=20, null=True)
    responsible = models.CharField(max_length=200, null=True)
    views = models.JSONField(default=list)
    """Named views of the plan sheet: its columns, filter, grouping and order."""
    views_revision = models.IntegerField(default=1)
    extra = JsonField(default=dict)
    book_extra = JsonField(default=dict)
    sealed = models.CharField(max_length=64, default="")
    """The digest at the end of the chain of all that was ever sealed in this project."""
    sealed_count = models.IntegerField(default=0)
    members_only = models.BooleanField(default=False)
    """Nobody but its members sees it, or is told of it."""
    standing = models.CharField(max_length=10, choices=Standing.choices, default=Standing.REAL)
    copy_of = models.CharField(max_length=100, default="")
    """Of a what-if copy: of which project it is one."""
    place = models.CharField(max_length=300, default="")
    """Its group among the projects: names from the top down, apart by " / "."""
    brought_in = models.CharField(max_length=300, default="")
    """Of a project that came in with an archive: who brought it, from where, and whether that is proved."""

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.code

    def to_book(self, exact: bool = False) -> dict[str, Any]:
        """The project object of the book."""
        out = {key: clean(v, key, exact) for key, column, _ in columns_of(Project) if not empty(v := getattr(self, column))}
        return {**out, **untouched(self.extra, exact)}


class Calendar(BookRow):
    """A weekly pattern of shifts with exceptions, as the book writes them."""

    LIST = lists.CALENDARS

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    week = JsonField()
    exceptions = JsonField(null=True)
    hours_per_day = NumberField(null=True)
    hours_per_week = NumberField(null=True)
    hours_per_month = NumberField(null=True)

    class Meta(BookRow.Meta):
        constraints = unique("calendar_code", "code")

    def to_book(self, codes: Codes, exact: bool = False) -> dict[str, Any]:
        return {"week": {}} | super().to_book(codes, exact)


class Resource(BookRow):
    """A person, role, machine or material with its rates."""

    LIST = lists.RESOURCES

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    kind = models.CharField(max_length=20, null=True)
    units = NumberField(null=True)
    calendar = models.CharField(max_length=100, null=True)
    role = models.BooleanField(null=True)
    rates = JsonField(null=True)
    skills = JsonField(null=True)
    shared = models.CharField(max_length=100, null=True)
    own_rates = models.BooleanField(null=True)
    actuals = models.CharField(max_length=20, null=True)
    unit = models.CharField(max_length=40, null=True)
    supplier = models.CharField(max_length=300, null=True)
    person = models.CharField(max_length=200, null=True)
    roles = JsonField(null=True)
    exceptions = JsonField(null=True)
    fields = JsonField(null=True)

    class Meta(BookRow.Meta):
        constraints = unique("resource_code", "code")


class WbsElement(BookRow):
    """One element of the breakdown."""

    LIST = lists.WBS

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    parent = models.CharField(max_length=100, null=True)
    weight = NumberField(null=True)
    responsible = models.CharField(max_length=200, null=True)

    class Meta(BookRow.Meta):
        constraints = unique("wbs_code", "code")


class Activity(BookRow):
    """One piece of work."""

    LIST = lists.ACTIVITIES

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    wbs = models.ForeignKey(WbsElement, on_delete=models.PROTECT, null=True)
    calendar = models.CharField(max_length=100, null=True)
    duration = models.CharField(max_length=30, null=True)
    kind = models.CharField(max_length=20, null=True)
    mode = models.CharField(max_length=20, null=True)
    start = models.CharField(max_length=16, null=True)
    finish = models.CharField(max_length=16, null=True)
    constraint = JsonField(null=True)
    deadline = models.CharField(max_length=16, null=True)
    pauses = JsonField(null=True)
    driver = models.CharField(max_length=20, null=True)
    value_method = JsonField(null=True)
    profile = models.CharField(max_length=20, null=True)
    safe_duration = models.CharField(max_length=30, null=True)
    levelled = models.CharField(max_length=16, null=True)
    weight = NumberField(null=True)
    fields = JsonField(null=True)
    responsible = models.CharField(max_length=200, null=True)
    note = models.TextField(null=True)

    class Meta(BookRow.Meta):
        constraints = unique("activity_code", "code")


class External(BookRow):
    """An activity of another project that links lead from: as it was when the last page was closed.

    `of` is the key of that activity here, if it is here: its dates flow in while the page is wet. It may go, and come back by an undo.
    """

    LIST = lists.EXTERNALS

    code = models.CharField(max_length=201)
    name = models.CharField(max_length=300)
    start = models.CharField(max_length=16)
    finish = models.CharField(max_length=16)
    state = models.CharField(max_length=20, null=True)
    status = models.CharField(max_length=16, null=True)
    last_start = models.CharField(max_length=16, null=True)
    last_finish = models.CharField(max_length=16, null=True)
    of = models.BigIntegerField(null=True, db_index=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    """Who made the link that needs it, or brought it in: it is found, and followed, by what that person may see."""

    class Meta(BookRow.Meta):
        constraints = unique("external_code", "code")


class Link(BookRow):
    """A dependency between two activities; its source is one of the project, or an external one."""

    LIST = lists.LINKS
    ALSO = {"from": "external"}

    source = models.ForeignKey(Activity, on_delete=models.CASCADE, related_name="+", null=True)
    external = models.ForeignKey(External, on_delete=models.CASCADE, related_name="+", null=True)
    target = models.ForeignKey(Activity, on_delete=models.CASCADE, related_name="+")
    type = models.CharField(max_length=2, null=True)
    lag = models.CharField(max_length=30, null=True)
    lag_basis = models.CharField(max_length=10, null=True)


class Assignment(BookRow):
    """A resource on an activity."""

    LIST = lists.ASSIGNMENTS

    activity = models.ForeignKey(Activity, on_delete=models.CASCADE, related_name="+")
    resource = models.ForeignKey(Resource, on_delete=models.PROTECT, related_name="+")
    units = NumberField(null=True)
    work = models.CharField(max_length=30, null=True)
    quantity = NumberField(null=True)
    actuals = models.CharField(max_length=20, null=True)
    to_order = models.CharField(max_length=40, null=True)
    closed = JsonField(null=True)


class DirectCost(BookRow):
    """A cost of an activity that is not hours."""

    LIST = lists.COSTS

    activity = models.ForeignKey(Activity, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=300)
    kind = models.CharField(max_length=10, null=True)
    amount = models.CharField(max_length=40)
    accrual = models.CharField(max_length=10, null=True)
    in_budget = models.BooleanField(null=True)
    code = models.CharField(max_length=100, null=True)
    actuals = models.CharField(max_length=20, null=True)
    to_order = models.CharField(max_length=40, null=True)
    closed = JsonField(null=True)


class Order(BookRow):
    """What was ordered from a supplier, with its lines."""

    LIST = lists.ORDERS

    code = models.CharField(max_length=100)
    supplier = models.CharField(max_length=300, null=True)
    text = models.TextField(null=True)
    date = models.CharField(max_length=10, null=True)
    state = models.CharField(max_length=10, null=True)
    lines = JsonField(null=True)

    class Meta(BookRow.Meta):
        constraints = unique("order_code", "code")


class Reserve(BookRow):
    """Money held back, inside the authorised total or outside it."""

    LIST = lists.RESERVES

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    amount = models.CharField(max_length=40)
    held = models.CharField(max_length=10, null=True)

    class Meta(BookRow.Meta):
        constraints = unique("reserve_code", "code")


class RegisterEntry(BookRow):
    """One row of a register of the project; `values` holds its columns as the book writes them."""

    LIST = lists.LISTS["notes"]

    register = models.CharField(max_length=20)
    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    values = JsonField(default=dict)

    class Meta(BookRow.Meta):
        constraints = unique("register_code", "register", "code")

    def to_book(self, codes: Codes, exact: bool = False) -> dict[str, Any]:
        own = {k: clean(v, "amount" if k in ("impact", "cost") else k, exact) for k, v in self.values.items() if not empty(v)}
        return {"code": self.code, "name": self.name} | self.written_extra(exact) | own

    def as_kept(self, codes: Codes) -> dict[str, Any]:
        return {"code": self.code, "name": self.name, **{k: v for k, v in self.values.items() if v not in (None, "", [])}}


class Baseline(BookRow):
    """A frozen copy. `content` holds its calendars and activities as the book writes them; no action changes it."""

    LIST = lists.BASELINES
    KEPT_WHOLE = ("calendar", "calendars", "activities")

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    taken = models.CharField(max_length=16)
    approved_by = models.CharField(max_length=200, null=True)
    reason = models.TextField(null=True)
    before = models.CharField(max_length=100, null=True)
    source = models.CharField(max_length=10, null=True)
    content = JsonField()
    came_from = models.CharField(max_length=300, default="")
    """Who brought it in with a file, where it was not taken here."""

    class Meta(BookRow.Meta):
        constraints = unique("baseline_code", "code")

    def to_book(self, codes: Codes, exact: bool = False) -> dict[str, Any]:
        content: dict[str, Any] = clean(self.content, exact=exact)
        return super().to_book(codes, exact) | content

    def as_kept(self, codes: Codes) -> dict[str, Any]:
        content: dict[str, Any] = self.content
        return super().to_book(codes) | content


class Page(BookRow):
    """A reporting period. Closing it stores its inputs and results with a digest that chains to the page before.

    `revision` counts the changes of this page; `inputs` and `results` are zlib-compressed canonical JSON.
    """

    LIST = lists.PERIODS

    uid = models.UUIDField(default=uuid.uuid4, unique=True)
    revision = models.IntegerField(default=1)
    code = models.CharField(max_length=100)
    status = models.CharField(max_length=16)
    state = models.CharField(max_length=3, default="wet")
    note = models.TextField(null=True)
    measured_against = models.CharField(max_length=100, null=True)
    inputs = models.BinaryField(null=True)
    results = models.BinaryField(null=True)
    digest = models.CharField(max_length=64, default="")
    previous = models.CharField(max_length=64, default="")
    calculation = models.IntegerField(default=1)
    """The number of the calculation that a dry page was closed under."""
    keys = JsonField(default=dict)
    """Who the rows named on a dry page are: for each list the key of each code as it was at closing."""
    closed_as = JsonField(null=True)
    """Who closed it and `keys`, as they were sealed elsewhere: of a page that came in with an archive."""
    mark = models.CharField(max_length=20, default="")
    closed_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True)
    closed_at = models.DateTimeField(null=True)

    class Meta(BookRow.Meta):
        constraints = unique("page_code", "code")


class Statement(BookRow):
    """What is said of one activity on one page; null is silence."""

    LIST = lists.STATEMENTS

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="statements")
    activity = models.ForeignKey(Activity, on_delete=models.PROTECT, related_name="+")
    actual_start = models.CharField(max_length=16, null=True)
    actual_finish = models.CharField(max_length=16, null=True)
    percent = NumberField(null=True)
    remaining = models.CharField(max_length=30, null=True)
    carry_to = models.CharField(max_length=16, null=True)
    units_done = NumberField(null=True)
    milestones_reached = JsonField(null=True)
    note = models.TextField(null=True)
    corrects = models.CharField(max_length=100, null=True)
    reason = models.TextField(null=True)
    assumed = JsonField(null=True)

    class Meta(BookRow.Meta):
        constraints = [models.UniqueConstraint("page", "activity", name="one_statement")]


class HoursEntry(BookRow):
    """Hours worked and to go of one assignment on one page."""

    LIST = lists.HOURS

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="hours")
    activity = models.ForeignKey(Activity, on_delete=models.PROTECT, related_name="+")
    resource = models.ForeignKey(Resource, on_delete=models.PROTECT, related_name="+")
    worked = models.CharField(max_length=30, null=True)
    overtime = models.CharField(max_length=30, null=True)
    to_go = models.CharField(max_length=30, null=True)
    corrects = models.CharField(max_length=100, null=True)
    reason = models.TextField(null=True)
    ref = models.CharField(max_length=300, null=True)


class CostEntry(BookRow):
    """A dated actual cost. `typed` marks the one that the posting sheet's own cell keeps."""

    LIST = lists.COST_ENTRIES

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="costs")
    activity = models.ForeignKey(Activity, on_delete=models.PROTECT, related_name="+", null=True)
    wbs = models.ForeignKey(WbsElement, on_delete=models.PROTECT, related_name="+", null=True)
    date = models.CharField(max_length=10)
    amount = models.CharField(max_length=40)
    source = models.CharField(max_length=20)
    ref = models.CharField(max_length=300, null=True)
    corrects = models.CharField(max_length=100, null=True)
    reason = models.TextField(null=True)
    text = models.TextField(null=True)
    of = models.CharField(max_length=201, null=True)
    order_code = models.CharField(max_length=100, null=True)
    typed = models.BooleanField(default=False)


class Seal(models.Model):
    """One link of the chain of all that was sealed in a project: a page closed, an edition issued, a step of the journal.

    `subject` says what, `content` is the digest of it as it was, `digest` chains to the seal before. None is ever changed.
    """

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="seals")
    number = models.IntegerField()
    kind = models.CharField(max_length=10)
    subject = models.CharField(max_length=100)
    content = models.CharField(max_length=64)
    digest = models.CharField(max_length=64)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint("project", "number", name="seal_number")]


LISTS: dict[str, type[BookRow]] = {
    "calendars": Calendar,
    "resources": Resource,
    "wbs": WbsElement,
    "activities": Activity,
    "externals": External,
    "links": Link,
    "assignments": Assignment,
    "costs": DirectCost,
    "orders": Order,
    "reserves": Reserve,
    "baselines": Baseline,
    **dict.fromkeys(lists.REGISTERS, RegisterEntry),
    "estimates": Estimate,
    "answers": Answer,
    "mark_rules": MarkRule,
    "report_layout": ReportLayout,
    "progress_lines": ProgressLine,
    "options": Option,
    "promises": Promise,
}
"""The model of each list of the plan."""
PAGE_LISTS: dict[str, type[BookRow]] = {"statements": Statement, "hours": HoursEntry, "costs": CostEntry}
"""The model of each list of a page."""
