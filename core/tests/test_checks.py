"""Each check caught and mended, answers in force, what is new, limits, and the quality of the plan."""

import unittest
from copy import deepcopy
from typing import Any

from core.tests.books import baseline, doc, line, page
from core.tests.random_books import random_book
from dryledger.book.answers import answers_at
from dryledger.book.plan import Book
from dryledger.checks.answers import impossible, quality, worked
from dryledger.checks.checks import CHECKS, checks
from dryledger.compute import compute
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import book_from

Doc = dict[str, Any]
MON, FRI, NEXT = "2027-01-04T08:00", "2027-01-08T17:00", "2027-01-15T17:00"
ACTIVITIES: list[Doc] = [
    {"code": "A", "name": "A", "duration": "5d"},
    {"code": "B", "name": "B", "duration": "5d"},
    {"code": "C", "name": "C", "kind": "milestone", "duration": "0d"},
]
A, B, C = ACTIVITIES
LINKS = [{"from": "A", "to": "B"}, {"from": "B", "to": "C"}]
FIT = {"code": "F", "name": "Fitter", "rates": [{"from": "2027-01-01", "amount": "50", "per": "hour"}]}


def sound(*pages: Doc) -> Doc:
    """A small plan that no check but those on its ends finds anything in."""
    return deepcopy(
        doc(
            ACTIVITIES,
            LINKS,
            resources=[FIT],
            assignments=[{"activity": "A", "resource": "F"}, {"activity": "B", "resource": "F"}],
            baselines=[
                baseline(
                    {"code": "A", "start": MON, "finish": FRI, "duration": "5d", "cost_lines": [line("2000")]},
                    {"code": "B", "start": "2027-01-11T08:00", "finish": NEXT, "duration": "5d"},
                    {"code": "C", "start": NEXT, "finish": NEXT},
                )
            ],
            periods=list(pages),
            project={"measured_against": "B0"},
        )
    )


def states(**more: Any) -> Doc:
    return {"activity": "A", "actual_start": MON} | more


def with_(d: Doc, **lists: Any) -> Doc:
    return deepcopy(d | lists)


def outside(**more: Any) -> Doc:
    """The sound plan on its second page, its B waiting for an activity of another project too."""
    x = {"code": "PIER/A1", "name": "Pile", "start": MON, "finish": "2027-01-13T10:00"} | more
    pages = [page("P01", "2027-01-06T17:00", states(percent=50)), page("P02", FRI, states(percent=60))]
    return with_(sound(*pages), externals=[x], links=[*LINKS, {"from": "PIER/A1", "to": "B"}])


def cost(amount: str, source: str = "invoice", **more: Any) -> Doc:
    return {"activity": "A", "date": "2027-01-05", "amount": amount, "source": source} | more


def follows(*pages: Doc) -> Doc:
    """The sound plan whose actuals follow progress."""
    d = sound(*pages)
    return with_(d, project=d["project"] | {"actuals": "progress"})


def order(amount: str) -> Doc:
    return {"code": "PO-1", "supplier": "Crane & Co", "lines": [{"for": "D1", "amount": amount}]}


def paid(*pages: Doc, orders: tuple[Doc, ...] | list[Doc] = (), **more: Any) -> Doc:
    """The sound plan with A in an element, and a crane for 500 on it."""
    crane = {"code": "D1", "activity": "A", "name": "Crane", "amount": "500"} | more
    wbs = [{"code": "1", "name": "Hull"}]
    return with_(sound(*pages), wbs=wbs, activities=[A | {"wbs": "1"}, B, C], costs=[crane], orders=list(orders))


def change(built_in: str) -> Doc:
    """A change of 100 from the reserve, approved: built into B1 or not."""
    told = {"state": "built", "baseline": built_in} if built_in == "B1" else {"state": "approved"}
    return {"code": "C1", "name": "Deck", "from": "R1", "lines": [{"activity": "A", "amount": "100"}], "decided_at": MON} | told


def rebased(what: Doc, reserve: str = "400") -> Doc:
    """The sound plan with a second baseline that is 100 above the first, and that change."""
    d = sound()
    first = d["baselines"][0] | {"approved_by": "Ada Marsh"}
    second = deepcopy(first) | {"code": "B1", "before": "B0"}
    second["activities"][0]["cost_lines"] = [line("2100")]
    reserves = [{"code": "R1", "name": "Contingency", "amount": reserve, "held": "inside"}]
    return with_(d, baselines=[first, second], changes=[what], reserves=reserves, project=d["project"] | {"measured_against": "B1"})


HOURS = {"activity": "A", "resource": "F", "worked": "20h"}
WED, THU, WED_MORNING, FOR = "2027-01-06T17:00", "2027-01-07T17:00", "2027-01-06T08:00", {"for": "D1"}
DONE, HALF = states(actual_finish=FRI), states(percent=50, remaining="3d")
PLAN = sound(page("P01", FRI, DONE, hours=[HOURS]))
"""For each check a book in which it catches rows, those rows, and the same mended."""
CASES: dict[str, tuple[Doc, set[str], Doc]] = {
    "finished_with_work": (sound(page("P01", FRI, DONE, hours=[HOURS | {"to_go": "4h"}])), {"A"}, PLAN),
    "full_not_finished": (sound(page("P01", FRI, states(percent=100))), {"A"}, sound(page("P01", FRI, states(percent=90)))),
    "progress_fell": (
        sound(page("P01", "2027-01-06T17:00", states(percent=60)), page("P02", FRI, states(percent=50))),
        {"A"},
        sound(page("P01", "2027-01-06T17:00", states(percent=60)), page("P02", FRI, states(percent=60))),
    ),
    "cost_fell": (
        sound(page("P01", FRI, HALF, costs=[cost("-5", "correction")])),
        {"A", "X"},
        sound(page("P01", FRI, HALF, costs=[cost("-5", "correction"), cost("5")])),
    ),
    "negative_cost": (
        sound(page("P01", FRI, HALF, costs=[cost("-5"), cost("9")])),
        {"A"},
        sound(page("P01", FRI, HALF, costs=[cost("-5", "accrual"), cost("9")])),
    ),
    "pinned_breaks_link": (
        with_(PLAN, activities=[A, B | {"mode": "fixed", "start": MON, "finish": FRI}, C]),
        {"B"},
        with_(PLAN, activities=[A, B | {"mode": "fixed", "start": "2027-01-11T08:00", "finish": NEXT}, C]),
    ),
    "progress_without_start": (
        sound(page("P01", FRI, {"activity": "A", "percent": 10})),
        {"A"},
        sound(page("P01", FRI, states(percent=10))),
    ),
    "silent_start": (sound(page("P01", "2027-01-06T17:00")), {"A"}, sound(page("P01", "2027-01-06T17:00", states(percent=10)))),
    "silent_finish": (sound(page("P01", FRI)), {"A"}, sound(page("P01", FRI, DONE))),
    "nothing_posted": (
        sound(page("P01", "2027-01-05T17:00", states(percent=10)), page("P02", "2027-01-06T17:00")),
        {"A"},
        sound(page("P01", "2027-01-05T17:00", states(percent=10)), page("P02", "2027-01-06T17:00", hours=[HOURS])),
    ),
    "remaining_unchanged": (
        sound(*(page(f"P0{n}", f"2027-01-0{n + 4}T17:00", states(remaining="4d")) for n in (1, 2, 3))),
        {"A"},
        sound(page("P01", "2027-01-05T17:00", states(remaining="4d")), page("P02", FRI, states(remaining="4d"))),
    ),
    "nothing_remaining": (sound(page("P01", FRI, states(remaining="0d"))), {"A"}, sound(page("P01", FRI, DONE))),
    "out_of_sequence": (
        sound(page("P01", FRI, HALF, {"activity": "B", "actual_start": FRI})),
        {"B"},
        sound(page("P01", NEXT, DONE, {"activity": "B", "actual_start": "2027-01-11T08:00"})),
    ),
    "percent_far": (sound(page("P01", FRI, states(percent=90, remaining="5d"))), {"A"}, sound(page("P01", FRI, states(percent=60)))),
    "earned_without_cost": (sound(page("P01", FRI, DONE)), {"A"}, PLAN),
    "cost_without_earned": (sound(page("P01", FRI, costs=[cost("10")])), {"A"}, sound(page("P01", FRI, HALF, costs=[cost("10")]))),
    "cost_above_budget": (sound(page("P01", FRI, DONE, costs=[cost("10000")])), {"A"}, PLAN),
    "unbudgeted": (with_(PLAN, activities=[*ACTIVITIES, {"code": "D", "name": "D", "duration": "1d"}]), {"D"}, PLAN),
    "only_accruals": (sound(page("P01", FRI, DONE, costs=[cost("10", "accrual")])), {"A"}, PLAN),
    "deadline_missed": (
        with_(PLAN, activities=[A, B | {"deadline": "2027-01-12T17:00"}, C]),
        {"B"},
        with_(PLAN, activities=[A, B | {"deadline": NEXT}, C]),
    ),
    # By a link that sets only its finish, the start of B is open; the end of a link into D's start alone leaves D's finish open.
    "no_predecessor": (with_(PLAN, links=[LINKS[0] | {"type": "FF"}, LINKS[1]]), {"B"}, PLAN),
    "no_successor": (with_(PLAN, links=[LINKS[0], LINKS[1] | {"type": "SS"}]), {"C"}, PLAN),
    "lead": (with_(PLAN, links=[LINKS[0] | {"lag": "-1d"}, LINKS[1]]), {"B"}, PLAN),
    "long_lag": (with_(PLAN, links=[LINKS[0] | {"lag": "11d"}, LINKS[1]]), {"B"}, with_(PLAN, links=[LINKS[0] | {"lag": "10d"}, LINKS[1]])),
    "hard_date": (
        with_(PLAN, activities=[A, B | {"constraint": {"type": "finish_on_or_before", "at": NEXT}}, C]),
        {"B"},
        with_(PLAN, activities=[A, B | {"constraint": {"type": "start_on_or_after", "at": "2027-01-11T08:00"}}, C]),
    ),
    "long_float": (
        with_(PLAN, activities=[*ACTIVITIES, {"code": "D", "name": "D", "duration": "60d"}, {"code": "E", "name": "E", "duration": "1d"}]),
        {"B", "C", "E"},
        with_(PLAN, activities=[*ACTIVITIES, {"code": "D", "name": "D", "duration": "30d"}]),
    ),
    "long_duration": (
        with_(PLAN, activities=[A, B | {"duration": "45d"}, C]),
        {"B"},
        with_(PLAN, activities=[A, B | {"duration": "44d"}, C]),
    ),
    "assumed_date": (sound(page("P01", FRI, HALF | {"assumed": ["actual_start"]})), {"A"}, sound(page("P01", FRI, HALF))),
    # A fitter works 40 h in the week to Friday: 19 h are below half of it.
    "hours_far_below": (
        sound(page("P01", FRI, HALF, hours=[HOURS | {"worked": "19h"}])),
        {"A"},
        sound(page("P01", FRI, HALF, hours=[HOURS])),
    ),
    # Begun on Monday, said on the next page to have begun on Wednesday: three days of 400.00 become one.
    "reckoned_fell": (
        follows(page("P01", WED, states(percent=50)), page("P02", THU, states(percent=60, actual_start=WED_MORNING))),
        {"A"},
        follows(page("P01", WED, states(percent=50)), page("P02", THU, states(percent=60))),
    ),
    "reckoned_alone": (
        follows(page("P01", WED, states(percent=50)), page("P02", THU)),
        {"A"},
        follows(page("P01", WED, states(percent=50)), page("P02", THU, states(percent=60))),
    ),
    "invoiced_above": (
        paid(page("P01", FRI, HALF, costs=[cost("501", **FOR)])),
        {"A"},
        paid(page("P01", FRI, HALF, costs=[cost("500", **FOR)])),
    ),
    "paid_above": (
        paid(page("P01", FRI, HALF, costs=[{"wbs": "1", "date": "2027-01-05", "amount": "500", "source": "invoice"}])),
        {"1"},
        paid(page("P01", FRI, HALF, costs=[cost("500", **FOR)])),
    ),
    # Its crane is neither billed on the page on which it ended nor on the next, on which it is asked for.
    "cost_never_billed": (
        paid(page("P01", FRI, DONE), page("P02", NEXT)),
        {"A"},
        paid(page("P01", FRI, DONE), page("P02", NEXT), closed="2027-01-12"),
    ),
    "order_over_budget": (paid(orders=[order("500.01")]), {"PO-1"}, paid(orders=[order("500")])),
    "baseline_unexplained": (rebased(change("B0")), {"X"}, rebased(change("B1"))),
    "reserve_below": (rebased(change("B1"), reserve="99"), {"R1"}, rebased(change("B1"), reserve="100")),
    "lump_by_share": (paid(accrual="finish"), {"A"}, paid()),
    "no_rate": (with_(sound(), resources=[FIT | {"rates": []}]), {"F"}, sound()),
    "material_by_time": (
        with_(sound(), resources=[FIT | {"kind": "material"}]),
        {"F"},
        with_(sound(), resources=[FIT | {"kind": "material", "rates": [{"from": "2027-01-01", "amount": "5", "per": "unit"}]}]),
    ),
    "negative_float": (
        with_(PLAN, activities=[A, B | {"constraint": {"type": "finish_on_or_before", "at": "2027-01-12T17:00"}}, C]),
        {"B"},
        PLAN,
    ),
    "milestone_with_duration": (with_(PLAN, activities=[A, B, C | {"duration": "1d"}]), {"C"}, PLAN),
    "task_without_duration": (with_(PLAN, activities=[A, B | {"duration": "0d"}, C]), {"B"}, PLAN),
    "unassigned": (with_(PLAN, assignments=[{"activity": "A", "resource": "F"}]), {"B"}, PLAN),
    "overbooked": (with_(PLAN, assignments=[{"activity": "B", "resource": "F", "units": 2}]), {"F"}, PLAN),
    "no_safe_duration": (
        with_(PLAN, activities=[A | {"safe_duration": "9d"}, B, C]),
        {"B"},
        with_(PLAN, activities=[A | {"safe_duration": "9d"}, B | {"safe_duration": "9d"}, C]),
    ),
    "safe_below_even": (
        with_(PLAN, activities=[A, B | {"duration": "5d", "safe_duration": "4d"}, C]),
        {"B"},
        with_(PLAN, activities=[A, B | {"duration": "5d", "safe_duration": "5d"}, C]),
    ),
    "external_late": (outside(finish="2027-01-08T10:00"), {"B"}, outside(finish="2027-01-08T10:00", state="complete")),
    "external_old": (outside(status="2027-01-05T16:00"), {"B"}, outside(status="2027-01-06T17:00")),
    "external_moved": (outside(last_finish="2027-01-12T10:00"), {"B"}, outside(last_finish="2027-01-13T10:00", last_start=MON)),
    "cost_twice": (
        with_(PLAN, costs=[{"activity": "B", "name": "Crane", "amount": "5"}] * 2),
        {"B"},
        with_(PLAN, costs=[{"activity": "B", "name": "Crane", "amount": "5"}, {"activity": "B", "name": "Crane", "amount": "6"}]),
    ),
}  # fmt: skip


def caught(d: Doc, check: str) -> set[str]:
    return {row for f in checks(compute(book_from(d))) if f.check == check for row in f.rows}


class EachCheck(unittest.TestCase):
    def test_every_check_is_caught_and_mended(self) -> None:
        self.assertEqual(set(CASES), {c.code for c in CHECKS})
        for check, (wrong, rows, right) in CASES.items():
            with self.subTest(check):
                self.assertEqual(caught(wrong, check), rows)
                self.assertLess(caught(right, check), rows)  # some of them are the ends of every plan

    def test_what_fell_and_rose_again_is_told_no_more(self) -> None:
        days = ("2027-01-05T17:00", "2027-01-06T17:00", "2027-01-07T17:00", FRI)

        def told(*said_on: dict[str, Any], **more: Any) -> set[str]:
            pages = [page(f"P0{n}", day, states(**x)) for n, (day, x) in enumerate(zip(days, said_on, strict=False))]
            return caught(with_(sound(*pages), **more), "progress_fell")

        down, up = {"percent": 50}, {"percent": 60}
        self.assertEqual((told(up, down), told(up, down, up), told(up, down, {"percent": 70})), ({"A"}, set(), set()))
        self.assertEqual(told(up, down, {"percent": 55}), {"A"})  # still below what P00 said
        self.assertEqual(told(up, down | {"corrects": "P00", "reason": "measured anew"}), set())
        self.assertEqual(told(up, down | {"corrects": "P00", "reason": "measured anew"}, {"percent": 40}), {"A"})
        self.assertEqual((told({"units_done": 5}, {"units_done": 4}), told({"units_done": 5}, {"percent": 1})), ({"A"}, set()))
        method = {"type": "milestones", "weights": [{"name": n, "weight": 1, "at": 0.5} for n in ("keel", "deck")]}
        acts = [A | {"value_method": method}, B, C]
        reached = [{"milestones_reached": x} for x in (["keel"], ["keel", "deck"], ["deck"])]
        self.assertEqual((told(*reached, activities=acts), told(*reached[:2], activities=acts)), ({"A"}, set()))

    def test_a_cost_below_nothing_is_told_of_elements_and_of_the_project_too(self) -> None:
        on = with_(sound(), wbs=[{"code": "1", "name": "Hull"}], activities=[A | {"wbs": "1"}, B, C])
        credit = {"wbs": "1", "date": "2027-01-05", "amount": "-5", "source": "invoice"}
        d = on | {"periods": [page("P01", FRI, HALF, costs=[credit])]}
        self.assertEqual((caught(d, "cost_fell"), caught(d, "negative_cost")), ({"1", "X"}, {"1"}))
        d = on | {"periods": [page("P01", "2027-01-07T17:00", HALF, costs=[credit, cost("20")]), page("P02", FRI)]}
        self.assertEqual((caught(d, "cost_fell"), caught(d, "negative_cost")), (set(), {"1"}))


class WhatTheBaselineLacks(unittest.TestCase):
    def test_it_is_due_by_the_page_before_and_on_the_first_page_by_the_plan(self) -> None:
        """D and E aren't in the baseline. D is due on the first page by the plan, which the page after moves to the next week."""
        more = [{"code": "D", "name": "D", "duration": "2d"}, {"code": "E", "name": "E", "duration": "5d"}]
        d = with_(sound(page("P01", FRI, HALF)), activities=[*ACTIVITIES, *more], links=[*LINKS, {"from": "D", "to": "E"}])
        self.assertEqual((caught(d, "silent_finish"), caught(d, "silent_start")), ({"D"}, {"E"}))
        d["periods"].append(page("P02", "2027-01-12T17:00", HALF))
        self.assertEqual((caught(d, "silent_finish"), caught(d, "silent_start")), ({"D"}, {"B"}))


class Answers(unittest.TestCase):
    def answered(self, answers: list[Doc], at: str = "P03") -> Book:
        days = {"P01": "2027-01-05T17:00", "P02": "2027-01-06T17:00", "P03": "2027-01-07T17:00", "P04": "2027-01-08T17:00"}
        pages = [page(code, day, states(percent=60 if code == "P01" else 50)) for code, day in days.items() if code <= at]
        return book_from(with_(sound(*pages), answers=answers))

    def quiet(self, answers: list[Doc], at: str) -> bool:
        b = self.answered(answers, at)
        still = {(w.check.code, x.row) for w in impossible(compute(b)) for x in w.rows}
        return ("progress_fell", "A") not in still

    def test_an_answer_is_in_force_until_its_page_and_not_after(self) -> None:
        one = {"check": "progress_fell", "row": "A", "page": "P02", "until": "P03", "text": "measured anew", "by": "Ada Marsh"}
        self.assertEqual([self.quiet([one], at) for at in ("P02", "P03", "P04")], [True, True, False])
        good = {k: x for k, x in one.items() if k != "until"}
        self.assertEqual([self.quiet([good], at) for at in ("P02", "P03", "P04")], [True, True, True])
        # A later one stands in the place of an earlier, even where it ends sooner; one on another row quiets nothing.
        self.assertEqual([self.quiet([good, one | {"page": "P03"}], at) for at in ("P03", "P04")], [True, False])
        self.assertFalse(self.quiet([one | {"row": "B"}], "P02"))
        self.assertTrue(self.quiet([one | {"until": "P99"}], "P04"))

    def test_an_answer_on_no_page_or_before_it_is_refused_with_its_place(self) -> None:
        for wrong, path in (({"page": "P9"}, "answers[0].page"), ({"page": "P03", "until": "P01"}, "answers[0].until")):
            with self.assertRaises(BookInvalid) as no:
                self.answered([{"check": "lead", "row": "A", "page": "P02", "text": "x"} | wrong])
            self.assertEqual([f.path for f in no.exception.faults], [path])

    def test_what_is_new_since_the_page_before(self) -> None:
        first = sound(page("P01", "2027-01-06T17:00", states(percent=60)))
        second = sound(page("P01", "2027-01-06T17:00", states(percent=60)), page("P02", FRI, states(percent=50)))
        found = worked(compute(book_from(second)), compute(book_from(first)))
        new = {w.check.code: [x.new for x in w.rows] for w in found}
        self.assertEqual(new["progress_fell"], [True])
        self.assertEqual(new["hours_far_below"], [False])

    def test_limits_of_the_project(self) -> None:
        d = with_(PLAN, links=[LINKS[0] | {"lag": "4d"}, LINKS[1]])
        self.assertEqual(caught(d, "long_lag"), set())
        d["project"]["limits"] = {"lag": 3}
        self.assertEqual(caught(d, "long_lag"), {"B"})
        near = sound(page("P01", FRI, states(percent=60, remaining="5d")))
        near["project"]["limits"] = {"percent": 9}
        self.assertEqual(caught(near, "percent_far"), {"A"})

    def test_quality_counts_what_is_open(self) -> None:
        r = compute(book_from(PLAN))
        shares = {q.check.code: (q.caught, q.of) for q in quality(r, worked(r, compute(book_from(sound()))))}
        self.assertEqual(shares["no_successor"], (0, 2))  # C is the end; A is done
        self.assertEqual(shares["overbooked"], (0, 1))

    def test_random_books_answer_only_what_is_caught(self) -> None:
        for seed in range(60):
            b = book_from(random_book(seed, 6))
            if not b.periods:
                continue
            r = compute(b)
            found = worked(r, compute(b.with_periods(b.periods[:-1])))
            self.assertEqual([(w.check.code, tuple(x.row for x in w.rows)) for w in found], [(f.check, f.rows) for f in checks(r)])
            force = answers_at(b, b.periods[-1].code)
            self.assertTrue(all((x.answer is None) == ((w.check.code, x.row) not in force) for w in found for x in w.rows))
