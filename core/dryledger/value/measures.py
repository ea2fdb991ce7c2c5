"""The earned-value measures of one scope from its sums, each null with its reason where it has no divisor.

Source: calculation contract, section 10. SV = EV − PV, CV = EV − AC, SPI = EV ÷ PV, CPI = EV ÷ AC, five estimates at
completion, and from the project's chosen one ETC, VAC and TCPI. Negative variances are unfavourable.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import Decimal

from dryledger.budget.money import amount_of, part, ratio_of
from dryledger.figures import CATALOGUE
from dryledger.words import sentence

__all__ = ["Measures", "Sums", "measures"]

ESTIMATES = tuple(f.key.removeprefix("eac.") for f in CATALOGUE if f.key.startswith("eac."))
"""The estimates at completion, as the catalogue has them."""
SUMS = ("bac", "pv", "ev", "ac", "eac")
FOLLOWING = tuple(f.key for f in CATALOGUE if f.source == "measures" and f.scopes == "awp" and f.key not in SUMS and f.key[:3] != "ac.")
"""What follows from the sums of any scope, as the catalogue has it."""
NO_STATUS = sentence("measures.no_status_date")
NO_PLAN = sentence("measures.nothing_planned_date")
NO_COST = sentence("measures.no_actual_cost_date")
NO_EARNED = sentence("measures.nothing_earned_date")
NO_RECENT_COST = sentence("measures.no_actual_cost_last")
NOTHING_LEFT = sentence("measures.nothing_left_spend")
NO_BUDGET = sentence("earned_schedule.nothing_budgeted")
ALL_EARNED = sentence("measures.all_is_earned")
NO_INDEX = sentence("measures.no_index")


@dataclass(slots=True)
class Sums:
    """Sums of one scope at the status date in minor units; `ev_then` and `ac_then` are those of three pages ago."""

    bac: int = 0
    pv: int = 0
    ev: int = 0
    ac: dict[str, int] = field(default_factory=dict)
    remaining: int = 0
    ev_then: int = 0
    ac_then: int = 0

    @property
    def ac_total(self) -> int:
        """AC over all sources."""
        return sum(self.ac.values())

    @property
    def forecast(self) -> int:
        """EAC bottom up: AC and all that remains."""
        return self.ac_total + self.remaining

    def add(self, other: "Sums") -> None:
        """Take another scope into this one."""
        self.bac += other.bac
        self.remaining += other.remaining
        self.pv += other.pv
        self.ev += other.ev
        self.ev_then += other.ev_then
        self.ac_then += other.ac_then
        self.spend(other.ac)

    def spend(self, by_source: Mapping[str, int]) -> None:
        """Take actual costs into this one."""
        for source, amount in by_source.items():
            self.ac[source] = self.ac.get(source, 0) + amount


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


def measures(code: str, s: Sums, unit: Decimal, eac_method: str, has_status: bool) -> Measures:
    """All measures of one scope from its sums in minor units of the size `unit`, without the earned schedule.

    >>> m = measures("X", Sums(10000, 5000, 4000, {"hours": 8000}), Decimal("0.01"), "budget", True)
    >>> m.spi, m.cpi, str(m.eac["budget"]), str(m.vac)
    (0.8, 0.5, '140.00', '-40.00')
    """
    ac = s.ac_total

    def money(found: int) -> Decimal:
        return amount_of(found, unit)

    out = Measures(code, money(s.bac), money(s.pv), money(s.ev), money(ac), {k: money(v) for k, v in sorted(s.ac.items())})
    if not has_status:
        out.pv = money(0)
        out.reasons = dict.fromkeys(("pv", *FOLLOWING), NO_STATUS)
        out.eac = dict.fromkeys(ESTIMATES)
        return out
    reasons = out.reasons
    sv, cv, left = s.ev - s.pv, s.ev - ac, s.bac - s.ev
    out.sv, out.cv = money(sv), money(cv)
    if s.pv:
        out.spi, out.sv_percent = ratio_of(s.ev, s.pv), ratio_of(100 * sv, s.pv)
    else:
        reasons["spi"] = reasons["sv_percent"] = NO_PLAN
    if ac:
        out.cpi = ratio_of(s.ev, ac)
    else:
        reasons["cpi"] = NO_COST
    if s.ev:
        out.cv_percent = ratio_of(100 * cv, s.ev)
    else:
        reasons["cv_percent"] = NO_EARNED
    eac = _estimates(s, ac, left, reasons)
    out.eac = {k: None if v is None else money(v) for k, v in eac.items()}
    chosen = eac[eac_method]
    if chosen is None:
        reasons["etc"] = reasons["vac"] = reasons[f"eac.{eac_method}"]
    else:
        out.etc, out.vac = money(chosen - ac), money(s.bac - chosen)
    no_index = NO_BUDGET if not s.bac else ALL_EARNED if left <= 0 else None
    for name, room, why in (
        ("tcpi_bac", s.bac - ac, NOTHING_LEFT),
        ("tcpi_eac", 0 if chosen is None else chosen - ac, reasons.get(f"eac.{eac_method}", NOTHING_LEFT)),
    ):
        if no_index is None and room > 0:
            setattr(out, name, ratio_of(left, room))
        else:
            reasons[name] = no_index or why
    return out


def _estimates(s: Sums, ac: int, left: int, reasons: dict[str, str]) -> dict[str, int | None]:
    """The five estimates at completion. An index that is not above 0 forecasts nothing."""
    ev, pv, earned, spent = s.ev, s.pv, s.ev - s.ev_then, ac - s.ac_then
    out: dict[str, int | None] = {"bottom_up": ac + s.remaining, "cpi": None, "budget": ac + left, "cpi_spi": None, "recent": None}
    cost_index = ac != 0 and (ev > 0) == (ac > 0) and ev != 0
    recent_index = spent != 0 and (earned > 0) == (spent > 0) and earned != 0
    if cost_index:
        out["cpi"] = ac + part(left, abs(ac), abs(ev))
        if pv and (ev > 0) == (pv > 0):
            out["cpi_spi"] = ac + part(left, abs(ac * pv), ev * ev)
    if recent_index:
        out["recent"] = ac + part(left, abs(spent), abs(earned))
    none = NO_BUDGET if not s.bac else None
    why = {"cpi": NO_INDEX if ac else NO_COST, "recent": NO_INDEX if spent else NO_RECENT_COST}
    why["cpi_spi"] = why["cpi"] if not cost_index else NO_INDEX if pv else NO_PLAN
    for name, reason in why.items():
        if out[name] is None:
            reasons[f"eac.{name}"] = none or reason
    return out
