"""The hours lens of a page: each assignment with what was planned, posted before, posted here, and what is still to go.

Source: calculation contract, sections 4, 6 and 10: the latest to-go stands, else R × units (not started: its planned work).
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, timedelta
from decimal import ROUND_HALF_EVEN, Decimal

from dryledger.book.durations import work_of
from dryledger.book.pages import HoursEntry
from dryledger.book.plan import Assignment
from dryledger.budget.money import part
from dryledger.budget.remaining import remaining_work
from dryledger.calendar.calendar import DAY, Calendar, date_of
from dryledger.compute import Results
from dryledger.entry.grammar import read_number, type_duration
from dryledger.errors import EntryRefused
from dryledger.words import sentence

__all__ = ["MOST_HOURS", "HoursRow", "HoursTotal", "hours_rows", "hours_totals", "page_days", "type_hours"]

MOST_HOURS, MOST_DAYS = 100_000, 35

Pair = tuple[str, str]
"""An activity and a resource."""


@dataclass(frozen=True)
class HoursRow:
    """Hours of one assignment at a page, in minutes.

    `planned` is the work that should be done by the status date (None where no baseline says), `before` what earlier pages
    posted, corrections in; `worked`, `overtime` and `to_go` are this page's own entry, `remaining` what is left after it,
    `budgeted` the planned work in all. `corrected` are this page's corrections of earlier ones, `reckoned` what follows progress.
    """

    activity: str
    resource: str
    assigned: bool
    planned: int | None
    before: int
    worked: int
    overtime: int
    to_go: int | None
    corrected: int
    remaining: int
    budgeted: int
    reckoned: int = 0

    @property
    def total(self) -> int:
        """All hours worked up to this page: posted, and what follows progress."""
        return self.before + self.worked + self.overtime + self.corrected + self.reckoned

    @property
    def change(self) -> int:
        """How far worked and remaining hours lie above the planned work (below: negative)."""
        return self.total + self.remaining - self.budgeted


@dataclass(frozen=True)
class HoursTotal:
    """Sums over rows, in minutes: what this page posts (overtime in), and what is left after it."""

    here: int
    remaining: int


def type_hours(text: str, calendar: Calendar, field: str) -> int | None:
    """Typed hours in minutes: a bare number is hours; empty is nothing said. Raises EntryRefused at the field.

    >>> [type_hours(text, Calendar("c", "c", ()), "worked") for text in ("7.5", "2d", " ")]
    [450, 960, None]
    """
    bare = text.strip()
    got = type_duration(f"{bare}h" if read_number(bare) is not None else bare, calendar, field)
    if got is not None and got[0] > MOST_HOURS * 60:
        raise EntryRefused(field, sentence("hours.too_many", most=MOST_HOURS))
    return None if got is None else int(got[0])


def page_days(r: Results, before: Results) -> list[date]:
    """The dates of a page, from the day after the status date of the page before, or the project's start; none of more than `MOST_DAYS`."""
    assert r.status is not None
    first = date_of(r.book.project.start if before.status is None else before.status + DAY - 1)
    count = (date_of(r.status - 1) - first).days + 1
    return [first + timedelta(days=i) for i in range(count)] if count <= MOST_DAYS else []


def hours_totals(rows: Iterable[HoursRow]) -> dict[Pair, HoursTotal]:
    """The sums of each activity and of each resource: by (“activity”, code) and (“person”, code).

    >>> row = HoursRow("A", "F", True, 60, 0, 30, 10, None, 0, 20, 60)
    >>> hours_totals([row, row])["person", "F"]
    HoursTotal(here=80, remaining=40)
    """
    out: dict[Pair, HoursTotal] = {}
    for x in rows:
        for key in (("activity", x.activity), ("person", x.resource)):
            was = out.get(key, HoursTotal(0, 0))
            out[key] = HoursTotal(was.here + x.worked + x.overtime, was.remaining + x.remaining)
    return out


def hours_rows(r: Results) -> Iterator[HoursRow]:
    """The rows of every assignment of people and equipment, then of what is posted without one, in the book's order."""
    book, period = r.book, r.at.periods[-1]
    before: dict[Pair, int] = {}
    for p in r.at.periods[:-1]:
        for h in p.hours:
            before[h.activity, h.resource] = before.get((h.activity, h.resource), 0) + h.worked + h.overtime
    here: dict[Pair, list[HoursEntry]] = {}
    for h in period.hours:
        here.setdefault((h.activity, h.resource), []).append(h)
    kinds = {x.code: x.kind for x in book.resources}
    assigned = [(a.activity, a.resource) for a in book.assignments if kinds[a.resource] != "material"]
    known = set(assigned)
    loose = [pair for pair in dict.fromkeys([*before, *here]) if pair not in known]
    of = {(a.activity, a.resource): a for a in book.assignments}
    for pair in (*assigned, *loose):
        yield _row(r, pair, of.get(pair), before.get(pair, 0), here.get(pair, []))


def _row(r: Results, pair: Pair, a: Assignment | None, before: int, entries: list[HoursEntry]) -> HoursRow:
    code, resource = pair
    activity = r.book.activity_by_code[code]
    own = [h for h in entries if h.corrects is None]
    to_go = next((h.to_go for h in reversed(own) if h.to_go is not None), None)
    budgeted = 0 if a is None else _whole(work_of(r.book, activity, a, r.progress[code].planned))
    planned = r.valuation.planned
    due = None
    if planned is not None and r.status is not None and code in planned.baseline.by_code:
        due = part(budgeted, *planned.share(code, r.status))
    left = remaining_work(r.at, activity, r.progress[code]).get(resource, Decimal(to_go or 0))
    return HoursRow(
        code,
        resource,
        a is not None,
        due,
        before,
        sum(h.worked for h in own),
        sum(h.overtime for h in own),
        to_go,
        sum(h.worked + h.overtime for h in entries if h.corrects is not None),
        _whole(left),
        budgeted,
        sum(x.minutes.amount for x in r.valuation.following.of(code) if x.resource == resource),
    )


def _whole(minutes: Decimal) -> int:
    return int(minutes.quantize(Decimal(1), ROUND_HALF_EVEN))
