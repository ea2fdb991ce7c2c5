"""The plan sheet: every element and activity with its dates, and after a change only what looks different."""

import logging
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from dryledger.budget import priced_by_calendar
from dryledger.compute import Results
from dryledger.gaps import driving_path
from dryledger.plan import Book
from server.exchange.books import Recent
from server.exchange.live import LivePlan, live_plan
from server.plan.models import Project
from server.plan.sheet_rows import PlanRow, RowMaker, differences
from server.posting.models import Page
from server.value.results import results_of

Span = tuple[str, str, Decimal]
"""The earliest start, the latest finish and the cost of some rows."""


@dataclass
class PlanSheet:
    """The rows by name, and what they were made from."""

    rows: dict[str, PlanRow]
    results: Results
    plan: LivePlan
    driving: set[str]
    direct: dict[str | None, Span]
    """The span of the activities right under each element."""
    spans: dict[str, Span]
    """The span of all activities under each element, by code."""

    @property
    def total(self) -> Decimal:
        """The cost of all activities."""
        return sum((cost for _, _, cost in self.direct.values()), Decimal(0))


log = logging.getLogger(__name__)
_sheets = Recent(12)


def sheet_of(project: Project) -> PlanSheet:
    """The plan sheet of a project as it stands."""
    return _sheets.get((project.uid, project.revision), lambda: make_sheet(project, _sheets.peek((project.uid, project.revision - 1))))


def forget_sheet(project: Project) -> None:
    """Drop the sheet at the project's revision: its step was taken back before it ended."""
    _sheets.drop((project.uid, project.revision))


def live_results(project: Project) -> Results:
    """The results at the open page."""
    page = Page.objects.filter(project=project).defer("inputs", "results").last()
    assert page is not None, "a project always has a page"
    return results_of(project, page)


def make_sheet(project: Project, before: PlanSheet | None) -> PlanSheet:
    """All rows; those that nothing touched are taken over from the sheet before."""
    plan, results = live_plan(project), live_results(project)
    driving = driving_path(results)
    maker = RowMaker(plan, results, driving)
    last = before if before is not None and _comparable(before.results, results) else None
    now = plan.rows["activities"]
    was = last.plan.rows["activities"] if last is not None else {}
    written = {pk for pk, row in now.items() if was.get(pk) is not row}
    dated: set[int] = set()
    if last is not None:
        written |= {plan.key_of[code] for code in _written(last.results, results) if code in plan.key_of}
        dated = {plan.key_of[code] for code in _dated(last, results, driving) if code in plan.key_of} - written
    rows = dict(last.rows) if last is not None else {}
    gone = {f"a{pk}" for pk in was.keys() - now.keys()}
    if last is not None:
        gone |= {f"w{pk}" for pk in last.plan.rows["wbs"].keys() - plan.rows["wbs"].keys()}
    touched: set[str | None] = {rows.pop(name).parent for name in gone}
    """The elements under which a row looks different."""
    for pk in sorted(written | dated):
        order, _, a = now[pk]
        name = f"a{pk}"
        old = rows.get(name)
        if pk in dated and old is not None and last is not None:
            made = maker.again(old, a, last.results.schedule.activities[a.code])
        else:
            made = maker.row(name, order, a)
        rows[name] = made
        touched |= {made.parent, old.parent if old is not None else made.parent}
    direct = _direct(rows, last.direct if last is not None else None, touched)
    code_of = {name: code for code, name in maker.above.items()}
    above = results.book.wbs_above
    turned = set(above) if last is None else {up for name in touched if name in code_of for up in above[code_of[name]]}
    spans = _spans(results.book, maker.above, direct, last.spans if last is not None else None, turned)
    for pk, (order, _, w) in plan.rows["wbs"].items():
        name = f"w{pk}"
        old = rows.get(name)
        if old is None or old.order != order or w.code in turned:
            start, finish, cost = spans.get(w.code, (None, None, Decimal(0)))
            made = PlanRow(name, order, w.code, w.name, "wbs", maker.above.get(w.parent or ""), start, finish, f"{cost:f}", float(w.weight))
            old = made if old is None or old != made else old
        rows[name] = old
    return PlanSheet(rows, results, plan, driving, direct, spans)


def _comparable(old: Results, new: Results) -> bool:
    """Whether rows of one can stand in the other: same resources, own fields, elements, baseline, money and calendar."""
    a, b = old.book, new.book
    alike = (a.project.calendar, a.project.currency) == (b.project.calendar, b.project.currency)
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


def _dated(before: PlanSheet, new: Results, driving: set[str]) -> set[str]:
    """The activities of which dates, floats or the driving path changed."""
    was = before.results.schedule.activities
    return {code for code, x in new.schedule.activities.items() if was.get(code) is not x} | (before.driving ^ driving)


def _direct(rows: dict[str, PlanRow], known: dict[str | None, Span] | None, touched: set[str | None]) -> dict[str | None, Span]:
    """The span of the activities right under each element; only those under `touched` are gone through again."""
    out = {} if known is None else {parent: span for parent, span in known.items() if parent not in touched}
    for row in [r for r in rows.values() if known is None or r.parent in touched]:
        if row.kind != "wbs" and row.start and row.finish:
            out[row.parent] = _joined(out.get(row.parent), (row.start, row.finish, row.money))
    return out


def _joined(a: Span | None, b: Span) -> Span:
    return b if a is None else (min(a[0], b[0]), max(a[1], b[1]), a[2] + b[2] if b[2] else a[2])


def _spans(
    book: Book, above: dict[str, str], direct: dict[str | None, Span], known: dict[str, Span] | None, touched: set[str]
) -> dict[str, Span]:
    """The span of all that lies under each element; `touched` are the codes of those to be gone through again."""
    within: dict[str | None, list[str]] = {}
    for w in book.wbs:
        within.setdefault(w.parent, []).append(w.code)
    out = dict(known or {})
    for code in sorted(touched, key=lambda c: -len(book.wbs_above[c])):
        span = direct.get(above[code])
        for part in within.get(code, ()):
            if (more := out.get(part)) is not None:
                span = _joined(span, more)
        if span is None:
            out.pop(code, None)
        else:
            out[code] = span
    return out


def changed(before: PlanSheet, now: PlanSheet) -> tuple[list[PlanRow], dict[str, dict[str, Any]], list[str]]:
    """The rows that are new, what looks different of the others by row and column, and the names of those gone."""
    new, different = [], {}
    for name, row in now.rows.items():
        old = before.rows.get(name)
        if old is None:
            new.append(row)
        elif old is not row and (found := differences(old, row)):
            different[name] = found
    return new, different, [n for n in before.rows if n not in now.rows]


def read_ahead() -> None:
    """Make the sheet of every project; one that can't be made is left for whoever opens it."""
    for project in Project.objects.all():
        try:
            sheet_of(project)
        except Exception:
            log.exception("could not read %s ahead", project.code)
