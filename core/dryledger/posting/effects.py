"""What an entry moved: the difference between two Results of the same page, for showing at once."""

from dataclasses import dataclass, replace
from decimal import Decimal

from dryledger.calendar.calendar import Instant
from dryledger.compute import Results
from dryledger.figure_values import Value
from dryledger.marks.marks import drift_days
from dryledger.readings import read, reason
from dryledger.value.rebased import first_beside

__all__ = ["BALANCE", "Balance", "Moved", "balance", "change", "moved"]


@dataclass(frozen=True)
class Moved:
    """One activity whose finish moved, in working days of its calendar (positive: later)."""

    code: str
    name: str
    before: Instant
    after: Instant
    days: Decimal


BALANCE = ("bac", "pv", "ev", "ac", "spi", "cpi", "eac", "finish", "finish_difference")
"""The figures of the balance line, by their keys in the catalogue."""


@dataclass(frozen=True)
class Balance:
    """The totals of the balance line at a page, by key; `drift` is the finish against the baseline in working days.

    `first` and `first_drift` say the same of the first approved baseline where the page is measured by another.
    """

    status: Instant | None
    baseline: str | None
    currency: str
    eac_method: str
    figures: dict[str, Value]
    drift: Decimal | None
    reasons: dict[str, str]
    first: str | None = None
    first_drift: Decimal | None = None
    reckoned: Decimal = Decimal(0)
    """How much of AC follows progress."""


def balance(r: Results) -> Balance:
    """The balance line."""
    figures = {key: read(r, key) for key in BALANCE}
    reasons = {key: reason(r, key) for key, value in figures.items() if value is None}
    project, against = r.book.project, r.baseline.code if r.baseline else None
    reckoned = read(r, "ac.progress")
    out = Balance(r.status, against, project.currency, project.eac, figures, drift_days(r), reasons)
    out = replace(out, reckoned=reckoned) if isinstance(reckoned, Decimal) else out
    first = first_beside(r.book, r.baseline)
    return out if first is None else replace(out, first=first.code, first_drift=drift_days(r, key="original_finish_difference"))


def moved(before: Results, after: Results) -> list[Moved]:
    """The activities whose finish differs, the largest move first."""
    out = []
    known: dict[tuple[int, str, Instant, Instant], Decimal] = {}  # many move together from one instant to another
    for code, row in after.schedule.activities.items():
        old = before.schedule.activities.get(code)
        if old is row or old is None or old.finish == row.finish:
            continue
        a, axis = after.book.activity_by_code[code], after.book.axes[code]
        key = id(axis), a.calendar, old.finish, row.finish
        days = known.get(key)
        if days is None:
            exact = after.book.calendar_by_code[a.calendar].days(axis.between(old.finish, row.finish))
            days = known[key] = exact.quantize(Decimal("0.01"))
        out.append(Moved(code, a.name, old.finish, row.finish, days))
    return sorted(out, key=lambda m: (-abs(m.days), m.code))


def change(before: Balance, after: Balance) -> dict[str, Decimal | float]:
    """How far each total of the balance line moved; what did not move, or is null on a side, is left out.

    `finish` is in working days of drift.
    """
    out: dict[str, Decimal | float] = {}
    for key in BALANCE:
        old, new = before.figures[key], after.figures[key]
        if isinstance(old, float) and isinstance(new, float) and old != new:
            out[key] = round(new - old, 6)
        elif isinstance(old, Decimal) and isinstance(new, Decimal) and old != new:
            out[key] = new - old
    if before.drift is not None and after.drift is not None and before.drift != after.drift:
        out["finish"] = float(round(after.drift - before.drift, 2))
    return out
