"""What a file would do, row by row, as the page shows it."""

from dataclasses import dataclass, field


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
