"""The timeline as a drawing, SVG, PNG or PDF: the rows as they stand on the screen, on paper with a title block and a legend.

One drawing for all three; on paper it is one page wide or as large as on the screen over several sheets.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from itertools import product

from dryledger.book.lists import WEEKDAYS
from dryledger.formats import formats_written
from server.shared.pdf_pen import PdfDrawing
from server.shared.pen import MIDDLE, Look, Pen
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
OVER = MARGIN + TITLE + AXIS
"""Where the rows begin, in inches from the upper edge."""


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
    """One drawing of some rows over a span of time, at a place on the sheet: its left, top and width in inches."""

    def __init__(self, d: Drawn, pen: Pen, first: int, last: int, span: tuple[float, float], place: tuple[float, float, float]) -> None:
        self.d, self.pen, self.first, self.last = d, pen, first, last
        self.start, self.end = span
        self.left, self.top, self.wide = place
        self.tall = ROW * max(last - first, 1)
        self.per_day = self.wide / (self.end - self.start)

    def _x(self, day: float) -> float:
        return self.left + (day - self.start) * self.per_day

    def _y(self, row: float) -> float:
        """Where a row is, its middle at a whole number."""
        return self.top + (row - self.first + 0.5) * ROW

    def draw(self) -> None:
        """Everything of the sheet."""
        self._ticks()
        with self.pen.within(self.left, self.top, self.wide, self.tall):
            for i in range(self.first, self.last):
                row = self.d.rows[i]
                self._path([(self.start, i + 0.5), (self.end, i + 0.5)], Look(edge=RULE, width=0.4))
                if row.bar is not None:
                    self._bar(i, row.bar, row.label)
                elif row.bracket is not None:
                    self._bracket(i, row.bracket)
                elif row.outside is not None:
                    self._outside(i, *row.outside)
            self._lines()
            t = self.d.timeline
            for at, look in ((t.status, Look(edge=WET, width=1.1)), (t.deadline, Look(edge=ACT, width=1, dash=(1, 1.6)))):
                if at:
                    self._path([(_at(at), self.first - 0.5), (_at(at), self.last - 0.5)], look)

    def _ticks(self) -> None:
        days = self.end - self.start
        step = 1 if days <= 21 else 7 if days <= 200 else 30 if days <= 900 else 91 if days <= 2600 else 365
        ticks = [x for x in _ticks(self.start, self.end, step) if self.start + days * 0.03 <= x <= self.end]
        days_in_order = "%b %d" if formats_written().month_first else "%d %b"
        style = days_in_order if step < 30 else "%b %y" if step < 365 else "%Y"
        self.pen.line([(self.left, self.top), (self.left + self.wide, self.top)], Look(edge=RULE, width=0.8))
        for x in ticks:
            name = (datetime(2000, 1, 1) + timedelta(days=x)).strftime(style).lstrip("0").replace(" 0", " ")
            at = self._x(x)
            self.pen.line([(at, self.top - 0.03), (at, self.top + self.tall)], Look(edge=RULE, width=0.4))
            self.pen.text(at - len(name) * 0.023, self.top - 0.05, name, 6, SOFT)

    def _box(self, low: float, a: float, z: float, look: Look, high: float = DEPTH) -> None:
        """A rectangle over a span of time."""
        if z > a:
            self.pen.box(self._x(a), self._y(low), (z - a) * self.per_day, high * ROW, look)

    def _path(self, points: list[tuple[float, float]], look: Look) -> None:
        """A line through days and rows."""
        self.pen.line([(self._x(day), self._y(row)) for day, row in points], look)

    def _beside_of(self, day: float, row: float, text: str, colour: str, end: bool = False) -> None:
        """A text beside a day."""
        self.pen.text(self._x(day) + (-2 if end else 4) / 72, self._y(row) + FONT * MIDDLE, text, FONT, colour, end=end)

    def _bar(self, i: int, b: Bar, label: str) -> None:
        start, finish = _at(b.start), _at(b.finish)
        colour = PLUM if b.driving else INK
        spans = [(_at(x), _at(y), 0.30 - 0.05 * n) for n, (x, y) in enumerate(b.others.values(), 1)]
        if b.base_start and b.base_finish:
            spans.insert(0, (_at(b.base_start), _at(b.base_finish), 0.30))
        for n, (a, z, low) in enumerate(spans):
            bracket = [(a, i + low - 0.1), (a, i + low), (z, i + low), (z, i + low - 0.1)]
            self._path(bracket, Look(edge="#8C826A", width=0.7, alpha=0.45 if n else 1))
        if b.kind == "milestone" and b.start == b.finish:
            self._path([(finish, i + 0.34), (finish, i - 0.14)], Look(edge=colour, width=1.1))
            self.pen.dot(self._x(finish), self._y(i - 0.18), 3.2, GOOD if b.state == "complete" else colour)
        else:
            self._band(i, b, start, finish)
        self._room(i, b)
        self._beside(i, b, finish, label)

    def _band(self, i: int, b: Bar, start: float, finish: float) -> None:
        worked = max(_at(b.worked_to), start) if b.worked_to else start
        resume = max(_at(b.resume), worked) if b.resume else worked
        low = i + TOP
        self._box(low, start, worked, Look(BAND))
        if resume > worked:
            self._path([(worked, low + DEPTH / 2), (resume, low + DEPTH / 2)], Look(edge=BAND, width=0.8, dash=(0.8, 1.3)))
        if b.state != "complete":
            self._box(low, resume, finish, Look(TINT, BAND, 0.5))
            if b.base_finish and (b.late_days or 0) >= LATE and not self.d.strip:
                tail = max(_at(b.base_finish), resume)
                self._box(low, tail, finish, Look(edge=ACT, width=0.5, hatch=True))
        for a, z, _ in b.pauses:
            self._box(low, max(_at(a), start), min(_at(z), finish), Look("#FFFFFF"))
        if b.driving:
            self._box(low, start, finish, Look(edge=PLUM, width=1.3))
        if b.float_to and not b.driving and (b.late_days or 0) < LATE:
            middle = low + DEPTH / 2
            self._path([(finish, middle), (_at(b.float_to), middle)], Look(edge=SOFT, width=1, dash=(1, 4)))

    def _outside(self, i: int, x: External, wait: Wait, begins: str) -> None:
        """What another project does: an empty span, an open square where it counts, and the way to the row below that waits."""
        y, at, to = i + TOP + DEPTH / 2, _at(wait.at), _at(begins)
        colour, line = (INK, ()) if wait.drives else (SOFT, (2.4, 1.6))
        self._box(i + TOP, _at(x.start), _at(x.finish), Look(edge=SOFT, width=0.7))
        self._path([(at, y), (to, y), (to, i + 1 + TOP)], Look(edge=colour, width=0.8, dash=line))
        half = 1.6 / 72
        self.pen.box(self._x(at) - half, self._y(y) - half, 2 * half, 2 * half, Look("#FFFFFF", colour, 0.8))

    def _room(self, i: int, b: Bar) -> None:
        """The buffer behind an activity: a dotted frame."""
        if b.buffer:
            start, end = map(_at, b.buffer)
            self._box(i + 0.12, start, end, Look(edge=PLUM, width=0.8, dash=(0.8, 1.3)), 0.26)

    def _beside(self, i: int, b: Bar, finish: float, label: str) -> None:
        late = b.late_days or 0
        drift = f"{late:+.1f} d".replace(".0 ", " ").replace("-", "\u2212") if abs(late) >= LATE and b.state != "complete" else ""
        text = "  ".join(x for x in (drift if not self.d.strip else "", label) if x)
        if text and self.start <= finish <= self.end:
            self._beside_of(finish, i - 0.1, text, ACT if late > 0 and drift and not label else INK)
        if self.d.strip and drift and b.base_finish:
            a, z = sorted((_at(b.base_finish), finish))
            self._box(i - 0.06, a, z, Look(ACT if late > 0 else GOOD), 0.12)

    def _bracket(self, i: int, w: Bracket) -> None:
        if not w.start or not w.finish:
            return
        a, z = _at(w.start), _at(w.finish)
        for y in (i - 0.14, i + 0.1):
            self._path([(a, y), (z, y)], Look(edge=INK, width=0.6))
        if w.done:
            self._box(i - 0.14, a, a + (z - a) * w.done, Look(INK), 0.24)

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
            self._path(edge, Look(edge=WET, width=1.2 if newest else 0.6, alpha=1 if newest else 0.35 + 0.4 * n / count))

    def _between(self, i: int, here: float, date: float, days: float) -> None:
        """What lies between where the work stands and the date of the newest front: behind with a hatch and its days."""
        a, z = sorted((here, date))
        self._box(i - 0.5, a, z, Look(edge=WET, alpha=0.45, hatch=True) if days < 0 else Look(WET, alpha=0.12), 1.0)
        if days < 0:
            self._beside_of(here, i, f"{abs(days):.1f}".removesuffix(".0"), WET, end=True)


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


def _frame(pen: Pen, size: tuple[float, float], d: Drawn, sheet: str) -> None:
    """The title block over the drawing and the legend under it."""
    wide, tall = size
    pen.text(MARGIN, MARGIN + 0.12, d.title, 10, INK, bold=True)
    pen.text(MARGIN, MARGIN + 0.28, d.under, 6.5, SOFT)
    pen.text(wide - MARGIN, MARGIN + 0.1, sheet, 6.5, SOFT, end=True)
    pen.text(MARGIN, tall - MARGIN + 0.1, sentence("drawn.legend_strip") if d.strip else sentence("drawn.legend"), 5.6, SOFT)


def _table(pen: Pen, d: Drawn, first: int, last: int) -> float:
    """The names and columns at the left; answers their width in inches."""
    ends = [MARGIN + NAME + COLUMN * (n + 1) - 0.08 for n in range(len(d.heads))]
    for x, head in zip(ends, d.heads, strict=True):
        pen.text(x, OVER - 0.07, head, 5.8, SOFT, end=True)
    for i in range(first, last):
        row, y = d.rows[i], OVER + (i - first + 0.5) * ROW + FONT * MIDDLE
        room = int((NAME - 0.14 * row.depth) * 17)
        name = row.name if len(row.name) <= room else row.name[: room - 1] + "…"
        pen.text(MARGIN + 0.14 * row.depth, y, name, FONT, INK, bold=row.head or row.bracket is not None)
        for x, text in zip(ends, row.cells, strict=False):
            pen.text(x, y, text[:20], FONT, INK, end=True)
    return NAME + COLUMN * len(d.heads)


def _one(
    pen: Pen, d: Drawn, size: tuple[float, float], rows: tuple[int, int], span: tuple[float, float], sheet: str = "", table: bool = True
) -> None:
    """Some rows over a span, with the table at its left where it is the first across."""
    left = MARGIN + (_table(pen, d, *rows) if table else 0.1)
    _Sheet(d, pen, *rows, span, (left, OVER, size[0] - left - MARGIN)).draw()
    _frame(pen, size, d, sheet)


def picture(d: Drawn, kind: str) -> bytes:
    """The whole timeline as one picture, as wide as it is on the screen. Raises TooLarge where it is too large for one."""
    from server.timeline.picture_pen import PicturePen  # the library that makes pictures is read when one is asked for

    start, end = _span(d)
    left = MARGIN * 2 + NAME + COLUMN * len(d.heads)
    wide = left + max((end - start) * d.per_day / PER_INCH, 4)
    tall = MARGIN * 2 + TITLE + AXIS + LEGEND + ROW * max(len(d.rows), 1)
    if wide > MOST_INCHES or tall > MOST_INCHES:
        raise TooLarge
    pen = PicturePen(wide, tall)
    _one(pen, d, (wide, tall), (0, len(d.rows)), (start, end))
    return pen.content(kind, 130 if wide * tall < 900 else 72)


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
    drawing = PdfDrawing(d.title)
    for n, (rows, (k, span)) in enumerate(product(bands, enumerate(across)), 1):
        _one(drawing.sheet(*size), d, size, rows, span, sentence("drawn.sheet", number=n, count=count), k == 0)
    return drawing.content()


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
