"""The slow second implementation, sections 6 to 10: cost, value and measures. `oracle_curve` goes on from here.

Amounts are fractions throughout and rounded only where the results round.
"""

import itertools
import math
from datetime import date, timedelta
from fractions import Fraction
from functools import cache, cached_property
from typing import Any

from core.tests.oracle_schedule import ORIGIN, Book, Doc, at, length, line_of, schedule

F = Fraction
ZERO = F(0)


def money(x: Fraction, digits: int) -> str:
    cells = round(x * 10**digits)
    text = f"{abs(cells):0{digits + 1}d}"
    text = text[: len(text) - digits] + "." + text[len(text) - digits :] if digits else text
    return ("-" if cells < 0 else "") + text


def shape(profile: str, x: Fraction) -> Fraction:
    return {"uniform": x, "front": 1 - (1 - x) ** 2, "back": x * x, "bell": 3 * x * x - 2 * x**3}[profile]


def on(t: int) -> str:
    return (ORIGIN + timedelta(minutes=t)).date().isoformat()


def opens(day: str) -> int:
    return at(day + "T00:00")


class Spending:
    """An amount due from start to finish: `share(t)` of it by t."""

    def __init__(
        self, amount: Fraction, start: int, finish: int, line: Any = None, profile: str = "uniform", done: Fraction = ZERO
    ) -> None:
        self.amount, self.start, self.finish, self.line, self.profile, self.done = amount, start, finish, line, profile, done

    def due(self, t: int) -> Fraction:
        if t < self.start:
            return ZERO
        if t >= self.finish:
            return self.amount
        total = self.line.between(self.start, self.finish)
        if not total:
            return self.amount
        x = F(self.line.between(self.start, t), total)
        before, now = shape(self.profile, self.done), shape(self.profile, self.done + (1 - self.done) * x)
        return self.amount * (now - before) / (1 - before) if before < 1 else self.amount


class Piece(Spending):
    """A part of work's cost: from a to z by the growth of the profile of all of its time."""

    def __init__(self, amount: Fraction, a: int, z: int, line: Any, profile: str, start: int, gone: int, total: int) -> None:
        super().__init__(amount, a, z, line, profile)
        self.grown = lambda t: shape(profile, F(gone + line.between(start, t), gone + total)) if total else F(1)

    def due(self, t: int) -> Fraction:
        if t < self.start:
            return ZERO
        before, after = self.grown(self.start), self.grown(self.finish)
        if t >= self.finish or before == after:
            return self.amount
        return self.amount * (self.grown(t) - before) / (after - before)


class Value:
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

    # baseline

    def base_of(self, code: str) -> dict[str, Doc]:
        b = self.baselines[code]
        calendars = {c["code"]: c for c in b["calendars"]}
        out = {}
        for a in b["activities"]:
            calendar = calendars[a.get("calendar", b["calendar"])]
            row = a | {"line": line_of(calendar, a.get("pauses", [])), "own": calendar, "s": at(a["start"]), "f": at(a["finish"])}
            row["bac"] = sum((F(x["amount"]) for x in a.get("cost_lines", [])), ZERO)
            out[a["code"]] = row
        return out

    def pv(self, base: dict[str, Doc], code: str, t: int) -> Fraction:
        a = base.get(code)
        if a is None:
            return ZERO
        m = a.get("value_method", {"type": "percent"})
        if m["type"] == "apportioned" and base[m["base"]]["bac"]:
            return F(a["bac"]) * self.pv(base, m["base"], t) / base[m["base"]]["bac"]
        if t < a["s"]:
            return ZERO
        total = a["line"].between(a["s"], a["f"])
        x = F(min(a["line"].between(a["s"], t), total), total) if total else F(1)
        over = t >= a["f"]
        if m["type"] == "zero_hundred":
            return F(a["bac"]) if over else ZERO
        if m["type"] in ("fifty_fifty", "start_share"):
            return F(a["bac"]) * (1 if over else F(1, 2) if m["type"] == "fifty_fifty" else F(str(m["share"])))
        if m["type"] == "milestones":
            return F(a["bac"]) * sum(w["weight"] for w in m["weights"] if x >= F(str(w["at"]))) / sum(w["weight"] for w in m["weights"])
        out = ZERO
        for k in a.get("cost_lines", []):
            share = {"start": F(1), "finish": F(over), "uniform": shape(k.get("profile", "uniform"), x)}[k.get("accrual", "uniform")]
            out += F(k["amount"]) * share
        return out

    # earned and actual

    def share(self, code: str) -> Fraction:
        a, m = self.base[code], self.base[code].get("value_method", {"type": "percent"})
        if code not in self.b.activities or self.t is None:
            return ZERO
        if m["type"] == "level_of_effort":
            return self.pv(self.base, code, self.t) / a["bac"] if a["bac"] else ZERO
        if m["type"] == "apportioned":
            return self.share(m["base"])
        s = self.b.state[code]
        if s.state != "in_progress":
            return F(s.state == "complete")
        if m["type"] == "milestones":
            got = sum(w["weight"] for w in m["weights"] if w["name"] in s.statement.get("milestones_reached", []))
            return F(got, sum(w["weight"] for w in m["weights"]))
        if m["type"] == "hours":
            posted = sum((self.minutes(h, k) for h in self.posts(code) if self.b.labour(h) for k in ("worked", "overtime")), ZERO)
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

    def ev(self, code: str) -> Fraction:
        return self.base[code]["bac"] * self.share(code) if code in self.base else ZERO

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
    def actuals(self) -> list[tuple[tuple[str, str], int, int | None, str, Fraction]]:
        """(target, from, until, source, amount)."""
        out: list[tuple[tuple[str, str], int, int | None, str, Fraction]] = []
        used: set[tuple[str, str]] = set()
        entries = [(p, c) for p in self.b.pages for c in p.get("costs", [])]
        figures: dict[tuple[str, str, str, str], Fraction] = {}
        for p in self.b.pages:
            for h in p.get("hours", []):
                amount, per = ZERO, self.per(h["resource"])
                day = next(x["status"][:10] for x in self.b.pages if x["code"] == h.get("corrects", p["code"]))
                posted = [(self.minutes(h, "worked") / 60, "amount"), (self.minutes(h, "overtime") / 60, "overtime")]
                fresh = any(x for x, _ in posted) and (h["activity"], h["resource"]) not in used
                if any(x for x, _ in posted):
                    used.add((h["activity"], h["resource"]))
                for kind, rows in self.rates(h["resource"]).items():
                    row = self.rate(rows, day)
                    if row is None or kind == "unit":
                        continue
                    if kind == "use":
                        amount += F(row["amount"]) if fresh else 0
                        continue
                    for hours, key in posted:
                        n = F(math.ceil(hours)) if kind == "started_hour" else hours / per.get(kind, F(1))
                        if kind == "started_hour" and h.get("corrects"):
                            x = figures.get((h["corrects"], h["activity"], h["resource"], key), ZERO)
                            n = F(math.ceil(x + hours) - math.ceil(x))
                        amount += n * F(row.get(key) or row["amount"])
                for hours, key in posted:
                    whose = (h.get("corrects") or p["code"], h["activity"], h["resource"], key)
                    figures[whose] = figures.get(whose, ZERO) + hours
                if any(x for x, _ in posted):
                    out.append((("activity", h["activity"]), at(p["status"]), None, "hours", amount))
        for _, c in entries:
            target = ("activity", c["activity"]) if c.get("activity") else ("wbs", c["wbs"])
            until = None
            if c["source"] == "accrual" and c.get("ref"):
                days = [
                    opens(x["date"]) + 1
                    for _, x in entries
                    if x["source"] == "invoice"
                    and x.get("ref") == c["ref"]
                    and (x.get("activity"), x.get("wbs")) == (c.get("activity"), c.get("wbs"))
                ]
                until = min(days) if days else None
            out.append((target, opens(c["date"]) + 1, until, c["source"], F(c["amount"])))
        return out

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
        if s.state == "complete":
            return []
        start, finish = row["start"] if row["resume"] is None else row["resume"], row["finish"]
        whole = s.elapsed + s.r
        done = ZERO if s.state == "not_started" else F(s.elapsed, whole) if whole else F(1)
        out: list[Spending] = []
        for x in self.b.assigned(code):
            used = any(
                h["resource"] == x["resource"] and (self.minutes(h, "worked") or self.minutes(h, "overtime")) for h in self.posts(code)
            )
            quantity = F(str(x.get("quantity") or 0)) * (1 - done)
            out += self.work(code, x, self.left(code, x) / 60, quantity, start, finish, not used)
        profile = self.b.activities[code].get("profile", "uniform")
        for c in self.doc.get("costs", []):
            if c["activity"] != code or not c.get("in_budget", True):
                continue
            amount = F(c["amount"])
            if c.get("kind") == "per_day":
                amount *= F(whole) / 60 / F(str(self.b.calendar(code).get("hours_per_day", 8)))
            accrual = c.get("accrual", "uniform")
            if accrual == "start":
                out += [Spending(amount, start, start)] if s.state == "not_started" else []
            elif accrual == "finish":
                out.append(Spending(amount, finish, finish))
            else:
                out.append(Spending(amount * (1 - shape(profile, done)), start, finish, line, profile, done))
        return out

    def work(self, code: str, x: Doc, hours: Fraction, quantity: Fraction, start: int, finish: int, fresh: bool) -> list[Spending]:
        """Minute by minute in effect: every date has its own rate, and every month its own minutes."""
        out: list[Spending] = []
        line, series, per = self.b.lines[code], self.rates(x["resource"]), self.per(x["resource"])
        s, profile = self.b.state[code], self.b.activities[code].get("profile", "uniform")
        gone = s.elapsed if s.state == "in_progress" else 0
        if fresh and "use" in series and (row := self.rate(series["use"], on(start))):
            out.append(Spending(F(row["amount"]), start, start))
        edges, t = [start], opens(on(start)) + 1440
        while t < finish:
            edges.append(t)
            t += 1440
        edges.append(max(finish, start))
        total = line.between(start, finish)
        grown = lambda t: shape(profile, F(gone + line.between(start, t), gone + total)) if total else F(1)  # noqa: E731
        for kind, rows in series.items():
            parts: list[tuple[int, int, Fraction, Fraction]] = []
            for a, z in itertools.pairwise(edges):
                inside, amount = line.between(a, z), ZERO
                row = self.rate(rows, on(a))
                if kind == "use" or row is None or (total and not inside):
                    continue
                share = F(inside, total) if total else F(1)
                if kind == "month":
                    first = date.fromisoformat(on(a)).replace(day=1)
                    after = (first + timedelta(days=32)).replace(day=1)
                    whole = line_of(self.b.calendar(code)).between(opens(first.isoformat()), opens(after.isoformat()))
                    amount = F(row["amount"]) * F(str(x.get("units", 1))) * F(inside, whole) if inside else ZERO
                else:
                    n = {"unit": quantity, "hour": hours, "started_hour": F(math.ceil(hours))}.get(kind)
                    amount = F(row["amount"]) * share * (hours / per[kind] if n is None else n)
                parts.append((a, z, amount, amount / inside * (grown(z) - grown(a)) if total else amount))
                if not total:
                    break
            amounts, weights = sum((p[2] for p in parts), ZERO), sum((p[3] for p in parts), ZERO)
            for a, z, _, weight in parts:
                if weights:
                    out.append(Piece(amounts * weight / weights, a, z, line, profile, start, gone, total))
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

    def ac(self, members: list[str], wbs: str | None, elements: bool, t: int) -> dict[str, Fraction]:
        out: dict[str, Fraction] = {}
        for (kind, code), since, until, source, amount in self.actuals:
            here = code in members if kind == "activity" else elements and (wbs is None or wbs in self.above(code))
            if here and since <= t and (until is None or t < until):
                out[source] = out.get(source, ZERO) + amount
        return out

    def measures(self, code: str, members: list[str], wbs: str | None, elements: bool, earlier: "Value | None") -> Doc:
        cash = lambda x: None if x is None else money(x, self.digits)  # noqa: E731
        ratio = lambda x: None if x is None else float(round(x, 6))  # noqa: E731
        over = lambda a, b: None if a is None or b is None or b == 0 else a / b  # noqa: E731
        bac = sum((self.base[c]["bac"] for c in members if c in self.base), ZERO)
        out: Doc = {"code": code, "bac": cash(bac)}
        if self.t is None:  # without a period EV and AC are 0, PV and the rest null
            nothing = dict.fromkeys(("pv", "sv", "cv", "sv_percent", "cv_percent", "spi", "cpi", "etc", "vac", "tcpi_bac", "tcpi_eac"))
            eacs = dict.fromkeys(("bottom_up", "cpi", "budget", "cpi_spi", "recent"))
            return out | {"ev": cash(ZERO), "ac": cash(ZERO), "ac_by_source": {}} | nothing | {"eac": eacs}
        pv = sum((self.pv(self.base, c, self.t) for c in members), ZERO)
        ev = sum((self.ev(c) for c in members), ZERO)
        by = self.ac(members, wbs, elements, self.t)
        ac = sum(by.values(), ZERO)
        left = sum((x.amount for c in members if c in self.rows for x in self.remaining(c)), ZERO)
        ev_then = sum((earlier.ev(c) for c in members), ZERO) if earlier else ZERO
        ac_then = sum(earlier.ac(members, wbs, elements, earlier.t or 0).values(), ZERO) if earlier else ZERO
        spi, cpi = over(ev, pv), over(ev, ac)
        recent = over(ev - ev_then, ac - ac_then)
        add = lambda x: None if x is None else ac + x  # noqa: E731
        eac = {
            "bottom_up": ac + left,
            "cpi": add(over(bac - ev, cpi)),
            "budget": ac + bac - ev,
            "cpi_spi": add(over(bac - ev, None if cpi is None or spi is None else cpi * spi)),
            "recent": add(over(bac - ev, recent)),
        }
        chosen = eac[self.project.get("eac", "bottom_up")]
        out |= {"pv": cash(pv), "ev": cash(ev), "ac": cash(ac), "sv": cash(ev - pv), "cv": cash(ev - ac)}
        out |= {"ac_by_source": {k: cash(v) for k, v in by.items()}}
        out |= {"sv_percent": ratio(over(100 * (ev - pv), pv)), "cv_percent": ratio(over(100 * (ev - ac), ev))}
        out |= {"spi": ratio(spi), "cpi": ratio(cpi), "eac": {k: cash(v) for k, v in eac.items()}}
        out |= {"etc": cash(None if chosen is None else chosen - ac), "vac": cash(None if chosen is None else bac - chosen)}
        out |= {"tcpi_bac": ratio(over(bac - ev, bac - ac)), "tcpi_eac": ratio(over(bac - ev, None if chosen is None else chosen - ac))}
        return out
