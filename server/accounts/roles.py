"""The one question that every action asks first: may this person do that?"""

from typing import cast

from rest_framework.request import Request

from server.accounts.models import Person, Role
from server.shared.problems import NotAllowed

RANK = {Role.READER: 0, Role.ANALYST: 1, Role.APPROVER: 2}
SAID = {Role.ANALYST: "an analyst", Role.APPROVER: "an approver"}


def require(person: Person, role: Role, to_do: str) -> None:
    """Raise NotAllowed unless the person has the role or a higher one."""
    if RANK.get(Role(person.role), 0) < RANK[role]:
        raise NotAllowed(f"You read here as {person.role}. To {to_do} takes {SAID[role]}.")


def person_of(request: Request) -> Person:
    """Who asks. Views call it only behind sign-in."""
    return cast(Person, request.user)
