"""What the desk shows: its projects, their sums, late milestones, and the frame that every screen of a project stands in."""

from dataclasses import dataclass


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
class DeskOut:
    """All projects, their sums by currency, and what of their milestones is late, the latest first."""

    projects: list[ProjectOut]
    sums: list[SumOut]
    late: list[LateOut]


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
