"""What to do first: open work of the promised chains whose remaining time eats buffer now.

Source: calculation contract, section 17: the chain before feeding chains, and of those the one whose buffer is used most first.
"""

from collections.abc import Iterable
from dataclasses import dataclass

from dryledger.book.options import Length
from dryledger.buffers.fever import Fever, TrailPoint
from dryledger.compute import Results

__all__ = ["First", "first_of"]

ON_CHAIN, ON_FEEDING = 2, 1
"""How many of the chain, and of each feeding chain, are told."""


@dataclass(frozen=True)
class First:
    """An open activity to do first: `why` is `chain`, or `feeding` on a feeding chain whose buffer is in the zone."""

    code: str
    remaining: int
    """Working minutes of its own calendar."""
    why: str
    zone: str


def first_of(r: Results, fever: Fever) -> list[First]:
    """What to do first: work of the chain that is under way or next, then of feeding chains whose buffer is beyond fine."""
    promise, last = fever.promise, fever.trail[-1]
    out = _open(r, promise.chain, "chain", last.zone)[:ON_CHAIN]
    for f, point in sorted(zip(promise.feeding, last.feeding, strict=True), key=lambda x: -_urgency(x[1])):
        if point.zone != "fine":
            out += _open(r, f.chain, "feeding", point.zone)[:ON_FEEDING]
    return out


def _urgency(x: TrailPoint) -> float:
    """The share of the buffer used; without a size any overrun counts as all of it."""
    return x.use if x.use is not None else float(x.zone == "missed")


def _open(r: Results, chain: Iterable[Length], why: str, zone: str) -> list[First]:
    rows = ((x.code, r.progress.get(x.code)) for x in chain)
    return [First(code, p.remaining, why, zone) for code, p in rows if p is not None and p.state != "complete" and p.remaining]
