"""What the pages do without a browser: trees, conditions, drops, typed blocks. The tests stand in web/tests."""

import re
import subprocess
import tempfile
from pathlib import Path

from django.conf import settings
from django.test import SimpleTestCase

WEB = Path(settings.ROOT) / "web"


class WebUnits(SimpleTestCase):
    def run_file(self, name: str) -> None:
        """Bundles a file of tests, runs it, and tells each test that does not hold."""
        with tempfile.TemporaryDirectory() as folder:
            out = Path(folder) / f"{name}.mjs"
            bundler = WEB / "node_modules" / ".bin" / "rolldown"
            made = subprocess.run(
                [bundler, f"tests/{name}.test.ts", "--file", out, "--platform", "node", "--format", "esm"],
                cwd=WEB,
                capture_output=True,
                text=True,
            )
            self.assertEqual(made.returncode, 0, made.stdout + made.stderr)
            ran = subprocess.run(["node", "--test", "--test-reporter=tap", out], cwd=folder, capture_output=True, text=True)
        told = re.findall(r"^\s*(ok|not ok) \d+ - (.+)$", ran.stdout, re.MULTILINE)
        for outcome, title in told:
            with self.subTest(title):
                self.assertEqual(outcome, "ok", ran.stdout)
        self.assertGreater(len(told), 4, ran.stdout + ran.stderr)
        self.assertEqual(ran.returncode, 0, ran.stdout + ran.stderr)

    def test_the_lines_of_the_sheet(self) -> None:
        self.run_file("tree")

    def test_conditions_on_rows(self) -> None:
        self.run_file("conditions")

    def test_rows_put_down_somewhere_else(self) -> None:
        self.run_file("moving")

    def test_what_is_typed_pasted_and_dragged(self) -> None:
        self.run_file("typed")

    def test_every_file_of_tests_is_run(self) -> None:
        self.assertEqual(
            {p.name for p in (WEB / "tests").glob("*.test.ts")}, {f"{name}.test.ts" for name in ("tree", "conditions", "moving", "typed")}
        )
