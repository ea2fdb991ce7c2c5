"""Links between projects: dates that flow in, sealed with the page, out and in again, no loops, and nothing told that may not be seen."""

import json
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from dryledger.exchange.book_json import parse_json
from server.accounts.models import Person
from server.book.cache import LruCache
from server.book.crossing import connect_all
from server.book.loading import load_document
from server.book.membership import Member
from server.book.models import External, Link, Page, Project
from server.book.outside import current_externals
from server.book.verify import verify
from server.journal.models import Step
from server.tests.base import LedgerTest, entry

MON = "2027-01-04T08:00"


def project(code: str, *externals: str, **more: Any) -> Any:
    """Three activities of two days, one after the other; the first waits for each external one."""
    week = {key: ["08:00-12:00", "13:00-17:00"] for key in ("mon", "tue", "wed", "thu", "fri")}
    there = {"name": "as it was", "start": MON, "finish": "2027-01-05T17:00", "status": MON}
    return {
        "format": "dry-ledger-book",
        "version": 1,
        "project": {"code": code, "name": f"Project {code}", "currency": "EUR", "start": MON, "calendar": "five"},
        "calendars": [{"code": "five", "name": "Five", "week": week}],
        "activities": [{"code": f"{code[0]}{i}", "name": f"{code} {i}", "duration": "2d"} for i in (1, 2, 3)],
        "externals": [{"code": x} | there for x in externals],
        "links": [
            {"from": f"{code[0]}1", "to": f"{code[0]}2"},
            {"from": f"{code[0]}2", "to": f"{code[0]}3"},
            *({"from": x, "to": f"{code[0]}1"} for x in externals),
        ],
    } | more


class Crossing(LedgerTest):
    @classmethod
    def setUpTestData(cls) -> None:
        super().setUpTestData()
        for doc in (project("ONE"), project("TWO", "ONE/O2"), project("THREE", "TWO/T3")):
            load_document(doc)

    def starts(self, code: str) -> dict[str, str]:
        return {r["code"]: r["start"][:10] for r in self.call("get", f"projects/{code}/plan")["rows"]}

    def plan(self, code: str, *verbs: Any, status: int = 200) -> Any:
        revision = self.call("get", f"projects/{code}")["revision"]
        return self.call("post", f"projects/{code}/plan/changes", {"revision": revision, "verbs": list(verbs)}, status)

    def row(self, code: str, activity: str) -> str:
        return str(next(r["id"] for r in self.call("get", f"projects/{code}/plan")["rows"] if r["code"] == activity))

    def longer(self, days: str = "4d") -> None:
        self.plan("ONE", {"do": "set", "row": self.row("ONE", "O2"), "cells": {"duration": days}})

    def post(self, code: str, activity: str, **typed: str) -> None:
        revision = self.call("get", f"projects/{code}")["revision"]
        self.call("patch", f"projects/{code}/pages/now/posting/entries", entry(revision, activity, **typed))

    def close(self, code: str) -> None:
        """For members only, with one approver among them, by an administrator."""
        Person.objects.filter(username="lorcan").update(administrator=True)
        self.sign_in("lorcan")
        body = {"members_only": True, "roles": {"lorcan": "approver"}}
        self.call("put", f"projects/{code}/members", body)
        self.sign_in("ines")

    def change(self, who: str, of: str, activity: str, **cells: str) -> None:
        self.sign_in(who)
        self.plan(of, {"do": "set", "row": self.row(of, activity), "cells": cells})
        self.sign_in("ines")

    def test_a_project_that_is_closed_later_tells_no_more_than_it_did(self) -> None:
        """Neither dates, nor a name, nor a code of it flow to whoever linked it and may see it no more; and that is said."""
        self.assertEqual(self.starts("TWO")["T1"], "2027-01-08")
        self.close("ONE")
        LruCache.forget_all()
        self.change("lorcan", "ONE", "O2", duration="9d", name="Secret", code="O9")
        LruCache.forget_all()
        self.assertEqual((self.starts("TWO")["T1"], self.starts("THREE")["T1"]), ("2027-01-08", "2027-01-18"))
        row = self.call("get", f"projects/TWO/plan/rows/{self.row('TWO', 'T1')}")["before"][0]
        self.assertEqual((row["code"], row["name"]), ("ONE/O2", "ONE 2"))
        self.assertIn("as it was last seen, as of 4 January 2027", row["note"])
        self.assertNotIn("Secret", json.dumps(self.call("get", "projects/TWO/plan")))

    def test_an_import_is_not_connected_with_anothers_sight(self) -> None:
        self.close("ONE")
        self.plan("TWO", {"do": "set", "row": self.row("TWO", "T1"), "cells": {"after": ""}})
        load_document(project("FOUR", "ONE/O3"), by=Person.objects.get(username="ines"))
        self.change("lorcan", "FOUR", "F3", after="F2; F1")  # touches links, and sees ONE
        self.assertIsNone(External.objects.get(project__code="FOUR").of)
        self.assertEqual(self.starts("FOUR")["F1"], "2027-01-06")  # as the file says
        self.change("lorcan", "FOUR", "F2", after="F1; ONE/O3")  # who sees it links from it: that is for all to see
        self.assertIsNotNone(External.objects.get(project__code="FOUR").of)

    def test_dates_flow_over_two_projects_at_once(self) -> None:
        # ONE: O1 4–5, O2 6–7 January; T1 8 and 11, T2 12–13, T3 14–15; H1 (of THREE, called T) from 18.
        self.assertEqual((self.starts("TWO")["T1"], self.starts("THREE")["T1"]), ("2027-01-08", "2027-01-18"))
        seen = self.call("get", "projects/THREE")["outside"]
        self.longer()
        self.assertEqual((self.starts("TWO")["T1"], self.starts("THREE")["T1"]), ("2027-01-12", "2027-01-20"))
        self.assertNotEqual(self.call("get", "projects/THREE")["outside"], seen)
        self.call("post", "projects/ONE/undo", {"revision": self.call("get", "projects/ONE")["revision"]})
        self.assertEqual(self.starts("THREE")["T1"], "2027-01-18")

    def test_a_posting_moves_the_successor_and_its_driver_is_told(self) -> None:
        self.call("patch", "projects/ONE/pages/now/status", {"revision": 1, "status": "8 jan 2027"})
        self.post("ONE", "O1", actual_start="4 jan", percent="50", remaining="4d")
        self.assertEqual(self.starts("TWO")["T1"], "2027-01-19")
        row = self.call("get", f"projects/TWO/plan/rows/{self.row('TWO', 'T1')}")
        self.assertEqual(row["drivers"], ["ONE 2 (ONE/O2), of another project"])
        self.assertEqual([(k["code"], k["driving"]) for k in row["before"]], [("ONE/O2", True)])

    def test_projects_may_wait_for_each_other_as_long_as_no_chain_comes_round(self) -> None:
        self.plan("ONE", {"do": "set", "row": self.row("ONE", "O3"), "cells": {"after": "O2; TWO/T1 lag 1d"}})
        self.assertEqual(self.starts("ONE")["O3"], "2027-01-13")
        self.longer()
        self.assertEqual((self.starts("TWO")["T1"], self.starts("ONE")["O3"]), ("2027-01-12", "2027-01-15"))
        no = self.plan("ONE", {"do": "set", "row": self.row("ONE", "O1"), "cells": {"after": "THREE/T2"}}, status=409)
        self.assertEqual((no["code"], no["field"]), ("loop", "after"))
        for told in ("ONE/O1", "ONE/O2", "TWO/T1", "TWO/T3", "THREE/T1", "THREE/T2"):
            self.assertIn(told, no["detail"])
        self.assertEqual(External.objects.filter(project__code="ONE").count(), 1)

    def test_a_link_inside_a_project_can_close_a_loop_too(self) -> None:
        self.plan("ONE", {"do": "set", "row": self.row("ONE", "O3"), "cells": {"after": "THREE/T3"}})
        no = self.plan("ONE", {"do": "set", "row": self.row("ONE", "O1"), "cells": {"after": "O3"}}, status=409)
        self.assertIn("THREE/T3", no["detail"])

    def test_a_link_is_typed_changed_taken_away_and_undone(self) -> None:
        before = Link.objects.count()
        row = self.row("THREE", "T3")
        self.plan("THREE", {"do": "set", "row": row, "cells": {"after": "T2; one/o3 SS lag 2d"}})
        self.assertEqual(self.starts("THREE")["T3"], "2027-01-22")
        cell = next(r for r in self.call("get", "projects/THREE/plan")["rows"] if r["code"] == "T3")
        self.assertIn("ONE/O3 SS lag 2d", cell["after"])
        self.plan("THREE", {"do": "set", "row": row, "cells": {"after": "T2"}})
        self.assertEqual(set(External.objects.filter(project__code="THREE").values_list("code", flat=True)), {"TWO/T3"})
        for way in ("undo", "undo"):
            self.call("post", f"projects/THREE/{way}", {"revision": self.call("get", "projects/THREE")["revision"]})
        self.assertEqual(Link.objects.count(), before)

    def test_who_may_not_see_a_project_is_told_name_and_dates_and_can_name_nothing_of_it(self) -> None:
        self.close("ONE")
        row = self.call("get", f"projects/TWO/plan/rows/{self.row('TWO', 'T1')}")
        self.assertEqual((row["before"][0]["code"], row["before"][0]["name"]), ("ONE/O2", "ONE 2"))
        no = self.plan("TWO", {"do": "set", "row": self.row("TWO", "T1"), "cells": {"after": "ONE/O3"}}, status=422)
        never = self.plan("TWO", {"do": "set", "row": self.row("TWO", "T1"), "cells": {"after": "NEW/O3"}}, status=422)
        self.assertEqual(no["detail"].replace("ONE", "NEW"), never["detail"])
        waiting = self.call("get", f"projects/TWO/plan/rows/{self.row('TWO', 'T3')}")["waiting"]
        self.assertEqual([(x["project"], x["code"]) for x in waiting], [("THREE", "T1")])
        Project.objects.filter(code="THREE").update(members_only=True)
        self.assertEqual(self.call("get", f"projects/TWO/plan/rows/{self.row('TWO', 'T3')}")["waiting"], [])

    def test_an_import_finds_nothing_that_its_person_may_not_see(self) -> None:
        Project.objects.filter(code="ONE").update(members_only=True)
        load_document(project("FOUR", "ONE/O3", "TWO/T1"), by=Person.objects.get(username="ines"))
        found = dict(External.objects.filter(project__code="FOUR").values_list("code", "of"))
        self.assertEqual({code: of is not None for code, of in found.items()}, {"ONE/O3": False, "TWO/T1": True})
        Member.objects.create(project=Project.objects.get(code="ONE"), person=Person.objects.get(username="ines"), role="reader")
        connect_all(Project.objects.get(code="FOUR"), Person.objects.get(username="ines"))
        self.assertFalse(External.objects.filter(project__code="FOUR", of__isnull=True).exists())

    def test_closed_pages_keep_the_dates_that_they_were_closed_with(self) -> None:
        revision = self.call("get", "projects/TWO")["revision"]
        self.call("post", "projects/TWO/pages/now/close", {"revision": revision, "next": "15 jan 2027"})
        self.longer()
        dry = self.call("get", "projects/TWO/pages/P01/posting")["rows"][0]
        now = self.call("get", "projects/TWO/pages/now/posting")["rows"][0]
        self.assertEqual((dry["start_now"][:10], now["start_now"][:10]), ("2027-01-08", "2027-01-18"))
        self.assertEqual(verify(Project.objects.get(code="TWO")).wrong, [])
        found = [w["check"] for w in self.call("get", "projects/TWO/pages/now/checks")["checks"]]
        self.assertIn("external_moved", found)

    def test_either_goes_out_and_comes_in_alone(self) -> None:
        self.longer()
        out = parse_json(self.client.get("/api/projects/TWO/export/book.json").content)
        [x] = out["externals"]
        self.assertEqual((x["code"], x["name"], x["finish"]), ("ONE/O2", "ONE 2", "2027-01-11T17:00"))
        for code in ("ONE", "THREE"):
            Project.objects.get(code=code).delete()
        out["project"]["code"] = "AGAIN"
        load_document(out)
        self.assertEqual(self.starts("AGAIN"), self.starts("TWO"))
        load_document(project("ONE"))
        self.assertEqual(self.starts("AGAIN")["T1"], "2027-01-08")

    def test_an_import_that_would_close_a_loop_is_refused_whole(self) -> None:
        load_document(project("ZED", "THREE/T3"))
        doc = project("ONE", "ZED/Z3")
        Project.objects.get(code="ONE").delete()
        file = SimpleUploadedFile("one.json", json.dumps(doc).encode())
        answer = self.client.post("/api/import", {"file": file, "apply": "true"})
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "loop"))
        self.assertFalse(Project.objects.filter(code="ONE").exists())

    def test_new_codes_are_followed(self) -> None:
        self.plan("ONE", {"do": "set", "row": self.row("ONE", "O2"), "cells": {"code": "PILE"}})
        self.plan("ONE", {"do": "set", "row": f"p{Project.objects.get(code='ONE').pk}", "cells": {"code": "UNO"}})
        row = self.call("get", f"projects/TWO/plan/rows/{self.row('TWO', 'T1')}")
        self.assertEqual(row["before"][0]["code"], "UNO/PILE")
        labels = list(Step.objects.filter(project__code="TWO").order_by("revision").values_list("kind", "label"))
        self.assertEqual(
            labels, [("follow", f"{a} of another project is {b} now") for a, b in (("ONE/O2", "ONE/PILE"), ("ONE/PILE", "UNO/PILE"))]
        )
        refused = self.call("post", "projects/TWO/undo", {"revision": self.call("get", "projects/TWO")["revision"]}, 409)
        self.assertEqual(refused["code"], "nothing-to-undo", "what follows is nobody's own")
        self.call("post", "projects/UNO/undo", {"revision": self.call("get", "projects/UNO")["revision"]})
        self.assertEqual(current_externals(Project.objects.get(code="TWO"))[0]["code"], "ONE/PILE")

    def test_what_is_gone_stays_as_it_was_last_known(self) -> None:
        self.plan("ONE", {"do": "remove", "rows": [self.row("ONE", "O2")]})
        self.assertEqual(self.starts("TWO")["T1"], "2027-01-06")  # as the book came in with it
        self.call("post", "projects/ONE/undo", {"revision": self.call("get", "projects/ONE")["revision"]})
        self.assertEqual(self.starts("TWO")["T1"], "2027-01-08")

    def test_an_open_page_without_one_counts_as_of_the_last_dry_one(self) -> None:
        revision = self.call("get", "projects/ONE")["revision"]
        self.call("post", "projects/ONE/pages/now/close", {"revision": revision, "next": "8 jan 2027"})
        Page.objects.filter(project__code="ONE", state="wet").delete()
        self.assertEqual(current_externals(Project.objects.get(code="TWO"))[0]["status"], MON)

    def test_an_option_moves_with_what_its_plan_waits_for(self) -> None:
        made = self.call("post", "projects/TWO/options", {"name": "Try"}, 201)

        def finishes() -> list[str]:
            board = self.call("get", "projects/TWO/options")
            own = next(o for o in board["options"] if o["id"] == made["id"])
            return [x["finish"][:10] for x in (board["present"], own["standing"])]

        self.assertEqual(finishes(), ["2027-01-15"] * 2)
        self.longer()
        self.assertEqual(finishes(), ["2027-01-19"] * 2)
