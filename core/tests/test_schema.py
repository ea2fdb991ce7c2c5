"""The published schema, the dataclasses and the reader say the same of the book format."""

import copy
import dataclasses
import json
import random
import unittest
from pathlib import Path
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from core.tests.random_books import random_book
from dryledger.book import answers, baselines, estimates, pages, plan, value_method
from dryledger.calendar import calendar
from dryledger.compute import compute
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import book_from
from dryledger.exchange.schema import book_schema
from dryledger.exchange.write import book_document
from dryledger.results import MORE, PARTS, Asked, results_document
from dryledger.results_schema import results_schema
from dryledger.value.curve import CURVE_BUCKETS

Doc = dict[str, Any]
ROOT = Path(__file__).parents[2]
SCHEMA: Doc = json.loads((ROOT / "docs" / "formats" / "book.schema.json").read_text())
VALID = Draft202012Validator(SCHEMA)
KINDS = {
    "calendar": calendar.Calendar,
    "pause": calendar.Pause,
    "value_method": value_method.ValueMethod,
    "resource": plan.Resource,
    "wbs_element": plan.WbsElement,
    "share": estimates.Share,
    "kept_estimate": estimates.KeptEstimate,
    "hours_entry": pages.HoursEntry,
    "cost_entry": pages.CostEntry,
    "baseline_assignment": baselines.BaselineAssignment,
    "activity": plan.Activity,
    "link": plan.Link,
    "assignment": plan.Assignment,
    "direct_cost": plan.DirectCost,
    "baseline": baselines.Baseline,
    "baseline_activity": baselines.BaselineActivity,
    "period": pages.Period,
    "statement": pages.Statement,
    "answer": answers.Answer,
    "limits": answers.Limits,
    "rhythm": pages.Rhythm,
}
OTHER_NAMES = {
    "cost_entry": {"of": "for", "order_code": "order"},
    "answer": {"check_code": "check"},
    "link": {"source": "from", "target": "to"},
    "pause": {"start": "from", "end": "to"},
}


class Schema(unittest.TestCase):
    def test_the_file_is_what_the_core_says(self) -> None:
        self.assertEqual(SCHEMA, json.loads(json.dumps(book_schema())), "run ./dry types")
        Draft202012Validator.check_schema(SCHEMA)

    def test_every_field_of_the_dataclasses_and_no_other(self) -> None:
        for name, kind in KINDS.items():
            names = {OTHER_NAMES.get(name, {}).get(f.name, f.name) for f in dataclasses.fields(kind)}  # type: ignore[arg-type]
            self.assertEqual(set(SCHEMA["$defs"][name]["properties"]), names, name)
        top = {f.name for f in dataclasses.fields(plan.Book)} - {"extra"} | {"format", "version"}
        self.assertEqual(set(SCHEMA["properties"]), top)
        self.assertEqual(set(SCHEMA["properties"]["project"]["properties"]), {f.name for f in dataclasses.fields(plan.Project)})

    def test_what_is_written_is_valid(self) -> None:
        for seed in range(30):
            doc = random_book(seed)
            for d in (doc, json.loads(json.dumps(book_document(book_from(doc)), default=float))):
                self.assertEqual([e.json_path + e.message for e in VALID.iter_errors(d)], [])

    def test_what_the_schema_refuses_the_reader_refuses(self) -> None:
        rng = random.Random(5)
        agreed = 0
        for seed in range(250):
            doc = copy.deepcopy(random_book(seed, 4))
            spoil(doc, rng)
            refused = not VALID.is_valid(doc)
            try:
                book_from(doc)
            except BookInvalid:
                agreed += refused
                continue
            self.assertFalse(refused, [e.json_path + ": " + e.message for e in VALID.iter_errors(doc)][:2])
        self.assertGreater(agreed, 60)


def spoil(doc: Doc, rng: random.Random) -> None:
    """Put one wrong value somewhere, take a key away, or add one."""
    spots: list[tuple[Any, Any]] = []

    def walk(value: Any) -> None:
        if isinstance(value, (dict, list)):
            for key, inner in value.items() if isinstance(value, dict) else enumerate(value):
                spots.append((value, key))
                walk(inner)

    walk(doc)
    where, key = rng.choice(spots)
    kind = rng.randrange(4)
    if kind == 0 and isinstance(where, dict):
        del where[key]
    elif kind == 1 and isinstance(where, dict):
        where["surprise"] = 1
    else:
        where[key] = rng.choice([None, "", "x", -1, 5, True, [], {}, "-3d", "12:00", 1e30, "9999-99-99"])


class ResultsFormat(unittest.TestCase):
    """The results that are printed are what their schema says, whatever is asked for."""

    def test_the_file_is_the_schema(self) -> None:
        self.assertEqual(json.loads((ROOT / "docs" / "formats" / "results.schema.json").read_text()), results_schema())

    @settings(max_examples=25, deadline=None)
    @given(st.integers(0, 10**6), st.sampled_from(CURVE_BUCKETS))
    def test_random_books(self, seed: int, bucket: str) -> None:
        r = compute(book_from(random_book(seed)), bucket=bucket)
        asked = Asked(tuple(p.status for p in r.at.periods), "present", ("wbs:1", f"activity:{r.book.activities[0].code}"))
        out = json.loads(json.dumps(results_document(r, (*PARTS, *MORE), asked)))
        faults = [e.message for e in Draft202012Validator(results_schema()).iter_errors(out)]
        self.assertEqual(faults[:3], [])
        self.assertEqual(set(out) - set(results_schema()["properties"]), set())  # type: ignore[call-overload]
