"""Rows of any list: cells written into one, a new one with its code, one taken out with what hangs on it."""

from collections.abc import Callable, Sequence
from decimal import Decimal
from typing import Any

from dryledger.book.lists import LISTS, PROJECT
from dryledger.book.numbering import field_code, next_code, next_element, resource_code
from dryledger.book.orders import OrderLine
from dryledger.book.reader import split_duration
from dryledger.book.registers import REGISTERS
from dryledger.changes.draft import Doc, Draft
from dryledger.changes.elsewhere import kept_elsewhere
from dryledger.changes.keyed import name_of
from dryledger.changes.outline import Parent
from dryledger.changes.parts import LIST_CELLS
from dryledger.changes.shifts import follow_shifts
from dryledger.entry.cells import CELLS, own_field
from dryledger.entry.rate_cells import RATE_CELLS, type_rate
from dryledger.entry.value_cells import CellContext, required
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.exchange.write import row_document
from dryledger.words import sentence

__all__ = ["context", "delete", "new_row", "place", "read_cells", "set_cells", "write_cells"]

EMPTY = sentence("rows.cant_left_empty_take")
OWNING = {"activities": "activity", "project": "project", "resources": "resource"}
"""The lists whose rows have values in own fields, and the scope of these."""
_RENAMED = ("activities", "wbs", "resources", "calendars", "orders", "reserves")
Later = tuple[Callable[[Draft, int, Any], None], Any]


def context(draft: Draft, record: Any = None) -> CellContext:
    """What the cells of a row are read against: the calendar it is on, and a date near it."""
    return CellContext(draft.book, draft.calendar_of(record), draft.near(record))


def read_cells(draft: Draft, list_name: str, record: Any, given: Doc) -> tuple[Doc, list[Later]]:
    """Given cells as the book writes them, and those that stand for rows of other lists, to be written later."""
    of = PROJECT if list_name == "project" else LISTS[list_name]
    if not draft.typed:
        for key in given:
            if key == "code" or key not in of.by_key:
                raise EntryRefused(key, sentence("rows.cant_written_here", value=key[:60]))
        return draft.by_code(of, given), []
    kept_elsewhere(record, given)
    readers, at = CELLS[list_name], context(draft, record)
    cells: Doc = {}
    later: list[Later] = []
    for key, value in given.items():
        try:
            if list_name == "activities" and key in LIST_CELLS:
                later.append((LIST_CELLS[key], value))
            elif list_name in OWNING and key.startswith("fields."):
                code = key.removeprefix("fields.")
                own = cells.get("fields") or dict(getattr(record, "fields", {}))
                own |= {code: own_field(draft.book, code, value, at, OWNING[list_name])}
                cells["fields"] = {k: v for k, v in own.items() if v is not None}
            elif list_name == "resources" and key in RATE_CELLS:
                had = cells.get("rates") or (row_document(LISTS["resources"], record).get("rates", []) if record else [])
                cells["rates"] = type_rate(had, key, value, at)
            elif key not in readers:
                raise EntryRefused(key, sentence("rows.cant_written_here", value=key))
            else:
                cells[key] = readers[key](value, key, at)
        except (TypeError, AttributeError, ValueError, ArithmeticError, RecursionError):
            raise EntryRefused(key, sentence("rows.cant_read_here_write")) from None
        if cells.get(key) is None and key in of.by_key and of.by_key[key].required and key in cells:
            if list_name == "project" and key == "start":
                raise EntryRefused("start", sentence("rows.project_needs_start_date"))
            raise EntryRefused(key, EMPTY)
    if (
        list_name == "activities"
        and given.get("duration")
        and _nothing(cells.get("duration"))
        and getattr(record, "kind", "") != "milestone"
    ):
        cells |= {"kind": "milestone", "duration": None}
    return cells, later


def _nothing(duration: str | None) -> bool:
    found = split_duration(duration or "")
    return found is not None and found[0] == 0


def set_cells(draft: Draft, list_name: str, key: int, given: Doc) -> None:
    """Write cells into a row. Cells that stand for rows of other lists (links, people, costs) are written as those."""
    record = draft.record(list_name, key)
    cells, later = read_cells(draft, list_name, record, given)
    write_cells(draft, list_name, key, cells)
    if list_name == "calendars" and draft.typed and "week" in cells:
        follow_shifts(draft, key, record, cells)
    if list_name == "orders":
        ordered(draft, record.lines, draft.record(list_name, key).lines)
    for write, value in later:
        write(draft, key, value)


def write_cells(draft: Draft, list_name: str, key: int, cells: Doc) -> None:
    """Write cells as the book writes them; a new code is followed by everything that names the row."""
    code = cells.get("code")
    rest = {k: v for k, v in cells.items() if k != "code"} if list_name in _RENAMED else cells
    if rest:
        draft.put(list_name, key, rest)
        if not rest.keys().isdisjoint(("wbs", "parent")):
            draft.put_in_tree(list_name, key)
    if list_name in _RENAMED and code is not None and code != draft.record(list_name, key).code:
        draft.rename(list_name, key, code)


def new_row(draft: Draft, list_name: str, given: Doc, parent: Parent = None, order: float | None = None, name: str | None = None) -> int:
    """A new row with its code given by the program; `name` where it is not among the given cells."""
    typed, nameless = dict(given), list_name == "orders"
    named = "" if nameless else required(typed.pop("name", None), "name") if name is None else name
    doc: Doc = {"code": _new_code(draft, list_name, named, parent)} | ({} if nameless else {"name": named})
    if list_name == "calendars":
        doc["week"] = {}
    if parent is not None:
        doc["parent" if list_name == "wbs" else "wbs"] = draft.record("wbs", int(parent[1:])).code
    wanted = typed.pop("code", None) if list_name in _RENAMED else None
    cells, later = read_cells(draft, list_name, None, typed)
    key = draft.add(list_name, doc | cells, order)
    if list_name == "orders":
        ordered(draft, (), draft.record(list_name, key).lines)
    if wanted is not None:
        set_cells(draft, list_name, key, {"code": wanted})
    for write, value in later:
        write(draft, key, value)
    return key


def _new_code(draft: Draft, list_name: str, name: str, parent: Parent) -> str:
    taken = draft.codes(list_name)
    if list_name == "activities":
        return next_code(taken, _last_code(draft, parent))
    if list_name == "wbs":
        return next_element(taken, draft.record("wbs", int(parent[1:])).code if parent else None)
    if list_name == "resources":
        return resource_code(name, taken)
    if list_name == "calendars":
        return resource_code(name, taken).lower()
    if list_name == "fields":
        return field_code(name, taken)
    if list_name in ("orders", "reserves"):
        return next_code(taken, None, 1, "PO1" if list_name == "orders" else "R1")
    if list_name in REGISTERS:
        return next_code(taken, None, 1, f"{list_name[0].upper()}1")
    raise ChangeRefused("bad-request", sentence("rows.no_list_plan", value=list_name[:60]))


def _last_code(draft: Draft, parent: Parent) -> str | None:
    siblings = [r for r in draft.outline.children(parent) if r[0] == "a"]
    if siblings:
        return str(draft.record("activities", int(siblings[-1][1:])).code)
    return next(reversed(draft.codes("activities")), None)


def ordered(draft: Draft, was: Sequence[OrderLine], now: Sequence[OrderLine]) -> None:
    """What more is ordered of a cost lowers what of it is stated as still to order, to 0 at least. An import lowers nothing."""
    if not draft.typed:
        return
    more: dict[str, Decimal] = {}
    for sign, lines in ((-1, was), (1, now)):
        for line in lines:
            more[line.of] = more.get(line.of, Decimal(0)) + sign * line.amount
    for list_name in ("costs", "assignments"):
        for key, x in list(draft.records(list_name)):
            if x.to_order and more.get(x.code or "", 0) > 0:
                left = max(x.to_order - more[x.code], Decimal(0))
                draft.put(list_name, key, {"to_order": f"{left:f}"})
                draft.labels.append(sentence("rows.to_order_lowered", code=x.code, left=f"{left:f}"))


def place(draft: Draft, parent: Parent, after: str | None, count: int = 1, first: bool = False) -> list[float]:
    """Places in the tree; where no room is left between two rows their siblings are spread out first."""
    found = draft.outline.between(parent, after, count, first)
    if found is None:
        start = max(draft.outline.order.values(), default=0.0) + 1
        for i, name in enumerate(list(draft.outline.children(parent))):
            list_name = "wbs" if name[0] == "w" else "activities"
            draft.place(list_name, int(name[1:]), start + i)
            draft.outline.put(name, parent, start + i)
        found = draft.outline.between(parent, after, count, first)
        assert found is not None
    return found


# Taking out


def delete(draft: Draft, list_name: str, key: int) -> None:
    """Take a row out with what hangs on it. Raises ChangeRefused where the books hold it."""
    record = draft.record(list_name, key)
    if list_name == "activities":
        _unposted(draft, record)
        hanging = [("links", k) for k, x in draft.records("links") if record.code in (x.source, x.target)]
        hanging += [(part, k) for part in ("assignments", "costs") for k, x in draft.records(part) if x.activity == record.code]
        for part, k in hanging:
            draft.drop(part, k)
        draft.outline.drop(name_of(list_name, key))
    elif list_name == "wbs":
        name = name_of(list_name, key)
        for child in list(draft.outline.children(name)):
            delete(draft, "wbs" if child[0] == "w" else "activities", int(child[1:]))
        _unheld(draft, record)
        draft.outline.drop(name)
    elif list_name == "resources":
        _unused_resource(draft, record)
    elif list_name == "orders":
        if any(x.order_code == record.code for _, page in draft.records("periods") for x in page.costs):
            raise ChangeRefused("posted", sentence("rows.order_has_entries", code=record.code))
    elif list_name == "reserves":
        if any(record.code == c.source or any(x.reserve == record.code for x in c.lines) for _, c in draft.records("changes")):
            raise ChangeRefused("in-use", sentence("rows.reserve_in_changes", name=record.name))
    elif list_name == "calendars":
        _unused_calendar(draft, record)
    elif list_name == "fields" and record.given_by == "kind":
        raise ChangeRefused("not-allowed", sentence("kinds.given_by_kind", name=record.name))
    elif list_name == "baselines":
        raise ChangeRefused("not-allowed", sentence("rows.baseline_never_taken_away"))
    draft.drop(list_name, key)
    label = _label(record)
    draft.labels.append(sentence("rows.deleted", name=label) if label else sentence("rows.deleted_row"))


def _label(record: Any) -> str:
    return str(getattr(record, "name", "") or getattr(record, "code", ""))


def _unposted(draft: Draft, record: Any) -> None:
    for _, page in draft.records("periods"):
        if any(x.activity == record.code for x in (*page.statements, *page.hours, *page.costs)):
            raise ChangeRefused("posted", sentence("rows.posted_page_stays_books", code=record.code, name=record.name, code_2=page.code))


def _unheld(draft: Draft, record: Any) -> None:
    label = f"“{record.code} {record.name}”"
    if any(x.wbs == record.code for _, page in draft.records("periods") for x in page.costs):
        raise ChangeRefused("posted", sentence("rows.costs_were_posted_stays", label=label))
    for _, b in draft.records("baselines"):
        if any(a.wbs == record.code for a in b.activities):
            raise ChangeRefused("in-baseline", sentence("rows.holds_work_baseline_stays", label=label, code=b.code))


def _unused_resource(draft: Draft, record: Any) -> None:
    used = sum(x.resource == record.code for _, x in draft.records("assignments"))
    if used:
        on = f"{used} {'activity' if used == 1 else 'activities'}"
        raise ChangeRefused("in-use", sentence("rows.put_another_place_take", name=record.name, on=on))
    if any(h.resource == record.code for _, page in draft.records("periods") for h in page.hours):
        raise ChangeRefused("posted", sentence("rows.hours_were_posted_stays", name=record.name))
    taking = [x.name for _, x in draft.records("estimates") if record.code in x.spread_to]
    if taking:
        raise ChangeRefused("in-use", sentence("rows.takes_hours_of_estimate", name=record.name, estimate=taking[0]))


def _unused_calendar(draft: Draft, record: Any) -> None:
    rows = [x for name in ("activities", "resources") for _, x in draft.records(name)]
    users = ["the project"] * (draft.project.calendar == record.code) + [x.name for x in rows if x.calendar == record.code]
    if users:
        more = f" and {len(users) - 2} more" if len(users) > 2 else ""
        raise ChangeRefused("in-use", sentence("rows.used_them_another_calendar", name=record.name, names=", ".join(users[:2]), more=more))
