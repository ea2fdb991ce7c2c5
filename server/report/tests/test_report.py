"""Reports: a reason is needed, an edition never changes, screen, HTML, PDF and workbook say the same; review and sending."""

import io
import json
import subprocess
from datetime import date
from html import escape
from typing import Any

import openpyxl

from dryledger.book.report_layout import SECTIONS
from server.book.models import Page, Project
from server.book.verify import verify
from server.plan.tests.test_changes import Plans
from server.report.models import Delivery, Edition
from server.tests.base import LedgerTest
from server.tests.outbox import WithOutbox
from stand_ins.outbox import attachments, listing

REPORT = "projects/FERRY/pages/now/report"


def texts(content: bytes) -> dict[str, list[list[Any]]]:
    """Every cell of a workbook, by sheet."""
    book = openpyxl.load_workbook(io.BytesIO(content))
    return {s.title: [[c.value for c in row] for row in s.iter_rows()] for s in book.worksheets}


SOMETIMES = ("buffers", "waiting", "orders", "under_change", "rebased")
"""Sections that not every project has."""


class ReportTest(LedgerTest):
    pages = 3

    def write(self, status: str, reason: str = "", words: str = "", code: int = 200, **more: Any) -> Any:
        stated = {"revision": self.revision(), "status": status, "reason": reason, "words": words}
        return self.call("put", REPORT, stated | more, code)

    def issue(self, status: int = 200) -> Any:
        return self.call("post", f"{REPORT}/issue", {"revision": self.revision()}, status)

    def get(self, name: str, page: str = "P03") -> bytes:
        answer = self.client.get(f"/api/projects/FERRY/pages/{page}/report/editions/{name}")
        self.assertEqual(answer.status_code, 200)
        return answer.content

    def index_network(self, sections: list[str], heads: list[str] | None = None, levels: int = 1, status: int = 200) -> Any:
        asked = {"revision": self.revision(), "sections": sections, "heads": heads or [], "levels": levels}
        return self.call("put", f"{REPORT}/layout", asked, status)

    def review(self, do: str, status: int = 200, **more: Any) -> Any:
        return self.call("post", f"{REPORT}/review", {"do": do, **more}, status)

    def section(self, key: str) -> Any:
        return next(s for s in self.call("get", REPORT)["sections"] if s["key"] == key)


class Issuing(ReportTest):
    def test_a_reason_is_needed_unless_on_plan(self) -> None:
        self.sign_in("lorcan")
        self.assertEqual(self.issue(422)["field"], "status")
        self.write("watch")
        self.assertEqual(self.issue(422)["field"], "reason")
        self.write("watch", "Class comments came late.")
        self.assertEqual(self.issue()["status"], "watch")

    def test_every_head_needs_its_mark_and_its_reason(self) -> None:
        self.sign_in("lorcan")
        self.index_network(["heads"], ["Safety"])
        self.write("on_plan")
        self.assertEqual(self.issue(422)["field"], "heads.Safety")
        self.write("on_plan", heads={"Safety": {"mark": "act", "reason": " "}})
        self.assertEqual(self.issue(422)["field"], "heads.Safety")
        self.write("on_plan", heads={"Safety": {"mark": "act", "reason": "A fall on Tuesday."}, "Cost": {"mark": "act", "reason": ""}})
        proposed = next(h for h in self.section("heads")["heads"] if h["name"] == "Cost")
        self.assertNotEqual(proposed["proposed"], "act")
        self.assertEqual(self.issue(422)["field"], "heads.Cost")  # another mark than the figures': their reasons are not its own
        self.write("on_plan", heads={"Safety": {"mark": "act", "reason": "A fall on Tuesday."}})
        self.assertEqual(self.issue()["number"], 1)
        self.assertIn("A fall on Tuesday.", self.get("1.html").decode())
        for head in ({"mark": "red", "reason": ""}, {"mark": "act", "reason": "x" * 20_001}):
            self.assertIn(
                "heads.Safety", self.write("on_plan", code=400 if head["mark"] == "red" else 422, heads={"Safety": head})["field"]
            )

    def test_an_analyst_writes_and_an_approver_issues(self) -> None:
        self.write("on_plan")
        self.issue(403)
        self.sign_in("maud")
        self.write("on_plan", code=403)
        self.review("comment", 403, section="money", text="Why?")

    def test_words_that_are_older_than_the_figures_are_told_before_they_are_issued(self) -> None:
        at = "projects/FERRY/pages/now/report"
        stated = {"status": "watch", "reason": "Late.", "words": "All told.", "heads": {}, "texts": {}}
        self.call("put", at, {"revision": self.revision()} | stated)
        shown = self.call("get", at)
        self.assertEqual(shown["words_since"], [])
        closed = f"projects/FERRY/pages/{shown['page']}/report"
        self.post_entry("A150", percent="77")
        self.call("put", f"{at}/layout", {"revision": self.revision(), "sections": ["overall"], "heads": [], "levels": 1})
        since = self.call("get", at)["words_since"]
        self.assertEqual((len(since), "77 %" in since[0]), (1, True))
        self.call("post", "projects/FERRY/pages/now/close", {"revision": self.revision()})
        self.assertEqual(self.call("get", closed)["words_since"], since)
        self.post_entry("A150", percent="80")  # on the next page
        self.assertEqual(self.call("get", closed)["words_since"], since)

    def test_an_edition_never_changes(self) -> None:
        self.sign_in("lorcan")
        self.write("act", "<script>alert(1)</script> late", "First words, édition № 1.")
        self.issue()
        kept = [self.get(f"1.{form}") for form in ("html", "pdf", "xlsx")]
        self.assertNotIn(b"<script>", kept[0])
        self.post_entry("A150", percent="90")
        self.write("on_plan")
        self.issue()
        self.assertEqual([self.get(f"1.{form}") for form in ("html", "pdf", "xlsx")], kept)
        self.assertNotEqual(self.get("2.html"), kept[0])
        self.assertEqual(verify(Project.objects.get()).wrong, [])
        edition = Edition.objects.get(number=1)
        with self.assertRaises(TypeError):
            edition.save()
        Edition.objects.filter(number=1).update(content=edition.content | {"reason": "never said"})
        self.assertEqual(len(verify(Project.objects.get()).wrong), 1)

    def test_what_is_not_typed_is_drafted_and_last_pages_words_are_at_hand(self) -> None:
        summary = self.section("summary")
        self.assertEqual((summary["words"], summary["words_before"]), ("", ""))
        self.assertIn("of the budget is earned", summary["drafted"])
        self.assertIn(summary["drafted"], self.get("draft.html").decode())
        self.write("watch", "Late.", "In my own words.", texts={"money": "Paid on time."})
        self.assertNotIn(summary["drafted"], self.get("draft.html").decode())
        self.assertEqual(self.section("money")["words"], "Paid on time.")
        self.assertEqual(self.write("watch", "Late.", "In my own words.")["draft"]["texts"], {"money": "Paid on time."})
        self.assertEqual(self.write("watch", texts={"luck": "x"}, code=400)["field"], "texts")
        self.call("post", "projects/FERRY/pages/P03/close", {"revision": self.revision(), "next": "2027-01-29T17:00"})
        later = {s["key"]: s["words_before"] for s in self.call("get", REPORT)["sections"]}
        self.assertEqual((later["summary"], later["money"]), ("In my own words.", "Paid on time."))
        self.assertEqual(verify(Project.objects.get()).wrong, [])
        self.assertEqual(self.call("get", REPORT)["was"], "watch")

    def test_screen_html_pdf_and_workbook_say_the_same_on_a4(self) -> None:
        self.write("watch", "Battery room drawings slipped.", "Next week the yard opens.")
        html, pdf = self.get("draft.html").decode(), self.get("draft.pdf")
        text = subprocess.run(["pdftotext", "-layout", "-", "-"], input=pdf, capture_output=True, check=True).stdout.decode()
        info = subprocess.run(["pdfinfo", "-"], input=pdf, capture_output=True, check=True).stdout.decode()
        self.assertRegex(info, r"\(A4\)")
        self.assertRegex(info, r"Tagged:\s+yes")
        sheets = texts(self.get("draft.xlsx"))
        cells = {str(c) for rows in sheets.values() for row in rows for c in row}
        report = self.call("get", REPORT)
        names = [row["cells"][0]["text"] for s in report["sections"] for t in s["tables"] for row in t["rows"]]
        self.assertGreater(len(names), 40)
        for stated in ("Battery room drawings slipped.", "Next week the yard opens.", *names):
            self.assertIn(escape(stated), html)
            self.assertIn(stated.split()[0], text)
            self.assertIn(stated, cells)
        self.assertIn("Corrie and Vane design office", html)
        (money,) = [t for s in report["sections"] for t in s["tables"] if t["key"] == "money.to_date"]
        total = next(r for r in money["rows"] if r["total"])["cells"][2]["text"]
        self.assertIn(float(total), [c for row in sheets["Money by WBS"] for c in row])
        self.assertIn(f"{float(total):,.2f}".replace(",", "\u00a0"), html)

    def test_every_number_names_its_working(self) -> None:
        self.call("post", "projects/FERRY/plan/changes", {"revision": self.revision(), "verbs": [RISK, CHANGE]})
        unsaid, opened = [], set()
        for s in self.call("get", REPORT)["sections"]:
            for t in s["tables"]:
                for row in t["rows"]:
                    for column, cell in zip(t["columns"], row["cells"], strict=True):
                        kind = cell["kind"] or column["kind"]
                        if kind in ("money", "ratio", "days", "percent") and cell["text"] is not None:
                            unsaid += [] if cell["figure"] else [(t["key"], row["key"], column["key"])]
                        if (f := cell["figure"]) is not None:
                            opened.add((f["page"], f["measure"], f["kind"], f["code"]))
        self.assertEqual(unsaid, [])
        for page, measure, kind, code in sorted(opened):
            answer = self.client.get(f"/api/projects/FERRY/pages/{page}/working", {"measure": measure, "kind": kind, "code": code})
            self.assertEqual(answer.status_code, 200, (measure, kind, code))


CHANGE = {"do": "add", "list": "changes", "cells": {"name": "Wider quay", "lines": "3 -80.00"}}
RISK = {"do": "add", "list": "risks", "cells": {"name": "Ice", "probability": 10, "impact": "500.00"}}


class Laying(ReportTest):
    def test_sections_show_in_the_projects_own_order(self) -> None:
        self.assertEqual(self.section("money")["title"], "Money by WBS")
        shown = self.index_network(["money", "summary"], ["Safety"], 2)
        self.assertEqual([s["key"] for s in shown["sections"]], ["money", "summary"])
        self.assertGreater(len(shown["sections"][0]["tables"][0]["rows"]), 8)
        html = self.get("draft.html").decode()
        self.assertLess(html.index("Money by WBS</h2>"), html.index("Summary</h2>"))
        self.assertNotIn("Milestones</h2>", html)
        exported = self.call("get", "projects/FERRY/export/book.json")
        self.assertEqual(exported["report_layout"], {"sections": ["money", "summary"], "heads": ["Safety"], "levels": 2})
        self.call("post", "projects/FERRY/undo", {"revision": self.revision()})
        self.assertFalse(self.call("get", REPORT)["report_layout"]["own"])

    def test_what_is_no_layout_is_refused_beside_its_field(self) -> None:
        self.assertEqual(self.index_network(["luck"], status=422)["field"], "sections")
        self.assertEqual(self.index_network([], status=422)["field"], "sections")
        self.assertEqual(self.index_network(["money"], ["Cost"], status=422)["field"], "heads")
        self.index_network(["money"], levels=0, status=400)
        self.sign_in("maud")
        self.index_network(["money"], status=403)


class Reviewing(ReportTest):
    def state(self) -> tuple[str, bool]:
        now = self.call("get", REPORT)["review"]
        return now["state"], now["changed"]

    def test_asked_commented_sent_back_and_approved(self) -> None:
        self.write("watch", "Late.")
        self.review("approve", 403)
        self.review("ask")
        self.assertEqual(self.state(), ("review", False))
        self.review("ask", 409)
        self.sign_in("lorcan")
        self.assertEqual(self.review("comment", 422, section="money")["field"], "text")
        self.review("comment", section="money", text="Which branch?")
        self.assertEqual(self.review("send_back", 422)["field"], "text")
        self.review("send_back", text="Say which branch.")
        self.assertEqual(self.state(), ("sent_back", False))
        self.assertEqual(self.issue(409)["code"], "sent-back")
        self.sign_in("ines")
        (comment,) = self.call("get", REPORT)["review"]["comments"]
        self.review("settle", about=comment["id"])
        self.review("settle", 404, about=comment["id"])
        self.write("watch", "Late in the battery room.")
        self.assertEqual(self.state(), ("writing", True))
        self.review("ask")
        self.sign_in("lorcan")
        self.review("approve")
        self.assertEqual(self.state(), ("approved", False))
        self.post_entry("A150", percent="90")
        self.assertEqual(self.state(), ("writing", True))
        self.assertEqual(self.issue()["number"], 1)
        self.assertEqual(self.call("get", REPORT)["review"]["comments"][0]["settled_by"], "Ines Test")

    def test_nothing_is_reviewed_that_nobody_asked_for(self) -> None:
        self.sign_in("lorcan")
        self.review("approve", 409)
        self.review("dance", 400)
        self.assertEqual(self.review("comment", 400, section="luck", text="x")["field"], "section")


class Adding(ReportTest):
    closed = "projects/FERRY/pages/P03/report"

    def add(self, subject: str, mark: str = "", text: str = "", status: int = 200) -> Any:
        return self.call("post", f"{self.closed}/additions", {"subject": subject, "mark": mark, "text": text}, status)

    def close(self, status: str, reason: str = "") -> None:
        self.index_network(["overall", "heads", "money"], ["Safety"])
        self.write(status, reason, texts={"money": "Paid on time."})
        self.call("post", "projects/FERRY/pages/now/close", {"revision": self.revision()})

    def to_issue(self, status: int = 200) -> Any:
        return self.call("post", f"{self.closed}/issue", {"revision": self.revision()}, status)

    def test_what_was_not_said_at_closing_is_added_dated_and_can_be_issued(self) -> None:
        self.assertEqual(self.add("overall", "watch", "Late.", 409)["code"], "page-open")
        self.close("")
        self.sign_in("maud")
        self.add("overall", "watch", "Late.", 403)
        self.sign_in("lorcan")
        self.assertEqual(self.to_issue(409)["field"], "status")
        self.assertEqual(self.add("overall", "watch", " ", 422)["field"], "text")
        self.assertEqual(self.add("luck", text="x", status=400)["field"], "subject")
        self.assertEqual(self.add("heads.Luck", "act", "x", 400)["field"], "subject")
        self.assertEqual(self.add("money", "act", "x", 400)["field"], "mark")
        self.assertEqual(self.add("overall", "red", "x", 400)["field"], "status")
        self.assertEqual(self.add("overall", "act", "x" * 20_001, 422)["field"], "text")
        self.add("overall", "watch", "Class comments came late.")
        self.assertEqual(self.to_issue(422)["field"], "heads.Safety")
        self.add("heads.Safety", "on_plan")
        self.add("money", text="Invoice 5 came <b>after</b> that.")
        now = self.call("get", self.closed)
        self.assertEqual((now["draft"]["status"], now["draft"]["sealed"]), ("watch", ""))
        self.assertEqual(self.to_issue()["status"], "watch")
        paper, sheets = self.get("1.html").decode(), texts(self.get("1.xlsx"))
        on = rf"Added on {date.today():%-d %b %Y} by Lorcan Test: "
        self.assertIn(f"{on}Watch. Class comments came late.", paper)
        self.assertIn(f"{on}Safety. On plan", paper)
        self.assertIn(f"{on}Invoice 5 came &lt;b&gt;after&lt;/b&gt; that.", paper)
        self.assertIn([f"{on}Invoice 5 came <b>after</b> that."], [row[:1] for row in sheets["Report"]])
        self.assertEqual(verify(Project.objects.get()).wrong, [])

    def test_a_reason_that_was_not_given_can_be_added_alone(self) -> None:
        self.close("watch")
        self.sign_in("lorcan")
        self.assertEqual(self.to_issue(422)["field"], "reason")
        self.add("overall", text="Class comments came late.")
        self.add("heads.Safety", "on_plan")
        self.add("overall", text="And the crane.")
        now = self.call("get", self.closed)
        self.assertEqual((now["draft"]["status"], now["draft"]["reason"]), ("watch", "Class comments came late."))
        self.assertEqual(self.to_issue()["status"], "watch")

    def test_what_was_sent_back_after_closing_is_mended_beside_what_was_sealed(self) -> None:
        self.close("on_plan")
        self.sign_in("lorcan")
        self.add("heads.Safety", "on_plan")
        self.to_issue()
        self.call("post", f"{self.closed}/review", {"do": "ask"})
        self.call("post", f"{self.closed}/review", {"do": "send_back", "text": "It is late."})
        self.assertEqual(self.to_issue(409)["code"], "sent-back")
        self.add("overall", "act", "The hull is late.")
        now = self.call("get", self.closed)
        self.assertEqual((now["review"]["state"], now["draft"]["reason"]), ("writing", "The hull is late."))
        self.assertEqual(now["draft"]["sealed"], "Sealed with the page: On plan")
        self.assertEqual(self.to_issue()["status"], "act")
        other = self.call("get", f"{self.closed}/editions/2/compared?other=P03/1")["rows"]
        self.assertIn("addition 1", [row["row"] for row in other])
        self.assertEqual(verify(Project.objects.get()).wrong, [])


class Sending(WithOutbox, ReportTest):
    def people(self) -> list[int]:
        for name, email in (("Isla Corrance\nBcc: all", "isla@tarnquay.example"), ("Ben Orrow", "gone.orrow@tarnquay.example")):
            found = self.call("post", "projects/FERRY/distribution", {"name": name, "email": email})
        return [p["id"] for p in found["recipients"]]

    def send(self, to: list[int], status: int = 200, **more: Any) -> Any:
        return self.call("post", "projects/FERRY/pages/P03/report/editions/1/send", {"to": to, **more}, status)

    def test_an_edition_goes_to_the_list_and_the_outbox_says_what_became_of_it(self) -> None:
        self.sign_in("lorcan")
        self.write("watch", "Late.")
        self.issue()
        ben, isla = self.people()
        self.send([], 422)
        self.send([isla, 999], 404)
        sent = {d["email"]: (d["state"], d["detail"]) for d in self.send([ben, isla])["deliveries"]}
        self.assertEqual(sent["isla@tarnquay.example"][0], "delivered")
        self.assertEqual(sent["gone.orrow@tarnquay.example"][0], "bounced")
        self.assertIn("550", sent["gone.orrow@tarnquay.example"][1])
        (_, _, message), bounced = self.kept.all()[0], self.kept.all()[1]
        self.assertEqual((message["To"], bounced[1]), ('"Isla Corrance Bcc: all" <isla@tarnquay.example>', "bounced"))
        (paper,) = attachments(message)
        self.assertEqual(paper.get_payload(decode=True), self.get("1.pdf"))
        self.assertIn("P03", message["Subject"])
        self.assertIn("isla@tarnquay.example", listing(self.kept))
        again = self.send([isla], 409)
        self.assertIn("Isla Corrance", again["detail"])
        self.send([isla], again=True)
        self.assertEqual(Delivery.objects.filter(state="delivered").count(), 2)

    def test_nothing_is_sent_by_halves_where_the_outbox_is_away_or_the_role_is_not_enough(self) -> None:
        people = self.people()
        self.sign_in("lorcan")
        self.write("on_plan")
        self.issue()
        self.stop()
        with self.assertLogs("django.request", "ERROR"):
            self.assertEqual(self.send(people, 503)["code"], "outbox-away")
        self.assertEqual(Delivery.objects.count(), 0)
        self.sign_in("ines")
        self.send(people, 403)

    def test_the_list_takes_real_addresses_once(self) -> None:
        self.people()
        for name, email, field in (("", "a@b.example", "name"), ("A", "nobody", "email"), ("A", "ISLA@tarnquay.example", "email")):
            self.assertEqual(self.call("post", "projects/FERRY/distribution", {"name": name, "email": email}, 422)["field"], field)
        gone = self.call("get", "projects/FERRY/distribution")["recipients"][0]["id"]
        self.call("delete", f"projects/FERRY/distribution/{gone}")
        self.call("delete", f"projects/FERRY/distribution/{gone}", status=404)


class Comparing(ReportTest):
    def test_two_editions_side_by_side(self) -> None:
        self.sign_in("lorcan")
        self.write("watch", "Late.")
        self.issue()
        self.post_entry("A150", percent="99")
        self.write("act", "Later still.")
        self.issue()
        found = self.call("get", "projects/FERRY/pages/P03/report/editions/2/compared?other=P03/1")
        stated = {(r["section"], r["row"], r["column"]): (r["was"], r["now"]) for r in found["rows"]}
        self.assertEqual(stated["Overall status", "Overall status", ""], ("watch", "act"))
        self.assertEqual(stated["Overall status", "Why", ""], ("Late.", "Later still."))
        was, now = stated["Overall status", "Earned value", "This page"]
        self.assertLess(float(was), float(now))
        same = self.call("get", "projects/FERRY/pages/P03/report/editions/2/compared?other=P03/2")
        self.assertEqual((same["rows"], same["same"] > 100), ([], True))
        self.call("get", "projects/FERRY/pages/P03/report/editions/2/compared?other=P01/1", status=404)
        Edition.objects.filter(number=1).update(content=None)
        self.call("get", "projects/FERRY/pages/P03/report/editions/2/compared?other=P03/1", status=409)
        self.assertEqual(Page.objects.filter(state="wet").count(), 1)


class Beginning(Plans):
    def test_a_project_with_nothing_in_it_can_be_reported(self) -> None:
        """No activity, no money, no baseline, no page before: everything says so, nothing fails."""
        self.begin()
        page = "/api/projects/QUAY/pages/now"
        report = self.call("get", "projects/QUAY/pages/now/report")
        self.assertEqual([s["key"] for s in report["sections"]], [key for key in SECTIONS if key not in SOMETIMES])
        for form in ("html", "pdf", "xlsx"):
            self.assertEqual(self.client.get(f"{page}/report/editions/draft.{form}").status_code, 200, form)
        for path in ("value.csv", "value.xlsx", "statistics.xlsx", "work.xlsx", "trend.xlsx", "value/figures", "curve?bucket=period"):
            answer = self.client.get(f"{page}/{path}")
            self.assertEqual(answer.status_code, 200, (path, answer.content[:300]))
        body = json.dumps({"form": "pdf", "rows": []})
        self.assertEqual(self.client.post(f"{page}/timeline/print", body, content_type="application/json").status_code, 200)
