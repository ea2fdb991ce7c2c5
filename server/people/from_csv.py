"""People from a list: sign-in name, full name, role, and where wanted a project with the role there. Shown first, then taken whole."""

import csv
import io
from collections.abc import Mapping

from django.contrib.auth.hashers import make_password
from django.db import transaction
from django.utils import timezone

from server.accounts.audit import note
from server.accounts.models import Person, Role
from server.accounts.passwords import one_time
from server.accounts.roles import SYNONYMS
from server.book.membership import Member
from server.book.models import Project
from server.people.actions import USERNAME, read_default, read_name
from server.people.shapes import CsvOut, CsvRow, GivenPassword
from server.shared.files import unescaped
from server.shared.problems import Refused
from server.shared.words import sentence

COLUMNS = ("sign-in name", "full name", "role", "project", "project role")
MOST = 500


def _rows(text: str) -> list[tuple[int, dict[str, str]]]:
    """The rows by their columns. Raises Refused where the first line does not name them."""
    lines = text.lstrip("\ufeff").splitlines()
    first = lines[0] if lines else ""
    mark = max(",;\t", key=first.count)
    try:
        reader = csv.reader(io.StringIO("\n".join(lines)), delimiter=mark, strict=True)
        titles = [" ".join(t.split()).casefold() for t in next(reader, [])]
        unknown = [t for t in titles if t not in COLUMNS]
        if unknown or not {"sign-in name", "full name"} <= set(titles) or len(set(titles)) != len(titles):
            raise Refused("columns", sentence("people.csv_columns", columns=", ".join(COLUMNS)), 422, field="text")
        found = []
        for cells in reader:
            if any(c.strip() for c in cells):
                found.append((reader.line_num, dict(zip(titles, (unescaped(c.strip()) for c in cells), strict=False))))
    except csv.Error as wrong:
        raise Refused("csv", sentence("people.csv_unreadable", line=reader.line_num, wrong=wrong), 422, field="text") from None
    if len(found) > MOST:
        raise Refused("csv", sentence("people.csv_many", most=MOST), 422, field="text")
    return found


class _List:
    """A list as it is gone through; what it writes is kept or rolled back by whoever reads it."""

    def __init__(self, by: Person, secrets: Mapping[str, tuple[str, str]]) -> None:
        self.by, self.secrets = by, secrets
        self.new: dict[str, GivenPassword] = {}

    def take(self, cells: dict[str, str]) -> str:
        """One row: what it does, in words. Raises Refused where it can't be taken."""
        name = cells.get("sign-in name", "")
        if not USERNAME.fullmatch(name):
            raise Refused("username", sentence("people.username"), 422)
        full_name, did = read_name(cells.get("full name", "")), []
        person = Person.objects.filter(username__iexact=name).first()
        if person is None:
            person = Person(username=name, full_name=full_name, role=read_default(cells.get("role", "")))
            given, person.password = self.secrets.get(name.casefold(), ("", make_password(None)))
            person.expired, person.password_at = True, timezone.now()
            person.save()
            self.new[name.casefold()] = GivenPassword(name, full_name, given)
            did.append(sentence("people.added", name=full_name, username=name, role=SYNONYMS[person.role], more=""))
        else:
            if person.full_name != full_name:
                did.append(sentence("people.renamed", was=person.full_name, name=full_name))
            if cells.get("role") and (role := read_default(cells["role"])) != person.role:
                did.append(sentence("people.role_now", name=full_name, role=SYNONYMS[role], was=SYNONYMS[person.role]))
                person.role = role
            person.full_name = full_name
            person.save()
        for what in did:
            note("people", what, self.by)
        if message := self._at_project(person, cells):
            did.append(message)
        return "; ".join(did) or sentence("people.as_it_is")

    def _at_project(self, person: Person, cells: dict[str, str]) -> str:
        code, word = cells.get("project", ""), cells.get("project role", "").casefold()
        if not code and not word:
            return ""
        project = Project.objects.filter(code=code).first()
        if project is None:
            raise Refused("project", sentence("lookup.no_project", code=code[:100]), 422)
        if word not in Role.values:
            raise Refused("role", sentence("people.project_role", word=word[:40]), 422)
        role = Role(word)
        if Member.objects.filter(project=project, person=person, role=role).exists():
            return ""
        Member.objects.update_or_create(project=project, person=person, defaults={"role": role})
        message = sentence("people.member", name=person.full_name, role=SYNONYMS[role])
        note("access", message, self.by, project.code)
        return f"{project.code}: {message}"


def people_csv(by: Person, text: str, apply: bool) -> CsvOut:
    """What a list does; applied only where it is asked for and every row can be taken."""
    rows = _rows(text)
    told, new = _gone_through(_List(by, {}), rows, keep=False)
    if not apply or any(r.fault for r in told):
        return CsvOut(told, False, [])
    secrets = {}
    for name in new:  # making them is slow on purpose: nobody waits for it
        password = one_time()
        secrets[name] = (password, make_password(password))
    told, new = _gone_through(_List(by, secrets), rows, keep=True)
    applied = not any(r.fault for r in told)
    return CsvOut(told, applied, list(new.values()) if applied else [])


def _gone_through(people: _List, rows: list[tuple[int, dict[str, str]]], keep: bool) -> tuple[list[CsvRow], dict[str, GivenPassword]]:
    """Every row taken in turn, and who is new; rolled back where it is not to be kept, or can't be taken whole."""
    out = []
    with transaction.atomic():
        for line, cells in rows:
            try:
                with transaction.atomic():
                    says, fault = people.take(cells), False
            except Refused as no:
                says, fault = no.detail, True
            out.append(CsvRow(line, cells.get("sign-in name", "")[:150], cells.get("full name", "")[:200], says, fault))
        if not keep or any(r.fault for r in out):
            transaction.set_rollback(True)
    return out, people.new
