"""The working of a figure: its formula, the numbers in it, and the rows behind them.

Every measure that a screen shows can say where it comes from. Nothing is computed anew here: operands are the
figures of `Results` themselves.
"""

from collections.abc import Callable
from decimal import Decimal

from dryledger.budget.money import rounded
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results
from dryledger.value.measures import Measures
from dryledger.working.dates import DATES, dates_working, said_driver
from dryledger.working.derivation import Figure, Operand, Row, Working

__all__ = ["DATES", "MEASURES", "Operand", "Row", "Working", "said_driver", "working"]

MEASURES: dict[str, tuple[str, str, tuple[str, ...], str]] = {
    "bac": ("Budget at completion", "BAC = Σ budgeted cost in the baseline", (), ""),
    "pv": ("Planned value", "PV = Σ budget × share planned by the status date", (), "BCWS"),
    "ev": ("Earned value", "EV = Σ budget × share done", (), "BCWP"),
    "ac": ("Actual cost", "AC = posted hours × rate + dated costs", (), "ACWP"),
    "sv": ("Schedule variance", "SV = EV − PV", ("ev", "pv"), ""),
    "cv": ("Cost variance", "CV = EV − AC", ("ev", "ac"), ""),
    "sv_percent": ("Schedule variance, per cent", "SV% = 100 × SV ÷ PV", ("sv", "pv"), ""),
    "cv_percent": ("Cost variance, per cent", "CV% = 100 × CV ÷ EV", ("cv", "ev"), ""),
    "spi": ("Schedule performance index", "SPI = EV ÷ PV", ("ev", "pv"), ""),
    "cpi": ("Cost performance index", "CPI = EV ÷ AC", ("ev", "ac"), ""),
    "eac.bottom_up": ("Estimate at completion, bottom up", "EAC = AC + remaining work + unspent direct cost", ("ac",), ""),
    "eac.cpi": ("Estimate at completion, at the cost index", "EAC = AC + (BAC − EV) ÷ CPI", ("ac", "bac", "ev", "cpi"), ""),
    "eac.budget": ("Estimate at completion, rest as budgeted", "EAC = AC + (BAC − EV)", ("ac", "bac", "ev"), ""),
    "eac.cpi_spi": (
        "Estimate at completion, at both indices",
        "EAC = AC + (BAC − EV) ÷ (CPI × SPI)",
        ("ac", "bac", "ev", "cpi", "spi"),
        "",
    ),
    "eac.recent": (
        "Estimate at completion, at the recent cost index",
        "EAC = AC + (BAC − EV) ÷ CPI of the last three pages",
        ("ac", "bac", "ev"),
        "",
    ),
    "etc": ("Estimate to complete", "ETC = EAC − AC", ("eac", "ac"), ""),
    "vac": ("Variance at completion", "VAC = BAC − EAC", ("bac", "eac"), ""),
    "tcpi_bac": ("To-complete index, to the budget", "TCPI = (BAC − EV) ÷ (BAC − AC)", ("bac", "ev", "ac"), ""),
    "tcpi_eac": ("To-complete index, to the estimate", "TCPI = (BAC − EV) ÷ (EAC − AC)", ("bac", "ev", "eac", "ac"), ""),
    "earned_schedule": ("Earned schedule", "ES = the working day by which the plan had today's EV", ("ev",), ""),
    "actual_time": ("Actual time", "AT = working days from the baseline start to the status date", (), ""),
    "sv_t": ("Schedule variance, in days", "SV(t) = ES − AT", ("earned_schedule", "actual_time"), ""),
    "spi_t": ("Schedule index, in time", "SPI(t) = ES ÷ AT", ("earned_schedule", "actual_time"), ""),
    "forecast_finish_t": ("Finish by earned schedule", "the ⌈planned days ÷ SPI(t)⌉-th working day", ("spi_t",), ""),
    "finish": ("Finish", "the latest finish of all activities", (), ""),
}


def working(r: Results, measure: str, kind: str = "project", code: str | None = None) -> Working:
    """The working of one measure at a scope: kind "project", "wbs" or "activity", with its code.

    "eac" stands for the estimate that the project chose. An activity also has the figures of `DATES`: its dates, floats,
    remaining duration, percent and differences. Raises KeyError for a measure or code that is not there.
    """
    if kind == "activity" and measure in DATES:
        return dates_working(r, measure, code or "")
    if measure == "eac":
        measure = f"eac.{r.book.project.eac}"
    title, formula, operands, older = MEASURES[measure]
    if measure == "finish":
        return _finish(r, kind, code, title, formula)
    m = r.project if kind == "project" else (r.wbs if kind == "wbs" else r.activities)[code or ""]
    out = Working(measure, title, formula, figure(r, m, measure), older=older, reason=m.reasons.get(measure, ""))
    out.operands = [Operand(MEASURES[_full(r, o)][0], figure(r, m, _full(r, o)), _full(r, o)) for o in operands]
    if measure == "eac.bottom_up":
        _bottom_up(r, out, m, kind, code)
    elif measure in ("bac", "pv", "ev", "ac"):
        if kind == "activity":
            _of_activity(r, out, m, code or "")
        else:
            _of_scope(r, out, measure, None if kind == "project" else code)
    out.sentence = _sentence(measure, out.result)
    return out


def _full(r: Results, measure: str) -> str:
    return f"eac.{r.book.project.eac}" if measure == "eac" else measure


def figure(r: Results, m: Measures, measure: str) -> Figure:
    """One figure of a scope by the name of its measure."""
    if measure.startswith("eac."):
        return m.eac.get(measure[4:])
    value: Figure = getattr(m, measure)
    return value


def _sentence(measure: str, value: Figure) -> str:
    words = {
        "sv": ("less was done than planned by this date", "more was done than planned by this date"),
        "cv": ("the work done cost more than its budget", "the work done cost less than its budget"),
        "spi": ("less was done than planned by this date", "more was done than planned by this date"),
        "cpi": ("the work done cost more than its budget", "the work done cost less than its budget"),
        "vac": ("it will cost more than the budget", "it will cost less than the budget"),
        "sv_t": ("behind the plan in time", "ahead of the plan in time"),
    }
    if measure not in words or value is None or isinstance(value, str):
        return ""
    even = 1 if measure in ("spi", "cpi") else 0
    if value == even:
        return "Exactly as planned."
    return f"Unfavourable: {words[measure][0]}." if value < even else f"Favourable: {words[measure][1]}."


def _scope_codes(r: Results, wbs: str | None) -> tuple[list[str], set[str]]:
    scope = r.valuation.scope(wbs)
    return scope.activities, scope.wbs


def _of_scope(r: Results, out: Working, measure: str, wbs: str | None) -> None:
    activities, elements = _scope_codes(r, wbs)
    for code in activities:
        value = getattr(r.activities[code], measure)
        if value:
            out.rows.append(Row(code, _name(r, code), value))
    if measure == "ac":
        names = {w.code: w.name for w in r.book.wbs}
        for (kind, code), sums in r.valuation.sums.items():
            if kind == "wbs" and code in elements and sums.ac:
                out.rows.append(Row(code, names[code], rounded(sums.ac_total, r.valuation.unit), "posted on the element itself"))
        m = r.project if wbs is None else r.wbs[wbs]
        out.operands = [Operand(f"from {source}", amount) for source, amount in m.ac_by_source.items()]


def _name(r: Results, code: str) -> str:
    a = r.book.activity_by_code.get(code)
    return a.name if a else r.baseline.by_code[code].name if r.baseline else code


def _of_activity(r: Results, out: Working, m: Measures, code: str) -> None:
    base = r.baseline.by_code.get(code) if r.baseline else None
    explain: dict[str, Callable[[], None]] = {
        "bac": lambda: out.rows.extend(Row(code, line.name, line.amount, line.accrual) for line in (base.cost_lines if base else ())),
        "pv": lambda: _planned(r, out, m, code),
        "ev": lambda: _earned(r, out, m, code),
        "ac": lambda: _actual(r, out, m, code),
    }
    explain[out.measure]()


def _planned(r: Results, out: Working, m: Measures, code: str) -> None:
    base = r.baseline.by_code.get(code) if r.baseline else None
    if base is None or r.baseline is None or r.status is None:
        out.reason = "not in the baseline, so nothing was planned for it"
        return
    share = 100 * r.valuation.planned_at(code, r.status) / base.budget if base.budget else Decimal(0)
    out.formula = "PV = budget × share planned by the status date"
    out.operands = [
        Operand("budget", m.bac, "bac"),
        Operand("planned, per cent", share.quantize(Decimal("0.01"))),
        Operand("baseline start", to_text(base.start)),
        Operand("baseline finish", to_text(base.finish)),
    ]


def _earned(r: Results, out: Working, m: Measures, code: str) -> None:
    base = r.baseline.by_code.get(code) if r.baseline else None
    if base is None:
        out.reason = "not in the baseline, so it has no budget to earn"
        return
    share = 100 * r.valuation.ev.get(code, Decimal(0)) / base.budget if base.budget else Decimal(0)
    method = base.value_method.type.replace("_", " ")
    out.formula = f"EV = budget × share done, by the method “{method}”"
    out.operands = [Operand("budget", m.bac, "bac"), Operand("done, per cent", share.quantize(Decimal("0.01")))]
    for period in r.at.periods:
        for s in period.statements:
            if s.activity == code:
                said = "finished" if s.actual_finish is not None else "started" if s.actual_start is not None else "not started"
                out.rows.append(
                    Row(period.code, to_text(period.status)[:10], None if s.percent is None else (s.percent * 100).normalize(), said)
                )


def _actual(r: Results, out: Working, m: Measures, code: str) -> None:
    out.operands = [Operand(f"from {source}", amount) for source, amount in m.ac_by_source.items()]
    for item in r.valuation.actuals:
        if item.target == ("activity", code):
            counts = r.status is not None and item.counts(r.status)
            out.rows.append(
                Row(
                    item.page,
                    item.label,
                    rounded(item.amount, r.valuation.unit),
                    item.source if counts else f"{item.source}, does not count at this date",
                )
            )


def _bottom_up(r: Results, out: Working, m: Measures, kind: str, code: str | None) -> None:
    if out.result is None:
        return
    assert isinstance(out.result, Decimal)
    out.operands.append(Operand("remaining work and unspent direct cost", out.result - m.ac))
    codes = [code or ""] if kind == "activity" else _scope_codes(r, None if kind == "project" else code)[0]
    for c in codes:
        left = rounded(r.valuation.sums["activity", c].remaining, r.valuation.unit)
        if left:
            out.rows.append(Row(c, _name(r, c), left, "still to spend"))


def _finish(r: Results, kind: str, code: str | None, title: str, formula: str) -> Working:
    rows = r.schedule.activities
    codes = [code or ""] if kind == "activity" else _scope_codes(r, None if kind == "project" else code)[0]
    there = [rows[c] for c in codes if c in rows]
    last = max((x.finish for x in there), default=r.schedule.finish)
    out = Working("finish", title, formula if kind != "activity" else "the finish of the activity", to_text(last))
    at = next((x for x in there if x.finish == last), None)
    seen: set[str] = set()
    while at is not None and at.code not in seen:
        seen.add(at.code)
        out.rows.append(Row(at.code, _name(r, at.code), to_text(at.finish), ", ".join(said_driver(r, d) for d in at.driven_by)))
        back = next((d[5:] for d in at.driven_by if d.startswith("link:")), None)
        at = rows[back] if back else None
    return out
