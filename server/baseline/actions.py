"""Taking a baseline, choosing which counts, and taking one away that nothing refers to."""

from collections.abc import Sequence
from typing import Any

from django.db import transaction

from dryledger.baseline.referring import referring
from dryledger.baseline.snapshot import snapshot
from dryledger.book.lists import LISTS
from dryledger.book.plan import Book
from dryledger.changes.apply import finished
from dryledger.changes.draft import Draft
from dryledger.errors import EntryRefused
from dryledger.exchange.write import row_document
from server.baseline.starting import keep_plan
from server.book.access import Access
from server.book.models import Baseline, Page, Project
from server.book.results import view_of
from server.book.workspace import workspace_of
from server.journal.steps import ask
from server.journal.writing import write
from server.plan.sheet import PlanSheet, project_sheet
from server.shared.problems import Refused
from server.shared.words import sentence

Doc = dict[str, Any]
MOST_TOLD = 5


def take(access: Access, revision: int, name: str, reason: str, rows: list[str] | None, changes: Sequence[str] = ()) -> str:
    """Freeze the plan as it is scheduled now; gives the baseline's code. Approving takes an approver.

    With chosen rows (names of activities or elements) the others stay as the measured baseline has them. The first
    baseline is also chosen to measure against. The approved `changes` that it carries are built by it.
    """
    ask(access, "baseline")
    project = access.project
    name, reason = named(name, reason)
    w, sheet = workspace_of(project), project_sheet(project)
    results = sheet.results
    if not results.book.activities:
        raise Refused("nothing-there", sentence("baseline.nothing_take_baseline_list"), 422)
    at = results.status if results.status is not None and results.book.baselines else results.book.project.start
    taken = snapshot(results.book, results.schedule, next_code(results.book), name, at, access.person.full_name, reason)
    doc: Doc = row_document(LISTS["baselines"], taken)
    if rows is not None:
        doc = _chosen(project, sheet, doc, set(rows))
    draft = Draft(w.keyed)
    draft.add("baselines", doc)
    known = draft.codes("changes")
    for change in changes:
        if change not in known or draft.record("changes", known[change]).stands != "approved":
            raise Refused("not-approved", sentence("baseline.not_approved", code=change), 422, field="changes")
        draft.put("changes", known[change], {"state": "built", "baseline": taken.code})
    if project.measured_against is None:
        draft.put_project({"measured_against": taken.code})
    with transaction.atomic():
        write(access, revision, "baseline", finished(draft), w, sentence("baseline.took_baseline", code=taken.code, name=name))
        keep_plan(project, taken.code)
    return taken.code


def named(name: str, reason: str) -> tuple[str, str]:
    """The name of a baseline and why it is taken. Raises EntryRefused where either lacks."""
    name, reason = " ".join(name.split()), reason.strip()
    if not name:
        raise EntryRefused("name", sentence("baseline.baseline_name_approved_plan"))
    if not reason:
        raise EntryRefused("reason", sentence("baseline.say_why_plan_approved"))
    return name, reason


def next_code(book: Book) -> str:
    """The code of the next baseline."""
    number = len(book.baselines)
    while f"B{number}" in book.baseline_by_code:
        number += 1
    return f"B{number}"


def drop(access: Access, revision: int, code: str, reason: str) -> None:
    """Take a baseline away that nothing refers to and no page was closed with; the journal keeps it, with the reason. Raises Refused."""
    ask(access, "baseline")
    w, reason = workspace_of(access.project), reason.strip()
    key = w.keyed.key_of("baselines").get(code)
    if key is None:
        raise Refused("not-found", sentence("baseline.no_baseline", baseline=code, code=access.project.code), 404)
    if not reason:
        raise EntryRefused("reason", sentence("baseline.say_why_away"))
    found = referring(w.book, code, sealed_with(access.project, code))
    if found:
        told = "; ".join(sentence(f"baseline.refers_{kind}", code=at) for kind, at in found[:MOST_TOLD])
        raise Refused("in-use", sentence("baseline.referred_to", baseline=code, told=told), 409)
    draft = Draft(w.keyed)
    draft.drop("baselines", key)
    write(access, revision, "baseline", finished(draft), w, sentence("baseline.taken_away", baseline=code, reason=reason))


def sealed_with(project: Project, code: str) -> list[str]:
    """The pages that were closed while a baseline was there."""
    pages = Page.objects.filter(project=project, state="dry").order_by("order", "id")
    return [page.code for page in pages if code in view_of(project, page).results.book.baseline_by_code]


def _chosen(project: Project, sheet: PlanSheet, doc: Doc, names: set[str]) -> Doc:
    """The measured baseline with the chosen activities as they are now."""
    measured = Baseline.objects.filter(project=project, code=project.measured_against).first()
    if measured is None:
        raise Refused("no-baseline", sentence("baseline.no_measured_baseline_change"), 422)
    above = {row.id: row.parent for row in sheet.rows.values()}

    def inside(name: str | None) -> bool:
        while name is not None and name not in names:
            name = above.get(name)
        return name is not None

    chosen = {row.code for row in sheet.rows.values() if row.kind != "wbs" and inside(row.id)}
    if not chosen:
        raise Refused("nothing-there", sentence("baseline.choose_activities_were_changed"), 422)
    old = measured.content
    rows = [a for a in old["activities"] if a["code"] not in chosen] + [a for a in doc["activities"] if a["code"] in chosen]
    order = {a["code"]: i for i, a in enumerate(doc["activities"])}
    rows.sort(key=lambda a: order.get(a["code"], len(order)))
    calendars = {c["code"]: c for c in old["calendars"]}
    for c in doc["calendars"]:
        calendars.setdefault(c["code"], c)
    return doc | {"calendar": old["calendar"], "calendars": list(calendars.values()), "activities": rows}


def choose(access: Access, revision: int, measured: str | None, drawn: list[str]) -> None:
    """Say which baseline performance is measured against, and which others are drawn."""
    ask(access, "measure")
    project, w = access.project, workspace_of(access.project)
    known = set(Baseline.objects.filter(project=project).values_list("code", flat=True))
    for name in (*([measured] if measured else []), *drawn):
        if name not in known:
            raise Refused("not-found", sentence("baseline.no_baseline_named", name=name, code=project.code), 404)
    draft = Draft(w.keyed)
    draft.put_project({"measured_against": measured, "compared_with": drawn or None})
    write(access, revision, "measure", finished(draft), w, sentence("baseline.measured_against", value=measured or "nothing"))
