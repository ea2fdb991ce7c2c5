"""By what something is known that was worked out of a project at a page, wherever it is kept."""

from functools import cache
from hashlib import sha256

from django.conf import settings

from dryledger.compute import CALCULATION
from server.book.models import Page, Project
from server.book.outside import Waits


@cache
def code_version() -> str:
    """A short text that is another whenever any of the code is: what another build worked out counts for nothing."""
    files = sorted(f for top in ("core/dryledger", "server") for f in (settings.ROOT / top).rglob("*.py"))
    return sha256(b"\0".join(f.read_bytes() for f in files if "tests" not in f.parts)).hexdigest()[:16]


def key_of(project: Project, page: Page, waits: Waits) -> str:
    """The project and its revision, those of the projects whose dates flow in, the page, the calculation and the code."""
    parts = (page.pk, page.state, CALCULATION, code_version(), *waits.revisions(project))
    return sha256(repr(parts).encode()).hexdigest()
