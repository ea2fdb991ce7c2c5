"""Where the measured baseline is not the first: both differences, and the pages on which the baseline changed.

Source: calculation contract, section 23: nothing that was late becomes "on the day" without the first baseline beside it.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.baselines import Baseline
from dryledger.book.pages import Period
from dryledger.book.plan import Book
from dryledger.budget.money import amount_of, minor_unit
from dryledger.calendar.calendar import Instant
from dryledger.value.under_change import first_approved
from dryledger.value.valuation import planned_of

__all__ = ["BaselineFacts", "Rebased", "first_beside", "rebased"]


@dataclass(frozen=True)
class BaselineFacts:
    """A baseline as a reader knows it: its code and name, latest finish (None: nothing in it), BAC and why it was approved."""

    code: str
    name: str
    finish: Instant | None
    bac: Decimal
    reason: str


@dataclass(frozen=True)
class Rebased:
    """A page that is measured by another baseline than the page before it; `days` from the one's finish to the other's, in working days."""

    page: str
    status: Instant
    was: BaselineFacts
    now: BaselineFacts
    days: Decimal | None


def first_beside(book: Book, measured: Baseline | None) -> Baseline | None:
    """The first approved baseline where a page is measured by another one; else None."""
    first = first_approved(book)
    return None if measured is None or first is None or first.code == measured.code else first


def rebased(book: Book, pages: Sequence[Period]) -> Iterator[Rebased]:
    """The pages on which the measured baseline changed, the earliest first."""
    before: Baseline | None = None
    for i, period in enumerate(pages):
        code = period.measured_against or book.project.measured_against
        now = book.baseline_by_code[code] if code is not None else None
        if i and before is not None and now is not None and before.code != now.code:
            was, facts = _facts(book, before), _facts(book, now)
            apart = None
            if was.finish is not None and facts.finish is not None:
                apart = book.project_calendar.days(book.axis.between(was.finish, facts.finish))
            yield Rebased(period.code, period.status, was, facts, apart)
        before = now


def _facts(book: Book, b: Baseline) -> BaselineFacts:
    unit, planned = minor_unit(book.project.currency), planned_of(book, b).budget
    finish = max((a.finish for a in b.activities), default=None)
    return BaselineFacts(b.code, b.name, finish, amount_of(sum(planned.values()), unit), b.reason)
