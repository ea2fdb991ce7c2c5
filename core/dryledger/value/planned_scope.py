"""The planned value of a set of activities by the end of each of its working dates, as the earned schedule asks for it.

Source: calculation contract, section 10.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from dryledger.budget.planned import PlannedValue
from dryledger.calendar.calendar import DAY, END_OF_TIME, Instant
from dryledger.value.working_days import WorkingDays

__all__ = ["PlannedScope", "scope_of", "scopes_of_elements"]


@dataclass(frozen=True)
class PlannedScope:
    """The earliest start and the latest finish that a baseline has of a set, the working dates that lie before, and its line: PV when the
    date after the k-th begins, k from 0, up to the date by which all is planned."""

    start: Instant
    finish: Instant
    skipped: int
    line: Sequence[int]


Span = tuple[Instant, Instant, Instant]
"""The earliest start, the latest finish, and by when all is planned."""


def scope_of(planned: PlannedValue, days: WorkingDays, codes: Iterable[str]) -> PlannedScope | None:
    """The planned value of a set of activities; None where the baseline has none of them."""
    own = {code for code in codes if code in planned.spans}
    if not own:
        return None
    span = _span(planned, own)
    low, high = _days_of(days, span)
    return PlannedScope(span[0], span[1], low, [0, *planned.line(own, _openings(days, high)[low:high])[1:]])


def scopes_of_elements(
    planned: PlannedValue, days: WorkingDays, above: Mapping[str, Sequence[str]], homes: Mapping[str, str | None]
) -> dict[str | None, PlannedScope]:
    """The planned value of each element that the baseline has anything of, with what is below it; under None that of the whole baseline.

    `above` has of each element itself and those above it, `homes` the element that each activity lies right under.
    """
    own: dict[str | None, list[str]] = {}
    for code in planned.spans:
        home = homes.get(code)
        own.setdefault(home if home in above else None, []).append(code)
    spans: dict[str | None, Span] = {}
    for home, codes in own.items():
        span = _span(planned, codes)
        for element in (*above.get(home or "", ()), None):
            spans[element] = _both(spans[element], span) if element in spans else span
    order = sorted(spans, key=lambda element: 0 if element is None else len(above[element]))
    place = {element: i for i, element in enumerate(order)}
    parents = [-1 if x is None else place[above[x][1] if len(above[x]) > 1 else None] for x in order]
    ranges = [_days_of(days, spans[element]) for element in order]
    openings = _openings(days, max((high for _, high in ranges), default=0))
    of = {code: place[home] for home, codes in own.items() for code in codes}
    lines = planned.by_day(openings, of, [low for low, _ in ranges], [high for _, high in ranges], parents)
    return {
        element: PlannedScope(*spans[element][:2], low, [0, *line[1:]])
        for element, (low, _), line in zip(order, ranges, lines, strict=True)
    }


def _both(a: Span, b: Span) -> Span:
    return min(a[0], b[0]), max(a[1], b[1]), max(a[2], b[2])


def _span(planned: PlannedValue, codes: Iterable[str]) -> Span:
    starts, finishes = zip(*map(planned.spans.__getitem__, codes), strict=True)
    start, finish = min(starts), max(finishes)
    return start, finish, max([finish, *(planned.complete_by(code) for code in planned.apportioned.intersection(codes))])


def _days_of(days: WorkingDays, span: Span) -> tuple[int, int]:
    """From which to before which of the working dates a line goes."""
    low = days.begun(span[0] // DAY * DAY)
    return low, low + max(days.begun(span[2]) - low, 1) + 1


def _openings(days: WorkingDays, count: int) -> list[Instant]:
    """The midnights that open so many dates; after 2199 the end of time, by which all is due."""
    days.nth(count)
    found = days.found[:count]
    return found + [END_OF_TIME] * (count - len(found))
