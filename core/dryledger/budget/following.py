"""What follows progress: the work and cost that are reckoned where nobody posts them.

Source: calculation contract, section 9. Labour and equipment have worked units × elapsed, costed like planned work, evenly over the axis
from the actual start. Elapsed leaves out the time in which the activity stood still: while nothing remained without a finish, or it was
carried forward, on pages on end. Hours on the activity, or an entry for the assignment, take its place from the status of the page
before the first that has any. Work is whole minutes, cost whole minor units, both rounded at each instant.
"""

from collections.abc import Mapping
from decimal import Decimal
from typing import NamedTuple

from dryledger.book.durations import whole_minutes
from dryledger.book.memory import Slot
from dryledger.book.plan import Activity, Assignment, Book, DirectCost
from dryledger.budget.lines import Between, minutes_cost
from dryledger.budget.money import cells, minor_unit
from dryledger.budget.rates import tariffs
from dryledger.budget.spread import Piece
from dryledger.calendar.calendar import END_OF_TIME, Instant
from dryledger.schedule.progress import AsOf, Progress, stated_progress

__all__ = ["Following", "Reckoned", "any_follows", "following", "follows"]

ZERO = Decimal(0)
Pair = tuple[str, str]


def follows(book: Book, x: Assignment | DirectCost) -> bool:
    """Whether the actuals of an assignment or direct cost follow progress: as it says, else its resource, else the project."""
    of_resource = book.resource_by_code[x.resource].actuals if isinstance(x, Assignment) else ""
    return (x.actuals or of_resource or book.project.actuals) == "progress"


ANY: Slot[bool] = Slot("whether anything follows progress", ("project", "resources", "assignments", "costs"))


def any_follows(book: Book) -> bool:
    """Whether anything of a book follows progress."""
    return book.memo.once(ANY, lambda: _any_follows(book))


def _any_follows(book: Book) -> bool:
    if book.project.actuals == "progress" or any(x.actuals == "progress" for x in book.resources):
        rows: tuple[Assignment | DirectCost, ...] = (*book.assignments, *book.costs)
        return book.project.actuals == "progress" or any(follows(book, x) for x in rows)
    return any(a.actuals == "progress" for a in book.assignments) or any(c.actuals == "progress" for c in book.costs)


class Reckoned(NamedTuple):
    """What has followed progress of one assignment of labour or equipment: its minutes and its cost over time."""

    activity: str
    resource: str
    minutes: Piece
    cost: Piece


class Following:
    """What follows progress at a page, worked out for each activity when it is asked for."""

    def __init__(self, at: AsOf, progress: Mapping[str, Progress]) -> None:
        self.at, self.book, self._progress = at, at.book, progress
        self._known: dict[str, list[Reckoned]] = {}
        self._windows: dict[str, list[tuple[Instant, Instant]]] = {}
        self._replaced: dict[Pair, int] = {}
        self.nothing = not at.periods or not any_follows(at.book)
        if self.nothing:
            return
        pages = [page for back in range(len(at.periods) - 1, 0, -1) if (page := at.earlier(back)) is not None] + [at]
        self._pages = [(page.status or 0, stated_progress(page)) for page in pages]
        roles = {x.code: x.roles for x in at.book.resources if x.roles}
        names = {a.code: (a.activity, a.resource) for a in at.book.assignments}
        for i, period in enumerate(at.periods):
            for h in period.hours:
                if h.worked > 0 or h.overtime > 0:
                    for resource in (h.resource, *roles.get(h.resource, ())):
                        self._replaced.setdefault((h.activity, resource), i)
            for c in period.costs:
                if c.of in names:
                    self._replaced.setdefault(names[c.of or ""], i)

    def of(self, code: str) -> list[Reckoned]:
        """What is reckoned of the labour and equipment of an activity."""
        if self.nothing:
            return []
        found = self._known.get(code)
        if found is None:
            found = self._known[code] = self._reckon(code)
        return found

    def labour(self, code: str) -> int:
        """Minutes of labour that are reckoned of an activity."""
        return sum(x.minutes.amount for x in self.of(code) if self.book.resource_by_code[x.resource].kind == "labour")

    def posted_to(self, code: str, a: Assignment) -> bool:
        """Whether the hours of an assignment are posted: they don't follow progress, or not any more."""
        return self.nothing or not follows(self.book, a) or (code, a.resource) in self._replaced

    def used(self, code: str, resource: str) -> bool:
        """Whether the use of an assignment is among what is reckoned."""
        return any(x.resource == resource for x in self.of(code))

    def between(self, code: str) -> Between:
        """Working minutes of an activity between two instants, without the time in which it stood still."""
        axis, windows = self.book.axes[code], self._still(code)
        if not windows:
            return axis.between
        return lambda a, b: axis.between(a, b) - sum(axis.between(max(a, x), min(b, y)) for x, y in windows if max(a, x) < min(b, y))

    def elapsed(self, code: str, t: Instant) -> int:
        """Working minutes from the actual start of a started activity to an instant, at most its finish or the status."""
        p = self._progress[code]
        assert p.actual_start is not None
        return self.between(code)(p.actual_start, max(p.actual_start, min(t, self._end(p))))

    def _end(self, p: Progress) -> Instant:
        return (self.at.status or 0) if p.actual_finish is None else p.actual_finish

    def _still(self, code: str) -> list[tuple[Instant, Instant]]:
        found = self._windows.get(code)
        if found is None:
            found = self._windows[code] = list(self._stood_still(code)) if not self.nothing else []
        return found

    def _stood_still(self, code: str) -> list[tuple[Instant, Instant]]:
        """From the first of pages on end that say it stands, to the date that it is carried to; with nothing remaining, to its finish, or
        to the page that says that something remains again."""
        out: list[tuple[Instant, Instant]] = []
        begun: Instant | None = None
        until: Instant | None = None
        for status, stated in self._pages:
            p = stated.get(code)
            if p is not None and p.state == "in_progress" and (not p.remaining or (p.carry_to or 0) > status):
                begun = status if begun is None else begun
                until = p.carry_to if p.remaining else None
            elif begun is not None:
                ends = until if until is not None else status if p is None or p.actual_finish is None else p.actual_finish
                out.append((begun, ends))
                begun = None
        return [*out, (begun, END_OF_TIME if until is None else until)] if begun is not None else out

    def _reckon(self, code: str) -> list[Reckoned]:
        p = self._progress.get(code)
        if p is None or p.actual_start is None:
            return []
        activity, out = self.book.activity_by_code[code], list[Reckoned]()
        for a in self.book.assignments_of.get(code, ()):
            if self.book.resource_by_code[a.resource].kind != "material" and follows(self.book, a):
                place = self._replaced.get((code, a.resource))
                until = self._end(p)
                if place is not None:
                    until = min(until, self.at.periods[place - 1].status) if place else p.actual_start
                if until > p.actual_start or place is None:
                    out.append(self._assignment(activity, a, p.actual_start, until))
        return out

    def _assignment(self, activity: Activity, a: Assignment, start: Instant, until: Instant) -> Reckoned:
        book, between, unit = self.book, self.between(activity.code), minor_unit(self.book.project.currency)
        tariff = tariffs(book)[a.resource]
        use = tariff.amount("use", start) if "use" in tariff.series else ZERO

        def minutes(t: Instant) -> int:
            return whole_minutes(between(start, t) * a.units)

        def cost(t: Instant) -> int:
            return cells(minutes_cost(book, activity, a, between(start, t) * a.units, ZERO, start, t, between)[0] + use, unit)

        return Reckoned(activity.code, a.resource, Piece(start, until, minutes(until), minutes), Piece(start, until, cost(until), cost))


EARLIER: Slot[Following] = Slot("what follows progress at an earlier page")


def following(at: AsOf) -> Following:
    """What follows progress at an earlier page, worked out once for the same pages."""
    return at.book.memo.once(EARLIER, lambda: Following(at, stated_progress(at)), at.pages)
