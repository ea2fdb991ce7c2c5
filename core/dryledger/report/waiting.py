"""What a project waits for in other projects, as its report tells it."""

from dataclasses import dataclass

from dryledger.book.plan import External
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results

__all__ = ["WaitFact", "waiting_for"]


@dataclass(frozen=True, slots=True)
class WaitFact:
    """An activity of another project, the unfinished ones here that wait for it, and its finish on the last page where it moved since."""

    external: External
    waits: tuple[str, ...]
    finish_before: Instant | None


def waiting_for(r: Results) -> list[WaitFact]:
    """What the project waits for, in the book's order; what nothing unfinished waits for any more is left out."""
    waits: dict[str, list[str]] = {}
    for k in r.book.links:
        if k.source in r.book.external_by_code and r.schedule.activities[k.target].state != "complete":
            waits.setdefault(k.source, []).append(k.target)
    there = [x for x in r.book.externals if x.code in waits]
    return [WaitFact(x, tuple(waits[x.code]), x.last_finish if x.moved else None) for x in there]
