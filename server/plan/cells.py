"""What is typed into a cell of the plan, as the column of its row keeps it. Refused in words beside the cell."""

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from dryledger.book.lists import ACCRUALS, CONSTRAINTS, EAC_METHODS, PERS, PROFILES, TREATMENTS, VALUE_METHODS
from dryledger.book.plan import Book
from dryledger.book.registers import REGISTERS, Column
from dryledger.budget.money import minor_unit
from dryledger.calendar.calendar import Calendar as CoreCalendar
from dryledger.calendar.calendar import Instant, to_date_text, to_text
from dryledger.entry.grammar import type_amount, type_percent
from dryledger.entry.plan_cells import type_constraint, type_instant, type_shifts, type_span
from dryledger.errors import EntryRefused

Value = Any
LONGEST = {"name": 300, "code": 100, "description": 20_000}
WORDS = {
    "kind": ("task", "milestone"),
    "mode": ("driven", "fixed"),
    "driver": ("duration", "work"),
    "profile": PROFILES,
    "accrual": ACCRUALS,
    "treatment": TREATMENTS,
    "eac": EAC_METHODS,
    "resource_kind": ("labour", "equipment", "material"),
    "cost_kind": ("fixed", "per_day"),
}


@dataclass(frozen=True)
class Around:
    """What a typed cell is read against: the book as it stands, the calendar of the row, and a date near it."""

    book: Book
    calendar: CoreCalendar
    near: Instant


def text(value: Value, field: str) -> str | None:
    """A text; None when empty."""
    if value is None:
        return None
    if not isinstance(value, str):
        raise EntryRefused(field, "Give a text.")
    most = LONGEST.get(field, 300)
    if len(value) > most:
        raise EntryRefused(field, f"That has {len(value):,} characters; there is room for {most:,}.")
    return " ".join(value.split()) if most <= 300 else value.strip() or None


def required(value: Value, field: str) -> str:
    """A text that may not be empty."""
    got = text(value, field)
    if not got:
        raise EntryRefused(field, f"A {field} can't be empty. Give one.")
    return got


def choice(name: str) -> Callable[[Value, str, Around], Value]:
    """One of a few words."""

    def read(value: Value, field: str, around: Around) -> Value:
        bare = str(value or "").strip().lower().replace(" ", "_")
        if not bare:
            return None
        found = [w for w in WORDS[name] if w.startswith(bare)]
        if len(found) != 1 and bare not in WORDS[name]:
            raise EntryRefused(field, f"“{value}” is none of: {', '.join(w.replace('_', ' ') for w in WORDS[name])}.")
        return bare if bare in WORDS[name] else found[0]

    return read


def number(least: float = 0, above: bool = False, percent: bool = False) -> Callable[[Value, str, Around], Value]:
    """A plain number with a lower bound."""

    def read(value: Value, field: str, around: Around) -> Value:
        if value is None or str(value).strip() == "":
            return None
        if percent:
            share = type_percent(str(value), field)
            return None if share is None else float(share * 100)
        got = type_amount(str(value), Decimal("0.000001"), field)
        assert got is not None
        if got < Decimal(str(least)) or (above and got == Decimal(str(least))):
            raise EntryRefused(field, f"Give a number {'above' if above else 'of at least'} {least:g}.")
        return float(got)

    return read


def flag(value: Value, field: str, around: Around) -> Value:
    """Yes or no."""
    if isinstance(value, bool) or value is None:
        return value
    bare = str(value).strip().lower()
    if bare in ("yes", "y", "true", "x", "1"):
        return True
    if bare in ("", "no", "n", "false", "0"):
        return False
    raise EntryRefused(field, f"“{value}” is neither yes nor no.")


def amount(signed: bool = False, exact: bool = True) -> Callable[[Value, str, Around], Value]:
    """Money in the project's currency; a rate (not `exact`) may have finer parts."""

    def read(value: Value, field: str, around: Around) -> Value:
        unit = minor_unit(around.book.project.currency) if exact else Decimal("0.000001")
        got = None if value is None else type_amount(str(value), unit, field)
        if got is not None and got < 0 and not signed:
            raise EntryRefused(field, "This amount can't be negative.")
        return None if got is None else f"{got:f}"

    return read


def span(value: Value, field: str, around: Around) -> Value:
    """A duration on the row's calendar."""
    return None if value is None else type_span(str(value), around.calendar, field)


def instant(closing: bool = False) -> Callable[[Value, str, Around], Value]:
    """A date, or a date and time."""

    def read(value: Value, field: str, around: Around) -> Value:
        got = type_instant(str(value or ""), field, around.near, around.calendar.axis, closing)
        return None if got is None else to_text(got)

    return read


def day(value: Value, field: str, around: Around) -> Value:
    """A date without a time."""
    got = type_instant(str(value or ""), field, around.near, around.calendar.axis)
    return None if got is None else to_date_text(got)


def calendar_code(value: Value, field: str, around: Around) -> Value:
    """A calendar by its code or name."""
    bare = str(value or "").strip()
    if not bare:
        return None
    for c in around.book.calendars:
        if bare.lower() in (c.code.lower(), c.name.lower()):
            return c.code
    raise EntryRefused(field, f"There is no calendar “{bare[:60]}”. There are: {', '.join(c.name for c in around.book.calendars)}.")


def constraint(value: Value, field: str, around: Around) -> Value:
    """A constraint as its sentence, or ready-made as {type, at}."""
    if isinstance(value, dict):
        kind = value.get("type")
        if kind not in CONSTRAINTS:
            raise EntryRefused(field, f"“{kind}” is not a constraint.")
        if kind == "as_late_as_possible":
            return {"type": kind}
        at = type_instant(str(value.get("at") or ""), field, around.near, around.calendar.axis, "finish" in kind)
        if at is None:
            raise EntryRefused(field, "Give the date that it is held to.")
        return {"type": kind, "at": to_text(at)}
    got = type_constraint(str(value or ""), around.near, around.calendar.axis, field)
    return None if got is None else {"type": got.type} | ({} if got.at is None else {"at": to_text(got.at)})


def pauses(value: Value, field: str, around: Around) -> Value:
    """A list of {from, to, reason}."""
    out = []
    for p in value or []:
        a = type_instant(str(p.get("from") or ""), field, around.near, around.calendar.axis)
        b = type_instant(str(p.get("to") or ""), field, around.near, around.calendar.axis, closing=True)
        if a is None or b is None:
            raise EntryRefused(field, "A pause needs the date from which and the date to which it lasts.")
        if b <= a:
            raise EntryRefused(field, "A pause must end after it begins.")
        out.append({"from": to_text(a), "to": to_text(b)} | ({"reason": str(p["reason"])[:300]} if p.get("reason") else {}))
    return sorted(out, key=lambda p: p["from"]) or None


def value_method(value: Value, field: str, around: Around) -> Value:
    """How value is earned: its type, with what the type needs. The book's own rules check the rest."""
    if isinstance(value, dict):
        return value
    bare = str(value or "").strip().lower().replace(" ", "_").replace("-", "_")
    if bare and bare not in VALUE_METHODS:
        raise EntryRefused(field, f"“{value}” is none of: {', '.join(m.replace('_', ' ') for m in VALUE_METHODS)}.")
    return {"type": bare} if bare else None


def rates(value: Value, field: str, around: Around) -> Value:
    """A list of {from, amount, per, overtime}."""
    out = []
    for r in value or []:
        start, money = day(r.get("from"), field, around), amount(exact=False)(r.get("amount"), field, around)
        per = str(r.get("per") or "hour").replace(" ", "_")
        if start is None or money is None:
            raise EntryRefused(field, "A rate needs the date from which it holds and an amount.")
        if per not in PERS:
            raise EntryRefused(field, f"A rate is per one of: {', '.join(p.replace('_', ' ') for p in PERS)}.")
        more = amount(exact=False)(r.get("overtime"), field, around)
        out.append({"from": start, "amount": money, "per": per} | ({"overtime": more} if more else {}))
    return sorted(out, key=lambda r: (r["per"], r["from"])) or None


def week(value: Value, field: str, around: Around) -> Value:
    """The shifts of each weekday, as texts such as "8-12, 13-17" or ready-made lists."""
    days = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
    out = {d: type_shifts(", ".join(v) if isinstance(v := (value or {}).get(d, ""), list) else str(v), f"{field}.{d}") for d in days}
    return {d: v for d, v in out.items() if v}


def exceptions(value: Value, field: str, around: Around) -> Value:
    """A list of {from, to, shifts, name}; without shifts a day off."""
    out = []
    for e in value or []:
        a = day(e.get("from"), field, around)
        b = day(e.get("to"), field, around) or a
        if a is None or b is None:
            raise EntryRefused(field, "Give the date, or the first and the last of several.")
        if b < a:
            raise EntryRefused(field, f"{b} lies before {a}. Give the first date first.")
        s = e.get("shifts", "")
        shifts = type_shifts(", ".join(s) if isinstance(s, list) else str(s or ""), field)
        out.append({"from": a, "to": b, "shifts": shifts} | ({"name": str(e["name"])[:100]} if e.get("name") else {}))
    return sorted(out, key=lambda e: e["from"]) or None


def texts(value: Value, field: str, around: Around) -> Value:
    """Words apart by semicolons or commas, or a list of them."""
    parts = value if isinstance(value, list) else str(value or "").replace(";", ",").split(",")
    return [p.strip() for p in map(str, parts) if p.strip()] or None


def plain(value: Value, field: str, around: Around) -> Value:
    """A text."""
    return text(value, field) or None


def needed(value: Value, field: str, around: Around) -> Value:
    """A text that may not be empty."""
    return required(value, field)


Cells = dict[str, Callable[[Value, str, Around], Value]]
_CODED: Cells = {"code": needed, "name": needed}
CELLS: dict[str, Cells] = {
    "project": _CODED
    | dict.fromkeys(("client", "manager", "description", "state", "currency"), plain)
    | {
        "start": instant(),
        "deadline": instant(True),
        "imposed_finish": instant(True),
        "calendar": calendar_code,
        "critical_float": span,
        "treatment": choice("treatment"),
        "eac": choice("eac"),
        "measured_against": plain,
        "compared_with": texts,
    },
    "activities": _CODED
    | {
        "duration": span,
        "safe_duration": span,
        "calendar": calendar_code,
        "kind": choice("kind"),
        "mode": choice("mode"),
        "start": instant(),
        "finish": instant(True),
        "constraint": constraint,
        "deadline": instant(True),
        "pauses": pauses,
        "driver": choice("driver"),
        "value_method": value_method,
        "profile": choice("profile"),
        "weight": number(),
    },
    "wbs": _CODED | {"weight": number()},
    "links": {},
    "assignments": {"units": number(above=True), "work": span, "quantity": number()},
    "costs": {"name": needed, "kind": choice("cost_kind"), "amount": amount(), "accrual": choice("accrual"), "in_budget": flag},
    "resources": _CODED
    | {
        "kind": choice("resource_kind"),
        "units": number(above=True),
        "calendar": calendar_code,
        "role": flag,
        "rates": rates,
        "skills": texts,
    },
    "calendars": _CODED
    | {
        "week": week,
        "exceptions": exceptions,
        "hours_per_day": number(above=True),
        "hours_per_week": number(above=True),
        "hours_per_month": number(above=True),
    },
    "estimates": _CODED,
}


def register_cell(column: Column) -> Callable[[Value, str, Around], Value]:
    """The reader of one column of a register."""

    def pick(value: Value, field: str, around: Around) -> Value:
        bare = str(value or "").strip().lower().replace(" ", "_")
        if bare and bare not in column.options:
            raise EntryRefused(field, f"“{value}” is none of: {', '.join(o.replace('_', ' ') for o in column.options)}.")
        return bare or None

    def long(value: Value, field: str, around: Around) -> Value:
        return str(value or "").strip()[:20_000] or None

    kinds: Cells = {
        "date": day,
        "percent": number(percent=True),
        "amount": amount(column.signed),
        "choice": pick,
        "texts": texts,
        "long": long,
    }
    return kinds.get(column.kind, plain)


for _name, _columns in REGISTERS.items():
    CELLS[_name] = _CODED | {c.key: register_cell(c) for c in _columns}


def own_field(book: Book, code: str, value: Value, around: Around) -> Value:
    """The value of one of the project's own fields."""
    field = f"fields.{code}"
    definition = next((d for d in book.fields if d["code"] == code), None)
    if definition is None:
        raise EntryRefused(field, f"There is no field “{code}”.")
    kind = definition.get("kind", "text")
    if value is None or str(value).strip() == "":
        return None
    if kind == "number":
        return number(least=-1e12)(value, field, around)
    if kind == "date":
        return day(value, field, around)
    if kind == "yes_no":
        return flag(value, field, around)
    if kind == "formula":
        raise EntryRefused(field, "This field is worked out by its formula. Change what it is made of.")
    if kind == "choice":
        options = definition.get("options") or ()
        found = next((o for o in options if o.lower() == str(value).strip().lower()), None)  # type: ignore[attr-defined]
        if found is None:
            raise EntryRefused(field, f"“{value}” is none of: {', '.join(options)}.")  # type: ignore[arg-type]
        return found
    return text(value, field) or None
