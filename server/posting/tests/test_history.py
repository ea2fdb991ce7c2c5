"""History and trail over the API: every entry with who and when, and the journal filtered and as CSV."""

import csv
import io

from server.tests.base import LedgerTest


class History(LedgerTest):
    pages = 3

    def test_every_pages_entries_with_who_and_when(self) -> None:
        self.post_entry("A150", percent="40", cost="120")
        body = {"revision": self.revision(), "entries": [{"activity": "A150", "resource": "DES", "worked": "6", "overtime": "1"}]}
        self.call("patch", "projects/FERRY/pages/now/posting/hours", body)
        found = self.call("get", "projects/FERRY/history/A150")["entries"]
        now = [e for e in found if e["by"]]
        self.assertEqual([(e["kind"], e["by"]) for e in now], [("statement", "Ines Test"), ("hours", "Ines Test"), ("cost", "Ines Test")])
        self.assertIn("40 %", now[0]["text"])
        self.assertIn("6 h, 1 h overtime", now[1]["text"])
        self.assertEqual({e["page"] for e in now}, {"P03"})  # the others came with the book
        self.assertGreater(len([e for e in found if e["page"] == "P02"]), 0)
        self.call("get", "projects/FERRY/history/A999", status=404)

    def test_the_trail_is_filtered_and_exported(self) -> None:
        self.post_entry("A150", percent="40")
        self.post_entry("A150", percent="45", note="=cmd|' /C calc'!A0")
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.call("patch", "projects/FERRY/limits", {"revision": self.revision(), "lag": "3"})
        whole = self.call("get", "projects/FERRY/journal")
        self.assertEqual([s["kind"] for s in whole["steps"]], ["limits", "post", "post"])
        self.assertEqual([s["undone"] for s in self.call("get", "projects/FERRY/journal?kind=post")["steps"]], [True, False])
        self.assertEqual(self.call("get", "projects/FERRY/journal?by=Nobody")["steps"], [])
        self.assertEqual(len(self.call("get", "projects/FERRY/journal?of=a150&words=45")["steps"]), 1)
        answer = self.client.get("/api/projects/FERRY/journal.csv?kind=post")
        rows = list(csv.DictReader(io.StringIO(answer.content.decode())))
        self.assertEqual([(r["Activity"], r["Undone"]) for r in rows], [("A150", ""), ("A150", "yes")])
