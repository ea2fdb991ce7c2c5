"""The tree of a plan: which rows stand under which element, in what order, and where a new one goes.

A row is named by a letter and its key: `w3` a WBS element, `a12` an activity. None is the top.
"""

from collections.abc import Iterator
from functools import cached_property

from dryledger.changes.keyed import KeyedBook, age_of

__all__ = ["Outline", "Parent"]

Parent = str | None
LEAST_GAP = 1e-6


class Outline:
    """The tree as it stands, read when it is first asked for and kept up to date while a change is being made."""

    def __init__(self, keyed: KeyedBook) -> None:
        self._keyed = keyed
        self._children: dict[Parent, list[str]] | None = None

    @cached_property
    def _tree(self) -> tuple[dict[str, Parent], dict[str, float]]:
        elements = {code: f"w{key}" for code, key in self._keyed.key_of("wbs").items()}
        parent: dict[str, Parent] = {}
        order: dict[str, float] = {}
        for letter, name in (("a", "activities"), ("w", "wbs")):
            for key, (place, _, record) in self._keyed.rows[name].items():
                above = record.wbs if letter == "a" else record.parent
                parent[f"{letter}{key}"] = elements[above] if above else None
                order[f"{letter}{key}"] = place
        return parent, order

    @property
    def parent(self) -> dict[str, Parent]:
        """The element over each row."""
        return self._tree[0]

    @property
    def order(self) -> dict[str, float]:
        """The place of each row among all."""
        return self._tree[1]

    def children(self, parent: Parent) -> list[str]:
        """The rows right under an element, in order."""
        if self._children is None:
            self._children = {}
            for row in sorted(self.order, key=lambda r: (self.order[r], r[0], age_of(int(r[1:])))):
                self._children.setdefault(self.parent[row], []).append(row)
        return self._children.get(parent, [])

    def put(self, row: str, parent: Parent, order: float) -> None:
        """Place a row, new or moved."""
        self.parent[row], self.order[row] = parent, order
        self._children = None

    def drop(self, row: str) -> None:
        """Take a row out."""
        del self.parent[row], self.order[row]
        self._children = None

    def above(self, row: str) -> Iterator[str]:
        """The elements over a row, the nearest first."""
        at = self.parent[row]
        while at is not None:
            yield at
            at = self.parent[at]

    def between(self, parent: Parent, after: str | None, count: int = 1, first: bool = False) -> list[float] | None:
        """Places for new rows after a sibling (absent: last; `first`: before all); None where there is no room left."""
        rows = self.children(parent)
        at = 0 if first else rows.index(after) + 1 if after is not None else len(rows)
        low = self.order[rows[at - 1]] if at else None
        high = self.order[rows[at]] if at < len(rows) else None
        if low is None and high is None:
            low = max(self.order.values(), default=0.0)
        if high is None:
            assert low is not None
            return [low + i + 1 for i in range(count)]
        if low is None:
            low = high - count - 1
        gap = (high - low) / (count + 1)
        return [low + gap * (i + 1) for i in range(count)] if gap >= LEAST_GAP else None
