"""Asking: who is asked for what, what an answer says of an activity, what the next weeks bring, and who is responsible."""

import unittest
from typing import Any

from core.tests.books import book, page
from dryledger.book.plan import Book
from dryledger.book.responsible import all_responsible, responsible_in
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results, compute
from dryledger.errors import EntryRefused
from dryledger.posting.asking import answered, asked, own_resources, tried_together
from dryledger.posting.look_ahead import look_ahead

FRIDAY = "2027-01-08T17:00"
RUN = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 40, "remaining": "6d"}


def site(*stated: dict[str, Any], **more: Any) -> Book:
    """A for two weeks, B after it; C from the start; D a month away. Kit is responsible for the project, Joan for element 1, Pia for C."""
    return book(
        [
            {"code": "A", "duration": "10d", "wbs": "1.1"},
            {"code": "B", "duration": "5d", "wbs": "1.1"},
            {"code": "C", "duration": "3d", "responsible": "Pia"},
            {"code": "D", "duration": "2d", "constraint": {"type": "start_on_or_after", "at": "2027-02-08T08:00"}},
        ],
        [{"from": "A", "to": "B"}],
        project={"responsible": "Kit"},
        wbs=[{"code": "1", "name": "Hull", "responsible": "Joan"}, {"code": "1.1", "name": "Bow", "parent": "1"}],
        resources=[{"code": "F", "name": "Fitters", "person": "Ole Brand"}, {"code": "S", "name": "Steel", "kind": "material"}],
        assignments=[{"activity": "A", "resource": "F", "units": 2}],
        periods=[page("P1", FRIDAY, *stated, **more)],
    )


def both(b: Book) -> tuple[Results, Results]:
    return compute(b), compute(b.with_periods(()))


class Responsible(unittest.TestCase):
    def test_the_nearest_that_says_somebody(self) -> None:
        b = site()
        self.assertEqual(all_responsible(b), {"A": "Joan", "B": "Joan", "C": "Pia", "D": "Kit"})
        self.assertEqual((responsible_in(b, "1.1"), responsible_in(b, None)), ("Joan", "Kit"))


class Asked(unittest.TestCase):
    def test_each_is_asked_for_what_is_due_of_theirs(self) -> None:
        """A and C are due by Friday; B begins on the 18th, so within two weeks; D not before February. The fitters' person works on A."""
        r, before = both(site())
        self.assertEqual(asked(r, before), {"Joan": ["A"], "Kit": [], "Ole Brand": ["A"], "Pia": ["C"]})
        self.assertEqual(asked(r, before, 14)["Joan"], ["A", "B"])
        self.assertEqual(asked(r, before, 60)["Kit"], ["D"])
        self.assertEqual((own_resources(r.book, " ole BRAND"), own_resources(r.book, "Kit")), ({"F"}, set()))

    def test_what_is_complete_is_asked_for_no_more(self) -> None:
        first = page("P1", FRIDAY, {"activity": "C", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-06T17:00"})
        b = site()
        two = book_with(b, first, page("P2", "2027-01-15T17:00"))
        self.assertEqual(asked(compute(two), compute(two.with_periods(two.periods[:1])))["Pia"], [])


def book_with(b: Book, *pages: dict[str, Any]) -> Book:
    return b.with_periods(book([{"code": c} for c in b.activity_by_code], periods=list(pages)).periods)


class Answered(unittest.TestCase):
    def of(self, code: str, cells: dict[str, str], hours: dict[str, dict[str, str]] | None = None, *stated: dict[str, Any]) -> Any:
        return answered(*both(site(*stated)), code, cells, hours or {})

    def test_bare_days_and_hours_and_a_start_that_is_assumed(self) -> None:
        a = self.of("A", {"percent": "30", "remaining": "7"}, {"F": {"worked": "70", "to_go": "4d"}})
        self.assertEqual((a.statement.remaining, a.statement.assumed), (7 * 480, ("actual_start",)))
        self.assertEqual([(h.worked, h.to_go) for h in a.hours], [(70 * 60, 4 * 480)])

    def test_hours_alone_say_that_it_has_begun_and_a_word_alone_says_no_more(self) -> None:
        a = self.of("A", {}, {"F": {"worked": "8"}})
        self.assertEqual((to_text(a.statement.actual_start), a.statement.assumed), ("2027-01-04T08:00", ("actual_start",)))
        self.assertEqual(self.of("A", {"note": "rain"}).statement.actual_start, None)
        self.assertIsNone(self.of("A", {}, {"F": {"worked": "8"}}, RUN).statement)  # the page says so already

    def test_it_changes_only_what_it_says(self) -> None:
        a = self.of("A", {"percent": "55"}, None, RUN)
        self.assertEqual((a.statement.percent * 100, a.statement.remaining, a.hours), (55, 6 * 480, ()))
        carried = self.of("A", {"percent": "55"}, None, RUN | {"carry_to": "2027-01-13T08:00"})
        self.assertIsNone(carried.statement.carry_to)  # who is at it waits no more

    def test_what_cannot_be_is_refused_at_its_cell(self) -> None:
        for cells, hours, field in (
            ({"percent": "140"}, {}, "percent"),
            ({"actual_finish": "1 feb"}, {}, "actual_finish"),
            ({"carry_to": "4 jan"}, {}, "carry_to"),
            ({}, {"S": {"worked": "3"}}, "worked"),
            ({}, {"F": {"to_go": "soon"}}, "to_go"),
            ({}, {"F": {"worked": "9999999"}}, "worked"),
        ):
            with self.subTest(cells=cells, hours=hours), self.assertRaises(EntryRefused) as no:
                self.of("A", cells, hours)
            self.assertEqual(no.exception.field, field)

    def test_together_they_are_what_the_page_would_be(self) -> None:
        hours = [{"activity": "A", "resource": "F", "worked": "10h"}]
        r, before = both(site(RUN, hours=hours))
        a = answered(r, before, "A", {"remaining": "8"}, {"F": {"worked": "70"}})
        c = answered(r, before, "C", {"actual_start": "4 jan", "actual_finish": "7 jan"}, {})
        now = tried_together(r, [a, c]).results
        self.assertEqual(sum(h.worked for h in now.at.periods[-1].hours), 70 * 60)
        self.assertEqual((now.progress["C"].state, now.progress["A"].remaining), ("complete", 8 * 480))
        self.assertEqual(r.progress["A"].remaining, 6 * 480)


class LookAhead(unittest.TestCase):
    def test_the_next_weeks_in_groups(self) -> None:
        """A resumes on Monday 11, C is late, B begins on the 19th, D in February."""
        r = compute(site(RUN))
        self.assertEqual(look_ahead(r, 1, "person"), {"Joan": ["A"], "Pia": ["C"]})
        self.assertEqual(look_ahead(r, 2, "element"), {"1.1": ["A", "B"], "": ["C"]})
        self.assertEqual(look_ahead(r, 8, "resource"), {"Fitters": ["A"], "": ["C", "B", "D"]})


if __name__ == "__main__":
    unittest.main()
