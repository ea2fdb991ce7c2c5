"""Risk against benefit: what a project stands to lose by its open risks, beside what it is good for.

Source: calculation contract, section 22: risk exposure = Σ probability × impact of open risks; benefit is a project's own figure.
"""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.registers import Risk
from dryledger.budget.money import minor_unit, ratio, rounded
from dryledger.compute import Results
from dryledger.report.registers import register_facts

__all__ = ["RiskBenefit", "risk_and_benefit"]


@dataclass(frozen=True)
class RiskBenefit:
    """Exposure of the open risks in the project's currency, in per cent of BAC (None where that is 0), the benefit (None: not given).

    `unrated` names the open risks that have no probability or no impact, and so count as nothing.
    """

    exposure: Decimal
    percent: float | None
    benefit: Decimal | None
    unrated: tuple[str, ...]


def risk_and_benefit(r: Results) -> RiskBenefit:
    """The risk and the benefit of a project. The sum is taken before rounding."""
    total, unrated = Decimal(0), []
    for fact in register_facts(r.book, None, "risks"):
        risk = fact.entry
        assert isinstance(risk, Risk)
        if risk.exposure is None:
            unrated.append(risk.code)
        else:
            total += risk.exposure
    exposure = rounded(total, minor_unit(r.book.project.currency))
    found = 100 * exposure / r.totals.bac if r.totals.bac else None
    return RiskBenefit(exposure, None if found is None else ratio(found), r.book.project.benefit, tuple(unrated))
