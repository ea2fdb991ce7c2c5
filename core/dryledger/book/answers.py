"""What a project says of its checks: from what on something is long or far, and what was accepted and why."""

from dataclasses import dataclass
from decimal import Decimal
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from dryledger.book.plan import Book

__all__ = ["Answer", "Limits", "answers_at"]


@dataclass(frozen=True, slots=True)
class Limits:
    """From how many working days of the project calendar on a lag, a float or a duration is long, and from how many hundredths
    on a percent lies far from its share of time."""

    lag: Decimal = Decimal(10)
    float: Decimal = Decimal(44)
    duration: Decimal = Decimal(44)
    percent: Decimal = Decimal(25)


@dataclass(frozen=True, slots=True)
class Answer:
    """Why a row that a check caught is accepted, said on one page and good until another; absent: for good.

    A later answer of the same check and row stands in the place of an earlier one.
    """

    check_code: str
    row: str
    page: str
    text: str
    until: str | None = None
    by: str = ""


def answers_at(book: "Book", page: str) -> dict[tuple[str, str], Answer]:
    """The answers in force on a page, by check and row."""
    places = {p.code: i for i, p in enumerate(book.periods)}
    here = places[page]
    latest: dict[tuple[str, str], Answer] = {}
    for a in book.answers:
        last = latest.get((a.check_code, a.row))
        if places[a.page] <= here and (last is None or places[a.page] >= places[last.page]):
            latest[a.check_code, a.row] = a
    return {key: a for key, a in latest.items() if a.until is None or places.get(a.until, here) >= here}
