"""Fronts of a page, for the timeline: how far the work had come by each of some dates."""

from dataclasses import dataclass, field

from dryledger.calendar.calendar import Instant, to_text
from dryledger.errors import EntryRefused
from dryledger.timeline.fronts import type_fronts
from dryledger.timeline.progress_line import front_days, page_dates, progress_lines
from server.book.access import Access
from server.book.results import View
from server.journal.steps import ask
from server.journal.writing import write_list
from server.shared.words import sentence

MOST = 60
AT = ("status", "pages", "kept", "dates")


@dataclass
class LineOut:
    """A line: where it is drawn, and the page that knew it."""

    date: str
    page: str | None


@dataclass
class LinesOut:
    """Progress lines, the oldest first, and for each activity where each of them passes through its row."""

    revision: int
    against: str
    lines: list[LineOut]
    kept: list[str]
    """The dates that the project keeps lines for."""
    points: dict[str, list[str]] = field(default_factory=dict)
    days: dict[str, float] = field(default_factory=dict)
    """How far the work stands from the newest line's date, in working days: behind below zero. Only where it does."""


def lines_out(v: View, at: str, against: str, typed: str, most: int) -> LinesOut:
    """Lines at the status date, at every page, at the dates that the project keeps, or at typed dates; of these the newest.

    Raises EntryRefused at `dates`.
    """
    dates = sorted(set(_dates(v, at, typed)))[-most:]
    lines = progress_lines(v.results, dates, against)
    points: dict[str, list[str]] = {}
    for line in lines:
        for p in line.points:
            points.setdefault(p.code, []).append(to_text(p.at))
    kept = [to_text(x.at) for x in v.book.progress_lines]
    days = {code: float(round(d, 2)) for code, d in front_days(v.results, lines[-1]).items()} if lines else {}
    return LinesOut(v.workspace.revision, against, [LineOut(to_text(x.at), x.page) for x in lines], kept, points, days)


def _dates(v: View, at: str, typed: str) -> list[Instant]:
    r = v.results
    if r.status is None:
        return []
    if at == "status":
        return [r.status]
    if at == "pages":
        return page_dates(r)
    if at == "kept":
        return [x.at for x in v.book.progress_lines]
    return type_fronts(r, typed)


def keep_lines(access: Access, page_code: str, revision: int, typed: str) -> None:
    """Keep typed dates as those that the project draws lines for, as one step; none takes them away. Raises EntryRefused, Stale."""
    ask(access, "lines")
    access.wet(page_code)
    v = access.view(page_code)
    dates = type_fronts(v.results, typed) if typed.strip() else []
    if len(dates) > MOST:
        raise EntryRefused("dates", sentence("lines.most", most=MOST))
    rows = [{"at": to_text(t)} for t in dates]
    write_list(access, revision, "lines", "progress_lines", rows, sentence("lines.kept", count=len(dates)))
