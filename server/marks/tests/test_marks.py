"""Marks over the API: the shipped rules, trying and saving others, sets, and that no dry page changes."""

import json
from typing import Any

from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from dryledger.marks.marks import marks
from server.book.documents import book_document
from server.book.models import MarkRule, Project
from server.book.verify import verify
from server.tests.base import LedgerTest

AT = "projects/FERRY/pages"
LATE = {"figure": "finish_difference", "is": ">", "value": "0.5d"}
RULES: list[dict[str, Any]] = [
    {"code": "R1", "scope": "activity", "match": "all", "mark": "act", "reason": "{finish_difference} late", "conditions": [LATE]},
    {"code": "R2", "scope": "project", "match": "any", "mark": "watch", "conditions": [{"figure": "spi", "is": "<", "value": 0.995}]},
]


class MarkRules(LedgerTest):
    pages = 4

    def save(self, rules: list[Any], status: int = 200) -> Any:
        return self.call("put", f"{AT}/now/marks", {"revision": self.revision(), "rules": rules}, status)

    def test_the_shipped_rules_and_what_they_catch(self) -> None:
        out = self.call("get", f"{AT}/now/marks")
        self.assertEqual((out["own"], out["before"]), (False, ["P03", "P02", "P01"]))
        caught = sum(r["catches"] for r in out["rules"]) + sum(out["uncaught"].values())
        book = book_from(json.loads(json.dumps(book_document(self.project))))
        self.assertEqual(caught, len(book.activities) + len(book.wbs) + 1)
        self.assertEqual([r["catches"] for r in out["rules"]], list(marks(compute(book)).catches.values()))
        own = [{k: r[k] for k in ("code", "scope", "match", "mark", "reason", "conditions")} for r in out["rules"]]
        self.assertEqual(self.call("post", f"{AT}/now/marks/try", {"rules": own})["count"], 0, "what is served can be sent back")

    def test_rules_are_tried_saved_undone_and_no_dry_page_changes(self) -> None:
        parts = [f"P0{n}/{part}" for n in (1, 2, 3) for part in ("posting", "value")]
        before = [self.call("get", f"{AT}/{part}") | {"revision": 0} for part in parts]
        tried = self.call("post", f"{AT}/now/marks/try", {"rules": RULES})
        self.assertEqual(MarkRule.objects.count(), 0)
        self.assertGreater(tried["count"], 0)
        saved = self.save(RULES)["marks"]
        self.assertEqual(({r["code"]: r["catches"] for r in saved["rules"]}, saved["own"]), (tried["catches"], True))
        self.assertEqual([r["before"] for r in saved["rules"]], [[None] * 3] * 2)
        rows = {r["code"]: r for r in self.call("get", f"{AT}/now/posting")["rows"]}
        for change in (c for c in tried["changes"] if c["scope"] == "activity"):
            self.assertEqual(rows[change["code"]]["mark"], change["becomes"])
        self.assertEqual([self.call("get", f"{AT}/{part}") | {"revision": 0} for part in parts], before)
        self.assertEqual(verify(Project.objects.get(code="FERRY")).wrong, [])
        exported = json.loads(self.client.get("/api/projects/FERRY/export/book.json").content)
        self.assertEqual([r["code"] for r in exported["mark_rules"]], ["R1", "R2"])
        self.assertEqual(exported["mark_rules"][1]["conditions"], RULES[1]["conditions"])
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertFalse(self.call("get", f"{AT}/now/marks")["own"])
        self.call("post", "projects/FERRY/redo", {"revision": self.revision()})
        self.save([])
        self.assertFalse(self.call("get", f"{AT}/now/marks")["own"])

    def test_what_is_wrong_is_told_at_its_place_and_nothing_is_saved(self) -> None:
        good = RULES[0]
        for wrong, at in (
            (good | {"conditions": [LATE | {"figure": "luck"}]}, "mark_rules[0].conditions[0].figure"),
            (good | {"conditions": [LATE | {"value": "12.00 EUR"}]}, "mark_rules[0].conditions[0].value"),
            (good | {"conditions": [{"figure": "finish", "is": "<", "than": "bac"}]}, "mark_rules[0].conditions[0].than"),
            (good | {"reason": "{late"}, "mark_rules[0].reason"),
            (good | {"mark": "red"}, "mark_rules[0].mark"),
            (good | {"conditions": "all"}, "mark_rules[0].conditions"),
            (good | {"surprise": 1}, "mark_rules[0].surprise"),
        ):
            self.assertEqual(self.save([wrong], 422)["field"], at)
            self.assertEqual(self.call("post", f"{AT}/now/marks/try", {"rules": [wrong]}, 422)["field"], at)
        self.assertEqual(self.save([good, good], 422)["field"], "mark_rules[1].code")
        self.call("put", f"{AT}/now/marks", {"revision": 0, "rules": RULES}, 409)
        self.call("put", f"{AT}/P01/marks", {"revision": self.revision(), "rules": RULES}, 409)
        self.call("put", f"{AT}/now/marks", {"revision": self.revision(), "rules": "none"}, 400)
        self.sign_in("maud")
        self.save(RULES, 403)
        self.assertEqual(MarkRule.objects.count(), 0)

    def test_the_organisation_keeps_sets(self) -> None:
        self.call("post", f"{AT}/now/marks/sets", {"name": "Strict", "rules": RULES}, 403)
        self.sign_in("lorcan")
        kept = self.call("post", f"{AT}/now/marks/sets", {"name": "Strict", "rules": RULES})["sets"]
        self.assertEqual([(s["name"], [r["code"] for r in s["rules"]]) for s in kept], [("Strict", ["R1", "R2"])])
        self.call("post", f"{AT}/now/marks/sets", {"name": " ", "rules": RULES}, 422)
        self.call("post", f"{AT}/now/marks/sets", {"name": "None", "rules": []}, 422)
        self.assertEqual(self.call("delete", f"{AT}/now/marks/sets/{kept[0]['id']}", {})["sets"], [])
        self.call("delete", f"{AT}/now/marks/sets/{kept[0]['id']}", {}, 404)
