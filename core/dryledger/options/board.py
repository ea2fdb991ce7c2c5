"""The present plan and its options side by side: what each gains, costs and risks, computed as the book would be.

Source: calculation contract, section 19.
"""

from collections.abc import Iterable
from dataclasses import dataclass, field
from decimal import Decimal

from dryledger.book.options import Option
from dryledger.book.plan import Book
from dryledger.budget.booking import over_allocated, over_minutes
from dryledger.budget.lines import planned_cost
from dryledger.budget.money import amount_of
from dryledger.calendar.calendar import Instant
from dryledger.changes.option import Applied, Conflict, with_changes
from dryledger.compute import Results, compute
from dryledger.schedule.driving import path_float
from dryledger.schedule.schedule import Schedule

__all__ = [
    "KINDS",
    "Compared",
    "Standing",
    "budget_lines",
    "compared",
    "computed_with",
    "cost_change",
    "milestones_later",
    "more_over",
    "option_named",
    "standing",
]

KINDS = ("actual", "labour", "equipment", "material", "direct")
"""What the estimate at completion is made of: what was spent, and what remains by what it is spent on."""


@dataclass(frozen=True)
class Standing:
    """How a plan stands. Differences are finish − date in working minutes of the project calendar; money in the currency.

    `over_allocated` counts unit-minutes booked above what there is; `least_float` is the least total float on the driving path.
    """

    finish: Instant
    deadline_difference: int | None
    imposed_difference: int | None
    eac: Decimal | None
    vac: Decimal | None
    least_float: int | None
    milestones: tuple[tuple[str, Instant], ...]
    over_allocated: Decimal
    cost_by_kind: dict[str, Decimal]


@dataclass(frozen=True)
class Compared:
    """An option beside the present: what it gains in working minutes of the project calendar, and what newly runs at once."""

    code: str
    results: Results = field(repr=False)
    conflicts: tuple[Conflict, ...]
    gained: int
    overlaps: tuple[tuple[str, str], ...]
    standing: Standing


def standing(r: Results) -> Standing:
    """How the plan of a page stands."""
    p, axis, finish = r.book.project, r.book.axis, r.schedule.finish

    def after(date: Instant | None) -> int | None:
        return None if date is None else axis.between(date, finish)

    milestones = tuple((a.code, r.schedule.activities[a.code].finish) for a in r.book.activities if a.kind == "milestone")
    over = over_minutes(over_allocated(r.book, r.schedule, r.at.to_go))
    m = r.totals
    eac = m.eac.get(p.eac)
    return Standing(
        finish, after(p.deadline), after(p.imposed_finish), eac, m.vac, path_float(r.schedule), milestones, over, cost_by_kind(r)
    )


def milestones_later(book: Book, now: Standing, was: Standing) -> dict[str, int]:
    """By how many working minutes of the project calendar each milestone lies later than in another standing; a new one by none."""
    before = dict(was.milestones)
    return {code: book.axis.between(before.get(code, t), t) for code, t in now.milestones}


def cost_change(now: Standing, was: Standing) -> Decimal | None:
    """By how much the estimate at completion is more than in another standing; None where either has none."""
    return None if now.eac is None or was.eac is None else now.eac - was.eac


def more_over(unit_minutes: Decimal, was: Standing) -> Decimal:
    """Unit-minutes over-allocated beyond those of a standing; below 0 where it is less."""
    return unit_minutes - was.over_allocated


def cost_by_kind(r: Results) -> dict[str, Decimal]:
    """What makes up EAC bottom_up: actual cost, and what remains for labour, equipment, material and direct costs."""
    v = r.valuation
    found = dict.fromkeys(KINDS, 0) | {"actual": v.total().ac_total}
    for left in v.remains.values():
        for x in left:
            found[x.kind] += x.piece.amount
    return {kind: amount_of(amount, v.unit) for kind, amount in found.items()}


def budget_lines(r: Results, now: Results) -> list[dict[str, str]]:
    """By how much a changed plan costs more as planned, element by element, as lines of a change; outside the WBS activity by activity."""
    out: dict[tuple[str, str], Decimal] = {}
    for sign, x in ((-1, r), (1, now)):
        for a in x.book.activities:
            place = ("wbs", a.wbs) if a.wbs is not None else ("activity", a.code)
            out[place] = out.get(place, Decimal(0)) + sign * planned_cost(x.book, a, x.schedule.activities[a.code])
    return [{kind: code, "amount": f"{amount:f}"} for (kind, code), amount in out.items() if amount]


def option_named(book: Book, code: str) -> Option:
    """The option of a code. Raises KeyError."""
    found = next((x for x in book.options if x.code == code), None)
    if found is None:
        raise KeyError(code)
    return found


def computed_with(r: Results, option: Option) -> tuple[Applied, Results]:
    """The book of a page with an option on top, and its results at the same page."""
    later = {p.code for p in r.book.periods[len(r.at.periods) :]}
    applied = with_changes(until_page(r), option.changes, later)
    return applied, results_of(r, applied.book)


def until_page(r: Results) -> Book:
    """The book as of the page of `r`: without the pages after it."""
    return r.book if len(r.at.periods) == len(r.book.periods) else r.book.with_periods(r.at.periods)


def results_of(r: Results, book: Book) -> Results:
    """The results of a changed book at the page of `r`."""
    treatment = r.treatment if r.treatment != r.book.project.treatment else None
    return compute(book, r.at.periods[-1].code if r.at.periods else None, treatment=treatment, bucket=r.bucket, before=r)


def compared(r: Results, option: Option) -> Compared:
    """An option beside the present plan, from the same page."""
    applied, now = computed_with(r, option)
    return beside(r, now, option.code, applied.conflicts)


def beside(r: Results, now: Results, code: str, conflicts: tuple[Conflict, ...] = ()) -> Compared:
    """A changed plan beside the present one."""
    return Compared(code, now, conflicts, gained(r, now), overlaps(r, now), standing(now))


def gained(r: Results, now: Results) -> int:
    """Working minutes of the project calendar by which a changed plan ends earlier."""
    return r.book.axis.between(now.schedule.finish, r.schedule.finish)


def overlaps(r: Results, now: Results) -> tuple[tuple[str, str], ...]:
    """Pairs of activities joined by a link in either plan, unfinished in both, that share time now and did not."""
    pairs = dict.fromkeys((k.source, k.target) for k in (*r.book.links, *now.book.links))
    was, new = r.schedule, now.schedule
    return tuple(pair for pair in pairs if _open(r, pair) and _open(now, pair) and _share(new, pair) and not _share(was, pair))


def _open(r: Results, pair: Iterable[str]) -> bool:
    return all(code in r.progress and r.progress[code].state != "complete" for code in pair)  # none of another project's


def _share(plan: Schedule, pair: tuple[str, str]) -> bool:
    (_, a, b), (_, x, y) = (plan.spans[code] for code in pair)
    return max(a, x) < min(b, y)
