"""The rows of a project as a book whose rows have keys: read by columns, many at once, of many projects too."""

from collections.abc import Callable, Iterable, Mapping, Sequence, Set
from decimal import Decimal
from typing import Any

from django.db.models import QuerySet

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
from dryledger.exchange.by_columns import NotQuick, columns_of, nested_columns, quick_rows, stop
from dryledger.exchange.read import RowContext
from server.book.documents import CODED, book_document, rows_of
from server.book.lookup import find_again
from server.book.models import LISTS, PAGE_LISTS, Page, Project, RegisterEntry
from server.book.rows import BookRow, numbers_of
from server.book.rows import columns_of as row_columns
from server.shared.moment import one_moment

Codes = dict[str, dict[int, str]]
Keyed = dict[int, Row]
Cells = tuple[Any, ...]
WHOLE = ("baselines", "options")
"""Lists whose rows write themselves as documents; all others are read by columns."""
SHORT = (*REGISTERS, "estimates", "mark_rules", "report_layout", "progress_lines", "options", "promises")
"""Lists that are read whole where one row of them was written."""


def read_project(project: Project) -> tuple[int, KeyedBook]:
    """The revision of a project and its book, as its rows stand at one moment.

    Raises BookInvalid where they make no valid book, Refused where the project is gone.
    """
    with one_moment():
        now = find_again(project)
        return now.revision, _read(now, StoredRows([now]))


def read_projects(projects: Sequence[Project]) -> dict[int, tuple[int, KeyedBook]]:
    """The same of many projects, by key; left out are those that are gone or no valid book: whoever reads one of these is told why."""
    with one_moment():
        now = Project.objects.in_bulk([p.pk for p in projects])
        rows, out = StoredRows(now.values()), dict[int, tuple[int, KeyedBook]]()
        for pk, project in now.items():
            try:
                out[pk] = project.revision, _read(project, rows)
            except BookInvalid:
                continue
    return out


class StoredRows:
    """The rows of projects, asked for once a list however many projects they are of; `only` says which of a list, by key."""

    def __init__(self, projects: Iterable[Project], only: Mapping[str, Set[int]] | None = None) -> None:
        self.projects = [p.pk for p in projects]
        self.only = only or {}
        self._found: dict[str, dict[int, list[Any]]] = {}

    def of(self, project: Project, name: str, ask: Callable[[], Iterable[tuple[int, Any]]]) -> list[Any]:
        """What is kept of a project under a name; `ask` gives that of all, each with the key of its project."""
        if name not in self._found:
            found = self._found[name] = {}
            for pk, row in ask():
                found.setdefault(pk, []).append(row)
        return self._found[name].get(project.pk, [])

    def cells(self, project: Project, name: str) -> list[Cells]:
        """The cells of a list of the plan, a row each: key, place, columns."""

        def ask() -> Iterable[tuple[int, Any]]:
            columns = [column for _, column, _ in row_columns(LISTS[name])]
            found = self._asked(LISTS[name], name).values_list("project", "pk", "order", *columns)
            return ((row[0], row[1:]) for row in found)

        return self.of(project, name, ask)

    def entered(self, project: Project, part: str) -> list[tuple[int, Cells]]:
        """The cells of what is said on pages, each with the key of its page."""

        def ask() -> Iterable[tuple[int, Any]]:
            model, pages = PAGE_LISTS[part], self.only.get("periods")
            columns = [column for _, column, _ in row_columns(model)]
            found = model.all_rows().filter(page__project__in=self.projects)
            found = found if pages is None else found.filter(page__in=pages)
            return ((row[0], (row[1], row[2:])) for row in found.values_list("page__project", "page", "pk", "order", *columns))

        return self.of(project, f"periods.{part}", ask)

    def whole(self, project: Project, name: str, model: type[BookRow], *without: str) -> list[Any]:
        """The rows of a model themselves, without some of their columns."""
        return self.of(project, name, lambda: ((row.project_id, row) for row in self._asked(model, name).defer(*without)))

    def _asked(self, model: type[BookRow], name: str) -> "QuerySet[Any]":
        found = model.all_rows().filter(project__in=self.projects)
        return found if name not in self.only else found.filter(pk__in=self.only[name])


def _read(project: Project, rows: StoredRows) -> KeyedBook:
    try:
        found, own = _quick(project, rows)
        book = Book(project=own, **{key: tuple(x.record for x in xs.values()) for key, xs in found.items()}, extra=project.book_extra)
        faults = check_book(book)
        if faults:
            raise BookInvalid(faults)
        return KeyedBook(book, found)
    except NotQuick:
        return _slow(project)


def _quick(project: Project, rows: StoredRows) -> tuple[dict[str, Keyed], Any]:
    calendars = _list(project, "calendars", {}, RowContext({}), rows)
    by_code: dict[str, Calendar] = {x.record.code: x.record for x in calendars.values()}
    scope = RowContext(by_code, by_code.get(project.calendar) or stop())
    own = quick_rows(PROJECT, columns_of(PROJECT, [{k: v for k, v in project.to_book().items() if not k.startswith("x-")}]), scope)[0]
    out = {"calendars": calendars, **_registers(project, scope, rows)}
    codes: Codes = {}
    for key in LISTS:
        if key not in out:
            out[key] = _list(project, key, codes, scope, rows)
        if key in CODED:
            codes[key] = {pk: x.record.code for pk, x in out[key].items()}
        if key == "activities":
            scope = RowContext(by_code, scope.usual, {x.record.code: by_code[x.record.calendar] for x in out[key].values()})
    out["periods"] = _pages(project, codes, scope, rows)
    return {key: out[key] for key in BOOK_LISTS}, own


def _registers(project: Project, scope: RowContext, rows: StoredRows) -> dict[str, Keyed]:
    """All registers, read at once."""
    docs: dict[str, list[tuple[int, float, Any]]] = {key: [] for key in REGISTERS}
    for x in rows.whole(project, "registers", RegisterEntry):
        docs[x.register].append((x.pk, x.order, x.as_kept({})))
    return {key: _documents(key, found, scope) for key, found in docs.items()}


def _documents(key: str, found: list[tuple[int, float, Any]], scope: RowContext) -> Keyed:
    """Rows that are given as key, place and document."""
    docs = [{k: v for k, v in doc.items() if not k.startswith("x-")} for _, _, doc in found]
    records = quick_rows(BOOK_LISTS[key], columns_of(BOOK_LISTS[key], docs), scope) if docs else []
    return {pk: Row(order, pk, x) for (pk, order, _), x in zip(found, records, strict=True)}


def _list(project: Project, key: str, codes: Codes, scope: RowContext, rows: StoredRows) -> Keyed:
    """One list of the plan by key, in its order."""
    if key in REGISTERS:
        return _registers(project, scope, rows)[key]
    if key in WHOLE:
        return _documents(key, [(x.pk, x.order, x.as_kept(codes)) for x in rows.whole(project, key, LISTS[key])], scope)
    return _records(LISTS[key], rows.cells(project, key), BOOK_LISTS[key], codes, scope)


def _records(model: type[BookRow], rows: Sequence[Cells], of: Any, codes: Codes, scope: RowContext) -> Keyed:
    """Rows of a model by key, read by columns."""
    if not rows:
        return {}
    pks, orders, *cells = zip(*rows, strict=True)
    columns: dict[str, Any] = {}
    numbers = numbers_of(model)
    for (key, column, refers), found_there in zip(row_columns(model), cells, strict=True):
        values: Any = found_there
        c = of.by_key[key]
        if refers:
            known = codes[refers]
            values = [None if x is None else known[x] for x in values]
        elif column in numbers:
            values = [None if x is None else Decimal(x) for x in values]
        elif c.rows is not None:
            values = nested_columns(c, [None if x in ({}, []) else x for x in values])
        elif "" in values if c.kind not in ("texts", "week", "values") else False:
            values = [None if x == "" else x for x in values]
        if key in columns:  # the key names a row of one list or of another
            values = [x if y is None else y for x, y in zip(columns[key], values, strict=True)]
        columns[key] = values
    return dict(zip(pks, map(Row, orders, pks, quick_rows(of, columns, scope)), strict=True))


def scope_of(keyed: KeyedBook) -> RowContext:
    """What rows of pages are read against."""
    book = keyed.book
    usual = book.project_calendar
    return RowContext(book.calendar_by_code, usual, {a.code: book.calendar_by_code[a.calendar] for a in book.activities})


def _pages(project: Project, codes: Codes, scope: RowContext, rows: StoredRows) -> Keyed:
    """The pages of a project by key, each with what is said on it."""
    pages = rows.whole(project, "periods", Page, "inputs", "results")
    if not pages:
        return {}
    lists: dict[str, list[list[Any]]] = {}
    for key, model in PAGE_LISTS.items():
        entered = rows.entered(project, key)
        records = _records(model, [cells for _, cells in entered], BOOK_LISTS["periods"].by_key[key].rows, codes, scope)
        by_page: dict[int, list[Any]] = {}
        for (page, _), row in zip(entered, records.values(), strict=True):
            by_page.setdefault(page, []).append(row.record)
        lists[key] = [by_page.get(p.pk, []) for p in pages]
    columns: dict[str, Any] = {key: [getattr(p, key) for p in pages] for key in ("code", "status", "state", "note", "measured_against")}
    out: Keyed = {}
    for i, (bare, p) in enumerate(zip(quick_rows(BOOK_LISTS["periods"], columns, scope), pages, strict=True)):
        parts = {key: tuple(found[i]) for key, found in lists.items()}
        out[p.pk] = Row(
            p.order, p.pk, type(bare)(bare.code, bare.status, bare.state, **parts, note=bare.note, measured_against=bare.measured_against)
        )
    return out


def _slow(project: Project) -> KeyedBook:
    """The same by way of the document, which says what is wrong."""
    book = book_from(book_document(project, exact=True))
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
            return read_project(project)[1]
    if touched.keys() & {"calendars", "resources", "wbs", "baselines", "externals"}:
        return read_project(project)[1]
    scope = scope_of(keyed)
    codes = {name: {k: x.record.code for k, x in keyed.rows[name].items()} for name in CODED}
    rows = dict(keyed.rows)
    written = StoredRows([project], {name: keys for name, keys in touched.items() if name not in SHORT} | {"periods": pages})
    lists: dict[str, Any] = {}
    for name in (n for n in BOOK_LISTS if n in touched):
        was, found = rows[name], _list(project, name, codes, scope, written)
        if name not in SHORT:
            found = {k: x for k, x in was.items() if k not in touched[name]} | found
        if name == "activities" and any(_placed(was.get(k)) != _placed(found.get(k)) for k in touched[name]):
            return read_project(project)[1]
        rows[name] = found
        lists[name] = in_order(getattr(keyed.book, name), was, found)
    if pages:
        found = {k: x for k, x in rows["periods"].items() if k not in pages}
        rows["periods"] = found = found | _pages(project, codes, scope, written)
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
