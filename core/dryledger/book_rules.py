"""What must hold across a whole book: unique codes, known references, no loops, dates that can be.

Each rule gives the faults it finds with their paths. Reading runs them once the single values are sound.
"""

from collections.abc import Iterable, Iterator, Sequence

from dryledger.calendar import to_text
from dryledger.durations import planned_duration
from dryledger.errors import Fault
from dryledger.network import find_loop
from dryledger.plan import Activity, Book, KeptEstimate, Statement
from dryledger.registers import REGISTERS, field_faults

__all__ = ["check_book", "check_statement"]


MOST_LEVELS = 100


def check_book(book: Book) -> list[Fault]:
    """Every fault of the book as a whole, in the order of its lists."""
    own = field_faults(book.fields, ((f"activities[{i}]", a.fields) for i, a in enumerate(book.activities) if a.fields))
    return [*_codes(book), *_references(book), *_loops(book), *_apportioned(book), *_periods(book), *own]


def _unique(codes: Iterable[str], path: str) -> Iterator[Fault]:
    seen: set[str] = set()
    for i, code in enumerate(codes):
        if code and code in seen:
            yield Fault(f"{path}[{i}].code", f"“{code}” stands twice; codes must be unique in their list")
        seen.add(code)


def _codes(book: Book) -> Iterator[Fault]:
    if not book.calendars:
        yield Fault("calendars", "a book needs at least one calendar")
    for name in ("calendars", "resources", "wbs", "activities", "baselines", "periods"):
        yield from _unique((x.code for x in getattr(book, name)), name)
    for name in (*REGISTERS, "estimates"):
        yield from _unique((x.code if isinstance(x, KeptEstimate) else str(x["code"]) for x in getattr(book, name)), name)
    for i, b in enumerate(book.baselines):
        yield from _unique((c.code for c in b.calendars), f"baselines[{i}].calendars")
        yield from _unique((a.code for a in b.activities), f"baselines[{i}].activities")
    pairs: set[tuple[str, str]] = set()
    for i, a in enumerate(book.assignments):
        if a.activity and a.resource and (a.activity, a.resource) in pairs:
            yield Fault(f"assignments[{i}]", f"“{a.resource}” is assigned to “{a.activity}” twice")
        pairs.add((a.activity, a.resource))


def _references(book: Book) -> Iterator[Fault]:
    activities, wbs = set(book.activity_by_code), {w.code for w in book.wbs}
    calendars, resources = set(book.calendar_by_code), set(book.resource_by_code)
    baselines = set(book.baseline_by_code)

    def missing(codes: Sequence[str | None], known: set[str], path: str, key: str, what: str) -> Iterator[Fault]:
        if set(codes) - known:
            for i, code in enumerate(codes):
                if code and code not in known:
                    yield Fault(f"{path}[{i}]{key}", f"there is no {what} “{code}”")

    p = book.project
    for key, value, known, what in (
        ("calendar", p.calendar, calendars, "calendar"),
        ("measured_against", p.measured_against, baselines, "baseline"),
    ):
        if value and value not in known:
            yield Fault(f"project.{key}", f"there is no {what} “{value}”")
    yield from missing(p.compared_with, baselines, "project.compared_with", "", "baseline")
    yield from missing([r.calendar for r in book.resources], calendars, "resources", ".calendar", "calendar")
    yield from missing([w.parent for w in book.wbs], wbs, "wbs", ".parent", "WBS element")
    yield from missing([a.wbs for a in book.activities], wbs, "activities", ".wbs", "WBS element")
    yield from missing([a.calendar for a in book.activities], calendars, "activities", ".calendar", "calendar")
    yield from missing([a.value_method.base for a in book.activities], activities, "activities", ".value_method.base", "activity")
    yield from missing([k.source for k in book.links], activities, "links", ".from", "activity")
    yield from missing([k.target for k in book.links], activities, "links", ".to", "activity")
    yield from missing([x.activity for x in book.assignments], activities, "assignments", ".activity", "activity")
    yield from missing([x.resource for x in book.assignments], resources, "assignments", ".resource", "resource")
    yield from missing([c.activity for c in book.costs], activities, "costs", ".activity", "activity")
    for i, b in enumerate(book.baselines):
        own = {c.code for c in b.calendars}
        if b.calendar and b.calendar not in own:
            yield Fault(f"baselines[{i}].calendar", f"there is no calendar of this baseline “{b.calendar}”")
        path = f"baselines[{i}].activities"
        yield from missing([a.calendar for a in b.activities], own, path, ".calendar", "calendar of this baseline")
        yield from missing([a.wbs for a in b.activities], wbs, path, ".wbs", "WBS element")
        bases = [a.value_method.base for a in b.activities]
        yield from missing(bases, set(b.by_code), path, ".value_method.base", "activity of this baseline")
    for i, period in enumerate(book.periods):
        at = f"periods[{i}]"
        yield from missing([s.activity for s in period.statements], activities, f"{at}.statements", ".activity", "activity")
        yield from missing([h.activity for h in period.hours], activities, f"{at}.hours", ".activity", "activity")
        yield from missing([h.resource for h in period.hours], resources, f"{at}.hours", ".resource", "resource")
        yield from missing([e.activity for e in period.costs], activities, f"{at}.costs", ".activity", "activity")
        yield from missing([e.wbs for e in period.costs], wbs, f"{at}.costs", ".wbs", "WBS element")


def _loops(book: Book) -> Iterator[Fault]:
    parents = {w.code: w.parent for w in book.wbs}
    loop = find_loop([w.code for w in book.wbs], [(w.parent, w.code) for w in book.wbs if w.parent in parents])
    if loop:
        yield Fault("wbs", f"the WBS elements {_chain(loop)} are each other's parents")
    else:
        yield from _depth(parents)
    known = book.activity_by_code
    loop = find_loop(list(known), [(k.source, k.target) for k in book.links if k.source in known and k.target in known])
    if loop:
        yield Fault("links", f"the links form a loop: {_chain(loop)}. Take one of them out")


def _depth(parents: dict[str, str | None]) -> Iterator[Fault]:
    """Elements deeper than anyone can read; `parents` has no loop."""
    depths: dict[str | None, int] = {None: 0}
    for i, code in enumerate(parents):
        chain, at = list[str](), code
        while at not in depths and at in parents:
            chain.append(at)
            at = parents[at] or ""
            if not at:
                break
        depth = depths.get(at, 0)
        for above in reversed(chain):
            depth += 1
            depths[above] = depth
        if depths[code] > MOST_LEVELS:
            yield Fault(f"wbs[{i}].parent", f"“{code}” lies more than {MOST_LEVELS} levels deep")


def _chain(loop: Sequence[str]) -> str:
    return " → ".join([*loop, loop[0]])


def _apportioned(book: Book) -> Iterator[Fault]:
    lists = [("activities", book.activities)]
    groups: list[tuple[str, dict[str, tuple[str, str | None]]]] = [
        (path, {a.code: (a.value_method.type, a.value_method.base) for a in rows}) for path, rows in lists
    ]
    groups += [
        (f"baselines[{i}].activities", {a.code: (a.value_method.type, a.value_method.base) for a in b.activities})
        for i, b in enumerate(book.baselines)
    ]
    for path, methods in groups:
        for j, (code, (kind, base)) in enumerate(methods.items()):
            if kind == "apportioned" and base in methods and methods[base][0] == "apportioned":
                yield Fault(
                    f"{path}[{j}].value_method.base",
                    f"“{base}” is itself apportioned; “{code}” needs a base that earns by its own progress",
                )


def check_statement(s: Statement, status: int, path: str = "", zero: bool = False) -> Iterator[Fault]:
    """What an actual date must keep to; `zero` for an activity of no duration."""
    at = f"{path}." if path else ""
    if s.actual_finish is not None and s.actual_start is None and not zero:
        yield Fault(f"{at}actual_start", "a finish needs a start: say when it started")
    if s.actual_finish is not None and s.actual_start is not None and s.actual_finish < s.actual_start:
        yield Fault(f"{at}actual_finish", f"lies before its start {to_text(s.actual_start)}")
    for key, value in (("actual_start", s.actual_start), ("actual_finish", s.actual_finish)):
        if value is not None and value > status:
            yield Fault(f"{at}{key}", f"lies after the status of its period, {to_text(status)}")


def _periods(book: Book) -> Iterator[Fault]:
    before = None
    for i, p in enumerate(book.periods):
        path = f"periods[{i}]"
        if before is not None and p.status <= before.status:
            yield Fault(f"{path}.status", f"must lie after the status of the period before, {to_text(before.status)}")
        if before is not None and before.state == "wet" and p.state == "dry":
            yield Fault(f"{path}.state", "a dry period can't follow a wet one")
        before = p
        said: set[str] = set()
        for j, s in enumerate(p.statements):
            if s.activity and s.activity in said:
                yield Fault(f"{path}.statements[{j}].activity", f"“{s.activity}” has two statements in one period")
            said.add(s.activity)
            activity = book.activity_by_code.get(s.activity)
            zero = activity is not None and _planned(book, activity) == 0
            yield from check_statement(s, p.status, f"{path}.statements[{j}]", zero)


def _planned(book: Book, activity: Activity) -> int:
    """Its planned duration, as far as a book that may still have faults lets it be told."""
    try:
        return planned_duration(book, activity)
    except KeyError:
        return activity.duration
