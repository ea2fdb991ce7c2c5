"""The rows of a project as a book whose rows have keys: read by columns, many at once."""

from typing import Any

from dryledger.book.lists import LISTS as BOOK_LISTS
from dryledger.book.lists import PROJECT
from dryledger.book.memo import changed
from dryledger.book.plan import Book
from dryledger.book.registers import REGISTERS
from dryledger.book.rules import check_book
from dryledger.calendar.calendar import Calendar
from dryledger.changes.draft import in_order
from dryledger.changes.keyed import KeyedBook, Row
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import book_from
from dryledger.exchange.by_columns import NotQuick, columns_of, nested_columns, quick_rows
from dryledger.exchange.read import Scope
from server.book.documents import CODED, book_document, codes_of, rows_of
from server.book.lookup import find_again
from server.book.models import LISTS, PAGE_LISTS, Page, Project, RegisterEntry
from server.book.rows import BookRow
from server.book.rows import columns_of as row_columns

Codes = dict[str, dict[int, str]]
Keyed = dict[int, Row]
TRIES = 8


def read_project(project: Project) -> KeyedBook:
    """The book of a project as its rows stand at one moment: what is written meanwhile makes it read again.

    Raises BookInvalid where they make no valid book, Refused where the project is gone.
    """
    for left in reversed(range(TRIES)):
        before = find_again(project)
        try:
            found = _read(before)
        except Exception:
            if not left or find_again(project).revision == before.revision:
                raise
        else:
            if not left or find_again(project).revision == before.revision:
                return found
    raise AssertionError


def _read(project: Project) -> KeyedBook:
    codes = codes_of(project)
    try:
        rows, own = _quick(project, codes)
        book = Book(project=own, **{key: tuple(x.record for x in found.values()) for key, found in rows.items()}, extra=project.book_extra)
        faults = check_book(book)
        if faults:
            raise BookInvalid(faults)
        return KeyedBook(book, rows)
    except (NotQuick, TypeError, KeyError, AttributeError):
        return _slow(project)


def _quick(project: Project, codes: Codes) -> tuple[dict[str, Keyed], Any]:
    calendars = _list(project, "calendars", codes, Scope({}))
    by_code: dict[str, Calendar] = {x.record.code: x.record for x in calendars.values()}
    scope = Scope(by_code, by_code[project.calendar])
    own = quick_rows(PROJECT, columns_of(PROJECT, [{k: v for k, v in project.to_book().items() if not k.startswith("x-")}]), scope)[0]
    out = {"calendars": calendars, **_registers(project, scope)}
    for key in LISTS:
        if key not in out:
            out[key] = _list(project, key, codes, scope)
        if key == "activities":
            scope = Scope(by_code, scope.usual, {x.record.code: by_code[x.record.calendar] for x in out[key].values()})
    out["periods"] = read_pages(project, codes, scope)
    return {key: out[key] for key in BOOK_LISTS}, own


def _registers(project: Project, scope: Scope) -> dict[str, Keyed]:
    """All registers, read at once."""
    rows: dict[str, list[tuple[int, float, Any]]] = {key: [] for key in REGISTERS}
    found = RegisterEntry.objects.filter(project=project)
    for key, pk, order, code, name, values in found.values_list("register", "pk", "order", "code", "name", "values"):
        doc = {"code": code, "name": name, **{k: v for k, v in values.items() if v not in (None, "", [])}}
        rows[key].append((pk, order, doc))
    out = {}
    for key, listed in rows.items():
        docs = [doc for _, _, doc in listed]
        records = quick_rows(BOOK_LISTS[key], columns_of(BOOK_LISTS[key], docs), scope) if docs else []
        out[key] = {pk: Row(order, pk, x) for (pk, order, _), x in zip(listed, records, strict=True)}
    return out


def _list(project: Project, key: str, codes: Codes, scope: Scope) -> Keyed:
    """One list of the plan by key, in its order."""
    if key in REGISTERS:
        return _registers(project, scope)[key]
    if key == "baselines":
        rows = {row.pk: (row.order, row.as_kept(codes)) for row in rows_of(project, key)}
        docs = [{k: v for k, v in doc.items() if not k.startswith("x-")} for _, doc in rows.values()]
        records = quick_rows(BOOK_LISTS[key], columns_of(BOOK_LISTS[key], docs), scope) if docs else []
        return {pk: Row(order, pk, x) for (pk, (order, _)), x in zip(rows.items(), records, strict=True)}
    if key == "options":
        options = {row.pk: (row.order, row.to_book(codes)) for row in rows_of(project, key)}
        docs = [{k: v for k, v in doc.items() if not k.startswith("x-")} for _, doc in options.values()]
        records = quick_rows(BOOK_LISTS[key], columns_of(BOOK_LISTS[key], docs), scope) if docs else []
        return {pk: Row(order, pk, x) for (pk, (order, _)), x in zip(options.items(), records, strict=True)}
    return _records(LISTS[key], rows_of(project, key), BOOK_LISTS[key], codes, scope)


def _records(model: type[BookRow], found: Any, of: Any, codes: Codes, scope: Scope, on: dict[int, int] | None = None) -> Keyed:
    """Rows of a model by key, read by columns; of rows on pages `on` is given the page of each."""
    mapping = row_columns(model)
    rows = list(found.values_list("pk", "order", "project_id" if on is None else "page_id", *(column for _, column, _ in mapping)))
    if not rows:
        return {}
    pks, orders, pages, *cells = zip(*rows, strict=True)
    if on is not None:
        on.update(zip(pks, pages, strict=True))
    columns: dict[str, Any] = {}
    for (key, _, refers), found_there in zip(mapping, cells, strict=True):
        values: Any = found_there
        c = of.by_key[key]
        if refers:
            known = codes[refers]
            values = [None if x is None else known[x] for x in values]
        elif c.rows is not None:
            values = nested_columns(c, [None if x in ({}, []) else x for x in values])
        elif "" in values if c.kind not in ("texts", "week", "values") else False:
            values = [None if x == "" else x for x in values]
        if key in columns:  # the key names a row of one list or of another
            values = [x if y is None else y for x, y in zip(columns[key], values, strict=True)]
        columns[key] = values
    return dict(zip(pks, map(Row, orders, pks, quick_rows(of, columns, scope)), strict=True))


def scope_of(keyed: KeyedBook) -> Scope:
    """What rows of pages are read against."""
    book = keyed.book
    usual = book.project_calendar
    return Scope(book.calendar_by_code, usual, {a.code: book.calendar_by_code[a.calendar] for a in book.activities})


def read_pages(project: Project, codes: Codes, scope: Scope, pk: int | None = None) -> Keyed:
    """The pages of a project (or one of them) by key, each with what is said on it."""
    pages = Page.objects.filter(project=project) if pk is None else Page.objects.filter(project=project, pk=pk)
    heads = list(pages.values_list("pk", "order", "code", "status", "state", "note"))
    if not heads:
        return {}
    lists: dict[str, list[list[Any]]] = {}
    for key, model in PAGE_LISTS.items():
        of = BOOK_LISTS["periods"].by_key[key].rows
        found = model.all_rows().filter(page__project=project) if pk is None else model.all_rows().filter(page_id=pk)
        on: dict[int, int] = {}
        by_page: dict[int, list[Any]] = {}
        for k, row in _records(model, found, of, codes, scope, on).items():
            by_page.setdefault(on[k], []).append(row.record)
        lists[key] = [by_page.get(head[0], []) for head in heads]
    of = BOOK_LISTS["periods"]
    columns: dict[str, Any] = {"code": [h[2] for h in heads], "status": [h[3] for h in heads], "state": [h[4] for h in heads]}
    columns["note"] = [h[5] for h in heads]
    bare = quick_rows(of, columns, scope)
    out: Keyed = {}
    for i, (page, head) in enumerate(zip(bare, heads, strict=True)):
        parts = {key: tuple(found[i]) for key, found in lists.items()}
        out[head[0]] = Row(head[1], head[0], type(page)(page.code, page.status, page.state, **parts, note=page.note))
    return out


def _slow(project: Project) -> KeyedBook:
    """The same by way of the document, which says what is wrong."""
    book = book_from(book_document(project))
    rows: dict[str, Keyed] = {}
    for key in BOOK_LISTS:
        found = Page.objects.filter(project=project) if key == "periods" else rows_of(project, key)
        places = found.values_list("pk", "order")
        rows[key] = {pk: Row(order, pk, x) for (pk, order), x in zip(places, getattr(book, key), strict=True)}
    return KeyedBook(book, rows)


def read_again(project: Project, keyed: KeyedBook, changes: list[dict[str, Any]]) -> KeyedBook:
    """The book after rows were written: those are read again, and all of it where they may make others read otherwise."""
    touched: dict[str, set[int]] = {}
    pages: set[int] = set()
    for c in changes:
        kind, values = c["model"].removeprefix("book."), c["after"] or c["before"] or {}
        if kind in _PAGE_KINDS:
            pages |= {values["page_id"]} if "page_id" in values else {c["pk"]}
        elif kind == "RegisterEntry":
            touched.setdefault(values["register"], set()).add(c["pk"])
        elif kind in _LIST_OF:
            touched.setdefault(_LIST_OF[kind], set()).add(c["pk"])
        elif kind in ("Project", "Calendar"):
            return read_project(project)
    if touched.keys() & {"calendars", "resources", "wbs", "baselines", "externals"}:
        return read_project(project)
    scope = scope_of(keyed)
    codes = {name: {k: x.record.code for k, x in keyed.rows[name].items()} for name in CODED}
    rows = dict(keyed.rows)
    lists: dict[str, Any] = {}
    for name in (n for n in BOOK_LISTS if n in touched):
        was = rows[name]
        if name in REGISTERS or name in ("estimates", "mark_rules", "report_layout", "progress_lines", "options", "promises"):
            found = _list(project, name, codes, scope)
        else:
            found = {k: x for k, x in was.items() if k not in touched[name]}
            found |= _records(LISTS[name], rows_of(project, name).filter(pk__in=touched[name]), BOOK_LISTS[name], codes, scope)
        if name == "activities" and any(_placed(was.get(k)) != _placed(found.get(k)) for k in touched[name]):
            return read_project(project)
        rows[name] = found
        lists[name] = in_order(getattr(keyed.book, name), was, found)
    if pages:
        found = {k: x for k, x in rows["periods"].items() if k not in pages}
        for pk in pages:
            found |= read_pages(project, codes, scope, pk)
        rows["periods"] = found
        lists["periods"] = in_order(keyed.book.periods, keyed.rows["periods"], found)
    plan = {name: x for name, x in lists.items() if name != "periods"}
    book = changed(keyed.book, **plan) if plan else keyed.book
    if "periods" in lists:
        book = book.with_periods(lists["periods"])
    return KeyedBook(book, rows)


def _placed(row: Row | None) -> object:
    """What of an activity makes others read otherwise: its code and its calendar, and whether it is there at all."""
    return None if row is None else (row.record.code, row.record.calendar)


_PAGE_KINDS = ("Page", "Statement", "HoursEntry", "CostEntry")
_LIST_OF = {model.__name__: key for key, model in LISTS.items() if key not in REGISTERS and key != "calendars"}
