"""What the desk needs of each project, in a table: written when a project has changed, read in one query, and gone with the data.

What is written of another state of a project, of another calculation or by other code counts for nothing, and is made anew.
"""

import logging
import threading
import time
from collections.abc import Iterable, Sequence
from concurrent.futures import Executor, Future, ThreadPoolExecutor
from dataclasses import dataclass
from decimal import Decimal

import msgspec
from django.db import DatabaseError, IntegrityError, connection

from dryledger.calendar.axis import Axis, Stretch
from dryledger.desk.people import Asking, Leave, asking, leave_of
from server.book.cache import LruCache
from server.book.keys import key_of
from server.book.lookup import last_page
from server.book.models import Page, Project
from server.book.outside import Waits
from server.book.results import view_of
from server.book.workspace import published, read_together
from server.desk.lines import line_of
from server.desk.models import ProjectSummary
from server.desk.shapes import ProjectLine
from server.shared.problems import is_disk_full

MOST_AT_ONCE = 50
"""How many projects are read at once: as many as weigh little."""
QUIET = 3.0
"""Seconds without another change after which a changed project is summed up."""
log = logging.getLogger(__name__)


@dataclass
class Asked:
    """What an activity asks of a shared resource; its axes by their place in the list of all."""

    resource: str
    activity: str
    name: str
    start: int
    finish: int
    units: Decimal
    axis: int
    own: int


@dataclass
class KeptSummary:
    """What of a project is written: its line, what it asks of shared resources, and the leave of these that it knows of."""

    line: ProjectLine
    axes: list[list[Stretch]]
    asked: list[Asked]
    leave: list[Leave]


@dataclass
class Summary:
    """The same as it is read: the line, what is asked, and the leave."""

    line: ProjectLine
    asking: list[Asking]
    leave: list[Leave]


_read = msgspec.json.Decoder(KeptSummary)
_here = LruCache(4_000, lambda _: 1)


def summaries(seen: Sequence[tuple[Project, Page]]) -> list[Summary]:
    """The summary of each project at its page."""
    waits = Waits(project for project, _ in seen)
    keyed = [(project, page, key_of(project, page, waits)) for project, page in seen]
    found: dict[str, Summary] = {key: held for _, _, key in keyed if (held := _here.peek(key)) is not None}
    if len(found) < len(keyed):
        wanted = {key for _, _, key in keyed if key not in found}
        for key, text in ProjectSummary.objects.filter(key__in=wanted).values_list("key", "text"):
            found[key] = _summary(_read.decode(text))
            _here.put(key, found[key])
    missing = [x for x in keyed if x[2] not in found]
    for i in range(0, len(missing), MOST_AT_ONCE):
        part = missing[i : i + MOST_AT_ONCE]
        read_together([project for project, page, _ in part if page.state == "wet"])
        found |= {key: _made(project, page, key) for project, page, key in part}
    return [found[key] for _, _, key in keyed]


def _made(project: Project, page: Page, key: str) -> Summary:
    def make() -> Summary:
        v = view_of(project, page)
        kept = _kept(line_of(v), asking(v.results), leave_of(v.results.book))
        _write(project, key, msgspec.json.encode(kept).decode())
        return _summary(kept)

    found: Summary = _here.get(key, make)
    return found


def _write(project: Project, key: str, text: str) -> None:
    try:
        ProjectSummary.objects.update_or_create(project=project, defaults={"key": key, "text": text})
    except IntegrityError:
        log.info("%s is gone, and its summary with it", project.code)
    except DatabaseError as error:
        if not is_disk_full(error):
            raise
        log.warning("the disk is full: a summary of %s was not written", project.code)


def _kept(line: ProjectLine, rows: Sequence[Asking], leave: list[Leave]) -> KeptSummary:
    places: dict[int, int] = {}
    axes: list[list[Stretch]] = []

    def place(axis: Axis) -> int:
        if axis.number not in places:
            places[axis.number] = len(axes)
            axes.append(axis.stretches)
        return places[axis.number]

    asked = [Asked(x.resource, x.activity, x.name, x.start, x.finish, x.units, place(x.axis), place(x.own)) for x in rows]
    return KeptSummary(line, axes, asked, leave)


def _summary(kept: KeptSummary) -> Summary:
    axes, code = [Axis(x) for x in kept.axes], kept.line.project.code
    rows = [Asking(code, x.resource, x.activity, x.name, x.start, x.finish, x.units, axes[x.axis], axes[x.own]) for x in kept.asked]
    return Summary(kept.line, rows, kept.leave)


# Written when a project has changed


class _Changed:
    """Projects that changed lately, by key, with when."""

    def __init__(self) -> None:
        self.at: dict[int, float] = {}
        self.some = threading.Condition()

    def note(self, project: Project) -> None:
        """A project has changed."""
        with self.some:
            self.at[project.pk] = time.monotonic()
            self.some.notify()

    def next(self) -> int:
        """A project that changed, once it is quiet; waits for one."""
        with self.some:
            while True:
                pk, at = min(self.at.items(), key=lambda x: x[1], default=(0, 0.0))
                left = at + QUIET - time.monotonic()
                if pk and left <= 0:
                    del self.at[pk]
                    return pk
                self.some.wait(left if pk else None)


_changed = _Changed()


def _changed_project(sender: Project, **more: object) -> None:
    _changed.note(sender)


def keep_up() -> None:
    """Sum up what is not, then every project a little after it has changed, as long as the process lives."""
    published.connect(_changed_project, dispatch_uid="summaries")
    with ThreadPoolExecutor(1) as pool:
        for pk in Project.objects.values_list("pk", flat=True):
            _one(pool, pk)
        connection.close()
        while True:
            _one(pool, _changed.next())


def _one(pool: Executor, pk: int) -> None:
    """Sum up a project in the pool. One that can't be is left for whoever looks at it, and is in the log."""

    def told(done: Future[None]) -> None:
        if (error := done.exception()) is not None:
            log.error("could not sum up a project", exc_info=error)

    pool.submit(refresh, [pk]).add_done_callback(told)


def refresh(pks: Iterable[int]) -> None:
    """Sum up projects where that is not done."""
    try:
        for project in Project.objects.filter(pk__in=pks):
            if Page.objects.filter(project=project).exists():
                summaries([(project, last_page(project))])
    finally:
        connection.close()
