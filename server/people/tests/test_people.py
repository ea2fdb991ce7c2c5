"""Administrators and people: ways in given, taken and lifted; access to projects; lists; and a trail that can't be changed unseen."""

import json
from datetime import timedelta
from typing import Any

from axes.models import AccessAttempt
from django.conf import settings
from django.db import connection
from django.test import Client
from django.utils import timezone

from server.accounts import audit
from server.accounts.models import Audit, Person
from server.book.membership import Member
from server.people import actions
from server.shared.problems import NotAllowed
from server.tests.base import LedgerTest

OTHER = "quite another secret"


class PeopleTest(LedgerTest):
    def setUp(self) -> None:
        super().setUp()
        Person.objects.create_user("wren", password="a long secret", full_name="Wren Test", role="reader", administrator=True)
        self.sign_in("wren")

    def ask(self, client: Client, method: str, path: str, **body: Any) -> tuple[int, Any]:
        answer = client.generic(method, f"/api/{path}", json.dumps(body), content_type="application/json")
        return answer.status_code, json.loads(answer.content) if answer.content else None

    def enter(self, name: str, password: str) -> tuple[Client, int]:
        client = Client()
        return client, self.ask(client, "POST", "session", username=name, password=password)[0]

    def id_of(self, name: str) -> int:
        return int(Person.objects.values_list("pk", flat=True).get(username=name))

    def does(self, name: str, do: str, status: int = 200) -> Any:
        return self.call("post", f"people/{self.id_of(name)}", {"do": do}, status)

    def row(self, name: str) -> Any:
        return next(p for p in self.call("get", "people")["people"] if p["username"] == name)

    def trail(self) -> list[str]:
        return [x["what"] for x in self.call("get", "audit")["lines"]]


class WaysIn(PeopleTest):
    def test_somebody_new_signs_in_once_with_what_they_were_given_and_chooses_another(self) -> None:
        made = self.call("post", "people", {"username": "idris", "full_name": " Idris  Vane ", "role": "analyst"})
        client, status = self.enter("idris", made["password"])
        self.assertEqual((status, made["person"]["full_name"], made["person"]["password_due"]), (200, "Idris Vane", True))
        self.assertEqual(self.ask(client, "GET", "projects")[1]["code"], "password-due")
        for new, code in (("short", "password-weak"), (made["password"], "password-same")):
            status, told = self.ask(client, "PUT", "session/password", old=made["password"], new=new)
            self.assertEqual((status, told["code"], told["field"]), (422, code, "new"))
        self.assertEqual(self.ask(client, "PUT", "session/password", old="no", new=OTHER)[1]["field"], "old")
        self.assertEqual(self.ask(client, "PUT", "session/password", old=made["password"], new=OTHER)[0], 200)
        self.assertEqual(self.ask(client, "GET", "projects")[0], 200)
        self.assertEqual(self.enter("idris", made["password"])[1], 400)
        self.assertNotIn(made["password"], json.dumps(self.call("get", "audit")))

    def test_names_that_cannot_be_are_told_beside_their_field(self) -> None:
        for body, field in (
            ({"username": "a b", "full_name": "A"}, "username"),
            ({"username": "INES", "full_name": "A"}, "username"),
            ({"username": "new", "full_name": "  "}, "full_name"),
            ({"username": "new", "full_name": "A", "role": "king"}, "role"),
        ):
            answer = self.client.post("/api/people", body, content_type="application/json")
            self.assertEqual((answer.status_code in (400, 422), answer.json()["field"]), (True, field))
        self.assertEqual(Person.objects.count(), 5)

    def test_a_reset_password_ends_every_session(self) -> None:
        ines, status = self.enter("ines", "a long secret")
        self.assertEqual((status, self.row("ines")["sessions"]), (200, 1))
        given = self.does("ines", "reset")
        self.assertEqual((self.ask(ines, "GET", "projects")[0], given["person"]["sessions"]), (401, 0))
        self.assertEqual(self.enter("ines", "a long secret")[1], 400)
        self.assertEqual(self.enter("ines", given["password"])[1], 200)

    def test_an_expired_password_is_changed_before_anything_else(self) -> None:
        ines, _ = self.enter("ines", "a long secret")
        self.does("ines", "expire")
        self.assertEqual(self.ask(ines, "GET", "projects/FERRY")[1]["code"], "password-due")
        self.assertEqual(self.ask(ines, "PUT", "session/password", old="a long secret", new=OTHER)[0], 200)
        self.assertEqual(self.ask(ines, "GET", "projects/FERRY")[0], 200)

    def test_passwords_grow_old_where_the_settings_say_so(self) -> None:
        ines, _ = self.enter("ines", "a long secret")
        Person.objects.filter(username="ines").update(password_at=timezone.now() - timedelta(days=91))
        self.assertEqual(self.ask(ines, "GET", "projects")[0], 200)
        with self.settings(PASSWORD_DAYS=90):
            self.assertEqual(self.ask(ines, "GET", "projects")[1]["code"], "password-due")

    def test_whoever_is_deactivated_is_out_at_once(self) -> None:
        ines, _ = self.enter("ines", "a long secret")
        self.call("patch", f"people/{self.id_of('ines')}", {"active": False})
        self.assertEqual((self.ask(ines, "GET", "projects")[0], self.enter("ines", "a long secret")[1]), (401, 400))
        self.call("patch", f"people/{self.id_of('ines')}", {"active": True})
        self.assertEqual(self.enter("ines", "a long secret")[1], 200)
        self.assertEqual(self.trail()[1:3], ["Ines Test may sign in again", "Ines Test may not sign in any more"])

    def test_nobody_shuts_themselves_out(self) -> None:
        for cells in ({"administrator": False}, {"active": False}):
            self.assertEqual(self.call("patch", f"people/{self.id_of('wren')}", cells, 409)["code"], "own-rights")
        self.call("patch", f"people/{self.id_of('lorcan')}", {"administrator": True, "role": "none"})
        self.sign_in("lorcan")
        self.call("patch", f"people/{self.id_of('wren')}", {"administrator": False})

    def test_a_lock_out_is_seen_and_lifted(self) -> None:
        for _ in range(settings.AXES_FAILURE_LIMIT + 2):
            self.enter("maud", "no")
        self.assertEqual(self.enter("maud", "a long secret")[1], 429)
        self.assertIsNotNone(self.row("maud")["locked_until"])
        self.assertEqual(self.trail().count("maud was locked out after too many wrong passwords"), 1)
        self.assertIsNone(self.does("maud", "lift")["person"]["locked_until"])
        self.assertEqual(self.enter("maud", "a long secret")[1], 200)

    def test_a_lock_ends_when_it_said_however_often_is_tried_meanwhile(self) -> None:
        for _ in range(settings.AXES_FAILURE_LIMIT):
            self.enter("maud", "no")
        until = self.row("maud")["locked_until"]
        AccessAttempt.objects.update(attempt_time=timezone.now() - timedelta(minutes=14))
        for _ in range(3):
            self.assertEqual(self.enter("maud", "no")[1], 429)
        self.assertLess(self.row("maud")["locked_until"], until)
        AccessAttempt.objects.update(attempt_time=timezone.now() - timedelta(minutes=16))
        self.assertEqual(self.enter("maud", "a long secret")[1], 200)

    def test_behind_a_proxy_only_whoever_guessed_is_locked_out(self) -> None:
        def enter(address: str, password: str) -> int:
            body = {"username": "maud", "password": password}
            stated = {"HTTP_X_FORWARDED_FOR": f"10.0.0.1, {address}"}
            return Client().post("/api/session", body, content_type="application/json", **stated).status_code

        with self.settings(HTTPS=True):
            for _ in range(settings.AXES_FAILURE_LIMIT):
                enter("192.0.2.7", "no")
            self.assertEqual((enter("192.0.2.7", "a long secret"), enter("192.0.2.8", "a long secret")), (429, 200))
            self.assertEqual(Person.objects.get(username="maud").sign_ins.get().address, "192.0.2.8")

    def test_the_password_of_now_is_not_guessed_without_limit(self) -> None:
        ines, _ = self.enter("ines", "a long secret")
        tries = [self.ask(ines, "PUT", "session/password", old="no", new=OTHER)[0] for _ in range(settings.AXES_FAILURE_LIMIT + 1)]
        self.assertEqual((tries[0], tries[-1]), (422, 429))
        self.assertEqual(self.ask(ines, "PUT", "session/password", old="a long secret", new=OTHER)[0], 429)

    def test_a_password_for_one_sign_in_ends(self) -> None:
        given = self.does("ines", "reset")["password"]
        ines, status = self.enter("ines", given)
        self.assertEqual(status, 200)
        Person.objects.filter(username="ines").update(once_until=timezone.now() - timedelta(minutes=1))
        self.assertEqual(self.ask(ines, "PUT", "session/password", old=given, new=OTHER)[1]["code"], "password-ended")
        self.assertEqual(self.enter("ines", given)[1], 400)
        given = self.does("ines", "reset")["password"]
        self.assertEqual(self.ask(self.enter("ines", given)[0], "PUT", "session/password", old=given, new=OTHER)[0], 200)
        self.assertIsNone(Person.objects.get(username="ines").once_until)

    def test_two_administrators_do_not_put_each_other_out(self) -> None:
        wren, lorcan = (Person.objects.get(username=name) for name in ("wren", "lorcan"))
        Person.objects.filter(pk=lorcan.pk).update(administrator=True)
        lorcan.refresh_from_db()
        actions.change(wren, lorcan.pk, {"active": False})
        with self.assertRaises(NotAllowed):  # asked at the same moment, come to the writing second
            actions.change(lorcan, wren.pk, {"active": False})
        self.assertTrue(Person.objects.get(username="wren").is_active)

    def test_own_sessions_are_seen_and_ended(self) -> None:
        here, _ = self.enter("ines", "a long secret")
        there, _ = self.enter("ines", "a long secret")
        own = self.ask(here, "GET", "sessions")[1]["sessions"]
        self.assertEqual([s["here"] for s in own], [False, True])
        self.assertEqual(self.ask(here, "DELETE", f"sessions/{own[0]['id']}")[0], 204)
        self.assertEqual((self.ask(there, "GET", "projects")[0], self.ask(here, "GET", "projects")[0]), (401, 200))
        of_wren = self.call("get", "sessions")["sessions"][0]["id"]
        self.assertEqual(self.ask(here, "DELETE", f"sessions/{of_wren}")[0], 404)
        self.assertEqual(self.does("ines", "sign-out")["person"]["sessions"], 0)
        self.assertEqual(self.ask(here, "GET", "projects")[0], 401)

    def test_another_password_ends_the_other_sessions(self) -> None:
        here, _ = self.enter("ines", "a long secret")
        there, _ = self.enter("ines", "a long secret")
        self.assertEqual(self.ask(here, "PUT", "session/password", old="a long secret", new=OTHER)[0], 200)
        self.assertEqual((self.ask(there, "GET", "projects")[0], len(self.ask(here, "GET", "sessions")[1]["sessions"])), (401, 1))


class ToProjects(PeopleTest):
    def give(self, status: int = 200, members_only: bool = False, **roles: str | None) -> Any:
        return self.call("put", "access/FERRY", {"members_only": members_only, "roles": roles}, status)

    def test_a_project_for_members_only_needs_an_approver_among_them(self) -> None:
        self.assertEqual(self.give(409, members_only=True, maud="reader")["code"], "no-approver")
        self.assertFalse(Member.objects.exists(), "half of it was kept")
        out = self.give(members_only=True, lorcan="approver", maud="reader")
        self.assertEqual({m["username"]: m["role"] for m in out["people"] if m["role"]}, {"lorcan": "approver", "maud": "reader"})
        self.sign_in("lorcan")
        self.call("put", "projects/FERRY/members", {"members_only": True, "roles": {"ines": "analyst", "maud": None}})
        self.sign_in("maud")
        self.call("get", "projects/FERRY", status=404)
        self.sign_in("ines")
        self.assertEqual(self.call("get", "projects/FERRY")["role"], "analyst")
        self.assertEqual({m["username"] for m in self.call("get", "projects/FERRY/members")["people"]}, {"ines", "lorcan"})
        self.call("put", "projects/FERRY/members", {"members_only": False, "roles": {}}, 403)

    def test_an_unknown_name_changes_nothing(self) -> None:
        self.assertIn("ghost", self.give(422, ghost="reader", maud="analyst")["detail"])
        self.assertFalse(Member.objects.exists())

    def test_undo_does_not_reach_who_sees_a_project(self) -> None:
        self.sign_in("ines")
        verbs = [{"do": "set", "row": f"p{self.project.pk}", "cells": {"client": "Somebody else"}}]
        self.call("post", "projects/FERRY/plan/changes", {"revision": self.revision(), "verbs": verbs})
        self.sign_in("wren")
        self.give(members_only=True, lorcan="approver", ines="analyst")
        self.sign_in("ines")
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.sign_in("maud")
        self.call("get", "projects/FERRY", status=404)


class Lists(PeopleTest):
    GOOD = (
        "Sign-in name;Full name;Role;Project;Project role\nidris;Idris Vane;analyst;;\nmaud;Maud Ferrier;reader;FERRY;analyst\n"
        "ines;Ines Test;;;\nidris;Idris Vane;;FERRY;approver\n"
    )

    def send(self, text: str, apply: bool = False, status: int = 200) -> Any:
        return self.call("post", "people/list", {"text": text, "apply": apply}, status)

    def test_a_list_is_shown_first_and_taken_whole(self) -> None:
        shown = self.send(self.GOOD)
        self.assertEqual((shown["applied"], Person.objects.count()), (False, 5))
        self.assertEqual([r["says"] for r in shown["rows"]][2], "nothing changes")
        done = self.send(self.GOOD, apply=True)
        self.assertEqual([g["username"] for g in done["passwords"]], ["idris"])
        self.assertEqual(self.enter("idris", done["passwords"][0]["password"])[1], 200)
        self.assertEqual(self.row("idris")["memberships"], [{"project": "FERRY", "role": "approver"}])
        self.assertEqual((self.row("maud")["full_name"], self.row("maud")["role"]), ("Maud Ferrier", "reader"))
        self.assertEqual({r["says"] for r in self.send(self.GOOD, apply=True)["rows"]}, {"nothing changes"})

    def test_one_wrong_row_keeps_all_of_it_out(self) -> None:
        wrong = (
            self.GOOD + "two words;Somebody;reader;;\nkes;Kes Low;king;;\nkes;Kes Low;reader;NOSUCH;reader\nkes;Kes Low;reader;FERRY;king\n"
        )
        done = self.send(wrong, apply=True)
        self.assertEqual((done["applied"], [r["line"] for r in done["rows"] if r["fault"]]), (False, [6, 7, 8, 9]))
        self.assertEqual((Person.objects.count(), Member.objects.count(), done["passwords"]), (5, 0, []))

    def test_what_is_no_list_is_told_in_words(self) -> None:
        for text in ("who\nme", "full name\nA", "sign-in name,full name,full name\na,b,c", 'sign-in name,full name\n"a,b'):
            self.assertEqual(self.send(text, status=422)["field"], "text")


class Trail(PeopleTest):
    def test_it_tells_who_did_what_in_order(self) -> None:
        self.call("patch", f"people/{self.id_of('ines')}", {"role": "approver"})
        self.sign_in("ines")
        self.client.get("/api/projects/FERRY/export/book.json")
        self.sign_in("wren")
        lines = self.call("get", "audit")["lines"]
        told = [(x["who"], x["kind"], x["project"]) for x in lines[:4]]
        wanted = [("Wren Test", "sign-in", ""), ("Ines Test", "export", "FERRY"), ("Ines Test", "sign-in", ""), ("Wren Test", "people", "")]
        self.assertEqual(told, wanted)
        self.assertEqual([x["number"] for x in lines], sorted((x["number"] for x in lines), reverse=True))
        only = self.call("get", "audit?kind=seal")
        self.assertEqual({x["kind"] for x in only["lines"]}, {"seal"})
        self.assertEqual(self.call("get", f"audit?before={lines[3]['number']}")["lines"], lines[4:])
        csv = self.client.get("/api/audit.csv").content.decode()
        self.assertEqual(csv.splitlines()[0], "number,when,who,kind,project,what")
        self.assertEqual(len(csv.splitlines()) - 1, Audit.objects.count() - 1)

    def test_a_line_that_was_changed_or_is_gone_is_told(self) -> None:
        for _ in range(3):
            audit.note("people", "something")
        with self.assertRaises(TypeError):
            Audit.objects.order_by("number")[1].save()
        for sql in ("UPDATE accounts_audit SET what = 'other' WHERE number = 2", "DELETE FROM accounts_audit WHERE number = 2"):
            with connection.cursor() as cursor:
                cursor.execute("SAVEPOINT here")
                self.assertEqual(audit.faults(), [])
                cursor.execute(sql)
                self.assertEqual(len(self.call("get", "audit")["faults"]), 1)
                cursor.execute("ROLLBACK TO here")
