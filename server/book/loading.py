"""A book into rows: read, checked and computed whole first, holding no lock; then written in one transaction or not at all."""

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import replace
from pathlib import Path
from typing import Any, cast
from uuid import UUID

import msgspec
from django.db import transaction

from dryledger.book.lists import LISTS as BOOK_LISTS
from dryledger.book.plan import Book
from dryledger.book.rules import check_book
from dryledger.calendar.calendar import to_text
from dryledger.changes.pages import next_page
from dryledger.compute import compute
from dryledger.errors import BookInvalid, Fault
from dryledger.exchange.book_json import MOST_LISTS, book_from, parse_json
from dryledger.exchange.by_columns import NotQuick
from dryledger.exchange.quick import quick_lists
from dryledger.marks.marks import project_mark
from dryledger.results import results_document
from server.accounts.models import Person
from server.book import models
from server.book.crossing import connect_all
from server.book.documents import CODED
from server.book.kept_models import Option
from server.book.membership import Member
from server.book.models import LISTS, PAGE_LISTS, Page, Project
from server.book.rows import BookRow, columns_of, number_text, numbers_of
from server.book.sealing import SEALED, UNSEALED, Sealed, canonical, seal
from server.shared import exact_json
from server.shared.words import sentence

MOST_BYTES = 256 * 1024 * 1024
UNSUITED = "/\\?#%\n\r\t"
"""What a project's code can't hold: it is part of addresses and of names of files."""
Document = dict[str, Any]
Keys = dict[str, dict[str, int]]


def load_book(path: Path, code: str | None = None, before_sealing: Callable[[Page], None] | None = None) -> Project:
    """Load a book from a file. Raises BookInvalid with all faults; nothing is half loaded.

    `code` gives the project another code than the book's. A code that is there already is a fault. `before_sealing` may say what
    is sealed with each dry page beside the book.
    """
    if path.stat().st_size > MOST_BYTES:
        raise BookInvalid([Fault("", sentence("loading.file_larger_mb_no"))])
    return _load(*read_text(path.read_bytes()), code, "", before_sealing)


def read_text(data: bytes, most_lists: int = MOST_LISTS) -> tuple[Document, Book]:
    """A book in JSON as plain values and as read. Raises BookInvalid with all faults."""
    if data.count(b"{") + data.count(b"[") > most_lists:
        raise BookInvalid([Fault("", sentence("loading.file_holds_more_lists"))])
    try:
        book = Book(**quick_lists(data))
        document: Document = exact_json.decode(data)
        if not check_book(book):
            return document, book
    except (NotQuick, msgspec.MsgspecError):
        pass
    found = parse_json(data)
    book = book_from(found)
    return cast(Document, found), book


def load_text(data: bytes, code: str | None = None, came_from: str = "") -> Project:
    """Load a book from JSON text; see `load_book`."""
    return _load(*read_text(data), code, came_from)


def load_document(
    document: Document, code: str | None = None, came_from: str = "", by: Person | None = None, like: Project | None = None
) -> Project:
    """Load a parsed book; see `load_book`.

    `by` is who brings it: links find what that person sees of other projects. Who sees it is as with `like`, where it comes from that.
    """
    return _load(*read_text(exact_json.encode(document)), code, came_from, by=by, like=like)


def load_parsed(document: Document, book: Book, code: str, came_from: str, by: Person) -> Project:
    """Load a document whose book is known."""
    return _load(document, book, code, came_from, by=by)


def load_archived(
    document: Document, book: Book, code: str, by: Person | None, uid: UUID, sealing: Callable[[Project, list[Page]], None]
) -> Project:
    """Load a book whose pages were sealed elsewhere: `sealing` makes them what they were, inside the transaction."""
    return _load(document, book, code, "", by=by, archived=(uid, sealing))


def check_code(code: str) -> None:
    """Raises BookInvalid where a project's code can't be one here."""
    if any(x in code for x in UNSUITED) or code != code.strip() or len(code) > 100 or code in (".", ".."):
        message = sentence("loading.cant_projects_code_here", value=code[:40])
        raise BookInvalid([Fault("project.code", message)])
    if Project.objects.filter(code=code).exists():
        raise BookInvalid([Fault("project.code", sentence("loading.already_project_one_another", code=code))])


def _load(
    doc: Document,
    book: Book,
    code: str | None,
    came_from: str,
    before_sealing: Callable[[Page], None] | None = None,
    by: Person | None = None,
    like: Project | None = None,
    archived: tuple[UUID, Callable[[Project, list[Page]], None]] | None = None,
) -> Project:
    compute(book)
    code = code or book.project.code
    check_code(code)
    if code != book.project.code:
        book = replace(book, project=replace(book.project, code=code))
    own = doc["project"] | {"code": code}
    project = Project(**_columns(Project, own, {}), extra=_extra(own), book_extra=_extra(doc))
    rows = {key: _rows(key, project, BOOK_LISTS[key].rows_in(doc) or []) for key in LISTS}
    for row in rows["baselines"]:
        row.came_from = came_from
    pages = [_page(project, i, x) for i, x in enumerate(doc.get("periods", []))]
    known = {name: {x.code: i for i, x in enumerate(rows[name])} for name in CODED}
    ready = [] if archived else _seals(project, doc, book, rows, pages, known)
    with transaction.atomic():
        check_code(code)
        if archived:
            project.uid = archived[0]
        _write(project, rows, pages)
        if archived:
            archived[1](project, [p for p, _ in pages])
        for page, sealed in zip((p for p, _ in pages), ready, strict=False):
            sealed.keys = _named(page)
            if before_sealing is not None:
                before_sealing(page)
            seal(project, page, None, sealed)
        if archived:
            pass  # it has the pages that it had
        elif len(ready) == len(pages):
            made = next_page(book, book.periods)
            Page.objects.create(project=project, order=len(pages), code=made.code, status=to_text(made.status))
        if like is not None and like.members_only:
            Project.objects.filter(pk=project.pk).update(members_only=True)
            told = Member.objects.filter(project=like).values_list("person", "role")
            Member.objects.bulk_create([Member(project=project, person_id=person, role=role) for person, role in told])
        connect_all(project, by)
    return project


def values_of_entry(doc: Document) -> Document:
    """The columns of a register's row beside its code and name."""
    return {k: v for k, v in doc.items() if k not in ("code", "name") and not k.startswith("x-") and v is not None}


def _extra(doc: Document) -> Document:
    return {k: v for k, v in doc.items() if k.startswith("x-")}


def _columns(model: Any, doc: Document, keys: Mapping[str, Mapping[str, int]]) -> Document:
    """The columns of a model from its form in the book; `keys` gives the key of each code by list."""
    out: Document = {}
    numbers = numbers_of(model)
    for key, column, refers in columns_of(model):
        value = doc.get(key)
        if value is not None:
            value = number_text(value) if column in numbers else value
        if value is not None:
            out[column] = keys[refers].get(value) if refers and keys else None if refers else value
    return out


def row_of(key: str, project: Project, order: float, doc: Document, keys: Keys) -> BookRow:
    """An unsaved row of a list of the plan from its form in the book."""
    model = LISTS[key]
    row = model(project=project, order=order, extra=_extra(doc), **_columns(model, doc, keys))
    if isinstance(row, models.RegisterEntry):
        row.register, row.values = key, values_of_entry(doc)
    if isinstance(row, models.Baseline):
        row.content = {k: doc[k] for k in models.Baseline.KEPT_WHOLE if k in doc}
    return row


def _rows(key: str, project: Project, docs: Sequence[Document]) -> list[Any]:
    """The rows of a list with the documents they come from."""
    out = []
    for i, doc in enumerate(docs):
        row = row_of(key, project, i, doc, {})
        row.document = doc  # type: ignore[attr-defined]
        out.append(row)
    return out


def _page(project: Project, order: int, doc: Document) -> tuple[Page, dict[str, list[Any]]]:
    page = Page(project=project, order=order, extra=_extra(doc), **(_columns(Page, doc, {}) | {"state": "wet"}))
    page.closing = doc.get("state") == "dry"  # type: ignore[attr-defined]
    lists: dict[str, list[Any]] = {}
    for key, model in PAGE_LISTS.items():
        lists[key] = []
        for i, x in enumerate(doc.get(key, [])):
            row: Any = model(project=project, order=i, extra=_extra(x), **{"page": page}, **_columns(model, x, {}))
            row.document = x
            lists[key].append(row)
    return page, lists


def _refer(row: Any, keys: Mapping[str, Mapping[str, int]]) -> Any:
    """Let a row refer to the rows that its document names."""
    for key, column, refers in columns_of(row.__class__):
        code = row.document.get(key)
        if refers and code is not None:
            setattr(row, column, keys[refers].get(code))
    if isinstance(row, Option):
        row.remember({name: dict(found) for name, found in keys.items()})
    return row


def _seals(
    project: Project, doc: Document, book: Book, rows: dict[str, list[Any]], pages: list[tuple[Page, dict[str, list[Any]]]], known: Keys
) -> list[Sealed]:
    """The seals of all pages but an open last one, as they would be computed from the rows once these are written."""
    count = len(pages) - (1 if pages and not pages[-1][0].closing else 0)  # type: ignore[attr-defined]
    if not count:
        return []
    codes = {name: {i: code for code, i in found.items()} for name, found in known.items()}
    head: Document = {"format": "dry-ledger-book", "version": 1, "project": project.to_book()}
    parts = {key: canonical(value) for key, value in (head | project.book_extra).items()}
    for key, found in ((k, x) for k, x in rows.items() if k not in UNSEALED):
        parts |= {k: canonical(x) for k, x in BOOK_LISTS[key].written([_refer(row, known).to_book(codes) for row in found]).items()}
    earlier: list[bytes] = []
    out = []
    for i, (page, lists) in enumerate(pages[:count]):
        own = page.to_book({})
        note = own.pop("note", None)
        written = {key: [_refer(row, known).to_book(codes) for row in found] for key, found in lists.items()}
        earlier.append(canonical(own | {"state": "dry"} | written | ({} if note is None else {"note": note})))
        known_pages = {p.code for p, _ in pages[: i + 1]}
        own_lists = {}
        for k in ("answers", "promises"):
            there = [x for x in rows[k] if x.page is None or x.page in known_pages]
            as_written = [_refer(row, known).to_book(codes) for row in there]
            as_known = [_as_on(x, known_pages) for x in as_written]
            if len(there) < len(rows[k]) or as_known != as_written:
                own_lists[k] = canonical(as_known)
        inputs = _joined(parts | own_lists | {"periods": b"[" + b",".join(earlier) + b"]"})
        found_there = compute(book.with_periods(book.periods[: i + 1]), page.code)
        results = canonical(results_document(found_there, SEALED))
        out.append(Sealed(page, inputs, results, project_mark(found_there).mark, {}))
        del found_there, inputs, results  # of one page at a time: they weigh as much as the book
    return out


def _as_on(row: Document, pages: Collection[str]) -> Document:
    """A row as those pages know it: a tie that one after them untied still binds."""
    if not any(tie.get("ended") not in (None, *pages) for tie in row.get("ties", ())):
        return row
    ties = [{k: x for k, x in tie.items() if k != "ended" or x in pages} for tie in row["ties"]]
    return row | {"ties": ties}


def _joined(parts: Mapping[str, bytes]) -> bytes:
    """Canonical JSON of an object from the canonical JSON of its values."""
    keys = sorted(parts, key=lambda k: k.encode("utf-16-be"))
    return b"{" + b",".join(canonical(k) + b":" + parts[k] for k in keys) + b"}"


def _write(project: Project, rows: dict[str, list[Any]], pages: list[tuple[Page, dict[str, list[Any]]]]) -> None:
    project.save()
    first = len(rows["activities"])  # an element stands after its parent's own activities
    for i, row in enumerate(rows["wbs"]):
        row.order = first + i
    keys: Keys = {}
    for key in ("calendars", "resources", "wbs", *(k for k in LISTS if k not in ("calendars", "resources", "wbs"))):
        found = rows[key]
        for row in found:
            row.project = project
            _refer(row, keys)
        LISTS[key]._default_manager.bulk_create(found)
        if key in CODED:
            keys[key] = {row.code: row.pk for row in found}
        found.clear()
    for page, lists in pages:
        page.project = project
        page.save()
        for key, found in lists.items():
            for row in found:
                row.page = page
                row.project = project
                _refer(row, keys)
            PAGE_LISTS[key]._default_manager.bulk_create(found)
            found.clear()


def _named(page: Page) -> Keys:
    """Who the rows are that a page names."""
    out: Keys = {}
    for name, column in {"activities": "activity", "resources": "resource", "wbs": "wbs"}.items():
        model = CODED[name]
        pks: set[int] = set()
        for rows in PAGE_LISTS.values():
            if any(f.name == column for f in rows._meta.concrete_fields):
                pks |= set(rows.all_rows().filter(page=page, **{f"{column}__isnull": False}).values_list(f"{column}_id", flat=True))
        out[name] = dict(model.all_rows().filter(pk__in=pks).values_list("code", "pk"))
    return out
