"""The one door of the core: `compute(book, period) -> Results`, and Results as JSON.

Every figure that a screen, a report or the command line shows comes through here.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from decimal import localcontext
from functools import cached_property

from dryledger.baseline.differences import activity_differences, finish_drift, finish_drift_of, finish_drifts, rolled_up
from dryledger.baseline.snapshot import Difference, snapshot
from dryledger.book.baselines import Baseline
from dryledger.book.plan import Book
from dryledger.budget.money import CONTEXT
from dryledger.budget.time_phased import Phased, phased_actual, phased_budget, phased_remaining
from dryledger.calendar.calendar import Instant
from dryledger.errors import BookInvalid, Fault
from dryledger.schedule.progress import AsOf, Progress, as_of, progress
from dryledger.schedule.schedule import Schedule, out_of_time, schedule
from dryledger.value.curve import Point, bucket_ends_of, curve
from dryledger.value.measures import Measures
from dryledger.value.owed import paid_by_activity
from dryledger.value.sums import Scope
from dryledger.value.under_change import UnderChange
from dryledger.value.valuation import ActivityMeasures, Valuation
from dryledger.words import sentence

__all__ = ["CALCULATION", "PhasedBudget", "Results", "compute"]

CALCULATION = 3
"""The number of the calculation. When a formula changes so that a figure may come out otherwise, it goes up."""


@dataclass(frozen=True)
class PhasedBudget:
    """Budget, actual and remaining cost under the ends of buckets; `of` says whose budget: the baseline's or the present plan's."""

    bucket: str
    ends: list[Instant]
    of: str
    budget: Phased
    actual: Phased
    remaining: Phased


@dataclass
class Results:
    """All figures of one book at one page. Each part is computed when first asked for, and once.

    `schedule` holds the dates, `project`, `wbs` and `activities` the measures, `points` the curve, `differences`
    those from the measured baseline by ("activity" | "wbs" | "project", code).
    """

    book: Book
    at: AsOf
    treatment: str
    baseline: Baseline | None
    bucket: str
    progress: dict[str, Progress]
    schedule: Schedule
    valuation: Valuation = field(repr=False)

    @property
    def status(self) -> Instant | None:
        """The status instant, None without a period."""
        return self.at.status

    def progress_before(self, back: int = 1) -> dict[str, Progress]:
        """The progress of every activity so many pages before; empty where there are not as many."""
        earlier = self.at.earlier(back)
        with localcontext(CONTEXT):
            return {} if earlier is None else progress(earlier)

    @cached_property
    def before(self) -> "Results | None":
        """The results at the page before, as the book knows that page now; None on the first one."""
        periods = self.at.periods
        return compute(self.book, periods[-2].code, treatment=self.treatment) if len(periods) > 1 else None

    @cached_property
    def under_change(self) -> UnderChange:
        """The budget under change, and the reserves."""
        return UnderChange(self.valuation)

    @cached_property
    def paid(self) -> dict[str, dict[str, int]]:
        """What is committed, still to order and still to pay of each activity, in minor units."""
        with localcontext(CONTEXT):
            return paid_by_activity(self.valuation)

    @cached_property
    def totals(self) -> Measures:
        """The project's measures without the earned schedule: what an entry needs at once."""
        with localcontext(CONTEXT):
            return self.valuation.measure(self.book.project.code, with_schedule=False)

    @cached_property
    def drifts(self) -> dict[str, int]:
        """Working minutes by which each activity of plan and baseline finishes after the baseline (its own axis)."""
        return finish_drifts(self.valuation)

    def drift_of(self, code: str) -> int | None:
        """The same for one activity, None where the baseline lacks it."""
        return self.drifts.get(code) if "drifts" in self.__dict__ else finish_drift_of(self.valuation, code)

    @cached_property
    def project_drift(self) -> int | None:
        """The same for the project, on its calendar; None without a baseline."""
        return finish_drift(self.valuation)

    @cached_property
    def project(self) -> Measures:
        """The project's measures."""
        with localcontext(CONTEXT):
            return self.valuation.measure(self.book.project.code)

    @cached_property
    def wbs(self) -> dict[str, Measures]:
        """The measures of each WBS element."""
        with localcontext(CONTEXT):
            return self.valuation.elements

    @cached_property
    def activities(self) -> Mapping[str, Measures]:
        """The measures of each activity, those that only the baseline has included."""
        return ActivityMeasures(self.valuation)

    @cached_property
    def points(self) -> list[Point]:
        """The project's curve, in buckets of `bucket`."""
        return self._curve(self.valuation.scope(), None)

    def curve_of(self, wbs: str | None, bucket: str | None = None, others: tuple[str, ...] | None = None) -> list[Point]:
        """The curve of a WBS element or the whole project, with other baselines' PV (absent: the compared ones)."""
        if wbs is None and bucket in (None, self.bucket) and others is None:
            return self.points
        return self._curve(self.valuation.scope(wbs), bucket, others)

    def curve_of_selection(
        self, activities: Iterable[str], wbs: Iterable[str] = (), bucket: str | None = None, others: tuple[str, ...] | None = None
    ) -> list[Point]:
        """The curve of any set of activities and of whole WBS elements, with other baselines' PV (absent: the compared ones)."""
        return self._curve(self.valuation.selection(activities, wbs), bucket, others)

    def _curve(self, scope: Scope, bucket: str | None, codes: tuple[str, ...] | None = None) -> list[Point]:
        others = tuple(self.book.baseline_by_code[c] for c in (self.book.project.compared_with if codes is None else codes))
        with localcontext(CONTEXT):
            return curve(self.valuation, bucket or self.bucket, scope, others)

    def phased(self, bucket: str) -> PhasedBudget:
        """Budget, actual and remaining cost by time, up to the latest finish. Raises TooManyPoints.

        The budget is that of the measured baseline; without one that of the plan without progress.
        """
        v, of, base = self.valuation, *self.budget_baseline
        ends = self.ends_by_time(bucket)
        return PhasedBudget(bucket, ends, of, phased_budget(v, base, ends), phased_actual(v, ends), phased_remaining(v, ends))

    @cached_property
    def without_progress(self) -> Schedule:
        """The plan without progress; ties bind in it as on this page."""
        with localcontext(CONTEXT):
            bare = as_of(self.book.with_periods(()))
            return schedule(bare, progress(bare), self.treatment, ties=self.schedule.ties)

    @cached_property
    def budget_baseline(self) -> tuple[str, Baseline]:
        """Whose budget is told by time, and that: "baseline" the measured one; without one "present", that of the plan without progress."""
        if self.baseline is not None:
            return "baseline", self.baseline
        return "present", snapshot(self.book, self.without_progress, "", "", self.book.project.start, "", "")

    def ends_by_time(self, bucket: str) -> list[Instant]:
        """The ends of the buckets of budget, actual and remaining cost, up to the latest finish. Raises TooManyPoints."""
        of, base = self.budget_baseline
        until = max((a.finish for a in base.activities), default=None) if of == "present" else None
        return bucket_ends_of(self.valuation, bucket, until=until)

    def selection(self, activities: Iterable[str], wbs: Iterable[str] = ()) -> Measures:
        """The measures of any set of activities and of whole WBS elements, each counted once."""
        with localcontext(CONTEXT):
            return self.valuation.measure("selection", self.valuation.selection(activities, wbs))

    @cached_property
    def differences(self) -> dict[tuple[str, str], Difference]:
        """Now − baseline by kind and code; empty without a baseline."""
        with localcontext(CONTEXT):
            v = self.valuation
            if v.baseline is None:
                return {}
            rows = {d.code: d for d in activity_differences(v)}
            out = {("activity", c): d for c, d in rows.items()}
            for kind, code, scope in [
                *(("wbs", w.code, v.scope(w.code)) for w in self.book.wbs),
                ("project", self.book.project.code, v.scope()),
            ]:
                total = v.wbs_sums[code] if kind == "wbs" else v.total()
                out[kind, code] = rolled_up(v, code, scope.activities, total, rows)
            return out


def compute(
    book: Book, period: str | None = None, *, treatment: str | None = None, bucket: str = "week", before: Results | None = None
) -> Results:
    """Compute a book at a page (by code; absent: the last one; a book without pages has no status date).

    `treatment` tries another treatment of out-of-sequence work than the book's. `before` is an earlier result of the
    same book or one changed since (`Book.with_periods`, `dryledger.book.memo`): what rests on the same is taken over
    from it, nothing else differs.
    Raises UnknownPeriod for a page that is not there and BookInvalid where dates run past the year 9999.
    """
    with localcontext(CONTEXT):
        at = as_of(book, period)
        same = before if before is not None and before.book.memo is book.memo and before.status == at.status else None
        now = progress(at)
        used = treatment or book.project.treatment
        plan = schedule(at, now, used, None if before is None else before.schedule)
        _within_time(plan)
        measured = measured_on(at)
        if same is not None and same.baseline is not measured:
            same = None
        valuation = Valuation(at, now, plan, used, measured, None if same is None else same.valuation)
        return Results(book, at, used, measured, bucket, now, plan, valuation)


def measured_on(at: AsOf) -> Baseline | None:
    """The baseline that a page is measured by: its own, absent the project's."""
    code = at.periods[-1].measured_against if at.periods else None
    return at.book.measured if code is None else at.book.baseline_by_code[code]


def _within_time(plan: Schedule) -> None:
    lost = set(out_of_time(plan))
    if not lost:
        return
    faults = [
        Fault(
            f"activities[{i}]",
            sentence("compute.cant_scheduled_between_years", code=code),
        )
        for i, code in enumerate(plan.activities)
        if code in lost
    ]
    if faults:
        raise BookInvalid(faults)
