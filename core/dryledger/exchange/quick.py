"""Many good rows at once: decoded by a library, then turned into records column by column.

Whatever is not plainly right raises `NotQuick`; then `read` goes through row by row and says what is wrong. Both give the
same records, and a test holds them together. The database's rows come this way too, as columns of plain values.
"""

import itertools
import re
from collections.abc import Callable, Hashable, Mapping, Sequence
from datetime import date
from decimal import Decimal
from functools import cache
from sys import intern
from typing import Any, NoReturn, TypeVar

import msgspec
from msgspec import UNSET, UnsetType
from msgspec.structs import astuple

from dryledger.book.columns import Column, ListOf
from dryledger.book.currencies import DIGITS
from dryledger.book.lists import LISTS, PROJECT, WEEKDAYS
from dryledger.book.reader import minutes_of, read_amount, shift_of
from dryledger.calendar.calendar import Calendar, from_text
from dryledger.calendar.written import Assumed
from dryledger.exchange.read import Scope, usual_duration

__all__ = ["NotQuick", "columns_of", "quick_document", "quick_lists", "quick_rows"]

T = TypeVar("T")
Cells = Sequence[Any]
MOST = Decimal(10) ** 15
_NUMBER = re.compile(rb"-?\d{1,30}(\.\d{1,30})?")


class NotQuick(Exception):
    """Something is not plainly right, or nothing that this way knows."""


def _stop(value: object = None) -> NoReturn:
    raise NotQuick


# Decoding


_TYPES: dict[str, Any] = {
    **dict.fromkeys(("number", "percent", "of_hundred"), msgspec.Raw),
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
    lists: list[Any] = [(key, list[_raw(of)] | UnsetType, UNSET) for key, of in LISTS.items()]  # type: ignore[misc]
    top: list[Any] = [("format", str), ("version", int), ("project", _raw(PROJECT)), *lists]
    return msgspec.json.Decoder(msgspec.defstruct("Book", top, forbid_unknown_fields=True, gc=False))


def quick_lists(data: bytes) -> dict[str, Any]:
    """The project and all lists of a book from JSON text, by their names. Raises NotQuick."""
    if b"\\ud" in data or b"\\uD" in data or any(mark in data for mark in (b'" :', b'"\t:', b'"\n:', b'"\r:')):
        _stop()
    try:
        top = _decoder().decode(data)
    except (msgspec.MsgspecError, UnicodeDecodeError, RecursionError):
        raise NotQuick from None
    if top.format != "dry-ledger-book" or top.version != 1:
        _stop()
    keys = _Keys()
    raw = {key: getattr(top, key) for key in LISTS}
    keys.count += 3 + sum(v is not UNSET for v in raw.values())
    columns = {key: _columns(LISTS[key], [] if v is UNSET else v, keys) for key, v in raw.items()}
    project = _columns(PROJECT, [top.project], keys)
    # A key that stands twice in an object was read once only: then there are more keys in the text than were found.
    if keys.count != data.count(b'":'):
        _stop()
    return _assembled(project, columns)


def columns_of(of: ListOf, rows: Sequence[Mapping[str, Any]]) -> dict[str, Any]:
    """Rows as plain values, as a JSON library gives them, as columns for `quick_rows`. Raises NotQuick for unknown keys."""
    known = of.by_key.keys()
    if any(not key.startswith("x-") for x in rows for key in x.keys() - known):
        _stop()
    out: dict[str, Any] = {}
    for c in of.columns:
        cells = [x.get(c.key) for x in rows]
        out[c.key] = cells if c.rows is None else nested_columns(c, cells)
    return out


def nested_columns(c: Column, cells: Sequence[Any]) -> list[Any]:
    """The cells of a column that hold rows themselves, as columns."""
    assert c.rows is not None
    nested = [None if x is None else x if c.kind == "rows" else [x] for x in cells]
    if not all(x is None or (isinstance(x, list) and all(isinstance(y, dict) for y in x)) for x in nested):
        _stop()
    return [c.kind, [None if x is None else len(x) for x in nested], columns_of(c.rows, [y for x in nested if x for y in x])]


def quick_document(document: Any) -> dict[str, Any]:
    """The project and all lists of a book from parsed JSON that has no other keys. Raises NotQuick."""
    if not isinstance(document, dict) or document.get("format") != "dry-ledger-book" or document.get("version") != 1:
        _stop()
    if document.keys() - LISTS.keys() - {"format", "version", "project"} or not isinstance(document.get("project"), dict):
        _stop()
    lists = {key: document.get(key, []) for key in LISTS}
    if not all(isinstance(x, list) and all(type(y) is dict for y in x) for x in lists.values()):
        _stop()
    try:
        return _assembled(columns_of(PROJECT, [document["project"]]), {key: columns_of(of, lists[key]) for key, of in LISTS.items()})
    except (TypeError, AttributeError, ValueError, KeyError):
        raise NotQuick from None


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
    calendars = tuple(quick_rows(LISTS["calendars"], columns["calendars"], Scope({})))
    by_code = {c.code: c for c in calendars}
    usual = by_code.get(project["calendar"][0])
    if usual is None:
        _stop()
    scope = Scope(by_code, usual)
    out: dict[str, Any] = {"project": quick_rows(PROJECT, project, scope)[0], "calendars": calendars}
    for key, of in LISTS.items():
        if key != "calendars":
            out[key] = tuple(quick_rows(of, columns[key], scope))
        if key == "activities":
            scope = Scope(by_code, usual, {a.code: by_code.get(a.calendar) or _stop() for a in out[key]})
    return out


# Columns into records


def quick_rows(of: ListOf, columns: Mapping[str, Any], scope: Scope, above: list[Calendar] | None = None) -> list[Any]:
    """The records of a list from its columns of plain values (None: absent). Raises NotQuick.

    `above` are the calendars of the rows that these stand in, where their spans are counted on those.
    """
    count = _length(of, columns)
    if not count:
        return []
    own = above or _own_calendars(of, columns, scope, count)
    values: dict[str, Cells] = {}
    for c in of.columns:
        cells = columns.get(c.key)
        if cells is None:
            if c.required:
                _stop()
            cells = [None] * count
        if of.key == "baselines" and c.key == "activities":
            values[c.field] = _baseline_activities(c, cells, values)
        elif c.rows is not None:
            values[c.field] = _nested(c, cells, scope, own, count)
        else:
            values[c.field] = _cells(c, cells, scope, own, columns)
    if of.record is dict:
        return _entries(of, values, count)
    if "duration" in values and of.by_key["duration"].default == "usual":
        kinds = values["kind"]
        values["duration"] = [
            usual_duration(k, own[i]) if d is None else d for i, (d, k) in enumerate(zip(values["duration"], kinds, strict=True))
        ]
    return list(map(of.record, *(values[c.field] for c in of.in_record)))


def _length(of: ListOf, columns: Mapping[str, Any]) -> int:
    first = columns[of.columns[0].key]
    return len(first)


def _entries(of: ListOf, values: Mapping[str, Cells], count: int) -> list[Any]:
    rows = ({key: cells[i] for key, cells in values.items()} for i in range(count))
    return [{k: v for k, v in row.items() if v is not None and v != () and v != ""} for row in rows]


def _own_calendars(of: ListOf, columns: Mapping[str, Any], scope: Scope, count: int) -> list[Calendar]:
    """The calendar that each row's spans are counted on."""
    usual = scope.usual
    if "calendar" in of.by_key and of.key != "baselines" and of.record.__name__ != "Project":
        known = scope.calendars
        return [usual if code is None else known.get(code) or _stop() for code in columns.get("calendar") or [None] * count]
    if "activity" in of.by_key and scope.activities:
        found = scope.activities
        return [usual if code is None else found.get(code) or _stop() for code in columns["activity"]]
    return [usual] * count


def _baseline_activities(c: Column, cells: Any, values: Mapping[str, Cells]) -> list[Any]:
    _, lengths, inner = cells
    assert c.rows is not None
    out, at = [], 0
    for i, length in enumerate(lengths):
        scope = Scope({}).of_baseline({"calendars": values["calendars"][i], "calendar": values["calendar"][i]})
        part = {key: _part(x, at, length or 0) for key, x in inner.items()}
        out.append(tuple(quick_rows(c.rows, part, scope)))
        at += length or 0
    return out


def _part(cells: Any, at: int, length: int) -> Any:
    """Some rows of a column; of nested ones with all that is in them."""
    if not (len(cells) == 3 and cells[0] in ("rows", "object")):
        return cells[at : at + length]
    kind, lengths, inner = cells
    before = sum(n or 0 for n in lengths[:at])
    mine = lengths[at : at + length]
    inside = sum(n or 0 for n in mine)
    return [kind, mine, {key: _part(x, before, inside) for key, x in inner.items()}]


def _nested(c: Column, cells: Any, scope: Scope, own: list[Calendar], count: int) -> list[Any]:
    """Records inside rows: of a list a tuple each, of an object the one there is."""
    assert c.rows is not None
    if len(cells) != 3 or cells[0] not in ("rows", "object"):
        if any(x is not None for x in cells):
            _stop()
        return [c.default] * count
    _, lengths, inner = cells
    if c.rows.columns[0].key == "resource":
        flat = quick_rows(c.rows, inner, scope, [calendar for calendar, n in zip(own, lengths, strict=True) for _ in range(n or 0)])
    else:
        flat = quick_rows(c.rows, inner, scope)
    if c.kind == "object":
        found = iter(flat)
        return [c.default if not n else next(found) for n in lengths]
    out, at = [], 0
    for n in lengths:
        out.append(tuple(flat[at : at + n]) if n else ())
        at += n or 0
    return out


def _mapped(cells: Cells, read: Callable[[Any], T], absent: Any = None) -> list[Any]:
    """Every distinct value read once."""
    known: dict[Hashable, Any] = {None: absent}
    for x in set(cells):
        if x is not None:
            known[x] = read(x)
    return [known[x] for x in cells]


def _cells(c: Column, cells: Cells, scope: Scope, own: list[Calendar], columns: Mapping[str, Any]) -> Cells:
    if c.required and None in cells:
        _stop()
    return _READ[c.kind](c, cells, scope, own, columns)


def _shared(cells: Cells) -> Cells:
    """The same texts, equal ones as one object: codes are looked up again and again."""
    return [intern(x) if type(x) is str else x for x in cells]


def _texts_of(c: Column, cells: Cells, scope: Scope, *_: Any) -> Cells:
    if c.kind == "code":
        cells = _shared(cells)
    if c.required:
        return cells if all(map(str.strip, cells)) else _stop()
    if c.most is not None and any(x is not None and len(x) > c.most for x in cells):
        _stop()
    default = Assumed(scope.usual.code) if c.default == "project" else c.default
    return [x or default for x in cells] if None in cells or "" in cells else cells


def _choice(c: Column, cells: Cells, *_: Any) -> Cells:
    found = set(cells) - {None}
    if not found.issubset(c.options):
        _stop()
    cells = _shared(cells)
    return [c.default if x is None else x for x in cells] if None in cells else cells


def _currency(c: Column, cells: Cells, *_: Any) -> Cells:
    return cells if all(x in DIGITS for x in cells) else _stop()


def _flag(c: Column, cells: Cells, *_: Any) -> Cells:
    return [c.default if x is None else x for x in cells]


def _decimal(x: Any) -> Decimal | None:
    """A number as the text or the database has it."""
    if isinstance(x, bytes):
        if x == b"null":
            return None
        if not _NUMBER.fullmatch(x):
            _stop()
        return Decimal(x.decode())
    return Decimal(str(x)) if type(x) in (int, float, Decimal) else _stop()


def _numbers(c: Column, cells: Cells, *_: Any) -> Cells:
    least, above, most, hundred = c.least, c.above, c.most, c.kind != "number"

    def read(x: Any) -> Decimal | None:
        n = _decimal(x)
        if n is None:
            return None if not c.required else _stop()
        if (
            not n.is_finite()
            or abs(n) >= MOST
            or (least is not None and n < least)
            or (above is not None and n <= above)
            or (most is not None and n > most)
            or (hundred and not 0 <= n <= 100)
        ):
            _stop()
        return n / 100 if c.kind == "percent" else n

    plain = [bytes(x) if type(x) is msgspec.Raw else x for x in cells]
    out = _mapped(plain, read)
    return [c.default if x is None else x for x in out] if c.default is not None and None in out else out


def _amounts(c: Column, cells: Cells, *_: Any) -> Cells:
    def read(x: str) -> Decimal:
        got = read_amount(x)
        return got if got is not None and (got >= 0 or c.signed) else _stop()

    return _mapped(cells, read)


def _instants(c: Column, cells: Cells, *_: Any) -> Cells:
    def read(x: str) -> int:
        try:
            return from_text(x)
        except ValueError:
            _stop()

    return _mapped(cells, read)


def _dates(c: Column, cells: Cells, *_: Any) -> Cells:
    def read(x: str) -> date:
        try:
            return date.fromisoformat(x) if len(x) == 10 else _stop()
        except ValueError:
            _stop()

    return _mapped(cells, read)


def _spans(c: Column, cells: Cells, scope: Scope, own: list[Calendar], columns: Mapping[str, Any]) -> Cells:
    default = None if c.default == "usual" else c.default
    if all(x is None for x in cells):
        return [default] * len(cells)
    on = [scope.usual] * len(cells) if c.on == "project" else own
    known: dict[tuple[str, int], int] = {}
    out: list[Any] = []
    for x, calendar in zip(cells, on, strict=True):
        if x is None:
            out.append(default)
            continue
        key = (x, id(calendar))
        found = known.get(key)
        if found is None:
            got = minutes_of(x, calendar)
            found = known[key] = _stop() if got is None else got
        out.append(found)
    return out


def _lags(c: Column, cells: Cells, scope: Scope, own: list[Calendar], columns: Mapping[str, Any]) -> Cells:
    basis = columns.get("lag_basis") or [None] * len(cells)
    if all(x is None for x in cells):
        return [0] * len(cells)

    def read(x: tuple[str, bool]) -> int:
        got = minutes_of(x[0], scope.usual, signed=True, elapsed=x[1])
        return _stop() if got is None else got

    return _mapped([None if x is None else (x, b == "elapsed") for x, b in zip(cells, basis, strict=True)], read, 0)


def _text_lists(c: Column, cells: Cells, *_: Any) -> Cells:
    return [() if x is None else tuple(x) if all(isinstance(y, str) for y in x) else _stop() for x in cells]


def _one_day(texts: Sequence[str]) -> tuple[tuple[int, int], ...]:
    found = sorted(shift_of(x) or _stop() for x in texts)
    if any(b < before for (_, before), (b, _) in itertools.pairwise(found)):
        _stop()
    return tuple(found)


def _shifts(c: Column, cells: Cells, *_: Any) -> Cells:
    return [() if x is None else _one_day(x) for x in cells]


def _weeks(c: Column, cells: Cells, *_: Any) -> Cells:
    return [tuple(_one_day(x.get(day, ())) for day in WEEKDAYS) if not set(x) - set(WEEKDAYS) else _stop() for x in cells]


def _values(c: Column, cells: Cells, *_: Any) -> Cells:
    return [{} if not x else {k: y for k, v in x.items() if (y := _value(v)) is not None} for x in cells]


def _value(value: Any) -> object:
    if isinstance(value, msgspec.Raw):
        value = msgspec.json.decode(value) if bytes(value)[:1] in b'"tfn' else bytes(value)
    if isinstance(value, bool | str) or value is None:
        return value if not isinstance(value, str) or len(value) <= 20_000 else _stop()
    found = _decimal(value)
    return found if found is not None and abs(found) < MOST else _stop()


_READ: dict[str, Callable[..., Cells]] = {
    **dict.fromkeys(("text", "code", "name", "long"), _texts_of),
    "currency": _currency,
    "choice": _choice,
    "flag": _flag,
    **dict.fromkeys(("number", "percent", "of_hundred"), _numbers),
    "amount": _amounts,
    "instant": _instants,
    "date": _dates,
    "span": _spans,
    "lag": _lags,
    "texts": _text_lists,
    "shifts": _shifts,
    "week": _weeks,
    "values": _values,
}
