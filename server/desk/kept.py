"""What the desk shows of a project, kept in a file beside the data for every process, also after a start, until the project changes.

The key says all that it rests on: the project and its revision, those of the projects whose dates flow in, the number of the
calculation and the form of what is kept. What is kept can be taken away at any time; it is reckoned again.
"""

from collections.abc import Callable
from dataclasses import fields
from hashlib import sha256

from django.core.cache import caches

from dryledger.compute import CALCULATION
from server.book.cache import Recent
from server.book.models import Page, Project
from server.book.outside import revisions_of
from server.desk.shapes import Line

_here = Recent(20_000, lambda _: 1)
FORM = sha256(repr([(kind.__name__, [f.name for f in fields(kind)]) for kind in Line.KINDS]).encode()).hexdigest()[:8]


def kept(project: Project, page: Page, waits: bool, make: Callable[[], Line]) -> Line:
    """The line of a project, made where nothing is kept of it as it is now."""
    said = (FORM, CALCULATION, page.pk, page.state, *revisions_of(project, waits))
    key = sha256(repr(said).encode()).hexdigest()

    def found() -> Line:
        cache = caches["desk"]
        line = cache.get(key)
        if not isinstance(line, Line):
            line = make()
            cache.set(key, line)
        return line

    out: Line = _here.get(key, found)
    return out
