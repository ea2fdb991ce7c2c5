"""What the options room is sent: the board, what levelling would do, and drawings laid over each other."""

from dataclasses import dataclass, field


@dataclass
class MilestoneOut:
    """Where a milestone comes to lie, and how many working days that is later than at present."""

    code: str
    name: str
    finish: str
    days: float


@dataclass
class BufferStanding:
    """What a plan makes of the promise in force: the share of its buffer used, in per cent (None: it has no size), the zone, the forecast
    end of the chain, and working days from the promised date to it (below 0 before it).
    """

    use: float | None
    zone: str
    forecast_end: str
    promised: str
    late_days: float


@dataclass
class StandingOut:
    """How a plan stands: lengths in working days of the project calendar, over-allocation in hours, money as text."""

    finish: str
    deadline_days: float | None
    imposed_days: float | None
    eac: str | None
    vac: str | None
    float_days: float | None
    over_hours: float
    milestones: list[MilestoneOut]
    cost_by_kind: dict[str, str]
    buffer: BufferStanding | None


@dataclass
class ChangeOut:
    """A change of an option in words, and why it does not fit now, if it doesn't."""

    about: str
    what: str
    conflict: str | None = None
    moved_on: bool = False
    """Whether it would fit if it were not held to the value that it remembers."""


@dataclass
class RemarkOut:
    """What somebody said."""

    option: int | None
    by: str
    at: str
    text: str
    chosen: bool


@dataclass
class AskOut:
    """A choice that is asked for."""

    by: str
    at: str
    text: str


@dataclass
class OptionOut:
    """An option beside the present; an adopted one is only named."""

    id: int
    code: str
    name: str
    notes: str
    state: str
    seen: int
    moved_on: bool
    changes: list[ChangeOut]
    can_undo: bool
    can_redo: bool
    gained_days: float = 0
    overlaps: list[str] = field(default_factory=list)
    standing: StandingOut | None = None
    problem: str | None = None


@dataclass
class BoardOut:
    """The present plan and its options, from the same page."""

    revision: int
    page: str
    status: str | None
    baseline: str | None
    currency: str
    eac: str
    deadline: str | None
    imposed_finish: str | None
    present: StandingOut
    options: list[OptionOut]
    ask: AskOut | None
    remarks: list[RemarkOut]


@dataclass
class LevelledOut:
    """What levelling would move, in working days, and who it waits for."""

    id: str
    code: str
    name: str
    was_start: str
    start: str
    was_finish: str
    finish: str
    days: float
    waits_for: list[str]
    by_links: bool


@dataclass
class OverOut:
    """A resource and how much is asked of it beyond what there is: hours in all, the first and last of it, who asks."""

    code: str
    name: str
    hours: float
    first: str
    last: str
    spans: int
    required: float
    available: float
    activities: list[str]


@dataclass
class LevelOut:
    """What levelling would do before it is done."""

    mode: str
    was_finish: str
    finish: str
    days: float
    moved: list[LevelledOut]
    before: list[OverOut]
    after: list[OverOut]


@dataclass
class LaidOut:
    """A plan laid over the others: its finish, the spans of the activities that differ, and where its cost goes."""

    option: int | None
    name: str
    finish: str
    spans: dict[str, list[str]]
    points: list[list[str | None]]
    """Cumulative by week: end, spent or forecast to be spent."""


@dataclass
class OverlayOut:
    """The present and its options laid over each other: the activities that differ in any of them, in the plan's order."""

    status: str | None
    deadline: str | None
    rows: list[list[str]]
    more: int
    planned: list[list[str | None]]
    laid: list[LaidOut]
