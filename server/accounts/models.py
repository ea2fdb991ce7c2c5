"""People, their roles, where they signed in, and the audit trail of what counts."""

from typing import Any

from django.conf import settings
from django.contrib.auth.models import AbstractUser
from django.db import models

from dryledger.formats import Formats


class Role(models.TextChoices):
    """What a person may do; each may do what those before it may."""

    CONTRIBUTOR = "contributor"
    """Asked for progress, and sees nothing but what is asked of them."""
    READER = "reader"
    ANALYST = "analyst"
    APPROVER = "approver"


class Default(models.TextChoices):
    """What a person is in every project that is not for members only, unless the project says otherwise."""

    NONE = "none"
    READER = Role.READER.value
    ANALYST = Role.ANALYST.value
    APPROVER = Role.APPROVER.value


class Decimal(models.TextChoices):
    """The sign before decimals."""

    POINT = "."
    COMMA = ","


class FirstDay(models.TextChoices):
    """The day that a week begins with."""

    MONDAY = "mon"
    SATURDAY = "sat"
    SUNDAY = "sun"


class Person(AbstractUser):
    """Somebody who signs in. Reports print `full_name`."""

    full_name = models.CharField(max_length=200)
    role = models.CharField(max_length=20, choices=Default.choices, default=Default.READER)
    """The role in the organisation: that in each project which gives no other."""
    administrator = models.BooleanField(default=False)
    """Adds people and says who may see and do what; a role in projects is apart from it."""
    demo = models.BooleanField(default=False)
    """Offered on the sign-in page, without a password, in demo mode only."""
    expired = models.BooleanField(default=False)
    """The password has to be changed before anything else is done."""
    password_at = models.DateTimeField(null=True)
    """When the password was chosen."""
    once_until = models.DateTimeField(null=True)
    """Of a password that an administrator gave for one sign-in: how long it holds."""
    decimal = models.CharField(max_length=1, choices=Decimal.choices, default=Decimal.POINT)
    month_first = models.BooleanField(default=False)
    first_day = models.CharField(max_length=3, choices=FirstDay.choices, default=FirstDay.MONDAY)
    """How they write numbers and dates: the sign before decimals, the month before the day, the first day of a week."""

    @property
    def formats(self) -> Formats:
        """How they write numbers and dates."""
        return Formats(self.decimal, self.month_first, self.first_day)


class SignIn(models.Model):
    """A session of a person: when and where it began."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="sign_ins")
    session = models.CharField(max_length=40)
    at = models.DateTimeField(auto_now_add=True)
    address = models.CharField(max_length=50)
    agent = models.CharField(max_length=200)

    class Meta:
        ordering = ["-id"]


class Audit(models.Model):
    """A line of the audit trail. Each holds the digest of the one before, so that none can be changed or taken away unseen."""

    number = models.IntegerField(unique=True)
    at = models.DateTimeField()
    who = models.CharField(max_length=200)
    """The name as it was then; empty where nobody was signed in."""
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+")
    kind = models.CharField(max_length=20)
    project = models.CharField(max_length=100, default="")
    what = models.CharField(max_length=500)
    digest = models.CharField(max_length=64)

    class Meta:
        ordering = ["number"]

    def save(self, *args: Any, **kwargs: Any) -> None:
        """A line is written once."""
        if not self._state.adding:
            raise TypeError("the audit trail is never changed")
        super().save(*args, **kwargs)
