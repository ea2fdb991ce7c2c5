"""Workings of what a page adds: a figure to date less the same on the page before; and the exposure of a risk."""

from decimal import Decimal

from dryledger.book.registers import Risk
from dryledger.budget.money import rounded
from dryledger.compute import Results
from dryledger.errors import UnknownFigure
from dryledger.figures import figure
from dryledger.readings import read
from dryledger.words import sentence
from dryledger.working.derivation import Operand, Working

__all__ = ["PERIOD", "RECORDED", "exposure", "of_period", "period_working", "register_working"]

PERIOD = "period."
"""What the keys of a page's own figures begin with."""
TOLD = ("pv", "ev", "ac", "sv", "cv")
RECORDED = {"risk": ("exposure", "probability", "impact"), "change": ("moved",)}
"""The figures of registers that have a working."""


def of_period(r: Results, key: str, kind: str = "project", code: str | None = None) -> Decimal | None:
    """A figure of money to date less what it was on the page before (on the first page all of it); None where it is none now.

    What the page before lacked counts as nothing there.
    """
    now = _money(r, key, kind, code)
    return None if now is None else now - (_was(r, key, kind, code) or Decimal(0))


def _money(r: Results, key: str, kind: str, code: str | None) -> Decimal | None:
    value = read(r, key, kind, code)
    return value if isinstance(value, Decimal) else None


def _was(r: Results, key: str, kind: str, code: str | None) -> Decimal | None:
    if r.before is None or (kind == "wbs" and code not in r.before.wbs):
        return None
    return _money(r.before, key, kind, code)


def period_working(r: Results, measure: str, kind: str, code: str | None) -> Working:
    """The working of a page's own part of a figure. Raises UnknownFigure, KeyError."""
    key = measure.removeprefix(PERIOD)
    if key not in TOLD:
        raise UnknownFigure(measure, kind)
    f, found = figure(key), of_period(r, key, kind, code)
    out = Working(
        measure, sentence("working.this_period", word=f.word), sentence("working.period_formula", head=f.head), found, kind=f.kind
    )
    out.operands = [Operand(sentence("working.to_date", word=f.word), _money(r, key, kind, code), key)]
    if r.before is not None:
        page = r.at.periods[-2].code
        out.operands.append(Operand(sentence("working.on_page", word=f.word, page=page), _was(r, key, kind, code) or Decimal(0)))
    if found is None:
        out.reason = sentence("measures.no_status_date")
    return out


def exposure(r: Results, risk: Risk) -> Decimal | None:
    """Probability × impact of a risk, in the currency's own unit; None where either is not given. Source: contract, section 22.

    The risk is a row of the register, its probability in per cent.
    """
    return None if risk.exposure is None else rounded(risk.exposure, r.valuation.unit)


def register_working(r: Results, measure: str, kind: str, code: str | None) -> Working:
    """The working of a figure of a "risk" or a "change": its exposure, or what the register says. Raises UnknownFigure, KeyError."""
    if measure not in RECORDED[kind]:
        raise UnknownFigure(measure, kind)
    row = next((x for x in (r.book.risks if kind == "risk" else r.book.changes) if x.code == code), None)
    if row is None:
        raise KeyError(code)
    given = {key: getattr(row, key, None) for key in RECORDED[kind]}
    unit = "percent" if measure == "probability" else "money"
    if measure != "exposure":
        out = Working(measure, sentence(f"working.{measure}"), sentence("working.recorded"), given[measure], kind=unit)
        out.reason = "" if given[measure] is not None else sentence("working.not_recorded")
        return out
    assert isinstance(row, Risk)
    found = exposure(r, row)
    out = Working(measure, sentence("working.exposure"), sentence("working.exposure_formula"), found)
    out.operands = [
        Operand(sentence("working.probability"), given["probability"], "probability", kind="percent"),
        Operand(sentence("working.impact"), given["impact"], "impact"),
    ]
    out.reason = "" if found is not None else sentence("working.exposure_missing")
    return out
