"""Sums over projects of one currency, never across currencies, and the measures that follow from them.

Source: calculation contract, section 22. The sums are of the figures as each project shows them, as of its own status date; all
other measures are worked out from the sums.
"""

from collections.abc import Iterable
from dataclasses import dataclass, field
from decimal import Decimal

from dryledger.budget.money import cells, minor_unit
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results
from dryledger.value.measures import NO_STATUS, Sums, measures
from dryledger.words import sentence

__all__ = ["CurrencySum", "ProjectFigures", "figures_of_project", "sums_by_currency"]


@dataclass(frozen=True)
class ProjectFigures:
    """What a project shows as of its status date, in its currency; `eac` is its chosen one. Without a page `status` is None."""

    code: str
    currency: str
    status: Instant | None
    bac: Decimal
    pv: Decimal | None
    ev: Decimal
    ac: Decimal
    eac: Decimal | None


@dataclass
class CurrencySum:
    """The sums of the projects of one currency, and what follows; ratios to six places, None with a reason under `reasons`.

    `left_out` names the projects that are in no sum, each with why.
    """

    currency: str
    projects: list[str]
    left_out: list[tuple[str, str]]
    bac: Decimal
    pv: Decimal
    ev: Decimal
    ac: Decimal
    eac: Decimal | None
    sv: Decimal
    cv: Decimal
    etc: Decimal | None = None
    vac: Decimal | None = None
    sv_percent: float | None = None
    cv_percent: float | None = None
    spi: float | None = None
    cpi: float | None = None
    tcpi_bac: float | None = None
    tcpi_eac: float | None = None
    reasons: dict[str, str] = field(default_factory=dict)


FOLLOWING = ("etc", "vac", "sv_percent", "cv_percent", "spi", "cpi", "tcpi_bac", "tcpi_eac")
"""What follows from sums as from those of any scope; and what of it, the estimate too, needs an estimate at completion."""
OF_EAC = ("eac", "etc", "vac", "tcpi_eac")


def figures_of_project(r: Results) -> ProjectFigures:
    """The figures of a project at a page."""
    p, m = r.book.project, r.totals
    pv = None if r.status is None else m.pv
    return ProjectFigures(p.code, p.currency, r.status, m.bac, pv, m.ev, m.ac, m.eac.get(p.eac))


def sums_by_currency(found: Iterable[ProjectFigures]) -> list[CurrencySum]:
    """The sums by currency, in the order in which the currencies come.

    >>> one = ProjectFigures("A", "EUR", 0, Decimal("100.00"), Decimal("50.00"), Decimal("40.00"), Decimal("80.00"), Decimal("120.00"))
    >>> [x] = sums_by_currency([one, ProjectFigures("B", "EUR", None, Decimal(9), None, Decimal(0), Decimal(0), None)])
    >>> x.projects, x.left_out, x.spi, x.cpi, str(x.vac)
    (['A'], [('B', 'no status date')], 0.8, 0.5, '-20.00')
    """
    by: dict[str, list[ProjectFigures]] = {}
    for x in found:
        by.setdefault(x.currency, []).append(x)
    return [_sum(currency, rows) for currency, rows in by.items()]


def _sum(currency: str, rows: list[ProjectFigures]) -> CurrencySum:
    inside = [x for x in rows if x.status is not None]
    left_out = [(x.code, NO_STATUS) for x in rows if x.status is None]
    zero = minor_unit(currency) * 0
    bac, ev, ac = (sum((getattr(x, key) for x in inside), zero) for key in ("bac", "ev", "ac"))
    pv = sum((x.pv for x in inside if x.pv is not None), zero)
    lacking = [x.code for x in inside if x.eac is None]
    eac = None if lacking else sum((x.eac for x in inside if x.eac is not None), zero)
    unit, left = minor_unit(currency), zero if eac is None else eac - ac
    whole = Sums(cells(bac, unit), cells(pv, unit), cells(ev, unit), {"": cells(ac, unit)}, cells(left, unit))
    m = measures(currency, whole, unit, "bottom_up", True)
    assert m.sv is not None and m.cv is not None
    why = dict.fromkeys(OF_EAC, sentence("desk.no_eac", codes=", ".join(lacking))) if lacking else {}
    found = {key: None if key in why else getattr(m, key) for key in FOLLOWING}
    reasons = {key: text for key, text in m.reasons.items() if key in FOLLOWING} | why
    return CurrencySum(currency, [x.code for x in inside], left_out, bac, pv, ev, ac, eac, m.sv, m.cv, **found, reasons=reasons)
