"""Earned value, worked by hand, and its sums."""

import unittest
from decimal import Decimal as D

from hypothesis import given, settings
from hypothesis import strategies as st

from core.tests.books import baseline, book, doc, line, page
from dryledger.baseline.snapshot import snapshot
from dryledger.budget.money import share_out
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results, compute
from dryledger.exchange.book_json import book_from
from dryledger.figures import figures_of
from dryledger.results import results_document
from dryledger.working.working import working

A = {"code": "A", "duration": "10d", "wbs": "1"}
BASE_A = {
    "code": "A",
    "wbs": "1",
    "start": "2027-01-04T08:00",
    "finish": "2027-01-15T17:00",
    "duration": "10d",
    "cost_lines": [line("1000.00")],
}
RATE = {"code": "F", "name": "Fitter", "rates": [{"from": "2027-01-01", "amount": "50.00", "per": "hour", "overtime": "75.00"}]}
STATUS = "2027-01-08T17:00"


def half(percent: float = 40, method: dict[str, object] | None = None, **more: object) -> Results:
    """Ten days of work worth 1000, measured after five."""
    stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": percent, "remaining": "6d"}
    act = A | ({"value_method": method} if method else {})
    base = BASE_A | ({"value_method": method} if method else {})
    hours = [{"activity": "A", "resource": "F", "worked": "10h", "overtime": "2h", "to_go": "8h"}]
    return compute(
        book(
            [act],
            wbs=[{"code": "1", "name": "All"}],
            resources=[RATE],
            assignments=[{"activity": "A", "resource": "F"}],
            baselines=[baseline(base)],
            project={"measured_against": "B0"},
            periods=[page("P1", STATUS, stated, hours=hours, **more)],
        )
    )


class ByHand(unittest.TestCase):
    def test_the_measures_of_one_activity(self) -> None:
        m = half().project
        self.assertEqual((m.bac, m.pv, m.ev, m.ac), (D("1000.00"), D("500.00"), D("400.00"), D("650.00")))
        self.assertEqual((m.sv, m.cv), (D("-100.00"), D("-250.00")))
        self.assertEqual((m.spi, m.cpi), (0.8, 0.615385))
        self.assertEqual((m.sv_percent, m.cv_percent), (-20.0, -62.5))
        # bottom up: 650 + 8 h × 50; cpi: 650 + 600 ÷ (400 ÷ 650); budget: 650 + 600; both: 650 + 600 ÷ (0.615… × 0.8)
        self.assertEqual(
            {k: str(v) for k, v in m.eac.items()},
            {"bottom_up": "1050.00", "cpi": "1625.00", "budget": "1250.00", "cpi_spi": "1868.75", "recent": "1625.00"},
        )
        self.assertEqual((m.etc, m.vac), (D("400.00"), D("-50.00")))
        self.assertEqual((m.tcpi_bac, m.tcpi_eac), (1.714286, 1.5))

    def test_earned_schedule(self) -> None:
        m = half().project
        self.assertEqual((m.earned_schedule, m.actual_time, m.sv_t, m.spi_t), (4.0, 5.0, -1.0, 0.8))
        # 10 days ÷ 0.8 = the 13th working day
        self.assertEqual(m.forecast_finish_t, "2027-01-20")

    def test_value_methods(self) -> None:
        for method, ev, pv in (
            ({"type": "zero_hundred"}, "0.00", "0.00"),
            ({"type": "fifty_fifty"}, "500.00", "500.00"),
            ({"type": "start_share", "share": 0.3}, "300.00", "300.00"),
            ({"type": "level_of_effort"}, "500.00", "500.00"),
            ({"type": "duration"}, "454.55", "500.00"),
            ({"type": "hours"}, "600.00", "500.00"),
        ):
            m = half(method=method).project
            self.assertEqual((str(m.ev), str(m.pv)), (ev, pv), method)

    def test_an_invoice_reverses_its_accrual(self) -> None:
        accrual = {"activity": "A", "date": "2027-01-06", "amount": "300.00", "source": "accrual", "ref": "R1"}
        invoice = {"activity": "A", "date": "2027-01-08", "amount": "310.00", "source": "invoice", "ref": "R1"}
        self.assertEqual(half(costs=[accrual]).project.ac_by_source, {"accrual": D("300.00"), "hours": D("650.00")})
        both = half(costs=[accrual, invoice]).project
        self.assertEqual((both.ac, both.ac_by_source.get("accrual", D(0))), (D("960.00"), D(0)))

    def test_no_divisor_gives_null_and_its_reason(self) -> None:
        m = compute(book([A], wbs=[{"code": "1", "name": "All"}], periods=[page("P1", STATUS)])).project
        self.assertIsNone(m.spi)
        self.assertEqual(m.reasons["spi"], "nothing planned by this date")
        self.assertEqual(m.reasons["cpi"], "no actual cost by this date")
        self.assertEqual(compute(book([A], wbs=[{"code": "1", "name": "All"}])).project.reasons["spi"], "no status date")

    def test_the_weekly_curve(self) -> None:
        points = [(to_text(p.end)[:10], p.pv, p.ev, p.ac, p.forecast) for p in half().points]
        self.assertEqual(points[0], ("2027-01-11", D("500.00"), D("400.00"), D("650.00"), D("650.00")))
        self.assertEqual(points[1][:4], ("2027-01-18", D("1000.00"), None, None))
        self.assertEqual(points[-1][4], D("1050.00"))

    def test_rates_by_day_month_unit_and_use(self) -> None:
        rates = [
            {"from": "2027-01-01", "amount": a, "per": p}
            for a, p in (("100.00", "day"), ("2100.00", "month"), ("7.00", "unit"), ("30.00", "use"))
        ]
        b = book(
            [A],
            wbs=[{"code": "1", "name": "All"}],
            resources=[{"code": "F", "name": "F", "rates": rates}],
            assignments=[{"activity": "A", "resource": "F", "quantity": 3}],
        )
        # 10 days × 100 + 2100 × 10 of January's 21 working days + 3 × 7 + 30
        self.assertEqual(snapshot(b, compute(b).schedule, "B", "B", 0, "", "").activities[0].budget, D("2051.00"))

    def test_every_measure_shows_its_working(self) -> None:
        r = half()
        for kind, code in (("project", "X"), ("wbs", "1"), ("activity", "A")):
            for f in figures_of(kind):
                w = working(r, f.key, kind, code)
                self.assertTrue(w.formula and w.title and (w.result is not None or w.reason), f.key)
        share = working(r, "ev", "activity", "A").operands[1]
        self.assertEqual((share.label, share.value, share.kind), ("done, per cent", D("40.00"), "percent"))
        self.assertEqual(sum(row.value for row in working(r, "ev").rows if isinstance(row.value, D)), r.project.ev)

    def test_dates_floats_and_differences_show_theirs(self) -> None:
        r = half()
        self.assertEqual([o.value for o in working(r, "remaining", "activity", "A").operands], [4800, 2400, 2880])
        self.assertEqual(working(r, "remaining", "activity", "A").formula, "as stated")
        late = working(r, "finish_difference", "activity", "A")
        self.assertEqual((late.result, [o.value for o in late.operands]), (480, ["2027-01-18T17:00", "2027-01-15T17:00"]))
        self.assertEqual(working(r, "start", "activity", "A").rows[0].note, "status date")
        with self.assertRaises(KeyError):
            working(r, "start", "activity", "Z")


class Sums(unittest.TestCase):
    @settings(max_examples=60)
    @given(st.lists(st.tuples(st.integers(1, 40), st.integers(0, 100), st.decimals(0, 9999, places=2)), min_size=1, max_size=6))
    def test_totals_equal_sums_and_pv_ends_at_bac(self, rows: list[tuple[int, int, D]]) -> None:
        acts = [{"code": f"A{i}", "duration": f"{d}h", "wbs": "1"} for i, (d, _, _) in enumerate(rows)]
        costs = [{"activity": f"A{i}", "name": "c", "kind": "fixed", "amount": f"{c}"} for i, (_, _, c) in enumerate(rows)]
        d = doc(
            acts,
            wbs=[{"code": "1", "name": "All"}],
            costs=costs,
            resources=[RATE],
            assignments=[{"activity": a["code"], "resource": "F"} for a in acts],
        )
        from dataclasses import replace

        first = book_from(d)
        base = snapshot(first, compute(first).schedule, "B0", "B0", 0, "", "")
        stated = [{"activity": f"A{i}", "actual_start": "2027-01-04T08:00", "percent": p} for i, (_, p, _) in enumerate(rows)]
        measured = book_from(d | {"periods": [page("P1", "2027-01-05T12:00", *stated)]})
        r = compute(replace(measured, baselines=(base,), project=replace(measured.project, measured_against="B0")))
        self.assertEqual(r.project.bac, sum((b.budget for b in base.activities), D(0)))
        self.assertEqual(r.points[-1].pv, r.project.bac)
        for name in ("pv", "ev", "ac", "bac"):
            total, parts = getattr(r.project, name), sum(getattr(m, name) for m in r.activities.values())
            self.assertLessEqual(abs(total - parts), D("0.01") * len(rows), name)
            self.assertEqual(total, getattr(r.wbs["1"], name))
        self.assertEqual(r.points[-1].forecast, r.project.eac["bottom_up"])
        results_document(r)

    @given(st.decimals(0, 99999, places=2), st.lists(st.decimals(0, 100, places=3), min_size=1, max_size=9))
    def test_shares_add_up_exactly(self, total: D, weights: list[D]) -> None:
        self.assertEqual(sum(share_out(total, weights, D("0.01"))), total)
