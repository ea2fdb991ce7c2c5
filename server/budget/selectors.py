"""What the budget room reads: the time-phased table, costs by kind, loads, and estimates before they are applied."""

from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.outline import levels
from dryledger.book.plan import Book
from dryledger.budget.apportioning import apportion
from dryledger.budget.time_phased import kinds_of_cost, table
from dryledger.calendar.calendar import to_text
from dryledger.changes.estimates import PROJECT, once_applied, read_total
from dryledger.compute import Results
from dryledger.errors import EntryRefused
from server.book.access import Access
from server.book.kept_models import Estimate
from server.plan.sheet import PlanSheet, project_sheet
from server.shared.problems import Refused
from server.shared.words import sentence

Shares = dict[tuple[str, str], Decimal]
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
        raise Refused("too-many-points", sentence("budget.too_long_time_small"), 422, field="bucket")
    names = {h.code: (h.name, h.level) for h in levels(r.book)}
    rows = []
    for code in [None, *names]:
        if code in t.rows:
            name, level = names.get(code or "", (sentence("budget.outside_breakdown"), 0))
            rows.append(PhasedRow(code or "", name, level, [f"{c:f}" for c in t.rows[code]], f"{t.totals[code]:f}"))
    total = t.running[-1] if t.running else Decimal(0)
    return PhasedOut([to_text(e) for e in t.ends], rows, [f"{c:f}" for c in t.columns], [f"{c:f}" for c in t.running], f"{total:f}")


def budget_out(access: Access, bucket: str, rows: list[str]) -> BudgetOut:
    """The budget of a project; `rows`, by name, narrows the costs by kind to a selection."""
    project = access.project
    sheet = project_sheet(project)
    r = sheet.results
    chosen = _activities(sheet, rows)
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
        "the project" if not rows else sentence("budget.activities", count=len(chosen)),
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
    """An estimate, kept or being tried; hours as hours. `effect` is what the plan has more once it is used."""

    id: str | None
    code: str
    name: str
    measure: str
    total: str
    top: str | None
    spread_to: list[str]
    """The names of the resources that its hours are spread to; none: everybody assigned, and the durations follow."""
    effect: str
    rows: list[EstimateRow]


@dataclass
class EstimatesOut:
    """The estimates that were kept."""

    revision: int
    currency: str
    kept: list[EstimateOut]


def tried(access: Access, measure: str, total: str, percent: str, top: str) -> EstimateOut:
    """An estimate as it would be, without keeping it. Raises EntryRefused at the field."""
    project = access.project
    sheet = project_sheet(project)
    book = sheet.results.book
    amount, unit = read_total(book.project.currency, measure, total, percent)
    shares = apportion(book, "", amount, unit, _top(book, top)).shares
    return _estimate(sheet, None, "", "", measure, amount, top or None, dict(shares.items()), [])


def _top(book: Book, top: str) -> str | None:
    if top and all(w.code != top for w in book.wbs):
        raise EntryRefused("top", sentence("budget.no_element", top=top))
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
    spread_to: list[str],
) -> EstimateOut:
    r = sheet.results
    book = r.book
    zero = Decimal(0)
    found = once_applied(book, r.schedule, measure, shares, spread_to)
    names = [book.resource_by_code[c].name for c in spread_to if c in book.resource_by_code]
    now, after = found.get(PROJECT, (zero, zero))
    rows = []
    for head in levels(book):
        rows.append((head.level, "wbs", head.code, head.name, 0.0))
        rows += [(head.level + 1, "activity", a.code, a.name, float(a.weight)) for a in book.activities if a.wbs == head.code]
    rows += [(0, "activity", a.code, a.name, float(a.weight)) for a in book.activities if a.wbs is None]
    weights = {w.code: float(w.weight) for w in book.wbs}
    keys = {("activity", c): f"a{pk}" for c, pk in sheet.keyed.key_of("activities").items()}
    keys |= {("wbs", c): f"w{pk}" for c, pk in sheet.keyed.key_of("wbs").items()}
    out = [
        EstimateRow(
            keys[kind, c],
            kind,
            c,
            n,
            level,
            weights.get(c, 1.0) if kind == "wbs" else weight,
            _shown(found.get((kind, c), (zero, zero))[0], measure),
            _shown(shares[kind, c], measure) if (kind, c) in shares else None,
            _shown(found.get((kind, c), (zero, zero))[1], measure),
        )
        for level, kind, c, n, weight in rows
    ]
    return EstimateOut(key, code, name, measure, _shown(total, measure), top, names, _shown(after - now, measure), out)


def estimates_out(access: Access) -> EstimatesOut:
    """The kept estimates of a project."""
    project = access.project
    sheet = project_sheet(project)
    kept = []
    for e in Estimate.objects.filter(project=project):
        shares = {(s["kind"], s["code"]): Decimal(s["amount"]) for s in e.shares}
        kept.append(_estimate(sheet, f"e{e.pk}", e.code, e.name, e.measure or "hours", Decimal(e.total), e.top, shares, e.spread_to))
    return EstimatesOut(project.revision, project.currency, kept)
