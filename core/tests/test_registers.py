"""Registers as records: by hand and by property; and options read the quick way whatever their changes leave out."""

import json
import unittest
from datetime import date
from decimal import Decimal as D

from hypothesis import given
from hypothesis import strategies as st

from core.tests.books import doc
from dryledger.book.lists import LISTS
from dryledger.book.plan import Book
from dryledger.book.reader import Reader
from dryledger.book.registers import FIELD_KINDS, RECORDS, REGISTERS, ChangeOrder, FieldDefinition, Risk, fields_of
from dryledger.compute import compute
from dryledger.desk.risk import risk_and_benefit
from dryledger.exchange.book_json import book_from, read_book
from dryledger.exchange.by_columns import columns_of, quick_rows
from dryledger.exchange.read import RowContext, read_row
from dryledger.exchange.write import book_document, row_document
from dryledger.working.period import exposure

PLAN = [{"code": "A"}, {"code": "B"}]
TEXTS = st.text(st.characters(codec="utf-8", exclude_categories=["C", "Z"]), min_size=1, max_size=12)
AMOUNTS = st.decimals(0, 10**9, places=2, allow_nan=False, allow_infinity=False)
DAYS = st.dates(date(2020, 1, 1), date(2040, 1, 1)).map(date.isoformat)


def cell(kind: str, options: tuple[str, ...], signed: bool) -> st.SearchStrategy[object]:
    """What may stand in a column of a register."""
    if kind == "choice":
        return st.sampled_from(options)
    if kind == "texts":
        return st.lists(TEXTS, min_size=1, max_size=3)
    if kind == "date":
        return DAYS
    if kind in ("of_hundred", "number"):
        return st.integers(0, 100)
    if kind == "instant":
        return DAYS.map(lambda day: f"{day}T17:00")
    if kind == "rows":
        return st.lists(AMOUNTS.map(lambda x: {"activity": "A", "amount": f"{x:f}"}), min_size=1, max_size=2)
    if kind == "amount":
        return AMOUNTS.map(lambda x: f"{-x if signed else x:f}")
    return TEXTS


@st.composite
def rows(draw: st.DrawFn, register: str) -> list[dict[str, object]]:
    """Rows of a register, each with some of its columns."""
    found: list[dict[str, object]] = []
    for i in range(draw(st.integers(0, 4))):
        row: dict[str, object] = {"code": f"X{i}", "name": draw(TEXTS)}
        for c in REGISTERS[register]:
            if draw(st.booleans()):
                row[c.key] = draw(cell(c.kind, c.options, c.signed))
        if register == "changes":  # one that is built names a baseline, and there is none here
            row = {k: v for k, v in row.items() if k != "baseline" and v != "built"} | {"from": "client"}
            row |= {"decided_at": "2027-02-01T11:00"} if "lines" in row else {}
        found.append(row)
    return found


def book(**lists: object) -> Book:
    """A small book with these lists beside its plan."""
    return book_from(json.loads(json.dumps(doc(PLAN) | lists)))


class ByHand(unittest.TestCase):
    def test_every_column_is_an_attribute_of_its_record(self) -> None:
        self.assertEqual(RECORDS.keys(), REGISTERS.keys())
        for key, of in LISTS.items():
            if key in REGISTERS:
                self.assertEqual({c.field for c in of.columns}, set(of.record.__dataclass_fields__), key)

    def test_what_is_not_given_is_nothing(self) -> None:
        [risk] = book(risks=[{"code": "R1", "name": "Storm"}]).risks
        self.assertEqual(risk, Risk("R1", "Storm"))
        self.assertIsNone(risk.exposure)
        self.assertEqual(row_document(LISTS["risks"], risk), {"code": "R1", "name": "Storm"})
        [change] = book(changes=[{"code": "C1", "name": "Less", "cost": "-80.5", "decided": "2027-02-01", "state": "approved"}]).changes
        self.assertEqual(change, ChangeOrder("C1", "Less", state="approved", decided=date(2027, 2, 1), cost=D("-80.5")))

    def test_exposure_is_summed_before_it_is_rounded(self) -> None:
        """12.5 % of 1,000.01 is 125.00125, three times 375.00375: 375.00; each alone 125.00. One closed and one unrated count nothing."""
        given = [{"code": f"R{i}", "name": "Storm", "probability": 12.5, "impact": "1000.01"} for i in range(3)]
        more = [
            {"code": "R8", "name": "Past", "probability": 50, "impact": "10", "state": "closed"},
            {"code": "R9", "name": "Unknown", "impact": "10"},
        ]
        r = compute(book(risks=[*given, *more]))
        self.assertEqual([exposure(r, x) for x in r.book.risks], [D("125.00")] * 3 + [D("5.00"), None])
        found = risk_and_benefit(r)
        self.assertEqual((found.exposure, found.unrated), (D("375.00"), ("R9",)))

    def test_a_field_that_says_nothing_holds_text_of_activities(self) -> None:
        bare, berth = FieldDefinition("deck", "Deck"), FieldDefinition("berth", "Berth", "choice", ("Slip",), of="project")
        self.assertEqual((bare.holds, bare.scope, berth.holds, berth.scope), ("text", "activity", "choice", "project"))
        self.assertEqual(fields_of((bare, berth), "project"), (berth,))


class Properties(unittest.TestCase):
    @given(st.fixed_dictionaries({key: rows(key) for key in REGISTERS if key != "fields"}))
    def test_what_is_read_is_written_again(self, registers: dict[str, list[dict[str, object]]]) -> None:
        made = book(**registers)
        for key, given_rows in registers.items():
            again = [row_document(LISTS[key], x) for x in getattr(made, key)]
            self.assertEqual(json.loads(json.dumps(again, default=str)), json.loads(json.dumps(given_rows)), key)
        self.assertEqual(book_from(book_document(made)), made)

    @given(st.lists(st.tuples(st.sampled_from(FIELD_KINDS), st.sampled_from(["", "activity", "project"])), max_size=6))
    def test_every_field_is_of_one_scope(self, given_fields: list[tuple[str, str]]) -> None:
        fields = tuple(FieldDefinition(f"f{i}", f"F{i}", kind, of=of) for i, (kind, of) in enumerate(given_fields))
        parts = [*fields_of(fields, "activity"), *fields_of(fields, "project")]
        self.assertEqual(sorted(parts, key=lambda d: d.code), sorted(fields, key=lambda d: d.code))


class Quick(unittest.TestCase):
    CHANGES = (
        {"do": "set", "row": "A", "cells": {"weight": 2.5}},
        {"do": "link", "from": "A", "to": "B", "type": "FS"},
        {"do": "unlink", "from": "A", "to": "B"},
        {"do": "assign", "activity": "A", "resource": "FIT", "cells": {"units": 1}},
    )

    def test_options_whose_changes_leave_out_columns_are_read_at_once(self) -> None:
        """Each change alone names only some of the columns; none of that makes the whole book be read row by row."""
        of, plan = LISTS["options"], book()
        scope = RowContext(plan.calendar_by_code, plan.project_calendar, {a.code: plan.project_calendar for a in plan.activities})
        for change in self.CHANGES:
            given = {"code": "O1", "name": "Try", "changes": [change]}
            [option] = quick_rows(of, columns_of(of, [given]), scope)
            self.assertEqual(option, read_row(Reader(given, "", []), of, scope))

    def test_digits_stay_as_they_are(self) -> None:
        exact = "0.12345678901234567891"
        whole = doc(PLAN) | {"options": [{"code": "O1", "name": "Try", "changes": [{"do": "set", "row": "A", "cells": {"weight": 1}}]}]}
        made = read_book(json.dumps(whole).replace('{"weight": 1}', f'{{"weight": {exact}}}'))
        self.assertEqual(made.options[0].changes[0].cells["weight"], D(exact))
