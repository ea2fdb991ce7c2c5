"""Several processes answer: what one acknowledged the next request sees, whoever answers it; what is logged tells nothing of people."""

import http.client
import re
import tempfile
import threading
import unittest
from typing import Any

from server.tests.base import entry
from server.tests.served import ROOT, Refusal, Served

ACTIVITIES = ("A340", "A350", "A330", "A460")


class Workers(unittest.TestCase):
    served: Served

    @classmethod
    def setUpClass(cls) -> None:
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        cls.served = Served(folder.name, workers=2, DRY_LOG="1")
        cls.served.lay()
        cls.served.manage("prepare", "--demo", str(ROOT / "demo" / "ferry.json"))
        cls.served.start()
        cls.addClassCleanup(cls.served.kill)
        cls.served.call("POST", "session", {"username": "ines"})

    def put(self, activity: str, percent: str) -> int:
        """Post a percent; whoever was overtaken looks again and posts anew."""
        while True:
            body = entry(self.served.call("GET", "projects/FERRY")["revision"], activity, percent=percent)
            try:
                effect: Any = self.served.call("PATCH", "projects/FERRY/pages/now/posting/entries", body)
                return int(effect["revision"])
            except Refusal as no:
                if no.args[0] != 409:
                    raise

    def test_what_was_acknowledged_every_process_shows(self) -> None:
        wrong: list[object] = []

        def post(activity: str) -> None:
            try:
                for percent in ("11", "22", "33", "44", "55"):
                    revision = self.put(activity, percent)
                    for _ in range(4):  # more often than there are processes
                        sheet = self.served.call("GET", "projects/FERRY/pages/now/posting")
                        row = next(r for r in sheet["rows"] if r["code"] == activity)
                        if sheet["revision"] < revision or row["entry"]["percent"] != float(percent):
                            wrong.append((activity, percent, sheet["revision"], revision, row["entry"]["percent"]))
            except Exception as error:
                wrong.append(error)

        threads = [threading.Thread(target=post, args=(activity,)) for activity in ACTIVITIES]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
        self.assertEqual(wrong, [])

    def test_the_log_has_each_request_and_nobody_in_it(self) -> None:
        self.put("A340", "66")
        self.served.call("GET", "projects/FERRY/history/A340?who=Ines%20Halloran")
        lines = [line for line in self.served.log.read_text().splitlines() if "/api/" in line]
        self.assertTrue(any(re.search(r"PATCH /api/projects/.* FERRY 200 \d+ ms$", line) for line in lines), lines)
        for told in ("ines", "Halloran", "A340", "127.0.0.1", "csrf"):
            self.assertEqual([line for line in lines if told.lower() in line.lower()], [], told)


class BehindAProxy(unittest.TestCase):
    def test_only_what_came_by_https_is_answered_and_cookies_stay_on_it(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            served = Served(folder, 1, DRY_HTTPS="1", DRY_HOSTS="ledger.example", DRY_ORIGINS="https://ledger.example")
            served.manage("migrate", "-v0")
            served.start()
            self.addCleanup(served.kill)

            def ask(method: str, path: str, body: str | None = None, **headers: str) -> http.client.HTTPResponse:
                to = http.client.HTTPConnection("127.0.0.1", served.port, timeout=20)
                to.request(method, path, body, {k.replace("_", "-"): v for k, v in headers.items()})
                answer = to.getresponse()
                answer.read()
                return answer

            insecure = ask("GET", "/api/session", Host="ledger.example")
            self.assertEqual((insecure.status, insecure.headers["Location"]), (301, "https://ledger.example/api/session"))
            self.assertEqual(ask("GET", "/api/health", Host="ledger.example").status, 200)
            self.assertEqual(ask("GET", "/", Host="elsewhere.example", X_Forwarded_Proto="https").status, 400)
            safe = ask("GET", "/", Host="ledger.example", X_Forwarded_Proto="https")
            self.assertEqual(safe.status, 200)
            self.assertIn("max-age=31536000", safe.headers["Strict-Transport-Security"])
            cookie = safe.headers["Set-Cookie"]
            self.assertIn("Secure", cookie)
            token = re.search(r"csrftoken=(\w+)", cookie)
            assert token is not None
            for origin, status in (("https://ledger.example", 400), ("https://elsewhere.example", 403)):
                signed = ask(
                    "POST",
                    "/api/session",
                    '{"username": "nobody", "password": "of that name"}',
                    Host="ledger.example",
                    Origin=origin,
                    Referer=f"{origin}/",
                    X_Forwarded_Proto="https",
                    Cookie=token[0],
                    X_CSRFToken=token[1],
                    Content_Type="application/json",
                )
                self.assertEqual(signed.status, status, origin)
