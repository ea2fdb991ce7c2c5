"""What all rows of a book share: the project, their place in the list, and their form in the open format."""

from typing import Any, ClassVar

from django.db import models


class BookRow(models.Model):
    """One object of one of the book's lists. `BOOK` maps the format's keys to columns; null is absence."""

    BOOK: ClassVar[dict[str, str]] = {}
    REFERS: ClassVar[dict[str, str]] = {}
    """Keys that hold a code of another list: key → foreign-key column (its row's code is written)."""

    project = models.ForeignKey("plan.Project", on_delete=models.CASCADE, related_name="+")
    order = models.FloatField()
    """Its place in the list. A row that comes between two others gets a place between theirs."""
    extra = models.JSONField(default=dict)

    class Meta:
        abstract = True
        ordering = ["order", "id"]

    def to_book(self, codes: dict[str, dict[int, str]]) -> dict[str, Any]:
        """The row as the book writes it; `codes` gives, by model name, the code of each id."""
        out: dict[str, Any] = {}
        for key, column in self.BOOK.items():
            if key in self.REFERS:
                related = getattr(self, f"{column}_id")
                value = codes[self.REFERS[key]][related] if related is not None else None
            else:
                value = getattr(self, column)
            if not empty(value):
                out[key] = clean(value, key)
        return out | self.extra


AMOUNTS = ("amount", "overtime", "total")
"""Keys of money: written with two decimals at least, the same however they were typed."""


def clean(value: Any, key: str = "") -> Any:
    """A value as the book writes it, without what says nothing inside; keys beginning with x- stay untouched."""
    if isinstance(value, dict):
        return {k: v if k.startswith("x-") else clean(v, k) for k, v in value.items() if k.startswith("x-") or not empty(v) or k == "week"}
    if isinstance(value, list):
        return [clean(v) for v in value]
    if key in AMOUNTS and isinstance(value, str) and value.lstrip("-").replace(".", "", 1).isdigit():
        whole, _, part = value.partition(".")
        return f"{whole}.{part.rstrip('0').ljust(2, '0')}"
    return value


def empty(value: object) -> bool:
    """Whether a value is written as absence: null, an empty text, an empty list or object."""
    return value is None or value == "" or value == [] or value == {}
