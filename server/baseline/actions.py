"""Taking a baseline, choosing which counts, and bringing one back as a project of its own."""

from collections.abc import Sequence
from typing import Any

from dryledger.baseline.snapshot import snapshot
from dryledger.book.lists import LISTS
from dryledger.changes.apply import finished
from dryledger.changes.draft import Draft
from dryledger.errors import BookInvalid, EntryRefused
from dryledger.exchange.write import row_document
from server.book.access import Access
from server.book.documents import book_document
from server.book.loading import check_code, load_document
from server.book.models import Baseline, Project
from server.book.workspace import workspace_of
from server.journal.steps import ask
from server.journal.writing import write
from server.plan.sheet import PlanSheet, project_sheet
from server.shared.problems import Refused
from server.shared.words import sentence

Doc = dict[str, Any]


def take(access: Access, revision: int, name: str, reason: str, rows: list[str] | None, changes: Sequence[str] = ()) -> str:
    """Freeze the plan as it is scheduled now; gives the baseline's code. Approving takes an approver.

    With chosen rows (names of activities or elements) the others stay as the measured baseline has them. The first
    baseline is also chosen to measure against. The approved `changes` that it carries are built by it.
    """
    ask(access, "baseline")
    project = access.project
    name, reason = " ".join(name.split()), reason.strip()
    if not name:
        raise EntryRefused("name", sentence("baseline.baseline_name_approved_plan"))
    if not reason:
        raise EntryRefused("reason", sentence("baseline.say_why_plan_approved"))
    w, sheet = workspace_of(project), project_sheet(project)
    results = sheet.results
    if not results.book.activities:
        raise Refused("nothing-there", sentence("baseline.nothing_take_baseline_list"), 422)
    number = len(results.book.baselines)
    while any(b.code == f"B{number}" for b in results.book.baselines):
        number += 1
    at = results.status if results.status is not None and results.book.baselines else results.book.project.start
    taken = snapshot(results.book, results.schedule, f"B{number}", name, at, access.person.full_name, reason)
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
    write(access, revision, "baseline", finished(draft), w, sentence("baseline.took_baseline", code=taken.code, name=name))
    return taken.code


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


def bring_back(access: Access, baseline: str, new_code: str, name: str) -> str:
    """A baseline as a project of its own: its activities pinned to its dates, its cost lines as direct costs."""
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
    return load_document(_as_book(book_document(project), row, new_code, " ".join(name.split())), by=access.person, like=project).code


def _as_book(doc: Doc, row: Baseline, code: str, name: str) -> Doc:
    frozen = row.content
    there = {a["code"] for a in frozen["activities"]}
    old = {c["code"] for c in frozen["calendars"]}
    activities, costs = [], []
    for a in frozen["activities"]:
        kept = {k: a[k] for k in ("code", "name", "wbs", "calendar", "duration", "pauses", "value_method") if a.get(k)}
        lines = a.get("cost_lines", [])
        if lines and lines[0].get("profile"):
            kept["profile"] = lines[0]["profile"]
        activities.append(kept | {"mode": "fixed", "start": a["start"], "finish": a["finish"]})
        costs += [{"activity": a["code"], "name": x["name"], "amount": x["amount"], "accrual": x.get("accrual", "uniform")} for x in lines]
    own = {k: v for k, v in doc["project"].items() if k not in ("measured_against", "compared_with")}
    own |= {"code": code, "name": name or f"{own['name']}, {row.name}", "calendar": frozen["calendar"]}
    return {
        "format": doc["format"],
        "version": doc["version"],
        "project": own,
        "calendars": [*frozen["calendars"], *(c for c in doc.get("calendars", []) if c["code"] not in old)],
        "resources": doc.get("resources", []),
        "fields": doc.get("fields", []),
        "wbs": doc.get("wbs", []),
        "activities": activities,
        "links": [k for k in doc.get("links", []) if k["from"] in there and k["to"] in there],
        "costs": costs,
    }
