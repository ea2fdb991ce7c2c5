"""Baselines: frozen copies by construction, since each keeps all of itself in one document."""

from django.db import models

from server.plan.rows import BookRow, clean


class Baseline(BookRow):
    """A baseline. `content` holds its calendars and activities as the book writes them; no action changes it."""

    BOOK = {k: k for k in ("code", "name", "taken", "approved_by", "reason")}

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    taken = models.CharField(max_length=16)
    approved_by = models.CharField(max_length=200, null=True)
    reason = models.TextField(null=True)
    content = models.JSONField()

    def to_book(self, codes: dict[str, dict[int, str]]) -> dict[str, object]:
        return super().to_book(codes) | clean(self.content)
