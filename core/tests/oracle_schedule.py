"""A second, slow implementation of the calculation contract, sections 1 to 5, for holding the core against.

It reads the JSON document itself, keeps working time as a plain list of spells, and shares no line with the
core. Nothing in it is meant to be quick.
"""

import json
from bisect import bisect_left, bisect_right
from datetime import date, datetime, timedelta
from fractions import Fraction
from functools import lru_cache
from typing import Any

Doc = dict[str, Any]
ORIGIN = datetime(2026, 10, 1)
HORIZON = 900
DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")


def at(text: str) -> int:
    """Minutes from the origin to an instant as the book writes it."""
    return round((datetime.fromisoformat(text) - ORIGIN).total_seconds() / 60)


def as_text(t: int | None) -> str | None:
    return None if t is None else (ORIGIN + timedelta(minutes=t)).isoformat(timespec="minutes")


F = Fraction


def shape(profile: str, x: Fraction) -> Fraction:
    return {"uniform": x, "front": 1 - (1 - x) ** 2, "back": x * x, "bell": 3 * x * x - 2 * x**3}[profile]


def on(t: int) -> str:
    return (ORIGIN + timedelta(minutes=t)).date().isoformat()


def opens(day: str) -> int:
    return at(day + "T00:00")


def half_even(x: Fraction) -> int:
    return round(x)


class Line:
    """An axis: the list of its working spells (from, to), and how much lies before each."""

    def __init__(self, spells: list[tuple[int, int]]) -> None:
        self.spells = spells
        self.starts = [a for a, _ in spells]
        self.before = [0]
        for a, b in spells:
            self.before.append(self.before[-1] + b - a)

    def pos(self, t: int) -> int:
        i = bisect_right(self.starts, t) - 1
        return 0 if i < 0 else self.before[i] + min(t, self.spells[i][1]) - self.spells[i][0]

    def first(self, p: int) -> int:
        i = bisect_left(self.before, p) - 1
        return self.spells[i][0] + p - self.before[i]

    def last(self, p: int) -> int:
        i = bisect_right(self.before, p) - 1
        return self.spells[i][0] + p - self.before[i]

    def between(self, a: int, b: int) -> int:
        return self.pos(b) - self.pos(a)


def line_of(calendar: Doc, pauses: list[Doc] = []) -> Line:  # noqa: B006
    return _line(json.dumps([calendar, pauses]))


@lru_cache(maxsize=500)
def _line(text: str) -> Line:
    calendar, pauses = json.loads(text)
    spells = []
    for n in range(HORIZON):
        day = (ORIGIN + timedelta(days=n)).date()
        shifts = calendar["week"].get(DAYS[day.weekday()], [])
        for e in calendar.get("exceptions", []):
            if date.fromisoformat(e["from"]) <= day <= date.fromisoformat(e["to"]):
                shifts = e.get("shifts", [])
        for shift in sorted(shifts):
            a, b = (int(x[:2]) * 60 + int(x[3:]) for x in shift.split("-"))
            spells.append((n * 1440 + a, n * 1440 + b))
    for p in pauses:
        a, b = at(p["from"]), at(p["to"])
        spells = [(x, y) for s, e in spells for x, y in ((s, min(e, a)), (max(s, b), e)) if x < y]
    joined: list[tuple[int, int]] = []
    for a, b in spells:
        if joined and joined[-1][1] == a:
            joined[-1] = (joined[-1][0], b)
        else:
            joined.append((a, b))
    return Line(joined)


def length(text: str, calendar: Doc, elapsed: bool = False) -> int:
    """A duration in minutes."""
    digits = text.rstrip("minhdwo")
    unit, number = text[len(digits) :], Fraction(digits)
    if elapsed:
        each = {"min": 1, "h": 60, "d": 1440, "w": 10080}[unit]
    else:
        hours = {"d": calendar.get("hours_per_day", 8), "w": calendar.get("hours_per_week", 40), "mo": calendar.get("hours_per_month", 160)}
        each = {"min": 1, "h": 60}.get(unit) or Fraction(str(hours[unit])) * 60
    return half_even(number * each)


class Book:
    """The document with what its absent values mean."""

    def __init__(self, doc: Doc, period: int | None = None) -> None:
        self.doc, self.project = doc, doc["project"]
        self.calendars = {c["code"]: c for c in doc["calendars"]}
        self.own = self.calendars[self.project["calendar"]]
        self.axis = line_of(self.own)
        self.activities = {a["code"]: a for a in doc["activities"]}
        self.resources = {r["code"]: r for r in doc.get("resources", [])}
        pages = doc.get("periods", [])
        self.pages = pages if period is None else pages[:period]
        self.status = at(self.pages[-1]["status"]) if self.pages else None
        self.lines = {c: line_of(self.calendar(c), a.get("pauses", [])) for c, a in self.activities.items()}
        self.links = [
            {
                "from": k["from"],
                "to": k["to"],
                "type": k.get("type", "FS"),
                "lag": self.lag(k),
                "clock": k.get("lag_basis") == "elapsed",
            }
            for k in doc.get("links", [])
        ]
        self.outside = {x["code"]: {"start": at(x["start"]), "finish": at(x["finish"])} for x in doc.get("externals", [])}
        self.state = {c: State(self, c) for c in self.activities}
        self.left_out: list[list[str]] = []
        for pair in self.ties():
            if leads(self.links, pair[1], pair[0]):
                self.left_out += [pair] if pair not in self.left_out else []
            else:
                self.links.append({"from": pair[0], "to": pair[1], "type": "FS", "lag": 0, "clock": False, "tie": True})

    def ties(self) -> list[list[str]]:
        """The hand-overs of the promise in force that hold on the page."""
        pages = [p["code"] for p in self.pages]
        promise: Doc = {}
        for x in self.doc.get("promises", []):
            if x.get("page") is None or x["page"] in pages:
                promise = x
        out = []
        for t in promise.get("ties", []):
            a, b, r = t["from"], t["to"], t["resource"]
            there = a in self.activities and b in self.activities and all(any(x["resource"] == r for x in self.assigned(c)) for c in (a, b))
            if not there or self.state[b].state != "not_started" or self.to_go(a, r) == 0 or t.get("ended") in pages:
                continue
            if Fraction(str(self.resources[r].get("units", 1))) <= Fraction(str(t.get("units", 1))):
                out.append([a, b])
        return out

    def lag(self, k: Doc) -> int:
        text = k.get("lag", "0d")
        sign = -1 if text.startswith("-") else 1
        return sign * length(text.lstrip("-"), self.own, k.get("lag_basis") == "elapsed")

    def calendar(self, code: str) -> Doc:
        found: Doc = self.calendars[self.activities[code].get("calendar", self.project["calendar"])]
        return found

    def assigned(self, code: str) -> list[Doc]:
        return [x for x in self.doc.get("assignments", []) if x["activity"] == code]

    def labour(self, x: Doc) -> bool:
        return bool(self.resources[x["resource"]].get("kind", "labour") == "labour")

    def planned(self, code: str) -> int:
        a, calendar = self.activities[code], self.calendar(code)
        if a.get("mode") == "fixed":
            return self.lines[code].between(at(a["start"]), at(a["finish"]))
        if a.get("driver") == "work":
            spans = [
                Fraction(length(x["work"], calendar)) / Fraction(str(x.get("units", 1)))
                for x in self.assigned(code)
                if x.get("work") is not None and self.labour(x)
            ]
            if spans:
                return half_even(max(spans))
        return length(a.get("duration", "0d" if a.get("kind") == "milestone" else "1d"), calendar)

    def to_go(self, code: str, resource: str) -> int | None:
        out = None
        for p in self.pages:
            for h in p.get("hours", []):
                if (h["activity"], h["resource"]) == (code, resource) and h.get("to_go") is not None:
                    out = length(h["to_go"], self.calendar(code))
        return out


class State:
    """One activity at the status date (section 4)."""

    def __init__(self, b: Book, code: str) -> None:
        a, axis = b.activities[code], b.lines[code]
        s: Doc = {}
        for p in b.pages:
            for x in p.get("statements", []):
                if x["activity"] == code:
                    s = x
        self.statement = s
        self.d = b.planned(code)
        start, finish = (None if s.get(k) is None else at(s[k]) for k in ("actual_start", "actual_finish"))
        if self.d == 0 and (start is not None or finish is not None):
            start = finish = start if finish is None else finish
        self.start, self.finish = start, finish
        self.carry = None if s.get("carry_to") is None else at(s["carry_to"])
        self.state = "complete" if finish is not None else "in_progress" if start is not None else "not_started"
        self.pinned = a.get("mode") == "fixed" and self.state == "not_started"
        self.elapsed = 0
        if self.state == "not_started":
            self.r, self.percent = self.d, Fraction(0)
        elif self.state == "complete":
            assert start is not None and finish is not None
            self.r, self.percent, self.elapsed = 0, Fraction(1), axis.between(start, finish)
        else:
            assert start is not None and b.status is not None
            self.elapsed = axis.between(start, b.status)
            percent = None if s.get("percent") is None else Fraction(str(s["percent"])) / 100
            spans = [
                Fraction(g) / Fraction(str(x.get("units", 1)))
                for x in b.assigned(code)
                if b.labour(x) and (g := b.to_go(code, x["resource"])) is not None
            ]
            if s.get("remaining") is not None:
                self.r = length(s["remaining"], b.calendar(code))
            elif a.get("driver") == "work" and spans:
                self.r = half_even(max(spans))
            elif percent is not None:
                self.r = half_even((1 - percent) * self.d)
            else:
                self.r = max(0, self.d - self.elapsed)
            whole = self.elapsed + self.r
            self.percent = percent if percent is not None else Fraction(self.elapsed, whole) if whole else Fraction(1)


def leads(links: list[Doc], a: str, b: str) -> bool:
    return a == b or any(leads(links, k["to"], b) for k in links if k["from"] == a)


def move(b: Book, t: int, k: Doc, back: bool = False) -> int:
    lag = k["lag"]
    if lag == 0:
        return t
    if k["clock"]:
        return int(t - lag if back else t + lag)
    return b.axis.last(b.axis.pos(t) - lag) if back else b.axis.first(b.axis.pos(t) + lag)


def before(b: Book, rows: dict[str, Doc], k: Doc) -> Doc:
    """The row that a link leads from: of this book, or the dates that another project gave."""
    return b.outside.get(k["from"]) or rows[k["from"]]


def ordered(b: Book) -> list[str]:
    done: list[str] = []
    while len(done) < len(b.activities):
        done += [c for c in b.activities if c not in done and all(k["from"] in (*done, *b.outside) for k in b.links if k["to"] == c)]
    return done


def schedule(b: Book, treatment: str) -> dict[str, Doc]:
    """Rows as the results write them, dates as minutes."""
    rows: dict[str, Doc] = {}
    order = ordered(b)
    for code in order:
        rows[code] = forward(b, code, rows, treatment)
    imposed = b.project.get("imposed_finish")
    last = max(r["early_finish"] for r in rows.values())
    end = at(imposed) if imposed else last
    grants: dict[str, int] = {}
    for code in reversed(order):
        if b.state[code].state != "complete":
            backward(b, code, rows, treatment, end, grants)
    for code in order:
        if b.state[code].state != "complete":
            rows[code]["free_float"] = free(b, code, rows, treatment, end)
    for code in reversed(order):
        c = b.activities[code].get("constraint")
        if (
            c
            and c["type"] == "as_late_as_possible"
            and b.state[code].state == "not_started"
            and not b.state[code].pinned
            and not b.activities[code].get("levelled")
            and not any("tie" in k and k["to"] == code and b.state[k["from"]].state != "complete" for k in b.links)
        ):
            as_late(b, code, rows, treatment, last)
    for code in order:
        s = b.state[code]
        rows[code]["out_of_sequence"] = s.start is not None and any(
            t > s.start if k["type"][1] == "S" else s.finish is not None and t > s.finish
            for k in b.links
            if k["to"] == code
            for t in [move(b, before(b, rows, k)["finish" if k["type"][0] == "F" else "start"], k)]
        )
    return rows


def forward(b: Book, code: str, rows: dict[str, Doc], treatment: str) -> Doc:
    a, s, axis = b.activities[code], b.state[code], b.lines[code]
    row: Doc = {"code": code, "state": s.state, "remaining": s.r, "resume": None}
    row |= dict.fromkeys(("late_start", "late_finish", "total_float", "free_float"))
    if s.state == "complete":
        return row | {"start": s.start, "finish": s.finish, "early_start": s.start, "early_finish": s.finish, "driven_by": {"actual"}}
    if s.pinned:
        x, y = at(a["start"]), at(a["finish"])
        return row | {"start": x, "finish": y, "early_start": x, "early_finish": y, "driven_by": {"fixed"}}
    if s.state == "in_progress" and s.r == 0:
        t = b.status
        return row | {"start": s.start, "finish": t, "early_start": t, "early_finish": t, "resume": t, "driven_by": {"status"}}
    begin: list[tuple[int, str]] = []
    end: list[tuple[int, str]] = []
    started = s.state == "in_progress"
    incoming = [k for k in b.links if k["to"] == code]
    for k in incoming:
        if not (started and treatment == "override"):
            t = move(b, before(b, rows, k)["finish" if k["type"][0] == "F" else "start"], k)
            (begin if k["type"][1] == "S" else end).append((t, ("tie:" if "tie" in k else "link:") + k["from"]))
    if not started:
        begin.append((at(b.project["start"]), "start"))
    if b.status is not None:
        begin.append((b.status, "status"))
    if s.carry is not None:
        begin.append((s.carry, "carry"))
    if a.get("levelled"):
        begin.append((at(a["levelled"]), "levelled"))
    c = a.get("constraint") or {"type": ""}
    if c["type"] in ("start_on_or_after", "must_start_on") and not started:
        begin.append((at(c["at"]), "constraint"))
    if c["type"] in ("finish_on_or_after", "must_finish_on"):
        end.append((at(c["at"]), "constraint"))
    d = s.r
    asked = [(axis.pos(t), n) for t, n in begin] + [(axis.pos(t) - d, n) for t, n in end]
    p = max(x for x, _ in asked)
    if d > 0:
        start, finish = axis.last(p), max([axis.first(p + d), *(t for t, _ in end)])
    elif any("tie" not in k for k in incoming):
        start = finish = max([axis.first(p), *(t for t, _ in begin + end)])
    elif any(axis.pos(t) == p for t, _ in begin):
        start = finish = axis.last(p)
    else:
        start = finish = max(t for t, _ in end if axis.pos(t) == p)
    row |= {"early_start": start, "early_finish": finish, "finish": finish, "driven_by": {n for x, n in asked if x == p}}
    return row | ({"start": s.start, "resume": start} if started else {"start": start})


def still_binds(b: Book, code: str, treatment: str) -> bool:
    s = b.state[code]
    return s.state == "not_started" or (s.state == "in_progress" and treatment != "override" and s.r > 0)


def opening(axis: Line, t: int) -> int:
    """The greatest p with last(p) ≤ t."""
    p = axis.pos(t)
    return p if axis.last(p) <= t else p - 1


def backward(b: Book, code: str, rows: dict[str, Doc], treatment: str, end: int, grants: dict[str, int]) -> None:
    a, s, axis, row = b.activities[code], b.state[code], b.lines[code], rows[code]
    d, started = s.r, s.state == "in_progress"
    finishes, starts, dated = [end], [], []
    c = a.get("constraint") or {"type": ""}
    if c["type"] in ("finish_on_or_before", "must_finish_on"):
        finishes.append(at(c["at"]))
    if c["type"] in ("start_on_or_before", "must_start_on") and not started:
        dated.append(at(c["at"]))
    if s.pinned:
        finishes.append(at(a["finish"]))
        dated.append(at(a["start"]))
    for k in b.links:
        if k["from"] != code or (started and k["type"][0] == "S"):
            continue
        q = b.state[k["to"]]
        limits = []
        if still_binds(b, k["to"], treatment):
            limits.append(rows[k["to"]]["late_start"] if k["type"][1] == "S" else grants[k["to"]])
            if q.pinned and k["type"][1] == "S":
                limits.append(at(b.activities[k["to"]]["start"]))
        if treatment == "recorded" and q.state != "not_started":
            happened = q.start if k["type"][1] == "S" else q.finish
            limits += [] if happened is None else [happened]
        for t in limits:
            (starts if k["type"][0] == "S" else finishes).append(move(b, t, k, back=True))
    if d == 0:
        late = min(finishes + starts + dated)
        row["late_start"] = row["late_finish"] = grants[code] = late
    else:
        p = min([axis.pos(t) for t in finishes] + [opening(axis, t) + d for t in starts] + [axis.pos(t) + d for t in dated])
        row["late_finish"], row["late_start"] = axis.first(p), axis.last(p - d)
        grants[code] = min([axis.last(p), *finishes])
    row["total_float"] = axis.pos(row["late_finish"]) - axis.pos(row["early_finish"])


def free(b: Book, code: str, rows: dict[str, Doc], treatment: str, end: int) -> int:
    s, axis, row = b.state[code], b.lines[code], rows[code]
    slack = [axis.pos(end) - axis.pos(row["early_finish"])]
    for k in b.links:
        if k["from"] != code or not still_binds(b, k["to"], treatment):
            continue
        t = move(b, rows[k["to"]]["early_start" if k["type"][1] == "S" else "early_finish"], k, back=True)
        if k["type"][0] == "F":
            slack.append(axis.pos(t) - axis.pos(row["early_finish"]))
        elif s.state == "not_started":
            slack.append((opening(axis, t) if s.r else axis.pos(t)) - axis.pos(row["early_start"]))
    return min(slack)


def as_late(b: Book, code: str, rows: dict[str, Doc], treatment: str, last: int) -> None:
    s, axis, row = b.state[code], b.lines[code], rows[code]
    finishes, starts = [last], []
    for k in b.links:
        if k["from"] == code and still_binds(b, k["to"], treatment):
            q = rows[k["to"]]
            shown = q["finish"] if k["type"][1] == "F" else q["start"] if q["resume"] is None else q["resume"]
            (starts if k["type"][0] == "S" else finishes).append(move(b, shown, k, back=True))
    if s.r == 0:
        if min(starts + finishes) > row["early_finish"]:
            row["start"] = row["finish"] = min(starts + finishes)
        return
    p = min([axis.pos(t) for t in finishes] + [opening(axis, t) + s.r for t in starts])
    if p > axis.pos(row["early_finish"]):
        row["start"], row["finish"] = axis.last(p - s.r), axis.first(p)
