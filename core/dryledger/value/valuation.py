"""Earned value summed at every scope of a book at one page: activities, WBS elements, the project, any selection.

Planned value comes from `planned`, earned from `value`, actual from `actual`, what is left from `remaining`, and the
measures from `measures` and `earned_schedule`. Source: calculation contract, section 10.
"""

from collections.abc import Callable, Iterable, Iterator, Mapping
from decimal import localcontext
from functools import cached_property, partial

from dryledger.book.baselines import Baseline
from dryledger.book.memory import Slot
from dryledger.book.plan import Book
from dryledger.budget.actual import ActualItem, Target, actual_items, actual_of, actual_pieces
from dryledger.budget.following import Following, following
from dryledger.budget.money import CONTEXT, minor_unit
from dryledger.budget.paying import Owed, Payments
from dryledger.budget.planned import PlannedLine, PlannedValue
from dryledger.budget.remains import Remains
from dryledger.budget.spread import Piece, amount_by
from dryledger.calendar.calendar import Instant
from dryledger.calendar.working_days import WorkingDays
from dryledger.schedule.progress import AsOf, Progress, progress, stated_progress
from dryledger.schedule.schedule import Schedule, schedule
from dryledger.value.earned import Page, Share, earned, earned_over_time, earned_share
from dryledger.value.earned_schedule import earned_schedule
from dryledger.value.measures import NO_STATUS, Measures, Sums, measures
from dryledger.value.sums import Columns, Scope, SumsByTarget, by_home
from dryledger.words import sentence

__all__ = ["ActivityMeasures", "Valuation", "planned_of"]

MOST_OF_SELECTIONS = 60_000
"""Days of all the selections together that are kept; those looked at last stay."""
PLANNED: Slot[PlannedValue] = Slot("planned value of a baseline", ("baselines",))
EARNED: Slot[tuple[AsOf, dict[str, int]]] = Slot("earned at an earlier page")
SPENT: Slot[dict[Target, int]] = Slot("actual cost at an earlier page, as it knew it")
SELECTED: Slot[PlannedLine | None] = Slot(
    "planned value of a selection", most=MOST_OF_SELECTIONS, weigh=lambda x: 1 if x is None else len(x.line)
)
ELEMENTS: Slot[dict[str | None, PlannedLine | None]] = Slot("planned value of every element")
DAYS: Slot[WorkingDays] = Slot("working days from the start of the baseline")


def planned_of(book: Book, baseline: Baseline) -> PlannedValue:
    """The planned value of a baseline, worked out once a plan."""
    return book.memo.once(PLANNED, lambda: PlannedValue(baseline, minor_unit(book.project.currency)), baseline.code)


class Valuation:
    """The value of a book at one page. Everything is computed once, when first asked for.

    `before` is the valuation of the same plan with something else posted: what rests on the same is taken over.
    """

    def __init__(
        self,
        at: AsOf,
        now: dict[str, Progress],
        schedule: Schedule,
        treatment: str,
        baseline: Baseline | None,
        before: "Valuation | None" = None,
    ) -> None:
        self.at, self.progress, self.schedule, self.baseline = at, now, schedule, baseline
        self.treatment = treatment
        self.book = at.book
        self.unit = minor_unit(self.book.project.currency)
        self._measured: dict[str, Measures] = {}
        self._before = before
        if before is not None:
            before._before = None  # keep one step back, not a chain
        self.planned = None if baseline is None else planned_of(self.book, baseline)

    @cached_property
    def codes(self) -> list[str]:
        """The activities of the plan, then those that only the baseline has."""
        plan = self.book.activity_by_code
        return [*plan, *(c for c in (self.baseline.by_code if self.baseline else ()) if c not in plan)]

    @cached_property
    def activity_codes(self) -> set[str]:
        """The same for asking whether one is among them."""
        return set(self.codes)

    @cached_property
    def following(self) -> Following:
        """What follows progress at this page."""
        return Following(self.at, self.progress)

    @cached_property
    def entries(self) -> list[ActualItem]:
        """Every actual cost that the pages so far know, what is outside the budget included."""
        return actual_items(self.at)

    @cached_property
    def actuals(self) -> list[ActualItem]:
        """Every actual cost that the pages so far know and that counts."""
        outside = self.outside
        if not outside:
            return self.entries
        return [x for x in self.entries if x.of not in outside and not self.payments.only_outside(x, outside)]

    @cached_property
    def outside(self) -> set[str]:
        """The codes of costs outside the budget."""
        return {c.code for c in self.book.costs if c.code and not c.in_budget}

    @cached_property
    def payments(self) -> Payments:
        """What is ordered, entered and still to be paid."""
        return Payments(self.at, self.progress, self.schedule.spans, self.entries, self.following)

    def owed(self, code: str) -> list[Owed]:
        """The direct costs and materials of an activity as they stand."""
        return self.payments.of(code) if code in self.book.activity_by_code else []

    @cached_property
    def reckoned(self) -> list[tuple[Target, str, Piece]]:
        """The cost that follows progress, over time: where it counts, the resource or the cost that it is of, the amount."""
        if self.following.nothing:
            return []
        out: list[tuple[Target, str, Piece]] = []
        for code, p in self.progress.items():
            if p.actual_start is not None:
                out += [(("activity", code), x.resource, x.cost) for x in self.following.of(code)]
        return [*out, *((("activity", code), x.key, piece) for code, x, piece in self.payments.reckoned())]

    @cached_property
    def remains(self) -> Remains:
        """What is left of each activity that has anything left, line by line."""
        return Remains(self.at, self.progress, self.schedule, self.payments, self.following)

    def wbs_of(self, code: str) -> str | None:
        """The WBS element of an activity: the plan's, for removed work the baseline's."""
        a = self.book.activity_by_code.get(code)
        if a is not None:
            return a.wbs
        return self.baseline.by_code[code].wbs if self.baseline and code in self.baseline.by_code else None

    @cached_property
    def _home(self) -> dict[str, str | None]:
        """The WBS element of each activity, worked out once a plan."""
        if old := self._before:
            return old._home
        out = {a.code: a.wbs for a in self.book.activities}
        for removed in self.baseline.activities if self.baseline else ():
            out.setdefault(removed.code, removed.wbs)
        return out

    def planned_at(self, code: str, t: Instant) -> int:
        """PV of an activity at any instant in minor units; 0 for work that the baseline lacks."""
        return 0 if self.planned is None else self.planned.at(code, t)

    @cached_property
    def ev(self) -> dict[str, int]:
        """EV of every baseline activity that has earned anything at this page."""
        return {} if self.planned is None else earned(self.at, self.planned, self.progress, self.following)

    def _page_before(self, back: int) -> "tuple[AsOf, dict[str, int]] | None":
        """An earlier page and the EV there, worked out once for the same pages."""
        then = self.at.earlier(back)
        if then is None or self.planned is None or self.baseline is None:
            return None if then is None else (then, {})
        planned = self.planned
        key = (self.baseline.code, *then.pages)
        return self.book.memo.once(EARNED, lambda: (then, earned(then, planned, stated_progress(then), following(then))), key)

    @cached_property
    def _pages(self) -> list[Page]:
        """The earlier pages, oldest first, with what each knew of an activity's share."""
        out: list[Page] = []
        for back in range(len(self.at.periods) - 1, 0, -1):
            then = self.at.earlier(back)
            assert then is not None and then.status is not None
            out.append((then.status, self._share_on(then)))
        return out

    def _share_on(self, then: AsOf) -> Callable[[str], Share | None]:
        stated, reckoned, planned = stated_progress(then), following(then), self.planned

        def share(code: str) -> Share | None:
            p = stated.get(code)
            if planned is None or p is None or p.actual_start is None:
                return None
            return earned_share(then, planned, code, stated, reckoned)

        return share

    def earned_pieces(self, codes: Iterable[str]) -> Iterator[tuple[str, Piece]]:
        """EV of activities at any instant up to the page, as the page knows it."""
        if self.planned is None:
            return
        may = dict.fromkeys([*self.at.latest, *self.planned.following])
        wanted = may if codes is self.codes else [code for code in codes if code in may]
        for code in wanted:
            piece = earned_over_time(self.at, self.planned, self.progress, self.ev, self._pages, code)
            if piece is not None:
                yield code, piece

    @cached_property
    def sums(self) -> SumsByTarget:
        """Sums of ("activity", code) and of what stands on ("wbs", code) itself."""
        return SumsByTarget(self._columns, self.codes)

    @cached_property
    def _columns(self) -> Columns:
        """What the sums are added up from."""
        status, planned = self.at.status, self.planned
        budget = {} if planned is None else planned.budget
        if status is None:
            return Columns(budget, {}, self.ev, self.remains.totals, {}, {}, {})
        pv = {} if planned is None else planned.all_at(status)
        page = self._page_before(3)
        then = ({}, {}) if page is None or page[0].status is None else (page[1], self._actual_then(page[0]))
        return Columns(budget, pv, self.ev, self.remains.totals, self.actual_at(status), *then)

    def actual_at(self, t: Instant) -> dict[Target, dict[str, int]]:
        """AC by target and source at an instant, as the page knows it, what follows progress included."""
        out = actual_of(self.actuals, t)
        for target, _, piece in self.reckoned:
            if amount := amount_by(piece, t):
                by = out.setdefault(target, {})
                by["progress"] = by.get("progress", 0) + amount
        return out

    def actual_pieces(self, scope: Scope) -> list[Piece]:
        """AC of a scope over time."""
        items = [x for x in self.actuals if scope.whole or scope.holds(x.target)]
        return [*actual_pieces(items), *(piece for target, _, piece in self.reckoned if scope.whole or scope.holds(target))]

    def _actual_then(self, then: AsOf) -> dict[Target, int]:
        """AC by target at an earlier page, as it knew it, worked out once for the same pages."""
        status = then.status
        assert status is not None

        def spent() -> dict[Target, int]:
            return {target: sum(x.values()) for target, x in self._valued(then).actual_at(status).items()}

        return self.book.memo.once(SPENT, spent, (self.treatment, then.pages))

    def _valued(self, then: AsOf) -> "Valuation":
        """The value at an earlier page; its dates are only worked out where something follows progress."""
        now = progress(then)
        plan = self.schedule if self.following.nothing else schedule(then, now, self.treatment)
        return Valuation(then, now, plan, self.treatment, self.baseline)

    def due(self, scope: Scope, ends: list[Instant]) -> list[int]:
        """The remaining cost of a scope due by each of the ascending instants; what is due by the status falls into the first after it."""
        out, status = self.remains.due(ends, None if scope.whole else scope.activities), self.at.status
        if status is None or not ends or ends[-1] <= status:
            return out
        return [0 if end <= status else x for end, x in zip(ends, out, strict=True)]

    def scope(self, wbs: str | None = None) -> Scope:
        """The scope of a WBS element, or of the whole project."""
        if wbs is None:
            return Scope(self.codes, (w.code for w in self.book.wbs), whole=True)
        return Scope(self._below[wbs][0], self._below[wbs][1])

    def selection(self, activities: Iterable[str], wbs: Iterable[str] = ()) -> Scope:
        """The scope of any activities and of whole WBS elements, each counted once; unknown codes are left out."""
        wanted, elements = dict.fromkeys(c for c in activities if c in self.activity_codes), set[str]()
        for w in wbs:
            if w in self._below:
                wanted |= dict.fromkeys(self._below[w][0])
                elements |= set(self._below[w][1])
        return Scope(wanted, elements)

    @cached_property
    def _below(self) -> dict[str, tuple[list[str], list[str]]]:
        """For each WBS element the activities in it and below, and the elements themselves; worked out once a plan."""
        if old := self._before:
            return old._below
        out: dict[str, tuple[list[str], list[str]]] = {w.code: ([], []) for w in self.book.wbs}
        above = {code: [out[x] for x in up] for code, up in self.book.wbs_above.items()}
        for w in self.book.wbs:
            for _, elements in above[w.code]:
                elements.append(w.code)
        for code, element in self._home.items():
            for activities, _ in above.get(element or "", ()):
                activities.append(code)
        return out

    def total(self, scope: Scope | None = None) -> Sums:
        """The sums of a scope; absent: of the whole project."""
        if scope is None:
            return self._columns.total
        out, sums = Sums(), self.sums
        for code in scope.activities:
            out.add(sums["activity", code])
        for target in sums.posted_on_elements:
            if target[1] in scope.wbs:
                out.add(sums[target])
        return out

    def measure(self, code: str, scope: Scope | None = None, with_schedule: bool = True) -> Measures:
        """The measures of a scope (absent: the project), with or without the earned schedule."""
        sums = self.total(scope)
        out = self._measures(code, sums)
        if with_schedule:
            finished = self._finished(self.codes if scope is None else scope.activities)
            self._earned_schedule(out, sums, self._planned_line(scope), finished)
        return out

    def measure_activity(self, code: str) -> Measures:
        """The measures of one activity, taken over where nothing in them has changed."""
        found = self._measured.get(code)
        if found is None:
            old, sums = self._before, self.sums["activity", code]
            known = None if old is None or old.sums.get(("activity", code)) != sums else old._measured.get(code)
            with localcontext(CONTEXT):
                found = self._measured[code] = known or self._measures(code, sums)
        return found

    def _measures(self, code: str, sums: Sums) -> Measures:
        return measures(code, sums, self.unit, self.book.project.eac, self.at.status is not None)

    @cached_property
    def wbs_sums(self) -> dict[str, Sums]:
        """The sums of every WBS element, what lies below it included."""
        c, home, totals = self._columns, self._home, dict[str, Sums]()
        bac, pv, ev, left, ev_then = (by_home(x, home) for x in (c.bac, c.pv, c.ev, c.left, c.ev_then))
        for w in self.book.wbs:
            at = w.code
            totals[at] = Sums(bac[at], pv[at], ev[at], {}, left[at], ev_then[at])
        for (kind, code), by in c.ac.items():
            place = home.get(code) if kind == "activity" else code
            if place in totals:
                totals[place].spend(by)
        for (kind, code), amount in c.ac_then.items():
            place = home.get(code) if kind == "activity" else code
            if place in totals:
                totals[place].ac_then += amount
        for code, parent in self._upwards:
            totals[parent].add(totals[code])
        return totals

    @cached_property
    def _upwards(self) -> list[tuple[str, str]]:
        """Elements with their parents, the deepest first, so that each is taken once into its parent."""
        chains = sorted(self.book.wbs_above.items(), key=lambda x: -len(x[1]))
        return [(code, up[1]) for code, up in chains if len(up) > 1]

    @cached_property
    def elements(self) -> dict[str, Measures]:
        """The measures of every WBS element, in the book's order."""
        old, out = self._before, dict[str, Measures]()
        for code, sums in self.wbs_sums.items():
            finished = self._finished_elements.get(code)
            if old is not None and old.wbs_sums[code] == sums and old._finished_elements.get(code) == finished:
                out[code] = old.elements[code]
            else:
                out[code] = self._measures(code, sums)
                self._earned_schedule(out[code], sums, self._planned_elements.get(code), finished)
        return out

    @cached_property
    def _finished_elements(self) -> dict[str, Instant]:
        """The latest actual finish of each element where all that the plan has in it and below is complete."""
        latest, going = dict[str, Instant](), set[str]()
        for code, p in self.progress.items():
            home = self._home[code]
            if home is None or home in going:
                continue
            if p.state != "complete" or p.actual_finish is None:
                going.add(home)
            else:
                latest[home] = max(p.actual_finish, latest.get(home, p.actual_finish))
        for code, parent in self._upwards:
            if code in going:
                going.add(parent)
            elif code in latest:
                latest[parent] = max(latest[code], latest.get(parent, latest[code]))
        return {code: finish for code, finish in latest.items() if code not in going}

    def _finished(self, codes: Iterable[str]) -> Instant | None:
        """The latest actual finish of a set of activities where all of the plan among them are complete, else None."""
        latest: Instant | None = None
        for code in codes:
            p = self.progress.get(code)
            if p is None:
                continue
            if p.actual_finish is None or p.state != "complete":
                return None
            latest = p.actual_finish if latest is None else max(latest, p.actual_finish)
        return latest

    # Earned schedule

    def _planned_line(self, scope: Scope | None) -> PlannedLine | None:
        """The planned value of a scope (absent: the project), worked out once a plan; None where no baseline has any of it."""
        planned, days = self.planned, self._days
        if scope is None or planned is None or self.baseline is None:
            return self._planned_elements.get(None)
        key = (self.baseline.code, *scope.activities)
        return self.book.memo.once(SELECTED, lambda: planned.scope(days, scope.activities), key)

    @cached_property
    def _planned_elements(self) -> dict[str | None, PlannedLine | None]:
        """The planned value of each WBS element and, under None, of the project; worked out once a plan."""
        if self.planned is None or self.baseline is None:
            return {}
        return self.book.memo.once(ELEMENTS, partial(self._elements_of, self.planned), self.baseline.code)

    def _elements_of(self, planned: PlannedValue) -> dict[str | None, PlannedLine | None]:
        above = self.book.wbs_above
        order = sorted(above, key=lambda code: len(above[code]))
        place = {code: i for i, code in enumerate(order, 1)}
        parent = [0, *(place.get(above[code][1], 0) if len(above[code]) > 1 else 0 for code in order)]
        home = [place.get(self._home[code] or "", 0) for code in planned.columns.codes]
        return dict(zip([None, *order], planned.elements(self._days, home, parent), strict=True))

    @cached_property
    def _days(self) -> WorkingDays:
        start = min((a.start for a in self.baseline.activities), default=0) if self.baseline else 0
        return self.book.memo.once(DAYS, lambda: WorkingDays(self.book.axis, start), start)

    def _earned_schedule(self, out: Measures, sums: Sums, plan: PlannedLine | None, finished: Instant | None) -> None:
        status = self.at.status
        if status is None or plan is None:
            names = ("earned_schedule", "actual_time", "sv_t", "spi_t", "forecast_finish_t")
            out.reasons.update(dict.fromkeys(names, NO_STATUS if status is None else sentence("valuation.no_baseline_measure_against")))
            return
        found = earned_schedule(self._days, plan, sums.ev, sums.bac, status, finished)
        out.earned_schedule, out.actual_time, out.sv_t = found.earned, found.actual, found.variance
        out.spi_t, out.forecast_finish_t = found.spi, found.forecast
        out.reasons.update(found.missing)


class ActivityMeasures(Mapping[str, Measures]):
    """The measures of every activity, each worked out when it is asked for."""

    def __init__(self, valuation: Valuation) -> None:
        self._valuation = valuation

    def __getitem__(self, code: str) -> Measures:
        return self._valuation.measure_activity(code)

    def __iter__(self) -> Iterator[str]:
        return iter(self._valuation.codes)

    def __len__(self) -> int:
        return len(self._valuation.codes)
