"""The working of a figure: its formula, the numbers in it, and the rows behind them.

Every figure of the catalogue can say where it comes from. Nothing is computed anew here: operands are the figures of
`Results` themselves.
"""

from collections.abc import Callable
from decimal import Decimal
from fractions import Fraction

from dryledger.budget.money import amount_of
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results
from dryledger.figure_values import Value, written
from dryledger.figures import FIELD, figure
from dryledger.readings import read, reason
from dryledger.value.earned import earned_share
from dryledger.value.measures import Measures
from dryledger.words import sentence
from dryledger.working.dates import driver_words, explain_dates
from dryledger.working.derivation import Figure, Operand, Working, WorkingRow
from dryledger.working.of_money import OF_MONEY, money_working
from dryledger.working.period import PERIOD, RECORDED, period_working, register_working
from dryledger.working.reckoned import reckoned_rows

__all__ = ["Operand", "Working", "WorkingRow", "driver_words", "working"]


def working(r: Results, measure: str, kind: str = "project", code: str | None = None) -> Working:
    """The working of any figure of the catalogue at a scope: kind "project", "wbs" or "activity", with its code.

    "eac" stands for the estimate that the project chose, "period.ev" for what the page adds to EV (so PV, AC, SV, CV too); kinds
    "risk" and "change" know the figures of those registers, "month", "order", "reserve" and "baseline" those of money.
    Raises UnknownFigure for a figure that has no meaning there, KeyError for a code that is not there.
    """
    if measure.startswith(PERIOD):
        return period_working(r, measure, kind, code)
    if kind in OF_MONEY:
        return money_working(r, measure, kind, code)
    if kind in RECORDED:
        return register_working(r, measure, kind, code)
    key = _full(r, measure)
    value = read(r, key, kind, code)
    if key.startswith(FIELD):
        return _own_field(r, key, value)
    f = figure(key)
    out = Working(key, f.word, f.formula, _in_words(value, f.kind), older=f.older, reason=reason(r, key, kind, code), kind=f.kind)
    out.operands = [_operand(r, _full(r, o), kind, code) for o in f.operands]
    if key == "finish":
        _finish(r, out, kind, code)
    elif key == "eac.bottom_up":
        _bottom_up(r, out, kind, code)
    elif key in ("bac", "pv", "ev", "ac"):
        if kind == "activity":
            _of_activity(r, out, r.activities[code or ""], code or "")
        else:
            _of_scope(r, out, key, None if kind == "project" else code)
    elif kind == "activity":
        explain_dates(r, out, code or "")
    out.sentence = _sentence(key, out.result)
    return out


def _full(r: Results, measure: str) -> str:
    return f"eac.{r.book.project.eac}" if measure == "eac" else measure


def _operand(r: Results, key: str, kind: str, code: str | None) -> Operand:
    f = figure(key)
    return Operand(f.word, _in_words(read(r, key, kind, code), f.kind), key, f.kind)


def _in_words(value: Value, kind: str) -> Figure:
    """A figure as a working shows it: money, ratios and minutes as numbers, the rest as files write it."""
    if isinstance(value, Decimal | float):
        return value
    return Decimal(value) if kind == "duration" and isinstance(value, int) else written(value, kind)


def _own_field(r: Results, key: str, value: Value) -> Working:
    definition = next(d for d in r.book.fields if d.code == key.removeprefix(FIELD))
    formula = definition.formula or "as typed"
    return Working(key, definition.name, formula, _in_words(value, "text"), reason="" if value is not None else "not given", kind="number")


def _sentence(measure: str, value: Figure) -> str:
    words = {
        "sv": (sentence("working.less_done_planned_date"), sentence("working.more_done_planned_date")),
        "cv": (sentence("working.work_done_cost_more"), sentence("working.work_done_cost_less")),
        "spi": (sentence("working.less_done_planned_date"), sentence("working.more_done_planned_date")),
        "cpi": (sentence("working.work_done_cost_more"), sentence("working.work_done_cost_less")),
        "vac": (sentence("working.will_cost_more_budget"), sentence("working.will_cost_less_budget")),
        "sv_t": (sentence("working.behind_plan_time"), sentence("working.ahead_plan_time")),
    }
    if measure not in words or value is None or isinstance(value, str):
        return ""
    even = 1 if measure in ("spi", "cpi") else 0
    if value == even:
        return sentence("working.exactly_planned")
    return (
        sentence("working.unfavourable", value=words[measure][0])
        if value < even
        else sentence("working.favourable", value=words[measure][1])
    )


def _scope_codes(r: Results, wbs: str | None) -> tuple[list[str], set[str]]:
    scope = r.valuation.scope(wbs)
    return scope.activities, scope.wbs


def _of_scope(r: Results, out: Working, measure: str, wbs: str | None) -> None:
    activities, elements = _scope_codes(r, wbs)
    for code in activities:
        value = getattr(r.activities[code], measure)
        if value:
            out.rows.append(WorkingRow(code, _name(r, code), value))
    if measure == "ac":
        names = {w.code: w.name for w in r.book.wbs}
        for (kind, code), sums in r.valuation.sums.items():
            if kind == "wbs" and code in elements and sums.ac:
                out.rows.append(
                    WorkingRow(code, names[code], amount_of(sums.ac_total, r.valuation.unit), sentence("working.posted_element_itself"))
                )
        m = r.project if wbs is None else r.wbs[wbs]
        out.operands = [Operand(f"from {source}", amount) for source, amount in m.ac_by_source.items()]


def _name(r: Results, code: str) -> str:
    a = r.book.activity_by_code.get(code)
    return a.name if a else r.baseline.by_code[code].name if r.baseline else code


def _of_activity(r: Results, out: Working, m: Measures, code: str) -> None:
    base = r.baseline.by_code.get(code) if r.baseline else None
    explain: dict[str, Callable[[], None]] = {
        "bac": lambda: out.rows.extend(
            WorkingRow(code, line.name, line.amount, line.accrual) for line in (base.cost_lines if base else ())
        ),
        "pv": lambda: _planned(r, out, m, code),
        "ev": lambda: _earned(r, out, m, code),
        "ac": lambda: _actual(r, out, m, code),
    }
    explain[out.measure]()


def _planned(r: Results, out: Working, m: Measures, code: str) -> None:
    base = r.baseline.by_code.get(code) if r.baseline else None
    if base is None or r.baseline is None or r.status is None:
        out.reason = sentence("working.baseline_nothing_planned")
        return
    budget = r.valuation.planned.budget[code] if r.valuation.planned is not None else 0
    share = Decimal(100 * r.valuation.planned_at(code, r.status)) / budget if budget else Decimal(0)
    out.formula = sentence("working.pv_budget_share_planned")
    out.operands = [
        Operand("budget", m.bac, "bac"),
        Operand(sentence("working.planned_per_cent"), share.quantize(Decimal("0.01")), kind="percent"),
        Operand(sentence("working.baseline_start"), to_text(base.start)),
        Operand(sentence("working.baseline_finish"), to_text(base.finish)),
    ]


def _earned(r: Results, out: Working, m: Measures, code: str) -> None:
    base = r.baseline.by_code.get(code) if r.baseline else None
    if base is None:
        out.reason = sentence("working.baseline_no_budget_earn")
        return
    planned = r.valuation.planned
    exact = Fraction(*earned_share(r.at, planned, code, r.progress, r.valuation.following)) if planned is not None else Fraction(0)
    share = Decimal(100 * exact.numerator) / exact.denominator
    method = base.value_method.type.replace("_", " ")
    out.formula = sentence("working.ev_budget_share_done", method=method)
    out.operands = [
        Operand("budget", m.bac, "bac"),
        Operand(sentence("working.done_per_cent"), share.quantize(Decimal("0.01")), kind="percent"),
    ]
    for period in r.at.periods:
        for s in period.statements:
            if s.activity == code:
                state = "finished" if s.actual_finish is not None else "started" if s.actual_start is not None else "not started"
                out.rows.append(
                    WorkingRow(
                        period.code,
                        to_text(period.status)[:10],
                        None if s.percent is None else (s.percent * 100).normalize(),
                        state,
                        "percent",
                    )
                )


def _actual(r: Results, out: Working, m: Measures, code: str) -> None:
    out.operands = [Operand(f"from {source}", amount) for source, amount in m.ac_by_source.items()]
    for item in r.valuation.actuals:
        if item.target == ("activity", code):
            counts = r.status is not None and item.counts(r.status)
            out.rows.append(
                WorkingRow(
                    item.page,
                    item.label,
                    amount_of(item.amount, r.valuation.unit),
                    item.source if counts else sentence("working.does_count_date", source=item.source),
                )
            )
    out.rows += reckoned_rows(r, code)


def _bottom_up(r: Results, out: Working, kind: str, code: str | None) -> None:
    spent = read(r, "ac", kind, code)
    if not isinstance(out.result, Decimal) or not isinstance(spent, Decimal):
        return
    out.operands.append(Operand(sentence("working.remaining_work_unspent_direct"), out.result - spent))
    codes = [code or ""] if kind == "activity" else _scope_codes(r, None if kind == "project" else code)[0]
    for c in codes:
        left = amount_of(r.valuation.sums["activity", c].remaining, r.valuation.unit)
        if left:
            out.rows.append(WorkingRow(c, _name(r, c), left, sentence("working.still_spend")))


def _finish(r: Results, out: Working, kind: str, code: str | None) -> None:
    """The finish with the chain of what sets it, latest first."""
    rows = r.schedule.activities
    codes = [code or ""] if kind == "activity" else _scope_codes(r, None if kind == "project" else code)[0]
    there = [rows[c] for c in codes if c in rows]
    last = max((x.finish for x in there), default=None)
    if kind == "activity":
        out.formula = sentence("working.finish_activity")
    at = next((x for x in there if x.finish == last), None)
    seen: set[str] = set()
    while at is not None and at.code not in seen:
        seen.add(at.code)
        out.rows.append(
            WorkingRow(at.code, _name(r, at.code), to_text(at.finish), ", ".join(driver_words(r, at.code, d) for d in at.driven_by))
        )
        back = next((d.partition(":")[2] for d in at.driven_by if d.startswith(("link:", "tie:"))), None)
        outside = r.book.external_by_code.get(back or "")
        if outside is not None:
            out.rows.append(WorkingRow(outside.code, outside.name, to_text(outside.finish), sentence("working.other_project")))
        at = rows.get(back or "")
