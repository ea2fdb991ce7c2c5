"""The hand-overs of the promise in force: who hands what on to whom, which of them bind, and who waits because of one.

Source: calculation contract, section 17 (ties).
"""

from dataclasses import dataclass

from dryledger.book.options import Tie, promise_at
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results

__all__ = ["STATES", "HandOver", "hand_overs_of"]

STATES = ("waits", "binds", "untied", "loop", "over")
"""It sets the date of who takes over; it binds and something else sets it; untied; left out, as it would close a loop; over."""


@dataclass(frozen=True)
class HandOver:
    """A hand-over as it stands on a page: when the giver is to finish and the taker to start; None where one is in the plan no more.

    `idle` are working minutes of the project calendar between the two, for which nobody holds the resource for the taker.
    """

    tie: Tie
    state: str
    finish: Instant | None
    start: Instant | None
    idle: int | None


def hand_overs_of(r: Results) -> list[HandOver]:
    """The hand-overs of the promise in force on a page, in the promise's order; none without one."""
    promise = promise_at(r.book, len(r.at.periods))
    if promise is None:
        return []
    return [_stands(r, tie) for tie in promise.ties]


def _stands(r: Results, tie: Tie) -> HandOver:
    rows, ties = r.schedule.activities, r.schedule.ties
    giver, taker = rows.get(tie.source), rows.get(tie.target)
    finish, start = (None if giver is None else giver.finish), (None if taker is None else taker.start)
    idle = None if finish is None or start is None else r.book.axis.between(finish, start)
    if tie in ties.left_out:
        state = "loop"
    elif tie in ties.kept:
        assert taker is not None
        state = "waits" if f"tie:{tie.source}" in taker.driven_by else "binds"
    else:
        state = "untied" if any(p.code == tie.ended for p in r.at.periods) else "over"
    return HandOver(tie, state, finish, start, idle)
