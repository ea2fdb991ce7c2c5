"""Dates that nobody stated: where it is said that work was done, but not since when, or that it is done, but not until when.

Source: calculation contract, section 4. A start is the later of the first working instant of the page and the forecast one, where that
lies on the page; a finish is the forecast one where it lies on the page, else the close of its last working minute.
"""

from collections.abc import Collection, Iterable
from dataclasses import replace

from dryledger.book.durations import planned_duration
from dryledger.book.pages import HoursEntry, Statement
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results
from dryledger.entry.grammar import instant_text
from dryledger.words import sentence

__all__ = ["assume_finish", "assume_start", "begin_statement", "nothing_left", "stated_by_hours"]

DATES = ("actual_start", "actual_finish")


def begin_statement(before: Results, code: str) -> Statement:
    """The statement of a page that has none yet for an activity: the facts known from earlier pages."""
    s = before.at.latest.get(code)
    if s is None:
        return Statement(code)
    return replace(s, percent=None, remaining=None, note=None, corrects=None, reason=None)


def _assumed(s: Statement, field: str, t: Instant) -> Statement:
    fields = tuple(f for f in DATES if f in {*s.assumed, field})
    return replace(s, actual_start=t, assumed=fields) if field == "actual_start" else replace(s, actual_finish=t, assumed=fields)


def without(s: Statement, fields: Collection[str]) -> Statement:
    """The statement with dates that are not assumed any more."""
    kept = tuple(f for f in s.assumed if f not in fields and getattr(s, f) is not None)
    return s if kept == s.assumed else replace(s, assumed=kept)


def assume_start(r: Results, before: Results, s: Statement) -> tuple[Statement, str]:
    """A statement that says work was done, with the start that it is assumed to have, and a sentence that says so.

    `r` is the page's own results, `before` those of the page before (or the plan).
    """
    axis, limit = r.book.axes[s.activity], s.actual_finish if s.actual_finish is not None else r.status
    assert limit is not None
    opening = axis.last(axis.pos(before.status if before.status is not None else r.book.project.start))
    forecast = before.schedule.activities[s.activity].start
    found = [t for t in (max(opening, forecast), opening, forecast) if t < limit]
    if not found:  # finished before the page began
        long = planned_duration(r.book, r.book.activity_by_code[s.activity])
        found = [min(limit, axis.last(max(0, axis.pos(limit) - max(long, 1))))]
    return _assumed(s, "actual_start", found[0]), sentence("assumed.start", at=instant_text(found[0]))


def assume_finish(r: Results, before: Results, s: Statement) -> tuple[Statement, str]:
    """A statement that says that nothing is left, with the finish that it is assumed to have, and a sentence that says so."""
    axis, status = r.book.axes[s.activity], r.status
    assert status is not None
    start = s.actual_start or 0
    opening = before.status if before.status is not None else r.book.project.start
    forecast = before.schedule.activities[s.activity].finish
    t = forecast if max(start, opening) < forecast <= status else axis.first(axis.pos(status))
    t = t if t > start else status
    return _assumed(s, "actual_finish", t), sentence("assumed.finish", at=instant_text(t))


def stated_by_hours(r: Results, before: Results, entries: Iterable[HoursEntry]) -> list[Statement | str]:
    """What hours that are to stand on the page say of their activities: that they have begun, or that nothing is left of them.

    An activity with hours that has not begun gets an assumed start; one of which each assignment has 0 h to go an assumed finish, which
    goes again where something is left. Where hours are taken away, what was only assumed of them goes too: its bare code.
    """
    book, out = r.book, list[Statement | str]()
    mine = {s.activity: s for s in r.at.periods[-1].statements}
    by_activity: dict[str, dict[str, HoursEntry]] = {}
    for h in entries:
        by_activity.setdefault(h.activity, {})[h.resource] = h
    for code, own in by_activity.items():
        if not planned_duration(book, book.activity_by_code[code]):
            continue
        known = mine.get(code)
        s = now = known if known is not None else begin_statement(before, code)
        if any(h.worked or h.overtime for h in own.values()):
            if s.actual_start is None:
                now, _ = assume_start(r, before, s)
        elif known is not None and _only_begun(known) and code not in before.at.latest and not _others(r, code, own):
            out.append(code)
            continue
        now = _finished_by_hours(r, before, now, own)
        if now != s:
            out.append(now)
    return out


def nothing_left(r: Results, codes: Collection[str]) -> list[HoursEntry]:
    """Hours that say that nothing is left of activities, where something was: 0 h come with the finish."""
    here = {(h.activity, h.resource): h for h in r.at.periods[-1].hours if h.corrects is None}
    stale = [pair for pair, to_go in r.at.to_go.items() if pair[0] in codes and to_go]
    return [replace(here.get(pair, HoursEntry(*pair)), to_go=0) for pair in stale]


def _only_begun(s: Statement) -> bool:
    """Whether a statement says nothing but that work is assumed to have begun."""
    return s == Statement(s.activity, s.actual_start, assumed=("actual_start",))


def _others(r: Results, code: str, own: Collection[str]) -> bool:
    """Whether the page has hours of others on an activity."""
    return any(h.worked or h.overtime for h in r.at.periods[-1].hours if h.activity == code and h.resource not in own)


def _finished_by_hours(r: Results, before: Results, s: Statement, own: dict[str, HoursEntry]) -> Statement:
    people = [a.resource for a in r.book.assignments_of.get(s.activity, ()) if r.book.resource_by_code[a.resource].kind != "material"]
    left = {x: own[x].to_go if x in own and own[x].to_go is not None else r.at.to_go.get((s.activity, x)) for x in people}
    stated = any(h.to_go is not None for h in own.values())
    if stated and s.actual_finish is None and s.actual_start is not None and left and all(x == 0 for x in left.values()):
        return assume_finish(r, before, s)[0] if s.percent in (None, 1) and not s.remaining else s
    if "actual_finish" in s.assumed and any(h.to_go for h in own.values()):
        return without(replace(s, actual_finish=None), ())
    return s
