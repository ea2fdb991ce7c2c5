"""Approving a promise: levelled dates go into the plan, chains, buffers and hand-overs are kept as they are. Taking a hand-over away."""

from collections.abc import Mapping

from dryledger.book.lists_beside import PROMISES
from dryledger.book.options import Promise
from dryledger.calendar.calendar import Instant, to_text
from dryledger.changes.apply import Changed, finished
from dryledger.changes.draft import Draft
from dryledger.changes.keyed import KeyedBook
from dryledger.exchange.write import row_document
from dryledger.words import sentence

__all__ = ["approve_promise"]


def approve_promise(keyed: KeyedBook, promise: Promise, dates: Mapping[str, Instant]) -> Changed:
    """The book with a promise, and with these levelled dates and no others (`dates_to_write`). Raises ChangeRefused."""
    draft = Draft(keyed, typed=False)
    for key, a in list(draft.records("activities")):
        new = dates.get(a.code)
        if a.levelled != new:
            draft.put("activities", key, {"levelled": None if new is None else to_text(new)})
    draft.add("promises", row_document(PROMISES, promise))
    draft.labels.append(sentence("buffers.promised", code=promise.code, date=to_text(promise.buffer.end)[:10]))
    return finished(draft)
