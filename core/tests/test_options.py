"""Options on top of a book, the board that compares them, and proposals: by hand and by properties of random books."""

import json
import unittest
from dataclasses import replace
from decimal import Decimal
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from core.tests.books import book, page
from core.tests.random_books import random_book
from dryledger.book.options import Change, Option
from dryledger.book.plan import Book
from dryledger.calendar.calendar import to_text
from dryledger.changes.apply import apply_keyed
from dryledger.changes.keyed import KeyedBook
from dryledger.changes.option import changes_of, with_changes
from dryledger.compute import compute
from dryledger.errors import BookInvalid, ChangeRefused
from dryledger.exchange.book_json import book_from, parse_json
from dryledger.exchange.write import book_document
from dryledger.options.board import beside, compared, cost_change, milestones_later, more_over, standing
from dryledger.options.proposals import computed, ideas, proposals
from dryledger.results import results_document
from dryledger.results_schema import results_schema

SCHEMA = Draft202012Validator(results_schema())
RATE = [{"from": "2027-01-01", "amount": "50.00", "per": "hour"}]
CREW = {"code": "R", "name": "Crew", "units": 4, "rates": RATE}


def quay(**more: Any) -> Book:
    """A (4 d, 64 h by two of the crew) then B (5 d), then the milestone M; the deadline is two days too early."""
    acts = [{"code": "A", "duration": "4d", "driver": "work"}, {"code": "B", "duration": "5d"}, {"code": "M", "kind": "milestone"}]
    links = [{"from": "A", "to": "B"}, {"from": "B", "to": "M"}]
    on = [{"activity": "A", "resource": "R", "units": 2, "work": "64h"}]
    project = {"deadline": "2027-01-12T17:00"}
    return book(acts, links, resources=[CREW], assignments=on, project=project, **more)


def change(do: str, row: str | None = None, **more: Any) -> Change:
    return Change(do, row, **more)


class Applying(unittest.TestCase):
    def test_changes_apply_in_order_and_what_does_not_fit_is_named(self) -> None:
        found = with_changes(quay(), [
            change("set", "B", cells={"duration": "3d"}, was={"duration": "5d"}),
            change("set", "B", cells={"duration": "2d"}, was={"duration": "5d"}),
            change("delete", "Z"),
            change("link", source="B", target="A", cells={}),
            change("set", "A", cells={"colour": "red"}),
            change("project", cells={"deadline": None}, was={"deadline": "2027-01-12T17:00"}),
            change("project", cells={"name": "Other"}),
        ])  # fmt: skip
        self.assertEqual([x.change for x in found.conflicts], [1, 2, 3, 4, 6])
        self.assertEqual(found.conflicts[0].message, "“B” has another duration by now.")
        self.assertIn("loop", found.conflicts[2].message)
        self.assertEqual((found.book.activity_by_code["B"].duration, found.book.project.deadline), (3 * 480, None))

    def test_a_value_counts_as_the_same_however_it_is_written(self) -> None:
        same = with_changes(quay(), [change("set", "B", cells={"duration": "3d"}, was={"duration": "40h", "levelled": None})])
        self.assertEqual(same.conflicts, ())

    def test_every_verb(self) -> None:
        b = quay(
            periods=[page("P1", "2027-01-05T17:00", {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 25, "note": "x"})]
        )
        found = with_changes(b, [
            change("add", "N", cells={"name": "New", "duration": "1d"}),
            change("link", source="N", target="B", type="SS", cells={"lag": "-1d"}),
            change("unlink", source="A", target="B"),
            change("assign", activity="N", resource="R", cells={"units": 0.5}),
            change("unassign", activity="A", resource="R", was={"units": 2, "work": "64h"}),
            change("cost", activity="N", name="Paint", cells={"amount": "12.00"}),
            change("cost", activity="N", name="Paint", cells={"amount": "13.00"}, was={"amount": "12.00"}),
            change("resource", "R", cells={"units": 6}, was={"units": 4}),
            change("post", "A", cells={"remaining": "1d"}, was={"remaining": None}),
            change("project", cells={"treatment": "override"}, was={"treatment": None}),
        ])  # fmt: skip
        self.assertEqual([x.message for x in found.conflicts if x.change != 9], [])
        now = found.book
        self.assertEqual([(k.source, k.target, k.type, int(k.lag)) for k in now.links], [("B", "M", "FS", 0), ("N", "B", "SS", -480)])
        self.assertEqual([(x.activity, x.resource, x.units) for x in now.assignments], [("N", "R", Decimal("0.5"))])
        self.assertEqual([(c.name, c.amount) for c in now.costs], [("Paint", Decimal("13.00"))])
        self.assertEqual(now.resource_by_code["R"].units, 6)
        [stated] = now.periods[0].statements
        # The same is said again with another remaining: the percent stays, and so does the note of this very page.
        self.assertEqual((stated.percent, stated.remaining, stated.note), (Decimal("0.25"), 480, "x"))

    def test_posting_needs_a_page_and_takes_the_latest_statement_along(self) -> None:
        self.assertEqual(len(with_changes(quay(), [change("post", "A", cells={"remaining": "1d"})]).conflicts), 1)
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 25, "note": "x"}
        b = quay(periods=[page("P1", "2027-01-05T17:00", stated), page("P2", "2027-01-06T17:00")])
        found = with_changes(b, [change("post", "A", cells={"remaining": "1d"}), change("post", "A", cells={"percent": 3})])
        self.assertEqual(len(found.conflicts), 1)
        self.assertEqual(found.book.periods[0], b.periods[0])
        [again] = found.book.periods[1].statements
        self.assertEqual((again.percent, again.remaining, again.note), (Decimal("0.25"), 480, None))

    def test_a_post_is_said_on_the_page_that_it_names(self) -> None:
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 25}
        pages = [page("P1", "2027-01-05T17:00", stated), page("P2", "2027-01-06T17:00"), page("P3", "2027-01-07T17:00")]
        on = {p: change("post", "A", page=p, cells={"remaining": "1d"}) for p in ("P1", "P2", "P3", "P9")}
        b = quay(periods=pages)
        self.assertEqual(with_changes(b, [on["P1"]]).book.periods[0].statements[0].remaining, 480)
        found = compared(compute(b, "P2"), Option("O1", "Later", changes=(on["P3"], on["P2"], on["P9"])))
        # What is said on a later page is left out; a page that is not there does not fit.
        self.assertEqual([(c.change, c.message) for c in found.conflicts], [(2, "There is no page “P9” in this book.")])
        self.assertEqual([len(p.statements) for p in found.results.book.periods], [1, 1])

    def test_whatever_the_application_writes_is_a_verb_of_an_option_too(self) -> None:
        b = quay(costs=[{"code": "D1", "activity": "B", "name": "Hire", "amount": "10.00"}], periods=[page("P1", "2027-01-05T17:00")])
        line = [{"for": "D1", "amount": "12.00"}]
        found = with_changes(b, [
            change("order", "PO-1", cells={"supplier": "Yard", "lines": line}),
            change("order", "PO-1", cells={"state": "closed"}, was={"state": "open"}),
            change("reserve", "R1", cells={"name": "Ice", "amount": "5.00"}),
            change("change", "C1", cells={"name": "More", "from": "R1", "lines": [{"activity": "B", "amount": "2.00"}]}),
            change("mark", "M1", cells={"scope": "project", "mark": "act", "conditions": [{"figure": "cv", "is": "<", "value": "0"}]}),
            change("state", "A", cells={"actual_start": "2027-01-04T08:00"}),
            change("hours", activity="A", resource="R", cells={"worked": "6h"}),
            change("pay", cells={"activity": "B", "date": "2027-01-05", "amount": "12.00", "source": "invoice", "order": "PO-1"}),
            change("cost", activity="B", name="Hire", cells={"to_order": "3.00"}),
            change("resource", "R", cells={"exceptions": [{"from": "2027-01-06", "to": "2027-01-07", "units": 1}]}),
            change("order", "PO-9"),
            change("order", "PO-1", cells={"supplier": "Other"}, was={"supplier": "Nobody"}),
            change("reserve", "R1", cells={"colour": "red"}),
        ])  # fmt: skip
        self.assertEqual([x.change for x in found.conflicts], [10, 11, 12])
        now = found.book
        self.assertEqual([(o.code, o.supplier, o.state, len(o.lines)) for o in now.orders], [("PO-1", "Yard", "closed", 1)])
        self.assertEqual([(x.code, x.amount) for x in now.reserves], [("R1", Decimal("5.00"))])
        self.assertEqual([(c.code, c.source, c.stands) for c in now.changes], [("C1", "R1", "raised")])
        self.assertEqual((now.costs[0].to_order, now.mark_rules[-1].code), (Decimal("3.00"), "M1"))
        self.assertEqual(now.resource_by_code["R"].exceptions[0].units, 1)
        [entry] = now.periods[0].costs
        self.assertEqual((entry.order_code, entry.amount, now.periods[0].hours[0].worked), ("PO-1", Decimal("12.00"), 360))
        gone = with_changes(now, [change("reserve", "R1"), change("mark", "M1")])
        self.assertEqual((len(gone.conflicts), gone.book.mark_rules), (1, ()))  # the reserve pays a change

    def test_a_loop_in_between_does_not_fit_even_if_it_is_mended_later(self) -> None:
        reversal = [change("link", source="M", target="A", cells={}), change("unlink", source="A", target="B")]
        self.assertEqual([x.change for x in with_changes(quay(), reversal).conflicts], [0])

    def test_what_is_done_at_the_sheet_is_the_same_as_an_option(self) -> None:
        b = quay(costs=[{"activity": "B", "name": "Hire", "amount": "10.00"}])
        keyed, dates = KeyedBook.of(b), compute(b).schedule.activities
        done = apply_keyed(keyed, [
            {"do": "set", "row": "a1", "cells": {"duration": "3d", "people": "R 50 %", "after": "A SS lag 1d"}},
            {"do": "set", "row": "s0", "cells": {"units": "3"}},
            {"do": "set", "row": "p0", "cells": {"deadline": "20 jan"}},
            {"do": "add", "list": "activities", "cells": {"name": "New", "duration": "2d"}, "as": "n"},
            {"do": "chain", "rows": ["a0", "n"]},
            {"do": "set", "row": "r0", "cells": {"units": "5"}},
            {"do": "remove", "rows": ["a2"]},
        ], dates)  # fmt: skip
        changes = changes_of(keyed, done)
        found = with_changes(b, changes)
        self.assertEqual(found.conflicts, ())
        was, now = (json.loads(json.dumps(book_document(x), default=str)) for x in (done.book, found.book))
        for key in ("links", "assignments", "activities"):
            was[key], now[key] = (sorted(x[key], key=str) for x in (was, now))
        self.assertEqual(now, was)

    def test_what_an_option_cannot_hold_is_refused(self) -> None:
        b = quay()
        keyed, dates = KeyedBook.of(b), compute(b).schedule.activities
        for verb in (
            {"do": "set", "row": "a1", "cells": {"code": "X9"}},
            {"do": "set", "row": "p0", "cells": {"name": "Other"}},
            {"do": "set", "row": "r0", "cells": {"name": "Other"}},
            {"do": "element", "rows": ["a0"]},
            {"do": "add", "list": "calendars", "cells": {"name": "Six"}},
        ):
            with self.assertRaises(ChangeRefused, msg=str(verb)):
                changes_of(keyed, apply_keyed(keyed, [verb], dates))


class Board(unittest.TestCase):
    def test_an_option_beside_the_present(self) -> None:
        b = quay(options=[
            {"code": "O1", "name": "Overlap", "changes": [{"do": "link", "from": "A", "to": "B", "cells": {"lag": "-2d"}}]},
            {"code": "O2", "name": "Gone", "state": "adopted"},
        ])  # fmt: skip
        r = compute(b)
        present, x = standing(r), compared(r, b.options[0])
        # Nine working days from Monday 4 January end on Thursday 14; two days earlier is the deadline.
        self.assertEqual(
            (to_text(present.finish), present.deadline_difference, present.imposed_difference), ("2027-01-14T17:00", 960, None)
        )
        self.assertEqual((x.gained, x.overlaps, x.standing.deadline_difference), (960, (("A", "B"),), 0))
        self.assertEqual((x.standing.milestones, present.least_float), ((("M", r.schedule.finish - 2880),), 0))
        document = results_document(r, ("options",))["options"]
        assert isinstance(document, dict)
        self.assertEqual([o["code"] for o in document["options"]], ["O1"])

    def test_differences_to_the_present(self) -> None:
        b = quay(periods=[page("P1", "2027-01-04T08:00")], options=[
            {"code": "O1", "name": "More", "changes": [
                {"do": "assign", "activity": "A", "resource": "R", "cells": {"work": "96h"}},
                {"do": "add", "row": "N", "cells": {"name": "Handover", "kind": "milestone"}},
            ]},
        ])  # fmt: skip
        r = compute(replace(b, project=replace(b.project, eac="bottom_up")))
        present, x = standing(r), compared(r, b.options[0])
        # 96 hours by two people are six days in the place of four.
        self.assertEqual((present.eac, cost_change(x.standing, present)), (Decimal("3200.00"), Decimal("1600.00")))
        self.assertEqual(x.gained, -960)
        later = milestones_later(with_changes(b, b.options[0].changes).book, x.standing, present)
        self.assertEqual(later, {"M": 960, "N": 0})
        self.assertIsNone(cost_change(replace(x.standing, eac=None), present))
        self.assertEqual(more_over(Decimal(30), replace(present, over_allocated=Decimal(50))), -20)

    def test_over_allocation_is_counted(self) -> None:
        on = [{"activity": c, "resource": "R", "units": 3} for c in "AB"]
        b = book([{"code": "A", "duration": "1d"}, {"code": "B", "duration": "2d"}], resources=[CREW], assignments=on)
        self.assertEqual(standing(compute(b)).over_allocated, 2 * 480)

    @settings(max_examples=100)
    @given(st.integers(0, 10**6))
    def test_costs_by_kind_are_the_bottom_up_estimate(self, seed: int) -> None:
        try:
            r = compute(book_from(random_book(seed)))
        except BookInvalid:
            return
        eac = r.totals.eac["bottom_up"]
        if eac is not None:
            self.assertEqual(sum(standing(r).cost_by_kind.values(), Decimal(0)), eac)


class Printed(unittest.TestCase):
    @settings(max_examples=60)
    @given(st.integers(0, 10**6))
    def test_what_is_printed_keeps_its_schema(self, seed: int) -> None:
        doc = random_book(seed, 8)
        codes = [a["code"] for a in doc["activities"]]
        for i, a in enumerate(doc["activities"]):
            a |= {"safe_duration": f"{(seed + i) % 7 + 1}d"} if (seed + i) % 3 else {}
        changes = [
            {"do": "post", "row": codes[0], "cells": {"remaining": "2d", "carry_to": "2027-01-22T08:00"}},
            {"do": "set", "row": codes[-1], "cells": {"calendar": "six"}},
            {"do": "delete", "row": codes[seed % len(codes)]},
            {"do": "add", "row": "NEW", "cells": {"name": "New"}},
            {"do": "link", "from": "NEW", "to": codes[0], "cells": {"lag": "-3d"}},
        ]
        doc["options"] = [{"code": "O1", "name": "Some", "changes": changes}]
        try:
            r = compute(book_from(doc))
        except BookInvalid:
            return
        found = json.loads(json.dumps(results_document(r, ("chain", "level", "options", "proposals"))))
        self.assertEqual([e.json_path + e.message for e in SCHEMA.iter_errors(found)], [])


class Proposals(unittest.TestCase):
    def test_what_is_tried_and_what_it_gains(self) -> None:
        found = {x.code: (x.gained, str(x.cost)) for x in proposals(compute(quay()))}
        # Two more of the crew halve A; the lead of half of A's four days is two; linking start to start with half of it, two.
        # A tenth off 64 h by two is 3.2 h, 192 minutes, and 6.4 h at 50.00 less; a tenth off five days is 240 minutes.
        self.assertEqual(found, {
            "overlap/A/B/50": (960, "0.00"), "relink/A/B": (960, "0.00"), "units/A/R/4": (960, "0.00"), "units/A/R/3": (640, "0.00"),
            "shorten/B/25": (600, "0.00"), "shorten/A/25": (480, "-800.00"), "overlap/A/B/25": (480, "0.00"),
            "shorten/B/10": (240, "0.00"), "shorten/A/10": (192, "-320.00"),
        })  # fmt: skip
        self.assertEqual(list(found)[:3], ["overlap/A/B/50", "relink/A/B", "units/A/R/4"])

    def test_a_scope_tries_only_what_touches_it(self) -> None:
        self.assertEqual({x.code for x in ideas(compute(quay()), ["B"])},
                         {"overlap/A/B/25", "overlap/A/B/50", "relink/A/B", "shorten/B/10", "shorten/B/25"})  # fmt: skip

    def test_nothing_open_nothing_proposed(self) -> None:
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "actual_finish": "2027-01-04T17:00"}
        self.assertEqual(proposals(compute(book([{"code": "A"}], periods=[page("P1", "2027-01-05T17:00", stated)]))), [])

    @settings(max_examples=40)
    @given(st.integers(0, 10**6))
    def test_each_gain_equals_a_fresh_computation(self, seed: int) -> None:
        try:
            r = compute(book_from(random_book(seed, 8)))
        except BookInvalid:
            return
        for idea in ideas(r):
            x = computed(r, idea)
            if x is None:
                continue
            fresh = compute(book_from(parse_json(json.dumps(book_document(with_changes(r.book, x.changes).book), default=float))))
            again = beside(r, fresh, x.code)
            self.assertEqual((x.finish, x.gained, x.over_allocated), (fresh.schedule.finish, again.gained, again.standing.over_allocated))
            was, now = r.totals.eac["bottom_up"], fresh.totals.eac["bottom_up"]
            if was is not None and now is not None:
                self.assertEqual(x.cost, now - was)
