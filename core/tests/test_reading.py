"""Reading curves: every forecast and what each bucket adds, against hand-worked points and random books."""

import threading
import unittest
from decimal import Decimal as D

from core.tests.random_books import random_book
from dryledger.book.formulas import values_of
from dryledger.book.registers import FieldDefinition
from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from dryledger.figures import CATALOGUE, GROUPS
from dryledger.value.curve import Point
from dryledger.value.reading import added, forecasts

UNIT = D("0.01")


class ByHand(unittest.TestCase):
    POINTS = (
        Point(10, D(100), D(60), D(80), None),
        Point(20, D(200), D(90), D(120), D(120)),
        Point(30, D(300), None, None, D(170)),
        Point(40, D(300), None, None, D(220)),
    )

    def test_each_bucket_adds_what_the_one_before_lacked(self) -> None:
        stated = [(x.pv, x.ev, x.ac) for x in added(self.POINTS)]
        self.assertEqual(stated, [(100, 60, 80), (100, 30, 40), (100, None, None), (0, None, None)])

    def test_another_estimate_goes_to_its_own_amount_in_the_same_shares(self) -> None:
        eac = {"bottom_up": D(220), "cpi": D(320), "recent": None}
        found = forecasts(self.POINTS, D(120), eac, UNIT)
        self.assertEqual(found[0], {})
        self.assertEqual([x["cpi"] for x in found[1:]], [120, 220, 320])  # half of what is left by the third point
        self.assertEqual([x["bottom_up"] for x in found[1:]], [120, 170, 220])
        self.assertNotIn("recent", found[3])

    def test_with_nothing_left_bottom_up_the_others_stand_at_the_end(self) -> None:
        points = [Point(10, D(1), D(1), D(50), D(50)), Point(20, D(1), None, None, D(50))]
        found = forecasts(points, D(50), {"bottom_up": D(50), "cpi": D(70)}, UNIT)
        self.assertEqual([x["cpi"] for x in found], [50, 70])


class Random(unittest.TestCase):
    def test_sums_and_ends(self) -> None:
        for seed in range(150):
            r = compute(book_from(random_book(seed)))
            for bucket in ("week", "period"):
                points = r.curve_of(None, bucket)
                if not points or r.status is None:
                    continue
                adds, later = added(points), forecasts(points, r.project.ac, r.project.eac, r.valuation.unit)
                self.assertEqual(sum((x.pv for x in adds), D(0)), points[-1].pv)
                known = [(p, x) for p, x in zip(points, adds, strict=True) if p.ev is not None]
                self.assertEqual(sum((x.ev or D(0) for _, x in known), D(0)), known[-1][0].ev if known else 0)
                for key, total in r.project.eac.items():
                    if total is not None and key != "bottom_up":
                        self.assertEqual(later[-1][key], total, (seed, bucket, key))
                self.assertEqual([x.get("bottom_up") for x in later], [p.forecast for p in points])


class Groups(unittest.TestCase):
    def test_every_figure_is_offered_in_one_group(self) -> None:
        named = [key for keys in GROUPS.values() for key in keys]
        self.assertEqual(len(named), len(set(named)))
        self.assertLessEqual(set(named), {f.key for f in CATALOGUE})
        self.assertEqual({f.group for f in CATALOGUE}, set(GROUPS))
        self.assertTrue(all(f.word and f.formula for f in CATALOGUE))


class Formulas(unittest.TestCase):
    def test_many_threads_read_formulas_at_once(self) -> None:
        """Python 3.11 fails now and then where two threads parse at the same moment."""
        wrong: list[object] = []

        def read(k: int) -> None:
            for i in range(400):
                fields = (FieldDefinition("load", "Load", "formula", formula=f"(days * 2 + {k}) * 1 + {i}"),)
                try:
                    found = values_of(fields, {}, {"days": D(5)})["load"]
                    if found != 10 + k + i:
                        wrong.append(found)
                except BaseException as error:
                    wrong.append(error)

        threads = [threading.Thread(target=read, args=(1000 * k,)) for k in range(8)]
        for t in threads:
            t.start()
        for t in threads:
            t.join()
        self.assertEqual(wrong, [])
