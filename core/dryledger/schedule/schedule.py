"""The schedule: forward and backward pass, floats, drivers, under the three treatments of out-of-sequence work.

Source: critical path method on working axes, calculation contract sections 1 to 5. What is known goes into arrays,
`passes` runs over them, and what it finds comes out as one row an activity.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property, partial
from typing import NamedTuple

from dryledger.book.indexed import NetworkIndex
from dryledger.book.memory import Slot
from dryledger.book.plan import Book, Link
from dryledger.calendar.axis import Axis, Instant
from dryledger.calendar.calendar import END_OF_TIME
from dryledger.network import passes
from dryledger.network.arrays import Axes, Ints, Network, Rows, Work
from dryledger.network.passes import BY_ACTUAL, BY_CARRY, BY_CONSTRAINT, BY_FIXED, BY_LEVELLED, BY_START, BY_STATUS, NONE
from dryledger.schedule.progress import AsOf, Progress
from dryledger.schedule.ties import NO_TIES, Ties, network_of, ties_of

__all__ = ["Schedule", "Scheduled", "out_of_time", "schedule", "shift", "shift_back", "uncompiled_arrays"]

STATES = {"not_started": passes.NEW, "in_progress": passes.STARTED, "complete": passes.COMPLETE}
TREATMENTS = {"retained": passes.RETAINED, "override": passes.OVERRIDE, "recorded": passes.RECORDED}
CONSTRAINTS = {
    "start_on_or_after": passes.START_AFTER,
    "start_on_or_before": passes.START_BEFORE,
    "finish_on_or_after": passes.FINISH_AFTER,
    "finish_on_or_before": passes.FINISH_BEFORE,
    "must_start_on": passes.MUST_START,
    "must_finish_on": passes.MUST_FINISH,
    "as_late_as_possible": passes.AS_LATE,
}
BITS = (
    (BY_ACTUAL, "actual"),
    (BY_CARRY, "carry"),
    (BY_CONSTRAINT, "constraint"),
    (BY_FIXED, "fixed"),
    (BY_LEVELLED, "levelled"),
    (BY_START, "start"),
    (BY_STATUS, "status"),
)
DRIVERS = [tuple(name for bit, name in BITS if mask & bit) for mask in range(128)]


@dataclass(slots=True)
class Scheduled:
    """One activity's dates (instants), floats (working minutes of its axis) and what drives it.

    `start` and `finish` are those to show; of work in progress `worked_to` ends the worked part and `resume` starts
    the remaining one, with a gap where the two differ. Late dates and floats are None once complete.
    """

    code: str
    state: str
    start: Instant
    finish: Instant
    early_start: Instant
    early_finish: Instant
    duration: int
    remaining: int
    worked_to: Instant | None = None
    resume: Instant | None = None
    late_start: Instant | None = None
    late_finish: Instant | None = None
    total_float: int | None = None
    free_float: int | None = None
    critical: bool = False
    driven_by: list[str] = field(default_factory=list)
    out_of_sequence: bool = False


@dataclass
class Schedule:
    """What the passes found, and the project's finish (the latest shown finish).

    `span` holds every instant of the schedule, late dates included; `ties` are those that bind in it.
    """

    finish: Instant
    span: tuple[Instant, Instant] = (0, 0)
    ties: Ties = NO_TIES
    made: "_Passes | None" = field(default=None, repr=False, compare=False)
    make: Callable[[], dict[str, Scheduled]] = field(default=dict, repr=False, compare=False)

    @cached_property
    def activities(self) -> dict[str, Scheduled]:
        """All activities by code in the book's order, made when they are first asked for."""
        out = self.make()
        self.make = dict  # what they were made of is needed no more
        return out

    @cached_property
    def spans(self) -> dict[str, tuple[Instant, Instant, Instant]]:
        """Of each activity its start, where what is left begins (its resume, or its start) and its finish, without making the rows."""
        if self.made is None:
            rows = self.activities.values()
            return {x.code: (x.start, x.start if x.resume is None else x.resume, x.finish) for x in rows}
        listed, known = self.made.plan.engine.listed, self.made.known
        start, finish, resume = (listed(x)[: len(known)] for x in self.made.rows[:3])
        return {
            code: (s, r if p.state == "in_progress" else s, f)
            for code, p, s, f, r in zip(self.made.plan.codes, known, start, finish, resume, strict=True)
        }


class _Passes(NamedTuple):
    """What a schedule was made of, so that the next one makes anew only the rows that differ."""

    plan: NetworkIndex
    known: list[Progress]
    work: Work
    rows: Rows
    read_with: tuple[int, Instant | None]
    """What rows are read with: the critical float and the status."""


def shift(axis: Axis, t: Instant, link: Link) -> Instant:
    """An instant moved by a link's lag: itself at lag 0, on the project calendar's axis, or by the clock."""
    return passes.moved(axis.table, 0, t, link.lag, link.lag_basis == "elapsed")


def shift_back(axis: Axis, t: Instant, link: Link) -> Instant:
    """The latest instant that `shift` brings to t or before."""
    return passes.moved_back(axis.table, 0, t, link.lag, link.lag_basis == "elapsed")


def schedule(at: AsOf, progress: dict[str, Progress], treatment: str, before: Schedule | None = None, ties: Ties | None = None) -> Schedule:
    """Both passes over the whole network.

    `progress` is that of `dryledger.schedule.progress.progress`; `treatment` is retained, override or recorded. Rows that come
    out as in `before`, an earlier schedule of the same network, are taken over from it. `ties` are those that bind; absent: those in
    force on the page.
    """
    book = at.book
    project = book.project
    if ties is None:
        ties = ties_of(at, progress)
    plan = network_of(book, ties)
    if not plan.codes:
        return Schedule(project.start)
    last = before.made if before is not None and before.made is not None and before.made.plan is plan else None
    known = [progress[c] for c in plan.codes]
    rows = _rows(plan)
    status = NONE if at.status is None else at.status
    work = _work(plan, _held(book), known, last)
    used = TREATMENTS[treatment]
    latest = plan.engine.forward(plan.axes, plan.network, work, rows, project.start, status, used)
    end = latest if project.imposed_finish is None else project.imposed_finish
    plan.engine.late(plan.axes, plan.network, work, rows, end, latest, used)
    made = _Passes(plan, known, work, rows, (project.critical_float, at.status))
    if before is None or last is None or last.read_with != made.read_with:
        return _read(made, ties, range(len(known)), {})
    return _read(made, ties, _differing(last, made), before.activities, _driven(last, made))


def uncompiled_arrays(at: AsOf, progress: dict[str, Progress], ties: Ties | None = None) -> tuple[Axes, Network, Work, Rows]:
    """What the passes run over as plain lists, for who places activities one by one; the rows are empty."""
    plan = network_of(at.book, ties_of(at, progress) if ties is None else ties)
    work = _work(plan, _held(at.book), [progress[c] for c in plan.codes], None)
    listed = plan.engine.listed
    axes = Axes._make(map(listed, plan.axes))
    network = Network._make([*map(listed, plan.network[:-2]), *plan.network[-2:]])
    return axes, network, Work._make(list(listed(x)) for x in work), Rows._make(list(listed(x)) for x in _rows(plan))


def _work(plan: NetworkIndex, held: "_Held", known: list[Progress], last: _Passes | None) -> Work:
    """What is known as arrays; only what differs from the last ones is written anew."""
    if last is not None:
        columns = [x.copy() for x in last.work[:5]]
        for i, (p, was) in enumerate(zip(known, last.known, strict=True)):
            if p is not was:
                for column, value in zip(columns, _worked(p), strict=True):
                    column[i] = value
        return Work._make([*columns, *held])
    n, stated = len(known), [(i, _worked(p)) for i, p in enumerate(known) if p.statement is not None]
    usual = (passes.NEW, 0, NONE, NONE, NONE)
    columns = [plan.engine.filled(n, x, {i: worked[k] for i, worked in stated}) for k, x in enumerate(usual) if k != 1]
    return Work._make([columns[0], plan.engine.array([p.remaining for p in known]), *columns[1:], *held])


def _worked(p: Progress) -> tuple[int, int, int, int, int]:
    start, finish, carry = p.actual_start, p.actual_finish, p.carry_to
    return (
        STATES[p.state],
        p.remaining,
        NONE if start is None else start,
        NONE if finish is None else finish,
        NONE if carry is None else carry,
    )


def _differing(last: _Passes, now: _Passes) -> list[int]:
    """The activities of which anything came out other than last time, or that are known otherwise."""
    out = {i for i, (p, was) in enumerate(zip(now.known, last.known, strict=True)) if p is not was}
    different = now.plan.engine.different
    for name, new, old in zip(Rows._fields, now.rows, last.rows, strict=True):
        if name == "drives":
            out.update(now.plan.targets[k] for k in different(new, old))
        elif name not in ("asks", "grant"):
            out.update(different(new, old))
    return sorted(out)


def _driven(last: _Passes, now: _Passes) -> set[int]:
    """The activities that something else drives than last time."""
    different = now.plan.engine.different
    return {now.plan.targets[k] for k in different(now.rows.drives, last.rows.drives)}.union(different(now.rows.drivers, last.rows.drivers))


class _Held(NamedTuple):
    """What the plan itself holds activities to: pinned dates, constraints and levelled dates."""

    pinned_start: Ints
    pinned_finish: Ints
    constraint: Ints
    constraint_at: Ints
    levelled: Ints


HELD: Slot[_Held] = Slot("what the plan holds activities to", ("holds",))


def _held(book: Book) -> _Held:
    """The same as arrays, worked out once a plan."""

    def held() -> _Held:
        n, filled = len(book.activities), book.network_index.engine.filled
        pinned = [(i, a) for i, a in enumerate(book.activities) if a.mode == "fixed"]
        bound = [(i, a.constraint) for i, a in enumerate(book.activities) if a.constraint is not None]
        return _Held(
            filled(n, NONE, {i: a.start for i, a in pinned if a.start is not None}),
            filled(n, NONE, {i: a.finish for i, a in pinned if a.finish is not None}),
            filled(n, 0, {i: CONSTRAINTS[c.type] for i, c in bound}),
            filled(n, NONE, {i: c.at for i, c in bound if c.at is not None}),
            filled(n, NONE, {i: a.levelled for i, a in enumerate(book.activities) if a.levelled is not None}),
        )

    return book.memo.once(HELD, held)


def _rows(plan: NetworkIndex) -> Rows:
    n, links = len(plan.codes), len(plan.network.source)
    sizes = [links if name in ("asks", "drives") else n + len(plan.beside) for name in Rows._fields]
    rows = Rows(*(plan.engine.zeros(size) for size in sizes))
    for i, (_, start, finish) in enumerate(plan.beside, n):
        rows.start[i], rows.finish[i] = start, finish
    return rows


def _read(made: _Passes, ties: Ties, indices: Sequence[int], known: Mapping[str, Scheduled], driven: set[int] | None = None) -> Schedule:
    """The schedule: the rows by index read from the arrays, the others as they are known."""
    extremes = made.plan.engine.extremes
    dates = [x[: len(made.known)] for x in made.rows[:6]]
    finish = extremes(dates[1])[1]
    span = (min(extremes(x)[0] for x in dates), max(extremes(x)[1] for x in dates))
    return Schedule(finish, span, ties, made, partial(_rows_of, made, indices, known, driven))


def _rows_of(made: _Passes, indices: Sequence[int], known: Mapping[str, Scheduled], driven: set[int] | None) -> dict[str, Scheduled]:
    """Rows by code; all are driven as known but those in `driven`."""
    plan, rows, (critical_float, status) = made.plan, made.rows, made.read_with
    columns = [plan.engine.listed(x) for x in rows]
    start, finish, early_start, early_finish, late_start, late_finish, _, total, free, drivers, ahead, _, drives = columns
    out = dict(known)
    for i in indices:
        code, p = plan.codes[i], made.known[i]
        going, done = p.state == "in_progress", p.state == "complete"
        if driven is None or i in driven:
            linked = [plan.link_names[k] for k in plan.links_into[i] if drives[k]]
            by = sorted({*DRIVERS[drivers[i]], *linked})
        else:
            by = known[code].driven_by
        out[code] = Scheduled(
            code,
            p.state,
            start[i],
            finish[i],
            early_start[i],
            early_finish[i],
            p.elapsed + p.remaining,
            p.remaining,
            status if going else None,
            early_start[i] if going else None,
            None if done else late_start[i],
            None if done else late_finish[i],
            None if done else total[i],
            None if done else free[i],
            not done and total[i] <= critical_float,
            by,
            bool(ahead[i]),
        )
    return out


def out_of_time(plan: Schedule) -> list[str]:
    """The codes of what can't be scheduled between the years 1 and 9999."""
    if plan.span[0] >= 0 and plan.span[1] < END_OF_TIME:
        return []
    return [
        row.code
        for row in plan.activities.values()
        if max(row.finish, row.early_finish, row.late_finish or 0) >= END_OF_TIME
        or min(row.start, row.early_start, 0 if row.late_start is None else row.late_start) < 0
    ]
