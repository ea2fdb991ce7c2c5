"""The budget under change: what was approved first, what approved changes made of it, what is built, and what nobody can explain; and
the reserves.

Source: calculation contract, section 23. Amounts are in minor units until they are shown.
"""

from collections.abc import Iterable
from dataclasses import dataclass, field
from decimal import Decimal
from functools import cached_property

from dryledger.book.baselines import Baseline
from dryledger.book.orders import Reserve
from dryledger.book.plan import Book
from dryledger.book.registers import ChangeLine, ChangeOrder
from dryledger.budget.money import amount_of, cells
from dryledger.calendar.calendar import Instant
from dryledger.value.valuation import Valuation, planned_of
from dryledger.words import sentence

__all__ = ["BudgetStand", "ReserveStand", "UnderChange", "first_approved", "line_of"]

FIELDS = ("original", "approved_changes", "authorised", "to_build", "unexplained", "baseline")


@dataclass(frozen=True)
class BudgetStand:
    """The budget of the project or an element. What is None has its reason."""

    code: str
    original: Decimal | None
    approved_changes: Decimal | None
    authorised: Decimal | None
    to_build: Decimal | None
    unexplained: Decimal | None
    baseline: Decimal | None
    reasons: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class ReserveStand:
    """A reserve at a page: what it was, what approved changes have drawn from it, and what is left."""

    reserve: Reserve
    amount: Decimal
    drawn: Decimal
    left: Decimal


def first_approved(book: Book) -> Baseline | None:
    """The first baseline listed that somebody approved and that is no import: the original budget and dates."""
    return next((b for b in book.baselines if b.approved_by and b.source != "import"), None)


def line_of(book: Book, baseline: Baseline) -> list[str]:
    """A baseline and what stands before it, by their codes: what each was made from; absent, of one of the plan the one listed before."""
    codes = [b.code for b in book.baselines]
    out, at = list[str](), baseline
    while True:
        out.append(at.code)
        place = codes.index(at.code)
        before = at.before or (codes[place - 1] if at.source == "plan" and place else None)
        if before is None or before in out:
            return out
        at = book.baseline_by_code[before]


class UnderChange:
    """The budget under change at a page."""

    def __init__(self, v: Valuation) -> None:
        self.v, self.book = v, v.book

    @cached_property
    def original(self) -> Baseline | None:
        """The first approved baseline."""
        return first_approved(self.book)

    @cached_property
    def approved(self) -> list[ChangeOrder]:
        """The changes approved by the status date, those built since too; without a page all that are decided so."""
        return self._approved_by(self.v.at.status)

    def _approved_by(self, t: Instant | None) -> list[ChangeOrder]:
        found = [c for c in self.book.changes if c.stands in ("approved", "built")]
        return [c for c in found if t is None or c.decided_when is None or c.decided_when <= t]

    @cached_property
    def _homes(self) -> dict[str, str | None]:
        """The element of each activity: in the plan now, else in a baseline that had it."""
        out: dict[str, str | None] = {a.code: a.wbs for a in self.book.activities}
        for b in self.book.baselines:
            for a in b.activities:
                out.setdefault(a.code, a.wbs)
        return out

    def _place(self, line: ChangeLine) -> str | None:
        """The element at which a line counts; None: at the project alone."""
        place = self._homes.get(line.activity) if line.activity is not None else line.wbs
        return place if place in self.book.wbs_above else None

    def _lines(self, changes: Iterable[ChangeOrder], element: str | None) -> int:
        """What changes move the budget of an element and all below it by, or of the project."""
        unit, total = self.v.unit, 0
        for line in (x for c in changes for x in c.lines if x.reserve is None):
            place = self._place(line)
            if element is None or (place is not None and element in self.book.wbs_above[place]):
                total += cells(line.amount, unit)
        return total

    def _budget(self, baseline: Baseline, element: str | None) -> int:
        planned, total = planned_of(self.book, baseline).budget, 0
        for a in baseline.activities:
            home = self._homes.get(a.code)
            if element is None or (home is not None and element in self.book.wbs_above.get(home, ())):
                total += planned[a.code]
        return total

    def _above(self, element: str) -> str | None:
        """The element above with a line of an approved change, below which budgets can't be told apart."""
        with_line = {x.wbs for c in self.approved for x in c.lines if x.wbs is not None}
        return next((w for w in self.book.wbs_above[element][1:] if w in with_line), None)

    def stand(self, element: str | None = None) -> BudgetStand:
        """The budget of an element (absent: the project)."""
        found: dict[str, int | None] = dict.fromkeys(FIELDS)
        reasons: dict[str, str] = {}
        measured, above = self.v.baseline, None if element is None else self._above(element)
        found["baseline"] = None if measured is None else self._budget(measured, element)
        found["original"] = original = None if self.original is None else self._budget(self.original, element)
        if above is None:
            approved = found["approved_changes"] = self._lines(self.approved, element)
            built = [c for c in self.approved if c.stands == "built"]
            found["to_build"] = approved - self._lines(built, element)
            if original is not None:
                found["authorised"] = original + approved
                if measured is not None:
                    line = line_of(self.book, measured)
                    inside = [c for c in self.book.changes if c.baseline in line]
                    found["unexplained"] = (found["baseline"] or 0) - original - self._lines(inside, element)
        for key in FIELDS:
            if found[key] is None:
                told = above is not None and key not in ("original", "baseline")
                reasons[key] = sentence("under_change.by", code=above) if told else self._reason(key)
        money = {key: None if x is None else amount_of(x, self.v.unit) for key, x in found.items()}
        return BudgetStand(element or self.book.project.code, **money, reasons=reasons)

    def _reason(self, key: str) -> str:
        if key == "baseline" or (key == "unexplained" and self.v.baseline is None):
            return sentence("valuation.no_baseline_measure_against")
        return sentence("under_change.no_approved_baseline")

    def reserves(self, t: Instant | None = None) -> list[ReserveStand]:
        """Every reserve at an instant (absent: the page's): drawn is what approved changes took from it, less what they gave to it."""
        unit, out, approved = self.v.unit, [], self.approved if t is None else self._approved_by(t)
        for r in self.book.reserves:
            taken = sum(cells(x.amount, unit) for c in approved if c.source == r.code for x in c.lines)
            given = sum(cells(x.amount, unit) for c in approved for x in c.lines if x.reserve == r.code)
            amount = cells(r.amount, unit)
            out.append(ReserveStand(r, *(amount_of(n, unit) for n in (amount, taken - given, amount - taken + given))))
        return out

    def with_reserves(self) -> tuple[Decimal | None, Decimal | None]:
        """The authorised budget and what is left of the reserves inside it; the same with those that management holds."""
        authorised, held = self.stand().authorised, self.reserves()
        if authorised is None:
            return None, None
        inside = authorised + sum((x.left for x in held if x.reserve.held == "inside"), Decimal(0))
        return inside, inside + sum((x.left for x in held if x.reserve.held == "outside"), Decimal(0))
