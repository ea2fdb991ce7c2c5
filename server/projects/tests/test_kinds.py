"""Kinds of projects: the own fields that they give, projects that follow, and what follows from the fields."""

from typing import Any

from server.book.documents import book_document
from server.book.loading import load_document
from server.book.models import Project
from server.tests.base import LedgerTest

FIELDS = [
    {"name": "Berth", "of": "project", "kind": "choice", "options": ["Slip", "Quay"], "in_reports": "yes"},
    {"name": "Crew boat", "kind": "yes_no"},
    {"name": "Deck", "code": "deck", "kind": "choice", "options": ["Hull", "Engine room", "Forward void", "Wheelhouse", "Quay", "Mast"]},
]


class KindsTest(LedgerTest):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in("lorcan")
        self.keep(called="Refit", fields=FIELDS)

    def keep(self, status: int = 200, name: str = "", revision: int = 0, **stated: Any) -> Any:
        return self.call("put", "kinds", {"name": name, "revision": revision, "called": name, "fields": [], **stated}, status)

    def change(self, *verbs: Any, status: int = 200) -> Any:
        revision = Project.objects.get(code="FERRY").revision
        return self.call("post", "projects/FERRY/plan/changes", {"revision": revision, "verbs": verbs}, status)

    def about(self) -> Any:
        return self.call("get", "projects/FERRY/about")

    def put(self, **cells: Any) -> Any:
        return self.change({"do": "set", "row": str(self.about()["project"]["id"]), "cells": {f"fields.{k}": v for k, v in cells.items()}})

    def fields(self) -> dict[str, Any]:
        return {f["code"]: f for f in book_document(Project.objects.get(code="FERRY"))["fields"]}

    def test_a_project_of_a_kind_has_its_fields(self) -> None:
        before = set(self.fields())
        self.assertEqual(self.about()["kind_state"], "gone")  # the demo's own kind is not on this list
        stated = self.change({"do": "kind", "kind": "Refit"})
        self.assertEqual(stated["label"], "kind of project: Refit")
        found = self.fields()
        self.assertEqual(found["crew_boat"], {"code": "crew_boat", "name": "Crew boat", "kind": "yes_no", "given_by": "kind"})
        self.assertIn("Mast", found["deck"]["options"])
        # What an earlier kind gave goes, unless it holds something: then the project keeps it.
        self.assertEqual(before - set(found), set())
        self.assertNotIn("given_by", found["permit"])
        self.assertEqual(self.about()["kind_state"], "same")
        shown = {f["code"] for f in self.call("get", "projects/FERRY/plan")["fields"]}
        self.assertEqual(shown & {"berth", "crew_boat", "deck"}, {"crew_boat", "deck"})
        self.assertEqual([f["code"] for f in self.about()["fields"]], ["berth", "class_survey"])

    def test_its_own_values_are_written_reported_and_ruled_by(self) -> None:
        self.change({"do": "kind", "kind": "Refit"})
        self.put(berth="quay")
        self.assertEqual(self.about()["project"]["fields"]["berth"], "Quay")
        self.assertEqual(
            self.change({"do": "set", "row": self.about()["project"]["id"], "cells": {"fields.berth": "Moon"}}, status=422)["field"],
            "fields.berth",
        )
        self.assertIn(["Berth", "Quay"], self.call("get", "projects/FERRY/pages/now/report")["fields"])
        row = next(p for p in self.call("get", "projects")["projects"] if p["code"] == "FERRY")
        self.assertEqual((row["kind"], row["own"]["Berth"]), ("Refit", "Quay"))
        rule = {"code": "R9", "scope": "project", "match": "all", "mark": "act", "reason": "It lies at the {field:berth}"}
        rule["conditions"] = [{"figure": "field:berth", "is": "=", "value": "Quay"}]  # type: ignore[assignment]
        revision = Project.objects.get(code="FERRY").revision
        self.call("put", "projects/FERRY/pages/now/marks", {"revision": revision, "rules": [rule]})
        self.assertEqual(self.call("get", "projects/FERRY/pages/now/marks")["rules"][0]["catches"], 1)
        document = book_document(Project.objects.get(code="FERRY"))
        document["project"]["code"] = "AGAIN"
        again = book_document(load_document(document))
        self.assertEqual({k: again[k] for k in ("fields", "mark_rules")}, {k: document[k] for k in ("fields", "mark_rules")})
        self.assertEqual(again["project"]["fields"], document["project"]["fields"])

    def test_projects_follow_what_the_organisation_changes_of_a_kind(self) -> None:
        self.change({"do": "kind", "kind": "Refit"})
        self.put(berth="Slip")
        kept = self.call("get", "kinds")["kinds"][0]
        self.assertEqual((kept["projects"], kept["fields"][1]["code"]), (1, "crew_boat"))
        done = self.keep(name="Refit", called="Refit of a vessel", revision=1, fields=[kept["fields"][0] | {"name": "Lies at"}])
        self.assertEqual((done["followed"], done["left"]), (1, 0))
        found = self.fields()
        self.assertEqual(
            (found["berth"]["name"], "crew_boat" in found, Project.objects.get(code="FERRY").kind), ("Lies at", False, "Refit of a vessel")
        )
        # A choice that some project has made can't go from under it: it stays as it is there, and says so.
        berth = kept["fields"][0] | {"options": ["Quay"]}
        done = self.keep(name="Refit of a vessel", called="Refit of a vessel", revision=2, fields=[berth])
        self.assertEqual((done["followed"], done["left"], self.about()["kind_state"]), (0, 1, "other"))
        self.assertEqual(self.keep(409, name="Refit of a vessel", called="X", revision=2)["code"], "stale")

    def test_a_new_project_is_begun_as_one_of_a_kind(self) -> None:
        begun = {"name": "New hull", "start": "4 jan 2027", "currency": "EUR", "kind": "Refit"}
        code = self.call("post", "projects", begun)["code"]
        made = book_document(Project.objects.get(code=code))
        self.assertEqual((made["project"]["kind"], [f["code"] for f in made["fields"]]), ("Refit", ["berth", "crew_boat", "deck"]))
        self.assertEqual(self.call("post", "projects", begun | {"kind": "Gone"}, 422)["field"], "kind")

    def test_what_a_kind_gives_is_not_written_in_a_project(self) -> None:
        self.change({"do": "kind", "kind": "Refit"})
        row = next(r["id"] for g in self.about()["registers"] if g["key"] == "fields" for r in g["rows"] if r["code"] == "crew_boat")
        self.assertIn("The kind of project gives", self.change({"do": "set", "row": row, "cells": {"name": "X"}}, status=422)["detail"])
        self.assertIn("The kind of project gives", self.change({"do": "remove", "rows": [row]}, status=409)["detail"])
        project = self.about()["project"]["id"]
        self.change({"do": "set", "row": project, "cells": {"kind": "Refit"}}, status=422)
        self.assertIn("no kind of project", self.change({"do": "kind", "kind": "None such"}, status=409)["detail"])
        self.change({"do": "kind", "kind": ""})
        self.assertEqual(("crew_boat" in self.fields(), self.about()["kind_state"]), (False, "none"))

    def test_nothing_that_is_sent_breaks_it(self) -> None:
        good = {"name": "A"}
        strange: list[Any] = [5, None, [], {"name": 5}]
        wrong = {"options": [[1]]}, {"kind": "moon"}, {"of": 7}, {"code": "a b/c"}, {"code": "\x00"}
        strange += [good | x for x in (*wrong, {"formula": "((", "kind": "formula"}, {"options": ["x" * 400], "kind": "choice"})]
        for field in strange:
            body = {"name": "", "called": "Strange", "revision": 0, "fields": [field]}
            answer = self.client.put("/api/kinds", body, content_type="application/json")
            self.assertIn(answer.status_code, (200, 400, 422), (field, answer.content[:200]))
            self.client.delete("/api/kinds?name=Strange")
        for verb in ({"do": "kind"}, {"do": "kind", "kind": 5}, {"do": "kind", "kind": None}):
            revision = Project.objects.get(code="FERRY").revision
            answer = self.client.post(
                "/api/projects/FERRY/plan/changes", {"revision": revision, "verbs": [verb]}, content_type="application/json"
            )
            self.assertIn(answer.status_code, (400, 409, 422), (verb, answer.content[:200]))
        for cells in ({"fields.berth": {"a": 1}}, {"fields.none": "x"}, {"fields": {"berth": 5}}, {"fields.": 1}):
            row = str(self.about()["project"]["id"])
            self.change({"do": "set", "row": row, "cells": cells}, status=422)
        self.assertEqual(self.client.delete("/api/kinds").status_code, 400)

    def test_what_is_wrong_with_a_kind_is_said_beside_it(self) -> None:
        for stated, field in (
            ({"called": " "}, "called"),
            ({"called": "Refit"}, "called"),
            ({"called": "X", "fields": [{"name": ""}]}, "fields[0].name"),
            ({"called": "X", "fields": [{"name": "A", "kind": "choice"}]}, "fields[0].options"),
            ({"called": "X", "fields": [{"name": "A", "code": "a"}, {"name": "B", "code": "a"}]}, "fields[1].code"),
            ({"called": "X", "fields": [{"name": "A", "of": "project", "kind": "formula", "formula": "1"}]}, "fields[0].kind"),
        ):
            self.assertEqual(self.keep(422, **stated)["field"], field)
        self.keep(404, name="Gone", called="Gone", revision=1)
        self.client.delete("/api/kinds?name=Refit")
        self.assertEqual(self.call("get", "kinds")["kinds"], [])
