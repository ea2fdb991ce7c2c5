"""What an entry moved: the difference between two Results of the same page, for showing at once."""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.calendar.calendar import Instant
from dryledger.compute import Results
from dryledger.marks.marks import drift_days

__all__ = ["Balance", "Moved", "balance", "change", "moved"]


@dataclass(frozen=True)
class Moved:
    """One activity whose finish moved, in working days of its calendar (positive: later)."""

    code: str
    name: str
    before: Instant
    after: Instant
    days: Decimal


@dataclass(frozen=True)
class Balance:
    """The totals of the balance line at a page; money rounded, `drift` in working days from the baseline finish."""

    status: Instant | None
    baseline: str | None
    currency: str
    bac: Decimal
    pv: Decimal
    ev: Decimal
    ac: Decimal
    spi: float | None
    cpi: float | None
    eac: Decimal | None
    eac_method: str
    finish: Instant
    drift: Decimal | None
    reasons: dict[str, str]


def balance(r: Results) -> Balance:
    """The balance line."""
    m, method = r.totals, r.book.project.eac
    reasons = {k: v for k, v in m.reasons.items() if k in ("spi", "cpi", "pv")}
    if f"eac.{method}" in m.reasons:
        reasons["eac"] = m.reasons[f"eac.{method}"]
    return Balance(
        r.status,
        r.baseline.code if r.baseline else None,
        r.book.project.currency,
        m.bac,
        m.pv,
        m.ev,
        m.ac,
        m.spi,
        m.cpi,
        m.eac.get(method),
        method,
        r.schedule.finish,
        drift_days(r),
        reasons,
    )


def moved(before: Results, after: Results) -> list[Moved]:
    """The activities whose finish differs, the largest move first."""
    out = []
    known: dict[tuple[int, str, Instant, Instant], Decimal] = {}  # many move together from one instant to another
    for code, row in after.schedule.activities.items():
        old = before.schedule.activities.get(code)
        if old is row or old is None or old.finish == row.finish:
            continue
        a, axis = after.book.activity_by_code[code], after.book.axes[code]
        key = id(axis), a.calendar, old.finish, row.finish
        days = known.get(key)
        if days is None:
            exact = after.book.calendar_by_code[a.calendar].days(axis.between(old.finish, row.finish))
            days = known[key] = exact.quantize(Decimal("0.01"))
        out.append(Moved(code, a.name, old.finish, row.finish, days))
    return sorted(out, key=lambda m: (-abs(m.days), m.code))


def change(before: Balance, after: Balance) -> dict[str, Decimal | float]:
    """How far each total of the balance line moved; what did not move, or is null on a side, is left out.

    `finish` is in working days of drift.
    """
    out: dict[str, Decimal | float] = {}
    for name in ("pv", "ev", "ac", "eac", "spi", "cpi"):
        old, new = getattr(before, name), getattr(after, name)
        if old is not None and new is not None and old != new:
            out[name] = round(new - old, 6) if isinstance(new, float) else new - old
    if before.drift is not None and after.drift is not None and before.drift != after.drift:
        out["finish"] = float(round(after.drift - before.drift, 2))
    return out
