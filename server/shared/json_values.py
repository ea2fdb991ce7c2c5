"""Plain data for answers: dataclasses to JSON values, fast, with instants and money as the open format writes them."""

from collections.abc import Hashable
from dataclasses import fields, is_dataclass
from decimal import Decimal
from functools import lru_cache
from typing import Any, cast, overload

from dryledger.calendar.calendar import Calendar


@lru_cache(maxsize=256)
def _names(kind: type) -> tuple[str, ...]:
    return tuple(f.name for f in fields(kind))


class JsonValues(dict[str, Any]):
    """A dict that holds JSON values already."""


def json_values(value: Any) -> Any:
    """A dataclass, list or dict as JSON values; money becomes a decimal string."""
    if isinstance(value, (str, int, float)) or value is None:
        return value
    if isinstance(value, Decimal):
        return f"{value:f}"
    if isinstance(value, JsonValues):
        return value
    if isinstance(value, dict):
        return {k: json_values(v) for k, v in value.items()}
    if isinstance(value, (list, tuple)):
        return [json_values(v) for v in value]
    if hasattr(value, "__json_values__"):
        return value.__json_values__()
    if is_dataclass(value):
        return {name: json_values(getattr(value, name)) for name in _names(cast(Hashable, type(value)))}
    raise TypeError(f"{type(value)} is not plain data")


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
