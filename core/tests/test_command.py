"""`compute` as a command: results on one stream, every error on the other, never a traceback."""

import json
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from jsonschema import Draft202012Validator

from core.tests.books import doc, page
from dryledger.results_schema import results_schema

ROOT = Path(__file__).parents[2]


def run(text: str | bytes, *options: str) -> tuple[int, str, str]:
    """Run the command on a file with this text."""
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "book.json"
        file.write_bytes(text if isinstance(text, bytes) else text.encode())
        done = subprocess.run([sys.executable, ROOT / "core" / "commands" / "compute.py", file, *options], capture_output=True, text=True)
    return done.returncode, done.stdout, done.stderr


BOOK = json.dumps(doc([{"code": "A"}], periods=[page("P1", "2027-01-08T17:00"), page("P2", "2027-01-15T17:00")]))


class Command(unittest.TestCase):
    def test_results(self) -> None:
        code, out, err = run(BOOK, "--period", "P1", "--only", "schedule,curve", "--bucket", "month", "--treatment", "override")
        results = json.loads(out)
        self.assertEqual((code, err), (0, ""))
        self.assertEqual((results["status"], results["treatment"], results["curve"]["bucket"]), ("2027-01-08T17:00", "override", "month"))
        self.assertEqual(set(results), {"format", "version", "calculation", "status", "treatment", "baseline", "schedule", "curve"})

    def test_the_last_page_where_none_is_named(self) -> None:
        self.assertEqual(json.loads(run(BOOK)[1])["status"], "2027-01-15T17:00")

    def test_errors(self) -> None:
        for text, options, path in (
            (BOOK, ["--period", "P9"], "periods"),
            ("nonsense", [], ""),
            (b"\xff\xfe", [], ""),
            ("[" * 200_000, [], ""),
            (BOOK.replace('"code": "A"', '"code": "A", "duration": 5'), [], "activities[0].duration"),
            ('{"format": ' + "9" * 5000 + "}", [], "format"),
        ):
            code, out, err = run(text, *options)
            self.assertEqual((code, out), (2, ""), text[:40])
            self.assertIn(path, [e["path"] for e in json.loads(err)["errors"]])
        self.assertEqual(run(BOOK, "--only", "nothing")[0], 2)

    def test_options_levelling_chain_and_proposals(self) -> None:
        crew = [{"code": "R", "name": "Crew"}]
        changes = [{"do": "set", "row": "B", "cells": {"duration": "2d"}}, {"do": "delete", "row": "Z"}]
        book = json.dumps(doc(
            [{"code": "A", "duration": "5d", "safe_duration": "8d"}, {"code": "B", "duration": "3d"}],
            resources=crew, assignments=[{"activity": c, "resource": "R"} for c in "AB"],
            options=[{"code": "O1", "name": "Quicker", "changes": changes}], periods=[page("P1", "2027-01-04T08:00")],
        ))  # fmt: skip
        code, out, err = run(book, "--only", "chain,level,options,proposals", "--beyond-float")
        found = json.loads(out)
        self.assertEqual((code, err), (0, ""))
        self.assertEqual([e.message for e in Draft202012Validator(results_schema()).iter_errors(found)], [])
        self.assertEqual((found["level"]["mode"], found["level"]["moved"][0]["waits_for"]), ("beyond_float", ["R"]))
        self.assertEqual([x["code"] for x in found["chain"]["chain"]], ["A", "B"])
        self.assertEqual((found["chain"]["without_safe"], found["chain"]["fever"]), (["B"], None))
        self.assertEqual([c["change"] for c in found["options"]["options"][0]["conflicts"]], [1])
        self.assertIn("level/beyond_float", [p["code"] for p in found["proposals"]])
        self.assertEqual(json.loads(run(book, "--only", "level")[1])["level"]["mode"], "within_float")
        on_top = json.loads(run(book, "--only", "schedule", "--option", "O1")[1])
        self.assertEqual((on_top["option"]["code"], on_top["schedule"]["activities"][1]["remaining"]), ("O1", 960))
        code, out, err = run(book, "--option", "O9")
        self.assertEqual((code, out, json.loads(err)["errors"][0]["path"]), (2, "", ""))
