"""The tree of a plan: which rows stand under which element, in what order, and where a new one goes.

A row is named by a letter and its key: `w3` a WBS element, `a12` an activity. None is the top.
"""

from collections.abc import Iterator

from server.exchange.live import LivePlan

Parent = str | None
LEAST_GAP = 1e-6


class Outline:
    """The tree as it stands, kept up to date while a step is being made."""

    def __init__(self, plan: LivePlan) -> None:
        keys = {code: f"w{pk}" for pk, code in plan.codes["WbsElement"].items()}
        self.parent: dict[str, Parent] = {}
        self.order: dict[str, float] = {}
        for letter, name in (("a", "activities"), ("w", "wbs")):
            for pk, (order, _, record) in plan.rows[name].items():
                above = record.wbs if letter == "a" else record.parent
                self.parent[f"{letter}{pk}"] = keys[above] if above else None
                self.order[f"{letter}{pk}"] = order
        self._children: dict[Parent, list[str]] | None = None

    def children(self, parent: Parent) -> list[str]:
        """The rows right under an element, in order."""
        if self._children is None:
            self._children = {}
            for row in sorted(self.order, key=lambda r: (self.order[r], r[0], int(r[1:]))):
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

    def below(self, row: str) -> Iterator[str]:
        """Everything under an element, the deepest last."""
        for child in self.children(row):
            yield child
            if child[0] == "w":
                yield from self.below(child)

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
