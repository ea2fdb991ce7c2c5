"""Rules as they are written, read against a book."""

from typing import Any

from dryledger.book.lists_beside import MARK_RULES
from dryledger.book.mark_rules import MarkRule
from dryledger.book.memo import changed
from dryledger.book.plan import Book
from dryledger.book.reader import Reader
from dryledger.book.rules import check_book
from dryledger.errors import BookInvalid, Fault
from dryledger.exchange.read import RowContext, read_row
from dryledger.exchange.write import row_document

__all__ = ["rule_document", "with_rules"]


def with_rules(book: Book, rules: object) -> Book:
    """The same book with other mark rules, given as the open format writes them. Raises BookInvalid with every fault at its place."""
    faults: list[Fault] = []
    rows = tuple([read_row(x, MARK_RULES, RowContext({})) for x in Reader({"mark_rules": rules}, "", faults).items("mark_rules")])
    if faults:
        raise BookInvalid(faults)
    out = changed(book, mark_rules=rows)
    faults = check_book(out, book)
    if faults:
        raise BookInvalid(faults)
    return out


def rule_document(rule: MarkRule) -> dict[str, Any]:
    """A rule as the open format writes it."""
    return row_document(MARK_RULES, rule)
