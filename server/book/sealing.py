"""Sealing a page: its inputs and results as canonical JSON (RFC 8785) with SHA-256 that chains to the page before.

Everything that is sealed in a project, pages, editions and steps of the journal, is a link of one more chain (`Seal`), whose
end and length the project itself keeps: so nothing can be taken away or turned back without its being seen.
"""

import hashlib
import json
import re
import zlib
from collections.abc import Sequence
from typing import Any

import msgspec
import rfc8785
from django.utils import timezone

from dryledger.book.plan import Book
from dryledger.compute import CALCULATION, compute
from dryledger.exchange.book_json import read_book
from dryledger.marks.marks import project_mark
from dryledger.results import results_document
from server.accounts.audit import note
from server.accounts.models import Person
from server.book.documents import book_document, codes_of
from server.book.models import Page, Project, Seal
from server.shared.words import sentence

SEALED = ("schedule", "value", "curve", "differences")
"""The parts of the results that a seal holds. Checks are advice and may be worded anew."""


UNSEALED = ("options",)
"""What of a book no seal holds: what might be done is no part of what was."""
_BEYOND = re.compile(rb"[\xf0-\xf4]")
_EXPONENT = re.compile(rb"e-?\d")


def canonical(document: object) -> bytes:
    """Canonical JSON bytes of plain data (RFC 8785); by a quick encoder where that surely writes the same."""
    try:
        data = _encoded(document)
        if _fractions(data):
            data = _encoded(_whole(document))
    except (OverflowError, UnicodeEncodeError):
        return _by_the_standard(document)
    return _by_the_standard(document) if _unlike(data) else data


def _by_the_standard(document: object) -> bytes:
    return rfc8785.dumps(_doubles(document))


def _doubles(value: Any) -> Any:
    """Whole numbers that a double can't hold as the doubles next to them: the standard knows no others."""
    if isinstance(value, dict):
        return {k: _doubles(v) for k, v in value.items()}
    if isinstance(value, int) and not isinstance(value, bool) and abs(value) >= 2**53:
        return float(value)
    return [_doubles(v) for v in value] if isinstance(value, list | tuple) else value


def _encoded(document: object) -> bytes:
    return msgspec.json.encode(document, order="sorted", enc_hook=_bare)


def _bare(value: object) -> object:
    """A value that remembers how it was written, as the number or text that it is."""
    if isinstance(value, int):
        return int(value)
    if isinstance(value, str):
        return str(value)
    raise TypeError(f"{type(value).__name__} is no plain data")


def _fractions(data: bytes) -> bool:
    """Whether whole numbers may be written with a fraction of nothing."""
    return any(mark in data for mark in (b".0,", b".0]", b".0}")) or data.endswith(b".0")


def _unlike(data: bytes) -> bool:
    """Whether numbers may be written otherwise, or characters beyond the first plane sorted otherwise, by the two ways."""
    if _fractions(data) or any(data[m.start() - 1 : m.start()].isdigit() for m in _EXPONENT.finditer(data)):
        return True
    return not data.isascii() and _BEYOND.search(data) is not None


def _whole(value: Any) -> Any:
    """Numbers that are whole as such."""
    if type(value) is dict:
        return {k: v if type(v) is str or v is None else _whole(v) for k, v in value.items()}
    if type(value) is float:
        return int(value) if value.is_integer() and abs(value) < 1e15 else value
    return [_whole(v) for v in value] if isinstance(value, list | tuple) else value


def hashed(*parts: bytes, after: "hashlib._Hash | None" = None) -> "hashlib._Hash":
    """SHA-256 over parts of any length, so that none can run into the next; `after` those that were hashed before."""
    h = hashlib.sha256() if after is None else after.copy()
    for part in parts:
        h.update(len(part).to_bytes(8, "big"))
        h.update(part)
    return h


def sha(*parts: bytes) -> str:
    """The same as text."""
    return hashed(*parts).hexdigest()


def text_of(page: Page) -> bytes:
    """The words said in the report of a page, as they go into its digest."""
    draft = getattr(page, "draft", None)
    if draft is None:
        return canonical({})
    more = {"texts": draft.texts, "heads": draft.heads}
    return canonical({"status": draft.status, "reason": draft.reason, "words": draft.words} | {k: x for k, x in more.items() if x})


def closing_of(page: Page) -> bytes:
    """Who closed a page, when, its mark, the calculation and who its rows are, as they go into its digest."""
    at = None if page.closed_at is None else page.closed_at.isoformat()
    own = {"by": page.closed_by_id, "keys": page.keys} if page.closed_as is None else page.closed_as
    head = {"by": own["by"], "at": at, "mark": page.mark, "calculation": page.calculation, "keys": own["keys"]}
    return canonical(head)


def digest_of(page: Page, content: "hashlib._Hash") -> str:
    """The digest of a dry page whose inputs and results are hashed. Before calculation 2 it did not hold who closed it and when."""
    head = (closing_of(page),) if page.calculation > 1 else ()
    return hashed(text_of(page), *head, page.previous.encode(), after=content).hexdigest()


def add_seal(project: Project, kind: str, subject: str, content: str) -> None:
    """One more link of the project's chain."""
    number = project.sealed_count + 1
    digest = sha(project.sealed.encode(), str(number).encode(), kind.encode(), subject.encode(), content.encode())
    Seal.objects.create(project=project, number=number, kind=kind, subject=subject, content=content, digest=digest)
    project.sealed, project.sealed_count = digest, number
    Project.objects.filter(pk=project.pk).update(sealed=digest, sealed_count=number)


def page_content(page: Page) -> str:
    """What the chain holds of a closed page."""
    return sha(page.code.encode(), page.digest.encode(), closing_of(page))


class Sealed:
    """A page's seal as it was computed, to be written in a transaction of its own length."""

    def __init__(self, page: Page, inputs: bytes, results: bytes, mark: str, keys: dict[str, dict[str, int]]) -> None:
        self.page, self.mark, self.keys = page, mark, keys
        self.content = hashed(inputs, results)
        self.packed = zlib.compress(inputs, 3), zlib.compress(results, 3)


def prepared(project: Project, page: Page, outside: Sequence[dict[str, Any]] = (), measured: str | None = None) -> Sealed:
    """Compute the seal of a page from what is stored. It takes as long as computing the book, and holds no lock.

    `outside` are the activities of other projects as they stand now, the way the book writes them; `measured` is the baseline that closing
    says the page was measured by.
    """
    document: dict[str, Any] = book_document(project, page)
    if outside:
        document["externals"] = list(outside)
    document = {k: v for k, v in document.items() if k not in UNSEALED}
    document["periods"][-1] |= {"state": "dry"} | ({} if measured is None else {"measured_against": measured})
    inputs = canonical(document)
    found = compute(read_book(inputs), page.code)
    results = canonical(results_document(found, SEALED))
    period = found.book.periods[-1]
    entries: list[Any] = [*period.statements, *period.hours, *period.costs]
    named = {
        "activities": {x.activity for x in entries if x.activity is not None},
        "resources": {x.resource for x in period.hours},
        "wbs": {x.wbs for x in period.costs if x.wbs is not None},
    }
    codes = codes_of(project)
    keys = {name: {code: pk for pk, code in codes[name].items() if code in wanted} for name, wanted in named.items()}
    return Sealed(page, inputs, results, project_mark(found).mark, keys)


def seal(project: Project, page: Page, person: Person | None, ready: Sealed | None = None) -> None:
    """Make a page dry."""
    ready = ready or prepared(project, page)
    before = Page.objects.filter(project=project, order__lt=page.order).order_by("-order").values_list("digest", flat=True).first()
    page.state, page.previous, page.mark = "dry", before or "", ready.mark
    page.calculation, page.keys = CALCULATION, ready.keys
    page.closed_by, page.closed_at = person, timezone.now()
    page.digest = digest_of(page, ready.content)
    page.inputs, page.results = ready.packed
    page.save()
    add_seal(project, "page", str(page.uid), page_content(page))
    note("seal", sentence("audit.sealed" if person else "audit.came_closed", page=page.code), person, project.code)


def sealed_book(page: Page) -> Book:
    """The book as it was when a dry page was closed."""
    stored = Page.objects.values_list("inputs", flat=True).get(pk=page.pk)
    assert stored is not None
    return read_book(zlib.decompress(stored))


def sealed_document(page: Page) -> dict[str, Any]:
    """The results that the seal of a dry page holds."""
    stored = Page.objects.values_list("results", flat=True).get(pk=page.pk)
    assert stored is not None
    found: dict[str, Any] = json.loads(zlib.decompress(stored))
    return found
