"""What the pages do without a browser: the sheet's hands, trees, conditions, drops. The tests stand in web/tests and run on Vitest."""

import json
import subprocess
import tempfile
from pathlib import Path

from django.conf import settings
from django.test import SimpleTestCase

WEB = Path(settings.ROOT) / "web"


class WebUnits(SimpleTestCase):
    def test_all_files_of_tests(self) -> None:
        """Runs them all, and tells each test that does not hold."""
        with tempfile.TemporaryDirectory() as folder:
            out = Path(folder) / "told.json"
            runner = WEB / "node_modules" / ".bin" / "vitest"
            ran = subprocess.run([runner, "run", "--reporter=json", f"--outputFile={out}"], cwd=WEB, capture_output=True, text=True)
            self.assertTrue(out.exists(), ran.stdout + ran.stderr)
            told = json.loads(out.read_text())
        files = {Path(f["name"]).name for f in told["testResults"]}
        self.assertEqual(files, {p.name for p in (WEB / "tests").glob("*.test.ts*")})
        for file in told["testResults"]:
            self.assertTrue(file["assertionResults"], file.get("message"))
            for test in file["assertionResults"]:
                with self.subTest(test["title"]):
                    self.assertEqual(test["status"], "passed", "\n".join(test.get("failureMessages", ())))
        self.assertEqual(ran.returncode, 0, ran.stdout + ran.stderr)
