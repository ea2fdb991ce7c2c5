"""A plan from elsewhere as a baseline of this one: activities are matched by code, what does not match is listed.

Source: calculation contract, sections 7 and 23 (a baseline that is an import). Dates, durations, work and cost lines are those of the other
plan as it is scheduled, on its own calendars; elements are this plan's.
"""

from dataclasses import dataclass, replace

from dryledger.baseline.snapshot import snapshot
from dryledger.book.baselines import Baseline, BaselineActivity
from dryledger.book.plan import Book
from dryledger.calendar.axis import Instant
from dryledger.errors import ChangeRefused
from dryledger.schedule.schedule import Schedule
from dryledger.words import sentence

__all__ = ["Matched", "baseline_from"]


@dataclass(frozen=True)
class Matched:
    """A baseline of another plan's matched activities, and by code what is only there, only here, and resources not known here."""

    baseline: Baseline
    only_there: tuple[str, ...]
    only_here: tuple[str, ...]
    resources: tuple[str, ...]


def baseline_from(book: Book, other: Book, schedule: Schedule, code: str, name: str, taken: Instant, by: str, reason: str) -> Matched:
    """A baseline of `book` out of another plan as `schedule` has it.

    Raises ChangeRefused for another currency, and where nothing matches.
    """
    if other.project.currency != book.project.currency:
        raise ChangeRefused("currency", sentence("baseline.other_currency", here=book.project.currency, there=other.project.currency))
    here = book.activity_by_code
    whole = snapshot(other, schedule, code, name, taken, by, reason)
    rows = tuple(_row(book, a) for a in whole.activities if a.code in here)
    if not rows:
        raise ChangeRefused("nothing-there", sentence("baseline.none_matches"))
    there = {a.code for a in whole.activities}
    used = {a.calendar for a in rows} | {whole.calendar}
    unknown = {x.resource for a in whole.activities for x in a.assignments if a.code in here and x.resource not in book.resource_by_code}
    return Matched(
        replace(whole, activities=rows, calendars=tuple(c for c in whole.calendars if c.code in used), source="import"),
        tuple(a.code for a in whole.activities if a.code not in here),
        tuple(c for c in here if c not in there),
        tuple(sorted(unknown)),
    )


def _row(book: Book, a: BaselineActivity) -> BaselineActivity:
    """An activity of the other plan at its place in this one; work of resources that are not known here stays in its sum alone."""
    known = tuple(x for x in a.assignments if x.resource in book.resource_by_code)
    return replace(a, wbs=book.activity_by_code[a.code].wbs, assignments=known)
