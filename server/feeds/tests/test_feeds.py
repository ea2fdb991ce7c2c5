"""Feeds over the API, against real sources on 127.0.0.1: verdicts, mapping, no double posting, changes, and what goes wrong."""

import json
import select
import socket
import threading
import time
from collections.abc import Callable
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any

from django.test import override_settings

from server.accounts.models import Person
from server.book.models import CostEntry, HoursEntry, Project, Resource, Statement
from server.book.verify import verify
from server.feeds.models import Fetching, Taken, Waiting
from server.tests.base import LedgerTest

AT = "projects/FERRY"
HEAD = "id,employee,week ending,task,hours,overtime,remaining"


def csv(*rows: str) -> str:
    return "\r\n".join([HEAD, *rows]) + "\r\n"


@override_settings(FEED_HOSTS=("127.0.0.1",))
class FeedTest(LedgerTest):
    pages = 3

    def setUp(self) -> None:
        super().setUp()
        self.feed = self.add("Timesheets", "timesheet")

    def add(self, name: str, kind: str, address: str = "") -> int:
        feeds = self.call("post", f"{AT}/feeds", {"name": name, "kind": kind, "address": address})["feeds"]
        return int(feeds[-1]["id"])

    def fetch(self, content: str | None, status: int = 200, feed: int | None = None) -> Any:
        return self.call("post", f"{AT}/feeds/{feed or self.feed}/fetch", {"content": content}, status)

    def post(self, status: int = 200, feed: int | None = None) -> Any:
        return self.call("post", f"{AT}/pages/now/feeds/{feed or self.feed}/post", {"revision": self.revision()}, status)

    def verdicts(self, feed: int | None = None) -> dict[int, str]:
        return {r["number"]: r["verdict"] for r in self.call("get", f"{AT}/feeds/{feed or self.feed}")["rows"]}

    def hours(self, activity: str) -> float:
        rows = self.call("get", f"{AT}/pages/now/posting/hours")["rows"]
        return sum(float(str(r["worked"] or "0").removesuffix("h")) for r in rows if r["activity"] == activity)


class Timesheets(FeedTest):
    def test_the_same_is_posted_once_and_what_is_wrong_stays_until_it_is_right(self) -> None:
        person = self.call("get", f"{AT}/pages/now/posting/hours")["people"][0]
        text = csv(
            f"1,{person[1]},2027-01-20,A150,7.5,0,12",
            f"2,{person[1]},2027-01-21,A150,8,1,",
            "3,R. Nobody,2027-01-21,A150,4,,",
            f"4,{person[1]},2027-01-21,The drawings,4,,",
            f"5,{person[1]},2027-01-30,A150,4,,",
            f"6,{person[1]},2027-01-12,A150,4,,",
            f"7,{person[1]},2027-01-21,A150,half,,",
        )
        before = self.hours("A150")
        got = self.fetch(text)["tray"]
        self.assertEqual(
            {r["number"]: (r["verdict"], r["field"]) for r in got["rows"]},
            {
                1: ("new", ""),
                2: ("new", ""),
                3: ("refused", "person"),
                4: ("refused", "activity"),
                5: ("refused", "date"),
                6: ("refused", "date"),
                7: ("refused", "hours"),
            },
        )
        self.assertEqual(self.post()["posted"], 2)
        self.assertEqual(self.hours("A150"), before + 15.5)
        for _ in range(2):
            again = self.fetch(text)
            self.assertEqual((again["seen"], again["tray"]["new"], again["tray"]["refused"]), (2, 0, 5))
            self.assertEqual(self.post()["posted"], 0)
        self.assertEqual(self.hours("A150"), before + 15.5)
        rows = {r["number"]: r["id"] for r in got["rows"]}
        self.call("patch", f"{AT}/feeds/{self.feed}/rows", {"rows": [rows[3]], "person": "nobody at all"}, 422)
        self.call("patch", f"{AT}/feeds/{self.feed}/rows", {"rows": [rows[3]], "person": person[0]})
        self.call("patch", f"{AT}/feeds/{self.feed}/rows", {"rows": [rows[4]], "activity": "A150"})
        self.call("patch", f"{AT}/feeds/{self.feed}/rows", {"rows": [rows[6]], "late": True})
        self.call("patch", f"{AT}/feeds/{self.feed}/rows", {"rows": [rows[7]], "discard": True})
        self.assertEqual(self.verdicts(), {3: "new", 4: "new", 5: "refused", 6: "new"})
        self.assertEqual(self.post()["posted"], 3)
        self.assertEqual(self.hours("A150"), before + 27.5)
        self.call("post", f"{AT}/undo", {"revision": self.revision()})
        self.assertEqual((self.hours("A150"), self.verdicts()), (before + 15.5, {3: "new", 4: "new", 5: "refused", 6: "new"}))
        self.post()
        # What is remembered holds for the next file; what waits stays over a close.
        self.call("post", f"{AT}/pages/now/close", {"revision": self.revision()})
        self.assertEqual(self.verdicts(), {5: "refused"})
        self.assertEqual(self.fetch(csv("9,R. Nobody,2027-01-28,The drawings,1,,"))["tray"]["rows"][0]["verdict"], "new")

    def test_a_row_changed_after_its_page_was_closed_comes_as_a_correction(self) -> None:
        person = self.call("get", f"{AT}/pages/now/posting/hours")["people"][0]
        self.fetch(csv(f"1,{person[1]},2027-01-20,A150,8,2,"))
        self.post()
        self.fetch(csv(f"1,{person[1]},2027-01-20,A150,6,2,"))  # on the open page it is moved by the difference
        self.assertEqual(self.verdicts(), {1: "changed"})
        before = self.hours("A150")
        self.post()
        self.assertEqual(self.hours("A150"), before - 2)
        self.call("post", f"{AT}/pages/now/close", {"revision": self.revision()})
        sealed = self.call("get", f"{AT}/pages/P03/balance")
        row = self.fetch(csv(f"1,{person[1]},2027-01-20,A150,9,1,"))["tray"]["rows"][0]
        self.assertEqual((row["verdict"], row["was"]), ("changed", "6 h + 2 h, A150"))
        self.post()
        made = HoursEntry.objects.get(corrects="P03")
        self.assertEqual((made.worked, made.overtime), ("180min", "-60min"))
        self.assertEqual(self.call("get", f"{AT}/pages/P03/balance"), sealed)
        self.assertEqual(verify(Project.objects.get(code="FERRY")).wrong, [])
        self.assertEqual(self.fetch(csv(f"1,{person[1]},2027-01-20,A150,9,1,"))["seen"], 1)

    def test_who_has_time_sheets_is_posted_where_the_project_follows_progress(self) -> None:
        HoursEntry.objects.filter(resource__code="PMG").delete()  # so that something is reckoned of it
        row = self.call("get", f"{AT}/about")["project"]["id"]
        changes = {"revision": self.revision(), "preview": False, "rest": False}
        self.call("post", f"{AT}/plan/changes", changes | {"verbs": [{"do": "set", "row": row, "cells": {"actuals": "progress"}}]})
        names = dict(map(tuple, self.call("get", f"{AT}/pages/now/posting/hours")["people"]))
        self.fetch(csv(f"1,{names['PNT']},2027-01-20,A280,6,,", f'2,"{names["PMG"]}",2027-01-20,A850,6,,'))
        self.assertEqual(self.post()["posted"], 2)
        own = dict(Resource.objects.filter(project=self.project).values_list("code", "actuals"))
        self.assertEqual((own["PNT"], own["PMG"]), ("posted", None))  # of the other something was reckoned already: that stays
        begun = Statement.objects.get(page__state="wet", activity__code="A280")
        self.assertEqual(begun.assumed, ["actual_start"])
        self.call("post", f"{AT}/undo", {"revision": self.revision()})
        self.assertIsNone(Resource.objects.get(project=self.project, code="PNT").actuals)

    def test_rows_without_an_id_are_known_by_what_they_say(self) -> None:
        person = self.call("get", f"{AT}/pages/now/posting/hours")["people"][0]
        row = f",{person[1]},2027-01-20,A150,8,,"
        self.assertEqual(self.fetch(csv(row, row))["seen"], 1)
        self.post()
        self.assertEqual(self.fetch(csv(row, row.replace("-20", "-21")))["tray"]["new"], 1)

    def test_a_feed_is_read_by_its_own_formats_whoever_fetches_it(self) -> None:
        person = self.call("get", f"{AT}/pages/now/posting/hours")["people"][0]
        self.client.defaults["HTTP_DRY_FORMATS"] = "comma month sun"
        before = self.hours("A150")
        self.fetch(csv(f"1,{person[1]},2027-01-20,A150,7.150,,"))
        self.post()
        del self.client.defaults["HTTP_DRY_FORMATS"]
        self.assertAlmostEqual(self.hours("A150") - before, 7.15, 2)

    def test_twenty_thousand_rows_are_told_in_five_seconds(self) -> None:
        person = self.call("get", f"{AT}/pages/now/posting/hours")["people"][0]
        text = csv(*(f"{i},{person[1]},2027-01-20,A150,0.25,," for i in range(20_000)))
        started = time.process_time()
        self.assertEqual(self.fetch(text)["tray"]["new"], 20_000)
        self.assertLess(time.process_time() - started, 30)  # a bound on runaway growth; ./dry bench has the figure

    def test_a_reader_neither_sees_nor_posts(self) -> None:
        self.sign_in("maud")
        for method, path in (
            ("get", "feeds"),
            ("get", f"feeds/{self.feed}"),
            ("post", f"feeds/{self.feed}/fetch"),
            ("patch", f"feeds/{self.feed}/rows"),
            ("post", f"pages/now/feeds/{self.feed}/post"),
        ):
            self.call(method, f"{AT}/{path}", {"revision": 0}, 403)


class Costs(FeedTest):
    def test_costs_come_in_with_their_sources_and_are_written_anew(self) -> None:
        feed = self.add("Ledger", "cost")
        rows = [
            {"id": 71, "date": "2027-01-20", "activity": "A150", "amount": "1200.50", "source": "invoice", "reference": "INV-1"},
            {"id": 72, "date": "2027-01-21", "activity": "WBS 1", "amount": 80, "source": "other"},
            {"id": 73, "date": "2027-01-21", "activity": "A150", "amount": "10", "source": "gift"},
            {"id": 74, "date": "2027-01-21", "activity": "A150", "amount": "10", "currency": "USD"},
            {"id": 75, "date": "2027-01-21", "activity": "A150", "amount": "ten"},
        ]
        got = self.fetch(json.dumps(rows), feed=feed)["tray"]
        self.assertEqual(
            [(r["verdict"], r["field"]) for r in got["rows"]],
            [("new", ""), ("new", ""), ("refused", "source"), ("refused", "amount"), ("refused", "amount")],
        )
        self.post(feed=feed)
        self.assertEqual(
            list(CostEntry.objects.filter(page__state="wet", ref="INV-1").values_list("amount", "source")), [("1200.50", "invoice")]
        )
        rows[0]["amount"] = "1100.50"
        self.fetch(json.dumps(rows), feed=feed)
        self.post(feed=feed)
        self.assertEqual(list(CostEntry.objects.filter(page__state="wet", ref="INV-1").values_list("amount", flat=True)), ["1100.50"])
        self.call("post", f"{AT}/pages/now/close", {"revision": self.revision()})
        rows[0]["amount"] = "1000.50"
        self.fetch(json.dumps(rows), feed=feed)
        self.post(feed=feed)
        made = CostEntry.objects.get(corrects="P03")
        self.assertEqual((made.amount, made.source, made.ref), ("-100.00", "correction", "INV-1"))

    def test_a_cost_names_its_order(self) -> None:
        """PO-01 is for the battery modules, A360; there is no PO-99, and PO-02 has no line for them."""
        feed = self.add("Ledger", "cost")
        row = {"date": "2027-01-20", "activity": "A360", "amount": "1200.50", "source": "invoice"}
        rows = [row | {"id": i, "po": order} for i, order in enumerate(("PO-01", "PO-99", "PO-02"))]
        got = self.fetch(json.dumps(rows), feed=feed)["tray"]
        self.assertEqual([(r["verdict"], r["field"]) for r in got["rows"]], [("new", ""), ("refused", "order"), ("refused", "order")])
        self.post(feed=feed)
        self.assertEqual([x.order_code for x in CostEntry.objects.filter(page__state="wet", amount="1200.50")], ["PO-01"])


class Source(ThreadingHTTPServer):
    """A source on 127.0.0.1 that answers as it is told."""

    def __init__(self, answer: Callable[[BaseHTTPRequestHandler], None]) -> None:
        class Handler(BaseHTTPRequestHandler):
            def do_GET(self) -> None:
                answer(self)

            def log_message(self, *args: object) -> None:
                pass

        super().__init__(("127.0.0.1", 0), Handler)
        threading.Thread(target=self.serve_forever, daemon=True).start()

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.server_port}/rows"


def says(body: bytes, kind: str = "text/csv", status: int = 200, length: int | None = None) -> Callable[[BaseHTTPRequestHandler], None]:
    def answer(h: BaseHTTPRequestHandler) -> None:
        h.send_response(status)
        h.send_header("Content-Type", kind)
        h.send_header("Content-Length", str(len(body) if length is None else length))
        h.send_header("Location", "http://127.0.0.2/")
        h.end_headers()
        h.wfile.write(body)

    return answer


def gone(h: BaseHTTPRequestHandler, within: float | None = None) -> bool:
    """Whether whoever asked has hung up, or does so within some seconds (None: however long it takes)."""
    return bool(select.select([h.connection], [], [], within)[0])


def hangs(h: BaseHTTPRequestHandler) -> None:
    gone(h)


def sends(*parts: bytes, again: bytes = b"", every: float = 0.05) -> Callable[[BaseHTTPRequestHandler], None]:
    """Bytes as they are, then some of them again and again."""

    def answer(h: BaseHTTPRequestHandler) -> None:
        try:
            for part in parts:
                h.wfile.write(part)
            for _ in range(10**6 if again else 0):
                h.wfile.write(again)
                h.wfile.flush()
                if gone(h, every):
                    return
        except OSError:
            return

    return answer


def drips(h: BaseHTTPRequestHandler) -> None:
    h.send_response(200)
    h.end_headers()
    while not gone(h, 0.1):
        h.wfile.write(b"a,b\r\n")
        h.wfile.flush()


def floods(h: BaseHTTPRequestHandler) -> None:
    h.send_response(200)
    h.end_headers()
    try:
        while True:
            h.wfile.write(b"1,2\r\n" * 20_000)
    except OSError:
        pass


class Addresses(FeedTest):
    def told(self, answer: Callable[[BaseHTTPRequestHandler], None]) -> str:
        source = Source(answer)
        self.addCleanup(source.server_close)
        self.addCleanup(source.shutdown)
        self.call("patch", f"{AT}/feeds/{self.feed}", {"address": source.address})
        with override_settings(FEED_SECONDS=1.0):
            problem = self.call("post", f"{AT}/feeds/{self.feed}/fetch", {}, 422)
        self.assertEqual((Waiting.objects.count(), Taken.objects.count()), (0, 0))
        return str(problem["detail"])

    def test_whatever_a_source_does_is_told_in_a_sentence(self) -> None:
        for answer, saying in (
            (hangs, "within 1 seconds"),
            (drips, "within 1 seconds"),
            (floods, "more than 16 MB"),
            (sends(b"HTTP/1.1 2", again=b"0"), "within 1 seconds"),
            (sends(b"HTTP/1.1 200 OK\r\n", again=b"X"), "within 1 seconds"),
            (sends(b"HTTP/1.1 200 OK\r\n", again=b"X: y\r\n"), "within 1 seconds"),
            (sends(again=b"HTTP/1.1 100 Continue\r\n\r\n"), "within 1 seconds"),
            (sends(b"HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\n", again=b"0"), "within 1 seconds"),
            (sends(b"HTTP/1.1 200 OK\r\nTransfer-Encoding: chunked\r\n\r\nzz\r\n"), "within 1 seconds"),
            (sends(b"HTTP/1.1 200 OK\r\n", again=b"X: y\r\n", every=0), "within 1 seconds"),
            (sends(b"HTTP/1.1 20000000000000000000 OK\r\n\r\n"), "within 1 seconds"),
            (sends(b"SSH-2.0-something\r\n"), "within 1 seconds"),
            (sends(bytes(range(256))), "within 1 seconds"),
            (says(b'[{"\\ud800": 1}]', "application/json"), "not text"),
            (says(b"<html>", "text/html"), "a web page"),
            (says(b"no", status=500), "status 500"),
            (says(b"", status=302), "status 302"),
            (says(csv("1,a,2027-01-20,A150,1,,").encode(), length=4000), "broke off"),
        ):
            with self.subTest(saying):
                self.assertIn(saying, self.told(answer))
        self.assertIn("2 of 7 cells", self.told(half))
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.call("patch", f"{AT}/feeds/{self.feed}", {"address": f"http://127.0.0.1:{free.getsockname()[1]}/"})
            closed = self.call("post", f"{AT}/feeds/{self.feed}/fetch", {}, 422)["detail"]
            self.assertEqual(closed.replace("10", "1"), self.told(sends(b"SSH")))  # whether a port is open is not told

    def test_a_person_fetches_two_at_a_time(self) -> None:
        for n in range(2):
            Fetching.objects.create(person=Person.objects.get(username="ines"), begun=time.time() - n)
        source = Source(says(csv("1,R. Nobody,2027-01-20,A150,1,,").encode()))
        self.addCleanup(source.server_close)
        self.addCleanup(source.shutdown)
        self.call("patch", f"{AT}/feeds/{self.feed}", {"address": source.address})
        self.assertIn("fetching 2 feeds", self.fetch(None, 429)["detail"])
        Fetching.objects.update(begun=time.time() - 60)  # of a process that was stopped
        self.assertEqual(self.fetch(None)["rows"], 1)
        self.assertEqual(Fetching.objects.count(), 0)

    def test_without_hosts_no_address_is_asked(self) -> None:
        with override_settings(FEED_HOSTS=()):
            for address in ("http://127.0.0.1:1/", "http://127.0.0.1:8750/", "http://example.com/"):
                self.assertIn("Drop a file instead", self.call("patch", f"{AT}/feeds/{self.feed}", {"address": address}, 422)["detail"])
        with override_settings(FEED_HOSTS=("127.0.0.1:8790",)):
            self.call("patch", f"{AT}/feeds/{self.feed}", {"address": "http://127.0.0.1:8790/"})
            self.call("patch", f"{AT}/feeds/{self.feed}", {"address": "http://127.0.0.1:8791/"}, 422)

    def test_a_good_source_is_taken_and_only_hosts_that_are_allowed_are_asked(self) -> None:
        source = Source(says(csv("1,R. Nobody,2027-01-20,A150,1,,").encode()))
        self.addCleanup(source.server_close)
        self.addCleanup(source.shutdown)
        self.call("patch", f"{AT}/feeds/{self.feed}", {"address": source.address})
        self.assertEqual(self.fetch(None)["rows"], 1)
        for address in (
            "http://example.com/x",
            "http://127.0.0.1@example.com/",
            "file:///etc/passwd",
            "http://localhost/x",
            "http://[::1]/",
            "ftp://127.0.0.1/",
            "nonsense",
            "http://127.0.0.1:99999/",
        ):
            with self.subTest(address):
                no = self.call("patch", f"{AT}/feeds/{self.feed}", {"address": address}, 422)
                self.assertEqual(no["field"], "address")

    def test_a_file_that_is_none_is_told(self) -> None:
        for content, saying in (
            ("", "nothing in it"),
            ("<!doctype html>", "a web page"),
            ('[{"a": 1}, {"a"', "breaks off"),
            ('{"a": 1}', "a JSON list"),
            ('[{"a": {"b": 1}}]', "has a list or an object"),
            (HEAD + "\r\n1,2", "2 of 7 cells"),
            ('a,b\r\n1,"2', "not closed"),
            ("only one column\r\n1\r\n", "name the columns"),
        ):
            with self.subTest(saying):
                self.assertIn(saying, self.fetch(content, 422)["detail"])


half = says((HEAD + "\r\n1,R. T").encode())
