"""The error tree of the core.

DryLedgerError
├── BookInvalid      a book that cannot be computed, with every fault found and where
├── UnknownPeriod    a page was asked for that the book does not have
├── UnknownFigure    a figure was asked for that the catalogue does not have for that scope
├── TooManyPoints    a curve was asked for in more buckets than anyone can read
├── EntryRefused     something typed into a cell that cannot be taken
└── ChangeRefused    a change of the plan that cannot be done
"""

from dataclasses import dataclass

from dryledger.words import sentence

__all__ = ["BookInvalid", "ChangeRefused", "DryLedgerError", "EntryRefused", "Fault", "TooManyPoints", "UnknownFigure", "UnknownPeriod"]


class DryLedgerError(Exception):
    """Base of every error that the core raises on purpose."""


@dataclass(frozen=True, order=True)
class Fault:
    """One thing wrong with a book: the path of the value (``activities[3].calendar``) and a sentence."""

    path: str
    message: str


class BookInvalid(DryLedgerError):
    """The book cannot be computed. `faults` holds all that was found, in the order of the book."""

    def __init__(self, faults: list[Fault]) -> None:
        self.faults = faults
        super().__init__("; ".join(f"{f.path}: {f.message}" if f.path else f.message for f in faults))


class UnknownPeriod(DryLedgerError):
    """The page `code` is not in the book; `known` lists those that are."""

    def __init__(self, code: str, known: list[str]) -> None:
        self.code = code
        self.known = known
        there = sentence("errors.pages", names=", ".join(known)) if known else sentence("errors.book_no_pages")
        super().__init__(sentence("errors.no_page", code=code, there=there))


class UnknownFigure(DryLedgerError):
    """The catalogue of figures has no `key` that means anything for an activity, an element or the project."""

    def __init__(self, key: str, scope: str) -> None:
        self.key, self.scope = key, scope
        owner = {"activity": "an activity", "wbs": sentence("errors.wbs_element")}.get(scope, "the project")
        super().__init__(sentence("errors.no_figure", value=key, owner=owner))


class TooManyPoints(DryLedgerError):
    """A curve by `bucket` would have more than `most` points."""

    def __init__(self, bucket: str, most: int) -> None:
        self.bucket, self.most = bucket, most
        super().__init__(sentence("errors.curve_would_more_points", bucket=bucket, most=most))


class EntryRefused(DryLedgerError):
    """A typed entry cannot be taken. `field` names the cell, `nearest` what would be allowed, if anything."""

    def __init__(self, field: str, message: str, nearest: str | None = None) -> None:
        self.field = field
        self.message = message
        self.nearest = nearest
        super().__init__(message)


class ChangeRefused(DryLedgerError):
    """A change cannot be done. `code` says of which kind the reason is, `row` and `field` name the cell, if it is one."""

    def __init__(self, code: str, message: str, row: str | None = None, field: str | None = None, nearest: str | None = None) -> None:
        self.code, self.message, self.row, self.field, self.nearest = code, message, row, field, nearest
        super().__init__(message)
