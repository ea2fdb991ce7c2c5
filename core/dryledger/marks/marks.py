"""Marks: one status word for each activity and for the project, by an ordered list of plain rules.

The first rule that holds gives the mark. Days are working days of the project calendar, lateness is against the
measured baseline, "soon" counts from the status date: nothing depends on the clock.
"""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.compute import Results

__all__ = ["MARK_WORDS", "Mark", "activity_mark", "activity_marks", "days_text", "drift_days", "project_mark"]

MARK_WORDS = {"done": "Done", "on_plan": "On plan", "watch": "Watch", "act": "Act", "soon": "Coming soon", "not_due": "Not due"}
ACT_LATE, WATCH_LATE, SOON = 5, 1, 10
PROJECT_ACT_LATE = 8
ACT_INDEX, WATCH_INDEX = 0.80, 0.95


@dataclass(frozen=True)
class Mark:
    """A mark with the reasons that gave it, worst first."""

    mark: str
    reasons: tuple[str, ...] = ()

    @property
    def word(self) -> str:
        """The mark in words."""
        return MARK_WORDS[self.mark]


def drift_days(r: Results, code: str | None = None) -> Decimal | None:
    """Working days that the finish of an activity (or the project) lies after its baseline; None without one."""
    minutes = r.project_drift if code is None else r.drift_of(code)
    if minutes is None:
        return None
    calendar = r.book.project.calendar if code is None else r.book.activity_by_code[code].calendar
    return r.book.calendar_by_code[calendar].days(minutes)


def days_text(days: Decimal) -> str:
    """Days without needless decimals.

    >>> days_text(Decimal(6)), days_text(Decimal("0.55"))
    ('6', '0.6')
    """
    shown = days.quantize(Decimal("0.1"))
    return f"{shown.normalize():f}" if shown else "0"


def activity_marks(r: Results) -> dict[str, Mark]:
    """The mark of every activity."""
    return {code: activity_mark(r, code) for code in r.schedule.activities}


def activity_mark(r: Results, code: str) -> Mark:
    """The mark of one activity."""
    row = r.schedule.activities[code]
    if row.state == "complete":
        return Mark("done")
    late = drift_days(r, code)
    if late is not None and late >= ACT_LATE:
        return Mark("act", (f"finishes {days_text(late)} days late",))
    if row.total_float is not None and row.total_float < 0:
        return Mark("act", ("can't meet the date it is held to",))
    reasons = []
    if late is not None and late >= WATCH_LATE:
        reasons.append(f"finishes {days_text(late)} days late")
    if row.out_of_sequence:
        reasons.append("started ahead of its order")
    if reasons:
        return Mark("watch", tuple(reasons))
    if row.state == "in_progress":
        return Mark("on_plan")
    if r.status is None:
        return Mark("not_due")
    soon = r.book.axis.pos(r.status) + SOON * r.book.calendar_by_code[r.book.project.calendar].minutes_per_day
    return Mark("soon" if r.book.axis.pos(row.start) < soon else "not_due")


def project_mark(r: Results) -> Mark:
    """The overall mark that the figures propose, with each reason as a sentence."""
    act: list[str] = []
    watch: list[str] = []
    m, late = r.totals, drift_days(r)
    name = r.baseline.code if r.baseline else ""
    if late is not None and late >= WATCH_LATE:
        (act if late >= PROJECT_ACT_LATE else watch).append(f"The finish lies {days_text(late)} working days after {name}.")
    deadline = r.book.project.deadline
    if deadline is not None and r.schedule.finish > deadline:
        short = r.book.calendar_by_code[r.book.project.calendar].days(r.book.axis.between(deadline, r.schedule.finish))
        act.append(f"The finish misses the deadline by {days_text(short)} working days.")
    for value, sentence in (
        (m.spi, "Earned value is {:.0f} % below what was planned by this date (SPI {:.3f})."),
        (m.cpi, "Work done cost more than it earned: {:.0f} % of each unit spent earned nothing (CPI {:.3f})."),
    ):
        if value is not None and value < WATCH_INDEX:
            (act if value < ACT_INDEX else watch).append(sentence.format(100 * (1 - value), value))
    if act:
        return Mark("act", (*act, *watch))
    return Mark("watch", tuple(watch)) if watch else Mark("on_plan")
