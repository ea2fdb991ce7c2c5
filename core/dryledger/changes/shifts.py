"""The hours that a day, a week and a month count as follow the shifts of a calendar, where they did before."""

from collections import Counter
from collections.abc import Iterable, Sequence
from decimal import Decimal

from dryledger.calendar.calendar import Calendar
from dryledger.changes.draft import Doc, Draft
from dryledger.formats import format_number
from dryledger.words import sentence

__all__ = ["follow_shifts", "hours_of_week"]

WEEKS_A_MONTH = 4


def hours_of_week(week: Iterable[Sequence[tuple[int, int]]]) -> dict[str, Decimal]:
    """What the shifts of a week give: the hours that most of its days have, those of the week, and those of four.

    >>> hours_of_week([((480, 720), (780, 1020))] * 5 + [((480, 720),), ()])
    {'hours_per_day': Decimal('8'), 'hours_per_week': Decimal('44'), 'hours_per_month': Decimal('176')}
    """
    days = [minutes for day in week if (minutes := sum(b - a for a, b in day))]
    if not days:
        return {}
    most = max(Counter(days).items(), key=lambda x: (x[1], x[0]))[0]
    whole = Decimal(sum(days)) / 60
    return {"hours_per_day": Decimal(most) / 60, "hours_per_week": whole, "hours_per_month": whole * WEEKS_A_MONTH}


def follow_shifts(draft: Draft, key: int, before: Calendar, written: Doc) -> None:
    """Write the hours that the new shifts of a calendar give, of those that were what its old shifts gave, and tell so."""
    was, now = hours_of_week(before.week), hours_of_week(draft.record("calendars", key).week)
    cells = {k: float(h) for k, h in now.items() if k not in written and getattr(before, k) == was.get(k, getattr(Calendar, k)) != h}
    if not cells:
        return
    draft.put("calendars", key, cells)
    told = ", ".join(f"{k.removeprefix('hours_per_')} {format_number(h, 'g')} h" for k, h in cells.items())
    draft.labels.append(sentence("calendars.hours_follow", name=before.name, hours=told))
