"""The one question that every action asks first: may this person do that?"""

from typing import cast

from rest_framework.request import Request

from server.accounts.models import Person, Role
from server.shared.problems import NotAllowed
from server.shared.words import sentence

RANK = {Role.READER: 0, Role.ANALYST: 1, Role.APPROVER: 2}
SAID = {Role.READER: "a reader", Role.ANALYST: "an analyst", Role.APPROVER: "an approver"}


def may(person: Person, role: Role) -> bool:
    """Whether a person has a role, or a higher one."""
    return RANK.get(Role(person.role), 0) >= RANK[role]


def require(person: Person, role: Role, to_do: str) -> None:
    """Raise NotAllowed unless the person has the role or a higher one."""
    if not may(person, role):
        raise NotAllowed(sentence("accounts.you_read_here_takes", role=person.role, to_do=to_do, value=SAID[role]))


def person_of(request: Request) -> Person:
    """Who asks. Views call it only behind sign-in."""
    return cast(Person, request.user)
