"""What administrators do with people, and who gives access to a project. Each is one transaction with its line in the trail."""

import re
from collections.abc import Mapping
from typing import Any

from django.db import transaction

from server.accounts.audit import note
from server.accounts.models import Default, Person, Role
from server.accounts.passwords import give_once
from server.accounts.roles import SYNONYMS
from server.accounts.session import end_all, lift
from server.book.membership import Member
from server.book.models import Project
from server.book.organisation import DECIDED_APART, Setting, is_set
from server.journal.following import hold_for_outsiders
from server.people.selectors import person_rows
from server.people.shapes import GivenOut
from server.shared.problems import NotAllowed, Refused
from server.shared.words import sentence

USERNAME = re.compile(r"[\w.@+-]{1,150}")


def person_by(pk: int) -> Person:
    """A person by key. Raises Refused where there is none."""
    found = Person.objects.filter(pk=pk).first()
    if found is None:
        raise Refused("not-found", sentence("people.nobody"), 404)
    return found


def read_username(text: str) -> str:
    """A name to sign in with. Raises Refused where it is none, or taken."""
    name = text.strip()
    if not USERNAME.fullmatch(name):
        raise Refused("username", sentence("people.username"), 422, field="username")
    if Person.objects.filter(username__iexact=name).exists():
        raise Refused("username-taken", sentence("people.username_taken", name=name), 422, field="username")
    return name


def read_name(text: str) -> str:
    """A full name, on one line. Raises Refused where there is none."""
    name = " ".join(text.split())
    if not name or len(name) > 200:
        raise Refused("full-name", sentence("people.full_name"), 422, field="full_name")
    return name


def _given(person: Person, password: str | None = None) -> GivenOut:
    return GivenOut(person_rows([person])[0], password)


def add(by: Person, username: str, full_name: str, role: str, administrator: bool) -> GivenOut:
    """Somebody new, with a password for the first sign-in."""
    with transaction.atomic():
        person = Person(username=read_username(username), full_name=read_name(full_name), role=role, administrator=administrator)
        password = give_once(person)
        more = sentence("people.and_administrator") if administrator else ""
        note("people", sentence("people.added", name=person.full_name, username=person.username, role=SYNONYMS[role], more=more), by)
    return _given(person, password)


def change(by: Person, pk: int, told: Mapping[str, Any]) -> GivenOut:
    """Another name, role, right or state of a person."""
    with transaction.atomic():
        person = person_by(pk)
        was: dict[str, Any] = {"role": person.role, "administrator": person.administrator, "active": person.is_active}
        if "full_name" in told:
            person.full_name = read_name(told["full_name"])
        person.role = told.get("role", person.role)
        person.administrator = told.get("administrator", person.administrator)
        person.is_active = told.get("active", person.is_active)
        _someone_is_left(by, person)
        person.save()
        name = person.full_name
        if person.role != was["role"]:
            note("people", sentence("people.role_now", name=name, role=SYNONYMS[person.role], was=SYNONYMS[was["role"]]), by)
        if person.administrator != was["administrator"]:
            note("people", sentence("people.administrator_now" if person.administrator else "people.administrator_no_more", name=name), by)
        if person.is_active != was["active"]:
            note("people", sentence("people.active_again" if person.is_active else "people.deactivated", name=name), by)
            end_all(person)
    return _given(person)


def _someone_is_left(by: Person, person: Person) -> None:
    """Raises Refused where nobody could add people any more, or where an administrator would shut themselves out.

    It stands in the transaction: whoever was put out of office a moment ago puts nobody else out.
    """
    if not Person.objects.filter(pk=by.pk, administrator=True, is_active=True).exists():
        raise NotAllowed(sentence("accounts.takes_administrator"))
    if person.pk == by.pk and not (person.administrator and person.is_active):
        raise Refused("own-rights", sentence("people.not_yourself"), 409, field="administrator" if person.is_active else "active")


def reset_password(by: Person, pk: int) -> GivenOut:
    """A password for the next sign-in in the place of the one that is forgotten; all sessions end."""
    with transaction.atomic():
        person = person_by(pk)
        end_all(person)
        password = give_once(person)
        lift(person.username)
        note("password", sentence("people.password_reset", name=person.full_name), by)
    return _given(person, password)


def expire_password(by: Person, pk: int) -> GivenOut:
    """The person has to choose another password before anything else."""
    with transaction.atomic():
        person = person_by(pk)
        if not person.has_usable_password():
            raise Refused("no-password", sentence("people.no_password", name=person.full_name), 409)
        person.expired = True
        person.save()
        note("password", sentence("people.password_expired", name=person.full_name), by)
    return _given(person)


def end_sessions(by: Person, pk: int, here: str) -> GivenOut:
    """Sign a person out everywhere, but where it is asked from."""
    with transaction.atomic():
        person = person_by(pk)
        if end_all(person, but=here):
            note("people", sentence("people.signed_out", name=person.full_name), by)
    return _given(person)


def lift_lock(by: Person, pk: int) -> GivenOut:
    """Let somebody who was locked out try again at once."""
    with transaction.atomic():
        person = person_by(pk)
        lift(person.username)
        note("people", sentence("people.lifted", name=person.full_name), by)
    return _given(person)


def give_access(by: Person, project: Project, members_only: bool, roles: Mapping[str, str | None]) -> None:
    """Who is what at a project: a role, or None for what they are in the organisation. Raises Refused where nobody could change it back."""
    with transaction.atomic():
        project = Project.objects.get(pk=project.pk)
        everybody = {p.username: p for p in Person.objects.filter(username__in=roles)}
        unknown = sorted(set(roles) - set(everybody))
        if unknown:
            raise Refused("nobody", sentence("people.nobody_called", name=unknown[0]), 422, field="roles")
        if project.members_only != members_only:
            Project.objects.filter(pk=project.pk).update(members_only=members_only)
            note("access", sentence("people.members_only" if members_only else "people.open_again"), by, project.code)
        for name, role in roles.items():
            person = everybody[name]
            was = Member.objects.filter(project=project, person=person).values_list("role", flat=True).first()
            if role == was:
                continue
            if role is None:
                Member.objects.filter(project=project, person=person).delete()
                note("access", sentence("people.no_member", name=person.full_name), by, project.code)
            else:
                Member.objects.update_or_create(project=project, person=person, defaults={"role": role})
                note("access", sentence("people.member", name=person.full_name, role=SYNONYMS[role]), by, project.code)
        if members_only and not Member.objects.filter(project=project, role=Role.APPROVER, person__is_active=True).exists():
            raise Refused("no-approver", sentence("people.needs_approver"), 409, field="members_only")
    project.refresh_from_db()
    hold_for_outsiders(by, project)


def decide_apart(by: Person, apart: bool) -> None:
    """Whether nobody decides a change that they raised or wrote to, in any project."""
    with transaction.atomic():
        if is_set(DECIDED_APART) != apart:
            Setting.objects.update_or_create(name=DECIDED_APART, defaults={"on": apart})
            note("organisation", sentence("people.decided_apart" if apart else "people.decided_by_any"), by)


def read_default(text: str) -> str:
    """A role in the organisation as a list of people names it. Raises Refused where it is none."""
    word = text.strip().casefold() or Default.READER.value
    if word not in Default.values:
        raise Refused("role", sentence("people.role", word=text.strip()[:40]), 422, field="role")
    return word
