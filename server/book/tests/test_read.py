"""Reading books out of rows: many at once as each by itself, as often asked for as one, and nothing that is not of one moment."""

import json
from typing import Any

from django.conf import settings
from django.db import connection
from django.test import TestCase
from django.test.utils import CaptureQueriesContext

from core.tests.random_books import random_book
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import book_from
from server.book.cache import LruCache
from server.book.loading import load_document
from server.book.models import Activity, Page, Project
from server.book.read import read_project, read_projects
from server.book.workspace import read_together, workspace_of
from server.tests.base import LedgerTest


class ManyAtOnce(TestCase):
    def setUp(self) -> None:
        LruCache.forget_all()
        for name in ("buoys", "radar", "lights", "winch"):
            document = json.loads((settings.ROOT / "demo" / f"{name}.json").read_text())
            document["periods"] = document.get("periods", [])[:2]
            load_document(document)

    def random(self, count: int) -> None:
        for seed in range(count):
            document: Any = random_book(seed, 6)
            try:
                book_from(document)
            except BookInvalid:
                continue
            load_document(document, f"R{seed}")

    def test_each_is_what_it_is_read_by_itself(self) -> None:
        self.random(12)
        projects = list(Project.objects.all())
        found = read_projects(projects)
        self.assertEqual(set(found), {p.pk for p in projects})
        for p in projects:
            alone = read_project(p)
            self.assertEqual(found[p.pk], alone, p.code)

    def asked(self, projects: list[Project]) -> int:
        with CaptureQueriesContext(connection) as found:
            read_projects(projects)
        return len(found)

    def test_the_database_is_asked_no_more_often_for_many_than_for_one(self) -> None:
        projects = list(Project.objects.all())
        self.assertEqual(self.asked(projects), self.asked(projects[:1]))

    def test_what_makes_no_book_is_left_to_be_read_by_itself_and_what_was_written_since_comes_as_it_is_now(self) -> None:
        projects = list(Project.objects.order_by("pk"))
        broken, moved, *others = projects
        Activity.objects.filter(project=broken).update(calendar="gone")
        Project.objects.filter(pk=moved.pk).update(revision=moved.revision + 1)
        found = read_projects(projects)
        self.assertEqual(set(found), {p.pk for p in (moved, *others)})
        self.assertEqual(found[moved.pk][0], moved.revision + 1)
        with self.assertRaises(BookInvalid):
            read_project(broken)

    def test_workspaces_are_had_at_once_and_kept(self) -> None:
        projects = list(Project.objects.all())
        read_together(projects)
        with CaptureQueriesContext(connection) as found:
            for p in projects:
                self.assertEqual(workspace_of(p).revision, p.revision)
        self.assertFalse([q["sql"] for q in found if "book_activity" in q["sql"] and "book_external" not in q["sql"]])
        with CaptureQueriesContext(connection) as found:
            read_together(projects)
        self.assertEqual(len(found), 0)


class Again(LedgerTest):
    """After a step only what it wrote is read again, and comes out as if all were."""

    def check(self) -> None:
        project = Project.objects.get(code="FERRY")
        kept, (_, fresh) = workspace_of(project).keyed, read_project(project)
        for name, rows in fresh.rows.items():
            self.assertEqual(kept.rows[name], rows, name)
        self.assertEqual(kept.book, fresh.book)

    def change(self, *verbs: Any) -> None:
        revision = Project.objects.get(code="FERRY").revision
        self.call("post", "projects/FERRY/plan/changes", {"revision": revision, "verbs": verbs})

    def test_after_each_sort_of_step(self) -> None:
        rows = {r["code"]: r["id"] for r in self.call("get", "projects/FERRY/plan")["rows"]}
        self.post_entry("A150", percent="41")
        self.check()
        self.change({"do": "set", "row": rows["A250"], "cells": {"duration": "9d", "fields.deck": "Quay"}})
        self.check()
        self.change({"do": "link", "from": rows["A250"], "to": rows["A860"]}, {"do": "add", "list": "risks", "cells": {"name": "Fog"}})
        self.check()
        self.change({"do": "set", "row": rows["A250"], "cells": {"code": "B250"}})
        self.check()
        page = Page.objects.get(project__code="FERRY", state="wet")
        self.call("patch", "projects/FERRY/pages/now/note", {"revision": self.revision(), "note": "Fog all week"}, 200)
        self.check()
        self.assertEqual(Page.objects.get(pk=page.pk).note, "Fog all week")
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.check()
