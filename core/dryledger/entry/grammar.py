"""Entries as people type them into a cell, read or refused in words.

Each reader takes the text and what it depends on, and gives a value or raises EntryRefused with the field, a plain
sentence and, where there is one, the nearest value that would be taken. Nothing here knows today's date.
"""

import re
from collections.abc import Sequence
from datetime import date
from decimal import Decimal

from dryledger.book.reader import duration_minutes
from dryledger.calendar.calendar import DAY, END_OF_TIME, Axis, Calendar, Instant, date_of, midnight
from dryledger.errors import EntryRefused
from dryledger.formats import format_number, formats_typed, formats_written
from dryledger.words import sentence

__all__ = [
    "MONTHS",
    "TwoWays",
    "format_date",
    "format_day",
    "instant_text",
    "latest_allowed",
    "read_day",
    "read_number",
    "read_span",
    "type_amount",
]
__all__ += ["type_date", "type_duration", "type_percent", "typed_text", "working_day"]

MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_TIME = re.compile(r"(?:\s+|T)(\d{1,2}):(\d{2})$")
THOUSANDTH = Decimal("0.001")
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
    "minute": "min",
    "minutes": "min",
    "mo": "mo",
    "month": "mo",
    "months": "mo",
}


def format_day(t: Instant, with_time: bool = False) -> str:
    """An instant as a sentence says it.

    >>> format_day(midnight(date(2027, 3, 12)) + 17 * 60, True)
    '12 March 2027, 17:00'
    """
    text = format_date(date_of(t))
    return f"{text}, {t % DAY // 60:02d}:{t % 60:02d}" if with_time else text


def format_date(day: date, short: bool = False, year: bool = True) -> str:
    """A date in words, in the order of the formats.

    >>> format_date(date(2027, 3, 12)), format_date(date(2027, 3, 12), short=True, year=False)
    ('12 March 2027', '12 Mar')
    """
    month = f"{day:%b}" if short else f"{day:%B}"
    if formats_written().month_first:
        return f"{month} {day.day}, {day.year}" if year else f"{month} {day.day}"
    return f"{day.day} {month} {day.year}" if year else f"{day.day} {month}"


class TwoWays(ValueError):
    """A text that can be read two ways; `options` are the ways to write it."""

    def __init__(self, *options: str) -> None:
        self.options = options
        super().__init__(" or ".join(options))


def read_number(text: str, file: bool = False) -> Decimal | None:
    """A number with a decimal point or comma and thousands apart by spaces, apostrophes or commas; None where it is none.

    In a `file` nobody looks at what was understood, so that "1,234" raises TwoWays there; in a cell it is 1234, or 1.234
    of one whose decimals follow a comma, who means 1234 by "1.234".

    >>> read_number("1 200,5"), read_number("1.200,50", file=True), read_number("12,34,5")
    (Decimal('1200.5'), Decimal('1200.50'), None)
    """
    bare = re.sub(r"[\s\u00a0\u2009\u202f']", "", text).replace("−", "-")
    if not file and formats_typed().decimal == ",":
        bare = _with_point(bare)
    if file and re.fullmatch(r"[+-]?[1-9]\d{0,2},\d{3}", bare):
        raise TwoWays(bare.replace(",", ""), bare.replace(",", "."))
    if re.fullmatch(r"[+-]?[1-9]\d{0,2}(,\d{3})+(\.\d+)?", bare):
        bare = bare.replace(",", "")
    elif re.fullmatch(r"[+-]?\d{1,3}(\.\d{3})+,\d+", bare):
        bare = bare.replace(".", "").replace(",", ".")
    if len(bare) > 38 or not _NUMBER.fullmatch(bare):
        return None
    found = Decimal(bare.replace(",", "."))
    return found if abs(found) < Decimal(10) ** 18 else None


def _with_point(bare: str) -> str:
    """What somebody typed whose decimals follow a comma, with a point before them."""
    if re.fullmatch(r"[+-]?[1-9]\d{0,2}(\.\d{3})+(,\d*)?", bare):
        bare = bare.replace(".", "")
    return bare.replace(",", ".") if bare.count(",") == 1 and "." not in bare else bare


def read_span(text: str, file: bool = False) -> tuple[Decimal, str] | None:
    """A duration as number and unit from "6", "6d", "6 days", "1.5w" or "4 hours"; None where it is none. Bare numbers are days.

    >>> read_span("1,5 weeks"), read_span("90 min"), read_span("a while")
    ((Decimal('1.5'), 'w'), (Decimal('90'), 'min'), None)
    """
    found = re.fullmatch(r"(.+?)\s*([a-z]*)", text.strip().lower())
    number = read_number(found[1], file) if found else None
    unit = _UNITS.get(found[2]) if found else None
    return None if number is None or unit is None else (number, unit)


def read_day(text: str, near: date | None = None) -> date | None:
    """A date from "12 feb", "feb 12", "12/2", "12.02.2027" or "2027-02-12"; None where it is none.

    Slashes go by the order of the formats; with points the day always comes first. Without a year the one nearest to `near`
    is meant. With no `near`, as in a file, a year is needed, and what may be day or month first raises TwoWays.
    """
    try:
        if re.fullmatch(r"\d{4}-\d{2}-\d{2}", text):
            return date.fromisoformat(text)
        if found := re.fullmatch(r"(\d{4})[./](\d{1,2})[./](\d{1,2})", text):
            return date(int(found[1]), int(found[2]), int(found[3]))
        if found := re.fullmatch(r"(\d{1,2})[./ -]+(\d{1,2})\.?(?:[./ -]+(\d{2}|\d{4}))?\.?", text):
            first, second = int(found[1]), int(found[2])
            if near is not None and formats_typed().month_first and "." not in text:
                first, second = second, first
            return _numbered(first, second, found[3], near, "." in text)
        if found := re.fullmatch(r"(\d{1,2})\.?[ -]*([a-z]{3,9})\.?(?:[ -,]+(\d{2}|\d{4}))?", text):
            return _dated(int(found[1]), _month(found[2]), found[3], near)
        if found := re.fullmatch(r"([a-z]{3,9})\.?[ -]*(\d{1,2})(?:[ ,]+(\d{2}|\d{4}))?", text):
            return _dated(int(found[2]), _month(found[1]), found[3], near)
    except TwoWays:
        raise
    except ValueError:
        return None
    return None


def _month(name: str) -> int:
    return next((i for i, m in enumerate(MONTHS, 1) if name.startswith(m)), 0)


def _numbered(day: int, month: int, year: str | None, near: date | None, dotted: bool) -> date | None:
    if near is not None:
        return _dated(day, month, year, near)
    if year is None or len(year) != 4:
        return None
    if day <= 12 and month <= 12 and day != month and not dotted:
        raise TwoWays(f"{year}-{month:02}-{day:02}", f"{year}-{day:02}-{month:02}")
    return date(int(year), day, month) if month > 12 else date(int(year), month, day)


def typed_text(value: object) -> str:
    """A value that is to be read as typed: a number that is one already, as who types it would write it.

    >>> typed_text(2.5), typed_text("2,5")
    ('2.5', '2,5')
    """
    text = str(value)
    return text.replace(".", formats_typed().decimal) if isinstance(value, int | float | Decimal) else text


def type_percent(text: str, field: str = "percent") -> Decimal | None:
    """A share of 1 from "40", "40 %" or "37.5"; None for an empty cell.

    >>> type_percent("40 %")
    Decimal('0.4')
    """
    bare = text.strip().removesuffix("%").strip()
    if not bare:
        return None
    number = read_number(bare)
    if number is None:
        raise EntryRefused(field, sentence("grammar.number_percentage_from", value=text.strip()[:40]))
    if number > 100:
        raise EntryRefused(field, sentence("grammar.more_all", number=number), "100")
    if number < 0:
        raise EntryRefused(field, sentence("grammar.complete_cant_less"), "0")
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
    found = read_span(bare)
    if found is None:
        raise EntryRefused(field, sentence("grammar.duration_working_time_d", value=text.strip()[:40]))
    number, unit = found
    if number < 0:
        raise EntryRefused(field, sentence("grammar.duration_cant_negative_when"), "0d")
    if number > 100_000:
        raise EntryRefused(field, sentence("grammar.longer_any_project_working"))
    number = number.quantize(Decimal("0.000001")).normalize()
    return duration_minutes(number, unit, calendar), f"{number:f}{unit}"


def type_amount(text: str, unit: Decimal, field: str = "cost") -> Decimal | None:
    """Money from "1200", "1 200.50", "1,200.50" or "-80"; None for an empty cell.

    Money such as "31.000" is refused: some mean thirty-one by it, others 31 000. So is "31,000" where the currency has three digits.
    """
    number = type_number(text, field, unit, sentence("grammar.amount_money", value=text.strip()[:40]))
    if number is None:
        return None
    if number != number.quantize(unit):
        raise EntryRefused(field, sentence("grammar.currency_no_part_smaller", unit=unit), format_number(number.quantize(unit)))
    return number.quantize(unit)


def type_number(text: str, field: str, unit: Decimal = THOUSANDTH, otherwise: str = "") -> Decimal | None:
    """A number from "2.5", "2,5" or "1 200"; None for an empty cell. Raises EntryRefused, `otherwise` where it is none.

    What is either of two numbers is refused: "31.000" where the finest part, `unit`, is coarser than a thousandth, else "31,000".

    >>> type_number("2,5", "units")
    Decimal('2.5')
    """
    if not text.strip():
        return None
    number = read_number(text)
    comma = formats_typed().decimal == ","
    if number is not None and not comma and unit > THOUSANDTH and re.fullmatch(r"[+-]?[1-9]\d{0,2}\.\d{3}", text.strip()):
        whole = text.strip().replace(".", "")
        raise EntryRefused(
            field, sentence("grammar.read_type_one_you", text=text.strip(), whole=whole, normalize=number.normalize()), whole
        )
    if number is not None and not comma and unit <= THOUSANDTH and re.fullmatch(r"[+-]?[1-9]\d{0,2},\d{3}", text.strip()):
        point = text.strip().replace(",", ".")
        raise EntryRefused(
            field, sentence("grammar.read_type_one_you", text=text.strip(), whole=f"{number:f}", normalize=Decimal(point)), f"{number:f}"
        )
    if number is None:
        raise EntryRefused(field, otherwise or sentence("grammar.number", value=text.strip()[:40]))
    if abs(number) >= Decimal(10) ** 13:
        raise EntryRefused(field, sentence("grammar.too_large"))
    return number


def type_date(
    text: str, field: str, status: Instant, axis: Axis, closing: bool, milestone: Sequence[Instant] | None = None
) -> Instant | None:
    """An instant from "12 feb", "12/2", "2027-02-12", "12 feb 14:00" or "-3d"; None for an empty cell.

    Without a year the one nearest the status date is meant. Without a time a start is the first working minute of
    the date and a finish (`closing`) the last, and never past the status instant on the status date itself. "-3d" is
    three dates with working time before the status date. Of a milestone the date stands for the instant that its
    forecast, else its baseline, has on it (`milestone`: these, best first), else for the close of the day on `axis`.
    """
    bare = text.strip().lower()
    if not bare:
        return None
    found = _TIME.search(bare)
    clock = None
    if found:
        clock = int(found[1]) * 60 + int(found[2])
        if clock > DAY or int(found[2]) > 59:
            raise EntryRefused(field, sentence("grammar.time_day_hours_minutes", strip=found[0].strip()))
        bare = bare[: found.start()].strip(" ,")
    if field in ("actual_start", "actual_finish") and bare.startswith("+"):
        back = f"-{bare[1:].strip()}"
        raise EntryRefused(field, sentence("grammar.what_happened_lies_before", back=back), back)
    day = _day(bare, status, axis)
    if day is None:
        raise EntryRefused(field, sentence("grammar.date_one_feb", value=text.strip()[:40]))
    if clock is not None:
        return midnight(day) + clock
    opens, closes = midnight(day), midnight(day) + DAY
    if milestone is not None:
        return _reached(opens, closes, status, axis, milestone)
    if axis.between(opens, closes) == 0:
        return min(opens + (17 if closing else 8) * 60, max(status, opens))
    if not closing:
        return axis.last(axis.pos(opens))
    close = axis.first(axis.pos(closes))
    return status if opens < status < close else close


def _day(text: str, status: Instant, axis: Axis) -> date | None:
    near = date_of(status)
    if found := re.fullmatch(r"([+-])(\d{1,4})\s*d?", text.replace("−", "-")):
        return working_day(axis, near, int(found[2]) if found[1] == "+" else -int(found[2]))
    return read_day(text, near)


def _reached(opens: Instant, closes: Instant, status: Instant, axis: Axis, known: Sequence[Instant]) -> Instant:
    """When a milestone was reached on a date: as it was to be, else at the close, on the status date never past the status."""
    found = next((t for t in known if opens <= t < closes and t <= status), None)
    if found is not None:
        return found
    close = axis.first(axis.pos(closes)) if axis.between(opens, closes) else closes
    return status if opens < status < close else close


def working_day(axis: Axis, near: date, n: int) -> date | None:
    """The n-th date with working time after a date (before it where n < 0; itself for 0); None where there is none.

    >>> from dryledger.calendar.axis import Stretch
    >>> six = Axis([Stretch(0, 10**9, 0, 7 * DAY, tuple((d * DAY + 480, d * DAY + 960) for d in range(6)))])
    >>> working_day(six, date(2027, 3, 12), -1).isoformat(), working_day(six, date(2027, 3, 12), 2).isoformat()
    ('2027-03-11', '2027-03-15')
    """
    at, step = midnight(near), DAY if n > 0 else -DAY
    for _ in range(abs(n)):
        at += step
        for _ in range(4000):  # a gap of ten years is none that anybody counts over
            if not 0 < at < END_OF_TIME - DAY:
                return None
            if axis.between(at, at + DAY):
                break
            at += step
    return date_of(at)


def _dated(day: int, month: int, year: str | None, near: date | None) -> date | None:
    if year is not None:
        return date(int(year) + (2000 if len(year) == 2 and near is not None else 0), month, day)
    if near is None:
        return None
    options = []
    for y in (near.year - 1, near.year, near.year + 1):
        try:
            options.append(date(y, month, day))
        except ValueError:
            continue
    if not options:
        raise ValueError(sentence("grammar.no_calendar", day=day, month=month))
    return min(options, key=lambda d: abs((d - near).days))


def latest_allowed(status: Instant, axis: Axis) -> str:
    """The latest date an actual may carry, as one would type it."""
    day = date_of(min(status, axis.first(axis.pos(status))))
    return format_date(day, short=True, year=False).lower()


def instant_text(t: Instant) -> str:
    """A short date as cells show it: "12 Mar"."""
    return format_date(date_of(t), short=True, year=False)
