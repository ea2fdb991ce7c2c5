"""What a request may be: sizes, depths, numbers and characters that can't be kept are refused in words, and answers are packed."""

import gzip
import json
from typing import Any

from server.book.models import Project
from server.plan.tests.test_changes import Plans

DEEP = "[" * 900 + "]" * 900
HALF = '"caf\\ud83d"'


class Requests(Plans):
    def send(self, path: str, body: bytes, method: str = "post", kind: str = "application/json") -> Any:
        answer = getattr(self.client, method)(f"/api/{path}", body, content_type=kind)
        self.assertLess(answer.status_code, 500, answer.content[:300])
        return answer

    def verb(self, cells: str) -> bytes:
        """A change of the plan whose cells are written as they stand."""
        plan = self.plan()
        return b'{"revision": %d, "preview": false, "verbs": [{"do": "set", "row": "%s", "cells": %s}]}' % (
            plan["revision"],
            self.row("Sea trials")["id"].encode(),
            cells.encode(),
        )

    def test_what_can_not_be_kept_is_refused_and_nothing_is_done(self) -> None:
        before = self.plan()
        for cells, words in (
            (f'{{"name": {HALF}}}', "half of a character"),
            (f'{{"name": {DEEP}}}', "too deep"),
            ('{"weight": 1e999}', "beyond all numbers"),
            ('{"weight": NaN}', "beyond all numbers"),
            ('{"weight": ' + "9" * 5000 + "}", "digits"),
        ):
            answer = self.send("projects/FERRY/plan/changes", self.verb(cells))
            self.assertEqual(answer.status_code, 400, cells[:40])
            self.assertIn(words, answer.json()["detail"])
        views = '{"revision": 1, "views": [{"name": "far", "where": 1e999}]}'
        self.assertEqual(self.send("projects/FERRY/plan/views", views.encode(), "put").status_code, 400)
        self.assertEqual(self.send("projects", f'{{"name": {HALF}, "code": "N"}}'.encode()).status_code, 400)
        self.assertEqual(self.send("projects", b"\xff\xfe{").status_code, 400)
        self.assertEqual(self.plan(), before)

    def test_a_large_body_is_taken_and_too_large_a_one_is_refused_before_it_is_read(self) -> None:
        lines = [{"level": 0, "cells": {"name": f"Line {i}", "duration": "1d", "note": "x" * 20_000}} for i in range(220)]
        body = json.dumps({"revision": self.plan()["revision"], "preview": True, "verbs": [{"do": "outline", "lines": lines}]}).encode()
        self.assertGreater(len(body), 4_000_000)
        self.assertIn(self.send("projects/FERRY/plan/changes", body).status_code, (200, 422))
        self.assertLess(self.send("session", b'{"username": "' + b"x" * 3_000_000 + b'"}').status_code, 500)
        told = self.client.post("/api/projects", b"{}", content_type="application/json", CONTENT_LENGTH="99999999")
        self.assertEqual((told.status_code, told.json()["code"]), (413, "too-large"))
        self.assertIn("16 MB", told.json()["detail"])

    def test_answers_are_packed_for_whoever_takes_it(self) -> None:
        unpacked = self.client.get("/api/projects/FERRY/plan")
        packed = self.client.get("/api/projects/FERRY/plan", HTTP_ACCEPT_ENCODING="gzip")
        self.assertEqual(packed["Content-Encoding"], "gzip")
        self.assertEqual(gzip.decompress(packed.content), unpacked.content)
        self.assertLess(len(packed.content) * 4, len(unpacked.content))

    def test_a_code_that_is_part_of_addresses_can_not_have_a_slash(self) -> None:
        for code in ("A/B", "A\\B", "A?B", "A#B", "A%2FB"):
            made = self.send("projects", json.dumps({"name": "Pier", "code": code, "start": "2027-01-04", "currency": "EUR"}).encode())
            self.assertIn(made.status_code, (400, 422), code)
            project = self.call("get", "projects/FERRY/about")["project"]["id"]
            self.change({"do": "set", "row": project, "cells": {"code": code}}, status=422)
        self.assertFalse(Project.objects.exclude(code="FERRY").exists())
        self.assertEqual(self.client.get("/api/holidays?country=DE&year=²⁰²⁶").status_code, 400)

    def test_line_breaks_in_names_leave_all_files_whole(self) -> None:
        self.change({"do": "set", "row": self.row("Sea trials")["id"], "cells": {"name": "Sea\r\nBEGIN:VEVENT\ntrials"}}, status=200)
        made = self.client.get("/api/projects/FERRY/export/milestones.ics")
        for line in b"".join(made).splitlines() if made.streaming else made.content.splitlines():
            self.assertTrue(line[:1] == b" " or b":" in line or b";" in line, line)
        for form, begins in (("pdf", b"%PDF"), ("html", b"<!doctype")):
            report = self.client.get(f"/api/projects/FERRY/pages/now/report/editions/draft.{form}")
            self.assertEqual(report.status_code, 200, form)
            self.assertTrue(report.content.lstrip().startswith(begins), report.content[:40])
