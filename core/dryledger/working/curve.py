"""The working of one point of a curve: what each activity, and each actual cost, adds to it.

Source: calculation contract, section 11. Amounts are rounded to the minor unit one by one, so they may differ from
the point by half a unit a row.
"""

from decimal import Decimal, localcontext

from dryledger.budget.money import CONTEXT, rounded
from dryledger.budget.spread import amount_by
from dryledger.calendar.calendar import Instant, to_text
from dryledger.compute import Results
from dryledger.figures import figure
from dryledger.value.sums import Scope
from dryledger.words import sentence
from dryledger.working.derivation import Working, WorkingRow

__all__ = ["LINES", "curve_working"]

LINES = {
    "pv": (figure("pv").word, sentence("curve.pv_budget_share_planned")),
    "ev": (figure("ev").word, sentence("curve.ev_last_page_after")),
    "ac": (figure("ac").word, sentence("curve.ac_actual_costs_dated")),
    "forecast": ("Forecast", sentence("curve.ac_status_date_remaining")),
}


def curve_working(r: Results, line: str, end: Instant, scope: Scope | None = None) -> Working:
    """The working of the point of a line at a bucket's end, for a scope (absent: the project).

    A line that has no point there gives its reason. Raises KeyError for another line.
    """
    title, formula = LINES[line]
    out = Working(f"curve.{line}", f"{title} at {to_text(end)}", formula, None)
    v, status = r.valuation, r.status
    scope = scope or v.scope()
    if line != "pv" and status is None:
        out.reason = sentence("curve.no_status_date")
        return out
    with localcontext(CONTEXT):
        amounts: list[tuple[str, Decimal, str]] = []
        t = end if status is None else min(end, status)
        if line == "pv":
            amounts = [(c, v.planned_at(c, end), "") for c in scope.activities]
        elif line == "ev":
            page = next((by for when, by in reversed(v.ev_by_page) if when <= t), {})
            amounts = [(c, page[c], "") for c in scope.activities if c in page]
        else:
            amounts = [(x.target[1], x.amount, f"{x.source}, {x.page}") for x in v.actuals if scope.holds(x.target) and x.counts(t)]
            if line == "forecast":
                amounts += [(c, amount_by(x, end), sentence("curve.still_spend")) for c in scope.activities for x in v.spreads.get(c, ())]
        names = {a.code: a.name for a in r.book.activities} | {w.code: w.name for w in r.book.wbs}
        out.result = rounded(sum((x for _, x, _ in amounts), Decimal(0)), v.unit)
        out.rows = [WorkingRow(code, names.get(code, code), rounded(x, v.unit), note) for code, x, note in amounts if x]
    return out
