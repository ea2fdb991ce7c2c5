"""Figures for screens, read from Results: the balance line, the measures, curves, working, timeline, one activity."""

from collections.abc import Sequence
from dataclasses import replace
from decimal import Decimal

from dryledger.book.mark_rules import kind_of
from dryledger.book.memory import Slot
from dryledger.book.outline import levels
from dryledger.book.plan import Statement
from dryledger.book.registers import fields_of
from dryledger.book.responsible import responsible_for, responsible_in
from dryledger.by_value import values_by_field
from dryledger.calendar.calendar import Calendar, to_text
from dryledger.compute import Results
from dryledger.entry.grammar import instant_text
from dryledger.errors import UnknownFigure
from dryledger.figure_values import Value, whole, written
from dryledger.figures import CATALOGUE, FIELD, SCOPES, Figure, figure, figures_of
from dryledger.marks.marks import activity_marker, drift_days, marks
from dryledger.marks.rules import calendar_of
from dryledger.posting.effects import Balance, balance
from dryledger.readings import reader, reason
from dryledger.value.rebased import first_beside
from dryledger.working.working import Operand, Working, WorkingRow, driver_words, working
from server.book.models import Page
from server.book.results import MOST_KEPT, View
from server.shared.json_values import days
from server.shared.problems import Refused
from server.shared.words import sentence
from server.value.shapes import (
    ActivityOut,
    BalanceOut,
    CatalogueOut,
    FieldValuesOut,
    FigureOut,
    MeasureRow,
    OperandOut,
    StatementOut,
    ValueOut,
    WorkingOut,
    WorkingRowOut,
)

COLUMNS = ("bac", "pv", "ev", "ac", "sv", "cv", "spi", "cpi", "eac")
"""The figures of the value screen."""
MEASURES = tuple(f.key for f in figures_of("project", "measures"))
"""All measures of a project."""


def text_of(value: Decimal | float | str | None) -> str | None:
    """A value as sent."""
    return f"{value:f}" if isinstance(value, Decimal) else None if value is None else str(value)


def catalogue() -> CatalogueOut:
    """Every figure that there is."""
    return CatalogueOut([figure_out(f) for f in CATALOGUE])


def figure_out(f: Figure) -> FigureOut:
    """One figure of the catalogue as sent."""
    return FigureOut(f.key, [SCOPES[s] for s in f.scopes], f.kind, f.word, f.head, f.formula, f.group)


def balance_out(b: Balance) -> BalanceOut:
    """The balance line as sent."""
    bac, pv, ev, ac, eac, finish = (written(b.figures[k], figure(k).kind) for k in ("bac", "pv", "ev", "ac", "eac", "finish"))
    spi, cpi = (x if isinstance(x, float) else None for x in (b.figures["spi"], b.figures["cpi"]))
    status = to_text(b.status) if b.status is not None else ""
    drift = None if b.drift is None else float(round(b.drift, 2))
    first = None if b.first_drift is None else float(round(b.first_drift, 2))
    out = BalanceOut(status, b.baseline, b.currency, bac, pv, ev, ac, spi, cpi, eac, b.eac_method, finish, drift, b.reasons)
    return replace(out, first=b.first, first_drift=first, reckoned=text_of(b.reckoned or None))


def balance_of(v: View) -> BalanceOut:
    """The balance line of a view."""
    return balance_out(balance(v.results))


class _Rows:
    """Makes the rows of one kind: their figures by key, each read from the catalogue; one that means nothing there is null."""

    def __init__(self, r: Results, kind: str, keys: tuple[str, ...] = COLUMNS) -> None:
        self.results, self.kind = r, kind
        kinds = {key: kind_of(key, kind, r.book.fields) for key in keys}
        self._readers = [(key, k, reader(r, key, kind)) for key in keys if (k := kinds[key]) is not None]
        self._reckoned = reader(r, "ac.progress", kind)
        self._strange = dict.fromkeys((key for key, k in kinds.items() if k is None), None)

    def row(self, code: str, name: str, level: int, parent: str | None, mark: str | None) -> MeasureRow:
        figures = {key: self._in_words(read(code), kind, code) for key, kind, read in self._readers}
        reasons = {key: reason(self.results, key, self.kind, code) for key, text in figures.items() if text is None}
        if PEOPLE in self._strange and self.kind == "activity":
            book = self.results.book
            names = [book.resource_by_code[x.resource].name for x in book.assignments_of.get(code, ())]
            figures |= {PEOPLE: ", ".join(names) or None}
        reckoned = text_of(self._reckoned(code) or None)
        if RESPONSIBLE in self._strange:
            book, element = self.results.book, code if self.kind == "wbs" else None
            found = responsible_for(book, code) if self.kind == "activity" else responsible_in(book, element)
            figures |= {RESPONSIBLE: found or None}
        return MeasureRow(self.kind, code, name, level, parent, mark, self._strange | figures, reasons, reckoned)

    def _in_words(self, value: Value, kind: str, code: str) -> str | None:
        """A figure as sent; a length in days of the row's own calendar."""
        if kind != "duration" or value is None:
            return written(value, kind)
        gone = self.kind == "activity" and code not in self.results.book.activity_by_code
        calendar = calendar_of(self.results, "project" if gone else self.kind, code)
        return f"{calendar.days(whole(value) or 0).quantize(HUNDREDTH).normalize():f}"


HUNDREDTH = Decimal("0.01")
PEOPLE, RESPONSIBLE = "people", "responsible"
"""What is no figure of the catalogue but shown among them: the names of those assigned, and of who is responsible."""


def figure_rows(v: View, keys: Sequence[str]) -> dict[str, dict[str, MeasureRow]]:
    """The figures of every activity and element by its code, by kind."""
    rows = {kind: _Rows(v.results, kind, tuple(keys)) for kind in ("activity", "wbs")}
    return {
        "activity": {a.code: rows["activity"].row(a.code, a.name, 0, a.wbs, None) for a in v.book.activities},
        "wbs": {w.code: rows["wbs"].row(w.code, w.name, 0, w.parent, None) for w in v.book.wbs},
    }


def columns_of(v: View, asked: Sequence[str]) -> list[FigureOut]:
    """The figures that are asked for, in their order; those of the value screen where none are. Raises Refused for an unknown one."""
    known = {f.key: f for f in offered(v)}
    for key in asked:
        if key not in known:
            raise Refused("not-found", sentence("value.no_column", key=key[:60]), 404, field="columns")
    found = [known[key] for key in (dict.fromkeys(asked) or COLUMNS)]
    return [replace(f, kind="days") if f.kind == "duration" else f for f in found]


def offered(v: View) -> list[FigureOut]:
    """Everything that a column can show: the figures of the catalogue, who is assigned, and the project's own fields."""
    own = []
    for d in fields_of(v.book.fields, "activity"):
        key, name = FIELD + d.code, d.name
        kind = kind_of(key, "activity", v.book.fields) or "text"
        own.append(FigureOut(key, ["activity"], kind, name, name, d.formula or sentence("value.own_field"), "own"))
    people = FigureOut(
        PEOPLE, ["activity"], "text", sentence("value.assigned"), sentence("value.assigned"), sentence("value.assigned_to"), "plan"
    )
    word = sentence("value.responsible")
    answers = FigureOut(RESPONSIBLE, ["activity", "wbs", "project"], "text", word, word, sentence("value.responsible_for"), "plan")
    return [*(figure_out(f) for f in CATALOGUE if f.key not in ("code", "name")), people, answers, *own]


VALUE: Slot[ValueOut] = Slot("measures of a page", most=MOST_KEPT, weigh=lambda made: len(made.rows))


def value(v: View, asked: Sequence[str] = ()) -> ValueOut:
    """The measures of a page: the figures that are asked for, else those of the value screen. Kept as long as nothing is written."""
    return v.kept(VALUE, lambda: _value(v, asked), *asked)


def _value(v: View, asked: Sequence[str]) -> ValueOut:
    r, found = v.results, marks(v.results)
    heads, columns = levels(v.book), columns_of(v, asked)
    keys = tuple(c.key for c in columns)
    by_wbs: dict[str | None, list[str]] = {}
    for code in r.valuation.codes:
        by_wbs.setdefault(r.valuation.wbs_of(code), []).append(code)
    parents = {w.code: w.parent for w in v.book.wbs}
    rows: list[MeasureRow] = []

    of_activities, of_elements = _Rows(r, "activity", keys), _Rows(r, "wbs", keys)
    of_project = _Rows(r, "project", tuple(dict.fromkeys((*MEASURES, *keys))))

    def activities(of: str | None, level: int) -> None:
        for code in by_wbs.get(of, ()):
            a = v.book.activity_by_code.get(code)
            name = a.name if a else f"{r.baseline.by_code[code].name} (removed)" if r.baseline else code
            rows.append(of_activities.row(code, name, level, of, found.activities[code].mark if code in found.activities else None))

    for h in heads:
        rows.append(of_elements.row(h.code, h.name, h.level, parents[h.code], found.wbs[h.code].mark))
        activities(h.code, h.level + 1)
    activities(None, 0)
    project = v.book.project
    return ValueOut(
        v.page.status,
        r.baseline.code if r.baseline else None,
        project.eac,
        columns,
        rows,
        of_project.row(project.code, project.name, 0, None, found.project.mark),
        _fields(v),
    )


MOST_VALUES = 60
"""With more values a field tells rows apart, and does not group them."""


def _fields(v: View) -> list[FieldValuesOut]:
    """The own fields whose stated values are few enough to have a curve each."""
    names = {d.code: d.name for d in v.book.fields}
    return [FieldValuesOut(code, names[code], values) for code, values in values_by_field(v.results, MOST_VALUES).items()]


def working_of(v: View, measure: str, kind: str, code: str | None) -> WorkingOut:
    """The working of one figure."""
    r = v.results
    try:
        w: Working = working(r, measure, kind, code)
    except (KeyError, UnknownFigure):
        raise Refused(
            "not-found", sentence("value.no_figure", measure=measure, kind=kind, value=code or "").replace(" .", "."), 404
        ) from None
    names = {"project": v.book.project.name}
    scope = names.get(kind) or _scope_name(v, kind, code or "")

    def operand(o: Operand) -> OperandOut:
        return OperandOut(o.label, o.kind, text_of(o.value), o.measure)

    def row(x: WorkingRow) -> WorkingRowOut:
        return WorkingRowOut(x.code, x.name, x.kind or w.kind, text_of(x.value), x.note)

    return WorkingOut(
        w.measure,
        w.kind,
        w.title,
        scope,
        w.formula,
        text_of(w.result),
        w.older,
        w.reason,
        w.sentence,
        v.page.status,
        r.baseline.code if r.baseline else None,
        [operand(o) for o in w.operands],
        [row(x) for x in w.rows],
    )


def _scope_name(v: View, kind: str, code: str) -> str:
    if kind == "wbs":
        return next((w.name for w in v.book.wbs if w.code == code), code)
    if kind in ("risk", "change"):
        return next((x.name for x in (v.book.risks if kind == "risk" else v.book.changes) if x.code == code), code)
    a = v.book.activity_by_code.get(code)
    return a.name if a else code


def activity(v: View, code: str) -> ActivityOut:
    """The margin of one activity."""
    r, book = v.results, v.book
    a = book.activity_by_code.get(code)
    if a is None:
        raise Refused("not-found", sentence("value.no_activity", code=code, code_2=v.project.code), 404)
    row, mark, late = r.schedule.activities[code], activity_marker(r)(code), drift_days(r, code)
    own = book.calendar_by_code[a.calendar]
    states = dict(Page.objects.filter(project=v.project).values_list("code", "state"))
    people = [book.resource_by_code[x.resource].name for x in book.assignments_of.get(code, ())]
    out = ActivityOut(
        code,
        a.name,
        next((w.name for w in book.wbs if w.code == a.wbs), ""),
        to_text(row.start),
        to_text(row.finish),
        [driver_words(r, row.code, d) for d in row.driven_by],
        days(own, row.total_float),
        days(own, row.free_float),
        None if late is None else float(round(late, 2)),
        mark.mark,
        list(mark.reasons),
        people,
    )
    for period in r.at.periods:
        for s in period.statements:
            if s.activity == code:
                out.history.append(
                    StatementOut(period.code, to_text(period.status), states.get(period.code, period.state), _in_words(s, own), s.note)
                )
    out.measures = _Rows(r, "activity").row(code, a.name, 0, a.wbs, mark.mark)
    first = first_beside(book, r.baseline)
    if first is not None:
        apart = drift_days(r, code, "original_finish_difference")
        out.first, out.first_late_days = first.code, None if apart is None else float(round(apart, 2))
    return out


def _in_words(s: Statement, own: Calendar) -> str:
    if s.actual_finish is not None:
        return f"finished {instant_text(s.actual_finish)}"
    parts = [f"started {instant_text(s.actual_start)}"] if s.actual_start is not None and s.percent is None else []
    if s.percent is not None:
        parts.append(f"{s.percent * 100:g} %" if isinstance(s.percent, float) else f"{(s.percent * 100).normalize():f} %")
    if s.remaining is not None:
        parts.append(sentence("value.d_remaining", value=own.days(s.remaining)))
    return ", ".join(parts) or "not started"
