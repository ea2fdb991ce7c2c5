"""A project's rows as a document in the open format, for sealing and export; and the memory of what was made lately."""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock, RLock
from typing import Any, ClassVar, TypeVar

from django.db.models import QuerySet

from dryledger.book.registers import REGISTERS
from server.baseline.models import Baseline
from server.calendar.models import Calendar
from server.plan.models import Activity, Assignment, DirectCost, Estimate, Link, Project, RegisterEntry, Resource, WbsElement
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
    **dict.fromkeys(REGISTERS, RegisterEntry),
    "estimates": Estimate,
}
PAGE_LISTS: dict[str, type[BookRow]] = {"statements": Statement, "hours": HoursEntry, "costs": CostEntry}


class Recent:
    """The last few values made, by key. Keys carry revisions, so an entry never goes stale."""

    _all: ClassVar[list["Recent"]] = []

    def __init__(self, size: int) -> None:
        self._size, self._kept, self._lock = size, OrderedDict[Hashable, Any](), Lock()
        self._making: dict[Hashable, Any] = {}
        Recent._all.append(self)

    @classmethod
    def forget_all(cls) -> None:
        """Empty every cache: for when a database is put back to an earlier state under a running process."""
        for cache in cls._all:
            with cache._lock:
                cache._kept.clear()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """The value of a key, made where it is not kept. Whoever asks while it is being made waits for that."""
        with self._lock:
            if key in self._kept:
                self._kept.move_to_end(key)
                found: T = self._kept[key]
                return found
            making = self._making.setdefault(key, RLock())
        with making:
            with self._lock:
                if key in self._kept:
                    found = self._kept[key]
                    return found
            try:
                made = make()
                self.put(key, made)
            finally:
                with self._lock:
                    self._making.pop(key, None)
            return made

    def put(self, key: Hashable, value: object) -> None:
        """Keep a value, in place of the one that may be there."""
        with self._lock:
            self._kept.pop(key, None)
            self._kept[key] = value
            while len(self._kept) > self._size:
                self._kept.popitem(last=False)

    def drop(self, key: Hashable) -> None:
        """Forget a value."""
        with self._lock:
            self._kept.pop(key, None)

    def peek(self, key: Hashable) -> Any:
        """The value of a key, None where it is not kept."""
        with self._lock:
            return self._kept.get(key)


def codes_of(project: Project) -> dict[str, dict[int, str]]:
    """For each kind of row that others refer to, the code of each id."""
    return {
        model.__name__: dict(model.objects.filter(project=project).values_list("pk", "code"))  # type: ignore[attr-defined]
        for model in (Activity, Resource, WbsElement)
    }


def rows_of(project: Project, key: str) -> "QuerySet[BookRow]":
    """The rows of one of the book's lists, in its order."""
    found = LISTS[key].objects.filter(project=project)  # type: ignore[attr-defined]
    return found.filter(register=key) if key in REGISTERS else found  # type: ignore[no-any-return]


def plan_document(project: Project, codes: dict[str, dict[int, str]]) -> dict[str, Any]:
    """The book without its periods."""
    out: dict[str, Any] = {"format": "dry-ledger-book", "version": 1, "project": project.to_book()}
    for key in LISTS:
        out[key] = [row.to_book(codes) for row in rows_of(project, key)]
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
