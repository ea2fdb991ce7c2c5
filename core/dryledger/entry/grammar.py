"""Entries as people type them into a cell, read or refused in words.

Each reader takes the text and what it depends on, and gives a value or raises EntryRefused with the field, a plain
sentence and, where there is one, the nearest value that would be taken. Nothing here knows today's date.
"""

import re
from datetime import date
from decimal import Decimal, InvalidOperation

from dryledger.book.reader import duration_minutes
from dryledger.calendar.calendar import DAY, Axis, Calendar, Instant, date_of, midnight
from dryledger.errors import EntryRefused

__all__ = ["instant_text", "latest_allowed", "said_day", "type_amount", "type_date", "type_duration", "type_percent"]

MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_TIME = re.compile(r"(?:\s+|T)(\d{1,2}):(\d{2})$")
_NUMBER = re.compile(r"[+-]?(\d+([.,]\d+)?|[.,]\d+)")
_UNITS = {
    "": "d",
    "d": "d",
    "day": "d",
    "days": "d",
    "h": "h",
    "hour": "h",
    "hours": "h",
    "w": "w",
    "week": "w",
    "weeks": "w",
    "min": "min",
    "minutes": "min",
    "mo": "mo",
    "month": "mo",
    "months": "mo",
}


def said_day(t: Instant, with_time: bool = False) -> str:
    """An instant as a sentence says it.

    >>> said_day(midnight(date(2027, 3, 12)) + 17 * 60, True)
    '12 March 2027, 17:00'
    """
    day = date_of(t)
    text = f"{day.day} {day:%B} {day.year}"
    return f"{text}, {t % DAY // 60:02d}:{t % 60:02d}" if with_time else text


def _number(text: str) -> Decimal | None:
    plain = re.sub(r"[\s\u00a0\u2009\u202f']", "", text).replace("−", "-")
    if re.fullmatch(r"[+-]?\d{1,3}(,\d{3})+(\.\d+)?", plain):
        plain = plain.replace(",", "")
    if len(plain) > 18 or not _NUMBER.fullmatch(plain):
        return None
    try:
        return Decimal(plain.replace(",", "."))
    except InvalidOperation:
        return None


def type_percent(text: str, field: str = "percent") -> Decimal | None:
    """A share of 1 from "40", "40 %" or "37.5"; None for an empty cell.

    >>> type_percent("40 %")
    Decimal('0.4')
    """
    bare = text.strip().removesuffix("%").strip()
    if not bare:
        return None
    number = _number(bare)
    if number is None:
        raise EntryRefused(field, f"“{text.strip()[:40]}” is not a number. Give a percentage from 0 to 100, such as 40.")
    if number > 100:
        raise EntryRefused(field, f"{number:f} % is more than all of it. Give 0 to 100.", "100")
    if number < 0:
        raise EntryRefused(field, "Done can't be less than nothing. Give 0 to 100.", "0")
    return number / 100


def type_duration(text: str, calendar: Calendar, field: str = "remaining") -> tuple[int, str] | None:
    """(working minutes, canonical text) from "6", "6d", "6 days", "1.5w", "4h"; None for an empty cell.

    A bare number is days.

    >>> type_duration("6 days", Calendar("c", "c", ()))
    (2880, '6d')
    """
    bare = text.strip().lower()
    if not bare:
        return None
    found = re.fullmatch(r"(.+?)\s*([a-z]*)", bare)
    number = _number(found[1]) if found else None
    unit = _UNITS.get(found[2]) if found else None
    if number is None or unit is None:
        raise EntryRefused(field, f"“{text.strip()[:40]}” is not a duration. Give working time such as 6d, 4h or 1.5w.")
    if number < 0:
        raise EntryRefused(field, "Time to go can't be negative. Give 0 when nothing is left.", "0d")
    if number > 100_000:
        raise EntryRefused(field, "That is longer than any project. Give working time such as 6d, 4h or 1.5w.")
    number = number.quantize(Decimal("0.000001")).normalize()
    return duration_minutes(number, unit, calendar), f"{number:f}{unit}"


def type_amount(text: str, unit: Decimal, field: str = "cost") -> Decimal | None:
    """Money from "1200", "1 200.50", "1,200.50" or "-80"; None for an empty cell."""
    if not text.strip():
        return None
    number = _number(text)
    if number is None:
        raise EntryRefused(field, f"“{text.strip()[:40]}” is not an amount. Give money such as 1200 or 1200.50.")
    if abs(number) >= Decimal(10) ** 13:
        raise EntryRefused(field, "That amount is too large.")
    if number != number.quantize(unit):
        raise EntryRefused(field, f"The currency has no part smaller than {unit}. Round the amount.", f"{number.quantize(unit):f}")
    return number.quantize(unit)


def type_date(text: str, field: str, status: Instant, axis: Axis, closing: bool) -> Instant | None:
    """An instant from "12 feb", "12/2", "2027-02-12", "12 feb 14:00" or "-3d"; None for an empty cell.

    Without a year the one nearest the status date is meant. Without a time a start is the first working minute of
    the date and a finish (`closing`) the last, and never past the status instant on the status date itself. "-3d" is
    three working days before the status date.
    """
    bare = text.strip().lower()
    if not bare:
        return None
    found = _TIME.search(bare)
    clock = None
    if found:
        clock = int(found[1]) * 60 + int(found[2])
        if clock > DAY or int(found[2]) > 59:
            raise EntryRefused(field, f"“{found[0].strip()}” is not a time of day. Give hours and minutes such as 14:30.")
        bare = bare[: found.start()].strip()
    day = _day(bare, status, axis)
    if day is None:
        raise EntryRefused(field, f"“{text.strip()[:40]}” is not a date. Give one such as 12 feb, 12/2 or 2027-02-12.")
    if clock is not None:
        return midnight(day) + clock
    opens, closes = midnight(day), midnight(day) + DAY
    if axis.between(opens, closes) == 0:
        return min(opens + (17 if closing else 8) * 60, max(status, opens))
    if not closing:
        return axis.last(axis.pos(opens))
    close = axis.first(axis.pos(closes))
    return status if opens < status < close else close


def _day(text: str, status: Instant, axis: Axis) -> date | None:
    near = date_of(status)
    try:
        if re.fullmatch(r"\d{4}-\d{2}-\d{2}", text):
            return date.fromisoformat(text)
        if found := re.fullmatch(r"([+-])(\d{1,4})\s*d?", text.replace("−", "-")):
            moved = axis.pos(midnight(near))
            step = round(axis.between(midnight(near), midnight(near) + 7 * DAY) / 5) or 480
            return date_of(axis.last(moved + (step if found[1] == "+" else -step) * int(found[2])))
        if found := re.fullmatch(r"(\d{1,2})[./ -]+(\d{1,2})\.?(?:[./ -]+(\d{2}|\d{4}))?", text):
            return _dated(int(found[1]), int(found[2]), found[3], near)
        if found := re.fullmatch(r"(\d{1,2})\.?[ -]*([a-z]{3,9})\.?(?:[ -,]+(\d{2}|\d{4}))?", text):
            month = next((i for i, m in enumerate(MONTHS, 1) if found[2].startswith(m)), 0)
            return _dated(int(found[1]), month, found[3], near)
    except ValueError:
        return None
    return None


def _dated(day: int, month: int, year: str | None, near: date) -> date:
    if year is not None:
        return date(int(year) + (2000 if len(year) == 2 else 0), month, day)
    options = []
    for y in (near.year - 1, near.year, near.year + 1):
        try:
            options.append(date(y, month, day))
        except ValueError:
            continue
    if not options:
        raise ValueError(f"{day}/{month} is on no calendar")
    return min(options, key=lambda d: abs((d - near).days))


def latest_allowed(status: Instant, axis: Axis) -> str:
    """The latest date an actual may carry, as one would type it."""
    day = date_of(min(status, axis.first(axis.pos(status))))
    return f"{day.day} {MONTHS[day.month - 1]}"


def instant_text(t: Instant) -> str:
    """A short date as cells show it: "12 Mar"."""
    day = date_of(t)
    return f"{day.day} {MONTHS[day.month - 1].capitalize()}"
