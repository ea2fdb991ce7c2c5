"""Rows keep what the core made: after any verbs the rows read as the changed book, and undone they are the book before."""

import json
import random
from typing import Any

from dryledger.changes.apply import apply_keyed
from server.book.cache import LruCache
from server.book.documents import book_document
from server.book.models import Project
from server.book.sealing import canonical
from server.book.workspace import workspace_of
from server.plan.sheet import project_sheet
from server.plan.tests.test_changes import Plans

ROUNDS = 20


class Rows(Plans):
    pages = 3

    def stored(self) -> bytes:
        """The book as its rows say, read anew."""
        LruCache.forget_all()
        return canonical(book_document(Project.objects.get(code="FERRY")))

    def verb(self, rng: random.Random) -> dict[str, Any]:
        rows = self.plan()["rows"]
        tasks, elements = [r["id"] for r in rows if r["kind"] != "wbs"], [r["id"] for r in rows if r["kind"] == "wbs"]
        a, b = rng.sample(tasks, 2)
        lists = self.call("get", "projects/FERRY/plan/lists")
        cells = rng.choice(
            [
                {"duration": f"{rng.randrange(1, 30)}d"},
                {"name": f"Name {rng.random()}", "code": f"X{rng.randrange(10**6)}"},
                {"constraint": "start on or after 1 jun 2027"},
                {"kind": "milestone", "duration": ""},
                {"calendar": rng.choice(self.plan()["calendars"])["code"]},
                {"profile": "bell"},
                {"weight": "2"},
            ]
        )
        choices: list[dict[str, Any]] = [
            {"do": "set", "row": a, "cells": cells},
            {"do": "set", "row": rng.choice(elements), "cells": {"code": f"W{rng.randrange(10**6)}"}},
            {"do": "set", "row": rng.choice(lists["resources"])["id"], "cells": {"code": f"R{rng.randrange(10**6)}"}},
            {"do": "set", "row": rng.choice(self.plan()["calendars"])["id"], "cells": {"code": f"K{rng.randrange(10**6)}"}},
            {"do": "add", "list": "links", "from": a, "to": b, "cells": {"type": rng.choice(["FS", "SS", "FF"]), "lag": "2d"}},
            {"do": "add", "list": "activities", "cells": {"name": "New"}, "after": a},
            {"do": "add", "list": "costs", "activity": a, "cells": {"name": f"C{rng.random()}", "amount": "12.50"}},
            {"do": "assign", "resource": rng.choice(lists["resources"])["id"], "rows": [a]},
            {"do": "remove", "rows": [rng.choice([a, rng.choice(elements)])]},
            {"do": "place", "rows": [a], "parent": rng.choice(elements)},
            {"do": "indent", "rows": [rng.choice([a, rng.choice(elements)])]},
            {"do": "outdent", "rows": [rng.choice([a, rng.choice(elements)])]},
            {"do": "element", "rows": [a], "name": "Above"},
            {"do": "chain", "rows": [a, b]},
            {"do": "outline", "lines": [{"level": 0, "cells": {"name": "O"}}, {"level": 1, "cells": {"name": "P", "duration": "2d"}}]},
        ]
        return rng.choice(choices)

    def test_rows_say_what_was_made_and_undo_gives_the_bytes_before(self) -> None:
        rng, done = random.Random(11), 0
        self.sign_in("lorcan")
        for _ in range(ROUNDS):
            verbs = [self.verb(rng) for _ in range(rng.randrange(1, 4))]
            before, project = self.stored(), Project.objects.get(code="FERRY")
            body = {"revision": project.revision, "verbs": verbs, "preview": False}
            answer = self.client.post("/api/projects/FERRY/plan/changes", json.dumps(body), content_type="application/json")
            if answer.status_code != 200 or answer.json()["revision"] == project.revision:
                self.assertIn(answer.status_code, (200, 400, 404, 409, 422), answer.content[:300])
                self.assertEqual(self.stored(), before, verbs)
                continue
            done += 1
            kept = workspace_of(Project.objects.get(code="FERRY")).book
            after = self.stored()
            self.assertEqual(workspace_of(Project.objects.get(code="FERRY")).book, kept, verbs)
            self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
            self.assertEqual(self.stored(), before, verbs)
            made = self.alone(verbs)
            self.call("post", "projects/FERRY/redo", {"revision": self.revision()})
            self.assertEqual(self.stored(), after, verbs)
            self.assertEqual(len(made.activities), len(kept.activities))
            self.assertEqual({x.code: x for x in made.activities}, {x.code: x for x in kept.activities}, verbs)
            self.assertEqual(made.links, kept.links)
        self.assertGreater(done, ROUNDS // 3)

    def alone(self, verbs: list[dict[str, Any]]) -> Any:
        """What the core makes of the verbs by itself."""
        project = Project.objects.get(code="FERRY")
        sheet = project_sheet(project)
        return apply_keyed(workspace_of(project).keyed, verbs, sheet.results.schedule.activities).book
