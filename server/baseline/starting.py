"""A project that is started from a baseline: driven again, with its links, resources and rates as they were when it was taken."""

import json
import zlib
from typing import Any

from dryledger.book.lists import LISTS
from dryledger.book.plan import Book
from dryledger.calendar.calendar import from_text
from dryledger.errors import BookInvalid, EntryRefused
from dryledger.exchange.book_json import book_from, parse_json
from dryledger.exchange.write import book_document as book_as_document
from dryledger.exchange.write import row_document
from dryledger.options.holding import with_dates
from server.baseline.models import TakenPlan
from server.book.access import Access
from server.book.documents import book_document
from server.book.loading import check_code, load_document
from server.book.models import Baseline, Page, Project
from server.book.results import view_of
from server.shared import exact_json
from server.shared.problems import Refused
from server.shared.words import sentence

Doc = dict[str, Any]
PLAN = ("project", "calendars", "resources", "fields", "wbs", "activities", "links", "assignments", "costs")
"""What of a book is its plan."""
MEASURING = ("measured_against", "compared_with")


def keep_plan(project: Project, baseline: str) -> None:
    """Keep the plan that a baseline was taken of."""
    doc = book_document(project)
    content = zlib.compress(exact_json.encode({key: doc[key] for key in PLAN if key in doc}))
    TakenPlan.objects.update_or_create(project=project, baseline=baseline, defaults={"content": content})


def start_project(access: Access, baseline: str, new_code: str, name: str) -> str:
    """A baseline as a project of its own; gives its code. Raises Refused, EntryRefused."""
    project = access.project
    row = Baseline.objects.filter(project=project, code=baseline).first()
    if row is None:
        raise Refused("not-found", sentence("baseline.no_baseline", baseline=baseline, code=project.code), 404)
    new_code = " ".join(new_code.split())
    if not new_code:
        raise EntryRefused("code", sentence("baseline.project_code_own"))
    try:
        check_code(new_code)
    except BookInvalid as wrong:
        message = wrong.faults[0].message.replace(" (--as CODE)", "")
        raise EntryRefused("code", f"{message[:1].upper()}{message[1:]}.") from None
    doc = _as_book(_plan_of(project, baseline), book_document(project), row, new_code, " ".join(name.split()))
    return load_document(doc, by=access.person, like=project).code


def _plan_of(project: Project, baseline: str) -> Doc:
    """The plan that a baseline was taken of: as it was kept, else as the first page has it that was closed with it, else as it is."""
    kept = TakenPlan.objects.filter(project=project, baseline=baseline).first()
    if kept is not None:
        found: Doc = json.loads(zlib.decompress(kept.content))
        return found
    for page in Page.objects.filter(project=project, state="dry").order_by("order", "id"):
        book = view_of(project, page).results.book
        if baseline in book.baseline_by_code:
            return _document(book)
    return book_document(project)


def _document(book: Book) -> Doc:
    out: Doc = {key: [row_document(LISTS[key], x) for x in getattr(book, key)] for key in PLAN if key != "project"}
    found: Doc = json.loads(exact_json.encode(out))
    return found


def _as_book(plan: Doc, now: Doc, row: Baseline, code: str, name: str) -> Doc:
    frozen = row.content
    was = {a["code"]: a for a in plan.get("activities", [])}
    there = {a["code"] for a in frozen["activities"]}
    old = {c["code"] for c in frozen["calendars"]}
    own = {k: v for k, v in now["project"].items() if k not in MEASURING} | {"code": code, "calendar": frozen["calendar"]}
    known = {w["code"] for w in plan.get("wbs", [])}
    doc: Doc = {
        "format": now["format"],
        "version": now["version"],
        "project": own | {"name": name or f"{own['name']}, {row.name}"},
        "calendars": [*frozen["calendars"], *(c for c in plan.get("calendars", []) if c["code"] not in old)],
        "resources": plan.get("resources", []),
        "fields": plan.get("fields", []),
        "wbs": plan.get("wbs", []),
        "activities": [_activity(a, was.get(a["code"]), known) for a in frozen["activities"]],
        "links": [k for k in plan.get("links", []) if k["from"] in there and k["to"] in there],
        "assignments": [x for x in plan.get("assignments", []) if x["activity"] in there],
        "costs": [x for x in plan.get("costs", []) if x["activity"] in there] + _lost_costs(frozen["activities"], was),
    }
    dates = {a["code"]: (from_text(a["start"]), from_text(a["finish"])) for a in frozen["activities"]}
    made: Doc = json.loads(exact_json.encode(book_as_document(with_dates(book_from(parse_json(exact_json.encode(doc))), dates))))
    return made


def _activity(frozen: Doc, was: Doc | None, elements: set[str]) -> Doc:
    """An activity as it was planned; of one that the plan has not, what the baseline keeps."""
    kept = {k: frozen[k] for k in ("code", "name", "calendar", "duration", "pauses", "value_method") if frozen.get(k) is not None}
    if frozen.get("wbs") in elements:
        kept["wbs"] = frozen["wbs"]
    if was is None:
        return kept
    return {k: v for k, v in was.items() if k not in ("wbs", "pauses", "value_method")} | kept


def _lost_costs(frozen: list[Doc], was: dict[str, Doc]) -> list[Doc]:
    """The budget of activities that the plan has no more, as direct costs."""
    return [
        {"activity": a["code"], "name": x["name"], "amount": x["amount"], "accrual": x.get("accrual", "uniform")}
        for a in frozen
        if a["code"] not in was
        for x in a.get("cost_lines", [])
    ]
