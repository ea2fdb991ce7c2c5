"""An archive of the demo in an installation without it: the same in every figure of every page; a byte that is another is told."""

import io
import json
import random
import re
import tempfile
import time
import zipfile
import zlib
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command
from django.db import connection

from server.accounts.models import Person
from server.archive import signing
from server.archive.container import packed, unpacked
from server.book.cache import LruCache
from server.book.models import Page, Project
from server.book.verify import verify
from server.journal.models import Step
from server.report.models import Edition
from server.tests.addresses import address, operations
from server.tests.base import LedgerTest

BESIDE = ("feeds", "/members", "/journal", "/archive", "/options", "xlsx", "pdf", "png", "svg", "/history")
"""What an archive leaves out, what tells keys of rows or when it was made, and drawings."""


ROW = re.compile(r"[a-z][0-9]+(:[A-Z]{2})?")
"""How a row is named here, by its key."""


class ArchiveTest(LedgerTest):
    pages = 3

    def setUp(self) -> None:
        super().setUp()
        self.post_entry("A150", percent="85", page="P03")
        stated = {"status": "watch", "reason": "Late.", "words": "All told.", "heads": {}, "texts": {}}
        self.call("put", "projects/FERRY/pages/P03/report", {"revision": self.revision()} | stated)
        self.call("post", "projects/FERRY/pages/P03/close", {"revision": self.revision()})
        self.sign_in("lorcan")
        added = {"subject": "overall", "mark": "act", "text": "Later than late."}
        self.call("post", "projects/FERRY/pages/P03/report/additions", added)
        self.call("post", "projects/FERRY/pages/P03/report/review", {"do": "ask"})
        self.call("post", "projects/FERRY/pages/P03/report/review", {"do": "approve"})
        self.call("post", "projects/FERRY/pages/P03/report/issue", {"revision": self.revision()})
        self.sign_in("ines")
        self.file: bytes = self.client.get("/api/projects/FERRY/archive").content

    def elsewhere(self) -> None:
        """The same database without the project, and without one of the people."""
        LruCache.forget_all()
        Edition.objects.all().delete()
        Step.objects.all().delete()
        with connection.constraint_checks_disabled():
            Project.objects.all()._raw_delete("default")
            for table in connection.introspection.table_names():
                if table.startswith(("book_", "report_", "journal_")):
                    with connection.cursor() as cursor:
                        cursor.execute(f'DELETE FROM "{table}"')
        Person.objects.filter(username="lorcan").update(full_name="Another Lorcan")

    def bring(self, content: bytes, apply: bool = False, status: int = 200, **more: Any) -> Any:
        form = {"file": SimpleUploadedFile("a.zip", content), "apply": str(apply).lower()} | more
        answer = self.client.post("/api/import", form)
        self.assertEqual(answer.status_code, status, answer.content[:300])
        return answer.json()

    def readings(self) -> dict[str, Any]:
        """What every address of the project says of each of its pages."""
        out: dict[str, Any] = {}
        for method, path in operations():
            if method == "get" and path.startswith("/api/projects/{project}/pages") and not any(x in path for x in BESIDE):
                for page in ("P01", "P02", "P03", "P04"):
                    at = address(path, page=page)
                    answer = self.client.get(at)
                    out[at] = (answer.status_code, _answer(answer.content))
        return out


def _answer(content: bytes) -> Any:
    """An answer without what counts changes and names rows."""
    try:
        return _bare(json.loads(content))
    except ValueError:
        return content


def _bare(value: Any) -> Any:
    if isinstance(value, dict):
        return {k: _bare(v) for k, v in value.items() if k not in ("id", "revision", "issued_by", "brought_in")}
    if isinstance(value, str) and ROW.fullmatch(value):
        return "a row"
    return [_bare(v) for v in value] if isinstance(value, list) else value


class Elsewhere(ArchiveTest):
    def test_every_figure_of_every_page_and_every_edition_is_the_same(self) -> None:
        before, edition = self.readings(), Edition.objects.get()
        kept = (edition.html, bytes(edition.pdf), edition.digest, edition.issued_at)
        chain = list(Project.objects.get(code="FERRY").seals.values_list("number", "kind", "subject", "content", "digest"))
        self.assertGreater(len(before), 60)
        self.elsewhere()
        shown = self.bring(self.file)
        self.assertEqual((shown["ready"], shown["faults"], Project.objects.count()), (True, [], 0))
        self.assertIn("3 dry pages", shown["notes"][0])
        self.assertEqual(self.bring(self.file, apply=True)["done"], "FERRY")
        project, edition = Project.objects.get(code="FERRY"), Edition.objects.get()
        self.assertEqual(self.readings(), before)
        self.assertEqual((edition.html, bytes(edition.pdf), edition.digest, edition.issued_at), kept)
        self.assertEqual(list(project.seals.values_list("number", "kind", "subject", "content", "digest")), chain)
        self.assertEqual(verify(project).wrong, [])
        self.assertEqual((edition.issued_by.full_name, edition.issued_by.is_active), ("Lorcan Test", False))

    def test_work_goes_on_from_there_and_nobody_undoes_what_came_in(self) -> None:
        self.elsewhere()
        self.bring(self.file, apply=True)
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()}, 409)
        self.post_entry("A150", percent="90", page="P04")
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(verify(Project.objects.get()).wrong, [])
        again: bytes = self.client.get("/api/projects/FERRY/archive").content
        self.elsewhere()
        self.bring(again, apply=True)
        self.assertEqual(verify(Project.objects.get()).wrong, [])
        Page.objects.filter(code="P01").update(mark="act")
        self.assertNotEqual(verify(Project.objects.get()).wrong, [])

    def test_a_project_that_is_here_is_not_brought_in_again(self) -> None:
        out = self.bring(self.file, code="AGAIN")
        self.assertEqual((out["ready"], out["faults"][0]["message"]), (False, "This project can't be imported: it is here already."))
        self.bring(self.file, apply=True, code="AGAIN", status=409)
        self.assertEqual(Project.objects.count(), 1)

    def test_by_command(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "ferry.zip"
            call_command("archive_project", "FERRY", str(file), stdout=io.StringIO())
            self.elsewhere()
            call_command("load_book", str(file), "--as", "OTHER", stdout=io.StringIO())
        self.assertEqual(verify(Project.objects.get(code="OTHER")).wrong, [])

    def test_a_book_alone_says_that_it_is_sealed_anew(self) -> None:
        book = self.client.get("/api/projects/FERRY/export/book.json").content
        answer = self.client.post("/api/import", {"file": SimpleUploadedFile("b.json", book), "code": "NEW"}).json()
        self.assertIn("sealed anew", answer["notes"][0])

    def test_without_a_signature_that_is_known_nobody_is_taken_for_who_it_names(self) -> None:
        self.elsewhere()
        self.assertIn("nothing was changed", self.bring(self.file)["notes"][-1])
        (Path(settings.DATA) / signing.OWN).unlink()  # as in another installation
        for file in (packed(unpacked(self.file)), packed(unpacked(self.file), str)):
            self.assertIn("not verified", self.bring(file)["notes"][-1])
        self.bring(self.file, apply=True)
        project = Project.objects.get(code="FERRY")
        self.assertIn("Brought in by Ines Test from an archive of FERRY", project.brought_in)
        self.assertIn("not verified by this installation", project.brought_in)
        self.assertEqual(verify(project).wrong, [])
        ines = Person.objects.get(username="ines")
        self.assertFalse(Step.objects.filter(by=ines).exists())
        self.assertEqual({s.by.full_name for s in Step.objects.all()} & {"Ines Test"}, set())
        edition = Edition.objects.get()
        self.assertEqual((edition.issued_by.full_name, edition.issued_by.is_active), ("Lorcan Test (as brought in, not verified)", False))
        report = self.call("get", "projects/FERRY/pages/P03/report")
        self.assertIn("not verified", report["brought_in"])
        self.assertIn("not verified", report["editions"][0]["issued_by"])
        self.assertIn("not verified", self.call("get", "projects/FERRY/about")["brought_in"])
        self.assertIn("not verified", self.call("get", "projects/FERRY/baselines")["baselines"][0]["came_from"])

    def test_an_installation_that_is_trusted_is_believed(self) -> None:
        self.elsewhere()
        theirs = (Path(settings.DATA) / signing.OWN).read_text()
        (Path(settings.DATA) / signing.OWN).unlink()
        trusted = Path(settings.DATA) / signing.TRUSTED
        self.addCleanup(trusted.unlink)
        trusted.write_text(f"nonsense\n{theirs}")
        self.bring(self.file, apply=True)
        self.assertNotIn("not verified", Project.objects.get(code="FERRY").brought_in)
        self.assertTrue(Step.objects.filter(by__username="ines").exists())
        self.assertEqual((Path(settings.DATA) / signing.OWN).stat().st_mode & 0o777, 0o600)


class Changed(ArchiveTest):
    def test_any_byte_that_is_another_is_told(self) -> None:
        self.elsewhere()
        places = {0, 1, 12, 31, 45, len(self.file) - 1, len(self.file) - 70, len(self.file) - 90, self.file.index(b'"mark"')}
        places |= set(random.Random(7).sample(range(len(self.file)), 60))
        for at in places:
            content = bytearray(self.file)
            content[at] ^= 1
            form = {"file": SimpleUploadedFile("a.zip", bytes(content)), "apply": "true"}
            answer = self.client.post("/api/import", form)
            self.assertEqual(answer.status_code, 422, (at, answer.content[:200]))
        self.assertFalse(Project.objects.exists())

    def forged(self, name: str, was: bytes, now: bytes) -> bytes:
        """The archive with one content changed and its list made right again."""
        contents = unpacked(self.file)
        self.assertIn(was, contents[name])
        contents[name] = contents[name].replace(was, now, 1)
        return packed(contents)

    def test_a_forger_who_mends_the_list_is_found_by_the_seals(self) -> None:
        self.elsewhere()
        for name, was, now in (
            ("project.json", b'"mark": "watch"', b'"mark": "act"'),
            ("project.json", b'"reason": "Late."', b'"reason": "Early."'),
            ("journal.json", b"A150", b"A160"),
            ("editions/P03-1.html", b"Late.", b"Early"),
            ("book.json", b'"percent": 7,', b'"percent": 8,'),
        ):
            with self.subTest(name=name, now=now):
                file = self.forged(name, was, now)
                shown = self.bring(file)
                self.assertFalse(shown["ready"], (name, was))
                self.bring(file, apply=True, status=422)
        self.assertFalse(Project.objects.exists())

    def test_what_is_no_archive_is_told_in_words(self) -> None:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as z:
            z.writestr("archive.json", "[]")
        for content in (
            out.getvalue(),
            packed({"project.json": b"{}"}),
            packed({"project.json": b"[]", "journal.json": b"", "book.json": b"{}"}),
        ):
            self.bring(content, status=422)

    def test_what_is_of_another_shape_is_told_and_never_a_fault_of_ours(self) -> None:
        self.elsewhere()
        for name, was, now in (
            ("project.json", b'"revision": ', b'"revision": -'),
            ("project.json", b'"state": "dry"', b'"state": "wet"'),
            ("project.json", b'"status": "watch"', b'"status": "purple"'),
            ("project.json", b'"people": {', b'"people": {"x": 1, '),
            ("project.json", b'"members_only": false', b'"members_only": 7'),
            ("project.json", b'"pages": [', b'"pages": [[], '),
            ("journal.json", b'"by": ', b'"by": 9'),
            ("journal.json", b"{", b"["),
            ("book.json", b'"periods"', b'"sentences"'),
        ):
            with self.subTest(name=name, now=now):
                self.bring(self.forged(name, was, now), apply=True, status=422)
        bomb = unpacked(self.file)
        page = next(n for n in bomb if n.endswith(".inputs"))
        for size in (10**6, 5 * 10**8):  # far more than so few bytes hold of a page, and more than any page is
            bomb[page] = zlib.compress(bytes(size))
            started = time.process_time()
            self.bring(packed(bomb), apply=True, status=422)
            self.assertLess(time.process_time() - started, 20)
        self.assertFalse(Project.objects.exists())
