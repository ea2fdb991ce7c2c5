"""What counts otherwise on another calendar is read again: what is written in days and the like has other minutes there."""

from collections.abc import Callable
from dataclasses import replace
from decimal import Decimal
from typing import TYPE_CHECKING, Any

from dryledger.book.lists import LISTS, PROJECT
from dryledger.book.reader import Reader
from dryledger.calendar.calendar import Calendar
from dryledger.calendar.written import Assumed, Written
from dryledger.exchange.read import RowContext, read_row
from dryledger.exchange.write import row_document

if TYPE_CHECKING:
    from dryledger.changes.draft import Draft

__all__ = ["counted_by", "reread_all", "reread_work"]


def counted_by(c: Calendar) -> tuple[Decimal, ...]:
    """What durations on a calendar are counted by: minutes of a day, a week, a month."""
    return c.hours_per_day, c.hours_per_week, c.hours_per_month


def reread_work(draft: "Draft", activities: set[str]) -> None:
    """Read again the work, statements and hours of activities that are on another calendar now."""
    scope, codes = draft.scope(), draft.codes("activities")
    on = {c: scope.calendars.get(draft.record("activities", codes[c]).calendar, scope.usual) for c in activities}
    within = RowContext(scope.calendars, scope.usual, on)
    _reread(draft, "assignments", within, lambda x: x.activity in activities)
    for key, row in list(draft.rows_of("periods").items()):
        parts = {}
        for part in ("statements", "hours"):
            of = LISTS["periods"].by_key[part].rows
            assert of is not None
            rows = getattr(row.record, part)
            if any(x.activity in activities for x in rows):
                parts[part] = tuple(
                    read_row(Reader(row_document(of, x), "", []), of, within) if x.activity in activities else x for x in rows
                )
        if parts:
            draft.changing("periods")[key] = row._replace(record=replace(row.record, **parts))


def reread_all(draft: "Draft", calendar: str | None = None) -> None:
    """Read again what a calendar counts: what is on it, or all where the project is on another one."""
    scope, usual = draft.scope(), calendar in (None, draft.project.calendar)
    _reread(draft, "resources", scope, lambda r: usual and isinstance(r.calendar, Assumed))
    _reread(draft, "activities", scope, lambda a: calendar is None or a.calendar in (calendar, draft.book.project.calendar))
    _reread(draft, "links", scope, lambda k: usual and isinstance(k.lag, Written))
    _reread(draft, "promises", scope, lambda _: usual)
    if usual:
        draft.project = read_row(Reader(row_document(PROJECT, draft.project), "", []), PROJECT, scope)
    reread_work(draft, {a.code for _, a in draft.records("activities") if calendar is None or a.calendar in (calendar, scope.usual.code)})


def _reread(draft: "Draft", list_name: str, scope: RowContext, wanted: Callable[[Any], bool]) -> None:
    of, rows = LISTS[list_name], draft.rows_of(list_name)
    again = {k: x for k, x in rows.items() if wanted(x.record)}
    for key, row in again.items():
        draft.changing(list_name)[key] = row._replace(record=read_row(Reader(row_document(of, row.record), "", []), of, scope))
