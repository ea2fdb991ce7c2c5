"""Who there is, who may do what at a project, and the audit trail."""

from collections import Counter, defaultdict

from django.conf import settings
from django.db.models import Count, Q

from server.accounts import audit
from server.accounts.models import Audit, Person
from server.accounts.passwords import due
from server.accounts.session import locked_out_names, sessions_of
from server.book.access import Access
from server.book.membership import Member
from server.book.models import Project
from server.book.organisation import DECIDED_APART, is_set
from server.people.shapes import AccessOut, AuditOut, AuditRow, MemberOut, Membership, MembersOut, PeopleOut, PersonRow, ProjectAccess

LINES = 200


def people() -> PeopleOut:
    """Everybody, by name."""
    return PeopleOut(person_rows(list(Person.objects.order_by("full_name", "id"))), settings.PASSWORD_DAYS)


def person_rows(found: list[Person]) -> list[PersonRow]:
    """People as administrators see them."""
    own: dict[int, list[Membership]] = defaultdict(list)
    for m in Member.objects.filter(person__in=found).select_related("project").order_by("project__code"):
        own[m.person_id].append(Membership(m.project.code, m.role))
    sessions, locked = Counter(s.person_id for s in sessions_of(*found)), locked_out_names()
    return [
        PersonRow(
            id=p.pk,
            username=p.username,
            full_name=p.full_name,
            role=p.role,
            administrator=p.administrator,
            active=p.is_active,
            demo=p.demo,
            password_due=due(p),
            locked_until=locked[p.username].isoformat() if p.username in locked else None,
            last_sign_in=p.last_login.isoformat() if p.last_login else None,
            sessions=sessions[p.pk],
            memberships=own[p.pk],
        )
        for p in found
    ]


def members(project: Project, may_change: bool) -> MembersOut:
    """Everybody with what they are at a project."""
    own = dict(Member.objects.filter(project=project).values_list("person_id", "role"))
    rows = []
    for p in Person.objects.filter(is_active=True).order_by("full_name", "id"):
        else_ = None if project.members_only or p.role == "none" else p.role
        rows.append(MemberOut(p.username, p.full_name, own.get(p.pk), own.get(p.pk, else_)))
    return MembersOut(project.code, project.name, project.members_only, may_change, rows)


def members_of(access: Access, may_change: bool) -> MembersOut:
    """Who may do what here: those who see the project; whom one might add is told only to who may add them."""
    out = members(access.project, may_change)
    if not may_change:
        out.people = [m for m in out.people if m.role]
    return out


def all_access() -> AccessOut:
    """The projects by code and name, for giving access."""
    found = Project.objects.annotate(count=Count("members", distinct=True)).order_by("code")
    return AccessOut([ProjectAccess(p.code, p.name, p.members_only, p.count) for p in found], is_set(DECIDED_APART))


def trail(kind: str = "", text: str = "", before: int | None = None, most: int | None = LINES) -> AuditOut:
    """Lines of the audit trail, the latest first, of one kind or all, with a text in them."""
    found = Audit.objects.order_by("-number")
    if kind:
        found = found.filter(kind=kind)
    if text:
        found = found.filter(Q(who__icontains=text) | Q(what__icontains=text) | Q(project__icontains=text))
    if before is not None:
        found = found.filter(number__lt=before)
    taken = list(found if most is None else found[: most + 1])
    lines = [AuditRow(x.number, x.at.isoformat(), x.who, x.kind, x.project, x.what) for x in taken[:most]]
    return AuditOut(lines, most is not None and len(taken) > most, list(audit.KINDS), audit.faults())
