"""The one question that every action asks first: may this person do that?"""

from typing import cast

from rest_framework.request import Request

from server.accounts.models import Person, Role
from server.shared.problems import NotAllowed
from server.shared.words import sentence

RANK: dict[str, int] = {"none": -2, Role.CONTRIBUTOR: -1, Role.READER: 0, Role.ANALYST: 1, Role.APPROVER: 2}
SYNONYMS: dict[str, str] = {
    "none": sentence("roles.member"),
    Role.CONTRIBUTOR: sentence("roles.contributor"),
    Role.READER: sentence("roles.reader"),
    Role.ANALYST: sentence("roles.analyst"),
    Role.APPROVER: sentence("roles.approver"),
}


def covers(has: str, role: Role) -> bool:
    """Whether a role is another or above it."""
    return RANK[has] >= RANK[role]


def demand(has: str, role: Role, to_do: str) -> None:
    """Raise NotAllowed unless what a person has is the role or a higher one."""
    if not covers(has, role):
        raise NotAllowed(sentence("accounts.role_needed", role=SYNONYMS[has], to_do=to_do, value=SYNONYMS[role]))


def require(person: Person, role: Role, to_do: str) -> None:
    """Raise NotAllowed unless the person has the role in the organisation, or a higher one."""
    demand(person.role, role, to_do)


def person_of(request: Request) -> Person:
    """Who asks. Views call it only behind sign-in."""
    return cast(Person, request.user)
