"""A project's rows as a book: the document for sealing and export, and the core's Book for computing.

The plan is read once for each plan revision and each page once for each of its own, so that posting an entry costs
one page, not the whole book.
"""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock
from typing import Any, ClassVar, TypeVar

from dryledger.calendar import Calendar as CoreCalendar
from dryledger.errors import Fault
from dryledger.exchange import book_from
from dryledger.fields import Reader
from dryledger.page_records import read_period
from dryledger.plan import Book, Period
from server.baseline.models import Baseline
from server.calendar.models import Calendar
from server.plan.models import Activity, Assignment, DirectCost, Link, Project, Resource, WbsElement
from server.plan.rows import BookRow
from server.posting.models import CostEntry, HoursEntry, Page, Statement

T = TypeVar("T")
LISTS: dict[str, type[BookRow]] = {
    "calendars": Calendar,
    "resources": Resource,
    "wbs": WbsElement,
    "activities": Activity,
    "links": Link,
    "assignments": Assignment,
    "costs": DirectCost,
    "baselines": Baseline,
}
PAGE_LISTS: dict[str, type[BookRow]] = {"statements": Statement, "hours": HoursEntry, "costs": CostEntry}


class Recent:
    """The last few values made, by key. Keys carry revisions, so an entry never goes stale."""

    _all: ClassVar[list["Recent"]] = []

    def __init__(self, size: int) -> None:
        self._size, self._kept, self._lock = size, OrderedDict[Hashable, Any](), Lock()
        Recent._all.append(self)

    @classmethod
    def forget_all(cls) -> None:
        """Empty every cache: for when a database is put back to an earlier state under a running process."""
        for cache in cls._all:
            with cache._lock:
                cache._kept.clear()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """The value of a key, made where it is not kept."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                found: T = self._kept[key]
                return found
        made = make()
        with self._lock:
            self._kept[key] = made
            while len(self._kept) > self._size:
                self._kept.popitem(last=False)
        return made

    def put(self, key: Hashable, value: object) -> None:
        """Keep a value, in place of the one that may be there."""
        with self._lock:
            self._kept.pop(key, None)
        self.get(key, lambda: value)

    def peek(self, key: Hashable) -> Any:
        """The value of a key, None where it is not kept."""
        with self._lock:
            return self._kept.get(key)


_plans = Recent(24)
_pages = Recent(400)


def codes_of(project: Project) -> dict[str, dict[int, str]]:
    """For each kind of row that others refer to, the code of each id."""
    return {
        model.__name__: dict(model.objects.filter(project=project).values_list("pk", "code"))  # type: ignore[attr-defined]
        for model in (Activity, Resource, WbsElement)
    }


def plan_document(project: Project, codes: dict[str, dict[int, str]]) -> dict[str, Any]:
    """The book without its periods."""
    out: dict[str, Any] = {"format": "dry-ledger-book", "version": 1, "project": project.to_book()}
    for key, model in LISTS.items():
        out[key] = [row.to_book(codes) for row in model.objects.filter(project=project)]  # type: ignore[attr-defined]
    return out | project.book_extra


def page_document(page: Page, codes: dict[str, dict[int, str]]) -> dict[str, Any]:
    """One page as the book writes it."""
    out = page.to_book(codes)
    for key, model in PAGE_LISTS.items():
        out[key] = [row.to_book(codes) for row in model.objects.filter(page=page)]  # type: ignore[attr-defined]
    return out


def book_document(project: Project, until: Page | None = None) -> dict[str, Any]:
    """The whole book as a document; `until` leaves out the pages after that one."""
    codes = codes_of(project)
    pages = Page.objects.filter(project=project)
    if until is not None:
        pages = pages.filter(order__lte=until.order)
    return plan_document(project, codes) | {"periods": [page_document(p, codes) for p in pages]}


def _plan(project: Project) -> tuple[Book, dict[str, dict[int, str]]]:
    def make() -> tuple[Book, dict[str, dict[int, str]]]:
        codes = codes_of(project)
        return book_from(plan_document(project, codes)), codes

    return _plans.get((project.uid, project.plan_revision), make)


def _period(page: Page, project: Project, book: Book, codes: dict[str, dict[int, str]]) -> Period:
    def make() -> Period:
        faults: list[Fault] = []
        fallback: CoreCalendar = book.calendar_by_code[book.project.calendar]
        on = {a.code: book.calendar_by_code[a.calendar] for a in book.activities}
        return read_period(Reader(page_document(page, codes), page.code, faults), on, fallback)

    return _pages.get((page.uid, page.revision, project.plan_revision), make)


def live_book(project: Project) -> Book:
    """The book as it stands now."""
    book, codes = _plan(project)
    pages = Page.objects.filter(project=project).defer("inputs", "results")
    return book.with_periods(tuple(_period(p, project, book, codes) for p in pages))
