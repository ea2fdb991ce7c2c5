"""The records of one page of a book: its statements, hours and costs, each read with its faults."""

from datetime import date
from decimal import Decimal

from dryledger.book.plan import CostEntry, HoursEntry, Period, Statement
from dryledger.book.reader import Reader
from dryledger.calendar.calendar import Calendar
from dryledger.exchange.records import SOURCES, ZERO

__all__ = ["read_period"]


def read_period(r: Reader, on: dict[str, Calendar], fallback: Calendar) -> Period:
    """One page; `on` gives each activity's calendar."""
    statements = tuple(_statement(s, on, fallback) for s in r.items("statements"))
    hours = []
    for h in r.items("hours"):
        activity = h.text("activity", required=True)
        calendar = on.get(activity, fallback)
        hours.append(
            HoursEntry(
                activity,
                h.text("resource", required=True),
                h.duration("worked", calendar) or 0,
                h.duration("overtime", calendar) or 0,
                h.duration("to_go", calendar),
            )
        )
        h.done()
    costs = []
    for c in r.items("costs"):
        day, amount = c.date("date", required=True), c.amount("amount", required=True, negative=True)
        source, activity_code, wbs, ref = (
            c.choice("source", SOURCES, "invoice", required=True),
            c.maybe_text("activity"),
            c.maybe_text("wbs"),
            c.maybe_text("ref"),
        )
        c.done()
        if (activity_code is None) == (wbs is None):
            c.fault("must name exactly one of activity and wbs")
        costs.append(CostEntry(day or date.min, amount or ZERO, source, activity_code, wbs, ref))
    out = Period(
        r.text("code", required=True),
        r.instant("status", required=True) or 0,
        r.choice("state", ("dry", "wet"), "wet"),
        statements,
        tuple(hours),
        tuple(costs),
    )
    r.done()
    return out


def _statement(s: Reader, on: dict[str, Calendar], fallback: Calendar) -> Statement:
    activity = s.text("activity", required=True)
    out = Statement(
        activity,
        s.instant("actual_start"),
        s.instant("actual_finish"),
        _share(s.number("percent", least=ZERO, most=Decimal(100))),
        s.duration("remaining", on.get(activity, fallback)),
        s.instant("carry_to"),
        s.number("units_done", least=ZERO),
        s.texts("milestones_reached"),
        s.maybe_text("note"),
    )
    s.done()
    return out


def _share(percent: Decimal | None) -> Decimal | None:
    return None if percent is None else percent / 100
