"""New projects: from nothing, from a template, as a copy of another; and what helps to begin one."""

import json
from dataclasses import dataclass
from datetime import date, timedelta
from functools import partial
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import transaction

from dryledger.book.currencies import DIGITS
from dryledger.book.numbering import resource_code
from dryledger.calendar.calendar import from_text, to_text
from dryledger.changes.apply import one
from dryledger.changes.elsewhere import OutsideContext
from dryledger.entry.grammar import type_date
from dryledger.errors import EntryRefused
from dryledger.exchange.book_json import book_from
from server.accounts.models import Person
from server.book.access import access
from server.book.documents import book_document
from server.book.loading import UNSUITED, load_document
from server.book.models import Project, Standing
from server.book.organisation import Choice, Kind, five_day_week, kinds_by_name
from server.book.outside import with_current_externals
from server.journal.following import follow
from server.shared.words import sentence

Doc = dict[str, Any]
FOLDER: Path = settings.ROOT / "server" / "projects" / "templates"
WEEKDAY = timedelta(days=1)


@dataclass
class Template:
    """A project to begin from."""

    code: str
    name: str
    description: str
    activities: int


@dataclass
class Country:
    """A country of the holiday library."""

    code: str
    name: str


@dataclass
class TemplatesOut:
    """Where a new project can begin."""

    templates: list[Template]
    states: list[str]
    countries: list[Country]
    kinds: list[str]
    """The kinds of projects that the organisation keeps."""


@dataclass
class NewProject:
    """A new project. `source` is nothing, template or copy; `of` the template's or project's code."""

    name: str
    code: str = ""
    source: str = "nothing"
    of: str = ""
    progress: bool = False
    start: str = ""
    currency: str = ""
    kind: str = ""
    what_if: bool = False
    """Of a copy: it is in no sum and books nobody's time until it is made real."""


@dataclass
class Created:
    """The project that was made."""

    code: str


def _template_files() -> dict[str, Doc]:
    return {f.stem: json.loads(f.read_text()) for f in sorted(FOLDER.glob("*.json"))}


def templates() -> TemplatesOut:
    """The templates that ship, the organisation's states, and the countries whose holidays are known."""
    found = []
    for code, d in _template_files().items():
        found.append(Template(code, d["project"]["name"], d["project"].get("description", ""), len(d["activities"])))
    return TemplatesOut(found, [c.word for c in Choice.objects.filter(list="state")], _countries(), [k.name for k in Kind.objects.all()])


def _countries() -> list[Country]:
    import holidays as holiday_library  # read when somebody asks for countries

    names = {code: kind for kind, code, *_ in holiday_library.registry.COUNTRIES.values()}
    spaced = {code: "".join(f" {c}" if c.isupper() else c for c in kind).strip() for code, kind in names.items()}
    return sorted(
        (Country(code, spaced[code]) for code in holiday_library.list_supported_countries() if code in spaced), key=lambda c: c.name
    )


def create(person: Person, new: NewProject) -> Created:
    """Make a project. Raises EntryRefused at the field."""
    name = " ".join(new.name.split())
    if not name:
        raise EntryRefused("name", sentence("projects.project_name"))
    code = " ".join(new.code.split()) or resource_code(name, set(Project.objects.values_list("code", flat=True)))
    if any(x in code for x in UNSUITED) or len(code) > 40:
        raise EntryRefused("code", sentence("projects.code_most_characters_none"))
    if Project.objects.filter(code=code).exists():
        raise EntryRefused("code", sentence("projects.already_project_another_code", code=code))
    doc = _begun(person, new)
    doc["project"] |= {"name": name, "code": code}
    if new.currency.strip():
        doc["project"]["currency"] = _currency(new.currency)
    if new.start.strip():
        _start_on(doc, new.start)
    like = access(person, new.of).project if new.source == "copy" else None
    kinds = kinds_by_name([new.kind]) if new.kind else {}
    if new.kind and new.kind not in kinds:
        raise EntryRefused("kind", sentence("kinds.gone", name=new.kind))
    made = load_document(doc, by=person, like=like)
    if kinds:
        follow(person, made, partial(one, verb={"do": "kind", "kind": new.kind}), beside=OutsideContext(kinds=kinds))
    if new.what_if and new.source == "copy":
        Project.objects.filter(pk=made.pk).update(standing=Standing.WHAT_IF, copy_of=new.of)
    return Created(made.code)


def _currency(text: str) -> str:
    bare = text.strip().upper()
    if bare not in DIGITS:
        raise EntryRefused("currency", sentence("projects.currency_three_letters_eur"))
    return bare


def _begun(person: Person, new: NewProject) -> Doc:
    if new.source == "template":
        found = _template_files().get(new.of)
        if found is None:
            raise EntryRefused("of", sentence("projects.choose_one_templates"))
        found["project"].pop("description", None)
        found["project"].setdefault("actuals", "progress")
        return found
    if new.source == "copy":
        return _copy_of(access(person, new.of).project, new.progress)
    if not new.start.strip():
        raise EntryRefused("start", sentence("projects.date_which_project_starts"))
    if not new.currency.strip():
        raise EntryRefused("currency", sentence("projects.currency_three_letters_eur"))
    calendar = five_day_week()
    return {
        "format": "dry-ledger-book",
        "version": 1,
        "project": {"currency": "EUR", "start": "2027-01-04T08:00", "calendar": calendar["code"], "actuals": "progress"},
        "calendars": [calendar],
    }


def _copy_of(project: Project, progress: bool) -> Doc:
    return copied(with_current_externals(project, book_document(project)), progress)


def copied(doc: Doc, progress: bool) -> Doc:
    """A book as another project begins with it; without its progress also without what rests on that: baselines, promises,
    options, answers to checks, orders, changes and levelled dates.
    """
    out: Doc = json.loads(json.dumps(doc))
    if not progress:
        for key in ("periods", "baselines", "promises", "options", "answers", "orders", "changes"):
            out.pop(key, None)
        for a in out.get("activities", []):
            a.pop("levelled", None)
        for key in ("measured_against", "compared_with"):
            out["project"].pop(key, None)
    return out


def _start_on(doc: Doc, text: str) -> None:
    """Begin a book on another date: all dates of the plan move with it by whole days."""
    project = {"code": "x", "name": "x"} | doc["project"]
    book = book_from(doc | {"project": project})
    old = book.project.start
    at = type_date(text, "start", old - old % 1440, book.axis, False)
    assert at is not None
    day_before, day_now = old // 1440, at // 1440
    shift = (day_now - day_before) * 1440

    def moved(t: str) -> str:
        if len(t) == 10:
            return (date.fromisoformat(t) + WEEKDAY * (day_now - day_before)).isoformat()
        return to_text(from_text(t) + shift)

    if doc.get("periods") or doc.get("baselines"):
        raise EntryRefused("start", sentence("projects.copy_progress_keeps_dates"))
    doc["project"]["start"] = to_text(at)
    for key in ("deadline", "imposed_finish"):
        if doc["project"].get(key):
            doc["project"][key] = moved(doc["project"][key])
    for a in doc.get("activities", []):
        for key in ("start", "finish", "deadline"):
            if a.get(key):
                a[key] = moved(a[key])
        if (a.get("constraint") or {}).get("at"):
            a["constraint"]["at"] = moved(a["constraint"]["at"])
        for p in a.get("pauses", []):
            p["from"], p["to"] = moved(p["from"]), moved(p["to"])


def keep_states(states: list[str]) -> list[str]:
    """Keep the organisation's list of life-cycle states."""
    words = list(dict.fromkeys(w for s in states if (w := " ".join(s.split()))))
    with transaction.atomic():
        Choice.objects.filter(list="state").delete()
        Choice.objects.bulk_create([Choice(list="state", word=w, order=i) for i, w in enumerate(words)])
    return words
