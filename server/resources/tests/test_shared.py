"""Resources of the organisation: projects draw on them, follow what is changed there, and keep rates of their own."""

from decimal import Decimal
from typing import Any

from server.book.documents import book_document
from server.book.loading import load_document
from server.book.models import Project, Resource
from server.book.verify import verify
from server.tests.base import LedgerTest, ferry

RATES = [{"from": "2026-01-01", "amount": "58.00", "per": "hour", "overtime": "87.00"}]


class SharedTest(LedgerTest):
    def setUp(self) -> None:
        super().setUp()
        self.sign_in("lorcan")

    def row(self, code: str = "ELE", project: str = "FERRY") -> Resource:
        return Resource.objects.get(project__code=project, code=code)

    def share(self, code: str = "ELE", status: int = 200) -> Any:
        return self.call("post", "resources", {"project": "FERRY", "row": f"r{self.row(code).pk}"}, status)

    def keep(self, status: int = 200, code: str = "ELE", revision: int = 1, **cells: Any) -> Any:
        return self.call("put", "resources", {"code": code, "revision": revision, "cells": cells}, status)

    def change(self, *verbs: Any, project: str = "FERRY", status: int = 200) -> Any:
        revision = Project.objects.get(code=project).revision
        return self.call("post", f"projects/{project}/plan/changes", {"revision": revision, "verbs": verbs}, status)

    def second(self) -> None:
        document = ferry(1)
        document["project"]["code"] = "TUG"
        document["periods"] = []
        for resource in document["resources"]:
            resource.pop("shared", None)
        load_document(document)

    def listed(self, code: str, project: str = "FERRY") -> Any:
        return next(r for r in self.call("get", f"projects/{project}/plan/lists")["resources"] if r["code"] == code)


class Drawing(SharedTest):
    def test_a_resource_is_put_there_and_others_draw_on_it(self) -> None:
        self.share()
        found = self.call("get", "resources")["resources"]
        self.assertEqual([(x["code"], x["units"], x["currency"], x["rates"]) for x in found], [("ELE", 6.0, "EUR", RATES)])
        self.assertEqual(self.listed("ELE")["kept"], "same")
        self.second()
        self.change({"do": "remove", "rows": [f"r{self.row('CLS', 'TUG').pk}"]}, project="TUG", status=409)
        made = self.change({"do": "draw", "shared": "ELE"}, project="TUG")
        self.assertIn("taken from the organisation's list", made["label"])
        own = Resource.objects.get(project__code="TUG", shared="ELE")
        self.assertEqual((own.name, own.units, own.rates, own.code != "ELE"), ("Mirela Oakden's electricians", "6", RATES, True))
        drawing = self.call("get", "resources")["resources"][0]["projects"]
        self.assertEqual([(p["project"], p["resource"]) for p in drawing], [("FERRY", "ELE"), ("TUG", own.code)])
        again = self.change({"do": "draw", "shared": "ELE", "row": f"r{self.row('FIT', 'TUG').pk}"}, project="TUG", status=409)
        self.assertIn("is here already", again["detail"])

    def test_what_is_the_organisations_is_not_written_in_a_project(self) -> None:
        self.share()
        row = f"r{self.row().pk}"
        for cells in ({"name": "Sparks"}, {"rates": []}, {"skills": "welding"}, {"kind": "equipment"}):
            stated = self.change({"do": "set", "row": row, "cells": cells}, status=422)
            self.assertIn("The organisation keeps this", stated["detail"])
        self.change({"do": "set", "row": row, "cells": {"units": "3"}})
        self.change({"do": "set", "row": row, "cells": {"own_rates": True}})
        self.change({"do": "set", "row": row, "cells": {"rates": [{"from": "2026-01-01", "amount": "70", "per": "hour"}]}})
        self.assertEqual(self.listed("ELE")["kept"], "same")
        self.change({"do": "set", "row": row, "cells": {"own_rates": False}})
        self.assertEqual(self.listed("ELE")["kept"], "other")
        self.change({"do": "draw", "shared": "ELE", "row": row})
        self.assertEqual((self.row().rates, self.row().units), (RATES, "3"))
        self.change({"do": "leave", "row": row})
        self.assertEqual(self.listed("ELE")["kept"], "own")
        self.assertIn("no resource", self.change({"do": "draw", "shared": "NONE"}, status=409)["detail"])
        self.change({"do": "set", "row": row, "cells": {"shared": "ELE"}}, status=422)

    def test_projects_follow_what_the_organisation_changes(self) -> None:
        self.share()
        before = self.call("get", "projects/FERRY/pages/now/balance")
        self.change({"do": "set", "row": f"r{self.row('FIT').pk}", "cells": {"units": "7"}})
        done = self.keep(name="Electricians", rates=[{"from": "1 jan 2026", "amount": "100", "per": "hour"}], units="9")
        self.assertEqual((done["revision"], done["followed"], done["left"]), (2, 1, 0))
        self.assertEqual((self.row().name, Decimal(self.row().rates[0]["amount"]), self.row().units), ("Electricians", 100, "6"))
        self.assertNotEqual(self.call("get", "projects/FERRY/pages/now/balance"), before)
        self.assertEqual(self.keep(409, name="Late")["code"], "stale")
        steps = self.call("get", "projects/FERRY/journal")["steps"]
        self.assertEqual(steps[0]["label"], "Electricians: taken from the organisation's list")
        undone = self.call("post", "projects/FERRY/undo", {"revision": Project.objects.get(code="FERRY").revision})
        self.assertIn("units", str(undone))
        self.assertEqual((self.row().name, self.row("FIT").units), ("Electricians", "6"))

    def test_dry_pages_keep_what_they_were_sealed_with(self) -> None:
        self.share()
        self.call("post", "projects/FERRY/pages/P02/close", {"revision": self.revision()})
        dry = {page: self.call("get", f"projects/FERRY/pages/{page}/balance") for page in ("P01", "P02")}
        before = self.call("get", "projects/FERRY/pages/now/balance")
        self.keep(rates=[{"from": "2026-01-01", "amount": "500", "per": "hour"}], name="Dear electricians")
        self.assertEqual({page: self.call("get", f"projects/FERRY/pages/{page}/balance") for page in dry}, dry)
        self.assertNotEqual(self.call("get", "projects/FERRY/pages/now/balance")["eac"], before["eac"])
        stated = self.call("get", "projects/FERRY/pages/P02/posting/hours")
        self.assertNotIn("Dear electricians", str(stated))
        self.assertEqual(verify(Project.objects.get(code="FERRY")).wrong, [])

    def test_one_may_follow_while_others_post(self) -> None:
        """Whoever posts on what they saw before is told so, and nothing of either is lost."""
        self.share()
        seen = self.revision()
        self.keep(units="9", name="Electricians")
        self.post_entry("A150", 409, revision=seen, percent="44")
        self.post_entry("A150", percent="44")
        self.assertEqual(self.row().name, "Electricians")

    def test_rates_of_its_own_and_another_currency_are_left_alone(self) -> None:
        self.share()
        self.second()
        Project.objects.filter(code="TUG").update(currency="JPY", revision=50)
        self.change({"do": "draw", "shared": "ELE"}, project="TUG")
        own = Resource.objects.get(project__code="TUG", shared="ELE")
        self.assertEqual((own.own_rates, own.rates), (True, None))
        self.change({"do": "set", "row": f"r{self.row().pk}", "cells": {"own_rates": True}})
        self.keep(rates=[{"from": "2026-01-01", "amount": "100", "per": "hour"}])
        self.assertEqual(self.row().rates, RATES)

    def test_bad_cells_are_told_and_nothing_is_kept(self) -> None:
        self.share()
        for cells, field in (
            ({"units": "none"}, "units"),
            ({"rates": [{"from": "x", "amount": "1", "per": "hour"}]}, "rates"),
            ({"kind": "material"}, "kind"),
            ({"week": {"mon": "8-7"}}, "week.mon"),
            ({"currency": "XXQ"}, "currency"),
            ({"nonsense": 1}, "nonsense"),
            ({"name": ""}, "name"),
        ):
            self.assertEqual(self.keep(422, **cells)["field"], field)
        self.keep(422, code="", revision=0, name="Nobody")
        self.keep(422, code="ELE", revision=0, name="Twice")
        self.keep(404, code="GONE", revision=1, name="Gone")
        self.keep(code="BRG", revision=0, name="Barge", kind="equipment", units="1", currency="eur", week={"sat": "8-12"})
        found = {x["code"]: x for x in self.call("get", "resources")["resources"]}
        barge = found["BRG"]
        self.assertEqual((barge["kind"], barge["currency"], barge["week"]["sat"]), ("equipment", "EUR", ["08:00-12:00"]))
        self.share(status=409)
        self.call("post", "resources", {"project": "FERRY", "row": "r0"}, 404)

    def test_nothing_that_is_sent_breaks_it(self) -> None:
        self.share()
        strange: list[Any] = [None, 7, "x", [], [1], {}, {"mon": 5}, {"mon": [["a"]]}, [{"from": 1}], "\x00", "9" * 5000, True, -1, 1e300]
        for key in ("name", "kind", "units", "role", "skills", "rates", "week", "currency", "shared", ""):
            for value in strange:
                body = {"code": "ELE", "revision": self.call("get", "resources")["resources"][0]["revision"], "cells": {key: value}}
                answer = self.client.put("/api/resources", body, content_type="application/json")
                self.assertIn(answer.status_code, (200, 400, 422), (key, value, answer.content[:200]))
                self.assertNotIn(b"Traceback", answer.content)
        for body in ({}, {"code": "X"}, {"code": 5, "revision": "x", "cells": []}, {"code": "a/b", "revision": 0, "cells": {"name": "N"}}):
            answer = self.client.put("/api/resources", body, content_type="application/json")
            self.assertIn(answer.status_code, (200, 400, 422), answer.content[:200])
        for verb in (
            {"do": "draw"},
            {"do": "draw", "shared": 5},
            {"do": "draw", "shared": "ELE", "row": "a1"},
            {"do": "leave"},
            {"do": "leave", "row": "r0"},
        ):
            answer = self.client.post(
                "/api/projects/FERRY/plan/changes",
                {"revision": Project.objects.get(code="FERRY").revision, "verbs": [verb]},
                content_type="application/json",
            )
            self.assertIn(answer.status_code, (400, 409, 422), (verb, answer.content[:200]))
        self.assertEqual(self.client.delete("/api/resources").status_code, 400)
        self.call("get", "projects/FERRY/pages/now/value")

    def test_off_the_list_a_project_keeps_what_it_has(self) -> None:
        self.share()
        self.client.delete("/api/resources?code=ELE")
        self.assertEqual(self.listed("ELE")["kept"], "gone")
        self.assertEqual(self.row().rates, RATES)

    def test_the_book_says_whose_a_resource_is(self) -> None:
        self.share()
        document = book_document(Project.objects.get(code="FERRY"))
        self.assertEqual([r["code"] for r in document["resources"] if r.get("shared") == "ELE"], ["ELE"])
        document["project"]["code"] = "AGAIN"
        again = book_document(load_document(document))
        self.assertEqual(again["resources"], document["resources"])

    def test_projects_that_one_does_not_see_are_not_told(self) -> None:
        self.share()
        Project.objects.filter(code="FERRY").update(members_only=True)
        self.assertEqual(self.call("get", "resources")["resources"][0]["projects"], [])
        done = self.keep(name="Electricians")
        self.assertEqual((done["followed"], self.row().name), (0, "Electricians"))
