"""Passwords: chosen by their person, given once by an administrator, and how long they hold."""

import secrets
from datetime import timedelta

from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.utils import timezone
from rest_framework.permissions import BasePermission
from rest_framework.request import Request

from server.accounts.models import Person
from server.shared.problems import Refused
from server.shared.words import sentence

LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"
"""What can't be taken for another sign when it is read out."""


def due(person: Person) -> bool:
    """Whether a person has to choose another password first."""
    if person.expired:
        return True
    days: int = settings.PASSWORD_DAYS
    return bool(days and person.password_at and person.has_usable_password() and timezone.now() - person.password_at > timedelta(days=days))


def choose(person: Person, password: str, field: str = "new") -> None:
    """Set a password that its person chose. Raises Refused where it does not hold."""
    try:
        validate_password(password, person)
    except ValidationError as error:
        raise Refused("password-weak", " ".join(error.messages), 422, field=field) from None
    if person.has_usable_password() and person.check_password(password):
        raise Refused("password-same", sentence("accounts.same_password"), 422, field=field)
    person.set_password(password)
    person.expired, person.password_at, person.once_until = False, timezone.now(), None
    person.save()


def one_time() -> str:
    """A password that nobody chose: 79 bits, in four groups to read out."""
    return "-".join("".join(secrets.choice(LETTERS) for _ in range(4)) for _ in range(4))


def give_once(person: Person) -> str:
    """A password for the first sign-in after it, told to nobody but whoever asked; every session of the person ends."""
    password = one_time()
    person.set_password(password)
    person.expired, person.password_at = True, timezone.now()
    person.once_until = timezone.now() + timedelta(days=settings.ONE_TIME_DAYS)
    person.save()
    return password


def still_holds(person: Person) -> None:
    """Raises Refused where a password for one sign-in was not used in time."""
    if person.once_until is not None and person.once_until < timezone.now():
        raise Refused("password-ended", sentence("accounts.password_ended", days=settings.ONE_TIME_DAYS), 400, field="password")


class Current(BasePermission):
    """Signed in, with a password that is not due to be changed."""

    def has_permission(self, request: Request, view: object) -> bool:
        person = request.user
        if not isinstance(person, Person):
            return False
        still_holds(person)
        if due(person):
            raise Refused("password-due", sentence("accounts.password_due"), 403)
        return True


class Known(BasePermission):
    """Signed in, whatever the password: to change it."""

    def has_permission(self, request: Request, view: object) -> bool:
        return isinstance(request.user, Person)
