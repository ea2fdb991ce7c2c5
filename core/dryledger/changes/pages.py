"""Pages as they follow each other: closing one, opening the next, taking back one that says nothing, and the verbs for them.

What seals a dry page is not the book's: whoever keeps books adds that.
"""

from collections.abc import Sequence

from dryledger.book.lists import EXTERNALS
from dryledger.book.pages import Period
from dryledger.book.plan import Book
from dryledger.calendar.calendar import Instant, from_text, to_text
from dryledger.changes.draft import Doc, Draft
from dryledger.changes.entering import open_page
from dryledger.changes.keyed import place_of
from dryledger.entry.grammar import format_day
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.exchange.write import row_document
from dryledger.schedule.rhythm import next_status
from dryledger.words import sentence

__all__ = ["close_page", "do_close", "do_open", "do_take_back", "next_page", "open_next", "take_back"]

LONGEST = 100 * 366 * 1440
"""A status date further than this from the page before is a slip of the keys."""


def next_page(book: Book, pages: Sequence[Period], status: Instant | None = None) -> Period:
    """The page after those that there are, with the next code: as of `status`, or as the project's rhythm proposes.

    Raises EntryRefused at `next` for a status that does not lie after theirs.
    """
    if not pages:
        return Period("P01", book.project.start if status is None else status)
    codes, last = {p.code for p in pages}, pages[-1]
    number = len(pages) + 1
    while f"P{number:02d}" in codes:
        number += 1
    if status is None:
        status = next_status(book.axis, book.project.start, [p.status for p in pages], book.project.rhythm)
    elif status <= last.status:
        day, before = format_day(status, True), format_day(last.status, True)
        raise EntryRefused("next", sentence("status.not_after_page", day=day, page=last.code, before=before))
    elif status > last.status + LONGEST:
        raise EntryRefused("next", sentence("status.too_far"))
    return Period(f"P{number:02d}", status)


def close_page(draft: Draft, page: int) -> None:
    """Let a page be dry, and say by which baseline it was measured. Activities of other projects are remembered as they are now: the next
    page tells what moved since.
    """
    own = draft.record("periods", page).measured_against
    draft.put_page(page, state="dry", measured_against=draft.project.measured_against if own is None else own)
    for key, x in list(draft.records("externals")):
        now = {k: v for k, v in row_document(EXTERNALS, x).items() if k != "code"}
        draft.put("externals", key, now | {"status": now.get("status"), "last_start": now["start"], "last_finish": now["finish"]})
    draft.labels.append(sentence("pages.closed", code=draft.record("periods", page).code))


def open_next(draft: Draft, status: Instant | None = None) -> int:
    """Open the page after a dry one; gives its key. Raises ChangeRefused where one is open, EntryRefused at `next`."""
    pages = [x.record for x in sorted(draft.rows_of("periods").values(), key=place_of)]
    if pages and pages[-1].state == "wet":
        raise ChangeRefused("page-open", sentence("pages.open_already", page=pages[-1].code))
    made = next_page(draft.book, pages, status)
    draft.labels.append(sentence("pages.opened", page=made.code))
    return draft.add("periods", {"code": made.code, "status": to_text(made.status)})


def take_back(draft: Draft, page: int) -> str:
    """Take back the latest page, which was opened and says nothing yet; the dry one before it stays dry. Gives the code of that.

    Raises ChangeRefused where it says something, or is the only one.
    """
    pages = sorted(draft.rows_of("periods").values(), key=place_of)
    code, record = draft.record("periods", page).code, draft.record("periods", page)
    answered = any(x.page == code for _, x in draft.records("answers"))
    if record.statements or record.hours or record.costs or record.note or answered:
        raise ChangeRefused("page-in-use", sentence("pages.says_something", page=code))
    if len(pages) == 1:
        raise ChangeRefused("only-page", sentence("pages.only_page", page=code))
    draft.drop("periods", page)
    draft.labels.append(sentence("pages.taken_back", page=code))
    return str(pages[-2].record.code)


# The verbs


def do_close(draft: Draft, verb: Doc) -> None:
    """Close the open page."""
    close_page(draft, open_page(draft, verb.get("page")))


def do_open(draft: Draft, verb: Doc) -> None:
    """Open the next page, as of a status or as proposed."""
    typed = verb.get("status")
    try:
        open_next(draft, None if typed is None else from_text(typed))
    except ValueError:
        raise EntryRefused("status", sentence("reader.instant")) from None


def do_take_back(draft: Draft, verb: Doc) -> None:
    """Take back the open page."""
    take_back(draft, open_page(draft, verb.get("page")))
