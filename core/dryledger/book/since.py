"""What of a book is new since one that held, so that only that is gone through again."""

from functools import cache

from dryledger.book.plan import Book

__all__ = ["New"]


class New:
    """Which lists of a book are new since one that held, and whether the codes of a list are."""

    def __init__(self, book: Book, since: Book | None) -> None:
        self._book, self._since = book, since

    def lists(self, *names: str) -> bool:
        """Whether any of the lists is not the very same."""
        return self._since is None or any(getattr(self._book, n) is not getattr(self._since, n) for n in names)

    def known(self, name: str) -> set[int]:
        """The identities of the rows that were in a list before."""
        return set() if self._since is None else set(map(id, getattr(self._since, name)))

    @cache  # noqa: B019 - it lives as long as one check
    def codes(self, name: str) -> bool:
        """Whether a list holds other codes, or holds them in another order."""
        if self._since is None:
            return True
        return self.lists(name) and [x.code for x in getattr(self._book, name)] != [x.code for x in getattr(self._since, name)]
