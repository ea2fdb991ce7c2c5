"""Reading books: what is wrong is told all at once, with its path; nothing crashes."""

import json
import unittest
from pathlib import Path
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import FIVE, doc, page
from dryledger.compute import compute
from dryledger.errors import BookInvalid, UnknownPeriod
from dryledger.exchange.book_json import book_from, read_book

FERRY = Path(__file__).parents[2] / "demo" / "ferry.json"


def faults(document: Any) -> dict[str, str]:
    """The faults of a document by path."""
    try:
        book_from(document)
    except BookInvalid as error:
        return {f.path: f.message for f in error.faults}
    return {}


class Faults(unittest.TestCase):
    def test_all_at_once(self) -> None:
        d = doc([{"code": "A", "duration": "ten days", "colour": "red"}, {"code": "B", "duration": "-2d"}], [{"from": "A"}], x_note=1)
        found = faults(d)
        self.assertEqual(set(found), {"activities[0].duration", "activities[0].colour", "activities[1].duration", "links[0].to", "x_note"})
        self.assertIn("“ten days”", found["activities[0].duration"])

    def test_rules_of_the_whole(self) -> None:
        loop = [{"from": "A", "to": "B"}, {"from": "B", "to": "C"}, {"from": "C", "to": "A"}]
        three = [{"code": c} for c in "ABC"]
        self.assertIn("A → B → C → A", faults(doc(three, loop))["links"])
        self.assertIn("activities[1].code", faults(doc([{"code": "A"}, {"code": "A"}])))
        self.assertIn("activities[0].wbs", faults(doc([{"code": "A", "wbs": "9"}])))
        self.assertIn("calendars[0].week", faults(doc([], calendars=[FIVE | {"week": {}}])))
        after = page("P1", "2027-01-08T17:00", {"activity": "A", "actual_start": "2027-01-11T08:00"})
        self.assertIn("periods[0].statements[0].actual_start", faults(doc([{"code": "A"}], periods=[after])))
        backwards = page(
            "P1", "2027-01-08T17:00", {"activity": "A", "actual_start": "2027-01-06T08:00", "actual_finish": "2027-01-05T08:00"}
        )
        self.assertIn("periods[0].statements[0].actual_finish", faults(doc([{"code": "A"}], periods=[backwards])))

    def test_text_that_is_no_book(self) -> None:
        for text in (
            "",
            "{",
            "[]",
            '{"a":1,"a":2}',
            "[" * 100_000,
            '{"format": NaN}',
            "1" * 400,
            "\ud800".encode("utf-8", "surrogatepass"),
            b"\xff",
        ):
            with self.assertRaises(BookInvalid, msg=str(text)[:30]):
                read_book(text)

    def test_dates_past_the_last_year(self) -> None:
        with self.assertRaises(BookInvalid):
            compute(book_from(doc([{"code": "A", "duration": "999999999d"}])))

    def test_unknown_period(self) -> None:
        with self.assertRaises(UnknownPeriod):
            compute(book_from(doc([{"code": "A"}])), "P9")

    @settings(max_examples=300)
    @given(st.data())
    def test_any_value_anywhere_is_a_fault_or_a_book(self, data: Any) -> None:
        d: Any = json.loads(
            json.dumps(
                doc(
                    [{"code": "A", "pauses": []}, {"code": "B"}],
                    [{"from": "A", "to": "B"}],
                    periods=[page("P1", "2027-01-08T17:00", {"activity": "A", "percent": 3})],
                )
            )
        )
        at = d
        while True:
            key = data.draw(st.sampled_from(sorted(at) if isinstance(at, dict) else range(len(at))))
            if not isinstance(at[key], (dict, list)) or not at[key] or data.draw(st.booleans()):
                break
            at = at[key]
        at[key] = data.draw(
            st.sampled_from([None, 0, -1, 1.5, 10**30, "", "x", "2027-13-01T08:00", "9999-12-31T23:59", [], {}, [None], True, "5d"])
        )
        try:
            compute(book_from(d))
        except BookInvalid as error:
            self.assertTrue(error.faults)


class Demo(unittest.TestCase):
    def test_the_ferry_reads_and_tells_its_stories(self) -> None:
        from dryledger.marks.marks import drift_days, project_mark

        b = read_book(FERRY.read_bytes())
        marks = [project_mark(compute(b, p.code)).mark for p in b.periods]
        self.assertEqual((marks[6], marks[7]), ("watch", "act"))
        r = compute(b)
        self.assertEqual(drift_days(r, "A360"), 8)
        self.assertTrue(r.schedule.activities["A460"].out_of_sequence)
        self.assertGreater(r.schedule.finish, b.project.deadline or 0)
        self.assertEqual([p.state for p in b.periods], ["dry"] * 9 + ["wet"])
