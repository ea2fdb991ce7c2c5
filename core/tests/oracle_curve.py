"""The slow second implementation, sections 10 to 12: earned schedule, curve and differences."""

import math
from datetime import datetime, timedelta
from fractions import Fraction

from core.tests.oracle_schedule import ORIGIN, Doc, F, at, length, line_of
from core.tests.oracle_value import ZERO, Value, money


class Curves(Value):
    """What `Value` finds, along time and against the baseline."""

    def earned_schedule(self, members: list[str]) -> Doc:
        names = ("earned_schedule", "actual_time", "sv_t", "spi_t", "forecast_finish_t")
        rows = [self.base[c] for c in members if c in self.base]
        if self.t is None or not rows:
            return dict.fromkeys(names)
        axis, first, finish = self.b.axis, min(a["s"] for a in rows) // 1440, max(a["f"] for a in rows)
        days = [d for d in range(first, first + 500) if axis.between(d * 1440, d * 1440 + 1440)]
        pv = lambda k: sum(self.pv(self.base, a["code"], days[k] * 1440) for a in rows) if k else 0  # noqa: E731
        ev = sum(self.ev(a["code"]) for a in rows)

        def until(t: int) -> Fraction:
            d = t // 1440
            share = F(axis.between(d * 1440, t), axis.between(d * 1440, d * 1440 + 1440)) if d in days else ZERO
            return sum(1 for x in days if x < d) + share

        mine = [self.b.state[c] for c in members if c in self.b.state]
        ended = max(s.finish or 0 for s in mine) if mine and all(s.state == "complete" for s in mine) else None
        actual, planned = until(self.t if ended is None else ended), until(finish)
        if not sum(a["bac"] for a in rows):
            return dict.fromkeys(names) | {"actual_time": float(round(actual, 6))}
        if ended is not None:
            es = planned
        else:
            k = 0
            while k + 1 < len(days) and pv(k) < ev:
                k += 1
            es = F(k)
            if pv(k) > ev:
                es = k - 1 + F(ev - pv(k - 1), pv(k) - pv(k - 1))
            elif pv(k) == ev:
                last = k
                while last + 1 < len(days) and pv(last + 1) == ev:
                    last += 1
                es = min(max(actual, F(k)), F(last))
            es = min(es, planned) if pv(k) <= ev else es
        out: Doc = {"earned_schedule": float(round(es, 6)), "actual_time": float(round(actual, 6)), "sv_t": float(round(es - actual, 6))}
        out |= {"spi_t": float(round(es / actual, 6)) if actual else None, "forecast_finish_t": None}
        if ended is not None:
            out["forecast_finish_t"] = (ORIGIN + timedelta(minutes=ended)).date().isoformat()
        elif actual and es:
            n = max(math.ceil(planned * actual / es), 1)
            day = days[n - 1] if n <= len(days) else None
            out["forecast_finish_t"] = "far" if day is None else (ORIGIN + timedelta(days=day)).date().isoformat()
        return out

    def earned_at(self, code: str, t: int, pages: list["Curves"]) -> int:
        """EV of an activity at an earlier instant, as this page knows it."""
        a = self.base.get(code)
        if a is None or code not in self.b.state or not a["bac"]:
            return 0
        m, s = a.get("value_method", {"type": "percent"}), self.b.state[code]
        if m["type"] == "level_of_effort":
            return self.pv(self.base, code, t)
        of = m["base"] if m["type"] == "apportioned" else code
        own, s = self.base[of].get("value_method", {"type": "percent"}), self.b.state.get(of, s)
        whole = self.base[of]["bac"]
        if own["type"] == "level_of_effort":
            return round(F(a["bac"] * self.pv(self.base, of, t), whole)) if whole else 0
        if of not in self.b.state or s.start is None or t < s.start:
            return 0
        end = self.t if s.finish is None else s.finish
        if t >= end:
            return self.ev(code)
        if own["type"] in ("zero_hundred", "fifty_fifty", "start_share"):
            return round(a["bac"] * {"zero_hundred": ZERO, "fifty_fifty": F(1, 2)}.get(own["type"], F(str(own.get("share", 0)))))
        points = [(s.start, ZERO)]
        points += [(p.t, p.share(of)) for p in pages if p.b.state[of].start is not None and s.start <= p.t < end]
        last = F(self.ev(of), whole) if whole else F(self.ev(code), a["bac"])
        points.append((end, last))
        i = max(k for k, (u, _) in enumerate(points) if u <= t)
        (u, x), (z, y), axis = points[i], points[i + 1], self.b.lines[of]
        share = x + (y - x) * F(axis.between(u, t), axis.between(u, z)) if axis.between(u, z) else x
        return round(a["bac"] * share)

    # curve and differences

    def curve(self, bucket: str, pages: list["Curves"]) -> list[Doc]:
        rows = [*self.rows.values()]
        base = [*self.base.values()]
        spent = [x["from"] for x in self.actuals] + ([] if self.t is None else [self.t])
        start = min([r["start"] for r in rows] + [a["s"] for a in base] + spent)
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
                "pv": cash(sum(self.pv(self.base, c, e) for c in self.base)),
                "ev": None,
                "ac": None,
                "forecast": None,
            }
            if self.t is not None and at_status is not None:
                t = min(e, self.t)
                ac = sum(self.ac(self.codes, None, True, t).values())
                if i <= at_status:
                    p["ev"] = cash(sum(self.ev(c) if t == self.t else self.earned_at(c, t, pages) for c in self.codes))
                    p["ac"] = cash(ac)
                if i >= at_status:
                    p["forecast"] = cash(ac + (sum(x.due(e) for x in spending) if e > self.t or e == ends[-1] else 0))
            if others:
                p["others"] = {c: cash(sum(self.pv(base, a, e) for a in base)) for c, base in others.items()}
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
            now = self.worked(code) + sum(round(self.left(code, x)) for x in self.b.assigned(code) if self.b.labour(x))
            d: Doc = {"code": code, "duration": s.elapsed + s.r - duration, "work": now - work, "change": "both" if a else "added"}
            d |= {k: axis.between(a[k[0]], row[k]) if a else None for k in ("start", "finish")}
            ac = sum(self.ac([code], None, False, self.t).values()) if self.t is not None else 0
            left = sum(x.amount for x in self.remaining(code))
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
