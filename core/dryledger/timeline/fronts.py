"""The dates of fronts as people type them: dates, or a sentence such as "every second Friday", with commas between."""

import re

from dryledger.calendar.calendar import DAY, Instant
from dryledger.compute import Results
from dryledger.entry.plan_cells import type_instant
from dryledger.entry.rhythms import type_rhythm
from dryledger.errors import EntryRefused
from dryledger.schedule.rhythm import rhythm_dates
from dryledger.timeline.progress_line import interval_dates
from dryledger.words import sentence

__all__ = ["type_fronts"]

_EVERY = re.compile(r"(?P<rhythm>(?:every|each)\s.+?)(?:\s+from\s+(?P<start>.+))?", re.I)
_STEP = re.compile(r"(?:every|each)\s+(?P<step>day|week|month)", re.I)


def type_fronts(r: Results, text: str) -> list[Instant]:
    """The instants of fronts that are typed, ascending: "29 jan, 12 feb", "every week from 15 jan", "every month on the last working day".

    What goes on begins with the project, or `from` its own date, and ends by the status date. A date without a time is its close.
    Raises EntryRefused at `dates`, also where nothing is typed.
    """
    found = sorted({t for part in text.split(",") if part.strip() for t in _dates(r, " ".join(part.split()))})
    if not found and not text.replace(",", "").strip():
        raise EntryRefused("dates", sentence("fronts.dates_needed"))
    return found


def _dates(r: Results, text: str) -> list[Instant]:
    every = _EVERY.fullmatch(text)
    if every is None:
        return [_date(r, text)]
    assert r.status is not None
    start = r.book.project.start if every["start"] is None else _date(r, every["start"])
    if step := _STEP.fullmatch(every["rhythm"]):
        return interval_dates(r, start, step["step"].lower())
    rhythm = type_rhythm(every["rhythm"], "dates")
    return [] if rhythm is None else rhythm_dates(r.book.axis, start - start % DAY, r.status, rhythm)


def _date(r: Results, text: str) -> Instant:
    assert r.status is not None
    found = type_instant(text, "dates", r.status, r.book.axis, closing=True)
    if found is None:
        raise EntryRefused("dates", sentence("fronts.dates_needed"))
    return found
