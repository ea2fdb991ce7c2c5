"""Posting as planned, and carrying forward: what is said, worked and spent of many activities at once, and what that would do.

A statement replaces the earlier ones whole, so one that only carries forward repeats the judgements of the latest.
"""

from collections.abc import Collection, Iterable, Iterator
from dataclasses import dataclass, field, replace
from decimal import ROUND_HALF_EVEN, Decimal

from dryledger.book.pages import CostEntry, HoursEntry, Period, Statement
from dryledger.budget.money import amount_of
from dryledger.budget.remaining import remaining_work
from dryledger.budget.spread import amount_by
from dryledger.calendar.calendar import Instant, date_of
from dryledger.compute import Results, compute
from dryledger.entry.grammar import format_day, instant_text
from dryledger.errors import EntryRefused
from dryledger.posting.assumed import nothing_left
from dryledger.posting.effects import Moved, moved
from dryledger.posting.entries import describe, needs_entry, plan_statement
from dryledger.words import sentence

__all__ = ["PARTS", "WAYS", "Filled", "Left", "Tried", "as_planned", "carried", "skipped", "tried"]

WAYS = ("to_date", "finished")
"""Each by what was planned to the status date; or only those that should be finished by it, the rest untouched."""
PARTS = ("progress", "hours", "cost")
"""What is filled: what is said of the activities, the hours of those that have time sheets, the cost that no progress brings."""


@dataclass(frozen=True)
class Left:
    """Something posted already that the plan would contradict: it stays."""

    activity: str
    part: str
    of: str
    """The resource or the cost, where it is one."""
    posted: str
    planned: str


@dataclass
class Filled:
    """What goes onto a page at once, and what is left as it is."""

    statements: list[Statement] = field(default_factory=list)
    hours: list[HoursEntry] = field(default_factory=list)
    costs: list[CostEntry] = field(default_factory=list)
    left: list[Left] = field(default_factory=list)


@dataclass(frozen=True)
class Tried:
    """A page with more on it: its results, the finishes that move, what comes onto the critical path and leaves it."""

    results: Results
    moved: tuple[Moved, ...]
    critical: tuple[str, ...]
    no_longer_critical: tuple[str, ...]


def as_planned(r: Results, before: Results, way: str, codes: Collection[str] | None, parts: Collection[str] = PARTS) -> Filled:
    """What posting as planned puts on the page of `r`: of the activities named (absent: all that need an entry).

    What the page says already stays; where the plan says something else, that is `left`.
    """
    out, mine = Filled(), {s.activity: s for s in r.at.periods[-1].statements}
    named = None if codes is None else set(codes)
    for a in r.book.activities:
        if not (a.code in named if named is not None else needs_entry(r, before, a.code)):
            continue
        planned = plan_statement(r, before, a.code)
        if planned is None or (way == "finished" and planned.actual_finish is None):
            continue
        known = mine.get(a.code)
        hours = list[HoursEntry]()
        if "progress" in parts and known is None:
            refuted = _more_said(r, planned) or _still_to_do(r, planned, hours)
            if refuted is not None:
                out.left.append(refuted)
                continue
            out.statements.append(planned)
        elif "progress" in parts and known is not None and _facts(known) != _facts(planned):
            out.left.append(Left(a.code, "progress", "", describe(known), describe(planned)))
        if known is None or known.actual_start is not None:
            if "hours" in parts:
                _fill_hours(r, before, out, planned, known)
            if "cost" in parts:
                _fill_costs(r, before, out, a.code)
        filled = {h.resource for h in out.hours if h.activity == a.code}
        out.hours += [h for h in hours if h.resource not in filled]
    if "hours" in parts:
        here = {(h.activity, h.resource) for h in r.at.periods[-1].hours}
        done = {c for c, p in r.progress.items() if p.state == "complete" and (named is None or c in named)}
        out.hours += [h for h in nothing_left(r, done) if (h.activity, h.resource) not in here]
    return out


def _more_said(r: Results, planned: Statement) -> Left | None:
    """An earlier page that says more is done than was planned: earned value would fall."""
    for page in r.at.periods[:-1]:
        for s in page.statements:
            reached = set(s.milestones_reached) - set(planned.milestones_reached) if planned.milestones_reached else set()
            more = planned.units_done is not None and (s.units_done or 0) > planned.units_done
            more = more or bool(reached) or (planned.percent is not None and (s.percent or 0) > planned.percent)
            if s.activity == planned.activity and more:
                return Left(s.activity, "progress", "", sentence("planned.said_on", says=describe(s), page=page.code), describe(planned))
    return None


def _still_to_do(r: Results, planned: Statement, hours: list[HoursEntry]) -> Left | None:
    """Hours that are said to be left of what would be finished: of earlier pages nothing is left then; of this page they refute it."""
    if planned.actual_finish is None:
        return None
    here = {(h.activity, h.resource): h.to_go for h in r.at.periods[-1].hours}
    for (code, resource), to_go in r.at.to_go.items():
        if code == planned.activity and to_go:
            if here.get((code, resource)) is not None:
                return Left(code, "progress", resource, sentence("planned.to_go", hours=_hours(to_go)), describe(planned))
            hours.append(HoursEntry(code, resource, 0, to_go=0))
    return None


def _facts(s: Statement) -> tuple[object, ...]:
    return s.actual_start, s.actual_finish, s.percent, s.remaining, s.carry_to


def _fill_hours(r: Results, before: Results, out: Filled, planned: Statement, known: Statement | None) -> None:
    """The hours that were planned to be worked on the page by those whose hours are posted."""
    code, status = planned.activity, r.status
    assert status is not None
    a, was, row = r.book.activity_by_code[code], before.progress[code], before.schedule.activities[code]
    whole = was.planned if was.state == "not_started" else was.remaining
    after = 0 if row.finish <= status else min(whole, r.book.axes[code].between(status, row.finish))
    there = {(h.activity, h.resource): h for h in r.at.periods[-1].hours if h.corrects is None}
    covered = {role for h in r.at.periods[-1].hours if h.activity == code for role in r.book.resource_by_code[h.resource].roles}
    for resource, minutes in remaining_work(before.at, a, was).items():
        assignment = next(x for x in r.book.assignments_of[code] if x.resource == resource)
        if r.book.resource_by_code[resource].kind == "material" or not r.valuation.following.posted_to(code, assignment):
            continue
        to_go = int((minutes * after / whole).quantize(Decimal(1), ROUND_HALF_EVEN)) if whole else 0
        worked = int(minutes.quantize(Decimal(1), ROUND_HALF_EVEN)) - to_go
        posted = there.get((code, resource))
        if posted is not None:
            if posted.worked + posted.overtime != worked:
                out.left.append(Left(code, "hours", resource, _hours(posted.worked + posted.overtime), _hours(worked)))
        elif worked > 0 and resource not in covered:
            if known is not None and known.actual_finish is not None:
                to_go = 0
            says = a.driver == "work" or (code, resource) in r.at.to_go
            out.hours.append(HoursEntry(code, resource, worked, to_go=to_go if says else None))


def _hours(minutes: int) -> str:
    return f"{round(minutes / 60, 2):g} h"


def _fill_costs(r: Results, before: Results, out: Filled, code: str) -> None:
    """An accrual of each direct cost and material that is due by the status date and does not follow progress."""
    status, v = r.status, before.valuation
    assert status is not None
    here = [c for c in r.at.periods[-1].costs if c.activity == code]
    for o in v.owed(code):
        x = o.payable
        piece = None if x.follows else v.payments.left(o)
        due = 0 if piece is None else amount_by(piece, status)
        if due <= 0:
            continue
        amount, posted = amount_of(due, v.unit), [c.amount for c in here if c.of in (None, x.code or None)]
        if posted:
            if sum(posted) != amount:
                out.left.append(Left(code, "cost", x.name, f"{sum(posted):f}", f"{amount:f}"))
            continue
        orders = {order.code for order, _ in r.book.orders_for.get(x.code, ()) if order.state == "open"} if x.code else set()
        order = orders.pop() if len(orders) == 1 else None
        text = sentence("planned.accrued", name=x.name)
        out.costs.append(CostEntry(date_of(status - 1), amount, "accrual", code, text=text, of=x.code or None, order_code=order))


def carried(r: Results, before: Results, to: Instant, codes: Collection[str] | None) -> list[Statement]:
    """The statements that carry unfinished work to an instant: of those named, or of all open work that needs an entry and has none.

    Raises EntryRefused at `to` for an instant that is not after the status date: nothing would move.
    """
    status = r.status
    assert status is not None
    if to <= status:
        raise EntryRefused("to", sentence("planned.carry_not_after", to=format_day(to), day=format_day(status, True)), instant_text(status))
    mine = {s.activity: s for s in r.at.periods[-1].statements}
    out = []
    for code, why in _taken(r, before, codes):
        if why:
            continue
        if code in mine:
            out.append(replace(mine[code], carry_to=to))
        else:
            out.append(replace(r.at.latest.get(code) or Statement(code), carry_to=to, note=None, corrects=None, reason=None))
    return out


def skipped(r: Results, before: Results, codes: Collection[str] | None) -> dict[str, int]:
    """Why carrying forward leaves activities, and how many: “complete”, of those named; “posted”, due and said something of already."""
    out = dict.fromkeys(("complete", "posted"), 0)
    for _, why in _taken(r, before, codes):
        if why:
            out[why] += 1
    return out


def _taken(r: Results, before: Results, codes: Collection[str] | None) -> Iterator[tuple[str, str]]:
    """The activities that are looked at to be carried forward, each with why it is left, empty where it is not."""
    named = None if codes is None else set(codes)
    mine = {s.activity for s in r.at.periods[-1].statements}
    for a in r.book.activities:
        if named is not None and a.code in named:
            yield a.code, "complete" if r.progress[a.code].state == "complete" else ""
        elif named is None and needs_entry(r, before, a.code):
            yield a.code, "posted" if a.code in mine else "" if r.progress[a.code].state != "complete" else "complete"


def tried(
    r: Results,
    statements: Iterable[Statement],
    hours: Iterable[HoursEntry] = (),
    costs: Iterable[CostEntry] = (),
    kept: tuple[HoursEntry, ...] | None = None,
) -> Tried:
    """What the page is with more on it; statements stand in the place of those of the same activities.

    `kept` are the hours of the page that stay, where not all of them do.
    """
    page, fresh = r.at.periods[-1], {s.activity: s for s in statements}
    stated = [fresh.pop(s.activity, s) for s in page.statements]

    def on(p: Period) -> Period:
        there = p.hours if kept is None else kept
        return replace(p, statements=(*stated, *fresh.values()), hours=(*there, *hours), costs=(*p.costs, *costs))

    periods = tuple(on(p) if p.code == page.code else p for p in r.book.periods)
    now = compute(r.book.with_periods(periods), page.code, treatment=r.treatment, before=r)
    was = {c for c, row in r.schedule.activities.items() if row.critical}
    now_critical = {c for c, row in now.schedule.activities.items() if row.critical}
    order = [a.code for a in r.book.activities]
    return Tried(
        now,
        tuple(moved(r, now)),
        tuple(c for c in order if c in now_critical - was),
        tuple(c for c in order if c in was - now_critical),
    )
