"""Changes of a book by verbs: what each does, what it refuses, and that the result is what anybody would read of it."""

import json
import random
import unittest
from decimal import Decimal as D
from typing import Any

from core.tests.books import FIVE, book, page
from core.tests.random_books import random_book
from dryledger.book.plan import Book
from dryledger.changes.apply import apply, apply_keyed
from dryledger.changes.estimates import ESTIMATED, PROJECT, once_applied
from dryledger.changes.keyed import KeyedBook
from dryledger.compute import compute
from dryledger.errors import ChangeRefused
from dryledger.exchange.book_json import book_from, parse_json, read_book
from dryledger.exchange.quick import quick_lists
from dryledger.exchange.write import book_document

Doc = dict[str, Any]
SIX = {"code": "six", "name": "Six", "week": {d: ["07:00-13:00"] for d in ("mon", "tue", "wed", "thu", "fri", "sat")}, "hours_per_day": 6}


def read_again(b: Book) -> Book:
    """What somebody reads who gets the book as a file."""
    return book_from(parse_json(json.dumps(book_document(b), default=float)))


def some_verbs(rng: random.Random, doc: Doc) -> list[Doc]:
    """A few changes of a random book, some of which can't be done."""
    codes = [a["code"] for a in doc["activities"]]
    a, b = rng.choice(codes), rng.choice(codes)
    r = rng.choice(doc["resources"])["code"]
    options: list[Doc] = [
        {"do": "set", "row": a, "cells": {"duration": rng.choice(["3d", "1.5w", "90min", "0d", None])}},
        {"do": "set", "row": a, "cells": {"calendar": rng.choice(["five", "six", "clock", None])}},
        {"do": "set", "row": a, "cells": {"kind": rng.choice(["task", "milestone"]), "duration": None}},
        {"do": "set", "row": a, "cells": {"driver": rng.choice(["work", "duration", None]), "wbs": rng.choice(["1", "2", None])}},
        {"do": "set", "row": a, "cells": {"constraint": rng.choice([None, {"type": "start_on_or_after", "at": "2027-01-20T08:00"}])}},
        {"do": "set", "row": a, "cells": {"pauses": [{"from": "2027-01-12T00:00", "to": "2027-01-14T00:00"}]}},
        {"do": "add", "row": f"N{rng.randrange(99)}", "cells": {"name": "New", "duration": "2d"}},
        {"do": "delete", "row": a},
        {"do": "link", "from": a, "to": b, "cells": {"lag": rng.choice(["1d", "-4h", "0d"])}},
        {"do": "unlink", "from": a, "to": b},
        {"do": "assign", "activity": a, "resource": r, "cells": {"units": 2, "work": rng.choice(["3d", None])}},
        {"do": "unassign", "activity": a, "resource": r},
        {"do": "cost", "activity": a, "name": "Paint", "cells": {"amount": "120.00", "accrual": "finish"}},
        {"do": "uncost", "activity": a, "name": "Paint"},
        {"do": "resource", "row": r, "cells": {"units": 3, "calendar": rng.choice(["six", None])}},
        {"do": "project", "cells": {"calendar": rng.choice(["six", "five"]), "treatment": "override", "deadline": None}},
    ]
    return rng.sample(options, rng.randint(1, 6))


class Blocks(unittest.TestCase):
    def test_a_block_refers_to_its_own_codes_and_gets_others_where_they_are_taken(self) -> None:
        b = book([{"code": "A100"}, {"code": "A110"}], [{"from": "A100", "to": "A110"}])
        lines = [
            {"cells": {"name": "Dig", "code": "A100", "duration": "2d"}},
            {"cells": {"name": "Pour", "code": "X1", "after": "a100 SS lag 1d; X2"}},
            {"cells": {"name": "Cure", "code": "X2", "after": "A110"}},
        ]
        keyed, dates = KeyedBook.of(b), compute(b).schedule.activities
        after = apply_keyed(keyed, [{"do": "outline", "lines": lines}], dates).after.book
        self.assertEqual([a.code for a in after.activities][:2], ["A100", "A110"])
        new = {a.name: a.code for a in after.activities}
        self.assertEqual((new["Pour"], new["Cure"]), ("X1", "X2"))
        self.assertNotIn(new["Dig"], ("A100", "A110"))
        links = {(k.source, k.target, k.type) for k in after.links}
        self.assertEqual(links, {("A100", "A110", "FS"), (new["Dig"], "X1", "SS"), ("X2", "X1", "FS"), ("A110", "X2", "FS")})
        lines[1]["cells"]["after"] = "NONE"
        with self.assertRaisesRegex(ChangeRefused, "Line 2: There is no activity “NONE”"):
            apply_keyed(keyed, [{"do": "outline", "lines": lines}], dates)


class Whole(unittest.TestCase):
    def test_a_changed_book_reads_as_it_was_made(self) -> None:
        done = refused = 0
        for seed in range(200):
            rng, doc = random.Random(seed), random_book(seed, 6)
            b = book_from(doc)
            before = book_document(b)
            for verb in some_verbs(rng, doc):
                try:
                    changed = apply(b, [verb])
                except ChangeRefused as no:
                    self.assertTrue(no.message.endswith((".", "?")), no.message)
                    refused += 1
                    continue
                self.assertEqual(read_again(changed.book), changed.book, (seed, verb))
                b = changed.book
                compute(b)
                done += 1
            self.assertEqual(book_document(book_from(doc)), before)
        self.assertGreater(done, 300)
        self.assertGreater(refused, 30)

    def test_the_quick_way_reads_the_same(self) -> None:
        for seed in range(150):
            text = json.dumps(random_book(seed)).encode()
            self.assertEqual(Book(**quick_lists(text)), book_from(parse_json(text)), seed)
            self.assertEqual(read_book(text), book_from(parse_json(text)))


class Each(unittest.TestCase):
    def setUp(self) -> None:
        self.book = book(
            [{"code": "A", "duration": "4d"}, {"code": "B", "duration": "2d"}, {"code": "M", "kind": "milestone"}],
            [{"from": "A", "to": "B"}],
            calendars=[FIVE, SIX],
            resources=[{"code": "F", "name": "Fitters"}],
            assignments=[{"activity": "A", "resource": "F", "work": "2d"}],
            periods=[page("P", "2027-01-08T17:00", {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "1d"})],
        )

    def change(self, *verbs: Doc) -> Book:
        return apply(self.book, list(verbs)).book

    def refused(self, *verbs: Doc) -> ChangeRefused:
        with self.assertRaises(ChangeRefused) as no:
            self.change(*verbs)
        return no.exception

    def test_days_are_counted_on_the_calendar_that_a_row_is_put_on(self) -> None:
        b = self.change({"do": "set", "row": "A", "cells": {"calendar": "six"}})
        self.assertEqual((b.activities[0].duration, b.assignments[0].work), (4 * 360, 2 * 360))
        self.assertEqual(b.periods[0].statements[0].remaining, 360)
        b = self.change({"do": "project", "cells": {"calendar": "six"}})
        self.assertEqual([a.duration for a in b.activities], [4 * 360, 2 * 360, 0])

    def test_an_absent_duration_follows_the_kind(self) -> None:
        b = self.change({"do": "set", "row": "B", "cells": {"duration": None, "kind": "milestone"}})
        self.assertEqual(b.activities[1].duration, 0)

    def test_what_a_delete_takes_along_and_what_refuses_it(self) -> None:
        b = self.change({"do": "delete", "row": "B"})
        self.assertEqual((len(b.activities), b.links), (2, ()))
        self.assertIn("posted on page P", self.refused({"do": "delete", "row": "A"}).message)

    def test_a_row_that_a_verb_makes_is_named_by_later_ones_whatever_they_do(self) -> None:
        b = book([{"code": "A"}], wbs=[{"code": "1", "name": "Hull"}])
        before = book_document(b)
        new = {"do": "add", "list": "activities", "as": "n", "cells": {"name": "New"}}
        own = {"do": "add", "row": "Z9", "as": "n", "cells": {"name": "New"}}
        element = {"do": "add", "list": "wbs", "as": "e", "cells": {"name": "Deck"}}
        for made in (new, own):
            for gone in ({"do": "remove", "rows": ["n"]}, {"do": "delete", "row": "n"}):
                self.assertEqual(book_document(apply(b, [made, gone]).book), before)
        self.assertEqual(book_document(apply(b, [own, {"do": "delete", "row": "Z9"}]).book), before)
        self.assertEqual(book_document(apply(b, [element, {"do": "remove", "rows": ["e"]}]).book), before)
        done = apply(
            b, [element, {"do": "set", "row": "e", "cells": {"name": "Deck house"}}, own, {"do": "set", "row": "n", "cells": {"wbs": "e"}}]
        )
        deck = done.book.wbs[-1]
        self.assertEqual((deck.name, done.book.activity_by_code["Z9"].wbs), ("Deck house", deck.code))
        inside = apply(b, [element, own | {"cells": {"name": "New", "wbs": "e"}}, {"do": "place", "rows": ["A"], "after": "n"}]).book
        self.assertEqual([(a.code, a.wbs) for a in inside.activities], [("Z9", deck.code), ("A", deck.code)])
        everything = [element, own | {"cells": {"name": "New", "wbs": "e"}}, {"do": "remove", "rows": ["e"]}]
        self.assertEqual(book_document(apply(b, everything).book), before)

    def test_a_loop_a_wrong_cell_and_a_wrong_verb(self) -> None:
        self.assertIn("loop: A", self.refused({"do": "link", "from": "B", "to": "A"}).message)
        no = self.refused({"do": "set", "row": "B", "cells": {"name": "ok"}}, {"do": "set", "row": "A", "cells": {"duration": "soon"}})
        self.assertEqual((no.row, no.field), ("verbs[1]", "duration"))
        self.assertEqual(self.refused({"do": "fly"}).code, "bad-request")
        self.assertEqual(self.refused({"do": "set", "row": "A"}).code, "bad-request")
        self.assertEqual(self.refused({"do": "set", "row": "Z", "cells": {}}).code, "not-found")
        self.assertEqual(self.refused({"do": "set", "row": "A", "cells": {"code": "X"}}).field, "code")
        self.assertEqual(self.refused({"do": "set", "row": "A", "cells": {"duration": "1d"}, "was": {"duration": "9d"}}).code, "moved-on")
        self.assertEqual(
            self.change({"do": "set", "row": "A", "cells": {"duration": "1d"}, "was": {"duration": "32h"}}).activities[0].duration, 480
        )

    def test_a_plan_is_not_changed_against_what_its_pages_say(self) -> None:
        self.book = book(
            [
                {"code": "M", "kind": "milestone"},
                {"code": "W", "value_method": {"type": "milestones", "weights": [{"name": "cut", "weight": 1, "at": 1}]}},
            ],
            periods=[
                page(
                    "P",
                    "2027-01-08T17:00",
                    {"activity": "M", "actual_finish": "2027-01-06T17:00"},
                    {"activity": "W", "actual_start": "2027-01-04T08:00", "milestones_reached": ["cut"]},
                )
            ],
        )
        self.assertIn(
            "Page P stands in the way", self.refused({"do": "set", "row": "M", "cells": {"kind": "task", "duration": "2d"}}).message
        )
        self.assertIn("“cut”", self.refused({"do": "set", "row": "W", "cells": {"value_method": {"type": "percent"}}}).message)

    def test_a_new_code_is_followed_everywhere(self) -> None:
        base = {"code": "A", "name": "A", "start": "2027-01-04T08:00", "finish": "2027-01-08T17:00", "wbs": "1"}
        b = book(
            [{"code": "A", "wbs": "1"}, {"code": "B", "value_method": {"type": "apportioned", "base": "A"}}],
            [{"from": "A", "to": "B"}],
            wbs=[{"code": "1", "name": "One"}],
            resources=[{"code": "F", "name": "Fitters"}],
            assignments=[{"activity": "A", "resource": "F"}],
            costs=[{"activity": "A", "name": "Paint", "amount": "5.00"}],
            baselines=[{"code": "B0", "name": "B0", "taken": "2027-01-01T08:00", "calendar": "five", "calendars": [FIVE],
                        "activities": [base | {"assignments": [{"resource": "F", "work": "2d", "cost": "9.00"}]}]}],
            estimates=[
                {"code": "E1", "name": "E", "total": "7.00", "top": "1", "shares": [{"kind": "activity", "code": "A", "amount": "7.00"}]}
            ],
            periods=[
                page("P", "2027-01-08T17:00", {"activity": "A", "percent": 0}, hours=[{"activity": "A", "resource": "F", "worked": "1h"}])
            ],
        )  # fmt: skip
        keyed = KeyedBook.of(b)
        verbs = [
            {"do": "set", "row": "a0", "cells": {"code": "NEW"}},
            {"do": "set", "row": "r0", "cells": {"code": "CREW"}},
            {"do": "set", "row": "w0", "cells": {"code": "7"}},
            {"do": "apply", "estimate": "e0"},
        ]
        changed = apply_keyed(keyed, verbs, {}).book
        text = json.dumps(book_document(changed), default=str)
        for old in ('"A"', '"F"', '"1"'):
            self.assertNotIn(f": {old}", text.replace('"name": "A"', ""), old)
        self.assertEqual((changed.assignments[0].work, changed.activities[0].duration), (int(D(7)), 480))
        self.assertEqual(read_again(changed), changed)


class Estimates(unittest.TestCase):
    def estimated(self, measure: str, *shares: tuple[str, str, str]) -> Book:
        """Two activities below an element and one beside it; A has a crew of 50 an hour, paint, and an older estimate of 300."""
        return book(
            [{"code": "A", "wbs": "1.1", "duration": "5d"}, {"code": "B", "wbs": "1", "duration": "2d"}, {"code": "C", "duration": "1d"}],
            wbs=[{"code": "1", "name": "One"}, {"code": "1.1", "name": "Within", "parent": "1"}],
            resources=[{"code": "F", "name": "Fitters", "rates": [{"from": "2026-01-01", "amount": "50.00", "per": "hour"}]}],
            assignments=[{"activity": "A", "resource": "F"}],
            costs=[{"activity": "A", "name": "Paint", "amount": "5.00"}, {"activity": "A", "name": ESTIMATED, "amount": "300.00"}],
            estimates=[{"code": "E1", "name": "E", "measure": measure, "total": "0", "shares": [
                {"kind": kind, "code": code, "amount": amount} for kind, code, amount in shares]}],
        )  # fmt: skip

    def seen(self, b: Book, measure: str) -> dict[tuple[str, str], tuple[D, D]]:
        return once_applied(b, compute(b).schedule, measure, {(s.kind, s.code): s.amount for s in b.estimates[0].shares})

    def test_money_takes_the_place_of_the_older_estimate_alone(self) -> None:
        # A: 40 h at 50 + 5 + 300 = 2305; the new share of 1000 takes the place of the 300. B gets 70.
        b = self.estimated("money", ("activity", "A", "1000.00"), ("activity", "B", "70.00"), ("wbs", "1", "1070.00"))
        found = self.seen(b, "money")
        a = (D("2305.00"), D("3005.00"))
        self.assertEqual((found["activity", "A"], found["activity", "B"], found["activity", "C"]), (a, (0, D("70.00")), (0, 0)))
        self.assertEqual(
            (found["wbs", "1.1"], found["wbs", "1"], found[PROJECT]), (a, (D("2305.00"), D("3075.00")), (D("2305.00"), D("3075.00")))
        )

    def test_hours_take_the_place_of_all_work(self) -> None:
        # A has 40 h and gets 10 h: 30 h less. B has nobody: nothing now, 8 h of the estimate.
        b = self.estimated("hours", ("activity", "A", "600"), ("activity", "B", "480"))
        found = self.seen(b, "hours")
        self.assertEqual((found["activity", "A"], found["activity", "B"]), ((2400, 600), (0, 480)))
        self.assertEqual((found["wbs", "1"], found[PROJECT]), ((2400, 1080), (2400, 1080)))

    def test_what_was_seen_is_what_applying_makes(self) -> None:
        for measure, shares in (
            ("money", [("activity", "A", "1000.00"), ("activity", "B", "70.00")]),
            ("hours", [("activity", "A", "600")]),
        ):
            b = self.estimated(measure, *shares)
            wanted = {place: after for place, (_, after) in self.seen(b, measure).items()}
            done = apply_keyed(KeyedBook.of(b), [{"do": "apply", "estimate": "e0"}], {}).book
            self.assertEqual({place: now for place, (now, _) in self.seen(done, measure).items()}, wanted, measure)
