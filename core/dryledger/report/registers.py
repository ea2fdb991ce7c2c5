"""What of a project's registers a report tells: the issues, changes and risks that are open or were touched since the last page."""

from collections.abc import Sequence
from dataclasses import dataclass

from dryledger.book.plan import Book
from dryledger.book.registers import ChangeOrder, Issue, Risk

__all__ = ["TOLD", "RegisterFact", "register_facts"]

TOLD = ("issues", "changes", "risks")
_CLOSED = {"issues": ("closed",), "changes": ("approved", "refused", "built"), "risks": ("happened", "closed")}


@dataclass(frozen=True)
class RegisterFact:
    """A row of a register; `since` says what became of it since the last page: new, changed, or nothing."""

    entry: Issue | ChangeOrder | Risk
    open: bool
    since: str


def register_facts(book: Book, before: Book | None, register: str) -> list[RegisterFact]:
    """The rows of "issues", "changes" or "risks" that are open or touched since the book of the last page, in the book's order.

    Without a page before nothing counts as touched. A row keeps its identity by its code.
    """
    rows: Sequence[Issue | ChangeOrder | Risk] = getattr(book, register)
    then = None if before is None else {x.code: x for x in getattr(before, register)}
    out = []
    for x in rows:
        is_open = x.state not in _CLOSED[register]
        since = "" if then is None else "new" if x.code not in then else "changed" if then[x.code] != x else ""
        if is_open or since:
            out.append(RegisterFact(x, is_open, since))
    return out
