"""Columns of plain values into the records of a list, each column read at once.

Whatever is not plainly right raises `NotQuick`. Columns come from the text of a book (`quick`) or from a database's rows.
"""

import itertools
import re
from collections.abc import Callable, Hashable, Mapping, Sequence
from datetime import date
from decimal import Decimal
from sys import intern
from typing import Any, NoReturn, TypeVar

import msgspec

from dryledger.book.columns import Column, ListOf
from dryledger.book.currencies import DIGITS
from dryledger.book.lists import WEEKDAYS
from dryledger.book.reader import exact, minutes_of, read_amount, read_scalar, shift_of
from dryledger.calendar.calendar import Calendar, from_text
from dryledger.calendar.written import Assumed
from dryledger.exchange.read import RowContext, usual_duration

__all__ = ["Cells", "NotQuick", "columns_of", "nested_columns", "quick_rows", "stop"]

T = TypeVar("T")
Cells = Sequence[Any]
MOST = Decimal(10) ** 15
_WITH_DECIMALS: msgspec.json.Decoder[Any] = msgspec.json.Decoder(float_hook=Decimal)
_NUMBER = re.compile(rb"-?\d{1,30}(\.\d{1,30})?")


class NotQuick(Exception):
    """Something is not plainly right, or nothing that this way knows."""


def stop(value: object = None) -> NoReturn:
    """Leave the quick way."""
    raise NotQuick


def columns_of(of: ListOf, rows: Sequence[Mapping[str, Any]]) -> dict[str, Any]:
    """Rows as plain values, as a JSON library gives them, as the columns that they write. Raises NotQuick for unknown keys."""
    written = set[str]().union(*rows)
    if any(not key.startswith("x-") for key in written - of.by_key.keys()):
        stop()
    out: dict[str, Any] = {}
    for i, c in enumerate(of.columns):
        if c.key in written or i == 0:
            cells = [x.get(c.key) for x in rows]
            out[c.key] = cells if c.rows is None else nested_columns(c, cells)
    return out


def nested_columns(c: Column, cells: Sequence[Any]) -> list[Any]:
    """The cells of a column that hold rows themselves, as columns."""
    assert c.rows is not None
    nested = [None if x is None else x if c.kind == "rows" else [x] for x in cells]
    if not all(x is None or (isinstance(x, list) and all(isinstance(y, dict) for y in x)) for x in nested):
        stop()
    return [c.kind, [None if x is None else len(x) for x in nested], columns_of(c.rows, [y for x in nested if x for y in x])]


def quick_rows(of: ListOf, columns: Mapping[str, Any], scope: RowContext, above: list[Calendar] | None = None) -> list[Any]:
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
                stop()
            cells = [None] * count
        if of.key == "baselines" and c.key == "activities":
            values[c.field] = _baseline_activities(c, cells, values)
        elif c.rows is not None:
            values[c.field] = _nested(c, cells, scope, own, count)
        else:
            values[c.field] = _cells(c, cells, scope, own, columns)
    if "duration" in values and of.by_key["duration"].default == "usual":
        kinds = values["kind"]
        values["duration"] = [
            usual_duration(k, own[i]) if d is None else d for i, (d, k) in enumerate(zip(values["duration"], kinds, strict=True))
        ]
    return list(map(of.record, *(values[c.field] for c in of.in_record)))


def _length(of: ListOf, columns: Mapping[str, Any]) -> int:
    first = columns[of.columns[0].key]
    return len(first[1]) if of.columns[0].rows is not None and len(first) == 3 and first[0] in ("rows", "object") else len(first)


def _own_calendars(of: ListOf, columns: Mapping[str, Any], scope: RowContext, count: int) -> list[Calendar]:
    """The calendar that each row's spans are counted on."""
    usual = scope.usual
    if "calendar" in of.by_key and of.key != "baselines" and of.record.__name__ != "Project":
        known = scope.calendars
        return [usual if code is None else known.get(code) or stop() for code in columns.get("calendar") or [None] * count]
    if "activity" in of.by_key and scope.activities:
        found = scope.activities
        return [usual if code is None else found.get(code) or stop() for code in columns.get("activity") or [None] * count]
    return [usual] * count


def _baseline_activities(c: Column, cells: Any, values: Mapping[str, Cells]) -> list[Any]:
    _, lengths, inner = cells
    assert c.rows is not None
    out, at = [], 0
    for i, length in enumerate(lengths):
        scope = RowContext({}).of_baseline({"calendars": values["calendars"][i], "calendar": values["calendar"][i]})
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


def _nested(c: Column, cells: Any, scope: RowContext, own: list[Calendar], count: int) -> list[Any]:
    """Records inside rows: of a list a tuple each, of an object the one there is."""
    assert c.rows is not None
    if len(cells) != 3 or cells[0] not in ("rows", "object"):
        if any(x is not None for x in cells):
            stop()
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


def _cells(c: Column, cells: Cells, scope: RowContext, own: list[Calendar], columns: Mapping[str, Any]) -> Cells:
    if c.required and None in cells:
        stop()
    return _READ[c.kind](c, cells, scope, own, columns)


def _shared(cells: Cells) -> Cells:
    """The same texts, equal ones as one object: codes are looked up again and again."""
    return [x if x is None else intern(x) for x in cells] if None in cells else list(map(intern, cells))


def _texts_of(c: Column, cells: Cells, scope: RowContext, *_: Any) -> Cells:
    if c.kind == "code":
        cells = _shared(cells)
    if c.required:
        return cells if all(map(str.strip, cells)) else stop()
    if c.most is not None and any(x is not None and len(x) > c.most for x in cells):
        stop()
    default = Assumed(scope.usual.code) if c.default == "project" else c.default
    return [x or default for x in cells] if None in cells or "" in cells else cells


def _choice(c: Column, cells: Cells, *_: Any) -> Cells:
    found = set(cells) - {None}
    if not found.issubset(c.options):
        stop()
    known = {None: c.default} | {x: x for x in c.options}
    return [known[x] for x in cells]


def _currency(c: Column, cells: Cells, *_: Any) -> Cells:
    return cells if all(x in DIGITS for x in cells) else stop()


def _flag(c: Column, cells: Cells, *_: Any) -> Cells:
    return [c.default if x is None else x for x in cells]


def _decimal(x: Any) -> Decimal | None:
    """A number as the text or the database has it."""
    if isinstance(x, bytes):
        if x == b"null":
            return None
        if not _NUMBER.fullmatch(x):
            stop()
        return Decimal(x.decode())
    return Decimal(str(x)) if type(x) in (int, float, Decimal) else stop()


def _numbers(c: Column, cells: Cells, *_: Any) -> Cells:
    least, above, most, hundred = c.least, c.above, c.most, c.kind != "number"

    def read(x: Any) -> Decimal | None:
        n = _decimal(x)
        if n is None:
            return None if not c.required else stop()
        if (
            not n.is_finite()
            or abs(n) >= MOST
            or (least is not None and n < least)
            or (above is not None and n <= above)
            or (most is not None and n > most)
            or (hundred and not 0 <= n <= 100)
        ):
            stop()
        return n / 100 if c.kind == "percent" else n

    decoded = [bytes(x) if type(x) is msgspec.Raw else x for x in cells]
    out = _mapped(decoded, read)
    return [c.default if x is None else x for x in out] if c.default is not None and None in out else out


def _amounts(c: Column, cells: Cells, *_: Any) -> Cells:
    def read(x: str) -> Decimal:
        got = read_amount(x)
        return got if got is not None and (got >= 0 or c.signed) else stop()

    return _mapped(cells, read)


def _instants(c: Column, cells: Cells, *_: Any) -> Cells:
    def read(x: str) -> int:
        try:
            return from_text(x)
        except ValueError:
            stop()

    return _mapped(cells, read)


def _dates(c: Column, cells: Cells, *_: Any) -> Cells:
    def read(x: str) -> date:
        try:
            return date.fromisoformat(x) if len(x) == 10 else stop()
        except ValueError:
            stop()

    return _mapped(cells, read)


def _spans(c: Column, cells: Cells, scope: RowContext, own: list[Calendar], columns: Mapping[str, Any]) -> Cells:
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
            got = minutes_of(x, calendar, signed=c.signed)
            found = known[key] = stop() if got is None else got
        out.append(found)
    return out


def _lags(c: Column, cells: Cells, scope: RowContext, own: list[Calendar], columns: Mapping[str, Any]) -> Cells:
    basis = columns.get("lag_basis") or [None] * len(cells)
    if all(x is None for x in cells):
        return [0] * len(cells)

    def read(x: tuple[str, bool]) -> int:
        got = minutes_of(x[0], scope.usual, signed=True, elapsed=x[1])
        return stop() if got is None else got

    return _mapped([None if x is None else (x, b == "elapsed") for x, b in zip(cells, basis, strict=True)], read, 0)


def _text_lists(c: Column, cells: Cells, *_: Any) -> Cells:
    return [() if x is None else tuple(x) if all(isinstance(y, str) for y in x) else stop() for x in cells]


def _scalars(c: Column, cells: Cells, *_: Any) -> Cells:
    def read(x: Any) -> object:
        if isinstance(x, msgspec.Raw):
            x = parse_scalar(bytes(x))
        return None if x is None else read_scalar(x) if read_scalar(x) is not None else stop()

    return [c.default if (found := read(x)) is None else found for x in cells]


def _docs(c: Column, cells: Cells, *_: Any) -> Cells:
    def read(x: Any) -> object:
        if isinstance(x, msgspec.Raw):
            x = _WITH_DECIMALS.decode(x)
        return {} if x is None else exact(x) if isinstance(x, dict) else stop()

    return [read(x) for x in cells]


def parse_scalar(text: bytes) -> object:
    """A JSON value with its numbers exact. Raises NotQuick for a number in another way than plain digits."""
    if text[:1] in b"-0123456789":
        return _decimal(text)
    if text[:1] == b"[":
        parts: list[msgspec.Raw] = msgspec.json.decode(text, type=list[msgspec.Raw])
        return [parse_scalar(bytes(x)) for x in parts]
    found: object = msgspec.json.decode(text)
    return found


def _one_day(texts: Sequence[str]) -> tuple[tuple[int, int], ...]:
    found = sorted(shift_of(x) or stop() for x in texts)
    if any(b < before for (_, before), (b, _) in itertools.pairwise(found)):
        stop()
    return tuple(found)


def _shifts(c: Column, cells: Cells, *_: Any) -> Cells:
    return [() if x is None else _one_day(x) for x in cells]


def _weeks(c: Column, cells: Cells, *_: Any) -> Cells:
    return [tuple(_one_day(x.get(day, ())) for day in WEEKDAYS) if not set(x) - set(WEEKDAYS) else stop() for x in cells]


def _values(c: Column, cells: Cells, *_: Any) -> Cells:
    return [{} if not x else {k: y for k, v in x.items() if (y := _value(v)) is not None} for x in cells]


def _value(value: Any) -> object:
    if isinstance(value, msgspec.Raw):
        value = msgspec.json.decode(value) if bytes(value)[:1] in b'"tfn' else bytes(value)
    if isinstance(value, bool | str) or value is None:
        return value if not isinstance(value, str) or len(value) <= 20_000 else stop()
    found = _decimal(value)
    return found if found is not None and abs(found) < MOST else stop()


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
    "scalar": _scalars,
    "doc": _docs,
    "shifts": _shifts,
    "week": _weeks,
    "values": _values,
}
