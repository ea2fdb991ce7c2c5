"""Marks: one status word for each activity and for the project, by an ordered list of plain rules.

The first rule that holds gives the mark. Days are working days of the project calendar, lateness is against the
measured baseline, "soon" counts from the status date: nothing depends on the clock.
"""

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal

from dryledger.compute import Results
from dryledger.readings import read, reader, whole
from dryledger.words import sentence

__all__ = ["MARK_WORDS", "Mark", "activity_marker", "activity_marks", "days_text", "drift_days", "project_mark"]

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
    minutes = whole(read(r, "finish_difference", "project" if code is None else "activity", code))
    if minutes is None:
        return None
    calendar = r.book.project.calendar if code is None else r.book.activity_by_code[code].calendar
    return r.book.calendar_by_code[calendar].days(minutes)


def days_text(days: Decimal, of: str = "working ") -> str:
    """Days without needless decimals, with the word for them.

    >>> days_text(Decimal(6)), days_text(Decimal("0.55")), days_text(Decimal(1), "")
    ('6 working days', '0.6 working days', '1 day')
    """
    shown = days.quantize(Decimal("0.1")).normalize()
    return f"{shown if shown else 0:f} {of}{'day' if shown == 1 else 'days'}"


def activity_marks(r: Results) -> dict[str, Mark]:
    """The mark of every activity."""
    marked = activity_marker(r)
    return {code: marked(code) for code in r.schedule.activities}


def activity_marker(r: Results) -> Callable[[str], Mark]:
    """What says the mark of an activity by its code: the rules for activities, over the figures of the catalogue."""
    keys = ("state", "finish_difference", "total_float", "out_of_sequence", "start")
    state, late_by, slack, ahead, start = (reader(r, key, "activity") for key in keys)
    book, due = r.book, _soon(r)

    def marked(code: str) -> Mark:
        if state(code) == "complete":
            return Mark("done")
        minutes, room = whole(late_by(code)), whole(slack(code))
        late = None if minutes is None else book.calendar_by_code[book.activity_by_code[code].calendar].days(minutes)
        if late is not None and late >= ACT_LATE:
            return Mark("act", (sentence("marks.finishes_late", days_text=days_text(late, "")),))
        if room is not None and room < 0:
            return Mark("act", (sentence("marks.cant_meet_date_held"),))
        reasons = [sentence("marks.finishes_late", days_text=days_text(late, ""))] if late is not None and late >= WATCH_LATE else []
        if ahead(code):
            reasons.append(sentence("marks.started_ahead_order"))
        if reasons:
            return Mark("watch", tuple(reasons))
        if state(code) == "in_progress":
            return Mark("on_plan")
        return Mark("soon" if due is not None and book.axis.pos(whole(start(code)) or 0) < due else "not_due")

    return marked


def _soon(r: Results) -> int | None:
    """The position on the project's axis before which a start is soon; None without a status date."""
    if r.status is None:
        return None
    return r.book.axis.pos(r.status) + SOON * r.book.calendar_by_code[r.book.project.calendar].minutes_per_day


def project_mark(r: Results) -> Mark:
    """The overall mark that the figures propose, with each reason as a sentence."""
    act: list[str] = []
    watch: list[str] = []
    late, past = drift_days(r), whole(read(r, "deadline_difference"))
    name = r.baseline.code if r.baseline else ""
    if late is not None and late >= WATCH_LATE:
        (act if late >= PROJECT_ACT_LATE else watch).append(sentence("marks.finish_lies_after", days_text=days_text(late), name=name))
    if past is not None and r.book.project.deadline is not None and r.schedule.finish > r.book.project.deadline:
        short = r.book.calendar_by_code[r.book.project.calendar].days(past)
        act.append(sentence("marks.finish_misses_deadline", days_text=days_text(short)))
    for key, reason in (("spi", "marks.earned_value_below_what"), ("cpi", "marks.work_done_cost_more")):
        value = read(r, key)
        if isinstance(value, float) and value < WATCH_INDEX:
            (act if value < ACT_INDEX else watch).append(sentence(reason, share=100 * (1 - value), index=value))
    if act:
        return Mark("act", (*act, *watch))
    return Mark("watch", tuple(watch)) if watch else Mark("on_plan")
