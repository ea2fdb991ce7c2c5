"""Bringing a file in: what it would do is shown row by row first, then done whole as one step, or not at all."""

import copy
import itertools
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any

from dryledger.book.numbering import next_code, next_element
from dryledger.calendar.calendar import Calendar
from dryledger.changes.merge import MERGED, merge
from dryledger.compute import compute
from dryledger.entry.plan_cells import type_links
from dryledger.errors import BookInvalid, EntryRefused, Fault
from dryledger.exchange.book_json import book_from
from server.accounts.models import Person
from server.book.access import Access
from server.book.documents import book_document, rows_of
from server.book.loading import check_code, load_document, load_parsed, read_text
from server.book.models import LISTS, Project
from server.book.workspace import workspace_of
from server.exchange.preview import Changed, FileRow, FileTable, PreviewOut, Reason
from server.exchange.sheets import read_tables
from server.exchange.tables import BY_KEY, PROJECT, TABLES, Doc, Grid, get
from server.exchange.untabling import Read, Trouble, bare, read_grids
from server.journal.steps import changes_since
from server.journal.writing import write
from server.shared.problems import Refused, Stale

KEYS = {"assignments": ("activity", "resource"), "costs": ("activity", "name")}
MOST_ROWS = 20_000
MOST_LISTS = 800_000
"""So many lists and objects a book in JSON may hold that comes over the network."""


@dataclass
class _Plan:
    """A file read against what is there: the document it would make, and what becomes of each row."""

    document: Doc
    read: Read
    origin: dict[str, tuple[str, int]]
    outcome: dict[tuple[str, int], FileRow] = field(default_factory=dict)
    current: Doc = field(default_factory=dict)
    """What is there, of a project that a file is put over."""
    book: Any = None
    """The book that a file in JSON was read as."""
    faults: list[Reason] = field(default_factory=list)


def bring_new(person: Person, name: str, content: bytes, as_code: str, apply: bool) -> PreviewOut:
    """Read a file for a new project and say what it would do; with `apply`, do it."""
    plan = _read(name, content, None)
    if plan.document.get("project") is not None and as_code.strip():
        plan.document["project"]["code"] = as_code.strip()
    _check_new(plan)
    out = _preview(plan, None)
    if apply:
        _ready(out)
        came_from = f"{person.full_name}, from {name}"[:300]
        document: dict[str, Any] = {"format": "dry-ledger-book", "version": 1} | plan.document
        code = str(document["project"]["code"])
        made = load_document(document, code, came_from) if plan.book is None else load_parsed(document, plan.book, code, came_from)
        out.done = made.code
    return out


def bring_into(access: Access, name: str, content: bytes, apply: bool, revision: int | None) -> PreviewOut:
    """Read a file for a project that is there and say what it would do; with `apply`, do it as one step.

    Raises Stale for an old revision.
    """
    plan = _read(name, content, access.project)
    out = _preview(plan, access.project)
    if apply:
        _ready(out)
        w = workspace_of(access.project)
        seen = access.project.revision if revision is None else revision
        if w.revision != seen:
            raise Stale(w.revision, changes_since(access.project, seen))
        changed = merge(w.keyed, plan.current, plan.document)
        write(access, seen, "import", changed, w, "brought a file in")
        out.done = access.project.code
    return out


def _ready(out: PreviewOut) -> None:
    if not out.ready:
        raise Refused("not-ready", "Nothing was brought in: some rows are refused. Put them right in the file, and choose it again.", 422)


def _read(name: str, content: bytes, project: Project | None) -> _Plan:
    try:
        if content.lstrip()[:1] in (b"{", b"[") or name.lower().endswith(".json"):
            if project is not None:
                raise BookInvalid([Fault("", "a book in JSON is a whole project. Bring it in as a new one, from the list of projects")])
            return _json(content)
        return _tables(read_tables(name, content), project)
    except BookInvalid as wrong:
        return _Plan({}, Read({}), {}, faults=[_said(f) for f in wrong.faults[:200]])


def document_of(grids: list[Grid]) -> Doc:
    """Tables as a document for a new project. Raises BookInvalid with everything wrong, by table, row and column."""
    plan = _tables(grids, None)
    faults = [Fault("", r.message) for r in plan.faults]
    for (table, number), row in plan.outcome.items():
        faults += [Fault(f"{table}, row {number}{f', {r.column}' if r.column else ''}", r.message) for r in row.reasons]
    if faults:
        raise BookInvalid(faults)
    return {"format": "dry-ledger-book", "version": 1} | plan.document


def _said(fault: Fault) -> Reason:
    at = f"{fault.path}: " if fault.path else ""
    return Reason(None, f"{at}{fault.message}")


def _json(content: bytes) -> _Plan:
    """A whole book in JSON. One that can't be is told with all its faults."""
    document, book = read_text(content, most_lists=MOST_LISTS)
    plan = _Plan(document, Read({}), {}, book=book)
    try:
        compute(book)
    except BookInvalid as wrong:
        plan.faults = [_said(f) for f in wrong.faults[:200]]
    return plan


def _tables(grids: list[Grid], project: Project | None) -> _Plan:
    read = read_grids(grids)
    _number_rows(read, project)
    _told_twice(read, project is not None)
    current: Doc = book_document(project) if project is not None else {}
    plan = _Plan(_merged(current, read) if project is not None else copy.deepcopy(read.document), read, {}, current=current)
    plan.origin = _origins(plan.document, read)
    _links_of(plan)
    plan.document = bare(plan.document)
    for key, rows in ((t.key, read.document.get(t.key, [])) for t in TABLES if t.under is None):
        before = {_key(key, x): x for x in current.get(key, [])}
        for x in rows:
            table, number = read.origin[x["-path"]]
            plan.outcome[table, number] = _outcome(key, x, before.get(_key(key, x)), number)
    _outcome_of_project(plan, project)
    for t in read.troubles:
        _refuse(plan, t)
    if not plan.outcome and not read.document.get("project"):
        plan.faults.append(
            Reason(None, "No table of this file is known. Name the sheets as in an export: Activities, Links, Costs and so on.")
        )
    _judge(plan)
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
                said = " and ".join(f"“{n}”" for n in name[:2])
                read.troubles.append(Trouble(table, number, BY_KEY[key].columns[0].title, f"{said} stands in row {seen[name]} already"))
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
    out["project"] |= own
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


def _links_of(plan: _Plan) -> None:
    """The column Predecessors, where the table Links does not say the same."""
    document, read = plan.document, plan.read
    codes = [str(a.get("code", "")) for a in document.get("activities", [])]
    said = {(k.get("from"), k.get("to")) for k in document.get("links", [])}
    calendar = _calendar(document)
    for row, code, text in read.after:
        table = BY_KEY["activities"].title
        title = next((t for t, n in read.origin.values() if n == row and t.lower().startswith("act")), table)
        new = [part for part in (p.strip() for p in text.split(";")) if part and (part, code) not in said]
        try:
            links = type_links("; ".join(new), calendar, codes)
        except EntryRefused as wrong:
            read.troubles.append(Trouble(title, row, "Predecessors", wrong.message))
            continue
        for k in links:
            if (k.code, code) in said:
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


def _outcome_of_project(plan: _Plan, project: Project | None) -> None:
    """What becomes of the project's own cells, row by row of its table."""
    own: Doc = plan.read.document.get("project") or {}
    was: Doc = plan.current.get("project") or {}
    for c in PROJECT:
        at = plan.read.origin.get(f"project.{c.key}")
        if at is None or c.key not in own or (project is not None and c.key == "code"):
            continue
        now = own[c.key]
        if project is None:
            plan.outcome[at] = FileRow(at[1], "add", f"{c.title} {_shown(now)}")
        elif _same(now, was.get(c.key)):
            plan.outcome[at] = FileRow(at[1], "leave", c.title)
        else:
            plan.outcome[at] = FileRow(at[1], "change", c.title, [Changed(c.title, _shown(was.get(c.key)), _shown(now))])


def _same(a: Any, b: Any) -> bool:
    if isinstance(a, str) and isinstance(b, str) and a != b:
        return a.removesuffix("T00:00") == b.removesuffix("T00:00")
    return bool(a == b)


def _shown(value: Any) -> str:
    if value is None:
        return ""
    return ", ".join(map(str, value)) if isinstance(value, list) else str(value)


def _refuse(plan: _Plan, t: Trouble) -> None:
    if t.row is None:
        plan.faults.append(Reason(t.column, f"{t.table}: {t.message}"))
        return
    row = plan.outcome.setdefault((t.table, t.row), FileRow(t.row, "refuse", ""))
    row.what = "refuse"
    row.changes = []
    reason = Reason(t.column, t.message)
    if reason not in row.reasons:
        row.reasons.append(reason)


def _judge(plan: _Plan) -> None:
    """Every fault of the book that the file would make, at the row and column it came from."""
    document = {"format": "dry-ledger-book", "version": 1} | plan.document
    if not document.get("project"):
        plan.faults.append(Reason(None, "there is no table Project. Bring this file into a project that is there, or add that table"))
        return
    told = {(t.table, t.row, t.column) for t in plan.read.troubles}
    try:
        book = book_from(document)
        compute(book)
    except BookInvalid as wrong:
        for f in wrong.faults[:2000]:
            trouble = _at(plan, f)
            missing = f.message.startswith("is required") and (trouble.table, trouble.row, trouble.column) in told
            if not missing:
                _refuse(plan, trouble)


def _at(plan: _Plan, fault: Fault) -> Trouble:
    """Where in the file a fault of the book came from."""
    if fault.path == "links" and "→" in fault.message:
        chain = fault.message.split(": ", 1)[1].split(". ")[0].split(" → ")
        for i, k in enumerate(plan.document.get("links", [])):
            if (k.get("from"), k.get("to")) in itertools.pairwise(chain) and f"links[{i}]" in plan.origin:
                table, row = plan.origin[f"links[{i}]"]
                return Trouble(table, row, "Predecessors" if table != "Links" else "To", fault.message)
    path, rest = fault.path, ""
    while path:
        if path in plan.origin:
            table, row = plan.origin[path]
            return Trouble(table, row, _column(table, rest), fault.message)
        head = path.rsplit(".", 1)[0] if "." in path.rsplit("]", 1)[-1] else path.rsplit("[", 1)[0] if path.endswith("]") else ""
        rest = path[len(head) :].lstrip(".") + (f".{rest}" if rest else "")
        path = head
    return Trouble("The file", None, None, f"{fault.path}: {fault.message}" if fault.path else fault.message)


def _column(title: str, key: str) -> str | None:
    table = next((t for t in TABLES if t.title.lower() == title.lower()), None)
    bare_key = key.split("[")[0]
    found = [c.title for c in table.columns if c.key in (key, bare_key)] if table else []
    return found[0] if found else key or None


def _check_new(plan: _Plan) -> None:
    code = str((plan.document.get("project") or {}).get("code") or "")
    if code:
        try:
            check_code(code)
        except BookInvalid as wrong:
            said = wrong.faults[0].message.replace(" (--as CODE)", "")
            plan.faults.append(Reason("code", f"{said[:1].upper()}{said[1:]}."))


def _preview(plan: _Plan, project: Project | None) -> PreviewOut:
    tables: dict[str, list[FileRow]] = {}
    for (table, _), row in sorted(plan.outcome.items(), key=lambda kv: kv[0][1]):
        tables.setdefault(table, []).append(row)
    counts = dict.fromkeys(("add", "change", "leave", "refuse"), 0)
    for rows in tables.values():
        for row in rows:
            counts[row.what] += 1
    own = plan.document.get("project") or {}
    if project is None and not plan.outcome:
        counts["add"] = sum(len(plan.document.get(k, [])) for k in LISTS if isinstance(plan.document.get(k), list))
    shown = [FileTable(t, _first(rows)) for t, rows in tables.items()]
    ready = not plan.faults and not counts["refuse"] and bool(counts["add"] + counts["change"] or (project is None and own))
    return PreviewOut(
        str(own.get("code") or ""), str(own.get("name") or ""), project is None, ready, counts, shown, plan.faults, plan.read.unknown
    )


def _first(rows: list[FileRow]) -> list[FileRow]:
    """The rows to show: what is refused first, and no more than can be looked at."""
    if len(rows) <= MOST_ROWS:
        return rows
    return sorted(rows, key=lambda r: r.what != "refuse")[:MOST_ROWS]
