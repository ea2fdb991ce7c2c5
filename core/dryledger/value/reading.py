"""Reading a curve: the forecast by each estimate at completion, and what each bucket adds.

Source: calculation contract, sections 10 and 11. The contract's forecast is that of the bottom-up estimate. That of another one
ends at its own amount and goes there as the bottom-up one does: the same share of what is left at each end.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

from dryledger.budget.money import rounded
from dryledger.value.curve import Point

__all__ = ["Added", "added", "forecasts"]

ZERO = Decimal(0)


@dataclass(frozen=True)
class Added:
    """What one bucket adds to PV, EV and AC; None where the line has not begun or has ended."""

    pv: Decimal
    ev: Decimal | None
    ac: Decimal | None


def added(points: Sequence[Point]) -> list[Added]:
    """What each bucket adds: its cumulative amounts less those before it. They add up to the last cumulative ones."""
    out, before = [], Point(0, ZERO, ZERO, ZERO, None)
    for p in points:
        out.append(Added(p.pv - before.pv, _less(p.ev, before.ev), _less(p.ac, before.ac)))
        before = p
    return out


def _less(now: Decimal | None, before: Decimal | None) -> Decimal | None:
    return None if now is None else now - (before or ZERO)


def forecasts(points: Sequence[Point], spent: Decimal, eac: Mapping[str, Decimal | None], unit: Decimal) -> list[dict[str, Decimal]]:
    """The forecast by each estimate that there is, at each point that has a forecast, rounded to the currency's unit.

    `spent` is AC at the status date. Where nothing is left to spend bottom up, the others stand at their amount at the last point
    alone and at what is spent before it.
    """
    whole = eac.get("bottom_up")
    left = ZERO if whole is None else whole - spent
    out: list[dict[str, Decimal]] = []
    for i, p in enumerate(points):
        if p.forecast is None:
            out.append({})
            continue
        last = i == len(points) - 1
        share = (p.forecast - spent) / left if left else Decimal(int(last))
        found = {key: rounded(spent + (total - spent) * share, unit) for key, total in eac.items() if total is not None}
        if whole is not None:
            found["bottom_up"] = p.forecast
        out.append(found)
    return out
