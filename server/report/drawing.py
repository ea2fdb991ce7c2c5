"""The curve of a report as SVG, for HTML and PDF alike: four labelled lines and the three brackets at the status date."""

from dataclasses import dataclass
from datetime import datetime

from django.template.loader import render_to_string

from server.value.shapes import CurveOut, PointOut

WIDTH, HEIGHT = 640, 240
LEFT, RIGHT, TOP, BOTTOM = 52, 66, 12, 24
LINES = (
    ("pv", "PV", "#5B6472", "5 3"),
    ("forecast", "Forecast", "#4A5A78", "1 3"),
    ("ac", "AC", "#8A2F5B", ""),
    ("ev", "EV", "#0F7B6C", ""),
)


@dataclass
class Line:
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
        grid.append((s.y(amount), f"{amount / 1000:,.0f} k".replace(",", "\u00a0") if s.top >= 10_000 else f"{amount:,.0f}"))
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


def _line(c: CurveOut, s: _Scale, key: str, label: str, colour: str, dash: str) -> Line | None:
    def value(p: PointOut) -> float | None:
        return _number(getattr(p, key))

    pairs = [(s.x(min(p.end, c.status) if key in ("ev", "ac") else p.end), s.y(v)) for p in c.points if (v := value(p)) is not None]
    if not pairs:
        return None
    return Line(label, colour, dash, " ".join(f"{x},{y}" for x, y in pairs), pairs[-1][0] + 4, pairs[-1][1] + 3)


def _apart(lines: list[Line]) -> None:
    """Move labels that would overlap apart."""
    for one, other in zip(sorted(lines, key=lambda n: n.y), sorted(lines, key=lambda n: n.y)[1:], strict=False):
        if abs(one.x - other.x) < 50 and other.y - one.y < 11:
            other.y = one.y + 11
