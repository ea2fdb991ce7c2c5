"""What is ordered and entered for each direct cost and material, what has followed progress of it, and what is still to be paid.

Source: calculation contract, sections 9 and 10. Still to be paid = expected − counted, at least 0; expected = ordered + still to order.
Entries count for what they name; those that name an order alone for its lines in their order; those of an activity that name nothing
together, for its direct costs in the book's order, then its materials. Amounts are whole minor units.
"""

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from functools import cached_property
from operator import add
from typing import NamedTuple

from dryledger.book.money_rules import pays
from dryledger.book.orders import Order
from dryledger.book.plan import Activity, Assignment, Book, DirectCost, Resource
from dryledger.budget.actual import ActualItem, Target
from dryledger.budget.following import Following, follows
from dryledger.budget.lines import direct_amount, unit_price, use_of
from dryledger.budget.money import cells, minor_unit, part
from dryledger.budget.spread import Piece, at_once, grown
from dryledger.calendar.calendar import Instant, midnight
from dryledger.schedule.progress import AsOf, Progress

__all__ = ["OrderStand", "Owed", "Payable", "Payments", "Span", "order_stands"]

Span = tuple[Instant, Instant, Instant]
"""Start, resume (or start) and finish of an activity."""


class Payable(NamedTuple):
    """A direct cost or a material as planned: `amount` in minor units; `key` is its code, or its place where it has none."""

    key: str
    code: str
    activity: str
    name: str
    kind: str
    accrual: str
    amount: int
    in_budget: bool
    follows: bool
    to_order: int | None
    closed: str | bool | None
    of: DirectCost | Assignment

    def is_closed(self, t: Instant | None) -> bool:
        """Whether its final invoice is in at an instant."""
        if isinstance(self.closed, str):
            return t is not None and midnight(date.fromisoformat(self.closed)) < t
        return bool(self.closed)


class Owed(NamedTuple):
    """How a payable stands at the page: what is expected and ordered of it, still to order, counted, and still to be paid.

    `entered` is what entries came to for it, `reckoned` what has followed progress beside them; `if_open` what would be expected without
    the final invoice.
    """

    payable: Payable
    expected: int
    ordered: int
    to_order: int
    entered: int
    reckoned: int
    if_open: int

    @property
    def counted(self) -> int:
        """What counts for it in all."""
        return self.entered + self.reckoned

    @property
    def to_pay(self) -> int:
        """What is still to be paid."""
        return max(0, self.expected - self.counted)


class Named(NamedTuple):
    """Entries at an instant: by what they name, by (order, what it is for), and those of each activity that name nothing."""

    of: dict[str, int]
    of_order: dict[tuple[str, str], int]
    loose: dict[str, int]


class Payments:
    """What is paid and still to be paid at a page."""

    def __init__(
        self, at: AsOf, progress: Mapping[str, Progress], spans: Mapping[str, Span], items: Sequence[ActualItem], following: Following
    ) -> None:
        self.at, self.book, self.following = at, at.book, following
        self._progress, self._spans, self._items = progress, spans, items
        self._unit = minor_unit(self.book.project.currency)
        self._named: dict[Instant | None, Named] = {}
        self._owed: dict[str, list[Owed]] = {}

    @cached_property
    def activities(self) -> list[str]:
        """The activities that have direct costs or materials, in the book's order."""
        there = self.book.costs_of.keys() | {a.activity for a in self.book.assignments if a.resource in self._materials}
        return [a.code for a in self.book.activities if a.code in there]

    @cached_property
    def _materials(self) -> dict[str, Resource]:
        return {x.code: x for x in self.book.resources if x.kind == "material"}

    def of(self, code: str) -> list[Owed]:
        """The direct costs of an activity, then its materials, as they stand."""
        found = self._owed.get(code)
        if found is None:
            found = self._owed[code] = self._stand(code)
        return found

    def _payables(self, code: str) -> list[Payable]:
        book, p, unit, out = self.book, self._progress[code], self._unit, list[Payable]()
        for i, c in enumerate(book.costs_of.get(code, ())):
            amount, key = cells(direct_amount(book, c, p.elapsed + p.remaining), unit), c.code or f"{code}#{i}"
            out.append(Payable(key, c.code, code, c.name, "direct", c.accrual, amount, c.in_budget, *self._stated_of(c)))
        for a in book.assignments_of.get(code, ()):
            resource = self._materials.get(a.resource)
            if resource is not None:
                amount = self._material(book.activity_by_code[code], a)
                out.append(Payable(a.code, a.code, code, resource.name, "material", "uniform", amount, True, *self._stated_of(a)))
        return out

    def _stated_of(self, x: DirectCost | Assignment) -> tuple[bool, int | None, str | bool | None, DirectCost | Assignment]:
        """Whether it follows progress, what is stated as still to order, whether it is closed; and itself."""
        return follows(self.book, x), None if x.to_order is None else cells(x.to_order, self._unit), x.closed, x

    def _material(self, activity: Activity, a: Assignment) -> int:
        """Quantity × price, and its use where no posting has brought it."""
        start, _, finish = self._spans[activity.code]
        price = unit_price(self.book, activity, a, start, finish)
        use = 0 if (a.activity, a.resource) in self.at.used else use_of(self.book, a.resource, start)
        return cells(price * (a.quantity or Decimal(0)), self._unit) + use

    # Orders

    def _ordered(self, x: Payable, named: Named) -> int:
        """What the lines of orders for it come to, of a closed order what its entries came to."""
        lines = self.book.orders_for.get(x.code, ()) if x.code else ()
        total = sum([cells(amount, self._unit) for order, amount in lines if order.state == "open"])
        seen = {order.code for order, _ in lines}
        return total + sum(named.of_order.get((code, x.code), 0) for code in seen if self._orders[code].state == "closed")

    @cached_property
    def _orders(self) -> dict[str, Order]:
        return {x.code: x for x in self.book.orders}

    # What entries count for

    def named(self, t: Instant | None) -> Named:
        """The entries that count at an instant, by what they are for."""
        found = self._named.get(t)
        if found is None:
            found = self._named[t] = self._sorted(t)
        return found

    def _sorted(self, t: Instant | None) -> Named:
        out = Named(defaultdict(int), defaultdict(int), defaultdict(int))
        together: dict[tuple[str, Target], int] = {}
        for x in self._items if t is not None else ():
            if x.hours is not None or not x.counts(t or 0):
                continue
            if x.of is not None:
                out.of[x.of] += x.amount
                if x.order is not None:
                    out.of_order[x.order, x.of] += x.amount
            elif x.order is not None:
                together[x.order, x.target] = together.get((x.order, x.target), 0) + x.amount
            elif x.target[0] == "activity":
                out.loose[x.target[1]] += x.amount
        taken: dict[tuple[str, int], int] = {}
        for (code, target), rest in together.items():
            lines = self._lines_for(self._orders[code], target)
            for place in lines:
                line = self._orders[code].lines[place]
                room = cells(line.amount, self._unit) - taken.get((code, place), 0)
                take = rest if place == lines[-1] else max(0, min(rest, room))
                taken[code, place] = taken.get((code, place), 0) + take
                out.of[line.of] += take
                out.of_order[code, line.of] += take
                rest -= take
        return out

    def _lines_for(self, order: Order, target: Target) -> list[int]:
        homes = self.homes
        return [i for i, line in enumerate(order.lines) if pays(self.book, target, homes.get(line.of))]

    def committed(self, order: Order) -> dict[str, int]:
        """What an order comes to for each thing it is for: its lines, of a closed one what its entries came to."""
        out = dict[str, int]()
        for line in order.lines if order.state == "open" else ():
            out[line.of] = out.get(line.of, 0) + cells(line.amount, self._unit)
        if order.state == "closed":
            out = {of: amount for (code, of), amount in self.named(self.at.status).of_order.items() if code == order.code}
        return out

    @cached_property
    def homes(self) -> dict[str, str]:
        """The activity of each cost and assignment that has a name."""
        return {c.code: c.activity for c in self.book.costs if c.code} | {a.code: a.activity for a in self.book.assignments}

    def _entered(self, payables: Sequence[Payable], expected: Sequence[int], named: Named) -> list[int]:
        """What entries came to for each payable of an activity; those that name nothing each up to what is expected, in their order."""
        out = [named.of.get(x.code, 0) if x.code else 0 for x in payables]
        rest = named.loose.get(payables[0].activity, 0) if payables else 0
        for i, x in enumerate(payables):
            if rest > 0 and x.in_budget:
                take = min(rest, max(0, expected[i] - out[i]))
                out[i] += take
                rest -= take
        return out

    def _stand(self, code: str) -> list[Owed]:
        status, payables = self.at.status, self._payables(code)
        named, orders = self.named(status), self.book.orders
        ordered = [self._ordered(x, named) if orders else 0 for x in payables]
        to_order = [max(0, x.amount - o) if x.to_order is None else x.to_order for x, o in zip(payables, ordered, strict=True)]
        expected = list(map(add, ordered, to_order))
        entered, out = self._entered(payables, expected, named), list[Owed]()
        for x, order, more, whole, paid in zip(payables, ordered, to_order, expected, entered, strict=True):
            closed = x.closed is not None and x.is_closed(status)
            reckoned = self._beside(x, whole, paid, status) if x.follows and not closed and status is not None else 0
            out.append(Owed(x, paid + reckoned if closed else whole, order, 0 if closed else more, paid, reckoned, whole))
        return out

    # What follows progress

    def _beside(self, x: Payable, expected: int, entered: int, t: Instant) -> int:
        """What has followed progress of it by an instant beside the entries that count for it."""
        begun = self._progress[x.activity].actual_start
        if not x.follows or not x.in_budget or begun is None or t < begun:
            return 0
        return max(0, self._come_to(x, expected, t) - entered)

    def _come_to(self, x: Payable, expected: int, t: Instant) -> int:
        """What it has come to by an instant, by progress alone."""
        p = self._progress[x.activity]
        n, whole = self.following.elapsed(x.activity, t), self.following.elapsed(x.activity, self.at.status or t) + p.remaining
        if isinstance(x.of, Assignment):
            return min(expected, self._used(x, x.of, p, n, whole))
        if x.accrual == "start":
            return expected
        if x.accrual == "finish":
            return expected if p.actual_finish is not None and t >= p.actual_finish else 0
        return part(expected, *grown(self.book.activity_by_code[x.activity].profile, n, whole)) if whole else expected

    def _used(self, x: Payable, a: Assignment, p: Progress, n: int, whole: int) -> int:
        """The cost of a material used: by time, or under method units by the units done, over the time so far."""
        measured = self.book.measured.by_code.get(x.activity) if self.book.measured is not None else None
        method = measured.value_method if measured is not None else self.book.activity_by_code[x.activity].value_method
        units = None if p.statement is None else p.statement.units_done
        if method.type == "units" and (units is not None or p.state != "complete"):
            so_far = whole - p.remaining
            done = (units or Decimal(0)) / method.planned * (Decimal(n) / so_far if so_far else 1)
            return cells(x.amount * done, Decimal(1))
        return part(x.amount, n, whole) if whole else x.amount

    def reckoned(self) -> Iterable[tuple[str, Payable, Piece]]:
        """What follows progress of direct costs and materials, over time."""
        status = self.at.status
        if self.following.nothing or status is None:
            return
        for code in self.activities:
            p = self._progress[code]
            if p.actual_start is None:
                continue
            owed = self.of(code)
            for i, o in enumerate(owed):
                x = o.payable
                if x.follows and x.in_budget:
                    yield code, x, Piece(p.actual_start, status, o.reckoned, self._over_time(owed, i))

    def _over_time(self, owed: Sequence[Owed], i: int) -> "_OverTime":
        return _OverTime(self, [o.payable for o in owed], [o.if_open for o in owed], i)

    def beside_at(self, payables: Sequence[Payable], expected: Sequence[int], i: int, t: Instant) -> int:
        """What has followed progress of one of an activity's payables by an earlier instant."""
        x = payables[i]
        if x.is_closed(t):
            return 0
        return self._beside(x, expected[i], self._entered(payables, expected, self.named(t))[i], t)

    def only_outside(self, x: ActualItem, outside: set[str]) -> bool:
        """Whether an entry belongs to an order all of whose lines that it can count for are of costs outside the budget."""
        if x.of is not None or x.order is None:
            return False
        order = self._orders[x.order]
        lines = self._lines_for(order, x.target)
        return bool(lines) and all(order.lines[i].of in outside for i in lines)

    # What is left

    @cached_property
    def told_of(self) -> set[str]:
        """The activities of one of whose costs an entry or an order says something."""
        named = {x.of for x in self._items if x.of is not None} | self.book.orders_for.keys()
        return {self.homes[code] for code in named if code in self.homes} if named else set()

    def left(self, o: Owed) -> Piece | None:
        """What is still to be paid of a payable, when it falls due; None where nothing is. Without a page all that is planned."""
        x, amount = o.payable, o.payable.amount if self.at.status is None else o.to_pay
        if not amount or not x.in_budget:
            return None
        p, (_, resume, finish) = self._progress[x.activity], self._spans[x.activity]
        late = resume if self.at.status is None else self.at.status
        if p.state == "complete":
            return at_once(late, amount)
        if x.accrual == "start":
            return at_once(resume if p.state == "not_started" else late, amount)
        if x.accrual == "finish":
            return at_once(finish, amount)
        along = (self.book.axes[x.activity], self.book.activity_by_code[x.activity].profile, p.remaining, p.elapsed)
        return Piece(resume, finish if p.remaining else resume, amount, along)


@dataclass(frozen=True)
class _OverTime:
    """What follows progress of one payable, asked at an instant."""

    payments: Payments
    payables: list[Payable]
    expected: list[int]
    place: int

    def __call__(self, t: Instant) -> int:
        return self.payments.beside_at(self.payables, self.expected, self.place, t)


class OrderStand(NamedTuple):
    """How an order stands at a page, in minor units: what it comes to, invoiced, accrued, and left of it."""

    order: Order
    amount: int
    invoiced: int
    accrued: int

    @property
    def left(self) -> int:
        """What of it is not invoiced nor accrued; of a closed one nothing."""
        return 0 if self.order.state == "closed" else max(0, self.amount - self.invoiced - self.accrued)


def order_stands(book: Book, items: Iterable[ActualItem], status: Instant | None) -> list[OrderStand]:
    """Every order, in the book's order."""
    unit = minor_unit(book.project.currency)
    sums: dict[tuple[str, bool], int] = defaultdict(int)
    for x in items:
        if x.order is not None and status is not None and x.counts(status):
            sums[x.order, x.source == "accrual"] += x.amount
    return [OrderStand(o, sum(cells(x.amount, unit) for x in o.lines), sums[o.code, False], sums[o.code, True]) for o in book.orders]
