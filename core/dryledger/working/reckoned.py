"""Workings of what follows progress: of what, and how it is reckoned (“4 units × 3.5 d elapsed × 54.00”).

Source: calculation contract, section 9.
"""

from collections.abc import Iterator
from decimal import Decimal

from dryledger.book.plan import Assignment
from dryledger.budget.money import amount_of, minor_unit
from dryledger.budget.paying import Payable
from dryledger.budget.rates import tariffs
from dryledger.compute import Results
from dryledger.formats import format_number
from dryledger.words import sentence
from dryledger.working.derivation import WorkingRow

__all__ = ["reckoned_rows"]


def reckoned_rows(r: Results, code: str) -> Iterator[WorkingRow]:
    """A row for all that follows progress of an activity: the resource or the cost, its amount, and what that comes from."""
    v = r.valuation
    names = {x.code: x.name for x in r.book.resources}
    for x in v.following.of(code):
        yield WorkingRow(x.resource, names[x.resource], amount_of(x.cost.amount, v.unit), _labour(r, code, x.resource, x.cost.finish))
    for activity, paid, piece in v.payments.reckoned():
        if activity == code and piece.amount:
            yield WorkingRow(paid.key, paid.name, amount_of(piece.amount, v.unit), _paid(r, paid))


def _labour(r: Results, code: str, resource: str, until: int) -> str:
    a = next(x for x in r.book.assignments_of[code] if x.resource == resource)
    start, tariff = r.progress[code].actual_start or 0, tariffs(r.book)[resource]
    rate = tariff.rate_through(start, until)
    told = sentence("working.rates_by_date") if rate is None else _money(rate, minor_unit(r.book.project.currency))
    days = _days(r, code, r.valuation.following.elapsed(code, until))
    key = "working.unit_elapsed" if a.units == 1 else "working.units_elapsed"
    return sentence(key, units=f"{a.units.normalize():f}", days=days, rate=told)


def _money(rate: Decimal, unit: Decimal) -> str:
    """A rate with the digits of its currency, or with more where it has more."""
    whole = rate.quantize(unit)
    return f"{whole if whole == rate else rate.normalize():f}"


def _days(r: Results, code: str, minutes: int) -> str:
    exact = r.book.calendar_by_code[r.book.activity_by_code[code].calendar].days(minutes)
    return format_number(exact.quantize(Decimal("0.01")).normalize())


def _paid(r: Results, x: Payable) -> str:
    p = r.progress[x.activity]
    elapsed = r.valuation.following.elapsed(x.activity, r.status or 0)
    days, of = _days(r, x.activity, elapsed), _days(r, x.activity, elapsed + p.remaining)
    if isinstance(x.of, Assignment):
        return sentence("working.material_used", quantity=f"{(x.of.quantity or Decimal(0)).normalize():f}", days=days, of=of)
    if x.accrual != "uniform":
        return sentence(f"working.due_at_{x.accrual}")
    return sentence("working.cost_passed", days=days, of=of)
