"""Sealing a page: its inputs and results as canonical JSON (RFC 8785) with SHA-256 that chains to the page before."""

import hashlib
import json
import zlib
from typing import Any

import rfc8785
from django.utils import timezone

from dryledger.book.plan import Book
from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from dryledger.marks.marks import project_mark
from dryledger.results import results_document
from server.accounts.models import Person
from server.exchange.books import Recent, book_document
from server.plan.models import Project
from server.posting.models import Page

_books = Recent(40)
SEALED = ("schedule", "value", "curve", "differences")
"""The parts of the results that a seal holds. Checks are advice and may be worded anew."""


def canonical(document: object) -> bytes:
    """Canonical JSON bytes of plain data."""
    return rfc8785.dumps(document)  # type: ignore[arg-type]


def digest_of(inputs: bytes, results: bytes, text: bytes, previous: str) -> str:
    """SHA-256 over inputs, results, text and the digest of the page before."""
    h = hashlib.sha256()
    for part in (inputs, results, text, previous.encode()):
        h.update(len(part).to_bytes(8, "big"))
        h.update(part)
    return h.hexdigest()


def text_of(page: Page) -> bytes:
    """The words said in the report of a page, as they go into its digest."""
    draft = getattr(page, "draft", None)
    return canonical({} if draft is None else {"status": draft.status, "reason": draft.reason, "words": draft.words})


def seal(project: Project, page: Page, person: Person | None) -> None:
    """Make a page dry. Its results are computed once more, from what is stored."""
    page.state = "dry"
    document: dict[str, Any] = book_document(project, page)
    document["periods"][-1]["state"] = "dry"
    inputs = canonical(document)
    found = compute(book_from(json.loads(inputs)), page.code)
    results = canonical(results_document(found, SEALED))
    before = Page.objects.filter(project=project, order__lt=page.order).order_by("-order").first()
    page.previous = before.digest if before else ""
    page.digest = digest_of(inputs, results, text_of(page), page.previous)
    page.inputs, page.results = zlib.compress(inputs), zlib.compress(results)
    page.mark = project_mark(found).mark
    page.closed_by, page.closed_at = person, timezone.now()
    page.save()


def sealed_book(page: Page) -> Book:
    """The book as it was when a dry page was closed."""

    def make() -> Book:
        stored = Page.objects.values_list("inputs", flat=True).get(pk=page.pk)
        assert stored is not None
        return book_from(json.loads(zlib.decompress(stored)))

    return _books.get((page.uid, page.digest), make)


def verify(project: Project) -> list[str]:
    """Recompute every dry page's digest and results; a sentence for each page that does not hold."""
    wrong, previous = [], ""
    for page in Page.objects.filter(project=project, state="dry"):
        assert page.inputs is not None and page.results is not None
        inputs, results = zlib.decompress(page.inputs), zlib.decompress(page.results)
        if page.previous != previous or page.digest != digest_of(inputs, results, text_of(page), page.previous):
            wrong.append(f"Page {page.code} of {project.code}: what is stored does not match its seal.")
        elif canonical(results_document(compute(book_from(json.loads(inputs)), page.code), SEALED)) != results:
            wrong.append(f"Page {page.code} of {project.code}: its figures come out differently now.")
        document = json.loads(inputs)["periods"][-1]
        now = book_document(project, page)["periods"][-1]
        if now != document:
            wrong.append(f"Page {page.code} of {project.code}: its rows were changed after it was closed.")
        previous = page.digest
    return wrong
