"""The sections of a report on money: against the budget by month, orders, budget under change and reserves, baselines that changed."""

from collections.abc import Sequence
from decimal import Decimal

from dryledger.book.outline import levels
from dryledger.budget.money import amount_of
from dryledger.calendar.calendar import Instant, to_text
from dryledger.errors import TooManyPoints
from dryledger.readings import read
from dryledger.spending import spending
from dryledger.value.owed import orders, orders_in_all
from dryledger.value.rebased import rebased
from dryledger.value.under_change import BudgetStand
from server.book.results import View
from server.report.sections import columns_of, table_of
from server.report.shapes import FigureAt, ReportCell, ReportRow, ReportTable
from server.shared.saying import format_date
from server.shared.words import sentence

MONTH = ("budget", "actual", "forecast", "difference", "running")
ORDER = ("ordered", "invoiced", "accrued", "left")
RESERVE = ("reserve_amount", "drawn", "left_of_reserve")
BUDGET = ("original", "approved_changes", "authorised", "to_build", "baseline", "unexplained")


def reckoned(v: View) -> list[str]:
    """How much of the actual cost nobody has entered: it follows progress."""
    amount = v.results.totals.ac_by_source.get("progress")
    return [sentence("report.reckoned", amount=f"{amount:f}", currency=v.book.project.currency)] if amount else []


def by_month(v: View) -> ReportTable:
    """Budget, actual and forecast by month, the difference and its running sum."""
    try:
        s = spending(v.results, "month")
    except TooManyPoints:
        return table_of("by_month", [], [])
    x, rows = s.total, list[ReportRow]()
    for i, end in enumerate(s.ends):
        come = v.results.status is not None and (not i or s.ends[i - 1] < v.results.status)
        amounts = [x.budget[i], x.actual[i] if come else None, x.forecast[i], x.difference[i], x.running[i]]
        until = format_date(to_text(end - 1))
        rows.append(ReportRow(to_text(end)[:10], [ReportCell(until), *_cells(v, "month", to_text(end)[:10], MONTH, amounts)]))
    whole = [x.whole(key) for key in MONTH[:-1]]
    code, keys = v.book.project.code, ("bac", "ac", "eac.bottom_up", "eac.bottom_up")
    rows.append(
        ReportRow("total", [ReportCell(sentence("report.in_all")), *_cells(v, "project", code, keys, whole), ReportCell(None)], True)
    )
    money = [(key, "money") for key in ("budget", "spent", "forecast", "left_over", "running")]
    return table_of("by_month", columns_of(("until", "text"), *money), rows)


def _cells(v: View, kind: str, code: str, keys: Sequence[str], amounts: Sequence[Decimal | None]) -> list[ReportCell]:
    """Amounts, each with where its working is."""
    return [
        ReportCell(None if x is None else f"{x:f}", "", FigureAt(key, kind, code, v.page.code))
        for key, x in zip(keys, amounts, strict=True)
    ]


def placed_orders(v: View) -> ReportTable:
    """Every order: what it comes to, what is invoiced and accrued of it, what is left."""
    found, unit = orders(v.results.valuation), v.results.valuation.unit
    rows = []
    for o in found:
        amounts = [amount_of(n, unit) for n in (o.amount, o.invoiced, o.accrued, o.left)]
        under = sentence("report.order_closed") if o.order.state == "closed" else ""
        date = None if o.order.date is None else o.order.date.isoformat()
        name = ReportCell(f"{o.order.code} {o.order.supplier}", ". ".join(t for t in (o.order.text, under) if t))
        rows.append(ReportRow(o.order.code, [name, ReportCell(date), *_cells(v, "order", o.order.code, ORDER, amounts)]))
    whole = [amount_of(n, unit) for n in orders_in_all(found)]
    rows.append(ReportRow("total", [ReportCell(sentence("report.in_all")), ReportCell(None), *_cells(v, "order", "", ORDER, whole)], True))
    money = [(key, "money") for key in ORDER]
    return table_of("orders", columns_of(("order", "text"), ("ordered_on", "day"), *money), rows)


def under_change(v: View, depth: int) -> list[ReportTable]:
    """The budget by element down to a level and of the project, then the reserves."""
    change, code = v.results.under_change, v.book.project.code
    rows = [_stand(v, change.stand(h.code), "wbs", h.name) for h in levels(v.book) if h.level < depth]
    rows.append(_stand(v, change.stand(), "project", v.book.project.name, total=True))
    tables = [table_of("under_change", columns_of(("element", "text"), *((key, "money") for key in BUDGET)), rows)]
    held = []
    for x in change.reserves():
        name = ReportCell(x.reserve.name, sentence(f"report.held_{x.reserve.held}"))
        held.append(ReportRow(x.reserve.code, [name, *_cells(v, "reserve", x.reserve.code, RESERVE, (x.amount, x.drawn, x.left))]))
    if held:
        money = [(key, "money") for key in ("reserve_amount", "drawn", "left")]
        tables.append(
            table_of("under_change.reserves", columns_of(("reserve", "text"), *money), held, sentence("report.reserves_of", code=code))
        )
    return tables


_FIGURES = {"original": "original_bac", "baseline": "bac"}


def _stand(v: View, b: BudgetStand, kind: str, name: str, total: bool = False) -> ReportRow:
    cells = []
    for key in BUDGET:
        amount: Decimal | None = getattr(b, key)
        why = b.reasons.get(key, "") if amount is None else ""
        where = FigureAt(_FIGURES.get(key, key), kind, b.code, v.page.code)
        cells.append(ReportCell(None if amount is None else f"{amount:f}", why, where))
    return ReportRow(b.code, [ReportCell(name), *cells], total)


def baselines(v: View) -> tuple[list[str], ReportTable]:
    """The pages on which the measured baseline changed: from what to what, and why; and how the finish stands against the first one."""
    rows = []
    for x in rebased(v.results.book, v.results.at.periods):
        was, now = ReportCell(x.was.code, x.was.name), ReportCell(x.now.code, x.now.name)
        ends = [_day(b.finish) for b in (x.was, x.now)]
        budgets = [cell for b in (x.was, x.now) for cell in _cells(v, "baseline", b.code, ("baseline_budget",), (b.bac,))]
        rows.append(ReportRow(x.page, [ReportCell(x.page), was, now, *ends, *budgets, ReportCell(x.now.reason)]))
    then = read(v.results, "original_finish")
    told = [sentence("report.first_finish", date=format_date(to_text(then)))] if isinstance(then, int) else []
    heads = columns_of(("page", "text"), ("was", "text"), ("becomes", "text"), ("was_finish", "day"), ("now_finish", "day"))
    return told, table_of("rebased", [*heads, *columns_of(("was_bac", "money"), ("now_bac", "money"), ("reason", "text"))], rows)


def _day(t: Instant | None) -> ReportCell:
    return ReportCell(None if t is None else to_text(t))
