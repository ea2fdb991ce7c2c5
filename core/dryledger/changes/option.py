"""An option on top of a book: its changes made in order, what does not fit left out and named.

Source: calculation contract, section 19.
"""

from collections.abc import Mapping, Sequence, Set
from dataclasses import dataclass, replace
from typing import Any

from dryledger.book.lists import LISTS, PROJECT
from dryledger.book.numbering import next_code
from dryledger.book.options import Change
from dryledger.book.plan import Book
from dryledger.changes.apply import Changed, finished, one
from dryledger.changes.draft import Doc, Draft, Edit
from dryledger.changes.keyed import KeyedBook
from dryledger.errors import ChangeRefused
from dryledger.exchange.write import row_document
from dryledger.words import sentence

__all__ = ["Applied", "Conflict", "changed_values", "changes_of", "with_changes", "with_keyed_changes"]

PROJECT_CELLS = ("start", "calendar", "imposed_finish", "deadline", "treatment")
RESOURCE_CELLS = ("units", "calendar", "exceptions")
ALLOWED: dict[str, tuple[str, ...]] = {
    "project": PROJECT_CELLS,
    "resource": RESOURCE_CELLS,
    "link": ("lag", "lag_basis"),
    "assign": ("units", "work", "quantity", "actuals", "to_order", "closed"),
    "cost": ("kind", "amount", "accrual", "in_budget", "to_order", "closed"),
}
"""The cells that a change may write, by what it does; absent: all that the row has but its code."""


@dataclass(frozen=True)
class Conflict:
    """A change that does not fit: its place in the option, and why."""

    change: int
    message: str
    code: str = ""


@dataclass(frozen=True)
class Applied:
    """A book with an option's changes made; `conflicts` are those that were left out."""

    changed: Changed
    conflicts: tuple[Conflict, ...]

    @property
    def book(self) -> Book:
        """The changed book."""
        return self.changed.after.book


def with_changes(book: Book, changes: Sequence[Change], later: Set[str] = frozenset()) -> Applied:
    """A book with changes made in order; one that does not fit is left out and named, one that names a page of `later` only left out.

    >>> from dryledger.book.plan import Activity, Project
    >>> from dryledger.calendar.calendar import Calendar
    >>> five = Calendar("five", "Five", (((480, 720),),) * 7)
    >>> book = Book(Project("P", "Pier", "EUR", 0, "five"), (five,), activities=(Activity("A", "Dig", calendar="five", duration=240),))
    >>> found = with_changes(book, [Change("set", "A", cells={"duration": "3d"}), Change("delete", "B")])
    >>> found.book.activities[0].duration, found.conflicts[0].change, found.conflicts[0].message
    (1440, 1, 'There is no row “B” in this book.')
    """
    return with_keyed_changes(KeyedBook.of(book), changes, later=later)


def with_keyed_changes(keyed: KeyedBook, changes: Sequence[Change], register: Doc | None = None, later: Set[str] = frozenset()) -> Applied:
    """The same on a book whose rows have keys; rows that are made have keys below 0.

    `register` is a row for the change log that is written with them.
    """
    verbs = {i: x.verb for i, x in enumerate(changes) if x.page not in later}
    if not _mended_later(changes):
        try:
            return Applied(_made(keyed, list(verbs.values()), register), ())
        except ChangeRefused:
            pass  # which ones do not fit is found out below
    fitting: list[Doc] = []
    conflicts = []
    now = keyed
    for i, verb in verbs.items():
        try:
            now = _made(now, [verb]).after
        except ChangeRefused as refused:
            conflicts.append(Conflict(i, refused.message, refused.code))
        else:
            fitting.append(verb)
    return Applied(_made(keyed, fitting, register), tuple(conflicts))


def changed_values(keyed: KeyedBook, change: Change) -> Change:
    """A change that remembers the values that it would replace now, in the place of those that it knew. Raises ChangeRefused."""
    bare = replace(change, was={})
    found = changes_of(keyed, _made(keyed, [bare.verb]))
    return found[0] if len(found) == 1 else bare


def _mended_later(changes: Sequence[Change]) -> bool:
    """Whether a link comes in before another one goes out: then a loop may stand in between, which does not fit."""
    kinds = [x.do for x in changes]
    return "link" in kinds and any(k in ("unlink", "delete") for k in kinds[kinds.index("link") :])


def _made(keyed: KeyedBook, verbs: Sequence[Doc], register: Doc | None = None) -> Changed:
    draft = Draft(keyed, typed=False, by_name=False)
    for verb in verbs:
        _allowed(verb)
        one(draft, verb)
    if register is not None:
        draft.add("changes", {"code": next_code(draft.codes("changes"), None, 1, "C1"), **register})
    return finished(draft)


def _allowed(verb: Doc) -> None:
    """Raises ChangeRefused for cells that an option does not change."""
    known = ALLOWED.get(verb["do"])
    for key in verb.get("cells", ()):
        if known is not None and key not in known:
            raise ChangeRefused("bad-request", sentence("rows.cant_written_here", value=key[:60]), field=key)


# What somebody did to a plan, as the changes of an option


def changes_of(before: KeyedBook, done: Changed) -> list[Change]:
    """What was done to a plan as changes of an option, with the values that they replace.

    Raises ChangeRefused for what an option can't hold: other codes, another order, elements, calendars and registers.
    """
    out: list[Change] = []
    if done.project:
        other = [k for k in done.project if k not in PROJECT_CELLS]
        if other:
            raise ChangeRefused("not-in-option", sentence("options.not_of_project"), field=other[0])
        was = row_document(PROJECT, before.book.project)
        out.append(Change("project", cells=dict(done.project), was={k: was.get(k) for k in done.project}))
    gone = {e.key for e in done.edits if e.gone and e.list == "activities"}
    codes = {before.rows["activities"][key].record.code for key in gone}
    for e in sorted(done.edits, key=_rank):
        make = _MAKERS.get(e.list)
        if make is None:
            if e.list == "periods":
                continue
            raise ChangeRefused("not-in-option", sentence("options.not_of_plan", what=LISTS[e.list].title.lower()))
        known = before.rows[e.list].get(e.key)
        record = known.record if known is not None else done.after.rows[e.list][e.key].record
        if e.list in ("links", "assignments", "costs") and e.gone and _hung_on(record, codes):
            continue  # goes with its activity
        if e.new or e.gone or e.cells:
            out.append(make(e, record, {} if known is None else row_document(LISTS[e.list], record)))
        elif e.order is not None:
            raise ChangeRefused("not-in-option", sentence("options.no_order"))
    return out


def _rank(e: Edit) -> tuple[int, int]:
    """What goes first; then new activities before what refers to them; activities that go, last."""
    whole = e.list in ("activities", "resources")
    return (3 if whole else 0) if e.gone else 1 if whole else 2, -e.key if e.new else 0


def _hung_on(record: Any, codes: set[str]) -> bool:
    named = (record.source, record.target) if hasattr(record, "source") else (record.activity,)
    return any(x in codes for x in named)


def _was(cells: Mapping[str, Any], doc: Doc) -> Doc:
    return {k: doc.get(k) for k in cells}


def _activity(e: Edit, record: Any, doc: Doc) -> Change:
    if e.gone:
        return Change("delete", record.code)
    if e.new:
        return Change("add", record.code, cells={k: v for k, v in e.cells.items() if k != "code"})
    if "code" in e.cells:
        raise ChangeRefused("not-in-option", sentence("options.no_codes"), field="code")
    return Change("set", record.code, cells=dict(e.cells), was=_was(e.cells, doc))


def _link(e: Edit, record: Any, doc: Doc) -> Change:
    ends: Doc = {"source": record.source, "target": record.target, "type": record.type}
    own = ("from", "to", "type")
    if e.gone:
        return Change("unlink", **ends, was={k: doc.get(k) for k in ("lag", "lag_basis") if k in doc})
    if "type" in e.cells and not e.new:
        raise ChangeRefused("not-in-option", sentence("options.no_type"), field="after")
    cells = {k: v for k, v in e.cells.items() if k not in own}
    return Change("link", **ends, cells=cells, was={} if e.new else _was(cells, doc))


def _assignment(e: Edit, record: Any, doc: Doc) -> Change:
    ends: Doc = {"activity": record.activity, "resource": record.resource}
    if e.gone:
        return Change("unassign", **ends)
    cells = {k: v for k, v in e.cells.items() if k not in ends}
    return Change("assign", **ends, cells=cells, was={} if e.new else _was(cells, doc))


def _cost(e: Edit, record: Any, doc: Doc) -> Change:
    ends: Doc = {"activity": record.activity, "name": record.name}
    if e.gone:
        return Change("uncost", **ends)
    if "name" in e.cells and not e.new:
        raise ChangeRefused("not-in-option", sentence("options.no_cost_name"), field="name")
    cells = {k: v for k, v in e.cells.items() if k not in ends}
    return Change("cost", **ends, cells=cells, was={} if e.new else _was(cells, doc))


def _resource(e: Edit, record: Any, doc: Doc) -> Change:
    if e.new or e.gone or any(k not in RESOURCE_CELLS for k in e.cells):
        raise ChangeRefused("not-in-option", sentence("options.not_of_resource"))
    return Change("resource", record.code, cells=dict(e.cells), was=_was(e.cells, doc))


_MAKERS = {"activities": _activity, "links": _link, "assignments": _assignment, "costs": _cost, "resources": _resource}
