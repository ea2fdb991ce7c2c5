"""Workbooks that people take away: tables under their heads, and line charts that follow the cells of a table.

Nothing that somebody wrote is ever run: every text is a text to the program that opens it.
"""

import io
import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any

from dryledger.formats import formats_written
from server.shared.files import escaped

FORMATS = {"ratio": "0.000", "percent": "0.0", "days": "0.0", "length": "0.0", "hours": "0.0", "number": "0.###"}
MOST_TEXT = 32_000
FACE, LINE = "Calibri", 100
"""The face of words that stand out, and how many characters a line of words holds."""
_CONTROL = re.compile(r"[\x00-\x08\x0b-\x1f\ud800-\udfff\ufffe\uffff]")
_FORBIDDEN = re.compile(r"[\[\]:*?/\\]")
INK = {"pv": "5B6472", "ev": "0F7B6C", "ac": "8A2F5B", "forecast": "4A5A78", "spi": "0F7B6C", "cpi": "8A2F5B", "spi_t": "2E4A62"}
DASHES = {"pv": "sysDash", "forecast": "sysDot", "cpi": "sysDash", "spi_t": "sysDot"}


@dataclass(frozen=True)
class ColumnHead:
    """A column: its key, its title, and what it holds: text, money, ratio, percent, days, hours, day, number."""

    key: str
    title: str
    kind: str = "text"


class Book:
    """A workbook as it is made; `digits` are those of the currency's minor unit."""

    def __init__(self, digits: int = 2) -> None:
        from openpyxl import Workbook  # the library of workbooks is read when the first one is made

        self.book = Workbook()
        self.book.remove(self.book.active)
        self.money = "#,##0" + ("." + "0" * digits if digits else "")

    def sheet(self, title: str) -> "WorkbookPage":
        """A new sheet; its title is made to suit, and to be its own."""
        bare = (_FORBIDDEN.sub(" ", title).strip("' ") or "Sheet")[:31]
        name, n = bare, 2
        while name.lower() in {s.lower() for s in self.book.sheetnames}:
            name, n = f"{bare[:27]} {n}", n + 1
        return WorkbookPage(self.book.create_sheet(name), self.money)

    def content(self) -> bytes:
        """The file."""
        out = io.BytesIO()
        self.book.save(out)
        return out.getvalue()


class WorkbookPage:
    """A sheet that is filled from the top."""

    def __init__(self, sheet: Any, money: str) -> None:
        from openpyxl.worksheet.properties import PageSetupProperties

        self.sheet, self.money, self.row, self.widths = sheet, money, 1, dict[int, int]()
        sheet.page_setup.orientation, sheet.page_setup.paperSize = "landscape", sheet.PAPERSIZE_A4
        sheet.page_setup.fitToHeight = 0
        sheet.sheet_properties.pageSetUpPr = PageSetupProperties(fitToPage=True)

    def line(self, text: str, bold: bool = False, size: int = 11) -> None:
        """A line of words; a long one runs over several columns and as many lines as it needs."""
        from openpyxl.styles import Alignment, Font

        cell = self._put(self.row, 1, text, "text")
        cell.font = Font(name=FACE, bold=bold, size=size)
        cell.alignment = Alignment(vertical="top", wrap_text=len(text) > LINE)
        if len(text) > LINE:
            self.sheet.merge_cells(start_row=self.row, end_row=self.row, start_column=1, end_column=8)
            self.sheet.row_dimensions[self.row].height = 15 * -(-len(text) // LINE)
        self.row += 1

    def gap(self) -> None:
        """An empty row."""
        self.row += 1

    def table(
        self, heads: Sequence[ColumnHead], rows: Iterable[Sequence[Any]], totals: int = 0, kinds: Sequence[str] = ()
    ) -> tuple[int, int]:
        """A table; `totals` are its last rows, `kinds` those of each row where columns hold several. Answers its first and last row."""
        from openpyxl.styles import Alignment, Border, Font, Side

        for i, head in enumerate(heads, 1):
            cell = self._put(self.row, i, head.title, "text")
            left = head.kind in ("text", "mark")
            cell.font = Font(name=FACE, bold=True)
            cell.alignment = Alignment(horizontal="left" if left else "right", wrap_text=True, indent=1 if left and i > 1 else 0)
            cell.border = Border(bottom=Side("thin"))
        first = self.row + 1
        for row in rows:
            self.row += 1
            kind = kinds[self.row - first] if kinds else ""
            for i, (head, value) in enumerate(zip(heads, row, strict=True), 1):
                self._put(self.row, i, value, kind if kind and i > 1 else head.kind)
        last = self.row
        for r in range(last - totals + 1, last + 1):
            for i in range(1, len(heads) + 1):
                self.sheet.cell(r, i).font = Font(name=FACE, bold=True)
                self.sheet.cell(r, i).border = Border(top=Side("double"), bottom=Side("thin"))
        self.row += 2
        return first, last

    def freeze(self, cell: str) -> None:
        """Keep what is above and left of a cell in sight."""
        self.sheet.freeze_panes = cell

    def fit(self) -> None:
        """Give the columns the room that their cells need, within reason."""
        from openpyxl.utils import get_column_letter

        for i, width in self.widths.items():
            self.sheet.column_dimensions[get_column_letter(i)].width = min(max(width + 2, 9), 60)

    def chart_over_time(self, title: str, first: int, last: int, time: int, columns: Sequence[tuple[str, int]], at: str) -> None:
        """Lines over dates, from the cells of a table: `time` and `columns` are places of its columns."""
        from openpyxl.chart import Reference, ScatterChart, Series

        chart = ScatterChart()
        chart.style, chart.scatterStyle = 2, "lineMarker"
        chart.x_axis.number_format, chart.x_axis.majorTickMark = "mmm yy", "out"
        chart.y_axis.number_format = "#,##0"
        dates = Reference(self.sheet, min_col=time, min_row=first, max_row=last)
        for key, column in columns:
            values = Reference(self.sheet, min_col=column, min_row=first - 1, max_row=last)
            self._line(chart, key, Series(values, dates, title_from_data=True))
        self._place(chart, title, at)

    def chart_by_row(self, title: str, first: int, last: int, names: int, columns: Sequence[tuple[str, int]], at: str) -> None:
        """Lines from row to row of a table; `names` is the place of the column that names the rows."""
        from openpyxl.chart import LineChart, Reference, Series

        chart = LineChart()
        chart.y_axis.number_format = "0.00"
        for key, column in columns:
            values = Reference(self.sheet, min_col=column, min_row=first - 1, max_row=last)
            self._line(chart, key, Series(values, title_from_data=True))
        chart.set_categories(Reference(self.sheet, min_col=names, min_row=first, max_row=last))
        self._place(chart, title, at)

    def bars(self, title: str, first: int, last: int, names: int, columns: Sequence[tuple[str, int]], at: str) -> None:
        """Upright bars from row to row of a table; `names` is the place of the column that names the rows."""
        from openpyxl.chart import BarChart, Reference, Series

        chart = BarChart()
        chart.type, chart.grouping, chart.gapWidth = "col", "clustered", 60
        chart.y_axis.number_format = "#,##0"
        chart.x_axis.number_format = day_format().split(" yyyy")[0].rstrip(",")
        for key, column in columns:
            series = Series(Reference(self.sheet, min_col=column, min_row=first - 1, max_row=last), title_from_data=True)
            series.graphicalProperties.solidFill = INK.get(key.removeprefix("added_"), "1B2333")
            chart.series.append(series)
        chart.set_categories(Reference(self.sheet, min_col=names, min_row=first, max_row=last))
        self._place(chart, title, at)

    def _line(self, chart: Any, key: str, series: Any) -> None:
        series.marker.symbol, series.smooth = "none", False
        line = series.graphicalProperties.line
        line.solidFill, line.width = INK.get(key, "1B2333"), 22_000
        if key in DASHES:
            line.dashStyle = DASHES[key]
        chart.series.append(series)

    def _place(self, chart: Any, title: str, at: str) -> None:
        chart.title, chart.width, chart.height = title, 24, 11
        chart.x_axis.delete = chart.y_axis.delete = False
        chart.legend.position = "b"
        chart.display_blanks = "gap"
        self.sheet.add_chart(chart, at)

    def _put(self, row: int, column: int, value: Any, kind: str) -> Any:
        from openpyxl.styles import Alignment

        cell = self.sheet.cell(row, column)
        if value is None or value == "":
            return cell
        known = _known(value, kind)
        if isinstance(known, str):
            cell.value = escaped(_CONTROL.sub("", known)[:MOST_TEXT])
            cell.data_type = "s"
            if column > 1:
                cell.alignment = Alignment(indent=1)
            width = max(len(line) for line in known.split("\n"))
        else:
            cell.value = known
            cell.number_format = self.money if kind == "money" else day_format() if kind == "day" else FORMATS.get(kind, "General")
            width = 13
        if kind != "text" or column > 1 or width < 40:
            self.widths[column] = max(self.widths.get(column, 0), min(width, 45))
        return cell


def day_format() -> str:
    """How cells show dates: in the order of who takes the workbook away. Numbers are shown as the program that opens it does."""
    return "mmm d, yyyy" if formats_written().month_first else "d mmm yyyy"


def _known(value: Any, kind: str) -> Any:
    """A value as a workbook keeps it: numbers and dates as such where its kind says so, all else as text."""
    if kind in ("text", "mark") or not isinstance(value, str):
        return value if isinstance(value, int | float | date) and not isinstance(value, bool) else str(value)
    try:
        if kind == "day":
            return datetime.fromisoformat(value).date() if value > "1901" else value
        return float(value)
    except ValueError:
        return value
