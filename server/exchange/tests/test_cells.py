"""Cells as other people's spreadsheets hold them: numbers, money, dates, durations, percentages and yes or no, each read or told."""

import io
import zipfile
from datetime import date, datetime
from typing import Any

import openpyxl

from server.book.documents import book_document
from server.book.models import Activity, Project
from server.exchange.tests.test_bringing import Brought, workbook


class Cells(Brought):
    def read(self, column: str, *values: Any) -> list[Any]:
        """What each value in a column of new activities is kept as. The step is undone."""
        rows = [[f"N{i:02}", f"Row {i}", value] for i, value in enumerate(values)]
        found = self.bring(workbook(Activities=[["Code", "Name", column], *rows]), apply="true")
        self.assertEqual(found["counts"]["add"], len(values))
        kept = Activity.objects.filter(code__regex=r"^N\d\d$").order_by("code").values_list(column.lower(), flat=True)
        out = list(kept)
        self.undo_or_redo("undo")
        return out

    def refusal(self, column: str, value: Any) -> str:
        """The sentence that a cell is refused with."""
        found = self.bring(workbook(Activities=[["Code", "Name", column], ["N1", "One", value]]))
        self.assertFalse(found["ready"])
        return next(m for row, c, m in self.reasons(found) if (row, c) == (2, column))

    def test_durations(self) -> None:
        good = self.read("Duration", 5, 2.5, "5", "5d", "5 days", "1,5 w", "4 Hours", "90min", "2 mo", "0")
        self.assertEqual(good, ["5d", "2.5d", "5d", "5d", "5d", "1.5w", "4h", "90min", "2mo", "0d"])
        for bad in ("ages", "5x", "five days", "1d 4h", "--5", "5d;"):
            self.assertIn("is not a duration", self.refusal("Duration", bad), bad)
        self.assertTrue(self.refusal("Duration", -5))

    def test_dates(self) -> None:
        cells = (
            datetime(2027, 2, 12, 14, 30),
            date(2027, 2, 12),
            "2027-02-12",
            "2027/2/12",
            "12.02.2027",
            "12. Feb 2027",
            "12 february 2027",
        )
        good = self.read("Deadline", *cells, "2027-02-12 14:30", "2027-02-12T14:30", "31/12/2027", "12/31/2027", "5/5/2027")
        at = "2027-02-12T00:00"
        timed = "2027-02-12T14:30"
        last = "2027-12-31T00:00"
        self.assertEqual(good, [timed, at, at, at, at, at, at, timed, timed, last, last, "2027-05-05T00:00"])
        for bad, words in (
            ("3/4/2027", "2027-04-03 or 2027-03-04"),
            ("2027-02-30", "is not a date"),
            ("30.02.2027", "is not a date"),
            ("12 smarch 2027", "is not a date"),
            ("2027-02-12 25:00", "can't be read"),
            ("tomorrow", "is not a date"),
            (46000, "Format the cell as a date"),
            (True, ""),
        ):
            self.assertIn(words, self.refusal("Deadline", bad), bad)

    def test_numbers_and_money(self) -> None:
        numbers = ("2", 2, 0.5, "1,5", "1 234.5", "1.234,5", "1'234'567.25", "1,234.5")
        self.assertEqual(self.read("Weight", *numbers), ["2", "2", "0.5", "1.5", "1234.5", "1234.5", "1234567.25", "1234.5"])
        for bad, words in (("1,234", "two ways"), ("lots", "is not a number"), ("1e5", "is not a number"), (True, "yes or no"), ("-1", "")):
            self.assertIn(words, self.refusal("Weight", bad), bad)

    def test_a_percentage_is_what_its_cell_shows(self) -> None:
        book = openpyxl.load_workbook(io.BytesIO(self.client.get("/api/projects/FERRY/export/book.xlsx").content))
        sheet = book["Statements"]
        at = [c.value for c in sheet[1]].index("Percent") + 1
        given = [c for (c,) in sheet.iter_rows(min_row=2, min_col=at, max_col=at) if c.value is not None]
        self.assertGreater(len(given), 4)
        for i, cell in enumerate(given):
            if i % 2:
                cell.value, cell.number_format = cell.value / 100, "0%"
            elif i % 4:
                cell.value = f"{cell.value} %"
        out = io.BytesIO()
        book.save(out)
        self.bring(out.getvalue(), project=None, code="TWIN", apply="true")
        first, second = (book_document(Project.objects.get(code=c)) for c in ("FERRY", "TWIN"))
        self.assertEqual([p["statements"] for p in second["periods"]], [p["statements"] for p in first["periods"]])
        given[0].value = "most"
        out = io.BytesIO()
        book.save(out)
        found = self.bring(out.getvalue(), project=None, code="THIRD")
        self.told(found, given[0].row, "Percent", "“most” is not a number")

    def test_tables_in_a_zip_and_files_that_hold_none(self) -> None:
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w") as z:
            z.writestr("Activities.csv", "Code;Name;Duration\nN1;Größe;1,5d\n".encode())
            z.writestr("links.csv", b"From,To,Type\nA110,N1,FS\n")
            z.writestr("readme.txt", b"not a table")
        found = self.bring(packed.getvalue(), "tables.zip", apply="true")
        self.assertEqual(found["counts"]["add"], 2)
        self.assertEqual((self.row("Größe")["after"], self.row("Größe")["duration"]), ("A110", "1.5d"))
        whole = workbook(Activities=[["Code", "Name"], ["N2", "Two"]])
        with zipfile.ZipFile(io.BytesIO(whole)) as z:
            parts = {i.filename: z.read(i) for i in z.infolist()}
        for name, content in (
            ("xl/worksheets/sheet1.xml", b"<worksheet><sheetData><row><c t='s'><v>99</v></c></row></sheetData></worksheet>"),
            ("xl/worksheets/sheet1.xml", b"<worksheet><sheetData>"),
            ("xl/workbook.xml", b"<nothing/>"),
        ):
            out = io.BytesIO()
            with zipfile.ZipFile(out, "w") as z:
                for part, body in (parts | {name: content}).items():
                    z.writestr(part, body)
            found = self.bring(out.getvalue())
            self.assertFalse(found["ready"], name)
            self.assertTrue(found["faults"], name)
        self.assertIn("not a CSV file", self.bring(b"Code\0Name", "odd.csv")["faults"][0]["message"])
        self.assertIn("not UTF-8", self.bring("Code;Name\nN1;Größe".encode("latin-1"), "old.csv")["faults"][0]["message"])
