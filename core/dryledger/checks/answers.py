"""The checks as a working list: what of each is accepted, what is new since the page before, and the quality of the plan.

An answer quiets its check and row from its page to the page it is good until; the latest on a check and row stands.
"""

from dataclasses import dataclass

from dryledger.book.answers import Answer, answers_at
from dryledger.checks.checks import CHECKS, OF_RESOURCES, Check, Finding, checks
from dryledger.compute import Results

__all__ = ["Caught", "Quality", "Worked", "impossible", "quality", "worked"]


@dataclass(frozen=True)
class Caught:
    """A row that a check caught: the answer that quiets it, if any, and whether the page before did not have it."""

    row: str
    answer: Answer | None
    new: bool


@dataclass(frozen=True)
class Worked:
    """A check with the rows that it caught, in the book's order."""

    check: Check
    message: str
    rows: tuple[Caught, ...]

    @property
    def open(self) -> int:
        """How many of the rows nobody has answered."""
        return sum(x.answer is None for x in self.rows)


@dataclass(frozen=True)
class Quality:
    """One criterion of the plan's quality: how many of the open activities (or resources) it caught, of how many."""

    check: Check
    caught: int
    of: int


def worked(r: Results, before: Results) -> list[Worked]:
    """The findings of a page as a working list; `before` are the results of the page before, or of the plan without one.

    On a project's first page nothing is new.
    """
    pages = r.at.periods
    answers = answers_at(r.book, pages[-1].code) if pages else {}
    known = {(f.check, row) for f in checks(before) for row in f.rows} if len(pages) > 1 else None
    by_code = {c.code: c for c in CHECKS}

    def caught(f: Finding, row: str) -> Caught:
        key = (f.check, row)
        return Caught(row, answers.get(key), known is not None and key not in known)

    return [Worked(by_code[f.check], f.message, tuple(caught(f, row) for row in f.rows)) for f in checks(r)]


def impossible(r: Results) -> list[Worked]:
    """What cannot be true and nobody has answered: a page is not closed with it."""
    answers = answers_at(r.book, r.at.periods[-1].code)
    by_code = {c.code: c for c in CHECKS}
    out = []
    for f in checks(r):
        rows = tuple(Caught(row, None, False) for row in f.rows if (f.check, row) not in answers)
        if f.severity == "error" and rows:
            out.append(Worked(by_code[f.check], f.message, rows))
    return out


def quality(r: Results, found: list[Worked]) -> list[Quality]:
    """Each criterion of the plan's quality with what it caught, answered or not, of the open activities (or the resources)."""
    caught = {w.check.code: len(w.rows) for w in found}
    still = sum(row.state != "complete" for row in r.schedule.activities.values())
    return [
        Quality(c, caught.get(c.code, 0), len(r.book.resources) if c.code in OF_RESOURCES else still)
        for c in CHECKS
        if c.severity == "plan"
    ]
