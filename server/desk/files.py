"""The desk as a file: a CSV of the projects, or a workbook with their sums by currency and the late milestones."""

from dataclasses import asdict

from server.desk.shapes import DeskOut
from server.shared.files import csv_text
from server.shared.words import sentence
from server.shared.workbooks import Book, Head

PROJECTS = {
    "code": "text", "name": "text", "manager": "text", "status": "day", "baseline": "text", "mark_word": "text", "currency": "text",
    "bac": "money", "pv": "money", "ev": "money", "ac": "money", "eac": "money", "vac": "money", "spi": "ratio", "cpi": "ratio",
    "finish": "day", "late_days": "days",
}  # fmt: skip
SUMS = {
    "currency": "text", "projects": "number", "bac": "money", "pv": "money", "ev": "money", "ac": "money", "eac": "money",
    "vac": "money", "spi": "ratio", "cpi": "ratio",
}  # fmt: skip
LATE = {
    "project": "text", "code": "text", "name": "text", "status": "day", "baseline": "text", "baseline_date": "day", "now": "day",
    "late_days": "days",
}  # fmt: skip


def _heads(columns: dict[str, str]) -> list[Head]:
    return [Head(key, sentence(f"desk.head_{key}"), kind) for key, kind in columns.items()]


def desk_csv(desk: DeskOut) -> str:
    """The projects, a line each, as of their own status dates."""
    rows = ([value[key] for key in PROJECTS] for value in map(asdict, desk.projects))
    return csv_text([h.title for h in _heads(PROJECTS)], [["" if v is None else str(v) for v in row] for row in rows])


def desk_xlsx(desk: DeskOut) -> bytes:
    """The projects, their sums by currency and the late milestones, a sheet each."""
    book = Book()
    for title, columns, rows in (("projects", PROJECTS, desk.projects), ("sums", SUMS, desk.sums), ("late", LATE, desk.late)):
        page = book.sheet(sentence(f"desk.sheet_{title}"))
        page.line(sentence(f"desk.said_{title}"))
        page.gap()
        page.table(_heads(columns), ([value[key] for key in columns] for value in map(asdict, rows)))
        page.freeze("A4")
        page.fit()
    return book.content()
