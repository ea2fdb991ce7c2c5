"""Kinds of projects: by hand, and that no value is ever lost, whatever kinds a project becomes of one after the other."""

import json
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import Doc, book
from dryledger.book.lists import LISTS
from dryledger.book.plan import Book
from dryledger.book.registers import FIELD_KINDS, fields_of
from dryledger.changes.apply import apply, apply_keyed
from dryledger.changes.elsewhere import OutsideContext
from dryledger.changes.keyed import KeyedBook
from dryledger.compute import compute
from dryledger.errors import ChangeRefused, UnknownFigure
from dryledger.exchange.book_json import book_from, parse_json
from dryledger.exchange.write import book_document, row_document
from dryledger.marks.marks import marks
from dryledger.readings import read
from dryledger.report.own_fields import field_words, project_fields, report_fields

BERTH = {"code": "berth", "name": "Berth", "kind": "choice", "options": ["Slip", "Quay"], "of": "project", "in_reports": "yes"}
DECK = {"code": "deck", "name": "Deck"}
TIDE = {"code": "tide", "name": "Needs low water", "kind": "yes_no"}
KINDS = {"Refit": [BERTH, DECK], "Works": [TIDE], "Bare": []}


def hull(*fields: Doc, **more: Any) -> Book:
    """One activity, with own fields."""
    project = more.pop("project", {})
    return book([{"code": "A", "name": "Hull", "duration": "2d", **more.pop("a", {})}], fields=list(fields), project=project, **more)


def become(b: Book, *kinds: str, of: Any = None) -> Book:
    """A book after its project was made one of a kind, and of the next."""
    for kind in kinds:
        b = apply_keyed(KeyedBook.of(b), [{"do": "kind", "kind": kind}], {}, OutsideContext(kinds=KINDS if of is None else of)).book
    return b


def codes(b: Book, by: str = "kind") -> list[str]:
    return [d.code for d in b.fields if (d.given_by or "project") == by]


class ByHand(unittest.TestCase):
    def test_a_kind_gives_its_fields_and_takes_them_along(self) -> None:
        refit = become(hull(), "Refit")
        self.assertEqual((refit.project.kind, codes(refit)), ("Refit", ["berth", "deck"]))
        self.assertEqual(row_document(LISTS["fields"], refit.fields[0]), {**BERTH, "given_by": "kind"})
        works = become(refit, "Works")
        self.assertEqual((works.project.kind, codes(works)), ("Works", ["tide"]))
        self.assertEqual((become(works, "").project.kind, become(works, "").fields), ("", ()))

    def test_what_holds_something_stays_as_the_projects_own(self) -> None:
        b = become(hull(), "Refit")
        verbs = [{"do": "set", "row": "a0", "cells": {"fields.deck": "2"}}, {"do": "set", "row": "p0", "cells": {"fields.berth": "slip"}}]
        b = apply_keyed(KeyedBook.of(b), verbs, {}).book
        self.assertEqual((b.activities[0].fields, b.project.fields), ({"deck": "2"}, {"berth": "Slip"}))
        works = become(b, "Works")
        self.assertEqual((codes(works), codes(works, "project")), (["tide"], ["berth", "deck"]))
        again = become(works, "Refit")
        self.assertEqual((codes(again), codes(again, "project")), (["berth", "deck"], []))
        self.assertEqual((again.activities[0].fields, again.project.fields), ({"deck": "2"}, {"berth": "Slip"}))

    def test_what_a_rule_or_a_formula_calls_stays(self) -> None:
        rule = {
            "code": "R",
            "scope": "project",
            "mark": "act",
            "reason": "At the {field:berth}",
            "conditions": [{"figure": "cpi", "is": "empty"}],
        }
        formula = {"code": "twice", "name": "Twice", "kind": "formula", "formula": "deck + deck"}
        b = become(hull(formula), "Refit")
        b = book_from(parse_json(json.dumps(book_document(b) | {"mark_rules": [rule]}, default=float)))
        self.assertEqual(codes(become(b, "Bare"), "project"), ["twice", "berth", "deck"])

    def test_a_field_of_the_same_code_is_taken_over_where_its_values_fit(self) -> None:
        own = {"code": "deck", "name": "My deck", "in_reports": "yes"}
        b = become(hull(own, a={"fields": {"deck": "Mast"}}), "Refit")
        self.assertEqual([row_document(LISTS["fields"], d) for d in b.fields if d.code == "deck"], [DECK | {"given_by": "kind"}])
        strict = {"Refit": [DECK | {"kind": "number"}]}
        with self.assertRaisesRegex(ChangeRefused, "holds a number"):
            become(hull(own, a={"fields": {"deck": "Mast"}}), "Refit", of=strict)

    def test_nothing_changes_where_nothing_is_another(self) -> None:
        b = become(hull(), "Refit")
        done = apply_keyed(KeyedBook.of(b), [{"do": "kind", "kind": "Refit"}], {}, OutsideContext(kinds=KINDS))
        self.assertEqual((done.edits, dict(done.project)), ((), {}))
        stated = {"Refit": [BERTH, DECK | {"kind": "text", "in_reports": "no", "of": "activity"}]}
        self.assertEqual(apply_keyed(KeyedBook.of(b), [{"do": "kind", "kind": "Refit"}], {}, OutsideContext(kinds=stated)).edits, ())

    def test_an_unknown_kind_is_refused_and_cells_cannot_name_one(self) -> None:
        with self.assertRaisesRegex(ChangeRefused, "no kind of project “Moon”"):
            become(hull(), "Moon")
        for verb in ({"do": "set", "row": "p0", "cells": {"kind": "Refit"}}, {"do": "set", "row": "g0", "cells": {"given_by": "kind"}}):
            with self.assertRaises(ChangeRefused):
                apply_keyed(KeyedBook.of(hull(DECK)), [verb], {})


class FieldsOfTheProject(unittest.TestCase):
    def test_they_are_read_in_the_scope_of_the_project_alone(self) -> None:
        b = become(hull(project={}), "Refit")
        b = apply(b, [{"do": "project", "cells": {"fields": {"berth": "Quay"}}}]).book
        r = compute(b)
        self.assertEqual(read(r, "field:berth", "project", "X"), "Quay")
        for key, scope, code in (("field:berth", "activity", "A"), ("field:deck", "project", "X"), ("field:berth", "wbs", "1")):
            with self.assertRaises(UnknownFigure):
                read(r, key, scope, code)
        self.assertEqual((field_words(b), project_fields(b), report_fields(b)), ([("Berth", "Quay")], [("Berth", "Quay")], []))

    def test_a_rule_of_the_project_asks_for_them(self) -> None:
        condition = {"figure": "field:berth", "is": "=", "value": "Quay"}
        rule = {"code": "R", "scope": "project", "mark": "watch", "reason": "At the {field:berth}", "conditions": [condition]}
        b = hull(BERTH, project={"fields": {"berth": "Quay"}}, mark_rules=[rule])
        self.assertEqual(marks(compute(b)).project.mark, "watch")
        b = hull(BERTH, project={"fields": {"berth": "Slip"}}, mark_rules=[rule])
        self.assertNotEqual(marks(compute(b)).project.mark, "watch")

    def test_what_does_not_fit_is_told_at_its_path(self) -> None:
        cases: list[tuple[list[Doc], Doc, str]] = [
            ([BERTH], {"berth": "Moon"}, "project.fields.berth"),
            ([DECK], {"deck": "1"}, "project.fields.deck"),
            ([BERTH | {"kind": "formula", "formula": "1"}], {}, "fields[0].kind"),
            ([TIDE | {"of": "project"}], {"tide": "yes"}, "project.fields.tide"),
            ([DECK | {"of": "moon"}], {}, "fields[0].of"),
        ]
        for fields, values, path in cases:
            with self.subTest(path), self.assertRaises(Exception) as wrong:
                hull(*fields, project={"fields": values})
            self.assertIn(path, [f.path for f in wrong.exception.faults])  # type: ignore[attr-defined]


definition = st.builds(
    lambda n, kind, of: {"code": f"f{n}", "name": f"F{n}", "kind": kind, "of": of, **({"options": ["a", "b"]} if kind == "choice" else {})},
    st.integers(0, 5),
    st.sampled_from([k for k in FIELD_KINDS if k != "formula"]),
    st.sampled_from(["activity", "project"]),
)
VALUES = {"text": "a", "number": 2.5, "date": "2027-01-04", "choice": "b", "yes_no": True}
some_kinds = st.dictionaries(st.sampled_from("KLM"), st.lists(definition, max_size=4, unique_by=lambda d: d["code"]), min_size=1)


class Properties(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(some_kinds, st.lists(st.sampled_from("KLM"), max_size=5), st.sets(st.integers(0, 5)))
    def test_no_value_is_lost_and_the_book_stays_one(self, kinds: dict[str, list[Doc]], order: list[str], filled: set[int]) -> None:
        b = hull()
        for kind in [k for k in order if k in kinds]:
            before = dict(b.activities[0].fields), dict(b.project.fields)
            try:
                b = become(b, kind, of=kinds)
            except ChangeRefused:
                continue  # a value that is there does not fit the definition: nothing was changed
            self.assertEqual((dict(b.activities[0].fields), dict(b.project.fields)), before)
            self.assertEqual(set(codes(b)), {str(d["code"]) for d in kinds[kind]})
            self.assertEqual(become(b, kind, of=kinds), b)
            self.assertEqual(book_from(parse_json(json.dumps(book_document(b), default=float))).fields, b.fields)
            doc = book_document(b)
            for scope, row in (("activity", doc["activities"][0]), ("project", doc["project"])):
                mine = {d.code: VALUES[d.holds] for d in fields_of(b.fields, scope) if int(d.code[1:]) in filled}
                row["fields"] = {**row.get("fields", {}), **mine}
            b = book_from(parse_json(json.dumps(doc, default=float)))


if __name__ == "__main__":
    unittest.main()
