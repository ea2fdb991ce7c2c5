"""A copy made while people post, put back elsewhere: whole, verified, and never taken for what somebody remembers."""

import json
import sqlite3
import tempfile
import threading
from contextlib import closing
from pathlib import Path

from django.conf import settings
from django.db import connection
from django.test import Client, TransactionTestCase

from server.accounts.models import Person
from server.book.backup import BackupRefused, back_up, checked, put_back
from server.book.cache import LruCache
from server.book.loading import load_document
from server.book.models import Project
from server.book.verify import verify
from server.tests.base import entry, ferry, make_people


class Backups(TransactionTestCase):
    def setUp(self) -> None:
        LruCache.forget_all()
        make_people()
        load_document(ferry(2))
        self.current = Path(str(connection.settings_dict["NAME"]))
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def client_of(self, name: str) -> Client:
        client = Client()
        client.force_login(Person.objects.get(username=name), backend="django.contrib.auth.backends.ModelBackend")
        return client

    def post(self, client: Client, percent: int) -> int:
        revision = client.get("/api/projects/FERRY").json()["revision"]
        body = entry(revision, "A150", percent=str(percent))
        at = "/api/projects/FERRY/pages/now/posting/entries"
        return client.patch(at, body, content_type="application/json").status_code

    def exported(self) -> bytes:
        return self.client_of("ines").get("/api/projects/FERRY/export/book.json").content

    def test_a_copy_made_while_eight_post_holds_all_that_was_acknowledged(self) -> None:
        self.assertEqual(self.post(self.client_of("ines"), 31), 200)
        before, stop = self.exported(), threading.Event()

        def write() -> None:
            client, n = self.client_of("tobin"), 0
            while not stop.is_set() and n < 20:
                n += 1
                self.post(client, 40 + n)
            connection.close()

        threads = [threading.Thread(target=write) for _ in range(8)]
        for t in threads:
            t.start()
        copy = self.folder / "copy.sqlite3"
        self.assertEqual(back_up(self.current, copy), 1)
        stop.set()
        for t in threads:
            t.join()
        self.assertEqual(copy.stat().st_mode & 0o777, 0o600)
        with closing(sqlite3.connect(copy)) as found:
            kept = [p for (p,) in found.execute("SELECT percent FROM book_statement s JOIN book_activity a ON a.id = s.activity_id "
                                                "WHERE a.code = 'A150' ORDER BY s.id")]  # fmt: skip
        self.assertTrue(kept and float(kept[-1]) >= 31)
        # Put back under the running application: it counts on, and what is remembered of it is not taken for new.
        last = Project.objects.get(code="FERRY").revision
        connection.close()
        self.assertEqual(put_back(copy, self.current), 1)
        project = Project.objects.get(code="FERRY")
        self.assertGreater(project.revision, last)
        self.assertEqual(verify(project).wrong, [])
        now = json.loads(self.exported())
        self.assertEqual(now["activities"], json.loads(before)["activities"])
        self.assertEqual(self.post(self.client_of("ines"), 77), 200)

    def test_what_is_no_copy_is_refused_and_nothing_is_written_over(self) -> None:
        before = self.exported()
        other, text = self.folder / "other.sqlite3", self.folder / "text.txt"
        with closing(sqlite3.connect(other)) as made:
            made.execute("CREATE TABLE x (y)")
        text.write_text("no database")
        for file in (other, text, self.folder / "none"):
            with self.assertRaises(BackupRefused):
                put_back(file, self.current)
        with self.assertRaises(BackupRefused):
            back_up(self.current, text)
        self.assertEqual(text.read_text(), "no database")
        copy = self.folder / "copy.sqlite3"
        back_up(self.current, copy)
        data = bytearray(copy.read_bytes())
        data[4096 * 5 : 4096 * 40] = b"\xff" * (4096 * 35)
        copy.write_bytes(bytes(data))
        with self.assertRaises(BackupRefused):
            checked(copy)
        self.assertEqual(self.exported(), before)
        self.assertTrue(settings.DATA)

    def test_health_needs_nobody_signed_in(self) -> None:
        answer = Client().get("/api/health")
        self.assertEqual((answer.status_code, answer.json()), (200, {"status": "ok"}))
