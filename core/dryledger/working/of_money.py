"""Workings of money that is told by month, by order, by reserve and by baseline.

Source: calculation contract, sections 10, 16 and 23.
"""

from collections.abc import Callable, Iterable
from decimal import Decimal

from dryledger.book.plan import Book
from dryledger.budget.money import amount_of, cells
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results
from dryledger.errors import UnknownFigure
from dryledger.spending import SpendingRow, spending
from dryledger.value.owed import orders
from dryledger.value.valuation import planned_of
from dryledger.words import sentence
from dryledger.working.derivation import Operand, Working, WorkingRow

__all__ = ["OF_MONEY", "money_working"]


def money_working(r: Results, measure: str, kind: str, code: str | None) -> Working:
    """The working of a "month" (by the end of it, as a date), an "order" (no code: all of them), a "reserve" or a "baseline".

    Raises UnknownFigure for a figure that it has none of, KeyError for a code that is not there.
    """
    known, make = OF_MONEY[kind]
    if measure not in known:
        raise UnknownFigure(measure, kind)
    return make(r, measure, code or "")


def _working(measure: str, formula: str, result: Decimal) -> Working:
    return Working(measure, sentence(f"working.{measure}"), formula, result)


def _month(r: Results, measure: str, code: str) -> Working:
    s = spending(r, "month")
    places = {to_text(end)[:10]: i for i, end in enumerate(s.ends)}
    i = places[code]
    if measure == "running":
        out = _working(measure, sentence("working.running_formula"), s.total.running[i])
        before = s.total.running[i - 1] if i else s.total.running[i] - s.total.difference[i]
        out.operands = [_named("running_before", before), _named("difference", s.total.difference[i])]
        return out
    if measure in ("difference", "forecast"):
        parts = {"difference": ("budget", "forecast"), "forecast": ("actual", "remaining")}[measure]
        out = _working(measure, sentence(f"working.{measure}_formula"), getattr(s.total, measure)[i])
        out.operands = [_named(part, getattr(s.total, part)[i]) for part in parts]
    else:
        out = _working(measure, sentence("working.sum_of_month"), getattr(s.total, measure)[i])
    leaves = [x for x in s.rows if not x.sums]
    out.rows = [WorkingRow(x.code, x.name, amount) for x in leaves if (amount := _cell(x, measure, i))]
    return out


def _cell(x: SpendingRow, measure: str, i: int) -> Decimal:
    cell: Decimal = getattr(x, measure)[i]
    return cell


def _named(key: str, value: Decimal) -> Operand:
    return Operand(sentence(f"working.{key}"), value)


def _order(r: Results, measure: str, code: str) -> Working:
    unit, found = r.valuation.unit, [o for o in orders(r.valuation) if code in ("", o.order.code)]
    if not found:
        raise KeyError(code)
    amount = amount_of(sum(getattr(o, _PARTS[measure]) for o in found), unit)
    out = _working(measure, sentence(f"working.{measure}_formula"), amount)
    if not code:
        out.rows = [WorkingRow(o.order.code, o.order.supplier, amount_of(getattr(o, _PARTS[measure]), unit)) for o in found]
        return out
    o = found[0]
    if measure == "left":
        out.operands = [_named(key, amount_of(getattr(o, _PARTS[key]), unit)) for key in ("ordered", "invoiced", "accrued")]
    elif measure == "ordered":
        out.rows = [WorkingRow(x.of, _cost_name(r.book, x.of), amount_of(cells(x.amount, unit), unit)) for x in o.order.lines]
    else:
        status, accrued = r.status, measure == "accrued"
        items = [x for x in r.valuation.entries if x.order == code and (x.source == "accrual") is accrued]
        counted = [x for x in items if status is not None and x.counts(status)]
        out.rows = [WorkingRow(x.target[1], x.label, amount_of(x.amount, unit), x.ref or "") for x in counted]
    return out


_PARTS = {"ordered": "amount", "invoiced": "invoiced", "accrued": "accrued", "left": "left"}


def _cost_name(book: Book, code: str) -> str:
    names = {c.code: c.name for c in book.costs} | {a.code: book.resource_by_code[a.resource].name for a in book.assignments}
    return names.get(code, code)


def _reserve(r: Results, measure: str, code: str) -> Working:
    x = next((x for x in r.under_change.reserves() if x.reserve.code == code), None)
    if x is None:
        raise KeyError(code)
    if measure == "reserve_amount":
        return _working(measure, sentence("working.recorded"), x.amount)
    if measure == "left_of_reserve":
        out = _working(measure, sentence("working.left_of_reserve_formula"), x.left)
        out.operands = [_named("reserve_amount", x.amount), _named("drawn", x.drawn)]
        return out
    out, unit = _working(measure, sentence("working.drawn_formula"), x.drawn), r.valuation.unit
    for c in r.under_change.approved:
        taken = sum(cells(line.amount, unit) for line in c.lines) if c.source == code else 0
        given = sum(cells(line.amount, unit) for line in c.lines if line.reserve == code)
        if taken or given:
            out.rows.append(WorkingRow(c.code, c.name, amount_of(taken - given, unit)))
    return out


def _baseline(r: Results, measure: str, code: str) -> Working:
    b = r.book.baseline_by_code[code]
    unit, planned = r.valuation.unit, planned_of(r.book, b).budget
    out = _working(measure, sentence("working.baseline_budget_formula"), amount_of(sum(planned.values()), unit))
    out.rows = [WorkingRow(a.code, a.name, amount_of(planned[a.code], unit)) for a in b.activities if planned[a.code]]
    return out


OF_MONEY: dict[str, tuple[Iterable[str], Callable[[Results, str, str], Working]]] = {
    "month": (("budget", "actual", "forecast", "difference", "running"), _month),
    "order": (tuple(_PARTS), _order),
    "reserve": (("reserve_amount", "drawn", "left_of_reserve"), _reserve),
    "baseline": (("baseline_budget",), _baseline),
}
"""The kinds of money that have workings of their own, with their figures."""
