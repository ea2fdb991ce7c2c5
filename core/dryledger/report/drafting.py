"""What a report says by itself, for the analyst to edit: a summary in words, and the decisions that wait for somebody."""

from collections.abc import Iterator
from decimal import Decimal

from dryledger.book.registers import ChangeOrder
from dryledger.compute import Results
from dryledger.entry.grammar import format_day
from dryledger.figure_values import whole
from dryledger.formats import format_number
from dryledger.marks.marks import days_text
from dryledger.readings import read
from dryledger.report.registers import register_facts
from dryledger.words import sentence

__all__ = ["drafted_decisions", "drafted_summary", "format_amount"]


def format_amount(r: Results, amount: Decimal) -> str:
    """An amount as a sentence says it: with thin spaces and the currency, its sign left to the words.

    >>> from dryledger.compute import compute
    >>> from dryledger.exchange.book_json import book_from
    >>> week = {"mon": ["08:00-16:00"]}
    >>> book = book_from({"format": "dry-ledger-book", "version": 1, "calendars": [{"code": "c", "name": "C", "week": week}],
    ...     "project": {"code": "P", "name": "P", "currency": "EUR", "start": "2027-01-04T08:00", "calendar": "c"}})
    >>> format_amount(compute(book), Decimal("-1234.50")).replace("\\u00a0", "_")
    'EUR_1_234.50'
    """
    return f"{r.book.project.currency}\u00a0{format_number(abs(amount), ',f')}"


def drafted_summary(r: Results, worked_on: int) -> str:
    """A few sentences of the page's own figures; `worked_on` is how many activities were. Nothing without a page."""
    return "" if r.status is None else " ".join(_summary(r, worked_on))


def _summary(r: Results, worked_on: int) -> Iterator[str]:
    assert r.status is not None
    day = format_day(r.status)
    planned, earned = read(r, "percent_planned"), read(r, "percent_earned")
    if isinstance(planned, float) and isinstance(earned, float):
        yield sentence("report.draft_earned", day=day, earned=format_number(earned, ".1f"), planned=format_number(planned, ".1f"))
    cv = read(r, "cv")
    if isinstance(cv, Decimal):
        key = "report.draft_cost_even" if not cv else "report.draft_cost_more" if cv < 0 else "report.draft_cost_less"
        yield sentence(key, amount=format_amount(r, cv))
    yield from _finish(r)
    eac, vac = read(r, "eac"), read(r, "vac")
    if isinstance(eac, Decimal) and isinstance(vac, Decimal):
        key = "report.draft_eac_even" if not vac else "report.draft_eac_over" if vac < 0 else "report.draft_eac_under"
        yield sentence(key, eac=format_amount(r, eac), amount=format_amount(r, vac))
    page = r.at.periods[-1]
    before = r.at.periods[-2].status if len(r.at.periods) > 1 else r.book.project.start
    done = sum(1 for p in r.progress.values() if p.actual_finish is not None and before < p.actual_finish <= page.status)
    yield sentence("report.draft_worked_one" if worked_on == 1 else "report.draft_worked", count=worked_on, done=done)


def _finish(r: Results) -> Iterator[str]:
    late, calendar = whole(read(r, "finish_difference")), r.book.project_calendar
    day = format_day(r.schedule.finish)
    if late is None:
        yield sentence("report.draft_finish", day=day)
    elif not late:
        yield sentence("report.draft_finish_even", day=day)
    else:
        key = "report.draft_finish_late" if late > 0 else "report.draft_finish_early"
        yield sentence(key, day=day, days=days_text(calendar.days(abs(late))))
    missed = whole(read(r, "deadline_difference"))
    if missed is not None and missed > 0:
        yield sentence("report.draft_deadline", days=days_text(calendar.days(missed)))


def drafted_decisions(r: Results) -> str:
    """A line for each raised change that nobody has decided."""
    waiting = [x.entry for x in register_facts(r.book, None, "changes") if x.open]
    return "\n".join(_decision(r, x.moved, x.code, x.name) for x in waiting if isinstance(x, ChangeOrder))


def _decision(r: Results, cost: Decimal, code: str, name: str) -> str:
    if cost:
        return sentence("report.draft_decide_cost", code=code, name=name, cost=("−" if cost < 0 else "") + format_amount(r, cost))
    return sentence("report.draft_decide", code=code, name=name)
