"""The sections of a report, each from the core's facts: tables whose numbers say where their working is."""

from collections.abc import Callable, Sequence
from decimal import Decimal

from dryledger.book.registers import ChangeOrder, RegisterRow, Risk
from dryledger.budget.money import rounded
from dryledger.calendar.calendar import to_text
from dryledger.checks.checks import CHECKS
from dryledger.figure_values import written
from dryledger.figures import figure
from dryledger.formats import format_number
from dryledger.marks.marks import drift_days
from dryledger.readings import read
from dryledger.report.corrections import ReportedCorrection, corrections, out_of_sequence, standing_answers
from dryledger.report.facts import MilestoneFact, WorkFact
from dryledger.report.money import COMPLETION, PERIOD, money_rows
from dryledger.report.own_fields import format_value
from dryledger.report.registers import register_facts
from dryledger.report.waiting import waiting_for
from dryledger.value.rebased import first_beside
from dryledger.working.period import exposure
from server.book.results import View
from server.buffers.selectors import fever_at, fever_out
from server.buffers.shapes import FeverPoint
from server.report.shapes import FigureAt, ReportCell, ReportColumn, ReportRow, ReportTable
from server.shared.saying import format_date
from server.shared.words import sentence
from server.value.trend import PageFigures

Cells = list[ReportCell]
NONE = ReportCell(None)


def _text(value: object, note: str = "") -> ReportCell:
    """A cell of words."""
    return ReportCell(format_value(value) if value is not None else None, note)


def _figure(v: View, measure: str, kind: str, code: str, text: str | None = None) -> ReportCell:
    """A figure of the catalogue with its working; `text` where it is known already."""
    known = text if text is not None else written(read(v.results, measure, kind, code), figure(measure).kind)
    return ReportCell(known, "", FigureAt(measure, kind, code, v.page.code))


def _days(v: View, measure: str, code: str | None) -> ReportCell:
    """A drift of an activity or the project in working days."""
    late = drift_days(v.results, code, measure)
    where = ("project", v.book.project.code) if code is None else ("activity", code)
    return ReportCell(None if late is None else f"{float(round(late, 1)):g}", "", FigureAt(measure, *where, v.page.code))


def columns_of(*given: tuple[str, str]) -> list[ReportColumn]:
    """Columns by key and kind; their heads are in the catalogue of words."""
    return [ReportColumn(key, sentence(f"report.col_{key}"), kind) for key, kind in given]


def table_of(key: str, columns: list[ReportColumn], rows: list[ReportRow], title: str = "") -> ReportTable:
    """A table of a section, with the sentence that says it has no rows."""
    return ReportTable(key, title, columns, rows, sentence(f"report.none_{key.split('.')[0]}"))


KINDS = {"finish": "day", "spi": "ratio", "cpi": "ratio"}
"""What the rows of the key figures hold; all others are money."""


def key_figures(v: View, before: View | None) -> ReportTable:
    """The project's figures on this page and the last one."""
    code, rows = v.book.project.code, []
    for key in ("bac", "pv", "ev", "ac", "spi", "cpi", "eac", "vac", "finish"):
        both = [NONE if x is None else _figure(x, key, "project", code) for x in (v, before)]
        rows.append(_of_kind(key, figure(key).word, both, KINDS.get(key, "money")))
    late = [NONE if x is None else _days(x, "finish_difference", None) for x in (v, before)]
    rows.append(_of_kind("drift", sentence("report.col_against"), late, "days"))
    first = first_beside(v.book, v.results.baseline)
    if first is not None:
        beside = [NONE if x is None else _days(x, "original_finish_difference", None) for x in (v, before)]
        rows.append(_of_kind("first", sentence("report.against_first", code=first.code), beside, "days"))
    return table_of("figures", columns_of(("figure", "text"), ("now", "money"), ("last", "money")), rows)


def _of_kind(key: str, word: str, cells: Cells, kind: str) -> ReportRow:
    return ReportRow(key, [ReportCell(word), *(ReportCell(c.text, c.note, c.figure, kind) for c in cells)])


def milestones(v: View, facts: Sequence[MilestoneFact]) -> ReportTable:
    """The milestones against their baseline."""
    rows, first = [], first_beside(v.book, v.results.baseline)
    for m in facts:
        base = _figure(v, "baseline_finish", "activity", m.code) if m.baseline is not None else NONE
        reached = sentence("report.reached") if m.reached else ""
        cells = [ReportCell(m.name), base, _figure(v, "finish", "activity", m.code), _days(v, "finish_difference", m.code)]
        if first is not None:
            cells.append(_days(v, "original_finish_difference", m.code))
        rows.append(ReportRow(m.code, [*cells, ReportCell(reached)]))
    columns = columns_of(("milestone", "text"), ("baseline", "day"), ("now", "day"), ("against", "days"))
    if first is not None:
        columns.append(ReportColumn("first", sentence("report.against_first", code=first.code), "days"))
    columns += columns_of(("state", "text"))
    return table_of("milestones", columns, rows)


def work(v: View, facts: Sequence[WorkFact], names: Sequence[str], done: bool) -> ReportTable:
    """Activities worked on, or coming next, with who does them and the own fields that reports show."""
    rows = []
    for w in facts:
        under = f"{w.wbs}. {w.note}" if w.note else w.wbs
        cells = [ReportCell(w.name, under), ReportCell(", ".join(w.people) or sentence("report.by_contract"))]
        cells += [ReportCell(x) for x in w.fields]
        first = "percent" if done else "start"
        cells += [_figure(v, first, "activity", w.code), _figure(v, "finish", "activity", w.code), _days(v, "finish_difference", w.code)]
        rows.append(ReportRow(w.code, cells))
    columns = columns_of(("activity", "text"), ("by", "text"))
    columns += [ReportColumn(f"field {n}", n, "text") for n in names]
    columns += columns_of(("percent", "percent") if done else ("start", "day"), ("finish", "day"), ("against", "days"))
    return table_of("worked_on" if done else "coming_next", columns, rows)


def waiting(v: View) -> ReportTable:
    """What the project waits for in other projects, with what moved since the last page."""
    names = v.book.activity_by_code
    rows = []
    for w in waiting_for(v.results):
        x = w.external
        moved = sentence("report.moved_from", date=format_date(to_text(w.finish_before))) if w.finish_before is not None else ""
        cells = [ReportCell(x.name, x.code), ReportCell(", ".join(names[c].name for c in w.waits)), ReportCell(to_text(x.finish), moved)]
        as_of = None if x.status is None else to_text(x.status)
        rows.append(ReportRow(x.code, [*cells, ReportCell(sentence(f"report.state_{x.state}")), ReportCell(as_of)]))
    columns = columns_of(("activity", "text"), ("waits", "text"), ("finish", "day"), ("state", "text"), ("as_of", "day"))
    return table_of("waiting", columns, rows)


def money(v: View, depth: int) -> list[ReportTable]:
    """Money this period, to date and at completion, by WBS; the project stands under a double rule."""
    found = money_rows(v.results, depth)

    def table(key: str, keys: Sequence[str], cell: Callable[[int, str], ReportCell]) -> ReportTable:
        rows = [ReportRow(m.code, [ReportCell(m.name), *(cell(i, k) for k in keys)], m.kind == "project") for i, m in enumerate(found)]
        columns = [*columns_of(("element", "text")), *(ReportColumn(k, figure(k).head, "money") for k in keys)]
        return table_of(f"money.{key}", columns, rows, sentence(f"report.money_{key}"))

    def added(i: int, key: str) -> ReportCell:
        m = found[i]
        return ReportCell(_money(m.period[key]), "", FigureAt(f"period.{key}", m.kind, m.code, v.page.code))

    def so_far(i: int, key: str) -> ReportCell:
        return _figure(v, key, found[i].kind, found[i].code)

    return [table("period", PERIOD, added), table("to_date", PERIOD, so_far), table("completion", COMPLETION, so_far)]


def _money(amount: object) -> str | None:
    return f"{amount:f}" if isinstance(amount, Decimal) else None


def indices(v: View, pages: Sequence[PageFigures]) -> ReportTable:
    """The indices and the finish of every page up to this one."""
    code = v.book.project.code

    def at(p: PageFigures, key: str, value: object) -> ReportCell:
        text = None if value is None else f"{value:g}" if isinstance(value, float) else str(value)
        return ReportCell(text, "", FigureAt(key, "project", code, p.page))

    changed = len({p.baseline for p in pages}) > 1
    rows = [
        ReportRow(
            p.page,
            [
                ReportCell(p.page),
                ReportCell(p.status),
                ReportCell(p.mark),
                *(at(p, key, getattr(p, key)) for key in ("spi", "cpi", "spi_t", "eac", "finish")),
                at(p, "finish_difference", p.late_days),
                *([ReportCell(p.baseline), at(p, "original_finish_difference", p.first_late_days)] if changed else []),
            ],
        )
        for p in pages
    ]
    columns = columns_of(("page", "text"), ("status", "day"), ("mark", "mark"))
    columns += [ReportColumn(k, figure(k).head, "ratio") for k in ("spi", "cpi", "spi_t")]
    columns += columns_of(("eac", "money"), ("finish", "day"), ("against", "days"))
    columns += columns_of(("baseline", "text"), ("first", "days")) if changed else []
    return table_of("indices", columns, rows)


_REGISTERS: dict[str, tuple[tuple[str, str], ...]] = {
    "issues": (("name", "text"), ("owner", "text"), ("raised", "day"), ("due", "day"), ("state", "text")),
    "changes": (("name", "text"), ("state", "text"), ("moved", "money"), ("decided_by", "text"), ("decided_at", "day")),
    "risks": (
        *(("name", "text"), ("probability", "percent"), ("impact", "money"), ("exposure", "money")),
        *(("delay", "text"), ("owner", "text"), ("state", "text")),
    ),
}
_UNDER = {"issues": "note", "changes": "reason", "risks": "response"}


def register(v: View, before: View | None, name: str) -> ReportTable:
    """What of a register is open, or was touched since the last page."""
    rows = []
    for fact in register_facts(v.book, before.book if before else None, name):
        x, since = fact.entry, sentence(f"report.since_{fact.since}") if fact.since else ""
        under = ". ".join(t for t in (since, getattr(x, _UNDER[name]) or "") if t)
        cells = [ReportCell(x.name, under), *(_entry(v, x, name, key, kind) for key, kind in _REGISTERS[name][1:])]
        rows.append(ReportRow(x.code, cells))
    return table_of(name, columns_of(*_REGISTERS[name]), rows)


def _entry(v: View, x: RegisterRow, name: str, key: str, kind: str) -> ReportCell:
    if isinstance(x, Risk) and key == "exposure":
        found = exposure(v.results, x)
        return ReportCell(_money(found), "", FigureAt("exposure", "risk", x.code, v.page.code))
    if isinstance(x, ChangeOrder):
        return _of_change(v, x, key)
    value = getattr(x, key)
    if key == "state":
        return ReportCell(sentence(f"report.state_{value or 'open'}"))
    if value is None or kind == "text":
        return _text(value)
    if kind == "day":
        return ReportCell(str(value))
    where = FigureAt(key, name.removesuffix("s"), x.code, v.page.code)
    return ReportCell(written(value, "number"), "", where)


def _of_change(v: View, x: ChangeOrder, key: str) -> ReportCell:
    """What a change moves the budget by, how it stands, and who decided when."""
    if key == "state":
        return ReportCell(sentence(f"report.state_{x.stands}"))
    if key == "moved":
        return ReportCell(f"{rounded(x.moved, v.results.valuation.unit):f}", "", FigureAt("moved", "change", x.code, v.page.code))
    if key == "decided_by":
        return _text(x.decided_by or x.approved_by)
    return ReportCell("" if x.decided_when is None else to_text(x.decided_when)[:10])


def answered(v: View) -> ReportTable:
    """The findings that were accepted, with why and by whom."""
    says = {c.code: c.says for c in CHECKS}
    names = {x.code: x.name for x in v.book.resources} | {a.code: a.name for a in v.book.activities}
    rows = [
        ReportRow(
            f"{a.check_code}/{a.row}",
            [ReportCell(names.get(a.row, a.row), says.get(a.check_code, a.check_code)), _text(a.text), _text(a.by), ReportCell(a.page)],
        )
        for a in standing_answers(v.results)
    ]
    return table_of("checks", columns_of(("finding", "text"), ("answer", "text"), ("said_by", "text"), ("page", "text")), rows)


def buffers(v: View) -> tuple[list[str], list[ReportTable]]:
    """How the promise stands: its date, where the trend leads, the trail of pages, and the feeding buffers."""
    found = fever_at(v)
    if found is None:
        return [], []
    x = fever_out(v, found)
    sentences = [sentence("report.promised", date=format_date(x.date), by=x.approved_by)]
    if x.trend is not None:
        days = abs(round(x.trend.days, 1))
        late = "report.trend_late" if x.trend.days > 0 else "report.trend_early"
        drift = sentence(late, days=format_number(days, "g"))
        sentences.append(sentence("report.trend", pages=x.trend.pages, end=format_date(x.trend.end), late=drift))
    trail = []
    for p in x.trail:
        cells = [ReportCell(p.page), ReportCell(p.status), *_use(p), ReportCell(p.forecast_end)]
        trail.append(ReportRow(p.page, cells))
    used = (("chain_done", "percent"), ("buffer_used", "percent"), ("zone", "text"))
    columns = columns_of(("page", "text"), ("status", "day"), *used, ("chain_end", "day"))
    feeding = []
    for i, f in enumerate(x.feeding):
        name = sentence("report.before", name=f.name, join=f.join_name)
        feeding.append(ReportRow(f"{i + 1}", [ReportCell(name), *_use(f.points[-1])]))
    tables = [table_of("buffers.trail", columns, trail)]
    if feeding:
        tables.append(table_of("buffers.feeding", columns_of(("feeding_buffer", "text"), *used), feeding))
    return sentences, tables


def _use(p: FeverPoint) -> Cells:
    """Shares of a chain done and of its buffer used, and the zone."""
    used = NONE if p.use is None else ReportCell(f"{p.use:g}")
    return [ReportCell(f"{p.progress:g}"), used, ReportCell(sentence(f"report.zone_{p.zone}"))]


def treatment(v: View) -> tuple[list[str], ReportTable]:
    """The treatment of out-of-sequence work that is in force, and the work that it touches."""
    codes, rows = out_of_sequence(v.results), []
    for code in codes:
        cells = [ReportCell(v.book.activity_by_code[code].name)]
        cells += [_figure(v, key, "activity", code) for key in ("percent", "resume", "finish")]
        rows.append(ReportRow(code, [*cells, _days(v, "finish_difference", code)]))
    sentences = [sentence(f"report.treatment_{v.results.treatment}")] if codes else []
    columns = columns_of(("activity", "text"), ("percent", "percent"), ("resume", "day"), ("finish", "day"), ("against", "days"))
    return sentences, table_of("treatment", columns, rows)


def corrected(v: View) -> ReportTable:
    """The corrections of earlier pages that were made on this one."""
    rows = []
    for i, c in enumerate(corrections(v.results)):
        cells = [ReportCell(_subject(v, c), sentence(f"report.corrects_{c.kind}")), ReportCell(c.corrects), ReportCell(_amount(v, c))]
        rows.append(ReportRow(f"{i + 1}", [*cells, _text(c.reason)]))
    return table_of("corrections", columns_of(("what", "text"), ("corrects", "text"), ("by_how_much", "text"), ("reason", "text")), rows)


def _subject(v: View, c: ReportedCorrection) -> str:
    of = v.book.activity_by_code[c.activity].name if c.activity else next((w.name for w in v.book.wbs if w.code == c.wbs), c.wbs or "")
    return f"{of}, {v.book.resource_by_code[c.resource].name}" if c.resource else of


def _amount(v: View, c: ReportedCorrection) -> str:
    if c.amount is None:
        return ""
    if isinstance(c.amount, Decimal):
        return f"{format_number(c.amount, '+,f')} {v.book.project.currency}".replace("-", "\u2212")
    return f"{format_number(c.amount / 60, '+g')} h".replace("-", "\u2212")
