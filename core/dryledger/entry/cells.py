"""What is typed into a cell of the plan, as the book writes it. Refused in words beside the cell.

How a column is read follows from how it is declared; only what is more than one value has a reader of its own here.
"""

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from dryledger.book.columns import Column
from dryledger.book.currencies import DIGITS
from dryledger.book.formulas import check_formula
from dryledger.book.lists import CONSTRAINTS, LISTS, PERS, PROJECT, VALUE_METHODS, WEEKDAYS
from dryledger.book.plan import Book
from dryledger.book.registers import fields_of
from dryledger.calendar.calendar import Calendar, Instant, to_date_text, to_text
from dryledger.entry.grammar import read_number, type_amount, type_number, type_percent, typed_text
from dryledger.entry.plan_cells import possible, type_constraint, type_instant, type_shifts, type_span
from dryledger.entry.rhythms import type_rhythm
from dryledger.errors import EntryRefused
from dryledger.words import sentence

__all__ = ["CELLS", "CellContext", "own_field", "required", "text"]

Value = Any
Read = Callable[[Value, str, "CellContext"], Value]
LONGEST = {"name": 300, "code": 100, "long": 20_000}
FINE = Decimal("0.000001")
"""The finest part of a rate."""


@dataclass(frozen=True)
class CellContext:
    """What a typed cell is read against: the book as it stands, the calendar of the row, and a date near it."""

    book: Book
    calendar: Calendar
    near: Instant


def text(value: Value, field: str, most: int = 300) -> str | None:
    """A text; None when empty."""
    if value is None:
        return None
    if not isinstance(value, str):
        raise EntryRefused(field, sentence("cells.text"))
    if len(value) > most:
        raise EntryRefused(field, sentence("cells.characters_room", count=len(value), most=most))
    return (" ".join(value.split()) if most <= 300 else value.strip()) or None


def required(value: Value, field: str) -> str:
    """A text that may not be empty."""
    got = text(value, field, LONGEST.get(field, 300))
    if not got:
        raise EntryRefused(field, sentence("cells.cant_empty_one", field=field))
    return got


def _words(options: tuple[str, ...]) -> str:
    words = {o: usual for usual, o in reversed(SYNONYMS.items())}
    return ", ".join(words.get(o, o.replace("_", " ")) if "_" in o else o for o in options)


SYNONYMS = {
    "% complete": "percent",
    "0/100": "zero_hundred",
    "50/50": "fifty_fifty",
    "fixed start share": "start_share",
    "weighted milestones": "milestones",
    "elapsed duration": "duration",
    "estimate": "duration",
    "the estimate": "duration",
    "work hours": "work",
    "the work hours": "work",
}
"""How the trade says some choices that the book writes otherwise."""


def _in_words(value: Value) -> str:
    bare = str(value or "").strip().lower()
    return SYNONYMS.get(bare, bare).replace(" ", "_")


def _choice(options: tuple[str, ...]) -> Read:
    def read(value: Value, field: str, context: CellContext) -> Value:
        bare = _in_words(value)
        if not bare:
            return None
        found = [w for w in options if w.startswith(bare)]
        if len(found) != 1 and bare not in options:
            raise EntryRefused(field, sentence("cells.none", value=value, words=_words(options)))
        return bare if bare in options else found[0]

    return read


def _formula(value: Value, field: str, context: CellContext) -> Value:
    got = text(value, field, LONGEST["long"])
    if got is not None:
        check_formula(got)
    return got


def _number(least: Decimal | None = Decimal(0), above: Decimal | None = None, most: Decimal | None = None) -> Read:
    def read(value: Value, field: str, context: CellContext) -> Value:
        if value is None or str(value).strip() == "":
            return None
        got = type_number(typed_text(value), field)
        assert got is not None
        if above is not None and got <= above:
            raise EntryRefused(field, sentence("cells.number_above", above=above))
        if least is not None and got < least:
            raise EntryRefused(field, sentence("cells.number_least", least=least))
        if most is not None and got > most:
            raise EntryRefused(field, sentence("cells.number_most", most=most))
        return float(got)

    return read


_ABOVE_ZERO = _number(None, Decimal(0))


def _units(value: Value, field: str, context: CellContext) -> Value:
    """Units of a resource; "50 %" of one is half a unit."""
    bare = typed_text(value if value is not None else "").strip()
    if not bare.endswith("%"):
        return _ABOVE_ZERO(value, field, context)
    share = type_number(bare.removesuffix("%"), field)
    return _ABOVE_ZERO(None if share is None else share / 100, field, context)


def _of_hundred(value: Value, field: str, context: CellContext) -> Value:
    share = None if value is None or str(value).strip() == "" else type_percent(typed_text(value), field)
    return None if share is None else float(share * 100)


def _flag(value: Value, field: str, context: CellContext) -> Value:
    if isinstance(value, bool) or value is None:
        return value
    bare = str(value).strip().lower()
    if bare in ("yes", "y", "true", "x", "1"):
        return True
    if bare in ("", "no", "n", "false", "0"):
        return False
    raise EntryRefused(field, sentence("cells.neither_yes_nor_no", value=value))


def _amount(signed: bool = False, exact: bool = True) -> Read:
    """Money in the project's currency; a rate (not `exact`) may have finer parts."""

    def read(value: Value, field: str, context: CellContext) -> Value:
        unit = Decimal(1).scaleb(-DIGITS.get(context.book.project.currency, 2)) if exact else FINE
        got = None if value is None else type_amount(typed_text(value), unit, field)
        if got is not None and got < 0 and not signed:
            raise EntryRefused(field, sentence("cells.amount_cant_negative"))
        return None if got is None else f"{got:f}"

    return read


def _span(value: Value, field: str, context: CellContext) -> Value:
    return None if value is None else type_span(typed_text(value), context.calendar, field)


def _work(value: Value, field: str, context: CellContext) -> Value:
    """Work of one who is assigned; a bare number is hours, as their hours are posted."""
    bare = typed_text(value or "").strip()
    return _span(f"{bare}h" if read_number(bare) is not None else value, field, context)


def _instant(closing: bool = False) -> Read:
    def read(value: Value, field: str, context: CellContext) -> Value:
        got = type_instant(str(value or ""), field, context.near, context.calendar.axis, closing)
        return None if got is None else to_text(got)

    return read


def _day(value: Value, field: str, context: CellContext) -> Value:
    got = type_instant(str(value or ""), field, context.near, context.calendar.axis)
    return None if got is None else to_date_text(got)


def _calendar(value: Value, field: str, context: CellContext) -> Value:
    """A calendar by its code or name."""
    bare = str(value or "").strip()
    if not bare:
        return None
    for c in context.book.calendars:
        if bare.lower() in (c.code.lower(), c.name.lower()):
            return c.code
    raise EntryRefused(field, sentence("cells.no_calendar", value=bare[:60], names=", ".join(c.name for c in context.book.calendars)))


def _currency(value: Value, field: str, context: CellContext) -> Value:
    bare = str(value or "").strip().upper()
    if bare not in DIGITS:
        raise EntryRefused(field, sentence("cells.currency_three_letters_eur"))
    return bare


def _constraint(value: Value, field: str, context: CellContext) -> Value:
    """A constraint as its sentence, or ready-made as {type, at}."""
    if isinstance(value, dict):
        kind = value.get("type")
        if kind not in CONSTRAINTS:
            raise EntryRefused(field, sentence("cells.constraint", kind=kind))
        if kind == "as_late_as_possible":
            return {"type": kind}
        at = type_instant(str(value.get("at") or ""), field, context.near, context.calendar.axis, "finish" in kind)
        if at is None:
            raise EntryRefused(field, sentence("cells.date_held"))
        return {"type": kind, "at": to_text(possible(kind, at, context.calendar.axis, field))}
    got = type_constraint(str(value or ""), context.near, context.calendar.axis, field)
    return None if got is None else {"type": got.type} | ({} if got.at is None else {"at": to_text(got.at)})


def _pauses(value: Value, field: str, context: CellContext) -> Value:
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


def _value_method(value: Value, field: str, context: CellContext) -> Value:
    """How value is earned: its type, with what the type needs. The book's own rules check the rest."""
    if isinstance(value, dict):
        return value
    bare = _in_words(value).replace("-", "_")
    if bare and bare not in VALUE_METHODS:
        raise EntryRefused(field, sentence("cells.none", value=value, words=_words(VALUE_METHODS)))
    return {"type": bare} if bare else None


def _rates(value: Value, field: str, context: CellContext) -> Value:
    """A list of {from, amount, per, overtime}."""
    out = []
    for r in value or []:
        start, money = _day(r.get("from"), field, context), _amount(exact=False)(r.get("amount"), field, context)
        per = str(r.get("per") or "hour").replace(" ", "_")
        if start is None or money is None:
            raise EntryRefused(field, sentence("cells.rate_needs_date_from"))
        if per not in PERS:
            raise EntryRefused(field, sentence("cells.rate_per_one", words=_words(PERS)))
        more = _amount(exact=False)(r.get("overtime"), field, context)
        out.append({"from": start, "amount": money, "per": per} | ({"overtime": more} if more else {}))
    return sorted(out, key=lambda r: (r["per"], r["from"])) or None


def _week(value: Value, field: str, context: CellContext) -> Value:
    """The shifts of each weekday, as texts such as "8-12, 13-17" or ready-made lists."""
    given = {d: (value or {}).get(d, "") for d in WEEKDAYS}
    out = {d: type_shifts(", ".join(v) if isinstance(v, list) else str(v), f"{field}.{d}") for d, v in given.items()}
    return {d: v for d, v in out.items() if v}


def _exceptions(value: Value, field: str, context: CellContext) -> Value:
    """A list of {from, to, shifts, name}; without shifts a day off."""
    out = []
    for e in value or []:
        a = _day(e.get("from"), field, context)
        b = _day(e.get("to"), field, context) or a
        if a is None or b is None:
            raise EntryRefused(field, sentence("cells.date_first_last_several"))
        if b < a:
            raise EntryRefused(field, sentence("cells.lies_before_first_date", b=b, a=a))
        s = e.get("shifts", "")
        shifts = type_shifts(", ".join(s) if isinstance(s, list) else str(s or ""), field)
        out.append({"from": a, "to": b, "shifts": shifts} | ({"name": str(e["name"])[:100]} if e.get("name") else {}))
    return sorted(out, key=lambda e: e["from"]) or None


def _texts(value: Value, field: str, context: CellContext) -> Value:
    """Words apart by semicolons or commas, or a list of them."""
    parts = value if isinstance(value, list) else str(value or "").replace(";", ",").split(",")
    return [p.strip() for p in map(str, parts) if p.strip()] or None


def _rhythm(value: Value, field: str, context: CellContext) -> Value:
    """A rhythm as its sentence, or ready-made."""
    if isinstance(value, dict):
        return value
    got = type_rhythm(str(value or ""), field)
    if got is None:
        return None
    return {"every": got.every, "n": int(got.n), "on": got.on} | ({"at": got.at} if got.at else {})


def _lines(value: Value, field: str, context: CellContext) -> Value:
    """Lines of a change, as “1.2 4200; R1 -500”: an element, an activity or a reserve, and an amount; or ready-made."""
    if isinstance(value, list):
        return value or None
    out, book = [], context.book
    known = (("wbs", {w.code for w in book.wbs}), ("activity", set(book.activity_by_code)), ("reserve", {x.code for x in book.reserves}))
    for part in filter(None, (p.strip() for p in str(value or "").split(";"))):
        code, _, amount = part.partition(" ")
        named = next((kind for kind, codes in known if code in codes), None)
        money = _amount(signed=True)(amount, field, context)
        if named is None or money is None:
            raise EntryRefused(field, sentence("cells.change_lines", part=part[:60]))
        out.append({named: code, "amount": money})
    return out or None


def _order_lines(value: Value, field: str, context: CellContext) -> Value:
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
        money = _amount(signed=True)(amount, field, context) if what else None
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


_OBJECTS: dict[str, Read] = {
    "units": _units,
    "constraint": _constraint,
    "pauses": _pauses,
    "value_method": _value_method,
    "rates": _rates,
    "week": _week,
    "exceptions": _exceptions,
    "rhythm": _rhythm,
    "lines": _lines,
}
_CLOSING = ("finish", "deadline", "imposed_finish")
_ELSEWHERE = {
    "activities": ("wbs", "fields"),
    "project": ("fields", "kind"),
    "fields": ("given_by",),
    "resources": ("shared",),
    "wbs": ("parent",),
    "links": ("from", "to", "type", "lag", "lag_basis"),
    "assignments": ("activity", "resource"),
    "costs": ("activity",),
    "estimates": ("measure", "total", "top", "shares"),
    "changes": ("state", "approved_by", "decided", "decided_by", "decided_at", "baseline", "cost"),
}
"""Columns that no cell writes: they are changed by verbs of their own."""


def _reader(c: Column) -> Read:
    """How a cell of a column is read."""
    if c.key in _OBJECTS:
        return _OBJECTS[c.key]
    if c.names == "calendars":
        return _calendar
    if c.key == "work":
        return _work
    if c.required and c.kind in ("code", "name"):
        return lambda value, field, context: required(value, field)
    most = LONGEST.get(c.kind, 300)
    if c.key == "formula":
        return _formula
    if c.kind == "number":
        return _number(c.least if c.above is None else None, c.above, c.most)
    kinds: dict[str, Read] = {
        "choice": _choice(c.options),
        "flag": _flag,
        "of_hundred": _of_hundred,
        "amount": _amount(c.signed),
        "instant": _instant(c.key in _CLOSING),
        "date": _day,
        "span": _span,
        "texts": _texts,
        "currency": _currency,
    }
    return kinds.get(c.kind) or (lambda value, field, context: text(value, field, most))


CELLS: dict[str, dict[str, Read]] = {
    name: {c.key: _reader(c) for c in of.columns if c.key not in _ELSEWHERE.get(name, ())}
    for name, of in {**LISTS, "project": PROJECT}.items()
    if name not in ("baselines", "periods")
}
CELLS["orders"]["lines"] = _order_lines
"""The readers of typed cells, by list and column."""


def own_field(book: Book, code: str, value: Value, context: CellContext, scope: str = "activity") -> Value:
    """The value of one of the project's own fields, of an activity or of the project itself."""
    field = f"fields.{code}"
    definition = next((d for d in fields_of(book.fields, scope) if d.code == code), None)
    if definition is None:
        raise EntryRefused(field, sentence("cells.no_field", code=code))
    kind = definition.holds
    if value is None or str(value).strip() == "":
        return None
    readers: dict[object, Read] = {"number": _number(Decimal(-(10**12))), "date": _day, "yes_no": _flag}
    if kind in readers:
        return readers[kind](value, field, context)
    if kind == "formula":
        raise EntryRefused(field, sentence("cells.field_worked_out_formula"))
    if kind == "choice":
        options = definition.options
        found = next((o for o in options if o.lower() == str(value).strip().lower()), None)
        if found is None:
            raise EntryRefused(field, sentence("cells.none_of_these", value=value, names=", ".join(options)))
        return found
    return text(value, field)
