"""The timeline: its bars, progress lines, and the drawing on paper."""

import json
import subprocess
from typing import Any

from dryledger.calendar.calendar import to_text
from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from dryledger.timeline.progress_line import page_dates, progress_lines
from server.book.documents import book_document
from server.book.loading import load_document
from server.book.tests.test_crossing import project
from server.tests.base import LedgerTest
from server.timeline import paper

PAGE = "projects/FERRY/pages/P04"


class Bars(LedgerTest):
    pages = 9

    def test_the_timeline_draws_the_stories(self) -> None:
        bars = {b["code"]: b for b in self.call("get", "projects/FERRY/pages/now/timeline")["bars"]}
        self.assertTrue(bars["A360"]["driving"])
        self.assertEqual(bars["A360"]["late_days"], 8.0)
        self.assertEqual(bars["A230"]["pauses"], [["2027-02-09T00:00", "2027-02-12T00:00", "Dock gate under repair"]])
        self.assertEqual((bars["A365"]["kind"], bars["A660"]["kind"]), ("milestone", "milestone"))
        self.assertLess(bars["A660"]["start"], bars["A660"]["finish"], "a milestone somebody gave a duration")
        self.assertEqual(bars["A320"]["worked_to"] <= self.call("get", "projects/FERRY/pages/now/balance")["status"], True)


class Elsewhere(LedgerTest):
    """What another project does, in a row of its own, also on paper."""

    def test_a_row_for_what_is_waited_for(self) -> None:
        for doc in (project("ONE"), project("TWO", "ONE/O2")):
            load_document(doc)
        page = "projects/TWO/pages/now"
        t = self.call("get", f"{page}/timeline")
        (far,), bars = t["externals"], {b["code"]: b for b in t["bars"]}
        self.assertEqual((far["code"], far["name"]), ("ONE/O2", "ONE 2"))
        self.assertEqual(bars["T1"]["outside"], [{"code": "ONE/O2", "at": far["finish"], "drives": True}])
        self.assertEqual(bars["T2"]["outside"], [])
        rows = [{"kind": "outside", "code": "ONE/O2", "of": "T1"}, {"kind": "activity", "code": "T1"}]
        url = f"/api/{page}/timeline/print"
        made = self.client.post(url, json.dumps({"form": "svg", "rows": rows}), content_type="application/json")
        self.assertEqual((made.status_code, b"ONE/O2" in made.content), (200, True))
        rows[0]["of"] = "T2"
        made = self.client.post(url, json.dumps({"form": "svg", "rows": rows}), content_type="application/json")
        self.assertEqual(made.status_code, 404, "T2 waits for nobody elsewhere")


class Dragged(LedgerTest):
    """Bars as they are posted."""

    pages = 4

    def tried(self, activity: str, part: str, to: str, status: int = 200) -> Any:
        return self.call("post", "projects/FERRY/pages/now/posting/bars", {"activity": activity, "part": part, "to": to}, status)

    def test_what_is_told_is_what_its_cells_do(self) -> None:
        before, revision = self.call("get", "projects/FERRY/pages/now/timeline"), self.revision()
        bar = next(b for b in before["bars"] if b["done_to"] and b["kind"] != "milestone")
        told = self.tried(bar["code"], "finish", "2027-02-26")
        self.assertEqual(list(told["cells"]), ["remaining"])
        self.assertEqual(self.call("get", "projects/FERRY/pages/now/timeline"), before, "nothing was written")
        done = self.post_entry(bar["code"], revision=revision, **told["cells"])
        self.assertEqual(done["moved"], told["tried"]["moved"])
        now = next(b for b in self.call("get", "projects/FERRY/pages/now/timeline")["bars"] if b["code"] == bar["code"])
        self.assertEqual(now["finish"][:10], "2027-02-26")

    def test_who_may_not_and_what_is_refused(self) -> None:
        waiting = next(b["code"] for b in self.call("get", "projects/FERRY/pages/now/timeline")["bars"] if b["state"] == "not_started")
        self.assertEqual(self.tried(waiting, "worked", "2027-02-26", 422)["field"], "to")
        self.tried("A999", "start", "2027-02-26", 404)
        self.tried(waiting, "middle", "2027-02-26", 400)
        self.call("post", "projects/FERRY/pages/P01/posting/bars", {"activity": waiting, "part": "start", "to": "2027-01-05"}, 409)
        self.sign_in("maud")
        self.tried(waiting, "start", "2027-02-26", 403)


class Lines(LedgerTest):
    pages = 4

    def lines(self, query: str = "", status: int = 200) -> Any:
        return self.call("get", f"projects/FERRY/pages/now/progress-lines{query}", status=status)

    def test_they_are_the_cores(self) -> None:
        r = compute(book_from(json.loads(json.dumps(book_document(self.project)))))
        for query, dates in (("", [r.status]), ("?at=pages", page_dates(r)), ("?at=pages&most=2&against=present", page_dates(r)[-2:])):
            out = self.lines(query)
            mine = progress_lines(r, [t for t in dates if t is not None], out["against"])
            self.assertEqual([(x["date"], x["page"]) for x in out["lines"]], [(to_text(x.at), x.page) for x in mine])
            for i, line in enumerate(mine):
                self.assertEqual({c: found[i] for c, found in out["points"].items()}, {p.code: to_text(p.at) for p in line.points})
        self.assertEqual(
            [x["date"][:10] for x in self.lines("?at=dates&dates=22 jan, 2027-01-12T12:00")["lines"]], ["2027-01-12", "2027-01-22"]
        )
        weeks = self.lines("?at=dates&dates=every week from 15 jan")["lines"]
        self.assertEqual([x["date"][:10] for x in weeks], ["2027-01-15", "2027-01-22", "2027-01-29"])

    def test_what_is_refused(self) -> None:
        for query, field in (("?at=never", "at"), ("?against=hope", "against"), ("?most=0", "most"), ("?most=9999", "most")):
            self.assertEqual(self.lines(query, 400)["field"], field)
        for query in ("?at=dates", "?at=dates&dates=someday"):
            self.assertEqual(self.lines(query, 422)["field"], "dates")


class Printing(LedgerTest):
    pages = 4

    def rows(self) -> list[dict[str, Any]]:
        t = self.call("get", f"{PAGE}/timeline")
        tree = [{"kind": "wbs", "code": t["wbs"][0]["code"]}, *({"kind": "activity", "code": b["code"], "depth": 1} for b in t["bars"])]
        return [{"kind": "group", "name": "All of it"}, *tree]

    def printed(self, status: int = 200, **more: Any) -> bytes:
        body = {"form": "pdf", "rows": self.rows()} | more
        answer = self.client.post(f"/api/{PAGE}/timeline/print", json.dumps(body), content_type="application/json")
        self.assertEqual(answer.status_code, status, answer.content[:300])
        return answer.content

    def told(self, *command: str, of: bytes) -> str:
        return subprocess.run(
            [*command, "-", *(["-"] if command[0] == "pdftotext" else [])], input=of, capture_output=True, check=True
        ).stdout.decode()

    def test_on_paper_one_page_wide_or_tiled(self) -> None:
        wide = self.printed(columns=["start", "total_float"], labels=["percent"], lines="pages", baselines=["B1"])
        info, text = self.told("pdfinfo", of=wide), self.told("pdftotext", "-layout", of=wide)
        self.assertRegex(info, r"Page size:\s+841\.\d+ x 595")
        names = [b["name"] for b in self.call("get", f"{PAGE}/timeline")["bars"]]
        for stated in (
            *(n[:24] for n in names),
            "All of it",
            "As of 29 Jan 2027, against B0",
            "Sheet 1 of",
            "Bracket below: baseline",
            "Fronts",
        ):
            self.assertIn(stated, text)
        tiled = self.told("pdfinfo", of=self.printed(paper="A3", fit="tiled", per_day=24))
        self.assertRegex(tiled, r"Page size:\s+1190\.\d+ x 841")
        self.assertGreater(int(tiled.split("Pages:")[1].split()[0]), int(info.split("Pages:")[1].split()[0]))

    def test_as_a_picture(self) -> None:
        self.assertTrue(self.printed(form="svg", lines="strip").startswith(b"<?xml"))
        self.assertTrue(self.printed(form="png").startswith(b"\x89PNG"))

    def test_what_can_not_be_printed_is_refused_in_words(self) -> None:
        self.assertIn(b"A999", self.printed(404, rows=[{"kind": "activity", "code": "A999"}]))
        self.assertIn(b"luck", self.printed(404, columns=["luck"]))
        self.assertIn(b"dates", self.printed(422, lines="dates", dates="someday"))
        self.assertIn(b"sheets", self.printed(422, form="svg", per_day=400))
        for wrong in (
            {"form": "exe"},
            {"paper": "A9"},
            {"rows": [{"kind": "bar"}]},
            {"per_day": "wide"},
            {"rows": [{}] * (paper.MOST_ROWS + 1)},
        ):
            self.printed(400, **wrong)


class Kept(LedgerTest):
    pages = 4

    def keep(self, dates: str, status: int = 200) -> Any:
        return self.call("put", f"{PAGE}/progress-lines", {"revision": self.revision(), "dates": dates}, status)

    def test_the_project_keeps_dates_of_progress_lines(self) -> None:
        found = self.keep("22 jan, 15 jan")
        self.assertEqual([x["date"][:10] for x in found["lines"]], ["2027-01-15", "2027-01-22"])
        self.assertEqual(self.call("get", f"{PAGE}/progress-lines?at=kept&most=1")["lines"][0]["date"][:10], "2027-01-22")
        kept = self.call("get", "projects/FERRY/export/book.json")["progress_lines"]
        self.assertEqual([x["at"][:10] for x in kept], ["2027-01-15", "2027-01-22"])
        self.assertEqual(self.keep("someday", 422)["field"], "dates")
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertEqual(self.call("get", f"{PAGE}/progress-lines?at=kept")["lines"], [])
        self.sign_in("maud")
        self.keep("15 jan", 403)
