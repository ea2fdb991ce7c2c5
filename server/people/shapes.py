"""What the people room shows."""

from dataclasses import dataclass


@dataclass
class Membership:
    """A role of a person at one project."""

    project: str
    role: str


@dataclass
class PersonRow:
    """A person as administrators see them."""

    id: int
    username: str
    full_name: str
    role: str
    administrator: bool
    active: bool
    demo: bool
    password_due: bool
    locked_until: str | None
    last_sign_in: str | None
    sessions: int
    memberships: list[Membership]


@dataclass
class PeopleOut:
    """Everybody, by name; after how many days a password has to be changed (0: never)."""

    people: list[PersonRow]
    password_days: int


@dataclass
class GivenOut:
    """A person with the password for the next sign-in, where one was given; it is told this once."""

    person: PersonRow
    password: str | None


@dataclass
class MemberOut:
    """A person with the role that they have at a project, by the project or by the organisation; None: they don't see it."""

    username: str
    full_name: str
    own: str | None
    role: str | None


@dataclass
class MembersOut:
    """Who may do what at a project."""

    code: str
    name: str
    members_only: bool
    may_change: bool
    people: list[MemberOut]


@dataclass
class ProjectAccess:
    """A project as administrators give access to it: its name, no more."""

    code: str
    name: str
    members_only: bool
    members: int


@dataclass
class AccessOut:
    """Every project of the installation; whether changes are decided by others than who raised them."""

    projects: list[ProjectAccess]
    decided_apart: bool


@dataclass
class AuditRow:
    """A line of the audit trail."""

    number: int
    at: str
    who: str
    kind: str
    project: str
    what: str


@dataclass
class AuditOut:
    """Lines of the trail, the latest first; whether there are older ones, and what is wrong with the whole."""

    lines: list[AuditRow]
    more: bool
    kinds: list[str]
    faults: list[str]


@dataclass
class CsvRow:
    """What a row of a list of people does: add, change, nothing, or why it can't be taken."""

    line: int
    username: str
    full_name: str
    says: str
    fault: bool


@dataclass
class GivenPassword:
    """The password of somebody who was added, for the first sign-in."""

    username: str
    full_name: str
    password: str


@dataclass
class CsvOut:
    """What a list of people does or did, row by row, with the passwords of who was added."""

    rows: list[CsvRow]
    applied: bool
    passwords: list[GivenPassword]
