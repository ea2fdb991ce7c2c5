"""Corrections of dry pages: the two lists of a page (made on it, and received from later ones), making one, deleting one."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from dryledger.book.pages import CostEntry, HoursEntry, Statement
from dryledger.calendar.calendar import date_of, from_text
from dryledger.changes.draft import Draft
from dryledger.changes.entering import state
from dryledger.entry.grammar import type_amount
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.posting.corrections import Correction, as_corrected_cost, as_corrected_hours, corrections
from dryledger.posting.entries import describe
from dryledger.posting.hours import type_hours
from dryledger.posting.typed import read_statement
from server.book.access import Access
from server.book.lookup import find_page
from server.book.models import PAGE_LISTS, Page
from server.book.results import View
from server.book.workspace import workspace_of
from server.journal.steps import ask
from server.posting.actions import Effect, effect_of, enter, seen_page
from server.posting.costs import find_target
from server.posting.sheet import Sheet, before
from server.shared.problems import Refused
from server.shared.words import sentence

LONGEST = 2000
STATED = ("actual_start", "actual_finish", "percent", "remaining", "units_done", "milestones_reached")
PARTS = {"statement": "statements", "hours": "hours", "cost": "costs"}
ROWS: dict[str, Any] = {kind: PAGE_LISTS[part] for kind, part in PARTS.items()}


@dataclass
class CorrectionOut:
    """A correction: on which page it stands, which it corrects, by how much (hours, or an amount), and why.

    Of a statement `was` is what the corrected page says and `now` what it should be, each in a few words.
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
    was: str
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
            "" if c.was is None else describe(c.was),
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
    page = find_page(access.project, typed["corrects"])
    if page.state != "dry":
        raise Refused("page-open", sentence("corrections.page_open", page=page.code), 409)
    reason = typed.get("reason", "").strip()
    try:
        if not reason:
            raise EntryRefused("reason", sentence("corrections.reason_needed"))
        if len(reason) > LONGEST:
            raise EntryRefused("reason", sentence("checks.long_reason", most=LONGEST, count=len(reason)))
        row = _entry(old, page, typed, reason)
    except EntryRefused as no:
        raise ChangeRefused("entry-refused", no.message, "correction", no.field, no.nearest) from None
    label = sentence("corrections.made", page=page.code, on=typed["on"])
    subject = typed["on"] if typed["on"] in old.book.activity_by_code else ""

    def changes(draft: Draft, key: int) -> None:
        if isinstance(row, Statement):
            state(draft, key, [row])
        else:
            draft.enter(key, "hours" if isinstance(row, HoursEntry) else "costs", [(None, row)])

    enter(access, old, revision, "post", changes, label, subject)
    return _done(access, old, was, label, subject)


def _entry(v: View, page: Page, typed: Mapping[str, str], reason: str) -> Statement | HoursEntry | CostEntry:
    """The entry of the open page that a correction is. Raises EntryRefused at the field."""
    if typed.get("resource"):
        return _hours(v, page, typed, reason)
    if "amount" in typed:
        return _cost(v, page, typed, reason)
    return _statement(v, page, typed, reason)


def _done(access: Access, old: View, was: Sheet, label: str, subject: str) -> CorrectionEffect:
    effect = effect_of(access, was, old, label, subject)
    return CorrectionEffect(effect, corrections_of(access, old.page.code))


def _activity(v: View, code: str) -> str:
    if code not in v.book.activity_by_code:
        raise EntryRefused("on", sentence("posting.no_activity", code=code[:60], code_2=v.project.code))
    return code


def _statement(v: View, page: Page, typed: Mapping[str, str], reason: str) -> Statement:
    """What stands of an activity with the cells that should be others."""
    code = _activity(v, typed["on"])
    cells = {k: typed[k] for k in STATED if k in typed}
    stands = v.results.at.latest.get(code) or Statement(code)
    own = any(s.activity == code for s in v.results.at.periods[-1].statements)
    s = read_statement(v.results, before(v), stands if own else replace(stands, note=None), cells).statement
    if replace(s, note=stands.note) == stands:
        raise EntryRefused(next(iter(cells), "percent"), sentence("corrections.nothing_changes", page=page.code))
    return replace(s, corrects=page.code, reason=reason)


def _hours(v: View, page: Page, typed: Mapping[str, str], reason: str) -> HoursEntry:
    activity, resource = _activity(v, typed["on"]), v.book.resource_by_code.get(typed["resource"])
    if resource is None or resource.kind == "material":
        raise EntryRefused("resource", sentence("hours.nobody", code=typed["resource"][:60]))
    kept = dict(zip(("worked", "overtime"), as_corrected_hours(v.book, page.code, activity, resource.code), strict=True))
    change, calendar = {}, v.book.calendar_by_code[v.book.activity_by_code[activity].calendar]
    for key, minutes in kept.items():
        wanted = type_hours(typed[key], calendar, key) if key in typed else minutes
        change[key] = (wanted or 0) - minutes
    if not any(change.values()):
        raise EntryRefused("worked", sentence("corrections.nothing_changes", page=page.code))
    return HoursEntry(activity, resource.code, change["worked"], change["overtime"], corrects=page.code, reason=reason)


def _cost(v: View, page: Page, typed: Mapping[str, str], reason: str) -> CostEntry:
    target = find_target(v.book, typed["on"])
    ref = typed.get("ref", "").strip() or None
    amount = type_amount(typed.get("amount", ""), v.results.valuation.unit, "amount")
    if amount is None:
        raise EntryRefused("amount", sentence("costs.amount_needed"))
    change = amount - as_corrected_cost(v.book, page.code, target, ref)
    if not change:
        raise EntryRefused("amount", sentence("corrections.nothing_changes", page=page.code))
    activity, element = (target[1], None) if target[0] == "activity" else (None, target[1])
    day = date_of(from_text(v.page.status) - 1)
    return CostEntry(day, change, "correction", activity, element, ref, page.code, reason)


def take_away(access: Access, page_code: str, revision: int, key: str) -> CorrectionEffect:
    """Delete a correction of the open page, as one step."""
    ask(access, "post")
    old, was = seen_page(access, page_code, revision)
    kind = next((k for k in ROWS if key.startswith(k) and key[len(k) :].isdigit()), None)
    keys = [] if kind is None else list(ROWS[kind].objects.filter(page=old.page).values_list("pk", "corrects"))
    place = next((i for i, (pk, corrects) in enumerate(keys) if corrects is not None and f"{kind}{pk}" == key), None)
    if kind is None or place is None:
        raise Refused("not-found", sentence("costs.gone"), 409)
    label = sentence("corrections.deleted", page=keys[place][1])
    enter(access, old, revision, "post", lambda draft, page: _take(draft, page, PARTS[kind], place), label)
    return _done(access, old, was, label, "")


def _take(draft: Draft, page: int, part: str, place: int) -> None:
    draft.enter(page, part, [(place, None)])
