"""Why a changed book can't be, in words, beside the row and cell that caused it."""

from typing import Any

from dryledger.book.lists import LISTS
from dryledger.book.plan import Book
from dryledger.changes.keyed import LETTERS, KeyedBook, name_of
from dryledger.errors import ChangeRefused, Fault
from dryledger.words import sentence

__all__ = ["refused"]

_NAMED = {name for names in LETTERS.values() for name in names}


def refused(keyed: KeyedBook, faults: list[Fault], known: Book) -> ChangeRefused:
    """The first fault of a changed book, in words, beside its row and field; activities by the names they are `known` by."""
    fault, names_of = faults[0], keyed.book.activity_by_code | known.activity_by_code
    if fault.path == "links" and "→" in fault.message:
        chain = fault.message.split(": ", 1)[1].split(". ")[0].split(" → ")
        names = [f"{c} {names_of[c].name}" if c in names_of else c for c in chain]
        return ChangeRefused("loop", sentence("draft.would_make_loop_nothing", names=" → ".join(names)), field="after")
    head, _, rest = fault.path.partition("[")
    message = f"{fault.message[:1].upper()}{fault.message[1:]}"
    if head not in LISTS:
        return ChangeRefused(
            "plan-invalid", sentence("draft.nothing_changed", message=message), field=head.removeprefix("project.") or None
        )
    place, _, column = rest.partition("]")
    row = list(keyed.in_order(head))[int(place)]
    if head == "periods":
        return _against_page(row.record, column, fault.message)
    name = name_of(head, row.key) if head in _NAMED else None
    return ChangeRefused(
        "plan-invalid", sentence("draft.nothing_changed", message=message), row=name, field=column.removeprefix(".") or None
    )


def _against_page(page: Any, column: str, message: str) -> ChangeRefused:
    """A change that what was posted on a page does not allow."""
    part, _, rest = column.removeprefix(".").partition("[")
    if not rest:
        return ChangeRefused("posted", sentence("draft.page_against", code=page.code, message=message))
    entry = getattr(page, part)[int(rest.partition("]")[0])]
    of = getattr(entry, "activity", None) or getattr(entry, "wbs", "")
    return ChangeRefused("posted", sentence("draft.page_against_entry", code=page.code, of=of, message=message))
