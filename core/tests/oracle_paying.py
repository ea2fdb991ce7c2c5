"""The slow second implementation, sections 9 and 10: what follows progress, orders, and what is still to be paid."""

from fractions import Fraction
from functools import cache
from typing import Any

from core.tests.oracle_schedule import Book as Pages
from core.tests.oracle_schedule import Doc, F, State, at, on, opens, shape

FOREVER = 10**9


class Reckoned:
    """What follows progress of one assignment: minutes and cells by an instant."""

    def __init__(self, v: "Paying", code: str, of: Doc, start: int, until: int) -> None:
        self.v, self.code, self.of, self.start, self.until = v, code, of, start, until

    def minutes(self, t: int | None) -> Fraction:
        t = min(t or 0, self.until)
        return self.v.stood(self.code, self.start, t) * F(str(self.of.get("units", 1))) if t > self.start else F(0)

    def cells(self, t: int) -> int:
        if t < self.start:
            return 0
        until = max(min(t, self.until), self.start)
        between = lambda a, z: self.v.stood(self.code, a, z)  # noqa: E731
        parts = self.v.parts(self.code, self.of, self.minutes(t), F(0), self.start, until, between)
        use = self.v.rate(self.v.rates(self.of["resource"]).get("use", []), on(self.start))
        return int(self.v.cells(sum((p[2] for p in parts), F(use["amount"]) if use else F(0))))


class Paying:
    """Mixed into `Value`."""

    b: Any
    doc: Doc
    project: Doc
    base: dict[str, Doc]
    rows: dict[str, Doc]
    t: int | None
    actuals: list[Doc]
    cells: Any
    parts: Any
    rate: Any
    rates: Any
    used: Any
    above: Any

    def follows(self, x: Doc) -> bool:
        of_resource = self.b.resources[x["resource"]].get("actuals") if "resource" in x else None
        return (x.get("actuals") or of_resource or self.project.get("actuals", "posted")) == "progress"

    @cache  # noqa: B019
    def still(self, code: str) -> list[tuple[int, int]]:
        """When it stood still."""
        out, begun, until = [], None, None
        for n in range(1, len(self.b.pages) + 1):
            s, t = State(Pages(self.doc, n), code), at(self.b.pages[n - 1]["status"])
            if s.state == "in_progress" and (s.r == 0 or (s.carry is not None and s.carry > t)):
                begun, until = t if begun is None else begun, None if s.r == 0 else s.carry
            elif begun is not None:
                out.append((begun, until if until is not None else t if s.finish is None else s.finish))
                begun = None
        return [*out, (begun, FOREVER if until is None else until)] if begun is not None else out

    def stood(self, code: str, a: int, z: int) -> int:
        """Working minutes between, without the time in which it stood still."""
        line = self.b.lines[code]
        return int(line.between(a, z) - sum(line.between(max(a, x), min(z, y)) for x, y in self.still(code) if max(a, x) < min(z, y)))

    def end(self, code: str) -> int:
        s = self.b.state[code]
        return self.t if s.finish is None else s.finish

    @cache  # noqa: B019
    def reckoned(self, code: str) -> list[Reckoned]:
        s, out = self.b.state.get(code), []
        if s is None or s.start is None:
            return []
        for x in self.b.assigned(code):
            if self.b.resources[x["resource"]].get("kind", "labour") == "material" or not self.follows(x):
                continue
            until, name = self.end(code), f"{code}/{x['resource']}"
            for i, p in enumerate(self.b.pages):
                posted = any(
                    x["resource"] in (h["resource"], *self.b.resources[h["resource"]].get("roles", []))
                    for h in p.get("hours", [])
                    if h["activity"] == code and any(not str(h.get(k, "0h")).startswith(("-", "0")) for k in ("worked", "overtime"))
                )
                if posted or any(c.get("for") == name for c in p.get("costs", [])):
                    until = min(until, at(self.b.pages[i - 1]["status"]) if i else -FOREVER)
                    break
            else:
                until = max(until, s.start)
                out.append(Reckoned(self, code, x, s.start, until))
                continue
            if until > s.start:
                out.append(Reckoned(self, code, x, s.start, until))
        return out

    def followed(self, code: str, t: int) -> int:
        """All that has followed progress of an activity by an instant."""
        if code not in self.b.activities or self.t is None:
            return 0
        return sum(x.cells(t) for x in self.reckoned(code)) + sum(self.beside(code, i, t) for i in range(len(self.payables(code))))

    @cache  # noqa: B019
    def payables(self, code: str) -> list[Doc]:
        """Direct costs, then materials, as planned."""
        s, out = self.b.state[code], []
        for c in self.doc.get("costs", []):
            if c["activity"] == code:
                amount = F(c["amount"])
                if c.get("kind") == "per_day":
                    amount *= F(s.elapsed + s.r) / 60 / F(str(self.b.calendar(code).get("hours_per_day", 8)))
                row = {"kind": "direct", "accrual": c.get("accrual", "uniform"), "inside": c.get("in_budget", True)}
                out.append(row | {"name": c.get("code"), "amount": self.cells(amount), "doc": c})
        for x in self.b.assigned(code):
            if self.b.resources[x["resource"]].get("kind") == "material":
                start, finish = self.rows[code]["start"], self.rows[code]["finish"]
                price = sum((p[2] for p in self.parts(code, x, F(0), F(1), start, finish)), F(0))
                amount = self.cells(price * F(str(x.get("quantity") or 0)))
                use = self.rate(self.rates(x["resource"]).get("use", []), on(start))
                amount += self.cells(use["amount"]) if use and not self.used(code, x["resource"]) else 0
                row = {"kind": "material", "accrual": "uniform", "inside": True, "name": f"{code}/{x['resource']}"}
                out.append(row | {"amount": amount, "doc": x})
        return out

    def is_closed(self, x: Doc, t: int | None) -> bool:
        closed = x["doc"].get("closed")
        return bool(closed is True or (closed and t is not None and opens(closed) < t))

    def homes(self) -> dict[str, str]:
        out = {c["code"]: c["activity"] for c in self.doc.get("costs", []) if c.get("code")}
        return out | {f"{x['activity']}/{x['resource']}": x["activity"] for x in self.doc.get("assignments", [])}

    def lines_for(self, order: str, place: tuple[str, str]) -> list[int]:
        homes, (kind, code) = self.homes(), place
        lines = next(o for o in self.doc["orders"] if o["code"] == order).get("lines", [])
        below = lambda a: code == a if kind == "activity" else code in self.above(self.b.activities[a].get("wbs"))  # noqa: E731
        return [i for i, x in enumerate(lines) if below(homes[x["for"]])]

    def is_outside(self, x: Doc) -> bool:
        outside = {c["code"] for c in self.doc.get("costs", []) if c.get("code") and not c.get("in_budget", True)}
        if x.get("for") is not None:
            return x["for"] in outside
        if x.get("order") is None:
            return False
        lines = next(o for o in self.doc["orders"] if o["code"] == x["order"])["lines"]
        found = [lines[i]["for"] in outside for i in self.lines_for(x["order"], x["on"])]
        return bool(found) and all(found)

    @cache  # noqa: B019
    def entered(self, t: int | None) -> tuple[dict[str, int], dict[tuple[str, str], int], dict[str, int]]:
        """By what is named, by order and what it is for, and of each activity what names nothing."""
        of: dict[str, int] = {}
        ordered: dict[tuple[str, str], int] = {}
        loose: dict[str, int] = {}
        groups: dict[tuple[str, tuple[str, str]], int] = {}
        for x in self.actuals if t is not None else []:
            if x["source"] == "hours" or "for" not in x or not x["from"] <= t or (x["until"] is not None and t >= x["until"]):
                continue
            if x["for"] is not None:
                of[x["for"]] = of.get(x["for"], 0) + x["cells"]
                if x["order"]:
                    ordered[x["order"], x["for"]] = ordered.get((x["order"], x["for"]), 0) + x["cells"]
            elif x["order"] is not None:
                groups[x["order"], x["on"]] = groups.get((x["order"], x["on"]), 0) + x["cells"]
            elif x["on"][0] == "activity":
                loose[x["on"][1]] = loose.get(x["on"][1], 0) + x["cells"]
        filled: dict[tuple[str, int], int] = {}
        for (order, place), amount in groups.items():
            lines, mine = next(o for o in self.doc["orders"] if o["code"] == order)["lines"], self.lines_for(order, place)
            for i in mine:
                room = self.cells(lines[i]["amount"]) - filled.get((order, i), 0)
                take = amount if i == mine[-1] else max(0, min(amount, room))
                filled[order, i] = filled.get((order, i), 0) + take
                of[lines[i]["for"]] = of.get(lines[i]["for"], 0) + take
                ordered[order, lines[i]["for"]] = ordered.get((order, lines[i]["for"]), 0) + take
                amount -= take
        return of, ordered, loose

    def expected(self, code: str) -> list[int]:
        """Ordered and still to order, of closed costs as if open."""
        out = []
        _, by_order, _ = self.entered(self.t)
        for x in self.payables(code):
            ordered = 0
            for o in self.doc.get("orders", []) if x["name"] else []:
                mine = [line for line in o.get("lines", []) if line["for"] == x["name"]]
                if mine and o.get("state") == "closed":
                    ordered += by_order.get((o["code"], x["name"]), 0)
                else:
                    ordered += sum(self.cells(line["amount"]) for line in mine)
            stated = x["doc"].get("to_order")
            out.append(ordered + (max(0, x["amount"] - ordered) if stated is None else self.cells(stated)))
        return out

    def of_entries(self, code: str, t: int | None) -> list[int]:
        of, _, loose = self.entered(t)
        expected, rest, out = self.expected(code), loose.get(code, 0), []
        for x, most in zip(self.payables(code), expected, strict=True):
            mine = of.get(x["name"], 0) if x["name"] else 0
            if rest > 0 and x["inside"]:
                take = min(rest, max(0, most - mine))
                mine, rest = mine + take, rest - take
            out.append(mine)
        return out

    def beside(self, code: str, i: int, t: int) -> int:
        """What has followed progress of one of them beside its entries, by an instant."""
        x, s, t = self.payables(code)[i], self.b.state[code], min(t, self.t or 0)
        if not self.follows(x["doc"]) or not x["inside"] or s.start is None or t < s.start or self.is_closed(x, t):
            return 0
        expected, end = self.expected(code)[i], self.end(code)
        gone, so_far = self.stood(code, s.start, max(s.start, min(t, end))), self.stood(code, s.start, max(s.start, end))
        whole = so_far + s.r
        share = F(gone, whole) if whole else F(1)
        if x["kind"] == "material":
            m = (self.base.get(code) or self.b.activities[code]).get("value_method", {"type": "percent"})
            units = s.statement.get("units_done")
            if m["type"] == "units" and (units is not None or s.state != "complete"):
                share = F(str(units or 0)) / F(str(m["planned"])) * (F(gone, so_far) if so_far else 1)
            come_to = min(expected, round(x["amount"] * share))
        elif x["accrual"] == "start":
            come_to = expected
        elif x["accrual"] == "finish":
            come_to = expected if s.finish is not None and t >= s.finish else 0
        else:
            come_to = round(expected * shape(self.b.activities[code].get("profile", "uniform"), share))
        return max(0, come_to - self.of_entries(code, t)[i])

    def owed(self, code: str) -> list[Doc]:
        """Each payable with what is expected and what counts for it."""
        out = []
        for i, (x, expected, mine) in enumerate(zip(self.payables(code), self.expected(code), self.of_entries(code, self.t), strict=True)):
            counted = mine + (self.beside(code, i, self.t) if self.t is not None else 0)
            out.append(x | {"expected": counted if self.is_closed(x, self.t) else expected, "counted": counted})
        return out
