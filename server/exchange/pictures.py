"""The timeline and the curve as pictures, SVG or PNG, for documents of one's own."""

import io
from datetime import datetime
from typing import Any

import matplotlib

from server.shared.words import sentence

matplotlib.use("Agg")
matplotlib.rcParams["svg.hashsalt"] = "dry-ledger"
matplotlib.rcParams["font.family"] = "DejaVu Sans"
from matplotlib.figure import Figure

from server.value.shapes import CurveOut, TimelineOut

INK, SOFT, BAND, TINT, PLUM, ACT, WET = "#1B2333", "#5B6472", "#2E4A62", "#C9D5DE", "#6B2A5B", "#A8321F", "#4B3FC7"
LINES = (("pv", "PV", SOFT, "--"), ("ev", "EV", "#0B6B5F", "-"), ("ac", "AC", "#8A2F5B", "-"), ("forecast", "Forecast", "#4A5A78", ":"))
RAISED = {"pv": 7, "forecast": -7, "ac": 5, "ev": -5}
"""How far a label stands above its line's end, so that lines that end together keep theirs apart."""
MOST_ROWS = 400


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
    figure.supxlabel(sentence("pictures.against", value=c.status[:10], value_2=baseline or "no baseline"), fontsize=8, color=SOFT)
    return _saved(figure, kind)


def timeline_picture(t: TimelineOut, title: str, kind: str) -> bytes:
    """The timeline: baseline brackets, bands worked and to go, pins, the driving path outlined."""
    by_wbs: dict[str | None, list[Any]] = {}
    for b in t.bars:
        by_wbs.setdefault(b.wbs, []).append(b)
    rows: list[tuple[str, Any]] = [("bar", b) for b in by_wbs.get(None, [])]
    for w in t.wbs:
        rows.append(("wbs", w))
        rows += [("bar", b) for b in by_wbs.get(w.code, [])]
    rows = rows[:MOST_ROWS]
    figure = Figure(figsize=(12, 1.4 + 0.24 * len(rows)), layout="constrained")
    axes = figure.subplots()
    for i, (sort, x) in enumerate(rows):
        if sort == "wbs":
            if x.start and x.finish:
                axes.plot(
                    [_at(x.start), _at(x.start), _at(x.finish), _at(x.finish)],
                    [i + 0.3, i - 0.2, i - 0.2, i + 0.3],
                    color=INK,
                    linewidth=1.1,
                )
        else:
            _bar(axes, i, x)
    axes.set_yticks(range(len(rows)), [f"{x.code} {x.name}" if s == "wbs" else f"   {x.name}" for s, x in rows], fontsize=7)
    axes.set_ylim(len(rows) - 0.3, -0.8)
    if t.status:
        axes.axvline(_at(t.status), color=WET, linewidth=1.4)
    axes.xaxis.tick_top()
    axes.tick_params(axis="x", labelsize=8)
    axes.tick_params(axis="y", length=0)
    axes.spines[["bottom", "right", "left"]].set_visible(False)
    axes.grid(axis="x", color="#DDD6C6", linewidth=0.6)
    figure.suptitle(
        sentence("pictures.title", title=title, value=t.status[:10], value_2=t.baseline or "no baseline"),
        fontsize=10,
        color=INK,
        x=0.01,
        ha="left",
    )
    return _saved(figure, kind)


def _bar(axes: Any, i: int, b: Any) -> None:
    start, finish = _at(b.start), _at(b.finish)
    if b.base_start and b.base_finish:
        a, z = _at(b.base_start), _at(b.base_finish)
        axes.plot([a, a, z, z], [i + 0.28, i + 0.4, i + 0.4, i + 0.28], color="#8C826A", linewidth=0.8)
    if b.kind == "milestone" and b.start == b.finish:
        axes.plot([finish, finish], [i + 0.35, i - 0.15], color=PLUM if b.driving else INK, linewidth=1.2)
        axes.plot([finish], [i - 0.2], "o", color=PLUM if b.driving else INK, markersize=4)
        return
    worked = _at(b.worked_to) if b.worked_to else start
    if worked > start:
        axes.barh(i, worked - start, left=start, height=0.42, color=BAND)
    begin = max(_at(b.resume), worked) if b.resume else worked
    if finish > begin:
        axes.barh(
            i,
            finish - begin,
            left=begin,
            height=0.42,
            color=TINT,
            edgecolor=PLUM if b.driving else BAND,
            linewidth=1.3 if b.driving else 0.6,
        )
    if b.late_days and b.late_days >= 0.05 and b.state != "complete":
        axes.annotate(
            f"+{round(b.late_days, 1):g} d", (finish, i), xytext=(4, 0), textcoords="offset points", color=ACT, fontsize=6, va="center"
        )
