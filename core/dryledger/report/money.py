"""Money by WBS as a report tells it: this period, to date and at completion, of each element down to a level and of the project."""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.outline import levels
from dryledger.compute import Results
from dryledger.figure_values import Value
from dryledger.readings import read
from dryledger.working.period import of_period

__all__ = ["COMPLETION", "PERIOD", "MoneyRow", "money_rows"]

PERIOD = ("pv", "ev", "ac", "sv", "cv")
"""What is told of a period and to date."""
COMPLETION = ("bac", "eac", "etc", "vac")
"""What is told at completion."""


@dataclass(frozen=True)
class MoneyRow:
    """The money of an element or the project: kind, code and name, its level, and its figures by key; None where there is none."""

    kind: str
    code: str
    name: str
    level: int
    period: dict[str, Decimal | None]
    to_date: dict[str, Decimal | None]
    completion: dict[str, Decimal | None]


def _money(value: Value) -> Decimal | None:
    return value if isinstance(value, Decimal) else None


def money_rows(r: Results, depth: int = 1) -> list[MoneyRow]:
    """The rows of every element down to a level (1: the top ones), then the project."""
    rows = [_row(r, "wbs", h.code, h.name, h.level) for h in levels(r.book) if h.level < depth]
    return [*rows, _row(r, "project", r.book.project.code, r.book.project.name, 0)]


def _row(r: Results, kind: str, code: str, name: str, level: int) -> MoneyRow:
    return MoneyRow(
        kind,
        code,
        name,
        level,
        {key: of_period(r, key, kind, code) for key in PERIOD},
        {key: _money(read(r, key, kind, code)) for key in PERIOD},
        {key: _money(read(r, key, kind, code)) for key in COMPLETION},
    )
