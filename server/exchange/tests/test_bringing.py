"""Files brought in: every wrong cell told by row and column, nothing half applied, nothing run."""

import io
import json
import zipfile
from typing import Any

import openpyxl
from django.core.files.uploadedfile import SimpleUploadedFile

from server.book.models import Project
from server.exchange.tests.test_load import bare
from server.plan.tests.test_changes import Plans


def workbook(**sheets: list[list[Any]]) -> bytes:
    """A workbook with sheets of rows; the first row holds the titles."""
    book = openpyxl.Workbook()
    book.remove(book.active)
    for title, rows in sheets.items():
        sheet = book.create_sheet(title)
        for row in rows:
            sheet.append(row)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


class Brought(Plans):
    """Somebody who brings files in, and reads what is told of their rows."""

    def bring(self, content: bytes, name: str = "book.xlsx", project: str | None = "FERRY", status: int = 200, **more: str) -> Any:
        path = f"/api/projects/{project}/import" if project else "/api/import"
        answer = self.client.post(path, {"file": SimpleUploadedFile(name, content), **more})
        self.assertEqual(answer.status_code, status, answer.content[:500])
        return json.loads(answer.content)

    def reasons(self, found: Any) -> set[tuple[int, str, str]]:
        return {(r["row"], x["column"], x["message"]) for t in found["tables"] for r in t["rows"] for x in r["reasons"]}

    def told(self, found: Any, row: int, column: str, words: str) -> None:
        self.assertTrue(any(r == row and c == column and words in m for r, c, m in self.reasons(found)), (words, self.reasons(found)))


class Files(Brought):
    def test_everything_wrong_is_told_by_row_and_column(self) -> None:
        before = self.book()
        found = self.bring(
            workbook(
                Activities=[
                    ["Activity code", "Name", "Duration", "Predecessors", "Start", "Colour", "WBS"],
                    ["N1", "First", 5, "A100", None, "red", "1"],
                    ["A110", "Renamed", "ages", "ZZZ", None, None, None],
                    ["N2", "Loop", "2w", "N3", None, None, None],
                    ["N3", "Back", "2w", "N2", "3/4/2027", None, "99"],
                    ["N1", "Twice", "1d", None, "yesterday", None, None],
                    ["A120", "Six", "=2*3", None, 46000, None, None],
                ],
                Costs=[["Activity code", "Name", "Amount"], ["A110", "Fee", "1,234"], ["A110", "Tax", "lots"], ["NOPE", "X", "5"]],
            )
        )
        self.told(found, 3, "Duration", "“ages” is not a duration")
        self.told(found, 3, "Predecessors", "no activity “ZZZ”")
        self.told(found, 4, "Predecessors", "loop: N2 → N3 → N2")
        self.told(found, 5, "Start", "can be read two ways")
        self.told(found, 5, "WBS", "there is no WBS element “99”")
        self.told(found, 6, "Activity code", "“N1” stands in row 2 already")
        self.told(found, 6, "Start", "not a date")
        self.told(found, 7, "Duration", "holds a formula")
        self.told(found, 7, "Start", "Format the cell as a date")
        self.told(found, 2, "Amount", "can be read two ways")
        self.told(found, 3, "Amount", "not a number")
        self.told(found, 4, "Activity code", "there is no activity “NOPE”")
        self.assertEqual(found["unknown"], ["column “Colour” of Activities"])
        self.assertFalse(found["ready"])
        self.assertEqual(
            self.bring(workbook(Activities=[["Code", "Name"], ["A110", "=1+1"]]), apply="true", status=422)["code"], "not-ready"
        )
        self.assertEqual(self.book(), before)

    def test_what_is_right_is_shown_then_done_as_one_step(self) -> None:
        before = self.book()
        content = workbook(
            Activities=[
                ["ID", "name", "Duration", "Predecessors"],
                ["A110", "Hybrid system concept", "6 days", None],
                ["A120", "Stability and weight estimate", 6, None],
                [None, "Given a code", "1,5d", "A110 SS lag 1d"],
            ]
        )
        found = self.bring(content)
        self.assertEqual([(r["row"], r["what"]) for r in found["tables"][0]["rows"]], [(2, "change"), (3, "leave"), (4, "add")])
        self.assertEqual(found["tables"][0]["rows"][0]["changes"], [{"column": "Duration", "was": "5d", "now": "6d"}])
        self.assertEqual(self.book(), before)
        self.assertEqual(self.bring(content, apply="true")["done"], "FERRY")
        self.assertEqual((self.row("Given a code")["after"], self.row("Given a code")["duration"]), ("A110 SS lag 1d", "1.5d"))
        self.undo_or_redo("undo")
        self.assertEqual(self.book(), before)

    def test_what_comes_only_with_a_new_project_is_left_and_said(self) -> None:
        before = self.book()
        rules = {"Answers to checks": [["Check", "Row", "Page", "Text"], ["long_lag", "A110", "P01", "meant so"]]}
        found = self.bring(workbook(**rules, Activities=[["ID", "Duration"], ["A110", "6 days"]]))
        rows = {t["title"]: t["rows"][0] for t in found["tables"]}
        self.assertEqual((rows["Answers to checks"]["what"], rows["Activities"]["what"]), ("leave", "change"))
        self.assertIn("only with a new project", rows["Answers to checks"]["reasons"][0]["message"])
        self.assertIn("other than it stands", self.bring(workbook(**rules), apply="true", status=422)["detail"])
        self.assertEqual(self.book(), before)

    def test_mark_rules_come_into_a_project_and_are_changed_by_their_codes(self) -> None:
        before = self.book()
        rules = [
            ["Code", "Scope", "Mark", "Reason"],
            ["R1", "activity", "act", "late by {finish_difference}"],
            ["R2", "project", "watch", None],
        ]
        conditions = [["Mark rule", "Figure", "Is", "Value"], ["R1", "finish_difference", ">=", "5d"], ["R1", "state", "=", "in_progress"]]
        self.bring(workbook(**{"Mark rules": rules, "Mark conditions": conditions}), apply="true")
        found = self.call("get", "projects/FERRY/pages/now/marks")["rules"]
        self.assertEqual([(r["code"], r["mark"], len(r["conditions"])) for r in found], [("R1", "act", 2), ("R2", "watch", 0)])
        self.bring(workbook(**{"Mark rules": [["Code", "Scope", "Mark"], ["R1", "activity", "watch"]]}), apply="true")
        found = self.call("get", "projects/FERRY/pages/now/marks")["rules"]
        self.assertEqual([(r["code"], r["mark"], len(r["conditions"])) for r in found], [("R1", "watch", 2), ("R2", "watch", 0)])
        wrong = [["Mark rule", "Figure", "Is", "Value"], ["R1", "luck", "=", "1"]]
        content = workbook(**{"Mark rules": rules, "Mark conditions": wrong})
        self.assertIn("luck", json.dumps(self.bring(content)))
        self.bring(content, apply="true", status=422)
        self.undo_or_redo("undo")
        self.undo_or_redo("undo")
        self.assertEqual(self.book(), before)

    def test_csv_in_other_hands(self) -> None:
        text = "Activity code;Name;Duration;Constraint;Constraint date\nN7;Höhe;1,5;start_on_or_after;12.02.2027\n"
        found = self.bring(text.encode("utf-8-sig"), "activities.csv", apply="true")
        self.assertEqual(found["counts"]["add"], 1)
        self.assertEqual(self.row("Höhe")["constraint"], "start on or after 12 February 2027, 00:00")

    def test_start_and_currency_are_shown_and_the_opening_page_goes_along(self) -> None:
        self.begin()
        content = workbook(Project=[["Field", "Value"], ["Start", "2027-02-01T08:00"], ["Currency", "JPY"]])
        found = self.bring(content, project="QUAY")
        changes = [c for t in found["tables"] for r in t["rows"] for c in r["changes"]]
        self.assertEqual(
            [(c["column"], c["was"], c["now"]) for c in changes],
            [("Start", "2027-01-04T08:00", "2027-02-01T08:00"), ("Currency", "EUR", "JPY")],
        )
        self.assertEqual(self.call("get", "projects/QUAY")["pages"][0]["status"], "2027-01-04T08:00")
        self.bring(content, project="QUAY", apply="true")
        frame = self.call("get", "projects/QUAY")
        self.assertEqual((frame["currency"], frame["pages"][0]["status"]), ("JPY", "2027-02-01T08:00"))
        self.undo_or_redo("undo")
        frame = self.call("get", "projects/QUAY")
        self.assertEqual((frame["currency"], frame["pages"][0]["status"]), ("EUR", "2027-01-04T08:00"))

    def test_a_whole_project_comes_and_goes(self) -> None:
        whole = self.client.get("/api/projects/FERRY/export/book.xlsx").content
        self.assertIn("“FERRY” is not free", self.bring(whole, project=None)["faults"][0]["message"])
        self.assertEqual(self.bring(whole, project=None, code="TWIN", apply="true")["done"], "TWIN")
        first = json.loads(self.client.get("/api/projects/FERRY/export/book.json").content)
        second = json.loads(self.client.get("/api/projects/TWIN/export/book.json").content)
        second["project"]["code"] = "FERRY"
        self.assertEqual(bare(second), bare(first))

    def test_what_is_no_file_of_ours(self) -> None:
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as z:
            z.writestr("a.csv", b"0" * 700_000_000)
        for content, name in (
            (b"", "empty.xlsx"),
            (b"PK\x03\x04 not really", "bad.xlsx"),
            (b"\xd0\xcf\x11\xe0 old", "old.xls"),
            (b"\xff\xfe\x00", "odd.csv"),
            (b"[" * 5000, "deep.json"),
            (packed.getvalue(), "bomb.zip"),
            (b"Colour\nred\n", "colours.csv"),
        ):
            with self.subTest(name):
                found = self.bring(content, name, status=400 if not content else 200)
                self.assertTrue(found.get("faults") or found.get("detail"))
        self.assertEqual(Project.objects.count(), 1)

    def test_a_million_empty_rows(self) -> None:
        book = openpyxl.Workbook()
        book.active.title = "Activities"
        book.active.append(["Code", "Name"])
        book.active.append(["N9", "Last"])
        book.active.cell(1_000_000, 1, "N10")
        out = io.BytesIO()
        book.save(out)
        found = self.bring(out.getvalue())
        self.assertEqual([r["name"] for r in found["tables"][0]["rows"]], ["N9 Last"])

    def test_pictures_dates_and_escapes(self) -> None:
        for file, start in (
            ("timeline.svg", b"<?xml"),
            ("timeline.png", b"\x89PNG"),
            ("curve.svg", b"<?xml"),
            ("curve.png", b"\x89PNG"),
            ("milestones.ics", b"BEGIN:VCALENDAR"),
        ):
            self.assertTrue(self.client.get(f"/api/projects/FERRY/export/{file}").content.startswith(start), file)
        self.assertIn(b"SUMMARY:Back in service", self.client.get("/api/projects/FERRY/export/milestones.ics").content)
        row = self.row("Fit structural seatings")["id"]
        self.change({"do": "set", "row": row, "cells": {"name": "=HYPERLINK(1)"}})
        book = openpyxl.load_workbook(io.BytesIO(self.client.get("/api/projects/FERRY/export/book.xlsx").content))
        cells = [c for r in book["Activities"].iter_rows() for c in r if isinstance(c.value, str) and "HYPERLINK" in c.value]
        self.assertEqual([(c.data_type, c.value) for c in cells], [("s", "'=HYPERLINK(1)")])
        self.sign_in("maud")
        self.bring(b"x", status=403)
