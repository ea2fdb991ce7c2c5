"""Reading single values of a book: each reader says in a sentence what it expected.

A `Reader` walks one JSON value with its path and gathers every fault, so that a bad book is told all at once.
"""

import itertools
import re
from collections.abc import Callable, Iterator, Mapping
from datetime import date
from decimal import ROUND_HALF_EVEN, Decimal, InvalidOperation
from typing import TypeVar, cast

from dryledger.book.currencies import DIGITS
from dryledger.calendar.calendar import DAY, Calendar, Instant, Shift, from_text
from dryledger.calendar.written import Written
from dryledger.errors import Fault
from dryledger.words import sentence

__all__ = [
    "ELAPSED_MINUTES",
    "MOST_FAULTS",
    "Reader",
    "duration_minutes",
    "duration_text",
    "exact",
    "minutes_of",
    "read_amount",
    "read_scalar",
    "shift_of",
    "split_duration",
]

T = TypeVar("T")
MISSING = object()
MOST_FAULTS = 10_000
"""More than this no one can read, and a hostile file must not take for ever."""
LONGEST_SCALAR = 20_000
ELAPSED_MINUTES = {"min": 1, "h": 60, "d": DAY, "w": 7 * DAY}
_DURATION = re.compile(r"(-?)(\d{1,9}(?:\.\d{1,9})?)\s*(min|h|d|w|mo)")
_TIME = re.compile(r"([01]\d|2[0-4]):([0-5]\d)")
_NUMBER = re.compile(r"-?\d{1,15}(?:\.\d{1,12})?")


def split_duration(text: str) -> tuple[Decimal, str] | None:
    """Split ``"2.5d"`` into its number and unit, or None where it is no duration.

    >>> split_duration("2.5d")
    (Decimal('2.5'), 'd')
    """
    found = _DURATION.fullmatch(text)
    if not found:
        return None
    number = Decimal(found[2])
    return (-number if found[1] else number), found[3]


def duration_minutes(number: Decimal, unit: str, calendar: Calendar) -> int:
    """Whole working minutes of a duration on a calendar, rounded half-even.

    >>> five = Calendar("c", "c", ())
    >>> duration_minutes(Decimal("2.5"), "d", five), duration_minutes(Decimal(1), "mo", five)
    (1200, 9600)
    """
    hours = {
        "min": Decimal(1) / 60,
        "h": Decimal(1),
        "d": calendar.hours_per_day,
        "w": calendar.hours_per_week,
        "mo": calendar.hours_per_month,
    }[unit]
    minutes = number if unit == "min" else number * hours * 60
    return int(minutes.to_integral_value(ROUND_HALF_EVEN))


def minutes_of(text: str, calendar: Calendar, *, signed: bool = False, elapsed: bool = False) -> Written | None:
    """A written duration in minutes, on a calendar or by the clock; None where it is none.

    >>> five = Calendar("c", "c", ())
    >>> minutes_of("1.5d", five), minutes_of("2d", five, elapsed=True), minutes_of("soon", five)
    (720, 2880, None)
    """
    split = split_duration(text)
    if split is None or (split[0] < 0 and not signed):
        return None
    if not elapsed:
        return Written(duration_minutes(*split, calendar), text)
    each = ELAPSED_MINUTES.get(split[1])
    return None if each is None else Written(int((split[0] * each).to_integral_value(ROUND_HALF_EVEN)), text)


def duration_text(minutes: int, calendar: Calendar, units: tuple[str, ...] = ("mo", "w", "d", "h", "min")) -> str:
    """A duration in the largest of some units that holds it in at most two decimals; `duration_minutes` takes it back.

    >>> five = Calendar("c", "c", ())
    >>> duration_text(1200, five, ("d", "h", "min")), duration_text(2400, five), duration_text(50, five)
    ('2.5d', '1w', '50min')
    """
    for unit in units:
        whole = duration_minutes(Decimal(1), unit, calendar)
        number = Decimal(minutes) / whole
        if unit == "min" or (abs(number) >= 1 and number == round(number, 2) and duration_minutes(number, unit, calendar) == minutes):
            return f"{number.normalize():f}{unit}"
    return f"{minutes}min"


def read_amount(value: object) -> Decimal | None:
    """A decimal string such as ``"1200.00"``, or None where it is not one."""
    if not isinstance(value, str) or not _NUMBER.fullmatch(value):
        return None
    return Decimal(value)


def read_scalar(value: object) -> str | Decimal | bool | tuple[str | Decimal | bool, ...] | None:
    """A text, a number, true or false, or a list of them as a tuple; None where it is none.

    >>> read_scalar(0.8), read_scalar(["a", True]), read_scalar({})
    (Decimal('0.8'), ('a', True), None)
    """
    if not isinstance(value, list):
        return _one_scalar(value)
    found = [_one_scalar(x) for x in value]
    known = [x for x in found if x is not None]
    return tuple(known) if known and len(known) == len(found) else None


def _one_scalar(value: object) -> str | Decimal | bool | None:
    if isinstance(value, bool) or (isinstance(value, str) and len(value) <= LONGEST_SCALAR):
        return value
    if not isinstance(value, int | float | Decimal):
        return None
    n = Decimal(str(value))
    return n if n.is_finite() and abs(n) < Decimal(10) ** 15 else None


def exact(value: object) -> object:
    """Plain JSON with every number with a fraction as the decimal that it was written as.

    >>> exact({"units": 0.1, "lag": [1, None]})
    {'units': Decimal('0.1'), 'lag': [1, None]}
    """
    if isinstance(value, dict):
        return {str(k): exact(v) for k, v in value.items()}
    if isinstance(value, list):
        return [exact(v) for v in value]
    if isinstance(value, float | Decimal):
        n = Decimal(str(value))
        return int(n) if n == n.to_integral_value() and abs(n) < 10**15 else n
    return value


class Reader:
    """One value of the book, its path, and the shared list of faults."""

    def __init__(self, value: object, path: str, faults: list[Fault]) -> None:
        self.value, self.path, self.faults = value, path, faults
        self.seen: set[str] = set()

    def fault(self, message: str, key: str | None = None) -> None:
        """Note a fault at this value or at one of its keys."""
        self.faults.append(Fault(self._at(key) if key else self.path, message))

    def _at(self, key: str) -> str:
        return f"{self.path}.{key}" if self.path else key

    def is_object(self) -> bool:
        """Whether the value is an object; a fault if not."""
        if isinstance(self.value, dict):
            return True
        self.fault(sentence("reader.expected_object_braces"))
        return False

    def raw(self, key: str) -> object:
        """The value of a key, MISSING where it is absent; marks the key as known."""
        self.seen.add(key)
        return cast(Mapping[str, object], self.value).get(key, MISSING)

    def done(self) -> dict[str, object]:
        """Call when all keys are read: names every unknown one, and gives the ``x-`` keys back untouched."""
        extra: dict[str, object] = {}
        for key, value in cast(Mapping[str, object], self.value).items():
            if key.startswith("x-"):
                extra[key] = value
            elif key not in self.seen:
                self.fault(sentence("reader.key_book_format", value=key[:60]), key)
        return extra

    def take(
        self,
        key: str,
        read: Callable[[object], T | None],
        expected: str,
        default: T | None = None,
        *,
        required: bool = False,
        nullable: bool = True,
    ) -> T | None:
        """One key through a reader that gives None for what it cannot take."""
        value = self.raw(key)
        if value is MISSING or (value is None and nullable):
            if required:
                self.fault("is required" + ("" if value is MISSING else sentence("reader.cant_null")), key)
            return default
        got = read(value)
        if got is None:
            self.fault(sentence("reader.expected_got", expected=expected, shown=_shown(value)), key)
            return default
        return got

    def text(self, key: str, default: str = "", *, required: bool = False) -> str:
        """A text; a required one must not be empty."""
        got = self.take(
            key, lambda v: v if isinstance(v, str) and (v.strip() or not required) else None, "a text", default, required=required
        )
        return got or default

    def maybe_text(self, key: str) -> str | None:
        """A text or None."""
        return self.take(key, lambda v: v if isinstance(v, str) else None, "a text")

    def choice(self, key: str, options: tuple[str, ...], default: str, *, required: bool = False) -> str:
        """One of a few words."""
        expected = "one of " + ", ".join(options)
        return self.take(key, lambda v: v if isinstance(v, str) and v in options else None, expected, default, required=required) or default

    def currency(self, key: str) -> str:
        """A currency by its three letters."""
        expected = sentence("reader.currency_iso_three_letters")
        return self.take(key, lambda v: v if isinstance(v, str) and v in DIGITS else None, expected, required=True) or ""

    def flag(self, key: str, default: bool) -> bool:
        """true or false."""
        got = self.take(key, lambda v: v if isinstance(v, bool) else None, sentence("reader.true_false"), default)
        return default if got is None else got

    def number(
        self,
        key: str,
        default: Decimal | None = None,
        *,
        least: Decimal | None = None,
        above: Decimal | None = None,
        most: Decimal | None = None,
        required: bool = False,
    ) -> Decimal | None:
        """A JSON number within bounds."""
        bounds = "".join(
            (
                f" from {least}" if least is not None else "",
                f" above {above}" if above is not None else "",
                f" up to {most}" if most is not None else "",
            )
        )

        def read(v: object) -> Decimal | None:
            if isinstance(v, bool) or not isinstance(v, (int, float, Decimal)):
                return None
            try:
                n = Decimal(str(v))
            except InvalidOperation:
                return None
            ok = (
                n.is_finite()
                and abs(n) < Decimal(10) ** 15
                and (least is None or n >= least)
                and (above is None or n > above)
                and (most is None or n <= most)
            )
            return n if ok else None

        return self.take(key, read, f"a number{bounds}", default, required=required)

    def amount(self, key: str, *, required: bool = False, negative: bool = False) -> Decimal | None:
        """Money as a decimal string."""

        def read(v: object) -> Decimal | None:
            got = read_amount(v)
            return None if got is None or (got < 0 and not negative) else got

        sort = sentence("reader.amount_text") if negative else sentence("reader.amount_more")
        return self.take(key, read, sort, required=required)

    def instant(self, key: str, *, required: bool = False) -> Instant | None:
        """An instant ``YYYY-MM-DDTHH:MM``."""

        def read(v: object) -> Instant | None:
            if not isinstance(v, str) or len(v) != 16:
                return None
            try:
                return from_text(v)
            except ValueError:
                return None

        return self.take(key, read, sentence("reader.instant"), required=required)

    def date(self, key: str, *, required: bool = False) -> date | None:
        """A date ``YYYY-MM-DD``."""

        def read(v: object) -> date | None:
            if not isinstance(v, str) or len(v) != 10:
                return None
            try:
                return date.fromisoformat(v)
            except ValueError:
                return None

        return self.take(key, read, sentence("reader.date"), required=required)

    def duration(self, key: str, calendar: Calendar, *, negative: bool = False, elapsed: bool = False) -> int | None:
        """A duration in minutes on a calendar, or of clock time."""

        def read(v: object) -> int | None:
            return minutes_of(v, calendar, signed=negative, elapsed=elapsed) if isinstance(v, str) else None

        return self.take(key, read, sentence("reader.clock_time_d_h") if elapsed else sentence("reader.duration_d_h"))

    def items(self, key: str) -> Iterator["Reader"]:
        """Each object of a list; an absent list is empty."""
        value = self.raw(key)
        if value is MISSING:
            return
        if not isinstance(value, list):
            self.fault(sentence("reader.expected_list"), key)
            return
        for i, item in enumerate(value):
            if len(self.faults) > MOST_FAULTS:
                return
            child = Reader(item, f"{self._at(key)}[{i}]", self.faults)
            # What is no object is told once and then read as an empty one, so that the others keep their places.
            yield child if child.is_object() else Reader({}, child.path, [])

    def child(self, key: str) -> "Reader | None":
        """An object under a key, or None where it is absent or null."""
        value = self.raw(key)
        if value is MISSING or value is None:
            return None
        child = Reader(value, self._at(key), self.faults)
        return child if child.is_object() else None

    def texts(self, key: str) -> tuple[str, ...]:
        """A list of texts."""
        got = self.take(
            key,
            lambda v: tuple(v) if isinstance(v, list) and all(isinstance(x, str) for x in v) else None,
            sentence("reader.list_texts"),
            cast("tuple[str, ...]", ()),
        )
        return got or ()

    def scalar(self, key: str) -> str | Decimal | bool | tuple[str | Decimal | bool, ...] | None:
        """A text, a number, true or false, or a list of them."""
        got = self.take(key, lambda v: None if (found := read_scalar(v)) is None else [found], sentence("reader.scalar"))
        return None if got is None else got[0]

    def doc(self, key: str) -> dict[str, object]:
        """An object of JSON, its numbers exact."""
        got = self.take(key, lambda v: exact(v) if isinstance(v, dict) else None, sentence("reader.expected_object_braces"))
        return cast("dict[str, object]", got) if got else {}

    def shifts(self, key: str, *, required: bool = False) -> tuple[Shift, ...]:
        """A list of ``HH:MM-HH:MM`` that do not overlap."""
        got = self.take(
            key, lambda v: tuple(v) if isinstance(v, list) else None, sentence("reader.list_shifts"), required=required, nullable=False
        )
        out: list[tuple[int, int, int]] = []
        for i, value in enumerate(got or ()):
            shift = shift_of(value)
            if shift is None:
                self.fault(sentence("reader.expected_shift_whose_end", shown=_shown(value)), f"{key}[{i}]")
                continue
            out.append((*shift, i))
        out.sort()
        for before, (start, _, i) in itertools.pairwise(out):
            if start < before[1]:
                self.fault(sentence("reader.overlaps_another_shift_same"), f"{key}[{i}]")
        return tuple((start, end) for start, end, _ in out)


def shift_of(value: object) -> Shift | None:
    """A shift from ``"08:00-12:00"``; None where it is none."""
    if not isinstance(value, str) or value.count("-") != 1:
        return None
    ends = []
    for part in value.split("-"):
        found = _TIME.fullmatch(part)
        minutes = int(found[1]) * 60 + int(found[2]) if found else -1
        if not 0 <= minutes <= DAY:
            return None
        ends.append(minutes)
    return (ends[0], ends[1]) if ends[0] < ends[1] else None


def _shown(value: object) -> str:
    text = repr(value) if not isinstance(value, str) else f"“{value}”"
    return {"None": "null", "True": "true", "False": "false"}.get(text, text if len(text) <= 60 else text[:57] + "…")
