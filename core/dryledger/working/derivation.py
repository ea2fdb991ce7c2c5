"""What a derivation is made of: a formula, the numbers in it, and the rows and statements behind them."""

from dataclasses import dataclass, field
from decimal import Decimal

__all__ = ["Figure", "Operand", "Working", "WorkingRow"]

Figure = Decimal | float | str | None


@dataclass
class Operand:
    """One number in a formula; `measure` is set where it can itself be asked for its working, `kind` as in the catalogue."""

    label: str
    value: Figure
    measure: str | None = None
    kind: str = "money"


@dataclass
class WorkingRow:
    """One row behind a figure; `kind` where it is another than the figure's."""

    code: str
    name: str
    value: Figure
    note: str = ""
    kind: str = ""


@dataclass
class Working:
    """Where one figure comes from. `older` is the older name of the measure in the trade, `kind` as in the catalogue."""

    measure: str
    title: str
    formula: str
    result: Figure
    operands: list[Operand] = field(default_factory=list)
    rows: list[WorkingRow] = field(default_factory=list)
    older: str = ""
    reason: str = ""
    sentence: str = ""
    kind: str = "money"
