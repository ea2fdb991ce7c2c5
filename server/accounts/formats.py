"""The formats of whoever asks: what is answered is written in theirs, and what they typed is read in them.

A page says with each request in which formats its texts were typed (`Dry-Formats: comma month sun`). Where nothing is
said, as by a program, texts are read in those of the book; files keep formats of their own.
"""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponseBase

from dryledger.book.lists import WEEKDAYS
from dryledger.formats import BOOK, Formats, using
from server.accounts.models import Person

HEADER = "Dry-Formats"


def formats_told(told: str) -> Formats | None:
    """The formats that a header tells, None where it tells none.

    >>> formats_told("comma month sun"), formats_told("")
    (Formats(decimal=',', month_first=True, first_day='sun'), None)
    """
    words = told.split()
    first = next((w for w in words if w in WEEKDAYS), None)
    return Formats("," if "comma" in words else ".", "month" in words, first) if first else None


class InFormats:
    """Answers a request in the formats of who asks. After those who say who that is."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        typed = formats_told(request.headers.get(HEADER, ""))
        person = request.user if typed is None and request.path.startswith("/api/") else None
        with using(typed or (person.formats if isinstance(person, Person) else BOOK), typed or BOOK):
            return self.answer(request)
