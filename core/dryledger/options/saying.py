"""Changes of an option in words, as a board lists them."""

from collections.abc import Mapping
from typing import Any

from dryledger.book.lists import LISTS
from dryledger.book.options import Change
from dryledger.book.plan import Book
from dryledger.book.reader import duration_text, split_duration
from dryledger.calendar.calendar import Calendar

__all__ = ["change_words"]

WORDS = {"imposed_finish": "imposed finish", "treatment": "treatment of out-of-sequence work", "lag_basis": "lag counts"}


def change_words(book: Book, x: Change) -> tuple[str, str]:
    """What a change is about, and what it does: names of the present plan, new values and those they replace.

    >>> from dryledger.book.plan import Activity, Project
    >>> from dryledger.calendar.calendar import Calendar
    >>> five = Calendar("five", "Five-day week", (((480, 960),),) * 7)
    >>> rows = (Activity("A", "Dig", calendar="five"), Activity("B", "Pour", calendar="five"))
    >>> book = Book(Project("P", "Pier", "EUR", 0, "five"), (five,), activities=rows)
    >>> change_words(book, Change("set", "A", cells={"duration": "960min"}, was={"duration": "3d"}))
    ('Dig', 'duration 3 d → 2 d')
    >>> change_words(book, Change("link", source="A", target="B", type="FS", cells={"lag": "-1d"}))
    ('Dig → Pour', 'link FS, lag −1 d')
    """
    return _subject(book, x), _what(book, x)


def _name(book: Book, code: str | None) -> str:
    at = code or ""
    row = book.activity_by_code.get(at) or book.resource_by_code.get(at) or book.external_by_code.get(at)
    return row.name if row is not None else code or ""


def _subject(book: Book, x: Change) -> str:
    if x.do == "add":
        return str(x.cells.get("name") or x.row)
    if x.do in ("link", "unlink", "untie"):
        return f"{_name(book, x.source)} → {_name(book, x.target)}"
    if x.do in ("assign", "unassign", "hours"):
        return f"{_name(book, x.activity)}, {_name(book, x.resource)}"
    if x.do in ("cost", "uncost"):
        return f"{_name(book, x.activity)}, {x.name}"
    if x.do == "pay":
        return _name(book, x.cells.get("activity"))
    return book.project.name if x.do == "project" else _name(book, x.row)


def _what(book: Book, x: Change) -> str:
    if x.do == "delete" or (x.do in ("order", "mark", "change", "reserve") and not x.cells):
        return "deleted"
    if x.do == "untie":
        return "untied"
    if x.do == "unassign":
        return "unassigned"
    if x.do == "uncost":
        return "cost deleted"
    if x.do == "unlink":
        return f"link {x.type or 'FS'} deleted"
    cells = ", ".join(_cell(book, x, key, value) for key, value in x.cells.items() if not (x.do == "add" and key == "name"))
    head = {"add": "added", "link": f"link {x.type or 'FS'}"}.get(x.do, "")
    return ", ".join(part for part in (head, cells, "posted" if x.do in ("post", "state", "hours", "pay") else "") if part) or "put on"


def _cell(book: Book, x: Change, key: str, value: Any) -> str:
    column = LISTS["activities"].by_key.get(key)
    word = WORDS.get(key) or (column.title.lower() if column is not None else key.replace("_", " "))
    old = x.was.get(key)
    before = f"{_value_words(book, x, key, old)} → " if old is not None else ""
    return f"{word} {before}{_value_words(book, x, key, value)}"


def _calendar(book: Book, x: Change) -> Calendar | None:
    """The calendar that the lengths of a change are counted on."""
    a = book.activity_by_code.get(x.row or x.activity or "")
    return book.calendar_by_code.get(a.calendar if a is not None else book.project.calendar)


def _value_words(book: Book, x: Change, key: str, value: Any) -> str:
    """A value of the book as people read it."""
    if value is None:
        return "none"
    if isinstance(value, Mapping):
        return " ".join(_value_words(book, x, key, v) for v in value.values() if v is not None)
    if isinstance(value, bool):
        return "yes" if value else "no"
    text = str(value)
    if key == "calendar" and text in book.calendar_by_code:
        return book.calendar_by_code[text].name
    length = split_duration(text)
    if length is not None:
        calendar = _calendar(book, x)
        if length[1] == "min" and calendar is not None:
            length = split_duration(duration_text(int(length[0]), calendar, ("d", "h", "min"))) or length
        text = f"{length[0].normalize():f} {length[1]}"
    elif len(text) == 16 and text[10] == "T":
        return f"{text[:10]} {text[11:]}"
    return f"−{text[1:]}" if text.startswith("-") and text[1:2].isdigit() else text.replace("_", " ")
