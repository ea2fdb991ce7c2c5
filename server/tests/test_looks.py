"""A look leaves nothing behind: whatever is previewed or refused, the kept plan and all that is made of it stay as they are."""

import json
from typing import Any

from django.core.files.uploadedfile import SimpleUploadedFile

from server.accounts.models import Person, Role
from server.book.cache import LruCache
from server.book.models import Baseline, Project
from server.plan.tests.test_changes import Plans


class Looks(Plans):
    def everything(self) -> str:
        """What anybody sees of the project, as one text."""
        pages = [self.call("get", f"projects/FERRY/pages/now/{part}") for part in ("posting", "value", "curve", "timeline", "balance")]
        return json.dumps([self.plan(), self.call("get", "projects/FERRY/about"), self.call("get", "projects/FERRY"), *pages])

    def test_no_preview_and_no_refusal_changes_what_anybody_sees(self) -> None:
        self.sign_in("lorcan")
        before = self.everything()
        plan, project = self.plan(), self.call("get", "projects/FERRY/about")["project"]["id"]
        work, other = next(r["id"] for r in plan["rows"] if r["code"] == "A550"), plan["calendars"][-1]
        looks: list[dict[str, Any]] = [
            {"do": "set", "row": project, "cells": {"calendar": other["code"]}},
            {"do": "set", "row": other["id"], "cells": {"code": "other", "name": "Other"}},
            {"do": "set", "row": project, "cells": {"code": "ELSE"}},
            {"do": "set", "row": project, "cells": {"start": "1 feb 2027"}},
            {"do": "set", "row": project, "cells": {"treatment": "override"}},
            {"do": "set", "row": work, "cells": {"code": "ZZ", "duration": "90d"}},
            {"do": "remove", "rows": [work]},
            {"do": "outline", "lines": [{"level": 0, "cells": {"name": "New"}}]},
        ]
        for verb in looks:
            self.change(verb, preview=True)
            self.assertEqual(self.everything(), before, verb)
        for cells in ({"start": "30 dec 9999"}, {"duration": "9999999999d"}, {"constraint": "must start on 31 dec 9999"}):
            row = project if "start" in cells else work
            self.change({"do": "set", "row": row, "cells": cells}, status=422)
            self.assertEqual(self.everything(), before, cells)
        LruCache.forget_all()
        self.assertEqual(self.everything(), before)
        self.change({"do": "set", "row": other["id"], "cells": {"code": "other"}})
        self.change({"do": "set", "row": project, "cells": {"start": "5 jan 2027"}})

    def test_a_note_after_a_look_stores_the_same_remaining(self) -> None:
        project = self.call("get", "projects/FERRY/about")["project"]["id"]
        row = next(r for r in self.call("get", "projects/FERRY/pages/now/posting")["rows"] if r["code"] == "A150")
        for calendar in self.plan()["calendars"]:
            self.change({"do": "set", "row": project, "cells": {"calendar": calendar["code"]}}, preview=True)
        now = next(r for r in self.post_entry("A150", note="Looked at")["rows"] if r["code"] == "A150")
        self.assertEqual((now["remaining_days"], now["finish_now"]), (row["remaining_days"], row["finish_now"]))


class Rights(Plans):
    """What takes an approver can't be had by another way."""

    def undo_or_redo(self, way: str, status: int = 200) -> Any:
        return self.call("post", f"projects/FERRY/{way}", {"revision": self.plan()["revision"]}, status)

    def test_undo_and_redo_take_the_role_of_the_step(self) -> None:
        self.sign_in("lorcan")
        body = {"revision": self.plan()["revision"], "name": "Second", "reason": "Change 9"}
        self.call("post", "projects/FERRY/baselines", body)
        self.sign_in("ines")
        self.assertEqual(self.undo_or_redo("undo", 409)["code"], "nothing-to-undo")
        approver = Person.objects.get(username="lorcan")
        self.sign_in("lorcan")
        for way in ("undo", "redo"):
            Person.objects.filter(pk=approver.pk).update(role=Role.ANALYST)
            self.assertIn("you need to be an approver", self.undo_or_redo(way, 403)["detail"])
            Person.objects.filter(pk=approver.pk).update(role=Role.APPROVER)
            if way == "undo":
                self.undo_or_redo("undo")
        self.assertEqual(Baseline.objects.filter(project__code="FERRY", name="Second").count(), 0)

    def test_what_is_measured_against_is_an_approvers_choice_in_every_way(self) -> None:
        project = self.call("get", "projects/FERRY/about")["project"]["id"]
        self.change({"do": "set", "row": project, "cells": {"measured_against": None}}, status=403)
        self.change({"do": "set", "row": project, "cells": {"compared_with": []}}, status=403)
        told = self.client.get("/api/projects/FERRY/export/book.json").content
        book = json.loads(told)
        book["project"]["measured_against"] = None
        book["baselines"] = [b | {"name": "Mine"} for b in book["baselines"]]
        file = SimpleUploadedFile("book.json", json.dumps(book).encode())
        sent = {"file": file, "apply": "true", "revision": self.plan()["revision"]}
        answer = self.client.post("/api/projects/FERRY/import", sent)
        self.assertIn(answer.status_code, (200, 403, 422))
        now = Project.objects.get(code="FERRY")
        self.assertIsNotNone(now.measured_against)
        self.assertFalse(Baseline.objects.filter(name="Mine").exists())
