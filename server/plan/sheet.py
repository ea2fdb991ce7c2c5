"""The plan sheet: every element and activity with its dates, and after a change only what looks different."""

import logging
from collections.abc import Set as AbstractSet
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from typing import Any

from django.db import DatabaseError
from django.db.models import F, Max

from dryledger.book.memory import Slot
from dryledger.book.plan import Book
from dryledger.budget.lines import costs_alike, planned_cost, priced_by_calendar
from dryledger.calendar.calendar import Instant
from dryledger.changes.keyed import KeyedBook
from dryledger.compute import Results
from dryledger.errors import DryLedgerError
from dryledger.formats import formats_written
from dryledger.schedule.driving import driving_path
from dryledger.schedule.schedule import Scheduled
from server.book.lookup import last_page
from server.book.models import Project
from server.book.workspace import Workspace, workspace_of
from server.plan.sheet_rows import PlanRow, RowMaker, dates_as_text, differences
from server.shared.problems import Refused

Span = tuple[Instant, Instant, Decimal]
"""The earliest start, the latest finish and the cost of some activities."""
FEW = 1_000
"""So many rows are made over at once. Of more, only those in sight are; the others when somebody asks for them."""


@dataclass
class PlanSheet:
    """The rows by name, and what they were made from. Once made it is never written to: the next one takes its rows over."""

    rows: dict[str, PlanRow]
    """The rows; those in `behind` still show older dates."""
    behind: dict[str, Scheduled]
    """The rows that are still to be made over, each with the dates it shows."""
    maker: RowMaker
    costs: dict[str, Decimal]
    """The planned cost of each activity by code."""
    direct: dict[str | None, Span]
    """The span of the activities right under each element, by its code."""
    spans: dict[str, Span]
    """The span of all activities under each element, by its code."""

    @property
    def results(self) -> Results:
        """What the dates come from."""
        return self.maker.results

    @property
    def keyed(self) -> KeyedBook:
        """The book that the sheet shows."""
        return self.maker.keyed

    @property
    def total(self) -> Decimal:
        """The cost of all activities."""
        return sum(self.costs.values(), Decimal(0))

    @cached_property
    def whole(self) -> dict[str, PlanRow]:
        """All rows as they are now."""
        return self.rows | {name: self.row(name) for name in self.behind} if self.behind else self.rows

    def row(self, name: str) -> PlanRow:
        """One row as it is now. Raises KeyError where there is none."""
        found = self.rows[name]
        was = self.behind.get(name)
        if was is None:
            return found
        a = self.keyed.rows["activities"][int(name[1:])][2]
        return self.maker.again(found, a, was, self.costs[a.code])

    @property
    def made(self) -> tuple[dict[str, PlanRow], dict[str, Scheduled]]:
        """The rows as far as they were made, and those that are behind."""
        return (self.whole, {}) if "whole" in self.__dict__ else (self.rows, self.behind)


log = logging.getLogger(__name__)


SHEET_BEFORE: Slot[PlanSheet] = Slot("the plan sheet of the workspace before", ())
SHEET: Slot[PlanSheet] = Slot("plan sheet", carry=lambda made, change: (SHEET_BEFORE, made))


def sheet_of(w: Workspace, page: str, seen: AbstractSet[str] | None = None) -> PlanSheet:
    """The plan sheet of a workspace at its latest page. `seen` are the rows in sight, if only those are wanted now."""

    written = formats_written()

    def make() -> PlanSheet:
        return make_sheet(w.keyed, w.results(page), w.memo.take(SHEET_BEFORE, written), seen)

    return w.memo.once(SHEET, make, written)


def project_sheet(project: Project) -> PlanSheet:
    """The plan sheet of a project as it stands."""
    return sheet_of(workspace_of(project), last_page(project).code)


def make_sheet(keyed: KeyedBook, results: Results, before: PlanSheet | None, seen: AbstractSet[str] | None = None) -> PlanSheet:
    """All rows; those that nothing touched are taken over from the sheet before.

    Where the dates of many rows changed, only those in `seen` are made over and the others are left behind.
    """
    maker = RowMaker(keyed, results, driving_path(results.schedule))
    key_of = keyed.key_of("activities")
    last = before if before is not None and _comparable(before.results, results) else None
    now = keyed.rows["activities"]
    was = last.keyed.rows["activities"] if last is not None else {}
    written = {pk for pk, row in now.items() if was.get(pk) is not row}
    known, late = ({}, {}) if last is None else last.made
    rows: dict[str, PlanRow] = {**known}
    behind: dict[str, Scheduled] = {**late}
    gone = {f"a{pk}" for pk in was.keys() - now.keys()}
    touched: set[str | None] = {was[pk][2].wbs for pk in was if pk not in now or pk in written}
    """The elements under which dates or costs are others than before."""
    if last is not None:
        written |= {key_of[code] for code in _written(last.results, results) if code in key_of}
        gone |= {f"w{pk}" for pk in last.keyed.rows["wbs"].keys() - keyed.rows["wbs"].keys()}
    costs = dict(last.costs) if last is not None else {}
    if last is not None:
        _move(last, maker, behind, costs, touched)
    for name in gone:
        del rows[name]
        behind.pop(name, None)
    for code in [c for c in costs if c not in key_of]:
        del costs[code]
    for pk in sorted(written):
        order, _, a = now[pk]
        behind.pop(f"a{pk}", None)
        costs[a.code] = planned_cost(results.book, a, results.schedule.activities[a.code])
        rows[f"a{pk}"] = maker.row(f"a{pk}", order, a, costs[a.code])
        touched.add(a.wbs)
    sheet = PlanSheet(rows, behind, maker, costs, {}, {})
    for name in [n for n in behind if seen is None or len(behind) <= FEW or n in seen]:
        rows[name] = sheet.row(name)
        del behind[name]
    sheet.direct = _direct(maker, costs, last.direct if last is not None else None, touched)
    altered = _altered(results.book, touched, last)
    sheet.spans = _spans(results.book, sheet.direct, last.spans if last is not None else None, altered)
    _lay_elements(sheet, altered)
    return sheet


def _lay_elements(sheet: PlanSheet, altered: set[str]) -> None:
    """Put in the rows of the elements; `turned` are the codes of those whose span was gone through again."""
    for pk, (order, _, w) in sheet.keyed.rows["wbs"].items():
        name = f"w{pk}"
        old = sheet.rows.get(name)
        if old is None or old.order != order or w.code in altered:
            made = sheet.maker.element(name, order, w, sheet.spans.get(w.code))
            old = made if old is None or old != made else old
        sheet.rows[name] = old


def _move(last: PlanSheet, maker: RowMaker, behind: dict[str, Scheduled], costs: dict[str, Decimal], touched: set[str | None]) -> None:
    """Leave behind the rows whose dates, floats or place on the driving path changed.

    What moved to other dates is priced again, and the elements that it is under are noted.
    """
    book, now, key_of = maker.book, maker.results.schedule.activities, maker.keyed.key_of("activities")
    altered = last.maker.driving ^ maker.driving
    for code, was in last.results.schedule.activities.items():
        x = now.get(code)
        if x is None or (x is was and code not in altered):
            continue
        name = f"a{key_of[code]}"
        if name not in behind:
            behind[name] = was
        if was.start != x.start or was.finish != x.finish or was.duration != x.duration or was.remaining != x.remaining:
            a = book.activity_by_code[code]
            touched.add(a.wbs)
            if not costs_alike(book, a, was, x):
                costs[code] = planned_cost(book, a, x)


def _altered(book: Book, touched: set[str | None], last: PlanSheet | None) -> set[str]:
    """The elements of which the span is to be gone through again."""
    above = book.wbs_above
    return set(above) if last is None else {up for code in touched if code is not None for up in above[code]}


def _comparable(old: Results, new: Results) -> bool:
    """Whether rows of one can stand in the other: same resources, own fields, elements, baseline, money and calendar."""
    a, b = old.book, new.book
    of_project = [(x.project.calendar, x.project.currency, x.project.responsible) for x in (a, b)]
    alike = of_project[0] == of_project[1]
    return alike and a.resources is b.resources and a.fields == b.fields and a.wbs is b.wbs and old.baseline is new.baseline


def _written(old: Results, new: Results) -> set[str]:
    """The activities of which links, people, costs or progress changed."""
    out: set[str] = set()
    pairs = (
        (old.book.links_into, new.book.links_into),
        (old.book.assignments_of, new.book.assignments_of),
        (old.book.costs_of, new.book.costs_of),
    )
    for a, b in pairs:
        if a is not b:
            out |= {code for code, rows in b.items() if a.get(code) != rows} | (a.keys() - b.keys())
    if old.book.calendars is not new.book.calendars:
        out |= priced_by_calendar(new.book)
    was = old.progress
    return out | {code for code, p in new.progress.items() if p is not was.get(code) and p != was.get(code)}


def _direct(
    maker: RowMaker, costs: dict[str, Decimal], known: dict[str | None, Span] | None, touched: set[str | None]
) -> dict[str | None, Span]:
    """The span of the activities right under each element; only those under `touched` are gone through again."""
    out = {} if known is None else {code: span for code, span in known.items() if code not in touched}
    dates = maker.results.schedule.activities
    for a in maker.book.activities:
        if known is None or a.wbs in touched:
            x = dates[a.code]
            out[a.wbs] = _joined(out.get(a.wbs), (x.start, x.finish, costs[a.code]))
    return out


def _joined(a: Span | None, b: Span) -> Span:
    return b if a is None else (min(a[0], b[0]), max(a[1], b[1]), a[2] + b[2] if b[2] else a[2])


def _spans(book: Book, direct: dict[str | None, Span], known: dict[str, Span] | None, touched: set[str]) -> dict[str, Span]:
    """The span of all that lies under each element; `touched` are the codes of those to be gone through again."""
    within: dict[str | None, list[str]] = {}
    for w in book.wbs:
        within.setdefault(w.parent, []).append(w.code)
    out = dict(known or {})
    for code in sorted(touched, key=lambda c: -len(book.wbs_above[c])):
        span = direct.get(code)
        for part in within.get(code, ()):
            if (more := out.get(part)) is not None:
                span = _joined(span, more)
        if span is None:
            out.pop(code, None)
        else:
            out[code] = span
    return out


@dataclass
class SheetDifference:
    """What of a sheet looks other than on the sheet before it."""

    rows: list[PlanRow]
    """The rows that are new, whole."""
    changes: dict[str, dict[str, Any]]
    """Of each row that looks different, the columns that do, as they are now."""
    removed: list[str]
    rest: bool
    """Whether there are more rows that look different."""


def changed(before: PlanSheet, now: PlanSheet, rest: bool = False) -> SheetDifference:
    """What looks different to somebody who knows the sheet before; `rest`: as it came, without what it left behind."""
    known = before.rows if rest else before.whole
    out = SheetDifference([], {}, [n for n in before.rows if n not in now.rows], rest or bool(now.behind))
    for name, row in now.rows.items():
        old = known.get(name)
        if old is None:
            out.rows.append(row)
        elif old is row or name in now.behind:
            continue
        else:
            found = differences(old, row)
            if rest and name in before.behind:
                found.update(dates_as_text(row))
            if found:
                out.changes[name] = found
    return out


MOST_AHEAD = 12


def read_ahead() -> None:
    """Make the sheet of the projects that were worked on last; one that can't be made is left for whoever opens it."""
    for project in Project.objects.annotate(last=Max("steps")).order_by(F("last").desc(nulls_last=True), "pk")[:MOST_AHEAD]:
        try:
            project_sheet(project)
        except (DryLedgerError, Refused, DatabaseError):
            log.exception("could not read %s ahead", project.code)
