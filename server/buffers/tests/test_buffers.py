"""The buffers room over HTTP: BUOYS page by page, approving a promise, and how buffers are judged."""

import json
from typing import Any

from django.conf import settings

from dryledger.exchange.book_json import parse_json
from server.book.loading import load_document
from server.book.models import Page, Project
from server.book.verify import verify
from server.tests.base import LedgerTest, make_people

AT = "projects/BUOYS/pages"


def buoys(**more: Any) -> Any:
    document: Any = parse_json((settings.ROOT / "demo" / "buoys.json").read_bytes())
    return document | more


class Buoys(LedgerTest):
    @classmethod
    def setUpTestData(cls) -> None:
        make_people()
        cls.project = load_document(buoys())

    def revision(self) -> int:
        found: int = self.call("get", "projects/BUOYS")["revision"]
        return found

    def test_the_point_drifts_from_fine_into_watch(self) -> None:
        fever = self.call("get", f"{AT}/P06/buffers")["fever"]
        self.assertEqual([(p["page"], p["use"], p["zone"]) for p in fever["trail"]],
                         [("P01", 3.2, "fine"), ("P02", 10.1, "fine"), ("P03", 20.3, "fine"), ("P04", 30.4, "fine"),
                          ("P05", 30.4, "fine"), ("P06", 40.5, "watch")])  # fmt: skip
        self.assertEqual((fever["code"], fever["approved_by"], fever["date"]), ("K1", "Lorcan Astley", "2027-04-14T15:00"))
        worst = max(fever["used"], key=lambda u: u["used_days"])
        self.assertEqual(
            (worst["code"], worst["page"], worst["note"]),
            ("B210", "P06", "Two bodies pitted deeper than surveyed, more weld than planned."),
        )
        self.assertEqual([f["code"] for f in fever["first"]], ["B220", "B240"])
        self.assertEqual(fever["trend"]["days"], -1.51)  # at this pace a day and a half of the buffer is left at the end

    def test_hand_overs_are_named_and_untied_and_options_say_what_they_do_to_the_buffer(self) -> None:
        found = self.call("get", f"{AT}/now/buffers")
        held = [h for h in found["hand_overs"] if h["state"] in ("waits", "binds")]
        self.assertTrue(held)
        one = held[0]
        body = {"revision": self.revision(), "giver": one["source"], "taker": one["target"], "resource": one["resource"]}
        self.call("post", f"{AT}/now/buffers/untie", body)
        again = self.call("get", f"{AT}/now/buffers")["hand_overs"]
        ends = ("source", "target", "resource")
        self.assertEqual([h["state"] for h in again if [h[k] for k in ends] == [one[k] for k in ends]], ["untied"])
        self.call("post", f"{AT}/now/buffers/untie", body | {"revision": self.revision()}, 409)
        self.sign_in("maud")
        self.call("post", f"{AT}/now/buffers/untie", body, 403)
        self.sign_in("ines")
        point = self.call("get", f"{AT}/now/buffers")["fever"]["trail"][-1]
        present = self.call("get", "projects/BUOYS/options")["present"]["buffer"]
        self.assertEqual([present[k] for k in ("use", "zone", "forecast_end")], [point[k] for k in ("use", "zone", "forecast_end")])

    def test_an_earlier_page_shows_what_was_known_then(self) -> None:
        third = self.call("get", f"{AT}/P03/buffers")
        self.assertEqual([p["page"] for p in third["fever"]["trail"]], ["P01", "P02", "P03"])
        self.assertEqual((third["page"], third["wet"]), ("P03", False))

    def test_approving_freezes_the_chain_and_writes_the_dates(self) -> None:
        before = self.call("get", f"{AT}/now/buffers")
        self.call("post", f"{AT}/now/buffers/promise", {"revision": self.revision()}, 403)
        self.sign_in("lorcan")
        self.call("post", f"{AT}/P06/buffers/promise", {"revision": self.revision()}, 409)
        done = self.call("post", f"{AT}/now/buffers/promise", {"revision": self.revision()})
        self.assertEqual(done["date"], before["chain"]["promise"])
        after = self.call("get", f"{AT}/now/buffers")
        self.assertEqual(
            (after["fever"]["code"], after["fever"]["page"], after["fever"]["date"]), ("K2", "P07", before["chain"]["promise"])
        )
        self.assertEqual([x["code"] for x in before["chain"]["rows"]], after["fever"]["chain"])
        self.assertEqual([(p["page"], p["progress"]) for p in after["fever"]["trail"]], [("P07", 0.0)])
        self.assertEqual(self.call("get", f"{AT}/P06/buffers")["fever"]["code"], "K1")
        kept = self.exported()["promises"][1]
        self.assertEqual((kept["page"], kept["approved_by"]), ("P07", "Lorcan Test"))
        # The plan changes; the promise does not.
        plan = self.call("get", "projects/BUOYS/plan")
        row = next(r["id"] for r in plan["rows"] if r["code"] == "B430")
        verbs = [{"do": "set", "row": row, "cells": {"duration": "9d"}}, {"do": "set", "row": row, "cells": {"code": "L430"}}]
        self.call("post", "projects/BUOYS/plan/changes", {"revision": self.revision(), "verbs": verbs})
        now = self.exported()["promises"][1]
        self.assertEqual(json.loads(json.dumps(now).replace("L430", "B430")), kept)
        self.assertNotEqual(self.call("get", f"{AT}/now/buffers")["fever"]["trail"][-1]["use"], after["fever"]["trail"][-1]["use"])
        for _ in range(2):
            self.call("post", "projects/BUOYS/undo", {"revision": self.revision()})
        self.assertEqual(len(self.exported()["promises"]), 1)
        self.assertEqual(verify(Project.objects.get(code="BUOYS")).wrong, [])

    def exported(self) -> Any:
        return json.loads(self.client.get("/api/projects/BUOYS/export/book.json").content)

    def test_a_promise_is_sealed_with_its_pages(self) -> None:
        self.sign_in("lorcan")
        self.call("post", f"{AT}/now/buffers/promise", {"revision": self.revision()})
        page = Page.objects.filter(project=self.project).last()
        self.call("post", f"{AT}/now/close", {"revision": self.revision(), "force": True})
        sealed = self.call("get", f"{AT}/{page.code}/buffers")
        self.assertEqual((sealed["fever"]["code"], sealed["wet"]), ("K2", False))
        self.assertEqual(verify(Project.objects.get(code="BUOYS")).wrong, [])

    def test_how_buffers_are_judged_is_chosen_as_typed(self) -> None:
        chosen = {"revision": self.revision(), "size": "half", "watch_from": "20 %", "watch_to": "60", "act_to": "95"}
        self.call("put", f"{AT}/now/buffers", chosen)
        own = self.exported()["project"]["buffers"]
        self.assertEqual(own, {"size": "half", "watch": [0.2, 0.4], "act": [0.3, 0.65]})
        for more, field in (({"watch_from": "lots"}, "watch_from"), ({"watch_from": "70"}, "watch_to"), ({"act_from": "10"}, "act_from"),
                            ({"watch_to": "120"}, "watch_to")):  # fmt: skip
            no = self.call("put", f"{AT}/now/buffers", {"revision": self.revision(), **more}, 422)
            self.assertEqual(no["field"], field, more)
        self.call("post", "projects/BUOYS/undo", {"revision": self.revision()})
        self.assertEqual(self.exported()["project"].get("buffers", {}), {})


class OddBooks(LedgerTest):
    pages = 2

    def test_a_book_without_safe_durations_is_told_sensibly(self) -> None:
        found = self.call("get", "projects/FERRY/pages/now/buffers")
        self.assertEqual((found["any_safe"], found["fever"], found["chain"]["buffer"]["days"]), (False, None, 0.0))
        self.assertGreater(len(found["chain"]["without_safe"]), 50)
        self.assertTrue(found["chain"]["rows"])
