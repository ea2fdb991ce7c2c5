"""Working time: instants and calendars.

An *instant* is a whole number of minutes since 0001-01-01T00:00 (a Monday), local, without zone.
`dryledger.calendar.axis` counts working minutes along time.

Source: calculation contract, section 1.
"""

from dataclasses import dataclass
from datetime import date, datetime, timedelta
from decimal import Decimal
from functools import cached_property

from dryledger.calendar.axis import DAY, WEEK, Axis, Instant, Stretch

__all__ = [
    "DAY",
    "END_OF_TIME",
    "WEEK",
    "Axis",
    "Calendar",
    "CalendarException",
    "Instant",
    "Pause",
    "Shift",
    "date_of",
    "from_text",
    "instant",
    "midnight",
    "month_end",
    "month_start",
    "to_date_text",
    "to_text",
]

Shift = tuple[int, int]

END_OF_TIME: Instant = date.max.toordinal() * DAY
"""The midnight that closes 9999-12-31: no date lies after it."""


def instant(moment: datetime) -> Instant:
    """The instant of a datetime, seconds dropped.

    >>> instant(datetime(1, 1, 2, 8, 30))
    1950
    """
    return (moment.toordinal() - 1) * DAY + moment.hour * 60 + moment.minute


def midnight(day: date) -> Instant:
    """The instant that opens a date.

    >>> midnight(date(1, 1, 2))
    1440
    """
    return (day.toordinal() - 1) * DAY


def date_of(t: Instant) -> date:
    """The date on which an instant falls (midnight belongs to the date that it opens)."""
    return date.fromordinal(min(t // DAY + 1, date.max.toordinal()))


def from_text(text: str) -> Instant:
    """Read ``YYYY-MM-DDTHH:MM``. Raises ValueError for anything else.

    >>> to_text(from_text("2027-01-04T08:00"))
    '2027-01-04T08:00'
    """
    if len(text) != 16 or text[10] != "T":
        raise ValueError(f"{text} is not an instant")
    return instant(datetime.fromisoformat(text))


def to_text(t: Instant) -> str:
    """Write an instant as ``YYYY-MM-DDTHH:MM``."""
    moment = datetime.fromordinal(t // DAY + 1) + timedelta(minutes=t % DAY)
    return moment.isoformat(timespec="minutes")


def to_date_text(t: Instant) -> str:
    """Write the date of an instant as ``YYYY-MM-DD``."""
    return date_of(t).isoformat()


def month_start(t: Instant) -> Instant:
    """The midnight that opens the month of an instant."""
    return midnight(date_of(t).replace(day=1))


def month_end(t: Instant) -> Instant:
    """The midnight that closes the month of an instant.

    >>> to_text(month_end(from_text("2027-12-31T23:59")))
    '2028-01-01T00:00'
    """
    day = date_of(t)
    return END_OF_TIME if (day.year, day.month) == (9999, 12) else midnight(date(day.year + day.month // 12, day.month % 12 + 1, 1))


@dataclass(frozen=True)
class CalendarException:
    """Other hours (or none) on the dates from `start` to `end`, both included."""

    start: date
    end: date
    shifts: tuple[Shift, ...]
    name: str = ""


@dataclass(frozen=True)
class Pause:
    """The window [start, end) taken out of one activity's working time."""

    start: Instant
    end: Instant
    reason: str = ""


@dataclass(frozen=True)
class Calendar:
    """A named pattern of working time. Shifts are (from, to) minutes of the day, Monday first."""

    code: str
    name: str
    week: tuple[tuple[Shift, ...], ...]
    exceptions: tuple[CalendarException, ...] = ()
    hours_per_day: Decimal = Decimal(8)
    hours_per_week: Decimal = Decimal(40)
    hours_per_month: Decimal = Decimal(160)

    @cached_property
    def minutes_per_day(self) -> int:
        """The working minutes that a day counts as."""
        return round(self.hours_per_day * 60)

    def days(self, minutes: int | Decimal) -> Decimal:
        """Working minutes as days, unrounded.

        >>> Calendar("five", "Five", ()).days(720)
        Decimal('1.5')
        """
        return Decimal(minutes) / self.minutes_per_day

    @cached_property
    def axis(self) -> "Axis":
        """The calendar's own axis, without any pause."""
        flat = [(day * DAY + a, day * DAY + b) for day, shifts in enumerate(self.week) for a, b in sorted(shifts)]
        out: list[Stretch] = []
        at = 0
        for gap in sorted(self.exceptions, key=lambda e: e.start):
            a, b = midnight(gap.start), midnight(gap.end) + DAY
            if a > at:
                out.append(Stretch(at, a, 0, WEEK, tuple(flat)))
            out.append(Stretch(a, b, a, DAY, tuple(sorted(gap.shifts))))
            at = b
        out.append(Stretch(at, END_OF_TIME * 2, 0, WEEK, tuple(flat)))
        return Axis(out)
