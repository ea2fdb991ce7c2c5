"""The slow second implementation, sections 10 to 12: earned schedule, curve and differences."""

import math
from datetime import datetime, timedelta
from fractions import Fraction

from core.tests.oracle_schedule import ORIGIN, Doc, at, length, line_of
from core.tests.oracle_value import ZERO, F, Value, money


class Curves(Value):
    """What `Value` finds, along time and against the baseline."""

    def cells(self, x: Fraction) -> Fraction:
        return F(round(x * 10**self.digits), 10**self.digits)

    def earned_schedule(self, members: list[str]) -> Doc:
        names = ("earned_schedule", "actual_time", "sv_t", "spi_t", "forecast_finish_t")
        rows = [self.base[c] for c in members if c in self.base]
        if self.t is None or not rows:
            return dict.fromkeys(names)
        axis, first, finish = self.b.axis, min(a["s"] for a in rows) // 1440, max(a["f"] for a in rows)
        days = [d for d in range(first, first + 500) if axis.between(d * 1440, d * 1440 + 1440)]
        pv = lambda t: self.cells(sum((self.pv(self.base, a["code"], t) for a in rows), ZERO))  # noqa: E731
        ev = self.cells(sum((self.ev(a["code"]) for a in rows), ZERO))

        def until(t: int) -> Fraction:
            d = t // 1440
            share = F(axis.between(d * 1440, t), axis.between(d * 1440, d * 1440 + 1440)) if d in days else ZERO
            return sum(1 for x in days if x < d) + share

        if not self.cells(sum((a["bac"] for a in rows), ZERO)):
            return dict.fromkeys(names) | {"actual_time": float(round(until(self.t), 6))}
        es = ZERO
        if ev:
            before, k = ZERO, 1
            while pv(days[k] * 1440) < ev:
                before, k = pv(days[k] * 1440), k + 1
            es = k - 1 + (ev - before) / (pv(days[k] * 1440) - before)
        actual = until(self.t)
        out: Doc = {"earned_schedule": float(round(es, 6)), "actual_time": float(round(actual, 6)), "sv_t": float(round(es - actual, 6))}
        out |= {"spi_t": float(round(es / actual, 6)) if actual else None, "forecast_finish_t": None}
        if actual and es:
            n = max(math.ceil(until(finish) * actual / es), 1)
            day = days[n - 1] if n <= len(days) else None
            out["forecast_finish_t"] = "far" if day is None else (ORIGIN + timedelta(days=day)).date().isoformat()
        return out

    # curve and differences

    def curve(self, bucket: str, earned_at: list[tuple[int, Fraction]]) -> list[Doc]:
        rows = [*self.rows.values()]
        base = [*self.base.values()]
        start = min([r["start"] for r in rows] + [a["s"] for a in base])
        latest = max([r["finish"] for r in rows] + [a["f"] for a in base])
        end = latest if self.t is None else max(latest, self.t)
        if bucket == "period":
            ends = [at(p["status"]) for p in self.b.pages]
            ends += [latest] if not ends or latest > ends[-1] else []
        else:
            ends = [closes(bucket, start)]
            while ends[-1] < end:
                ends.append(closes(bucket, ends[-1]))
        spending = [x for c in self.rows for x in self.remaining(c)]
        others = {c: self.base_of(c) for c in self.project.get("compared_with", [])}
        at_status = None if self.t is None else next(i for i, e in enumerate(ends) if e >= self.t)
        out = []
        cash = lambda x: money(x, self.digits)  # noqa: E731
        for i, e in enumerate(ends):
            p: Doc = {
                "end": e,
                "pv": cash(sum((self.pv(self.base, c, e) for c in self.base), ZERO)),
                "ev": None,
                "ac": None,
                "forecast": None,
            }
            if self.t is not None and at_status is not None:
                t = min(e, self.t)
                ac = sum(self.ac(self.codes, None, True, t).values(), ZERO)
                if i <= at_status:
                    p["ev"] = cash(next((x for s, x in reversed(earned_at) if s <= t), ZERO))
                    p["ac"] = cash(ac)
                if i >= at_status:
                    p["forecast"] = cash(ac + sum((x.due(e) for x in spending), ZERO))
            if others:
                p["others"] = {c: cash(sum((self.pv(base, a, e) for a in base), ZERO)) for c, base in others.items()}
            out.append(p)
        return out

    def differences(self) -> list[Doc]:
        out = []
        for code in self.codes if self.project.get("measured_against") else []:
            a = self.base.get(code)
            work = duration = 0
            if a is not None:
                duration, work = length(a["duration"], a["own"]), length(a["work"], a["own"])
            if code not in self.rows:
                out.append({"code": code, "start": None, "finish": None, "duration": -duration, "work": -work, "change": "removed"})
                continue
            row, s, axis = self.rows[code], self.b.state[code], line_of(self.b.calendar(code))
            posted = sum((self.minutes(h, k) for h in self.posts(code) if self.b.labour(h) for k in ("worked", "overtime")), ZERO)
            now = posted + sum((self.left(code, x) for x in self.b.assigned(code) if self.b.labour(x)), ZERO)
            d: Doc = {"code": code, "duration": s.elapsed + s.r - duration, "work": round(now) - work, "change": "both" if a else "added"}
            d |= {k: axis.between(a[k[0]], row[k]) if a else None for k in ("start", "finish")}
            ac = sum(self.ac([code], None, False, self.t).values(), ZERO) if self.t is not None else ZERO
            left = sum((x.amount for x in self.remaining(code)), ZERO)
            out.append(d | {"cost": money(ac + left - (a["bac"] if a else 0), self.digits)})
        return out


def closes(bucket: str, t: int) -> int:
    """The midnight that closes the bucket of an instant."""
    day: datetime = (ORIGIN + timedelta(minutes=t)).replace(hour=0, minute=0)
    if bucket == "day":
        day += timedelta(days=1)
    elif bucket == "week":
        day += timedelta(days=7 - day.weekday())
    else:
        day = (day.replace(day=1) + timedelta(days=32)).replace(day=1)
    return round((day - ORIGIN).total_seconds() / 60)
