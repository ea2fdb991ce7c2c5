"""What is left of all activities at a page: in sum and over time by columns, line by line of those that are asked for.

An activity whose costs orders, entries for one of them, what follows progress or hours to go say something of, or whose rate changes while
it lasts, is odd: its lines are worked out one by one. Source: calculation contract, sections 6 and 10.
"""

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from itertools import chain

from dryledger.budget.column_passes import Dues, Stand
from dryledger.budget.columns import kernels, plan_columns, sums_at
from dryledger.budget.following import Following
from dryledger.budget.paying import Payments
from dryledger.budget.remaining import Left, WorkLeft, still_to_pay
from dryledger.budget.spread import cumulative
from dryledger.calendar.calendar import Instant
from dryledger.network.passes import NONE
from dryledger.schedule.progress import AsOf, Progress
from dryledger.schedule.schedule import Schedule

__all__ = ["Remains"]


class Remains(Mapping[str, list[Left]]):
    """The lines of what is left of each activity that has anything left, by code in the book's order; `totals` their sums."""

    def __init__(self, at: AsOf, progress: Mapping[str, Progress], schedule: Schedule, payments: Payments, following: Following) -> None:
        self._at, self._book, self._progress, self._schedule = at, at.book, progress, schedule
        self._payments, self._following = payments, following
        self._work = WorkLeft(at)
        self._known: dict[str, list[Left]] = {}
        self._odd: dict[str, list[Left]] = {}
        self.totals: dict[str, int] = {}
        self._dues = Dues([], [], [], [], [], [], [], [])
        if schedule.made is not None:
            self._in_columns()

    def _in_columns(self) -> None:
        """The columns of what is left, and the lines of what is odd."""
        made, columns = self._schedule.made, plan_columns(self._book)
        assert made is not None
        e, codes, (start, finish, rest) = made.plan.engine, made.plan.codes, made.rows[:3]
        marked = list(columns.odd)
        for code in self._told_otherwise():
            marked[columns.places[code]] = 1
        odd, count = e.array(marked), len(columns.rows.activity)
        gone, axis = e.array([p.elapsed for p in made.known]), made.plan.network.axis
        stand = Stand(made.work.state, made.work.length, gone, start, rest, finish, axis, columns.shape)
        amount, left, lines, dues = e.zeros(count), e.zeros(len(codes)), e.zeros(len(codes)), Dues(*(e.zeros(count) for _ in Dues._fields))
        passes, status = kernels(e), NONE if self._at.status is None else self._at.status
        paid = [0] * len(codes)
        for code, entered in self._payments.named(self._at.status).loose.items():
            paid[columns.places[code]] = entered
        passes.price(columns.rows, columns.rates, stand, odd, amount)
        found = passes.emit(columns.rows, stand, odd, amount, e.array(paid), status, left, lines, dues)
        self._dues = Dues(*(column[:found] for column in dues))
        for code, is_odd, n, total in zip(codes, e.listed(odd), e.listed(lines), e.listed(left), strict=True):
            if is_odd:
                known = self._odd[code] = self._lines(code)
                n, total = len(known), sum([x.piece.amount for x in known])
            if n:
                self.totals[code] = total

    def _told_otherwise(self) -> Iterable[str]:
        """The activities of one of whose costs the pages, orders or entries say something."""
        if not self._following.nothing:
            yield from (code for code, p in self._progress.items() if p.actual_start is not None)
        yield from (activity for activity, _ in self._at.to_go)
        yield from self._payments.told_of

    def _lines(self, code: str) -> list[Left]:
        p, (_, start, finish) = self._progress[code], self._schedule.spans[code]
        used = [] if self._following.nothing else [x.resource for x in self._following.of(code)]
        found = self._work.of(self._book.activity_by_code[code], p, start, finish, used)
        return [*found, *still_to_pay(self._payments, self._payments.of(code))]

    def __getitem__(self, code: str) -> list[Left]:
        found = self._odd.get(code) or self._known.get(code)
        if found is None:
            if code not in self.totals:
                raise KeyError(code)
            found = self._known[code] = self._lines(code)
        return found

    def __iter__(self) -> Iterator[str]:
        return iter(self.totals)

    def __len__(self) -> int:
        return len(self.totals)

    def due(self, ends: Sequence[Instant], codes: Collection[str] | None = None) -> list[int]:
        """What of it is due by each of the ascending instants, of some activities (absent: of all)."""
        made = self._schedule.made
        if made is None:
            return [0] * len(ends)
        e = made.plan.engine
        wanted = None if codes is None else set(codes)
        inside = [wanted is None or code in wanted for code in made.plan.codes]
        odd = chain.from_iterable(lines for code, lines in self._odd.items() if wanted is None or code in wanted)
        by_rows = cumulative(ends, (x.piece for x in odd))
        return [a + b for a, b in zip(sums_at(e, made.plan.axes, ends, self._dues, inside), by_rows, strict=True)]
