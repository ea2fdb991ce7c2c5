"""The timeline and the curve as pictures, SVG or PNG, for documents of one's own."""

import io
from datetime import datetime
from typing import Any

import matplotlib

from server.shared.saying import format_date
from server.shared.words import sentence

matplotlib.use("Agg")
matplotlib.rcParams["svg.hashsalt"] = "dry-ledger"
matplotlib.rcParams["font.family"] = "DejaVu Sans"
matplotlib.rcParams["text.parse_math"] = False
from matplotlib.figure import Figure

from server.shared.problems import Refused
from server.timeline import drawing
from server.timeline.shapes import TimelineOut
from server.value.shapes import CurveOut

INK, SOFT, WET = "#1B2333", "#5B6472", "#4B3FC7"
LINES = (("pv", "PV", SOFT, "--"), ("ev", "EV", "#0B6B5F", "-"), ("ac", "AC", "#8A2F5B", "-"), ("forecast", "Forecast", "#4A5A78", ":"))
RAISED = {"pv": 7, "forecast": -7, "ac": 5, "ev": -5}
"""How far a label stands above its line's end, so that lines that end together keep theirs apart."""


def _at(iso: str) -> Any:
    return datetime.fromisoformat(iso)


def _saved(figure: Figure, kind: str) -> bytes:
    out = io.BytesIO()
    figure.savefig(out, format=kind, dpi=130, facecolor="white", metadata={"Date": None} if kind == "svg" else {"Software": None})
    return out.getvalue()


def curve_picture(c: CurveOut, title: str, currency: str, baseline: str | None, kind: str) -> bytes:
    """The S-curve with its lines labelled at their ends."""
    figure = Figure(figsize=(9, 4.6), layout="constrained")
    axes = figure.subplots()
    for key, label, colour, style in LINES:
        points = [(_at(p.end), float(v)) for p in c.points if (v := getattr(p, key)) is not None]
        if points:
            x, y = zip(*points, strict=True)
            axes.plot(x, y, style, color=colour, linewidth=1.8)
            axes.annotate(label, (x[-1], y[-1]), xytext=(5, RAISED[key]), textcoords="offset points", color=colour, va="center")
    if c.status:
        axes.axvline(_at(c.status), color=WET, linewidth=1.2)
    axes.set_title(title, loc="left", fontsize=12, color=INK)
    axes.set_ylabel(currency)
    axes.ticklabel_format(axis="y", style="plain")
    axes.spines[["top", "right"]].set_visible(False)
    axes.grid(axis="y", color="#DDD6C6", linewidth=0.6)
    figure.supxlabel(sentence("pictures.against", value=format_date(c.status), value_2=baseline or "no baseline"), fontsize=8, color=SOFT)
    return _saved(figure, kind)


def timeline_picture(t: TimelineOut, title: str, kind: str) -> bytes:
    """The timeline as the WBS has it. Raises Refused where it is too large for one picture."""
    rows = drawing.rows_without_marks(t)
    try:
        return drawing.picture(drawing.Drawn(t, title, drawing.under(t), rows), kind)
    except drawing.TooLarge:
        raise Refused("too-large", sentence("drawn.picture_too_large"), 422) from None
