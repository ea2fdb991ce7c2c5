"""How a project's report is laid out, and the dates that its progress lines are kept for, as data of the book."""

from collections.abc import Iterator
from dataclasses import dataclass
from decimal import Decimal

from dryledger.calendar.calendar import Instant
from dryledger.errors import Fault
from dryledger.words import sentence

__all__ = ["OWN_HEADS", "SECTIONS", "KeptLine", "ReportLayout", "layout_faults"]

SECTIONS = (
    *("overall", "heads", "summary", "decisions", "curve", "milestones", "worked_on", "coming_next", "waiting"),
    *(
        "money",
        "by_month",
        "orders",
        "under_change",
        "rebased",
        "indices",
        "buffers",
        "issues",
        "changes",
        "risks",
        "checks",
        "treatment",
        "corrections",
    ),
)
"""Every section of a report, in the order that ships. Those that not every project has are left out where they'd be
empty: of buffers, other projects, orders, budget under change, and baselines that changed."""
OWN_HEADS = ("Schedule", "Cost")
"""The heads that every report has; a project adds its own."""
MOST_HEADS, LONGEST = 12, 60


@dataclass(frozen=True, slots=True)
class ReportLayout:
    """The sections that a report shows, in their order (none: all that ship), heads of the project's own beside schedule and
    cost, and down to which level of the WBS money is told."""

    sections: tuple[str, ...] = ()
    heads: tuple[str, ...] = ()
    levels: Decimal = Decimal(1)

    @property
    def shown(self) -> tuple[str, ...]:
        """The sections that are shown, in their order.

        >>> ReportLayout().shown[:3], ReportLayout(("money",)).shown
        (('overall', 'heads', 'summary'), ('money',))
        """
        return self.sections or SECTIONS


@dataclass(frozen=True, slots=True)
class KeptLine:
    """A date that the project keeps a progress line for."""

    at: Instant
    name: str = ""


def layout_faults(layouts: tuple[ReportLayout, ...]) -> Iterator[Fault]:
    """Every fault of a layout, each at its place."""
    for x in layouts:
        for key in x.sections:
            if key not in SECTIONS:
                yield Fault("report_layout.sections", sentence("report.no_section", section=key[:60], sections=", ".join(SECTIONS)))
        if len(set(x.sections)) < len(x.sections):
            yield Fault("report_layout.sections", sentence("report.section_twice"))
        names = [h.strip().lower() for h in (*OWN_HEADS, *x.heads)]
        if not all(names) or len(set(names)) < len(names):
            yield Fault("report_layout.heads", sentence("report.heads_apart"))
        if len(x.heads) > MOST_HEADS or any(len(h) > LONGEST for h in x.heads):
            yield Fault("report_layout.heads", sentence("report.heads_too_many", most=MOST_HEADS, longest=LONGEST))
        if x.levels != int(x.levels):
            yield Fault("report_layout.levels", sentence("report.levels_whole"))
