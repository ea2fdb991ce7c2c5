"""What people type into plans, the program's codes, registers, own fields, loads and comparisons: by hand and by property."""

import unittest
from decimal import Decimal as D
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from core.tests.books import book, doc
from dryledger.baseline.comparison import compare
from dryledger.baseline.snapshot import snapshot
from dryledger.book.formulas import values_of
from dryledger.book.numbering import next_code, next_element, resource_code
from dryledger.book.plan import Link
from dryledger.book.reader import duration_minutes, split_duration
from dryledger.book.registers import FieldDefinition
from dryledger.budget.load import Load, loads
from dryledger.budget.time_phased import kinds_of_cost, table
from dryledger.calendar.calendar import Calendar, from_text, to_text
from dryledger.compute import Results, compute
from dryledger.entry.plan_cells import links_text, type_constraint, type_lag, type_links, type_shifts, type_span
from dryledger.errors import BookInvalid, EntryRefused
from dryledger.exchange.book_json import book_from

CALENDAR = Calendar("c", "c", (((480, 720), (780, 1020)),) * 5 + ((), ()))
RESOURCE = {"code": "FIT", "name": "Fitters", "units": 1, "rates": [{"from": "2027-01-01", "amount": "50.00", "per": "hour"}]}


def loads_of(r: Results, bucket: str) -> tuple[list[int], list[Load]]:
    """The loads of a computed book."""
    return loads(r.at, r.schedule, bucket)


class Typed(unittest.TestCase):
    def test_nothing_must_start_where_nobody_works(self) -> None:
        """Saturday 6 February 2027 is free; the Monday after is offered, and what is no must may stand there."""
        near = from_text("2027-02-01T08:00")
        with self.assertRaisesRegex(EntryRefused, "6 February 2027 has no working time.*“start on or after”") as no:
            type_constraint("must start 6 feb", near, CALENDAR.axis)
        self.assertEqual(no.exception.nearest, "must start on 8 February 2027")
        for text, at in (("must start on 8 feb", "2027-02-08T08:00"), ("start on or after 6 feb", "2027-02-06T00:00")):
            got = type_constraint(text, near, CALENDAR.axis)
            assert got is not None and got.at is not None
            self.assertEqual(to_text(got.at), at)
        with self.assertRaises(EntryRefused):
            type_constraint("must finish 7 feb", near, CALENDAR.axis)

    def test_a_negative_lag_is_a_lead(self) -> None:
        for text in ("A110 ss lead 2d", "A110 SS lag -2d", "A110 SS lag −2d"):
            [link] = type_links(text, CALENDAR, ["A110"])
            self.assertEqual((link.type, link.lag), ("SS", "-2d"), text)
        self.assertEqual(type_links("B-2", CALENDAR, ["B-2"])[0].lag, "0d")

    def test_refusals_say_what_to_give(self) -> None:
        for read, words in (
            (lambda: type_span("a while", CALENDAR), "such as 6d, 4h or 1.5w"),
            (lambda: type_span("-2d", CALENDAR), "can't be negative"),
            (lambda: type_lag("1mo", CALENDAR, "elapsed"), "By the clock"),
            (lambda: type_links("A1; A1", CALENDAR, ["A1"]), "stands twice"),
            (lambda: type_links("Z", CALENDAR, ["A1"]), "no activity “Z”"),
            (lambda: type_constraint("soon", 0, CALENDAR.axis), "Begin with one of"),
            (lambda: type_constraint("must start on", 0, CALENDAR.axis), "needs a date"),
            (lambda: type_shifts("8-12, 11-17"), "overlap"),
            (lambda: type_shifts("17-8"), "no shift"),
        ):
            with self.assertRaises(EntryRefused) as wrong:
                read()
            self.assertIn(words, str(wrong.exception.message))

    def test_constraints_in_other_words(self) -> None:
        near = from_text("2027-01-04T08:00")
        for text, kind, at in (
            ("start no earlier than 1 feb", "start_on_or_after", "2027-02-01T08:00"),
            ("finish not after 5 feb", "finish_on_or_before", "2027-02-05T17:00"),
            ("must start on 2027-03-01 10:30", "must_start_on", "2027-03-01T10:30"),
        ):
            found = type_constraint(text, near, CALENDAR.axis)
            self.assertEqual((found.type, to_text(found.at or 0)) if found else None, (kind, at))

    @given(
        st.lists(
            st.tuples(
                st.sampled_from(["A1", "A2", "B-3"]),
                st.sampled_from(["FS", "SS", "FF", "SF"]),
                st.integers(-4000, 4000),
                st.sampled_from(["working", "elapsed"]),
            ),
            max_size=4,
            unique_by=lambda k: k[:2],
        )
    )
    def test_links_read_back_as_they_are_shown(self, links: list[tuple[str, str, int, str]]) -> None:
        rows = [Link(source, "X", kind, lag, basis if lag else "working") for source, kind, lag, basis in links]
        read = type_links(links_text(rows, CALENDAR), CALENDAR, ["A1", "A2", "B-3"])
        for k, row in zip(read, rows, strict=True):
            split = split_duration(k.lag)
            assert split is not None
            each = {"min": 1, "h": 60, "d": 1440, "w": 10080}
            minutes = int(split[0] * each[split[1]]) if row.lag_basis == "elapsed" else duration_minutes(*split, CALENDAR)
            self.assertEqual((k.code, k.type, minutes, k.basis), (row.source, row.type, row.lag, row.lag_basis))


class Codes(unittest.TestCase):
    @given(st.lists(st.from_regex(r"[A-Z]{0,2}[0-9]{1,4}", fullmatch=True), max_size=12), st.integers(1, 20))
    def test_codes_are_always_new(self, taken: list[str], count: int) -> None:
        known, like = set(taken), taken[0] if taken else None
        for _ in range(count):
            for code in (next_code(known, like), next_element(known, None), resource_code("Fit ters", known)):
                self.assertNotIn(code, known)
                known.add(code)

    def test_the_manner_of_those_that_are_there(self) -> None:
        self.assertEqual(next_code({"W-005", "W-010"}, "W-010"), "W-020")
        self.assertEqual(next_element({"1", "1.1", "1.9"}, "1"), "1.10")


class Registers(unittest.TestCase):
    def fault(self, **more: object) -> str:
        with self.assertRaises(BookInvalid) as wrong:
            book_from(doc([{"code": "A", **more.pop("activity", {})}], **more))  # type: ignore[arg-type]
        return str(wrong.exception.faults[0])

    def test_faults_of_registers_and_fields(self) -> None:
        zone = {"code": "zone", "name": "Zone", "kind": "choice", "options": ["N"]}
        self.assertIn("risks[0].probability", self.fault(risks=[{"code": "R", "name": "R", "probability": 101}]))
        self.assertIn("stands twice", self.fault(risks=[{"code": "R", "name": "R"}] * 2))
        self.assertIn("not a key", self.fault(notes=[{"code": "N", "name": "N", "colour": "red"}]))
        self.assertIn("one of N", self.fault(fields=[zone], activity={"fields": {"zone": "S"}}))
        self.assertIn("no field “x”", self.fault(activity={"fields": {"x": 1}}))
        self.assertIn("at least one word", self.fault(fields=[zone | {"options": []}]))
        self.assertIn("holds a number", self.fault(fields=[{"code": "n", "name": "N", "kind": "number"}], activity={"fields": {"n": "1"}}))

    def test_formulas_are_exact_and_reach_nothing(self) -> None:
        def work(formula: str) -> object:
            fields = (FieldDefinition("n", "N", "number"), FieldDefinition("f", "F", "formula", formula=formula))
            return values_of(fields, {"n": D("0.1")}, {"days": D(3), "name": "Dig"})["f"]

        self.assertEqual(work("n + 0.2"), D("0.3"))
        self.assertEqual(work("'long' if days > 2 else 'short'"), "long")
        self.assertEqual(work("round(days / 7, 2)"), D("0.43"))
        self.assertEqual(work("days / 0"), "? divides by zero")
        for evil in ("__import__('os')", "name.__class__", "9**9**9", "open('x')", "'a' * 10**9", "[x for x in ()]", "days =", *BEYOND):
            self.assertTrue(str(work(evil)).startswith("?"), evil)


BEYOND = (
    *("'\\ud83d'", "'\\0'", "1e999", "10**999999", "-10**-999999", "'%199999999d' % 1", "round(1, 10**99999)", "round(1, 16)"),
    *(
        "name.upper()",
        "f'{days:99999999}'",
        "b''",
        "1j",
        "...",
        "None",
        "max(days, key=len)",
        "max(*name)",
        "9" * 26,
        "days * 9e24",
        "(" * 99,
    ),
    *("9 % 'a'", "'a' - 'b'", "name * days", "len(days)", "'a' < 1", "~days", "days @ n", "days is n", "lambda: 1", "name[0]", "n := 1"),
)


class Loads(unittest.TestCase):
    def test_by_hand(self) -> None:
        """Two at once for 3 days on one person: 48 h asked of 24 there by day, and a half day after a pause."""
        found = book(
            [{"code": "A", "duration": "3d"}, {"code": "B", "duration": "1d"}],
            [{"from": "A", "to": "B"}],
            resources=[RESOURCE],
            assignments=[{"activity": "A", "resource": "FIT", "units": 2}, {"activity": "B", "resource": "FIT"}],
        )
        ends, (load,) = loads_of(compute(found), "day")
        self.assertEqual([to_text(e) for e in ends], [f"2027-01-{d:02}T00:00" for d in (5, 6, 7, 8)])
        self.assertEqual(load.booked, [D(960)] * 3 + [D(480)])
        self.assertEqual((load.available, load.over_at), ([D(480)] * 4, [0, 1, 2]))
        self.assertEqual(load.causes[3], {"B": D(480)})

    @given(st.lists(st.integers(1, 30), min_size=1, max_size=5), st.sampled_from(["day", "week", "month"]))
    def test_what_is_asked_adds_up_to_the_work(self, days: list[int], bucket: str) -> None:
        codes = [f"A{i}" for i in range(len(days))]
        found = book(
            [{"code": c, "duration": f"{d}d"} for c, d in zip(codes, days, strict=True)],
            [{"from": a, "to": b, "type": "SS", "lag": "1d"} for a, b in pairwise(codes)],
            resources=[RESOURCE],
            assignments=[{"activity": c, "resource": "FIT"} for c in codes],
        )
        _, (load,) = loads_of(compute(found), bucket)
        self.assertAlmostEqual(sum(load.booked), D(sum(days) * 480), places=6)


class Budgets(unittest.TestCase):
    def test_the_plan_by_time_with_accruals_and_what_is_outside(self) -> None:
        found = compute(
            book(
                [{"code": "A", "duration": "10d"}],
                resources=[RESOURCE],
                assignments=[{"activity": "A", "resource": "FIT"}],
                costs=[
                    {"activity": "A", "name": "First", "amount": "100.00", "accrual": "start"},
                    {"activity": "A", "name": "Last", "amount": "10.00", "accrual": "finish"},
                    {"activity": "A", "name": "Profit", "amount": "999.00", "in_budget": False},
                ],
            )
        )
        plan = table(found.valuation, "plan", "week")
        self.assertEqual(plan.columns, [D("2100.00"), D("2010.00")])
        self.assertEqual(table(found.valuation, "outside", "week").running[-1], D("999.00"))
        self.assertEqual(
            kinds_of_cost(found.valuation, ["A"]), {"labour": D(4000), "equipment": 0, "material": 0, "direct": D(110), "outside": D(999)}
        )

    def test_two_baselines_by_hand(self) -> None:
        def frozen(days: str, code: str, more: list[dict[str, str]]) -> object:
            rows = [{"code": "A", "duration": days, "wbs": "1"}, *more]
            plan = compute(book(rows, wbs=[{"code": "1", "name": "One"}], costs=[{"activity": "A", "name": "Fee", "amount": "100.00"}]))
            return plan.book, snapshot(plan.book, plan.schedule, code, code, 0, "", "")

        _, first = frozen("2d", "B0", [{"code": "OLD"}])  # type: ignore[misc]
        now, second = frozen("5d", "B1", [{"code": "NEW"}])  # type: ignore[misc]
        found = compare(now, first, second)
        a = found["activity", "A"]
        self.assertEqual((a.start, a.finish, a.duration, a.cost, a.change), (0, 3 * 480, 3 * 480, D(0), "both"))
        self.assertEqual([found["activity", c].change for c in ("OLD", "NEW")], ["removed", "added"])
        self.assertEqual((found["wbs", "1"].finish, found["project", "X"].finish), (3 * 480, 3 * 480))


if __name__ == "__main__":
    unittest.main()
