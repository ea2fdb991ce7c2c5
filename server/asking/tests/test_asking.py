"""Asking: who is asked for what, answers by page and by sheet, the tray, taking them; what a token opens, what a wild sheet does."""

import io
import json
import random
from collections.abc import Callable
from datetime import date
from typing import Any

import openpyxl
from django.conf import settings
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client

from dryledger.compute import compute
from dryledger.results import results_document
from server.accounts.models import Person
from server.asking.inbox import read_inbox
from server.asking.models import Answer, Request, State
from server.book.loading import load_document
from server.book.membership import Member
from server.book.models import Assignment, HoursEntry, Project, Statement
from server.book.workspace import workspace_of
from server.tests.base import LedgerTest, ferry, make_people

AT = "projects/FERRY/pages/now/asking"
NAMES = ("Ruan Teale", "Mirela Oakden", "Petra Lindqvale", "Joss Amberley", "Wim Carrow")


class AskingTest(LedgerTest):
    pages = 4

    @classmethod
    def setUpTestData(cls) -> None:
        make_people()
        document = ferry(cls.pages)
        document["periods"][-1] |= {"statements": [], "hours": []}
        due = [a for a in document["activities"] if a.get("wbs")]
        for i, a in enumerate(due):
            a["responsible"] = NAMES[i % len(NAMES)]
        document["resources"][0]["person"] = NAMES[0]
        cls.project = load_document(document)
        for name in NAMES[:3]:
            person = Person.objects.create(username=name.split()[0].lower(), full_name=name, role="none")
            Member.objects.create(project=cls.project, person=person, role="contributor")

    def ask(self, *names: str, status: int = 200, **more: Any) -> Any:
        whom = [{"name": n, "email": f"{n.split()[0].lower()}@tarnquay.example"} for n in names]
        return self.call("post", AT, {"whom": whom, "weeks": 2, "until": "28 jan 18:00"} | more, status)

    def work(self, name: str) -> Any:
        self.sign_in(name)
        return self.call("get", "my-work")["work"][0]

    def answer(self, name: str, **cells: dict[str, str]) -> Any:
        """Answers of somebody, by activity."""
        work = self.work(name)
        given = [{"uid": f"{name}.{c}.{json.dumps(x)}", "request": work["request"], "activity": c, "cells": x} for c, x in cells.items()]
        return self.call("post", "my-work", {"answers": given})

    def tray(self) -> Any:
        self.sign_in("ines")
        return self.call("get", AT)

    def take(self, *ids: int, status: int = 200, **more: Any) -> Any:
        return self.call("patch", f"{AT}/answers", {"revision": self.revision(), "take": list(ids)} | more, status)

    def state(self) -> Any:
        project = Project.objects.get(code="FERRY")
        given = sorted(
            Statement.objects.filter(page__state="wet").values_list("activity__code", "actual_start", "actual_finish", "percent")
        )
        hours = sorted(HoursEntry.objects.filter(page__state="wet").values_list("activity__code", "resource__code", "worked", "to_go"))
        return given, hours, results_document(compute(workspace_of(project).book))

    def sheet(self, name: str, change: Callable[[Any, dict[str, int], list[int]], None]) -> bytes:
        """The sheet of somebody, changed: the worksheet, its columns by title, its rows."""
        book = openpyxl.load_workbook(io.BytesIO(self.client.get(f"/api/sheets/{Request.objects.get(name=name).token}").content))
        page = book.active
        top = next(r for r in range(1, 12) if page.cell(r, 1).value == "Code")
        heads = {page.cell(top, c).value: c for c in range(1, page.max_column + 1)}
        change(page, heads, [r for r in range(top + 1, page.max_row + 1) if page.cell(r, 1).value])
        out = io.BytesIO()
        book.save(out)
        return out.getvalue()

    def send_back(self, content: bytes, at: str = f"{AT}/sheet", status: int = 200, name: str = "back.xlsx") -> Any:
        answer = self.client.post(f"/api/{at}", {"file": SimpleUploadedFile(name, content)})
        self.assertEqual(answer.status_code, status, answer.content[:300])
        return answer.json()


class Asking(AskingTest):
    def test_who_is_offered_and_asked_for_what_is_due(self) -> None:
        offered = {x["name"]: x for x in self.tray()["offered"]}
        self.assertEqual((offered["Ruan Teale"]["signs_in"], offered["Joss Amberley"]["signs_in"]), (True, False))
        asked = self.ask(*NAMES)
        self.assertEqual([x["name"] for x in asked["requests"]], list(NAMES))
        self.assertTrue(all(x["until"] and x["asked"] for x in asked["requests"]))
        rows = self.work("ruan")["rows"]
        self.assertEqual(len(rows), asked["requests"][0]["asked"])
        self.assertTrue(all(r["state"] != "complete" for r in rows))
        self.sign_in("ines")
        wim = {"name": "Wim Carrow", "email": "x"}
        for wrong, field in (({"whom": []}, "whom"), ({"whom": [{"name": "Nobody"}]}, "whom"), ({"whom": [wim]}, "email")):
            self.assertEqual(self.ask("Wim Carrow", status=422, **wrong)["field"], field)
        self.assertEqual(self.ask(until="someday", status=422)["field"], "until")
        self.assertIn("does not answer", Request.objects.get(name="Wim Carrow").sent)  # nobody takes mail here
        self.call("post", f"{AT}/remind", {"requests": [asked["requests"][4]["id"]]})
        self.assertIsNotNone(Request.objects.get(name="Wim Carrow").reminded)
        self.call("post", f"{AT}/remind", {"requests": [999]}, 404)
        self.call("delete", f"{AT}/{asked['requests'][4]['id']}")
        self.assertFalse(Request.objects.filter(name="Wim Carrow").exists())

    def test_five_people_answer_and_any_order_of_taking_gives_the_same_book(self) -> None:
        self.ask(*NAMES)
        before = self.state()
        rows = {n: [r["code"] for r in self.work(n)["rows"]] for n in ("ruan", "mirela", "petra")}
        self.answer("ruan", **{c: {"percent": "40", "remaining": "2"} for c in rows["ruan"][:3]})
        self.answer("mirela", **{rows["mirela"][0]: {"actual_finish": "27 jan"}, rows["mirela"][1]: {"note": "scaffold gone"}})
        self.answer("petra", **{rows["petra"][0]: {"carry_to": "2027-02-08", "note": "on Monday"}})

        def fill(page: Any, heads: dict[str, int], lines: list[int]) -> None:
            page.cell(lines[0], heads["How far, %"]).value = 55
            page.cell(lines[0], heads["Days left"]).value = "3,5"

        self.sign_in("ines")
        done = self.send_back(self.sheet("Joss Amberley", fill))
        self.assertEqual((done["kept"], done["refused"]), (1, []))
        tray = self.tray()
        self.assertEqual(len(tray["tray"]), 7)
        self.assertEqual({x["name"] for x in tray["tray"]}, set(NAMES[:4]))
        self.assertEqual([x["answered"] for x in tray["requests"]][-1], 0)
        self.assertTrue(all(x["refused"] == "" and x["moves"] is not None for x in tray["tray"]), tray["tray"])
        self.assertEqual(self.state(), before)  # nothing counts before it is taken
        ids = [x["id"] for x in tray["tray"]]
        found = self.take(*ids)
        self.assertEqual((found["asking"]["tray"], found["effect"]["balance"]["finish"]), ([], tray["together"]["finish"]))
        together = self.state()
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual((self.state(), Answer.objects.filter(state=State.WAITING).count()), (before, 7))
        random.Random(7).shuffle(ids)
        for pk in ids:
            self.take(pk)
        self.assertEqual(self.state(), together)
        step = self.call("get", "projects/FERRY/journal")["steps"][0]
        self.assertIn("took the answer of", step["label"])

    def test_what_was_posted_since_is_shown_and_an_answer_is_changed_or_left(self) -> None:
        self.ask("Ruan Teale")
        code = self.work("ruan")["rows"][0]["code"]
        self.answer("ruan", **{code: {"percent": "30"}})
        self.answer("ruan", **{code: {"percent": "35"}})  # says it anew
        self.sign_in("ines")
        self.post_entry(code, percent="31")
        (row,) = self.tray()["tray"]
        self.assertEqual((row["says"], row["since"]), ("35 %", True))
        self.assertIn("31 %", row["stands"])
        no = self.take(row["id"], status=422, changed={str(row["id"]): {"percent": "lots"}})
        self.assertEqual((no["field"], no["row"]), ("percent", str(row["id"])))
        self.take(row["id"], changed={str(row["id"]): {"percent": "33"}})
        self.assertEqual(Statement.objects.get(page__state="wet", activity__code=code).percent, "33")
        self.take(row["id"], status=409)
        self.answer("ruan", **{code: {"percent": "50"}})
        self.sign_in("ines")
        self.call("patch", f"{AT}/answers", {"revision": self.revision(), "leave": [self.call("get", AT)["tray"][0]["id"]]})
        self.assertEqual((self.call("get", AT)["tray"], Statement.objects.get(page__state="wet", activity__code=code).percent), ([], "33"))
        self.call("patch", f"{AT}/answers", {"revision": self.revision()}, 400)

    def test_an_answer_arrives_once_and_says_what_is_wrong_with_it(self) -> None:
        self.ask("Ruan Teale")
        work = self.work("ruan")
        row = next(r for r in work["rows"] if r["hours"])
        hours = {row["hours"][0]["resource"]: {"worked": "12", "to_go": "20"}}
        given = {"request": work["request"], "activity": row["code"], "cells": {"percent": "20"}, "hours": hours}
        sent = [given | {"uid": "one"}, given | {"uid": "two", "cells": {"percent": "140"}}, given | {"uid": "three", "activity": "A999"}]
        sent += [given | {"uid": "four", "cells": {}, "hours": {}}, given | {"uid": "five", "request": 999}]
        sent += [given | {"uid": "six", "hours": {"PNT": {"worked": "9"}}}, given | {"uid": "seven", "cells": {"percent": "9" * 5000}}]
        for _ in range(3):
            kept = self.call("post", "my-work", {"answers": sent})
            self.assertEqual([k["kept"] for k in kept], [True, False, False, False, False, False, False])
        self.assertIn("Give 0 to 100", kept[1]["why"])
        self.assertEqual(Answer.objects.count(), 1)
        self.sign_in("ines")
        self.take(Answer.objects.get().pk)
        entry = HoursEntry.objects.get(page__state="wet")
        self.assertEqual((entry.worked, entry.to_go), ("720min", "1200min"))

    def test_a_token_opens_one_sheet_of_one_page_until_it_closes(self) -> None:
        self.ask("Joss Amberley", "Wim Carrow")
        token = Request.objects.get(name="Joss Amberley").token
        nobody = Client()
        self.assertEqual(nobody.get(f"/api/sheets/{token}").status_code, 200)
        self.assertEqual(nobody.get("/api/sheets/none").status_code, 404)
        mine = self.sheet("Joss Amberley", lambda page, heads, lines: page.cell(lines[0], heads["Days left"], 2))
        other = self.sheet("Wim Carrow", lambda page, heads, lines: None)
        self.client.logout()
        self.send_back(other, f"sheets/{token}", 422)
        self.assertEqual(self.send_back(mine, f"sheets/{token}")["kept"], 1)
        self.assertEqual(self.send_back(mine, f"sheets/{token}")["kept"], 1)  # and stays one
        self.assertEqual(Answer.objects.count(), 1)
        self.sign_in("ines")
        self.call("post", "projects/FERRY/pages/now/close", {"revision": self.revision()})
        self.assertEqual(nobody.get(f"/api/sheets/{token}").status_code, 404)
        self.assertIn("closed", self.send_back(mine, f"sheets/{token}", 404)["detail"])
        self.assertEqual(self.call("get", "my-work")["work"], [])

    def test_a_sheet_that_was_edited_wildly_is_read_or_refused_row_by_row(self) -> None:
        self.ask("Joss Amberley", weeks=8)
        codes = Request.objects.get(name="Joss Amberley").activities
        self.assertGreaterEqual(len(codes), 6)

        def wild(page: Any, heads: dict[str, int], lines: list[int]) -> None:
            far, left, started, note = (heads[h] for h in ("How far, %", "Days left", "Started on", "A word"))
            typed = [(0, far, "12,5 %"), (0, left, "3,5"), (1, started, date(2027, 1, 27)), (1, far, 0.3), (2, started, "sometime")]
            for line, column, value in [*typed, (3, far, "=1+1"), (4, far, 0.5), (5, note, "=cmd|x")]:
                page.cell(lines[line], column).value = value
            page.cell(lines[1], far).number_format = "0%"
            page.insert_rows(1, 3)
            page.insert_cols(2)
            page.append(["Z999", "", "", "", "", "", 40])
            page.append([codes[0], *[""] * 5, 99, 1])

        done = self.send_back(self.sheet("Joss Amberley", wild))
        why = {x["code"]: x["why"] for x in done["refused"]}
        self.assertEqual(set(why), {codes[2], codes[3], codes[4], codes[5], "Z999", codes[0]})
        self.assertIn("is not a date", why[codes[2]])
        self.assertIn("a formula", why[codes[3]])
        self.assertIn("0 to 100", why[codes[4]])
        self.assertIn("twice", why[codes[0]])
        given = {x["code"]: x["cells"] for x in self.tray()["tray"]}
        begun = {"percent": "30", "actual_start": "2027-01-27"}
        self.assertEqual(given, {codes[0]: {"percent": "12.5", "remaining": "3.5"}, codes[1]: begun})
        self.send_back(b"no workbook", status=422)
        self.assertIn("token", self.send_back(b"Code,Days left\nA150,2\n", status=422, name="x.csv")["detail"])

    def test_sheets_come_in_by_the_inbox(self) -> None:
        self.ask("Joss Amberley")
        folder = settings.INBOX
        folder.mkdir(exist_ok=True)
        (folder / "a.xlsx").write_bytes(self.sheet("Joss Amberley", lambda page, heads, lines: page.cell(lines[0], heads["Days left"], 2)))
        (folder / "b.xlsx").write_bytes(b"PK nothing")
        lines = read_inbox(folder)
        self.assertEqual(len(lines), 2)
        self.assertIn("1 answers", lines[0])
        self.assertTrue((folder / "read" / "a.xlsx").exists() and (folder / "refused" / "b.xlsx.txt").exists())
        self.assertEqual((len(self.tray()["tray"]), read_inbox(folder)), (1, []))

    def test_the_look_ahead_in_its_groups_as_workbook_and_paper(self) -> None:
        for by, group in (("person", "Ruan Teale"), ("resource", ""), ("element", "")):
            content = self.client.get(f"/api/projects/FERRY/pages/now/look-ahead.xlsx?weeks=3&by={by}").content
            names = openpyxl.load_workbook(io.BytesIO(content)).sheetnames
            self.assertTrue(group in names if group else len(names) > 1, names)
        answer = self.client.get("/api/projects/FERRY/pages/now/look-ahead.pdf?by=element")
        self.assertTrue(answer.content.startswith(b"%PDF"))
        self.ask("Joss Amberley")
        row = self.call("get", AT)["requests"][0]["id"]
        self.assertTrue(self.client.get(f"/api/{AT}/{row}/sheet.pdf").content.startswith(b"%PDF"))
        self.call("get", "projects/FERRY/pages/now/look-ahead.odt", status=404)

    def test_a_page_with_requests_can_be_taken_back_and_an_activity_that_was_asked_for_removed(self) -> None:
        self.ask("Wim Carrow", weeks=8)
        code = Request.objects.get().activities[-1]
        row = next(r for r in self.call("get", "projects/FERRY/plan")["rows"] if r["code"] == code)
        plan = {"revision": self.revision(), "preview": False, "rest": False, "verbs": [{"do": "remove", "rows": [row["id"]]}]}
        self.call("post", "projects/FERRY/plan/changes", plan)
        self.assertEqual(len(self.tray()["requests"]), 1)
        self.call("post", "projects/FERRY/pages/now/close", {"revision": self.revision()})
        self.ask("Wim Carrow", weeks=8, until="")
        self.call("post", "projects/FERRY/pages/now/take-back", {"revision": self.revision()})
        self.assertEqual(Request.objects.filter(page__state="wet").count(), 0)

    def test_two_who_answer_for_one_activity_are_taken_one_on_the_other(self) -> None:
        """The fitters' person says hours of what Mirela is responsible for: progress and hours stand beside each other in any order."""
        code = next(a.activity.code for a in Assignment.objects.filter(resource__person=NAMES[0]).select_related("activity") if self.due(a))
        self.ask("Ruan Teale", "Mirela Oakden", weeks=8)
        for request in Request.objects.all():
            request.activities = [code]
            request.save()
        resource = Assignment.objects.filter(activity__code=code, resource__person=NAMES[0]).values_list("resource__code", flat=True)[0]
        self.sign_in("ruan")
        work = self.call("get", "my-work")["work"][0]["request"]
        hours = {"uid": "h", "request": work, "activity": code, "cells": {}, "hours": {resource: {"worked": "16", "to_go": "40"}}}
        self.assertTrue(self.call("post", "my-work", {"answers": [hours]})[0]["kept"])
        self.answer("mirela", **{code: {"percent": "35", "note": "by the rule"}})
        tray = self.tray()
        self.assertEqual((len(tray["tray"]), tray["together"]["count"]), (2, 2))
        ids = [x["id"] for x in tray["tray"]]
        found = []
        for order in ([ids], [[ids[0]], [ids[1]]], [[ids[1]], [ids[0]]]):
            for part in order:
                self.take(*part)
            found.append(self.state())
            for _ in order:
                self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual((found[0], found[1]), (found[1], found[2]))
        self.assertEqual([s[3] for s in found[0][0]], ["35"])
        self.assertEqual([h[2:] for h in found[0][1]], [("960min", "2400min")])
        self.take(ids[1], changed={str(ids[1]): {"percent": "36"}})
        self.assertEqual(Answer.objects.get(pk=ids[1]).cells["percent"], "35")  # what was said stays what was said
        self.assertIn("36 %", self.call("get", "projects/FERRY/journal")["steps"][0]["label"])

    def due(self, a: Assignment) -> bool:
        return bool(a.activity.responsible) and not Statement.objects.filter(activity=a.activity).exists()
