"""A rhythm of pages as people type it: ``every week on Friday``, ``every 2 weeks on Thursday at 16:30``, ``every month on
the 15th``, ``every month on the last working day``."""

import re
from decimal import Decimal

from dryledger.book.lists import WEEKDAYS
from dryledger.book.pages import Rhythm
from dryledger.errors import EntryRefused
from dryledger.words import sentence

__all__ = ["rhythm_text", "type_rhythm"]

_NAMES = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
_RHYTHM = re.compile(
    r"(?:(?:every|each)\s+)?(?:(?P<n>\d{1,2})\s+)?(?P<every>weeks?|weekly|months?|monthly)[\s,]*(?:on\s+)?(?:the\s+)?(?:day\s+)?"
    r"(?P<on>last|[a-z]{3,9}|\d{1,2})(?:st|nd|rd|th)?(?:\s+(?:working\s+)?day)?(?:\s+of\s+the\s+month)?"
    r"(?:[\s,]+at\s+(?P<hour>\d{1,2}):(?P<minute>\d{2}))?"
)
_WEEKDAY = re.compile(r"(?:every|each)\s+(?P<n>second|other|third|fourth)?\s*(?P<on>[a-z]{3,9})(?P<at>[\s,]+at\s.*)?")
_COUNTS = {"second": 2, "other": 2, "third": 3, "fourth": 4}
NONE = ("", "none", "no rhythm")


def type_rhythm(text: str, field: str = "rhythm") -> Rhythm | None:
    """A rhythm from its sentence; None when empty. Raises EntryRefused.

    >>> type_rhythm("every second Friday") == type_rhythm("every 2 weeks on fri")
    True
    >>> type_rhythm("every 2 weeks on fri"), type_rhythm("monthly on the last working day").on
    (Rhythm(every='week', n=Decimal('2'), on='fri', at=None), 'last')
    """
    bare = " ".join(text.lower().split())
    if bare in NONE:
        return None
    short = _WEEKDAY.fullmatch(bare)
    if short is not None and any(name.lower().startswith(short["on"]) for name in _NAMES):
        bare = f"every {_COUNTS.get(short['n'] or '', 1)} weeks on {short['on']}{short['at'] or ''}"
    found = _RHYTHM.fullmatch(bare)
    if found is None:
        raise EntryRefused(field, sentence("rhythms.unread", value=text.strip()[:60]))
    every = "week" if found["every"].startswith("week") else "month"
    n, on = Decimal(found["n"] or 1), found["on"]
    if every == "week":
        day = next((d for d, name in zip(WEEKDAYS, _NAMES, strict=True) if on == d or name.lower().startswith(on)), None)
        if day is None:
            raise EntryRefused(field, sentence("rhythms.weekday", value=on))
        on = day
    elif on != "last" and not (on.isdecimal() and 1 <= int(on) <= 31):
        raise EntryRefused(field, sentence("rhythms.day", value=on))
    if not 1 <= n <= 60:
        raise EntryRefused(field, sentence("rhythms.count", every=every))
    if found["hour"] is None:
        return Rhythm(every, n, on)
    if int(found["hour"]) > 23 or int(found["minute"]) > 59:
        raise EntryRefused(field, sentence("rhythms.time"))
    return Rhythm(every, n, on, f"{int(found['hour']):02}:{found['minute']}")


def rhythm_text(r: Rhythm | None) -> str:
    """A rhythm as its cell shows it.

    >>> rhythm_text(Rhythm("month", Decimal(1), "15", "16:30"))
    'every month on the 15th at 16:30'
    """
    if r is None:
        return ""
    often = f"every {r.every}" if r.n == 1 else f"every {int(r.n)} {r.every}s"
    at = f" at {r.at}" if r.at else ""
    if r.every == "week":
        return f"{often} on {_NAMES[WEEKDAYS.index(r.on or 'fri')]}{at}"
    if r.on == "last":
        return f"{often} on the last working day{at}"
    day = int(r.on or 1)
    ending = "th" if 10 <= day <= 20 else {1: "st", 2: "nd", 3: "rd"}.get(day % 10, "th")
    return f"{often} on the {day}{ending}{at}"
