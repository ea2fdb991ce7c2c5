"""The sheet of somebody who is asked: as a workbook to fill in, as PDF to print, and read back whatever became of it."""

import hashlib
import json
import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date, datetime, time
from decimal import Decimal
from typing import Any

from dryledger.errors import BookInvalid
from dryledger.formats import format_number
from server.asking.keeping import keep
from server.asking.models import Request
from server.asking.selectors import WorkOut, WorkRow, work_of
from server.book.results import View, view_of
from server.exchange.sheets import Formula, Share, read_tables
from server.exchange.tables import Grid
from server.shared.paper_tables import PaperTable, tables_on_paper
from server.shared.problems import Refused
from server.shared.saying import format_date
from server.shared.words import sentence
from server.shared.workbooks import Book, ColumnHead

TOLD = ("code", "activity", "planned_start", "planned_finish", "so_far")
"""The columns that say what is asked."""
STATED = ("percent", "remaining", "actual_start", "actual_finish", "carry_to", "units_done", "note")
HOURS = ("worked", "to_go")
COLUMNS = (*TOLD, *STATED[:5], *HOURS, "note")
_TOKEN = re.compile(r"DL-([A-Za-z0-9_-]{43})")
_NUMBER = re.compile(r"(\d+)(?:[.,](\d+))?")
_NUMBERS = ("percent", "remaining", "units_done", "worked", "to_go")
DATES = ("actual_start", "actual_finish", "carry_to")
MOST_REFUSED = 200


def _so_far(x: WorkRow) -> str:
    if x.state == "not_started":
        return sentence("asking.not_begun")
    return sentence("asking.so_far", percent=format_number(round(Decimal(str(x.percent)), 1).normalize()))


def _heads(work: WorkOut) -> list[str]:
    """The columns of a sheet: hours only where somebody is asked for them, units where something is measured so."""
    hours = any(x.hours for x in work.rows)
    units = any(x.units for x in work.rows)
    out = [k for k in COLUMNS if hours or k not in HOURS]
    return [*out[:-1], "units_done", out[-1]] if units else out


def _told(x: WorkRow, key: str) -> str:
    known = {"code": x.code, "activity": x.name, "planned_start": x.planned_start, "planned_finish": x.planned_finish, "so_far": _so_far(x)}
    return known.get(key, "")


def sheet_xlsx(request: Request) -> bytes:
    """The sheet as a workbook; the line with its token lets it be read back."""
    from openpyxl.styles import Border, PatternFill, Side

    work, book = work_of(request), Book()
    page = book.sheet(sentence("asking.sheet"))
    page.line(sentence("asking.sheet_title", project=work.project_name, date=format_date(work.status)), bold=True, size=14)
    page.line(sentence("asking.sheet_for", name=request.name, by=work.by, until=format_date(work.until or work.status)))
    page.line(sentence("asking.sheet_how"))
    page.line(sentence("asking.sheet_token", token=f"DL-{request.token}"))
    page.gap()
    keys = _heads(work)
    kinds = {"planned_start": "day", "planned_finish": "day"}
    heads = [ColumnHead(k, sentence(f"asking.head_{k}"), kinds.get(k, "text")) for k in keys]
    first, last = page.table(heads, [[_told(x, k) for k in keys] for x in work.rows])
    for i, key in enumerate(keys, 1):
        page.widths[i] = max(page.widths.get(i, 0), 24 if key == "note" else 9)
        for row in range(first, last + 1) if key not in TOLD else ():
            cell = page.sheet.cell(row, i)
            cell.fill, cell.border = PatternFill("solid", fgColor="EFEDFB"), Border(bottom=Side("thin", color="B9B09B"))
            cell.number_format = "@" if key in DATES else "General"
    page.freeze(f"C{first}")
    page.fit()
    return book.content()


def sheet_pdf(request: Request) -> bytes:
    """The same to print, with room to write."""
    work = work_of(request)
    keys = _heads(work)
    shown = {"planned_start": format_date, "planned_finish": format_date}
    rows = [[shown.get(k, str)(_told(x, k)) for k in keys] for x in work.rows]
    name = sentence("asking.sheet_for", name=request.name, by=work.by, until=format_date(work.until or work.status))
    room = {i for i, k in enumerate(keys) if k not in TOLD}
    heads = [sentence(f"asking.head_{k}") for k in keys]
    table = PaperTable(name, sentence("asking.print_how"), heads, [False] * len(keys), rows, room)
    title = sentence("asking.sheet_title", project=work.project_name, date=format_date(work.status))
    return tables_on_paper(title, [table], sentence("asking.nothing_due"))


# Reading back


@dataclass
class RefusedRow:
    """A row of a sheet that was not taken into the tray: its place, its activity, and why."""

    row: int
    code: str
    why: str


@dataclass
class ReadOut:
    """What was read of a sheet: whose it is, how many answers came into the tray, how many rows are refused."""

    name: str
    page: str
    kept: int
    refused: list[RefusedRow] = field(default_factory=list)


@dataclass
class SheetRow:
    """A row that says something, as texts; or why it can't be read."""

    number: int
    code: str
    cells: dict[str, str]
    hours: dict[str, str]
    why: str = ""


def rows_of_sheet(name: str, content: bytes) -> tuple[str, list[SheetRow]]:
    """The token of a file and its rows. Raises Refused where it is no sheet, or has no token."""
    try:
        grids = read_tables(name, content)
    except BookInvalid as wrong:
        raise Refused("entry-refused", wrong.faults[0].message, 422, field="file") from None
    token = next((found.group(1) for g in grids for _, row in _lines(g) for v in row if (found := _TOKEN.search(str(v or "")))), None)
    if token is None:
        raise Refused("entry-refused", sentence("asking.no_token"), 422, field="file")
    return token, [row for g in grids for row in _read(g)]


def _lines(g: Grid) -> Iterator[tuple[int, list[Any]]]:
    yield 1, list(g.titles)
    yield from g.rows


def _read(g: Grid) -> Iterator[SheetRow]:
    """The rows under the heads, wherever these stand and in whatever order."""
    known = {sentence(f"asking.head_{k}").casefold(): k for k in (*COLUMNS, "units_done")}
    places: dict[str, int] = {}
    for number, row in _lines(g):
        texts = [" ".join(str(v or "").split()).casefold() for v in row]
        heads = {known[t]: i for i, t in reversed(list(enumerate(texts))) if t in known}
        if "code" in heads and len(heads) > 2:
            places = heads
        elif places:
            yield from _row(number, row, places)


def _row(number: int, row: list[Any], places: Mapping[str, int]) -> Iterator[SheetRow]:
    values = {k: row[i] for k, i in places.items() if i < len(row) and row[i] not in (None, "")}
    code = str(values.get("code", "")).strip()
    typed = {k: v for k, v in values.items() if k not in TOLD}
    if not typed:
        return
    out = SheetRow(number, code, {}, {})
    try:
        for key, value in typed.items():
            (out.hours if key in HOURS else out.cells)[key] = _text(key, value)
    except ValueError as no:
        out.why = str(no)
    yield out


def _text(key: str, value: Any) -> str:
    """A cell as it would be typed here. Raises ValueError with why it can't be."""
    head = sentence(f"asking.head_{key}")
    if isinstance(value, Formula):
        raise ValueError(sentence("asking.formula", head=head))
    if isinstance(value, datetime | date):
        if key not in DATES:
            raise ValueError(sentence("asking.date_there", head=head))
        return value.strftime("%Y-%m-%d") if not isinstance(value, datetime) or value.time() == time() else value.strftime("%Y-%m-%d %H:%M")
    if isinstance(value, Share):
        return format_number(round(Decimal(str(float(value))) * 100, 2).normalize())
    if isinstance(value, bool):
        raise ValueError(sentence("asking.not_read", head=head, text=str(value)))
    text = str(value).strip()
    if key in _NUMBERS:
        bare = text.removesuffix("%").strip() if key == "percent" else text
        found = _NUMBER.fullmatch(bare) if not isinstance(value, int | float) else None
        number = Decimal(str(value)) if isinstance(value, int | float) else None
        if found is not None:
            number = Decimal(f"{found.group(1)}.{found.group(2) or 0}")
        if number is not None:
            if key == "percent" and 0 < number < 1 and "%" not in text:
                raise ValueError(sentence("asking.percent_of_one", text=text))
            return format_number(round(number, 4).normalize())
    return text


def read_sheet(request: Request, rows: list[SheetRow], v: View) -> ReadOut:
    """Put the rows of a sheet into the tray of its request, each by itself."""
    out = ReadOut(request.name, request.page.code, 0)
    work = {x.code: x for x in work_of(request).rows}
    lower = {code.casefold(): code for code in work}
    seen: set[str] = set()
    for row in rows:
        code, why = lower.get(row.code.casefold(), row.code), row.why
        if not why and code not in work:
            why = sentence("asking.not_asked_for", code=row.code[:60] or "–")
        elif not why and code in seen:
            why = sentence("asking.twice", code=code)
        own = work[code].hours if code in work else []
        if not why and row.hours and not own:
            why = sentence("asking.no_hours")
        if not why:
            hours = {own[0].resource: row.hours} if row.hours else {}
            told = json.dumps([request.token, code, row.cells, hours], sort_keys=True)
            kept = keep(request, v, hashlib.sha256(told.encode()).hexdigest(), code, row.cells, hours, "sheet")
            why = "" if kept.kept else kept.why
        if why:
            out.refused.append(RefusedRow(row.number, row.code[:60], why))
        else:
            seen.add(code)
            out.kept += 1
    out.refused = out.refused[:MOST_REFUSED]
    return out


def open_request(token: str) -> Request:
    """The request that a token opens. Raises Refused where there is none, in the same words where its page is closed."""
    found = Request.objects.filter(token=token, page__state="wet").select_related("page__project", "by").first()
    if found is None:
        raise Refused("not-found", sentence("asking.closed"), 404)
    return found


def read_back(name: str, content: bytes, request: Request | None = None) -> ReadOut:
    """Read a sheet, whoever sent it, into the tray of the page that it belongs to; where a request is named it must be its sheet."""
    token, rows = rows_of_sheet(name, content)
    found = open_request(token)
    if request is not None and found.pk != request.pk:
        raise Refused("entry-refused", sentence("asking.other_sheet"), 422, field="file")
    return read_sheet(found, rows, view_of(found.page.project, found.page))
