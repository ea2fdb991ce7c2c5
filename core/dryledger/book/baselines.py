"""Baselines: frozen copies of a plan with calendars of their own."""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal
from functools import cached_property
from typing import Protocol

from dryledger.book.value_method import PERCENT, ValueMethod
from dryledger.calendar.axis import Axis, Instant
from dryledger.calendar.calendar import Calendar, Pause

__all__ = ["Baseline", "BaselineActivity", "BaselineAssignment", "CostLine", "own_axes"]


@dataclass(frozen=True, slots=True)
class CostLine:
    """One budgeted amount of a baseline activity and how it is spread."""

    name: str
    amount: Decimal
    accrual: str = "uniform"
    profile: str = "uniform"


@dataclass(frozen=True, slots=True)
class BaselineAssignment:
    """A resource on a baseline activity: its planned work in minutes and, where it is kept, its cost."""

    resource: str
    work: int = 0
    cost: Decimal | None = None


@dataclass(frozen=True, slots=True)
class BaselineActivity:
    """An activity as it stood when the baseline was taken."""

    code: str
    name: str
    wbs: str | None
    calendar: str
    start: Instant
    finish: Instant
    duration: int
    work: int
    pauses: tuple[Pause, ...] = ()
    value_method: ValueMethod = PERCENT
    cost_lines: tuple[CostLine, ...] = ()
    assignments: tuple[BaselineAssignment, ...] = ()

    @property
    def budget(self) -> Decimal:
        """Budget at completion, the sum of the cost lines."""
        lines = self.cost_lines
        return lines[0].amount if len(lines) == 1 else sum([line.amount for line in lines], Decimal(0))


@dataclass(frozen=True)
class Baseline:
    """A frozen copy of the plan with its own calendars."""

    code: str
    name: str
    taken: Instant
    calendar: str
    calendars: tuple[Calendar, ...]
    activities: tuple[BaselineActivity, ...]
    approved_by: str = ""
    reason: str = ""
    before: str | None = None
    """The one it was made from; of a restored one the one restored."""
    source: str = "plan"

    @cached_property
    def by_code(self) -> dict[str, BaselineActivity]:
        """The baseline's activities by code."""
        return {a.code: a for a in self.activities}

    @cached_property
    def axes(self) -> dict[str, Axis]:
        """Each activity's own axis, by activity code."""
        return own_axes(self.calendars, self.activities)

    @cached_property
    def project_axis(self) -> Axis:
        """The axis of the project calendar as it was."""
        return next(c.axis for c in self.calendars if c.code == self.calendar)


class OnCalendar(Protocol):
    """An activity, of a plan or of a baseline."""

    @property
    def code(self) -> str:
        """Its code."""

    @property
    def calendar(self) -> str:
        """The code of its calendar."""

    @property
    def pauses(self) -> tuple[Pause, ...]:
        """When its calendar's time does not count for it."""


def own_axes(calendars: Iterable[Calendar], activities: Iterable[OnCalendar]) -> dict[str, Axis]:
    """The axis of each activity, its calendar without its pauses, by activity code."""
    axes = {c.code: c.axis for c in calendars}
    return {a.code: axes[a.calendar].without((p.start, p.end) for p in a.pauses) if a.pauses else axes[a.calendar] for a in activities}
