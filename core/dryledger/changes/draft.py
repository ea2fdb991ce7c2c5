"""A book in the making: rows are put, added and dropped one by one, then `done` makes a book of them or refuses all.

A row is written as the book writes it and read as the book is read, so that what a change makes is what anybody would
read who opened the changed book.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from dryledger.book.columns import ListOf
from dryledger.book.lists import LISTS, PROJECT
from dryledger.book.memo import changed
from dryledger.book.plan import Book
from dryledger.book.reader import Reader
from dryledger.book.registers import REGISTERS
from dryledger.book.rules import check_book
from dryledger.calendar.calendar import Calendar
from dryledger.changes.elsewhere import NOTHING, OutsideContext
from dryledger.changes.keyed import LETTERS, KeyedBook, Row, name_of, place_of
from dryledger.changes.outline import Outline
from dryledger.changes.references import renamed
from dryledger.changes.refusals import refused
from dryledger.changes.rereading import counted_by, reread_all, reread_work
from dryledger.errors import ChangeRefused, EntryRefused, Fault
from dryledger.exchange.read import RowContext, read_row
from dryledger.exchange.write import row_document
from dryledger.schedule.schedule import Scheduled
from dryledger.words import sentence

__all__ = ["Doc", "Draft", "Edit", "in_order"]

Doc = dict[str, Any]
GONE = sentence("draft.row_any_more_somebody")
LONGEST_KEY = 15


@dataclass
class Edit:
    """What became of one row: the cells that were written (None: made empty), or that it is new, or gone."""

    list: str
    key: int
    cells: Doc = field(default_factory=dict)
    new: bool = False
    gone: bool = False
    order: float | None = None
    """Its place, where that is new."""


class Draft:
    """A book being changed. `typed`: cells are what people type; else they are as the book writes them.

    `dates` are the present dates of each activity, for cells that stand for them. `by_name`: rows are named by letter and
    key; else by their codes. `beside` is what of other projects and of the organisation verbs may call upon.
    """

    def __init__(
        self,
        before: KeyedBook,
        typed: bool = True,
        dates: Mapping[str, Scheduled] | None = None,
        by_name: bool = True,
        beside: OutsideContext = NOTHING,
    ) -> None:
        self.before, self.typed, self.by_name, self.dates = before, typed, by_name, dates or {}
        self.beside = {x.code: x for x in beside.externals}
        self.shared = {x.code: x for x in beside.shared}
        self.kinds, self.books = beside.kinds, beside.books
        self.rows: dict[str, dict[int, Row]] = {}
        self.edits: dict[tuple[str, int], Edit] = {}
        self.project = before.book.project
        self.project_cells: Doc = {}
        self.entries: dict[tuple[int, str, int], Any] = {}
        """What became of rows of pages, by page, list and place there (new ones below 0): the record, None where it is gone."""
        self._places: dict[tuple[int, str], list[int]] = {}
        self.own: set[tuple[int, int]] = set()
        """The costs, by page and place, that are what the posting sheet's own cell says."""
        self.named: dict[str, str] = {}
        self.labels: list[str] = []
        self.outline = Outline(before)
        self._next = min([-1, *(min(rows, default=0) - 1 for rows in before.rows.values())])
        self._codes: dict[str, dict[str, int]] = {}

    # What is there

    @property
    def book(self) -> Book:
        """The book as it stood before."""
        return self.before.book

    def rows_of(self, list_name: str) -> Mapping[int, Row]:
        """The rows of a list as they are now, by key."""
        return self.rows[list_name] if list_name in self.rows else self.before.rows[list_name]

    def records(self, list_name: str) -> Iterable[tuple[int, Any]]:
        """Key and record of every row of a list."""
        return ((key, x.record) for key, x in self.rows_of(list_name).items())

    def record(self, list_name: str, key: int) -> Any:
        """A record. Raises ChangeRefused where it is gone."""
        found = self.rows_of(list_name).get(key)
        if found is None:
            raise ChangeRefused("not-found", GONE)
        return found.record

    def codes(self, list_name: str) -> dict[str, int]:
        """The key of each row of a list by its code, as they are now."""
        found = self._codes.get(list_name)
        if found is None:
            found = self._codes[list_name] = dict(self.before.key_of(list_name))
        return found

    def find(self, ref: object, letters: str) -> tuple[str, int]:
        """List and key of a row by its name, the name that an earlier verb gave it, or its code."""
        name = self.named.get(str(ref), str(ref))
        if self.by_name or str(ref) in self.named:
            key = name[1:].removeprefix("-")
            if name[:1] in letters and key.isdecimal() and len(key) <= LONGEST_KEY:
                for list_name in LETTERS[name[0]]:
                    if int(name[1:]) in self.rows_of(list_name):
                        return list_name, int(name[1:])
                raise ChangeRefused("not-found", GONE)
            raise ChangeRefused("not-found", GONE)
        for letter in letters:
            for list_name in LETTERS[letter]:
                if letter not in "lsc" and name in self.codes(list_name):
                    return list_name, self.codes(list_name)[name]
        raise ChangeRefused("not-found", sentence("draft.no_row_book", value=name[:60]))

    def name(self, ref: object, letters: str) -> str:
        """The name of a row of the tree or another list."""
        return name_of(*self.find(ref, letters))

    def by_code(self, of: ListOf, cells: Doc) -> Doc:
        """Cells in which rows that an earlier verb named stand by their codes."""
        out = dict(cells)
        for key, value in cells.items():
            column = of.by_key.get(key)
            if column is not None and column.names and isinstance(value, str) and value in self.named:
                list_name, row = self.find(value, self.named[value][0])
                if list_name in column.names.split("|"):
                    out[key] = self.record(list_name, row).code
        return out

    def put_in_tree(self, list_name: str, key: int) -> None:
        """Let the tree know where a row stands, from its own cells."""
        if list_name in ("activities", "wbs"):
            record = self.record(list_name, key)
            above = record.wbs if list_name == "activities" else record.parent
            parent = None if above is None or above not in self.codes("wbs") else name_of("wbs", self.codes("wbs")[above])
            self.outline.put(name_of(list_name, key), parent, self.rows_of(list_name)[key].order)

    def calendar_of(self, record: Any) -> Calendar:
        """The calendar that the cells of a row are read on: its own, else the project's."""
        calendars: dict[str, Calendar] = {c.code: c for _, c in self.records("calendars")}
        own = getattr(record, "calendar", None)
        return calendars.get(own or "") or calendars[self.project.calendar]

    def near(self, record: Any) -> int:
        """A date near which the dates of a row lie: its own start, the one it has in the plan now, or the project's."""
        own = getattr(record, "start", None) if hasattr(record, "pauses") else None
        dates = self.dates.get(record.code) if hasattr(record, "pauses") else None
        return own if own is not None else self.project.start if dates is None else dates.start

    def scope(self) -> RowContext:
        """What rows are read against, as it is now."""
        calendars = {c.code: c for _, c in self.records("calendars")}
        return RowContext(calendars, calendars[self.project.calendar])

    def scope_for(self, list_name: str, doc: Doc) -> RowContext:
        """The scope of one row: of an assignment it knows the calendar of its activity."""
        scope = self.scope()
        code = doc.get("activity")
        if list_name == "assignments" and code in self.codes("activities"):
            a = self.record("activities", self.codes("activities")[code])
            return RowContext(scope.calendars, scope.usual, {code: scope.calendars.get(a.calendar, scope.usual)})
        return scope

    # Writing

    def changing(self, list_name: str) -> dict[int, Row]:
        """The rows of a list, to be written into."""
        if list_name not in self.rows:
            self.rows[list_name] = dict(self.before.rows[list_name])
        return self.rows[list_name]

    def read(self, list_name: str, doc: Doc, scope: RowContext | None = None) -> Any:
        """A row as the book reads it. Raises EntryRefused at the first cell that can't be."""
        faults: list[Fault] = []
        record = read_row(Reader(doc, "", faults), LISTS[list_name], scope or self.scope_for(list_name, doc))
        if faults:
            raise EntryRefused(faults[0].path or list_name, f"{faults[0].message[:1].upper()}{faults[0].message[1:]}.")
        return record

    def edit(self, list_name: str, key: int) -> Edit:
        """What became of a row so far."""
        return self.edits.setdefault((list_name, key), Edit(list_name, key))

    def put(self, list_name: str, key: int, cells: Doc) -> None:
        """Write cells of a row, as the book writes them; None makes a cell empty."""
        row = self.rows_of(list_name)[key]
        doc = {k: v for k, v in (row_document(LISTS[list_name], row.record) | cells).items() if v is not None}
        record = self.read(list_name, doc)
        self.changing(list_name)[key] = row._replace(record=record)
        self.edit(list_name, key).cells |= cells
        if list_name == "activities" and record.calendar != row.record.calendar:
            reread_work(self, {record.code})
        if list_name == "calendars" and counted_by(record) != counted_by(row.record):
            reread_all(self, record.code)

    def place(self, list_name: str, key: int, order: float) -> None:
        """Give a row another place."""
        self.changing(list_name)[key] = self.rows_of(list_name)[key]._replace(order=order)
        self.edit(list_name, key).order = order

    def add(self, list_name: str, doc: Doc, order: float | None = None) -> int:
        """A new row, last where no place is given; gives its key."""
        rows = self.changing(list_name)
        key, self._next = self._next, self._next - 1
        if order is None:
            order = max((x.order for x in rows.values()), default=-1.0) + 1
        doc = {k: v for k, v in doc.items() if v is not None}
        rows[key] = Row(order, key, self.read(list_name, doc))
        self.edits[list_name, key] = Edit(list_name, key, dict(doc), new=True, order=order)
        if "code" in doc and list_name in _CODED:
            self.codes(list_name)[doc["code"]] = key
        return key

    def drop(self, list_name: str, key: int) -> None:
        """Take a row away."""
        row = self.changing(list_name).pop(key)
        if list_name in _CODED:
            self.codes(list_name).pop(str(row.record.code), None)
        edit = self.edit(list_name, key)
        if edit.new:
            del self.edits[list_name, key]
        else:
            edit.gone, edit.cells = True, {}

    # What is entered on pages

    def entered(self, page: int, part: str) -> dict[int, Any]:
        """The rows of a list of a page ("statements", "hours", "costs") by place; new ones have places below 0."""
        rows = getattr(self.record("periods", page), part)
        return dict(zip(self._places.setdefault((page, part), list(range(len(rows)))), rows, strict=True))

    def enter(self, page: int, part: str, rows: Iterable[tuple[int | None, Any]]) -> list[int]:
        """Write rows of a list of a page by place (None: a new one); a row that is None is taken away. Gives the places."""
        found, out = self.entered(page, part), list[int]()
        for place, record in rows:
            if place is None:
                place, self._next = self._next, self._next - 1
            out.append(place)
            if record is None:
                found.pop(place)
            else:
                found[place] = record
            if record is None and place < 0:
                del self.entries[page, part, place]
            else:
                self.entries[page, part, place] = record
        self._places[page, part] = list(found)
        self.put_page(page, **{part: tuple(found.values())})
        return out

    def put_page(self, page: int, **fields: Any) -> None:
        """Write attributes of a page; its own cells (status, note) are noted as an edit."""
        row = self.rows_of("periods")[page]
        record = replace(row.record, **fields)
        self.changing("periods")[page] = row._replace(record=record)
        own = {k: v for k, v in fields.items() if k not in ("statements", "hours", "costs")}
        if own:
            doc = row_document(LISTS["periods"], replace(record, statements=(), hours=(), costs=()))
            self.edit("periods", page).cells |= {k: doc.get(k) for k in own}

    def put_project(self, cells: Doc) -> None:
        """Write cells of the project."""
        doc = {k: v for k, v in (row_document(PROJECT, self.project) | cells).items() if v is not None}
        faults: list[Fault] = []
        was, code = self.project, str(doc.get("calendar"))
        calendars = {c.code: c for _, c in self.records("calendars")}
        usual = calendars.get(code)
        if usual is None:
            raise EntryRefused("calendar", sentence("draft.no_calendar", value=code[:60]))
        project = read_row(Reader(doc, "", faults), PROJECT, RowContext(calendars, usual))
        if faults:
            raise EntryRefused(faults[0].path, f"{faults[0].message[:1].upper()}{faults[0].message[1:]}.")
        self.project = project
        self.project_cells |= cells
        if project.calendar != was.calendar:
            reread_all(self)
        if project.start != was.start:
            self._move_opening_page(was.start)

    def _move_opening_page(self, was: int) -> None:
        """The opening page stands as of the project's start as long as nothing is posted."""
        pages = list(self.records("periods"))
        if len(pages) == 1:
            key, page = pages[0]
            if page.state == "wet" and page.status == was and not (page.statements or page.hours or page.costs):
                self.changing("periods")[key] = self.rows_of("periods")[key]._replace(record=replace(page, status=self.project.start))
                self.edit("periods", key).cells["status"] = row_document(LISTS["periods"], self.record("periods", key))["status"]

    def rename(self, list_name: str, key: int, new: str) -> None:
        """Give a row another code; everything that names it follows, whatever list it stands in."""
        row = self.rows_of(list_name)[key]
        old = row.record.code
        if new in self.codes(list_name):
            what = "calendar" if list_name == "calendars" else ""
            message = (
                sentence("draft.already_calendar_another_code", new=new) if what else sentence("draft.taken_already_another_code", new=new)
            )
            raise EntryRefused("code", message)
        self.changing(list_name)[key] = row._replace(record=replace(row.record, code=new))
        self.edit(list_name, key).cells["code"] = new
        self.codes(list_name)[new] = self.codes(list_name).pop(old)
        for name, of in LISTS.items():
            for k, x in list(self.rows_of(name).items()):
                record = renamed(of, x.record, list_name, old, new)
                if record is not x.record:
                    self.changing(name)[k] = x._replace(record=record)
                    self._note(name, k, x.record, record)
        project = renamed(PROJECT, self.project, list_name, old, new)
        if project is not self.project:
            before, after = row_document(PROJECT, self.project), row_document(PROJECT, project)
            self.project_cells |= {k: v for k, v in after.items() if before.get(k) != v}
            self.project = project

    def _note(self, list_name: str, key: int, was: Any, now: Any) -> None:
        """Note what of a row is written otherwise; pages name rows by who they are and need no note."""
        if list_name != "periods":
            before, after = row_document(LISTS[list_name], was), row_document(LISTS[list_name], now)
            self.edit(list_name, key).cells |= {k: v for k, v in after.items() if before.get(k) != v}

    # Activities of other projects

    def sources(self) -> list[str]:
        """The codes that a link may lead from."""
        return [*self.codes("activities"), *self.codes("externals"), *self.beside]

    def list_source(self, code: str) -> None:
        """Have an activity of another project among those of the book, where a link is to lead from it."""
        if code in self.beside and code not in self.codes("externals"):
            self.add("externals", row_document(LISTS["externals"], self.beside[code]))

    def drop_unlinked(self) -> None:
        """Take away activities of other projects that no link leads from any more."""
        if "links" in self.rows:
            used = {x.source for _, x in self.records("links")}
            for key, x in list(self.records("externals")):
                if x.code not in used:
                    self.drop("externals", key)

    # Done

    def done(self) -> KeyedBook:
        """The changed book. Raises ChangeRefused at the first row and cell that can't be."""
        lists: dict[str, Any] = {}
        for name, rows in self.rows.items():
            lists[name] = in_order(getattr(self.book, name), self.before.rows[name], rows)
        if self.project != self.book.project or self.project_cells:
            lists["project"] = self.project
        if list(lists) == ["periods"]:
            book = self.book.with_periods(lists["periods"])  # of the same plan: what was worked out of it is kept
        else:
            book = changed(self.book, **lists) if lists else self.book
        codes = {e.list for e in self.edits.values() if e.new or e.gone or "code" in e.cells}
        after = self.before.after(book, self.rows, codes)
        faults = check_book(book, self.book)
        if faults:
            raise refused(after, faults, self.book)
        return after


_CODED = (
    *("activities", "externals", "wbs", "resources", "calendars", "baselines", "estimates", "mark_rules", "orders", "reserves", "options"),
    *("promises", *REGISTERS),
)


def in_order(records: tuple[Any, ...], was: Mapping[int, Row], now: Mapping[int, Row]) -> tuple[Any, ...]:
    """The records of a list in the book's order, `records` being those before."""
    if len(was) == len(now) and was.keys() == now.keys():
        different = [(was[k], x) for k, x in now.items() if x is not was[k]]
        if all(a.order == b.order for a, b in different):
            new = {id(a.record): b.record for a, b in different}
            return tuple([new.get(id(record), record) for record in records])
    return tuple(x.record for x in sorted(now.values(), key=place_of))
