"""Proposals: ways to win back time that are found in the plan itself, each truly computed, best first.

Source: calculation contract, section 19: for the driving links and the open work of the driving path.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from decimal import Decimal, localcontext

from dryledger.book.durations import whole_minutes
from dryledger.book.options import Change
from dryledger.book.plan import Activity, Book, Link
from dryledger.budget.booking import over_allocated, over_minutes
from dryledger.budget.money import CONTEXT, amount_of
from dryledger.calendar.calendar import Calendar, Instant, to_text
from dryledger.changes.option import with_changes
from dryledger.compute import Results
from dryledger.options.board import gained, results_of, until_page
from dryledger.options.levelling import MODES, level
from dryledger.schedule.driving import driving_path
from dryledger.schedule.schedule import shift

__all__ = ["PROPOSAL_KINDS", "Idea", "Proposal", "computed", "ideas", "levelled_changes", "proposals", "ranked"]

PROPOSAL_KINDS = ("overlap", "relink", "units", "calendar", "shorten", "level")


@dataclass(frozen=True)
class Idea:
    """What could be done, not yet computed; what levelling changes is found out when it is."""

    code: str
    kind: str
    changes: tuple[Change, ...] = ()


@dataclass(frozen=True)
class Proposal:
    """An idea with what comes of it: working minutes gained (project calendar), change of EAC bottom_up, unit-minutes over-allocated."""

    code: str
    kind: str
    gained: int
    cost: Decimal
    finish: Instant
    over_allocated: Decimal
    changes: tuple[Change, ...]


def proposals(r: Results, scope: Iterable[str] | None = None) -> list[Proposal]:
    """All proposals of a page, best first; `scope`: only those that touch these activities."""
    found = (computed(r, idea) for idea in ideas(r, scope))
    return ranked(x for x in found if x is not None)


def ranked(found: Iterable[Proposal]) -> list[Proposal]:
    """By working time gained, then the least change of cost, then the code."""
    return sorted(found, key=lambda x: (-x.gained, x.cost, x.code))


def computed(r: Results, idea: Idea) -> Proposal | None:
    """What comes of an idea; None where it does not fit, or brings the finish no minute earlier (levelling is always told)."""
    changes = levelled_changes(r.book, level(r, idea.code.partition("/")[2]).dates) if idea.kind == "level" else idea.changes
    applied = with_changes(until_page(r), changes)
    if applied.conflicts:
        return None
    now = results_of(r, applied.book)
    won = gained(r, now)
    if won < 1 and idea.kind != "level":
        return None
    with localcontext(CONTEXT):
        cost = _bottom_up(now) - _bottom_up(r)
    over = over_minutes(over_allocated(applied.book, now.schedule, now.at.to_go))
    return Proposal(idea.code, idea.kind, won, cost, now.schedule.finish, over, changes)


def _bottom_up(r: Results) -> Decimal:
    """EAC bottom_up in whole minor units; without a page the planned cost."""
    return amount_of(r.valuation.total().forecast, r.valuation.unit)


def ideas(r: Results, scope: Iterable[str] | None = None) -> Iterator[Idea]:
    """Everything that could be tried on the driving path, and levelling where anything is over-allocated."""
    book, wanted = r.book, None if scope is None else set(scope)
    path = driving_path(r.schedule)
    open_work = {c for c in path if r.schedule.activities[c].state != "complete" and r.schedule.activities[c].remaining > 0}
    drivers = {c: set(r.schedule.activities[c].driven_by) for c in open_work}
    for k in book.links:
        if k.type != "FS" or k.source not in open_work or k.target not in open_work or _pinned(r, k.target):
            continue
        if f"link:{k.source}" in drivers[k.target] and _sets(r, k) and (wanted is None or wanted & {k.source, k.target}):
            yield from _on_link(r, k)
    for a in book.activities:
        if a.code in open_work and not _pinned(r, a.code) and (wanted is None or a.code in wanted):
            yield from _on_activity(r, a)
    if over_allocated(book, r.schedule, r.at.to_go):
        yield from (Idea(f"level/{mode}", "level") for mode in MODES)


def _pinned(r: Results, code: str) -> bool:
    return r.book.activity_by_code[code].mode == "fixed" and r.progress[code].state == "not_started"


def _sets(r: Results, k: Link) -> bool:
    """Whether this very link drives, where several join the same two."""
    row, axis = r.schedule.activities[k.target], r.book.axes[k.target]
    asked = axis.pos(shift(r.book.axis, r.schedule.activities[k.source].finish, k))
    return asked == axis.pos(row.early_start)


def _minutes(n: int) -> str:
    return f"{n}min"


def _on_link(r: Results, k: Link) -> Iterator[Idea]:
    """Overlap: a lead of a quarter, a half of the predecessor's remaining work; re-link: from its start on, half its duration later."""
    row = r.schedule.activities[k.source]
    was = {"lag": getattr(k.lag, "text", "") or (_minutes(k.lag) if k.lag else None)}
    basis = {"lag_basis": None} if k.lag_basis == "elapsed" else {}
    for part, name in ((Decimal("0.25"), "25"), (Decimal("0.5"), "50")):
        lag = _minutes(-whole_minutes(row.remaining * part))
        change = Change("link", source=k.source, target=k.target, type="FS", cells={"lag": lag} | basis, was=was)
        yield Idea(f"overlap/{k.source}/{k.target}/{name}", "overlap", (change,))
    if not any((x.source, x.target, x.type) == (k.source, k.target, "SS") for x in r.book.links):
        lag = _minutes(whole_minutes(Decimal(row.duration) / 2))
        out = Change("unlink", source=k.source, target=k.target, type="FS")
        yield Idea(
            f"relink/{k.source}/{k.target}",
            "relink",
            (out, Change("link", source=k.source, target=k.target, type="SS", cells={"lag": lag})),
        )


def _on_activity(r: Results, a: Activity) -> Iterator[Idea]:
    yield from _units(r.book, a)
    yield from _calendars(r, a)
    for part, name in ((Decimal("0.9"), "10"), (Decimal("0.75"), "25")):
        yield Idea(f"shorten/{a.code}/{name}", "shorten", tuple(_shortened(r, a, part)))


def _units(book: Book, a: Activity) -> Iterator[Idea]:
    """One more unit of each labour that gives work, or double."""
    if a.driver != "work":
        return
    for x in book.assignments_of.get(a.code, ()):
        resource = book.resource_by_code[x.resource]
        if resource.kind != "labour" or x.work is None:
            continue
        for n in dict.fromkeys((x.units + 1, x.units * 2)):
            if n <= resource.units:
                cells, was = {"units": _number(n)}, {"units": _number(x.units)}
                change = Change("assign", activity=a.code, resource=x.resource, cells=cells, was=was)
                yield Idea(f"units/{a.code}/{x.resource}/{n.normalize():f}", "units", (change,))


def _number(n: Decimal) -> int | Decimal:
    return int(n) if n == n.to_integral_value() else n


def _calendars(r: Results, a: Activity) -> Iterator[Idea]:
    """The activity on each calendar with a longer week; its lengths stay what they are in minutes."""
    book, own = r.book, r.book.calendar_by_code[a.calendar]
    for c in book.calendars:
        if _week(c) <= _week(own):
            continue
        changes = [Change("set", a.code, cells={"calendar": c.code, "duration": _minutes(a.duration)}, was={"calendar": a.calendar})]
        for x in book.assignments_of.get(a.code, ()):
            if x.work is not None:
                changes.append(Change("assign", activity=a.code, resource=x.resource, cells={"work": _minutes(x.work)}))
        statement = r.at.latest.get(a.code)
        if statement is not None and statement.remaining is not None:
            changes.append(Change("post", a.code, cells={"remaining": _minutes(statement.remaining)}))
        yield Idea(f"calendar/{a.code}/{c.code}", "calendar", tuple(changes))


def _week(c: Calendar) -> int:
    """Working minutes of a plain week."""
    return sum(b - a for day in c.week for a, b in day)


def _shortened(r: Results, a: Activity, part: Decimal) -> Iterator[Change]:
    """R less a share: of the duration, of given work, or of what is stated to remain."""
    p = r.progress[a.code]
    if p.state == "in_progress":
        statement = r.at.latest.get(a.code)
        was = None if statement is None or statement.remaining is None else _minutes(statement.remaining)
        yield Change("post", a.code, cells={"remaining": _minutes(whole_minutes(p.remaining * part))}, was={"remaining": was})
        return
    given = [x for x in r.book.assignments_of.get(a.code, ()) if x.work is not None] if a.driver == "work" else []
    labour = [x for x in given if r.book.resource_by_code[x.resource].kind == "labour"]
    for x in labour:
        assert x.work is not None
        cells = {"work": _minutes(whole_minutes(x.work * part))}
        yield Change("assign", activity=a.code, resource=x.resource, cells=cells, was={"work": _minutes(x.work)})
    if not labour:
        cells = {"duration": _minutes(whole_minutes(a.duration * part))}
        yield Change("set", a.code, cells=cells, was={"duration": _minutes(a.duration)})


def levelled_changes(book: Book, dates: dict[str, Instant]) -> tuple[Change, ...]:
    """The changes that give a plan these levelled dates and no others."""
    out = []
    for a in book.activities:
        new = dates.get(a.code)
        if new != a.levelled:
            now, was = (None if t is None else to_text(t) for t in (new, a.levelled))
            out.append(Change("set", a.code, cells={"levelled": now}, was={"levelled": was}))
    return tuple(out)
