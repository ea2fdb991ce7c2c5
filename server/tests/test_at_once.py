"""Several people at once, each with requests of their own: nobody waits for another's long work, and nothing gets mixed up."""

import json
import threading
from collections.abc import Callable
from http.server import BaseHTTPRequestHandler

from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command
from django.db import connection
from django.test import Client, TransactionTestCase, override_settings

from server.accounts.models import Person
from server.book.access import Access
from server.book.cache import LruCache
from server.book.loading import load_document
from server.book.models import Assignment, Page, Project
from server.book.workspace import workspace_of
from server.feeds.models import Feed
from server.feeds.tests.test_feeds import Source, says
from server.resources.loads import loads_out
from server.tests.base import entry, ferry, make_people


class AtOnce(TransactionTestCase):
    """Real requests at the same time."""

    def setUp(self) -> None:
        LruCache.forget_all()
        make_people()
        load_document(ferry(2))
        load_document(ferry(2) | {"project": ferry(2)["project"] | {"code": "OTHER"}})

    def client_of(self, name: str) -> Client:
        client = Client()
        client.force_login(Person.objects.get(username=name), backend="django.contrib.auth.backends.ModelBackend")
        return client

    def test_a_request_sees_one_book_while_another_writes(self) -> None:
        client, old = self.client_of("ines"), Project.objects.get(code="FERRY")
        begun = Project.objects.get(code="FERRY")
        held = workspace_of(begun)
        verbs = [{"do": "add", "list": "resources", "cells": {"name": "Crane hire"}}]
        body = {"revision": old.revision, "verbs": verbs}
        self.assertEqual(client.post("/api/projects/FERRY/plan/changes", body, content_type="application/json").status_code, 200)
        self.assertIs(workspace_of(begun), held)  # what had begun goes on with what it saw
        names = [[x.name for x in loads_out(Access(Person.objects.get(username="ines"), p, "analyst"), "week").loads] for p in (begun, old)]
        self.assertEqual(["Crane hire" in found for found in names], [False, True])
        self.assertEqual(workspace_of(old).revision, old.revision + 1)

    def test_twenty_compute_options_while_others_post(self) -> None:
        client = self.client_of("ines")
        base = "/api/projects/FERRY"
        made = client.post(f"{base}/options", {"name": "Quicker", "proposals": []}, content_type="application/json").json()
        rows = {r["code"]: r["id"] for r in client.get(f"{base}/plan").json()["rows"]}
        told: list[tuple[str, int]] = []

        def compute(i: int) -> None:
            own = self.client_of(("maud", "lorcan", "ines", "tobin")[i % 4])
            told.append(("board", own.get(f"{base}/options").status_code))
            told.append(("overlay", own.get(f"{base}/options/overlay").status_code))
            body = {"next": 4 * i}
            told.append(("proposals", own.post(f"{base}/options/proposals", body, content_type="application/json").status_code))
            if i % 4 == 2:
                at = f"{base}/options/{made['id']}/plan"
                seen = own.get(at).json()["revision"]
                verbs = [{"do": "set", "row": rows["A820"], "cells": {"duration": f"{3 + i}d"}}]
                body2 = {"revision": seen, "verbs": verbs}
                status = own.post(f"{at}/changes", body2, content_type="application/json").status_code
                told.append(("change", status if status != 409 else 200))  # another change of the same option came first
            connection.close()

        def enter() -> None:
            own = self.client_of("tobin")
            for n in range(6):
                revision = own.get(base).json()["revision"]
                body = entry(revision, "A150", percent=str(30 + n))
                told.append(("entry", own.patch(f"{base}/pages/now/posting/entries", body, content_type="application/json").status_code))
            connection.close()

        threads = [threading.Thread(target=compute, args=(i,)) for i in range(20)] + [threading.Thread(target=enter)]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
        self.assertEqual([x for x in told if x[1] != 200], [])
        self.assertEqual(len([x for x in told if x[0] == "entry"]), 6)

    def test_on_a_full_disk_writing_is_refused_in_words_and_reading_goes_on(self) -> None:
        client = self.client_of("ines")
        at = "/api/projects/FERRY"
        with connection.cursor() as cursor:
            self.addCleanup(cursor.connection.execute, "PRAGMA max_page_count = 1000000")
            cursor.execute("PRAGMA page_count")
            cursor.execute(f"PRAGMA max_page_count = {cursor.fetchone()[0]}")
        revision = client.get(at).json()["revision"]
        for _ in range(300):  # until what room there is in the file is used
            body = entry(revision, "A150", note="x" * 3900)
            answer = client.patch(f"{at}/pages/now/posting/entries", body, content_type="application/json")
            revision += answer.status_code == 200
            if answer.status_code != 200:
                break
        self.assertEqual((answer.status_code, answer.json()["code"]), (507, "disk-full"))
        self.assertIn("nothing was written", answer.json()["detail"])
        signing_in = Client().post("/api/session", {"username": "maud", "password": "a long secret"}, content_type="application/json")
        self.assertIn(signing_in.status_code, (200, 507))
        for path in ("", "/plan", "/pages/now/posting", "/pages/now/value", "/pages/now/report"):
            self.assertEqual(client.get(f"{at}{path}").status_code, 200)
        self.assertEqual(client.get("/api/projects").status_code, 200)
        self.assertEqual(client.get(at).json()["revision"], revision)

    def test_a_feed_deleted_while_it_is_fetched_stays_deleted(self) -> None:
        client, going, told = self.client_of("ines"), threading.Event(), list[int]()

        def answer(h: BaseHTTPRequestHandler) -> None:
            going.set()
            deleted.wait(30)
            says(b"id,person,date,activity,hours\r\n1,A,2027-01-20,A150,1\r\n")(h)

        source, deleted = Source(answer), threading.Event()
        self.addCleanup(source.server_close)
        self.addCleanup(source.shutdown)
        with override_settings(FEED_HOSTS=("127.0.0.1",)):
            body = {"name": "Hours", "kind": "timesheet", "address": source.address}
            made = client.post("/api/projects/FERRY/feeds", body, content_type="application/json").json()["feeds"][-1]["id"]
            at = f"/api/projects/FERRY/feeds/{made}"

            def fetch() -> None:
                told.append(self.client_of("tobin").post(f"{at}/fetch", {}, content_type="application/json").status_code)
                connection.close()

            fetching = threading.Thread(target=fetch)
            fetching.start()
            going.wait(30)
            self.assertEqual(client.delete(at).status_code, 200)
            deleted.set()
            fetching.join()
        self.assertEqual((told, Feed.objects.count()), ([404], 0))

    def test_ten_look_at_once_while_another_enters(self) -> None:
        plan = self.client_of("ines").get("/api/projects/FERRY/plan").json()
        rows = [r["id"] for r in plan["rows"] if r["kind"] == "task"]
        told: list[tuple[str, int]] = []

        def look(i: int) -> None:
            body = {"revision": plan["revision"], "preview": True, "verbs": [{"do": "set", "row": rows[i], "cells": {"duration": "30d"}}]}
            answer = self.client_of("ines").post("/api/projects/FERRY/plan/changes", body, content_type="application/json")
            told.append(("look", answer.status_code))
            connection.close()

        def enter() -> None:
            client = self.client_of("tobin")
            for i in range(5):
                revision = client.get("/api/projects/OTHER").json()["revision"]
                body = entry(revision, "A150", percent=str(30 + i))
                answer = client.patch("/api/projects/OTHER/pages/now/posting/entries", body, content_type="application/json")
                told.append(("entry", answer.status_code))
            connection.close()

        threads = [threading.Thread(target=look, args=(i,)) for i in range(10)] + [threading.Thread(target=enter)]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
        self.assertEqual(sorted(told), [("entry", 200)] * 5 + [("look", 200)] * 10)
        self.assertEqual(self.client_of("ines").get("/api/projects/FERRY/plan").json(), plan)
        call_command("verify_pages", verbosity=0)

    def at_once(self, *works: Callable[[], object]) -> None:
        """Run them side by side; an error in one fails the test."""
        wrong: list[BaseException] = []

        def run(work: Callable[[], object]) -> None:
            try:
                work()
            except BaseException as error:
                wrong.append(error)
            finally:
                connection.close()

        threads = [threading.Thread(target=run, args=(work,)) for work in works]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
        self.assertEqual(wrong, [])

    def entries(self, done: threading.Event, told: list[int]) -> None:
        """Enter in the other project, again and again, until all else is done."""
        client = self.client_of("tobin")
        while True:
            last = done.is_set()
            revision = client.get("/api/projects/OTHER").json()["revision"]
            body = entry(revision, "A150", percent=str(20 + len(told) % 60))
            path = "/api/projects/OTHER/pages/now/posting/entries"
            told.append(client.patch(path, body, content_type="application/json").status_code)
            if last:
                return

    def test_entries_go_on_while_a_book_comes_in_a_report_goes_out_and_people_are_assigned(self) -> None:
        plan = self.client_of("ines").get("/api/projects/FERRY/plan").json()
        tasks = [r["id"] for r in plan["rows"] if r["kind"] == "task"]
        resource = plan["resources"][0]["id"]
        done, told = threading.Event(), list[int]()
        answers: dict[str, int] = {}

        def import_a_book() -> None:
            whole = json.dumps(ferry(4) | {"project": ferry(4)["project"] | {"code": "THIRD"}}, default=float).encode()
            sent = {"file": SimpleUploadedFile("third.json", whole), "apply": "true"}
            answers["import"] = self.client_of("ines").post("/api/import", sent).status_code

        def report_and_assign() -> None:
            client = self.client_of("lorcan")
            base, page = "/api/projects/FERRY", "/api/projects/FERRY/pages/now/report"
            many = [{"do": "assign", "rows": tasks, "resource": resource, "cells": {"units": "1"}}]
            for name, send, path, body in (
                ("draft", client.put, page, {"status": "watch", "reason": "Late", "words": "…"}),
                ("issue", client.post, f"{page}/issue", {}),
                ("assign", client.post, f"{base}/plan/changes", {"verbs": many}),
            ):
                revision = client.get(base).json()["revision"]
                answers[name] = send(path, body | {"revision": revision}, content_type="application/json").status_code

        def long_work() -> None:
            try:
                import_a_book()
                report_and_assign()
            finally:
                done.set()

        self.at_once(long_work, lambda: self.entries(done, told))
        self.assertEqual((answers, set(told)), ({"import": 200, "draft": 200, "issue": 200, "assign": 200}, {200}))
        self.assertEqual(Assignment.objects.filter(project__code="FERRY", resource__code=plan["resources"][0]["code"]).count(), len(tasks))
        call_command("verify_pages", verbosity=0)

    def test_a_frame_is_asked_for_while_a_project_begins(self) -> None:
        done, seen = threading.Event(), set[int]()

        def look() -> None:
            client = self.client_of("maud")
            while not done.is_set():
                seen.add(client.get("/api/projects/BORN").status_code)
                self.assertEqual(client.get("/api/projects").status_code, 200)
            seen.add(client.get("/api/projects/BORN").status_code)

        def begin() -> None:
            body = {"name": "Born", "code": "BORN", "start": "4 jan 2027", "currency": "EUR", "source": "copy", "of": "FERRY"}
            try:
                self.assertEqual(self.client_of("ines").post("/api/projects", body, content_type="application/json").status_code, 200)
            finally:
                done.set()

        self.at_once(begin, look)
        self.assertLessEqual({200}, seen)
        self.assertLessEqual(seen, {200, 404})

    def test_two_people_type_into_the_same_project(self) -> None:
        """Of two who saw the same revision one is told that the other was first; no entry is lost without a word."""
        revision = self.client_of("ines").get("/api/projects/FERRY").json()["revision"]
        told: list[int] = []

        def enter(name: str, code: str) -> Callable[[], None]:
            def work() -> None:
                body = entry(revision, code, note=name)
                path = "/api/projects/FERRY/pages/now/posting/entries"
                told.append(self.client_of(name).patch(path, body, content_type="application/json").status_code)

            return work

        self.at_once(enter("ines", "A150"), enter("tobin", "A160"))
        self.assertEqual(sorted(told), [200, 409])

    def test_a_desk_of_forty_projects_keeps_what_it_worked_out(self) -> None:
        small = ferry(2)
        small["activities"] = [a | {"value_method": {"type": "percent"}} for a in small["activities"][:5]]
        codes = {a["code"] for a in small["activities"]}
        for key in ("assignments", "costs"):
            small[key] = [x for x in small[key] if x["activity"] in codes]
        small |= {"links": [], "periods": [], "baselines": [], "estimates": [], "orders": [], "changes": []}
        small["project"] = {k: v for k, v in small["project"].items() if k not in ("measured_against", "compared_with")}
        for i in range(38):
            load_document(small | {"project": small["project"] | {"code": f"S{i}"}})
        client = self.client_of("maud")
        self.assertEqual(len(client.get("/api/projects").json()["projects"]), 40)
        # Who asks, projects, open pages, who waits, reports due, roles, views, who is asked; no book is read again.
        with self.assertNumQueries(9):
            client.get("/api/projects")
        self.assertEqual(Page.objects.filter(state="wet").count(), Project.objects.count())
