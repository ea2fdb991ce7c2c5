"""Who may do what: every operation of the API document, asked by every role, member or not, and by nobody: none can be forgotten.

What is refused changes nothing, in no table; what may not be seen is not told. Bodies are empty: whoever may do a thing is told what is
wrong with it instead.
"""

import hashlib
from collections.abc import Iterator
from typing import Any

from django.db import connection
from django.test import Client
from django.urls import URLPattern, URLResolver

from server.accounts.models import Audit, Person
from server.book.membership import Member
from server.book.models import Project
from server.site.urls import api
from server.tests.addresses import Operation, address, operations
from server.tests.base import LedgerTest

OPEN = {("get", "/api/health"), ("get", "/api/session"), ("post", "/api/session"), ("delete", "/api/session")}
OPEN |= {("get", "/api/sheets/{token}"), ("post", "/api/sheets/{token}")}
"""What nobody needs to be signed in for."""
READS = {
    ("post", "/api/projects/{project}/pages/{page}/selection"),
    ("post", "/api/projects/{project}/pages/{page}/timeline/print"),
    ("post", "/api/projects/{project}/pages/{page}/marks/try"),
    ("post", "/api/projects/{project}/options/proposals"),
    ("post", "/api/projects/{project}/plan/offered"),
    ("post", "/api/desk/sums"),
}
"""What is posted but writes nothing: for readers."""
SAYS = {("post", "/api/projects/{project}/options/remarks")}
"""What readers write."""
KEPT_FROM_READERS = {("get", "/api/projects/{project}/feeds"), ("get", "/api/projects/{project}/feeds/{feed}")}
KEPT_FROM_READERS |= {("get", f"/api/projects/{{project}}/pages/{{page}}/asking{x}") for x in ("", "/{id}/sheet.{form}")}
"""What comes in from outside, where it comes from, and what of it is wrong."""
ORGANISATIONS = {
    (m, f"/api/{x}")
    for m, x in (("put", "resources"), ("post", "resources"), ("delete", "resources"), ("put", "kinds"), ("delete", "kinds"))
}
"""The lists that the organisation keeps for all projects."""
APPROVES = {
    ("put", "/api/states"),
    *ORGANISATIONS,
    ("post", "/api/projects/{project}/pages/{page}/report/editions/{number}/send"),
    ("post", "/api/projects/{project}/changes/{change}/decision"),
    ("post", "/api/projects/{project}/baselines"),
    ("put", "/api/projects/{project}/baselines"),
    ("post", "/api/projects/{project}/baselines/{baseline}/away"),
    ("post", "/api/projects/{project}/standing"),
    ("post", "/api/projects/{project}/delete"),
    ("post", "/api/projects/{project}/pages/{page}/buffers/promise"),
    ("post", "/api/projects/{project}/pages/{page}/report/issue"),
    ("post", "/api/projects/{project}/pages/{page}/marks/sets"),
    ("delete", "/api/projects/{project}/pages/{page}/marks/sets/{id}"),
    ("put", "/api/projects/{project}/members"),
}
OWN = {("put", "/api/session/password"), ("patch", "/api/session/formats"), ("get", "/api/sessions"), ("delete", "/api/sessions/{id}")}
OWN |= {("put", "/api/desk/views"), ("delete", "/api/desk/views"), ("get", "/api/my-work"), ("post", "/api/my-work")}
"""What everybody who is signed in does with their own."""
ORGANISATION = {
    ("put", "/api/states"),
    *ORGANISATIONS,
    ("post", "/api/projects/{project}/pages/{page}/marks/sets"),
    ("delete", "/api/projects/{project}/pages/{page}/marks/sets/{id}"),
}
"""What the organisation keeps, whatever somebody is in one project."""
BEGINS = {("post", "/api/projects/{project}/baselines/{baseline}/back")}
"""What makes another project of the organisation."""


def administers(operation: Operation) -> bool:
    """What is for administrators."""
    return operation[1].startswith(("/api/people", "/api/access", "/api/audit"))


def of_project(operation: Operation) -> bool:
    """What is asked of one project."""
    return operation[1].startswith("/api/projects/{project}")


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

    def digest(self, *but: str) -> str:
        """Of every row that there is, the sign-ins and what is only a summary of others aside."""
        found = hashlib.sha256()
        with connection.cursor() as cursor:
            for table in sorted(set(connection.introspection.table_names(cursor)) - {"django_session", "desk_projectsummary", *but}):
                cursor.execute(f'SELECT * FROM "{table}" ORDER BY 1')
                found.update(repr((table, cursor.fetchall())).encode())
        return found.hexdigest()

    def refused(self, client: Client, asked: list[Operation], status: int) -> None:
        before = self.digest()
        self.assertEqual([(o, s) for o in asked if (s := self.ask(client, o).status_code) != status], [])
        self.assertEqual(self.digest(), before)

    def not_refused(self, client: Client, asked: list[Operation]) -> None:
        self.assertEqual([(o, s) for o in asked if (s := self.ask(client, o).status_code) in (401, 403)], [])

    def person(self, name: str, role: str, **more: Any) -> Client:
        Person.objects.create(username=name, full_name=name.title(), role=role, **more)
        return self.of(name)

    def member(self, name: str, role: str) -> None:
        Member.objects.create(project=self.project, person=Person.objects.get(username=name), role=role)

    def shut(self) -> None:
        """The project is for its members alone."""
        Project.objects.filter(pk=self.project.pk).update(members_only=True)

    def test_every_address_is_in_the_document(self) -> None:
        routes = [route for route in leaves(api) if route.name != "schema"]
        self.assertEqual(len({path for _, path in operations()}), len({str(route.callback) for route in routes}))
        self.assertLessEqual(OPEN | READS | SAYS | APPROVES | OWN | ORGANISATION | BEGINS, set(operations()))

    def test_nobody_is_told_anything_before_signing_in(self) -> None:
        closed = [o for o in operations() if o not in OPEN]
        self.refused(Client(), closed, 401)
        words = {self.ask(Client(), o).json()["detail"] for o in closed}
        self.assertEqual(len(words), 1, "an address tells whether something is there")

    def test_nothing_is_done_with_a_password_that_is_due(self) -> None:
        Person.objects.filter(username="lorcan").update(expired=True, administrator=True)
        own = ("put", "/api/session/password")
        self.refused(self.of("lorcan"), [o for o in operations() if o not in OPEN and o != own], 403)
        self.not_refused(self.of("lorcan"), [own])

    def reads_only(self, client: Client, asked: list[Operation]) -> None:
        readable = {o for o in asked if o[0] == "get" or o in READS | SAYS | OWN} - KEPT_FROM_READERS
        self.refused(client, [o for o in asked if o not in readable | OPEN], 403)
        self.not_refused(client, [o for o in asked if o in readable])

    def test_readers_read_and_write_nothing_but_what_they_say(self) -> None:
        self.reads_only(self.of("maud"), [o for o in operations() if not administers(o)])

    def test_reading_writes_nothing_but_that_a_file_was_taken(self) -> None:
        ines = self.of("ines")
        before = self.digest("accounts_audit")
        reads = [o for o in operations() if (o[0] == "get" or o in READS) and not administers(o)]
        self.not_refused(ines, reads)
        self.assertEqual(self.digest("accounts_audit"), before)
        self.assertEqual(set(Audit.objects.filter(number__gt=1).values_list("kind", flat=True)) - {"sign-in"}, {"export"})

    def test_analysts_do_all_but_approve(self) -> None:
        asked = [o for o in operations() if not administers(o)]
        self.refused(self.of("ines"), [o for o in asked if o in APPROVES], 403)
        self.not_refused(self.of("ines"), [o for o in asked if o not in APPROVES | OPEN])

    def test_approvers_may_do_everything_but_administer(self) -> None:
        self.not_refused(self.of("lorcan"), [o for o in operations() if o not in OPEN and not administers(o)])
        self.refused(self.of("lorcan"), [o for o in operations() if administers(o)], 403)

    def test_administrators_administer_and_need_not_see_what_they_give_access_to(self) -> None:
        wren = self.person("wren", "none", administrator=True)
        self.not_refused(wren, [o for o in operations() if administers(o)])
        self.refused(wren, [o for o in operations() if of_project(o)], 404)

    def hidden(self, client: Client) -> None:
        """Nothing of the project is told, not even that there is one: the words are those for one that nobody ever began."""
        asked = [o for o in operations() if of_project(o)]
        self.refused(client, asked, 404)
        self.assertEqual({self.ask(client, o).json()["detail"] for o in asked}, {"There is no project “FERRY”."})
        for o in operations():
            if not of_project(o) and o[0] == "get" and not administers(o):
                self.assertNotIn(b"Corran", self.ask(client, o).content, o)
        copy = {"name": "Mine", "source": "copy", "of": "FERRY"}
        answer = client.post("/api/projects", copy, content_type="application/json")
        self.assertIn(answer.status_code, (403, 404))

    def test_a_project_for_members_only_is_not_told_to_others(self) -> None:
        self.shut()
        for name in ("maud", "ines", "lorcan"):
            self.hidden(self.of(name))

    def test_who_is_nothing_in_the_organisation_sees_what_they_are_a_member_of(self) -> None:
        guest = self.person("guest", "none")
        self.hidden(guest)
        self.member("guest", "reader")
        self.reads_only(guest, [o for o in operations() if of_project(o)])
        self.assertIn(b"Corran", guest.get("/api/projects").content)

    def test_a_contributor_sees_nothing_but_what_is_asked_of_them(self) -> None:
        guest = self.person("guest", "none")
        self.member("guest", "contributor")
        self.hidden(guest)
        self.assertEqual(guest.get("/api/projects").json()["projects"], [])
        self.assertEqual(guest.get("/api/my-work").json(), {"name": "Guest", "work": []})
        self.member("maud", "contributor")  # less than in the organisation
        self.hidden(self.of("maud"))

    def test_a_role_at_the_project_counts_there(self) -> None:
        self.shut()
        self.member("maud", "analyst")
        self.member("lorcan", "reader")
        asked = [o for o in operations() if of_project(o)]
        self.refused(self.of("maud"), [o for o in asked if o in APPROVES], 403)
        self.not_refused(self.of("maud"), [o for o in asked if o not in APPROVES | BEGINS])
        self.refused(self.of("maud"), list(BEGINS), 403)
        self.reads_only(self.of("lorcan"), asked)
        self.member("ines", "approver")
        self.not_refused(self.of("ines"), [o for o in asked if o not in ORGANISATION])
        self.refused(self.of("ines"), [o for o in operations() if o in ORGANISATION], 403)

    def test_undo_asks_for_the_role_of_now(self) -> None:
        self.post_entry("A150", percent="40")
        self.member("ines", "reader")
        before = self.digest()
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()}, 403)
        self.assertEqual(self.digest(), before)
