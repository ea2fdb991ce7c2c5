"""A book into rows: read and checked whole by the core first, then written in one transaction or not at all."""

from pathlib import Path
from typing import Any, cast

from django.db import transaction

from dryledger.book.registers import REGISTERS
from dryledger.compute import compute
from dryledger.errors import BookInvalid, Fault
from dryledger.exchange.book_json import book_from, parse_json
from server.exchange.books import LISTS, PAGE_LISTS
from server.plan.models import Project
from server.plan.rows import BookRow
from server.posting.models import Page
from server.posting.sealing import seal

MOST_BYTES = 256 * 1024 * 1024
CODED = ("activities", "resources", "wbs")
Document = dict[str, Any]


def load_book(path: Path, code: str | None = None) -> Project:
    """Load a book from a file. Raises BookInvalid with all faults; nothing is half loaded.

    `code` gives the project another code than the book's. A code that is there already is a fault.
    """
    if path.stat().st_size > MOST_BYTES:
        raise BookInvalid([Fault("", "the file is larger than 256 MB: no book is")])
    return load_document(parse_json(path.read_bytes()), code)


def load_document(document: object, code: str | None = None) -> Project:
    """Load a parsed book; see `load_book`."""
    book = book_from(document)
    compute(book)
    doc = cast(Document, _floats(document))
    code = code or book.project.code
    if Project.objects.filter(code=code).exists():
        raise BookInvalid([Fault("project.code", f"there is already a project “{code}”. Give this one another code (--as CODE)")])
    with transaction.atomic():
        own = doc["project"] | {"code": code}
        project = Project(**_columns(Project.BOOK, own), extra=_extra(own))
        project.book_extra = _extra(doc)
        project.save()
        ids: dict[str, dict[str, int]] = {}
        for key, model in LISTS.items():
            first = len(doc.get("activities", [])) if key == "wbs" else 0  # an element stands after its parent's own activities
            rows = [row_of(model, project, first + i, x, ids) for i, x in enumerate(doc.get(key, []))]
            for row in rows if key in REGISTERS else ():
                row.register, row.values = key, values_of_entry(doc[key][int(row.order)])  # type: ignore[attr-defined]
            model.objects.bulk_create(rows)  # type: ignore[attr-defined]
            if key in CODED:
                ids[model.__name__] = {r.code: r.pk for r in rows}  # type: ignore[attr-defined]
        for i, x in enumerate(doc.get("periods", [])):
            _page(project, i, x, ids)
        _one_wet_page(project)
    return project


def _floats(value: object) -> object:
    """Parsed JSON with its exact decimals as the plain numbers that rows keep."""
    from decimal import Decimal

    if isinstance(value, Decimal):
        return float(value)
    if isinstance(value, dict):
        return {k: _floats(v) for k, v in value.items()}
    return [_floats(v) for v in value] if isinstance(value, list) else value


def values_of_entry(doc: Document) -> Document:
    """The columns of a register's row beside its code and name."""
    return {k: v for k, v in doc.items() if k not in ("code", "name") and not k.startswith("x-") and v is not None}


def _extra(doc: Document) -> Document:
    return {k: v for k, v in doc.items() if k.startswith("x-")}


def _columns(book: dict[str, str], doc: Document) -> Document:
    return {column: doc[key] for key, column in book.items() if doc.get(key) is not None}


def row_of(model: type[BookRow], project: Project, order: float, doc: Document, ids: dict[str, dict[str, int]]) -> BookRow:
    """An unsaved row from its form in the book; `ids` gives the keys of rows by model and code."""
    columns = _columns(model.BOOK, doc)
    for key, name in model.REFERS.items():
        if key in doc:
            code = columns.pop(model.BOOK[key], None)
            columns[f"{model.BOOK[key]}_id"] = None if code is None else ids[name][code]
    if model.__name__ == "Baseline":
        columns["content"] = {k: doc[k] for k in ("calendar", "calendars", "activities") if k in doc}
    return model(project=project, order=order, extra=_extra(doc), **columns)


def _page(project: Project, order: int, doc: Document, ids: dict[str, dict[str, int]]) -> None:
    page = cast(Page, row_of(Page, project, order, doc, {}))
    page.state = "wet"
    page.save()
    for key, model in PAGE_LISTS.items():
        rows = [row_of(model, project, i, x, ids) for i, x in enumerate(doc.get(key, []))]
        for row in rows:
            row.page = page  # type: ignore[attr-defined]
        model.objects.bulk_create(rows)  # type: ignore[attr-defined]
    if doc.get("state") == "dry":
        seal(project, page, None)


def _one_wet_page(project: Project) -> None:
    """A project is always posted on its last page: all pages before the last are sealed; a book of dry pages gets a new one."""
    from server.posting.pages import first_page, open_next

    pages = list(Page.objects.filter(project=project))
    for page in pages[:-1]:
        if page.state == "wet":
            seal(project, page, None)
    if not pages:
        first_page(project)
    elif pages[-1].state == "dry":
        open_next(project, pages[-1])
