"""Money that is committed and owed: orders, and what is expected, ordered, counted and still to pay of each cost.

Source: calculation contract, section 10. Amounts are in minor units.
"""

from collections import defaultdict
from collections.abc import Iterable, Iterator

from dryledger.book.money_rules import pays
from dryledger.budget.actual import Target
from dryledger.budget.money import cells
from dryledger.budget.paying import OrderStand, Owed, order_stands
from dryledger.calendar.calendar import midnight
from dryledger.value.valuation import Valuation

__all__ = ["MayPay", "every_cost", "orders", "orders_in_all", "owed_in_all", "paid_by_activity"]


def every_cost(v: Valuation, in_budget: bool = True) -> Iterator[Owed]:
    """Every direct cost and material, in the budget or those outside it, in the book's order."""
    for code in v.payments.activities:
        yield from (o for o in v.owed(code) if o.payable.in_budget is in_budget)


def owed_in_all(v: Valuation) -> dict[str, int]:
    """What the costs in the budget come to together: expected, ordered, still to order, counted, still to pay."""
    found = list(every_cost(v))
    return {key: sum(getattr(o, key) for o in found) for key in ("expected", "ordered", "to_order", "counted", "to_pay")}


def orders_in_all(stands: Iterable[OrderStand]) -> tuple[int, ...]:
    """What orders come to together: amount, invoiced, accrued, left."""
    return tuple(map(sum, zip((0, 0, 0, 0), *((o.amount, o.invoiced, o.accrued, o.left) for o in stands), strict=True)))


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


class MayPay:
    """What an entry on an activity or element may pay, as order and cost or the cost alone: what fits its amount best first.

    First open orders with just as much left, or with a line of just that amount; then costs with just as much still to pay; then other
    open orders by how near what is left of them comes; then other costs in the book's order.
    """

    def __init__(self, v: Valuation) -> None:
        self._book, self._unit = v.book, v.unit
        owed = {o.payable.code: o.to_pay for code in v.payments.activities for o in v.owed(code)}
        self._at: dict[str, list[tuple[str, int | None, OrderStand | None]]] = defaultdict(list)
        homes = v.payments.homes
        for stand in orders(v):
            for line in stand.order.lines if stand.order.state == "open" else ():
                if line.of in homes:
                    self._at[homes[line.of]].append((f"{stand.order.code} {line.of}", cells(line.amount, self._unit), stand))
        for of, home in homes.items():
            self._at[home].append((of, owed.get(of), None))

    def __call__(self, on: Target, amount: int) -> dict[str, bool]:
        """The choices for an entry of so many minor units, and of each whether it fits the amount."""
        found: list[tuple[int, int, str]] = []
        for home in [on[1]] if on[0] == "activity" else [h for h in self._at if pays(self._book, on, h)]:
            for text, near, stand in self._at.get(home, ()):
                if stand is not None:
                    found.append((0 if amount in (stand.left, near) else 2, abs(stand.left - amount), text))
                else:
                    found.append((1 if amount and near == amount else 3, 0, text))
        out: dict[str, bool] = {}
        for rank, _, text in sorted(found, key=lambda x: x[:2]):
            out.setdefault(text, rank < 2)
        return out
