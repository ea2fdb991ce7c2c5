"""The desk as a file: a CSV of the projects; a workbook and a PDF of all that the desk shows."""

from collections.abc import Iterable
from dataclasses import asdict, dataclass
from typing import Any

from server.desk.people import PeopleLoads, PersonLoad
from server.desk.shapes import DeskCurve, DeskOut, DeskStatistics
from server.shared.files import csv_text
from server.shared.paper_tables import PaperTable, tables_on_paper
from server.shared.saying import format_value
from server.shared.words import sentence
from server.shared.workbooks import Book, ColumnHead, WorkbookPage
from server.value.tables import IN_ORDER

PROJECTS = {
    "code": "text", "name": "text", "client": "text", "manager": "text", "state": "text", "kind": "text", "status": "day",
    "baseline": "text", "mark_word": "text", "currency": "text", "bac": "money", "pv": "money", "ev": "money", "ac": "money",
    "eac": "money", "vac": "money", "spi": "ratio", "cpi": "ratio", "finish": "day", "late_days": "days", "report_due": "text",
}  # fmt: skip
SUMS = {
    "currency": "text", "projects": "number", "bac": "money", "pv": "money", "ev": "money", "ac": "money", "eac": "money",
    "vac": "money", "spi": "ratio", "cpi": "ratio",
}  # fmt: skip
LATE = {
    "project": "text", "code": "text", "name": "text", "status": "day", "baseline": "text", "baseline_date": "day", "now": "day",
    "late_days": "days",
}  # fmt: skip
RISK = {
    "code": "text", "name": "text", "mark_word": "text", "currency": "text", "bac": "money", "exposure": "money",
    "exposure_percent": "percent", "benefit": "money", "benefit_basis": "text",
}  # fmt: skip
CURVE = {"end": "day", "pv": "money", "ev": "money", "ac": "money", "forecast": "money"}
PEOPLE = {
    "code": "text", "name": "text", "units": "number", "hours": "hours", "over_hours": "hours", "first_over": "day",
    "last_over": "day", "projects": "text",
}  # fmt: skip
STATISTIC = {"code": "text", "row": "text", **dict.fromkeys(IN_ORDER, "text")}
PDF_PROJECTS = (
    *("code", "name", "manager", "status", "baseline", "mark_word", "currency"),
    *("bac", "eac", "vac", "spi", "cpi", "finish", "late_days"),
)


@dataclass(frozen=True)
class DeskTable:
    """One table of the desk: its name, columns with what they hold, and rows."""

    name: str
    columns: dict[str, str]
    rows: list[list[Any]]
    own: tuple[str, ...] = ()
    """The names of further columns: own fields, as texts."""

    @property
    def heads(self) -> list[ColumnHead]:
        """The heads of its columns."""
        named = [ColumnHead(key, sentence(f"desk.head_{key}"), kind) for key, kind in self.columns.items()]
        return [*named, *(ColumnHead(f"own{i}", name, "text") for i, name in enumerate(self.own))]


def _sheet(name: str, columns: dict[str, str], rows: Iterable[Any]) -> DeskTable:
    return DeskTable(name, columns, [[value[key] for key in columns] for value in map(asdict, rows)])


def _sheets(desk: DeskOut, statistics: DeskStatistics, people: PeopleLoads) -> list[DeskTable]:
    rows = []
    for p in statistics.projects:
        for x in p.rows:
            cells = [_in_words(getattr(x, c), x.variance_kind if c == "variance" else x.kind) for c in IN_ORDER]
            rows.append([p.code, sentence(f"value.row_{x.row}"), *cells])
    return [
        _projects(desk),
        _sheet("sums", SUMS, desk.sums),
        _sheet("late", LATE, desk.late),
        _sheet("risk", RISK, desk.projects),
        DeskTable("statistics", STATISTIC, rows),
        DeskTable("people", PEOPLE, [_person(x) for x in people.resources]),
    ]


def _projects(desk: DeskOut) -> DeskTable:
    """The projects with a column for each own field that some of them has."""
    sheet = _sheet("projects", PROJECTS, desk.projects)
    own = list(dict.fromkeys(name for p in desk.projects for name in p.own))
    rows = [[*row, *(p.own.get(name) for name in own)] for row, p in zip(sheet.rows, desk.projects, strict=True)]
    return DeskTable("projects", sheet.columns, rows, tuple(own))


def _person(x: PersonLoad) -> list[Any]:
    first, last = (x.spans[0].start, x.last_over) if x.spans else (None, None)
    return [x.code, x.name, x.units, x.hours, x.over_hours, first, last, ", ".join(x.projects)]


def _in_words(value: str | None, kind: str) -> str:
    return format_value(value, {"instant": "day", "days": "length", "hours": "number"}.get(kind, kind))


def desk_csv(desk: DeskOut) -> str:
    """The projects, a line each, as of their own status dates."""
    sheet = _projects(desk)
    return csv_text([h.title for h in sheet.heads], [["" if v is None else str(v) for v in row] for row in sheet.rows])


def desk_xlsx(desk: DeskOut, statistics: DeskStatistics, curve: DeskCurve, people: PeopleLoads) -> bytes:
    """A sheet for each table, and the curve drawn from its cells."""
    book = Book()
    for sheet in _sheets(desk, statistics, people):
        _put(book, sheet, sentence(f"desk.said_{sheet.name}"))
    points = _sheet("curve", CURVE, curve.points)
    page, first, last = _put(book, points, _of_curve(curve))
    if curve.points:
        page.chart_over_time(sentence("desk.sheet_curve"), first, last, 1, [(key, i) for i, key in enumerate(CURVE, 1) if i > 1], "G4")
    return book.content()


def _put(book: Book, sheet: DeskTable, told: str) -> tuple[WorkbookPage, int, int]:
    page = book.sheet(sentence(f"desk.sheet_{sheet.name}"))
    page.line(told)
    page.gap()
    first, last = page.table(sheet.heads, sheet.rows)
    page.freeze("A4")
    page.fit()
    return page, first, last


def _of_curve(curve: DeskCurve) -> str:
    return sentence(
        "desk.said_curve",
        currency=curve.currency,
        projects=", ".join(curve.projects) or "–",
        status=format_value(curve.status, "day"),
        left_out="; ".join(curve.left_out),
    )


def desk_pdf(desk: DeskOut, statistics: DeskStatistics, curve: DeskCurve, people: PeopleLoads) -> bytes:
    """The same on paper, the projects in fewer columns."""
    tables = []
    for sheet in _sheets(desk, statistics, people):
        keys = PDF_PROJECTS if sheet.name == "projects" else tuple(sheet.columns)
        places = [list(sheet.columns).index(k) for k in keys]
        numbers = [sheet.columns[k] not in ("text",) or (sheet.name == "statistics" and k in IN_ORDER) for k in keys]
        rows = [[_cell(row[i], sheet.columns[k]) for i, k in zip(places, keys, strict=True)] for row in sheet.rows]
        title, told = sentence(f"desk.sheet_{sheet.name}"), sentence(f"desk.said_{sheet.name}")
        tables.append(PaperTable(title, told, [sheet.heads[i].title for i in places], numbers, rows))
    points = _sheet("curve", CURVE, curve.points)
    rows = [[_cell(v, kind) for v, kind in zip(row, CURVE.values(), strict=True)] for row in points.rows]
    tables.append(PaperTable(sentence("desk.sheet_curve"), _of_curve(curve), [h.title for h in points.heads], [True] * len(CURVE), rows))
    return tables_on_paper(sentence("desk.title"), tables, sentence("desk.none"))


def _cell(value: Any, kind: str) -> str:
    if kind == "text":
        return "" if value is None else str(value)
    return format_value(None if value is None else str(value), kind)
