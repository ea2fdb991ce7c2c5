"""The load of a resource over time: what its activities still ask of it, against what is there.

Work to go is spread evenly over the working time left of each activity; what is there is the units of the resource
over its own calendar. All in minutes of work. A bucket in which more is asked than is there is over-booked.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import Decimal, localcontext

from dryledger.budget.money import CONTEXT
from dryledger.budget.remaining import remaining_work
from dryledger.calendar.buckets import bucket_ends
from dryledger.calendar.calendar import DAY, WEEK, Instant, month_start
from dryledger.schedule.progress import AsOf, Progress
from dryledger.schedule.schedule import Schedule

__all__ = ["SLACK", "Load", "loads", "opening"]

ZERO = Decimal(0)
SLACK = Decimal("0.5")
"""Half a minute: less than anyone can book."""


@dataclass
class Load:
    """One resource: for each bucket the minutes asked, those there, and what each activity asks of it."""

    resource: str
    asked: list[Decimal]
    there: list[Decimal]
    causes: list[dict[str, Decimal]] = field(default_factory=list)

    @property
    def over(self) -> list[int]:
        """The buckets in which more is asked than is there."""
        return [i for i, (a, b) in enumerate(zip(self.asked, self.there, strict=True)) if a > b + SLACK]


def loads(at: AsOf, progress: Mapping[str, Progress], schedule: Schedule, bucket: str = "week") -> tuple[list[Instant], list[Load]]:
    """The bucket ends and the load of every resource but materials, in the book's order. `bucket`: day, week or month.

    The first bucket holds the earliest work to go. Raises TooManyPoints where there would be too many buckets.
    """
    asked, book = _asked(at, progress, schedule), at.book
    if not asked:
        return [], [Load(x.code, [], []) for x in book.resources if x.kind != "material"]
    first, last = min(a for _, _, a, _, _ in asked), max(b for _, _, _, b, _ in asked)
    ends = bucket_ends(bucket, first, last)
    starts = [opening(bucket, ends, first), *ends[:-1]]
    out = {x.code: Load(x.code, [ZERO] * len(ends), [], [{} for _ in ends]) for x in book.resources if x.kind != "material"}
    with localcontext(CONTEXT):
        for resource, code, a, b, minutes in asked:
            axis = book.axes[code]
            whole = axis.between(a, b)
            for i, (x, y) in enumerate(zip(starts, ends, strict=True)):
                if y <= a or x >= b:
                    continue
                part = minutes * axis.between(max(x, a), min(y, b)) / whole if whole else minutes
                if part:
                    out[resource].asked[i] += part
                    out[resource].causes[i][code] = out[resource].causes[i].get(code, ZERO) + part
        for load in out.values():
            resource_row = book.resource_by_code[load.resource]
            axis = book.calendar_by_code[resource_row.calendar].axis
            load.there = [resource_row.units * axis.between(p, q) for p, q in zip(starts, ends, strict=True)]
    return ends, list(out.values())


def opening(bucket: str, ends: list[Instant], first: Instant) -> Instant:
    """The instant that opens the first bucket."""
    return month_start(first) if bucket == "month" else ends[0] - (DAY if bucket == "day" else WEEK)


def _asked(at: AsOf, progress: Mapping[str, Progress], schedule: Schedule) -> list[tuple[str, str, Instant, Instant, Decimal]]:
    """(resource, activity, from, to, minutes) of all work to go; a material books nothing."""
    out, book = [], at.book
    for a in book.activities:
        row = schedule.activities[a.code]
        if row.state == "complete" or not book.assignments_of.get(a.code):
            continue
        start = row.resume if row.resume is not None else row.start
        for resource, minutes in remaining_work(at, a, progress[a.code]).items():
            if minutes and book.resource_by_code[resource].kind != "material":
                out.append((resource, a.code, start, row.finish, minutes))
    return out
