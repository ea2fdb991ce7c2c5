"""Corrections of dry pages: the two lists of a page (made on it, and received from later ones), making one, deleting one."""

from collections.abc import Mapping
from dataclasses import dataclass

from dryledger.calendar.calendar import date_of, from_text
from dryledger.entry.grammar import type_amount
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.posting.corrections import Correction, as_corrected_cost, as_corrected_hours, corrections
from server.book.access import Access
from server.book.lookup import find_page
from server.book.models import Activity, CostEntry, HoursEntry, Page, Resource
from server.book.results import View
from server.book.workspace import workspace_of
from server.journal.steps import Changes, ask, step
from server.journal.writing import after_step
from server.posting.actions import Effect, effect_of, seen_page
from server.posting.costs import find_target
from server.posting.hours import typed_minutes
from server.posting.sheet import Sheet
from server.shared.problems import Refused
from server.shared.words import sentence

LONGEST = 2000


@dataclass
class CorrectionOut:
    """A correction: on which page it stands, which it corrects, by how much (hours, or an amount), and why."""

    id: str
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
    hours, costs = ([], []) if wet is None else _keys(wet)

    def out(c: Correction) -> CorrectionOut:
        kind, code = c.target
        on = code if kind == "activity" else f"WBS {code}"
        key = ""
        if wet is not None and c.page == wet.code:
            rows, letter = (hours, "h") if c.amount is None else (costs, "c")
            key = f"{letter}{rows[c.place]}" if c.place < len(rows) else ""
        person = people.get(c.resource or "", "")
        amount = "" if c.amount is None else f"{c.amount:f}"
        worked, overtime = round(c.worked / 60, 2), round(c.overtime / 60, 2)
        return CorrectionOut(
            key, c.page, c.corrects, on, names.get(on, on), c.resource or "", person, worked, overtime, amount, c.ref or "", c.reason
        )

    found = [out(c) for c in corrections(book)]
    open_page = "" if wet is None else wet.code
    made, received = [c for c in found if c.page == page.code], [c for c in found if c.corrects == page.code]
    return CorrectionsOut(page.code, open_page, access.project.revision, made, received)


def _keys(page: Page) -> tuple[list[int], list[int]]:
    return tuple(list(kind.objects.filter(page=page).values_list("pk", flat=True)) for kind in (HoursEntry, CostEntry))  # type: ignore[return-value]


def correct(access: Access, page_code: str, revision: int, typed: Mapping[str, str]) -> CorrectionEffect:
    """Correct what a dry page said: what it should be, and why. An entry of the open page with the difference, as one step.

    `corrects` is the page, `on` the activity or element; of hours `resource`, `worked` and `overtime`; of a cost `amount` and
    `ref`. Raises ChangeRefused at the field, Stale, Refused.
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
        if typed.get("resource"):
            row: HoursEntry | CostEntry = _hours(access, old, page, typed, reason)
        else:
            row = _cost(access, old, page, typed, reason)
    except EntryRefused as no:
        raise ChangeRefused("entry-refused", no.message, "correction", no.field, no.nearest) from None
    label = sentence("corrections.made", page=page.code, on=typed["on"])
    subject = row.activity.code if row.activity is not None else ""
    with step(access, revision, "post", label, subject) as s:
        s.save(row)
    return _done(access, old, s, was, label, subject)


def _done(access: Access, old: View, s: Changes, was: Sheet, label: str, subject: str) -> CorrectionEffect:
    after_step(access, old.workspace, s.rows)
    effect = effect_of(access, was, old, label, subject)
    return CorrectionEffect(effect, corrections_of(access, old.page.code))


def _hours(access: Access, v: View, page: Page, typed: Mapping[str, str], reason: str) -> HoursEntry:
    activity = Activity.objects.filter(project=access.project, code=typed["on"]).first()
    resource = Resource.objects.filter(project=access.project, code=typed["resource"]).first()
    if activity is None:
        raise EntryRefused("on", sentence("posting.no_activity", code=typed["on"], code_2=access.project.code))
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
    kind: type[HoursEntry] | type[CostEntry] = HoursEntry if key[:1] == "h" else CostEntry
    found = kind.objects.filter(page=old.page, corrects__isnull=False, pk=key[1:] if key[1:].isdigit() else 0).first()
    if found is None:
        raise Refused("not-found", sentence("costs.gone"), 409)
    label = sentence("corrections.deleted", page=found.corrects)
    with step(access, revision, "post", label) as s:
        s.delete(found)
    return _done(access, old, s, was, label, "")
