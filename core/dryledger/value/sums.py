"""What is summed: the set of activities and elements that a scope covers, and amounts by what they belong to.

Amounts are whole minor units. Source: calculation contract, sections 6 and 10.
"""

from collections import defaultdict
from collections.abc import Collection, Iterable, Iterator, Mapping
from functools import cached_property
from typing import NamedTuple

from dryledger.book.baselines import Baseline
from dryledger.budget.actual import Target
from dryledger.value.measures import Sums

__all__ = ["Columns", "Scope", "SumsByTarget", "by_home"]


class Scope:
    """What a set of activities and WBS elements covers: activity codes, and WBS codes whose own costs count."""

    def __init__(self, activities: Iterable[str], wbs: Iterable[str], whole: bool = False) -> None:
        self.activities, self.whole = list(activities), whole
        self.wbs = set(wbs)
        self._activities = set(self.activities)

    def holds(self, target: Target) -> bool:
        """Whether an actual cost on this target counts here."""
        kind, code = target
        return code in (self._activities if kind == "activity" else self.wbs)

    def within(self, baseline: Baseline, others: Collection[str]) -> list[str]:
        """The activities of a baseline that belong here; `others` are those that the scope's own book knows."""
        return [
            a.code for a in baseline.activities if self.whole or a.code in self._activities or (a.code not in others and a.wbs in self.wbs)
        ]


class Columns(NamedTuple):
    """Amounts of a page, by activity those of the plan and the baseline, by target those posted; absent is nothing."""

    bac: dict[str, int]
    pv: dict[str, int]
    ev: dict[str, int]
    left: dict[str, int]
    ac: dict[Target, dict[str, int]]
    ev_then: dict[str, int]
    ac_then: dict[Target, int]

    @property
    def total(self) -> Sums:
        """The sums of the whole project."""
        ac: dict[str, int] = {}
        for by in self.ac.values():
            for source, amount in by.items():
                ac[source] = ac.get(source, 0) + amount
        bac, pv, ev, left, ev_then = (sum(x.values()) for x in (self.bac, self.pv, self.ev, self.left, self.ev_then))
        return Sums(bac, pv, ev, ac, left, ev_then, sum(self.ac_then.values()))


def by_home(column: Mapping[str, int], home: Mapping[str, str | None]) -> defaultdict[str | None, int]:
    """Amounts by activity, added up by the element that each lies right under; absent is nothing."""
    out: defaultdict[str | None, int] = defaultdict(int)
    for code, amount in column.items():
        out[home[code]] += amount
    return out


class SumsByTarget(Mapping[Target, Sums]):
    """The sums of each activity and of each element that something was posted on, made when they are asked for."""

    def __init__(self, columns: Columns, codes: list[str]) -> None:
        self._columns, self._codes, self._known = columns, dict.fromkeys(codes), dict[Target, Sums]()

    @cached_property
    def posted_on_elements(self) -> list[Target]:
        """The elements that something was posted on."""
        return [t for t in {**self._columns.ac, **self._columns.ac_then} if t[0] == "wbs"]

    def __getitem__(self, target: Target) -> Sums:
        found = self._known.get(target)
        if found is None:
            c, (kind, code) = self._columns, target
            ac, ac_then = c.ac.get(target, {}), c.ac_then.get(target, 0)
            if kind == "wbs":
                found = Sums(ac=ac, ac_then=ac_then)
            elif code not in self._codes:
                raise KeyError(target)
            else:
                bac, pv, ev, left, ev_then = (x.get(code, 0) for x in (c.bac, c.pv, c.ev, c.left, c.ev_then))
                found = Sums(bac, pv, ev, ac, left, ev_then, ac_then)
            self._known[target] = found
        return found

    def __iter__(self) -> Iterator[Target]:
        yield from (("activity", code) for code in self._codes)
        yield from self.posted_on_elements

    def __len__(self) -> int:
        return len(self._codes) + len(self.posted_on_elements)
