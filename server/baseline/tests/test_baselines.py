"""Baselines: taken by an approver, frozen, chosen, compared, and brought back as projects of their own."""

from typing import Any

from dryledger.compute import compute
from server.book.models import Baseline, Project
from server.book.workspace import workspace_of
from server.plan.tests.test_changes import Plans


class Shelf(Plans):
    """An approver before the shelf."""

    def setUp(self) -> None:
        super().setUp()
        self.sign_in("lorcan")

    def take(self, status: int = 200, **more: Any) -> Any:
        body = {"revision": self.plan()["revision"], "name": "Approved plan", "reason": "The first"} | more
        return self.call("post", f"projects/{self.code}/baselines", body, status)

    def shelf(self) -> Any:
        return self.call("get", f"projects/{self.code}/baselines")

    def differences(self, earlier: str, later: str) -> dict[str, Any]:
        rows = self.call("get", f"projects/{self.code}/baselines/differences?earlier={earlier}&later={later}")["rows"]
        return {r["code"]: r for r in rows if r["kind"] == "activity"}


class Baselines(Shelf):
    def test_the_first_is_also_chosen_and_the_plan_can_not_change_it(self) -> None:
        self.begin()
        self.assertIn("nothing to take", self.take(422)["detail"])
        self.outline("A|2d\nB|3d\n")
        self.assertEqual(self.take(422, name=" ")["field"], "name")
        self.assertEqual(self.take(422, reason="")["field"], "reason")
        self.assertEqual(self.take()["code"], "B0")
        self.assertEqual([(b["measured"], b["finish"]) for b in self.shelf()["baselines"]], [(True, "2027-01-06T17:00")])
        frozen = Baseline.objects.get(project__code="QUAY").content
        self.change({"do": "set", "row": self.row("B")["id"], "cells": {"duration": "5d"}})
        self.assertEqual(Baseline.objects.get(project__code="QUAY").content, frozen)
        self.assertEqual(self.differences("B0", "now")[self.row("B")["code"]]["finish"], 2.0)
        self.take(name="Second", reason="Longer B")
        self.assertEqual(self.differences("B0", "B1")[self.row("B")["code"]]["duration"], 2.0)
        removed = self.change({"do": "remove", "rows": [f"b{Baseline.objects.filter(project__code='QUAY').first().pk}"]}, status=409)
        self.assertIn("Baselines room", removed["detail"])

    def test_approving_takes_the_approver(self) -> None:
        self.sign_in("ines")
        self.assertIn("you need to be an approver", self.take(403)["detail"])
        self.assertFalse(self.shelf()["may_approve"])

    def test_for_chosen_activities_the_others_stay(self) -> None:
        longer = self.row("Battery commissioning")
        self.change({"do": "set", "row": longer["id"], "cells": {"duration": "20d"}})
        old = {a["code"]: a for a in Baseline.objects.get(code="B0").content["activities"]}
        code = self.take(name="Trials", reason="Change 4", rows=[self.row("Sea trials")["id"]])["code"]
        new = {a["code"]: a for a in Baseline.objects.get(code=code).content["activities"]}
        changed = {c for c in new if new[c]["duration"] != old[c]["duration"] or new[c]["start"] != old[c]["start"]}
        self.assertIn(longer["code"], changed)
        self.assertTrue(all(c.startswith("A7") for c in changed), changed)

    def test_choosing_and_undoing(self) -> None:
        body = {"revision": self.plan()["revision"], "measured": "B1", "drawn": ["B0"]}
        shelf = self.call("put", "projects/FERRY/baselines", body)
        self.assertEqual([(b["code"], b["measured"], b["drawn"]) for b in shelf["baselines"]], [("B0", False, True), ("B1", True, False)])
        self.undo_or_redo("undo")
        self.assertEqual([b["measured"] for b in self.shelf()["baselines"]], [True, False])

    def test_one_comes_back_as_a_project_with_its_dates_and_money(self) -> None:
        made = self.call("post", "projects/FERRY/baselines/B0/back", {"code": "OLD", "name": "As approved"})
        self.assertEqual(made["code"], "OLD")
        base = workspace_of(self.project).book.baseline_by_code["B0"]
        back = compute(workspace_of(Project.objects.get(code="OLD")).book)
        rows = back.schedule.activities
        self.assertEqual({c: (a.start, a.finish) for c, a in base.by_code.items()}, {c: (x.start, x.finish) for c, x in rows.items()})
        self.code = "OLD"
        costs = {r["code"]: r["cost"] for r in self.plan()["rows"] if r["kind"] != "wbs" and r.get("cost")}
        self.assertEqual(costs, {c: f"{a.budget:f}" for c, a in base.by_code.items() if a.budget})
        self.code = "FERRY"
        self.assertIn("not free", self.call("post", "projects/FERRY/baselines/B0/back", {"code": "OLD", "name": ""}, 422)["detail"])
