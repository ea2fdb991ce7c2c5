"""What a plan costs as columns: a row for each assignment and direct cost, the rates in force, and the passes over them.

Worked out once a plan, as `indexed` does of its network. Source: calculation contract, section 6.
"""

from collections.abc import Callable, Sequence
from decimal import Decimal
from fractions import Fraction
from functools import cache
from itertools import chain
from operator import add, attrgetter
from typing import NamedTuple

from dryledger.book.memory import Slot
from dryledger.book.plan import Book
from dryledger.budget import column_passes as passes
from dryledger.budget.column_passes import AT_FINISH, AT_START, DIRECT, LARGEST, MATERIAL, UNIFORMLY, WORK, CostRows, Dues, Ranges, Rates
from dryledger.budget.money import all_cells, minor_unit
from dryledger.budget.rates import Tariff, tariffs
from dryledger.budget.spread import SHAPES
from dryledger.calendar.axis import Instant
from dryledger.network.arrays import Axes, Ints
from dryledger.network.engine import Engine, compile_all

__all__ = ["ACCRUALS", "Kernels", "PlanColumns", "by_activity", "by_day", "kernels", "plan_columns", "sums_at"]

ZERO, ONE = Decimal(0), Decimal(1)
ACTIVITY = attrgetter("activity")
MOST_PLACED = 100_000
ACCRUALS = {"uniform": UNIFORMLY, "start": AT_START, "finish": AT_FINISH}


class Kernels(NamedTuple):
    """The passes over columns, compiled or plain, and whether they reckon in numbers without end."""

    planned_dues: Callable[..., int]
    price: Callable[..., None]
    emit: Callable[..., int]
    positions: Callable[..., None]
    due_by: Callable[..., int]
    spans_of: Callable[..., None]
    by_day: Callable[..., int]
    roll_up: Callable[..., None]


def kernels(e: Engine) -> Kernels:
    """The passes that run over an engine's arrays."""
    return _interpreted() if isinstance(e.zeros(0), list) else _compiled()


@cache
def _interpreted() -> Kernels:
    return Kernels(*(getattr(passes, x) for x in Kernels._fields))


@cache
def _compiled() -> Kernels:
    names = compile_all(passes, passes.KERNELS)
    return Kernels(*(names[x] for x in Kernels._fields))  # type: ignore[arg-type]


class PlanColumns(NamedTuple):
    """The cost rows of a plan by activity, with what of each activity never changes with the pages: its shape, and whether it is odd:
    whether any of its costs is told otherwise than by time, quantity and amount."""

    places: dict[str, int]
    rows: CostRows
    rates: Rates
    shape: Ints
    odd: list[int]


COLUMNS: Slot[PlanColumns] = Slot("cost rows of the plan", ("project", "calendars", "resources", "activities", "assignments", "costs"))


def plan_columns(book: Book) -> PlanColumns:
    """The columns of a book, worked out once a plan."""
    return book.memo.once(COLUMNS, lambda: _columns_of(book))


def _columns_of(book: Book) -> PlanColumns:
    unit, known, e = minor_unit(book.project.currency), tariffs(book), book.network_index.engine
    index = dict(zip(book.network_index.codes, range(len(book.activities)), strict=True))
    rated = [_rates(known[x.code], x.kind == "material", unit) for x in book.resources]
    kinds = [MATERIAL if x.kind == "material" else WORK for x in book.resources]
    place = {x.code: j for j, x in enumerate(book.resources) if x.kind == "material" or x.rates}
    assigned = book.assignments if len(place) == len(kinds) else [a for a in book.assignments if a.resource in place]
    costs = [c for c in book.costs if c.in_budget]
    resource = [place[code] for code in map(attrgetter("resource"), assigned)]
    kind = [kinds[j] for j in resource]
    counted = [a.units if of == WORK else a.quantity or ZERO for a, of in zip(assigned, kind, strict=True)]
    ratios = {x: x.as_integer_ratio() for x in set(counted)}
    parts, amounts = [ratios[x] for x in counted], all_cells((c.amount for c in costs), unit)
    by = [index[code] for code in chain(map(ACTIVITY, costs), map(ACTIVITY, assigned))]
    odd = [int(a.driver == "work") for a in book.activities]
    if max((abs(x) for x in chain(chain.from_iterable(ratios.values()), amounts)), default=0) >= LARGEST:
        parts, amounts = [_within(p) for p in parts], [x if abs(x) < LARGEST else 0 for x in amounts]
        for i, n in zip(by, [*amounts, *(n for n, _ in parts)], strict=True):
            odd[i] = odd[i] or int(n == 0)
    uneven = {x.code for x, found in zip(book.resources, rated, strict=True) if found is None}
    otherwise = [a.activity for a in assigned if a.to_order is not None or a.closed is not None or a.resource in uneven]
    otherwise += [c.activity for c in book.costs if c.kind != "fixed" or c.to_order is not None or c.closed is not None]
    for code in otherwise:
        odd[index[code]] = 1
    rows = CostRows(
        e.array(by),
        e.array([DIRECT] * len(costs) + kind),
        e.array([0] * len(costs) + resource),
        e.array(amounts + [n for n, _ in parts]),
        e.array([1] * len(costs) + [d for _, d in parts]),
        e.array([ACCRUALS[c.accrual] for c in costs] + [UNIFORMLY] * len(assigned)),
    )
    return PlanColumns(index, rows, _table(e, rated), e.array([SHAPES[a.profile] for a in book.activities]), odd)


def _within(ratio: tuple[int, int]) -> tuple[int, int]:
    """The ratio; 0 where it is written in larger numbers than columns reckon with."""
    return ratio if abs(ratio[0]) < LARGEST and ratio[1] < LARGEST else (0, 1)


Series = tuple[list[Instant], list[tuple[int, int]]]
NO_RATES: Series = ([], [(0, 1)])


def _rates(tariff: Tariff, material: bool, unit: Decimal) -> Series | None:
    """The cuts of a tariff, and what a minute (or a unit of a material) costs before the first and from each on, in minor units; None
    where something else counts."""
    timed = tariff.series.keys() - {"use"}
    if len(timed) < len(tariff.series) or (timed and tariff.counts is None):
        return None
    if not timed or material != (tariff.counts == "units"):
        return NO_RATES if material or not timed else None
    hours = {**tariff.divisors, "hour": ONE, "unit": ONE}
    out = []
    for t in [None, *tariff.cuts]:
        exact = sum((Fraction(tariff.amount(per, t)) / Fraction(hours[per]) for per in timed if t is not None), Fraction(0))
        found = exact / Fraction(unit) / (1 if material else 60)
        if abs(found.numerator) >= LARGEST or found.denominator >= LARGEST:
            return None
        out.append((found.numerator, found.denominator))
    return tariff.cuts, out


def _table(e: Engine, rated: Sequence[Series | None]) -> Rates:
    first, cut, parts = [0], list[Instant](), list[tuple[int, int]]()
    for cuts, found in (x or NO_RATES for x in rated):
        cut += cuts
        parts += found
        first.append(len(cut))
    return Rates(e.array(first), e.array(cut), e.array([n for n, _ in parts]), e.array([d for _, d in parts]))


def sums_at(e: Engine, x: Axes, ends: Sequence[Instant], d: Dues, inside: Sequence[bool]) -> list[int]:
    """What of the amounts of the activities inside is due by each of the ascending instants: the line of one element that has them all."""
    whole = Ranges(*(e.array([n]) for n in (0, 0, len(ends), 0)))
    return by_day(e, x, ends, d, e.array([0 if within else -1 for within in inside]), whole)


def by_activity(e: Engine, x: Axes, t: Instant, d: Dues, activities: int) -> list[int]:
    """What of the amounts of each activity is due by an instant."""
    found, odd = e.zeros(activities), e.zeros(len(d.owner))
    left_out = kernels(e).due_by(x, t, d, found, odd, False)
    out = e.listed(found)
    if left_out:
        passes.due_by(_listed_axes(e, x), t, _at(e, d, odd, left_out), out, [], True)
    return out


def by_day(e: Engine, x: Axes, days: Sequence[Instant], d: Dues, home: Ints, r: Ranges) -> list[int]:
    """The lines of elements, one after the other: what of the amounts of their activities, and of what is below them, is due by each of
    the days that each has. What 64 bits may not hold is added up again in numbers without end."""
    size = sum(e.listed(r.high)) - sum(e.listed(r.low))
    out, odd = e.zeros(size), e.zeros(len(d.owner))
    left_out = kernels(e).by_day(x, *_placed(e, x, days), d, home, r, out, odd, False)
    kernels(e).roll_up(r, out)
    if not left_out:
        return e.listed(out)
    some, ranges = [0] * size, Ranges(*map(e.listed, r))
    passes.by_day(_listed_axes(e, x), list(days), [], _at(e, d, odd, left_out), e.listed(home), ranges, some, [], True)
    passes.roll_up(ranges, some)
    return list(map(add, e.listed(out), some))


def _placed(e: Engine, x: Axes, ends: Sequence[Instant]) -> tuple[Ints, Ints]:
    """The ends, and their positions on every axis where those are not too many to be worked out beforehand."""
    size, found = (len(x.first) - 1) * len(ends), e.array(ends)
    at = e.zeros(size if size <= MOST_PLACED else 0)
    kernels(e).positions(x, found, at)
    return found, at


def _listed_axes(e: Engine, x: Axes) -> Axes:
    return Axes(*map(e.listed, x))


def _at(e: Engine, d: Dues, places: Ints, count: int) -> Dues:
    """Some of the amounts, as plain lists."""
    wanted = e.listed(places)[:count]
    return Dues(*([column[i] for i in wanted] for column in map(e.listed, d)))
