"""The breakdown in reading order."""

from typing import NamedTuple

from dryledger.book.plan import Book

__all__ = ["Head", "levels"]


class Head(NamedTuple):
    """A WBS element with its depth."""

    code: str
    name: str
    level: int


def levels(book: Book) -> list[Head]:
    """The WBS in reading order with its depth: children after their parent."""
    children: dict[str | None, list[str]] = {}
    names = {w.code: w.name for w in book.wbs}
    for w in book.wbs:
        children.setdefault(w.parent, []).append(w.code)
    out: list[Head] = []
    waiting = [(code, 0) for code in reversed(children.get(None, []))]
    while waiting:
        code, level = waiting.pop()
        out.append(Head(code, names[code], level))
        waiting += [(c, level + 1) for c in reversed(children.get(code, []))]
    return out
