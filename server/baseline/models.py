"""What is kept beside the book of baselines: the plan that one was taken of, and baselines that somebody asks for."""

from django.conf import settings
from django.db import models

from server.book.models import Project


class TakenPlan(models.Model):
    """The plan that a baseline was taken of, packed: a project that is started from it has its links, resources and rates as they were."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="+")
    baseline = models.CharField(max_length=100)
    content = models.BinaryField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["project", "baseline"], name="taken_plan")]


class Ask(models.Model):
    """A baseline that an analyst asks for; an approver takes it, or sends it back with a word."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="+")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    name = models.CharField(max_length=300)
    reason = models.TextField()
    rows = models.JSONField(null=True)
    changes = models.JSONField(default=list)
    revision = models.IntegerField()
    """The project's revision that whoever asked saw."""
    state = models.CharField(max_length=10, default="open")
    """open, taken, declined or withdrawn."""
    answer = models.TextField(default="")
    baseline = models.CharField(max_length=100, default="")

    class Meta:
        ordering = ["id"]
