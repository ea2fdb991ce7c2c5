"""What is kept between computations: once for each key, bounded, and the same whoever asks at the same time."""

import threading
import unittest

from core.tests.random_books import random_book
from dryledger.book.memory import BookChange, Memo, Same, Slot
from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from dryledger.value.valuation import SELECTED

PLAIN: Slot[int] = Slot("plain")
OF_LINKS: Slot[int] = Slot("rests on links", ("links",))
BEFORE: Slot[int] = Slot("as it was before", ())
NOW: Slot[int] = Slot("now", carry=lambda value, change: (BEFORE, value))


class Memory(unittest.TestCase):
    def test_what_goes_on_after_a_change(self) -> None:
        memo = Memo()
        for slot in (PLAIN, OF_LINKS, BEFORE, NOW):
            memo.keep(slot, 1)
        memo.keep(NOW, 2)
        links, nothing = (memo.after(BookChange(frozenset(same), frozenset())) for same in (("links",), ()))
        self.assertEqual([links.peek(s) for s in (PLAIN, OF_LINKS, BEFORE, NOW)], [None, 1, 2, None])
        self.assertEqual([nothing.peek(s) for s in (PLAIN, OF_LINKS, BEFORE, NOW)], [None, None, 2, None])
        self.assertEqual((nothing.take(BEFORE), nothing.peek(BEFORE)), (2, None))

    def test_a_thing_is_known_as_itself(self) -> None:
        one, other = [1], [1]
        self.assertEqual((Same(one) == Same(one), Same(one) == Same(other)), (True, False))

    def test_a_failure_is_nothing_kept(self) -> None:
        memo = Memo()
        with self.assertRaises(ZeroDivisionError):
            memo.once(PLAIN, lambda: 1 // 0)
        self.assertEqual(memo.once(PLAIN, lambda: 7), 7)

    def test_many_ask_while_others_go_on(self) -> None:
        """Each value is made once, however many ask; what is carried over meanwhile is whole."""
        memo, made, wrong = Memo(), list[int](), list[BaseException]()

        def ask() -> None:
            try:
                for k in range(300):
                    memo.once(OF_LINKS, lambda k=k: made.append(k) or k, k)  # type: ignore[func-returns-value,misc]
                    memo.after(BookChange(frozenset(("links",)), frozenset()))
            except RuntimeError as error:
                wrong.append(error)

        threads = [threading.Thread(target=ask) for _ in range(8)]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
        self.assertEqual((wrong, sorted(made)), ([], list(range(300))))

    def test_selections_are_forgotten_again(self) -> None:
        book = book_from(random_book(3))
        r, codes = compute(book), [a.code for a in book.activities]
        for n in range(400):
            r.selection([codes[n % len(codes)], *codes[: n // 4]])
        held = book.memo._held[SELECTED]
        self.assertLessEqual(sum(len(x.line) for x in held.values()), SELECTED.most)
        small: Slot[list[str]] = Slot("small", most=5, weigh=len)
        memo = Memo()
        for n in range(50):
            memo.once(small, lambda: ["x", "y"], n)
        self.assertEqual(len(memo._held[small]), 2)
