"""What is typed into a cell of the plan, by list and column, as the book writes it.

How a column is read follows from how it is declared; only what is more than one value has a reader of its own.
"""

from decimal import Decimal

from dryledger.book.columns import Column
from dryledger.book.lists import LISTS, PROJECT
from dryledger.book.plan import Book
from dryledger.book.registers import fields_of
from dryledger.entry import list_cells as lists
from dryledger.entry import value_cells as values
from dryledger.entry.value_cells import LONGEST, CellContext, Read, Value, required, text
from dryledger.errors import EntryRefused
from dryledger.words import sentence

__all__ = ["CELLS", "own_field"]

_OBJECTS: dict[str, Read] = {
    "units": values.cell_units,
    "constraint": values.cell_constraint,
    "pauses": lists.cell_pauses,
    "value_method": values.cell_value_method,
    "rates": lists.cell_rates,
    "week": lists.cell_week,
    "exceptions": lists.cell_exceptions,
    "rhythm": values.cell_rhythm,
    "lines": lists.cell_lines,
}
_CLOSING = ("finish", "deadline", "imposed_finish")
_ELSEWHERE = {
    "activities": ("wbs", "fields"),
    "project": ("fields", "kind"),
    "fields": ("given_by",),
    "resources": ("shared", "fields"),
    "wbs": ("parent",),
    "links": ("from", "to", "type", "lag", "lag_basis"),
    "assignments": ("activity", "resource"),
    "costs": ("activity",),
    "estimates": ("measure", "total", "top", "shares"),
    "changes": ("state", "approved_by", "decided", "decided_by", "decided_at", "baseline", "cost"),
}
"""Columns that no cell writes: they are changed by verbs of their own."""


def _reader(c: Column) -> Read:
    """How a cell of a column is read."""
    if c.key in _OBJECTS:
        return _OBJECTS[c.key]
    if c.names == "calendars":
        return values.cell_calendar
    if c.key == "work":
        return values.cell_work
    if c.required and c.kind in ("code", "name"):
        return lambda value, field, context: required(value, field)
    most = LONGEST.get(c.kind, 300)
    if c.key == "formula":
        return values.cell_formula
    if c.kind == "number":
        return values.cell_number(c.least if c.above is None else None, c.above, c.most)
    kinds: dict[str, Read] = {
        "choice": values.cell_choice(c.options),
        "flag": values.cell_flag,
        "of_hundred": values.cell_of_hundred,
        "amount": values.cell_amount(c.signed),
        "instant": values.cell_instant(c.key in _CLOSING),
        "date": values.cell_day,
        "span": values.cell_span,
        "texts": lists.cell_texts,
        "currency": values.cell_currency,
    }
    return kinds.get(c.kind) or (lambda value, field, context: text(value, field, most))


CELLS: dict[str, dict[str, Read]] = {
    name: {c.key: _reader(c) for c in of.columns if c.key not in _ELSEWHERE.get(name, ())}
    for name, of in {**LISTS, "project": PROJECT}.items()
    if name not in ("baselines", "periods")
}
CELLS["orders"]["lines"] = lists.cell_order_lines
CELLS["resources"]["exceptions"] = lists.cell_leave
"""The readers of typed cells, by list and column."""


def own_field(book: Book, code: str, value: Value, context: CellContext, scope: str = "activity") -> Value:
    """The value of one of the project's own fields, of an activity or of the project itself."""
    field = f"fields.{code}"
    definition = next((d for d in fields_of(book.fields, scope) if d.code == code), None)
    if definition is None:
        raise EntryRefused(field, sentence("cells.no_field", code=code))
    kind = definition.holds
    if value is None or str(value).strip() == "":
        return None
    readers: dict[object, Read] = {"number": values.cell_number(Decimal(-(10**12))), "date": values.cell_day, "yes_no": values.cell_flag}
    if kind in readers:
        return readers[kind](value, field, context)
    if kind == "formula":
        raise EntryRefused(field, sentence("cells.field_worked_out_formula"))
    if kind == "choice":
        options = definition.options
        found = next((o for o in options if o.lower() == str(value).strip().lower()), None)
        if found is None:
            raise EntryRefused(field, sentence("cells.none_of_these", value=value, names=", ".join(options)))
        return found
    return text(value, field)
