"""Plan edits against what pages say: each is done with what stays valid, or refused in words, and never found out at closing."""

import json
import random
from typing import Any

from dryledger.compute import compute
from dryledger.exchange.book_json import read_book
from server.book.loading import load_text
from server.book.models import Page, Project
from server.book.verify import verify
from server.plan.tests.test_changes import Plans, Verb
from server.tests.base import entry


class AgainstPages(Plans):
    pages = 4

    def still_whole(self) -> None:
        """What stands can be exported, read by the core and reckoned at each of its pages."""
        book = read_book(self.client.get(f"/api/projects/{self.code}/export/book.json").content)
        for page in book.periods:
            compute(book, page.code)

    def closed_and_brought_in(self, code: str) -> None:
        """The open page can be closed, and what is exported then comes in whole, its dry pages sealed."""
        self.sign_in("lorcan")
        page = Page.objects.get(project__code=self.code, state="wet").code
        self.call("post", f"projects/{self.code}/pages/{page}/close", {"revision": self.revision_of(self.code)})
        told = self.client.get(f"/api/projects/{self.code}/export/book.json").content
        made = load_text(told, code)
        self.assertEqual(verify(made).wrong, [])
        self.assertEqual(verify(Project.objects.get(code=self.code)).wrong, [])
        again = json.loads(self.client.get(f"/api/projects/{code}/export/book.json").content)
        again["project"]["code"] = self.code
        self.assertEqual(again, json.loads(told))

    def revision_of(self, code: str) -> int:
        found: int = self.call("get", f"projects/{code}")["revision"]
        return found

    def edits(self, rows: list[Any], calendars: list[Any], rng: random.Random) -> list[Verb]:
        """One of each kind of change that what pages say could stand against, at random places."""
        tasks = [r["id"] for r in rows if r["kind"] != "wbs"]
        elements = [r["id"] for r in rows if r["kind"] == "wbs"]
        one, other, element = rng.choice(tasks), rng.choice(tasks), rng.choice(elements)
        cells: list[dict[str, Any]] = [
            {"calendar": rng.choice(calendars)["code"]},
            {"kind": "milestone"},
            {"kind": "task", "duration": f"{rng.randint(1, 9)}d"},
            {"duration": "0d"},
            {"driver": "work"},
            {"mode": "fixed", "start": "2027-02-01T08:00", "finish": "2027-02-05T17:00"},
            {"value_method": {"type": "milestones", "weights": [{"name": "half", "weight": 1, "at": 0.5}]}},
            {"value_method": {"type": "zero_hundred"}},
            {"pauses": [{"from": "2027-01-06T00:00", "to": "2027-01-08T00:00", "reason": "Storm"}]},
        ]
        return [
            {"do": "remove", "rows": [one]},
            {"do": "remove", "rows": [element]},
            {"do": "indent", "rows": [one]},
            {"do": "outdent", "rows": [one]},
            {"do": "indent", "rows": [element]},
            {"do": "place", "rows": [one], "parent": element},
            {"do": "place", "rows": [element], "after": other},
            *({"do": "set", "row": one, "cells": c} for c in cells),
            {"do": "add", "list": "links", "from": one, "to": other, "cells": {}},
        ]

    def test_any_edit_is_done_or_refused_in_words(self) -> None:
        rng, done, refused = random.Random(7), 0, 0
        for _ in range(6):
            plan = self.plan()
            for verb in self.edits(plan["rows"], plan["calendars"], rng):
                body = {"revision": self.revision(), "verbs": [verb], "preview": False}
                answer = self.client.post("/api/projects/FERRY/plan/changes", json.dumps(body), content_type="application/json")
                self.assertIn(answer.status_code, (200, 404, 409, 422), (verb, answer.content[:300]))
                if answer.status_code == 200:
                    done += 1
                    self.still_whole()
                else:
                    refused += 1
                    self.assertGreater(len(answer.json()["detail"]), 20, verb)
        self.assertGreater(min(done, refused), 10)
        self.closed_and_brought_in("AFTER")

    def test_an_element_that_costs_were_posted_on(self) -> None:
        """Costs may stand on an element: whatever is put into or under it, they stay, and the page closes."""
        document = json.loads(self.client.get("/api/projects/FERRY/export/book.json").content)
        element = document["wbs"][2]["code"]
        cost = {"wbs": element, "date": "2027-01-08", "amount": "500.00", "source": "invoice"}
        document["periods"][0]["costs"] = [*document["periods"][0].get("costs", []), cost]
        document["project"]["code"] = self.code = "POSTED"
        load_text(json.dumps(document).encode(), "POSTED")
        before = self.call("get", "projects/POSTED/pages/now/value")["project"]["figures"]["ac"]
        rows = self.plan()["rows"]
        row = next(r for r in rows if r["code"] == element)
        inside = [r["id"] for r in rows if r.get("parent") == row["id"]]
        brother = next(r["id"] for r in rows if r["kind"] == "wbs" and r["id"] != row["id"] and r.get("parent") == row.get("parent"))
        for verb in (
            {"do": "place", "rows": [brother], "parent": row["id"]},
            {"do": "place", "rows": [row["id"]], "after": rows[-1]["id"]},
            {"do": "indent", "rows": inside[1:2]},
            {"do": "outdent", "rows": [row["id"]]},
        ):
            body = {"revision": self.revision_of("POSTED"), "verbs": [verb]}
            answer = self.client.post("/api/projects/POSTED/plan/changes", json.dumps(body), content_type="application/json")
            self.assertIn(answer.status_code, (200, 409, 422), answer.content[:300])
            self.still_whole()
        self.assertEqual(self.call("get", "projects/POSTED/pages/now/value")["project"]["figures"]["ac"], before)
        self.assertIn("so it stays", self.change({"do": "remove", "rows": [row["id"]]}, status=409)["detail"])
        self.closed_and_brought_in("POSTED2")

    def test_a_milestone_that_was_reached_keeps_its_nature(self) -> None:
        self.begin()
        self.outline("Gate|0d\nWork|5d\n")
        gate = self.row("Gate")
        self.change({"do": "set", "row": gate["id"], "cells": {"kind": "milestone"}})
        self.sign_in("lorcan")
        self.call("post", "projects/QUAY/pages/P01/close", {"revision": self.revision_of("QUAY")})
        self.call(
            "patch",
            "projects/QUAY/pages/now/posting/entries",
            entry(self.revision_of("QUAY"), gate["code"], actual_finish="2027-01-05"),
        )
        stated = self.change({"do": "set", "row": gate["id"], "cells": {"kind": "task", "duration": "3d"}}, status=409)["detail"]
        self.assertIn("P02", stated)
        self.change({"do": "set", "row": gate["id"], "cells": {"name": "Gate passed"}})
        self.closed_and_brought_in("QUAY2")
