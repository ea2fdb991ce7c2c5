"""Memory of what was made lately, bounded by weight: roughly how many rows an entry holds."""

from collections.abc import Callable, Hashable
from threading import Lock, RLock
from typing import Any, ClassVar, TypeVar

from cachetools import LRUCache

T = TypeVar("T")


class LruCache:
    """The values made lately, by key, as long as all together weigh no more than `most`. Nothing uncommitted is ever put here."""

    _all: ClassVar[list["LruCache"]] = []

    def __init__(self, most: int, weigh: Callable[[Any], int]) -> None:
        self._kept: LRUCache[Hashable, Any] = LRUCache(most, getsizeof=lambda value: min(max(weigh(value), 1), most))
        self._lock, self._making = Lock(), dict[Hashable, Any]()
        LruCache._all.append(self)

    @classmethod
    def forget_all(cls) -> None:
        """Empty every cache: for when a database is put back to an earlier state under a running process."""
        for cache in cls._all:
            with cache._lock:
                cache._kept.clear()

    def get(self, key: Hashable, make: Callable[[], T]) -> T:
        """The value of a key, made where it is not kept. Whoever asks while it is being made waits for that."""
        with self._lock:
            if key in self._kept:
                found: T = self._kept[key]
                return found
            making = self._making.setdefault(key, RLock())
        with making:
            with self._lock:
                if key in self._kept:
                    found = self._kept[key]
                    return found
            try:
                made = make()
                self.put(key, made)
            finally:
                with self._lock:
                    self._making.pop(key, None)
            return made

    def put(self, key: Hashable, value: object) -> None:
        """Keep a value, in place of the one that may be there."""
        with self._lock:
            self._kept.pop(key, None)
            self._kept[key] = value

    def peek(self, key: Hashable) -> Any:
        """The value of a key, None where it is not kept."""
        with self._lock:
            return self._kept.get(key)
