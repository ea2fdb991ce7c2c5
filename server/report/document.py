"""The report as HTML and as PDF: one template, so both say the same."""

from dataclasses import dataclass
from pathlib import Path
from typing import Any

from django.conf import settings
from django.template.loader import render_to_string
from django.utils.safestring import SafeString, mark_safe

from dryledger.marks.marks import mark_word
from server.report.drawing import curve_svg, indices_svg, mark_svg
from server.report.shapes import ReportCell, ReportColumn, ReportOut, ReportSection, ReportTable
from server.shared.problems import Refused
from server.shared.saying import format_date, format_value
from server.shared.words import sentence

NUMBERS = ("money", "ratio", "percent", "day", "days", "length")
BLANK = ("summary", "decisions")
"""Sections of words alone: they say so where there are none."""
SHORT = 12
"""Rows up to which a table stands on one page whole."""


@dataclass
class Cell:
    """A cell in words: its text, the line under it, its class, and the drawing of a mark."""

    text: str
    note: str
    kind: str
    mark: SafeString | None = None


def _in_words(text: str | None, kind: str) -> str:
    return mark_word(text) if kind == "mark" and text is not None else format_value(text, kind)


def _cell(c: ReportCell, column: ReportColumn) -> Cell:
    kind = c.kind or column.kind
    mark = mark_safe(mark_svg(c.text)) if kind == "mark" and c.text else None
    return Cell(_in_words(c.text, kind), c.note, "n" if kind in NUMBERS else "", mark)


def _table(t: ReportTable) -> dict[str, Any]:
    rows = [{"total": r.total, "cells": [_cell(c, t.columns[i]) for i, c in enumerate(r.cells)]} for r in t.rows]
    columns = [{"title": c.title, "class": "n" if c.kind in NUMBERS else "" if i else "first"} for i, c in enumerate(t.columns)]
    middle = -(-len(rows) // 2)
    return {
        "title": t.title,
        "columns": columns,
        "rows": rows,
        "halves": [rows[:middle], rows[middle:]] if t.key == "figures" else [],
        "empty": t.empty,
        "short": len(rows) <= SHORT,
        "wide": len(columns) > 8,
    }


def _section(r: ReportOut, s: ReportSection) -> dict[str, Any]:
    chart = ""
    if s.chart == "curve":
        chart = curve_svg(r.curve)
    elif s.chart == "indices":
        chart = indices_svg(s.tables[0])
    heads = [{"h": h, "mark": mark_safe(mark_svg(h.mark)), "trend": sentence(f"report.trend_{h.trend or 'none'}")} for h in s.heads]
    sentences = [*s.sentences, *(r.curve.sentences if s.chart == "curve" else [])]
    return {
        "key": s.key,
        "title": s.title,
        "words": s.words or s.drafted,
        "blank": sentence(f"report.blank_{s.key}") if s.key in BLANK else "",
        "sentences": sentences,
        "tables": [_table(t) for t in s.tables],
        "heads": heads,
        "svg": mark_safe(chart),
    }


def html(r: ReportOut, edition: int | None = None, issued_by: str = "") -> str:
    """The report as one HTML page."""
    status = r.draft.status
    context: dict[str, Any] = {
        "r": r,
        "status": status,
        "status_word": mark_word(status) or sentence("document.status_chosen_yet"),
        "status_mark": mark_safe(mark_svg(status)) if status else "",
        "trend": sentence(f"report.trend_{r.trend}") if r.trend and status else "",
        "reason": r.draft.reason,
        "edition": edition,
        "issued_by": issued_by,
        "status_date": format_date(r.status_date),
        "period_start": format_date(r.period_start),
        "sections": [_section(r, s) for s in r.sections],
        "overall": any(s.key == "overall" for s in r.sections),
    }
    return render_to_string("report/report.html", context)


def pdf(page: str) -> bytes:
    """The HTML page as a tagged A4 PDF. Raises Refused where the machine lacks the text libraries that PDF needs."""
    try:
        from weasyprint import HTML
        from weasyprint.urls import URLFetcher, URLFetcherResponse
    except (ImportError, OSError):
        raise Refused(
            "pdf-missing",
            sentence("document.machine_lacks_text_libraries"),
            503,
        ) from None
    static = Path(settings.ROOT) / "server" / "static"

    class Shipped(URLFetcher):  # type: ignore[misc]
        """Takes only what ships with the application."""

        def fetch(self, url: str, headers: Any = None) -> Any:
            file = static / url.split("/static/", 1)[-1]
            if "/static/" not in url or static not in file.resolve().parents:
                raise ValueError(sentence("document.does_ship_application", url=url))
            return URLFetcherResponse(url, body=file.read_bytes(), headers={"Content-Type": "font/woff2"})

    made: bytes = HTML(string=page, base_url="https://report.invalid/", url_fetcher=Shipped()).write_pdf(pdf_tags=True)
    return made
