"""The slow second implementation, sections 6 to 10: cost, value and measures. `oracle_curve` goes on from here.

Amounts are fractions until they are the smallest thing that has a name; then they are whole minor units.
"""

import itertools
import math
from datetime import date, timedelta
from fractions import Fraction
from functools import cache, cached_property
from typing import Any

from core.tests.oracle_paying import Paying
from core.tests.oracle_schedule import Book, Doc, F, at, length, line_of, on, opens, schedule, shape

ZERO = F(0)


def money(cells: int, digits: int) -> str:
    text = f"{abs(cells):0{digits + 1}d}"
    text = text[: len(text) - digits] + "." + text[len(text) - digits :] if digits else text
    return ("-" if cells < 0 else "") + text


class Spending:
    """A whole amount due from start to finish: `share(t)` of it by t, `due(t)` in whole units."""

    def __init__(
        self, amount: int, start: int, finish: int, line: Any = None, profile: str = "uniform", gone: int = 0, left: int = 0, of: str = ""
    ) -> None:
        self.amount, self.start, self.finish, self.line, self.profile = amount, start, finish, line, profile
        self.gone, self.left, self.of = gone, left, of

    def share(self, t: int) -> Fraction:
        if t < self.start:
            return ZERO
        if t >= self.finish or not self.left:
            return F(1)
        whole = self.gone + self.left
        x = F(self.gone + self.line.between(self.start, t), whole)
        before, now = shape(self.profile, F(self.gone, whole)), shape(self.profile, x)
        return (now - before) / (1 - before) if before < 1 else F(1)

    def due(self, t: int) -> int:
        return round(self.amount * self.share(t))


class Work(Spending):
    """The cost of work whose rates change: the parts (from, to, exact amount), each by the growth of the profile of all of its time."""

    parts: list[tuple[int, int, Fraction]]

    def share(self, t: int) -> Fraction:
        if t < self.start:
            return ZERO
        if t >= self.finish or not self.left:
            return F(1)
        whole, so_far = sum((x for _, _, x in self.parts), ZERO), ZERO
        grown = lambda u: shape(self.profile, F(self.gone + self.line.between(self.start, u), self.gone + self.left))  # noqa: E731
        for a, z, x in self.parts:
            if t >= z:
                so_far += x
            elif t > a:
                before, after = grown(a), grown(z)
                so_far += x if before == after else x * (grown(t) - before) / (after - before)
        return so_far / whole if whole else F(1)


class Value(Paying):
    """Everything of a book at one page under one treatment."""

    def __init__(self, doc: Doc, treatment: str, period: int | None = None) -> None:
        self.b = Book(doc, period)
        self.rows = schedule(self.b, treatment)
        self.doc, self.project = doc, doc["project"]
        self.digits = {"JPY": 0, "KWD": 3}.get(self.project["currency"], 2)
        self.baselines = {x["code"]: x for x in doc.get("baselines", [])}
        code = self.project.get("measured_against")
        self.base = self.base_of(code) if code else {}
        self.t = self.b.status
        self.wbs_parent = {w["code"]: w.get("parent") for w in doc.get("wbs", [])}
        self.codes = [*self.b.activities, *(c for c in self.base if c not in self.b.activities)]

    def cells(self, x: Fraction | str) -> int:
        return round(F(x) * 10**self.digits)

    # baseline

    def base_of(self, code: str) -> dict[str, Doc]:
        b = self.baselines[code]
        calendars = {c["code"]: c for c in b["calendars"]}
        out = {}
        for a in b["activities"]:
            calendar = calendars[a.get("calendar", b["calendar"])]
            row = a | {"line": line_of(calendar, a.get("pauses", [])), "own": calendar, "s": at(a["start"]), "f": at(a["finish"])}
            row["bac"] = sum(self.cells(x["amount"]) for x in a.get("cost_lines", []))
            out[a["code"]] = row
        return out

    def pv(self, base: dict[str, Doc], code: str, t: int) -> int:
        a = base.get(code)
        if a is None:
            return 0
        m = a.get("value_method", {"type": "percent"})
        if m["type"] == "apportioned" and base[m["base"]]["bac"]:
            return round(F(a["bac"] * self.pv(base, m["base"], t), base[m["base"]]["bac"]))
        if t < a["s"]:
            return 0
        total = a["line"].between(a["s"], a["f"])
        x = F(min(a["line"].between(a["s"], t), total), total) if total else F(1)
        over = t >= a["f"]
        if m["type"] == "zero_hundred":
            return int(a["bac"]) if over else 0
        if m["type"] in ("fifty_fifty", "start_share"):
            return round(a["bac"] * (F(1) if over else F(1, 2) if m["type"] == "fifty_fifty" else F(str(m["share"]))))
        if m["type"] == "milestones":
            reached = sum(w["weight"] for w in m["weights"] if x >= F(str(w["at"])) or over)
            return round(F(a["bac"] * reached, sum(w["weight"] for w in m["weights"])))
        out = 0
        for k in a.get("cost_lines", []):
            share = {"start": F(1), "finish": F(over), "uniform": F(1) if over else shape(k.get("profile", "uniform"), x)}[
                k.get("accrual", "uniform")
            ]
            out += round(self.cells(k["amount"]) * share)
        return out

    # earned and actual

    def share(self, code: str) -> Fraction:
        a, m = self.base[code], self.base[code].get("value_method", {"type": "percent"})
        if code not in self.b.activities or self.t is None:
            return ZERO
        if m["type"] == "level_of_effort":
            return F(self.pv(self.base, code, self.t), a["bac"]) if a["bac"] else ZERO
        if m["type"] == "apportioned":
            return self.share(m["base"])
        s = self.b.state[code]
        if s.state != "in_progress":
            return F(s.state == "complete")
        if m["type"] == "milestones":
            got = sum(w["weight"] for w in m["weights"] if w["name"] in s.statement.get("milestones_reached", []))
            return F(got, sum(w["weight"] for w in m["weights"]))
        if m["type"] == "hours":
            posted = F(self.worked(code))
            left = sum((self.left(code, x) for x in self.b.assigned(code) if self.b.labour(x)), ZERO)
            return posted / (posted + left) if posted + left else ZERO
        whole = s.elapsed + s.r
        return {
            "zero_hundred": ZERO,
            "fifty_fifty": F(1, 2),
            "start_share": F(str(m.get("share", 0))),
            "units": min(F(1), F(str(s.statement.get("units_done") or 0)) / F(str(m.get("planned", 1)))),
            "duration": F(s.elapsed, whole) if whole else F(1),
            "percent": s.percent,
        }[m["type"]]

    def ev(self, code: str) -> int:
        return round(self.base[code]["bac"] * self.share(code)) if code in self.base else 0

    def worked(self, code: str) -> int:
        """Labour hours posted or reckoned, in minutes."""
        posted = sum((self.minutes(h, k) for h in self.posts(code) if self.b.labour(h) for k in ("worked", "overtime")), ZERO)
        return round(posted) + sum(round(x.minutes(self.t)) for x in self.reckoned(code) if self.b.labour(x.of))

    def posts(self, code: str) -> list[Doc]:
        return [h for p in self.b.pages for h in p.get("hours", []) if h["activity"] == code]

    def minutes(self, h: Doc, key: str) -> Fraction:
        return F(length(h.get(key, "0h"), self.b.calendar(h["activity"])))

    def rates(self, resource: str) -> dict[str, list[Doc]]:
        out: dict[str, list[Doc]] = {}
        for row in sorted(self.b.resources[resource].get("rates", []), key=lambda r: str(r["from"])):
            out.setdefault(row["per"], []).append(row)
        return out

    def rate(self, rows: list[Doc], day: str) -> Doc | None:
        return next((r for r in reversed(rows) if r["from"] <= day), None)

    def per(self, resource: str) -> dict[str, Fraction]:
        c = self.b.calendars[self.b.resources[resource].get("calendar", self.project["calendar"])]
        each = {"day": c.get("hours_per_day", 8), "week": c.get("hours_per_week", 40), "month": c.get("hours_per_month", 160)}
        return {k: F(str(v)) for k, v in each.items()}

    @cached_property
    def actuals(self) -> list[Doc]:
        """Each amount entered: on, from, until, source, cells, for, order; hours without the last two."""
        out: list[Doc] = []
        used: set[tuple[str, str]] = set()
        entries = [c for p in self.b.pages for c in p.get("costs", [])]
        figures: dict[tuple[str, str, str, str], Fraction] = {}
        for p in self.b.pages:
            for h in p.get("hours", []):
                amount = 0
                whose = (h.get("corrects") or p["code"], h["activity"], h["resource"])
                day = next(x["status"][:10] for x in self.b.pages if x["code"] == whose[0])
                posted = [(self.minutes(h, "worked") / 60, "amount"), (self.minutes(h, "overtime") / 60, "overtime")]
                if not any(x for x, _ in posted):
                    continue
                for hours, key in posted:
                    before = figures.get((*whose, key), ZERO) if h.get("corrects") else ZERO
                    amount += self.figure(h["resource"], before + hours, key, day) - self.figure(h["resource"], before, key, day)
                    figures[(*whose, key)] = figures.get((*whose, key), ZERO) + hours
                rows = self.rates(h["resource"]).get("use", [])
                if (h["activity"], h["resource"]) not in used and (row := self.rate(rows, day)):
                    amount += self.cells(row["amount"])
                used.add((h["activity"], h["resource"]))
                out.append({"on": ("activity", h["activity"]), "from": at(p["status"]), "until": None, "source": "hours", "cells": amount})
        for c in entries:
            same = [x for x in entries if x.get("ref") and self.place(x) == self.place(c) and x["ref"] == c.get("ref")]
            until = None
            if c["source"] == "accrual":
                until = min((opens(x["date"]) + 1 for x in same if x["source"] == "invoice"), default=None)
            row = {
                "on": self.place(c),
                "from": opens(c["date"]) + 1,
                "until": until,
                "source": c["source"],
                "cells": self.cells(c["amount"]),
            }
            of, order = c.get("for"), c.get("order")
            if c["source"] == "invoice" and of is None and order is None:
                met = next((x for x in same if x["source"] == "accrual" and (x.get("for") or x.get("order"))), {})
                of, order = met.get("for"), met.get("order")
            out.append(row | {"for": of, "order": order})
        return [x for x in out if not self.is_outside(x)]

    def place(self, c: Doc) -> tuple[str, str]:
        return ("activity", c["activity"]) if c.get("activity") else ("wbs", c["wbs"])

    def figure(self, resource: str, hours: Fraction, key: str, day: str) -> int:
        """What one posted figure costs."""
        amount, per = ZERO, self.per(resource)
        for kind, rows in self.rates(resource).items():
            row = self.rate(rows, day)
            if row is not None and kind not in ("unit", "use") and hours:
                n = F(math.ceil(hours)) if kind == "started_hour" else hours / per.get(kind, F(1))
                amount += n * F(row.get(key) or row["amount"])
        return self.cells(amount)

    # what is left

    def left(self, code: str, x: Doc) -> Fraction:
        s, units = self.b.state[code], F(str(x.get("units", 1)))
        if s.state == "complete":
            return ZERO
        to_go = self.b.to_go(code, x["resource"])
        if to_go is not None:
            return F(to_go)
        if s.state == "in_progress":
            return s.r * units
        if self.b.activities[code].get("driver") == "work" and x.get("work") is not None and self.b.labour(x):
            return F(length(x["work"], self.b.calendar(code)))
        return s.d * units

    @cache  # noqa: B019
    def remaining(self, code: str) -> list[Spending]:
        s, row, line = self.b.state[code], self.rows[code], self.b.lines[code]
        start, finish = row["start"] if row["resume"] is None else row["resume"], row["finish"]
        profile = self.b.activities[code].get("profile", "uniform")
        out: list[Spending] = []
        for x in self.b.assigned(code) if s.state != "complete" else []:
            kind = self.b.resources[x["resource"]].get("kind", "labour")
            if kind == "material":
                continue
            parts = self.parts(code, x, self.left(code, x), ZERO, start, finish)
            amount = self.cells(sum((p[2] for p in parts), ZERO))
            work = Work(amount, start, finish if s.r else start, line, profile, s.elapsed, s.r, kind)
            work.parts = self.weighed(parts, code, start, s.elapsed, s.r)
            out.append(work)
            use = self.rate(self.rates(x["resource"]).get("use", []), on(start))
            if use and not self.used(code, x["resource"]) and not any(y.of is x for y in self.reckoned(code)):
                out.append(Spending(self.cells(use["amount"]), start, start, of=kind))
        for owed in self.owed(code):
            amount, accrual = owed["amount"] if self.t is None else max(0, owed["expected"] - owed["counted"]), owed["accrual"]
            if not amount or not owed["inside"]:
                continue
            late = start if self.t is None else self.t
            if s.state == "complete" or (accrual == "start" and s.state == "in_progress"):
                out.append(Spending(amount, late, late, of=owed["kind"]))
            elif accrual in ("start", "finish"):
                when = start if accrual == "start" else finish
                out.append(Spending(amount, when, when, of=owed["kind"]))
            else:
                out.append(Spending(amount, start, finish if s.r else start, line, profile, s.elapsed, s.r, owed["kind"]))
        return out

    def used(self, code: str, resource: str) -> bool:
        return any(h["resource"] == resource and (self.minutes(h, "worked") or self.minutes(h, "overtime")) for h in self.posts(code))

    def parts(
        self, code: str, x: Doc, minutes: Fraction, quantity: Fraction, start: int, finish: int, between: Any = None
    ) -> list[tuple[int, int, Fraction, str]]:
        """Day by day: every date has its own rate, and every month its own minutes; (from, to, exact amount, kind of rate)."""
        out: list[tuple[int, int, Fraction, str]] = []
        between = between or self.b.lines[code].between
        hours, series, per = minutes / 60, self.rates(x["resource"]), self.per(x["resource"])
        edges, t = [start], opens(on(start)) + 1440
        while t < finish:
            edges.append(t)
            t += 1440
        edges.append(max(finish, start))
        total = between(start, finish)
        for kind, rows in series.items():
            for a, z in itertools.pairwise(edges):
                inside, row = between(a, z), self.rate(rows, on(a))
                if kind == "use" or row is None or (total and not inside):
                    continue
                if kind == "month":
                    first = date.fromisoformat(on(a)).replace(day=1)
                    after = (first + timedelta(days=32)).replace(day=1)
                    whole = line_of(self.b.calendar(code)).between(opens(first.isoformat()), opens(after.isoformat()))
                    amount = F(row["amount"]) * F(str(x.get("units", 1))) * F(inside, whole) if inside else ZERO
                else:
                    n = {"unit": quantity, "hour": hours, "started_hour": F(math.ceil(hours))}.get(kind)
                    amount = F(row["amount"]) * (F(inside, total) if total else F(1)) * (hours / per[kind] if n is None else n)
                out.append((a, z, amount, kind))
                if not total:
                    break
        return out

    def weighed(
        self, parts: list[tuple[int, int, Fraction, str]], code: str, start: int, gone: int, left: int
    ) -> list[tuple[int, int, Fraction]]:
        """The same amounts of each kind of rate, in proportion to rate × growth of the profile."""
        line, profile = self.b.lines[code], self.b.activities[code].get("profile", "uniform")
        if not left:
            return [(a, z, x) for a, z, x, _ in parts]
        grown = lambda t: shape(profile, F(gone + line.between(start, t), gone + left))  # noqa: E731
        out = []
        for kind in {k: None for *_, k in parts}:
            mine = [p for p in parts if p[3] == kind]
            weights = [x / line.between(a, z) * (grown(z) - grown(a)) for a, z, x, _ in mine]
            whole = sum((x for _, _, x, _ in mine), ZERO)
            out += [(a, z, whole * w / sum(weights)) for (a, z, _, _), w in zip(mine, weights, strict=True) if sum(weights)]
        return out

    # scopes and measures

    def above(self, code: str | None) -> list[str]:
        out = []
        while code is not None:
            out.append(code)
            code = self.wbs_parent[code]
        return out

    def wbs_of(self, code: str) -> str | None:
        found: str | None = (self.b.activities[code] if code in self.b.activities else self.base[code]).get("wbs")
        return found

    def members(self, wbs: str | None) -> list[str]:
        return [c for c in self.codes if wbs is None or wbs in self.above(self.wbs_of(c))]

    def ac(self, members: list[str], wbs: str | None, elements: bool, t: int) -> dict[str, int]:
        out: dict[str, int] = {}
        for x in self.actuals:
            kind, code = x["on"]
            here = code in members if kind == "activity" else elements and (wbs is None or wbs in self.above(code))
            if here and x["from"] <= t and (x["until"] is None or t < x["until"]):
                out[x["source"]] = out.get(x["source"], 0) + x["cells"]
        for code in members:
            amount = self.followed(code, t)
            if amount:
                out["progress"] = out.get("progress", 0) + amount
        return out

    def measures(self, code: str, members: list[str], wbs: str | None, elements: bool, earlier: "Value | None") -> Doc:
        cash = lambda x: None if x is None else money(x, self.digits)  # noqa: E731
        over = lambda a, b: float(round(F(a, b), 6)) if b else None  # noqa: E731
        bac = sum(self.base[c]["bac"] for c in members if c in self.base)
        out: Doc = {"code": code, "bac": cash(bac)}
        if self.t is None:  # without a period EV and AC are 0, PV and the rest null
            nothing = dict.fromkeys(("pv", "sv", "cv", "sv_percent", "cv_percent", "spi", "cpi", "etc", "vac", "tcpi_bac", "tcpi_eac"))
            eacs = dict.fromkeys(("bottom_up", "cpi", "budget", "cpi_spi", "recent"))
            return out | {"ev": cash(0), "ac": cash(0), "ac_by_source": {}} | nothing | {"eac": eacs}
        pv = sum(self.pv(self.base, c, self.t) for c in members)
        ev = sum(self.ev(c) for c in members)
        by = self.ac(members, wbs, elements, self.t)
        ac = sum(by.values())
        left = sum(x.amount for c in members if c in self.rows for x in self.remaining(c))
        ev_then = sum(earlier.ev(c) for c in members) if earlier else 0
        ac_then = sum(earlier.ac(members, wbs, elements, earlier.t or 0).values()) if earlier else 0

        def by_index(*pairs: tuple[int, int]) -> int | None:
            index = F(1)
            for a, b in pairs:
                if not b or F(a, b) <= 0:
                    return None
                index *= F(a, b)
            return ac + round((bac - ev) / index)

        eac = {
            "bottom_up": ac + left,
            "cpi": by_index((ev, ac)),
            "budget": ac + bac - ev,
            "cpi_spi": by_index((ev, ac), (ev, pv)),
            "recent": by_index((ev - ev_then, ac - ac_then)),
        }
        chosen = eac[self.project.get("eac", "bottom_up")]
        tcpi = lambda room: over(bac - ev, room) if bac and ev < bac and room is not None and room > 0 else None  # noqa: E731
        out |= {"pv": cash(pv), "ev": cash(ev), "ac": cash(ac), "sv": cash(ev - pv), "cv": cash(ev - ac)}
        out |= {"ac_by_source": {k: cash(v) for k, v in by.items()}}
        out |= {"sv_percent": over(100 * (ev - pv), pv), "cv_percent": over(100 * (ev - ac), ev)}
        out |= {"spi": over(ev, pv), "cpi": over(ev, ac), "eac": {k: cash(v) for k, v in eac.items()}}
        out |= {"etc": cash(None if chosen is None else chosen - ac), "vac": cash(None if chosen is None else bac - chosen)}
        out |= {"tcpi_bac": tcpi(bac - ac), "tcpi_eac": tcpi(None if chosen is None else chosen - ac)}
        return out
