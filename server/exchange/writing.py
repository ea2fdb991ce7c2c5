"""A project out as files: the book in JSON, CSV or XLSX, milestones as iCalendar."""

import io
import zipfile
from datetime import UTC, datetime, timedelta
from decimal import Decimal
from pathlib import Path
from typing import TYPE_CHECKING, Any

from dryledger.calendar.calendar import from_text, to_date_text
from dryledger.compute import Results
from server.book.documents import book_document
from server.book.models import Page, Project
from server.book.outside import with_current_externals
from server.exchange.sheets import to_csvs, to_xlsx
from server.exchange.tabling import tables_of
from server.shared import exact_json
from server.shared.files import one_line
from server.shared.words import sentence

if TYPE_CHECKING:
    from icalendar import Event


def as_json(project: Project) -> bytes:
    """The book as readable JSON, its numbers exactly as they were said."""
    return readable(with_current_externals(project, book_document(project, exact=True)))


def readable(document: Any) -> bytes:
    """A document as JSON that people can read."""
    return exact_json.indented(_whole(document), 1) + b"\n"


def _whole(value: Any) -> Any:
    """Numbers that are whole are written as such."""
    if isinstance(value, float | Decimal) and value == int(value):
        return int(value)
    if isinstance(value, dict):
        return {k: _whole(v) for k, v in value.items()}
    return [_whole(v) for v in value] if isinstance(value, list) else value


def as_xlsx(project: Project) -> bytes:
    """The book as a workbook."""
    return to_xlsx(tables_of(_whole(with_current_externals(project, book_document(project)))))


def as_csvs(project: Project) -> dict[str, str]:
    """The book as CSV texts by file name."""
    return to_csvs(tables_of(_whole(with_current_externals(project, book_document(project)))))


def as_zip(project: Project) -> bytes:
    """The CSV texts in a zip."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as z:
        for name, text in as_csvs(project).items():
            z.writestr(zipfile.ZipInfo(name, (2000, 1, 1, 0, 0, 0)), text.encode("utf-8-sig"), zipfile.ZIP_DEFLATED)
    return out.getvalue()


def write(project: Project, to: Path) -> None:
    """Write a project to a file by its ending, or as a folder of CSV files where it has none."""
    if to.suffix == ".json":
        to.write_bytes(as_json(project))
    elif to.suffix == ".xlsx":
        to.write_bytes(as_xlsx(project))
    else:
        to.mkdir(parents=True, exist_ok=True)
        for name, text in as_csvs(project).items():
            (to / name).write_bytes(text.encode("utf-8-sig"))


def as_icalendar(project: Project, results: Results) -> bytes:
    """Milestones and page dates as all-day and timed events."""
    from icalendar import Calendar, Event  # a library that is read when somebody takes a calendar away

    out = Calendar()
    out.add("prodid", "-//Dry Ledger//EN")
    out.add("version", "2.0")
    out.add("x-wr-calname", one_line(project.name) or "–")
    book = results.book
    for a in book.activities:
        row = results.schedule.activities[a.code]
        if a.kind == "milestone" or (a.duration == 0 and row.duration == 0):
            note = f"{a.code}, as of {_date(results.status)}"
            out.add_component(_event(Event(), project, f"milestone-{a.code}", a.name, row.finish, note))
    for page in Page.objects.filter(project=project).only("code", "status", "state"):
        closes, note = sentence("writing.page_closes", code=page.code), f"{project.code}, {page.state}"
        out.add_component(_event(Event(), project, f"page-{page.code}", closes, from_text(page.status), note))
    return bytes(out.to_ical())


def _date(t: int | None) -> str:
    return "the plan" if t is None else to_date_text(t)


def _event(event: "Event", project: Project, uid: str, name: str, at: int, note: str) -> "Event":
    start = datetime(1, 1, 1) + timedelta(minutes=at)
    event.add("uid", f"{one_line(uid)}@{project.uid}")
    event.add("dtstamp", datetime(2000, 1, 1, tzinfo=UTC))
    event.add("summary", one_line(name) or "–")
    event.add("dtstart", start)
    event.add("dtend", start)
    event.add("description", one_line(note))
    return event
