"""Numbers and dates as different people write them: what is typed and what is told."""

import unittest
from datetime import date
from decimal import Decimal as D
from threading import Thread

from hypothesis import given
from hypothesis import strategies as st

from dryledger.calendar.calendar import Calendar, from_text
from dryledger.entry.cells import CELLS
from dryledger.entry.grammar import format_date, format_day, read_day, read_number, type_amount, type_number
from dryledger.entry.value_cells import CellContext
from dryledger.errors import EntryRefused
from dryledger.formats import Formats, format_number, formats_written, using
from dryledger.words import sentence
from tests.books import book

COMMA = Formats(decimal=",")
MONTH = Formats(month_first=True)
NEAR = date(2027, 3, 12)


class Numbers(unittest.TestCase):
    def test_a_comma_before_decimals_and_points_between_thousands(self) -> None:
        with using(COMMA, COMMA):
            for text, number in (("1.250,50", "1250.50"), ("31.000", "31000"), ("2,5", "2.5"), ("1.234.567", "1234567"), ("2.5", "2.5")):
                self.assertEqual(type_amount(text, D("0.01")), D(number), text)
            self.assertEqual(type_number("1,125", "units"), D("1.125"))
        self.assertEqual(type_amount("1,250.50", D("0.01")), D("1250.50"))
        with self.assertRaises(EntryRefused):
            type_amount("31.000", D("0.01"))

    def test_a_file_is_read_by_its_own_formats(self) -> None:
        with using(COMMA, COMMA):
            self.assertEqual(read_number("1.125", file=True), D("1.125"))

    def test_a_number_that_is_one_already_is_not_typed(self) -> None:
        context = CellContext(book([]), Calendar("c", "c", ()), from_text("2027-03-12T16:00"))
        with using(COMMA, COMMA):
            self.assertEqual(CELLS["assignments"]["units"](1.125, "units", context), 1.125)
            self.assertEqual(CELLS["assignments"]["units"]("1,125", "units", context), 1.125)
            self.assertEqual(CELLS["assignments"]["units"]("112,5 %", "units", context), 1.125)

    def test_refusals_are_written_as_their_reader_writes(self) -> None:
        with using(COMMA, COMMA), self.assertRaises(EntryRefused) as no:
            type_amount("2,555", D("0.01"))
        self.assertEqual((no.exception.nearest, "0,01" in str(no.exception)), ("2,56", True))
        with using(COMMA):
            self.assertIn("12,5 % is less than the 40 %", sentence("entries.percent_falls", now=D("12.5"), before=40.0))
            self.assertIn("10\u00a0000", sentence("apply.most_changes_made_once", most_verbs=10_000))

    @given(st.decimals(-(10**12), 10**12, places=3))
    def test_what_is_written_is_read_again(self, number: D) -> None:
        for formats in (Formats(), COMMA):
            with using(formats, formats):
                self.assertEqual(read_number(format_number(number, ",f")), number)


class Dates(unittest.TestCase):
    def test_the_month_before_the_day(self) -> None:
        with using(MONTH, MONTH):
            self.assertEqual([read_day(x, NEAR) for x in ("3/12", "3/12/2027", "12.3.", "mar 12", "12 mar", "2027-03-12")], [NEAR] * 6)
            self.assertEqual(read_day("12/3", NEAR), date(2026, 12, 3))
            self.assertIsNone(read_day("13/3", NEAR))
            self.assertEqual(format_day(from_text("2027-03-12T16:00"), True), "March 12, 2027, 16:00")
        self.assertEqual((read_day("3/12", NEAR), read_day("mar 12", NEAR)), (date(2026, 12, 3), NEAR))

    @given(st.dates(date(2020, 1, 1), date(2040, 12, 31)))
    def test_what_is_written_is_read_again(self, day: date) -> None:
        for formats in (Formats(), MONTH):
            with using(formats, formats):
                for short in (True, False):
                    self.assertEqual(read_day(format_date(day, short).lower(), NEAR), day)


class OneRequest(unittest.TestCase):
    def test_formats_are_those_of_one_request_only(self) -> None:
        seen: list[Formats] = []
        with using(COMMA, COMMA):
            other = Thread(target=lambda: seen.append(formats_written()))
            other.start()
            other.join()
        self.assertEqual((seen, formats_written()), ([Formats()], Formats()))
