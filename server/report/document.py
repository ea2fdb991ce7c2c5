"""The report as HTML and as PDF: one template, so both say the same."""

from datetime import date
from pathlib import Path
from typing import Any

from django.conf import settings
from django.template.loader import render_to_string

from dryledger.marks.marks import MARK_WORDS
from server.report.drawing import curve_svg
from server.report.facts import ReportOut, WorkOut
from server.shared.problems import Refused
from server.shared.words import sentence

THIN, MINUS = "\u00a0", "\u2212"


def said_money(amount: str | None) -> str:
    """Money with thin spaces and a true minus."""
    return (
        "none"
        if amount is None
        else f"{float(amount):,.2f}".replace(",", THIN).replace("-", MINUS)
        if "." in amount
        else f"{int(amount):,}".replace(",", THIN).replace("-", MINUS)
    )


def said_date(instant: str | None) -> str:
    """A date in full."""
    if not instant:
        return ""
    d = date.fromisoformat(instant[:10])
    return f"{d.day} {d:%B} {d.year}"


def said_late(days: float | None) -> str:
    """A drift in words."""
    if days is None:
        return sentence("document.baseline")
    if not days:
        return "on the day"
    return f"{abs(days):g} {'day' if abs(days) == 1 else 'days'} {'late' if days > 0 else 'early'}"


def _ratio(value: float | None, reason: str | None) -> str:
    return f"{value:.3f}" if value is not None else reason or "none"


def _work(w: WorkOut) -> dict[str, object]:
    return {
        "name": w.name,
        "wbs": w.wbs,
        "note": w.note,
        "people": ", ".join(w.people) or "by contract",
        "percent": f"{w.percent:g}",
        "start": said_date(w.start),
        "finish": said_date(w.finish),
        "late": said_late(w.late_days),
        "fields": w.fields,
    }


def html(r: ReportOut, status: str, reason: str, edition: int | None = None, issued_by: str = "") -> str:
    """The report as one HTML page."""
    b = r.balance
    context: dict[str, Any] = {
        "r": r,
        "status": status,
        "status_word": MARK_WORDS.get(status, sentence("document.status_chosen_yet")),
        "reason": reason,
        "edition": edition,
        "issued_by": issued_by,
        "status_date": said_date(r.status_date),
        "period_start": said_date(r.period_start),
        "figures": {
            "pv": said_money(b.pv),
            "ev": said_money(b.ev),
            "ac": said_money(b.ac),
            "spi": _ratio(b.spi, b.reasons.get("spi")),
            "cpi": _ratio(b.cpi, b.reasons.get("cpi")),
            "eac": said_money(b.eac),
            "finish": said_date(b.finish),
            "drift": said_late(b.drift) if b.drift is not None else "",
        },
        "worked": [_work(w) for w in r.worked_on],
        "coming": [_work(w) for w in r.coming_next],
        "money": [{"name": m.name, "pv": said_money(m.pv), "ev": said_money(m.ev), "ac": said_money(m.ac)} for m in r.money],
        "milestones": [
            {
                "name": m.name,
                "baseline": said_date(m.baseline),
                "now": said_date(m.now),
                "said": ("reached, " if m.reached else "") + said_late(m.late_days),
            }
            for m in r.milestones
        ],
        "svg": curve_svg(r.curve),
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
