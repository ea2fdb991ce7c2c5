"""Calendars as rows of a book."""

from django.db import models

from server.plan.rows import BookRow


class Calendar(BookRow):
    """A weekly pattern of shifts with exceptions, as the book writes them."""

    BOOK = {k: k for k in ("code", "name", "week", "exceptions", "hours_per_day", "hours_per_week", "hours_per_month")}

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    week = models.JSONField()
    exceptions = models.JSONField(null=True)
    hours_per_day = models.FloatField(null=True)
    hours_per_week = models.FloatField(null=True)
    hours_per_month = models.FloatField(null=True)

    def to_book(self, codes: dict[str, dict[int, str]]) -> dict[str, object]:
        return {"week": {}} | super().to_book(codes)

    class Meta(BookRow.Meta):
        constraints = [models.UniqueConstraint("project", "code", name="calendar_code")]
