"""The project's own page: its fields and registers."""

from dataclasses import dataclass
from typing import Any

from dryledger.book.registers import REGISTERS
from dryledger.entry.rhythms import rhythm_text
from server.book.access import Access
from server.book.documents import rows_of
from server.book.models import Choice
from server.book.workspace import workspace_of
from server.shared.named import Named


@dataclass
class RegisterColumn:
    """A column of a register."""

    key: str
    kind: str
    options: list[str]


@dataclass
class RegisterOut:
    """A register with its columns and rows; each row holds its values by column."""

    key: str
    columns: list[RegisterColumn]
    rows: list[dict[str, Any]]


@dataclass
class ProjectPage:
    """The project's own page."""

    revision: int
    project: dict[str, Any]
    states: list[str]
    calendars: list[Named]
    registers: list[RegisterOut]


def project_page(access: Access) -> ProjectPage:
    """The project's fields and registers."""
    project = access.project
    registers = []
    for key, columns in REGISTERS.items():
        rows = [{"id": f"g{r.pk}", "code": r.code, "name": r.name, **r.values} for r in rows_of(project, key)]
        registers.append(RegisterOut(key, [RegisterColumn(c.key, c.kind, list(c.options)) for c in columns], rows))
    return ProjectPage(
        project.revision,
        {"id": f"p{project.pk}", **project.to_book(), "rhythm": rhythm_text(workspace_of(project).book.project.rhythm)},
        [c.word for c in Choice.objects.filter(list="state")],
        [Named(f"k{c.pk}", c.code, c.name) for c in rows_of(project, "calendars")],
        registers,
    )
