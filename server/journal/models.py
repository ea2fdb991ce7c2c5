"""The journal: one step for every action, with the rows before and after."""

from django.conf import settings
from django.db import models

from server.book.models import Project
from server.book.rows import JsonField


class Step(models.Model):
    """One action. `changes` lists [{model, pk, before, after}]; `revision` is the project's after it. None is ever deleted.

    A step that was undone and then written over is `dropped`: it can't be done again.
    """

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="steps")
    revision = models.IntegerField()
    at = models.DateTimeField(auto_now_add=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT)
    kind = models.CharField(max_length=30)
    role = models.CharField(max_length=20, default="analyst")
    """The role that doing it took, and that undoing it takes."""
    label = models.CharField(max_length=500)
    subject = models.CharField(max_length=100, default="")
    """The activity that the step is about, where it is about one."""
    changes = JsonField(default=list)
    undone = models.BooleanField(default=False)
    undoable = models.BooleanField(default=True)
    dropped = models.BooleanField(default=False)
    sealed_as = JsonField(null=True)
    """Its key and who did it, as they were sealed elsewhere: of a step that came in with an archive. Nobody undoes it here."""

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.label
