"""Drawings of a report as SVG, for HTML and PDF alike: the curve with its brackets at the status date, the indices, the marks."""

from dataclasses import dataclass
from datetime import datetime

from django.template.loader import render_to_string

from dryledger.formats import format_number
from server.report.shapes import ReportTable
from server.shared.words import sentence
from server.value.shapes import CurveOut, PointOut

WIDTH, HEIGHT = 640, 188
LEFT, RIGHT, TOP, BOTTOM = 52, 66, 12, 24
LINES = (
    ("pv", "PV", "#5B6472", "5 3"),
    ("forecast", sentence("value.line_forecast"), "#4A5A78", "1 3"),
    ("ac", "AC", "#8A2F5B", ""),
    ("ev", "EV", "#0F7B6C", ""),
)


@dataclass
class DrawnLine:
    """One line: its points as SVG wants them, and its label at the end."""

    label: str
    colour: str
    dash: str
    points: str
    x: float
    y: float


def _number(text: str | None) -> float | None:
    return None if text is None else float(text)


class _Scale:
    def __init__(self, c: CurveOut) -> None:
        self.first = datetime.fromisoformat(c.points[0].end)
        self.span = max((datetime.fromisoformat(c.points[-1].end) - self.first).total_seconds(), 1)
        top = max(x for p in c.points for x in (_number(p.pv), _number(p.ev), _number(p.ac), _number(p.forecast)) if x is not None)
        step = 10 ** (len(str(int(max(top, 1)))) - 1)
        self.step = step if top / step > 3 else step / 2
        self.top = max(self.step * (int(top / self.step) + 1), 1)

    def x(self, instant: str) -> float:
        share = (datetime.fromisoformat(instant) - self.first).total_seconds() / self.span
        return round(LEFT + min(max(share, 0), 1) * (WIDTH - LEFT - RIGHT), 1)

    def y(self, amount: float) -> float:
        height: float = amount / self.top * (HEIGHT - TOP - BOTTOM)
        return round(HEIGHT - BOTTOM - height, 1)


def curve_svg(c: CurveOut) -> str:
    """The drawing, or nothing where there is no curve."""
    if not c.points:
        return ""
    s = _Scale(c)
    lines = [line for line in (_line(c, s, *spec) for spec in LINES) if line]
    _apart(lines)
    grid = []
    amount = 0.0
    while amount <= s.top:
        grid.append((s.y(amount), format_number(amount / 1000, ",.0f") + " k" if s.top >= 10_000 else format_number(amount, ",.0f")))
        amount += s.step
    months: list[tuple[float, str, int]] = []
    for p in c.points:
        month = datetime.fromisoformat(p.end)
        if not months or month.month != months[-1][2]:
            months.append((s.x(p.end), f"{month:%b}", month.month))
    x = s.x(c.status)
    pv, ev, ac = float(c.pv), float(c.ev), float(c.ac)
    return render_to_string(
        "report/curve.svg",
        {
            "drawn": sentence("document.curve_drawn"),
            "lines": lines,
            "grid": grid,
            "months": months,
            "width": WIDTH,
            "height": HEIGHT,
            "left": LEFT,
            "right": WIDTH - RIGHT,
            "bottom": HEIGHT - BOTTOM,
            "top": TOP,
            "x": x,
            "pv": s.y(pv),
            "ev": s.y(ev),
            "ac": s.y(ac),
            "has_status": c.sv is not None,
            "earned_x": s.x(c.earned_on) if c.earned_on else None,
        },
    )


def _line(c: CurveOut, s: _Scale, key: str, label: str, colour: str, dash: str) -> DrawnLine | None:
    def value(p: PointOut) -> float | None:
        return _number(getattr(p, key))

    pairs = [(s.x(min(p.end, c.status) if key in ("ev", "ac") else p.end), s.y(v)) for p in c.points if (v := value(p)) is not None]
    if not pairs:
        return None
    return DrawnLine(label, colour, dash, " ".join(f"{x},{y}" for x, y in pairs), pairs[-1][0] + 4, pairs[-1][1] + 3)


def _apart(lines: list[DrawnLine]) -> None:
    """Move labels that would overlap apart."""
    for one, other in zip(sorted(lines, key=lambda n: n.y), sorted(lines, key=lambda n: n.y)[1:], strict=False):
        if abs(one.x - other.x) < 50 and other.y - one.y < 11:
            other.y = one.y + 11


_PIVOT = '<path d="M7 6.4L4.6 12.4H9.4Z" fill="currentColor" stroke-width="0.6"/>'
_MARKS = {
    "done": ("#0F7B6C", '<path d="M2 7.5L5.6 11L12 3.4" stroke-width="2.2"/>'),
    "on_plan": ("#2E4A62", '<path d="M1 4.6H13" stroke-width="2.2"/>' + _PIVOT),
    "watch": ("#9A6700", '<path d="M1.4 8.4L12.6 1.8" stroke-width="2.2"/>' + _PIVOT),
    "act": (
        "#A8321F",
        '<path d="M1 11.4L7 2.6L13 11.4" stroke-width="2.2"/><path d="M7 8.2L5.4 12.4H8.6Z" fill="currentColor" stroke-width="0.4"/>',
    ),
    "soon": ("#5B6472", '<circle cx="7" cy="7" r="4" stroke-width="1.8"/>'),
    "not_due": ("#5B6472", '<circle cx="7" cy="7" r="1.2" fill="currentColor" stroke-width="1"/>'),
}
"""The beam on its pivot, as on the screens: its colour and its drawing."""


def mark_svg(mark: str) -> str:
    """A mark's drawing; its word stands beside it."""
    if mark not in _MARKS:
        return ""
    colour, drawing = _MARKS[mark]
    drawing = drawing.replace("currentColor", colour)
    return f'<svg class="mark" viewBox="0 0 14 14" fill="none" stroke="{colour}" stroke-linecap="round" aria-hidden="true">{drawing}</svg>'


INDICES = (("spi", "#0F7B6C", ""), ("cpi", "#8A2F5B", "6 3"), ("spi_t", "#2E4A62", "2 2"))
SMALL = 150


def indices_svg(t: ReportTable) -> str:
    """The indices of a table of pages as lines around 1; nothing where there are no two pages to join."""
    at = {c.key: i for i, c in enumerate(t.columns)}
    found = {key: [_number(row.cells[at[key]].text) for row in t.rows] for key, *_ in INDICES}
    values = [x for xs in found.values() for x in xs if x is not None]
    if len(t.rows) < 2 or not values:
        return ""
    low, high = min(*values, 1.0), max(*values, 1.0)
    room = max((high - low) * 0.1, 0.02)
    low, high = low - room, high + room

    def y(value: float) -> float:
        return round(TOP + (high - value) / (high - low) * (SMALL - TOP - BOTTOM), 1)

    xs = [round(LEFT + i / (len(t.rows) - 1) * (WIDTH - LEFT - RIGHT), 1) for i in range(len(t.rows))]
    lines = []
    for key, colour, dash in INDICES:
        points = [(x, y(v)) for x, v in zip(xs, found[key], strict=True) if v is not None]
        if points:
            joined = " ".join(f"{px},{py}" for px, py in points)
            lines.append(DrawnLine(t.columns[at[key]].title, colour, dash, joined, points[-1][0] + 4, points[-1][1] + 3))
    _apart(lines)
    step = 0.1 if high - low > 0.25 else 0.05
    grid = [
        (y(n * step), format_number(n * step, ".2f"), abs(n * step - 1) < step / 2)
        for n in range(int(low / step) + 1, int(high / step) + 1)
    ]
    every = -(-len(xs) // 14)
    pages = [(x, str(row.cells[0].text)) for i, (x, row) in enumerate(zip(xs, t.rows, strict=True)) if i % every == 0]
    context = {
        "drawn": sentence("document.indices_drawn"),
        "lines": lines,
        "grid": grid,
        "pages": pages,
        "width": WIDTH,
        "height": SMALL,
        "left": LEFT,
        "right": WIDTH - RIGHT,
    }
    return render_to_string("report/indices.svg", context)
