"""Corrections of dry pages: the two lists of a page (made on it, and received from later ones), making one, deleting one."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from dryledger.book.pages import Statement as CoreStatement
from dryledger.calendar.calendar import date_of, from_text
from dryledger.entry.grammar import type_amount
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.posting.corrections import Correction, as_corrected_cost, as_corrected_hours, corrections
from dryledger.posting.entries import describe
from server.book.access import Access
from server.book.lookup import find_page
from server.book.models import Activity, CostEntry, HoursEntry, Page, Resource, Statement
from server.book.results import View
from server.book.workspace import Workspace, workspace_of
from server.journal.steps import Changes, ask, step
from server.journal.writing import after_step
from server.posting.actions import Effect, effect_of, read_statement, seen_page, write_statement
from server.posting.costs import find_target
from server.posting.hours import typed_minutes
from server.posting.sheet import Sheet, before
from server.shared.problems import Refused
from server.shared.words import sentence

LONGEST = 2000
STATED = ("actual_start", "actual_finish", "percent", "remaining", "units_done", "milestones_reached")
ROWS: dict[str, type[Statement] | type[HoursEntry] | type[CostEntry]] = {"statement": Statement, "hours": HoursEntry, "cost": CostEntry}


@dataclass
class CorrectionOut:
    """A correction: on which page it stands, which it corrects, by how much (hours, or an amount), and why.

    Of a statement `said` is what the corrected page says and `now` what it should be, each in a few words.
    """

    id: str
    kind: str
    page: str
    corrects: str
    on: str
    name: str
    resource: str
    person: str
    worked: float
    overtime: float
    amount: str
    ref: str
    said: str
    now: str
    reason: str


@dataclass
class CorrectionsOut:
    """The corrections that a page makes of earlier ones, and those that later pages make of it."""

    page: str
    open_page: str
    revision: int
    made: list[CorrectionOut]
    received: list[CorrectionOut]


@dataclass
class CorrectionEffect:
    """What a correction did, and the corrections of the open page now."""

    effect: Effect
    corrections: CorrectionsOut


def corrections_of(access: Access, page_code: str) -> CorrectionsOut:
    """Both lists of a page, as the book stands now."""
    page, w = find_page(access.project, page_code), workspace_of(access.project)
    book = w.book
    names = {a.code: a.name for a in book.activities} | {f"WBS {x.code}": x.name for x in book.wbs}
    people = {x.code: x.name for x in book.resources}
    wet = Page.objects.filter(project=access.project, state="wet").last()
    keys = {} if wet is None else {kind: list(rows.objects.filter(page=wet).values_list("pk", flat=True)) for kind, rows in ROWS.items()}

    def out(c: Correction) -> CorrectionOut:
        on = c.target[1] if c.target[0] == "activity" else f"WBS {c.target[1]}"
        here = keys[c.kind] if wet is not None and c.page == wet.code else []
        return CorrectionOut(
            f"{c.kind}{here[c.place]}" if c.place < len(here) else "",
            c.kind,
            c.page,
            c.corrects,
            on,
            names.get(on, on),
            c.resource or "",
            people.get(c.resource or "", ""),
            round(c.worked / 60, 2),
            round(c.overtime / 60, 2),
            f"{c.amount:f}" if c.kind == "cost" else "",
            c.ref or "",
            "" if c.said is None else describe(c.said),
            "" if c.now is None else describe(c.now),
            c.reason,
        )

    found = [out(c) for c in corrections(book)]
    open_page = "" if wet is None else wet.code
    made, received = [c for c in found if c.page == page.code], [c for c in found if c.corrects == page.code]
    return CorrectionsOut(page.code, open_page, access.project.revision, made, received)


def correct(access: Access, page_code: str, revision: int, typed: Mapping[str, str]) -> CorrectionEffect:
    """Correct what a dry page said: what it should be, and why. An entry of the open page with the difference, as one step.

    `corrects` is the page, `on` the activity or element; of hours `resource`, `worked` and `overtime`; of a cost `amount` and
    `ref`; else the cells of the statement that should be others. Raises ChangeRefused at the field, Stale, Refused.
    """
    ask(access, "post")
    old, was = seen_page(access, page_code, revision)
    w = old.workspace
    page = find_page(access.project, typed["corrects"])
    if page.state != "dry":
        raise Refused("page-open", sentence("corrections.page_open", page=page.code), 409)
    reason = typed.get("reason", "").strip()
    try:
        if not reason:
            raise EntryRefused("reason", sentence("corrections.reason_needed"))
        if len(reason) > LONGEST:
            raise EntryRefused("reason", sentence("checks.long_reason", most=LONGEST, count=len(reason)))
        row = _entry(access, old, page, typed, reason)
    except EntryRefused as no:
        raise ChangeRefused("entry-refused", no.message, "correction", no.field, no.nearest) from None
    label = sentence("corrections.made", page=page.code, on=typed["on"])
    subject = typed["on"] if typed["on"] in old.book.activity_by_code else ""
    with step(access, revision, "post", label, subject) as s:
        if isinstance(row, CoreStatement):
            write_statement(s, old.page, Activity.objects.get(project=access.project, code=row.activity), row)
        else:
            s.save(row)
    return _done(access, old, w, s, was, label, subject)


def _entry(access: Access, v: View, page: Page, typed: Mapping[str, str], reason: str) -> CoreStatement | HoursEntry | CostEntry:
    """The entry of the open page that a correction is. Raises EntryRefused at the field."""
    if typed.get("resource"):
        return _hours(access, v, page, typed, reason)
    if "amount" in typed:
        return _cost(access, v, page, typed, reason)
    return _statement(access, v, page, typed, reason)


def _done(access: Access, old: View, w: Workspace, s: Changes, was: Sheet, label: str, subject: str) -> CorrectionEffect:
    after_step(access, w, s.rows)
    effect = effect_of(access, was, old, label, subject)
    return CorrectionEffect(effect, corrections_of(access, old.page.code))


def _activity(access: Access, code: str) -> Activity:
    found = Activity.objects.filter(project=access.project, code=code).first()
    if found is None:
        raise EntryRefused("on", sentence("posting.no_activity", code=code[:60], code_2=access.project.code))
    return found


def _statement(access: Access, v: View, page: Page, typed: Mapping[str, str], reason: str) -> CoreStatement:
    """What stands of an activity with the cells that should be others."""
    code = _activity(access, typed["on"]).code
    cells = {k: typed[k] for k in STATED if k in typed}
    stands = v.results.at.latest.get(code) or CoreStatement(code)
    own = any(s.activity == code for s in v.results.at.periods[-1].statements)
    s = read_statement(v, before(v), stands if own else replace(stands, note=None), cells).statement
    if replace(s, note=stands.note) == stands:
        raise EntryRefused(next(iter(cells), "percent"), sentence("corrections.nothing_changes", page=page.code))
    return replace(s, corrects=page.code, reason=reason)


def _hours(access: Access, v: View, page: Page, typed: Mapping[str, str], reason: str) -> HoursEntry:
    activity = _activity(access, typed["on"])
    resource = Resource.objects.filter(project=access.project, code=typed["resource"]).first()
    if resource is None or v.book.resource_by_code[resource.code].kind == "material":
        raise EntryRefused("resource", sentence("hours.nobody", code=typed["resource"][:60]))
    said = dict(zip(("worked", "overtime"), as_corrected_hours(v.book, page.code, activity.code, resource.code), strict=True))
    change = {}
    for key, minutes in said.items():
        wanted = typed_minutes(v, activity.code, typed[key], key) if key in typed else minutes
        change[key] = (wanted or 0) - minutes
    if not any(change.values()):
        raise EntryRefused("worked", sentence("corrections.nothing_changes", page=page.code))
    order = HoursEntry.objects.filter(page=v.page).count()
    spans = {k: f"{m}min" if m else None for k, m in change.items()}
    return HoursEntry(
        project_id=v.page.project_id,
        page=v.page,
        activity=activity,
        resource=resource,
        order=order,
        corrects=page.code,
        reason=reason,
        **spans,
    )


def _cost(access: Access, v: View, page: Page, typed: Mapping[str, str], reason: str) -> CostEntry:
    activity, element = find_target(access, typed["on"])
    ref = typed.get("ref", "").strip() or None
    target = ("activity", activity.code) if activity is not None else ("wbs", element.code if element else "")
    amount = type_amount(typed.get("amount", ""), v.results.valuation.unit, "amount")
    if amount is None:
        raise EntryRefused("amount", sentence("costs.amount_needed"))
    change = amount - as_corrected_cost(v.book, page.code, target, ref)
    if not change:
        raise EntryRefused("amount", sentence("corrections.nothing_changes", page=page.code))
    return CostEntry(
        project_id=v.page.project_id,
        page=v.page,
        activity=activity,
        wbs=element,
        order=CostEntry.objects.filter(page=v.page).count(),
        date=date_of(from_text(v.page.status) - 1).isoformat(),
        amount=f"{change:f}",
        source="correction",
        ref=ref,
        corrects=page.code,
        reason=reason,
    )


def take_away(access: Access, page_code: str, revision: int, key: str) -> CorrectionEffect:
    """Delete a correction of the open page, as one step."""
    ask(access, "post")
    old, was = seen_page(access, page_code, revision)
    w = old.workspace
    kind = next((k for k in ROWS if key.startswith(k) and key[len(k) :].isdigit()), None)
    found = None if kind is None else ROWS[kind].objects.filter(page=old.page, corrects__isnull=False, pk=key[len(kind) :]).first()
    if found is None:
        raise Refused("not-found", sentence("costs.gone"), 409)
    label = sentence("corrections.deleted", page=found.corrects)
    with step(access, revision, "post", label) as s:
        s.delete(found)
    return _done(access, old, w, s, was, label, "")
