"""How long an activity takes as planned, and how much work each assignment on it is.

Source: calculation contract, section 6. Durations are whole working minutes of the activity's axis, work is minutes.
"""

from decimal import ROUND_HALF_EVEN, Decimal

from dryledger.book.plan import Activity, Assignment, Book

__all__ = ["planned_duration", "whole_minutes", "work_of"]


def whole_minutes(minutes: Decimal) -> int:
    """Minutes rounded half-even.

    >>> whole_minutes(Decimal("2.5")), whole_minutes(Decimal("3.5"))
    (2, 4)
    """
    return int(minutes.to_integral_value(ROUND_HALF_EVEN))


def planned_duration(book: Book, activity: Activity) -> int:
    """D, working minutes of an activity as planned: given, from its work where work drives it, from its dates where pinned.

    More units shorten work-driven activities: 80 h by two fitters take 40 h.
    """
    if activity.mode == "fixed" and activity.start is not None and activity.finish is not None:
        axis = book.calendar_by_code[activity.calendar].axis
        return axis.without((p.start, p.end) for p in activity.pauses).between(activity.start, activity.finish)
    if activity.driver != "work":
        return activity.duration
    spans = [
        Decimal(a.work) / a.units
        for a in book.assignments_of.get(activity.code, ())
        if a.work is not None and book.resource_by_code[a.resource].kind == "labour"
    ]
    return whole_minutes(max(spans)) if spans else activity.duration


def work_of(book: Book, activity: Activity, assignment: Assignment, duration: int) -> Decimal:
    """Minutes of work of one assignment over a duration: units × duration, or the work given where work drives."""
    if activity.driver == "work" and assignment.work is not None and book.resource_by_code[assignment.resource].kind == "labour":
        return Decimal(assignment.work)
    return duration * assignment.units
