"""Rates as cells of a resource: each kind a cell that holds the amount in force, with or without a date from which on.

Source: calculation contract, section 6: a row holds from its date on until the next of its kind. Typed without a date an amount takes the
place of the row in force, and holds from the project's start where there is none.
"""

from collections.abc import Iterable, Mapping
from datetime import date
from decimal import Decimal
from typing import TYPE_CHECKING, Any

from dryledger.book.lists import PERS
from dryledger.book.plan import Book, Rate
from dryledger.calendar.calendar import date_of, to_date_text
from dryledger.entry.grammar import type_amount, typed_text
from dryledger.entry.plan_cells import type_instant
from dryledger.errors import EntryRefused
from dryledger.words import sentence

if TYPE_CHECKING:
    from dryledger.entry.value_cells import CellContext

__all__ = ["RATE_CELLS", "rates_in_force", "rates_on", "type_rate", "type_rate_amount"]

FINE = Decimal("0.000001")
"""The finest part of a rate."""
OVERTIME = "rate.overtime"
RATE_CELLS = (*(f"rate.{per}" for per in PERS), OVERTIME)
"""The cells of a resource that hold a rate; that for overtime belongs to the row of the first kind by time that there is."""
BY_TIME = ("hour", "started_hour", "day", "week", "month")
Doc = dict[str, Any]


def rates_on(book: Book) -> date:
    """The date of which a resource's row shows the rates: the status of the last page, without one the project's start."""
    return date_of(book.periods[-1].status if book.periods else book.project.start)


def rates_in_force(rates: Iterable[Rate], on: date) -> dict[str, Decimal]:
    """The amounts in force on a date, by cell.

    >>> rows = [Rate(date(2027, 1, 1), Decimal(50), "hour", Decimal(75)), Rate(date(2027, 3, 1), Decimal(54), "hour")]
    >>> rates_in_force(rows, date(2027, 2, 1)), rates_in_force(rows, date(2027, 4, 1))
    ({'rate.hour': Decimal('50'), 'rate.overtime': Decimal('75')}, {'rate.hour': Decimal('54')})
    """
    now: dict[str, Rate] = {}
    for row in sorted(rates, key=lambda r: r.start):
        if row.start <= on:
            now[row.per] = row
    out = {f"rate.{per}": row.amount for per, row in now.items()}
    timed = next((now[per] for per in BY_TIME if per in now), None)
    return out | ({} if timed is None or timed.overtime is None else {OVERTIME: timed.overtime})


def type_rate_amount(value: object, field: str) -> str | None:
    """The amount of a rate, which may have finer parts than money. Raises EntryRefused."""
    got = None if value is None else type_amount(typed_text(value), FINE, field)
    if got is not None and got < 0:
        raise EntryRefused(field, sentence("cells.amount_cant_negative"))
    return None if got is None else f"{got.normalize():f}"


def type_rate(had: Iterable[Mapping[str, Any]], field: str, value: object, context: "CellContext") -> list[Doc] | None:
    """The rates of a resource after one cell was written: "54", "54 from 1 jun", or nothing to take the row in force away.

    `had` are the rates as the book writes them. Raises EntryRefused.
    """
    rows = [dict(r) for r in had]
    amount, _, since = typed_text("" if value is None else value).partition(" from ")
    start = type_instant(since, field, context.near, context.calendar.axis) if since.strip() else None
    money, on = type_rate_amount(amount or None, field), to_date_text(start) if start is not None else rates_on(context.book).isoformat()
    if field == OVERTIME:
        timed = next((now for per in BY_TIME if (now := _in_force(rows, per, on)) is not None), None)
        if timed is None and money is not None:
            raise EntryRefused(field, sentence("cells.overtime_needs_rate"))
        if timed is not None:
            timed["overtime"] = money
    else:
        _write(rows, field.removeprefix("rate."), money, start is not None, on, context)
    out = [{k: v for k, v in r.items() if v is not None} for r in rows if r.get("amount") is not None]
    return sorted(out, key=lambda r: (str(r.get("per", "hour")), str(r["from"]))) or None


def _write(rows: list[Doc], per: str, money: str | None, dated: bool, on: str, context: "CellContext") -> None:
    """Write an amount into the row of a kind that is in force on a date, or a row of its own; None takes the row away."""
    row = _in_force(rows, per, on)
    if row is not None and (not dated or row["from"] == on):
        row["amount"] = money
    elif money is not None:
        overtime = {"overtime": row["overtime"]} if row is not None and row.get("overtime") is not None else {}
        rows.append({"from": on if dated else to_date_text(context.book.project.start), "amount": money, "per": per} | overtime)


def _in_force(rows: list[Doc], per: str, on: str) -> Doc | None:
    found = [r for r in rows if str(r.get("per", "hour")) == per and str(r["from"]) <= on]
    return max(found, key=lambda r: str(r["from"]), default=None)
