"""Changes of an option in words, as a board lists them."""

from collections.abc import Mapping
from typing import Any

from dryledger.book.lists import LISTS
from dryledger.book.options import Change
from dryledger.book.plan import Book

__all__ = ["said_change"]

WORDS = {"imposed_finish": "imposed finish", "treatment": "treatment of out-of-sequence work", "lag_basis": "lag counts"}


def said_change(book: Book, x: Change) -> tuple[str, str]:
    """What a change is about, and what it does: names of the present plan, new values and those they replace.

    >>> from dryledger.book.plan import Activity, Project
    >>> book = Book(Project("P", "Pier", "EUR", 0, "five"), (), activities=(Activity("A", "Dig"), Activity("B", "Pour")))
    >>> said_change(book, Change("set", "A", cells={"duration": "2d"}, was={"duration": "3d"}))
    ('Dig', 'duration 3d → 2d')
    >>> said_change(book, Change("link", source="A", target="B", type="FS", cells={"lag": "-1d"}))
    ('Dig → Pour', 'link FS, lag −1d')
    """
    return _subject(book, x), _what(x)


def _name(book: Book, code: str | None) -> str:
    row = book.activity_by_code.get(code or "") or book.resource_by_code.get(code or "")
    return row.name if row is not None else code or ""


def _subject(book: Book, x: Change) -> str:
    if x.do == "add":
        return str(x.cells.get("name") or x.row)
    if x.do in ("link", "unlink"):
        return f"{_name(book, x.source)} → {_name(book, x.target)}"
    if x.do in ("assign", "unassign"):
        return f"{_name(book, x.activity)}, {_name(book, x.resource)}"
    if x.do in ("cost", "uncost"):
        return f"{_name(book, x.activity)}, {x.name}"
    return book.project.name if x.do == "project" else _name(book, x.row)


def _what(x: Change) -> str:
    if x.do == "delete":
        return "taken out"
    if x.do == "unassign":
        return "taken off"
    if x.do == "uncost":
        return "cost taken out"
    if x.do == "unlink":
        return f"link {x.type or 'FS'} taken out"
    cells = ", ".join(_cell(key, value, x.was) for key, value in x.cells.items() if not (x.do == "add" and key == "name"))
    head = {"add": "added", "link": f"link {x.type or 'FS'}", "post": "posted"}.get(x.do, "")
    return ", ".join(part for part in (head, cells) if part) or "put on"


def _cell(key: str, value: Any, was: Mapping[str, Any]) -> str:
    column = LISTS["activities"].by_key.get(key)
    word = WORDS.get(key) or (column.title.lower() if column is not None else key.replace("_", " "))
    old = was.get(key)
    before = f"{_plain(old)} → " if old is not None else ""
    return f"{word} {before}{_plain(value)}"


def _plain(value: Any) -> str:
    """A value of the book as people read it."""
    if value is None:
        return "none"
    if isinstance(value, Mapping):
        return " ".join(_plain(v) for v in value.values() if v is not None)
    if isinstance(value, bool):
        return "yes" if value else "no"
    text = str(value).replace("_", " ")
    if len(text) == 16 and text[10] == "T":
        return f"{text[:10]} {text[11:]}"
    return f"−{text[1:]}" if text.startswith("-") and text[1:2].isdigit() else text
