"""What must hold of what money is named by: codes of costs, orders, what entries pay, changes of the budget, reserves.

Source: calculation contract, sections 10 and 23, and the book format.
"""

from collections.abc import Iterable, Iterator
from datetime import date
from decimal import Decimal

from dryledger.book.plan import Book, Period
from dryledger.book.registers import ChangeOrder
from dryledger.book.since import New
from dryledger.errors import Fault
from dryledger.words import sentence

__all__ = ["CLIENT", "NOTHING", "money_faults", "pays"]

NOTHING = "-"
"""What an entry says that is for no cost."""
CLIENT = "client"
"""Where the money of a change comes from that the client pays."""
ASSUMED = ("actual_start", "actual_finish")
Homes = dict[str, str]
"""The activity of each cost and assignment that has a code."""


def money_faults(book: Book, new: New) -> Iterator[Fault]:
    """Every fault of these, each at its place."""
    homes = {c.code: c.activity for c in book.costs if c.code} | {a.code: a.activity for a in book.assignments}
    yield from _codes(book)
    for i, order in enumerate(book.orders):
        for j, line in enumerate(order.lines):
            if line.of not in homes:
                yield Fault(f"orders[{i}].lines[{j}].for", sentence("rules.no_code", what=sentence("rules.cost_named"), code=line.of))
    if len({x.code for x in book.reserves} & {CLIENT}):
        place = [x.code for x in book.reserves].index(CLIENT)
        yield Fault(f"reserves[{place}].code", sentence("rules.reserve_called_client"))
    earlier: set[str] = set()
    for i, b in enumerate(book.baselines):
        if b.before is not None and b.before not in earlier:
            yield Fault(f"baselines[{i}].before", sentence("rules.no_earlier_baseline", code=b.before))
        earlier.add(b.code)
    for i, change in enumerate(book.changes):
        yield from _change(book, change, f"changes[{i}]")
    same = new.known("periods") if not any(map(new.lists, ("orders", "costs", "assignments", "activities", "wbs", "baselines"))) else set()
    for i, p in enumerate(book.periods):
        if id(p) not in same:
            yield from _page(book, p, f"periods[{i}]", homes)


def _codes(book: Book) -> Iterator[Fault]:
    """A cost's code is its own and no assignment's name; a final invoice has a date, or is always in."""
    taken = {a.code for a in book.assignments}
    for i, c in enumerate(book.costs):
        if c.code and (c.code in taken or c.code == NOTHING):
            yield Fault(f"costs[{i}].code", sentence("rules.stands_twice_codes_must", code=c.code))
        taken.add(c.code)
    rows: Iterable[tuple[str, str | bool | None]] = [
        *((f"costs[{i}]", c.closed) for i, c in enumerate(book.costs)),
        *((f"assignments[{i}]", a.closed) for i, a in enumerate(book.assignments)),
    ]
    for path, closed in rows:
        if closed is not None and closed is not True and not _is_date(closed):
            yield Fault(f"{path}.closed", sentence("rules.closed_date"))


def _is_date(value: object) -> bool:
    try:
        return isinstance(value, str) and len(value) == 10 and bool(date.fromisoformat(value))
    except ValueError:
        return False


def _change(book: Book, c: ChangeOrder, at: str) -> Iterator[Fault]:
    reserves = {x.code for x in book.reserves}
    if c.source is not None and c.source != CLIENT and c.source not in reserves:
        yield Fault(f"{at}.from", sentence("rules.no_code", what="reserve", code=c.source))
    for j, line in enumerate(c.lines):
        named = [x for x in (line.wbs, line.activity, line.reserve) if x is not None]
        if len(named) != 1:
            yield Fault(f"{at}.lines[{j}]", sentence("rules.change_line_names_one"))
        elif line.reserve is not None and line.reserve not in reserves:
            yield Fault(f"{at}.lines[{j}].reserve", sentence("rules.no_code", what="reserve", code=line.reserve))
    if c.stands in ("approved", "built") and c.source is None and sum((x.amount for x in c.lines), Decimal(0)):
        yield Fault(f"{at}.lines", sentence("rules.transfer_adds_up_to_nothing"))
    if c.lines and c.stands != "raised" and c.decided_when is None:
        yield Fault(f"{at}.decided_at", sentence("rules.decision_needs_date"))
    if (c.stands == "built") != (c.baseline is not None):
        yield Fault(f"{at}.baseline", sentence("rules.built_names_baseline"))
    elif c.baseline is not None and c.baseline not in book.baseline_by_code:
        yield Fault(f"{at}.baseline", sentence("rules.no_code", what="baseline", code=c.baseline))


def _page(book: Book, p: Period, at: str, homes: Homes) -> Iterator[Fault]:
    if p.measured_against is not None and p.measured_against not in book.baseline_by_code:
        yield Fault(f"{at}.measured_against", sentence("rules.no_code", what="baseline", code=p.measured_against))
    for j, s in enumerate(p.statements):
        if any(name not in ASSUMED or getattr(s, name) is None for name in s.assumed):
            yield Fault(f"{at}.statements[{j}].assumed", sentence("rules.assumed_dates"))
    orders = {x.code: x for x in book.orders}
    for j, c in enumerate(p.costs):
        on = ("activity", c.activity) if c.activity is not None else ("wbs", c.wbs or "")
        if c.of is not None and c.of != NOTHING and not pays(book, on, homes.get(c.of)):
            yield Fault(f"{at}.costs[{j}].for", sentence("rules.entry_for_no_cost_of_it", code=c.of, on=c.activity or c.wbs or ""))
        if c.order_code is not None and c.order_code not in orders:
            yield Fault(f"{at}.costs[{j}].order", sentence("rules.no_code", what="order", code=c.order_code))
        elif c.order_code is not None and c.of is None and not any(pays(book, on, homes.get(x.of)) for x in orders[c.order_code].lines):
            yield Fault(f"{at}.costs[{j}].order", sentence("rules.order_has_no_line", code=c.order_code, on=c.activity or c.wbs or ""))


def pays(book: Book, on: tuple[str, str], home: str | None) -> bool:
    """Whether what is entered on an ("activity" | "wbs", code) can pay something of the activity `home`: its own, or one below it."""
    if home is None or home not in book.activity_by_code:
        return False
    if on[0] == "activity":
        return on[1] == home
    return on[1] in book.wbs_above.get(book.activity_by_code[home].wbs or "", ())
