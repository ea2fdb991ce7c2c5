"""A view of the timeline as it stands on the screen, as a file: SVG, PNG, or PDF on paper."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from dryledger.errors import EntryRefused
from server.book.results import View
from server.shared.problems import Refused
from server.shared.saying import format_value
from server.shared.words import sentence
from server.timeline import drawing
from server.timeline.lines import lines_out
from server.timeline.paper import MOST_SHEETS
from server.timeline.selectors import timeline
from server.timeline.shapes import TimelineOut
from server.value.selectors import columns_of, figure_rows
from server.value.shapes import FigureOut, MeasureRow


@dataclass
class Printed:
    """A view that is asked for: its rows in order, columns, labels, other baselines, progress lines, and the paper."""

    form: str
    paper: str
    fit: str
    rows: Sequence[Mapping[str, Any]]
    columns: Sequence[str]
    labels: Sequence[str]
    baselines: Sequence[str]
    lines: str
    against: str
    dates: str
    most: int
    per_day: float


def print_view(v: View, asked: Printed) -> bytes:
    """The file. Raises Refused for rows and figures that are not there, and where it would be too large."""
    t = timeline(v, asked.baselines)
    columns, labels = columns_of(v, asked.columns or ("start", "finish")), columns_of(v, asked.labels) if asked.labels else []
    strip = asked.lines == "strip"
    try:
        lines = None if asked.lines in ("none", "strip") else lines_out(v, asked.lines, asked.against, asked.dates, asked.most)
    except EntryRefused as no:
        raise Refused("entry-refused", no.message, 422, field="dates") from None
    told = sentence(f"drawn.lines_{asked.against}") if lines else sentence("drawn.strip") if strip else ""
    rows = _rows(v, t, asked, [*columns, *labels], len(columns))
    d = drawing.Drawn(t, v.book.project.name, drawing.under(t, told), rows, [c.head for c in columns], lines, strip, asked.per_day)
    try:
        return drawing.printed(d, asked.paper, asked.fit) if asked.form == "pdf" else drawing.picture(d, asked.form)
    except drawing.TooLarge:
        raise Refused("too-large", sentence("drawn.too_large", most=MOST_SHEETS), 422, field="fit") from None


def _rows(v: View, t: TimelineOut, asked: Printed, figures: Sequence[FigureOut], columns: int) -> list[drawing.DrawnRow]:
    bars, brackets = {b.code: b for b in t.bars}, {w.code: w for w in t.wbs}
    known = figure_rows(v, [f.key for f in figures])
    externals = {x.code: x for x in t.externals}
    waits = {(x.code, b.code): (externals[x.code], x, b.start) for b in t.bars for x in b.outside}
    out = []
    for x in asked.rows:
        kind, code, depth = x["kind"], x.get("code", ""), min(int(x.get("depth", 0)), 12)
        if kind == "group":
            out.append(drawing.DrawnRow(str(x.get("name", ""))[:200], 0, head=True))
        elif kind == "activity" and code in bars:
            cells = _in_words(known["activity"][code], figures)
            labels = zip(cells[columns:], figures[columns:], strict=True)
            label = ", ".join(f.word if c == "yes" else c for c, f in labels if c and c != "no")
            out.append(drawing.DrawnRow(bars[code].name, depth, bar=bars[code], cells=cells[:columns], label=label))
        elif kind == "wbs" and code in brackets:
            w = brackets[code]
            out.append(drawing.DrawnRow(f"{w.code} {w.name}", depth, bracket=w, cells=_in_words(known["wbs"][code], figures)[:columns]))
        elif kind == "outside" and (code, x.get("of", "")) in waits:
            far, wait, begins = waits[code, x["of"]]
            shown = {"start": far.start, "finish": far.finish}
            cells = [format_value(shown[f.key], "instant") if f.key in shown else "" for f in figures[:columns]]
            out.append(drawing.DrawnRow(f"{far.code} {far.name}", depth, outside=(far, wait, begins), cells=cells))
        else:
            raise Refused("not-found", sentence("value.no_row", code=code[:60], project=v.project.code), 404, field="rows")
    return out


def _in_words(row: MeasureRow, figures: Sequence[FigureOut]) -> list[str]:
    """The figures of a row in words; lengths in days, what is not there left out."""
    return ["" if (x := row.figures.get(f.key)) is None else _cell(x, f.kind) for f in figures]


def _cell(text: str, kind: str) -> str:
    if kind == "flag":
        return "yes" if text == "true" else "no"
    if kind in ("text", "choice"):
        return text.replace("_", " ") if kind == "choice" else text
    return format_value(text, "length" if kind == "days" else kind)
