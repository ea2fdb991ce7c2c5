"""What the budget room reads of money that is committed and under change: orders, what is owed, changes, reserves."""

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.outline import levels
from dryledger.book.registers import ChangeLine, ChangeOrder
from dryledger.budget.money import amount_of
from dryledger.budget.paying import Owed
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results
from dryledger.exchange.write import shortest_number
from dryledger.value.owed import every_cost, orders, owed_in_all
from server.accounts.models import Role
from server.book.access import Access
from server.book.workspace import workspace_of


@dataclass
class OrderLineOut:
    """What an order has of one cost, and what that was planned at."""

    code: str
    name: str
    activity: str
    amount: str
    planned: str
    over: bool


@dataclass
class OrderOut:
    """An order as it stands at the page; `typed` are its lines as they are typed."""

    id: str
    code: str
    supplier: str
    text: str
    date: str | None
    state: str
    amount: str
    invoiced: str
    accrued: str
    left: str
    typed: str
    lines: list[OrderLineOut]


@dataclass
class OwedOut:
    """A direct cost or material: what is expected of it, ordered, still to order, counted and still to pay."""

    code: str
    name: str
    activity: str
    activity_name: str
    expected: str
    ordered: str
    to_order: str
    counted: str
    reckoned: str
    to_pay: str
    closed: bool


@dataclass
class BudgetRow:
    """The budget of an element or the project; what is not told has its reason."""

    code: str
    name: str
    level: int
    original: str | None
    approved: str | None
    authorised: str | None
    to_build: str | None
    baseline: str | None
    unexplained: str | None
    why: str


@dataclass
class ReserveOut:
    """A reserve with what was left of it on each page so far."""

    id: str
    code: str
    name: str
    held: str
    amount: str
    drawn: str
    left: str
    pages: list[str]


@dataclass
class ChangeLineOut:
    """What a line of a change moves: an element, an activity or a reserve, by how much."""

    on: str
    name: str
    amount: str


@dataclass
class BudgetChange:
    """A change with what it moves, where its money comes from, and who decided."""

    code: str
    name: str
    reason: str
    state: str
    source: str | None
    days: float | None
    amount: str
    lines: list[ChangeLineOut]
    decided_by: str
    decided_at: str | None
    baseline: str | None


@dataclass
class MoneyOut:
    """Orders, what is owed, the budget under change and the reserves at a page."""

    revision: int
    currency: str
    status: str | None
    baseline: str | None
    may_decide: bool
    orders: list[OrderOut]
    costs: list[OwedOut]
    outside: list[OwedOut]
    totals: dict[str, str]
    budget: list[BudgetRow]
    pages: list[str]
    reserves: list[ReserveOut]
    with_contingency: str | None
    """The authorised budget and what is left of the reserves inside it."""
    with_all: str | None
    """The same with the reserves that management holds."""
    changes: list[BudgetChange]


def money_out(access: Access, page: str) -> MoneyOut:
    """All of it, at a page."""
    r, keyed = access.view(page).results, workspace_of(access.project).keyed
    contingent, whole = r.under_change.with_reserves()
    owed = list(every_cost(r.valuation))
    return MoneyOut(
        access.project.revision,
        r.book.project.currency,
        None if r.status is None else to_text(r.status),
        None if r.baseline is None else r.baseline.code,
        access.may(Role.APPROVER),
        _orders(r, {o.payable.code: o for o in owed}, keyed.key_of("orders")),
        [_owed(r, o) for o in owed],
        [_owed(r, o) for o in every_cost(r.valuation, in_budget=False)],
        {key: _money(r, amount) for key, amount in owed_in_all(r.valuation).items()},
        _budget(r),
        [p.code for p in r.at.periods],
        _reserves(r, keyed.key_of("reserves")),
        _shown(contingent),
        _shown(whole),
        [_change(r, c) for c in r.book.changes],
    )


def _money(r: Results, cells: int) -> str:
    return f"{amount_of(cells, r.valuation.unit):f}"


def _shown(amount: Decimal | None) -> str | None:
    return None if amount is None else f"{amount:f}"


def _orders(r: Results, owed: dict[str, Owed], keys: Mapping[str, int]) -> list[OrderOut]:
    out = []
    for x in orders(r.valuation):
        lines = []
        for line in x.order.lines:
            known, planned = owed.get(line.of), ""
            if known is not None:
                planned = _money(r, known.payable.amount)
            home = r.valuation.payments.homes.get(line.of, "")
            over = known is not None and known.ordered > known.payable.amount
            name = known.payable.name if known is not None else line.of
            lines.append(OrderLineOut(line.of, name, home, f"{line.amount:f}", planned, over))
        date = None if x.order.date is None else x.order.date.isoformat()
        amount, invoiced, accrued, left = (_money(r, n) for n in (x.amount, x.invoiced, x.accrued, x.left))
        o = x.order
        typed = "; ".join(f"{line.of} {shortest_number(line.amount)}" for line in o.lines)
        out.append(
            OrderOut(f"d{keys.get(o.code, 0)}", o.code, o.supplier, o.text, date, o.state, amount, invoiced, accrued, left, typed, lines)
        )
    return out


def _owed(r: Results, o: Owed) -> OwedOut:
    x = o.payable
    expected, ordered, to_order, counted, reckoned, to_pay = (
        _money(r, n) for n in (o.expected, o.ordered, o.to_order, o.counted, o.reckoned, o.to_pay)
    )
    name, closed = r.book.activity_by_code[x.activity].name, x.is_closed(r.status)
    return OwedOut(x.code, x.name, x.activity, name, expected, ordered, to_order, counted, reckoned, to_pay, closed)


def _budget(r: Results) -> list[BudgetRow]:
    heads = [(None, r.book.project.code, r.book.project.name, 0), *((h.code, h.code, h.name, h.level + 1) for h in levels(r.book))]
    out = []
    for element, code, name, level in heads:
        b = r.under_change.stand(element)
        original, approved, authorised = map(_shown, (b.original, b.approved_changes, b.authorised))
        to_build, baseline, unexplained = map(_shown, (b.to_build, b.baseline, b.unexplained))
        why = next(iter(b.reasons.values()), "")
        out.append(BudgetRow(code, name, level, original, approved, authorised, to_build, baseline, unexplained, why))
    return out


def _reserves(r: Results, keys: Mapping[str, int]) -> list[ReserveOut]:
    pages = [{x.reserve.code: x for x in r.under_change.reserves(p.status)} for p in r.at.periods]
    return [
        ReserveOut(
            f"v{keys.get(x.reserve.code, 0)}",
            x.reserve.code,
            x.reserve.name,
            x.reserve.held,
            f"{x.amount:f}",
            f"{x.drawn:f}",
            f"{x.left:f}",
            [f"{page[x.reserve.code].left:f}" for page in pages],
        )
        for x in r.under_change.reserves()
    ]


def _change(r: Results, c: ChangeOrder) -> BudgetChange:
    moved = f"{sum((x.amount for x in c.lines), r.valuation.unit * 0):f}"
    at = None if c.decided_when is None else to_text(c.decided_when)
    by, days = c.decided_by or c.approved_by or "", None if c.days is None else float(c.days)
    return BudgetChange(c.code, c.name, c.reason or "", c.stands, c.source, days, moved, [_line(r, x) for x in c.lines], by, at, c.baseline)


def _line(r: Results, x: ChangeLine) -> ChangeLineOut:
    names = {w.code: w.name for w in r.book.wbs} | {a.code: a.name for a in r.book.activities} | {y.code: y.name for y in r.book.reserves}
    code = x.wbs or x.activity or x.reserve or ""
    return ChangeLineOut(code, names.get(code, ""), f"{x.amount:f}")
