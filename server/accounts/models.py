"""People and their roles."""

from django.contrib.auth.models import AbstractUser
from django.db import models


class Role(models.TextChoices):
    """What a person may do; each may do what those before it may."""

    READER = "reader"
    ANALYST = "analyst"
    APPROVER = "approver"


class Person(AbstractUser):
    """Somebody who signs in. Reports print `full_name`."""

    full_name = models.CharField(max_length=200)
    role = models.CharField(max_length=20, choices=Role.choices, default=Role.READER)
    demo = models.BooleanField(default=False)
    """Offered on the sign-in page, without a password, in demo mode only."""
