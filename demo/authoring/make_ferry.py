"""Write demo/ferry.json: the FERRY plan, its baselines, and ten weekly pages played forward from the stories below.

Run from the repository: `.venv/bin/python demo/authoring/make_ferry.py`. The file it writes is what ships and what is
loaded; this script is how it came about, kept so that a change of plan does not mean editing figures by hand.
"""

import json
import sys
from dataclasses import replace
from decimal import Decimal
from pathlib import Path
from typing import Any

HERE = Path(__file__).parent
sys.path[:0] = [str(HERE.parents[1] / "core"), str(HERE)]

from ferry_plan import plan
from ferry_registers import ORDERS

from dryledger.baseline.snapshot import snapshot
from dryledger.calendar.calendar import from_text, to_text
from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from dryledger.network.graph import topological_order
from dryledger.book.baselines import Baseline
from dryledger.book.plan import Activity, Book
from dryledger.schedule.schedule import shift

Doc = dict[str, Any]

PAGES = ["2027-01-08", "2027-01-15", "2027-01-22", "2027-01-29", "2027-02-05", "2027-02-12", "2027-02-19", "2027-02-26",
         "2027-03-05", "2027-03-12"]
PACE = {"A120": 0.9, "A150": 0.85, "A230": 0.9, "A250": 0.8, "A300": 0.9, "A320": 0.75, "A330": 0.35, "A340": 0.9,
        "A270": 0.9, "A280": 0.85, "A420": 0.8, "A425": 1.1, "A430": 1.1, "A510": 0.85, "A600": 0.9, "A620": 0.9}
HOURS = {"A250": 1.18, "A320": 1.12, "A300": 1.05, "A110": 0.97, "A130": 1.08, "A150": 1.1, "A230": 1.04, "A330": 0.5, "A425": 0.9}
LATE_START = {"A510": 2, "A610": 3, "A410": 1}
EARLY = {"A460": "2027-03-09T07:30"}
EXTRA_DAYS = {("P08", "A360"): 8, ("P03", "A150"): 1}
HALF_POSTED = {"A250", "A320", "A460", "A850", "A330", "A360", "A405", "A450", "A530"}
NOTES = {("P06", "A230"): "Dock gate under repair, no work on the hull from Tuesday to Thursday.",
         ("P08", "A250"): "Thickness readings below limit on frames 22 to 31; more plate than priced.",
         ("P08", "A360"): "Maker's cell line stopped; delivery now eight working days later.",
         ("P10", "A320"): "Two plates re-cut, survey asked for thicker webs.",
         ("P10", "A460"): "Started while the last penetrations are still being cut, to use the electricians."}
GATE = {"from": "2027-02-09T00:00", "to": "2027-02-12T00:00", "reason": "Dock gate under repair"}


BY_ORDER = {activity: order for order, (activity, *_) in ORDERS.items()}
CREW: list[Doc] = [
    {"do": "set", "row": "A375", "cells": {"duration": "6d"}, "was": {"duration": "10d"}},
    {"do": "assign", "activity": "A375", "resource": "ELE", "cells": {"units": 5}, "was": {"units": 3}},
    {"do": "set", "row": "A470", "cells": {"duration": "7d"}, "was": {"duration": "10d"}},
    {"do": "assign", "activity": "A470", "resource": "ELE", "cells": {"units": 6}, "was": {"units": 4}},
    {"do": "cost", "activity": "A470", "name": "Second crew, lodging and travel",
     "cells": {"kind": "fixed", "amount": "6400.00", "accrual": "uniform"}},
]
OPTIONS: list[Doc] = [
    {"code": "O1", "name": "Commission while cables are terminated", "notes": "Rework if a cable route changes late",
     "changes": [{"do": "link", "from": "A470", "to": "A710", "cells": {"lag": "-4d"}, "was": {"lag": None}}]},
    {"code": "O2", "name": "Second electrical crew", "notes": "Crew not yet asked; two weeks' notice", "changes": CREW},
    {"code": "O3", "name": "Second crew, and drawings drawn as trials run", "notes": "Drawings may have to be amended after trials",
     "changes": [*CREW, {"do": "unlink", "from": "A760", "to": "A820", "type": "FS"},
                 {"do": "link", "from": "A760", "to": "A820", "type": "SS", "cells": {"lag": "4d"}}]},
]
"""Three ways to win back what the late batteries cost, before the summer timetable."""


def main() -> None:
    doc = plan()
    changes = doc.pop("changes")  # they name a baseline that is taken on the way
    _baseline(doc, "B0", "Approved plan", "2026-12-18T16:00", "Lorcan Astley", "First approved plan", None)
    doc["project"] |= {"measured_against": "B0", "compared_with": []}
    doc["periods"] = []
    for i, day in enumerate(PAGES, 1):
        code = f"P{i:02d}"
        if code == "P06":
            next(a for a in doc["activities"] if a["code"] == "A230")["pauses"] = [GATE]
        _play(doc, code, f"{day}T16:00", wet=i == len(PAGES))
        if code == "P06":
            _baseline(doc, "B1", "Berth works re-approved", "2027-02-12T16:00", "Lorcan Astley",
                      "Change 3: longer duct route at berth 2", "5")
            doc["project"]["compared_with"] = ["B1"]
            ducts = next(a for a in doc["baselines"][-1]["activities"] if a["code"] == "A510")
            ducts["cost_lines"].append({"name": "Longer route", "amount": "4200.00", "accrual": "uniform", "profile": "uniform"})
            doc["changes"] = changes
    doc["options"] = OPTIONS
    book_from(doc)
    (HERE.parent / "ferry.json").write_text(json.dumps(doc, indent=1, ensure_ascii=False) + "\n")


def _baseline(doc: Doc, code: str, name: str, taken: str, by: str, reason: str, branch: str | None) -> None:
    book = book_from(doc)
    taken_now = snapshot(book, compute(book).schedule, code, name, from_text(taken), by, reason)
    if branch is not None:
        first = book.baseline_by_code["B0"]
        taken_now = replace(taken_now, activities=tuple(a if a.wbs == branch else first.by_code[a.code] for a in taken_now.activities))
    doc.setdefault("baselines", []).append(_baseline_document(doc, taken_now))


def _baseline_document(doc: Doc, b: Baseline) -> Doc:
    plans = {a["code"]: a for a in doc["activities"]}
    used = {c.code for c in b.calendars}
    return {"code": b.code, "name": b.name, "taken": to_text(b.taken), "approved_by": b.approved_by, "reason": b.reason,
            "calendar": b.calendar, "calendars": [c for c in doc["calendars"] if c["code"] in used],
            "activities": [{
                "code": a.code, "name": a.name, "wbs": a.wbs, "calendar": a.calendar, "start": to_text(a.start),
                "finish": to_text(a.finish), "duration": f"{a.duration}min", "work": f"{a.work}min",
                "pauses": plans[a.code].get("pauses", []) if a.pauses else [], "value_method": plans[a.code].get("value_method", {"type": "percent"}),
                "cost_lines": [{"name": x.name, "amount": f"{x.amount}", "accrual": x.accrual, "profile": x.profile}
                               for x in a.cost_lines],
                "assignments": [{"resource": x.resource, "work": f"{x.work}min", "cost": f"{x.cost}"} for x in a.assignments],
            } for a in b.activities]}


def _play(doc: Doc, code: str, status: str, wet: bool) -> None:
    """One week: what the forecast of the page before said would happen, at each activity's own pace."""
    page: Doc = {"code": code, "status": status, "state": "wet" if wet else "dry", "statements": [], "hours": [], "costs": []}
    book = book_from(doc)
    before = compute(book)
    t, since = from_text(status), before.status if before.status is not None else from_text("2027-01-04T00:00")
    doc["periods"].append(page)
    finished = {a.code: before.progress[a.code].actual_finish for a in book.activities}
    for a in _in_order(book):
        p, row, axis = before.progress[a.code], before.schedule.activities[a.code], book.axes[a.code]
        if p.state == "complete" or (wet and a.code not in HALF_POSTED):
            continue
        start = p.actual_start
        if start is None:
            waits = [k for k in book.links if k.target == a.code]
            ready = [finished[k.source] for k in waits]
            if any(f is None for f in ready) and a.code not in EARLY:
                continue
            asked = [shift(book.axis, f, k) for f, k in zip(ready, waits, strict=True) if f is not None]
            first = max([book.project.start, row.start if not waits or a.constraint else 0, *asked])
            start = axis.last(axis.pos(first) + 480 * LATE_START.get(a.code, 0)) if a.duration else first
            start = from_text(EARLY[a.code]) if a.code in EARLY else start
        if start > t or (start == t and a.duration):
            continue
        if not a.duration:
            finished[a.code] = start
            page["statements"].append({"activity": a.code, "actual_start": to_text(start), "actual_finish": to_text(start)})
            continue
        worked = axis.between(max(start, since), t)
        pace = Decimal(str(PACE.get(a.code, 1)))
        left = max(p.remaining - worked * pace, Decimal(0)) + 480 * EXTRA_DAYS.get((code, a.code), 0)
        left = Decimal(round(left / 240) * 240) if left > 120 else Decimal(0)
        s: Doc = {"activity": a.code, "actual_start": to_text(start)}
        if not left:
            spent = min(int(p.remaining / pace), worked)
            finish = axis.first(axis.pos(max(start, since)) + max(spent, 1))
            finished[a.code] = min(finish, t)
            s |= {"actual_finish": to_text(min(finish, t))}
            worked = spent
        else:
            s |= {"percent": max(min(round(100 * (1 - left / (a.duration + 480 * EXTRA_DAYS.get((code, a.code), 0)))), 95), 1),
                  "remaining": f"{(left / 480).normalize():f}d"}
        if (code, a.code) in NOTES:
            s["note"] = NOTES[code, a.code]
        page["statements"].append(s)
        _hours(book, page, a.code, worked, int(left))
        _invoices(book, page, a.code, p.state == "not_started", not left, status[:10])
    _stories(page)


def _in_order(book: Book) -> list[Activity]:
    index = {c: i for i, c in enumerate(book.activity_by_code)}
    order = topological_order(len(index), [(index[k.source], index[k.target]) for k in book.links])
    return [book.activities[i] for i in order]


def _hours(book: Any, page: Doc, code: str, worked: int, left: int) -> None:
    for x in book.assignments_of.get(code, ()):
        r = book.resource_by_code[x.resource]
        if r.kind == "material" or (not r.rates and r.code == "CLS"):
            continue
        hours = round(float(worked * x.units) / 60 * HOURS.get(code, 1))
        page["hours"].append({"activity": code, "resource": x.resource, "worked": f"{hours}h",
                              "to_go": f"{round(float(left * x.units) / 60)}h"})


def _invoices(book: Any, page: Doc, code: str, started: bool, finished: bool, day: str) -> None:
    for i, c in enumerate(book.costs_of.get(code, ()), 1):
        due = started if c.accrual == "start" else finished
        if due and code != "A298":
            factor = Decimal("1.18") if code == "A250" else Decimal(1)
            ordered = {"order": BY_ORDER[code], "for": c.code} if code in BY_ORDER else {}
            page["costs"].append({"activity": code, "date": day, "amount": f"{c.amount * factor:.2f}", "source": "invoice",
                                  "ref": f"{code}-{i}", **ordered})
    for x in book.assignments_of.get(code, ()):
        if x.resource == "CAB" and finished:
            page["costs"].append({"activity": code, "date": day, "amount": f"{x.quantity * Decimal('41.50'):.2f}",
                                  "source": "invoice", "ref": f"{code}-cable"})


def _stories(page: Doc) -> None:
    """An accrual and the invoice that reverses it; a correction of week 4's hours; slip hire by the fortnight."""
    code, day = page["code"], page["status"][:10]
    extra = {
        "P06": [{"activity": "A600", "amount": "-1248.00", "source": "correction", "ref": "P04, 16 h of controls booked twice"}],
        "P07": [{"activity": "A298", "amount": "14500.00", "source": "accrual", "ref": "SLIP-01"}],
        "P08": [{"wbs": "3", "amount": "2650.00", "source": "invoice", "ref": "Scaffold, forward void"}],
        "P09": [{"activity": "A298", "amount": "15100.00", "source": "invoice", "ref": "SLIP-01"},
                {"activity": "A510", "amount": "21500.00", "source": "accrual", "ref": "CIVIL-01", "order": "PO-04"}],
        "P10": [{"activity": "A298", "amount": "14800.00", "source": "accrual", "ref": "SLIP-02"}],
    }.get(code, [])
    page["costs"] += [{"date": day, **x} for x in extra]
    if code == "P09":  # what cannot be true, to be mended on the open page: hours still to go on work that is finished
        next(h for h in page["hours"] if h["activity"] == "A430")["to_go"] = "6h"


if __name__ == "__main__":
    main()
