"""What a drawing is drawn with, whatever it becomes: boxes, lines, dots and texts, in inches from the upper left corner of a sheet."""

from collections.abc import Sequence
from contextlib import AbstractContextManager
from dataclasses import dataclass
from typing import Protocol

MIDDLE = 0.365 / 72
"""How far below its middle a line of text stands, in inches for each point of its size: half the height of a capital."""


@dataclass(frozen=True)
class Look:
    """Colours as #RRGGBB, widths and dashes in points."""

    fill: str = ""
    edge: str = ""
    width: float = 0
    dash: tuple[float, ...] = ()
    alpha: float = 1
    hatch: bool = False
    """Strokes of the edge's colour from lower left to upper right."""


class Pen(Protocol):
    """What draws one sheet."""

    def box(self, x: float, y: float, wide: float, tall: float, look: Look) -> None:
        """A rectangle from its upper left corner."""

    def line(self, points: Sequence[tuple[float, float]], look: Look) -> None:
        """A line through points, in the colour of the edge."""

    def dot(self, x: float, y: float, across: float, colour: str) -> None:
        """A filled circle, so many points across."""

    def text(self, x: float, y: float, text: str, size: float, colour: str, bold: bool = False, end: bool = False) -> None:
        """A line of text that begins at a place (ends there, with `end`); `y` is what it stands on."""

    def within(self, x: float, y: float, wide: float, tall: float) -> AbstractContextManager[None]:
        """What is drawn meanwhile is seen inside a rectangle only."""
