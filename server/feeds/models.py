"""Feeds of a project, the rows that wait in their trays, and what was posted of each row."""

from typing import Any

from django.conf import settings
from django.db import models

from server.book.models import Project


class Feed(models.Model):
    """A named source of rows. `mapping` says which of its columns are ours, and whom and what its names mean:
    {"columns": {ours: theirs}, "people": {theirs: code}, "activities": {theirs: code}}."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="feeds")
    name = models.CharField(max_length=100)
    kind = models.CharField(max_length=20)
    address = models.CharField(max_length=500, default="")
    mapping = models.JSONField(default=dict)
    heads = models.JSONField(default=list)
    """The columns of its last fetch."""
    fetched_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name

    def map(self, part: str) -> dict[str, str]:
        """One part of the mapping."""
        found: dict[str, str] = dict(self.mapping).get(part, {})
        return found


class Waiting(models.Model):
    """A row of the tray: as it came, and what a person chose for it alone ({"activity": …, "person": …, "late": true})."""

    feed = models.ForeignKey(Feed, on_delete=models.CASCADE, related_name="tray")
    number = models.IntegerField()
    key = models.CharField(max_length=100)
    raw = models.JSONField()
    chosen = models.JSONField(default=dict)

    class Meta:
        ordering = ["number", "id"]

    def __str__(self) -> str:
        return self.key

    @property
    def own(self) -> dict[str, Any]:
        """What was chosen for it alone."""
        found: dict[str, Any] = self.chosen
        return found


class Taken(models.Model):
    """What was posted of a row: it is never posted twice. `row` keeps what it said then; discarded rows have an empty page."""

    feed = models.ForeignKey(Feed, on_delete=models.CASCADE, related_name="taken")
    key = models.CharField(max_length=100)
    page = models.CharField(max_length=100)
    row = models.JSONField()

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["feed", "key"], name="taken_once")]

    def __str__(self) -> str:
        return self.key


class Fetching(models.Model):
    """A fetch that goes on just now, in whatever process: a person has few of them at a time."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    begun = models.FloatField()

    def __str__(self) -> str:
        return str(self.begun)
