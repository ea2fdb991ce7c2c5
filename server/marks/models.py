"""What the organisation keeps of marks: sets of rules by name."""

from django.db import models


class RuleSet(models.Model):
    """A set of rules as the book writes them, for any project to take over."""

    name = models.CharField(max_length=100, unique=True)
    rules = models.JSONField()

    class Meta:
        ordering = ["name"]
