"""Ways to look at the desk that people keep."""

from django.conf import settings
from django.db import models


class View(models.Model):
    """A view of the desk, by name, for one person."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    name = models.CharField(max_length=100)
    look = models.JSONField()

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint("person", "name", name="desk_view_name")]
