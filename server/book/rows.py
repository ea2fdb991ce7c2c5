"""What all rows of a book share: the project, their place in the list, and their form in the open format."""

import json
from decimal import Decimal
from functools import cache
from typing import Any, ClassVar, cast

import msgspec
from django.db import models

from dryledger.book.columns import ListOf
from server.shared import exact_json
from server.shared.json_values import floats

AMOUNTS = ("amount", "overtime", "total", "benefit", "to_order")
"""Keys of money: written with two decimals at least, the same however they were typed."""


MOST_WHOLE = 10**15
"""Whole numbers from here on may be written with an exponent, as they were said."""


class NumberField(models.CharField):  # type: ignore[type-arg]  # not to be subscripted at run time
    """A number as decimal text, exactly as it was said: `2.5`, never the nearest binary fraction."""

    def __init__(self, **options: Any) -> None:
        super().__init__(**({"max_length": 60} | options))

    def get_prep_value(self, value: Any) -> str | None:
        return None if value is None else number_text(value)


def number_text(value: Any) -> str:
    """A number in plain digits, without what does not count.

    >>> number_text(2.0), number_text("0.10"), number_text(Decimal("1E+2"))
    ('2', '0.1', '100')
    """
    exact = Decimal(str(value))
    return f"{exact.quantize(Decimal(1)) if exact == exact.to_integral_value() else exact.normalize():f}"


class JsonField(models.JSONField):
    """Plain data as JSON, its numbers exactly as they were said: decimals, never the nearest binary fraction."""

    def deconstruct(self) -> Any:
        name, _, args, options = super().deconstruct()
        return name, "django.db.models.JSONField", args, options

    def get_db_prep_value(self, value: Any, connection: Any, prepared: bool = False) -> Any:
        return value if value is None or hasattr(value, "as_sql") else exact_json.encode(value).decode()

    def from_db_value(self, value: Any, expression: Any, connection: Any) -> Any:
        try:
            return None if value is None else exact_json.decode(value)
        except msgspec.DecodeError:  # half a character, written before such were refused
            return json.loads(value, parse_float=Decimal)


class BookRow(models.Model):
    """One object of one of the book's lists. Its columns are those that `LIST` declares; null is absence."""

    LIST: ClassVar[ListOf]
    KEPT_WHOLE: ClassVar[tuple[str, ...]] = ()
    """Keys that stand together in one column, as documents."""
    ALSO: ClassVar[dict[str, str]] = {}
    """Keys that may name a row of another list too, and the column for that."""

    project = models.ForeignKey("book.Project", on_delete=models.CASCADE, related_name="+")
    order = models.FloatField()
    """Its place in the list. A row that comes between two others gets a place between theirs."""
    extra = JsonField(default=dict)

    class Meta:
        abstract = True
        ordering = ["order", "id"]

    @classmethod
    def all_rows(cls) -> "models.QuerySet[Any]":
        """All rows of the list, of whatever project."""
        return cls._default_manager.get_queryset()

    def to_book(self, codes: dict[str, dict[int, str]], exact: bool = False) -> dict[str, Any]:
        """The row as the book writes it; `codes` gives, by list, the code of each key. Numbers are decimals where `exact`, else plain."""
        out: dict[str, Any] = {}
        numbers = numbers_of(type(self))
        for key, column, refers in columns_of(type(self)):
            value = getattr(self, column)
            if refers and value is not None:
                value = codes[refers][value]
            elif column in numbers and value is not None:
                value = written_number(value, exact)
            if not empty(value):
                out[key] = clean(value, key, exact)
        return out | self.written_extra(exact)

    def written_extra(self, exact: bool) -> dict[str, Any]:
        """The keys beginning with x- as the book writes them."""
        return untouched(self.extra, exact) if self.extra else {}

    def as_kept(self, codes: dict[str, dict[int, str]]) -> dict[str, Any]:
        """The same for reading: what says nothing in it may still stand there."""
        return self.to_book(codes)


@cache
def columns_of(model: Any) -> tuple[tuple[str, str, str], ...]:
    """For each key of the book that a model keeps: the column, and the list whose row it refers to, if it does."""
    out = []
    by_name = {f.name: f for f in model._meta.concrete_fields}
    also = getattr(model, "ALSO", {})
    for c in model.LIST.columns:
        for found in filter(None, (by_name.get(c.field), by_name.get(also.get(c.key, "")))):
            refers = cast(type[BookRow], found.related_model).LIST.key if isinstance(found, models.ForeignKey) else ""
            out.append((c.key, found.attname, refers))
    return tuple(out)


@cache
def numbers_of(model: Any) -> frozenset[str]:
    """The columns of a model that keep numbers as text."""
    return frozenset(f.attname for f in model._meta.concrete_fields if isinstance(f, NumberField))


def written_number(value: Any, exact: bool) -> int | float | Decimal:
    """A number of a column as the book writes it: whole ones without a point."""
    found = Decimal(str(value))
    if found == found.to_integral_value():
        return int(found)
    return found.normalize() if exact else float(found)


def clean(value: Any, key: str = "", exact: bool = False) -> Any:
    """A value as the book writes it, without what says nothing inside; keys beginning with x- stay untouched."""
    if isinstance(value, dict):
        kept = {k: v for k, v in value.items() if k.startswith("x-") or not empty(v) or k == "week"}
        return {k: untouched(v, exact) if k.startswith("x-") else clean(v, k, exact) for k, v in kept.items()}
    if isinstance(value, list):
        return [clean(v, exact=exact) for v in value]
    if isinstance(value, Decimal):
        return written_number(value, exact) if abs(value) < MOST_WHOLE else untouched(value, exact)
    if key in AMOUNTS and isinstance(value, str) and value.lstrip("-").replace(".", "", 1).isdigit():
        whole, _, part = value.partition(".")
        return f"{whole}.{part.rstrip('0').ljust(2, '0')}"
    return value


def untouched(value: Any, exact: bool) -> Any:
    """Plain data as it was said; its numbers decimals where `exact`, else plain."""
    return value if exact else floats(value)


def empty(value: object) -> bool:
    """Whether a value is written as absence: null, an empty text, an empty list or object."""
    return value is None or value == "" or value == [] or value == {}
