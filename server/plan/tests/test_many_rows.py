"""Changes that move more rows than are told at once: what is in sight is told, the rest is read later, and nothing is wrong meanwhile."""

import json
import random
from decimal import Decimal
from typing import Any

from dryledger.compute import compute
from server.book.loading import load_document
from server.book.models import Project
from server.book.workspace import workspace_of
from server.plan.sheet import FEW, make_sheet
from server.plan.sheet_rows import NAMES, USUAL
from server.shared.json_values import written
from server.tests.base import LedgerTest

SIZE = FEW + 300
USUAL_ROW: dict[str, Any] = dict(zip(NAMES, USUAL, strict=True))


def document() -> dict[str, Any]:
    """One activity that all others wait for, each of those with work of its own; a rate changes in the middle."""
    names = [f"A{i:04}" for i in range(SIZE)]
    rates = [{"from": "2027-01-01", "amount": "10", "per": "hour"}, {"from": "2027-03-01", "amount": "20", "per": "hour"}]
    return {
        "format": "dry-ledger-book",
        "version": 1,
        "project": {"code": "MANY", "name": "Many", "currency": "EUR", "start": "2027-01-04T08:00", "calendar": "five"},
        "calendars": [{"code": "five", "name": "Five days", "week": {d: ["08:00-16:00"] for d in ("mon", "tue", "wed", "thu", "fri")}}],
        "resources": [{"code": "FIT", "name": "Fitter", "units": 50, "rates": rates}],
        "wbs": [{"code": f"W{i}", "name": f"Part {i}", "parent": None if i < 2 else f"W{i % 2}"} for i in range(8)],
        "activities": [{"code": c, "name": c, "duration": "2d", "wbs": f"W{i % 6 + 2}"} for i, c in enumerate(names)],
        "links": [{"from": names[0 if i % 9 else i - 1], "to": c, "type": "FS"} for i, c in enumerate(names) if i],
        "assignments": [{"activity": c, "resource": "FIT", "units": 1} for c in names[::7]],
    }


class ManyRows(LedgerTest):
    """A page that is told of the rows in sight, beside another that reads the plan at any time."""

    def setUp(self) -> None:
        super().setUp()
        load_document(document())
        self.sign_in("ines")
        self.rng = random.Random(5)
        self.read()

    def read(self) -> None:
        """Read the plan whole, as the page does when it opens and when an answer left something out."""
        plan = self.call("get", "projects/MANY/plan")
        self.sheet = {r["id"]: USUAL_ROW | r for r in plan["rows"]}
        self.revision, self.rest = plan["revision"], False

    def fresh(self) -> dict[str, Any]:
        """The sheet made from nothing."""
        w = workspace_of(Project.objects.get(code="MANY"))
        made = make_sheet(w.keyed, compute(w.book), None)
        self.assertFalse(made.behind)
        return {name: USUAL_ROW | json.loads(written(row)) for name, row in made.whole.items()}

    def send(self, path: str, **more: Any) -> Any:
        seen = self.rng.sample(sorted(self.sheet), 40)
        answer = self.call("post", f"projects/MANY/plan/{path}", {"revision": self.revision, "seen": seen, "rest": self.rest} | more)
        if more.get("preview"):
            return answer
        self.revision, self.rest = answer["revision"], answer["rest"]
        for name in answer["removed"]:
            del self.sheet[name]
        for name, columns in answer["changes"].items():
            self.sheet[name] |= columns
        self.sheet |= {r["id"]: USUAL_ROW | r for r in answer["rows"]}
        fresh = self.fresh()
        self.assertEqual(self.sheet.keys(), fresh.keys())
        sure = [n for n in fresh if n in seen or n.startswith("w") or not self.rest]
        for name in sure:
            self.assertEqual(self.sheet[name], fresh[name], path)
        self.assertEqual(answer["cost"], f"{sum(Decimal(r['cost']) for n, r in fresh.items() if n[0] == 'a'):f}")
        return answer

    def named(self, code: str) -> str:
        return next(n for n, r in self.sheet.items() if r["code"] == code)

    def test_what_is_in_sight_is_right_at_once_and_the_rest_when_read(self) -> None:
        first, rests = self.named("A0000"), 0
        for n in range(14):
            some = self.named(f"A{self.rng.randrange(1, SIZE):04}")
            days = f"{self.rng.randrange(3, 70)}d"
            verb = self.rng.choice(
                [
                    {"do": "set", "row": first, "cells": {"duration": days}},
                    {"do": "set", "row": first, "cells": {"duration": days, "name": f"Start {n}"}},
                    {"do": "set", "row": some, "cells": {"duration": days}},
                    {"do": "set", "row": some, "cells": {"code": f"B{n}"}},
                ]
            )
            before = dict(self.sheet)
            seen = self.send("changes", verbs=[verb], preview=True)
            self.assertEqual(self.sheet, before)
            answer = self.send("changes", verbs=[verb])
            self.assertEqual(seen["moved_count"], answer["moved_count"])
            rests += answer["rest"]
            if self.rng.random() < 0.4:
                self.call("get", "projects/MANY/plan")  # somebody else reads it: what this page lacks is not lost
            if self.rest and self.rng.random() < 0.4:
                self.read()
            if verb["cells"].get("code"):
                self.send("undo")
        self.assertGreater(rests, 4)
        removed = self.named("A0700")
        self.send("changes", verbs=[{"do": "set", "row": first, "cells": {"duration": "5d"}}])
        self.send("changes", verbs=[{"do": "remove", "rows": [removed]}])
        self.send("undo")
        self.send("undo")
        self.read()
        self.assertEqual(self.sheet, self.fresh())

    def test_one_row_and_the_sums_over_many_are_told_as_they_are(self) -> None:
        first, late = self.named("A0000"), self.named("A0021")
        answer = self.call(
            "post",
            "projects/MANY/plan/changes",
            {"revision": self.revision, "seen": [first], "verbs": [{"do": "set", "row": first, "cells": {"duration": "60d"}}]},
        )
        self.assertTrue(answer["rest"])
        self.assertNotIn(late, answer["changes"])
        self.assertEqual(answer["moved_count"], SIZE)
        self.assertLess(Decimal(answer["cost_before"]), Decimal(answer["cost"]))  # the work now falls after the rate rose
        row = self.call("get", f"projects/MANY/plan/rows/{late}")["row"]
        self.assertGreater(row["start"], "2027-03-26")
        fresh = self.fresh()
        for name, r in fresh.items():
            if name.startswith("w"):
                self.assertEqual(answer["changes"][name]["finish"], r["finish"])
