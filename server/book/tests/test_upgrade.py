"""A folder of data that was made under calculation 1 is upgraded: what was closed shows what it was closed with, and nothing is lost.

`calculation_1.sqlite3.gz` is such a folder's database: the demo projects, and in BUOYS an entry, changes of the plan, an edition, a
baseline and a page that was closed.
"""

import gzip
import json
import os
import sqlite3
import subprocess
import sys
import tempfile
from contextlib import closing
from pathlib import Path
from typing import Any, ClassVar

from django.conf import settings
from django.db import connection
from django.test import SimpleTestCase

from server.book.verify import changed_baselines

ASK = """
import json, sys, django
django.setup()
from django.test import Client
from server.accounts.models import Person
client = Client()
client.force_login(Person.objects.get(username="lorcan"), backend="django.contrib.auth.backends.ModelBackend")
out = []
for method, path, body in json.loads(sys.argv[1]):
    answer = getattr(client, method)("/api/projects/" + path, *([json.dumps(body)] if body else []), content_type="application/json")
    out.append([answer.status_code, answer.json()])
print(json.dumps(out))
"""


def tables_of(database: sqlite3.Connection) -> dict[str, list[Any]]:
    """Columns, keys and indexes of each table, in no order, how many conditions it has; and the steps that were taken."""
    found: dict[str, list[Any]] = {"": sorted(database.execute("SELECT app, name FROM django_migrations"))}
    for name, made in database.execute("SELECT name, sql FROM sqlite_master WHERE type = 'table'").fetchall():
        columns = {tuple(x)[1:] for x in database.execute(f'PRAGMA table_info("{name}")')}
        keys = {tuple(x)[2:] for x in database.execute(f'PRAGMA foreign_key_list("{name}")')}
        indexes = [tuple(x) for x in database.execute(f'PRAGMA index_list("{name}")')]
        covered = sorted((x[2:], [tuple(c)[2] for c in database.execute(f'PRAGMA index_info("{x[1]}")')]) for x in indexes)
        found[name] = [columns, keys, covered, made.count("CHECK")]
    return found


class Upgrade(SimpleTestCase):
    databases = {"default"}
    folder: ClassVar["tempfile.TemporaryDirectory[str]"]

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(cls.folder.cleanup)
        packed = Path(__file__).with_name("calculation_1.sqlite3.gz").read_bytes()
        (Path(cls.folder.name) / "dry.sqlite3").write_bytes(gzip.decompress(packed))
        cls.run_with("server/manage.py", "migrate", "-v0")

    @classmethod
    def run_with(cls, *command: str) -> str:
        """Run something on the folder in a process of its own."""
        env = os.environ | {"DRY_DATA": cls.folder.name, "DRY_HOSTS": "testserver", "DJANGO_SETTINGS_MODULE": "server.site.settings"}
        env["PYTHONPATH"] = f"{settings.ROOT / 'core'}{os.pathsep}{settings.ROOT}"
        done = subprocess.run([sys.executable, *command], cwd=settings.ROOT, env=env, capture_output=True, text=True)
        if done.returncode:
            raise AssertionError(done.stdout + done.stderr)
        return done.stdout + done.stderr

    def ask(self, *requests: tuple[str, str, Any]) -> list[Any]:
        answers: list[Any] = json.loads(self.run_with("-c", ASK, json.dumps(requests)))
        return answers

    def test_tables_laid_at_once_are_those_that_all_steps_make(self) -> None:
        connection.ensure_connection()
        with closing(sqlite3.connect(Path(self.folder.name) / "dry.sqlite3")) as stepped:
            self.assertEqual(tables_of(connection.connection), tables_of(stepped))

    def test_nothing_is_tampering_and_what_is_reckoned_otherwise_is_named(self) -> None:
        told = self.run_with("server/manage.py", "verify_pages")
        self.assertIn("Page P05 of FERRY: curve.points[4].forecast", told)
        self.assertIn("are reckoned differently since: closed under calculation 1, now 3.", told)
        self.assertIn("BUOYS: 7 dry pages, 0 wrong, 7 reckoned differently since.", told)

    def test_a_baseline_is_what_it_was_where_its_seal_says_what_says_nothing(self) -> None:
        """The first pages were sealed with empty lists inside of baselines."""
        work = {"code": "A", "cost": "12.00"}
        then = {"baselines": [{"code": "B0", "activities": [work | {"pauses": [], "cost_lines": []}], "calendars": [{"exceptions": []}]}]}
        for cost, changed in (("12.00", []), ("12.01", ["B0"])):
            now = {"baselines": [{"code": "B0", "activities": [work | {"cost": cost}], "calendars": [{}]}]}
            self.assertEqual(list(changed_baselines(then, now)), changed)

    def test_a_closed_page_shows_what_it_was_closed_with(self) -> None:
        (_, frame), (_, curve), (_, balance) = self.ask(
            *(("get", path, None) for path in ("FERRY", "FERRY/pages/P05/curve", "FERRY/pages/P05/balance"))
        )
        page = next(p for p in frame["pages"] if p["code"] == "P05")
        self.assertEqual((page["calculation"], frame["calculation"]), (1, 3))
        self.assertEqual(curve["points"][4]["forecast"], "378503.95")
        self.assertEqual((balance["eac"], balance["ev"]), ("2431863.05", "347718.32"))

    def test_steps_made_before_are_undone_and_done_again(self) -> None:
        (_, before), *_ = self.ask(("get", "BUOYS/plan", None))
        revision = before["revision"]
        undone, plan, redone, again = self.ask(
            ("post", "BUOYS/undo", {"revision": revision}),
            ("get", "BUOYS/plan", None),
            ("post", "BUOYS/redo", {"revision": revision + 1}),
            ("get", "BUOYS/plan", None),
        )
        self.assertEqual((undone[0], redone[0]), (200, 200))
        names = {r["name"] for r in plan[1]["rows"]}
        self.assertIn("Renamed before", names)
        self.assertEqual(again[1]["rows"], before["rows"])
        self.run_with("server/manage.py", "verify_pages")
