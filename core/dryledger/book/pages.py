"""The pages of a book: what was posted at each status date, as frozen dataclasses.

Instants are minutes since 0001-01-01T00:00, durations and hours whole minutes, percents shares of 1.
"""

from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from dryledger.calendar.axis import Instant

__all__ = ["CostEntry", "HoursEntry", "Period", "Rhythm", "Statement"]


@dataclass(frozen=True, slots=True)
class Statement:
    """What is said of one activity on one page. It replaces earlier ones whole; None is silence.

    `assumed` names those of its actual dates that nobody stated; they count like stated ones.

    One that `corrects` an earlier page says why; it counts as any other, from its own page.
    """

    activity: str
    actual_start: Instant | None = None
    actual_finish: Instant | None = None
    percent: Decimal | None = None
    remaining: int | None = None
    carry_to: Instant | None = None
    units_done: Decimal | None = None
    milestones_reached: tuple[str, ...] = ()
    note: str | None = None
    corrects: str | None = None
    reason: str | None = None
    assumed: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class HoursEntry:
    """Minutes worked on an assignment in one period, overtime apart, and the minutes still to go.

    One that `corrects` an earlier page says why; it alone may be negative, and it is costed as on that page.
    """

    activity: str
    resource: str
    worked: int = 0
    overtime: int = 0
    to_go: int | None = None
    corrects: str | None = None
    reason: str | None = None
    ref: str | None = None


@dataclass(frozen=True, slots=True)
class CostEntry:
    """A dated actual cost of one activity or one WBS element, with a `text` of its own.

    `of` names what it pays: a direct cost or an assignment, "-" nothing of them; `order_code` the order that it belongs to.

    One that `corrects` an earlier page says why.
    """

    date: date
    amount: Decimal
    source: str
    activity: str | None = None
    wbs: str | None = None
    ref: str | None = None
    corrects: str | None = None
    reason: str | None = None
    text: str | None = None
    of: str | None = None
    order_code: str | None = None


@dataclass(frozen=True, slots=True)
class Period:
    """A page: its status instant, whether it is dry, and what was posted on it."""

    code: str
    status: Instant
    state: str = "wet"
    statements: tuple[Statement, ...] = ()
    hours: tuple[HoursEntry, ...] = ()
    costs: tuple[CostEntry, ...] = ()
    note: str | None = None
    measured_against: str | None = None


@dataclass(frozen=True, slots=True)
class Rhythm:
    """When pages are due: every `n` weeks on a weekday, or months on a day (1 to 31, or last: the last working day).

    `at` is the time of day; None is the close of the working day.
    """

    every: str
    n: Decimal = Decimal(1)
    on: str | None = None
    at: str | None = None
