"""What the pages do without a browser: hands on sheets, trees, conditions; and what each room shows of a full and an empty project.

The tests stand in web/tests and run on Vitest; those in web/tests/served ask this server.
"""

import json
import os
import subprocess
import tempfile
from pathlib import Path

from django.conf import settings
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.utils.crypto import get_random_string

from server.accounts.models import Person
from server.book.loading import load_document
from server.tests.base import ferry, make_people

WEB = Path(settings.ROOT) / "web"


class WebUnits(StaticLiveServerTestCase):
    def test_all_files_of_tests(self) -> None:
        """Runs them all, and tells each test that does not hold."""
        make_people()
        load_document(ferry())
        self.client.force_login(Person.objects.get(username="ines"), backend="django.contrib.auth.backends.ModelBackend")
        begun = {"name": "Nothing yet", "code": "BARE", "source": "nothing", "start": "2027-01-04", "currency": "EUR"}
        self.assertEqual(self.client.post("/api/projects", begun, "application/json").status_code, 200)
        feed = {"name": "Yard timesheets", "kind": "timesheet", "address": ""}
        self.assertEqual(self.client.post("/api/projects/FERRY/feeds", feed, "application/json").status_code, 200)
        kept = {settings.SESSION_COOKIE_NAME: self.client.cookies[settings.SESSION_COOKIE_NAME].value, "csrftoken": get_random_string(32)}
        cookie = "; ".join(f"{name}={value}" for name, value in kept.items())
        served = {"DRY_SERVER": self.live_server_url, "DRY_COOKIE": cookie}
        with tempfile.TemporaryDirectory() as folder:
            out = Path(folder) / "told.json"
            runner = WEB / "node_modules" / ".bin" / "vitest"
            ran = subprocess.run(
                [runner, "run", "--reporter=json", f"--outputFile={out}"], cwd=WEB, capture_output=True, text=True, env=os.environ | served
            )
            self.assertTrue(out.exists(), ran.stdout + ran.stderr)
            told = json.loads(out.read_text())
        files = {Path(f["name"]).name for f in told["testResults"]}
        self.assertEqual(files, {p.name for p in (WEB / "tests").rglob("*.test.ts*")})
        for file in told["testResults"]:
            self.assertTrue(file["assertionResults"], file.get("message"))
            for test in file["assertionResults"]:
                with self.subTest(test["title"]):
                    self.assertEqual(test["status"], "passed", "\n".join(test.get("failureMessages", ())))
        self.assertEqual(ran.returncode, 0, ran.stdout + ran.stderr)
