"""Who may do what: every operation of the API document, asked by every role and by nobody. A new address can't be forgotten.

What is refused changes nothing, in no table. Bodies are empty: whoever may do a thing is told what is wrong with it instead.
"""

import hashlib
from collections.abc import Iterator
from typing import Any

from django.db import connection
from django.test import Client
from django.urls import URLPattern, URLResolver

from server.accounts.models import Person
from server.site.urls import api
from server.tests.addresses import Operation, address, operations
from server.tests.base import LedgerTest

OPEN = {("get", "/api/health"), ("get", "/api/session"), ("post", "/api/session"), ("delete", "/api/session")}
"""What nobody needs to be signed in for."""
READS = {
    ("post", "/api/projects/{project}/pages/{page}/selection"),
    ("post", "/api/projects/{project}/pages/{page}/timeline/print"),
    ("post", "/api/projects/{project}/pages/{page}/marks/try"),
    ("post", "/api/projects/{project}/options/proposals"),
}
"""What is posted but writes nothing: for readers."""
SAYS = {("post", "/api/projects/{project}/options/remarks")}
"""What readers write."""
KEPT_FROM_READERS = {("get", "/api/projects/{project}/feeds"), ("get", "/api/projects/{project}/feeds/{feed}")}
"""What comes in from outside, where it comes from, and what of it is wrong."""
APPROVES = {
    ("put", "/api/states"),
    ("post", "/api/projects/{project}/pages/{page}/report/editions/{number}/send"),
    ("post", "/api/projects/{project}/baselines"),
    ("put", "/api/projects/{project}/baselines"),
    ("post", "/api/projects/{project}/pages/{page}/buffers/promise"),
    ("post", "/api/projects/{project}/pages/{page}/report/issue"),
    ("post", "/api/projects/{project}/pages/{page}/marks/sets"),
    ("delete", "/api/projects/{project}/pages/{page}/marks/sets/{id}"),
}


def leaves(routes: list[URLPattern | URLResolver]) -> Iterator[URLPattern]:
    """Every route, those below others too."""
    for route in routes:
        if isinstance(route, URLResolver):
            yield from leaves(route.url_patterns)
        else:
            yield route


class Access(LedgerTest):
    def ask(self, client: Client, operation: Operation) -> Any:
        method, path = operation
        at = address(path)
        answer = client.get(at) if method == "get" else client.generic(method.upper(), at, b"{}", content_type="application/json")
        self.assertLess(answer.status_code, 500, f"{method} {at}")
        return answer

    def of(self, name: str) -> Client:
        client = Client()
        client.force_login(Person.objects.get(username=name), backend="django.contrib.auth.backends.ModelBackend")
        return client

    def digest(self) -> str:
        """Of every row that there is, the sign-ins aside."""
        found = hashlib.sha256()
        with connection.cursor() as cursor:
            for table in sorted(set(connection.introspection.table_names(cursor)) - {"django_session"}):
                cursor.execute(f'SELECT * FROM "{table}" ORDER BY 1')
                found.update(repr((table, cursor.fetchall())).encode())
        return found.hexdigest()

    def refused(self, client: Client, asked: list[Operation], status: int) -> None:
        before = self.digest()
        self.assertEqual([(o, s) for o in asked if (s := self.ask(client, o).status_code) != status], [])
        self.assertEqual(self.digest(), before)

    def not_refused(self, client: Client, asked: list[Operation]) -> None:
        self.assertEqual([(o, s) for o in asked if (s := self.ask(client, o).status_code) in (401, 403)], [])

    def test_every_address_is_in_the_document(self) -> None:
        routes = [route for route in leaves(api) if route.name != "schema"]
        self.assertEqual(len({path for _, path in operations()}), len({str(route.callback) for route in routes}))
        self.assertLessEqual(OPEN | READS | SAYS | APPROVES, set(operations()))

    def test_nobody_is_told_anything_before_signing_in(self) -> None:
        closed = [o for o in operations() if o not in OPEN]
        self.refused(Client(), closed, 401)
        words = {self.ask(Client(), o).json()["detail"] for o in closed}
        self.assertEqual(len(words), 1, "an address tells whether something is there")

    def test_readers_read_and_write_nothing_but_what_they_say(self) -> None:
        readable = {o for o in operations() if o[0] == "get" or o in READS | SAYS} - KEPT_FROM_READERS
        self.refused(self.of("maud"), [o for o in operations() if o not in readable | OPEN], 403)
        self.not_refused(self.of("maud"), [o for o in operations() if o in readable])

    def test_reading_writes_nothing(self) -> None:
        ines = self.of("ines")
        before = self.digest()
        self.not_refused(ines, [o for o in operations() if o[0] == "get" or o in READS])
        self.assertEqual(self.digest(), before)

    def test_analysts_do_all_but_approve(self) -> None:
        self.refused(self.of("ines"), [o for o in operations() if o in APPROVES], 403)
        self.not_refused(self.of("ines"), [o for o in operations() if o not in APPROVES | OPEN])

    def test_approvers_may_do_everything(self) -> None:
        self.not_refused(self.of("lorcan"), [o for o in operations() if o not in OPEN])
