"""The working of one point of a curve: what each activity, and each actual cost, adds to it.

Source: calculation contract, section 11. The rows add up to the point.
"""

from decimal import localcontext

from dryledger.budget.money import CONTEXT, amount_of
from dryledger.budget.spread import amount_by
from dryledger.calendar.calendar import Instant, to_text
from dryledger.compute import Results
from dryledger.figures import figure
from dryledger.value.curve import bucket_ends_of
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
        amounts: list[tuple[str, int, str]] = []
        t = end if status is None else min(end, status)
        if line == "pv":
            amounts = [(c, v.planned_at(c, end), "") for c in scope.activities]
        elif line == "ev":
            amounts = [(c, amount_by(piece, t), "") for c, piece in v.earned_pieces(scope.activities)]
        else:
            amounts = [(x.target[1], x.amount, f"{x.source}, {x.page}") for x in v.actuals if scope.holds(x.target) and x.counts(t)]
            follows = sentence("working.follows_progress")
            amounts += [(x[1], amount_by(piece, t), follows) for x, _, piece in v.reckoned if scope.holds(x)]
            if line == "forecast":
                last = bucket_ends_of(v, r.bucket, scope)[-1:]
                if status is None or end > status or last == [end]:
                    still = sentence("curve.still_spend")
                    amounts += [(c, amount_by(x.piece, end), still) for c in scope.activities for x in v.remains.get(c, ())]
        names = {a.code: a.name for a in r.book.activities} | {w.code: w.name for w in r.book.wbs}
        out.result = amount_of(sum(x for _, x, _ in amounts), v.unit)
        out.rows = [WorkingRow(code, names.get(code, code), amount_of(x, v.unit), note) for code, x, note in amounts if x]
    return out
