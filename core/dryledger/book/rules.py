"""What must hold across a whole book: unique codes, known references, no loops, dates that can be.

Each rule gives the faults it finds with their paths. Reading runs them once the single values are sound.
"""

from collections.abc import Iterable, Iterator, Sequence

from dryledger.book.baselines import Baseline, BaselineActivity
from dryledger.book.mark_rules import mark_rule_faults
from dryledger.book.money_rules import money_faults
from dryledger.book.options import option_faults
from dryledger.book.page_rules import answer_faults, page_faults, rhythm_faults
from dryledger.book.plan import Activity, Book, Resource, UnitsException
from dryledger.book.registers import REGISTERS, field_faults
from dryledger.book.report_layout import layout_faults
from dryledger.book.since import New
from dryledger.calendar.calendar import Calendar, CalendarException
from dryledger.errors import Fault
from dryledger.network.graph import find_loop
from dryledger.words import sentence

__all__ = ["check_book"]


MOST_LEVELS = 100
ASKING = {"start_share", "units", "apportioned", "milestones"}
"""The value methods that ask for more than their name."""


def check_book(book: Book, since: Book | None = None) -> list[Fault]:
    """Every fault of the book as a whole, in the order of its lists.

    `since` is a book without faults that this one came from: rules on what is the same in both are not gone through.
    """
    new = New(book, since)
    own: Iterable[Fault] = ()
    if new.lists("fields", "activities", "resources", "project"):
        values = {
            "activity": ((f"activities[{i}]", a.fields) for i, a in enumerate(book.activities) if a.fields),
            "resource": ((f"resources[{i}]", x.fields) for i, x in enumerate(book.resources) if x.fields),
            "project": [("project", book.project.fields)],
        }
        own = field_faults(book.fields, values)
    rows = _rows(book, since)
    plan = (*_codes(book, new), *_references(book, new), *_loops(book, new), *_apportioned(book, new))
    report = layout_faults(book.report_layout) if new.lists("report_layout") else ()
    options = option_faults(book) if new.lists("options", "promises", "project") or new.codes("periods") else ()
    money = money_faults(book, new) if not any(f.path == "wbs" for f in plan) else ()
    return [*rows, *plan, *money, *page_faults(book, new), *answer_faults(book, new), *mark_rule_faults(book, new), *report, *options, *own]


def _rows(book: Book, since: Book | None) -> Iterator[Fault]:
    """What must hold within a row; rows that are the same in `since` are not gone through."""
    for name, rule in (("calendars", _calendar), ("resources", _resource), ("activities", _activity), ("baselines", _baseline)):
        rows = getattr(book, name)
        known = () if since is None else getattr(since, name)
        if rows is known:
            continue
        same = set(map(id, known))
        for i, x in enumerate(rows):
            if id(x) not in same:
                yield from rule(x, f"{name}[{i}]")


def _calendar(c: Calendar, path: str) -> Iterator[Fault]:
    yield from _ranges(c.exceptions, path, "rules.overlaps_another_exception_calendar")
    if not any(c.week) and not any(e.shifts for e in c.exceptions):
        yield Fault(f"{path}.week", sentence("rules.no_working_time_least"))


def _resource(r: Resource, path: str) -> Iterator[Fault]:
    yield from _ranges(r.exceptions, path, "rules.overlaps_another_exception_resource")


def _ranges(found: Sequence[CalendarException | UnitsException], path: str, overlaps: str) -> Iterator[Fault]:
    """Ranges of dates end after they begin, and none overlaps another."""
    before = None
    for i, e in sorted(enumerate(found), key=lambda pair: pair[1].start):
        if e.end < e.start:
            yield Fault(f"{path}.exceptions[{i}].to", sentence("rules.lies_before_from"))
        elif before is not None and e.start <= before:
            yield Fault(f"{path}.exceptions[{i}]", sentence(overlaps))
        else:
            before = e.end


def _activity(a: Activity, path: str) -> Iterator[Fault]:
    if a.mode == "fixed":
        for key in ("start", "finish"):
            if getattr(a, key) is None:
                yield Fault(f"{path}.{key}", sentence("rules.required_pinned_activity"))
        if a.start is not None and a.finish is not None and a.finish < a.start:
            yield Fault(f"{path}.finish", sentence("rules.lies_before_its_start"))
    if a.constraint is not None and a.constraint.at is None and a.constraint.type != "as_late_as_possible":
        yield Fault(f"{path}.constraint.at", sentence("rules.required"))
    if a.pauses or a.value_method.type in ASKING:
        yield from _inside(a, path)


def _inside(a: Activity | BaselineActivity, path: str) -> Iterator[Fault]:
    """What must hold of pauses and value method, of the plan and of baselines alike."""
    for i, p in enumerate(a.pauses):
        if p.end <= p.start:
            yield Fault(f"{path}.pauses[{i}].to", sentence("rules.must_lie_after_from"))
    m = a.value_method
    needed = {"start_share": ("share", m.share is not None), "units": ("planned", bool(m.planned))}
    needed |= {"apportioned": ("base", bool(m.base)), "milestones": ("weights", bool(m.weights))}
    key, there = needed.get(m.type, ("", True))
    if not there:
        yield Fault(f"{path}.value_method.{key}", sentence("rules.required_method", type=m.type))
    if m.type == "milestones" and m.weights and not sum(w.weight for w in m.weights):
        yield Fault(f"{path}.value_method.weights", sentence("rules.must_all_weigh"))


def _baseline(b: Baseline, path: str) -> Iterator[Fault]:
    for i, c in enumerate(b.calendars):
        yield from _calendar(c, f"{path}.calendars[{i}]")
    for i, a in enumerate(b.activities):
        at = f"{path}.activities[{i}]"
        if a.finish < a.start:
            yield Fault(f"{at}.finish", sentence("rules.lies_before_its_start"))
        if a.pauses or a.value_method.type in ASKING:
            yield from _inside(a, at)


def _unique(codes: Sequence[str], path: str) -> Iterator[Fault]:
    if len(set(codes)) == len(codes):
        return
    seen: set[str] = set()
    for i, code in enumerate(codes):
        if code and code in seen:
            yield Fault(f"{path}[{i}].code", sentence("rules.stands_twice_codes_must", code=code))
        seen.add(code)


_CODED = ("calendars", "resources", "wbs", "activities", "externals", "baselines", "periods", *REGISTERS)
_CODED += ("orders", "reserves", "estimates", "mark_rules", "options", "promises")
"""The lists in which a code stands once."""


def _codes(book: Book, new: New) -> Iterator[Fault]:
    if not book.calendars:
        yield Fault("calendars", sentence("rules.book_needs_least_one"))
    for name in _CODED:
        if new.lists(name):
            yield from _unique([x.code for x in getattr(book, name)], name)
    for i, b in enumerate(book.baselines if new.lists("baselines") else ()):
        yield from _unique([c.code for c in b.calendars], f"baselines[{i}].calendars")
        yield from _unique([a.code for a in b.activities], f"baselines[{i}].activities")
    pairs: set[tuple[str, str]] = set()
    for i, a in enumerate(book.assignments if new.lists("assignments") else ()):
        if a.activity and a.resource and (a.activity, a.resource) in pairs:
            yield Fault(f"assignments[{i}]", sentence("rules.assigned_twice", resource=a.resource, activity=a.activity))
        pairs.add((a.activity, a.resource))


def _references(book: Book, new: New) -> Iterator[Fault]:
    activities, wbs = set(book.activity_by_code), {w.code for w in book.wbs}
    calendars, resources = set(book.calendar_by_code), set(book.resource_by_code)
    baselines = set(book.baseline_by_code)

    def missing(codes: Iterable[str | None], known: set[str], path: str, key: str, what: str) -> Iterator[Fault]:
        for i, code in enumerate(codes):
            if code and code not in known:
                yield Fault(f"{path}[{i}]{key}", sentence("rules.no_code", what=what, code=code))

    def named(rows: str, key: str, known: set[str], of: str, what: str) -> Iterator[Fault]:
        """What a column of a list names in another list."""
        if new.lists(rows) or any(map(new.codes, of.split("|"))):
            attribute = {"from": "source", "to": "target"}.get(key, key)
            codes = [getattr(x, attribute) for x in getattr(book, rows)]
            if set(codes) - known:
                yield from missing(codes, known, rows, f".{key}", what)

    p = book.project
    if p.rhythm is not None:
        yield from rhythm_faults(p.rhythm)
    for key, value, known, what in (
        ("calendar", p.calendar, calendars, "calendar"),
        ("measured_against", p.measured_against, baselines, "baseline"),
    ):
        if value and value not in known:
            yield Fault(f"project.{key}", sentence("rules.no", what=what, value=value))
    yield from missing(p.compared_with, baselines, "project.compared_with", "", "baseline")
    yield from named("resources", "calendar", calendars, "calendars", "calendar")
    yield from named("wbs", "parent", wbs, "wbs", "WBS element")
    yield from named("activities", "wbs", wbs, "wbs", "WBS element")
    yield from named("activities", "calendar", calendars, "calendars", "calendar")
    if new.lists("activities"):
        bases = [a.value_method.base for a in book.activities]
        yield from missing(bases, activities, "activities", ".value_method.base", "activity")
    if new.lists("externals"):
        yield from _externals(book)
    yield from named("links", "from", activities | set(book.external_by_code), "activities|externals", "activity")
    yield from named("links", "to", activities, "activities", "activity")
    yield from named("assignments", "activity", activities, "activities", "activity")
    yield from named("assignments", "resource", resources, "resources", "resource")
    yield from named("costs", "activity", activities, "activities", "activity")
    for i, e in enumerate(book.estimates if new.lists("estimates") or new.codes("resources") else ()):
        yield from missing(e.spread_to, resources, f"estimates[{i}].spread_to", "", "resource")
    for i, b in enumerate(book.baselines if new.lists("baselines") or new.codes("wbs") else ()):
        own = {c.code for c in b.calendars}
        if b.calendar and b.calendar not in own:
            yield Fault(f"baselines[{i}].calendar", sentence("rules.no_calendar_baseline", calendar=b.calendar))
        path = f"baselines[{i}].activities"
        yield from missing([a.calendar for a in b.activities], own, path, ".calendar", sentence("rules.calendar_baseline"))
        yield from missing([a.wbs for a in b.activities], wbs, path, ".wbs", "WBS element")
        bases = [a.value_method.base for a in b.activities]
        yield from missing(bases, set(b.by_code), path, ".value_method.base", sentence("rules.activity_baseline"))
    same = set() if new.codes("activities") or new.codes("resources") or new.codes("wbs") else new.known("periods")
    for i, period in enumerate(book.periods):
        if id(period) in same:
            continue
        at = f"periods[{i}]"
        yield from missing([s.activity for s in period.statements], activities, f"{at}.statements", ".activity", "activity")
        yield from missing([h.activity for h in period.hours], activities, f"{at}.hours", ".activity", "activity")
        yield from missing([h.resource for h in period.hours], resources, f"{at}.hours", ".resource", "resource")
        yield from missing([e.activity for e in period.costs], activities, f"{at}.costs", ".activity", "activity")
        yield from missing([e.wbs for e in period.costs], wbs, f"{at}.costs", ".wbs", "WBS element")


def _externals(book: Book) -> Iterator[Fault]:
    """Activities of other projects: the code names the project and the activity, and is none of this book's."""
    for i, x in enumerate(book.externals):
        project, slash, activity = x.code.partition("/")
        if not (project and slash and activity):
            yield Fault(f"externals[{i}].code", sentence("rules.external_code", code=x.code))
        elif x.code in book.activity_by_code:
            yield Fault(f"externals[{i}].code", sentence("rules.stands_twice_codes_must", code=x.code))
        if x.finish < x.start:
            yield Fault(f"externals[{i}].finish", sentence("rules.lies_before_its_start"))


def _loops(book: Book, new: New) -> Iterator[Fault]:
    if new.lists("wbs"):
        yield from _wbs_loops({w.code: w.parent for w in book.wbs})
    if not new.lists("links") and not new.codes("activities"):
        return
    known = book.activity_by_code
    loop = find_loop(list(known), [(k.source, k.target) for k in book.links if k.source in known and k.target in known])
    if loop:
        yield Fault("links", sentence("rules.links_form_loop_take", chain=_chain(loop)))


def _wbs_loops(parents: dict[str, str | None]) -> Iterator[Fault]:
    loop = find_loop(list(parents), [(parent, code) for code, parent in parents.items() if parent in parents])
    if loop:
        yield Fault("wbs", sentence("rules.wbs_elements_each_others", chain=_chain(loop)))
    else:
        yield from _depth(parents)


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
            yield Fault(f"wbs[{i}].parent", sentence("rules.lies_more_levels_deep", code=code, most_levels=MOST_LEVELS))


def _chain(loop: Sequence[str]) -> str:
    return " → ".join([*loop, loop[0]])


def _apportioned(book: Book, new: New) -> Iterator[Fault]:
    groups: list[tuple[str, Sequence[Activity | BaselineActivity]]] = []
    if new.lists("activities"):
        groups.append(("activities", book.activities))
    if new.lists("baselines"):
        groups += [(f"baselines[{i}].activities", b.activities) for i, b in enumerate(book.baselines)]
    for path, rows in groups:
        following = {a.code: a.value_method.base for a in rows if a.value_method.type == "apportioned"}
        for j, a in enumerate(rows) if following else ():
            if following.get(a.code) in following:
                base = a.value_method.base
                yield Fault(
                    f"{path}[{j}].value_method.base",
                    sentence("rules.itself_apportioned_needs_base", base=base, code=a.code),
                )
