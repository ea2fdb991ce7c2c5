"""Changing a plan: every verb, what each refuses, and that undo brings back the same book to the byte."""

import json
import random
from typing import Any

from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from server.book.cache import LruCache
from server.book.documents import book_document
from server.book.loading import load_document
from server.book.models import Page, Project
from server.book.sealing import canonical
from server.book.workspace import workspace_of
from server.plan.sheet_rows import NAMES, USUAL
from server.tests.base import LedgerTest

Verb = dict[str, Any]


class Plans(LedgerTest):
    """A client that changes plans, on the FERRY and on new projects."""

    code = "FERRY"

    def plan(self) -> Any:
        return self.call("get", f"projects/{self.code}/plan")

    def change(self, *verbs: Verb, status: int = 200, preview: bool = False, revision: int | None = None) -> Any:
        revision = self.plan()["revision"] if revision is None else revision
        body = {"revision": revision, "verbs": list(verbs), "preview": preview}
        return self.call("post", f"projects/{self.code}/plan/changes", body, status)

    def undo_or_redo(self, way: str, status: int = 200) -> Any:
        return self.call("post", f"projects/{self.code}/plan/{way}", {"revision": self.plan()["revision"]}, status)

    def row(self, name: str) -> Any:
        return next(r for r in self.plan()["rows"] if r["name"] == name)

    def tree(self) -> list[tuple[int, str]]:
        rows = self.plan()["rows"]
        below: dict[Any, list[Any]] = {}
        for r in sorted(rows, key=lambda r: r["order"]):
            below.setdefault(r.get("parent"), []).append(r)

        def walk(parent: Any, depth: int) -> list[tuple[int, str]]:
            return [x for r in below.get(parent, []) for x in [(depth, r["name"]), *walk(r["id"], depth + 1)]]

        return walk(None, 0)

    def begin(self, **more: Any) -> None:
        body = {"name": "Quay", "code": "QUAY", "start": "4 jan 2027", "currency": "EUR"} | more
        self.code = self.call("post", "projects", body)["code"]

    def outline(self, text: str) -> Any:
        lines = []
        for line in filter(None, text.split("\n")):
            name, _, duration = line.strip().partition("|")
            level = (len(line) - len(line.lstrip())) // 2
            lines.append({"level": level, "cells": {"name": name, "duration": duration}, "as": name})
        return self.change({"do": "outline", "lines": lines})

    def book(self) -> bytes:
        return canonical(book_document(Project.objects.get(code=self.code)))


class Tree(Plans):
    def setUp(self) -> None:
        super().setUp()
        self.begin()

    def test_an_outline_becomes_elements_and_activities_with_codes(self) -> None:
        made = self.outline("Design\n  Drawings|5\n  Agreed|0\nBuild\n  Dig|2w\n  Pour|1.5d\n")
        self.assertEqual(self.tree(), [(0, "Design"), (1, "Drawings"), (1, "Agreed"), (0, "Build"), (1, "Dig"), (1, "Pour")])
        self.assertEqual(made["label"], "added 6 rows")
        self.assertEqual(
            [self.row(n)["code"] for n in ("Design", "Drawings", "Agreed", "Build", "Pour")], ["1", "A100", "A110", "2", "A130"]
        )
        self.assertEqual(self.row("Agreed")["kind"], "milestone")
        self.assertEqual(self.row("Dig")["duration"], "2w")

    def test_indent_outdent_and_move(self) -> None:
        self.change(*({"do": "add", "list": "activities", "cells": {"name": n}, "as": n} for n in "ABCD"))
        b, c, d = (self.row(n)["id"] for n in "BCD")
        self.change({"do": "indent", "rows": [b, c]})
        self.assertEqual(self.tree(), [(0, "A"), (1, "B"), (1, "C"), (0, "D")])
        self.assertEqual(self.row("A")["kind"], "wbs")
        self.change({"do": "outdent", "rows": [c]})
        self.assertEqual(self.tree(), [(0, "A"), (1, "B"), (0, "C"), (0, "D")])
        self.change({"do": "place", "rows": [d], "after": b})
        self.assertEqual(self.tree(), [(0, "A"), (1, "B"), (1, "D"), (0, "C")])
        self.change({"do": "place", "rows": [c], "parent": None, "first": True})
        self.assertEqual(self.tree()[0], (0, "C"))
        refused = self.change({"do": "outdent", "rows": [c]}, status=422)
        self.assertIn("at the top already", refused["detail"])
        top = self.row("A")["id"]
        self.assertIn("inside itself", self.change({"do": "place", "rows": [top], "parent": top}, status=422)["detail"])
        self.change({"do": "element", "rows": [b, d], "name": "Inner"})
        self.assertEqual(self.tree(), [(0, "C"), (0, "A"), (1, "Inner"), (2, "B"), (2, "D")])

    def test_an_activity_with_links_can_not_become_an_element(self) -> None:
        self.outline("A|1d\nB|1d\nC|1d\n")
        a, b, c = (self.row(n)["id"] for n in "ABC")
        self.change({"do": "chain", "rows": [a, b, c]})
        before = self.book()
        self.assertIn("“B” has links", self.change({"do": "indent", "rows": [c]}, status=422)["detail"])
        self.assertEqual(self.book(), before)

    def test_rows_go_between_two_others_again_and_again(self) -> None:
        self.outline("A|1d\nZ|1d\n")
        after = self.row("A")["id"]
        for i in range(60):
            self.change({"do": "add", "list": "activities", "cells": {"name": f"n{i}"}, "after": after})
        self.assertEqual([n for _, n in self.tree()], ["A", *(f"n{i}" for i in reversed(range(60))), "Z"])


class Writing(Plans):
    def test_durations_as_people_type_them(self) -> None:
        self.begin()
        self.outline("A|1d\n")
        row = self.row("A")["id"]
        for typed, shown in (
            ("5", "5d"),
            ("5d", "5d"),
            ("2w", "2w"),
            ("4h", "4h"),
            ("1.5d", "1.5d"),
            ("1,5 days", "1.5d"),
            ("90 min", "1.5h"),
        ):
            self.change({"do": "set", "row": row, "cells": {"duration": typed}})
            self.assertEqual(self.row("A")["duration"], shown, typed)
        refused = self.change({"do": "set", "row": row, "cells": {"duration": "a while"}}, status=422)
        self.assertEqual((refused["row"], refused["field"]), (row, "duration"))
        self.assertIn("“a while” is not a duration", refused["detail"])
        self.change({"do": "set", "row": row, "cells": {"duration": "0"}})
        self.assertEqual(self.row("A")["kind"], "milestone")
        self.change({"do": "set", "row": row, "cells": {"duration": "3d"}})
        self.assertEqual(self.row("A")["odd"], "duration")
        self.change({"do": "set", "row": row, "cells": {"kind": "task"}})
        self.assertNotIn("odd", self.row("A"))

    def test_dates_by_hand(self) -> None:
        self.begin()
        self.outline("A|2d\nB|3d\n")
        a, b = self.row("A")["id"], self.row("B")["id"]
        self.change({"do": "set", "row": a, "cells": {"begin": "11 jan"}})
        self.assertEqual(self.row("A")["start"], "2027-01-11T08:00")
        self.assertEqual(self.row("A")["constraint"], "start on or after 11 January 2027, 08:00")
        self.change({"do": "set", "row": a, "cells": {"end": "15 jan"}})
        self.assertEqual((self.row("A")["duration"], self.row("A")["finish"]), ("5d", "2027-01-15T17:00"))
        self.change({"do": "set", "row": a, "cells": {"begin": ""}})
        self.assertEqual(self.row("A")["start"], "2027-01-04T08:00")
        self.change({"do": "set", "row": b, "cells": {"pauses": [{"from": "5 jan", "to": "6 jan", "reason": "Storm"}]}})
        self.assertEqual(self.row("B")["finish"], "2027-01-08T17:00")
        self.change({"do": "set", "row": b, "cells": {"constraint": "must finish on 20 jan", "deadline": "2027-01-19"}})
        self.assertEqual((self.row("B")["finish"], self.row("B")["odd"]), ("2027-01-20T17:00", "deadline"))
        self.assertIn("Begin with one of", self.change({"do": "set", "row": b, "cells": {"constraint": "someday"}}, status=422)["detail"])

    def test_links_in_words_and_a_loop_refused_by_name(self) -> None:
        self.begin()
        self.outline("Dig|2d\nPour|1d\nCure|4d\n")
        dig, pour, cure = (self.row(n) for n in ("Dig", "Pour", "Cure"))
        self.change({"do": "set", "row": pour["id"], "cells": {"after": dig["code"]}})
        self.change({"do": "set", "row": cure["id"], "cells": {"after": f"{pour['code']} lag 1d; {dig['code']} ss lead 2h by the clock"}})
        self.assertEqual(self.row("Cure")["after"], f"{pour['code']} lag 1d; {dig['code']} SS lead 2h by the clock")
        self.assertEqual(self.row("Cure")["start"], "2027-01-08T08:00")
        before = self.book()
        refused = self.change({"do": "set", "row": dig["id"], "cells": {"after": cure["code"]}}, status=422)
        for name in ("Dig", "Pour", "Cure"):
            self.assertIn(name, refused["detail"])
        self.assertEqual(self.book(), before)
        self.assertIn("no activity “Z9”", self.change({"do": "set", "row": dig["id"], "cells": {"after": "Z9"}}, status=422)["detail"])
        self.assertIn(
            "its own predecessor", self.change({"do": "set", "row": dig["id"], "cells": {"after": dig["code"]}}, status=422)["detail"]
        )
        note = self.call("get", f"projects/QUAY/plan/rows/{cure['id']}")
        self.assertEqual(note["before"][0]["words"], "starts when Pour has finished, lag 1d")

    def test_people_costs_and_work_that_shortens(self) -> None:
        self.begin()
        self.outline("Dig|5d\n")
        row = self.row("Dig")["id"]
        rates = [{"from": "1 jan 2027", "amount": "50", "per": "hour"}]
        self.change({"do": "add", "list": "resources", "cells": {"name": "Fitters", "units": "4", "rates": rates}, "as": "r"})
        self.change({"do": "set", "row": row, "cells": {"people": "fit 2", "direct_cost": "1 200.50"}})
        self.assertEqual(self.row("Dig")["cost"], "5200.50")  # 5 d × 8 h × 2 × 50 + 1200.50
        assignment = self.call("get", f"projects/QUAY/plan/rows/{row}")["assignments"][0]["id"]
        self.change({"do": "set", "row": assignment, "cells": {"work": "80h"}}, {"do": "set", "row": row, "cells": {"driver": "work"}})
        self.assertEqual(self.row("Dig")["finish"], "2027-01-08T17:00")  # 80 h by two is 5 d
        self.change({"do": "set", "row": assignment, "cells": {"units": "4"}})
        self.assertEqual(self.row("Dig")["finish"], "2027-01-06T12:00")  # by four 2.5 d
        self.assertIn("no resource “ZED", self.change({"do": "set", "row": row, "cells": {"people": "ZED 1"}}, status=422)["detail"])
        self.assertIn("not an amount", self.change({"do": "set", "row": row, "cells": {"direct_cost": "a lot"}}, status=422)["detail"])

    def test_people_are_what_was_typed_and_nothing_else(self) -> None:
        self.begin()
        self.outline("Dig|5d\nPour|1d\n")
        row, dig = self.row("Dig")["id"], self.row("Dig")["code"]
        self.change({"do": "add", "list": "resources", "cells": {"name": "Fitters", "units": "4"}, "as": "r"})
        for typed, held in (("FIT 2", "FIT 2"), ("fit 50%", "FIT 0.5"), ("FIT", "FIT"), ("Fitters 150 %", "FIT 1.5")):
            self.change({"do": "set", "row": row, "cells": {"people": typed}})
            self.assertEqual(self.row("Dig")["people"], held, typed)
        self.assertIn(
            "hours are typed in the margin", self.change({"do": "set", "row": row, "cells": {"people": "FIT 8h"}}, status=422)["detail"]
        )
        for typed in (f"{dig}FS+2d", f"{dig} + 2d", f"{dig} after 2d"):
            refused = self.change({"do": "set", "row": self.row("Pour")["id"], "cells": {"after": typed}}, status=422)
            self.assertIn(f"Type {dig} FS lag 2d", refused["detail"])

    def test_a_role_is_replaced_everywhere_in_one_step(self) -> None:
        role = next(r["id"] for r in self.plan()["resources"] if r["code"] == "NAV")
        before = self.book()
        ada = {"do": "add", "list": "resources", "cells": {"name": "Ada Quell"}, "as": "a"}
        self.change(ada, {"do": "replace", "resource": role, "by": "a"})
        left = [a for a in workspace_of(self.project_now()).book.assignments if a.resource == "NAV"]
        self.assertEqual(left, [])
        self.undo_or_redo("undo")
        self.assertEqual(self.book(), before)

    def project_now(self) -> Project:
        return Project.objects.get(code="FERRY")

    def test_a_code_is_renamed_without_breaking_a_link(self) -> None:
        old = compute(workspace_of(self.project).book)
        row = self.row("Fit structural seatings")
        self.change({"do": "set", "row": row["id"], "cells": {"code": "SEAT"}})
        new = compute(workspace_of(self.project_now()).book)
        self.assertEqual(new.schedule.finish, old.schedule.finish)
        self.assertEqual(new.drifts["SEAT"], old.drifts["A320"])
        self.assertIn("SEAT", self.row("Insulation and linings, forward void")["after"])
        element = self.row("Battery room")
        self.change({"do": "set", "row": element["id"], "cells": {"code": "BAT"}})
        self.assertEqual(compute(workspace_of(self.project_now()).book).wbs["BAT"].bac, old.wbs["3"].bac)
        self.assertIn("taken already", self.change({"do": "set", "row": row["id"], "cells": {"code": "A340"}}, status=422)["detail"])

    def test_what_the_books_hold_stays(self) -> None:
        posted = self.row("Contract in force")["id"]
        self.assertIn("posted on page P01", self.change({"do": "remove", "rows": [posted]}, status=409)["detail"])
        element = self.row("Handover")["id"]
        self.assertEqual(self.change({"do": "remove", "rows": [element]}, status=409)["status"], 409)
        resource = next(r["id"] for r in self.plan()["resources"] if r["code"] == "FIT")
        self.assertIn("Replace it there", self.change({"do": "remove", "rows": [resource]}, status=409)["detail"])
        calendar = next(c["id"] for c in self.plan()["calendars"] if c["code"] == "yard")
        self.assertIn("is used by", self.change({"do": "remove", "rows": [calendar]}, status=409)["detail"])

    def test_own_fields_and_formulas(self) -> None:
        row = self.row("Fit structural seatings")
        self.assertEqual(row["fields"]["deck"], "Forward void")
        self.assertEqual(row["fields"]["day_rate"], round(float(row["cost"]) / 10))
        self.change({"do": "set", "row": row["id"], "cells": {"fields.deck": "quay", "fields.permit": "no"}})
        self.assertEqual((self.row(row["name"])["fields"]["deck"], self.row(row["name"])["fields"]["permit"]), ("Quay", False))
        self.assertIn("none of", self.change({"do": "set", "row": row["id"], "cells": {"fields.deck": "Moon"}}, status=422)["detail"])
        self.assertIn("formula", self.change({"do": "set", "row": row["id"], "cells": {"fields.day_rate": "3"}}, status=422)["detail"])
        for evil in ("().__class__.__bases__", "'\\ud83d'", "1e999", "name.upper()", "f'{cost:999999999}'", "days ="):
            cells = {"name": "Evil", "kind": "formula", "formula": evil}
            self.assertEqual(self.change({"do": "add", "list": "fields", "cells": cells}, status=422)["field"], "formula", evil)
        self.assertNotIn("evil", self.row(row["name"])["fields"])

    def test_a_formula_that_came_in_with_a_book_shuts_nothing(self) -> None:
        """Whatever an older file holds: the sheet, the value, the report and the files answer, and say that it can't be worked out."""
        for n, evil in enumerate(("'\\ud83d'", "1e999", "10**999999", "'%199999999d' % 1", "round(1, 10**99999)", "9**99*1e9")):
            fields = {"code": f"e{n}", "name": f"E{n}", "kind": "formula", "formula": evil, "in_reports": "yes"}
            book = json.loads(self.book()) | {"fields": [fields]}
            for a in (*book["activities"], *book["resources"]):
                a.pop("fields", None)
            for key in ("fields", "kind"):
                book["project"].pop(key, None)
            book["project"]["code"] = f"EVIL{n}"
            load_document(book)
            for address in ("plan", "pages/now/value", "pages/now/report", "export?format=xlsx", "pages/now/marks"):
                answer = self.client.get(f"/api/projects/EVIL{n}/{address}")
                self.assertLess(answer.status_code, 500, (evil, address))
                self.assertLess(len(answer.content), 3_000_000)
            row = next(r for r in self.client.get(f"/api/projects/EVIL{n}/plan").json()["rows"] if r["fields"])
            self.assertTrue(str(row["fields"][f"e{n}"]).startswith("?"), row["fields"])


class Steps(Plans):
    def test_a_preview_leaves_nothing_and_a_change_answers_the_same(self) -> None:
        before = self.book()
        verb = {"do": "set", "row": self.row("Fit structural seatings")["id"], "cells": {"name": "Seatings"}}
        longer = {"do": "set", "row": self.row("Battery commissioning")["id"], "cells": {"duration": "20d"}}
        seen = self.change(verb, longer, preview=True)
        self.assertEqual(self.book(), before)
        self.assertGreater(seen["moved_count"], 3)
        self.assertGreater(seen["finish"], seen["finish_before"])
        done = self.change(verb, longer)
        self.assertEqual({k: v for k, v in done.items() if k != "revision"}, {k: v for k, v in seen.items() if k != "revision"})
        self.assertEqual(to_dates(self.plan()), to_dates_of(self.code))

    def test_a_code_that_one_row_leaves_is_another_ones_in_the_same_step(self) -> None:
        before = self.book()
        first, second = self.row("Fit structural seatings"), self.row("Battery commissioning")
        add = {"do": "add", "list": "activities", "cells": {"name": "Seatings of steel", "code": first["code"]}, "parent": None}
        self.change({"do": "set", "row": first["id"], "cells": {"code": "Z900"}}, add)
        self.assertEqual((self.row("Seatings of steel")["code"], self.row("Fit structural seatings")["code"]), (first["code"], "Z900"))
        swap = [("do", "set"), ("row", second["id"])]
        self.change(
            dict(swap) | {"cells": {"code": "Z901"}},
            {"do": "set", "row": self.row("Fit structural seatings")["id"], "cells": {"code": second["code"]}},
        )
        self.change(
            {"do": "remove", "rows": [self.row("Seatings of steel")["id"]]},
            {"do": "add", "list": "activities", "cells": {"name": "Seatings of oak", "code": first["code"]}, "parent": None},
        )
        for _ in range(3):
            self.call("post", "projects/FERRY/undo", {"revision": self.plan()["revision"]})
        self.assertEqual(self.book(), before)
        for _ in range(3):
            self.call("post", "projects/FERRY/redo", {"revision": self.plan()["revision"]})
        self.assertEqual(self.row("Seatings of oak")["code"], first["code"])

    def test_who_may_and_who_is_late(self) -> None:
        verb = {"do": "set", "row": self.row("Fit structural seatings")["id"], "cells": {"name": "X"}}
        revision = self.plan()["revision"]
        self.sign_in("maud")
        self.assertIn("you need to be an analyst", self.change(verb, status=403)["detail"])
        self.sign_in("ines")
        self.change(verb)
        self.assertEqual(self.change(verb, status=409, revision=revision)["code"], "stale")
        for nonsense in (
            {"do": "explode"},
            {"do": "set"},
            {"do": "set", "row": "a0", "cells": {}},
            {"do": "set", "row": "../x", "cells": {}},
        ):
            self.assertIn(self.change(nonsense, status=self.status_of(nonsense))["code"], ("bad-request", "not-found"))

    def status_of(self, verb: Verb) -> int:
        return 409 if verb.get("row") == "a0" else 400

    def test_any_changes_undone_bring_back_the_same_book(self) -> None:
        for seed in range(4):
            rng = random.Random(seed)
            before, states, sheet = self.book(), [self.book()], self.whole()
            for _ in range(12):
                verb = random_verb(rng, self.plan())
                answer = self.client.post(
                    f"/api/projects/{self.code}/plan/changes",
                    {"revision": self.plan()["revision"], "verbs": [verb]},
                    content_type="application/json",
                )
                self.assertIn(answer.status_code, (200, 409, 422), answer.content[:300])
                if answer.status_code == 200:
                    sheet = self.told(sheet, answer.json())
                    LruCache.forget_all()  # what is made afresh is what the answers, put together, say
                    self.assertEqual(sheet, self.whole(), verb)
                if answer.status_code == 200 and self.book() != states[-1]:
                    states.append(self.book())
                    book_from(book_document(Project.objects.get(code=self.code)))
                else:
                    self.assertEqual(self.book(), states[-1])
            while len(states) > 1:
                states.pop()
                while self.book() != states[-1]:
                    self.undo_or_redo("undo")
            self.assertEqual(self.book(), before)
            self.undo_or_redo("redo")
            self.undo_or_redo("undo")
            self.assertEqual(self.book(), before)

    def whole(self) -> dict[str, Verb]:
        """The sheet by row, with what is left out as usual filled in."""
        return {r["id"]: USUAL_ROW | r for r in self.plan()["rows"]}

    def told(self, sheet: dict[str, Verb], effect: Verb) -> dict[str, Verb]:
        """The sheet after an answer, as the page puts it together."""
        kept = {name: row | effect["changes"].get(name, {}) for name, row in sheet.items() if name not in effect["removed"]}
        return kept | {r["id"]: USUAL_ROW | r for r in effect["rows"]}

    def test_calendars_project_and_fields_are_taken_over_row_by_row(self) -> None:
        lists = self.call("get", f"projects/{self.code}/plan/lists")
        office = next(c for c in lists["calendars"] if c["code"] == Project.objects.get(code=self.code).calendar)
        about = self.call("get", f"projects/{self.code}/about")["project"]["id"]
        a = next(r for r in self.plan()["rows"] if r["kind"] == "task" and r.get("state") != "complete" and r.get("people"))
        closed = [{"from": "2027-04-19", "to": "2027-04-23", "shifts": [], "name": "Yard closed"}]
        steps: list[list[Verb]] = [
            [{"do": "set", "row": office["id"], "cells": {"exceptions": [*office["exceptions"], *closed]}}],
            [{"do": "set", "row": about, "cells": {"name": "Another name", "deadline": "1 aug 2027"}}],
            [{"do": "set", "row": office["id"], "cells": {"hours_per_day": "7"}}],
            [
                {"do": "add", "list": "calendars", "cells": {"name": "Nights"}, "as": "n"},
                {"do": "set", "row": "n", "cells": {"hours_per_day": "4", "week": office["week"]}},
            ],
            [{"do": "set", "row": a["id"], "cells": {"calendar": "nights", "duration": "3d"}}],
            [{"do": "add", "list": "fields", "cells": {"name": "Depth", "kind": "number"}}],
            [{"do": "set", "row": a["id"], "cells": {"fields.depth": "4"}}],
        ]
        sheet = self.whole()
        for verbs in steps:
            sheet = self.told(sheet, self.change(*verbs))
            LruCache.forget_all()
            self.assertEqual(sheet, self.whole(), verbs)
        for _ in steps:
            sheet = self.told(sheet, self.undo_or_redo("undo"))
            LruCache.forget_all()
            self.assertEqual(sheet, self.whole())

    def test_the_opening_page_goes_with_the_start(self) -> None:
        self.begin()
        self.outline("A|1d\n")
        project = self.call("get", "projects/QUAY/about")["project"]["id"]
        self.change({"do": "set", "row": project, "cells": {"start": "1 dec 2026"}})
        self.assertEqual(self.row("A")["start"], "2026-12-01T08:00")
        self.assertEqual(Page.objects.get(project__code="QUAY").status, "2026-12-01T08:00")
        self.undo_or_redo("undo")
        self.assertEqual((self.row("A")["start"], Page.objects.get(project__code="QUAY").status), ("2027-01-04T08:00",) * 2)


USUAL_ROW: Verb = dict(zip(NAMES, USUAL, strict=True))


def to_dates(plan: Any) -> dict[str, tuple[str, str]]:
    return {r["code"]: (r["start"], r["finish"]) for r in plan["rows"] if r["kind"] != "wbs"}


def to_dates_of(code: str) -> dict[str, tuple[str, str]]:
    """The dates that the core gives for the project's document."""
    from dryledger.calendar.calendar import to_text

    rows = compute(book_from(book_document(Project.objects.get(code=code)))).schedule.activities
    return {c: (to_text(x.start), to_text(x.finish)) for c, x in rows.items()}


def random_verb(rng: random.Random, plan: Any) -> Verb:
    """Something that somebody might do to a plan, allowed or not."""
    rows = plan["rows"]
    some = [r["id"] for r in rng.sample(rows, rng.randint(1, 3))]
    activity = rng.choice([r for r in rows if r["kind"] != "wbs"])
    cells = rng.choice(
        [
            {"duration": rng.choice(["3d", "0", "2w", "soon"])},
            {"name": "Renamed"},
            {"code": f"Z{rng.randint(1, 99)}"},
            {"after": rng.choice(rows)["code"]},
            {"people": "FIT 2; ELE"},
            {"people": ""},
            {"direct_cost": "500"},
            {"begin": "1 jun"},
            {"calendar": "Six-day yard"},
            {"pauses": [{"from": "1 jun", "to": "3 jun"}]},
            {"value_method": "zero hundred"},
            {"weight": "2"},
        ]
    )
    return rng.choice(
        [
            {"do": "set", "row": activity["id"], "cells": cells},
            {"do": "set", "row": activity["id"], "cells": cells},
            {"do": "add", "list": "activities", "cells": {"name": "New"}, "after": some[0]},
            {"do": "remove", "rows": some},
            {"do": "indent", "rows": some[:1]},
            {"do": "outdent", "rows": some[:1]},
            {"do": "place", "rows": some[:1], "after": some[-1]},
            {"do": "chain", "rows": some},
            {"do": "element", "rows": some[:1], "name": "Part"},
            {"do": "estimate", "name": "Top", "measure": "money", "total": "1000"},
        ]
    )


class Beginning(Plans):
    def test_from_a_template_and_a_copy(self) -> None:
        self.begin(source="template", of="quay-works", start="1 mar 2027", currency="")
        plan = self.plan()
        self.assertEqual((len(plan["rows"]), plan["start"][:10]), (17, "2027-03-01"))
        self.assertTrue(all(r["role"] for r in plan["resources"]))
        self.code = "FERRY"
        self.begin(code="AGAIN", source="copy", of="FERRY", start="", currency="")
        rows = {r["code"]: r for r in self.plan()["rows"]}
        self.assertEqual((rows["A110"].get("percent", 0), self.plan()["baseline"]), (0, None))
        self.code = "FERRY"
        self.begin(code="TWIN", source="copy", of="FERRY", progress=True, start="", currency="")
        self.assertEqual((self.plan()["baseline"], self.plan()["finish"]), ("B0", self.finish()))

    def finish(self) -> str:
        self.code = "FERRY"
        finish: str = self.plan()["finish"]
        return finish

    def test_what_can_not_begin(self) -> None:
        for body, field in (
            ({"name": " "}, "name"),
            ({"code": "FERRY"}, "code"),
            ({"code": "a/b"}, "code"),
            ({"start": ""}, "start"),
            ({"start": "someday"}, "start"),
            ({"currency": "euro"}, "currency"),
            ({"source": "template", "of": "none"}, "of"),
        ):
            whole = {"name": "Quay", "start": "4 jan 2027", "currency": "EUR"} | body
            self.assertEqual(self.call("post", "projects", whole, 422)["field"], field, body)


class Responsible(Plans):
    pages = 3

    def test_who_is_responsible_comes_from_the_element_above_and_from_the_project(self) -> None:
        rows = self.plan()["rows"]
        task = next(r for r in rows if r["code"] == "A330")
        element = next(r["id"] for r in rows if r["kind"] == "wbs" and r["id"] == task["parent"])
        project = self.call("get", "projects/FERRY/about")["project"]["id"]
        self.change({"do": "set", "row": project, "cells": {"responsible": "Edda Marchbank"}})
        self.change({"do": "set", "row": element, "cells": {"responsible": "Joss Amberley"}})
        self.assertEqual(self.answers("A330", "A100"), ["Joss Amberley", "Edda Marchbank"])
        self.change({"do": "set", "row": task["id"], "cells": {"responsible": "Wim Carrow", "note": "frames by the yard"}})
        self.assertEqual(self.answers("A330", "A340"), ["Wim Carrow", "Joss Amberley"])
        self.assertEqual(next(r for r in self.plan()["rows"] if r["code"] == "A330")["note"], "frames by the yard")
        self.assertIn("Wim Carrow", self.plan()["responsible"])
        self.assertIn("Maud Test", self.plan()["responsible"])
        posting = {r["code"]: r["responsible"] for r in self.call("get", "projects/FERRY/pages/now/posting")["rows"]}
        value = {
            r["code"]: r["figures"]["responsible"] for r in self.call("get", "projects/FERRY/pages/now/value?columns=responsible")["rows"]
        }
        self.assertEqual((posting["A330"], value["A330"], value["3"]), ("Wim Carrow", "Wim Carrow", "Joss Amberley"))
        self.change({"do": "set", "row": element, "cells": {"responsible": ""}})
        self.assertEqual(self.answers("A330", "A340"), ["Wim Carrow", "Edda Marchbank"])

    def answers(self, *codes: str) -> list[str]:
        rows = {r["code"]: r for r in self.plan()["rows"]}
        return [rows[c].get("answers", "") for c in codes]
