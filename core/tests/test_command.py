"""`compute` as a command: results on one stream, every error on the other, never a traceback."""

import json
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from core.tests.books import doc, page

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
