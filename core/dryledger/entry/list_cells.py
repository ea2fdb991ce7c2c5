"""Cells of the plan that hold a list: pauses, rates, leave, shifts of a week, lines of changes and orders."""

from typing import Any

from dryledger.book.lists import PERS, WEEKDAYS
from dryledger.book.plan import Book
from dryledger.calendar.calendar import to_date_text, to_text
from dryledger.entry.plan_cells import type_instant, type_shifts
from dryledger.entry.rate_cells import type_rate_amount
from dryledger.entry.value_cells import CellContext, Value, cell_amount, cell_day, cell_number, words_of
from dryledger.errors import EntryRefused
from dryledger.words import sentence

__all__ = ["cell_exceptions", "cell_leave", "cell_lines", "cell_order_lines", "cell_pauses", "cell_rates", "cell_texts", "cell_week"]


def cell_pauses(value: Value, field: str, context: CellContext) -> Value:
    """A list of {from, to, reason}."""
    out = []
    for p in value or []:
        a = type_instant(str(p.get("from") or ""), field, context.near, context.calendar.axis)
        b = type_instant(str(p.get("to") or ""), field, context.near, context.calendar.axis, closing=True)
        if a is None or b is None:
            raise EntryRefused(field, sentence("cells.pause_needs_date_from"))
        if b <= a:
            raise EntryRefused(field, sentence("cells.pause_must_end_after"))
        out.append({"from": to_text(a), "to": to_text(b)} | ({"reason": str(p["reason"])[:300]} if p.get("reason") else {}))
    return sorted(out, key=lambda p: p["from"]) or None


def cell_rates(value: Value, field: str, context: CellContext) -> Value:
    """A list of {from, amount, per, overtime}; without a date from the project's start on."""
    out = []
    for r in value or []:
        start, money = cell_day(r.get("from"), field, context) or _first_day(context), type_rate_amount(r.get("amount"), field)
        per = str(r.get("per") or "hour").replace(" ", "_")
        if money is None:
            raise EntryRefused(field, sentence("cells.rate_needs_amount"))
        if per not in PERS:
            raise EntryRefused(field, sentence("cells.rate_per_one", words=words_of(PERS)))
        more = type_rate_amount(r.get("overtime"), field)
        out.append({"from": start, "amount": money, "per": per} | ({"overtime": more} if more else {}))
    return sorted(out, key=lambda r: (r["per"], r["from"])) or None


def _first_day(context: CellContext) -> str:
    return to_date_text(context.book.project.start)


def cell_week(value: Value, field: str, context: CellContext) -> Value:
    """The shifts of each weekday, as texts such as "8-12, 13-17" or ready-made lists."""
    given = {d: (value or {}).get(d, "") for d in WEEKDAYS}
    out = {d: type_shifts(", ".join(v) if isinstance(v, list) else str(v), f"{field}.{d}") for d, v in given.items()}
    return {d: v for d, v in out.items() if v}


def cell_exceptions(value: Value, field: str, context: CellContext) -> Value:
    """A list of {from, to, shifts, name}; without shifts a day off."""
    out = []
    for e in value or []:
        a, b = _dates(e, field, context)
        s = e.get("shifts", "")
        shifts = type_shifts(", ".join(s) if isinstance(s, list) else str(s or ""), field)
        out.append({"from": a, "to": b, "shifts": shifts} | ({"name": str(e["name"])[:100]} if e.get("name") else {}))
    return sorted(out, key=lambda e: e["from"]) or None


def cell_leave(value: Value, field: str, context: CellContext) -> Value:
    """A list of {from, to, name, units}; without units nobody is there."""
    out = []
    for e in value or []:
        a, b = _dates(e, field, context)
        units = cell_number()(e.get("units"), field, context)
        named = {"name": str(e["name"])[:100]} if e.get("name") else {}
        out.append({"from": a, "to": b} | named | ({"units": units} if units else {}))
    return sorted(out, key=lambda e: e["from"]) or None


def _dates(e: Any, field: str, context: CellContext) -> tuple[str, str]:
    """The first and the last date of a range; of one date alone both."""
    a = cell_day(e.get("from"), field, context)
    b = cell_day(e.get("to"), field, context) or a
    if a is None or b is None:
        raise EntryRefused(field, sentence("cells.date_first_last_several"))
    if b < a:
        raise EntryRefused(field, sentence("cells.lies_before_first_date", b=b, a=a))
    return a, b


def cell_texts(value: Value, field: str, context: CellContext) -> Value:
    """Words apart by semicolons or commas, or a list of them."""
    parts = value if isinstance(value, list) else str(value or "").replace(";", ",").split(",")
    return [p.strip() for p in map(str, parts) if p.strip()] or None


def cell_lines(value: Value, field: str, context: CellContext) -> Value:
    """Lines of a change, as “1.2 4200; R1 -500”: an element, an activity or a reserve, and an amount; or ready-made."""
    if isinstance(value, list):
        return value or None
    out, book = [], context.book
    known = (("wbs", {w.code for w in book.wbs}), ("activity", set(book.activity_by_code)), ("reserve", {x.code for x in book.reserves}))
    for part in filter(None, (p.strip() for p in str(value or "").split(";"))):
        code, _, amount = part.partition(" ")
        named = next((kind for kind, codes in known if code in codes), None)
        money = cell_amount(signed=True)(amount, field, context)
        if named is None or money is None:
            raise EntryRefused(field, sentence("cells.change_lines", part=part[:60]))
        out.append({named: code, "amount": money})
    return out or None


def cell_order_lines(value: Value, field: str, context: CellContext) -> Value:
    """Lines of an order, as “D1 410000; A100/CRANE 2000; Steel frame -500”: a cost by its code or its name, an assignment by activity and
    resource, and an amount; or ready-made.
    """
    if isinstance(value, list):
        return value or None
    out: list[dict[str, str]] = []
    called = _costs_by_name(context.book)
    for part in filter(None, (p.strip() for p in str(value or "").split(";"))):
        words = part.split()
        splits = ((" ".join(words[:i]).lower(), " ".join(words[i:])) for i in range(len(words) - 1, 0, -1))
        what, amount = next(((what, amount) for what, amount in splits if what in called), ("", ""))
        money = cell_amount(signed=True)(amount, field, context) if what else None
        if money is None:
            raise EntryRefused(field, sentence("cells.order_lines", part=part[:60]))
        if len(called[what]) > 1:
            raise EntryRefused(field, sentence("cells.order_line_twice", name=what[:60], codes=", ".join(sorted(called[what]))))
        out.append({"for": called[what][0], "amount": money})
    return out or None


def _costs_by_name(book: Book) -> dict[str, list[str]]:
    """The codes of what can be ordered, by code, by name, and by activity and name."""
    out = {a.code.lower(): [a.code] for a in book.assignments}
    named = [c for c in book.costs if c.code]
    for c in named:
        for word in (c.name.lower(), f"{c.activity} {c.name}".lower()):
            out[word] = [*out.get(word, ()), c.code]
    return out | {c.code.lower(): [c.code] for c in named}
