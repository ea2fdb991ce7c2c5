"""What the desk needs of a project, kept in a file beside the data for every process, also after a start, until the project changes.

The key says all that it rests on: the project and its revision, those of the projects whose dates flow in, the number of the
calculation and the form of what is kept. What is kept can be taken away at any time; it is reckoned again.
"""

from collections.abc import Callable
from dataclasses import fields
from hashlib import sha256
from typing import TypeVar

from django.core.cache import caches

from dryledger.compute import CALCULATION
from server.book.cache import Recent
from server.book.models import Page, Project
from server.book.outside import revisions_of

_here = Recent(40_000, lambda _: 1)
T = TypeVar("T")


def form_of(*kinds: type) -> str:
    """A short text that is another whenever dataclasses have other fields."""
    return sha256(repr([(kind.__name__, [f.name for f in fields(kind)]) for kind in kinds]).encode()).hexdigest()[:8]


def kept(what: str, form: str, project: Project, page: Page, waits: bool, kind: type[T], make: Callable[[], T]) -> T:
    """Something of a project, made where nothing is kept of it as it is now; `waits`: whether dates of other projects flow into it."""
    said = (what, form, CALCULATION, page.pk, page.state, *revisions_of(project, waits))
    key = sha256(repr(said).encode()).hexdigest()

    def found() -> T:
        cache = caches["desk"]
        there = cache.get(key)
        if not isinstance(there, kind):
            there = make()
            cache.set(key, there)
        return there

    out: T = _here.get(key, found)
    return out
