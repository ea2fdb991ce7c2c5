"""Tables to and from files: XLSX workbooks and CSV. Nothing in a file is ever run, and a file can't fill the memory."""

import csv
import io
import re
import zipfile
import zlib
from collections.abc import Iterator
from datetime import date, datetime, timedelta
from pathlib import Path
from typing import Any

from dryledger.errors import BookInvalid, Fault
from server.exchange.tables import BY_KEY, Grid
from server.shared.files import csv_text, escaped, unescaped
from server.shared.problems import Refused
from server.shared.words import sentence

MOST_BYTES = 64 * 1024 * 1024
MOST_UNPACKED, MOST_TEXT = 160 * 1024 * 1024, 64 * 1024 * 1024
"""What a workbook, and what CSV files together, may unpack to."""
MOST_CELLS = 2_500_000
"""The cells of a file, empty ones included: each costs memory and time."""
CHUNK = 1 << 16
MOST_EMPTY = 5_000
"""Empty rows after which a table counts as ended."""
LONGEST = 32_767
"""The characters that a cell of a workbook holds."""
MOST_ROWS, MOST_COLUMNS = 300_000, 200
FORMULA = sentence("sheets.cell_holds_formula_nothing")
_DAY = re.compile(r"\d{4}-\d{2}-\d{2}")
_INSTANT = re.compile(r"\d{4}-\d{2}-\d{2}T\d{2}:\d{2}")


class Share(float):
    """A number that its cell shows as a percentage: 0.45 stands there as 45 %."""


class Formula:
    """A cell that held a formula."""


# Writing


def to_xlsx(grids: list[Grid]) -> bytes:
    """A workbook with a sheet a table. Raises Refused where a text is longer than a cell can be."""
    for value in (v for grid in grids for _, row in grid.rows for v in row if isinstance(v, str) and len(v) > LONGEST // 5):
        if len(escaped(_printable(value))) > LONGEST:
            told = sentence("sheets.characters_cell_workbook_holds", value=value[:40], count=len(value), longest=LONGEST)
            raise Refused("too-long", sentence("sheets.take_json_csv_instead", told=told), 422)
    import openpyxl  # the library of workbooks is read when one is asked for
    from openpyxl.styles import Font

    book = openpyxl.Workbook(write_only=True)
    for grid in grids:
        sheet = book.create_sheet(grid.title[:31])
        sheet.freeze_panes = "B2"
        heads = []
        for title in grid.titles:
            cell = openpyxl.cell.WriteOnlyCell(sheet, title)
            cell.font = Font(bold=True)
            heads.append(cell)
        sheet.append(heads)
        kinds = _kinds(grid)
        for _, row in grid.rows:
            sheet.append([_written(sheet, value, kind) for value, kind in zip(row, kinds, strict=True)])
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _kinds(grid: Grid) -> list[str]:
    table = next((t for t in BY_KEY.values() if t.title == grid.title), None)
    kinds = {c.title: c.kind for c in table.columns} if table else {}
    return [kinds.get(t, "text") for t in grid.titles]


def _written(sheet: Any, value: Any, kind: str) -> Any:
    """Dates as dates and money as numbers where a spreadsheet keeps them exactly; all other text as text."""
    import openpyxl

    if isinstance(value, str):
        if kind == "instant" and _INSTANT.fullmatch(value) and value > "1901":
            return _styled(sheet, datetime.fromisoformat(value), "yyyy-mm-dd hh:mm")
        if kind == "day" and _DAY.fullmatch(value) and value > "1901":
            return _styled(sheet, date.fromisoformat(value), "yyyy-mm-dd")
        if kind == "amount" and len(value) <= 14 and re.fullmatch(r"-?\d+\.\d\d", value):
            return _styled(sheet, float(value), "#,##0.00")
        cell = openpyxl.cell.WriteOnlyCell(sheet, escaped(_printable(value)))
        cell.data_type = "s"
        return cell
    if isinstance(value, float) and float(f"{value:.15g}") != value:
        return repr(value)  # a workbook keeps 15 digits of a number; as a text it comes back whole
    return value


_HIDDEN = re.compile(r"\\x(0[0-8bcdef]|1[0-9a-f]|5c)")


def _printable(text: str) -> str:
    """A text with what a workbook can't hold written as \\xNN; `_seen` brings it back."""
    text = text.replace("\\x", "\\x5cx")
    return re.sub(r"[\x00-\x08\x0b-\x1f]", lambda m: f"\\x{ord(m[0]):02x}", text)


def _seen(text: str) -> str:
    return _HIDDEN.sub(lambda m: chr(int(m[1], 16)), text)


def _styled(sheet: Any, value: Any, style: str) -> Any:
    import openpyxl

    cell = openpyxl.cell.WriteOnlyCell(sheet, value)
    cell.number_format = style
    return cell


def to_csvs(grids: list[Grid]) -> dict[str, str]:
    """A CSV text a table, by file name."""
    out = {}
    for grid in grids:
        out[f"{grid.title}.csv"] = csv_text(
            grid.titles, (("" if v is None else v if isinstance(v, str) else _bare(v) for v in row) for _, row in grid.rows)
        )
    return out


def _bare(value: Any) -> str:
    return {True: "yes", False: "no"}[value] if isinstance(value, bool) else str(value)


# Reading


class _Budget:
    """How many cells may still be read."""

    def __init__(self) -> None:
        self.left = MOST_CELLS

    def take(self, count: int) -> None:
        self.left -= count
        if self.left < 0:
            raise BookInvalid([Fault("", sentence("sheets.file_more_cells_bring", most_cells=MOST_CELLS))])


def read_tables(name: str, content: bytes) -> list[Grid]:
    """The tables of a file: a workbook, one CSV, or CSVs in a zip. Raises BookInvalid where it is none of these."""
    if len(content) > MOST_BYTES:
        raise BookInvalid([Fault("", sentence("sheets.file_larger_mb"))])
    if content[:2] == b"PK":
        return _from_zip(content)
    if content[:4] == b"\xd0\xcf\x11\xe0":
        raise BookInvalid([Fault("", sentence("sheets.old_locked_workbook_save"))])
    return [csv_grid(Path(name).stem, content, _Budget())]


def read_folder(folder: Path) -> list[Grid]:
    """The tables of a folder of CSV files."""
    files = sorted(folder.glob("*.csv"))
    if not files:
        raise BookInvalid([Fault("", sentence("sheets.no_csv_file", name=folder.name))])
    if sum(f.stat().st_size for f in files) > MOST_TEXT:
        raise BookInvalid([Fault("", sentence("sheets.files_larger_mb_together"))])
    budget = _Budget()
    return [csv_grid(f.stem, f.read_bytes(), budget) for f in files]


def _from_zip(content: bytes) -> list[Grid]:
    try:
        with zipfile.ZipFile(io.BytesIO(content)) as z:
            infos = z.infolist()
            book = any(i.filename == "[Content_Types].xml" for i in infos)
            _check_unpacked(z, infos, MOST_UNPACKED if book else MOST_TEXT)
            if book:
                return list(_from_xlsx(content))
            budget = _Budget()
            return [csv_grid(Path(i.filename).stem, z.read(i), budget) for i in infos if i.filename.lower().endswith(".csv")]
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, EOFError, zlib.error, OSError):
        raise BookInvalid([Fault("", sentence("sheets.file_damaged_locked_password"))]) from None


def _check_unpacked(z: zipfile.ZipFile, infos: list[zipfile.ZipInfo], most: int) -> None:
    """Unpack everything once in small pieces, keeping nothing: what a file says of its size need not be true."""
    left = most
    if len(infos) > 5_000 or sum(i.file_size for i in infos) > most:
        raise BookInvalid([Fault("", sentence("sheets.file_unpacks_more_any"))])
    for info in infos:
        with z.open(info) as part:
            while piece := part.read(CHUNK):
                left -= len(piece)
                if left < 0:
                    raise BookInvalid([Fault("", sentence("sheets.file_unpacks_more_any"))])


def _from_xlsx(content: bytes) -> Iterator[Grid]:
    import openpyxl
    from openpyxl.utils.exceptions import InvalidFileException

    try:
        book = openpyxl.load_workbook(io.BytesIO(content), read_only=True, data_only=False, keep_links=False)
    except (InvalidFileException, KeyError, ValueError, TypeError, zipfile.BadZipFile, SyntaxError, AttributeError, IndexError):
        raise BookInvalid([Fault("", sentence("sheets.file_workbook_read_save"))]) from None
    budget = _Budget()
    for sheet in book.worksheets:
        try:
            yield _filled(sheet.title, (([_cell(c) for c in row]) for row in sheet.iter_rows(max_col=MOST_COLUMNS)), budget)
        except (KeyError, ValueError, TypeError, SyntaxError, AttributeError, IndexError, zipfile.BadZipFile):
            raise BookInvalid([Fault("", sentence("sheets.sheet_cant_read_file", title=sheet.title))]) from None


def _cell(cell: Any) -> Any:
    if cell.data_type == "f":
        return Formula()
    value = cell.value
    if isinstance(value, int | float) and not isinstance(value, bool) and "%" in (cell.number_format or ""):
        return Share(value)
    if isinstance(value, str):
        return unescaped(_seen(value)) or None
    if isinstance(value, datetime):
        value = (value + timedelta(seconds=30)).replace(second=0, microsecond=0)
    return value


def csv_grid(title: str, content: bytes, budget: "_Budget | None" = None) -> Grid:
    """One table from CSV text. Raises BookInvalid where it is none."""
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise BookInvalid([Fault("", sentence("sheets.utf_text_save_csv", title=title))]) from None
    if "\0" in text:
        raise BookInvalid([Fault("", sentence("sheets.csv_file", title=title))])
    head = text.split("\n", 1)[0]
    mark = max(",;\t", key=head.count)
    try:
        rows = csv.reader(_lines(title, text, mark), delimiter=mark)
        return _filled(title, ([unescaped(c) or None for c in row] for row in rows), budget or _Budget())
    except csv.Error as wrong:
        raise BookInvalid([Fault("", sentence("sheets.csv_broken", title=title, wrong=wrong))]) from None


def _lines(title: str, text: str, mark: str) -> Iterator[str]:
    """The lines of a text; one of more cells than any table has is refused before it is taken apart."""
    for line in io.StringIO(text, newline=""):
        if len(line) > MOST_COLUMNS and line.count(mark) > MOST_COLUMNS * 10:
            raise BookInvalid([Fault("", sentence("sheets.row_more_columns", title=title, most_columns=MOST_COLUMNS))])
        yield line


def _filled(title: str, rows: Iterator[list[Any]], budget: _Budget) -> Grid:
    """The rows that hold anything, under the first one, which holds the titles."""
    out, empty = Grid(title, []), 0
    for number, row in enumerate(rows, 1):
        budget.take(len(row) or 1)
        while row and (row[-1] is None or row[-1] == ""):
            row.pop()
        if not row:
            empty += 1
            if empty > MOST_EMPTY:
                break
            continue
        empty = 0
        if not out.titles:
            out.titles = ["" if v is None or isinstance(v, Formula) else str(v).strip() for v in row]
        elif len(out.rows) >= MOST_ROWS:
            raise BookInvalid([Fault("", sentence("sheets.more_rows", title=title, most_rows=MOST_ROWS))])
        else:
            out.rows.append((number, row))
    return out
