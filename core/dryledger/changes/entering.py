"""What is entered on the open page: statements, hours and costs, each a function of the draft, and the verbs for them.

A statement is one of an activity and replaces the one that the page has of it; hours are one entry of an assignment, beside its
corrections; costs are a ledger. Dry pages are never written.
"""

from collections.abc import Iterable
from dataclasses import replace
from typing import Any

from dryledger.book.columns import ListOf
from dryledger.book.lists import COST_ENTRIES, HOURS, STATEMENTS
from dryledger.book.pages import CostEntry, HoursEntry, Statement
from dryledger.book.reader import Reader
from dryledger.calendar.calendar import from_text
from dryledger.changes.draft import Doc, Draft
from dryledger.changes.keyed import place_of
from dryledger.changes.remembered import fields_in_words
from dryledger.errors import ChangeRefused, EntryRefused, Fault
from dryledger.exchange.read import RowContext, read_row
from dryledger.exchange.write import row_document
from dryledger.words import sentence

__all__ = ["do_hours", "do_page", "do_pay", "do_post", "do_state", "open_page", "read_entry", "set_hours", "state"]

POSTED = ("remaining", "carry_to")
"""What a change of an option can post of an activity."""


def open_page(draft: Draft, code: str | None = None) -> int:
    """The key of the open page, or of the one that is named. Raises ChangeRefused where there is none, or it is dry."""
    pages = sorted(draft.rows_of("periods").values(), key=place_of)
    found = [x for x in pages if code in (None, x.record.code)]
    if not found:
        raise ChangeRefused("no-page", sentence("entering.no_page"))
    if found[-1].record.state == "dry":
        raise ChangeRefused("page-dry", sentence("entering.dry", code=found[-1].record.code))
    return found[-1].key


def read_entry(draft: Draft, of: ListOf, doc: Doc) -> Any:
    """A row of a page as the book reads it. Raises EntryRefused at the first cell that can't be."""
    faults: list[Fault] = []
    record = read_row(Reader({k: v for k, v in doc.items() if v is not None}, "", faults), of, _scope(draft, doc))
    if faults:
        raise EntryRefused(faults[0].path, f"{faults[0].message[:1].upper()}{faults[0].message[1:]}.")
    return record


def _scope(draft: Draft, doc: Doc) -> RowContext:
    return draft.scope_for("assignments", {"activity": doc.get("activity")})


def state(draft: Draft, page: int, statements: Iterable[Statement | str]) -> None:
    """Put statements on a page, each in the place of the one of its activity, the last of several; a bare code takes that one away."""
    places = {x.activity: place for place, x in draft.entered(page, "statements").items()}
    rows: list[tuple[int | None, Any]] = []
    for s in {s.activity if isinstance(s, Statement) else s: s for s in statements}.values():
        if isinstance(s, Statement):
            rows.append((places.get(s.activity), s))
        elif s in places:
            rows.append((places[s], None))
    if rows:
        draft.enter(page, "statements", rows)


def set_hours(draft: Draft, page: int, entry: HoursEntry) -> None:
    """The hours of an assignment on a page: one entry, whatever several there were before; corrections stay as they are.

    Hours on somebody who is not assigned assign them with no planned work, where work gives the duration: else an assignment
    would bring planned work along.
    """
    pair = (entry.activity, entry.resource)
    there = [p for p, x in draft.entered(page, "hours").items() if (x.activity, x.resource) == pair and x.corrects is None]
    silent = not entry.worked and not entry.overtime and entry.to_go is None
    rows: list[tuple[int | None, Any]] = [(p, None) for p in there[0 if silent else 1 :]]
    if not silent:
        rows.append((there[0] if there else None, entry))
    if rows:
        draft.enter(page, "hours", rows)
    activity = draft.record("activities", draft.codes("activities")[entry.activity])
    if not silent and activity.driver == "work" and not any((x.activity, x.resource) == pair for _, x in draft.records("assignments")):
        draft.add("assignments", {"activity": pair[0], "resource": pair[1], "work": "0min"})


# The verbs


def do_state(draft: Draft, verb: Doc) -> None:
    """Write cells of what the open page says of an activity; without any left it says nothing of it."""
    page, code = open_page(draft, verb.get("page")), _activity(draft, verb["row"])
    known = next((x for x in draft.entered(page, "statements").values() if x.activity == code), Statement(code))
    record = read_entry(draft, STATEMENTS, row_document(STATEMENTS, known) | dict(verb["cells"]) | {"activity": code})
    state(draft, page, [code if record == Statement(code) else record])
    draft.labels.append(f"{_name(draft, code)}: {fields_in_words(verb['cells'])}")


def do_hours(draft: Draft, verb: Doc) -> None:
    """Write cells of an assignment's hours on the open page; with `corrects` another entry, that corrects an earlier page."""
    page, code = open_page(draft, verb.get("page")), _activity(draft, verb["activity"])
    resource = draft.record("resources", draft.find(verb["resource"], "r")[1]).code
    own = {"activity": code, "resource": resource}
    there = (x for x in draft.entered(page, "hours").values() if (x.activity, x.resource, x.corrects) == (code, resource, None))
    cells = dict(verb["cells"])
    if cells.get("corrects") is not None:
        draft.enter(page, "hours", [(None, read_entry(draft, HOURS, cells | own))])
    else:
        known = next(there, HoursEntry(code, resource))
        set_hours(draft, page, read_entry(draft, HOURS, row_document(HOURS, known) | cells | own))
    draft.labels.append(f"{_name(draft, code)}, {resource}: {fields_in_words(verb['cells'])}")


def do_pay(draft: Draft, verb: Doc) -> None:
    """Write a cost of the open page: the `entry`-th of it, counted from 0, or a new one; without cells it is taken away."""
    page = open_page(draft, verb.get("page"))
    there, entry = draft.entered(page, "costs"), verb.get("entry")
    if entry is not None and (not isinstance(entry, int) or isinstance(entry, bool) or not 0 <= entry < len(there)):
        raise ChangeRefused("not-found", sentence("entering.no_entry", entry=str(entry)[:20]))
    place = None if entry is None else list(there)[entry]
    if "cells" not in verb:
        if place is None:
            raise ChangeRefused("bad-request", sentence("apply.change_lacks", name="pay", gone="cells"))
        draft.enter(page, "costs", [(place, None)])
        draft.labels.append(sentence("entering.cost_deleted"))
        return
    known = {} if place is None else row_document(COST_ENTRIES, there[place])
    record: CostEntry = read_entry(draft, COST_ENTRIES, known | draft.by_code(COST_ENTRIES, dict(verb["cells"])))
    draft.enter(page, "costs", [(place, record)])
    draft.labels.append(sentence("entering.cost", amount=record.amount, on=record.activity or f"WBS {record.wbs}"))


def do_page(draft: Draft, verb: Doc) -> None:
    """Write the status or the note of the open page."""
    page, cells = open_page(draft, verb.get("page")), dict(verb["cells"])
    fields: Doc = {}
    for key, value in cells.items():
        if key == "status" and isinstance(value, str):
            try:
                fields["status"] = from_text(value)
            except ValueError:
                raise EntryRefused("status", sentence("reader.instant")) from None
        elif key == "note" and (value is None or isinstance(value, str)):
            fields["note"] = value or None
        else:
            raise EntryRefused(key, sentence("rows.cant_written_here", value=key[:60]))
    draft.put_page(page, **fields)
    draft.labels.append(f"{draft.record('periods', page).code}: {fields_in_words(cells)}")


def do_post(draft: Draft, verb: Doc) -> None:
    """Say again what was said last of an activity, with another remaining duration or carry-forward date, on the page that is named, else
    the last one.
    """
    code = _activity(draft, verb["row"])
    pages = sorted(draft.rows_of("periods").values(), key=place_of)
    if not pages:
        raise ChangeRefused("no-page", sentence("verbs.no_page_post", code=code))
    if verb.get("page"):
        named = [i for i, x in enumerate(pages) if x.record.code == verb["page"]]
        if not named:
            raise ChangeRefused("no-page", sentence("verbs.no_page", page=verb["page"][:60]))
        pages = pages[: named[0] + 1]
    stated = [x for row in pages for x in row.record.statements if x.activity == code]
    last = stated[-1] if stated else Statement(code)
    if not any(x is last for x in pages[-1].record.statements):
        last = replace(last, note=None, corrects=None, reason=None)
    statement = row_document(STATEMENTS, last)
    was, given = dict(verb.get("was") or {}), dict(verb["cells"])
    for key in (*given, *was):
        if key not in POSTED:
            raise EntryRefused(key, sentence("rows.cant_written_here", value=key[:60]))
    now = read_entry(draft, STATEMENTS, statement)
    if was and read_entry(draft, STATEMENTS, statement | was) != now:
        raise ChangeRefused("moved-on", sentence("verbs.another_now", row=code, fields=fields_in_words(was)))
    state(draft, pages[-1].key, [read_entry(draft, STATEMENTS, statement | given)])
    draft.labels.append(f"{_name(draft, code)}: {fields_in_words(given)}")


def _activity(draft: Draft, ref: object) -> str:
    return str(draft.record("activities", draft.find(ref, "a")[1]).code)


def _name(draft: Draft, code: str) -> str:
    return str(draft.record("activities", draft.codes("activities")[code]).name)
