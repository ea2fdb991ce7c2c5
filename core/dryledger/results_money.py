"""Orders, what is owed, the budget under change and reserves as the plain JSON of the results format."""

from collections.abc import Iterable
from decimal import Decimal

from dryledger.budget.money import amount_of
from dryledger.budget.paying import Owed
from dryledger.compute import Results
from dryledger.value.owed import every_cost, orders
from dryledger.value.under_change import BudgetStand

__all__ = ["money_document"]

Doc = dict[str, object]


def money_document(r: Results) -> Doc:
    """All money that is named beside earned value."""
    v = r.valuation

    def money(cells: int) -> str:
        return f"{amount_of(cells, v.unit):f}"

    def costs(found: Iterable[Owed]) -> list[Doc]:
        rows = []
        for o in found:
            x = o.payable
            row: Doc = {"activity": x.activity, "name": x.name, "code": x.code or None, "expected": money(o.expected)}
            row |= {"ordered": money(o.ordered), "to_order": money(o.to_order), "counted": money(o.counted), "to_pay": money(o.to_pay)}
            rows.append(row)
        return rows

    return {
        "orders": [
            {
                "code": o.order.code,
                "amount": money(o.amount),
                "invoiced": money(o.invoiced),
                "accrued": money(o.accrued),
                "left": money(o.left),
            }
            for o in orders(v)
        ],
        "costs": costs(every_cost(v)),
        "outside": costs(every_cost(v, in_budget=False)),
        "budget": {
            "project": _budget(r.under_change.stand()),
            "wbs": [{"code": w.code} | _budget(r.under_change.stand(w.code)) for w in r.book.wbs],
        },
        "reserves": [
            {"code": x.reserve.code, "amount": f"{x.amount:f}", "drawn": f"{x.drawn:f}", "left": f"{x.left:f}"}
            for x in r.under_change.reserves()
        ],
    }


def _budget(b: BudgetStand) -> Doc:
    def shown(amount: Decimal | None) -> str | None:
        return None if amount is None else f"{amount:f}"

    return {
        "original": shown(b.original),
        "approved_changes": shown(b.approved_changes),
        "authorised": shown(b.authorised),
        "to_build": shown(b.to_build),
        "unexplained": shown(b.unexplained),
        "baseline": shown(b.baseline),
        "reasons": b.reasons,
    }
