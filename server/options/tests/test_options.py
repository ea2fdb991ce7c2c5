"""Options over HTTP: nothing outside them moves, adopting gives what the board showed, conflicts are named."""

import json
from hashlib import sha256
from typing import Any

from dryledger.book.plan import Book
from dryledger.exchange.book_json import book_from
from server.book.kept_models import Option
from server.book.loading import load_document
from server.book.models import Project, Seal, Statement
from server.journal.models import Step
from server.tests.addresses import address, operations
from server.tests.base import LedgerTest, ferry

UNLIKE = ("/api/projects/{project}/export/{file}", "/api/projects/{project}/archive")
"""Export and archive hold the options themselves; the export is looked at without them."""


class Case(LedgerTest):
    """FERRY with its three options."""

    pages = 10

    def url(self, rest: str = "") -> str:
        return f"/api/projects/FERRY/options{rest}"

    def board(self) -> dict[str, Any]:
        return self.client.get(self.url()).json()

    def option(self, code: str) -> dict[str, Any]:
        return next(o for o in self.board()["options"] if o["code"] == code)

    def send(self, rest: str, data: Any, how: str = "post") -> Any:
        return getattr(self.client, how)(self.url(rest), data, content_type="application/json")

    def change_plan(self, activity: str, **cells: str) -> None:
        """Change an activity of the plan itself."""
        plan = self.call("get", "projects/FERRY/plan")
        row = next(r["id"] for r in plan["rows"] if r["code"] == activity)
        self.call(
            "post", "projects/FERRY/plan/changes", {"revision": plan["revision"], "verbs": [{"do": "set", "row": row, "cells": cells}]}
        )

    def exported(self) -> dict[str, Any]:
        return self.client.get("/api/projects/FERRY/export/book.json").json()

    def outside(self) -> tuple[Any, ...]:
        """Everything that an option may not touch, as digests: the book without options, journal, seals and screens of the present."""
        book = {k: v for k, v in self.exported().items() if k != "options"}
        screens = {}
        for method, path in operations():
            if method == "get" and "/options" not in path and path not in UNLIKE:
                for page in ("P10", "P09") if "{page}" in path else ("P10",):
                    at = address(path, page=page)
                    screens[at] = sha256(self.client.get(at).content).hexdigest()
        self.assertGreater(len(screens), 50)
        project = Project.objects.get(code="FERRY")
        return json.dumps(book), project.revision, Step.objects.count(), Seal.objects.count(), screens


class Board(Case):
    def test_the_demo_options_side_by_side(self) -> None:
        found = self.board()
        self.assertEqual(found["present"]["deadline_days"], 8.0)
        self.assertEqual({o["code"]: (o["gained_days"], o["standing"]["deadline_days"]) for o in found["options"]},
                         {"O1": (5.0, 3.0), "O2": (8.0, 0.0), "O3": (9.0, -1.0)})  # fmt: skip
        third = self.option("O3")
        self.assertEqual(third["overlaps"], ["Defects from trials with As-built drawings"])
        self.assertIn({"about": "Terminate and insulation test", "what": "duration 10 d → 7 d", "conflict": None, "moved_on": False},
                      third["changes"])  # fmt: skip

    def test_overlay_has_what_differs_and_each_curve(self) -> None:
        found = self.client.get(self.url("/overlay")).json()
        self.assertEqual([x["name"] for x in found["laid"]][:2], ["", "Commission while cables are terminated"])
        codes = [code for code, _ in found["rows"]]
        self.assertIn("A710", codes)
        self.assertNotIn("A110", codes)
        self.assertTrue(all(x["points"] for x in found["laid"]))

    def test_levelling_is_seen_before_it_is_done(self) -> None:
        beyond = self.client.get(self.url("/level/beyond_float")).json()
        self.assertTrue(beyond["moved"] and beyond["before"])
        self.assertTrue(any(m["waits_for"] for m in beyond["moved"]))
        self.assertLess(sum(x["hours"] for x in beyond["after"]), sum(x["hours"] for x in beyond["before"]))
        self.assertEqual(self.client.get(self.url("/level/within_float")).json()["days"], 0.0)
        self.assertEqual(self.client.get(self.url("/level/sideways")).status_code, 404)


class Outside(Case):
    def test_no_use_of_options_touches_anything_else(self) -> None:
        before = self.outside()
        made = self.send("", {"name": "Mine", "proposals": ["shorten/A820/25", "level/within_float"], "options": [self.option("O1")["id"]]})
        self.assertEqual(made.status_code, 201, made.content)
        pk = made.json()["id"]
        plan = self.client.get(self.url(f"/{pk}/plan")).json()
        row = next(r["id"] for r in plan["rows"] if r["code"] == "A760")
        done = self.send(
            f"/{pk}/plan/changes", {"revision": plan["revision"], "verbs": [{"do": "set", "row": row, "cells": {"duration": "5d"}}]}
        )
        self.assertEqual(done.status_code, 200, done.content)
        undone = self.send(f"/{pk}/plan/undo", {"revision": done.json()["revision"]})
        self.assertEqual(undone.status_code, 200, undone.content)
        again = self.send(f"/{pk}/plan/redo", {"revision": undone.json()["revision"]})
        self.assertEqual(again.json()["changes"][row]["duration"], "5d")
        self.client.get(self.url(f"/{pk}/plan/rows/{row}"))
        self.send("/proposals", {"next": 0})
        self.send("/ask", {"text": "Which one?"}, "put")
        self.send("/remarks", {"option": pk, "text": "This one", "chosen": True})
        self.client.get(self.url("/overlay"))
        self.assertEqual(self.outside(), before)
        seen = self.option("O4")["seen"]
        self.assertEqual(self.client.delete(self.url(f"/{pk}") + f"?seen={seen}").status_code, 204)
        self.assertEqual(self.outside(), before)

    def test_what_is_done_in_an_option_becomes_its_changes(self) -> None:
        pk = self.option("O1")["id"]
        plan = self.client.get(self.url(f"/{pk}/plan")).json()
        key = {r["code"]: r["id"] for r in plan["rows"]}
        verbs = [
            {"do": "add", "list": "activities", "after": key["A760"], "cells": {"name": "Second trial", "duration": "2d"}, "as": "n"},
            {"do": "chain", "rows": [key["A760"], "n"]},
            {"do": "set", "row": key["A820"], "cells": {"people": "DES 3"}},
        ]
        done = self.send(f"/{pk}/plan/changes", {"revision": plan["revision"], "verbs": verbs})
        self.assertEqual(done.status_code, 200, done.content)
        stated = [(c["about"], c["what"]) for c in self.option("O1")["changes"]]
        self.assertIn(("As-built drawings, Corrie and Vane design office", "units 2 → 3"), stated)
        self.assertTrue(any(about.startswith("Defects from trials → ") for about, _ in stated), stated)
        # A row that was made there can be written again, and taken out.
        new = done.json()["made"]["n"]
        more = self.send(
            f"/{pk}/plan/changes", {"revision": done.json()["revision"], "verbs": [{"do": "set", "row": new, "cells": {"duration": "3d"}}]}
        )
        self.assertEqual(more.status_code, 200, more.content)
        stale = self.send(f"/{pk}/plan/changes", {"revision": plan["revision"], "verbs": verbs[2:]})
        self.assertEqual((stale.status_code, stale.json()["code"]), (409, "stale"))
        book: Book = book_from(self.exported())
        self.assertEqual(len(next(o for o in book.options if o.code == "O1").changes), len(stated) + 1)

    def test_a_preview_keeps_nothing(self) -> None:
        pk = self.option("O1")["id"]
        plan = self.client.get(self.url(f"/{pk}/plan")).json()
        row = next(r["id"] for r in plan["rows"] if r["code"] == "A820")
        verbs = [{"do": "set", "row": row, "cells": {"duration": "2d"}}]
        seen = self.send(f"/{pk}/plan/changes", {"revision": plan["revision"], "preview": True, "verbs": verbs}).json()
        self.assertEqual((seen["changes"][row]["duration"], seen["revision"]), ("2d", plan["revision"]))
        self.assertEqual(self.client.get(self.url(f"/{pk}/plan")).json(), plan)

    def test_what_cannot_be_computed_is_refused_and_not_kept(self) -> None:
        o = self.option("O1")
        plan = self.client.get(self.url(f"/{o['id']}/plan")).json()
        row = next(r["id"] for r in plan["rows"] if r["code"] == "A820")
        for cells in ({"duration": "999999999d"}, {"constraint": "start on or after 30 dec 9999"}):
            data = {"revision": plan["revision"], "verbs": [{"do": "set", "row": row, "cells": cells}]}
            no = self.send(f"/{o['id']}/plan/changes", data)
            self.assertEqual(no.status_code, 422, no.content)
            self.assertEqual(self.option("O1"), o)

    def test_stacked_options_leave_out_what_does_not_fit(self) -> None:
        ids = [self.option(code)["id"] for code in ("O1", "O2", "O3")]
        made = self.send("", {"name": "All", "options": ids}).json()
        # O3 changes what O2 changed before it.
        self.assertEqual(len(made["left_out"]), 4, made)
        self.assertEqual(len(self.option("O4")["changes"]), 9)

    def test_what_an_option_cannot_hold_is_said_beside_the_cell(self) -> None:
        pk = self.option("O1")["id"]
        plan = self.client.get(self.url(f"/{pk}/plan")).json()
        row = next(r["id"] for r in plan["rows"] if r["code"] == "A760")
        no = self.send(f"/{pk}/plan/changes", {"revision": plan["revision"], "verbs": [{"do": "set", "row": row, "cells": {"code": "Z1"}}]})
        self.assertEqual((no.status_code, no.json()["code"]), (422, "not-in-option"))
        self.assertIn("codes of the plan", no.json()["detail"])
        other = ferry(1)
        other["project"]["code"] = "PIER"
        load_document(other)
        for cells in ({"after": "PIER/A150"}, {"after": "A750; pier/a150 SS"}):
            no = self.send(f"/{pk}/plan/changes", {"revision": plan["revision"], "verbs": [{"do": "set", "row": row, "cells": cells}]})
            self.assertEqual((no.status_code, no.json()["field"], no.json()["row"]), (422, "after", row))
            self.assertIn("The plan does not wait for PIER/A150", no.json()["detail"])
        for verb in ({"do": "leave", "row": "r1"}, {"do": "kind", "kind": ""}, {"do": "draw", "shared": "ELE"}):
            no = self.send(f"/{pk}/plan/changes", {"revision": plan["revision"], "verbs": [verb]})
            self.assertIn(no.status_code, (409, 422), no.content)


class Adopting(Case):
    def adopt(self, code: str, **more: Any) -> Any:
        board = self.board()
        o = next(x for x in board["options"] if x["code"] == code)
        data = {"revision": board["revision"], "seen": o["seen"], "reason": "Batteries late"} | more
        return self.send(f"/{o['id']}/adopt", data)

    def test_nobody_approves_a_change_by_an_option_that_came_in(self) -> None:
        cells = {"name": "Mine", "state": "approved", "decided_by": "Lorcan Test", "decided_at": "2027-03-01T10:00"}
        for change in ({"do": "change", "row": "CH2", "cells": cells}, {"do": "order", "row": "PO-9", "cells": {"supplier": "Yard"}}):
            made = self.send("", {"name": "Brought", "proposals": []}).json()["id"]
            Option.objects.filter(pk=made).update(changes=[change])
            row = next(o for o in self.board()["options"] if o["id"] == made)
            before = self.exported()["changes"]
            refused = self.adopt(row["code"])
            self.assertEqual((refused.status_code, refused.json()["code"]), (422, "own-room"))
            self.assertEqual(self.exported()["changes"], before)

    def test_adopting_gives_the_figures_of_the_board_as_one_step(self) -> None:
        before, shown = self.exported(), self.option("O3")["standing"]
        self.assertEqual(self.adopt("O3", reason=" ").json()["field"], "reason")
        done = self.adopt("O3")
        self.assertEqual(done.status_code, 200, done.content)
        self.assertEqual(done.json()["effect"], "Finish 19 July 2027, 9 d earlier; EAC 2469942.00 → 2473814.00 EUR")
        now = self.board()
        same = {k: v for k, v in now["present"].items() if k != "milestones"}
        self.assertEqual(same, {k: v for k, v in shown.items() if k != "milestones"})
        self.assertEqual([m["finish"] for m in now["present"]["milestones"]], [m["finish"] for m in shown["milestones"]])
        self.assertEqual(self.option("O3")["state"], "adopted")
        entry = self.exported()["changes"][-1]
        self.assertEqual((entry["name"], entry["state"], entry["days"], [x["wbs"] for x in entry["lines"]]),
                         ("Second crew, and drawings drawn as trials run", "raised", -9, ["3", "4"]))  # fmt: skip
        self.assertEqual(sum(float(x["amount"]) for x in entry["lines"]), 3872.0)
        self.assertIn("EAC 2469942.00", entry["note"])
        # The others are on a plan that has moved on; what they change alike does not fit any more.
        second = self.option("O2")
        self.assertTrue(second["moved_on"] and all(c["conflict"] for c in second["changes"][:2]))
        self.assertEqual(self.adopt("O2").json()["code"], "conflicts")
        self.client.post("/api/projects/FERRY/undo", {"revision": now["revision"]}, content_type="application/json")
        after = self.exported()
        self.assertEqual(after, before)

    def test_a_remaining_is_posted_on_the_open_page(self) -> None:
        made = self.send("", {"name": "Shorter", "proposals": ["shorten/A360/10"]}).json()
        self.assertEqual(self.adopt("O4").status_code, 200)
        stated = Statement.objects.get(page__code="P10", activity__code="A360")
        self.assertEqual(stated.remaining, "15984min")
        self.assertTrue(made["id"])

    def test_rebasing_drops_conflicts_or_keeps_them_on_the_new_values(self) -> None:
        self.change_plan("A375", duration="9d")
        o = self.option("O2")
        self.assertEqual([bool(c["conflict"]) for c in o["changes"]], [True, False, False, False, False])
        kept = self.send(f"/{o['id']}/rebase", {"seen": o["seen"], "keep": [0]})
        self.assertEqual(kept.status_code, 200, kept.content)
        o = self.option("O2")
        self.assertEqual((o["changes"][0]["what"], o["changes"][0]["conflict"], o["moved_on"]), ("duration 9 d → 6 d", None, False))

    def test_a_renamed_code_is_followed(self) -> None:
        self.change_plan("A470", code="T470")
        self.assertEqual([c["conflict"] for c in self.option("O3")["changes"]], [None] * 7)
        self.assertIn("T470", json.dumps(next(o for o in self.exported()["options"] if o["code"] == "O3")))


class People(Case):
    def test_readers_are_asked_choose_and_say_something(self) -> None:
        self.send("/ask", {"text": "B or C before Friday?"}, "put")
        self.sign_in("maud")
        pk = self.option("O3")["id"]
        self.assertEqual(self.send("/remarks", {"option": pk, "text": "If class agrees", "chosen": True}).status_code, 204)
        self.assertEqual(self.send("/remarks", {"option": None, "chosen": True}).status_code, 204)
        self.assertEqual(self.send("/remarks", {"option": pk, "text": " "}).json()["field"], "text")
        found = self.board()
        self.assertEqual(found["ask"]["text"], "B or C before Friday?")
        self.assertEqual([(r["option"], r["chosen"]) for r in found["remarks"]], [(pk, False), (None, True)])
        for rest, data, how in (("", {"name": "x"}, "post"), ("/ask", {"text": "x"}, "put"), (f"/{pk}", {"seen": 1, "name": "x"}, "patch"),
                                (f"/{pk}/plan/changes", {"revision": 1, "verbs": [{"do": "set", "row": "a1", "cells": {}}]}, "post"),
                                (f"/{pk}/adopt", {"revision": 1, "seen": 1, "reason": "x"}, "post")):  # fmt: skip
            self.assertEqual(self.send(rest, data, how).status_code, 403, rest)

    def test_odd_requests(self) -> None:
        for rest, data, how, status in (
            ("/99999999999999999999", {"seen": 1}, "patch", 404),
            ("/0", {"seen": 1}, "patch", 404),
            ("", {"name": " "}, "post", 422),
            ("", {"name": "x" * 300}, "post", 422),
            ("", {"name": "x", "options": [10**30]}, "post", 404),
            ("", {"name": "x", "proposals": ["shorten/NONE/10"]}, "post", 409),
            ("", {"name": "x", "proposals": "all"}, "post", 400),
            ("/proposals", {"next": -1}, "post", 400),
            ("/proposals", {"next": 500000}, "post", 200),
            ("/remarks", {"option": "one"}, "post", 400),
            (f"/{self.option('O1')['id']}/rebase", {"seen": 1, "keep": [7, 10**12]}, "post", 200),
            (f"/{self.option('O1')['id']}/changes/77/drop", {"seen": 2}, "post", 404),
        ):  # fmt: skip
            self.assertEqual(self.send(rest, data, how).status_code, status, (rest, data))


class AtOnce(Case):
    def test_proposals_come_in_parts_to_the_end(self) -> None:
        at, of, codes = 0, 1, []
        while at < of:
            found = self.send("/proposals", {"next": at}).json()
            at, of = found["next"], found["of"]
            codes += [p["code"] for p in found["found"]]
        self.assertIn("shorten/A360/25", codes)
        scoped = self.send("/proposals", {"next": 0, "activities": ["A820"]}).json()
        self.assertTrue(all("A820" in p["code"] or p["kind"] == "level" for p in scoped["found"]))
