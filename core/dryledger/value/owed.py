"""Money that is committed and owed: orders, and what is expected, ordered, counted and still to pay of each cost.

Source: calculation contract, section 10. Amounts are in minor units.
"""

from collections import defaultdict
from collections.abc import Iterator

from dryledger.budget.paying import OrderStand, Owed, order_stands
from dryledger.calendar.calendar import midnight
from dryledger.value.valuation import Valuation

__all__ = ["every_cost", "orders", "paid_by_activity"]


def every_cost(v: Valuation, in_budget: bool = True) -> Iterator[Owed]:
    """Every direct cost and material, in the budget or those outside it, in the book's order."""
    for code in v.payments.activities:
        yield from (o for o in v.owed(code) if o.payable.in_budget is in_budget)


def orders(v: Valuation) -> list[OrderStand]:
    """Every order as it stands at the page."""
    return order_stands(v.book, v.entries, v.at.status)


def paid_by_activity(v: Valuation) -> dict[str, dict[str, int]]:
    """What is committed (by orders dated up to the status), still to order and still to pay, by activity."""
    out: dict[str, dict[str, int]] = {key: defaultdict(int) for key in ("committed", "to_order", "to_pay")}
    for o in every_cost(v):
        out["to_order"][o.payable.activity] += o.to_order
        out["to_pay"][o.payable.activity] += o.to_pay
    status, homes = v.at.status, v.payments.homes
    for order in v.book.orders:
        if order.date is None or status is None or midnight(order.date) < status:
            for of, amount in v.payments.committed(order).items():
                if of in homes and of not in v.outside:
                    out["committed"][homes[of]] += amount
    return out
