"""Rates in force: what a resource costs at an instant, by the rows of its rates.

Source: calculation contract, section 6. A row holds from its date on until the next of its kind; amounts are exact
decimals in the project's currency.
"""

from bisect import bisect_right
from dataclasses import dataclass, field, replace
from decimal import Decimal

from dryledger.book.memory import Slot
from dryledger.book.plan import Book, Rate, Resource
from dryledger.calendar.calendar import Calendar, Instant, midnight

__all__ = ["Tariff", "tariffs"]

ZERO, ONE = Decimal(0), Decimal(1)


@dataclass(frozen=True)
class Tariff:
    """The rates of one resource ready for use: rows by kind with the instants they begin at, and hours to divide by."""

    series: dict[str, tuple[list[Instant], list[Rate]]]
    cuts: list[Instant]
    divisors: dict[str, Decimal]
    counts: str | None = None
    """What alone counts beside its use, "hours" or "units" of a material; None where it is both, or something else."""
    each: list[Decimal] = field(default_factory=list)
    """What one of them costs before the first cut, and from each cut on."""

    def row(self, per: str, t: Instant) -> Rate | None:
        """The row of a kind in force at an instant; None before the first."""
        starts, rows = self.series[per]
        i = bisect_right(starts, t) - 1
        return rows[i] if i >= 0 else None

    def amount(self, per: str, t: Instant) -> Decimal:
        """The amount of a kind in force at an instant; 0 before its first row."""
        row = self.row(per, t)
        return row.amount if row else ZERO

    def rate_through(self, start: Instant, finish: Instant) -> Decimal | None:
        """What an hour, or a unit, costs all through [start, finish); None where something else counts or the rate changes."""
        if self.counts is None:
            return None
        cuts = self.cuts
        i = bisect_right(cuts, start)
        return self.each[i] if i == len(cuts) or finish <= cuts[i] else None


class _Tariffs(dict[str, Tariff]):
    """Tariffs by resource, each made ready when it is first asked for."""

    def __init__(self, resources: dict[str, Resource], calendars: dict[str, Calendar]) -> None:
        super().__init__()
        self._resources, self._calendars = resources, calendars

    def __missing__(self, code: str) -> Tariff:
        found = self[code] = _tariff(self._resources[code], self._calendars[self._resources[code].calendar])
        return found


def _tariff(resource: Resource, calendar: Calendar) -> Tariff:
    series = {}
    for per in sorted({r.per for r in resource.rates}):
        rows = resource.series(per)
        series[per] = ([midnight(r.start) for r in rows], rows)
    hours = {"day": calendar.hours_per_day, "week": calendar.hours_per_week, "month": calendar.hours_per_month}
    cuts = sorted({t for starts, _ in series.values() for t in starts})
    out = Tariff(series, cuts, hours)
    timed = series.keys() - {"use"}
    counts = "hours" if timed <= {"hour", "day", "week"} else "units" if timed == {"unit"} else None
    if counts is None:
        return out
    each = [sum((out.amount(per, t) / hours.get(per, ONE) for per in sorted(timed)), ZERO) for t in cuts]
    return replace(out, counts=counts, each=[ZERO, *each])


TARIFFS: Slot[_Tariffs] = Slot("tariffs of the resources", ("resources", "calendars"))


def tariffs(book: Book) -> dict[str, Tariff]:
    """The tariffs of a book's resources by code, worked out once a plan."""
    return book.memo.once(TARIFFS, lambda: _Tariffs(book.resource_by_code, book.calendar_by_code))
