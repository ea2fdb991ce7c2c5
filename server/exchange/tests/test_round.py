"""Out and in again: the same book, byte for byte in canonical JSON, by JSON, XLSX and CSV."""

import json
from typing import Any

from django.conf import settings
from django.test import SimpleTestCase, TestCase

from core.tests.random_books import random_book
from server.book.cache import LruCache
from server.book.documents import book_document
from server.book.loading import load_document, load_text
from server.book.sealing import canonical
from server.book.workspace import workspace_of
from server.exchange.reading import document_of
from server.exchange.sheets import csv_grid, read_tables
from server.exchange.tables import TABLES
from server.exchange.writing import as_csvs, as_json, as_xlsx
from server.tests.base import FERRY

RANDOM = 10
SPECIAL = (
    "=1+1",
    "+x",
    "-3 d",
    "@me",
    "'quoted",
    "tab\there",
    "two\nlines",
    "cr\rhere",
    "a\x0bb",
    "\\x0b",
    "007",
    "1e5",
    "TRUE",
    "2027-01-01",
    'ü; „x“, "y"',
)


class Rounds(TestCase):
    def setUp(self) -> None:
        LruCache.forget_all()

    def rounds(self, document: Any, name: str) -> None:
        """Load a document; then each way out and in again must give what the first way out gave."""
        project = load_document(document, name)
        first = book_document(project)
        again = {
            "JSON": json.loads(as_json(project)),
            "XLSX": document_of(read_tables("book.xlsx", as_xlsx(project))),
            "CSV": document_of([csv_grid(n.removesuffix(".csv"), text.encode("utf-8-sig")) for n, text in as_csvs(project).items()]),
        }
        for way, doc in again.items():
            back = book_document(load_document(doc, f"{name} {way}"))
            back["project"]["code"] = name
            self.assertEqual(canonical(back), canonical(first), way)

    def test_demo_projects(self) -> None:
        for file in sorted(FERRY.parent.glob("*.json")):
            with self.subTest(file.name):
                document = json.loads(file.read_text())
                document["periods"] = document.get("periods", [])[:2]
                self.rounds(document, file.stem)

    def test_numbers_are_kept_exactly(self) -> None:
        """As they were written, also where no binary fraction is that number, wherever they stand; the file that came in goes out."""
        document = decorated(random_book(2, 6), 2)
        first = document["activities"][0]
        first |= {"weight": "@", "x-a": ["@", {"b": "@"}]}
        first["fields"] = {"crew": "@"}
        document["project"]["x-own"] = document["x-book"] = ["@"]
        document["risks"][0]["probability"] = "@"
        document["mark_rules"] = [
            {"code": "M1", "scope": "activity", "mark": "watch", "conditions": [{"figure": "cpi", "is": "<", "value": "@"}]}
        ]
        document["options"] = [
            {"code": "O1", "name": "O", "changes": [{"do": "set", "row": first["code"], "cells": {"weight": "@"}, "was": {"weight": "@"}}]}
        ]
        exact = "0.12345678901234567891"
        text = json.dumps(document).replace('"@"', exact)
        project = load_text(text.encode(), "EXACT")
        self.assertEqual(str(workspace_of(project).book.activities[0].weight), exact)
        self.assertEqual(as_json(project).count(f" {exact}".encode()), text.count(exact))
        again = load_text(as_json(project), "AGAIN")
        self.assertEqual(as_json(again).replace(b"AGAIN", b"EXACT"), as_json(project))

    def test_random_books(self) -> None:
        for seed in range(RANDOM):
            with self.subTest(seed):
                self.rounds(decorated(random_book(seed, 8), seed), f"R{seed}")


def decorated(doc: Any, seed: int) -> Any:
    """A random book with registers, own fields, texts that a spreadsheet would spoil, and x- keys."""
    text = SPECIAL[seed % len(SPECIAL)]
    doc["project"] |= {
        "client": text,
        "description": "two\nlines",
        "rhythm": {"every": "month", "n": 2, "on": "last"},
        "limits": {"lag": 12, "percent": 12.5},
        "x-own": {"a": [1, {"b": None}]},
    }
    doc["answers"] = [
        {"check": "long_lag", "row": doc["activities"][0]["code"], "page": p["code"], "until": "P99", "text": text, "by": "Ada Marsh"}
        for p in doc["periods"][:1]
    ]
    doc["x-book"] = [text]
    doc["risks"] = [{"code": "R1", "name": text, "probability": 12.5, "impact": "1200", "response": "=cmd()", "x-r": ""}]
    doc["notes"] = [{"code": "N1", "name": "Note", "date": "2027-01-05", "text": text}]
    doc["changes"] = [{"code": "C1", "name": "Change", "cost": "-80.5", "state": "approved"}]
    doc["fields"] = [
        *doc.get("fields", []),
        {"code": "motto", "name": "Motto", "of": "project"},
        {"code": "dry", "name": "Dry", "kind": "yes_no", "of": "project"},
        {"code": "since", "name": "Since", "kind": "date", "of": "project"},
        {"code": "zone", "name": "Zone", "kind": "choice", "options": ["yes", "b; c", text]},
        {"code": "crew", "name": "Crew", "kind": "number"},
        {"code": "day", "name": "Day", "kind": "date"},
        {"code": "wet", "name": "Wet", "kind": "yes_no"},
        {"code": "load", "name": "Load", "kind": "formula", "formula": "crew * days"},
    ]
    doc["project"]["fields"] = doc["project"].get("fields", {}) | {"motto": text, "dry": False, "since": "2027-02-03"}
    doc["activities"][0] |= {"name": text, "fields": {"zone": text, "crew": 0.1 + 0.2, "day": "2027-02-03", "wet": False}, "x-a": True}
    doc["activities"][-1]["fields"] = {"zone": "yes", "wet": True}
    doc["estimates"] = [
        {"code": "E1", "name": "E", "measure": "money", "total": "10", "shares": [{"kind": "wbs", "code": "1", "amount": "10"}]}
    ]
    return doc


class Documented(SimpleTestCase):
    def test_every_table_and_column_is_written_down(self) -> None:
        told = (settings.ROOT / "docs" / "formats" / "tables.md").read_text()
        lines = dict(line.strip("| ").split(" | ", 1) for line in told.splitlines() if line.startswith("| ") and "columns" not in line)
        self.assertEqual(list(lines), [t.title for t in TABLES])
        for table in TABLES:
            titles = [c.title + (f" (or {', '.join(c.also)})" if c.also else "") for c in table.columns]
            self.assertEqual(lines[table.title], ", ".join(titles))
