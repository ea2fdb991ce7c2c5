"""The checks of a page as a working list."""

from dataclasses import asdict, dataclass, field

from dryledger.book.answers import Answer
from dryledger.book.memory import Slot
from dryledger.book.plan import Book
from dryledger.checks.answers import Worked, quality, worked
from dryledger.checks.checks import OF_RESOURCES
from dryledger.marks.marks import activity_marker
from server.book.results import View
from server.posting.sheet import before
from server.shared.files import csv_text


@dataclass
class AnswerOut:
    """Why a finding is accepted: by whom, on which page, good until which (empty: for good)."""

    text: str
    by: str
    page: str
    until: str


@dataclass
class CaughtOut:
    """A row that a check caught, with its mark; `new` since the page before."""

    code: str
    name: str
    mark: str
    new: bool
    answer: AnswerOut | None


@dataclass
class WorkedOut:
    """A check with the rows that it caught; `cell` is the list and key of the book where it is mended."""

    check: str
    severity: str
    says: str
    why: str
    mend: str
    cell: str
    open: int
    rows: list[CaughtOut]


@dataclass
class QualityOut:
    """One criterion of the plan's quality: rows caught, of how many, and the share of them in percent."""

    check: str
    says: str
    caught: int
    of: int
    share: float | None


@dataclass
class LimitsOut:
    """From how many working days on something is long, and from how many hundredths apart; as numbers."""

    lag: str
    float: str
    duration: str
    percent: str


@dataclass
class ChecksOut:
    """The checks of a page. `open` counts the findings that nobody has answered, `new` those of them that the page before lacked."""

    page: str
    status: str
    state: str
    revision: int
    open: int
    new: int
    impossible: int
    limits: LimitsOut
    checks: list[WorkedOut] = field(default_factory=list)
    quality: list[QualityOut] = field(default_factory=list)


FOUND: Slot[list[Worked]] = Slot("findings of a page")


def _found(v: View) -> list[Worked]:
    """The findings of a page, kept by revision while it is open."""
    if v.page.state == "dry":
        return worked(v.results, before(v))
    return v.workspace.memo.once(FOUND, lambda: worked(v.results, before(v)), v.page.code)


def _answer(a: Answer | None) -> AnswerOut | None:
    return None if a is None else AnswerOut(a.text, a.by, a.page, a.until or "")


def names_of(book: Book) -> dict[str, str]:
    """The names of all that a check can catch, by code."""
    above = {book.project.code: book.project.name} | {x.code: x.name for x in book.wbs}
    money = {x.code: x.supplier or x.code for x in book.orders} | {x.code: x.name for x in book.reserves}
    return money | above | {x.code: x.name for x in book.resources} | {a.code: a.name for a in book.activities}


def checks_of(v: View) -> ChecksOut:
    """The working list of a page."""
    r, found, names = v.results, _found(v), names_of(v.book)
    own, marked = v.book.activity_by_code, activity_marker(r)

    def row(check: str, code: str) -> str:
        return "" if check in OF_RESOURCES or code not in own else marked(code).mark

    groups = [
        WorkedOut(
            w.check.code,
            w.check.severity,
            w.check.says,
            w.check.why,
            w.check.mend,
            w.check.cell,
            w.open,
            [CaughtOut(x.row, names.get(x.row, x.row), row(w.check.code, x.row), x.new, _answer(x.answer)) for x in w.rows],
        )
        for w in found
    ]
    still = [x for w in found for x in w.rows if x.answer is None]
    wrong = sum(w.open for w in found if w.check.severity == "error")
    limits = LimitsOut(**{k: f"{x.normalize():f}" for k, x in asdict(v.book.project.limits).items()})
    shares = [
        QualityOut(q.check.code, q.check.says, q.caught, q.of, round(100 * q.caught / q.of, 1) if q.of else None) for q in quality(r, found)
    ]
    return ChecksOut(
        v.page.code,
        v.page.status,
        v.page.state,
        v.project.revision,
        len(still),
        sum(x.new for x in still),
        wrong,
        limits,
        groups,
        shares,
    )


@dataclass
class Signs:
    """How many open findings each row has, for the sheets; and how many there are in all."""

    revision: int
    open: int
    impossible: int
    rows: dict[str, int]


def signs_of(v: View) -> Signs:
    """The rows with open findings; what is weak in the plan itself is told on the plan sheet and here alone."""
    found = _found(v)
    rows: dict[str, int] = {}
    for w in found:
        for x in w.rows:
            if x.answer is None:
                rows[x.row] = rows.get(x.row, 0) + 1
    wrong = sum(w.open for w in found if w.check.severity == "error")
    return Signs(v.project.revision, sum(w.open for w in found), wrong, rows)


def quality_csv(v: View) -> str:
    """The quality of the plan as CSV, as of the page."""
    head = (v.book.project.code, v.page.code, v.page.status)
    shares = ((q, "" if q.share is None else f"{q.share:g}") for q in checks_of(v).quality)
    rows = ((*head, q.says, str(q.caught), str(q.of), share) for q, share in shares)
    return csv_text(("Project", "Page", "Status date", "Criterion", "Caught", "Of", "Share %"), rows)
