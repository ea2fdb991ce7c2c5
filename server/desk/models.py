"""What the desk keeps: a summary of each project, and the ways to look that people have."""

from django.conf import settings
from django.db import models

from server.book.models import Project


class ProjectSummary(models.Model):
    """What the desk needs of a project, as JSON, and what it was worked out of."""

    project = models.OneToOneField(Project, on_delete=models.CASCADE, primary_key=True, related_name="+")
    key = models.CharField(max_length=64, unique=True)
    text = models.TextField()

    def __str__(self) -> str:
        return self.key


class View(models.Model):
    """A view of the desk, by name, for one person."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=100)
    look = models.JSONField()
    shared = models.BooleanField(default=False)
    """Whether everybody finds it."""

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint("person", "name", name="desk_view_name")]
