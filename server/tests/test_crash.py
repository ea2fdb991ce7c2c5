"""A server killed in the middle of posting: what it acknowledged is there after a restart."""

import tempfile
import threading
import unittest

from server.tests.served import ROOT, Served


class Crash(unittest.TestCase):
    def test_what_was_acknowledged_is_there(self) -> None:
        with tempfile.TemporaryDirectory() as data:
            served = Served(data)
            served.manage("prepare", "--demo", str(ROOT / "demo" / "ferry.json"))
            served.start()
            self.addCleanup(served.kill)
            served.call("POST", "session", {"username": "ines"})
            revision = served.call("GET", "projects/FERRY")["revision"]
            acknowledged, sure = 0, threading.Timer(1.0, served.kill)
            try:
                for percent in range(1, 2000):
                    text = str(percent % 100 or 1)
                    effect = served.call(
                        "PATCH", "projects/FERRY/pages/P10/posting/activities/A340", {"revision": revision, "percent": text}
                    )
                    revision, acknowledged = effect["revision"], int(text)
                    if percent == 1:
                        sure.start()
            except OSError:
                pass
            self.assertGreater(acknowledged, 0)
            served.start()
            sheet = served.call("GET", "projects/FERRY/pages/P10/posting")
            row = next(r for r in sheet["rows"] if r["code"] == "A340")
            # The entry on its way when the server died may or may not be written; none that was acknowledged is lost.
            self.assertIn(
                (sheet["revision"], row["entry"]["percent"]), ((revision, acknowledged), (revision + 1, (acknowledged + 1) % 100 or 1))
            )
            served.manage("verify_pages")
