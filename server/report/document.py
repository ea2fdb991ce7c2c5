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
        "added": [x.line for x in s.added if s.key != "overall"],
        "words": s.words or s.drafted,
        "blank": sentence(f"report.blank_{s.key}") if s.key in BLANK else "",
        "sentences": sentences,
        "tables": [_table(t) for t in s.tables],
        "heads": heads,
        "svg": mark_safe(chart),
    }


def _issued(edition: int | None) -> str:
    return sentence("report.draft") if edition is None else sentence("report.edition", number=edition)


def head_line(r: ReportOut, edition: int | None, issued_by: str) -> str:
    """What the report is of: project, span, baseline, currency, calculation, edition."""
    day = format_date(r.status_date)
    client = sentence("document.for_client", client=r.client) if r.client else ""
    told = [sentence("document.head", number=r.number, project=r.project, client=client, start=format_date(r.period_start), end=day)]
    if r.manager:
        told.append(sentence("document.manager", name=r.manager))
    told.extend(f"{name}: {value}." for name, value in r.fields)
    if r.balance.baseline:
        told.append(sentence("document.against", day=day, baseline=r.balance.baseline, name=r.baseline_name))
    told.append(sentence("document.money_in", currency=r.balance.currency, calculation=r.calculation))
    told.append(sentence("document.not_issued") if edition is None else sentence("document.issued", number=edition, by=issued_by))
    return " ".join(told)


def html(r: ReportOut, edition: int | None = None, issued_by: str = "") -> str:
    """The report as one HTML page."""
    status = r.draft.status
    context: dict[str, Any] = {
        "r": r,
        "language": settings.LANGUAGE,
        "status": status,
        "status_word": mark_word(status) or sentence("document.status_chosen_yet"),
        "status_mark": mark_safe(mark_svg(status)) if status else "",
        "trend": sentence(f"report.trend_{r.trend}") if r.trend and status else "",
        "reason": r.draft.reason,
        "sealed": r.draft.sealed,
        "added": [x.line for x in r.draft.added if x.section == "overall"],
        "head_line": head_line(r, edition, issued_by),
        "foot": sentence("document.foot", project=r.project, day=format_date(r.status_date), issued=_issued(edition)),
        "of": sentence("document.of_pages"),
        "columns": [sentence(f"report.col_{key}") for key in ("head", "mark", "trend", "reason")],
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
