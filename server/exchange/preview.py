"""What a file would do, row by row, as the page shows it, and the plan of doing it."""

from dataclasses import dataclass, field
from typing import Any

from server.exchange.tables import Doc
from server.exchange.untabling import Read


@dataclass
class Changed:
    """One cell that would change."""

    column: str
    was: str
    now: str


@dataclass
class Reason:
    """Why a row is refused, and in which column."""

    column: str | None
    message: str


@dataclass
class FileRow:
    """One row of the file: add, change, leave or refuse."""

    row: int | None
    what: str
    name: str
    changes: list[Changed] = field(default_factory=list)
    reasons: list[Reason] = field(default_factory=list)


@dataclass
class FileTable:
    """One table of the file with its rows."""

    title: str
    rows: list[FileRow]


@dataclass
class PreviewOut:
    """What a file would do. `ready` says whether it can be done; `done` names the project once it is."""

    project: str
    name: str
    new: bool
    ready: bool
    counts: dict[str, int]
    tables: list[FileTable]
    faults: list[Reason]
    """What is wrong with the file as a whole."""
    unknown: list[str]
    done: str | None = None
    notes: list[str] = field(default_factory=list)
    """What else is to be known before it is done."""


@dataclass
class FilePlan:
    """A file read against what is there: the document it would make, and what becomes of each row."""

    document: Doc
    read: Read
    origin: dict[str, tuple[str, int]]
    outcome: dict[tuple[str, int], FileRow] = field(default_factory=dict)
    current: Doc = field(default_factory=dict)
    """What is there, of a project that a file is put over."""
    book: Any = None
    """The book that a file in JSON was read as."""
    faults: list[Reason] = field(default_factory=list)
