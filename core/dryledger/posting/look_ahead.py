"""The look-ahead: what the next weeks bring, by who is responsible, by resource or by element. Source: calculation contract, section 24."""

from decimal import Decimal

from dryledger.book.outline import levels
from dryledger.book.responsible import responsible_for
from dryledger.calendar.calendar import DAY
from dryledger.compute import Results

__all__ = ["WAYS", "days_left", "look_ahead"]

WAYS = ("person", "resource", "element")


def days_left(r: Results, code: str) -> Decimal:
    """What is left of an activity in working days of its calendar, to two places: what is planned where it has not begun."""
    p, calendar = r.progress[code], r.book.calendar_by_code[r.book.activity_by_code[code].calendar]
    return round(calendar.days(p.planned if p.state == "not_started" else p.remaining), 2).normalize()


def look_ahead(r: Results, weeks: int, by: str) -> dict[str, list[str]]:
    """The unfinished activities of which something lies in the `weeks` after the status, by the name of their group, in the order of dates.

    A group has the name of a person or a resource, or the code of an element; those of nobody, under "", come last. What several resources
    work on is in the group of each.
    """
    assert r.status is not None
    book, until, out = r.book, r.status + weeks * 7 * DAY, dict[str, list[str]]()
    names = {x.code: x.name for x in book.resources}
    rows = r.schedule.activities
    begins = {c: row.start if row.resume is None else row.resume for c, row in rows.items()}
    for a in sorted(book.activities, key=lambda a: (begins[a.code], a.code)):
        if r.progress[a.code].state == "complete" or begins[a.code] >= until:
            continue
        groups = [responsible_for(book, a.code)] if by == "person" else [a.wbs or ""]
        if by == "resource":
            groups = [names[x.resource] for x in book.assignments_of.get(a.code, ())] or [""]
        for group in groups:
            out.setdefault(group, []).append(a.code)
    order = {h.code: i for i, h in enumerate(levels(book))}
    return dict(sorted(out.items(), key=lambda x: (not x[0], order.get(x[0], 0), "" if by == "element" else x[0].casefold())))
