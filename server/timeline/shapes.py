"""What the timeline answers: bars, brackets over them, rooms, and the whole."""

from dataclasses import dataclass, field


@dataclass
class External:
    """An activity of another project that one here waits for: its dates stand, as of a status of its own."""

    code: str
    name: str
    state: str
    start: str
    finish: str
    status: str | None


@dataclass
class Wait:
    """What an activity waits for in another project: the date that its link counts from, and whether it sets the activity's own."""

    code: str
    at: str
    drives: bool


@dataclass
class Bar:
    """One row of the timeline; instants as text."""

    code: str
    name: str
    wbs: str | None
    kind: str
    state: str
    mark: str
    start: str
    finish: str
    worked_to: str | None
    resume: str | None
    base_start: str | None
    base_finish: str | None
    late_days: float | None
    float_to: str | None
    driving: bool
    drivers: list[str]
    pauses: list[list[str]]
    """From, to, and the reason."""
    percent: float
    out_of_sequence: bool
    others: dict[str, list[str]]
    """Start and finish in other baselines that are asked for, by their codes."""
    buffer: list[str] | None = None
    """Where the promised buffer behind it begins and ends: room, not work."""
    outside: list[Wait] = field(default_factory=list)
    """What it waits for in other projects, while it is not complete."""
    id: str = ""
    """Its name in changes of the plan; empty where it is not in the present one."""
    done_to: str | None = None
    """Where its percent complete lies on its bar, while it is under way."""


@dataclass
class Bracket:
    """A WBS element on the timeline with the share of its budget that is earned."""

    code: str
    name: str
    level: int
    start: str | None
    finish: str | None
    done: float


@dataclass
class TimelineOut:
    """The timeline of a page."""

    status: str
    baseline: str | None
    start: str
    finish: str
    deadline: str | None
    wbs: list[Bracket]
    bars: list[Bar]
    baselines: list[str]
    """The baselines that can be drawn beside the one measured against."""
    externals: list[External]
