"""Bad and hostile books: every fault at once, with its path, in bounded time; never a traceback."""

import json
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from typing import Any

from core.tests.books import FIVE, doc
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import MOST_LISTS, book_from, parse_json

COMPUTE = Path(__file__).parents[1] / "commands" / "compute.py"
A = {"code": "A"}


def run(text: str, *options: str) -> tuple[int, str, str]:
    """Exit code, output and errors of the command on a file."""
    with tempfile.NamedTemporaryFile("w", suffix=".json") as file:
        file.write(text)
        file.flush()
        done = subprocess.run([sys.executable, COMPUTE, file.name, *options], capture_output=True, text=True, timeout=120, check=False)
    return done.returncode, done.stdout, done.stderr


def paths(document: Any) -> list[str]:
    """The paths of the faults of a document."""
    try:
        book_from(parse_json(document if isinstance(document, str) else json.dumps(document)))
    except BookInvalid as error:
        return [f.path for f in error.faults]
    return []


class AllAtOnce(unittest.TestCase):
    def test_values_references_loops_and_doubles_in_one_go(self) -> None:
        wrong = doc(
            [{"code": "A", "duration": 7}, {"code": "A", "calendar": "none"}, {"code": "B", "name": None}],
            [{"from": "A", "to": "Q"}, 5, {"from": "B", "to": "A", "lag": "soon"}, {"from": "A", "to": "B"}],  # type: ignore[list-item]
            project={"currency": 3},
            wbs=[{"code": "1", "name": "One", "parent": "1"}],
            costs=[{"activity": "B", "name": "Paint", "amount": "-1.00"}],
        )
        self.assertEqual(set(paths(wrong)), {
            "project.currency", "activities[0].duration", "activities[1].calendar", "activities[1].code", "activities[2].name",
            "links[0].to", "links[1]", "links[2].lag", "links", "wbs", "costs[0].amount",
        })  # fmt: skip

    def test_a_row_that_is_none_leaves_the_others_their_places(self) -> None:
        wrong = doc([A], periods=[{"code": "P", "status": "2027-01-08T17:00", "costs": [7, {"activity": "Z", "date": "2027-01-05"}]}])
        self.assertEqual(
            set(paths(wrong)),
            {"periods[0].costs[0]", "periods[0].costs[1].activity", "periods[0].costs[1].amount", "periods[0].costs[1].source"},
        )

    def test_a_key_that_stands_twice_is_told_where(self) -> None:
        text = json.dumps(doc([A])).replace('"code": "A"', '"code": "A", "code": "B", "duration": 3')
        self.assertEqual(paths(text), ["activities[0].code", "activities[0].duration"])

    def test_numbers_that_are_none(self) -> None:
        for number in ("NaN", "Infinity", "1e999", "9" * 400, "0." + "3" * 400):
            text = json.dumps(doc([{"code": "A", "weight": 77}])).replace("77", number)
            self.assertEqual(paths(text), ["activities[0].weight"], number[:9])

    def test_dates_that_cannot_be(self) -> None:
        for key, value in (
            ("start", "9999-99-99T08:00"),
            ("start", "2027-02-30T08:00"),
            ("deadline", "tomorrow"),
            ("start", "2027-01-04T25:00"),
        ):
            self.assertEqual(paths(doc([A], project={key: value})), [f"project.{key}"], value)

    def test_calendars(self) -> None:
        office = ["08:00-12:00", "11:00-17:00", "13:00-12:00"]
        gaps = [{"from": "2027-01-04", "to": "2027-01-08"}, {"from": "2027-01-07", "to": "2027-01-09"}]
        calendar = FIVE | {"week": {"mon": office}, "exceptions": gaps, "hours_per_day": 25}
        self.assertEqual(set(paths(doc([A], calendars=[calendar]))), {
            "calendars[0].week.mon[1]", "calendars[0].week.mon[2]", "calendars[0].exceptions[1]", "calendars[0].hours_per_day",
        })  # fmt: skip
        self.assertEqual(paths(doc([A], calendars=[FIVE | {"week": {}}])), ["calendars[0].week"])

    def test_more_faults_than_anyone_reads_are_cut(self) -> None:
        got = paths(doc([]) | {"activities": [5] * 20_000})
        self.assertEqual((len(got), got[-1]), (10_001, ""))


class Command(unittest.TestCase):
    def refused(self, text: str) -> list[dict[str, str]]:
        code, out, err = run(text)
        self.assertEqual((code, out), (2, ""), err[-300:])
        errors: list[dict[str, str]] = json.loads(err)["errors"]
        return errors

    def test_brackets_without_end(self) -> None:
        for text in ("[" * (MOST_LISTS + 1), "[" * 300_000, "[" + "[]," * MOST_LISTS + "[]]", '{"a":' * 50_000):
            self.assertEqual([e["path"] for e in self.refused(text)], [""])

    def test_no_time_left_and_no_time_at_all(self) -> None:
        only = FIVE | {"week": {}, "exceptions": [{"from": "2027-01-04", "to": "2027-01-04", "shifts": ["08:00-10:00"]}]}
        self.assertEqual(self.refused(json.dumps(doc([{"code": "A", "duration": "3h"}], calendars=[only])))[0]["path"], "activities[0]")
        self.assertEqual(
            run(json.dumps(doc([{"code": "A", "duration": "2h"}, {"code": "M", "kind": "milestone"}], calendars=[only])))[0], 0
        )
        self.assertEqual(self.refused(json.dumps(doc([{"code": "A", "duration": "999999999w"}])))[0]["path"], "activities[0]")

    def test_the_year_9999(self) -> None:
        far = {"code": "A", "name": "A", "constraint": {"type": "start_on_or_after", "at": "9999-12-01T08:00"}}
        code, out, _ = run(json.dumps(doc([far, {"code": "B"}])), "--bucket", "day")
        results = json.loads(out)
        self.assertEqual((code, results["schedule"]["finish"][:4], results["curve"]["points"]), (0, "9999", []))
        self.assertIn("longer bucket", results["curve"]["reason"])

    def test_a_long_loop_and_many_pauses(self) -> None:
        n = 5_000
        acts = [{"code": f"A{i}"} for i in range(n)]
        loop = self.refused(json.dumps(doc(acts, [{"from": f"A{i}", "to": f"A{(i + 1) % n}"} for i in range(n)])))
        self.assertTrue(loop[0]["message"].startswith("the links form a loop: A0 → A1 → A2"))
        pauses = [{"from": "2027-01-04T08:00", "to": f"{2100 + i % 800}-01-01T00:00"} for i in range(20_000)]
        self.assertEqual(run(json.dumps(doc([{"code": "A", "pauses": pauses}])))[0], 0)

    def test_a_monthly_rate_for_centuries(self) -> None:
        rate = {"code": "R", "name": "R", "rates": [{"from": "2027-01-01", "amount": "1.00", "per": "month"}]}
        b = doc([{"code": "A", "duration": "99999d"}], resources=[rate], assignments=[{"activity": "A", "resource": "R"}])
        self.assertIn("100 years", self.refused(json.dumps(b))[0]["message"])
