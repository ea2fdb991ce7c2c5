"""What was worked out once and is kept: in slots, each for one type of value, and what it rests on.

    PLANNED: Slot[PlannedValue] = Slot("planned value of a baseline", ("baselines",))
    book.memo.once(PLANNED, lambda: PlannedValue(baseline), baseline.code)

A slot is declared by whoever fills it; a memo knows none of them.
"""

from collections.abc import Callable, Hashable, Mapping, MutableMapping
from dataclasses import dataclass
from threading import Lock, RLock
from typing import Any, Generic, TypeVar

from cachetools import LRUCache

__all__ = ["BookChange", "Memo", "Same", "Slot"]

T = TypeVar("T")
_MISSING: Any = object()


class Same:
    """A thing as itself: by it something is known that was worked out of this very thing, and of none that is merely equal."""

    __slots__ = ("of",)

    def __init__(self, of: object) -> None:
        self.of = of

    def __hash__(self) -> int:
        return object.__hash__(self.of)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Same) and self.of is other.of


@dataclass(frozen=True)
class BookChange:
    """What became of a book: the parts of it that are `same`, and the codes of activities whose records are `fresh`."""

    same: frozenset[str]
    fresh: frozenset[str]


@dataclass(frozen=True, eq=False)
class Slot(Generic[T]):
    """A kind of value that is worked out once for each key. Kept over a change where all that it `rests_on` is the same; None: never.

    `carry` says otherwise what goes on into which slot. With `most`, those used last are kept, as long as they weigh no more together.
    """

    name: str
    rests_on: tuple[str, ...] | None = None
    carry: "Callable[[Any, BookChange], tuple[Slot[Any], Any] | None] | None" = None
    most: int = 0
    weigh: Callable[[T], int] = lambda value: 1


class Memo:
    """Values by slot and key, safe under threads: whoever asks for one that is being made waits for that, and for no other.

    >>> squares: Slot[int] = Slot("squares", most=2)
    >>> memo = Memo()
    >>> [memo.once(squares, lambda: n * n, n) for n in (2, 3, 4)], memo.peek(squares, 2), memo.peek(squares, 4)
    ([4, 9, 16], None, 16)
    """

    def __init__(self) -> None:
        self._held: dict[Slot[Any], MutableMapping[Hashable, Any]] = {}
        self._lock, self._making = Lock(), dict[tuple[Slot[Any], Hashable], Any]()

    def _values(self, slot: Slot[Any]) -> MutableMapping[Hashable, Any]:
        found = self._held.get(slot)
        if found is None:
            made: MutableMapping[Hashable, Any] = LRUCache(slot.most, getsizeof=slot.weigh) if slot.most else {}
            found = self._held.setdefault(slot, made)
        return found

    def once(self, slot: Slot[T], make: Callable[[], T], key: Hashable = ()) -> T:
        """The value of a slot and key, made where it is not kept."""
        held = None if slot.most else self._held.get(slot)
        found = _MISSING if held is None else held.get(key, _MISSING)
        if found is not _MISSING:  # a plain dictionary is read without waiting for anybody
            kept: T = found
            return kept
        with self._lock:
            values = self._values(slot)
            if key in values:
                kept = values[key]
                return kept
            making = self._making.setdefault((slot, key), RLock())
        with making:
            with self._lock:
                if key in values:
                    kept = values[key]
                    return kept
            try:
                made = make()
                self.keep(slot, made, key)
            finally:
                with self._lock:
                    self._making.pop((slot, key), None)
        return made

    def peek(self, slot: Slot[T], key: Hashable = ()) -> T | None:
        """The value of a slot and key; None where it is not kept."""
        with self._lock:
            found: T | None = self._values(slot).get(key)
            return found

    def take(self, slot: Slot[T], key: Hashable = ()) -> T | None:
        """The same, not kept any longer."""
        with self._lock:
            found: T | None = self._values(slot).pop(key, None)
            return found

    def keep(self, slot: Slot[T], value: T, key: Hashable = ()) -> None:
        """Keep a value, in the place of the one that may be there; one too heavy for its slot is not kept."""
        with self._lock:
            if not slot.most or slot.weigh(value) <= slot.most:
                self._values(slot)[key] = value

    def after(self, change: BookChange) -> "Memo":
        """What of it holds after a change."""
        out = Memo()
        with self._lock:
            held: Mapping[Slot[Any], list[tuple[Hashable, Any]]] = {slot: list(values.items()) for slot, values in self._held.items()}
        for slot, values in sorted(held.items(), key=lambda x: x[0].carry is not None):  # what is made here stands over what was before
            for key, value in values:
                if slot.carry is not None:
                    if (carried := slot.carry(value, change)) is not None:
                        out.keep(carried[0], carried[1], key)
                elif slot.rests_on is not None and change.same.issuperset(slot.rests_on):
                    out.keep(slot, value, key)
        return out
