"""What is typed into the posting sheet, read by one call: each cell, then the statement that they make together.

Refused in words beside the cell; nothing of several is taken where one of them can't be.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from decimal import Decimal

from dryledger.book.durations import planned_duration
from dryledger.book.plan import Statement
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results
from dryledger.entry.grammar import type_amount, type_date, type_duration, type_percent
from dryledger.entry.plan_cells import type_instant
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.posting.assumed import begin_statement
from dryledger.posting.entries import Checked, check_entry, describe, milestones_of, type_reached, type_units
from dryledger.words import sentence

__all__ = ["Entered", "read_entries", "read_statement"]

LONGEST_NOTE = 4000


@dataclass(frozen=True)
class Entered:
    """What was typed for one activity: its statement, None where no cell says anything of it; its own cost, where that was typed."""

    activity: str
    checked: Checked | None
    cost: Decimal | None
    has_cost: bool

    @property
    def says(self) -> str:
        """The same in a few words."""
        if self.checked is None:
            return f"cost {self.cost if self.cost is not None else 'cleared'}"
        return describe(self.checked.statement)


def read_entries(r: Results, start: Results, entries: Mapping[str, Mapping[str, str]]) -> list[Entered]:
    """What typed cells of activities, by code, come to on the page of `r`; `start` are the results of the page before.

    Raises EntryRefused at the cell, of several activities ChangeRefused that names the activity too.
    """
    out = []
    for code, typed in entries.items():
        try:
            out.append(_read(r, start, code, typed))
        except EntryRefused as no:
            if len(entries) == 1:
                raise
            raise ChangeRefused("entry-refused", no.message, code, no.field, no.nearest) from None
    return out


def _read(r: Results, start: Results, code: str, typed: Mapping[str, str]) -> Entered:
    amount = type_amount(typed["cost"], r.valuation.unit) if "cost" in typed else None
    cells = {k: text for k, text in typed.items() if k != "cost"}
    if not cells:
        return Entered(code, None, amount, "cost" in typed)
    mine = next((s for s in r.at.periods[-1].statements if s.activity == code), None)
    return Entered(code, read_statement(r, start, mine or begin_statement(start, code), cells), amount, "cost" in typed)


def read_statement(r: Results, start: Results, s: Statement, typed: Mapping[str, str]) -> Checked:
    """What a statement becomes with typed cells; `start`: the results of the page before. Raises EntryRefused at the cell."""
    book, code = r.book, s.activity
    calendar = book.calendar_by_code[book.activity_by_code[code].calendar]
    for name, text in typed.items():
        if name == "note":
            if len(text) > LONGEST_NOTE:
                raise EntryRefused("note", sentence("entries.note_most_characters", most=LONGEST_NOTE, count=len(text)))
            s = replace(s, note=text.strip() or None)
        elif name == "percent":
            s = replace(s, percent=type_percent(text))
        elif name == "remaining":
            read = type_duration(text, calendar)
            s = replace(s, remaining=None if read is None else read[0])
        elif name == "carry_to":
            s = replace(s, carry_to=type_instant(text, name, r.status or 0, book.axes[code]))
        elif name == "units_done":
            s = replace(s, units_done=type_units(text))
        elif name == "milestones_reached":
            s = replace(s, milestones_reached=type_reached(text, milestones_of(r, code)))
        else:
            at = _date(r, start, code, name, text)
            s = replace(s, actual_start=at) if name == "actual_start" else replace(s, actual_finish=at)
    return check_entry(r, start, s, set(typed))


def _date(r: Results, start: Results, code: str, name: str, text: str) -> Instant | None:
    """An actual date; of a milestone a date without a time is the instant that its forecast, else its baseline, has on it."""
    book = r.book
    assert r.status is not None
    if planned_duration(book, book.activity_by_code[code]):
        return type_date(text, name, r.status, book.axes[code], name == "actual_finish")
    row, base = start.schedule.activities.get(code), r.baseline.by_code.get(code) if r.baseline else None
    known = [x.finish for x in (row, base) if x is not None]
    return type_date(text, name, r.status, book.axis, True, known)
