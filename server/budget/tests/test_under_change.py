"""Orders, the budget under change and reserves over HTTP; changes are approved by a press of an approver, and by nothing typed."""

from typing import Any

from server.accounts.models import Person, Role
from server.book.models import Project
from server.book.verify import verify
from server.book.workspace import workspace_of
from server.tests.base import LedgerTest


class MoneyTest(LedgerTest):
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


class UnderChange(MoneyTest):
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

    def test_where_the_organisation_says_so_another_decides(self) -> None:
        self.sign_in("lorcan")
        self.call("patch", "access", {"decided_apart": True}, 403)
        self.register({"do": "set", "row": self.row("CH2"), "cells": {"days": "3"}})
        Person.objects.filter(username="ines").update(administrator=True)
        self.sign_in("ines")
        self.assertTrue(self.call("patch", "access", {"decided_apart": True})["decided_apart"])
        self.sign_in("lorcan")
        no = self.decide("CH2", True, 403)
        self.assertEqual((no["code"], no["field"]), ("own-change", "from"))
        self.assertEqual(self.change("CH2")["state"], "raised")
        self.client.post("/api/projects/FERRY/undo", {"revision": self.revision()}, content_type="application/json")
        self.decide("CH2", True)  # what was taken back is no writing of his any more


class Orders(MoneyTest):
    def order(self, code: str) -> Any:
        return next(o for o in self.money()["orders"] if o["code"] == code)

    def cost(self, code: str) -> Any:
        m = self.money()
        return next(c for c in (*m["costs"], *m["outside"]) if c["code"] == code)

    def test_one_is_typed_and_lowers_what_was_still_to_order(self) -> None:
        first = next(c for c in self.money()["costs"] if "/" not in c["code"] and not c["closed"])
        code = first["code"]
        of = f"c{next(k for k, x in workspace_of(Project.objects.get(code='FERRY')).keyed.rows['costs'].items() if x.record.code == code)}"
        self.register({"do": "set", "row": of, "cells": {"to_order": "5000"}})
        answer = self.register(
            {"do": "add", "list": "orders", "cells": {"supplier": "Yard", "lines": f"{code} 1 200; {code} 300", "date": "1 mar"}}
        )
        made = self.money()["orders"][-1]
        self.assertEqual((made["supplier"], made["amount"], made["typed"]), ("Yard", "1500.00", f"{code} 1200; {code} 300"))
        self.assertEqual(self.cost(code)["to_order"], "3500.00")
        self.assertIn("more", answer["label"])
        self.register({"do": "set", "row": made["id"], "cells": {"code": "B-17", "lines": f"{first['activity']} {first['name']} 6500"}})
        self.assertEqual((self.order("B-17")["amount"], self.cost(code)["to_order"]), ("6500.00", "0.00"))
        for lines, word in (("Z9 12", "no line of an order"), (f"{code} much", "is not an amount"), (code, "no line of an order")):
            no = self.register({"do": "set", "row": made["id"], "cells": {"lines": lines}}, status=422)
            self.assertEqual(no["field"], "lines")
            self.assertIn(word, no["detail"])
        self.register({"do": "remove", "rows": [made["id"]]})
        held = next(o for o in self.money()["orders"] if float(o["invoiced"]))
        self.assertEqual(self.register({"do": "remove", "rows": [held["id"]]}, status=409)["code"], "posted")
        # Another code is followed by what was posted.
        before = held["invoiced"]
        self.register({"do": "set", "row": held["id"], "cells": {"code": "NEW-1"}})
        self.assertEqual(self.order("NEW-1")["invoiced"], before)
        self.assertEqual(verify(Project.objects.get(code="FERRY")).wrong, [])

    def test_reserves_are_typed(self) -> None:
        self.register({"do": "add", "list": "reserves", "cells": {"name": "Ice", "amount": "4000", "held": "outside"}})
        made = self.money()["reserves"][-1]
        self.assertEqual((made["code"], made["name"], made["held"], made["left"]), ("R3", "Ice", "outside", "4000.00"))
        self.register({"do": "set", "row": made["id"], "cells": {"amount": "4500"}})
        self.register({"do": "remove", "rows": [made["id"]]})
        drawn = self.money()["reserves"][0]["id"]
        self.assertEqual(self.register({"do": "remove", "rows": [drawn]}, status=409)["code"], "in-use")
