"""A book's document as tables, for writing."""

import json
from typing import Any

from dryledger.book.lists import LISTS
from dryledger.book.registers import FIELD_USUAL
from server.exchange.tables import HAVE_FIELDS, OTHER, OWN_FIELD, PROJECT, TABLES, Col, Doc, FileTable, Grid, get, inner

Owned = tuple[list[Any], Doc]
"""A row with the cells that name the row it belongs to."""


def tables_of(document: Doc) -> list[Grid]:
    """Every table that has rows, the project first; reading them back gives the same document."""
    out = [_project(document)]
    rows: dict[str, list[Owned]] = {}
    for table in TABLES:
        rows[table.key] = _rows(table, document, rows)
        if rows[table.key]:
            out.append(_grid(table, rows[table.key], document))
    return out


def _rows(table: FileTable, document: Doc, known: dict[str, list[Owned]]) -> list[Owned]:
    if table.under is None:
        return [([], x) for x in LISTS[table.key].rows_in(document) or []]
    found = []
    for names, row in known[table.under]:
        at: Any = row
        for part in inner(table.key):
            at = at.get(part) if isinstance(at, dict) else None
        mine = [*names, row["code"]][: table.owner]
        found += [(mine, x) for x in at or []]
    return found


def _grid(table: FileTable, rows: list[Owned], document: Doc) -> Grid:
    scope = HAVE_FIELDS.get(table.key)
    own = [str(f["code"]) for f in document.get("fields", []) if f.get("of", FIELD_USUAL["of"]) == scope]
    columns = [c for c in table.columns if not c.key.startswith("-")]
    named = table.owner if table.under else 0
    others = any(_others(x) for _, x in rows)
    titles = [c.title for c in columns] + [f"{OWN_FIELD}{c}" for c in own] + [OTHER.title] * others
    after = _after(document) if table.key == "activities" else {}
    if after:
        titles.insert(5, "Predecessors")
    out = Grid(table.title, titles)
    for i, (names, x) in enumerate(rows):
        cells = [*names, *(get(x, c.key) for c in columns[named:])]
        cells = [_cell(value, c) for value, c in zip(cells, columns, strict=True)]
        if after:
            cells.insert(5, "; ".join(after.get(x["code"], [])))
        cells += [(x.get("fields") or {}).get(c) for c in own]
        out.rows.append((i + 2, cells + [_others(x)] * others))
    return out


def _after(document: Doc) -> dict[str, list[str]]:
    out: dict[str, list[str]] = {}
    for k in document.get("links", []):
        names = out.setdefault(k["to"], [])
        if k["from"] not in names:
            names.append(k["from"])
    return out


def _others(row: Doc) -> str:
    kept = {k: v for k, v in row.items() if k.startswith("x-")}
    inside = (
        {f"value_method.{k}": v for k, v in (row.get("value_method") or {}).items() if k.startswith("x-")} if "value_method" in row else {}
    )
    inside |= {f"{part}.{k}": v for part in ("week", "constraint") for k, v in (row.get(part) or {}).items() if k.startswith("x-")}
    return json.dumps(kept | inside, ensure_ascii=False) if kept or inside else ""


def _cell(value: Any, c: Col) -> Any:
    if value is None:
        return None
    if c.kind == "shifts":
        return ", ".join(value) if value else None
    if c.kind == "texts":
        return "; ".join(value)
    if c.kind == "scalar":
        return scalar_text(value)
    if c.kind == "json":
        return json.dumps(value, ensure_ascii=False)
    if c.kind == "flag":
        return "yes" if value else "no"
    return value


def scalar_text(value: Any) -> str:
    """A text as it is, where it could not be taken for something else; all else as JSON."""
    if isinstance(value, str):
        try:
            json.loads(value)
        except ValueError:
            return value
    return json.dumps(value, ensure_ascii=False)


def _project(document: Doc) -> Grid:
    out = Grid("Project", ["Field", "Value"])
    own = document["project"]
    pairs = [(c.title, _cell(get(own, c.key), c)) for c in PROJECT if get(own, c.key) is not None]
    pairs += [(f"{OWN_FIELD}{code}", value) for code, value in (own.get("fields") or {}).items()]
    pairs += [("Other keys", _others(own))] if _others(own) else []
    book = {k: v for k, v in document.items() if k.startswith("x-")}
    pairs += [("Other keys of the book", json.dumps(book, ensure_ascii=False))] if book else []
    out.rows = [(i + 2, [title, value]) for i, (title, value) in enumerate(pairs)]
    return out
