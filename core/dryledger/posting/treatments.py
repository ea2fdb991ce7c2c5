"""The three treatments of out-of-sequence work side by side: what each does to finish, float and the activities it touches.

Source: calculation contract, sections 4 and 5.
"""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.lists import TREATMENTS
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results, compute
from dryledger.marks.marks import drift_days
from dryledger.schedule.driving import driving_path, path_float

__all__ = ["Affected", "Dates", "Treated", "treated"]


@dataclass(frozen=True)
class Dates:
    """Dates of what is left of an activity under one treatment: when it resumes (or starts), its finish, its float in minutes."""

    begin: Instant
    finish: Instant
    total_float: int | None


@dataclass(frozen=True)
class Affected:
    """An activity that is out of sequence, or whose dates or float differ by treatment; its dates in the order of the treatments."""

    code: str
    out_of_sequence: bool
    dates: tuple[Dates, ...]


@dataclass(frozen=True)
class Treated:
    """The project under one treatment: its finish, its drift in working days, the least float on its driving path in minutes."""

    treatment: str
    results: Results
    drift: Decimal | None
    path_float: int | None
    path: tuple[str, ...]


def treated(r: Results) -> tuple[list[Treated], list[Affected]]:
    """The three treatments at a page, and the activities that they touch, in the book's order.

    The page's own treatment is taken over from `r`; the others are computed as `./dry compute --treatment` computes them.
    """
    period = r.at.periods[-1].code if r.at.periods else None
    found = [_treated(t, r if t == r.treatment else compute(r.book, period, treatment=t, before=r)) for t in TREATMENTS]
    plans = [t.results.schedule.activities for t in found]
    out = []
    for a in r.book.activities:
        rows = [plan[a.code] for plan in plans]
        if all(row.state == "complete" for row in rows) and not rows[0].out_of_sequence:
            continue
        dates = tuple(Dates(row.start if row.resume is None else row.resume, row.finish, row.total_float) for row in rows)
        ahead = any(row.out_of_sequence for row in rows)
        if ahead or len(set(dates)) > 1:
            out.append(Affected(a.code, ahead, dates))
    return found, out


def _treated(treatment: str, r: Results) -> Treated:
    return Treated(treatment, r, drift_days(r), path_float(r.schedule), tuple(sorted(driving_path(r.schedule))))
