"""Cells of the plan that hold one value: what is typed, as the book writes it. Refused in words beside the cell."""

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from dryledger.book.currencies import DIGITS
from dryledger.book.formulas import check_formula
from dryledger.book.lists import CONSTRAINTS, VALUE_METHODS
from dryledger.book.plan import Book
from dryledger.calendar.calendar import Calendar, Instant, to_date_text, to_text
from dryledger.entry.grammar import read_number, type_amount, type_number, type_percent, typed_text
from dryledger.entry.plan_cells import possible, type_constraint, type_instant, type_span
from dryledger.entry.rhythms import type_rhythm
from dryledger.errors import EntryRefused
from dryledger.words import sentence

__all__ = ["LONGEST", "CellContext", "Read", "Value", "required", "text", "words_of"]
__all__ += ["cell_amount", "cell_calendar", "cell_choice", "cell_constraint", "cell_currency", "cell_day", "cell_flag", "cell_formula"]
__all__ += [
    "cell_instant",
    "cell_number",
    "cell_of_hundred",
    "cell_rhythm",
    "cell_span",
    "cell_units",
    "cell_value_method",
    "cell_work",
]

Value = Any
Read = Callable[[Value, str, "CellContext"], Value]
LONGEST = {"name": 300, "code": 100, "long": 20_000}


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


def words_of(options: tuple[str, ...]) -> str:
    """The options as the trade says them, for the sentence that tells what can be chosen.

    >>> words_of(("zero_hundred", "percent"))
    '0/100, percent'
    """
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


def _inwords_of(value: Value) -> str:
    bare = str(value or "").strip().lower()
    return SYNONYMS.get(bare, bare).replace(" ", "_")


def cell_choice(options: tuple[str, ...]) -> Read:
    """One of a few words, as far as it is the beginning of one alone."""

    def read(value: Value, field: str, context: CellContext) -> Value:
        bare = _inwords_of(value)
        if not bare:
            return None
        found = [w for w in options if w.startswith(bare)]
        if len(found) != 1 and bare not in options:
            raise EntryRefused(field, sentence("cells.none", value=value, words=words_of(options)))
        return bare if bare in options else found[0]

    return read


def cell_formula(value: Value, field: str, context: CellContext) -> Value:
    """A formula that can be worked out."""
    got = text(value, field, LONGEST["long"])
    if got is not None:
        check_formula(got)
    return got


def cell_number(least: Decimal | None = Decimal(0), above: Decimal | None = None, most: Decimal | None = None) -> Read:
    """A number within limits."""

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


_ABOVE_ZERO = cell_number(None, Decimal(0))


def cell_units(value: Value, field: str, context: CellContext) -> Value:
    """Units of a resource; "50 %" of one is half a unit."""
    bare = typed_text(value if value is not None else "").strip()
    if not bare.endswith("%"):
        return _ABOVE_ZERO(value, field, context)
    share = type_number(bare.removesuffix("%"), field)
    return _ABOVE_ZERO(None if share is None else share / 100, field, context)


def cell_of_hundred(value: Value, field: str, context: CellContext) -> Value:
    """A share typed in per cent, kept as a number of a hundred."""
    share = None if value is None or str(value).strip() == "" else type_percent(typed_text(value), field)
    return None if share is None else float(share * 100)


def cell_flag(value: Value, field: str, context: CellContext) -> Value:
    """Yes or no."""
    if isinstance(value, bool) or value is None:
        return value
    bare = str(value).strip().lower()
    if bare in ("yes", "y", "true", "x", "1"):
        return True
    if bare in ("", "no", "n", "false", "0"):
        return False
    raise EntryRefused(field, sentence("cells.neither_yes_nor_no", value=value))


def cell_amount(signed: bool = False) -> Read:
    """Money in the project's currency."""

    def read(value: Value, field: str, context: CellContext) -> Value:
        unit = Decimal(1).scaleb(-DIGITS.get(context.book.project.currency, 2))
        got = None if value is None else type_amount(typed_text(value), unit, field)
        if got is not None and got < 0 and not signed:
            raise EntryRefused(field, sentence("cells.amount_cant_negative"))
        return None if got is None else f"{got:f}"

    return read


def cell_span(value: Value, field: str, context: CellContext) -> Value:
    """A length of time on the calendar of the row."""
    return None if value is None else type_span(typed_text(value), context.calendar, field)


def cell_work(value: Value, field: str, context: CellContext) -> Value:
    """Work of one who is assigned; a bare number is hours, as their hours are posted."""
    bare = typed_text(value or "").strip()
    return cell_span(f"{bare}h" if read_number(bare) is not None else value, field, context)


def cell_instant(closing: bool = False) -> Read:
    """A date, with or without a time; `closing` dates end with the day."""

    def read(value: Value, field: str, context: CellContext) -> Value:
        got = type_instant(str(value or ""), field, context.near, context.calendar.axis, closing)
        return None if got is None else to_text(got)

    return read


def cell_day(value: Value, field: str, context: CellContext) -> Value:
    """A date."""
    got = type_instant(str(value or ""), field, context.near, context.calendar.axis)
    return None if got is None else to_date_text(got)


def cell_calendar(value: Value, field: str, context: CellContext) -> Value:
    """A calendar by its code or name."""
    bare = str(value or "").strip()
    if not bare:
        return None
    for c in context.book.calendars:
        if bare.lower() in (c.code.lower(), c.name.lower()):
            return c.code
    raise EntryRefused(field, sentence("cells.no_calendar", value=bare[:60], names=", ".join(c.name for c in context.book.calendars)))


def cell_currency(value: Value, field: str, context: CellContext) -> Value:
    """A currency by its three letters."""
    bare = str(value or "").strip().upper()
    if bare not in DIGITS:
        raise EntryRefused(field, sentence("cells.currency_three_letters_eur"))
    return bare


def cell_constraint(value: Value, field: str, context: CellContext) -> Value:
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


def cell_value_method(value: Value, field: str, context: CellContext) -> Value:
    """How value is earned: its type, with what the type needs. The book's own rules check the rest."""
    if isinstance(value, dict):
        return value
    bare = _inwords_of(value).replace("-", "_")
    if bare and bare not in VALUE_METHODS:
        raise EntryRefused(field, sentence("cells.none", value=value, words=words_of(VALUE_METHODS)))
    return {"type": bare} if bare else None


def cell_rhythm(value: Value, field: str, context: CellContext) -> Value:
    """A rhythm as its sentence, or ready-made."""
    if isinstance(value, dict):
        return value
    got = type_rhythm(str(value or ""), field)
    if got is None:
        return None
    return {"every": got.every, "n": int(got.n), "on": got.on} | ({"at": got.at} if got.at else {})
