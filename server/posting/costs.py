"""The costs lens of a page: its entries as a ledger, open accruals, totals by source, and writing them as one step."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import Decimal

from dryledger.budget.actual import Target
from dryledger.calendar.calendar import date_of, midnight
from dryledger.entry.grammar import said_day, type_amount, type_date
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.posting.costs import met_accrual, open_accruals, source_totals
from server.book.access import Access
from server.book.models import Activity, CostEntry, WbsElement
from server.book.results import View
from server.journal.steps import ask, step
from server.journal.writing import after_step
from server.posting.actions import Effect, effect_of, seen_page
from server.shared.problems import Refused
from server.shared.words import sentence

SOURCES = ("invoice", "accrual", "feed", "correction")
LONGEST_REF, LONGEST_TEXT = 300, 4000


@dataclass
class CostLine:
    """One cost entry of the page."""

    id: str
    date: str
    on: str
    name: str
    amount: str
    source: str
    ref: str
    corrects: str
    text: str


@dataclass
class AccrualLine:
    """An accrual that is still open, with its age in days at the status date."""

    on: str
    name: str
    ref: str
    page: str
    date: str
    amount: str
    days: int


@dataclass
class SourceLine:
    """Actual cost of one source, on this page and to date."""

    source: str
    page: str
    to_date: str


@dataclass
class CostsSheet:
    """The costs of a page."""

    page: str
    status: str
    state: str
    revision: int
    currency: str
    rows: list[CostLine] = field(default_factory=list)
    accruals: list[AccrualLine] = field(default_factory=list)


@dataclass
class CostTotals:
    """Actual cost by source of an activity, of a WBS element with all below it, or (`on` and `name` empty) of the project."""

    page: str
    on: str
    name: str
    totals: list[SourceLine]


@dataclass
class CostsEffect:
    """What writing costs did, and the sheet as it is now."""

    effect: Effect
    sheet: CostsSheet


def costs_sheet(v: View) -> CostsSheet:
    """The ledger of a page."""
    book, unit = v.book, v.results.valuation.unit
    names = {a.code: a.name for a in book.activities} | {f"WBS {x.code}": x.name for x in book.wbs}
    out = CostsSheet(v.page.code, v.page.status, v.page.state, v.project.revision, book.project.currency)
    period = v.results.at.periods[-1]
    keys = list(CostEntry.objects.filter(page=v.page).values_list("pk", flat=True)) if v.page.state == "wet" else []
    for i, c in enumerate(period.costs):
        on = c.activity if c.activity is not None else f"WBS {c.wbs}"
        name = names.get(on, "")
        key = f"e{keys[i]}" if i < len(keys) else f"n{i}"
        out.rows.append(CostLine(key, c.date.isoformat(), on, name, f"{c.amount:f}", c.source, c.ref or "", c.corrects or "", c.text or ""))
    for a in open_accruals(v.results):
        on = a.target[1] if a.target[0] == "activity" else f"WBS {a.target[1]}"
        day, amount = date_of(a.at).isoformat(), f"{a.amount.quantize(unit):f}"
        out.accruals.append(AccrualLine(on, names.get(on, ""), a.ref or "", a.page, day, amount, a.days))
    return out


def cost_totals(access: Access, page_code: str, typed: str) -> CostTotals:
    """Totals by source of what was typed: an activity, an element, or nothing: all. Raises EntryRefused."""
    v = access.view(page_code)
    unit, target, on, name = v.results.valuation.unit, None, "", ""
    if typed.strip():
        activity, element = find_target(access, typed, "of")
        found = activity or element
        assert found is not None
        target, name = ("wbs" if activity is None else "activity", found.code), found.name
        on = f"WBS {found.code}" if activity is None else found.code
    lines = source_totals(v.results, target)
    return CostTotals(v.page.code, on, name, [SourceLine(t.source, *(f"{x.quantize(unit):f}" for x in (t.page, t.to_date))) for t in lines])


def find_target(access: Access, typed: str, at: str = "on") -> tuple[Activity | None, WbsElement | None]:
    """The activity, or the element (“WBS 2.1”), that a cost is on. Raises EntryRefused."""
    bare = typed.strip()
    activity = Activity.objects.filter(project=access.project, code__iexact=bare.split(" ")[0]).first() if bare else None
    if activity is not None and not bare.lower().startswith("wbs "):
        return activity, None
    code = bare[4:].strip() if bare.lower().startswith("wbs ") else bare
    element = WbsElement.objects.filter(project=access.project, code__iexact=code).first()
    if element is None:
        raise EntryRefused(at, sentence("costs.nothing_there", value=bare[:60]))
    return None, element


def _read(access: Access, v: View, typed: Mapping[str, str], row: CostEntry) -> None:
    """What was typed into a row; of a new one all that is missing is filled in. Raises EntryRefused at the field."""
    status = v.results.status
    assert status is not None
    if "on" in typed or row.pk is None:
        row.activity, row.wbs = find_target(access, typed.get("on", ""))
    if "date" in typed or row.pk is None:
        text = typed.get("date", "").strip()
        at = type_date(text, "date", status, v.book.axis, False) if text else None
        day = date_of(status - 1) if at is None else date_of(at)
        if midnight(day) + 1 > status:
            raise EntryRefused("date", sentence("costs.after_status", day=said_day(status - 1)), date_of(status - 1).isoformat())
        row.date = day.isoformat()
    if "carried" in typed and row.pk is None:
        row.amount = f"{_carried(v, row, typed):f}"
    elif "amount" in typed or row.pk is None:
        row.amount = f"{_amount(v, typed, 'amount'):f}"
    if "kind" in typed or row.pk is None:
        source = typed.get("kind", "").strip().lower() or "invoice"
        if source not in SOURCES:
            raise EntryRefused("kind", sentence("costs.source", value=source[:40], options=", ".join(SOURCES)))
        row.source = source
    if "ref" in typed:
        ref = typed["ref"].strip()
        if len(ref) > LONGEST_REF:
            raise EntryRefused("ref", sentence("costs.long_ref", most=LONGEST_REF))
        row.ref = ref or None
    if "text" in typed:
        text = typed["text"].strip()
        if len(text) > LONGEST_TEXT:
            raise EntryRefused("text", sentence("costs.long_text", most=LONGEST_TEXT))
        row.text = text or None


def _amount(v: View, typed: Mapping[str, str], key: str) -> Decimal:
    amount = type_amount(typed.get(key, ""), v.results.valuation.unit, key)
    if amount is None:
        raise EntryRefused(key, sentence("costs.amount_needed"))
    return amount


def _on(row: CostEntry) -> Target:
    """Where an entry counts."""
    return ("activity", row.activity.code) if row.activity is not None else ("wbs", row.wbs.code if row.wbs else "")


def _carried(v: View, row: CostEntry, typed: Mapping[str, str]) -> Decimal:
    """What brings an open accrual to where it should stand. Raises EntryRefused."""
    wanted, ref = _amount(v, typed, "carried"), typed.get("ref", "").strip() or None
    stands = next((a.amount for a in open_accruals(v.results) if (a.target, a.ref) == (_on(row), ref)), None)
    if stands is None:
        raise EntryRefused("carried", sentence("costs.no_accrual"))
    if wanted == stands:
        raise EntryRefused("carried", sentence("costs.carried_already", amount=f"{stands:f}"))
    return wanted - stands


def post_costs(access: Access, page_code: str, revision: int, entries: list[Mapping[str, str]], remove: list[str]) -> CostsEffect:
    """Write cost entries (new where they have no id) and take others away, all or none, as one step.

    Raises ChangeRefused at the row and field, Stale, Refused.
    """
    ask(access, "post")
    old, was = seen_page(access, page_code, revision)
    w = old.workspace
    held = {f"e{row.pk}": row for row in CostEntry.objects.filter(page=old.page)}
    for key in [*remove, *(e["id"] for e in entries if e.get("id"))]:
        if key not in held:
            raise Refused("not-found", sentence("costs.gone"), 409)
    count, rows = len(held), list[CostEntry]()
    for e in entries:
        row = held.get(e.get("id", "")) or CostEntry(project_id=old.page.project_id, page=old.page, order=count + len(rows))
        try:
            _read(access, old, e, row)
        except EntryRefused as no:
            raise ChangeRefused("entry-refused", no.message, e.get("id"), no.field, no.nearest) from None
        row.typed = row.typed and set(e) <= {"id", "amount"}  # else it is no longer what the posting sheet's own cell says
        rows.append(row)
    label = _label(old, rows, remove)
    with step(access, revision, "post", label) as s:
        for key in remove:
            s.delete(held[key])
        for row in rows:
            s.save(row)
    after_step(access, w, s.rows)
    return CostsEffect(effect_of(access, was, old, label), costs_sheet(access.view(page_code)))


def _label(v: View, rows: list[CostEntry], remove: list[str]) -> str:
    """What was done, with what an invoice took back of its accrual."""
    if remove and not rows:
        return sentence("costs.deleted", count=len(remove))
    if len(rows) != 1:
        return sentence("costs.posted", count=len(rows))
    row = rows[0]
    target = _on(row)
    met = met_accrual(v.results, target, row.ref) if row.source == "invoice" else None
    if met is None:
        return sentence("costs.posted_one", amount=row.amount, on=target[1])
    return sentence("costs.met", amount=row.amount, on=target[1], accrual=f"{met:f}", difference=f"{Decimal(row.amount) - met:+f}")
