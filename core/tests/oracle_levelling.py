"""Levelling, chains and buffers reckoned again, slowly and minute by minute, from nothing but the schedules of changed books.

Where each activity may begin at the earliest is asked of the whole schedule with the dates given so far; what is booked is
counted in sets of clock minutes; no search skips a minute that is not itself in the way.
"""

from collections import Counter
from dataclasses import replace
from datetime import date
from decimal import ROUND_HALF_EVEN, Decimal

from dryledger.book.plan import Book
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results, compute


class OracleLevelling:
    """One levelling of a small book at its last page."""

    def __init__(self, book: Book, within: bool) -> None:
        self.within = within
        self.bare = self.with_dates(book, {})
        self.free = replace(self.bare, project=replace(self.bare.project, imposed_finish=None))
        self.base = self.rows(self.free)
        self.first = self.rows(self.bare)
        self.ties = compute(self.bare).schedule.ties.kept
        self.axes = {r.code: next(c for c in book.calendars if c.code == r.calendar).axis for r in book.resources}
        self.booked: dict[str, Counter[int]] = {r.code: Counter() for r in book.resources}
        self.by: dict[tuple[str, int], list[str]] = {}
        self.placed: list[str] = []
        self.dates: dict[str, int] = {}
        self.others: dict[tuple[str, int], Decimal | None] = {}
        self.short: dict[str, list[str]] = {}
        self.holders: dict[str, list[tuple[str, str]]] = {}
        self.leads: dict[str, list[str]] = {}
        self.run()

    def with_dates(self, book: Book, dates: dict[str, int]) -> Book:
        return replace(book, activities=tuple(replace(a, levelled=dates.get(a.code)) for a in book.activities))

    def rows(self, book: Book) -> dict[str, object]:
        return compute(book).schedule.activities  # type: ignore[return-value]

    def stays(self, code: str) -> bool:
        """Pinned work, and started work that waits for nothing that may move."""
        a, x = self.bare.activity_by_code[code], self.base[code]
        if x.state == "not_started":  # type: ignore[attr-defined]
            return a.mode == "fixed"
        if self.bare.project.treatment == "override" or not x.remaining:  # type: ignore[attr-defined]
            return True
        before = [k.source for k in self.bare.links if k.target == code and k.source in self.base]  # no tie leads into started work
        return all(self.base[b].state == "complete" or self.stays(b) for b in before)  # type: ignore[attr-defined]

    def asks(self, code: str) -> dict[str, Decimal]:
        kinds = {r.code: r.kind for r in self.bare.resources}
        of = {x.resource: x.units for x in self.bare.assignments if x.activity == code and kinds[x.resource] != "material"}
        told = [h for p in self.bare.periods for h in p.hours if h.activity == code and h.to_go is not None]
        return {r: u for r, u in of.items() if [h.to_go for h in told if h.resource == r][-1:] != [0]}

    def minutes(self, code: str, p: int, d: int) -> list[int]:
        axis = self.bare.axes[code]
        return [axis.last(k) for k in range(p, p + d)]

    def works(self, resource: str, t: int) -> bool:
        return self.axes[resource].between(t, t + 1) == 1

    def other(self, resource: str, t: int) -> Decimal | None:
        """What is there of a resource in a minute where that is another than usual."""
        key = resource, t // 1440
        if key not in self.others:
            day = date.fromisoformat(to_text(t)[:10])
            found = (e.units for e in self.bare.resource_by_code[resource].exceptions if e.start <= day <= e.end)
            self.others[key] = next(found, None)
        return self.others[key]

    def too_little(self, resource: str, units: Decimal, t: int) -> bool:
        usual, other, taken = self.bare.resource_by_code[resource].units, self.other(resource, t), self.booked[resource][t]
        if not self.works(resource, t):
            return False
        if other is None:
            return usual - taken < min(units, usual)
        asked = min(units, max(usual, other))
        return (usual if asked > other else other) - taken < asked

    def none(self, resource: str, t: int) -> bool:
        other = self.other(resource, t)
        return self.works(resource, t) and other is not None and other - self.booked[resource][t] <= 0

    def book(self, code: str, p: int, d: int) -> None:
        self.placed.append(code)
        for resource, units in self.asks(code).items():
            for t in self.minutes(code, p, d):
                if self.works(resource, t):
                    self.booked[resource][t] += units
                    self.by.setdefault((resource, t), []).append(code)

    def run(self) -> None:
        rows = self.first
        open_ = [c for c, x in rows.items() if x.state != "complete"]  # type: ignore[attr-defined]
        for code in open_:
            if self.stays(code):
                x = rows[code]
                self.book(code, self.bare.axes[code].pos(x.early_start), x.remaining)  # type: ignore[attr-defined]
        left = [c for c in open_ if not self.stays(c)]
        while left:
            ready = [c for c in left if not any(k.target == c and k.source in left for k in (*self.bare.links, *self.ties))]
            code = min(ready, key=lambda c: (self.base[c].late_start, self.base[c].total_float, c))  # type: ignore[attr-defined]
            left.remove(code)
            self.place(code)

    def place(self, code: str) -> None:
        x = self.rows(self.with_dates(self.bare, self.dates))[code]
        axis, d, asks = self.bare.axes[code], x.remaining, self.asks(code)  # type: ignore[attr-defined]
        p = axis.pos(x.early_start)  # type: ignore[attr-defined]
        if not d or not asks:
            self.placed.append(code)
            return
        c = self.bare.activity_by_code[code].constraint
        late = c is not None and c.type == "as_late_as_possible" and x.state == "not_started"  # type: ignore[attr-defined]
        if late:
            p = max(p, axis.pos(self.base[code].start))  # type: ignore[attr-defined]
        q = p
        most = max(p, axis.pos(self.base[code].late_start)) if self.within else None  # type: ignore[attr-defined]
        while True:
            while any(self.none(r, axis.last(q)) for r in asks):
                q += 1
            if most is not None and q > most:
                q = p
                break
            wrong = [k for k, t in enumerate(self.minutes(code, q, d)) for r, u in asks.items() if self.too_little(r, u, t)]
            if not wrong:
                break
            q += max(wrong) + 1
            if most is not None and q > most:
                q = p
                break
        if q > p or late:
            self.dates[code] = axis.last(q)
        if q > p:
            now = self.rows(self.with_dates(self.bare, self.dates))
            minutes = [axis.last(k) for k in range(q - 1, p - 1, -1)]
            short = {t: [r for r, u in asks.items() if self.too_little(r, u, t) or self.none(r, t)] for t in minutes}
            t = next((t for t in minutes if any(self.by.get((r, t)) for r in short[t])), minutes[0])
            if not any(self.by.get((r, t)) for r in short[t]) and p == axis.pos(x.early_start):  # type: ignore[attr-defined]
                self.leads[code] = list(x.driven_by)  # type: ignore[attr-defined]
            self.short[code] = short[t]
            self.holders[code] = [
                (h, r)
                for r in short[t]
                for h in self.by.get((r, t), ())
                if now[h].finish <= axis.last(q)  # type: ignore[attr-defined]
            ]
        self.book(code, q, d)


def oracle_chain(r: Results, found: OracleLevelling) -> tuple[list[tuple[str, str | None]], list[tuple[list[str], str | None]]]:
    """The chain from first to last with its ties, and each feeding chain with its join."""
    rows = compute(found.with_dates(untied(r.book), found.dates), treatment=r.treatment).schedule.activities
    open_ = [c for c, x in rows.items() if x.state != "complete"]
    handed = oracle_hand_overs(r, found)
    taken: list[str] = []

    def rank(c: str) -> tuple[int, int, str]:
        return -rows[c].early_finish, -oracle_safety(r, c), c

    def back(code: str) -> list[tuple[str, str | None]]:
        out: list[tuple[str, str | None]] = []
        while True:
            taken.append(code)
            ties = {}
            for holder, resource in found.holders.get(code, ()):
                ties.setdefault(holder, f"resource:{resource}")
            for d in (*rows[code].driven_by, *found.leads.get(code, ())):
                if d.startswith("link:"):
                    ties[d[5:]] = d
            ties = {c: how for c, how in ties.items() if c in open_ and c not in taken}
            best = min(ties, key=rank, default=None)
            out.insert(0, (code, None if best is None else ties[best]))
            if best is None:
                return out
            code = best

    if not open_:
        return [], []
    chain = back(min(open_, key=rank))
    before = [(k.source, k.target) for k in r.book.links if k.source in open_ and k.target in open_] + [(a, b) for a, b, _ in handed]
    loose: list[str | None] = [None]
    feeding: list[tuple[list[str], str | None]] = []
    for join in [*(c for c, _ in chain), *loose]:
        while True:
            left = [a for a, b in before if b == join] if join is not None else [c for c in open_ if all(a != c for a, _ in before)]
            left = [c for c in left if c not in taken]
            if not left:
                break
            feeding.append(([c for c, _ in back(min(left, key=rank))], join))
    return chain, feeding


def untied(book: Book) -> Book:
    return replace(book, promises=())


def oracle_hand_overs(r: Results, found: OracleLevelling) -> list[tuple[str, str, str]]:
    """Who has a resource from whom in the levelled plan: each unit by itself, in a list of who has it last."""
    book = untied(r.book)
    rows = compute(found.with_dates(book, found.dates), treatment=r.treatment).schedule.activities
    starts = {c: x.start if x.resume is None else x.resume for c, x in rows.items()}
    after = {c: {k.target for k in book.links if k.source == c} for c in rows}
    out: list[tuple[str, str, str]] = []

    def leads(a: str, b: str) -> bool:
        return a == b or any(leads(c, b) for c in after[a])

    for resource in sorted(book.resources, key=lambda x: x.code):
        tenths, have = 100, list[str | None]()
        have = [None] * int(resource.units * tenths)
        asking = [c for c, x in rows.items() if x.state != "complete" and x.remaining and resource.code in found.asks(c)]
        for code in sorted(asking, key=lambda c: (starts[c], rows[c].finish, c)):
            wanted = int(min(found.asks(code)[resource.code], resource.units) * tenths)
            free = [i for i, c in enumerate(have) if c is None]
            givers = sorted({c for c in have if c is not None and rows[c].finish <= starts[code]}, key=lambda c: (-rows[c].finish, c))
            places = [*free, *(i for g in givers for i, c in enumerate(have) if c == g)][:wanted]
            for giver in dict.fromkeys(have[i] for i in places):
                if giver is not None and not leads(code, giver):
                    out.append((giver, code, resource.code))
                    after[giver].add(code)
            for i in places:
                have[i] = code
    return out


def oracle_safety(r: Results, code: str) -> int:
    """P90 − P50 of what is left, in whole minutes."""
    a, p = r.book.activity_by_code[code], r.progress[code]
    if a.safe_duration is None or a.safe_duration <= p.planned:
        return 0
    share = Decimal(1) if p.state == "not_started" else Decimal(p.remaining) / p.planned if p.planned else Decimal(0)
    return int((Decimal(int(a.safe_duration) - p.planned) * share).to_integral_value(ROUND_HALF_EVEN))
