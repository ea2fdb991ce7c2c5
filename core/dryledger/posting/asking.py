"""Asking for progress: who is asked for what on a page, and what an answer says of an activity once it is taken.

Source: calculation contract, section 24. An answer is what somebody said; it changes no figure before it is taken, and is then as if typed.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from dryledger.book.durations import planned_duration
from dryledger.book.pages import HoursEntry, Statement
from dryledger.book.plan import Book
from dryledger.book.responsible import responsible_for
from dryledger.calendar.calendar import DAY, Instant
from dryledger.compute import Results
from dryledger.entry.grammar import read_number
from dryledger.errors import EntryRefused
from dryledger.posting.assumed import assume_start, begin_statement, stated_by_hours
from dryledger.posting.hours import type_hours
from dryledger.posting.planned import Tried, tried
from dryledger.posting.typed import read_statement
from dryledger.words import sentence

__all__ = ["CELLS", "AnswerPosted", "answered", "asked", "own_resources", "tried_together"]

CELLS = ("percent", "remaining", "actual_start", "actual_finish", "carry_to", "units_done", "note")
"""What an answer can say of an activity, beside hours; `carry_to` of work that has not begun is when it will start."""
HOURS = ("worked", "to_go")


@dataclass(frozen=True)
class AnswerPosted:
    """What an answer puts on the page: a statement where it says something of the activity, and hours."""

    activity: str
    statement: Statement | None
    hours: tuple[HoursEntry, ...] = ()


def _same(a: str, b: str) -> bool:
    return a.strip().casefold() == b.strip().casefold()


def own_resources(book: Book, name: str) -> set[str]:
    """The resources that somebody is."""
    return {x.code for x in book.resources if x.person and _same(x.person, name)}


def asked(r: Results, before: Results, days: int = 0) -> dict[str, list[str]]:
    """What everybody who can be asked is asked for on a page, by name: of what they are responsible for or work on, in the book's order,
    that which is in progress, or due to start or finish by the status or within `days` after it; an empty list where nothing is.

    `r` is the page's own results, `before` those of the page before (or the plan).
    """
    assert r.status is not None
    book, limit = r.book, r.status + days * DAY
    persons = {x.code: x.person.strip() for x in book.resources if x.person.strip()}
    spelt: dict[str, str] = {}
    out: dict[str, list[str]] = {}
    for a in book.activities:
        whom = [responsible_for(book, a.code).strip(), *(persons.get(x.resource, "") for x in book.assignments_of.get(a.code, ()))]
        wanted = _wanted(r, before, a.code, limit)
        for name in dict.fromkeys(spelt.setdefault(n.casefold(), n) for n in whom if n):
            mine = out.setdefault(name, [])
            if wanted:
                mine.append(a.code)
    return dict(sorted(out.items(), key=lambda x: x[0].casefold()))


def _wanted(r: Results, before: Results, code: str, limit: Instant) -> bool:
    was, base = before.progress[code], r.baseline.by_code.get(code) if r.baseline else None
    start = before.schedule.activities[code].start
    return was.state == "in_progress" or (was.state == "not_started" and min(start, start if base is None else base.start) < limit)


def answered(r: Results, before: Results, code: str, cells: Mapping[str, str], hours: Mapping[str, Mapping[str, str]]) -> AnswerPosted:
    """What typed cells of an answer come to on the page; `hours` are by resource. Raises EntryRefused at the cell.

    A bare number of time left is days, of hours hours.
    """
    mine = next((s for s in r.at.periods[-1].statements if s.activity == code), None)
    typed = {k: _days(cells[k]) if k == "remaining" else cells[k] for k in CELLS if cells.get(k, "").strip()}
    entries = tuple(_hours(r, code, resource, own) for resource, own in hours.items() if any(own.get(k, "").strip() for k in HOURS))
    if not typed:
        found = stated_by_hours(r, before, entries) if mine is None else []
        return AnswerPosted(code, next((s for s in found if isinstance(s, Statement)), None), entries)
    if typed.keys() & {"actual_start", "actual_finish", "percent", "remaining"} and mine is not None and mine.carry_to is not None:
        mine = replace(mine, carry_to=None)
    s = read_statement(r, before, mine or begin_statement(before, code), typed).statement
    worked = any(h.worked for h in entries)
    if worked and s.actual_start is None and planned_duration(r.book, r.book.activity_by_code[code]):
        s = assume_start(r, before, s)[0]
    return AnswerPosted(code, s, entries)


def _days(text: str) -> str:
    return f"{text.strip()}d" if read_number(text.strip()) is not None else text


def _hours(r: Results, code: str, resource: str, own: Mapping[str, str]) -> HoursEntry:
    book = r.book
    if resource not in book.resource_by_code or book.resource_by_code[resource].kind == "material":
        raise EntryRefused("worked", sentence("asking.nobody", code=resource[:60]))
    calendar, minutes = book.calendar_by_code[book.activity_by_code[code].calendar], dict[str, int | None]()
    here = [h for h in r.at.periods[-1].hours if (h.activity, h.resource, h.corrects) == (code, resource, None)]
    for name in HOURS:
        text = own.get(name, "").strip()
        if not text:
            minutes[name] = getattr(here[-1], name) if here else None
            continue
        minutes[name] = type_hours(text, calendar, name)
    return HoursEntry(code, resource, minutes["worked"] or 0, here[-1].overtime if here else 0, minutes["to_go"])


def tried_together(r: Results, stated: list[AnswerPosted]) -> Tried:
    """What the page is with answers on it; hours stand in the place of those of the same assignments."""
    fresh = {(h.activity, h.resource) for x in stated for h in x.hours}
    page = r.at.periods[-1]
    kept = tuple(h for h in page.hours if (h.activity, h.resource) not in fresh or h.corrects is not None)
    return tried(r, [x.statement for x in stated if x.statement is not None], [h for x in stated for h in x.hours], kept=kept)
