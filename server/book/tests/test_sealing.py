"""What a seal finds: every change behind it, each told as what it is, and nothing where there is none."""

from collections.abc import Callable
from typing import Any

import rfc8785
from django.db import transaction
from django.db.models import F
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as some

from core.tests.random_books import random_book
from server.accounts.models import Person
from server.book.loading import load_document
from server.book.models import Activity, Baseline, Page, Project, Seal, Statement
from server.book.sealing import canonical
from server.book.verify import verify
from server.journal.models import Step
from server.plan.tests.test_changes import Plans
from server.report.models import Edition

LEAVES = (
    some.none() | some.booleans() | some.integers(1 - 2**53, 2**53 - 1) | some.floats(allow_nan=False, allow_infinity=False) | some.text()
)


class Canonical(SimpleTestCase):
    @given(some.recursive(LEAVES, lambda x: some.lists(x) | some.dictionaries(some.text(), x), max_leaves=20))
    def test_the_quick_way_writes_what_the_standard_says(self, value: Any) -> None:
        self.assertEqual(canonical(value), rfc8785.dumps(value))


class Seals(Plans):
    pages = 3

    def setUp(self) -> None:
        super().setUp()
        self.sign_in("lorcan")

    def wrong(self) -> list[str]:
        return verify(Project.objects.get(code="FERRY")).wrong

    def test_what_is_untied_later_still_binds_on_the_pages_before(self) -> None:
        book = load_document(random_book(59, 8), "R59")
        for page in Page.objects.filter(project=book):
            for room in ("value", "trend", "value.xlsx"):
                self.assertEqual(self.client.get(f"/api/projects/R59/pages/{page.code}/{room}").status_code, 200, (page.code, room))
        self.assertEqual(verify(book).wrong, [])

    def test_what_people_may_do_is_no_tampering(self) -> None:
        self.call("post", "projects/FERRY/pages/P03/close", {"revision": self.revision()})
        plan, lists = self.plan(), self.call("get", "projects/FERRY/plan/lists")
        activity = next(r["id"] for r in plan["rows"] if r["code"] == "A110")
        element = next(r["id"] for r in plan["rows"] if r["kind"] == "wbs")
        own = [r for r in lists["resources"] if r["kept"] == "own"]
        self.change(
            {"do": "set", "row": activity, "cells": {"code": "RENAMED", "name": "Another name", "duration": "44d"}},
            {"do": "set", "row": element, "cells": {"code": "W-9", "name": "Another element"}},
            *({"do": "set", "row": r["id"], "cells": {"code": f"R{i}", "name": f"Somebody {i}"}} for i, r in enumerate(own)),
        )
        self.assertEqual(self.wrong(), [])
        body = {"revision": self.revision(), "status": "watch", "reason": "Late", "words": "…"}
        self.call("put", "projects/FERRY/pages/now/report", body)
        self.call("post", "projects/FERRY/pages/now/report/issue", {"revision": self.revision()})
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(self.wrong(), [])

    def test_every_change_behind_the_seals_is_told(self) -> None:
        body = {"revision": self.revision(), "status": "watch", "reason": "Late", "words": "…"}
        self.call("put", "projects/FERRY/pages/now/report", body)
        self.call("post", "projects/FERRY/pages/now/report/issue", {"revision": self.revision()})
        self.assertEqual(self.wrong(), [])
        dry, first = Page.objects.filter(state="dry"), Page.objects.filter(code="P01")
        someone = Person.objects.get(username="maud")
        tampers: dict[str, Callable[[], Any]] = {
            "who": lambda: first.update(closed_by=someone),
            "when": lambda: first.update(closed_at="2020-01-01T00:00:00Z"),
            "mark": lambda: first.update(mark="done"),
            "calculation": lambda: first.update(calculation=1),
            "number": lambda: Statement.objects.filter(page__code="P01", activity__code="A110").update(percent=1),
            "stands for another": lambda: Statement.objects.filter(page__code="P01", activity__code="A110").update(
                activity=Activity.objects.get(code="A550")
            ),
            "emptied": lambda: first.update(inputs=b"", results=b""),
            "damaged": lambda: first.update(results=b"nothing that unpacks"),
            "digest": lambda: first.update(digest="0" * 64),
            "wet again": lambda: dry.filter(code="P02").update(state="wet"),
            "deleted": lambda: dry.filter(code="P02").delete(),
            "all gone": lambda: (Edition.objects.all().delete(), Page.objects.all().delete()),
            "a baseline": lambda: Baseline.objects.filter(code="B0").update(content={}),
            "a baseline gone": lambda: Baseline.objects.filter(code="B0").delete(),
            "an edition": lambda: Edition.objects.update(html=F("status")),
            "an edition gone": lambda: Edition.objects.all().delete(),
            "a step": lambda: Step.objects.update(label="Nothing"),
            "a step gone": lambda: Step.objects.all().delete(),
            "a step turned": lambda: Step.objects.update(undone=True),
            "the last seal": lambda: Seal.objects.filter(project__code="FERRY").order_by("-number").first().delete(),  # type: ignore[union-attr]
            "all seals": lambda: Seal.objects.all().delete(),
        }
        for name, tamper in tampers.items():
            point = transaction.savepoint()
            tamper()
            self.assertTrue(self.wrong(), name)
            transaction.savepoint_rollback(point)
        self.assertEqual(self.wrong(), [])
