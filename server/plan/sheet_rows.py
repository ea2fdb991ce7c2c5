"""A row of the plan sheet: how it is made of an activity and its dates, and made over where only dates moved."""

from collections.abc import Callable
from dataclasses import MISSING, dataclass, field, fields
from decimal import Decimal
from functools import lru_cache
from operator import attrgetter
from typing import Any

from dryledger.book.plan import Activity, Book, WbsElement
from dryledger.book.reader import duration_text
from dryledger.book.responsible import responsible_in
from dryledger.calendar import calendar
from dryledger.calendar.calendar import Calendar, Instant
from dryledger.calendar.written import Written
from dryledger.changes.keyed import KeyedBook, name_of
from dryledger.compute import Results
from dryledger.entry.plan_cells import constraint_sentence, links_text
from dryledger.figure_values import Value
from dryledger.figures import figure
from dryledger.formats import format_number
from dryledger.marks.marks import activity_marker
from dryledger.readings import field_values, reader
from dryledger.schedule.schedule import Scheduled
from server.shared.json_values import JsonValues


def _shown(cost: Decimal) -> str:
    """A cost as text; nothing is a bare 0."""
    return f"{cost:f}" if cost else "0"


@dataclass(slots=True)
class PlanRow:
    """A row of the plan. Of an element only the sums and the dates over its activities are there."""

    id: str
    order: float
    code: str
    name: str
    kind: str
    parent: str | None = None
    start: str | None = None
    finish: str | None = None
    cost: str = "0"
    weight: float = 1
    duration: str = ""
    span: str = ""
    calendar: str = ""
    after: str = ""
    people: str = ""
    direct_cost: str | None = None
    constraint: str = ""
    deadline: str | None = None
    total_float: float | None = None
    free_float: float | None = None
    late: float | None = None
    state: str = "not_started"
    percent: float = 0
    mark: str = "not_due"
    critical: bool = False
    driving: bool = False
    driver: str = "duration"
    mode: str = "driven"
    method: str = "percent"
    profile: str = "uniform"
    odd: str | None = None
    """What is odd about the row: a milestone that has a duration, a deadline that is missed."""
    worked_to: str | None = None
    resume: str | None = None
    base_start: str | None = None
    base_finish: str | None = None
    float_to: str | None = None
    links: list[str] = field(default_factory=list)
    """The rows it comes after, with the type of each link: "a12:FS"."""
    pauses: list[list[str]] = field(default_factory=list)
    fields: dict[str, Any] = field(default_factory=dict)
    safe: str = ""
    """The duration that is kept nine times in ten, where the plan is kept by buffers."""
    levelled: str | None = None
    responsible: str = ""
    answers: str = ""
    """Who is responsible for it: as it says, else as the nearest element above it, else as the project says."""
    note: str = ""

    @property
    def money(self) -> Decimal:
        """The cost as a number, for adding up."""
        return Decimal(self.cost)

    def __json_values__(self) -> dict[str, Any]:
        """As sent: what is as it mostly is, is left out."""
        return {n: v for n, v, usual in zip(NAMES, _values(self), USUAL, strict=True) if v != usual}


USUAL = [
    f.default if f.default is not MISSING else f.default_factory() if f.default_factory is not MISSING else None for f in fields(PlanRow)
]
NAMES = tuple(f.name for f in fields(PlanRow))
DATED = (
    *("late", "kind", "start", "finish", "span", "total_float", "free_float", "state", "critical", "driving", "odd", "mark"),
    *("worked_to", "resume", "float_to", "fields", "cost"),
)
"""What `RowMaker.again` fills in."""
ALWAYS = {name: name for name in ("total_float", "free_float", "critical", "resume")}
MOVED = {"start": "start", "finish": "finish", "state": "state", "late": "finish_difference"}
FIXED = {"deadline": "deadline", "percent": "percent", "mode": "mode", "method": "value_method"}
FIXED |= {"base_start": "baseline_start", "base_finish": "baseline_finish"}
"""The columns that are figures of the catalogue, by key: those made over always, where dates moved, or only with the row."""
Reading = tuple[str, Callable[[Calendar, Any], Any] | None, Callable[[str], Value]]
"""A column, how its value is shown where that is not as it is, and what reads it by an activity's code."""
_values, _dated_values = attrgetter(*NAMES), attrgetter(*DATED)
to_text = lru_cache(100_000)(calendar.to_text)


def differences(old: PlanRow, new: PlanRow) -> JsonValues:
    """What of a row looks different, by column."""
    again = old.links is new.links  # made over from the old one
    names, values = (DATED, _dated_values) if again else (NAMES, _values)
    return JsonValues([(name, b) for name, a, b in zip(names, values(old), values(new), strict=True) if a is not b and a != b])


def dates_as_text(row: PlanRow) -> JsonValues:
    """All columns of a row that follow from its dates."""
    return JsonValues(zip(DATED, _dated_values(row), strict=True))


class RowMaker:
    """Makes the rows of activities for one state of a plan."""

    def __init__(self, keyed: KeyedBook, results: Results, driving: set[str]) -> None:
        self.keyed, self.results, self.book, self.driving = keyed, results, results.book, driving
        self._keys = {name: keyed.key_of(name) for name in ("activities", "externals")}
        self.above = {code: f"w{key}" for code, key in keyed.key_of("wbs").items()}
        self._known_days: dict[tuple[str, int], float] = {}
        self._texts: dict[tuple[str, int], str] = {}
        self._always, self._moved, self._fixed = (self._readers(columns) for columns in (ALWAYS, MOVED, FIXED))
        self._marked = activity_marker(results)
        self._formulas = any(d.kind == "formula" for d in self.book.fields)

    def _readers(self, columns: dict[str, str]) -> list[Reading]:
        shown: dict[str, Callable[[Calendar, Any], Any]] = {
            "instant": lambda own, value: to_text(value),
            "duration": self._days,
            "percent": lambda own, value: round(value, 1),
        }
        return [(name, shown.get(figure(key).kind), reader(self.results, key, "activity")) for name, key in columns.items()]

    def _source(self, code: str) -> str:
        """The name of the row that a link leads from."""
        of = "externals" if code in self.book.external_by_code else "activities"
        return name_of(of, self._keys[of][code])

    def _fill(self, row: PlanRow, own: Calendar, columns: list[Reading]) -> None:
        """Fill columns of a row with their figures: instants as text, lengths in days, per cents to one place."""
        code = row.code
        for name, shown, read in columns:
            value: Any = read(code)
            setattr(row, name, value if shown is None or value is None else shown(own, value))

    def element(self, name: str, order: float, w: WbsElement, span: tuple[Instant, Instant, Decimal] | None) -> PlanRow:
        """The row of an element: the dates and the cost of all that lies under it."""
        start, finish, cost = span if span is not None else (None, None, Decimal(0))
        parent = self.above.get(w.parent or "")
        first, last = (None if t is None else to_text(t) for t in (start, finish))
        row = PlanRow(name, order, w.code, w.name, "wbs", parent, first, last, _shown(cost), float(w.weight))
        row.responsible, row.answers = w.responsible, responsible_in(self.book, w.code)
        return row

    def row(self, name: str, order: float, a: Activity, cost: Decimal) -> PlanRow:
        """The row of an activity."""
        r, book = self.results, self.book
        x, own = r.schedule.activities[a.code], book.calendar_by_code[a.calendar]
        direct = book.costs_of.get(a.code, [])
        row = PlanRow(
            id=name,
            parent=self.above.get(a.wbs or ""),
            order=order,
            code=a.code,
            name=a.name,
            kind=a.kind,
            cost=_shown(cost),
            weight=float(a.weight),
            duration=self._duration(own, a.duration) if a.duration or a.kind != "milestone" else "0d",
            calendar=a.calendar if a.calendar != book.project.calendar else "",
            after=links_text(book.links_into.get(a.code, ()), book.project_calendar),
            people=_people(book, a.code),
            direct_cost=f"{sum((c.amount for c in direct), Decimal(0)):f}" if direct else None,
            constraint=constraint_sentence(a.constraint),
            driver=a.driver,
            profile=a.profile,
            links=[f"{self._source(k.source)}:{k.type}" for k in book.links_into.get(a.code, ())],
            pauses=[[to_text(p.start), to_text(p.end), p.reason] for p in a.pauses],
            safe="" if a.safe_duration is None else self._duration(own, a.safe_duration),
            levelled=None if a.levelled is None else to_text(a.levelled),
            responsible=a.responsible,
            answers=a.responsible or responsible_in(book, a.wbs),
            note=a.note,
        )
        self._fill(row, own, self._fixed)
        return self._dated(row, a, x, own, None)

    def again(self, old: PlanRow, a: Activity, was: Scheduled, cost: Decimal) -> PlanRow:
        """The row of an activity of which only the dates, or what follows from them, may be others than before."""
        x = self.results.schedule.activities[a.code]
        row = PlanRow(*_values(old))
        row.cost = _shown(cost)
        return self._dated(row, a, x, self.book.calendar_by_code[a.calendar], was)

    def _dated(self, row: PlanRow, a: Activity, x: Scheduled, own: Calendar, was: Scheduled | None) -> PlanRow:
        """Fill in what follows from the dates."""
        self._fill(row, own, self._always)
        row.driving = a.code in self.driving
        row.mark = self._marked(a.code).mark
        row.float_to = to_text(x.late_finish) if x.late_finish is not None and x.late_finish > x.finish else None
        if was is None or was.finish != x.finish or was.start != x.start or was.duration != x.duration or was.state != x.state:
            self._fill(row, own, self._moved)
            row.kind = "milestone" if a.kind == "milestone" or (a.duration == 0 and x.duration == 0) else "task"
            row.span = f"{self._days(own, x.duration):g}d" if x.duration != a.duration else ""
            row.odd = _odd(a, x.finish)
            row.worked_to = to_text(x.worked_to) if x.worked_to is not None else row.finish if x.state == "complete" else None
        if self.book.fields and (was is None or self._formulas):
            row.fields = {k: _json_number(v) for k, v in field_values(self.results, a.code, row.money).items()}
        return row

    def _duration(self, own: Calendar, minutes: int) -> str:
        """A duration as it was typed; one in minutes in words, each worked out once."""
        if isinstance(minutes, Written) and minutes.text and not minutes.text.endswith("min"):
            return minutes.text
        key = (own.code, minutes)
        found = self._texts.get(key)
        if found is None:
            found = self._texts[key] = duration_text(minutes, own, ("d", "h", "min"))
        return found

    def _days(self, own: Calendar, minutes: int) -> float:
        """Working minutes as days to two places, each worked out once."""
        key = (own.code, minutes)
        found = self._known_days.get(key)
        if found is None:
            found = self._known_days[key] = round(float(own.days(minutes)), 2)
        return found


def _people(book: Book, code: str) -> str:
    parts = []
    for x in book.assignments_of.get(code, ()):
        material = book.resource_by_code[x.resource].kind == "material"
        number = x.quantity if material else x.units
        parts.append(
            x.resource if number is None or (number == 1 and not material) else f"{x.resource} {format_number(number.normalize())}"
        )
    return "; ".join(parts)


def _odd(a: Activity, finish: Instant) -> str | None:
    if a.kind == "milestone" and a.duration:
        return "duration"
    return "deadline" if a.deadline is not None and finish > a.deadline else None


def _json_number(value: object) -> object:
    return float(value) if isinstance(value, Decimal) else value
