"""Pages and what is said on them."""

import uuid

from django.conf import settings
from django.db import models

from server.plan.models import Activity, Resource, WbsElement
from server.plan.rows import BookRow


class Page(BookRow):
    """A reporting period. Closing it stores its inputs and results with a digest that chains to the page before.

    `revision` counts the changes of this page; `inputs` and `results` are zlib-compressed canonical JSON.
    """

    BOOK = {"code": "code", "status": "status", "state": "state"}

    uid = models.UUIDField(default=uuid.uuid4, unique=True)
    revision = models.IntegerField(default=1)
    code = models.CharField(max_length=100)
    status = models.CharField(max_length=16)
    state = models.CharField(max_length=3, default="wet")
    inputs = models.BinaryField(null=True)
    results = models.BinaryField(null=True)
    digest = models.CharField(max_length=64, default="")
    previous = models.CharField(max_length=64, default="")
    mark = models.CharField(max_length=20, default="")
    closed_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True)
    closed_at = models.DateTimeField(null=True)

    class Meta(BookRow.Meta):
        constraints = [models.UniqueConstraint("project", "code", name="page_code")]


class Statement(BookRow):
    """What is said of one activity on one page; null is silence."""

    BOOK = {
        k: k
        for k in (
            "activity",
            "actual_start",
            "actual_finish",
            "percent",
            "remaining",
            "carry_to",
            "units_done",
            "milestones_reached",
            "note",
        )
    }
    REFERS = {"activity": "Activity"}

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="statements")
    activity = models.ForeignKey(Activity, on_delete=models.PROTECT, related_name="+")
    actual_start = models.CharField(max_length=16, null=True)
    actual_finish = models.CharField(max_length=16, null=True)
    percent = models.FloatField(null=True)
    remaining = models.CharField(max_length=30, null=True)
    carry_to = models.CharField(max_length=16, null=True)
    units_done = models.FloatField(null=True)
    milestones_reached = models.JSONField(null=True)
    note = models.TextField(null=True)

    class Meta(BookRow.Meta):
        constraints = [models.UniqueConstraint("page", "activity", name="one_statement")]


class HoursEntry(BookRow):
    """Hours worked and to go of one assignment on one page."""

    BOOK = {k: k for k in ("activity", "resource", "worked", "overtime", "to_go")}
    REFERS = {"activity": "Activity", "resource": "Resource"}

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="hours")
    activity = models.ForeignKey(Activity, on_delete=models.PROTECT, related_name="+")
    resource = models.ForeignKey(Resource, on_delete=models.PROTECT, related_name="+")
    worked = models.CharField(max_length=30, null=True)
    overtime = models.CharField(max_length=30, null=True)
    to_go = models.CharField(max_length=30, null=True)


class CostEntry(BookRow):
    """A dated actual cost. `typed` marks the one that the posting sheet's own cell keeps."""

    BOOK = {k: k for k in ("activity", "wbs", "date", "amount", "source", "ref")}
    REFERS = {"activity": "Activity", "wbs": "WbsElement"}

    page = models.ForeignKey(Page, on_delete=models.CASCADE, related_name="costs")
    activity = models.ForeignKey(Activity, on_delete=models.PROTECT, related_name="+", null=True)
    wbs = models.ForeignKey(WbsElement, on_delete=models.PROTECT, related_name="+", null=True)
    date = models.CharField(max_length=10)
    amount = models.CharField(max_length=40)
    source = models.CharField(max_length=20)
    ref = models.CharField(max_length=300, null=True)
    typed = models.BooleanField(default=False)
