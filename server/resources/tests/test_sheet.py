"""Resources as a sheet, over requests: rates in force, leave, own fields, who is free, what is too much, and what puts it right."""

from typing import Any

from server.book.models import Resource
from server.tests.base import LedgerTest

AT = "projects/FERRY"


class Sheet(LedgerTest):
    def lists(self) -> dict[str, Any]:
        return {r["code"]: r for r in self.call("get", f"{AT}/plan/lists")["resources"]}

    def change(self, *verbs: dict[str, Any], status: int = 200) -> Any:
        revision = self.call("get", f"{AT}/plan/lists")["revision"]
        return self.call("post", f"{AT}/plan/changes", {"revision": revision, "verbs": list(verbs)}, status)

    def set(self, code: str, status: int = 200, **cells: Any) -> Any:
        typed = {key.replace("__", "."): value for key, value in cells.items()}
        return self.change({"do": "set", "row": self.lists()[code]["id"], "cells": typed}, status=status)

    def test_a_rate_without_a_date_takes_the_place_of_the_one_in_force_or_holds_from_the_start(self) -> None:
        self.set("FIT", rate__hour="56", rate__overtime="84")
        self.set("CLS", rate__day="900")
        rates = lambda code: Resource.objects.get(project__code="FERRY", code=code).rates  # noqa: E731
        self.assertEqual(rates("FIT"), [{"from": "2026-01-01", "amount": "56", "per": "hour", "overtime": "84"}])
        self.assertEqual(rates("CLS"), [{"from": "2027-01-04", "amount": "900", "per": "day"}])
        self.set("FIT", rate__hour="60 from 1 jun 2027")
        self.assertEqual([(r["from"], r["amount"]) for r in rates("FIT")], [("2026-01-01", "56"), ("2027-06-01", "60")])
        self.assertEqual(self.lists()["FIT"]["in_force"], {"rate.hour": "56", "rate.overtime": "84"})
        self.set("CLS", rate__day="")
        self.assertEqual(self.lists()["CLS"]["in_force"], {})
        refused = self.set("CLS", 422, rate__overtime="20")
        self.assertEqual((refused["field"], "rate an hour" in refused["detail"]), ("rate.overtime", True))
        for wrong in ("many", "-4", "5 from never"):
            self.assertEqual(self.set("FIT", 422, rate__hour=wrong)["field"], "rate.hour")

    def test_leave_is_one_line_and_load_levelling_options_and_the_desk_see_it(self) -> None:
        before = self.call("get", f"{AT}/loads?bucket=week")
        had = next(x for x in before["loads"] if x["code"] == "ELE")
        self.set("ELE", exceptions=[{"from": "1 mar 2027", "to": "5 mar", "name": "holiday"}])
        self.assertEqual(
            Resource.objects.get(project__code="FERRY", code="ELE").exceptions,
            [{"from": "2027-03-01", "to": "2027-03-05", "name": "holiday"}],
        )
        after = self.call("get", f"{AT}/loads?bucket=week")
        now = next(x for x in after["loads"] if x["code"] == "ELE")
        week = after["ends"].index("2027-03-08T00:00")
        self.assertEqual((had["there"][week], now["there"][week], now["short"][week]), (240.0, 0.0, now["asked"][week]))
        self.assertGreater(now["asked"][week], 0)
        short = self.lists()["ELE"]["short_hours"]
        self.assertEqual(short, round(sum(now["short"]), 2))
        board = self.call("get", f"{AT}/options")
        self.assertGreaterEqual(board["present"]["over_hours"], short)
        level = self.call("get", f"{AT}/options/level/beyond_float")
        self.assertTrue([x for x in level["moved"] if "ELE" in str(x)] or level["moved"])
        self.sign_in("lorcan")
        self.call("post", "resources", {"project": "FERRY", "row": self.lists()["ELE"]["id"], "code": "ELE"})
        [desk] = self.call("get", "desk/people?resource=ELE")["resources"]
        self.assertEqual((desk["over_hours"], round(sum(desk["short"]), 2)), (short, short))
        self.sign_in("ines")
        for wrong in ([{"from": ""}], [{"from": "5 mar 2027", "to": "1 mar 2027"}], [{"from": "1 mar 2027", "units": "-1"}]):
            self.assertEqual(self.set("ELE", 422, exceptions=wrong)["field"], "exceptions")

    def test_own_fields_of_resources(self) -> None:
        found = self.call("get", f"{AT}/plan/lists")
        self.assertEqual([(f["code"], f["kind"]) for f in found["own"]], [("induction", "date")])
        self.assertEqual(self.lists()["FIT"]["own"], {"induction": "2027-12-31"})
        self.set("CTL", fields__induction="1 may 2027")
        self.assertEqual(self.lists()["CTL"]["own"], {"induction": "2027-05-01"})
        self.assertEqual(self.set("CTL", 422, fields__deck="Hull")["field"], "fields.deck")  # that one is of activities
        book = self.call("get", f"{AT}/export/book.json")
        self.assertEqual(next(r for r in book["resources"] if r["code"] == "CTL")["fields"], {"induction": "2027-05-01"})

    def test_who_is_offered_what_is_free_and_what_it_says_when_it_is_too_much(self) -> None:
        plan = {r["code"]: r["id"] for r in self.call("get", f"{AT}/plan")["rows"]}
        rows = [plan["A455"], plan["A460"]]
        offered = {r["code"]: r for r in self.call("post", f"{AT}/plan/offered", {"rows": rows, "units": "1"})["resources"]}
        relief = offered["REL"]
        self.assertEqual((relief["skills"], relief["supplier"], relief["on"]), (["high voltage"], "Quayside Crew", 0))
        self.assertGreater(relief["free_hours"], 0)
        self.assertEqual((offered["CAB"]["free_hours"], offered["CAB"]["over_hours"]), (0, 0))
        thrice = next(r for r in self.call("post", f"{AT}/plan/offered", {"rows": rows, "units": "3"})["resources"] if r["code"] == "REL")
        told = self.change({"do": "assign", "resource": relief["id"], "rows": rows, "cells": {"units": "3"}})
        [over] = [x for x in told["over"] if x["name"] == "Tove Harrick, relief electrician"]
        self.assertEqual((over["more_hours"], over["hours"]), (thrice["over_hours"], thrice["over_hours"]))
        assigned = self.call("get", f"{AT}/loads/{relief['id']}/assigned")["activities"]
        self.assertEqual({(x["code"], x["units"]) for x in assigned}, {("A455", 3.0), ("A460", 3.0)})
        self.call("post", f"{AT}/plan/offered", {"rows": rows, "units": "0"}, 400)
        self.call("get", f"{AT}/loads/r999999999/assigned", status=404)

    def test_what_puts_it_right_is_done_in_one_step_and_taken_back_in_one(self) -> None:
        electricians = self.lists()["ELE"]
        self.set("ELE", units="2")
        load = next(x for x in self.call("get", f"{AT}/loads")["loads"] if x["code"] == "ELE")
        at = f"{AT}/loads/{electricians['id']}/remedies"
        kinds = set()
        for span in load["stretches"]:
            found = self.call("get", f"{at}?start={span['start']}&end={span['end']}")["found"]
            kinds |= {x["kind"] for x in found}
            for way in found[:2]:
                done = self.change(*way["verbs"])
                self.assertEqual(self.lists()["ELE"]["short_hours"], way["left_hours"], way)
                self.call("post", f"{AT}/plan/undo", {"revision": done["revision"]})
        self.assertLessEqual({"units", "level"}, kinds)
        self.assertTrue(kinds & {"other", "later"})
        for query in ("", "?start=a&end=b", "?start=2027-03-01T00:00"):
            self.call("get", f"{at}{query}", status=400)
        self.call("get", f"{AT}/loads/rx/remedies?start=2027-03-01T00:00&end=2027-03-02T00:00", status=404)
        self.sign_in("maud")
        self.change({"do": "set", "row": electricians["id"], "cells": {"units": "9"}}, status=403)
