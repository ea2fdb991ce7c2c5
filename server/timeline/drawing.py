"""The timeline as a drawing, SVG, PNG or PDF: the rows as they stand on the screen, on paper with a title block and a legend.

One drawing for all three; on paper it is one page wide or as large as on the screen over several sheets.
"""

import io
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

import matplotlib

matplotlib.use("Agg")
matplotlib.rcParams |= {
    "svg.hashsalt": "dry-ledger",
    "font.family": "DejaVu Sans",
    "pdf.fonttype": 42,
    "hatch.linewidth": 0.6,
    "text.parse_math": False,
}
from matplotlib.backends.backend_pdf import PdfPages
from matplotlib.collections import LineCollection, PolyCollection
from matplotlib.figure import Figure

from dryledger.book.lists import WEEKDAYS
from dryledger.formats import formats_written
from server.shared.saying import format_date
from server.shared.words import sentence
from server.timeline.lines import LinesOut
from server.timeline.paper import MOST_SHEETS, PAPER
from server.timeline.shapes import Bar, Bracket, External, TimelineOut, Wait

INK, SOFT, RULE, BAND, TINT, PLUM, ACT, WET, GOOD = (
    *("#1B2333", "#5B6472", "#DDD6C6", "#2E4A62", "#C9D5DE", "#6B2A5B"),
    *("#A8321F", "#4B3FC7", "#0F7B6C"),
)
ROW, PER_INCH, MARGIN, TITLE, LEGEND, AXIS = 0.21, 96.0, 0.4, 0.42, 0.34, 0.3
NAME, COLUMN = 2.7, 0.95
MOST_INCHES = 300.0
LATE, TOP, DEPTH = 0.05, -0.32, 0.4
FONT = 6.4


class TooLarge(Exception):
    """A drawing that would be larger, or on more sheets, than anybody can use."""


@dataclass
class DrawnRow:
    """A row of the drawing: a heading, an element or an activity, with the texts of its columns and the label beside its bar."""

    name: str
    depth: int
    head: bool = False
    bar: Bar | None = None
    bracket: Bracket | None = None
    outside: tuple[External, Wait, str] | None = None
    """What another project does, how it is waited for, and when who waits begins."""
    cells: list[str] = field(default_factory=list)
    label: str = ""


@dataclass
class Drawn:
    """What is drawn: the rows, the heads of their columns, progress lines or the drift strip, and how wide a day is (in pixels)."""

    timeline: TimelineOut
    title: str
    under: str
    rows: list[DrawnRow]
    heads: list[str] = field(default_factory=list)
    lines: LinesOut | None = None
    strip: bool = False
    per_day: float = 8.0


def _at(iso: str) -> float:
    """An instant as days since the first one that there is."""
    return (datetime.fromisoformat(iso) - datetime(2000, 1, 1)) / timedelta(days=1)


class _Sheet:
    """One drawing of some rows over a span of time; `axes` counts rows downward."""

    def __init__(self, d: Drawn, axes: Any, first: int, last: int, start: float, end: float, per_row: float) -> None:
        self.d, self.axes, self.first, self.last, self.start, self.end = d, axes, first, last, start, end
        self.boxes: dict[tuple[tuple[str, Any], ...], list[list[tuple[float, float]]]] = {}
        self.paths: dict[tuple[tuple[str, Any], ...], list[list[tuple[float, float]]]] = {}
        self.small = FONT if per_row >= ROW * 0.9 else FONT * per_row / ROW
        axes.set_xlim(start, end)
        axes.set_ylim(last - 0.4, first - 0.6)
        axes.set_yticks([])
        for side in ("bottom", "left", "right"):
            axes.spines[side].set_visible(False)
        axes.spines["top"].set_color(RULE)

    def draw(self) -> None:
        """Everything of the sheet."""
        self._ticks()
        for i in range(self.first, self.last):
            row = self.d.rows[i]
            self._path([(self.start, i + 0.5), (self.end, i + 0.5)], color=RULE, linewidth=0.4)
            if row.bar is not None:
                self._bar(i, row.bar, row.label)
            elif row.bracket is not None:
                self._bracket(i, row.bracket)
            elif row.outside is not None:
                self._outside(i, *row.outside)
        for box_look, boxes in self.boxes.items():
            self.axes.add_collection(PolyCollection(boxes, zorder=2, **dict(box_look)), autolim=False)
        for path_look, paths in self.paths.items():
            self.axes.add_collection(LineCollection(paths, zorder=2.2, **dict(path_look)), autolim=False)
        self._lines()
        t = self.d.timeline
        if t.status:
            self.axes.axvline(_at(t.status), color=WET, linewidth=1.1)
        if t.deadline:
            self.axes.axvline(_at(t.deadline), color=ACT, linewidth=1, linestyle=":")

    def _ticks(self) -> None:
        days = self.end - self.start
        step = 1 if days <= 21 else 7 if days <= 200 else 30 if days <= 900 else 91 if days <= 2600 else 365
        ticks = [x for x in _ticks(self.start, self.end, step) if self.start + days * 0.03 <= x <= self.end]
        days_in_order = "%b %d" if formats_written().month_first else "%d %b"
        style = days_in_order if step < 30 else "%b %y" if step < 365 else "%Y"
        named = [(datetime(2000, 1, 1) + timedelta(days=x)).strftime(style).lstrip("0").replace(" 0", " ") for x in ticks]
        self.axes.set_xticks(ticks, named, fontsize=6, color=SOFT)
        self.axes.xaxis.tick_top()
        self.axes.tick_params(axis="x", length=2, color=RULE, pad=1)
        self.axes.grid(axis="x", color=RULE, linewidth=0.4)
        self.axes.set_axisbelow(True)

    def _box(self, low: float, a: float, z: float, high: float = DEPTH, **look: Any) -> None:
        """A rectangle over a span of time; those of one look are drawn together, which is quick."""
        if z > a:
            self.boxes.setdefault(tuple(look.items()), []).append([(a, low), (z, low), (z, low + high), (a, low + high)])

    def _path(self, points: list[tuple[float, float]], **look: Any) -> None:
        """A line through points; those of one look are drawn together."""
        self.paths.setdefault(tuple(look.items()), []).append(points)

    def _bar(self, i: int, b: Bar, label: str) -> None:
        start, finish = _at(b.start), _at(b.finish)
        colour = PLUM if b.driving else INK
        spans = [(_at(x), _at(y), 0.30 - 0.05 * n) for n, (x, y) in enumerate(b.others.values(), 1)]
        if b.base_start and b.base_finish:
            spans.insert(0, (_at(b.base_start), _at(b.base_finish), 0.30))
        for n, (a, z, low) in enumerate(spans):
            self._path(
                [(a, i + low - 0.1), (a, i + low), (z, i + low), (z, i + low - 0.1)], color="#8C826A", linewidth=0.7, alpha=0.45 if n else 1
            )
        if b.kind == "milestone" and b.start == b.finish:
            self._path([(finish, i + 0.34), (finish, i - 0.14)], color=colour, linewidth=1.1)
            self.axes.plot([finish], [i - 0.18], "o", color=GOOD if b.state == "complete" else colour, markersize=3.2)
        else:
            self._band(i, b, start, finish)
        self._room(i, b)
        self._beside(i, b, finish, label)

    def _band(self, i: int, b: Bar, start: float, finish: float) -> None:
        worked = max(_at(b.worked_to), start) if b.worked_to else start
        resume = max(_at(b.resume), worked) if b.resume else worked
        low = i + TOP
        self._box(low, start, worked, color=BAND, linewidth=0)
        if resume > worked:
            self._path([(worked, low + DEPTH / 2), (resume, low + DEPTH / 2)], color=BAND, linewidth=0.8, linestyle=":")
        if b.state != "complete":
            self._box(low, resume, finish, facecolor=TINT, edgecolor=BAND, linewidth=0.5)
            if b.base_finish and (b.late_days or 0) >= LATE and not self.d.strip:
                tail = max(_at(b.base_finish), resume)
                self._box(low, tail, finish, facecolor="none", edgecolor=ACT, hatch="//////", linewidth=0.5)
        for a, z, _ in b.pauses:
            self._box(low, max(_at(a), start), min(_at(z), finish), color="white", linewidth=0)
        if b.driving:
            self._box(low, start, finish, facecolor="none", edgecolor=PLUM, linewidth=1.3)
        if b.float_to and not b.driving and (b.late_days or 0) < LATE:
            middle = low + DEPTH / 2
            look = {"linestyle": (0, (1, 4)), "capstyle": "round"}
            self._path([(finish, middle), (_at(b.float_to), middle)], color=SOFT, linewidth=1, **look)

    def _outside(self, i: int, x: External, wait: Wait, begins: str) -> None:
        """What another project does: an empty span, an open square where it counts, and the way to the row below that waits."""
        y, at, to = i + TOP + DEPTH / 2, _at(wait.at), _at(begins)
        colour, line = (INK, "-") if wait.drives else (SOFT, (0, (3, 2)))
        self._box(i + TOP, _at(x.start), _at(x.finish), facecolor="none", edgecolor=SOFT, linewidth=0.7)
        self._path([(at, y), (to, y), (to, i + 1 + TOP)], color=colour, linewidth=0.8, linestyle=line)
        self.axes.plot([at], [y], "s", markerfacecolor="white", markeredgecolor=colour, markersize=3.2)

    def _room(self, i: int, b: Bar) -> None:
        """The buffer behind an activity: a dotted frame."""
        if b.buffer:
            start, end = map(_at, b.buffer)
            self._box(i + 0.12, start, end, 0.26, facecolor="none", edgecolor=PLUM, linewidth=0.8, linestyle=":")

    def _beside(self, i: int, b: Bar, finish: float, label: str) -> None:
        late = b.late_days or 0
        drift = f"{late:+.1f} d".replace(".0 ", " ").replace("-", "\u2212") if abs(late) >= LATE and b.state != "complete" else ""
        text = "  ".join(x for x in (drift if not self.d.strip else "", label) if x)
        if text and self.start <= finish <= self.end:
            look = {"fontsize": self.small, "va": "center", "color": ACT if late > 0 and drift and not label else INK, "clip_on": True}
            self.axes.annotate(text, (finish, i - 0.1), xytext=(4, 0), textcoords="offset points", **look)
        if self.d.strip and drift and b.base_finish:
            a, z = sorted((_at(b.base_finish), finish))
            self._box(i - 0.06, a, z, 0.12, color=ACT if late > 0 else GOOD, linewidth=0)

    def _bracket(self, i: int, w: Bracket) -> None:
        if not w.start or not w.finish:
            return
        a, z = _at(w.start), _at(w.finish)
        for y in (i - 0.14, i + 0.1):
            self._path([(a, y), (z, y)], color=INK, linewidth=0.6)
        if w.done:
            self._box(i - 0.14, a, a + (z - a) * w.done, 0.24, color=INK, linewidth=0)

    def _lines(self) -> None:
        lines = self.d.lines
        if lines is None:
            return
        count = len(lines.lines)
        low, high = max(self.first - 1, 0), min(self.last + 1, len(self.d.rows))
        for n, line in enumerate(lines.lines):
            bare = _at(line.date)
            newest, edge = n == count - 1, []
            for i, row in enumerate(self.d.rows[low:high], low):
                found = lines.points.get(row.bar.code) if row.bar is not None else None
                here = _at(found[n]) if found else bare
                edge += [(here, i - 0.5), (here, i + 0.5)]
                if newest and row.bar is not None and row.bar.code in lines.days:
                    self._between(i, here, bare, lines.days[row.bar.code])
            self._path(edge, color=WET, linewidth=1.2 if newest else 0.6, alpha=1 if newest else 0.35 + 0.4 * n / count)

    def _between(self, i: int, here: float, date: float, days: float) -> None:
        """What lies between where the work stands and the date of the newest front: behind with a hatch and its days."""
        a, z = sorted((here, date))
        behind = {"facecolor": "none", "edgecolor": WET, "hatch": "//////", "linewidth": 0, "alpha": 0.45}
        self._box(i - 0.5, a, z, 1.0, **(behind if days < 0 else {"color": WET, "alpha": 0.12, "linewidth": 0}))
        if days < 0:
            look = {"fontsize": self.small, "va": "center", "ha": "right", "color": WET, "clip_on": True}
            self.axes.annotate(f"{abs(days):.1f}".removesuffix(".0"), (here, i), xytext=(-2, 0), textcoords="offset points", **look)


def _ticks(start: float, end: float, step: int) -> Iterator[float]:
    """First days of weeks, firsts of months, of quarters, of years, or every day."""
    day, first = datetime(2000, 1, 1) + timedelta(days=int(start)), WEEKDAYS.index(formats_written().first_day)
    while (x := (day - datetime(2000, 1, 1)) / timedelta(days=1)) <= end:
        month_step = {30: 1, 91: 3, 365: 12}.get(step)
        if step == 1 or (step == 7 and day.weekday() == first) or (month_step and day.day == 1 and (day.month - 1) % month_step == 0):
            yield x
        day += timedelta(days=1)


def _span(d: Drawn) -> tuple[float, float]:
    start, end = _at(d.timeline.start), _at(d.timeline.finish)
    dates = [_at(x.date) for x in d.lines.lines] if d.lines else []
    start, end = min([start, *dates]), max([end, *dates, *([_at(d.timeline.status)] if d.timeline.status else [])])
    room = max((end - start) * 0.02, 2)
    return start - room, end + room * 3


def _frame(figure: Any, size: tuple[float, float], d: Drawn, sheet: str) -> None:
    """The title block over the drawing and the legend under it."""
    wide, tall = size
    figure.text(MARGIN / wide, 1 - (MARGIN + 0.02) / tall, d.title, fontsize=10, color=INK, va="top", fontweight="bold")
    figure.text(MARGIN / wide, 1 - (MARGIN + 0.22) / tall, d.under, fontsize=6.5, color=SOFT, va="top")
    figure.text(1 - MARGIN / wide, 1 - (MARGIN + 0.02) / tall, sheet, fontsize=6.5, color=SOFT, va="top", ha="right")
    legend = sentence("drawn.legend_strip") if d.strip else sentence("drawn.legend")
    figure.text(MARGIN / wide, (MARGIN - 0.12) / tall, legend, fontsize=5.6, color=SOFT, va="bottom")


def _table(figure: Any, size: tuple[float, float], d: Drawn, first: int, last: int, per_row: float, top: float) -> float:
    """The names and columns at the left; answers their width in inches."""
    wide, tall = size
    width = NAME + COLUMN * len(d.heads)
    small = FONT if per_row >= ROW * 0.9 else FONT * per_row / ROW
    for n, head in enumerate(d.heads):
        x, y = (MARGIN + NAME + COLUMN * (n + 1) - 0.08) / wide, 1 - (top - 0.06) / tall
        figure.text(x, y, head, fontsize=5.8, color=SOFT, ha="right", va="bottom")
    for i in range(first, last):
        row = d.rows[i]
        y = 1 - (top + (i - first + 0.5) * per_row) / tall
        strong = "bold" if row.head or row.bracket is not None else "normal"
        room = int((NAME - 0.14 * row.depth) * 17)
        name = row.name if len(row.name) <= room else row.name[: room - 1] + "…"
        figure.text((MARGIN + 0.14 * row.depth) / wide, y, name, fontsize=small, color=INK, va="center", fontweight=strong)
        for n, text in enumerate(row.cells):
            figure.text((MARGIN + NAME + COLUMN * (n + 1) - 0.08) / wide, y, text[:20], fontsize=small, color=INK, va="center", ha="right")
    return width


def _one(
    d: Drawn, size: tuple[float, float], first: int, last: int, span: tuple[float, float], per_row: float, sheet: str, table: bool
) -> Any:
    """A figure of some rows over a span, with the table at its left where it is the first across."""
    wide, tall = size
    figure = Figure(figsize=size)
    top = MARGIN + TITLE + AXIS
    left = MARGIN + (_table(figure, size, d, first, last, per_row, top) if table else 0.1)
    height = max(last - first, 1) * per_row
    axes = figure.add_axes((left / wide, 1 - (top + height) / tall, (wide - left - MARGIN) / wide, height / tall))
    _Sheet(d, axes, first, last, *span, per_row).draw()
    _frame(figure, size, d, sheet)
    return figure


def picture(d: Drawn, kind: str) -> bytes:
    """The whole timeline as one picture, as wide as it is on the screen. Raises TooLarge where it is too large for one."""
    start, end = _span(d)
    left = MARGIN * 2 + NAME + COLUMN * len(d.heads)
    wide = left + max((end - start) * d.per_day / PER_INCH, 4)
    tall = MARGIN * 2 + TITLE + AXIS + LEGEND + ROW * max(len(d.rows), 1)
    if wide > MOST_INCHES or tall > MOST_INCHES:
        raise TooLarge
    figure = _one(d, (wide, tall), 0, len(d.rows), (start, end), ROW, "", True)
    out = io.BytesIO()
    dpi = 130 if wide * tall < 900 else 72
    figure.savefig(out, format=kind, dpi=dpi, facecolor="white", metadata={"Date": None} if kind == "svg" else {"Software": None})
    return out.getvalue()


def printed(d: Drawn, paper: str, fit: str) -> bytes:
    """The timeline as PDF on sheets of a size: one page wide, or tiled as large as on the screen. Raises TooLarge for too many."""
    size = PAPER[paper]
    start, end = _span(d)
    down = int((size[1] - MARGIN * 2 - TITLE - AXIS - LEGEND) / ROW)
    bands = [(i, min(i + down, len(d.rows))) for i in range(0, max(len(d.rows), 1), down)]
    across = _across(d, size, start, end) if fit == "tiled" else [(start, end)]
    count = len(bands) * len(across)
    if count > MOST_SHEETS:
        raise TooLarge
    out, n = io.BytesIO(), 0
    with PdfPages(out, metadata={"Title": d.title, "CreationDate": None, "Producer": None, "Creator": "Dry Ledger"}) as pages:
        for first, last in bands:
            for k, span in enumerate(across):
                n += 1
                pages.savefig(_one(d, size, first, last, span, ROW, sentence("drawn.sheet", number=n, count=count), k == 0))
    return out.getvalue()


def _across(d: Drawn, size: tuple[float, float], start: float, end: float) -> list[tuple[float, float]]:
    """The spans of time of the sheets that stand side by side; the first has the table."""
    inch = PER_INCH / d.per_day
    spans, at, left = [], start, MARGIN * 2 + NAME + COLUMN * len(d.heads)
    while at < end:
        room = max((size[0] - left) * inch, 1)
        spans.append((at, at + room))
        at, left = at + room, MARGIN * 2 + 0.1
    return spans


def rows_without_marks(t: TimelineOut) -> list[DrawnRow]:
    """The rows as the WBS has them, each activity under its element."""
    by_wbs: dict[str | None, list[Bar]] = {}
    for b in t.bars:
        by_wbs.setdefault(b.wbs, []).append(b)

    def rows(bars: Sequence[Bar], depth: int) -> list[DrawnRow]:
        return [DrawnRow(b.name, depth, bar=b) for b in bars]

    out = rows(by_wbs.get(None, []), 0)
    for w in t.wbs:
        out += [DrawnRow(f"{w.code} {w.name}", w.level, bracket=w), *rows(by_wbs.get(w.code, []), w.level + 1)]
    return out


def under(t: TimelineOut, against: str = "") -> str:
    """The line under the title: as of when, against which baseline, and what progress lines say."""
    message = sentence("drawn.under", date=format_date(t.status), baseline=t.baseline or sentence("drawn.no_baseline"))
    return f"{message} {against}".strip()
