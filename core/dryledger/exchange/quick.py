"""A good book at once: decoded by a library into columns, which `by_columns` turns into records.

Whatever is not plainly right raises `NotQuick`; then `read` goes through row by row and says what is wrong. Both give the
same records, and a test holds them together.
"""

from functools import cache
from typing import Any

import msgspec
from msgspec import UNSET, UnsetType
from msgspec.structs import astuple

from dryledger.book.columns import ListOf
from dryledger.book.lists import LISTS, PROJECT
from dryledger.exchange.by_columns import Cells, NotQuick, quick_rows, stop
from dryledger.exchange.read import RowContext

__all__ = ["quick_lists"]

_TYPES: dict[str, Any] = {
    **dict.fromkeys(("number", "percent", "of_hundred", "scalar", "doc"), msgspec.Raw),
    "flag": bool,
    "texts": list[str],
    "shifts": list[str],
    "week": dict[str, list[str]],
    "values": dict[str, msgspec.Raw],
}


@cache
def _raw(of: ListOf) -> Any:
    """The structure that a row of a list is decoded into."""
    required: list[Any] = []
    optional: list[Any] = []
    for c in of.columns:
        kind: Any = _TYPES.get(c.kind, str)
        if c.rows is not None:
            kind = list[_raw(c.rows)] if c.kind == "rows" else _raw(c.rows)  # type: ignore[misc]
        if c.required:
            required.append((c.key, kind))
        elif c.kind in ("rows", "shifts") or kind is msgspec.Raw:
            optional.append((c.key, kind | UnsetType, UNSET))
        else:
            optional.append((c.key, kind | UnsetType | None, UNSET))
    fields: list[Any] = [*required, *optional]
    names = {key: f"{key}_" for key, *_ in fields if key in ("from",)}
    found: list[Any] = [(names.get(key, key), *rest) for key, *rest in fields]
    return msgspec.defstruct(of.record.__name__, found, forbid_unknown_fields=True, gc=False, rename={v: k for k, v in names.items()})


@cache
def _decoder() -> Any:
    lists: list[Any] = [(key, _raw(of) | None | UnsetType if of.single else list[_raw(of)] | UnsetType, UNSET) for key, of in LISTS.items()]  # type: ignore[misc]
    top: list[Any] = [("format", str), ("version", int), ("project", _raw(PROJECT)), *lists]
    return msgspec.json.Decoder(msgspec.defstruct("Book", top, forbid_unknown_fields=True, gc=False))


def quick_lists(data: bytes) -> dict[str, Any]:
    """The project and all lists of a book from JSON text, by their names. Raises NotQuick."""
    if b"\\ud" in data or b"\\uD" in data or any(mark in data for mark in (b'" :', b'"\t:', b'"\n:', b'"\r:')):
        stop()
    try:
        top = _decoder().decode(data)
    except (msgspec.MsgspecError, UnicodeDecodeError, RecursionError):
        raise NotQuick from None
    if top.format != "dry-ledger-book" or top.version != 1:
        stop()
    keys = _Keys()
    raw = {key: getattr(top, key) for key in LISTS}
    keys.count += 3 + sum(v is not UNSET for v in raw.values())
    columns = {key: _columns(LISTS[key], _rows(LISTS[key], v), keys) for key, v in raw.items()}
    project = _columns(PROJECT, [top.project], keys)
    # A key that stands twice in an object was read once only: then there are more keys in the text than were found.
    if keys.count != data.count(b'":'):
        stop()
    return _assembled(project, columns)


def _rows(of: ListOf, value: Any) -> list[Any]:
    """The decoded rows of a list; the one of a single list in a list."""
    if value is UNSET or value is None:
        return []
    return [value] if of.single else list(value)


def _keys_in(value: Any) -> int:
    """How many keys plain JSON holds."""
    if isinstance(value, dict):
        return len(value) + sum(map(_keys_in, value.values()))
    return sum(map(_keys_in, value)) if isinstance(value, list) else 0


class _Keys:
    """How many keys were found in a text."""

    count = 0


def _columns(of: ListOf, rows: list[Any], keys: _Keys) -> dict[str, list[Any]]:
    """Decoded rows as columns; nested rows as lists of structures, for their own reader."""
    out: dict[str, list[Any]] = {}
    names = _raw(of).__struct_fields__
    found: dict[str, Cells] = dict(zip(names, zip(*map(astuple, rows), strict=True), strict=True)) if rows else dict.fromkeys(names, ())
    for c in of.columns:
        cells = found["from_" if c.key == "from" else c.key]
        absent = cells.count(UNSET)
        keys.count += len(cells) - absent
        if c.kind in ("week", "values"):
            keys.count += sum(len(x) for x in cells if isinstance(x, dict))
        if c.kind == "doc":
            keys.count += sum(_keys_in(msgspec.json.decode(x)) for x in cells if x is not UNSET)
        if absent:
            cells = [None if x is UNSET else x for x in cells]
        if c.rows is not None:
            nested = [None if x is None else x if c.kind == "rows" else [x] for x in cells]
            flat = [y for x in nested if x for y in x]
            inner = _columns(c.rows, flat, keys)
            out[c.key] = [c.kind, [None if x is None else len(x) for x in nested], inner]
        else:
            out[c.key] = list(cells)
    return out


def _assembled(project: dict[str, Any], columns: dict[str, Any]) -> dict[str, Any]:
    calendars = tuple(quick_rows(LISTS["calendars"], columns["calendars"], RowContext({})))
    by_code = {c.code: c for c in calendars}
    usual = by_code.get(project["calendar"][0])
    if usual is None:
        stop()
    scope = RowContext(by_code, usual)
    out: dict[str, Any] = {"project": quick_rows(PROJECT, project, scope)[0], "calendars": calendars}
    for key, of in LISTS.items():
        if key != "calendars":
            out[key] = tuple(quick_rows(of, columns[key], scope))
        if key == "activities":
            scope = RowContext(by_code, usual, {a.code: by_code.get(a.calendar) or stop() for a in out[key]})
    return out
