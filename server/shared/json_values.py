"""Plain data for answers: dataclasses to JSON values, fast, with instants and money as the open format writes them."""

from collections.abc import Callable, Hashable, Mapping
from dataclasses import fields, is_dataclass
from decimal import Decimal
from functools import cache
from operator import attrgetter
from typing import Any, cast, overload

import orjson
from django.utils.functional import Promise
from rest_framework.renderers import JSONRenderer

from dryledger.calendar.calendar import Calendar


class JsonValues(dict[str, Any]):
    """A dict that holds JSON values already."""


@cache
def _columns(kind: type) -> tuple[tuple[str, ...], Callable[[Any], Any]]:
    """The fields of a dataclass, and what reads them all at once."""
    names = tuple(f.name for f in fields(kind))
    return names, attrgetter(*names) if len(names) > 1 else lambda value: (getattr(value, names[0]),)


def _known(value: Any) -> Any:
    """What the library does not know, in what it does."""
    if isinstance(value, Decimal):
        return f"{value:f}"
    if hasattr(value, "__json_values__"):
        return value.__json_values__()
    if is_dataclass(value):
        names, read = _columns(cast(Hashable, type(value)))
        return dict(zip(names, read(value), strict=True))
    if isinstance(value, Promise):
        return str(value)
    raise TypeError(f"{type(value)} is not plain data")


def written(value: Any) -> bytes:
    """Plain data as JSON: dataclasses as objects, money as a decimal string.

    >>> written([Decimal("1E+3"), {"a": (1, None)}])
    b'["1000",{"a":[1,null]}]'
    """
    return orjson.dumps(value, _known, orjson.OPT_PASSTHROUGH_DATACLASS | orjson.OPT_NON_STR_KEYS)


class Json(JSONRenderer):
    """Answers as JSON, straight from what the selectors gave."""

    def render(self, data: Any, accepted_media_type: str | None = None, renderer_context: Mapping[str, Any] | None = None) -> bytes:
        return b"" if data is None else written(data)


def hours(minutes: Decimal) -> float:
    """Minutes of work in hours, to two places."""
    return round(float(minutes) / 60, 2)


def floats(value: Any) -> Any:
    """Plain data with exact decimals as the plain numbers that rows and answers keep."""
    if isinstance(value, Decimal):
        return float(value)
    if isinstance(value, dict):
        return {k: floats(v) for k, v in value.items()}
    return [floats(v) for v in value] if isinstance(value, list) else value


@overload
def days(calendar: Calendar, minutes: int) -> float: ...
@overload
def days(calendar: Calendar, minutes: int | None) -> float | None: ...
def days(calendar: Calendar, minutes: int | None) -> float | None:
    """Working minutes in days of a calendar, to two places, as answers have them."""
    return None if minutes is None else float(round(calendar.days(minutes), 2))
