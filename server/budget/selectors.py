"""What the budget room reads: the time-phased table, costs by kind, loads, and estimates before they are applied."""

from dataclasses import dataclass, field
from decimal import Decimal

from dryledger.book.plan import Book
from dryledger.budget.apportioning import apportion
from dryledger.budget.lines import planned_cost, planned_work
from dryledger.budget.load import loads
from dryledger.budget.money import minor_unit
from dryledger.budget.time_phased import kinds_of_cost, table
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results
from dryledger.entry.grammar import type_amount, type_percent
from dryledger.errors import EntryRefused
from server.plan.models import Estimate
from server.plan.sheet import PlanSheet, sheet_of
from server.posting.pages import find_project
from server.posting.sheet import levels
from server.shared.problems import Refused

Shares = dict[tuple[str, str], Decimal]
BUCKETS = ("day", "week", "month")
MOST_CELLS = 400_000


@dataclass
class PhasedRow:
    """A work package of the table; `level` its depth in the breakdown."""

    code: str
    name: str
    level: int
    cells: list[str]
    total: str


@dataclass
class PhasedOut:
    """Money by time with totals both ways; `running` is the cumulative curve."""

    ends: list[str]
    rows: list[PhasedRow]
    columns: list[str]
    running: list[str]
    total: str


@dataclass
class KindOut:
    """The planned cost of one kind."""

    kind: str
    amount: str


@dataclass
class BudgetOut:
    """The budget by time of the plan as it stands, the costs out of budget apart."""

    revision: int
    currency: str
    status: str
    baseline: str | None
    bucket: str
    budget: PhasedOut
    outside: PhasedOut
    kinds: list[KindOut]
    total: str
    """Of the kinds in budget."""
    scope: str


def _phased(r: Results, kind: str, bucket: str) -> PhasedOut:
    t = table(r.valuation, kind, bucket)
    if len(t.ends) * max(len(t.rows), 1) > MOST_CELLS:
        raise Refused("too-many-points", "That is too long a time for so small a step. Choose weeks or months.", 422, field="bucket")
    names = {h.code: (h.name, h.level) for h in levels(r.book)}
    rows = []
    for code in [None, *names]:
        if code in t.rows:
            name, level = names.get(code or "", ("Outside the breakdown", 0))
            rows.append(PhasedRow(code or "", name, level, [f"{c:f}" for c in t.rows[code]], f"{t.totals[code]:f}"))
    total = t.running[-1] if t.running else Decimal(0)
    return PhasedOut([to_text(e) for e in t.ends], rows, [f"{c:f}" for c in t.columns], [f"{c:f}" for c in t.running], f"{total:f}")


def budget_out(code: str, bucket: str, rows: str) -> BudgetOut:
    """The budget of a project; `rows` (names apart by commas) narrows the costs by kind to a selection."""
    if bucket not in BUCKETS:
        raise Refused("bad-request", f"A budget can be shown by {', '.join(BUCKETS)}.", 400, field="bucket")
    project = find_project(code)
    sheet = sheet_of(project)
    r = sheet.results
    chosen = _activities(sheet, [x for x in rows.split(",") if x])
    kinds = kinds_of_cost(r.valuation, chosen)
    return BudgetOut(
        project.revision,
        project.currency,
        to_text(r.status) if r.status is not None else "",
        r.baseline.code if r.baseline else None,
        bucket,
        _phased(r, "plan", bucket),
        _phased(r, "outside", bucket),
        [KindOut(k, f"{v:f}") for k, v in kinds.items()],
        f"{sum(v for k, v in kinds.items() if k != 'outside'):f}",
        "the project" if not rows else f"{len(chosen)} activities",
    )


def _activities(sheet: PlanSheet, names: list[str]) -> list[str]:
    """The codes of the activities among some rows and below them; all where none are named."""
    if not names:
        return [a.code for a in sheet.results.book.activities]
    wanted = set(names)
    above = {row.id: row.parent for row in sheet.rows.values()}

    def inside(name: str | None) -> bool:
        while name is not None:
            if name in wanted:
                return True
            name = above.get(name)
        return False

    return [row.code for row in sheet.rows.values() if row.kind != "wbs" and inside(row.id)]


@dataclass
class Cause:
    """What one activity asks of a resource in a bucket, in hours."""

    row: str
    code: str
    name: str
    hours: float


@dataclass
class LoadOut:
    """The load of a resource in hours by bucket; `over` are the places of over-booked buckets with what causes each."""

    id: str
    code: str
    name: str
    kind: str
    units: float
    asked: list[float]
    there: list[float]
    over: list[int]
    causes: dict[str, list[Cause]] = field(default_factory=dict)


@dataclass
class LoadsOut:
    """The loads of all resources."""

    revision: int
    status: str
    bucket: str
    ends: list[str]
    loads: list[LoadOut]


def loads_out(code: str, bucket: str) -> LoadsOut:
    """The loads of a project's resources."""
    if bucket not in BUCKETS:
        raise Refused("bad-request", f"A load can be shown by {', '.join(BUCKETS)}.", 400, field="bucket")
    project = find_project(code)
    sheet = sheet_of(project)
    r = sheet.results
    ends, found = loads(r.at, r.progress, r.schedule, bucket)
    keys = {c: f"r{pk}" for pk, c in sheet.plan.codes["Resource"].items()}
    rows = {c: f"a{pk}" for pk, c in sheet.plan.codes["Activity"].items()}
    out = []
    for x in found:
        resource = r.book.resource_by_code[x.resource]
        causes: dict[str, list[Cause]] = {}
        for i, parts in enumerate(x.causes):
            if parts:
                named = [Cause(rows[c], c, r.book.activity_by_code[c].name, _hours(m)) for c, m in parts.items()]
                causes[str(i)] = sorted(named, key=lambda c: -c.hours)
        out.append(
            LoadOut(
                keys[x.resource],
                x.resource,
                resource.name,
                resource.kind,
                float(resource.units),
                [_hours(m) for m in x.asked],
                [_hours(m) for m in x.there],
                x.over,
                causes,
            )
        )
    return LoadsOut(project.revision, to_text(r.status) if r.status is not None else "", bucket, [to_text(e) for e in ends], out)


def _hours(minutes: Decimal) -> float:
    return round(float(minutes) / 60, 2)


@dataclass
class EstimateRow:
    """One element or activity: what it has now, its share, and what it will have once the estimate is applied."""

    row: str
    kind: str
    code: str
    name: str
    level: int
    weight: float
    now: str
    share: str | None
    after: str


@dataclass
class EstimateOut:
    """An estimate, kept or being tried; hours as hours."""

    id: str | None
    code: str
    name: str
    measure: str
    total: str
    top: str | None
    rows: list[EstimateRow]


@dataclass
class EstimatesOut:
    """The estimates that were kept."""

    revision: int
    currency: str
    kept: list[EstimateOut]


def tried(code: str, measure: str, total: str, percent: str, top: str) -> EstimateOut:
    """An estimate as it would be, without keeping it. Raises EntryRefused at the field."""
    project = find_project(code)
    sheet = sheet_of(project)
    book = sheet.results.book
    amount, unit = read_total(book, measure, total, percent)
    shares = apportion(book, "", amount, unit, _top(book, top)).shares
    return _estimate(sheet, None, "", "", measure, amount, top or None, dict(shares.items()))


def read_total(book: Book, measure: str, total: str, percent: str) -> tuple[Decimal, Decimal]:
    """A typed total of money or hours, raised or lowered by a typed percentage; in minor units or minutes."""
    if measure not in ("hours", "money"):
        raise EntryRefused("measure", "An estimate is one of hours or of money.")
    unit = minor_unit(book.project.currency) if measure == "money" else Decimal(1)
    got = type_amount(total, unit if measure == "money" else Decimal("0.01"), "total")
    if got is None or got < 0:
        raise EntryRefused("total", f"Give the total of {measure}, such as 1200.")
    sign = -1 if percent.strip().startswith(("-", "−")) else 1
    share = type_percent(percent.strip().lstrip("+-−"), "percent") or Decimal(0)
    return (got if measure == "money" else got * 60) * (1 + sign * share), unit


def _top(book: Book, top: str) -> str | None:
    if top and all(w.code != top for w in book.wbs):
        raise EntryRefused("top", f"There is no element “{top}”.")
    return top or None


def _shown(amount: Decimal, measure: str) -> str:
    return f"{amount:f}" if measure == "money" else f"{round(amount / 60, 2):f}"


def _estimate(
    sheet: PlanSheet,
    key: str | None,
    code: str,
    name: str,
    measure: str,
    total: Decimal,
    top: str | None,
    shares: dict[tuple[str, str], Decimal],
) -> EstimateOut:
    r = sheet.results
    book = r.book
    now: dict[tuple[str, str], Decimal] = {}
    kept: dict[tuple[str, str], Decimal] = {}
    for a in book.activities:
        x = r.schedule.activities[a.code]
        has = planned_cost(book, a, x) if measure == "money" else planned_work(book, a, x)
        put = sum((c.amount for c in book.costs_of.get(a.code, ()) if c.name == ESTIMATED), Decimal(0)) if measure == "money" else has
        share = shares.get(("activity", a.code))
        after = has if share is None else has - put + share
        for place in [("activity", a.code), *(("wbs", w) for w in book.wbs_above.get(a.wbs or "", ()))]:
            now[place] = now.get(place, Decimal(0)) + has
            kept[place] = kept.get(place, Decimal(0)) + after
    rows = []
    for head in levels(book):
        rows.append((head.level, "wbs", head.code, head.name, 0.0))
        rows += [(head.level + 1, "activity", a.code, a.name, float(a.weight)) for a in book.activities if a.wbs == head.code]
    rows += [(0, "activity", a.code, a.name, float(a.weight)) for a in book.activities if a.wbs is None]
    weights = {w.code: float(w.weight) for w in book.wbs}
    keys = {("activity", c): f"a{pk}" for pk, c in sheet.plan.codes["Activity"].items()}
    keys |= {("wbs", c): f"w{pk}" for pk, c in sheet.plan.codes["WbsElement"].items()}
    zero = Decimal(0)
    out = [
        EstimateRow(
            keys[kind, c],
            kind,
            c,
            n,
            level,
            weights.get(c, 1.0) if kind == "wbs" else weight,
            _shown(now.get((kind, c), zero), measure),
            _shown(shares[kind, c], measure) if (kind, c) in shares else None,
            _shown(kept.get((kind, c), zero), measure),
        )
        for level, kind, c, n, weight in rows
    ]
    return EstimateOut(key, code, name, measure, _shown(total, measure), top, out)


ESTIMATED = "Estimate"
"""The direct cost that applying an estimate of money puts on an activity, in the place of the one put there before."""


def estimates_out(code: str) -> EstimatesOut:
    """The kept estimates of a project."""
    project = find_project(code)
    sheet = sheet_of(project)
    kept = []
    for e in Estimate.objects.filter(project=project):
        shares = {(s["kind"], s["code"]): Decimal(s["amount"]) for s in e.shares}
        kept.append(_estimate(sheet, f"e{e.pk}", e.code, e.name, e.measure or "hours", Decimal(e.total), e.top, shares))
    return EstimatesOut(project.revision, project.currency, kept)


__all__ = ["ESTIMATED", "budget_out", "estimates_out", "loads_out", "read_total", "tried"]
