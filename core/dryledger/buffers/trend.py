"""Where a promised chain would end if it went on as over the last pages.

Source: a straight line through the last points of the fever chart, buffer used against chain done, drawn on to the end of the
chain. It is a reading of the trail, not of the plan: the plan's own forecast stands beside it.
"""

from dataclasses import dataclass

from dryledger.buffers.fever import Fever
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results

__all__ = ["BACK", "Trend", "trend_of"]

BACK = 3
"""How many pages back the line is drawn from, where there are as many."""


@dataclass(frozen=True)
class Trend:
    """The end that the line leads to; `late` is working minutes after the promised date (project calendar, below 0 before it),
    `gone_at` the share of the chain done at which the buffer is used up, None where it is not; over so many `pages`.
    """

    end: Instant
    late: int
    gone_at: float | None
    pages: int


def trend_of(r: Results, fever: Fever) -> Trend | None:
    """The trend of a fever chart; None with fewer than two pages, without a size, or where nothing of the chain was done between."""
    trail, buffer = fever.trail, fever.promise.buffer
    if len(trail) < 2 or not buffer.size:
        return None
    back = min(BACK, len(trail) - 1)
    first, last = trail[-1 - back], trail[-1]
    done = last.progress - first.progress
    if done <= 0 or first.use is None or last.use is None:
        return None
    slope = (last.use - first.use) / done
    use = max(last.use + slope * (1 - last.progress), 0.0)
    axis = r.book.axis
    used = round(use * buffer.size)
    end = axis.first(axis.pos(buffer.start) + used) if used else buffer.start
    gone_at = last.progress + (1 - last.use) / slope if slope > 0 and last.use < 1 and use > 1 else None
    return Trend(end, used - buffer.size, gone_at, back)
