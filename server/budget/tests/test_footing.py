"""Money of random books: each printed sum is the sum of what is printed below it, on the screen and in files, to the minor unit."""

import csv
import io
from decimal import Decimal
from typing import Any

import openpyxl
from django.test import TestCase

from core.tests.random_books import random_book
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import book_from
from server.accounts.models import Person
from server.book.loading import load_document
from server.tests.base import make_people

SERIES = {
    "budget": "Budget",
    "actual": "Actual",
    "forecast": "Actual and forecast",
    "difference": "Difference",
    "running": "Running difference",
}


class Footing(TestCase):
    def ask(self, path: str) -> Any:
        found = self.client.get(f"/api/projects/{self.code}/pages/now/{path}")
        self.assertEqual(found.status_code, 200, (self.code, path, found.content[:200]))
        return found

    def test_what_was_spent_against_the_budget(self) -> None:
        make_people()
        self.client.force_login(Person.objects.get(username="ines"))
        for seed in range(8):
            document: Any = random_book(seed, 8)
            document["project"] |= {"currency": ("EUR", "JPY", "KWD", "CLF")[seed % 4], "eac": "bottom_up"}
            try:
                book_from(document)
            except BookInvalid:
                continue
            self.code = load_document(document, f"R{seed}").code
            balance = self.ask("balance").json()
            for by in ("wbs", "resource", "kind"):
                shown = self.ask(f"spending?bucket=month&by={by}").json()
                self.foots(shown)
                self.same_in_files(shown, f"bucket=month&by={by}")
                if shown["of"] == "baseline" and shown["ends"]:
                    gap = Decimal(balance["bac"]) - Decimal(balance["eac"])
                    self.assertEqual(Decimal(shown["total"]["series"]["running"][-1]), gap, (self.code, by))

    def foots(self, shown: Any) -> None:
        leaves = [line for line in shown["lines"] if not line["sums"]]
        for series, cells in shown["total"]["series"].items():
            below = [sum((Decimal(line["series"][series][i]) for line in leaves), Decimal(0)) for i in range(len(cells))]
            self.assertEqual([Decimal(x) for x in cells], below, (self.code, series))
        for line in [*shown["lines"], shown["total"]]:
            for series in ("budget", "actual", "forecast", "difference"):
                self.assertEqual(
                    Decimal(line["totals"][series]), sum(map(Decimal, line["series"][series])), (self.code, line["name"], series)
                )

    def same_in_files(self, shown: Any, asked: str) -> None:
        rows = list(csv.reader(io.StringIO(self.ask(f"spending.csv?{asked}").content.decode("utf-8-sig"))))
        book = openpyxl.load_workbook(io.BytesIO(self.ask(f"spending.xlsx?{asked}").content), data_only=True)
        for series, word in SERIES.items():
            text = [[Decimal(x) for x in r[5:]] for r in rows if r[3] == word]
            sheet = [
                [Decimal(str(x or 0)) for x in r[2 : 2 + len(shown["ends"])]] for r in list(book[word].iter_rows(values_only=True))[1:]
            ]
            want = [[Decimal(x) for x in line["series"][series]] for line in [*shown["lines"], shown["total"]]]
            self.assertEqual(text, want, (self.code, asked, series))
            self.assertEqual(sheet[: len(want)], want, (self.code, asked, series))
