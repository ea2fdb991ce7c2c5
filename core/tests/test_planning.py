"""Apportioning, time-phased tables, the progress line and checks: cases by hand and what must add up."""

import unittest
from decimal import Decimal as D
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import baseline, book, doc, line, page
from core.tests.random_books import random_book
from dryledger.budget.apportioning import adjusted, apportion, compared
from dryledger.budget.money import amount_of
from dryledger.budget.time_phased import Phased
from dryledger.calendar.calendar import from_text, to_text
from dryledger.changes.apply import apply
from dryledger.checks.checks import CHECKS, checks
from dryledger.compute import Results, compute
from dryledger.errors import ChangeRefused
from dryledger.exchange.book_json import book_from
from dryledger.results import results_document
from dryledger.timeline.progress_line import front_days, interval_dates, page_dates, progress_line, progress_lines
from dryledger.value.work_by_time import work_by_time

WBS = [{"code": "1", "name": "One", "weight": 2}, {"code": "2", "name": "Two"}, {"code": "1.1", "name": "Inner", "parent": "1"}]
TREE = [{"code": "A", "wbs": "1", "weight": 3}, {"code": "B", "wbs": "1.1"}, {"code": "C", "wbs": "2"}, {"code": "D", "wbs": "2"}]


class Apportion(unittest.TestCase):
    def test_by_weights_level_by_level(self) -> None:
        # 100.01: 1 gets two thirds, 66.67, and 2 the rest; in 1, 1.1 weighs 1 and A 3; in 2 an odd cent goes to the earlier.
        e = apportion(book(TREE, wbs=WBS), "First", D("100.01"), D("0.01"))
        self.assertEqual({code: str(x) for (_, code), x in e.shares.items()}, {
            "1": "66.67", "2": "33.34", "1.1": "16.67", "A": "50.00", "B": "16.67", "C": "16.67", "D": "16.67",
        })  # fmt: skip

    def test_milestones_and_complete_work_take_none_nor_what_they_are_alone_below(self) -> None:
        done = {"activity": "A", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-05T17:00"}
        tree = [TREE[0], TREE[1] | {"kind": "milestone"}, *TREE[2:]]
        b = book(tree, wbs=WBS, periods=[page("P1", "2027-01-08T17:00", done)])
        self.assertEqual({k: str(x) for (_, k), x in apportion(b, "E", D(9), D(1)).shares.items()}, {"2": "9", "C": "5", "D": "4"})
        kept = apply(b, [{"do": "estimate", "name": "E", "measure": "money", "total": "9", "top": "1"}]).book
        with self.assertRaisesRegex(ChangeRefused, "Nothing takes a share of E"):
            apply(kept, [{"do": "apply", "estimate": "E1"}])

    def test_raised_by_a_percentage_and_compared(self) -> None:
        b = book(TREE, wbs=WBS)
        first = apportion(b, "First", D(600), D(1), top="2")
        second = adjusted(b, first, D(10), "More", top="2")
        self.assertEqual((second.total, compared(first, second)["activity", "D"]), (D(660), (D(300), D(330))))

    @given(st.decimals(0, 10**6, places=2), st.lists(st.integers(0, 9), min_size=4, max_size=4))
    def test_shares_of_every_node_add_up_to_it(self, total: D, weights: list[int]) -> None:
        b = book([a | {"weight": w} for a, w in zip(TREE, weights, strict=True)], wbs=WBS)
        e = apportion(b, "Any", total, D("0.01"))
        for node, below in (("1", [("wbs", "1.1"), ("activity", "A")]), ("2", [("activity", "C"), ("activity", "D")])):
            self.assertEqual(sum(e.shares[k] for k in below), e.shares["wbs", node])
        self.assertEqual(e.shares["wbs", "1"] + e.shares["wbs", "2"], e.total)


def measured(*stated: dict[str, Any], **more: Any) -> Results:
    """A and B of five days each, one after the other, 500 each, at the end of the first week."""
    rows = [
        {"code": "A", "wbs": "1", "start": "2027-01-04T08:00", "finish": "2027-01-08T17:00", "cost_lines": [line("500.00")]},
        {"code": "B", "wbs": "2", "start": "2027-01-11T08:00", "finish": "2027-01-15T17:00", "cost_lines": [line("500.00")]},
    ]
    acts = [{"code": "A", "duration": "5d", "wbs": "1"}, {"code": "B", "duration": "5d", "wbs": "2"}]
    periods = [page("P1", "2027-01-06T17:00", *stated, **more)]
    links = [{"from": "A", "to": "B"}]
    costs = [{"activity": "A", "name": "Paint", "amount": "500.00"}, {"activity": "B", "name": "Paint", "amount": "500.00"}]
    return compute(
        book(acts, links, wbs=WBS, costs=costs, baselines=[baseline(*rows)], project={"measured_against": "B0"}, periods=periods)
    )


class Tables(unittest.TestCase):
    def cells(self, x: Phased) -> dict[str, list[str]]:
        return {code: [str(c) for c in cells] for (_, code), cells in x.rows.items()}

    def test_a_budget_by_week(self) -> None:
        t = measured().phased("week").budget
        first, second = ["500.00", "0.00", "0.00"], ["0.00", "500.00", "0.00"]
        self.assertEqual(self.cells(t), {"A": first, "B": second})
        self.assertEqual({w: [str(x) for x in cells] for w, cells in t.wbs.items()}, {"1": first, "2": second})
        self.assertEqual([str(x) for x in t.cells], ["500.00", "500.00", "0.00"])
        self.assertEqual([str(x) for x in t.cumulative], ["500.00", "1000.00", "1000.00"])
        self.assertEqual(self.cells(measured().phased("day").budget)["A"][:6], ["100.00"] * 5 + ["0.00"])

    def test_actual_and_remaining(self) -> None:
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 60, "remaining": "2d"}
        costs = [{"activity": "A", "date": "2027-01-05", "amount": "310.00", "source": "invoice"}]
        costs += [{"wbs": "2", "date": "2027-01-04", "amount": "7.00", "source": "accrual", "ref": "R"}]
        costs += [{"wbs": "2", "date": "2027-01-06", "amount": "9.00", "source": "invoice", "ref": "R"}]
        b = measured(stated, costs=costs).phased("day")
        self.assertEqual(self.cells(b.actual)["A"][:3], ["0.00", "310.00", "0.00"])
        self.assertEqual(self.cells(b.actual)["2"][:3], ["7.00", "0.00", "2.00"])  # the invoice takes the accrual back
        self.assertEqual([str(x) for x in b.actual.cells[:3]], ["7.00", "310.00", "2.00"])
        left = measured(stated).phased("week").remaining
        # Nobody has invoiced anything of A, so all of it is still to be paid, two fifths of its time before its finish.
        self.assertEqual(self.cells(left), {"A": ["500.00", "0.00"], "B": ["0.00", "500.00"]})

    def test_nothing_remains_before_the_bucket_that_holds_the_status_date(self) -> None:
        """Pinned work that has not started keeps its dates in the past; what remains of it falls due in the bucket of the status date."""
        pinned = {"code": "A", "mode": "fixed", "start": "2027-01-04T08:00", "finish": "2027-01-07T17:00"}
        crew = {"code": "R", "name": "Crew", "rates": [{"from": "2027-01-01", "amount": "50.00", "per": "hour"}]}
        on = [{"activity": "A", "resource": "R"}]
        r = compute(book([pinned], resources=[crew], assignments=on, periods=[page("P1", "2027-01-06T17:00")]))
        self.assertEqual(self.cells(r.phased("day").remaining), {"A": ["0.00", "0.00", "1200.00", "400.00"]})
        self.assertEqual([str(p.forecast) for p in r.curve_of(None, "day")[2:]], ["1200.00", "1600.00"])
        (row,) = work_by_time(r.valuation, "day").rows
        self.assertEqual([str(x) for x in row.remaining.cost or ()], ["0.00", "0.00", "1200.00", "400.00"])
        self.assertEqual(row.remaining.minutes, [480] * 4)  # hours lie evenly over its dates

    def test_without_a_baseline_it_is_the_budget_of_the_plan_without_progress(self) -> None:
        late = {"activity": "A", "actual_start": "2027-01-06T08:00"}
        costs = [{"activity": "A", "name": "Paint", "amount": "500.00", "accrual": "finish"}]
        r = compute(book([{"code": "A", "duration": "5d"}], costs=costs, periods=[page("P1", "2027-01-06T17:00", late)]))
        b = r.phased("day")
        self.assertEqual((b.of, [str(x) for x in b.budget.cells[:5]]), ("present", ["0.00"] * 2 + ["500.00"] + ["0.00"] * 2))

    @settings(max_examples=30, deadline=None)
    @given(st.integers(0, 10**6), st.sampled_from(["day", "week", "month", "period"]))
    def test_cells_add_up_both_ways_and_to_the_measures(self, seed: int, bucket: str) -> None:
        r = compute(book_from(random_book(seed)))
        b = r.phased(bucket)
        for t in (b.budget, b.actual, b.remaining):
            self.assertEqual([sum(column) for column in zip(*t.rows.values(), strict=True)], t.cells if t.rows else [])
            for w in r.book.wbs:
                inside = [c for (kind, code), c in t.rows.items() if w.code in r.book.wbs_above.get(self.home(r, kind, code), ())]
                self.assertEqual(t.wbs.get(w.code, []), [sum(x) for x in zip(*inside, strict=True)])
        if r.status is not None and r.valuation.activity_codes:
            sums = r.valuation.sums
            for (kind, code), cells in b.actual.rows.items():
                self.assertEqual(sum(cells), amount_of(sums[kind, code].ac_total, r.valuation.unit))
            for (_, code), cells in b.remaining.rows.items():
                self.assertEqual(sum(cells), amount_of(sums["activity", code].remaining, r.valuation.unit))

    def home(self, r: Results, kind: str, code: str) -> str:
        return code if kind == "wbs" else r.valuation.wbs_of(code) or ""


class Lines(unittest.TestCase):
    def points(self, r: Results, *at: int, against: str = "baseline") -> list[dict[str, str]]:
        dates = list(at) or [r.status or 0]
        return [{p.code: to_text(p.at) for p in x.points} for x in progress_lines(r, dates, against)]

    def test_points_on_the_baseline(self) -> None:
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 40}
        # 40 % of Monday to Friday is Tuesday's close; B is not due yet, so its point is the date itself.
        self.assertEqual(self.points(measured(stated)), [{"A": "2027-01-05T17:00", "B": "2027-01-06T17:00"}])

    def test_a_front_says_by_how_many_working_days_it_lies_behind_or_ahead(self) -> None:
        # Tuesday's close against Wednesday's is one day behind; done by Friday's close two days ahead; B stands at its date.
        for stated, days in (({"percent": 40}, "-1"), ({"actual_finish": "2027-01-06T15:00"}, "2")):
            r = measured({"activity": "A", "actual_start": "2027-01-04T08:00"} | stated)
            line = progress_line(r)
            assert line is not None
            self.assertEqual(front_days(r, line), {"A": D(days)})

    def test_finished_on_time_is_on_the_line_and_late_work_is_left_of_it(self) -> None:
        done = {"activity": "A", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-06T15:00"}
        r = measured(done)
        early, later = self.points(r, r.status or 0, r.schedule.finish)
        # Its baseline finish lies after the date: the whole bar is done, ahead of the line.
        self.assertEqual(early["A"], "2027-01-08T17:00")
        self.assertEqual((later["A"], later["B"]), (to_text(r.schedule.finish), "2027-01-11T08:00"))

    def test_a_line_at_an_earlier_date_knows_what_was_known_then(self) -> None:
        d = doc([{"code": "A", "duration": "5d"}])
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00"}
        d["periods"] = [
            page("P1", "2027-01-05T17:00", stated | {"percent": 20}, state="dry"),
            page("P2", "2027-01-07T17:00", stated | {"percent": 60}),
        ]
        r = compute(book_from(d))
        at = [from_text(f"2027-01-0{n}T17:00") for n in (4, 6, 7)]
        lines = progress_lines(r, at, "present")
        self.assertEqual([x.page for x in lines], [None, "P1", "P2"])
        bar = r.schedule.activities["A"]
        begin, length = r.book.axes["A"].pos(bar.start), r.book.axes["A"].between(bar.start, bar.finish)
        expected = [bar.start, *(r.book.axes["A"].first(begin + length * share // 100) for share in (20, 60))]
        self.assertEqual([x.points[0].at for x in lines], expected)

    def test_dates_of_pages_and_intervals(self) -> None:
        d = doc([{"code": "A", "duration": "5d"}])
        d["periods"] = [page("P1", "2027-01-08T17:00", state="dry"), page("P2", "2027-03-05T12:00")]
        r = compute(book_from(d))
        self.assertEqual([to_text(t) for t in page_dates(r)], ["2027-01-08T17:00", "2027-03-05T12:00"])
        # The 30th and 31st of January are a weekend: midnight closes them; February has no 30th.
        months = [to_text(t) for t in interval_dates(r, from_text("2027-01-30T08:00"), "month")]
        self.assertEqual(months, ["2027-01-31T00:00", "2027-03-01T00:00"])
        weeks = interval_dates(r, from_text("2027-02-12T00:00"), "week")
        self.assertEqual([to_text(t) for t in weeks], [f"2027-02-{d}T17:00" for d in (12, 19, 26)])
        self.assertEqual(interval_dates(compute(book([{"code": "A"}])), 0, "day"), [])

    def test_without_a_bar_no_point_and_without_a_status_date_no_line(self) -> None:
        r = compute(book([{"code": "A"}], periods=[page("P1", "2027-01-06T17:00")]))
        self.assertEqual((self.points(r), len(self.points(r, against="present")[0])), ([{}], 1))
        self.assertIsNone(progress_line(compute(book([{"code": "A"}]))))


class Checks(unittest.TestCase):
    def caught(self, r: Results) -> dict[str, tuple[str, ...]]:
        return {f.check: f.rows for f in checks(r)}

    def test_each_word_wanted(self) -> None:
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 100, "remaining": "0d"}
        found = self.caught(measured(stated))
        for code in ("full_not_finished", "nothing_remaining", "earned_without_cost"):
            self.assertEqual(found[code], ("A",), code)
        self.assertNotIn("silent_start", found)
        self.assertEqual(self.caught(measured())["silent_start"], ("A",))

    def test_costs(self) -> None:
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 60}
        accrued = {"activity": "A", "date": "2027-01-05", "amount": "600.00", "source": "accrual"}
        found = self.caught(
            measured(stated, costs=[accrued, {"activity": "B", "date": "2027-01-05", "amount": "-1.00", "source": "invoice"}])
        )
        self.assertEqual((found["cost_above_budget"], found["only_accruals"], found["cost_fell"]), (("A",), ("A",), ("B", "2")))
        self.assertEqual(found["negative_cost"], ("B",))

    def test_the_plan(self) -> None:
        acts = [
            {"code": "A", "duration": "90d", "constraint": {"type": "must_finish_on", "at": "2027-01-08T17:00"}},
            {"code": "M", "kind": "milestone", "duration": "1d"},
            {"code": "Z", "duration": "0d"},
            {"code": "P", "mode": "fixed", "start": "2027-01-04T08:00", "finish": "2027-01-05T17:00", "deadline": "2027-01-04T17:00"},
        ]
        links = [{"from": "A", "to": "M", "lag": "-1d"}, {"from": "M", "to": "P", "lag": "20d"}]
        crew = {"code": "R", "name": "Crew", "units": 1}
        on = [{"activity": "A", "resource": "R"}, {"activity": "P", "resource": "R"}]
        found = self.caught(compute(book(acts, links, resources=[crew], assignments=on)))
        self.assertEqual({k: v for k, v in found.items() if k not in ("no_predecessor", "no_successor", "long_float")}, {
            "pinned_breaks_link": ("P",), "deadline_missed": ("P",), "lead": ("M",), "long_lag": ("P",), "hard_date": ("A",),
            "long_duration": ("A",), "negative_float": ("A", "M"), "milestone_with_duration": ("M",), "task_without_duration": ("Z",),
            "unassigned": ("Z",), "overbooked": ("R",), "no_rate": ("R",),
        })  # fmt: skip

    def test_two_in_a_row_are_not_over_booked(self) -> None:
        acts = [{"code": "A"}, {"code": "B"}]
        on = [{"activity": "A", "resource": "R"}, {"activity": "B", "resource": "R"}]
        b = book(acts, [{"from": "A", "to": "B"}], resources=[{"code": "R", "name": "Crew"}], assignments=on)
        self.assertNotIn("overbooked", self.caught(compute(b)))

    def test_every_check_can_be_written(self) -> None:
        codes = {c.code for c in CHECKS}
        seen = set()
        for seed in range(60):
            document = results_document(compute(book_from(random_book(seed))), ["checks"])
            for f in document["checks"]:  # type: ignore[attr-defined]
                self.assertIn(f["severity"], ("error", "ask", "plan"))
                self.assertTrue(f["rows"] and f["message"])
                seen.add(f["check"])
        self.assertLessEqual(seen, codes)
        self.assertGreater(len(seen), 20)
