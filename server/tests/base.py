"""What server tests start from: the demo book in a real database, and people of each role."""

import json
from functools import cache
from typing import Any

from django.apps import apps
from django.conf import settings
from django.contrib.auth.hashers import make_password
from django.db import connection
from django.test import Client, TestCase
from django.test.client import ClientHandler

from dryledger.exchange.book_json import parse_json
from server.accounts.models import Person, Role
from server.book.cache import LruCache
from server.book.loading import load_document
from server.book.models import Project

FERRY = settings.ROOT / "demo" / "ferry.json"


def ferry(pages: int | None = None) -> Any:
    """The demo book; `pages` keeps the last few dry, to load faster."""
    document: Any = parse_json(FERRY.read_bytes())
    if pages is not None:
        document["periods"] = [*document["periods"][: pages - 1], document["periods"][pages - 1] | {"state": "wet"}]
    return document


@cache
def _secret() -> str:
    return make_password("a long secret")


def entry(revision: int, activity: str, **typed: str) -> dict[str, Any]:
    """What is sent to post cells of one activity."""
    return {"revision": revision, "entries": [{"activity": activity} | typed]}


def make_people() -> None:
    """One person of each role, with the password “a long secret”."""
    for name, role in (("ines", Role.ANALYST), ("lorcan", Role.APPROVER), ("maud", Role.READER), ("tobin", Role.ANALYST)):
        Person.objects.create(username=name, password=_secret(), full_name=name.title() + " Test", role=role, demo=True)


class Quick(Client):
    """A client that shares what answers with the others: to make it reads all files of the pages."""

    answers: ClientHandler | None = None

    def __init__(self, **more: Any) -> None:
        super().__init__(**more)
        Quick.answers = self.handler = Quick.answers or self.handler


ROWS: dict[int, list[tuple[str, list[Any]]]] = {}
"""The rows of every table that tests start from, with so many pages: loaded once, then put in as they are."""


def lay(pages: int) -> Project:
    """The people and the demo project with so many pages."""
    connection.ensure_connection()
    database = connection.connection
    if pages in ROWS:
        for put, rows in ROWS[pages]:
            database.executemany(put, rows)
    else:
        tables = [m._meta.db_table for m in apps.get_models(include_auto_created=True) if m._meta.managed]
        empty = [t for t in tables if not database.execute(f'SELECT 1 FROM "{t}" LIMIT 1').fetchall()]
        make_people()
        load_document(ferry(pages))
        found = [(t, [tuple(row) for row in database.execute(f'SELECT * FROM "{t}"')]) for t in empty]
        ROWS[pages] = [(f'INSERT INTO "{t}" VALUES ({", ".join("?" * len(rows[0]))})', rows) for t, rows in found if rows]
    return Project.objects.get(code="FERRY")


class LedgerTest(TestCase):
    """The demo project, one page dry and the second wet, and a client for each person."""

    pages: int = 2
    client_class = Quick
    project: Project

    @classmethod
    def setUpTestData(cls) -> None:
        cls.project = lay(cls.pages)

    def setUp(self) -> None:
        LruCache.forget_all()  # the test before was rolled back, revisions and all
        self.sign_in("ines")

    def sign_in(self, name: str) -> None:
        self.client.force_login(Person.objects.get(username=name), backend="django.contrib.auth.backends.ModelBackend")

    def call(self, method: str, path: str, body: Any = None, status: int = 200) -> Any:
        """Call the API; fails where the status is another."""
        send = getattr(self.client, method)
        answer = send(f"/api/{path}") if method == "get" else send(f"/api/{path}", json.dumps(body), content_type="application/json")
        self.assertEqual(answer.status_code, status, answer.content[:400])
        return json.loads(answer.content) if answer.content else None

    def revision(self) -> int:
        revision: int = self.call("get", "projects/FERRY")["revision"]
        return revision

    def post_entry(self, code: str, status: int = 200, page: str = "now", revision: int | None = None, **typed: str) -> Any:
        """Type cells of an activity."""
        return self.call(
            "patch",
            f"projects/FERRY/pages/{page}/posting/entries",
            entry(self.revision() if revision is None else revision, code, **typed),
            status,
        )
