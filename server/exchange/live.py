"""The book of a project as it stands now, read from its rows.

The plan is read whole once. After that each revision reads only the rows that its step wrote, and each page is read
once for each of its own revisions, so that an entry or a changed duration costs what it touches, not the whole book.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from dryledger.book.lists import LISTS as BOOK_LISTS
from dryledger.book.lists import PROJECT
from dryledger.book.memo import changed
from dryledger.book.plan import Book, Period
from dryledger.book.reader import Reader
from dryledger.book.registers import REGISTERS
from dryledger.book.rules import check_book
from dryledger.calendar.calendar import Calendar as CoreCalendar
from dryledger.errors import BookInvalid, Fault
from dryledger.exchange.book_json import book_from
from dryledger.exchange.read import Scope, read_row
from server.exchange.books import LISTS, Recent, codes_of, page_document, plan_document, rows_of
from server.plan.models import Activity, Assignment, DirectCost, Link, Project
from server.posting.models import Page

Touched = dict[str, set[int]]
"""The keys of the rows that a step wrote, by the list of the book they stand in; "project" for the project itself."""


Rows = dict[int, tuple[float, int, Any]]
"""The rows of a list by key: place, key and record."""


@dataclass(frozen=True)
class LivePlan:
    """The plan as read: the book without its pages, the codes of rows by key, and each record with its place."""

    book: Book
    codes: dict[str, dict[int, str]]
    rows: dict[str, Rows]
    reading: int
    """The plan revision of the last change to codes or calendars: pages read since then still read the same."""

    @cached_property
    def key_of(self) -> dict[str, int]:
        """The key of each activity by its code."""
        return {code: pk for pk, code in self.codes["Activity"].items()}

    def keys(self, name: str) -> list[int]:
        """The keys of the rows of a list, in the order of the book's records."""
        return [pk for _, pk, _ in sorted(self.rows[name].values(), key=lambda x: x[:2])]


_plans = Recent(24)
_pages = Recent(400)
_touched = Recent(400)


def note_touched(project: Project, touched: Touched) -> None:
    """Remember what the step that led to the project's plan revision wrote."""
    _touched.put((project.uid, project.plan_revision), touched)


def live_plan(project: Project) -> LivePlan:
    """The plan at the project's plan revision. Raises BookInvalid where the rows make no valid book."""

    def make() -> LivePlan:
        touched = _touched.peek((project.uid, project.plan_revision))
        before = _plans.peek((project.uid, project.plan_revision - 1))
        if touched is None or before is None:
            return _whole(project)
        return _onwards(project, before, touched) or _whole(project)

    return _plans.get((project.uid, project.plan_revision), make)


def forget_plan(project: Project) -> None:
    """Drop the plan at the project's revision: its step was taken back before it ended."""
    _plans.drop((project.uid, project.plan_revision))
    _touched.drop((project.uid, project.plan_revision))


def _whole(project: Project) -> LivePlan:
    codes = codes_of(project)
    book = book_from(plan_document(project, codes))
    rows = {
        key: {
            pk: (order, pk, record)
            for (order, pk), record in zip(rows_of(project, key).values_list("order", "pk"), getattr(book, key), strict=True)
        }
        for key in LISTS
    }
    return LivePlan(book, codes, rows, project.plan_revision)


def _onwards(project: Project, before: LivePlan, touched: Touched) -> LivePlan | None:
    """The plan after a step: what it wrote is read again, with whatever names or rests on it.

    None where durations may mean something else now, so that all is to be read again.
    """
    faults: list[Fault] = []
    touched = {key: set(pks) for key, pks in touched.items()}
    codes = {name: dict(known) for name, known in before.codes.items()}
    for key, name in (("activities", "Activity"), ("resources", "Resource"), ("wbs", "WbsElement")):
        for pk in touched.get(key, ()):
            codes[name].pop(pk, None)
        codes[name].update(rows_of(project, key).filter(pk__in=touched.get(key, ())).values_list("pk", "code"))
    _with_dependants(before, codes, touched)
    rows = dict(before.rows)
    lists: dict[str, Any] = {}
    calendars, usual = before.book.calendar_by_code, before.book.project.calendar
    if "project" in touched:
        lists["project"] = read_row(Reader(project.to_book(), "project", faults), PROJECT, Scope(calendars, calendars[usual]))
        if lists["project"].calendar != before.book.project.calendar:
            return None
    for key in ("calendars", "resources", "wbs", "activities", "links", "costs", "baselines", *REGISTERS, "estimates", "assignments"):
        if not touched.get(key):
            continue
        kept = {**rows[key]}
        for pk in touched[key]:
            kept.pop(pk, None)
        on = {a.code: calendars.get(a.calendar, calendars[usual]) for a in lists.get("activities", before.book.activities)}
        scope = Scope(calendars, calendars[usual], on)
        for row in rows_of(project, key).filter(pk__in=touched[key]):
            kept[row.pk] = (row.order, row.pk, read_row(Reader(row.to_book(codes), f"{key}:{row.pk}", faults), BOOK_LISTS[key], scope))
        lists[key] = _in_order(getattr(before.book, key), rows[key], kept, touched[key])
        rows[key] = kept
        if key == "calendars":
            now = {c.code: c for c in lists[key]}
            if usual not in now or any(_counts(calendars.get(code)) not in (None, _counts(c)) for code, c in now.items()):
                return None
            calendars = now
        if key == "activities" and (other := _on_another_calendar(before.rows[key], kept, touched[key])):
            touched.setdefault("assignments", set()).update(Assignment.objects.filter(activity_id__in=other).values_list("pk", flat=True))
    book = changed(before.book, **lists)
    kept = _reads_the_same(before, book, touched)
    plan = LivePlan(book, codes, rows, before.reading if kept else project.plan_revision)
    told = {f.path for f in faults}
    faults += [f for f in check_book(book, before.book) if f.path not in told]
    if faults:
        raise BookInvalid([_keyed(plan, f) for f in faults])
    return plan


def _in_order(records: tuple[Any, ...], was: Rows, now: Rows, touched: set[int]) -> tuple[Any, ...]:
    """The records of a list in the book's order, `records` being those before the touched rows were read again."""
    if all(pk in was and pk in now and was[pk][0] == now[pk][0] for pk in touched):
        new = {id(was[pk][2]): now[pk][2] for pk in touched}
        return tuple([new.get(id(record), record) for record in records])
    return tuple(x[2] for x in sorted(now.values(), key=lambda x: x[:2]))


def _counts(c: CoreCalendar | None) -> tuple[float, float, float] | None:
    """What durations on a calendar are counted by."""
    return None if c is None else (c.hours_per_day, c.hours_per_week, c.hours_per_month)


def _on_another_calendar(was: Rows, now: Rows, touched: set[int]) -> set[int]:
    """The activities whose assignments are to be read again, since hours and days count otherwise."""
    return {pk for pk in touched if pk in was and pk in now and was[pk][2].calendar != now[pk][2].calendar}


def _reads_the_same(before: LivePlan, book: Book, touched: Touched) -> bool:
    """Whether pages mean the same in the new book: no code changed, and no activity is on another calendar."""
    if touched.get("resources") or touched.get("wbs"):
        return False
    now = book.activity_by_code
    old = [before.rows["activities"][pk][2] for pk in touched.get("activities", ()) if pk in before.rows["activities"]]
    return all(a.code in now and now[a.code].calendar == a.calendar for a in old)


def _with_dependants(before: LivePlan, codes: dict[str, dict[int, str]], touched: Touched) -> None:
    """Add to `touched` what names a row whose code changed."""
    renamed = {
        name: {pk for pk in before.codes[name] if codes[name].get(pk, before.codes[name][pk]) != before.codes[name][pk]} for name in codes
    }
    if renamed["Activity"]:
        moved = renamed["Activity"]
        touched.setdefault("assignments", set()).update(Assignment.objects.filter(activity_id__in=moved).values_list("pk", flat=True))
        touched.setdefault("costs", set()).update(DirectCost.objects.filter(activity_id__in=moved).values_list("pk", flat=True))
        links = touched.setdefault("links", set())
        links.update(Link.objects.filter(source_id__in=moved).values_list("pk", flat=True))
        links.update(Link.objects.filter(target_id__in=moved).values_list("pk", flat=True))
    if renamed["Resource"]:
        touched.setdefault("assignments", set()).update(
            Assignment.objects.filter(resource_id__in=renamed["Resource"]).values_list("pk", flat=True)
        )
    if renamed["WbsElement"]:
        touched.setdefault("activities", set()).update(
            Activity.objects.filter(wbs_id__in=renamed["WbsElement"]).values_list("pk", flat=True)
        )


def _keyed(plan: LivePlan, fault: Fault) -> Fault:
    """A fault whose path names a place in a list, with the key of the row in its stead."""
    head, sep, rest = fault.path.partition("[")
    if not sep or head not in plan.rows:
        return fault
    place, _, tail = rest.partition("]")
    return Fault(f"{head}:{plan.keys(head)[int(place)]}{tail}", fault.message)


def _period(page: Page, project: Project, plan: LivePlan) -> Period:
    def make() -> Period:
        faults: list[Fault] = []
        book = plan.book
        fallback: CoreCalendar = book.calendar_by_code[book.project.calendar]
        on = {a.code: book.calendar_by_code[a.calendar] for a in book.activities}
        scope = Scope(book.calendar_by_code, fallback, on)
        found: Period = read_row(Reader(page_document(page, plan.codes), page.code, faults), BOOK_LISTS["periods"], scope)
        return found

    return _pages.get((page.uid, page.revision, project.uid, plan.reading), make)


def live_book(project: Project) -> Book:
    """The book as it stands now, with its pages."""
    plan = live_plan(project)
    pages = Page.objects.filter(project=project).defer("inputs", "results")
    return plan.book.with_periods(tuple(_period(p, project, plan) for p in pages))


def touched_by(changes: Iterable[dict[str, Any]]) -> Touched:
    """What the changes of a step touch of the plan; nothing where they touch only pages."""
    names = {f"{m._meta.app_label}.{m._meta.object_name}": key for key, m in LISTS.items() if key not in REGISTERS}
    out: Touched = {}
    for c in changes:
        if c["model"] == "plan.Project":
            out.setdefault("project", set()).add(c["pk"])
        elif c["model"] == "plan.RegisterEntry":
            values = c["after"] or c["before"]
            out.setdefault(values["register"], set()).add(c["pk"])
        elif c["model"] in names:
            out.setdefault(names[c["model"]], set()).add(c["pk"])
    return out
