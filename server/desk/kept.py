"""What the desk needs of a project, kept in a file beside the data for every process, also after a start, until the project changes.

The key says all that it rests on: the project and its revision, those of the projects whose dates flow in, the number of the
calculation and the form of what is kept. What is kept can be taken away at any time; it is reckoned again.
"""

from collections.abc import Callable
from dataclasses import fields
from functools import partial
from hashlib import sha256
from typing import TypeVar

from django.core.cache import caches

from dryledger.compute import CALCULATION
from server.book.cache import Recent
from server.book.models import Page, Project
from server.book.outside import revisions_of, waiting_projects
from server.book.workspace import read_together

MOST_AT_ONCE = 50
"""How many projects are read at once: as many as weigh little."""
_here = Recent(40_000, lambda _: 1)
T = TypeVar("T")


def form_of(*kinds: type) -> str:
    """A short text that is another whenever dataclasses have other fields."""
    return sha256(repr([(kind.__name__, [f.name for f in fields(kind)]) for kind in kinds]).encode()).hexdigest()[:8]


def kept(what: str, form: str, seen: list[tuple[Project, Page]], kind: type[T], make: Callable[[Project, Page], T]) -> list[T]:
    """Something of each project at its page, made where nothing is kept of it as it is now."""
    waiting = waiting_projects()
    keyed = [(project, page, _key(what, form, project, page, project.pk in waiting)) for project, page in seen]
    out: dict[str, T] = {key: found for _, _, key in keyed if (found := _held(key, kind)) is not None}
    missing = [x for x in keyed if x[2] not in out]
    for i in range(0, len(missing), MOST_AT_ONCE):
        part = missing[i : i + MOST_AT_ONCE]
        read_together([project for project, page, _ in part if page.state == "wet"])
        out |= {key: _here.get(key, partial(_made, key, make, project, page)) for project, page, key in part}
    return [out[key] for _, _, key in keyed]


def _key(what: str, form: str, project: Project, page: Page, waits: bool) -> str:
    """By what it is kept; `waits` says whether dates of other projects flow into the project."""
    said = (what, form, CALCULATION, page.pk, page.state, *revisions_of(project, waits))
    return sha256(repr(said).encode()).hexdigest()


def _held(key: str, kind: type[T]) -> T | None:
    """What is kept here, or in a file from which it is taken then; None where nothing is."""
    found = _here.peek(key)
    if found is None and isinstance(found := caches["desk"].get(key), kind):
        _here.put(key, found)
    return found if isinstance(found, kind) else None


def _made(key: str, make: Callable[[Project, Page], T], project: Project, page: Page) -> T:
    made = make(project, page)
    caches["desk"].set(key, made)
    return made
