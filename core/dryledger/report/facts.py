"""Report facts: what the figures say of one page, for people who were not there. Only judgement is left to type."""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.plan import Book
from dryledger.calendar.calendar import Instant
from dryledger.compute import Results
from dryledger.marks.marks import Mark, drift_days, project_mark
from dryledger.readings import field_values
from dryledger.report.own_fields import format_value, report_fields

__all__ = ["MilestoneFact", "ReportFacts", "WorkFact", "milestone_facts", "report_facts"]


@dataclass
class WorkFact:
    """One activity worked on, or coming next; `people` are full names, `fields` the own fields that reports show."""

    code: str
    name: str
    wbs: str
    start: Instant
    finish: Instant
    percent: Decimal
    people: list[str]
    note: str
    late: Decimal | None
    fields: list[str]


@dataclass
class MilestoneFact:
    """A milestone against its baseline; `late` in working days, None without a baseline date."""

    code: str
    name: str
    baseline: Instant | None
    now: Instant
    reached: bool
    late: Decimal | None


@dataclass
class ReportFacts:
    """Everything of a periodic report that comes from figures."""

    proposed: Mark
    worked_on: list[WorkFact]
    coming_next: list[WorkFact]
    milestones: list[MilestoneFact]
    late: Decimal | None
    field_names: list[str]


def report_facts(book: Book, r: Results) -> ReportFacts:
    """The facts of the page that `r` was computed for."""
    page = r.at.periods[-1] if r.at.periods else None
    names = [d.name for d in report_fields(book)]
    worked_on = _worked_on(r) if page else []
    return ReportFacts(project_mark(r), worked_on, _coming_next(r), milestone_facts(r), drift_days(r), names)


def _worked_on(r: Results) -> list[WorkFact]:
    page = r.at.periods[-1]
    before = r.at.periods[-2].status if len(r.at.periods) > 1 else r.book.project.start
    hours: dict[str, list[str]] = {}
    for h in page.hours:
        if h.worked or h.overtime:
            hours.setdefault(h.activity, []).append(h.resource)
    notes = {s.activity: s.note or "" for s in page.statements}
    out = []
    for a in r.book.activities:
        p = r.progress[a.code]
        told_of = a.code in notes or a.code in hours
        done_before = p.actual_finish is not None and p.actual_finish <= before and a.code not in hours
        if told_of and p.actual_start is not None and not done_before:
            out.append(_fact(r, a.code, notes.get(a.code, ""), hours.get(a.code)))
    return out


def _coming_next(r: Results) -> list[WorkFact]:
    """Open work that goes on or starts within as long again as the page before this one was (a week for the first)."""
    if r.status is None:
        return []
    length = r.status - r.at.periods[-2].status if len(r.at.periods) > 1 else 7 * 1440
    until = r.status + length
    return [
        _fact(r, row.code, "", None)
        for row in r.schedule.activities.values()
        if row.state != "complete" and (row.resume if row.resume is not None else row.start) <= until
    ]


def _fact(r: Results, code: str, note: str, posted: list[str] | None) -> WorkFact:
    a, row = r.book.activity_by_code[code], r.schedule.activities[code]
    codes = posted or [x.resource for x in r.book.assignments_of.get(code, ())]
    people = [r.book.resource_by_code[c].name for c in dict.fromkeys(codes) if r.book.resource_by_code[c].kind == "labour"]
    wbs = next((w.name for w in r.book.wbs if w.code == a.wbs), "")
    shown = report_fields(r.book)
    values = field_values(r, code) if shown else {}
    own = [format_value(values.get(d.code), d.holds) for d in shown]
    return WorkFact(code, a.name, wbs, row.start, row.finish, r.progress[code].percent, people, note, drift_days(r, code), own)


def milestone_facts(r: Results) -> list[MilestoneFact]:
    """The milestones of a plan in the order of their dates, each against the baseline that the results are measured by."""
    out = []
    for a in r.book.activities:
        if a.kind != "milestone":
            continue
        row = r.schedule.activities[a.code]
        base = r.baseline.by_code.get(a.code) if r.baseline else None
        out.append(MilestoneFact(a.code, a.name, base.finish if base else None, row.finish, row.state == "complete", drift_days(r, a.code)))
    return sorted(out, key=lambda m: m.now)
