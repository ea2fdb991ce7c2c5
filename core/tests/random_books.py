"""Random books of a few activities with everything the format knows, valid by construction; the same seed, the same book."""

import random
from datetime import datetime, timedelta
from typing import Any

from dryledger.book.lists import VALUE_METHODS

Doc = dict[str, Any]
DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
START = datetime(2027, 1, 4, 8)


def text(t: datetime) -> str:
    return t.isoformat(timespec="minutes")


class Maker:
    """One book."""

    def __init__(self, seed: int, most: int = 12) -> None:
        self.r = random.Random(seed)
        self.apart = random.Random(f"apart {seed}")
        """For what came later: the books of known seeds stay as they were."""
        self.n = self.r.randint(2, most)
        self.codes = [f"A{i}" for i in range(self.n)]

    def chance(self, share: float) -> bool:
        return self.r.random() < share

    def day(self, low: int, high: int) -> datetime:
        """An instant some days after the start, mostly at an hour at which people work."""
        hour = self.r.choice([8, 8, 10, 12, 13, 17, 17, 0, 23, 3])
        return START.replace(hour=hour, minute=self.r.choice([0, 0, 0, 30])) + timedelta(days=self.r.randint(low, high))

    def calendars(self) -> list[Doc]:
        r = self.r
        office = ["08:00-12:00", "13:00-17:00"]
        early: Doc = {key: ["06:00-14:00"] for key in DAYS[:6]}
        night: Doc = {key: ["00:00-06:00", "22:00-24:00"] for key in DAYS[:5]}
        out: list[Doc] = [
            {"code": "five", "name": "Five", "week": dict.fromkeys(DAYS[:5], office)},
            {"code": "six", "name": "Six", "week": early, "hours_per_day": 7.5, "hours_per_week": 48},
            {"code": "night", "name": "Night", "week": night},
            {"code": "clock", "name": "Clock", "week": {key: ["00:00-24:00"] for key in DAYS}, "hours_per_day": 24, "hours_per_week": 168},
        ]
        for c in out:
            if self.chance(0.4):
                a = self.day(0, 15).date()
                shifts = r.choice([[], ["09:00-12:00"], ["00:00-24:00"]])
                c["exceptions"] = [{"from": f"{a}", "to": f"{a + timedelta(days=r.randint(0, 3))}", "shifts": shifts}]
        return out

    def resources(self) -> list[Doc]:
        r = self.r
        out: list[Doc] = []
        for code, kind, pers in (
            ("L1", "labour", ["hour"]),
            ("L2", "labour", ["hour", "day", "week", "month", "started_hour", "use"]),
            ("E1", "equipment", ["hour", "day", "use", "month"]),
            ("M1", "material", ["unit"]),
        ):
            rates = []
            for per in r.sample(pers, r.randint(1, min(2, len(pers)))):
                for first in ["2026-01-01", *(f"{self.day(0, 20).date()}" for _ in range(r.randint(0, 1)))]:
                    row = {"from": first, "amount": f"{r.randint(1, 90)}.{r.randint(0, 99):02}", "per": per}
                    rates.append(row | ({"overtime": f"{r.randint(1, 90)}.50"} if self.chance(0.3) else {}))
            row = {"code": code, "name": code, "kind": kind, "rates": rates, "calendar": r.choice(["five", "clock"])}
            if kind != "material" and self.chance(0.4):
                since = self.day(0, 12).date()
                leave = {"from": f"{since}", "to": f"{since + timedelta(days=r.randint(0, 4))}", "units": r.choice([0, 0, 0.5, 2])}
                row["exceptions"] = [leave]
            out.append(row)
        return out

    def method(self, code: str, others: list[str]) -> Doc:
        r = self.r
        kind = r.choice(VALUE_METHODS)
        if kind == "apportioned" and not others:
            kind = "percent"
        if kind == "start_share":
            return {"type": kind, "share": r.choice([0.25, 0.3, 0.75])}
        if kind == "milestones":
            return {
                "type": kind,
                "weights": [{"name": f"m{i}", "weight": r.randint(1, 3), "at": r.choice([0, 0.25, 0.5, 1])} for i in range(3)],
            }
        if kind == "units":
            return {"type": kind, "planned": r.choice([7, 40])}
        return {"type": kind, "base": r.choice(others)} if kind == "apportioned" else {"type": kind}

    def activities(self) -> list[Doc]:
        r = self.r
        out = []
        measured: list[str] = []
        for code in self.codes:
            a: Doc = {"code": code, "name": code, "calendar": r.choice(["five", "five", "five", "six", "night", "clock"])}
            if self.chance(0.8):
                a["wbs"] = r.choice(["1", "1.1", "1.2", "2"])
            if self.chance(0.15):
                a["kind"] = "milestone"
            else:
                a["duration"] = r.choice(["1d", "2d", "3d", "5d", "7h", "90min", "1.5d", "2w", "1min", "0.1mo"])
            if self.chance(0.1):
                start = self.day(0, 20)
                a |= {"mode": "fixed", "start": text(start), "finish": text(start + timedelta(hours=r.choice([0, 5, 24, 60, 100])))}
            if self.chance(0.25):
                kind = r.choice(
                    [
                        "start_on_or_after",
                        "start_on_or_before",
                        "finish_on_or_after",
                        "finish_on_or_before",
                        "must_start_on",
                        "must_finish_on",
                        "as_late_as_possible",
                        "as_late_as_possible",
                    ]
                )
                a["constraint"] = {"type": kind} | ({} if kind.startswith("as_late") else {"at": text(self.day(0, 25))})
            if self.chance(0.15):
                start = self.day(0, 12)
                a["pauses"] = [{"from": text(start), "to": text(start + timedelta(hours=r.choice([6, 30, 80])))}]
            if self.chance(0.3):
                a["driver"] = "work"
            a["profile"] = r.choice(["uniform", "front", "back", "bell"])
            a["value_method"] = self.method(code, measured)
            if a["value_method"]["type"] != "apportioned":
                measured.append(code)
            out.append(a)
        return out

    def links(self) -> list[Doc]:
        r = self.r
        out = []
        for _ in range(r.randint(0, self.n + 4)):
            i, j = sorted(r.sample(range(self.n), 2))
            k: Doc = {"from": self.codes[i], "to": self.codes[j], "type": r.choice(["FS", "FS", "SS", "FF", "SF"])}
            if self.chance(0.4):
                k["lag"] = r.choice(["1d", "-1d", "3h", "-5h", "2d", "30min", "1w", "0.5d"])
                k["lag_basis"] = r.choice(["working", "working", "elapsed"])
            out.append(k)
        return out

    def linked(self) -> Doc:
        """The links; now and then some that lead from activities of other projects."""
        links = self.links()
        if self.apart.random() < 0.7:
            return {"links": links}
        outside = []
        for i in range(self.apart.randint(1, 3)):
            start = self.day(self.apart.randint(0, 10), self.apart.randint(10, 25))
            finish = start + timedelta(hours=self.apart.choice([0, 7, 60, 200]))
            x: Doc = {"code": f"PIER/A{i}", "name": f"Other {i}", "start": text(start), "finish": text(finish)}
            x["state"] = self.apart.choice(["not_started", "in_progress", "complete"])
            outside.append(x | self.apart.choice([{}, {"status": text(start), "last_start": text(start), "last_finish": text(finish)}]))
            links += [
                {"from": x["code"], "to": c, "type": self.apart.choice(["FS", "SS", "FF", "SF"])}
                | self.apart.choice([{}, {"lag": "1d"}, {"lag": "-5h"}, {"lag": "9h", "lag_basis": "elapsed"}])
                for c in self.apart.sample(self.codes, self.apart.randint(1, min(3, self.n)))
            ]
        return {"externals": outside, "links": links}

    def assignments(self) -> list[Doc]:
        r = self.r
        out = []
        for code in self.codes:
            for resource in r.sample(["L1", "L2", "E1", "M1"], r.randint(0, 2)):
                x: Doc = {"activity": code, "resource": resource, "units": r.choice([0.5, 0.3, 1, 1, 2])}
                if resource == "M1":
                    x["quantity"] = r.choice([3, 12.5])
                elif self.chance(0.6):
                    x["work"] = r.choice(["8h", "20h", "45min", "3d"])
                out.append(x)
        return out

    def costs(self) -> list[Doc]:
        r = self.r
        out = []
        for code in self.codes:
            if self.chance(0.4):
                c = {
                    "activity": code,
                    "name": "Cost",
                    "kind": r.choice(["fixed", "per_day"]),
                    "amount": f"{r.randint(1, 999)}.{r.randint(0, 99):02}",
                }
                out.append(c | {"accrual": r.choice(["start", "uniform", "finish"]), "in_budget": self.chance(0.9)})
        return out

    def baseline(self, code: str, calendars: list[Doc]) -> Doc:
        r = self.r
        rows: list[Doc] = []
        measured: list[str] = []
        for name in [c for c in self.codes if self.chance(0.9)] + (["GONE"] if self.chance(0.3) else []):
            start = self.day(0, 15)
            finish = start + timedelta(hours=r.choice([0, 4, 20, 50, 120, 200]))
            lines = [
                {
                    "name": "Line",
                    "amount": f"{r.randint(0, 2000)}.{r.randint(0, 99):02}",
                    "accrual": r.choice(["uniform", "uniform", "start", "finish"]),
                    "profile": r.choice(["uniform", "front", "back", "bell"]),
                }
                for _ in range(r.randint(0, 3))
            ]
            row = {"code": name, "name": name, "calendar": r.choice(["five", "clock"]), "start": text(start), "finish": text(finish)}
            row |= {"duration": r.choice(["1d", "3d"]), "work": "8h", "cost_lines": lines, "value_method": self.method(name, measured)}
            if row["value_method"]["type"] != "apportioned":
                measured.append(name)
            if self.chance(0.2):
                pause = self.day(0, 12)
                row["pauses"] = [{"from": text(pause), "to": text(pause + timedelta(hours=r.choice([5, 20, 60])))}]
            if self.chance(0.8):
                row["wbs"] = r.choice(["1", "1.1", "1.2", "2"])
            rows.append(row)
        kept = [c for c in calendars if c["code"] in ("five", "clock")]
        return {"code": code, "name": code, "taken": "2027-01-01T08:00", "calendar": "five", "calendars": kept, "activities": rows}

    def periods(self, activities: list[Doc], assignments: list[Doc]) -> list[Doc]:
        r = self.r
        out: list[Doc] = []
        day = 1
        started: dict[str, datetime] = {}
        for n in range(r.randint(0, 5)):
            day += r.randint(1, 5)
            status = START.replace(hour=r.choice([17, 12, 17, 0])) + timedelta(days=day)
            page: Doc = {"code": f"P{n}", "status": text(status), "statements": [], "hours": [], "costs": []}
            for a in activities:
                if self.chance(0.5):
                    page["statements"].append(self.statement(a, status, started))
            for x in assignments:
                if x["resource"] != "M1" and self.chance(0.4):
                    h = {"activity": x["activity"], "resource": x["resource"], "worked": r.choice(["0h", "3h", "8h", "90min"])}
                    h |= {"overtime": "2h"} if self.chance(0.2) else {}
                    page["hours"].append(h | ({"to_go": r.choice(["0h", "4h", "15h"])} if self.chance(0.4) else {}))
            for _ in range(r.randint(0, 3)):
                where = {"activity": r.choice(self.codes)} if self.chance(0.7) else {"wbs": r.choice(["1", "1.1", "2"])}
                when = (status - timedelta(days=r.randint(-2, 6))).date()
                cost = where | {"date": f"{when}", "amount": f"{r.choice(['', '-'])}{r.randint(1, 500)}.{r.randint(0, 99):02}"}
                source = r.choice(["invoice", "accrual", "accrual", "feed", "correction"])
                page["costs"].append(cost | {"source": source} | ({"ref": r.choice(["R1", "R2"])} if self.chance(0.6) else {}))
                page["costs"][-1] |= {"text": "Paint; two tins"} if self.apart.random() < 0.2 else {}
            for s in page["statements"] if out else ():
                s |= {"corrects": self.apart.choice(out)["code"], "reason": "misread"} if self.apart.random() < 0.15 else {}
            page["hours"] += self.corrections(out, page)
            out.append(page)
        return out

    def corrections(self, before: list[Doc], page: Doc) -> list[Doc]:
        """Hours of earlier pages taken back or added to, never below nothing."""
        out: list[Doc] = []
        for earlier in before:
            for h in earlier["hours"]:
                if "corrects" in h or not self.chance(0.25):
                    continue
                back = {"0h": "0h", "3h": "-90min", "8h": "-8h", "90min": "-90min"}[h["worked"]]
                taken = any(
                    x.get("corrects") and (x["activity"], x["resource"]) == (h["activity"], h["resource"])
                    for p in [*before, page]
                    for x in [*p["hours"], *out]
                )
                worked = "45min" if taken else self.r.choice([back, back, "2h"])
                row = {"activity": h["activity"], "resource": h["resource"], "worked": worked, "corrects": earlier["code"]}
                out.append(row | {"reason": "booked twice"})
        return out

    def statement(self, a: Doc, status: datetime, started: dict[str, datetime]) -> Doc:
        r, code = self.r, a["code"]
        s: Doc = {"activity": code}
        if self.chance(0.75):
            start = started.setdefault(code, min(status, self.day(0, max((status - START).days, 0))))
            s["actual_start"] = text(start)
            if self.chance(0.35):
                s["actual_finish"] = text(min(status, start + timedelta(hours=r.choice([0, 9, 30, 100]))))
        if self.chance(0.5):
            s["percent"] = r.choice([0, 12.5, 33, 50, 90, 100])
        if self.chance(0.4):
            s["remaining"] = r.choice(["0d", "1d", "5h", "3d"])
        if self.chance(0.2):
            s["carry_to"] = text(status + timedelta(days=r.randint(-2, 6)))
        if self.chance(0.3):
            s["units_done"] = r.choice([1, 3.5, 50])
        if self.chance(0.3):
            s["milestones_reached"] = r.sample(["m0", "m1", "m2"], r.randint(0, 3))
        return s

    def book(self) -> Doc:
        r = self.r
        calendars, activities, assignments = self.calendars(), self.activities(), self.assignments()
        baselines = [self.baseline("B0", calendars), self.baseline("B1", calendars)]
        project: Doc = {
            "code": "X",
            "name": "Random",
            "currency": r.choice(["EUR", "EUR", "JPY", "KWD"]),
            "start": text(START),
            "calendar": "five",
        }
        if self.chance(0.85):
            project |= {"measured_against": "B0", "compared_with": ["B1"]}
        if self.chance(0.2):
            project["imposed_finish"] = text(self.day(5, 40))
        if self.apart.random() < 0.5:
            project |= {
                "rhythm": {"every": "week", "on": "fri"},
                "limits": {"lag": self.apart.choice([0, 3]), "percent": self.apart.choice([5, 40])},
            }
        project["eac"] = r.choice(["bottom_up", "cpi", "budget", "cpi_spi", "recent"])
        project["critical_float"] = r.choice(["0d", "1d"])
        periods = self.periods(activities, assignments)
        _only_known_milestones(periods, activities, baselines)
        found = {
            "format": "dry-ledger-book",
            "version": 1,
            "project": project,
            "calendars": calendars,
            "resources": self.resources(),
            "wbs": [
                {"code": "1", "name": "One"},
                {"code": "1.1", "name": "One one", "parent": "1"},
                {"code": "1.2", "name": "One two", "parent": "1"},
                {"code": "2", "name": "Two"},
            ],
            "activities": [self.levelled(a) for a in activities],
            **self.linked(),
            "assignments": assignments,
            "costs": self.costs(),
            "baselines": baselines,
            "periods": periods,
            "answers": [self.answer(p["code"]) for p in periods if self.apart.random() < 0.7],
            "mark_rules": self.mark_rules() if self.apart.random() < 0.4 else [],
            **self.report_layout(),
            **self.options(),
            "progress_lines": [{"at": "2027-01-15T17:00", "name": "Half way"}] if self.apart.random() < 0.3 else [],
        }
        found = self.paid(found) if self.apart.random() < 0.6 else found
        if self.apart.random() < 0.4:
            found = self.tied(found)
        return found if self.apart.random() < 0.6 else self.organised(found)

    def tied(self, doc: Doc) -> Doc:
        """The same with promises that hand resources over, some of them in a circle, untied, ended or for nothing."""
        r, pages, on = self.apart, [p["code"] for p in doc["periods"]], [(x["activity"], x["resource"]) for x in doc["assignments"]]
        start = f"2027-02-0{r.randint(1, 5)}T08:00"

        def tie() -> Doc:
            (a, x), (b, y) = r.choice(on), r.choice(on)
            mates = [c for c, z in on if z == x and c != a]
            out: Doc = {"from": a, "to": r.choice(mates) if mates else b, "resource": r.choice([x, x, x, y]), "units": r.choice([1, 2, 8])}
            return out | ({"ended": r.choice(pages)} if pages and r.random() < 0.2 else {})

        promises = [
            {
                "code": f"T{i}",
                "approved_by": "Ann",
                "chain": [{"code": "A0", "length": "0min"}],
                "buffer": {"size": "0min", "start": start, "end": start},
            }
            | {"ties": [t for t in (tie() for _ in range(r.randint(1, 6) if on else 0)) if t["from"] != t["to"]]}
            | ({"page": r.choice(pages)} if pages and r.random() < 0.5 else {})
            for i in range(r.randint(1, 2))
        ]
        return doc | {"promises": [*doc.get("promises", []), *promises]}

    def paid(self, doc: Doc) -> Doc:
        """The same with what money is named by: what follows progress, orders, what entries pay, final invoices."""
        r = self.apart
        follow = lambda: r.choice([{}, {}, {"actuals": "progress"}, {"actuals": "posted"}])  # noqa: E731
        amount = lambda: f"{r.choice(['', '', '', '-'])}{r.randint(1, 900)}.{r.randint(0, 9999):04}"  # noqa: E731
        doc["project"] |= follow()
        for row in doc["resources"]:
            row |= follow() | ({"roles": ["L2"]} if row["code"] == "L1" and r.random() < 0.3 else {})
        for i, c in enumerate(doc["costs"]):
            c |= {"code": f"D{i}"} if r.random() < 0.8 else {}
        payable = [(c["code"], c["activity"]) for c in doc["costs"] if "code" in c]
        payable += [(f"{x['activity']}/{x['resource']}", x["activity"]) for x in doc["assignments"]]
        for x in [*doc["costs"], *doc["assignments"]]:
            x |= follow() | r.choice([{}, {}, {"to_order": f"{r.randint(0, 300)}.50"}])
            x |= {"closed": r.choice([True, f"2027-01-{r.randint(4, 29):02}"])} if r.random() < 0.15 else {}
        doc["orders"] = [
            {"code": f"O{i}", "state": r.choice(["open", "open", "closed"]), "lines": [{"for": n, "amount": amount()} for n in chosen]}
            for i in range(r.randint(0, 3) if payable else 0)
            for chosen in [[n for n, _ in r.choices(payable, k=r.randint(1, 3))]]
        ]
        above, homes = {"1": ["1"], "1.1": ["1.1", "1"], "1.2": ["1.2", "1"], "2": ["2"]}, dict(payable)
        wbs = {a["code"]: a.get("wbs", "") for a in doc["activities"]}

        def pays(entry: Doc, name: str) -> bool:
            home = homes[name]
            return home == entry["activity"] if "activity" in entry else entry["wbs"] in above.get(wbs[home], ())

        for page in doc["periods"]:
            for entry in page["costs"]:
                can = [n for n in homes if pays(entry, n)]
                orders = [o["code"] for o in doc["orders"] if any(pays(entry, x["for"]) for x in o["lines"])]
                entry |= {"for": r.choice([*can, "-"])} if can and r.random() < 0.4 else {}
                entry |= {"order": r.choice(orders)} if orders and r.random() < 0.5 else {}
            for s in page["statements"]:
                dates = [k for k in ("actual_start", "actual_finish") if k in s]
                s |= {"assumed": [r.choice(dates)]} if dates and r.random() < 0.2 else {}
        return doc

    def organised(self, doc: Doc) -> Doc:
        """A book of a kind of project, with own fields, that draws on resources of the organisation."""
        for r in doc["resources"]:
            r |= {"L1": {"shared": "ELE"}, "E1": {"shared": "CRANE", "own_rates": True}}.get(r["code"], {})
        for activity in self.apart.sample(doc["activities"], 2):
            activity["fields"] = {"bay": self.apart.choice(["N", "12", "-"]), "damp": self.apart.random() < 0.5}
        doc["project"] |= {"kind": "Refit", "fields": {"berth": "Slip", "depth": self.apart.choice([3, 2.25])}}
        doc["fields"] = [
            {"code": "berth", "name": "Berth", "kind": "choice", "options": ["Slip", "Quay"], "of": "project", "given_by": "kind"},
            {"code": "bay", "name": "Bay", "in_reports": "yes", "given_by": "kind"},
            {"code": "damp", "name": "Damp", "kind": "yes_no"},
            {"code": "depth", "name": "Depth", "kind": "number", "of": "project"},
        ]
        return doc

    def levelled(self, activity: Doc) -> Doc:
        """An activity, now and then with the date that levelling gave it."""
        if self.apart.random() < 0.85:
            return activity
        return activity | {"levelled": f"2027-01-{self.apart.randint(4, 29):02}T{self.apart.choice(['00', '08', '11', '17'])}:00"}

    def report_layout(self) -> Doc:
        """A layout of the report, now and then."""
        if self.apart.random() < 0.6:
            return {}
        sections = self.apart.sample(["overall", "money", "curve", "heads"], self.apart.randint(0, 4))
        return {"report_layout": {"sections": sections, "heads": ["Safety"], "levels": self.apart.randint(1, 3)}}

    def options(self) -> Doc:
        """Options and a promise, now and then: for reading and writing, not for sense."""
        if self.apart.random() < 0.7:
            return {}
        a, b = self.apart.sample(self.codes, 2)
        changes: list[Doc] = [
            {"do": "set", "row": a, "cells": {"duration": "3d", "constraint": None}, "was": {"duration": "2d"}},
            {"do": "link", "from": a, "to": b, "type": "SS", "cells": {"lag": "-2d"}},
            {"do": "assign", "activity": b, "resource": "L1", "cells": {"units": 0.25}},
            {"do": "uncost", "activity": a, "name": "Cost"},
            {"do": "project", "cells": {"treatment": "override"}},
            {"do": "resource", "row": "L1", "cells": {"units": 3}},
        ]
        buffer = {"size": "480min", "start": "2027-02-01T17:00", "end": "2027-02-02T17:00"}
        chain = [{"code": a, "length": "960min"}, {"code": "GONE", "length": "0min"}]
        promise: Doc = {"code": "K1", "approved_by": "Ann", "chain": chain, "buffer": buffer}
        promise |= {"feeding": [{"chain": [{"code": b, "length": "1d"}], "join": a, "buffer": buffer}]} if self.apart.random() < 0.7 else {}
        return {
            "options": [
                {"code": "O1", "name": "Second shift", "notes": "crew not yet asked", "changes": self.apart.sample(changes, 4)},
                {"code": "O2", "name": "Nothing yet", "state": "adopted"},
            ],
            "promises": [promise],
        }

    def mark_rules(self) -> list[Doc]:
        """Rules with a condition of each sort."""
        conditions: list[Doc] = [
            {"figure": "state", "is": "one_of", "value": ["complete", "not_started"]},
            {"figure": "finish_difference", "is": ">=", "value": "-2d"},
            {"figure": "start", "is": "<=", "working_days": self.apart.randint(-3, 9)},
            {"figure": "finish", "is": ">", "than": "baseline_finish"},
            {"figure": "bac", "is": "!=", "value": "120.50"},
            {"figure": "percent", "is": "<", "value": self.apart.choice([0, 12.5])},
            {"figure": "critical", "is": "=", "value": True},
            {"figure": "carry_to", "is": "empty"},
            {"figure": "name", "is": "=", "value": "12"},
        ]
        rules: list[Doc] = []
        for n in range(self.apart.randint(1, 4)):
            chosen = self.apart.sample(conditions, self.apart.randint(0, 3))
            mark, match = self.apart.choice(["act", "watch", "soon"]), self.apart.choice(["all", "any"])
            rules.append({"code": f"R{n}", "scope": "activity", "match": match, "mark": mark, "conditions": chosen})
        return [*rules, {"code": "P", "scope": "project", "mark": "act", "reason": "SPI {spi}; {{}}"}]

    def answer(self, page: str) -> Doc:
        """A finding that somebody accepted."""
        check = self.apart.choice(["long_lag", "percent_far", "progress_fell", "no_successor"])
        until = self.apart.choice([{}, {"until": page}, {"until": "P9"}])
        return {"check": check, "row": self.apart.choice(self.codes), "page": page, "text": "known", **until}


def _only_known_milestones(periods: list[Doc], activities: list[Doc], baselines: list[Doc]) -> None:
    """A statement may name only weighted milestones that the activity has, in the plan or in a baseline."""
    known: dict[str, set[str]] = {}
    for a in [*activities, *(x for b in baselines for x in b["activities"])]:
        known.setdefault(a["code"], set()).update(w["name"] for w in a.get("value_method", {}).get("weights", []))
    for s in (s for p in periods for s in p["statements"] if "milestones_reached" in s):
        s["milestones_reached"] = [m for m in s["milestones_reached"] if m in known[s["activity"]]]


def random_book(seed: int, most: int = 12) -> Doc:
    """The book of a seed."""
    return Maker(seed, most).book()
