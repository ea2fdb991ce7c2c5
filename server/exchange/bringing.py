"""Bringing a file in: what it would do is shown row by row first, then done whole as one step, or not at all."""

from collections.abc import Callable
from typing import Any

from dryledger.book.lists import LISTS
from dryledger.changes.merge import merge
from dryledger.errors import BookInvalid
from server.accounts.models import Person
from server.book.access import Access
from server.book.loading import check_code, load_document, load_parsed
from server.book.models import Project
from server.book.workspace import workspace_of
from server.exchange.preview import FilePlan, FileRow, FileTable, PreviewOut, Reason
from server.exchange.reading import read_file
from server.journal.steps import changes_since
from server.journal.writing import write
from server.shared.problems import Refused, Stale
from server.shared.words import sentence

MOST_ROWS = 20_000


Brings = Callable[[Person | None, bytes, str, bool], PreviewOut | None]
_MORE: list[Brings] = []
"""What rooms above read of files of their own: each takes who brings it, the content, a code and whether to do it."""


def also_brings(brings: Brings) -> None:
    """A room's own kind of file for a new project."""
    _MORE.append(brings)


def bring_otherwise(person: Person | None, content: bytes, as_code: str, apply: bool) -> PreviewOut | None:
    """A file that a room above reads; None where none does."""
    return next((found for brings in _MORE if (found := brings(person, content, as_code, apply)) is not None), None)


def bring_new(person: Person, name: str, content: bytes, as_code: str, apply: bool) -> PreviewOut:
    """Read a file for a new project and say what it would do; with `apply`, do it."""
    found = bring_otherwise(person, content, as_code, apply)
    if found is not None:
        return found
    plan = read_file(name, content, None)
    if plan.document.get("project") is not None and as_code.strip():
        plan.document["project"]["code"] = as_code.strip()
    _check_new(plan)
    out = _preview(plan, None)
    dry = [p for p in plan.document.get("periods") or [] if p.get("state") == "dry"]
    if dry:
        out.notes.append(sentence("bringing.sealed_anew", count=len(dry)))
    if apply:
        _ready(out)
        came_from = f"{person.full_name}, from {name}"[:300]
        document: dict[str, Any] = {"format": "dry-ledger-book", "version": 1} | plan.document
        code = str(document["project"]["code"])
        if plan.book is None:
            made = load_document(document, code, came_from, person)
        else:
            made = load_parsed(document, plan.book, code, came_from, person)
        out.done = made.code
    return out


def bring_into(access: Access, name: str, content: bytes, apply: bool, revision: int | None) -> PreviewOut:
    """Read a file for a project that is there and say what it would do; with `apply`, do it as one step.

    Raises Stale for an old revision.
    """
    plan = read_file(name, content, access.project)
    out = _preview(plan, access.project)
    if apply:
        _ready(out)
        w = workspace_of(access.project)
        seen = access.project.revision if revision is None else revision
        if w.revision != seen:
            raise Stale(w.revision, changes_since(access.project, seen))
        changed = merge(w.keyed, plan.current, plan.document)
        write(access, seen, "import", changed, w, sentence("bringing.brought_file"))
        out.done = access.project.code
    return out


def _ready(out: PreviewOut) -> None:
    if not out.ready:
        nothing = not out.faults and not out.counts["refuse"]
        raise Refused("not-ready", sentence("bringing.nothing_new" if nothing else "bringing.nothing_brought_some_rows"), 422)


def _check_new(plan: FilePlan) -> None:
    code = str((plan.document.get("project") or {}).get("code") or "")
    if code and (wrong := code_fault(code)) is not None:
        plan.faults.append(Reason("code", wrong))


def code_fault(code: str) -> str | None:
    """Why a code can't be that of a new project here, in a sentence; None where it can."""
    try:
        check_code(code)
    except BookInvalid as wrong:
        message = wrong.faults[0].message.replace(" (--as CODE)", "")
        return f"{message[:1].upper()}{message[1:]}."
    return None


def _preview(plan: FilePlan, project: Project | None) -> PreviewOut:
    tables: dict[str, list[FileRow]] = {}
    for (table, _), row in sorted(plan.outcome.items(), key=lambda kv: kv[0][1]):
        tables.setdefault(table, []).append(row)
    counts = dict.fromkeys(("add", "change", "leave", "refuse"), 0)
    for rows in tables.values():
        for row in rows:
            counts[row.what] += 1
    own = plan.document.get("project") or {}
    if project is None and not plan.outcome:
        counts["add"] = sum(len(of.rows_in(plan.document) or []) for of in LISTS.values())
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
