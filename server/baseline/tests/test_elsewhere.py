"""Baselines from elsewhere, asked for, taken away, and started again from: over requests."""

import copy
import io
import json
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile
from openpyxl import Workbook

from dryledger.compute import compute
from server.baseline.tests.test_baselines import Shelf
from server.book.loading import load_document
from server.book.models import Baseline, Project
from server.book.workspace import workspace_of


class Elsewhere(Shelf):
    """Plans of other projects and of files."""

    def file(self, content: bytes, called: str = "plan.json", status: int = 200, **more: Any) -> Any:
        form = {"file": SimpleUploadedFile(called, content), "revision": self.revision()} | more
        answer = self.client.post("/api/projects/FERRY/baselines/of-file", form)
        self.assertEqual(answer.status_code, status, answer.content[:400])
        return json.loads(answer.content)

    def book(self, **project: str) -> dict[str, Any]:
        doc: dict[str, Any] = copy.deepcopy(self.call("get", "projects/FERRY/export/book.json"))
        for key in ("periods", "baselines", "options", "promises", "changes", "orders", "answers", "externals"):
            doc.pop(key, None)
        doc["project"] = {k: v for k, v in doc["project"].items() if k not in ("measured_against", "compared_with")} | project
        return doc

    def test_the_same_plan_from_a_file_measures_as_one_that_is_taken_here(self) -> None:
        taken = self.take(name="Here", reason="To compare")["code"]
        told = self.file(json.dumps(self.book()).encode())
        count = len(workspace_of(self.project).book.activities)
        self.assertEqual((told["matched"], told["only_there"], told["only_here"], told["code"]), (count, [], [], ""))
        self.assertFalse(Baseline.objects.filter(project=self.project, came_from__contains="plan.json").exists())
        brought = self.file(json.dumps(self.book()).encode(), apply=True, name="From the file", reason="The contract's")["code"]
        row = Baseline.objects.get(project=self.project, code=brought)
        self.assertEqual((row.source, row.came_from), ("import", "Lorcan Test, from plan.json"))
        # Taken with no page behind it, as the file has it: this plan without its progress.
        book = workspace_of(Project.objects.get(code="FERRY")).book
        one, other = (book.baseline_by_code[c] for c in (taken, brought))
        plan = compute(book.with_periods(()))
        dates = {c: (x.start, x.finish) for c, x in plan.schedule.activities.items()}
        self.assertEqual({a.code: (a.start, a.finish) for a in other.activities}, dates)
        self.assertEqual({a.code: a.budget for a in one.activities}, {a.code: a.budget for a in other.activities})
        self.assertEqual({a.code: a.work for a in one.activities}, {a.code: a.work for a in other.activities})

    def test_what_does_not_match_is_told_by_row(self) -> None:
        doc = self.book()
        for a in doc["activities"][:20]:
            new = f"X{a['code']}"
            for link in doc["links"]:
                link.update({end: new for end in ("from", "to") if link[end] == a["code"]})
            for part in ("assignments", "costs"):
                for x in doc[part]:
                    x["activity"] = new if x["activity"] == a["code"] else x["activity"]
            a["code"] = new
        told = self.file(json.dumps(doc).encode())
        self.assertEqual(
            [(u["code"], u["row"]) for u in told["only_there"][:2]],
            [("XA100", "row 1 of the activities"), ("XA110", "row 2 of the activities")],
        )
        self.assertEqual((len(told["only_there"]), len(told["only_here"])), (20, 20))
        self.assertIn("nothing matches", self.file(json.dumps(self.renamed()).encode(), status=422)["detail"])
        self.assertIn("EUR", self.file(json.dumps(self.book(currency="JPY")).encode(), status=422)["detail"])
        for wrong in (b"no plan", b'{"format": 1}', b"[]"):
            self.assertTrue(self.file(wrong, status=422)["detail"])

    def renamed(self) -> dict[str, Any]:
        return json.loads(json.dumps(self.book()).replace('"A', '"Z'))

    def test_a_table_of_activities_alone_is_a_plan_too(self) -> None:
        workbook, content = Workbook(), io.BytesIO()
        sheet = workbook.active
        sheet.title = "Activities"
        for row in (
            ["Code", "Name", "Duration", "Predecessors"],
            ["A110", "Hybrid system concept", "6d", ""],
            ["A120", "Stability", "3d", "A110"],
            ["Q1", "New", "1d", ""],
        ):
            sheet.append(row)
        workbook.save(content)
        told = self.file(content.getvalue(), "contract.xlsx")
        self.assertEqual((told["matched"], [(u["code"], u["row"]) for u in told["only_there"]]), (2, [("Q1", "Activities, row 4")]))
        self.file(content.getvalue(), "contract.xlsx", apply=True, name="Contract", reason="As signed")
        code = Baseline.objects.get(project=self.project, name="Contract").code
        rows = workspace_of(Project.objects.get(code="FERRY")).book.baseline_by_code[code].by_code
        self.assertEqual((rows["A110"].duration, rows["A120"].start >= rows["A110"].finish), (6 * 480, True))

    def test_the_plan_of_another_project(self) -> None:
        load_document(self.book(code="TWIN", name="The twin"))
        path = "projects/FERRY/baselines/of-project"
        body = {"project": "TWIN", "revision": self.revision(), "name": "Twin", "reason": "The same yard"}
        self.assertEqual(self.call("post", path, body)["only_here"], [])
        self.assertEqual(self.call("post", path, body | {"apply": True})["code"], "B2")
        self.assertEqual(self.call("post", path, body | {"project": "NONE"}, 422)["field"], "project")
        self.sign_in("ines")
        self.call("post", path, body | {"apply": True}, 403)
        self.call("post", path, body)

    def test_an_analyst_asks_and_an_approver_takes_or_sends_back(self) -> None:
        asked = {"name": "After change 4", "reason": "The change is approved", "rows": None, "changes": []}
        self.sign_in("ines")
        self.assertEqual(self.call("post", "projects/FERRY/baselines/asked", asked | {"reason": " "}, 422)["field"], "reason")
        [row] = self.call("post", "projects/FERRY/baselines/asked", asked)["asked"]
        self.assertEqual((row["by"], row["mine"], row["moved_on"]), ("Ines Test", True, False))
        answer = f"projects/FERRY/baselines/asked/{row['id']}"
        self.call("post", answer, {"revision": self.revision(), "take": True}, 403)
        self.sign_in("lorcan")
        self.assertEqual(self.call("post", answer, {"revision": self.revision(), "take": False}, 422)["field"], "text")
        self.call("post", answer, {"revision": self.revision(), "take": False, "text": "Wait for Friday"})
        self.sign_in("ines")
        self.assertEqual([(a["state"], a["answer"]) for a in self.shelf()["asked"]], [("declined", "Wait for Friday")])
        [row] = [a for a in self.call("post", "projects/FERRY/baselines/asked", asked)["asked"] if a["state"] == "open"]
        self.sign_in("lorcan")
        path = f"projects/FERRY/baselines/asked/{row['id']}"
        shelf = self.call("post", path, {"revision": self.revision(), "take": True})
        self.assertEqual(
            (shelf["asked"], shelf["baselines"][-1]["name"], shelf["baselines"][-1]["approved_by"]), ([], "After change 4", "Lorcan Test")
        )
        self.call("post", path, {"revision": self.revision(), "take": True}, 404)
        self.sign_in("maud")
        self.call("post", "projects/FERRY/baselines/asked", asked, 403)

    def test_one_that_nothing_refers_to_is_taken_away_with_a_reason(self) -> None:
        away = lambda code, reason="By mistake", status=200: self.call(  # noqa: E731
            "post", f"projects/FERRY/baselines/{code}/away", {"revision": self.revision(), "reason": reason}, status
        )
        self.assertIn("was closed with it", away("B0", status=409)["detail"])
        code = self.take(name="Oops", reason="Pressed twice")["code"]
        self.assertEqual(away(code, " ", 422)["field"], "reason")
        self.assertNotIn(code, [b["code"] for b in away(code)["baselines"]])
        trail = self.call("get", "projects/FERRY/journal")
        self.assertIn("took baseline B2 away: By mistake", json.dumps(trail))
        self.undo_or_redo("undo")
        self.assertIn(code, [b["code"] for b in self.shelf()["baselines"]])
        self.call("put", "projects/FERRY/baselines", {"revision": self.revision(), "measured": code, "drawn": []})
        self.assertIn("measured against it", away(code, status=409)["detail"])
        away("B9", status=404)

    def test_a_project_is_started_from_one_with_its_links_and_rates_as_they_were(self) -> None:
        self.code = "QUAY"
        self.begin()
        self.outline("A|2d\nB|3d\nC|4d\n")
        a, b, c = (self.row(x) for x in "ABC")
        self.change(
            {"do": "add", "list": "resources", "cells": {"name": "Mason", "rate.hour": "50"}, "as": "m"},
            {"do": "assign", "resource": "m", "rows": [b["id"]]},
        )
        self.change(
            {"do": "set", "row": b["id"], "cells": {"after": a["code"]}}, {"do": "set", "row": c["id"], "cells": {"after": b["code"]}}
        )
        self.take()
        mason = next(k for k in workspace_of(Project.objects.get(code="QUAY")).keyed.rows["resources"])
        self.change({"do": "set", "row": f"r{mason}", "cells": {"rate.hour": "99"}}, {"do": "set", "row": c["id"], "cells": {"after": ""}})
        self.change({"do": "remove", "rows": [a["id"]]})
        self.call("post", "projects/QUAY/baselines/B0/back", {"code": "AGAIN", "name": ""})
        book = workspace_of(Project.objects.get(code="AGAIN")).book
        self.assertEqual([(k.source, k.target) for k in book.links], [(a["code"], b["code"]), (b["code"], c["code"])])
        self.assertEqual([str(r.amount) for x in book.resources for r in x.rates], ["50.00"])
        self.assertEqual({x.mode for x in book.activities}, {"driven"})
        base = workspace_of(Project.objects.get(code="QUAY")).book.baseline_by_code["B0"]
        rows = compute(book).schedule.activities
        self.assertEqual({x.code: (x.start, x.finish) for x in base.activities}, {k: (x.start, x.finish) for k, x in rows.items()})
