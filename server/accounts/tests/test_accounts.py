"""Signing in: by password, in demo mode, too often; who may do what; forged requests."""

import io
import json
from unittest import mock

from django.core.management import call_command
from django.test import Client, TestCase

from server.accounts.models import Person, Role
from server.accounts.roles import require
from server.shared.problems import NotAllowed
from server.tests.base import make_people


class SignIn(TestCase):
    def setUp(self) -> None:
        make_people()

    def post(self, **body: str) -> tuple[int, dict[str, object]]:
        answer = self.client.post("/api/session", json.dumps(body), content_type="application/json")
        return answer.status_code, json.loads(answer.content)

    def test_by_password(self) -> None:
        self.assertEqual(self.post(username="ines", password="a long secret")[0], 200)
        self.assertEqual(json.loads(self.client.get("/api/session").content)["person"]["full_name"], "Ines Test")
        self.assertEqual(self.client.delete("/api/session").status_code, 204)
        self.assertIsNone(json.loads(self.client.get("/api/session").content)["person"])

    def test_wrong_ones_are_told_the_same(self) -> None:
        self.assertEqual(self.post(username="ines", password="no"), self.post(username="nobody", password="no"))
        self.assertEqual(self.post(username="", password="no")[0], 400)
        self.assertEqual(self.post()[0], 400)

    def test_too_many_tries(self) -> None:
        for _ in range(10):
            status, body = self.post(username="maud", password="no")
        self.assertEqual((status, body["code"]), (429, "too-many-tries"))
        self.assertEqual(self.post(username="maud", password="a long secret")[0], 429)
        self.assertEqual(self.post(username="ines", password="a long secret")[0], 200)

    def test_a_demo_person_needs_demo_mode(self) -> None:
        self.assertEqual(self.post(username="ines")[0], 400)
        Person.objects.create_user("own", password="another secret", full_name="Own", role=Role.APPROVER)
        with self.settings(DEMO=True):
            self.assertEqual(self.post(username="own")[0], 400)
            self.assertEqual(self.post(username="ines")[0], 200)

    def test_a_forged_request_is_refused(self) -> None:
        forged = Client(enforce_csrf_checks=True)
        forged.force_login(Person.objects.get(username="ines"), backend="django.contrib.auth.backends.ModelBackend")
        answer = forged.post("/api/projects/X/undo", "{}", content_type="application/json")
        self.assertEqual((answer.status_code, json.loads(answer.content)["code"]), (403, "not-allowed"))


class Roles(TestCase):
    def test_each_role_may_what_those_before_it_may(self) -> None:
        for rank, role in enumerate(Role):
            person = Person(username=role, role=role)
            for needed, wanted in enumerate(Role):
                if needed <= rank:
                    require(person, wanted, "act")
                else:
                    with self.assertRaises(NotAllowed):
                        require(person, wanted, "act")

    def test_a_person_is_added_with_a_password_that_holds(self) -> None:
        with mock.patch("sys.stdin", io.StringIO("short\n")), self.assertRaises(SystemExit):
            call_command("add_person", "new", full_name="New One", stderr=io.StringIO())
        self.assertFalse(Person.objects.filter(username="new").exists())
        with mock.patch("sys.stdin", io.StringIO("a long secret here\n")):
            call_command("add_person", "new", full_name="New One", role="analyst", stdout=io.StringIO())
        self.assertTrue(Person.objects.get(username="new").check_password("a long secret here"))

    def test_demo_people_are_made_once(self) -> None:
        call_command("demo_people")
        call_command("demo_people")
        self.assertEqual(Person.objects.filter(demo=True).count(), 5)
        self.assertEqual([p.username for p in Person.objects.filter(administrator=True)], ["wren"])
        self.assertFalse(Person.objects.get(username="ines").has_usable_password())
