"""What a page put right, what of its findings was accepted, and what was done out of sequence."""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.answers import Answer, answers_at
from dryledger.book.pages import CostEntry, HoursEntry, Statement
from dryledger.compute import Results

__all__ = ["ReportedCorrection", "corrections", "out_of_sequence", "standing_answers"]


@dataclass(frozen=True)
class ReportedCorrection:
    """An entry of a page that corrects an earlier one: of what kind, which page, what row, by how much and why.

    `amount` is money for a cost, minutes for hours, None for a statement.
    """

    kind: str
    corrects: str
    activity: str | None
    wbs: str | None
    resource: str | None
    amount: Decimal | int | None
    reason: str


def corrections(r: Results) -> list[ReportedCorrection]:
    """The corrections made on the page that the results are of."""
    if not r.at.periods:
        return []
    page = r.at.periods[-1]
    entries: list[Statement | HoursEntry | CostEntry] = [*page.statements, *page.hours, *page.costs]
    return [_correction(x) for x in entries if x.corrects]


def _correction(x: Statement | HoursEntry | CostEntry) -> ReportedCorrection:
    corrects, reason = x.corrects or "", x.reason or ""
    if isinstance(x, CostEntry):
        return ReportedCorrection("cost", corrects, x.activity, x.wbs, None, x.amount, reason)
    if isinstance(x, HoursEntry):
        return ReportedCorrection("hours", corrects, x.activity, None, x.resource, x.worked + x.overtime, reason)
    return ReportedCorrection("statement", corrects, x.activity, None, None, None, reason)


def standing_answers(r: Results) -> list[Answer]:
    """The answers to checks that are in force on the page, the latest page's first."""
    if not r.at.periods:
        return []
    places = {p.code: i for i, p in enumerate(r.at.periods)}
    found = answers_at(r.book, r.at.periods[-1].code).values()
    return sorted(found, key=lambda a: (-places[a.page], a.check_code, a.row))


def out_of_sequence(r: Results) -> list[str]:
    """The unfinished activities that were done out of sequence, in the book's order."""
    rows = r.schedule.activities
    return [a.code for a in r.book.activities if rows[a.code].out_of_sequence and rows[a.code].state != "complete"]
