"""Two baselines side by side: the later − the earlier, for activities, WBS elements and the project.

Source: calculation contract, section 12, with a second baseline in the place of the present. Dates and durations are
working minutes on the later one's calendars (rolled up: on its project calendar); positive is later or more.
"""

from collections.abc import Iterable, Mapping
from decimal import Decimal

from dryledger.baseline.snapshot import Difference
from dryledger.book.baselines import Baseline, BaselineActivity
from dryledger.book.plan import Book
from dryledger.calendar.axis import Instant

__all__ = ["compare", "span_of"]

ZERO = Decimal(0)
Span = tuple[Instant, Instant]


def compare(book: Book, earlier: Baseline, later: Baseline) -> dict[tuple[str, str], Difference]:
    """The differences by ("activity" | "wbs" | "project", code), as `Results.differences` gives them for the present."""
    codes = [*later.by_code, *(c for c in earlier.by_code if c not in later.by_code)]
    out = {("activity", c): _activity(c, earlier.by_code.get(c), later.by_code.get(c), later) for c in codes}
    for w in book.wbs:
        inside = [c for c in codes if w.code in book.wbs_above.get(_row(earlier, later, c).wbs or "", ())]
        out["wbs", w.code] = _rolled(w.code, inside, earlier, later)
    out["project", book.project.code] = _rolled(book.project.code, codes, earlier, later)
    return out


def span_of(dates: Mapping[str, Span], codes: Iterable[str]) -> Span | None:
    """From the first start to the last finish of activities, as far as they are there; None where none is.

    >>> span_of({"A": (480, 960), "B": (600, 2400)}, "ABC"), span_of({}, "A")
    ((480, 2400), None)
    """
    found = [dates[c] for c in codes if c in dates]
    return (min(a for a, _ in found), max(b for _, b in found)) if found else None


def _row(earlier: Baseline, later: Baseline, code: str) -> BaselineActivity:
    return later.by_code.get(code) or earlier.by_code[code]


def _activity(code: str, was: BaselineActivity | None, now: BaselineActivity | None, later: Baseline) -> Difference:
    if now is None:
        assert was is not None
        return Difference(code, None, None, -was.duration, -was.work, -was.budget, "removed")
    if was is None:
        return Difference(code, None, None, now.duration, now.work, now.budget, "added")
    axis = next(c.axis for c in later.calendars if c.code == now.calendar)
    return Difference(
        code,
        axis.between(was.start, now.start),
        axis.between(was.finish, now.finish),
        now.duration - was.duration,
        now.work - was.work,
        now.budget - was.budget,
    )


def _rolled(code: str, codes: list[str], earlier: Baseline, later: Baseline) -> Difference:
    was = [earlier.by_code[c] for c in codes if c in earlier.by_code]
    now = [later.by_code[c] for c in codes if c in later.by_code]
    axis = later.project_axis
    work = sum(a.work for a in now) - sum(a.work for a in was)
    cost = sum((a.budget for a in now), ZERO) - sum((a.budget for a in was), ZERO)
    lengths = [axis.between(min(a.start for a in x), max(a.finish for a in x)) if x else 0 for x in (now, was)]
    change = "both" if was and now else "added" if now else "removed"
    if not was or not now:
        return Difference(code, None, None, lengths[0] - lengths[1], work, cost, change)
    return Difference(
        code,
        axis.between(min(a.start for a in was), min(a.start for a in now)),
        axis.between(max(a.finish for a in was), max(a.finish for a in now)),
        lengths[0] - lengths[1],
        work,
        cost,
        change,
    )
