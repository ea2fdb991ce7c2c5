"""What the value room answers: plain dataclasses, from which the API document is made."""

from dataclasses import dataclass, field


@dataclass
class BalanceOut:
    """The balance line of a page."""

    status: str
    baseline: str | None
    currency: str
    bac: str | None
    pv: str | None
    ev: str | None
    ac: str | None
    spi: float | None
    cpi: float | None
    eac: str | None
    eac_method: str
    finish: str | None
    drift: float | None
    reasons: dict[str, str]
    first: str | None = None
    """The first approved baseline, where the page is measured by another one."""
    first_drift: float | None = None
    reckoned: str | None = None
    """How much of AC follows progress, where any of it does."""


@dataclass
class FigureOut:
    """A figure of the catalogue: where it has a meaning, its kind and its words."""

    key: str
    scopes: list[str]
    kind: str
    word: str
    head: str
    """The head of a column: the abbreviation where the trade has one."""
    formula: str
    group: str
    """The group that it is offered in: value, variance, index, forecast, time, plan, or own for the project's own fields."""


@dataclass
class CatalogueOut:
    """Every figure that there is, in the catalogue's order."""

    figures: list[FigureOut]


@dataclass
class MeasureRow:
    """Figures of one scope, the project, a WBS element or an activity, by their keys; of those that are null the reasons."""

    kind: str
    code: str
    name: str
    level: int
    parent: str | None
    mark: str | None
    figures: dict[str, str | None]
    reasons: dict[str, str]
    reckoned: str | None = None
    """How much of its AC follows progress, where any of it does."""


@dataclass
class FieldValuesOut:
    """An own field of activities, and the values that some of them have."""

    code: str
    name: str
    values: list[str]


@dataclass
class ValueOut:
    """The measures of a page by WBS down to activities, the project last."""

    status: str
    baseline: str | None
    eac_method: str
    columns: list[FigureOut]
    """The figures that every row has, in the order of the columns."""
    rows: list[MeasureRow]
    project: MeasureRow
    """The whole project, with every measure that there is."""
    fields: list[FieldValuesOut]
    """The project's own fields whose values have a curve."""


@dataclass
class PointOut:
    """One point of a curve."""

    end: str
    pv: str
    ev: str | None
    ac: str | None
    forecast: str | None
    others: dict[str, str]
    forecasts: dict[str, str]
    """The forecast by each estimate at completion that there is."""
    added_pv: str
    added_ev: str | None
    added_ac: str | None
    """What the bucket adds."""


@dataclass
class CurveOut:
    """A curve with what its brackets need."""

    scope: str
    bucket: str
    status: str
    points: list[PointOut]
    pv: str
    ev: str
    ac: str
    bac: str
    sv: str | None
    cv: str | None
    earned_schedule: float | None
    sv_t: float | None
    earned_on: str | None
    """The date by which the plan had today's earned value."""
    sentences: list[str]
    eac: dict[str, str]
    """Each estimate at completion that there is, and by `eac_method` the one that the project chose."""
    eac_method: str
    baselines: list[str]
    """The baselines that another planned value can be drawn of."""


@dataclass
class KindOfCostOut:
    """What one kind of cost comes to: budgeted, spent, left to spend, their forecast, and the budget less that."""

    name: str
    sums: bool
    """Whether it is the sum of the others."""
    budget: str
    actual: str
    remaining: str
    forecast: str
    difference: str


@dataclass
class SelectionOut:
    """The measures and the curve of a selection, of so many activities; split by kind of cost where that is asked for."""

    activities: int
    row: MeasureRow
    kinds: list[KindOfCostOut]
    curve: CurveOut


@dataclass
class OperandOut:
    """One number of a formula."""

    label: str
    kind: str
    value: str | None
    measure: str | None


@dataclass
class WorkingRowOut:
    """One row behind a figure."""

    code: str
    name: str
    kind: str
    value: str | None
    note: str


@dataclass
class WorkingOut:
    """Where a figure comes from."""

    measure: str
    kind: str
    title: str
    scope: str
    formula: str
    result: str | None
    older: str
    reason: str
    sentence: str
    status: str
    baseline: str | None
    operands: list[OperandOut]
    rows: list[WorkingRowOut]


@dataclass
class StatementOut:
    """What one page said of an activity."""

    page: str
    status: str
    state: str
    text: str
    note: str | None


@dataclass
class ActivityOut:
    """The margin of one activity."""

    code: str
    name: str
    wbs: str
    start: str
    finish: str
    drivers: list[str]
    total_float_days: float | None
    free_float_days: float | None
    late_days: float | None
    mark: str
    reasons: list[str]
    people: list[str]
    history: list[StatementOut] = field(default_factory=list)
    measures: MeasureRow | None = None
    first: str | None = None
    """The first approved baseline, where the page is measured by another one."""
    first_late_days: float | None = None
