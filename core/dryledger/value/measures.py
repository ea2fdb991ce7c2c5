"""The earned-value measures of one scope from its sums, each null with its reason where it has no divisor.

Source: calculation contract, section 10. SV = EV − PV, CV = EV − AC, SPI = EV ÷ PV, CPI = EV ÷ AC, five estimates at
completion, and from the project's chosen one ETC, VAC and TCPI. Negative variances are unfavourable.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import Decimal

from dryledger.budget.money import ratio, rounded
from dryledger.figures import CATALOGUE
from dryledger.words import sentence

__all__ = ["Measures", "Sums", "measures", "quotient"]

ZERO = Decimal(0)
ESTIMATES = tuple(f.key.removeprefix("eac.") for f in CATALOGUE if f.key.startswith("eac."))
"""The estimates at completion, as the catalogue has them."""
SUMS = ("bac", "pv", "ev", "ac", "eac")
FOLLOWING = tuple(f.key for f in CATALOGUE if f.source == "measures" and f.scopes == "awp" and f.key not in SUMS and f.key[:3] != "ac.")
"""What follows from the sums of any scope, as the catalogue has it."""
TINY = Decimal("1e-12")
"""Less than this is what rounding inside a sum may leave of nothing."""
NO_STATUS = sentence("measures.no_status_date")
NO_PLAN = sentence("measures.nothing_planned_date")
NO_COST = sentence("measures.no_actual_cost_date")
NO_EARNED = sentence("measures.nothing_earned_date")
NO_RECENT_COST = sentence("measures.no_actual_cost_last")
WHOLE_SPENT = sentence("measures.whole_budget_spent")
NOTHING_LEFT = sentence("measures.nothing_left_spend")


@dataclass(slots=True)
class Sums:
    """Exact sums of one scope at the status date; `ev_then` and `ac_then` are those of three pages ago."""

    bac: Decimal = ZERO
    pv: Decimal = ZERO
    ev: Decimal = ZERO
    ac: dict[str, Decimal] = field(default_factory=dict)
    remaining: Decimal = ZERO
    ev_then: Decimal = ZERO
    ac_then: Decimal = ZERO

    @property
    def ac_total(self) -> Decimal:
        """AC over all sources."""
        return sum(self.ac.values(), ZERO)

    def add(self, other: "Sums") -> None:
        """Take another scope into this one."""
        self.bac += other.bac
        self.remaining += other.remaining
        if other.pv or other.ev:
            self.pv += other.pv
            self.ev += other.ev
        if other.ev_then or other.ac_then:
            self.ev_then += other.ev_then
            self.ac_then += other.ac_then
        self.spend(other.ac)

    def spend(self, by_source: Mapping[str, Decimal]) -> None:
        """Take actual costs into this one."""
        for source, amount in by_source.items():
            known = self.ac.get(source)
            self.ac[source] = amount if known is None else known + amount


@dataclass(slots=True)
class Measures:
    """Rounded figures of one scope: money in minor units, ratios to six places, None with a reason under `reasons`."""

    code: str
    bac: Decimal
    pv: Decimal
    ev: Decimal
    ac: Decimal
    ac_by_source: dict[str, Decimal]
    sv: Decimal | None = None
    cv: Decimal | None = None
    sv_percent: float | None = None
    cv_percent: float | None = None
    spi: float | None = None
    cpi: float | None = None
    eac: dict[str, Decimal | None] = field(default_factory=dict)
    etc: Decimal | None = None
    vac: Decimal | None = None
    tcpi_bac: float | None = None
    tcpi_eac: float | None = None
    reasons: dict[str, str] = field(default_factory=dict)
    earned_schedule: float | None = None
    actual_time: float | None = None
    sv_t: float | None = None
    spi_t: float | None = None
    forecast_finish_t: str | None = None


def quotient(above: Decimal | None, below: Decimal | None) -> Decimal | None:
    """A quotient; None where either is unknown or there is nothing to divide by.

    >>> quotient(Decimal(1), Decimal(4)), quotient(Decimal(1), Decimal(0))
    (Decimal('0.25'), None)
    """
    if above is None or below is None or (below < TINY and below > -TINY):
        return None
    return above / below


class _Table:
    """Quotients and amounts by name, each with its reason where it is null."""

    def __init__(self) -> None:
        self.reasons: dict[str, str] = {}

    def over(self, name: str, above: Decimal | None, below: Decimal | None, reason: str) -> Decimal | None:
        found = quotient(above, below)
        if found is None:
            self.reasons[name] = reason
        return found


def measures(code: str, s: Sums, unit: Decimal, eac_method: str, has_status: bool) -> Measures:
    """All measures of one scope, without the earned schedule.

    >>> m = measures("X", Sums(Decimal(100), Decimal(50), Decimal(40), {"hours": Decimal(80)}), Decimal("0.01"), "budget", True)
    >>> m.spi, m.cpi, str(m.eac["budget"]), str(m.vac)
    (0.8, 0.5, '140.00', '-40.00')
    """
    ac = s.ac_total
    sources = {k: rounded(v, unit) for k, v in sorted(s.ac.items())}
    out = Measures(code, rounded(s.bac, unit), rounded(s.pv, unit), rounded(s.ev, unit), rounded(ac, unit), sources)
    if not has_status:
        out.pv = rounded(ZERO, unit)
        out.reasons = dict.fromkeys(("pv", *FOLLOWING), NO_STATUS)
        out.eac = dict.fromkeys(ESTIMATES)
        return out
    if not (s.pv or s.ev or ac or s.ev_then or s.ac_then):
        return _untouched(out, s, unit, eac_method)
    t = _Table()
    sv, cv, left = s.ev - s.pv, s.ev - ac, s.bac - s.ev
    spi, cpi = t.over("spi", s.ev, s.pv, NO_PLAN), t.over("cpi", s.ev, ac, NO_COST)
    eac = _estimates(t, s, ac, left, spi, cpi)
    chosen = eac[eac_method]
    tcpi_bac = t.over("tcpi_bac", left, s.bac - ac, WHOLE_SPENT)
    tcpi_eac = t.over("tcpi_eac", left, None if chosen is None else chosen - ac, t.reasons.get(f"eac.{eac_method}", NOTHING_LEFT))
    sv_percent, cv_percent = t.over("sv_percent", 100 * sv, s.pv, NO_PLAN), t.over("cv_percent", 100 * cv, s.ev, NO_EARNED)
    if chosen is None:
        t.reasons["etc"] = t.reasons["vac"] = t.reasons[f"eac.{eac_method}"]
    out.sv, out.cv = rounded(sv, unit), rounded(cv, unit)
    out.spi, out.cpi, out.sv_percent, out.cv_percent = _ratio(spi), _ratio(cpi), _ratio(sv_percent), _ratio(cv_percent)
    out.eac = {k: None if v is None else rounded(v, unit) for k, v in eac.items()}
    if chosen is not None:
        out.etc, out.vac = rounded(chosen - ac, unit), rounded(s.bac - chosen, unit)
    out.tcpi_bac, out.tcpi_eac = _ratio(tcpi_bac), _ratio(tcpi_eac)
    out.reasons = t.reasons
    return out


def _untouched(out: Measures, s: Sums, unit: Decimal, eac_method: str) -> Measures:
    """What follows where nothing was planned, earned or spent by the date, as for most of a young project."""
    zero, bac, left = out.pv, out.bac, rounded(s.remaining, unit)
    out.reasons = {
        "spi": NO_PLAN,
        "sv_percent": NO_PLAN,
        "cpi": NO_COST,
        "cv_percent": NO_EARNED,
        "eac.cpi": NO_COST,
        "eac.cpi_spi": NO_COST,
        "eac.recent": NO_RECENT_COST,
    }
    out.sv = out.cv = zero
    out.eac = {"bottom_up": left, "cpi": None, "budget": bac, "cpi_spi": None, "recent": None}
    chosen = {"bottom_up": s.remaining, "budget": s.bac}.get(eac_method)
    if s.bac:
        out.tcpi_bac = 1.0
    else:
        out.reasons["tcpi_bac"] = WHOLE_SPENT
    if chosen:
        out.tcpi_eac = ratio(s.bac / chosen)
    else:
        out.reasons["tcpi_eac"] = out.reasons.get(f"eac.{eac_method}", NOTHING_LEFT)
    if chosen is None:
        out.reasons["etc"] = out.reasons["vac"] = out.reasons[f"eac.{eac_method}"]
    else:
        out.etc, out.vac = rounded(chosen, unit), rounded(s.bac - chosen, unit)
    return out


def _estimates(t: _Table, s: Sums, ac: Decimal, left: Decimal, spi: Decimal | None, cpi: Decimal | None) -> dict[str, Decimal | None]:
    by_cpi = t.over("eac.cpi", left, cpi, t.reasons.get("cpi", NO_EARNED))
    both = None if cpi is None or spi is None else cpi * spi
    by_both = t.over("eac.cpi_spi", left, both, t.reasons.get("cpi", t.reasons.get("spi", NO_EARNED)))
    recent_cpi = t.over("eac.recent", s.ev - s.ev_then, ac - s.ac_then, NO_RECENT_COST)
    by_recent = None if recent_cpi is None else t.over("eac.recent", left, recent_cpi, sentence("measures.nothing_earned_last_three"))
    return {
        "bottom_up": ac + s.remaining,
        "cpi": None if by_cpi is None else ac + by_cpi,
        "budget": ac + left,
        "cpi_spi": None if by_both is None else ac + by_both,
        "recent": None if by_recent is None else ac + by_recent,
    }


def _ratio(value: Decimal | None) -> float | None:
    return None if value is None else ratio(value)
