"""What must hold of pages and of what is said about them: order, statements, corrections, rhythm, answers to checks."""

import re
from collections.abc import Iterator, Sequence

from dryledger.book.baselines import BaselineActivity
from dryledger.book.durations import planned_duration
from dryledger.book.lists import WEEKDAYS
from dryledger.book.pages import CostEntry, HoursEntry, Period, Rhythm, Statement
from dryledger.book.plan import Activity, Book
from dryledger.book.since import New
from dryledger.calendar.calendar import to_text
from dryledger.errors import Fault
from dryledger.words import sentence

__all__ = ["answer_faults", "check_statement", "page_faults", "rhythm_faults"]

_MONTH_DAYS = {"last", *map(str, range(1, 32))}


def rhythm_faults(r: Rhythm) -> Iterator[Fault]:
    """What a rhythm of pages must say."""
    if r.n != int(r.n):
        yield Fault("project.rhythm.n", sentence("rules.rhythm_whole", every=r.every))
    if r.every == "week" and r.on not in WEEKDAYS:
        yield Fault("project.rhythm.on", sentence("rules.rhythm_weekday"))
    if r.every == "month" and r.on not in _MONTH_DAYS:
        yield Fault("project.rhythm.on", sentence("rules.rhythm_day"))
    if r.at is not None and not re.fullmatch(r"([01]\d|2[0-3]):[0-5]\d", r.at):
        yield Fault("project.rhythm.at", sentence("rules.rhythm_time"))


def check_statement(s: Statement, status: int, path: str = "", zero: bool = False) -> Iterator[Fault]:
    """What an actual date must keep to; `zero` for an activity of no duration."""
    at = f"{path}." if path else ""
    if s.actual_finish is not None and s.actual_start is None and not zero:
        yield Fault(f"{at}actual_start", sentence("rules.finish_needs_start_say"))
    if s.actual_finish is not None and s.actual_start is not None and s.actual_finish < s.actual_start:
        yield Fault(f"{at}actual_finish", sentence("rules.lies_before_start", actual_start=to_text(s.actual_start)))
    for key, value in (("actual_start", s.actual_start), ("actual_finish", s.actual_finish)):
        if value is not None and value > status:
            yield Fault(f"{at}{key}", sentence("rules.lies_after_status_period", status=to_text(status)))


def page_faults(book: Book, new: New) -> Iterator[Fault]:
    """What must hold of the pages; what a page says is gone through where it, or what it is said of, is new."""
    before, known = None, new.known("activities")
    reachable = _milestone_names(book)
    same = set() if new.lists("baselines", "assignments", "calendars", "resources") or new.codes("activities") else new.known("periods")
    other = {a.code for a in book.activities if id(a) not in known}
    for i, p in enumerate(book.periods):
        path = f"periods[{i}]"
        if before is not None and p.status <= before.status:
            yield Fault(f"{path}.status", sentence("rules.must_lie_after_status", status=to_text(before.status)))
        if before is not None and before.state == "wet" and p.state == "dry":
            yield Fault(f"{path}.state", sentence("rules.dry_period_cant_follow"))
        before = p
        yield from _in_words(book, p, path, reachable, other if id(p) in same else None)
    if new.lists("periods"):
        yield from _corrections(book, new)


def _corrections(book: Book, new: New) -> Iterator[Fault]:
    """What a correction must keep to, and that no assignment's hours fall below nothing on any page."""
    same = new.known("periods")
    pairs = {(h.activity, h.resource) for p in book.periods for h in p.hours if h.corrects is not None}
    sums = {pair: {"worked": 0, "overtime": 0} for pair in pairs}
    earlier: set[str] = set()
    for i, p in enumerate(book.periods):
        path = f"periods[{i}]"
        if id(p) not in same:
            yield from _entries(p, path, earlier)
        earlier.add(p.code)
        last: dict[tuple[str, str], int] = {}
        for j, h in enumerate(p.hours if pairs else ()):
            pair = (h.activity, h.resource)
            if pair in sums:
                sums[pair]["worked"] += h.worked
                sums[pair]["overtime"] += h.overtime
                if h.corrects is not None:
                    last[pair] = j
        for (activity, resource), j in last.items():
            for key, minutes in sums[activity, resource].items():
                if minutes < 0:
                    yield Fault(f"{path}.hours[{j}].{key}", sentence("rules.hours_below_nothing", resource=resource, activity=activity))


def _entries(p: Period, path: str, earlier: set[str]) -> Iterator[Fault]:
    """What must hold of each entry of hours and costs of a page by itself."""
    for j, h in enumerate(p.hours):
        if h.corrects is not None:
            yield from _corrects(h, earlier, f"{path}.hours[{j}]")
            continue
        for key, minutes in (("worked", h.worked), ("overtime", h.overtime)):
            if minutes < 0:
                yield Fault(f"{path}.hours[{j}].{key}", sentence("rules.negative_without_correction"))
    for j, s in enumerate(p.statements):
        if s.corrects is not None:
            yield from _corrects(s, earlier, f"{path}.statements[{j}]")
    for j, c in enumerate(p.costs):
        if c.corrects is not None:
            yield from _corrects(c, earlier, f"{path}.costs[{j}]")
            if c.source != "correction":
                yield Fault(f"{path}.costs[{j}].corrects", sentence("rules.correction_of_other_source", source=c.source))


def _corrects(entry: Statement | HoursEntry | CostEntry, earlier: set[str], at: str) -> Iterator[Fault]:
    """The page that an entry corrects, and why."""
    if entry.corrects not in earlier:
        yield Fault(f"{at}.corrects", sentence("rules.corrects_no_earlier_page", code=str(entry.corrects)[:60]))
    if not (entry.reason or "").strip():
        yield Fault(f"{at}.reason", sentence("rules.correction_needs_reason"))


def _in_words(book: Book, p: Period, path: str, reachable: dict[str, set[str]], only: set[str] | None) -> Iterator[Fault]:
    """What must hold of the statements and cost entries of a page; `only` of some activities, where all else held before."""
    if only is not None and not only:
        return
    told: set[str] = set()
    for j, s in enumerate(p.statements):
        if only is not None and s.activity not in only:
            continue
        at = f"{path}.statements[{j}]"
        if s.activity and s.activity in told:
            yield Fault(f"{at}.activity", sentence("rules.two_statements_one_period", activity=s.activity))
        told.add(s.activity)
        if s.actual_start is not None or s.actual_finish is not None:
            activity = book.activity_by_code.get(s.activity)
            zero = activity is not None and _planned(book, activity) == 0
            yield from check_statement(s, p.status, at, zero)
        for name in s.milestones_reached:
            if name not in reachable.get(s.activity, ()):
                yield Fault(f"{at}.milestones_reached", sentence("rules.no_weighted_milestone", activity=s.activity, value=name[:60]))
    for j, c in enumerate(p.costs):
        if (c.activity is None) == (c.wbs is None):
            yield Fault(f"{path}.costs[{j}]", sentence("rules.must_name_exactly_one"))


def _milestone_names(book: Book) -> dict[str, set[str]]:
    """The weighted milestones that each activity has, by its method in the plan or in a baseline."""
    out: dict[str, set[str]] = {}
    groups: list[Sequence[Activity | BaselineActivity]] = [book.activities, *(b.activities for b in book.baselines)]
    for rows in groups:
        for a in rows:
            if a.value_method.type == "milestones":
                out.setdefault(a.code, set()).update(w.name for w in a.value_method.weights)
    return out


def _planned(book: Book, activity: Activity) -> int:
    """Its planned duration, as far as a book that may still have faults lets it be told."""
    try:
        return planned_duration(book, activity)
    except KeyError:
        return activity.duration


def answer_faults(book: Book, new: New) -> Iterator[Fault]:
    """Answers to checks stand on a page that there is, and do not end before it."""
    places = {p.code: i for i, p in enumerate(book.periods)}
    for i, a in enumerate(book.answers if new.lists("answers") or new.codes("periods") else ()):
        if a.page and a.page not in places:
            yield Fault(f"answers[{i}].page", sentence("rules.no_code", what="page", code=a.page))
        elif a.page and a.until in places and places[a.until] < places[a.page]:
            yield Fault(f"answers[{i}].until", sentence("rules.answer_ends_before", until=a.until, page=a.page))
