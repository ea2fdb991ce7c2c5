"""A report's content for screens, HTML and PDF alike: facts from the core, words from the draft."""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.calendar.calendar import to_text
from dryledger.marks.marks import MARK_WORDS
from dryledger.report.facts import MilestoneFact, WorkFact, report_facts
from server.book.results import View
from server.report.models import Draft, Edition
from server.value.selectors import balance_of, curve
from server.value.shapes import BalanceOut, CurveOut

STATUSES = ("on_plan", "watch", "act")


@dataclass
class WorkOut:
    """One activity worked on or coming next."""

    code: str
    name: str
    wbs: str
    start: str
    finish: str
    percent: float
    people: list[str]
    note: str
    late_days: float | None
    fields: list[str]
    """The own fields that reports show, in the order of the report's `field_names`."""


@dataclass
class MoneyOut:
    """One row of money."""

    name: str
    pv: str
    ev: str
    ac: str


@dataclass
class MilestoneOut:
    """One milestone."""

    code: str
    name: str
    baseline: str | None
    now: str
    reached: bool
    late_days: float | None


@dataclass
class DraftOut:
    """What the analyst says; `status` empty means that nothing was chosen yet."""

    status: str
    reason: str
    words: str


@dataclass
class EditionOut:
    """One issued edition."""

    number: int
    status: str
    status_word: str
    issued_by: str
    issued_at: str
    digest: str


@dataclass
class ReportOut:
    """The report of a page."""

    project: str
    project_name: str
    page: str
    number: int
    state: str
    status_date: str
    period_start: str
    revision: int
    calculation: int
    proposed: str
    proposed_word: str
    proposed_reasons: list[str]
    draft: DraftOut
    balance: BalanceOut
    baseline_name: str | None
    field_names: list[str]
    worked_on: list[WorkOut]
    coming_next: list[WorkOut]
    money: list[MoneyOut]
    milestones: list[MilestoneOut]
    curve: CurveOut
    editions: list[EditionOut]


def _days(late: Decimal | None) -> float | None:
    return None if late is None else float(round(late, 1))


def _work(w: WorkFact) -> WorkOut:
    done = round(float(w.percent * 100), 1)
    return WorkOut(w.code, w.name, w.wbs, to_text(w.start), to_text(w.finish), done, w.people, w.note, _days(w.late), w.fields)


def _milestone(m: MilestoneFact) -> MilestoneOut:
    return MilestoneOut(m.code, m.name, to_text(m.baseline) if m.baseline is not None else None, to_text(m.now), m.reached, _days(m.late))


def draft_of(v: View) -> DraftOut:
    """The words said of a page so far."""
    d = Draft.objects.filter(page=v.page).first()
    return DraftOut(d.status, d.reason, d.words) if d else DraftOut("", "", "")


def edition_out(e: Edition) -> EditionOut:
    """An edition as listed."""
    return EditionOut(e.number, e.status, MARK_WORDS[e.status], e.issued_by.full_name, e.issued_at.isoformat(timespec="minutes"), e.digest)


def report(v: View) -> ReportOut:
    """The whole report of a view."""
    facts = report_facts(v.book, v.results)
    periods = v.results.at.periods
    since = periods[-2].status if len(periods) > 1 else v.book.project.start
    editions = Edition.objects.filter(page=v.page).defer("html", "pdf").select_related("issued_by")
    return ReportOut(
        v.project.code,
        v.book.project.name,
        v.page.code,
        len(periods),
        v.page.state,
        v.page.status,
        to_text(since),
        v.project.revision,
        v.calculation,
        facts.proposed.mark,
        facts.proposed.word,
        list(facts.proposed.reasons),
        draft_of(v),
        balance_of(v),
        v.results.baseline.name if v.results.baseline else None,
        facts.field_names,
        [_work(w) for w in facts.worked_on],
        [_work(w) for w in facts.coming_next],
        [MoneyOut(m.name, f"{m.pv:f}", f"{m.ev:f}", f"{m.ac:f}") for m in facts.money],
        [_milestone(m) for m in facts.milestones],
        curve(v, None, "week"),
        [edition_out(e) for e in editions],
    )
