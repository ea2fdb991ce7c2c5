"""Hours over the API: rows, typed hours and overtime, what is still to go, somebody not assigned, undo, two writers, roles."""

import json
from typing import Any

from django.db.models import F

from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from server.book.documents import book_document
from server.book.models import Activity, Assignment, HoursEntry, Project
from server.tests.base import LedgerTest

AT = "projects/FERRY/pages/now/posting/hours"


class Hours(LedgerTest):
    pages = 3

    def post(self, *entries: dict[str, str], status: int = 200, revision: int | None = None) -> Any:
        return self.call("patch", AT, {"revision": self.revision() if revision is None else revision, "entries": entries}, status)

    def rows(self) -> dict[tuple[str, str], Any]:
        return {(x["activity"], x["resource"]): x for x in self.call("get", AT)["rows"]}

    def an_assignment(self) -> tuple[str, str]:
        return next(pair for pair, x in self.rows().items() if x["state"] == "in_progress")

    def outside(self) -> Any:
        return compute(book_from(json.loads(json.dumps(book_document(Project.objects.get(code="FERRY"))))))

    def test_hours_overtime_and_remaining_are_posted_and_cost_what_the_command_line_says(self) -> None:
        activity, resource = self.an_assignment()
        before = json.dumps(self.call("get", AT)["rows"])
        was = self.rows()[activity, resource]
        done = self.post({"activity": activity, "resource": resource, "worked": "32", "overtime": "2.5h", "to_go": ""})
        row = next(x for x in done["rows"] if (x["activity"], x["resource"]) == (activity, resource))
        self.assertEqual((row["worked"], row["overtime"], row["to_go"], row["asks"]), ("32", "2.5", "", True))
        self.assertEqual(row["total"], was["before"] + 34.5)
        row = self.post({"activity": activity, "resource": resource, "to_go": "3d"})["rows"][0]
        self.assertEqual((row["worked"], row["asks"]), ("32", False))
        self.assertEqual(row["change"], round(row["total"] + row["remaining"] - row["budgeted"], 2))
        shown = self.call("get", "projects/FERRY/pages/now/balance")
        self.assertEqual(shown["ac"], f"{self.outside().project.ac:f}")
        self.assertEqual(shown["eac"], f"{self.outside().project.eac['bottom_up']:f}")
        for _ in range(2):
            self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(json.dumps(self.call("get", AT)["rows"]), before)

    def test_hours_by_day_are_what_is_worked_until_somebody_says_otherwise(self) -> None:
        activity, resource = self.an_assignment()
        first, second, *_ = self.call("get", AT)["days"]
        row = {"activity": activity, "resource": resource}
        self.post(row | {"days": {first: "7", second: "1.5"}})
        now = self.rows()[activity, resource]
        self.assertEqual((now["worked"], now["days"]), ("8.5", {first: "7", second: "1.5"}))
        self.post(row | {"days": {second: ""}})
        self.assertEqual(self.rows()[activity, resource]["worked"], "7")
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(self.rows()[activity, resource]["days"], {first: "7", second: "1.5"})
        self.post(row | {"worked": "9"})
        self.assertEqual(self.rows()[activity, resource]["days"], {})
        no = self.post(row | {"days": {"2031-01-01": "1"}}, status=422)
        self.assertIn("no day of this page", no["detail"])

    def test_somebody_not_assigned_is_assigned_with_no_planned_work(self) -> None:
        sheet = self.call("get", AT)
        activity = self.an_assignment()[0]
        free = next(code for code, _ in sheet["people"] if (activity, code) not in self.rows())
        self.post({"activity": activity, "resource": free, "worked": "6"})
        row = self.rows()[activity, free]
        self.assertEqual((row["assigned"], row["budgeted"], row["worked"], row["remaining"]), (False, 0.0, "6", 0.0))
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        Activity.objects.filter(code=activity).update(driver="work")
        Project.objects.filter(code="FERRY").update(revision=F("revision") + 1, plan_revision=F("plan_revision") + 1)
        self.post({"activity": activity, "resource": free, "worked": "6"})
        row = self.rows()[activity, free]
        self.assertEqual((row["assigned"], row["budgeted"], row["worked"]), (True, 0.0, "6"))
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertFalse(Assignment.objects.filter(activity__code=activity, resource__code=free).exists())

    def test_what_is_refused_says_where_and_nothing_is_half_written(self) -> None:
        activity, resource = self.an_assignment()
        count = HoursEntry.objects.count()
        good = {"activity": activity, "resource": resource, "worked": "8"}
        for wrong, field in (
            ({"worked": "-2"}, "worked"),
            ({"overtime": "soon"}, "overtime"),
            ({"to_go": "1e9"}, "to_go"),
            ({"worked": "200000"}, "worked"),
        ):
            answer = self.post(good, {"activity": activity, "resource": resource, **wrong}, status=422)
            self.assertEqual((answer["field"], answer["row"]), (field, f"{activity}¦{resource}"))
        self.post({"activity": "NONE", "resource": resource, "worked": "1"}, status=409)
        self.post({"activity": activity, "resource": "NONE", "worked": "1"}, status=409)
        self.assertEqual(HoursEntry.objects.count(), count)

    def test_two_people_and_a_reader(self) -> None:
        (a, b), *_ = [sorted(self.rows())[:2]]
        revision = self.revision()
        self.post({"activity": a[0], "resource": a[1], "worked": "8"}, revision=revision)
        self.sign_in("tobin")
        self.post({"activity": b[0], "resource": b[1], "worked": "4"}, status=409, revision=revision)
        self.post({"activity": b[0], "resource": b[1], "worked": "4"})
        rows = self.rows()
        self.assertEqual((rows[a]["worked"], rows[b]["worked"]), ("8", "4"))
        self.sign_in("maud")
        self.post({"activity": a[0], "resource": a[1], "worked": "1"}, status=403)

    def test_one_row_named_twice_is_written_once(self) -> None:
        activity, resource = self.an_assignment()
        pair = {"activity": activity, "resource": resource}
        self.post(pair | {"worked": "5"}, pair | {"overtime": "1"})
        row = self.rows()[activity, resource]
        self.assertEqual((row["worked"], row["overtime"]), ("5", "1"))

    def test_clearing_takes_the_entry_away(self) -> None:
        activity, resource = self.an_assignment()
        self.post({"activity": activity, "resource": resource, "worked": "8"})
        count = HoursEntry.objects.count()
        self.post({"activity": activity, "resource": resource, "worked": "", "overtime": "", "to_go": ""})
        self.assertEqual(HoursEntry.objects.count(), count - 1)
