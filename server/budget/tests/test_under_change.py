"""Orders, the budget under change and reserves over HTTP; changes are approved by a press of an approver, and by nothing typed."""

from typing import Any

from server.accounts.models import Person, Role
from server.book.models import Project
from server.book.verify import verify
from server.tests.base import LedgerTest


class UnderChange(LedgerTest):
    pages = 9

    def money(self) -> Any:
        return self.call("get", "projects/FERRY/pages/now/money")

    def change(self, code: str) -> Any:
        return next(c for c in self.money()["changes"] if c["code"] == code)

    def decide(self, code: str, approve: bool, status: int = 200) -> Any:
        body = {"revision": self.revision(), "approve": approve}
        return self.call("post", f"projects/FERRY/changes/{code}/decision", body, status)

    def register(self, *verbs: dict[str, Any], status: int = 200) -> Any:
        return self.call("post", "projects/FERRY/plan/changes", {"revision": self.revision(), "verbs": list(verbs)}, status)

    def row(self, code: str) -> str:
        registers = self.call("get", "projects/FERRY/about")["registers"]
        return next(str(r["id"]) for x in registers if x["key"] == "changes" for r in x["rows"] if r["code"] == code)

    def test_what_stands_and_what_is_left(self) -> None:
        m = self.money()
        whole = m["budget"][0]
        self.assertEqual((whole["original"], whole["approved"], whole["authorised"]), ("2429605.00", "10500.00", "2440105.00"))
        self.assertEqual((whole["to_build"], whole["baseline"], whole["unexplained"]), ("6300.00", "2429605.00", "0.00"))
        self.assertEqual(
            [(x["code"], x["drawn"], x["left"]) for x in m["reserves"]], [("R1", "10500.00", "49500.00"), ("R2", "0.00", "90000.00")]
        )
        self.assertEqual((m["with_contingency"], m["with_all"]), ("2489605.00", "2579605.00"))
        ducts = next(o for o in m["orders"] if o["code"] == "PO-04")
        self.assertEqual(
            (ducts["amount"], ducts["accrued"], ducts["left"], ducts["lines"][0]["over"]), ("51000.00", "21500.00", "29500.00", True)
        )
        self.assertEqual(sum(float(c["to_pay"]) for c in m["costs"]), float(m["totals"]["to_pay"]))

    def test_who_pressed_and_when(self) -> None:
        self.assertEqual(self.decide("CH2", True, 403)["code"], "not-allowed")
        self.sign_in("lorcan")
        self.decide("CH2", True)
        decided = self.change("CH2")
        self.assertEqual((decided["state"], decided["decided_by"]), ("approved", "Lorcan Test"))
        self.assertIsNotNone(decided["decided_at"])
        self.assertEqual(self.decide("CH2", False, 409)["code"], "decided")
        # Undoing it asks the approver's role, of whoever pressed too.
        Person.objects.filter(username="lorcan").update(role=Role.ANALYST)
        undone = self.client.post("/api/projects/FERRY/undo", {"revision": self.revision()}, content_type="application/json")
        self.assertEqual(undone.status_code, 403)
        Person.objects.filter(username="lorcan").update(role=Role.APPROVER)
        undone = self.client.post("/api/projects/FERRY/undo", {"revision": self.revision()}, content_type="application/json")
        self.assertEqual((undone.status_code, self.change("CH2")["state"]), (200, "raised"))
        self.assertEqual(verify(Project.objects.get(code="FERRY")).wrong, [])

    def test_nobody_approves_by_typing(self) -> None:
        self.sign_in("lorcan")
        for key, text in (("state", "approved"), ("decided_by", "Lorcan Test"), ("decided_at", "2027-03-12T10:00"), ("baseline", "B1")):
            no = self.register({"do": "set", "row": self.row("CH2"), "cells": {key: text}}, status=422)
            self.assertEqual((no["code"], no["field"]), ("entry-refused", key))

    def test_one_is_raised_by_typing_and_says_whose_money_it_is(self) -> None:
        cells = {"name": "Thicker cable", "lines": "4 1200; A510 300", "days": "2"}
        self.register({"do": "add", "list": "changes", "as": "new", "cells": cells})
        code = self.money()["changes"][-1]["code"]
        self.assertEqual([(x["on"], x["amount"]) for x in self.change(code)["lines"]], [("4", "1200.00"), ("A510", "300.00")])
        self.sign_in("lorcan")
        self.assertEqual(self.decide(code, True, 422)["code"], "no-money")
        self.register({"do": "set", "row": self.row(code), "cells": {"from": "client"}})
        self.decide(code, True)
        self.assertEqual(self.money()["budget"][0]["approved"], "12000.00")
        wrong = self.register({"do": "set", "row": self.row("CH2"), "cells": {"lines": "Z9 12"}}, status=422)
        self.assertEqual(wrong["field"], "lines")

    def test_a_baseline_builds_in_what_it_names(self) -> None:
        self.sign_in("lorcan")
        take = {"name": "With the plates", "reason": "CH1", "rows": None}
        body = take | {"revision": self.revision(), "changes": ["CH2"]}
        self.assertEqual(self.call("post", "projects/FERRY/baselines", body, 422)["code"], "not-approved")
        code = self.call("post", "projects/FERRY/baselines", take | {"revision": self.revision(), "changes": ["CH1"]})["code"]
        built = self.change("CH1")
        self.assertEqual((built["state"], built["baseline"], self.money()["budget"][0]["to_build"]), ("built", code, "0.00"))
