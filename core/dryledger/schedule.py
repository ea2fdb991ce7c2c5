"""The schedule: forward and backward pass, floats, drivers, under the three treatments of out-of-sequence work.

Source: critical path method on working axes, calculation contract sections 1 to 5. Both passes run over integer
positions of each activity's own axis in topological order; what must not be broken on the clock stays an instant.
"""

from dataclasses import dataclass, field

from dryledger.calendar import Axis, Instant
from dryledger.network import topological_order
from dryledger.plan import Activity, Book, Link
from dryledger.posting import AsOf, Progress

__all__ = ["Schedule", "Scheduled", "schedule", "shift", "shift_back"]

Need = tuple[Instant, str]


@dataclass
class Scheduled:
    """One activity's dates (instants), floats (working minutes of its axis) and what drives it.

    `start` and `finish` are those to show; `resume` is the start of the remaining part of work in progress. Late
    dates and floats are None once complete.
    """

    code: str
    state: str
    start: Instant
    finish: Instant
    early_start: Instant
    early_finish: Instant
    duration: int
    remaining: int
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
    """All activities by code in the book's order, and the project's finish (the latest shown finish)."""

    finish: Instant
    activities: dict[str, Scheduled]


def shift(axis: Axis, t: Instant, link: Link) -> Instant:
    """An instant moved by a link's lag: itself at lag 0, on the project calendar, or by the clock."""
    if not link.lag:
        return t
    return axis.first(axis.pos(t) + link.lag) if link.lag_basis == "working" else t + link.lag


def shift_back(axis: Axis, t: Instant, link: Link) -> Instant:
    """The latest instant that `shift` brings to t or before."""
    if not link.lag:
        return t
    return axis.last(axis.pos(t) - link.lag) if link.lag_basis == "working" else t - link.lag


def schedule(at: AsOf, progress: dict[str, Progress], treatment: str) -> Schedule:
    """Both passes over the whole network.

    `progress` is that of `dryledger.posting.progress`; `treatment` is retained, override or recorded.
    """
    return _Passes(at, progress, treatment).run()


class _Passes:
    """The working state of one computation."""

    def __init__(self, at: AsOf, progress: dict[str, Progress], treatment: str) -> None:
        self.book: Book = at.book
        self.status = at.status
        self.progress = progress
        self.treatment = treatment
        self.axis = at.book.axis
        codes = list(at.book.activity_by_code)
        index = {c: i for i, c in enumerate(codes)}
        order = topological_order(len(codes), [(index[k.source], index[k.target]) for k in at.book.links])
        self.order = [codes[i] for i in order]
        self.into: dict[str, list[Link]] = {c: [] for c in codes}
        self.out: dict[str, list[Link]] = {c: [] for c in codes}
        for link in at.book.links:
            self.into[link.target].append(link)
            self.out[link.source].append(link)
        self.rows: dict[str, Scheduled] = {}
        self.least_finish: dict[str, Instant] = {}
        self.late_pos: dict[str, int] = {}

    def run(self) -> Schedule:
        for code in self.order:
            self.rows[code] = self._forward(self.book.activity_by_code[code])
        self._out_of_sequence()
        project = self.book.project
        last = max((r.early_finish for r in self.rows.values()), default=project.start)
        self.end = project.imposed_finish if project.imposed_finish is not None else last
        for code in reversed(self.order):
            self._backward(self.book.activity_by_code[code])
        for code in self.order:
            self._free_float(code)
        for code in reversed(self.order):
            self._as_late_as_possible(self.book.activity_by_code[code], last)
        finish = max((r.finish for r in self.rows.values()), default=project.start)
        return Schedule(finish, {c: self.rows[c] for c in self.book.activity_by_code})

    # Forward

    def _needs(self, a: Activity) -> tuple[list[Need], list[Need]]:
        """What the links ask: instants before which the (remaining) work may not start, and not finish."""
        starts: list[Need] = []
        finishes: list[Need] = []
        for link in self.into[a.code]:
            pred = self.rows[link.source]
            t = shift(self.axis, pred.finish if link.type[0] == "F" else pred.start, link)
            (starts if link.type[1] == "S" else finishes).append((t, f"link:{link.source}"))
        return starts, finishes

    def _forward(self, a: Activity) -> Scheduled:
        p = self.progress[a.code]
        if p.state == "complete":
            assert p.actual_start is not None and p.actual_finish is not None
            return Scheduled(
                a.code, p.state, p.actual_start, p.actual_finish, p.actual_start, p.actual_finish, p.elapsed, 0, driven_by=["actual"]
            )
        axis = self.book.axes[a.code]
        if p.state == "in_progress":
            return self._forward_started(a, p, axis)
        if a.mode == "fixed" and a.start is not None and a.finish is not None:
            d = axis.between(a.start, a.finish)
            return Scheduled(a.code, p.state, a.start, a.finish, a.start, a.finish, d, d, driven_by=["fixed"])
        starts, finishes = self._needs(a)
        starts.append((self.book.project.start, "start"))
        if self.status is not None:
            starts.append((self.status, "status"))
        if p.carry_to is not None:
            starts.append((p.carry_to, "carry"))
        if a.constraint is not None and a.constraint.at is not None:
            if a.constraint.type in ("start_on_or_after", "must_start_on"):
                starts.append((a.constraint.at, "constraint"))
            elif a.constraint.type in ("finish_on_or_after", "must_finish_on"):
                finishes.append((a.constraint.at, "constraint"))
        d = p.planned
        start, finish, drivers = self._place(axis, d, starts, finishes, bool(self.into[a.code]))
        return Scheduled(a.code, p.state, start, finish, start, finish, d, d, driven_by=drivers)

    def _place(self, axis: Axis, d: int, starts: list[Need], finishes: list[Need], linked: bool) -> tuple[Instant, Instant, list[str]]:
        asked = [(axis.pos(t), name) for t, name in starts] + [(axis.pos(t) - d, name) for t, name in finishes]
        p = max(x for x, _ in asked)
        drivers = sorted({name for x, name in asked if x == p})
        if d:
            latest = max((t for t, _ in finishes), default=0)
            return axis.last(p), max(axis.first(p + d), latest), drivers
        if linked:
            t = max(axis.first(p), max(t for t, _ in starts + finishes))
        elif any(axis.pos(s) == p for s, _ in starts):
            t = axis.last(p)
        else:
            t = max(t for t, _ in finishes)
        return t, t, drivers

    def _forward_started(self, a: Activity, p: Progress, axis: Axis) -> Scheduled:
        assert p.actual_start is not None and self.status is not None
        r = p.remaining
        duration = p.elapsed + r
        if not r:
            return Scheduled(
                a.code, p.state, p.actual_start, self.status, self.status, self.status, duration, 0, self.status, driven_by=["status"]
            )
        starts, finishes = self._needs(a) if self.treatment != "override" else ([], [])
        starts.append((self.status, "status"))
        if p.carry_to is not None:
            starts.append((p.carry_to, "carry"))
        c = a.constraint
        if c is not None and c.at is not None and c.type in ("finish_on_or_after", "must_finish_on"):
            finishes.append((c.at, "constraint"))
        resume, finish, drivers = self._place(axis, r, starts, finishes, True)
        return Scheduled(a.code, p.state, p.actual_start, finish, resume, finish, duration, r, resume, driven_by=drivers)

    def _out_of_sequence(self) -> None:
        for code, row in self.rows.items():
            p = self.progress[code]
            if p.actual_start is None:
                continue
            starts, finishes = self._needs(self.book.activity_by_code[code])
            row.out_of_sequence = any(t > p.actual_start for t, _ in starts) or (
                p.actual_finish is not None and any(t > p.actual_finish for t, _ in finishes)
            )

    # Backward

    def _limits(self, a: Activity) -> tuple[list[Instant], list[Instant]]:
        """Limits that the links out put on a's (remaining) start and on its finish."""
        starts: list[Instant] = []
        finishes: list[Instant] = []
        started = self.progress[a.code].actual_start is not None
        for link in self.out[a.code]:
            bound = starts if link.type[0] == "S" else finishes
            if started and bound is starts:
                continue
            for t in self._granted(link):
                bound.append(shift_back(self.axis, t, link))
        return starts, finishes

    def _granted(self, link: Link) -> list[Instant]:
        """The instants that a successor grants to this link."""
        p = self.progress[link.target]
        out: list[Instant] = []
        if self.treatment == "recorded" and p.actual_start is not None:
            if link.type[1] == "S":
                out.append(p.actual_start)
            elif p.actual_finish is not None:
                out.append(p.actual_finish)
        if p.state == "complete" or (p.state == "in_progress" and (self.treatment == "override" or not p.remaining)):
            return out
        row = self.rows[link.target]
        if link.type[1] == "S":
            assert row.late_start is not None
            out.append(row.late_start)
        else:
            out.append(self.least_finish[link.target])
        return out

    def _backward(self, a: Activity) -> None:
        row, p = self.rows[a.code], self.progress[a.code]
        if p.state == "complete":
            return
        axis = self.book.axes[a.code]
        d = row.remaining
        starts, finishes = self._limits(a)
        dated: list[int] = []
        instants = [self.end]
        c = a.constraint
        if c is not None and c.at is not None:
            if c.type in ("finish_on_or_before", "must_finish_on"):
                instants.append(c.at)
            elif c.type in ("start_on_or_before", "must_start_on") and p.actual_start is None:
                dated.append(axis.pos(c.at) + d)
                if not d:
                    instants.append(c.at)
        if row.driven_by == ["fixed"]:
            instants.append(row.finish)
            dated.append(axis.pos(row.start) + d)
        finishes += instants
        if d == 0:
            late = min(finishes + starts)
            row.late_start = row.late_finish = self.least_finish[a.code] = late
        else:
            least = min([axis.pos(t) for t in finishes] + dated + [axis.latest_opening(t) + d for t in starts])
            row.late_finish, row.late_start = axis.first(least), axis.last(least - d)
            self.least_finish[a.code] = min(axis.last(least), min(finishes))
        row.total_float = axis.pos(row.late_finish) - axis.pos(row.early_finish)
        row.critical = row.total_float <= self.book.project.critical_float

    def _free_float(self, code: str) -> None:
        row, p = self.rows[code], self.progress[code]
        if p.state == "complete":
            return
        axis = self.book.axes[code]
        slack = axis.pos(self.end) - axis.pos(row.early_finish)
        for link in self.out[code]:
            succ, q = self.rows[link.target], self.progress[link.target]
            if q.state == "complete" or (q.state == "in_progress" and (self.treatment == "override" or not q.remaining)):
                continue
            t = shift_back(self.axis, succ.early_start if link.type[1] == "S" else succ.early_finish, link)
            if link.type[0] == "F":
                slack = min(slack, axis.pos(t) - axis.pos(row.early_finish))
            elif p.actual_start is None:
                slack = min(slack, (axis.latest_opening(t) if row.remaining else axis.pos(t)) - axis.pos(row.early_start))
        row.free_float = slack

    # As late as possible

    def _as_late_as_possible(self, a: Activity, last: Instant) -> None:
        c, row = a.constraint, self.rows[a.code]
        if c is None or c.type != "as_late_as_possible" or row.state != "not_started" or a.mode == "fixed":
            return
        axis, d = self.book.axes[a.code], row.remaining
        limits = [axis.pos(last)]
        instants = [last]
        for link in self.out[a.code]:
            q = self.progress[link.target]
            if q.state == "complete" or (q.state == "in_progress" and (self.treatment == "override" or not q.remaining)):
                continue
            succ = self.rows[link.target]
            shown = (succ.resume if succ.resume is not None else succ.start) if link.type[1] == "S" else succ.finish
            t = shift_back(self.axis, shown, link)
            limits.append(axis.pos(t) if link.type[0] == "F" or not d else axis.latest_opening(t) + d)
            instants.append(t)
        if d:
            p = min(limits)
            if p > axis.pos(row.early_finish):
                row.start, row.finish = axis.last(p - d), axis.first(p)
        elif min(instants) > row.early_finish:
            row.start = row.finish = min(instants)
