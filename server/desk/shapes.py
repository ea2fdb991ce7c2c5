"""What the desk shows: its projects, their sums, late milestones, reports due, statistics, the curve of all, and the frame of one."""

from dataclasses import dataclass, field

from dryledger.desk.curve import CurvePart
from dryledger.desk.portfolio import ProjectFigures
from server.value.tables import StatisticOut


@dataclass
class PageOut:
    """One leaf of the period rail."""

    code: str
    number: int
    status: str
    state: str
    mark: str
    mark_word: str
    calculation: int
    """The number of the calculation whose figures the page shows."""
    due: bool
    """Whether it is to be closed: its status date has come, and somebody who may post looks at it."""


@dataclass
class ProjectOut:
    """A project on the desk."""

    code: str
    name: str
    currency: str
    status: str
    page: str
    baseline: str | None
    mark: str
    mark_word: str
    manager: str
    client: str
    state: str
    kind: str
    own: dict[str, str]
    """By the name of each of its own fields of the project what it says."""
    bac: str
    pv: str | None
    ev: str
    ac: str
    eac: str | None
    vac: str | None
    spi: float | None
    cpi: float | None
    finish: str
    late_days: float | None
    """Working days that it finishes after its baseline."""
    exposure: str
    exposure_percent: float | None
    """Exposure of the open risks in per cent of BAC."""
    benefit: str | None
    benefit_basis: str
    unrated: list[str]
    """Open risks without probability or impact: they count as nothing."""
    report_due: str | None = None
    """The latest closed page, where no report on it was issued."""
    standing: str = "real"
    """real, what_if or retired; the last two are in no sum."""
    copy_of: str = ""
    place: str = ""
    """Its group: names from the top down, apart by " / "."""
    page_due: bool = False
    """Whether its open page should have been closed by today."""
    may_stand: bool = False
    """Whether who asks may retire it, make it real or delete it."""


@dataclass
class SumOut:
    """The sums of the projects of one currency, and the indices that follow from them; None with its reason."""

    currency: str
    projects: int
    left_out: list[str]
    bac: str
    pv: str
    ev: str
    ac: str
    eac: str | None
    vac: str | None
    spi: float | None
    cpi: float | None
    reasons: dict[str, str]


@dataclass
class LateOut:
    """A milestone that is not reached and lies after its baseline date, with the working days between."""

    project: str
    page: str
    code: str
    name: str
    status: str
    baseline: str
    baseline_date: str
    now: str
    late_days: float


@dataclass
class ProjectLine:
    """All that the desk needs of one project, kept as long as the project stays as it is."""

    project: ProjectOut
    figures: ProjectFigures
    late: list[LateOut]
    curve: CurvePart | None
    statistics: list[StatisticOut]


@dataclass
class DeskView:
    """A way to look at the desk, kept by name for a person: filters by column, what it is grouped by, and the order."""

    name: str
    filters: dict[str, str] = field(default_factory=dict)
    group: str = ""
    order: str = ""
    shared: bool = False
    by: str = ""
    """Who shares it, where it is somebody else's."""


@dataclass
class DeskOut:
    """All projects, their sums by currency, and what of their milestones is late, the latest first."""

    projects: list[ProjectOut]
    sums: list[SumOut]
    late: list[LateOut]
    views: list[DeskView]
    asked: int = 0
    """On how many open pages the person is asked for progress."""


@dataclass
class ProjectStatistics:
    """The statistics of one project."""

    code: str
    name: str
    currency: str
    status: str
    baseline: str | None
    rows: list[StatisticOut]


@dataclass
class DeskStatistics:
    """The statistics of all projects."""

    projects: list[ProjectStatistics]


@dataclass
class DeskPoint:
    """The sums at the end of a week."""

    end: str
    pv: str
    ev: str | None
    ac: str | None
    forecast: str | None


@dataclass
class DeskCurve:
    """The curve of the projects of one currency: which, and between which status dates; those left out with the reason."""

    currency: str
    currencies: list[str]
    projects: list[str]
    left_out: list[str]
    status: str | None
    """The earliest of their status dates: up to there everything is known."""
    latest: str | None
    points: list[DeskPoint]


@dataclass
class FrameOut:
    """What the frame around every screen shows of a project."""

    code: str
    name: str
    currency: str
    role: str
    """What the person is here."""
    revision: int
    outside: str
    """Another text whenever something of another project moved that this one waits for."""
    baseline: str | None
    baseline_name: str | None
    treatment: str
    calculation: int
    """The number of the calculation of today."""
    pages: list[PageOut]
