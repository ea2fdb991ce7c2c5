"""What people say about options: a choice asked for, and remarks of readers. None of it is the book's."""

from django.conf import settings
from django.db import models

from server.book.kept_models import Option
from server.book.models import Project


class Ask(models.Model):
    """A choice between options that readers are asked for; the latest one stands until an option is adopted or another is asked."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="+")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    text = models.TextField()
    closed = models.BooleanField(default=False)

    class Meta:
        ordering = ["id"]


class Remark(models.Model):
    """What somebody said of an option (None: of the present plan); `chosen` says that they would take it."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="+")
    option = models.ForeignKey(Option, on_delete=models.CASCADE, null=True, related_name="remarks")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    text = models.TextField(default="")
    chosen = models.BooleanField(default=False)

    class Meta:
        ordering = ["id"]
