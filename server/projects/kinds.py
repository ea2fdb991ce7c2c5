"""The kinds of projects that the organisation keeps, each with the own fields that it gives, and letting projects follow."""

from dataclasses import dataclass, field
from typing import Any

from django.db import transaction

from dryledger.book.lists import LISTS
from dryledger.book.numbering import field_code
from dryledger.changes.elsewhere import Beside
from dryledger.changes.kinds import ABSENT
from dryledger.errors import BookInvalid, EntryRefused
from dryledger.exchange.book_json import book_from
from dryledger.exchange.write import row_document
from server.accounts.audit import note
from server.accounts.models import Person, Role
from server.accounts.roles import require
from server.book.access import visible
from server.book.models import Project
from server.book.organisation import Kind
from server.journal.following import follow
from server.shared.plain import floats
from server.shared.problems import Refused, Stale
from server.shared.words import sentence

Doc = dict[str, Any]
MOST_FIELDS = 100
EMPTY: Doc = {
    "format": "dry-ledger-book",
    "version": 1,
    "project": {"code": "K", "name": "K", "currency": "EUR", "start": "2027-01-04T08:00", "calendar": "any"},
    "calendars": [{"code": "any", "name": "Any", "week": {"mon": ["08:00-17:00"]}}],
}


@dataclass
class KindField:
    """An own field that a kind gives: of each activity or of the project (`of`), what it holds, and whether reports show it."""

    name: str
    code: str = ""
    of: str = "activity"
    kind: str = "text"
    options: list[str] = field(default_factory=list)
    formula: str = ""
    in_reports: str = "no"


@dataclass
class ProjectKind:
    """A kind of project, with how many of the projects that one sees are of it."""

    name: str
    revision: int
    fields: list[KindField]
    projects: int


@dataclass
class ProjectKinds:
    """The kinds of projects."""

    kinds: list[ProjectKind]


@dataclass
class KindKept:
    """A kind as it was kept, and how many of the projects that one sees followed, or could not at once."""

    name: str
    revision: int
    followed: int
    left: int


def kinds(person: Person) -> ProjectKinds:
    """The kinds of projects that the organisation keeps."""
    counts: dict[str, int] = {}
    for kind in visible(person).exclude(kind__isnull=True).values_list("kind", flat=True):
        counts[str(kind)] = counts.get(str(kind), 0) + 1
    return ProjectKinds([ProjectKind(k.name, k.revision, [_field(d) for d in k.fields], counts.get(k.name, 0)) for k in Kind.objects.all()])


def _field(doc: Doc) -> KindField:
    known = {key: doc[key] for key in ("name", "code", "of", "kind", "options", "formula", "in_reports") if doc.get(key)}
    return KindField(**known)


def keep(person: Person, name: str, called: str, revision: int, given: list[KindField]) -> KindKept:
    """Keep a kind: begin one (revision 0), or write its fields and what it is `called`. Raises EntryRefused beside what is wrong, Stale."""
    require(person, Role.APPROVER, sentence("projects.change_organisations_lists"))
    called = " ".join(called.split())
    if not called:
        raise EntryRefused("called", sentence("kinds.needs_name"))
    documents = _documents(given)
    with transaction.atomic():
        row = Kind.objects.filter(name=name).first() if revision else Kind(name=called, revision=0)
        if row is None:
            raise Refused("not-found", sentence("kinds.gone", name=name), 404)
        if row.revision != revision:
            raise Stale(row.revision, [])
        if Kind.objects.filter(name=called).exclude(pk=row.pk).exists():
            raise EntryRefused("called", sentence("kinds.name_taken", name=called))
        row.name, row.fields, row.revision = called, documents, revision + 1
        row.save()
    note("organisation", sentence("kinds.kept", name=called), person)
    seen, told = set(visible(person).values_list("pk", flat=True)), []
    beside = Beside(kinds={called: documents})
    for project in Project.objects.filter(kind=name) if revision else ():
        done = follow(person, project, {"do": "kind", "kind": called}, beside)
        told += [done] if project.pk in seen else []
    return KindKept(called, row.revision, told.count(True), told.count(False))


def _documents(given: list[KindField]) -> list[Doc]:
    """The fields of a kind as the register of fields writes them; codes are given by the program. Raises EntryRefused."""
    if len(given) > MOST_FIELDS:
        raise EntryRefused("fields", sentence("kinds.most_fields", most=MOST_FIELDS))
    taken = [f.code for f in given if f.code]
    out: list[Doc] = []
    for i, f in enumerate(given):
        name = " ".join(f.name.split())
        if not name:
            raise EntryRefused(f"fields[{i}].name", sentence("kinds.field_needs_name"))
        code = f.code or field_code(name, taken)
        taken.append(code)
        options = [o for text in f.options if (o := " ".join(text.split()))]
        doc = {"code": code, "name": name, "of": f.of, "kind": f.kind, "options": options, "formula": f.formula.strip()}
        out.append({k: v for k, v in (doc | {"in_reports": f.in_reports}).items() if v and v != ABSENT.get(k)})
    try:
        read = book_from({**EMPTY, "fields": out}).fields
    except BookInvalid as wrong:
        fault = wrong.faults[0]
        raise EntryRefused(fault.path, f"{fault.message[:1].upper()}{fault.message[1:]}.") from None
    return [dict(floats(row_document(LISTS["fields"], x))) for x in read]


def drop(person: Person, name: str) -> ProjectKinds:
    """Take a kind off the organisation's list. Projects of it stay as they are, with their fields."""
    require(person, Role.APPROVER, sentence("projects.change_organisations_lists"))
    row = Kind.objects.filter(name=name).first()
    if row is None:
        raise Refused("not-found", sentence("kinds.gone", name=name), 404)
    row.delete()
    note("organisation", sentence("kinds.dropped", name=name), person)
    return kinds(person)
