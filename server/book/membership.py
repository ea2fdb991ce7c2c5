"""Who is what at a project, where that is other than in the organisation."""

from django.conf import settings
from django.db import models

from server.accounts.models import Role


class Member(models.Model):
    """A person with a role at a project of its own. It is no part of the book."""

    project = models.ForeignKey("book.Project", on_delete=models.CASCADE, related_name="members")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=20, choices=Role.choices)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint("project", "person", name="one_membership")]
