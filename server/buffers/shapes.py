"""What the buffers room is sent: the chain of a page, the promise in force and what became of it."""

from dataclasses import dataclass, field


@dataclass
class ChainLink:
    """An activity of a chain with its levelled dates; lengths in working days of the project calendar."""

    code: str
    name: str
    start: str
    finish: str
    days: float
    safety_days: float
    after: str
    """What ties it to the one before, in words."""


@dataclass
class BufferOut:
    """A buffer: its size in working days, where it sits, and how much of it has room there."""

    days: float
    start: str
    end: str
    room_days: float


@dataclass
class FeedingOut:
    """A feeding chain and its buffer, and how many days of it have no room."""

    rows: list[ChainLink]
    join: str | None
    join_name: str | None
    buffer: BufferOut
    shortage_days: float


@dataclass
class ChainOut:
    """The chain of the page as levelling and even odds give it."""

    rows: list[ChainLink]
    days: float
    buffer: BufferOut | None
    promise: str | None
    feeding: list[FeedingOut]
    without_safe: list[list[str]]
    """Code and name of open work that has no safe duration."""
    moved: int
    """How many activities levelling moves."""


@dataclass
class FeverPoint:
    """A chain at a page: per cents of it done and of its buffer used, the zone, and where it would end."""

    page: str
    status: str
    progress: float
    use: float | None
    zone: str
    forecast_end: str
    used_days: float
    reason: str | None = None


@dataclass
class FeedingTrail:
    """A feeding chain's name, its buffer, and its points page by page."""

    name: str
    join: str | None
    join_name: str | None
    buffer: BufferOut
    points: list[FeverPoint]


@dataclass
class UsedOut:
    """What an activity of the promised chain took, or will take, against its length, in working days of its calendar."""

    id: str
    code: str
    name: str
    days: float
    takes_days: float
    used_days: float
    remaining_days: float
    state: str
    page: str | None
    """The page on which it was said to have ended, or the latest that speaks of it."""
    note: str | None
    """What was noted there."""


@dataclass
class FirstOut:
    """What to do first: an open activity of the promised chains whose remaining time eats buffer now."""

    id: str
    code: str
    name: str
    state: str
    remaining_days: float
    finish: str
    why: str
    """chain: it is on the chain; feeding: on a feeding chain whose buffer is in the zone named in `zone`."""
    zone: str


@dataclass
class FeverTrend:
    """Where the chain would end if buffer and chain went on as over the last pages."""

    end: str
    days: float
    """Working days after the promised date; below 0 before it."""
    gone_at: float | None
    """Per cent of the chain done at which the buffer would be used up; None where it would not be."""
    pages: int


@dataclass
class FeverOut:
    """The promise in force and what became of it."""

    code: str
    page: str | None
    approved_by: str
    date: str
    chain: list[str]
    chain_days: float
    chain_end: str
    buffer: BufferOut
    watch: list[float]
    act: list[float]
    """Per cents of the buffer at which a zone begins: with nothing of the chain done, and with all of it."""
    trail: list[FeverPoint]
    feeding: list[FeedingTrail]
    used: list[UsedOut]
    first: list[FirstOut]
    trend: FeverTrend | None


@dataclass
class HandOverOut:
    """A hand-over of the promise: from whom, to whom and of what; whether it binds, and working days between the two."""

    source: str
    source_name: str
    target: str
    target_name: str
    resource: str
    resource_name: str
    state: str
    """waits: it sets the date of who takes over; binds; untied; loop: left out; over."""
    finish: str | None
    start: str | None
    idle_days: float | None


@dataclass
class BuffersOut:
    """The buffers room of a page."""

    revision: int
    page: str
    status: str
    wet: bool
    size: str
    watch: list[float]
    act: list[float]
    """Per cents of the buffer at which a zone begins: with nothing of the chain done, and with all of it."""
    posted: int
    """How many activities the page says something of."""
    any_safe: bool
    """Whether any activity has a safe duration at all."""
    open: int
    """How many activities are not complete."""
    chain: ChainOut
    fever: FeverOut | None
    hand_overs: list[HandOverOut]
    earlier: list[list[str]] = field(default_factory=list)
    """Promises before the one in force: code, page, date."""
