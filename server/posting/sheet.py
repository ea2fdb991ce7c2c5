"""The posting sheet of a page, row by row, from its results and those of the page before."""

from collections.abc import Callable
from dataclasses import dataclass, field
from decimal import Decimal

from dryledger.book.memory import Same, Slot
from dryledger.book.outline import levels
from dryledger.book.plan import Book, Statement
from dryledger.book.registers import fields_of
from dryledger.book.responsible import responsible_for
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results, compute
from dryledger.formats import formats_written
from dryledger.marks.marks import Mark, activity_marker, drift_days
from dryledger.posting.costs import page_cost
from dryledger.posting.entries import cells_of_method, method_of, milestones_of, needs_entry
from server.book.models import CostEntry, Page
from server.book.results import View


@dataclass
class Cells:
    """A statement as cells show it: instants, percent of 100, time to go as typed."""

    actual_start: str | None = None
    actual_finish: str | None = None
    percent: float | None = None
    remaining: str | None = None
    note: str | None = None
    carry_to: str | None = None
    units_done: str | None = None
    milestones_reached: list[str] = field(default_factory=list)
    assumed: list[str] = field(default_factory=list)
    """Those of its dates that nobody stated."""


@dataclass
class SheetRow:
    """One activity on the posting sheet."""

    code: str
    name: str
    wbs: str | None
    kind: str
    mark: str
    mark_word: str
    mark_reasons: list[str]
    planned_percent: float | None
    last: Cells
    entry: Cells
    posted: bool
    wants: bool
    asks: list[str]
    """Cells that want an entry for the statement to make sense: actual_start, actual_finish."""
    cost: str | None
    """What this page's own cost cell holds."""
    other_cost: str | None
    """Cost posted on this page in other ways: hours, invoices with a reference."""
    reckoned: str | None
    """How much of that follows progress."""
    state: str
    percent_now: float
    remaining_days: float
    start_now: str
    finish_now: str
    late_days: float | None
    driver: str | None
    out_of_sequence: bool
    critical: bool
    method: str
    """The EV method that it earns by."""
    units_planned: str | None
    milestones: list[str]
    """Its weighted milestones in their order."""
    uses: list[str]
    """Which cells that belong to some EV methods only are used: by its own method, or since they are stated nevertheless."""
    people: list[str]
    """The codes of the resources on it."""
    fields: dict[str, str]
    """Its own fields, as texts."""
    responsible: str
    """Who is responsible for it."""


@dataclass
class WbsHead:
    """A heading of the sheet."""

    code: str
    name: str
    level: int


@dataclass
class Sheet:
    """The whole posting sheet. `to_go` counts the rows that still want a word."""

    page: str
    status: str
    state: str
    revision: int
    baseline: str | None
    wbs: list[WbsHead]
    rows: list[SheetRow] = field(default_factory=list)
    to_go: int = 0
    posted: int = 0
    note: str | None = None
    """The page's own note."""
    people: list[list[str]] = field(default_factory=list)
    """Whoever is assigned: code and name."""
    own: list[list[str]] = field(default_factory=list)
    """Own fields that rows can be filtered by: code and name."""


def before(v: View) -> Results:
    """The results that a page's entries start from: of the page before, or of the plan without any page."""
    codes = [p.code for p in v.book.periods]
    cut = v.book.with_periods(v.book.periods[: codes.index(v.page.code)])
    if v.page.state == "dry":
        return compute(cut)
    w, key = v.workspace, (Same(cut.memo), *map(Same, cut.periods))  # others only when an earlier page or the plan is
    known = w.memo.peek(BEFORE)
    if known is None or known[0] != key:
        known = (key, compute(cut))
        w.memo.keep(BEFORE, known)
    return known[1]


def _cells(book: Book, s: Statement | None) -> Cells:
    if s is None:
        return Cells()
    return Cells(
        _text(s.actual_start),
        _text(s.actual_finish),
        None if s.percent is None else float(s.percent * 100),
        None if s.remaining is None else _days(book, s.activity, s.remaining),
        s.note,
        _text(s.carry_to),
        None if s.units_done is None else f"{s.units_done.normalize():f}",
        list(s.milestones_reached),
        list(s.assumed),
    )


def _text(t: int | None) -> str | None:
    return None if t is None else to_text(t)


def _per_day(book: Book, code: str) -> int:
    return book.calendar_by_code[book.activity_by_code[code].calendar].minutes_per_day


def _days(book: Book, code: str, minutes: int) -> str:
    per_day = _per_day(book, code)
    if minutes * 4 % per_day == 0:
        return f"{minutes / per_day:g}d"
    return f"{minutes / 60:g}h" if minutes % 30 == 0 else f"{minutes}min"


def sheet(v: View) -> Sheet:
    """The posting sheet of a view, kept by revision and formats: an entry compares the sheet before it with the one after."""
    if v.page.state == "dry":
        return _sheet(v, v.project.revision, None).sheet
    w, written = v.workspace, formats_written()
    return w.memo.once(SHEET, lambda: _sheet(v, w.revision, w.memo.take(SHEET_BEFORE, written)), written).sheet


@dataclass
class _MadeSheet:
    """A sheet with what it was made of, so that the next one makes anew only the rows that differ."""

    results: Results
    start: Results
    stated: dict[str, Statement]
    typed: dict[str, Decimal]
    other: dict[str, tuple[Decimal, Decimal]]
    sheet: Sheet
    rows: dict[str, SheetRow]

    def same(self, now: "_MadeSheet", code: str) -> bool:
        """Whether a row rests on the same; only where the plan and the page before are the same at all."""
        return (
            self.results.schedule.activities.get(code) is now.results.schedule.activities[code]
            and self.results.progress[code] == now.results.progress[code]
            and self.stated.get(code) is now.stated.get(code)
            and self.typed.get(code) == now.typed.get(code)
            and self.other.get(code) == now.other.get(code)
        )


BEFORE: Slot[tuple[tuple[Same, ...], Results]] = Slot("results that a page's entries start from", ())
SHEET_BEFORE: Slot[_MadeSheet] = Slot("the posting sheet of the workspace before", ())
SHEET: Slot[_MadeSheet] = Slot("posting sheet", carry=lambda made, change: (SHEET_BEFORE, made))


def _sheet(v: View, revision: int, last: _MadeSheet | None) -> _MadeSheet:
    """The sheet; `revision` is that of what it is made from: whoever asks may have come before the last write."""
    r, start = v.results, before(v)
    period = r.at.periods[-1]
    heads = [WbsHead(*h) for h in levels(v.book)]
    out = Sheet(v.page.code, v.page.status, v.page.state, revision, r.baseline.code if r.baseline else None, heads)
    stated = {s.activity: s for s in period.statements}
    typed = _typed_costs(v.page)
    other = _other_costs(r, typed)
    made = _MadeSheet(r, start, stated, typed, other, out, {})
    if last is not None and (last.results.book.memo is not r.book.memo or last.start is not start or last.results.status != r.status):
        last = None
    order = {h.code: i for i, h in enumerate(heads)}
    marked = activity_marker(r)
    for a in sorted(v.book.activities, key=lambda a: order.get(a.wbs or "", -1)):
        known = last.rows[a.code] if last is not None and last.same(made, a.code) else None
        made.rows[a.code] = known or _row(r, start, marked, a.code, stated.get(a.code), typed.get(a.code), other.get(a.code))
    out.rows = list(made.rows.values())
    out.to_go = sum(row.wants and not row.posted for row in out.rows)
    out.posted = sum(row.posted for row in out.rows)
    out.note = period.note
    assigned = {a.resource for a in v.book.assignments}
    out.people = [[x.code, x.name] for x in v.book.resources if x.code in assigned]
    own = [f for f in fields_of(v.book.fields, "activity") if f.holds in ("text", "choice", "yes_no")]
    out.own = [[f.code, f.name] for f in own]
    return made


def _typed_costs(page: Page) -> dict[str, Decimal]:
    rows = CostEntry.objects.filter(page=page, typed=True, activity__isnull=False).values_list("activity__code", "amount")
    return {code: Decimal(amount) for code, amount in rows}


def _other_costs(r: Results, typed: dict[str, Decimal]) -> dict[str, tuple[Decimal, Decimal]]:
    """What else this page did to the actual cost of each activity than what its own cells say, and how much of it follows progress."""
    out = page_cost(r)
    for code, amount in typed.items():
        whole, reckoned = out.get(code, (Decimal(0), Decimal(0)))
        out[code] = whole - amount, reckoned
    return {k: x for k, x in out.items() if x[0]}


def _row(
    r: Results,
    start: Results,
    marked: Callable[[str], Mark],
    code: str,
    stated: Statement | None,
    typed: Decimal | None,
    other: tuple[Decimal, Decimal] | None,
) -> SheetRow:
    book, a, mark = r.book, r.book.activity_by_code[code], marked(code)
    row, p = r.schedule.activities[code], r.progress[code]
    assert r.status is not None
    known = r.valuation.planned
    share = known.share(code, r.status) if known is not None and code in known.budget else None
    planned = None if share is None else 100 * share[0] / share[1]
    late = drift_days(r, code)
    asks = []
    if stated is not None and p.state == "not_started" and ((stated.percent or 0) > 0 or stated.remaining is not None):
        asks.append("actual_start")
    if p.state == "in_progress" and (p.percent >= 1 or p.remaining == 0):
        asks.append("actual_finish")
    method, uses = method_of(r, code), cells_of_method(r, code)
    if any(s is not None and s.percent is not None for s in (stated, start.at.latest.get(code))) and "percent" not in uses:
        uses.append("percent")
    link = next((d.partition(":")[2] for d in row.driven_by if d.startswith(("link:", "tie:"))), None)
    return SheetRow(
        code,
        a.name,
        a.wbs,
        a.kind,
        mark.mark,
        mark.word,
        list(mark.reasons),
        None if planned is None else round(planned, 1),
        _cells(book, start.at.latest.get(code)),
        _cells(book, stated),
        stated is not None,
        needs_entry(r, start, code),
        asks,
        None if typed is None else f"{typed:f}",
        None if other is None else f"{other[0]:f}",
        f"{other[1]:f}" if other is not None and other[1] else None,
        p.state,
        round(float(p.percent * 100), 1),
        round(p.remaining / _per_day(book, code), 2),
        to_text(row.start),
        to_text(row.finish),
        None if late is None else float(round(late, 2)),
        (book.external_by_code.get(link) or book.activity_by_code[link]).name if link else None,
        row.out_of_sequence,
        row.critical,
        method.type,
        f"{method.planned.normalize():f}" if method.type == "units" else None,
        milestones_of(r, code),
        uses,
        [x.resource for x in book.assignments_of.get(code, ())],
        {k: "yes" if x is True else "no" if x is False else str(x) for k, x in a.fields.items()},
        responsible_for(book, code),
    )
