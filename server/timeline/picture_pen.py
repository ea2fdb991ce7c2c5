"""Drawings as a picture, SVG or PNG."""

import io
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any

import matplotlib

matplotlib.use("Agg")
matplotlib.rcParams |= {"svg.hashsalt": "dry-ledger", "font.family": "DejaVu Sans", "hatch.linewidth": 0.6, "text.parse_math": False}
from matplotlib.collections import LineCollection, PolyCollection
from matplotlib.figure import Figure
from matplotlib.patches import Rectangle

from server.shared.pen import Look


def _dash(look: Look) -> Any:
    """The library counts dashes in widths of their line."""
    return (0, [x / look.width for x in look.dash]) if look.dash else "-"


class PicturePen:
    """The pen of one picture: what is of one look is drawn together, which is quick, where the first of it comes."""

    def __init__(self, wide: float, tall: float) -> None:
        self.figure = Figure(figsize=(wide, tall))
        self.axes: Any = self.figure.add_axes((0, 0, 1, 1))
        self.axes.set_axis_off()
        self.axes.set_xlim(0, wide)
        self.axes.set_ylim(tall, 0)
        self.clip: Any = None
        self.drawn: dict[tuple[type, Look, Any], list[Sequence[tuple[float, float]]]] = {}

    def box(self, x: float, y: float, wide: float, tall: float, look: Look) -> None:
        corners = [(x, y), (x + wide, y), (x + wide, y + tall), (x, y + tall)]
        self.drawn.setdefault((PolyCollection, look, self.clip), []).append(corners)

    def line(self, points: Sequence[tuple[float, float]], look: Look) -> None:
        self.drawn.setdefault((LineCollection, look, self.clip), []).append(points)

    def dot(self, x: float, y: float, across: float, colour: str) -> None:
        self._clipped(self.axes.plot([x], [y], "o", color=colour, markersize=across, markeredgewidth=0)[0], self.clip)

    def text(self, x: float, y: float, text: str, size: float, colour: str, bold: bool = False, end: bool = False) -> None:
        weight = "bold" if bold else "normal"
        told = self.axes.text(x, y, text, fontsize=size, color=colour, fontweight=weight, ha="right" if end else "left", va="baseline")
        self._clipped(told, self.clip)

    @contextmanager
    def within(self, x: float, y: float, wide: float, tall: float) -> Iterator[None]:
        self.clip = Rectangle((x, y), wide, tall, transform=self.axes.transData)
        yield
        self.clip = None

    def _clipped(self, artist: Any, clip: Any) -> None:
        if clip is not None:
            artist.set_clip_path(clip)

    def content(self, kind: str, dpi: int) -> bytes:
        """The file."""
        for n, ((kind_of, look, clip), shapes) in enumerate(self.drawn.items()):
            faces = {"facecolor": look.fill or "none", "hatch": "//////" if look.hatch else None} if kind_of is PolyCollection else {}
            style = {"edgecolor": look.edge or "none", "linewidth": look.width, "linestyle": _dash(look), "alpha": look.alpha}
            found = kind_of(shapes, zorder=2 + n / 1000, **style, **faces)
            self._clipped(self.axes.add_collection(found, autolim=False), clip)
        out = io.BytesIO()
        metadata = {"Date": None} if kind == "svg" else {"Software": None}
        self.figure.savefig(out, format=kind, dpi=dpi, facecolor="white", metadata=metadata)
        return out.getvalue()
