"""Tables as read into a document, with every cell that can't be read told by table, row and column."""

import json
import re
from dataclasses import dataclass, field
from datetime import date, datetime
from decimal import Decimal, InvalidOperation
from typing import Any

from dryledger.book.lists import LISTS
from dryledger.entry.grammar import TwoWays, read_day, read_number, read_span
from dryledger.entry.plan_cells import type_shifts
from dryledger.errors import EntryRefused
from server.exchange.sheets import FORMULA, Formula, Share
from server.exchange.tables import BY_KEY, HAVE_FIELDS, OTHER, OWN_FIELD, PROJECT, TABLES, Col, Doc, FileTable, Grid, inner, put
from server.shared.words import sentence


@dataclass(frozen=True)
class Trouble:
    """Something in a file that can't be taken: where, and what to do."""

    table: str
    row: int | None
    column: str | None
    message: str


@dataclass
class Read:
    """The document of a file's tables, where each part of it came from, and what is wrong or was not known."""

    document: Doc
    origin: dict[str, tuple[str, int]] = field(default_factory=dict)
    """For a path such as activities[3] or project.start, the table and row it came from."""
    troubles: list[Trouble] = field(default_factory=list)
    unknown: list[str] = field(default_factory=list)
    """Tables and columns that no one knows here."""
    given: dict[str, set[str]] = field(default_factory=dict)
    """For each list the keys that its table has columns for."""
    after: list[tuple[int, str, str]] = field(default_factory=list)
    """Row, activity code and text of each filled cell of the column Predecessors."""


def _letters(title: str) -> str:
    return re.sub(r"[^a-z0-9]", "", title.lower())


def read_grids(grids: list[Grid]) -> Read:
    """All tables as one document. A table is known by its title; a lone one also by its columns."""
    out = Read({"format": "dry-ledger-book", "version": 1})
    titles = {_letters(t.title): t for t in TABLES}
    rows_by_name: dict[str, dict[tuple[str, ...], Doc]] = {}
    known: dict[str, Grid] = {}
    for grid in grids:
        if not grid.titles:
            continue
        if _letters(grid.title) == "project":
            _read_project(grid, out)
        elif (table := titles.get(_letters(grid.title))) is not None or (len(grids) == 1 and (table := _by_columns(grid)) is not None):
            known[table.key] = grid
        else:
            out.unknown.append(f"table “{grid.title}”")
    for table in TABLES:
        if table.key in known:
            rows_by_name[table.key] = _read_table(table, known[table.key], out, rows_by_name)
    _settle(out)
    return out


def _settle(out: Read) -> None:
    """What needs the other tables: weeks without a shift, lone rows, and own fields read as what they hold."""
    _lone_rows(out)
    for calendar in (*out.document.get("calendars", []), *(c for b in out.document.get("baselines", []) for c in b.get("calendars", []))):
        calendar.setdefault("week", {})
    kinds = {str(f.get("code")): f.get("kind", "text") for f in out.document.get("fields", [])}
    project = out.document.get("project") or {}
    for x in (project, *(x for rows in HAVE_FIELDS for x in out.document.get(rows, []))):
        for code, value in list((x.get("fields") or {}).items()):
            title, row = out.origin[f"project.fields.{code}" if x is project else x["-path"]]
            kind = {"number": "number", "yes_no": "flag"}.get(kinds.get(code, "text"), "text")
            x["fields"][code] = _read(value, Col(f"{OWN_FIELD}{code}", code, kind), title, row, f"{OWN_FIELD}{code}", out)


def _lone_rows(out: Read) -> None:
    """Lists that the book writes as an object, out of the one row of their table."""
    for key, of in LISTS.items():
        if of.single and (rows := out.document.pop(key, [])):
            out.document |= of.written(rows)
            out.origin[key] = out.origin[f"{key}[0]"]
            for i in range(1, len(rows)):
                table, row = out.origin[f"{key}[{i}]"]
                out.troubles.append(Trouble(table, row, None, sentence("untabling.one_row", title=of.title)))


def _by_columns(grid: Grid) -> FileTable | None:
    """The table whose columns a lone sheet has most of."""
    have = {_letters(t) for t in grid.titles}
    scores = {t.key: sum(1 for c in t.columns if _letters(c.title) in have or have & {_letters(a) for a in c.also}) for t in TABLES}
    best = max(scores, key=lambda k: (scores[k], k == "activities"))
    return BY_KEY[best] if scores[best] >= 2 else None


def _read_project(grid: Grid, out: Read) -> None:
    columns = {_letters(c.title): c for c in PROJECT}
    project: Doc = {}
    for number, row in grid.rows:
        title, value = (str(row[0]) if row and row[0] is not None else ""), (row[1] if len(row) > 1 else None)
        c = columns.get(_letters(title))
        if c is not None:
            cell = _read(value, c, grid.title, number, "Value", out)
            if cell is not None:
                put(project, c.key, cell)
            out.origin[f"project.{c.key}"] = (grid.title, number)
        elif title.startswith(OWN_FIELD) and value is not None and value != "":
            code = title.removeprefix(OWN_FIELD).strip()
            put(project, f"fields.{code}", value)
            out.origin[f"project.fields.{code}"] = (grid.title, number)
        elif _letters(title) in ("otherkeys", "otherkeysofthebook"):
            kept = _read(value, OTHER, grid.title, number, "Value", out)
            (project if _letters(title) == "otherkeys" else out.document).update(kept if isinstance(kept, dict) else {})
        else:
            out.unknown.append(sentence("untabling.row_project", title=title))
    out.document["project"] = project


def _read_table(table: FileTable, grid: Grid, out: Read, above: dict[str, dict[tuple[str, ...], Doc]]) -> dict[tuple[str, ...], Doc]:
    wanted = {_letters(x): c for c in table.columns for x in (c.title, *c.also)}
    columns: list[Col | None] = []
    for title in grid.titles:
        c = wanted.get(_letters(title))
        if c is None and table.key in HAVE_FIELDS and title.startswith(OWN_FIELD):
            c = Col(title, f"fields.{title.removeprefix(OWN_FIELD).strip()}", "free")
        if c is None and _letters(title) == _letters(OTHER.title):
            c = OTHER
        if c is None and title:
            out.unknown.append(sentence("untabling.column", title=title, title_2=grid.title))
        columns.append(c)
    named = table.owner if table.under else 0
    out.given[table.key] = {c.key for c in columns if c is not None}
    found: dict[tuple[str, ...], Doc] = {}
    names = [c.key for c in table.columns[:named]]
    for number, row in grid.rows:
        doc: Doc = {}
        for c, value in zip(columns, row, strict=False):
            if c is None or value is None or value == "":
                continue
            cell = _read(value, c, grid.title, number, c.title, out)
            if cell is None:
                continue
            if c is OTHER:
                for key, kept in (cell if isinstance(cell, dict) else {}).items():
                    put(doc, key, kept)
            elif c.key == "-after":
                out.after.append((number, "", str(cell)))
            else:
                put(doc, c.key, cell)
        if out.after and out.after[-1][0] == number and out.after[-1][1] == "" and table.key == "activities":
            out.after[-1] = (number, str(doc.get("code", "")), out.after[-1][2])
        owner = tuple(str(doc.pop(n, "")) for n in names)
        at, path = _place(table, owner, out, above, grid.title, number)
        if at is None:
            continue
        out.origin[f"{path}[{len(at)}]"] = (grid.title, number)
        at.append(doc)
        doc_name = (*owner, str(doc.get("code", "")))
        found.setdefault(doc_name, doc)
        doc.setdefault("-path", f"{path}[{len(at) - 1}]")
    return found


def _place(
    table: FileTable, owner: tuple[str, ...], out: Read, above: dict[str, dict[tuple[str, ...], Doc]], title: str, number: int
) -> tuple[list[Doc] | None, str]:
    """The list that a row goes into, and its path."""
    if table.under is None:
        return out.document.setdefault(table.key, []), table.key
    parent = above.get(table.under, {}).get(owner)
    if parent is None:
        named = " of ".join(f"“{o}”" for o in reversed(owner))
        what = BY_KEY[table.under].title
        out.troubles.append(
            Trouble(title, number, table.columns[table.owner - 1].title, sentence("untabling.no_table", key=named, what=what))
        )
        return None, ""
    *way, last = inner(table.key)
    at = parent
    for part in way:
        at = at.setdefault(part, {})
    path = ".".join([str(parent["-path"]), *way, last])
    found: list[Doc] = at.setdefault(last, [])
    return found, path


def bare(document: Any) -> Any:
    """The document without the paths noted while reading."""
    if isinstance(document, dict):
        return {k: bare(v) for k, v in document.items() if k != "-path"}
    return [bare(v) for v in document] if isinstance(document, list) else document


# Cells


def _read(value: Any, c: Col, table: str, row: int, column: str, out: Read) -> Any:
    if isinstance(value, Formula):
        out.troubles.append(Trouble(table, row, column, FORMULA))
        return None
    try:
        return _READERS.get(c.kind, _text)(value)
    except (ValueError, InvalidOperation, EntryRefused) as wrong:
        shown = str(value)[:40]
        out.troubles.append(
            Trouble(
                table,
                row,
                column,
                str(wrong) if isinstance(wrong, Unreadable | EntryRefused) else sentence("untabling.cant_read", shown=shown),
            )
        )
        return None


class Unreadable(ValueError):
    """A cell that can't be read, in words."""


def _text(value: Any) -> Any:
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, datetime):
        return value.isoformat(timespec="minutes") if value.hour or value.minute else value.date().isoformat()
    if isinstance(value, float) and value == int(value):
        value = int(value)
    return str(value)


def _word(value: Any) -> Any:
    return str(_text(value)).strip()


def _decimal(value: Any) -> Decimal:
    if isinstance(value, bool):
        raise Unreadable(sentence("untabling.expected_number_got_yes"))
    if isinstance(value, int | float | Decimal):
        return Decimal(str(value))
    try:
        found = read_number(str(value), file=True)
    except TwoWays:
        raise Unreadable(sentence("untabling.read_two_ways_write", value=value)) from None
    if found is None:
        raise Unreadable(sentence("untabling.number", value=str(value)[:40]))
    return found


def _number(value: Any) -> Any:
    n = _decimal(value)
    return int(n) if n == n.to_integral_value() else float(n)


def _percent(value: Any) -> Any:
    if isinstance(value, Share):
        return _number(Decimal(str(float(value))) * 100)
    return _number(value.strip().removesuffix("%") if isinstance(value, str) else value)


def _amount(value: Any) -> Any:
    if isinstance(value, str) and re.fullmatch(r"-?\d{1,15}(\.\d{1,12})?", value):
        return value
    n = _decimal(value)
    return f"{n:.2f}" if n == n.quantize(Decimal("0.01")) and isinstance(value, int | float) else f"{n:f}"


def _span(value: Any) -> Any:
    if isinstance(value, int | float) and not isinstance(value, bool):
        return f"{Decimal(str(value)).normalize():f}d"
    text = str(value).strip()
    try:
        found = read_span(text, file=True)
    except TwoWays:
        found = None
    if found is None:
        raise Unreadable(sentence("untabling.duration_write_working_time", value=text[:40]))
    return f"{found[0]:f}{found[1]}"


def _when(value: Any) -> datetime | date:
    if isinstance(value, datetime | date):
        return value
    if isinstance(value, int | float):
        raise Unreadable(sentence("untabling.date_format_cell_date", value=value))
    text = str(value).strip().lower()
    found = re.fullmatch(r"(.*?)(?:[t\s]+(\d{1,2}):(\d{2})(?::00)?)?", text)
    assert found is not None
    day = _date(found[1].strip(), str(value))
    if found[2] is None:
        return day
    return datetime(day.year, day.month, day.day, int(found[2]), int(found[3]))


def _date(text: str, shown: str) -> date:
    try:
        found = read_day(text)
    except TwoWays as ways:
        raise Unreadable(sentence("untabling.date_read_two_ways", value=shown[:40], ways=ways)) from None
    if found is None:
        raise Unreadable(sentence("untabling.date_write", value=shown[:40]))
    return found


def _instant(value: Any) -> Any:
    at = _when(value)
    return at.isoformat(timespec="minutes") if isinstance(at, datetime) else f"{at.isoformat()}T00:00"


def _day(value: Any) -> Any:
    at = _when(value)
    return (at.date() if isinstance(at, datetime) else at).isoformat()


def _flag(value: Any) -> Any:
    if isinstance(value, bool):
        return value
    text = str(value).strip().lower()
    if text in ("yes", "y", "true", "x", "1"):
        return True
    if text in ("no", "n", "false", "0"):
        return False
    raise Unreadable(sentence("untabling.neither_yes_nor_no", value=str(value)[:40]))


def _json(value: Any) -> Any:
    text = str(value).strip()
    if not text.startswith(("[", "{")):
        return [p.strip() for p in re.split(r"[;,]", text) if p.strip()]
    return json.loads(text)


def _scalar(value: Any) -> Any:
    """A number, true or false, a list of them in brackets, else a text as it stands."""
    if not isinstance(value, str):
        return _day(value) if isinstance(value, datetime | date) else value
    try:
        return json.loads(value, parse_float=Decimal)
    except ValueError:
        return value


def _free(value: Any) -> Any:
    """The value of an own field as it stands, until it is known what the field holds."""
    return _day(value) if isinstance(value, datetime | date) else value


_READERS: dict[str, Any] = {
    "code": _word,
    "number": _number,
    "percent": _percent,
    "amount": _amount,
    "span": _span,
    "lag": _span,
    "instant": _instant,
    "day": _day,
    "flag": _flag,
    "shifts": lambda v: type_shifts(str(v)),
    "texts": lambda v: [p.strip() for p in str(v).split(";") if p.strip()],
    "scalar": _scalar,
    "json": _json,
    "free": _free,
}
