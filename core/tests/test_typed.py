"""Entries as people type them."""

import unittest
from decimal import Decimal as D

from dryledger.book.plan import Book, Project
from dryledger.calendar.calendar import Calendar, from_text, to_text
from dryledger.entry.cells import CELLS
from dryledger.entry.grammar import type_amount, type_date, type_duration, type_percent
from dryledger.entry.value_cells import CellContext
from dryledger.errors import EntryRefused

DAY = ((480, 720), (780, 1020))
FIVE = Calendar("c", "Five", (DAY,) * 5 + ((), ()))
STATUS = from_text("2027-03-12T16:00")


def typed(text: str, closing: bool = False) -> str | None:
    t = type_date(text, "actual_start", STATUS, FIVE.axis, closing)
    return None if t is None else to_text(t)


class Typed(unittest.TestCase):
    def test_dates(self) -> None:
        for text in ("12 feb", "12 Feb 2027", "12/2", "12.2.", "2027-02-12", "12-feb", "12/02/27", "12 february"):
            self.assertEqual(typed(text), "2027-02-12T08:00", text)
        self.assertEqual(typed("12 feb", True), "2027-02-12T17:00")
        self.assertEqual(typed("12 mar", True), "2027-03-12T16:00", "a finish on the status date is at the status instant")
        self.assertEqual(typed("12 feb 14:30"), "2027-02-12T14:30")
        self.assertEqual(typed("12 February 2027, 14:30"), "2027-02-12T14:30", "as a cell shows it")
        self.assertEqual(typed("-3d"), "2027-03-09T08:00")
        self.assertEqual(typed("28 dec"), "2026-12-28T08:00")
        self.assertIsNone(typed("  "))

    def test_refusals(self) -> None:
        for read, text in (
            (type_percent, "140"),
            (type_percent, "-1"),
            (type_percent, "half"),
            (type_percent, "1e2"),
            (lambda t: type_duration(t, FIVE), "soon"),
            (lambda t: type_duration(t, FIVE), "-2d"),
            (lambda t: type_amount(t, D("0.01")), "12.345"),
            (lambda t: type_amount(t, D("0.01")), "=1+1"),
            (typed, "31 feb"),
            (typed, "tomorrow"),
            (typed, "12 feb 25:00"),
            (typed, "0/0"),
            (typed, "12 xyz"),
        ):
            with self.assertRaises(EntryRefused, msg=text):
                read(text)  # type: ignore[operator]

    def test_numbers(self) -> None:
        self.assertEqual(type_percent("37,5"), D("0.375"))
        self.assertEqual(type_duration("1.5w", FIVE), (3600, "1.5w"))
        self.assertEqual(type_duration("6", FIVE), (2880, "6d"))
        self.assertEqual(type_amount("1 200.50", D("0.01")), D("1200.50"))
        self.assertEqual(type_amount("1,200.50", D("0.01")), D("1200.50"))
        self.assertEqual(type_amount("-80", D("0.01")), D("-80.00"))

    def test_what_could_be_read_two_ways_or_backwards_is_refused_with_what_to_type(self) -> None:
        with self.assertRaisesRegex(EntryRefused, "can be read as 31000 or as 31"):
            type_amount("31.000", D("0.01"))
        for text in ("19,433", "-1,000"):  # in a currency of three digits either may be meant
            with self.assertRaises(EntryRefused) as no:
                type_amount(text, D("0.001"))
            self.assertEqual(no.exception.nearest, text.replace(",", ""))
        self.assertEqual(
            [type_amount(t, D("0.001")) for t in ("19.433", "19433", "0,433", "1,019,433")], [D("19.433"), 19433, D("0.433"), 1019433]
        )
        self.assertEqual((type_amount("31,000", D("0.01")), type_amount("0.125", D("0.001"))), (D("31000.00"), D("0.125")))
        with self.assertRaisesRegex(EntryRefused, "Type -2d"):
            typed("+2d")
        self.assertEqual(type_amount("1.500", D("0.000001"), "weight"), D("1.5"))

    def test_units_are_a_number_or_a_share_of_one(self) -> None:
        context = CellContext(Book(Project("P", "P", "EUR", STATUS, "c"), (FIVE,)), FIVE, STATUS)
        units = CELLS["assignments"]["units"]
        self.assertEqual([units(t, "units", context) for t in ("300%", "50 %", "2,5", " 1 ", "")], [3.0, 0.5, 2.5, 1.0, None])
        for text, why in (("lots", "not a number"), ("x %", "not a number"), ("0 %", "above 0"), ("9" * 14, "too large")):
            with self.subTest(text), self.assertRaisesRegex(EntryRefused, why):
                units(text, "units", context)
