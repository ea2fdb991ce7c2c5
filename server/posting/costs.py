"""The costs lens of a page: its entries as a ledger, open accruals, totals by source, and writing them as one step."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from decimal import Decimal

from dryledger.book.money_rules import NOTHING, pays
from dryledger.book.pages import CostEntry
from dryledger.book.plan import Book
from dryledger.budget.actual import Target
from dryledger.budget.money import cells
from dryledger.calendar.calendar import date_of, midnight
from dryledger.changes.draft import Draft
from dryledger.entry.grammar import format_day, type_amount, type_date
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.formats import format_number
from dryledger.posting.corrections import target_of
from dryledger.posting.costs import met_accrual, open_accruals, source_totals
from dryledger.value.owed import MayPay
from server.book.access import Access
from server.book.models import CostEntry as Row
from server.book.results import View
from server.journal.steps import ask
from server.posting.actions import Effect, effect_of, enter, seen_page
from server.shared.problems import Refused
from server.shared.words import sentence

SOURCES = ("invoice", "accrual", "feed", "correction")
LONGEST_REF, LONGEST_TEXT = 300, 4000
MOST_PAID = 20
"""So many of what an entry may pay are told."""


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
    pays: str
    """What it pays: its order and the cost or assignment that it is for, “-” for none; empty where it names nothing."""
    may_pay: list[str]
    """What it may pay, what fits its amount best first; of a dry page nothing."""
    proposed: str
    """What of that fits its amount, where it names nothing yet; else empty."""


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
    made: dict[str, str] = field(default_factory=dict)
    """The ids of new entries, by the line that they were sent as."""


def costs_sheet(v: View) -> CostsSheet:
    """The ledger of a page."""
    book, unit = v.book, v.results.valuation.unit
    names = {a.code: a.name for a in book.activities} | {f"WBS {x.code}": x.name for x in book.wbs}
    out = CostsSheet(v.page.code, v.page.status, v.page.state, v.project.revision, book.project.currency)
    period = v.results.at.periods[-1]
    keys = list(Row.objects.filter(page=v.page).values_list("pk", flat=True)) if v.page.state == "wet" else []
    choices = MayPay(v.results.valuation) if v.page.state == "wet" else None
    for i, c in enumerate(period.costs):
        on = c.activity if c.activity is not None else f"WBS {c.wbs}"
        name = names.get(on, "")
        key = f"e{keys[i]}" if i < len(keys) else f"n{i}"
        more = (c.ref or "", c.corrects or "", c.text or "", " ".join(filter(None, (c.order_code, c.of))))
        may = choices(target_of(c), cells(c.amount, unit)) if choices is not None else {}
        best = "" if more[-1] else next((text for text, fits in may.items() if fits), "")
        out.rows.append(CostLine(key, c.date.isoformat(), on, name, f"{c.amount:f}", c.source, *more, list(may)[:MOST_PAID], best))
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
        target = find_target(v.book, typed, "of")
        kind, code = target
        name = v.book.activity_by_code[code].name if kind == "activity" else next(w.name for w in v.book.wbs if w.code == code)
        on = code if kind == "activity" else f"WBS {code}"
    lines = source_totals(v.results, target)
    return CostTotals(v.page.code, on, name, [SourceLine(t.source, *(f"{x.quantize(unit):f}" for x in (t.page, t.to_date))) for t in lines])


def find_target(book: Book, typed: str, at: str = "on") -> Target:
    """The activity, or the element (“WBS 2.1”), that a cost is on. Raises EntryRefused."""
    bare = typed.strip()
    wanted = bare.split(" ")[0].lower() if bare else ""
    activity = next((a.code for a in book.activities if a.code.lower() == wanted), None)
    if activity is not None and not bare.lower().startswith("wbs "):
        return "activity", activity
    code = bare[4:].strip() if bare.lower().startswith("wbs ") else bare
    element = next((w.code for w in book.wbs if w.code.lower() == code.lower()), None)
    if element is None:
        raise EntryRefused(at, sentence("costs.nothing_there", value=bare[:60]))
    return "wbs", element


def _read(v: View, typed: Mapping[str, str], row: CostEntry | None) -> CostEntry:
    """What typed cells make of an entry; of a new one all that is missing is filled in. Raises EntryRefused at the field."""
    status = v.results.status
    assert status is not None
    target = find_target(v.book, typed.get("on", "")) if "on" in typed or row is None else target_of(row)
    day = date_of(status - 1) if row is None else row.date
    if "date" in typed or row is None:
        text = typed.get("date", "").strip()
        at = type_date(text, "date", status, v.book.axis, False) if text else None
        day = date_of(status - 1) if at is None else date_of(at)
        if midnight(day) + 1 > status:
            raise EntryRefused("date", sentence("costs.after_status", day=format_day(status - 1)), date_of(status - 1).isoformat())
    ref = _text(typed, "ref", LONGEST_REF, "costs.long_ref") if "ref" in typed else row.ref if row is not None else None
    if "carried" in typed and row is None:
        amount = _carried(v, target, typed, ref)
    else:
        amount = _amount(v, typed, "amount") if "amount" in typed or row is None else row.amount
    source = "invoice" if row is None else row.source
    if "kind" in typed:
        source = typed["kind"].strip().lower() or "invoice"
        if source not in SOURCES:
            raise EntryRefused("kind", sentence("costs.source", value=source[:40], options=", ".join(SOURCES)))
    words = _text(typed, "text", LONGEST_TEXT, "costs.long_text") if "text" in typed else row.text if row is not None else None
    activity, element = (target[1], None) if target[0] == "activity" else (None, target[1])
    of, order = paid(v.book, typed["pays"], target) if "pays" in typed else (None, None) if row is None else (row.of, row.order_code)
    made = CostEntry(day, amount, source, activity, element, ref, text=words, of=of, order_code=order)
    return made if row is None else replace(made, corrects=row.corrects, reason=row.reason)


def paid(book: Book, typed: str, on: Target) -> tuple[str | None, str | None]:
    """The cost or assignment that an entry is for, and its order, from their codes. Raises EntryRefused."""
    of = order = None
    costs = {c.code.lower(): c.code for c in book.costs if c.code} | {a.code.lower(): a.code for a in book.assignments} | {NOTHING: NOTHING}
    orders = {x.code.lower(): x.code for x in book.orders}
    for word in typed.lower().split():
        if word in orders and order is None:
            order = orders[word]
        elif word in costs and of is None:
            of = costs[word]
        else:
            raise EntryRefused("pays", sentence("costs.pays_nothing_there", value=typed[:60]))
    homes = {c.code: c.activity for c in book.costs if c.code} | {a.code: a.activity for a in book.assignments}
    lines = next((x.lines for x in book.orders if x.code == order), ())
    if of not in (None, NOTHING) and not pays(book, on, homes.get(of or "")):
        raise EntryRefused("pays", sentence("costs.pays_nothing_of", code=of, on=on[1]))
    if order is not None and of is None and not any(pays(book, on, homes.get(x.of)) for x in lines):
        raise EntryRefused("pays", sentence("costs.order_without_line", code=order, on=on[1]))
    return of, order


def _text(typed: Mapping[str, str], key: str, most: int, word: str) -> str | None:
    got = typed[key].strip()
    if len(got) > most:
        raise EntryRefused(key, sentence(word, most=most))
    return got or None


def _amount(v: View, typed: Mapping[str, str], key: str) -> Decimal:
    amount = type_amount(typed.get(key, ""), v.results.valuation.unit, key)
    if amount is None:
        raise EntryRefused(key, sentence("costs.amount_needed"))
    return amount


def _carried(v: View, target: Target, typed: Mapping[str, str], ref: str | None) -> Decimal:
    """What brings an open accrual to where it should stand. Raises EntryRefused."""
    wanted = _amount(v, typed, "carried")
    stands = next((a.amount for a in open_accruals(v.results) if (a.target, a.ref) == (target, ref)), None)
    if stands is None:
        raise EntryRefused("carried", sentence("costs.no_accrual"))
    if wanted == stands:
        raise EntryRefused("carried", sentence("costs.carried_already", amount=stands))
    return wanted - stands


def post_costs(access: Access, page_code: str, revision: int, entries: list[Mapping[str, str]], remove: list[str]) -> CostsEffect:
    """Write cost entries (new where they have no id) and take others away, all or none, as one step.

    Raises ChangeRefused at the row and field, Stale, Refused.
    """
    ask(access, "post")
    old, was = seen_page(access, page_code, revision)
    held = list(Row.objects.filter(page=old.page).values_list("pk", "typed"))
    places = {f"e{pk}": place for place, (pk, _) in enumerate(held)}
    own = {f"e{pk}" for pk, typed in held if typed}
    for key in [*remove, *(e["id"] for e in entries if e.get("id"))]:
        if key not in places:
            raise Refused("not-found", sentence("costs.gone"), 409)
    there, rows = old.results.at.periods[-1].costs, list[tuple[int | None, CostEntry]]()
    still_own: list[int] = []
    for e in entries:
        place = places.get(e.get("id", ""))
        try:
            rows.append((place, _read(old, e, None if place is None else there[place])))
        except EntryRefused as no:
            raise ChangeRefused("entry-refused", no.message, e.get("id") or e.get("line"), no.field, no.nearest) from None
        if place is not None and e["id"] in own and set(e) <= {"id", "amount"}:
            still_own.append(place)  # else it is no longer what the posting sheet's own cell says
    label = _label(old, [row for _, row in rows], remove)

    def changes(draft: Draft, page: int) -> None:
        draft.enter(page, "costs", [*((places[key], None) for key in remove), *rows])
        draft.own.update((page, place) for place in still_own)

    enter(access, old, revision, "post", changes, label)
    sheet = costs_sheet(access.view(page_code))
    new = [e.get("line", "") for e, (place, _) in zip(entries, rows, strict=True) if place is None]
    made = {line: row.id for line, row in zip(new, sheet.rows[-len(new) :], strict=True)} if new else {}
    return CostsEffect(effect_of(access, was, old, label), sheet, made)


def _label(v: View, rows: list[CostEntry], remove: list[str]) -> str:
    """What was done, with what an invoice took back of its accrual."""
    if remove and not rows:
        return sentence("costs.deleted", count=len(remove))
    if len(rows) != 1:
        return sentence("costs.posted", count=len(rows))
    row = rows[0]
    target = target_of(row)
    met = met_accrual(v.results, target, row.ref) if row.source == "invoice" else None
    if met is None:
        return sentence("costs.posted_one", amount=row.amount, on=target[1])
    return sentence("costs.met", amount=row.amount, on=target[1], accrual=met, difference=format_number(row.amount - met, "+f"))
