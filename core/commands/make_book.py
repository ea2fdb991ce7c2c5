"""`./dry make-book --activities N --seed S`: a plausible book of any size on standard output, for trying things at scale.

The same number and seed give the same book. Work runs in streams of some thirty activities; each activity follows the
one before it in its stream and one of a neighbouring stream, so the project gets wider with size, not longer.
"""

import argparse
import itertools
import json
import random
import sys
from datetime import date, timedelta
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).parents[1]))


from dryledger.baseline.snapshot import snapshot
from dryledger.book.baselines import Baseline
from dryledger.book.lists import LISTS
from dryledger.calendar.calendar import from_text, to_text
from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from dryledger.exchange.write import row_document

Doc = dict[str, Any]
START = date(2027, 1, 4)
STREAM = 30
PAGES = 4
DAY_SHIFTS = ["08:00-12:00", "13:00-17:00"]
WORKDAYS = ("mon", "tue", "wed", "thu", "fri")
TRADES = ["Survey", "Design", "Excavate", "Lay out", "Assemble", "Weld", "Wire", "Paint", "Test", "Hand over"]


def calendars() -> list[Doc]:
    """Five days with holidays, six early days, and round the clock with a night shift across midnight."""
    breaks = [{"from": f"{y}-12-24", "to": f"{y}-12-31", "shifts": [], "name": "Winter break"} for y in range(2027, 2034)]
    early = {key: ["06:00-14:00"] for key in (*WORKDAYS, "sat")}
    clock = {key: ["00:00-06:00", "06:00-14:00", "14:00-22:00", "22:00-24:00"] for key in (*WORKDAYS, "sat", "sun")}
    return [
        {"code": "five", "name": "Five-day week", "week": dict.fromkeys(WORKDAYS, DAY_SHIFTS), "exceptions": breaks},
        {"code": "six", "name": "Six early days", "week": early, "exceptions": breaks, "hours_per_week": 48},
        {"code": "clock", "name": "Round the clock", "week": clock, "hours_per_day": 24, "hours_per_week": 168},
    ]


def resources(rng: random.Random) -> list[Doc]:
    """Eight trades with two rates each, two machines and a material."""
    out: list[Doc] = []
    for i in range(8):
        rate = rng.randint(40, 95)
        rates = [{"from": f"{y}-01-01", "amount": f"{rate + 2 * (y - 2027)}.50", "per": "hour"} for y in (2027, 2028)]
        out.append({"code": f"L{i}", "name": f"Crew {i}", "units": rng.randint(2, 12), "rates": rates})
    for i in range(2):
        rates = [{"from": "2027-01-01", "amount": f"{rng.randint(200, 900)}.00", "per": "day"}]
        out.append({"code": f"E{i}", "name": f"Machine {i}", "kind": "equipment", "rates": rates})
    rates = [{"from": "2027-01-01", "amount": "12.40", "per": "unit"}]
    out.append({"code": "M0", "name": "Steel, kg", "kind": "material", "rates": rates})
    return out


def wbs(count: int) -> list[Doc]:
    """Work packages of ten activities, ten packages to a group, ten groups to a part."""
    out: list[Doc] = []
    packages = (count + 9) // 10
    for p in range(packages):
        part, group = p // 100, p // 10
        if p % 100 == 0:
            out.append({"code": f"W{part}", "name": f"Part {part}"})
        if p % 10 == 0:
            out.append({"code": f"W{part}.{group}", "name": f"Group {group}", "parent": f"W{part}"})
        out.append({"code": f"W{part}.{group}.{p}", "name": f"Package {p}", "parent": f"W{part}.{group}"})
    return out


def plan(count: int, rng: random.Random) -> Doc:
    """The book without baseline and pages."""
    activities, links, assignments, costs = [], [], [], []
    for i in range(count):
        code, package = f"A{i:06}", i // 10
        milestone = i % STREAM == STREAM - 1
        a: Doc = {"code": code, "name": f"{TRADES[i % 10]} {i}", "wbs": f"W{package // 100}.{package // 10}.{package}"}
        a["calendar"] = rng.choices(["five", "six", "clock"], [8, 3, 1])[0]
        if milestone:
            a["kind"] = "milestone"
        else:
            a["duration"] = f"{rng.randint(1, 15)}d"
            assignments.append({"activity": code, "resource": f"L{rng.randrange(8)}", "units": rng.choice([0.5, 1, 1, 2])})
            if rng.random() < 0.2:
                assignments.append({"activity": code, "resource": f"E{rng.randrange(2)}"})
            if rng.random() < 0.2:
                assignments.append({"activity": code, "resource": "M0", "quantity": rng.randint(1, 900)})
            if rng.random() < 0.4:
                costs.append({"activity": code, "name": "Bought in", "amount": f"{rng.randint(100, 9000)}.{rng.randint(0, 99):02}"})
            a["profile"] = rng.choice(["uniform", "uniform", "front", "back", "bell"])
            a["value_method"] = {"type": rng.choice(["percent", "percent", "percent", "zero_hundred", "fifty_fifty", "duration", "hours"])}
        activities.append(a)
        if i % STREAM:
            links.append({"from": f"A{i - 1:06}", "to": code} | _lag(rng))
        if i >= STREAM and i % STREAM:
            other = i - STREAM * rng.randint(1, min(4, i // STREAM)) - rng.randint(1, min(4, i % STREAM))
            links.append({"from": f"A{other:06}", "to": code} | _lag(rng))
    return {
        "format": "dry-ledger-book",
        "version": 1,
        "project": {"code": f"BIG{count}", "name": f"{count} activities", "currency": "EUR", "start": f"{START}T08:00", "calendar": "five"},
        "calendars": calendars(),
        "resources": resources(rng),
        "wbs": wbs(count),
        "activities": activities,
        "links": links,
        "assignments": assignments,
        "costs": costs,
    }


def _lag(rng: random.Random) -> Doc:
    kind = rng.choices(["FS", "SS", "FF", "SF"], [90, 6, 3, 1])[0]
    return ({} if kind == "FS" else {"type": kind}) | ({"lag": f"{rng.randint(1, 3)}d"} if rng.random() < 0.1 else {})


def page(number: int, status: str, before: str, base: Baseline, posts: dict[str, list[str]], rng: random.Random) -> Doc:
    """One page: what the baseline had begun, going on or ended since the page before, a little late here and there."""
    t, since = from_text(status), from_text(before)
    statements, hours, costs = [], [], []
    for a in base.activities:
        if a.start > t or a.finish <= since or (a.start == a.finish and a.start > t):
            continue
        stated: Doc = {"activity": a.code, "actual_start": to_text(a.start)}
        if a.finish <= t:
            stated["actual_finish"] = to_text(a.finish)
        else:
            stated["percent"] = rng.randint(5, 90)
            if rng.random() < 0.5:
                stated["remaining"] = f"{rng.randint(1, 12) * 4}h"
        statements.append(stated)
        for resource in posts.get(a.code, ()):
            hours.append({"activity": a.code, "resource": resource, "worked": f"{rng.randint(4, 60)}h"})
        if rng.random() < 0.2:
            day = (START + timedelta(days=(t - from_text(f"{START}T00:00")) // 1440 - rng.randint(0, 5))).isoformat()
            costs.append({"activity": a.code, "date": day, "amount": f"{rng.randint(50, 4000)}.00", "source": "invoice"})
    return {"code": f"P{number:02}", "status": status, "state": "dry", "statements": statements, "hours": hours, "costs": costs}


def make_book(count: int, seed: int) -> Doc:
    """A book of `count` activities as a document: calendars, links, costs, a baseline and four pages."""
    rng = random.Random(seed)
    out = plan(count, rng)
    bare = book_from(out)
    base = snapshot(bare, compute(bare).schedule, "B0", "Approved plan", from_text("2026-12-18T17:00"), "A. Example", "First plan")
    out["baselines"] = [row_document(LISTS["baselines"], base)]
    out["project"]["measured_against"] = "B0"
    posts: dict[str, list[str]] = {}
    for x in out["assignments"]:
        if x["resource"] != "M0":
            posts.setdefault(x["activity"], []).append(x["resource"])
    statuses = [f"{START + timedelta(days=25 + 28 * k)}T17:00" for k in range(-1, PAGES)]
    pairs = enumerate(itertools.pairwise(statuses), 1)
    out["periods"] = [page(k, status, before, base, posts, rng) for k, (before, status) in pairs]
    return out


def main() -> None:
    parser = argparse.ArgumentParser(prog="./dry make-book", description="Print a plausible book of any size.")
    parser.add_argument("--activities", type=int, default=1000)
    parser.add_argument("--seed", type=int, default=1)
    args = parser.parse_args()
    if not 1 <= args.activities <= 200_000:
        parser.error("--activities takes a number from 1 to 200000")
    json.dump(make_book(args.activities, args.seed), sys.stdout, ensure_ascii=False)
    print()


if __name__ == "__main__":
    main()
