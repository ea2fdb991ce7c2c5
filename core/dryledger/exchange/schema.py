"""The JSON Schema (2020-12) of the book format, made from the declared lists.

`docs/formats/book.schema.json` is this, written down; a test keeps the two, the dataclasses and the reader together.
What a schema can't say (references, loops, overlaps, the order of periods) reading says.
"""

import re

from dryledger.book.columns import Column, ListOf
from dryledger.book.currencies import DIGITS
from dryledger.book.lists import LISTS, PROJECT, WEEKDAYS
from dryledger.exchange.write import shortest_number

__all__ = ["book_schema"]

Schema = dict[str, object]

TEXT: Schema = {"type": "string"}
CODE: Schema = {"type": "string", "pattern": r"\S"}
AMOUNT = r"^{}\d{{1,15}}(\.\d{{1,12}})?$"
DURATION = r"^{}\d{{1,9}}(\.\d{{1,9}})?\s*(min|h|d|w|mo)$"
SHIFTS: Schema = {"type": "array", "items": {"type": "string", "pattern": r"^([01]\d|2[0-4]):[0-5]\d-([01]\d|2[0-4]):[0-5]\d$"}}
_BARE: dict[str, Schema] = {
    "flag": {"type": "boolean"},
    "instant": {"type": "string", "pattern": r"^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$"},
    "date": {"type": "string", "pattern": r"^\d{4}-\d{2}-\d{2}$"},
    "texts": {"type": "array", "items": TEXT},
    "scalar": {
        "anyOf": [
            {"type": ["string", "number", "boolean"]},
            {"type": "array", "items": {"type": ["string", "number", "boolean"]}, "minItems": 1},
        ]
    },
    "doc": {"type": "object"},
    "shifts": SHIFTS,
    "week": {
        "type": "object",
        "properties": dict.fromkeys(WEEKDAYS, SHIFTS),
        "patternProperties": {"^x-": {}},
        "additionalProperties": False,
    },
    "values": {"type": "object", "additionalProperties": {"type": ["string", "number", "boolean", "null"]}},
    "currency": {"enum": sorted(DIGITS)},
    "of_hundred": {"type": "number", "minimum": 0, "maximum": 100},
}


def _name(of: ListOf) -> str:
    """How a list's rows are called among the definitions."""
    return re.sub(r"(?<!^)(?=[A-Z])", "_", of.record.__name__).lower()


def _cell(c: Column) -> Schema:
    if c.rows is not None:
        inner: Schema = {"$ref": f"#/$defs/{_name(c.rows)}"}
        return inner if c.kind == "object" else {"type": "array", "items": inner}
    if c.kind == "choice":
        return {"enum": list(c.options)}
    if c.kind in ("number", "percent"):
        bounds = {"minimum": c.least, "exclusiveMinimum": c.above, "maximum": c.most}
        return {"type": "number"} | {k: shortest_number(v) for k, v in bounds.items() if v is not None}
    if c.kind == "amount":
        return {"type": "string", "pattern": AMOUNT.format("-?" if c.signed else "")}
    if c.kind in ("span", "lag"):
        return {"type": "string", "pattern": DURATION.format("-?" if c.signed else "")}
    return _BARE.get(c.kind) or (CODE if c.required else TEXT)


def _row(of: ListOf) -> Schema:
    """A row; what is required may not be null, nor may a list."""
    firm = {c.key for c in of.columns if c.required or c.kind in ("rows", "shifts")}
    return {
        "type": "object",
        "properties": {c.key: _cell(c) if c.key in firm else {"anyOf": [_cell(c), {"type": "null"}]} for c in of.columns},
        "patternProperties": {"^x-": {}},
        "additionalProperties": False,
        "required": [c.key for c in of.columns if c.required],
    }


def _definitions(of: ListOf, into: dict[str, Schema]) -> None:
    """The rows inside the rows of a list, by name."""
    for c in of.columns:
        if c.rows is not None:
            into[_name(c.rows)] = _row(c.rows)
            _definitions(c.rows, into)


def _list(of: ListOf) -> Schema:
    """A list of the book; a single row is an object, or nothing."""
    row: Schema = {"$ref": f"#/$defs/{_name(of)}"}
    return {"anyOf": [row, {"type": "null"}]} if of.single else {"type": "array", "items": row}


def book_schema() -> Schema:
    """The whole schema."""
    definitions: dict[str, Schema] = {}
    for of in (PROJECT, *LISTS.values()):
        if of is not PROJECT:
            definitions[_name(of)] = _row(of)
        _definitions(of, definitions)
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Dry Ledger book, version 1",
        "description": "Everything of one project. Money is a decimal string, durations a number with min, h, d, w or mo.",
        "type": "object",
        "properties": {
            "format": {"const": "dry-ledger-book"},
            "version": {"const": 1},
            "project": _row(PROJECT),
            **{key: _list(of) for key, of in LISTS.items()},
        },
        "patternProperties": {"^x-": {}},
        "additionalProperties": False,
        "required": ["format", "version", "project", "calendars"],
        "$defs": definitions,
    }
