"""A file read against what is there: the document it would make, and what becomes of each row of it."""

import copy
from decimal import Decimal
from typing import Any

from dryledger.book.lists import LISTS
from dryledger.book.numbering import next_code, next_element
from dryledger.calendar.calendar import Calendar
from dryledger.changes.merge import MERGED
from dryledger.compute import compute
from dryledger.entry.plan_cells import type_links
from dryledger.errors import BookInvalid, EntryRefused, Fault
from server.book.documents import book_document, rows_of
from server.book.loading import read_text
from server.book.models import Project
from server.exchange.judging import judge, reason_of, refuse
from server.exchange.preview import Changed, FilePlan, FileRow, Reason
from server.exchange.sheets import read_tables
from server.exchange.tables import BY_KEY, OWN_FIELD, PROJECT, Col, Doc, Grid, get
from server.exchange.untabling import Read, Trouble, bare, read_grids
from server.shared.words import sentence

KEYS = {"assignments": ("activity", "resource"), "costs": ("activity", "name")}
MOST_LISTS = 800_000
"""So many lists and objects a book in JSON may hold that comes over the network."""


def read_file(name: str, content: bytes, project: Project | None) -> FilePlan:
    try:
        if content.lstrip()[:1] in (b"{", b"[") or name.lower().endswith(".json"):
            if project is not None:
                raise BookInvalid([Fault("", sentence("reading.book_json_whole_project"))])
            return _json(content)
        return _tables(read_tables(name, content), project)
    except BookInvalid as wrong:
        return FilePlan({}, Read({}), {}, faults=[reason_of(f) for f in wrong.faults[:200]])


def document_of(grids: list[Grid]) -> Doc:
    """Tables as a document for a new project. Raises BookInvalid with everything wrong, by table, row and column."""
    plan = _tables(grids, None)
    faults = [Fault("", r.message) for r in plan.faults]
    for (table, number), row in plan.outcome.items():
        faults += [Fault(_place(table, number, r.column), r.message) for r in row.reasons]
    if faults:
        raise BookInvalid(faults)
    return {"format": "dry-ledger-book", "version": 1} | plan.document


def _json(content: bytes) -> FilePlan:
    """A whole book in JSON. One that can't be is told with all its faults."""
    document, book = read_text(content, most_lists=MOST_LISTS)
    plan = FilePlan(document, Read({}), {}, book=book)
    try:
        compute(book)
    except BookInvalid as wrong:
        plan.faults = [reason_of(f) for f in wrong.faults[:200]]
    return plan


def _tables(grids: list[Grid], project: Project | None) -> FilePlan:
    read = read_grids(grids)
    _number_rows(read, project)
    _told_twice(read, project is not None)
    current: Doc = book_document(project) if project is not None else {}
    plan = FilePlan(_merged(current, read) if project is not None else copy.deepcopy(read.document), read, {}, current=current)
    plan.origin = _origins(plan.document, read)
    _links_of(plan)
    plan.document = bare(plan.document)
    for key, of in LISTS.items():
        before = {_key(key, x): x for x in of.rows_in(current) or []}
        for x in of.rows_in(read.document) or []:
            table, number = read.origin[x["-path"]]
            row = plan.outcome[table, number] = _outcome(key, x, before.get(_key(key, x)), number)
            if project is not None and key not in MERGED and row.what != "leave":
                row.what, row.changes, row.reasons = "leave", [], [Reason(None, sentence("reading.only_with_new_project"))]
    _outcome_of_project(plan, project)
    for t in read.troubles:
        refuse(plan, t)
    if not plan.outcome and not read.document.get("project"):
        plan.faults.append(Reason(None, sentence("reading.no_table_file_known")))
    judge(plan)
    return plan


def _number_rows(read: Read, project: Project | None) -> None:
    """Codes for rows that have none: those are given by the program."""
    for key in ("activities", "wbs"):
        rows = read.document.get(key, [])
        taken = {str(x["code"]) for x in rows if x.get("code")}
        if project is not None:
            taken |= set(rows_of(project, key).values_list("code", flat=True))
        for x in rows:
            if not x.get("code") and x.get("name"):
                x["code"] = next_code(taken, None) if key == "activities" else next_element(taken, x.get("parent"))
                taken.add(x["code"])
                number = read.origin[x["-path"]][1]
                if key == "activities":
                    read.after = [(n, x["code"] if n == number and not code else code, text) for n, code, text in read.after]


def _told_twice(read: Read, merging: bool) -> None:
    """Rows of one table that name the same thing. A book may hold two links of one kind; put over others they must differ."""
    for key in MERGED if merging else [k for k in MERGED if k != "links"]:
        seen: dict[tuple[Any, ...], int] = {}
        for x in read.document.get(key, []):
            name, (table, number) = _key(key, x), read.origin[x["-path"]]
            if key != "costs" and name in seen and all(name):
                names = " and ".join(f"“{n}”" for n in name[:2])
                read.troubles.append(
                    Trouble(
                        table, number, BY_KEY[key].columns[0].title, sentence("reading.stands_row_already", key=names, value=seen[name])
                    )
                )
            seen.setdefault(name, number)


def _key(key: str, x: Doc) -> tuple[Any, ...]:
    if key == "links":
        return x.get("from"), x.get("to"), x.get("type") or "FS"
    return tuple(x.get(k) for k in KEYS.get(key, ("code",)))


def _merged(current: Doc, read: Read) -> Doc:
    """What is there with what the file says put over it. An empty cell leaves what is there."""
    out: Doc = copy.deepcopy(current)
    own = bare(read.document.get("project", {}))
    own.pop("code", None)
    for key, value in own.items():
        inside = isinstance(value, dict) and not key.startswith("x-")
        out["project"][key] = (out["project"].get(key) or {}) | value if inside else value
    for key in MERGED:
        at = {_key(key, x): x for x in out.get(key, [])}
        for x in read.document.get(key, []):
            known = at.get(_key(key, x))
            if known is None:
                out.setdefault(key, []).append(copy.deepcopy(x))
                at[_key(key, x)] = out[key][-1]
            else:
                _over(known, x)
    return out


def _over(known: Doc, new: Doc) -> None:
    for k, v in new.items():
        if isinstance(v, dict) and isinstance(known.get(k), dict) and k != "week":
            known[k] = v if k == "value_method" and v.get("type") not in (None, known[k].get("type")) else known[k] | v
        elif k != "week" or v:
            known[k] = copy.deepcopy(v)


def _origins(document: Doc, read: Read) -> dict[str, tuple[str, int]]:
    """The table and row of each path of the merged document that the file says something about."""
    out = {path: at for path, at in read.origin.items() if path.startswith("project.")}

    def walk(value: Any, path: str) -> None:
        if isinstance(value, list):
            for i, x in enumerate(value):
                walk(x, f"{path}[{i}]")
        elif isinstance(value, dict):
            if "-path" in value and value["-path"] in read.origin:
                out[path] = read.origin[value["-path"]]
            for k, v in value.items():
                if isinstance(v, list | dict):
                    walk(v, f"{path}.{k}" if path else k)

    walk(document, "")
    return out


def _links_of(plan: FilePlan) -> None:
    """The column Predecessors, where the table Links does not say the same."""
    document, read = plan.document, plan.read
    codes = [str(a.get("code", "")) for key in ("activities", "externals") for a in document.get(key, [])]
    known_pairs = {(k.get("from"), k.get("to")) for k in document.get("links", [])}
    calendar = _calendar(document)
    for row, code, text in read.after:
        table = BY_KEY["activities"].title
        title = next((t for t, n in read.origin.values() if n == row and t.lower().startswith("act")), table)
        new = [part for part in (p.strip() for p in text.split(";")) if part and (part, code) not in known_pairs]
        try:
            links = type_links("; ".join(new), calendar, codes)
        except EntryRefused as wrong:
            read.troubles.append(Trouble(title, row, "Predecessors", wrong.message))
            continue
        for k in links:
            if (k.code, code) in known_pairs:
                continue
            made: Doc = {"from": k.code, "to": code, "type": k.type, "lag": k.lag, "lag_basis": k.basis}
            if k.lag == "0d":
                del made["lag"], made["lag_basis"]
            if k.type == "FS":
                del made["type"]
            at = document.setdefault("links", [])
            plan.origin[f"links[{len(at)}]"] = (title, row)
            at.append(made)


def _calendar(document: Doc) -> Calendar:
    """What durations on the project's calendar are counted by."""
    found: dict[str, Any] = next(
        (c for c in document.get("calendars", []) if c.get("code") == document.get("project", {}).get("calendar")), {}
    )
    hours = {f"hours_per_{x}": Decimal(str(found[f"hours_per_{x}"])) for x in ("day", "week", "month") if found.get(f"hours_per_{x}")}
    return Calendar("x", "x", (), (), **hours)


def _outcome(key: str, x: Doc, before: Doc | None, number: int) -> FileRow:
    name = " ".join(
        str(v) for v in (x.get("code") or x.get("from") or x.get("activity"), x.get("name") or x.get("to") or x.get("resource")) if v
    )
    if before is None:
        return FileRow(number, "add", name)
    changes = []
    for c in BY_KEY[key].columns:
        now = get(x, c.key)
        was = get(before, c.key)
        if now is not None and not c.key.startswith("-") and not _same(now, was):
            changes.append(Changed(c.title, _shown(was), _shown(now)))
    nested = [k for k in ("rates", "exceptions", "pauses") if x.get(k) is not None and bare(x[k]) != before.get(k)]
    changes += [Changed(k.capitalize(), str(len(before.get(k) or [])), str(len(x[k]))) for k in nested]
    return FileRow(number, "change" if changes else "leave", name, changes)


def _outcome_of_project(plan: FilePlan, project: Project | None) -> None:
    """What becomes of the project's own cells, row by row of its table."""
    own: Doc = plan.read.document.get("project") or {}
    was: Doc = plan.current.get("project") or {}
    fields = [Col(f"{OWN_FIELD}{code}", f"fields.{code}", "free") for code in own.get("fields") or {}]
    for c in (*PROJECT, *fields):
        at = plan.read.origin.get(f"project.{c.key}")
        now, before = get(own, c.key), get(was, c.key)
        if at is None or now is None or (project is not None and c.key == "code"):
            continue
        if project is None:
            plan.outcome[at] = FileRow(at[1], "add", f"{c.title} {_shown(now)}")
        elif _same(now, before):
            plan.outcome[at] = FileRow(at[1], "leave", c.title)
        else:
            plan.outcome[at] = FileRow(at[1], "change", c.title, [Changed(c.title, _shown(before), _shown(now))])


def _same(a: Any, b: Any) -> bool:
    if isinstance(a, str) and isinstance(b, str) and a != b:
        return a.removesuffix("T00:00") == b.removesuffix("T00:00")
    return bool(a == b)


def _shown(value: Any) -> str:
    if value is None:
        return ""
    return ", ".join(map(str, value)) if isinstance(value, list) else str(value)


def _place(table: str, number: int, column: str | None) -> str:
    """Where a fault stands in a file of tables."""
    if column:
        return sentence("reading.place_of_cell", table=table, row=number, column=column)
    return sentence("reading.place_of_row", table=table, row=number)
