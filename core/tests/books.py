"""Small books for tests, written as a person would write them in JSON."""

import json
from typing import Any

from dryledger.book.plan import Book
from dryledger.exchange.book_json import book_from, parse_json

Doc = dict[str, Any]
SHIFTS = ["08:00-12:00", "13:00-17:00"]
FIVE = {"code": "five", "name": "Five-day week", "week": dict.fromkeys(("mon", "tue", "wed", "thu", "fri"), SHIFTS)}


def doc(activities: list[Doc], links: list[Doc] | None = None, **more: Any) -> Doc:
    """A book from Monday 4 January 2027 on the five-day calendar. `project` merges into the project object."""
    project = {"code": "X", "name": "Test", "currency": "EUR", "start": "2027-01-04T08:00", "calendar": "five"} | more.pop("project", {})
    rows = [{"name": a["code"]} | a for a in activities]
    return {
        "format": "dry-ledger-book",
        "version": 1,
        "project": project,
        "calendars": more.pop("calendars", [FIVE]),
        "activities": rows,
        "links": links or [],
    } | more


def book(*args: Any, **more: Any) -> Book:
    """The same, read by the core through JSON text."""
    return book_from(parse_json(json.dumps(doc(*args, **more))))


def page(code: str, status: str, *statements: Doc, **more: Any) -> Doc:
    """A period."""
    return {"code": code, "status": status, "statements": list(statements)} | more


def baseline(*activities: Doc, code: str = "B0") -> Doc:
    """A baseline on the five-day calendar."""
    rows = [{"name": a["code"], "work": "0h", "duration": "0d"} | a for a in activities]
    return {"code": code, "name": "Plan", "taken": "2027-01-01T08:00", "calendar": "five", "calendars": [FIVE], "activities": rows}


def line(amount: str, **more: Any) -> Doc:
    """A cost line."""
    return {"name": "Cost", "amount": amount} | more
