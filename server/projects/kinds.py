"""The kinds of projects that the organisation keeps, each with the own fields that it gives, and letting projects follow."""

from dataclasses import dataclass, field
from typing import Any

from django.db import transaction

from dryledger.book.formulas import check_formula
from dryledger.book.lists import LISTS
from dryledger.book.numbering import field_code
from dryledger.book.registers import FIELD_USUAL
from dryledger.changes.elsewhere import OutsideContext
from dryledger.errors import BookInvalid, EntryRefused
from dryledger.exchange.write import row_document
from server.accounts.audit import note
from server.accounts.models import Person
from server.book.access import visible
from server.book.models import Project
from server.book.organisation import Kind, alone, five_day_week
from server.journal.following import follow_all
from server.shared.json_values import floats
from server.shared.problems import Refused, Stale
from server.shared.words import sentence

Doc = dict[str, Any]
MOST_FIELDS = 100


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
    of_it = Project.objects.filter(kind=name) if revision else ()
    done = follow_all(person, [(p, {"do": "kind", "kind": called}) for p in of_it], OutsideContext(kinds={called: documents}))
    return KindKept(called, row.revision, *done)


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
        if f.formula.strip():
            try:
                check_formula(f.formula)
            except EntryRefused as wrong:
                raise EntryRefused(f"fields[{i}].formula", wrong.message) from None
        options = [o for text in f.options if (o := " ".join(text.split()))]
        doc = {"code": code, "name": name, "of": f.of, "kind": f.kind, "options": options, "formula": f.formula.strip()}
        out.append({k: v for k, v in (doc | {"in_reports": f.in_reports}).items() if v and v != FIELD_USUAL.get(k)})
    try:
        read = alone(five_day_week(), fields=out).fields
    except BookInvalid as wrong:
        fault = wrong.faults[0]
        raise EntryRefused(fault.path, f"{fault.message[:1].upper()}{fault.message[1:]}.") from None
    return [dict(floats(row_document(LISTS["fields"], x))) for x in read]


def drop(person: Person, name: str) -> ProjectKinds:
    """Take a kind off the organisation's list. Projects of it stay as they are, with their fields."""
    row = Kind.objects.filter(name=name).first()
    if row is None:
        raise Refused("not-found", sentence("kinds.gone", name=name), 404)
    row.delete()
    note("organisation", sentence("kinds.dropped", name=name), person)
    return kinds(person)
