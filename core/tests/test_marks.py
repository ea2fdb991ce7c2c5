"""Marks: the shipped rules, rules of a book, and every condition against an independent reckoning."""

import operator
import unittest
from datetime import date, timedelta
from decimal import Decimal as D
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import baseline, book, doc, line, page
from core.tests.random_books import random_book
from dryledger.book.mark_rules import kind_of
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results, compute
from dryledger.errors import BookInvalid
from dryledger.exchange.book_json import book_from
from dryledger.exchange.write import book_document
from dryledger.figures import figures_of
from dryledger.marks.marks import MARK_WORDS, Mark, marks
from dryledger.readings import reader
from dryledger.results import results_document

ACTS = [{"code": "A", "duration": "5d", "wbs": "1"}, {"code": "B", "duration": "2d", "wbs": "1"}]
WBS = [{"code": "1", "name": "Hull"}]
BASE = [
    {"code": "A", "wbs": "1", "start": "2027-01-04T08:00", "finish": "2027-01-08T17:00", "cost_lines": [line("500.00")]},
    {"code": "B", "wbs": "1", "start": "2027-01-11T08:00", "finish": "2027-01-12T17:00", "cost_lines": [line("100.00")]},
]
LINKS = [{"from": "A", "to": "B"}]


def at(status: str, *stated: dict[str, Any], rules: Any = (), **more: Any) -> Results:
    """A then B, a week and two days, against a baseline of the same."""
    document = doc(
        ACTS, LINKS, wbs=WBS, baselines=[baseline(*BASE)], project={"measured_against": "B0"}, periods=[page("P1", status, *stated)]
    )
    return compute(book_from(document | {"mark_rules": list(rules)} | more))


def rule(*conditions: dict[str, Any], scope: str = "activity", mark: str = "act", code: str = "R", **more: Any) -> dict[str, Any]:
    return {"code": code, "scope": scope, "mark": mark, "conditions": list(conditions)} | more


def when(figure: str, comparison: str, value: Any = None, **side: Any) -> dict[str, Any]:
    return {"figure": figure, "is": comparison} | ({} if value is None else {"value": value}) | side


class Shipped(unittest.TestCase):
    def marks(self, *stated: dict[str, Any], status: str = "2027-01-04T17:00") -> tuple[str, str, str, str]:
        found = marks(at(status, *stated))
        return found.activities["A"].mark, found.activities["B"].mark, found.wbs["1"].mark, found.project.mark

    def test_by_hand(self) -> None:
        begun, done = {"activity": "A", "actual_start": "2027-01-04T08:00"}, {"actual_finish": "2027-01-08T17:00"}
        self.assertEqual(self.marks(begun), ("on_plan", "soon", "on_plan", "on_plan"))
        self.assertEqual(self.marks(), ("watch", "watch", "act", "act"))  # not begun: a day late, and nothing earned
        self.assertEqual(self.marks(begun | {"remaining": "9d"}), ("act", "act", "act", "act"))
        self.assertEqual(self.marks(begun | done, status="2027-01-08T17:00"), ("done", "soon", "on_plan", "on_plan"))
        last = {"activity": "B", "actual_start": "2027-01-11T08:00", "actual_finish": "2027-01-12T17:00"}
        self.assertEqual(self.marks(begun | done, last, status="2027-01-12T17:00"), ("done",) * 4)

    def test_they_say_why_and_count_what_they_catch(self) -> None:
        r = at("2027-01-04T17:00", {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "9d"})
        self.assertEqual(marks(r).activities["B"].reasons, ("finishes 5 days late",))
        told = results_document(r, ("marks",))["marks"]
        row = told["activities"][1]  # type: ignore[index]
        self.assertEqual(
            (row["rule"], row["reason"], row["figures"]), ("A-act-late", "finishes {finish_difference} late", {"finish_difference": 2400})
        )

    @settings(max_examples=25, deadline=None)
    @given(st.integers(0, 10**6))
    def test_catches_and_rows_without_a_rule_are_all_rows(self, seed: int) -> None:
        r = compute(book_from(random_book(seed)))
        found = marks(r)
        rows: list[Mark] = [*found.activities.values(), *found.wbs.values(), found.project]
        self.assertEqual(sum(found.catches.values()) + sum(m.rule is None for m in rows), len(rows))
        self.assertLessEqual({m.mark for m in rows}, set(MARK_WORDS))


class Rules(unittest.TestCase):
    def mark(self, *conditions: dict[str, Any], code: str = "A", **more: Any) -> str:
        r = at("2027-01-04T17:00", {"activity": "A", "actual_start": "2027-01-04T08:00"}, rules=[rule(*conditions, **more)])
        return marks(r).activities[code].mark

    def test_conditions_by_hand(self) -> None:
        for condition, held in (
            (when("state", "=", "in_progress"), True),
            (when("state", "one_of", ["complete", "in_progress"]), True),
            (when("actual_finish", "empty"), True),
            (when("actual_finish", "not_empty"), False),
            (when("actual_finish", "!=", "2027-01-05"), False),  # null makes every comparison false
            (when("finish", "=", "2027-01-08"), True),  # by date
            (when("finish", "=", "2027-01-08T16:59"), False),  # to the minute
            (when("finish", "<=", working_days=4), True),  # Friday is the fourth after Monday
            (when("finish", "<=", working_days=3), False),
            (when("start", "=", working_days=0), True),
            (when("finish", ">", working_days=-1), True),
            (when("finish", "=", than="baseline_finish"), True),
            (when("remaining", ">=", "4d"), True),
            (when("remaining", ">", "32h"), False),
            (when("finish_difference", ">", "-1d"), True),
            (when("bac", "=", "500.00"), True),
            (when("bac", ">=", than="pv"), True),
            (when("spi", "<", 0.95), False),
            (when("percent", ">=", 20), True),
            (when("critical", "=", True), True),
            (when("wbs", "!=", "2"), True),
        ):
            with self.subTest(condition):
                self.assertEqual(self.mark(condition), "act" if held else "not_due")

    def test_each_of_a_list_is_compared_as_it_would_be_alone(self) -> None:
        def caught(*values: Any) -> bool:
            begun = {"activity": "A", "actual_start": "2027-01-04T08:00"}
            return marks(at("2027-01-04T17:00", begun, rules=[rule(when("start", "one_of", list(values)))])).activities["A"].mark == "act"

        self.assertEqual([caught(x) for x in ("2027-01-04", "2027-01-04T08:00", "2027-01-04T09:00")], [True, True, False])
        self.assertTrue(caught("2027-01-04", "2027-01-09T09:00"))  # a date beside an instant
        self.assertFalse(caught("2027-01-04T09:00", "2027-01-09"))

    def test_an_empty_list_is_told_once(self) -> None:
        with self.assertRaises(BookInvalid) as no:
            at("2027-01-04T17:00", rules=[rule(when("state", "one_of", []))])
        self.assertEqual([f.path for f in no.exception.faults], ["mark_rules[0].conditions[0].value"])

    def test_all_any_and_none(self) -> None:
        yes, no = when("state", "=", "in_progress"), when("state", "=", "complete")
        self.assertEqual(self.mark(yes, no), "not_due")
        self.assertEqual(self.mark(yes, no, match="any"), "act")
        self.assertEqual(self.mark(mark="watch"), "watch")
        self.assertEqual(self.mark(scope="wbs"), "not_due")

    def test_a_reason_has_its_figures_and_braces(self) -> None:
        r = at("2027-01-04T17:00", rules=[rule(reason="{{{code}}} ends {finish}, {finish_difference} late, BAC {bac}")])
        self.assertEqual(marks(r).activities["A"].reasons, ("{A} ends 11 January 2027, 1 day late, BAC 500.00 EUR",))

    def test_what_is_not_valid_is_told_at_its_place(self) -> None:
        for given_, place in (
            (rule(when("spi_t", "<", 1)), "conditions[0].figure"),  # not of an activity
            (rule(when("nonsense", "=", "x")), "conditions[0].figure"),
            (rule(when("finish", "<", "12.50")), "conditions[0].value"),
            (rule(when("bac", ">", "5d")), "conditions[0].value"),
            (rule(when("bac", ">", 5)), "conditions[0].value"),
            (rule(when("finish", "<", than="bac")), "conditions[0].than"),
            (rule(when("finish", "<", than="unknown")), "conditions[0].than"),
            (rule(when("name", "<", "x")), "conditions[0].is"),
            (rule(when("bac", ">", working_days=3)), "conditions[0].working_days"),
            (rule(when("finish", ">", working_days=1.5)), "conditions[0].working_days"),
            (rule(when("finish", ">")), "conditions[0]"),
            (rule(when("finish", ">", "2027-01-01", working_days=1)), "conditions[0]"),
            (rule(when("finish", "empty", "2027-01-01")), "conditions[0].value"),
            (rule(when("state", "one_of", "complete")), "conditions[0].value"),
            (rule(when("state", "=", ["complete"])), "conditions[0].value"),
            (rule(when("critical", "=", "true")), "conditions[0].value"),
            (rule(when("state", "about", "x")), "conditions[0].is"),
            (rule(reason="ends {finish"), "reason"),
            (rule(reason="ends finish}"), "reason"),
            (rule(reason="{spi_t}"), "reason"),
            (rule(mark="red"), "mark"),
            (rule(scope="team"), "scope"),
            (rule(when("field:crew", "=", "x")), "conditions[0].figure"),
        ):
            with self.subTest(given_), self.assertRaises(BookInvalid) as caught:
                at("2027-01-04T17:00", rules=[given_])
            self.assertEqual([f.path for f in caught.exception.faults], [f"mark_rules[0].{place}"])
        with self.assertRaises(BookInvalid) as caught:
            at("2027-01-04T17:00", rules=[rule(), rule()])
        self.assertEqual([f.path for f in caught.exception.faults], ["mark_rules[1].code"])

    def test_own_fields_and_the_file(self) -> None:
        fields = [{"code": "crew", "name": "Crew"}, {"code": "due", "name": "Due", "kind": "date"}]
        acts = [ACTS[0] | {"fields": {"crew": "east", "due": "2027-01-07"}}, ACTS[1]]
        rules = [
            rule(when("field:crew", "=", "east"), when("finish", ">", than="field:due"), code="R1"),
            rule(when("field:crew", "empty"), mark="soon", code="R2", reason="nobody yet"),
            rule(when("cpi", "one_of", [1, 0.5]), when("state", "!=", "complete"), scope="project", code="R3", match="any"),
        ]
        r = at("2027-01-04T17:00", rules=rules, fields=fields, activities=[{"name": a["code"]} | a for a in acts])
        self.assertEqual([m.mark for m in marks(r).activities.values()], ["act", "soon"])
        self.assertEqual(book_document(r.book)["mark_rules"], [{"match": "all"} | x for x in rules])


ORDER = {"=": operator.eq, "!=": operator.ne, "<": operator.lt, "<=": operator.le, ">": operator.gt, ">=": operator.ge}


class Reckoned(unittest.TestCase):
    """Any figure, any comparison, on any book: as reckoned a second time from the figures as Results print them."""

    def value(self, data: st.DataObject, kind: str) -> Any:
        day = data.draw(st.dates(date(2026, 12, 28), date(2027, 2, 20)))
        return {
            "money": f"{data.draw(st.integers(-500, 3000))}.50",
            "duration": data.draw(st.sampled_from(["0d", "1d", "-2d", "5h", "90min"])),
            "instant": data.draw(st.sampled_from([f"{day}", f"{day}T17:00"])),
            "date": f"{day}",
            "flag": data.draw(st.booleans()),
            "text": data.draw(st.sampled_from(["A1", "1", "five"])),
            "choice": data.draw(st.sampled_from(["complete", "in_progress", "percent", "task", "both"])),
        }.get(kind, data.draw(st.sampled_from([0, 0.5, 1, 50, 100])))

    @settings(max_examples=250, deadline=None)
    @given(st.integers(0, 10**6), st.sampled_from(["activity", "wbs", "project"]), st.data())
    def test_conditions(self, seed: int, scope: str, data: st.DataObject) -> None:
        document = random_book(seed)
        figure = data.draw(st.sampled_from([f.key for f in figures_of(scope)]))
        kind = kind_of(figure, scope, ()) or ""
        ordered = ["=", "!=", "<", "<=", ">", ">="] if kind not in ("text", "choice", "flag") else ["=", "!="]
        comparison = data.draw(st.sampled_from(ordered))
        days = data.draw(st.integers(-6, 6)) if kind in ("instant", "date") and data.draw(st.booleans()) else None
        value = self.value(data, kind)
        condition = when(figure, comparison, working_days=days) if days is not None else when(figure, comparison, value)
        r = compute(book_from(document | {"mark_rules": [rule(condition, scope=scope)]}))
        read, found = reader(r, figure, scope), marks(r)
        rows = {"activity": found.activities, "wbs": found.wbs, "project": {r.book.project.code: found.project}}[scope]
        for code, mark in rows.items():
            other = self.on_day(r, scope, code, days) if days is not None else self.side(r, scope, code, kind, value)
            mine = read(code)
            by_date = kind == "date" or days is not None or (kind == "instant" and len(value) == 10)
            if mine is None or other is None:
                held = False
            else:
                left: Any = D(str(mine)) if isinstance(mine, float) else mine
                if kind in ("instant", "date"):
                    left = to_text(mine) if isinstance(mine, int) else mine
                    left = left[:10] if by_date else left
                held = ORDER[comparison](left, other)
            self.assertEqual(mark.mark == "act", held, (figure, comparison, value, days, mine, code))

    def side(self, r: Results, scope: str, code: str, kind: str, value: Any) -> Any:
        if kind == "money":
            return D(value)
        if kind == "duration":
            own = r.book.calendar_by_code[r.book.activity_by_code[code].calendar if scope == "activity" else r.book.project.calendar]
            number, unit = D(value.rstrip("dhmin")), value.lstrip("-0123456789")
            return int(number * {"d": own.hours_per_day * 60, "h": D(60), "min": D(1)}[unit])
        return D(str(value)) if isinstance(value, float | int) and not isinstance(value, bool) else value

    def on_day(self, r: Results, scope: str, code: str, days: int) -> str | None:
        if r.status is None:
            return None
        own = r.book.calendar_by_code[r.book.activity_by_code[code].calendar if scope == "activity" else r.book.project.calendar]
        day, left = date.fromisoformat(to_text(r.status)[:10]), abs(days)
        while left:
            day += timedelta(days=1 if days > 0 else -1)
            opens = (day.toordinal() - 1) * 1440
            left -= own.axis.between(opens, opens + 1440) > 0
        return day.isoformat()


class Books(unittest.TestCase):
    def test_a_book_of_nothing_has_marks(self) -> None:
        self.assertEqual(marks(compute(book([]))).project.mark, "on_plan")
