"""How projects begin and are kept: templates, holidays, copies on other dates, the organisation's lists, views, and going out as files."""

import io
import json
import tempfile
from pathlib import Path
from typing import Any

from django.core.management import call_command

from dryledger.calendar.calendar import from_text
from server.book.documents import book_document
from server.book.loading import load_document
from server.book.models import Activity, Project
from server.plan.tests.test_changes import Plans


class Offers(Plans):
    def test_templates_states_and_countries(self) -> None:
        found = self.call("get", "templates")
        self.assertEqual(len(found["templates"]), 2)
        for t in found["templates"]:
            self.begin(code=t["code"].upper(), source="template", of=t["code"], start="6 sep 2027", currency="NOK")
            rows = [r for r in self.plan()["rows"] if r["kind"] != "wbs"]
            self.assertEqual(len(rows), t["activities"])
            self.assertEqual(min(r["start"] for r in rows)[:10], "2027-09-06")
            self.assertEqual(self.plan()["currency"], "NOK")
        names = [c["name"] for c in found["countries"]]
        self.assertIn("Ireland", names)
        self.assertIn("United Kingdom", names)
        self.assertEqual(names, sorted(names))

    def test_public_holidays(self) -> None:
        found = self.call("get", "holidays?country=ie&year=2027")
        days = {d["date"]: d["name"] for d in found["days"]}
        self.assertIn("2027-12-25", days)
        self.assertTrue(all(d.startswith("2027-") for d in days))
        for asked, words in (
            ("country=IE&year=soon", "1970 to 2100"),
            ("country=IE&year=1", "1970 to 2100"),
            ("country=ZZ&year=2027", "No holidays are known for “ZZ”"),
            ("country=&year=2027", "No holidays are known"),
            ("year=2027", "No holidays are known"),
        ):
            self.assertIn(words, self.call("get", f"holidays?{asked}", status=400)["detail"], asked)

    def test_the_lists_of_the_organisation_and_views(self) -> None:
        self.assertIn("you need to be an approver", self.call("put", "states", {"states": ["won"]}, 403)["detail"])
        self.sign_in("lorcan")
        kept = self.call("put", "states", {"states": [" bid ", "won", "", "bid", "in  service"]})["states"]
        self.assertEqual(kept, ["bid", "won", "in service"])
        self.assertEqual(self.call("get", "templates")["states"], kept)
        self.call("put", "states", {"states": "won"}, 400)
        view = {"name": "Late", "columns": [{"key": "name"}], "where": [{"key": "late", "text": "> 0"}]}
        self.call("put", "projects/FERRY/plan/views", {"revision": 1, "views": [view]})
        self.assertEqual(self.plan()["views"], [view])
        self.assertIn(
            "more than", self.call("put", "projects/FERRY/plan/views", {"revision": 2, "views": [{"name": "x" * 100_001}]}, 413)["detail"]
        )
        more = {"name": "Mine", "columns": [{"key": "code"}]}
        self.sign_in("tobin")
        told = self.call("put", "projects/FERRY/plan/views", {"revision": 1, "views": [more]}, 409)
        self.assertIn("Nothing of yours was written over it", told["detail"])
        self.assertEqual(self.plan()["views"], [view])
        self.change({"do": "set", "row": self.row("Sea trials")["id"], "cells": {"name": "Trials at sea"}})
        self.assertEqual(self.call("put", "projects/FERRY/plan/views", {"revision": 2, "views": [view, more]})["revision"], 3)
        self.undo_or_redo("undo")
        self.assertEqual(self.plan()["views"], [view, more])
        self.call("put", "projects/FERRY/plan/views", {"revision": 3, "views": [view]})
        self.sign_in("maud")
        self.call("put", "projects/FERRY/plan/views", {"revision": 1, "views": []}, 403)
        self.assertEqual(self.plan()["views"], [view])


class Copies(Plans):
    def test_all_dates_of_the_plan_move_with_its_start(self) -> None:
        self.begin()
        self.outline("A|2d\nB|3d\nC|1d\n")
        a, b, c = (self.row(n)["id"] for n in "ABC")
        about = self.call("get", "projects/QUAY/about")["project"]["id"]
        self.change(
            {"do": "set", "row": about, "cells": {"deadline": "26 feb 2027"}},
            {"do": "set", "row": a, "cells": {"constraint": "start on or after 11 jan 2027", "deadline": "2027-02-01"}},
            {"do": "set", "row": b, "cells": {"pauses": [{"from": "5 jan 2027", "to": "6 jan 2027", "reason": "Tide"}]}},
            {"do": "set", "row": c, "cells": {"mode": "fixed", "start": "2027-01-18T08:00", "finish": "2027-01-18T17:00"}},
        )
        first = book_document(Project.objects.get(code="QUAY"))
        self.begin(code="LATER", source="copy", of="QUAY", start="1 feb 2027", currency="")
        later = book_document(Project.objects.get(code="LATER"))
        shift = 28 * 24 * 60

        def dates(doc: Any) -> list[int]:
            found = [doc["project"]["start"], doc["project"]["deadline"]]
            for x in doc["activities"]:
                found += [x[k] for k in ("start", "finish", "deadline") if x.get(k)]
                found += [x["constraint"]["at"]] if x.get("constraint") else []
                found += [t for p in x.get("pauses", []) for t in (p["from"], p["to"])]
            return [from_text(t) for t in found]

        self.assertEqual(len(dates(first)), 8)
        self.assertEqual(dates(later), [t + shift for t in dates(first)])
        ends = {code: [r["finish"][:10] for r in self.on(code) if r["kind"] != "wbs"] for code in ("QUAY", "LATER")}
        self.assertEqual([x[-2:] for x in ends["QUAY"]], ["12", "08", "18"])
        self.assertEqual(len(ends["LATER"]), 3)
        self.assertEqual(first["project"]["code"], "QUAY")

    def on(self, code: str) -> Any:
        self.code = code
        return self.plan()["rows"]

    def test_a_copy_with_its_progress_keeps_its_dates(self) -> None:
        body = {"name": "Again", "code": "AGAIN", "source": "copy", "of": "FERRY", "progress": True, "start": "1 mar 2028", "currency": ""}
        self.assertEqual(self.call("post", "projects", body, 422)["field"], "start")
        self.assertIn("no project “NONE”", self.call("post", "projects", body | {"of": "NONE"}, 404)["detail"])


class Files(Plans):
    def test_out_by_name_and_what_can_not_go_out(self) -> None:
        def run(*args: str) -> tuple[int, str]:
            told = io.StringIO()
            try:
                call_command("export_book", *args, stdout=told, stderr=told)
            except SystemExit as end:
                return int(str(end.code)), told.getvalue()
            return 0, told.getvalue()

        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            for to in ("book.json", "book.xlsx", "tables"):
                self.assertEqual(run("FERRY", "--to", str(folder / to))[0], 0)
            self.assertEqual(json.loads((folder / "book.json").read_bytes())["project"]["code"], "FERRY")
            self.assertIn("Activities.csv", [f.name for f in (folder / "tables").iterdir()])
            for args, words in (
                (("NONE", "--to", str(folder / "x.json")), "There are: FERRY"),
                (("FERRY", "--to", str(folder / "x.doc")), "ends in .json or .xlsx"),
                (("FERRY", "--to", str(folder / "none" / "x.json")), "can't be written"),
            ):
                code, told = run(*args)
                self.assertEqual(code, 2)
                self.assertIn(words, told)
            document = book_document(self.project)
            document["project"]["description"] = "long " * 8_000
            document["project"]["code"] = "LONG"
            load_document(document)
            code, told = run("LONG", "--to", str(folder / "long.xlsx"))
            self.assertEqual((code, (folder / "long.xlsx").exists()), (2, False))
            self.assertIn("a cell of a workbook holds 32,767. Take JSON or CSV instead", told)
            self.assertEqual(run("LONG", "--to", str(folder / "long.json"))[0], 0)
        answer = self.client.get("/api/projects/LONG/export/book.xlsx")
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "too-long"))
        self.assertEqual(self.client.get("/api/projects/FERRY/export/book.doc").status_code, 404)
        self.assertEqual(Activity.objects.filter(project__code="LONG").count(), Activity.objects.filter(project__code="FERRY").count())
