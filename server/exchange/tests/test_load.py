"""Books into rows and out again: the same book, nothing half loaded, everything wrong told."""

import io
import json
import tempfile
from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.test import TestCase

from core.tests.books import doc, page
from dryledger.compute import compute
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import book_from
from dryledger.results import results_document
from server.book.cache import LruCache
from server.book.documents import book_document
from server.book.loading import load_document, load_text
from server.book.models import Activity, Page, Project
from server.book.sealing import canonical
from server.book.verify import verify
from server.book.workspace import workspace_of
from server.tests.base import FERRY


def load(path_text: str, *options: str) -> tuple[int, str]:
    """Run the load command on a file with this text: exit code and what it said."""
    stated = io.StringIO()
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "book.json"
        file.write_text(path_text)
        try:
            call_command("load_book", file, *options, stdout=stated, stderr=stated)
        except SystemExit as stop:
            return int(str(stop.code)), stated.getvalue()
    return 0, stated.getvalue()


def bare(value: Any) -> Any:
    """A document without nulls and empty lists, which say nothing."""
    if isinstance(value, dict):
        return {k: bare(v) for k, v in value.items() if v is not None and v != []}
    return [bare(v) for v in value] if isinstance(value, list) else value


class Loading(TestCase):
    def setUp(self) -> None:
        LruCache.forget_all()

    def test_the_ferry_comes_out_as_it_went_in(self) -> None:
        document = json.loads(FERRY.read_text())
        document["periods"] = document["periods"][:2]
        document["periods"][1]["state"] = "wet"
        project = load_document(document)
        self.assertEqual(canonical(bare(book_document(project))), canonical(bare(document)))
        self.assertEqual(results_document(compute(workspace_of(project).book)), results_document(compute(book_from(document))))

    def test_own_keys_and_every_list_survive(self) -> None:
        d = doc(
            [
                {
                    "code": "A",
                    "x-colour": "grey",
                    "pauses": [{"from": "2027-01-05T00:00", "to": "2027-01-06T00:00"}],
                    "deadline": "2027-02-01T17:00",
                },
                {"code": "B"},
                {"code": "C", "value_method": {"type": "milestones", "weights": [{"name": "m", "weight": 1, "at": 0.5}]}},
            ],
            [{"from": "A", "to": "B", "type": "SS", "lag": "1d", "lag_basis": "elapsed"}],
            **{"x-made-by": {"who": "us", "when": [1, 2.5]}},
            resources=[
                {"code": "R", "name": "R", "units": 1.5, "role": True, "rates": [{"from": "2027-01-01", "amount": "5.00", "per": "day"}]}
            ],
            wbs=[{"code": "1", "name": "One", "weight": 2}, {"code": "1.1", "name": "Below", "parent": "1"}],
            assignments=[{"activity": "A", "resource": "R", "units": 0.5}],
            costs=[{"activity": "B", "name": "c", "kind": "fixed", "amount": "10.00", "in_budget": False}],
            periods=[
                page(
                    "P1",
                    "2027-01-08T17:00",
                    {"activity": "A", "units_done": 3},
                    {"activity": "C", "milestones_reached": ["m"]},
                    state="wet",
                )
            ],
        )
        project = load_document(d)
        self.assertEqual(canonical(bare(book_document(project))), canonical(bare(d)))

    def test_under_another_code_the_seals_hold(self) -> None:
        document = json.loads(FERRY.read_text())
        document["periods"] = document["periods"][:2]
        for code in (None, "AGAIN"):
            self.assertEqual(verify(load_document(document, code)).wrong, [])
            self.assertEqual(verify(load_text(json.dumps(document).encode(), f"{code}-2")).wrong, [])

    def test_nothing_is_half_loaded(self) -> None:
        d = doc([{"code": "A"}, {"code": "B", "wbs": "nowhere"}])
        with self.assertRaises(BookInvalid):
            load_document(d)
        self.assertEqual((Project.objects.count(), Activity.objects.count()), (0, 0))

    def test_a_code_is_taken_once(self) -> None:
        load_document(doc([{"code": "A"}]))
        with self.assertRaises(BookInvalid) as caught:
            load_document(doc([{"code": "A"}]))
        self.assertIn("--as CODE", str(caught.exception))
        self.assertEqual(load_document(doc([{"code": "A"}]), "OTHER").code, "OTHER")

    def test_a_project_always_has_one_wet_page(self) -> None:
        none = load_document(doc([{"code": "A"}]), "NONE")
        self.assertEqual([(p.code, p.status, p.state) for p in Page.objects.filter(project=none)], [("P01", "2027-01-04T08:00", "wet")])
        pages = [page(f"W{i}", f"2027-01-{d:02d}T17:00", state=s) for i, (d, s) in enumerate(((8, "dry"), (18, "dry")))]
        dry = load_document(doc([{"code": "A"}], periods=pages), "DRY")
        self.assertEqual([(p.code, p.status) for p in Page.objects.filter(project=dry, state="wet")], [("P03", "2027-01-28T17:00")])
        pages = [page("W1", "2027-01-08T17:00"), page("W2", "2027-01-15T17:00")]
        wet = load_document(doc([{"code": "A"}], periods=pages), "WET")
        self.assertEqual([p.state for p in Page.objects.filter(project=wet)], ["dry", "wet"])

    def test_the_command(self) -> None:
        self.assertEqual(load(json.dumps(doc([{"code": "A"}]))), (0, "Loaded X, Test.\n"))
        code, stated = load(json.dumps(doc([{"code": "A", "wbs": "9"}])), "--as", "Y")
        self.assertEqual(code, 2)
        self.assertIn("activities[0].wbs: there is no WBS element “9”", stated)
        self.assertIn("nothing was changed", stated)
        self.assertEqual(load("{")[0], 2)
        with self.assertRaises(SystemExit):
            call_command("load_book", Path("/nowhere/book.json"), stderr=io.StringIO())
