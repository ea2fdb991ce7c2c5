"""The calculation contract sentence by sentence: small cases worked by hand, most of them a line each."""

import unittest
from decimal import Decimal as D
from typing import Any

from core.tests.books import FIVE, baseline, book, line, page
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results, compute

Doc = dict[str, Any]
DAY = 480
CLOCK = {"code": "clock", "name": "Clock", "week": {key: ["00:00-24:00"] for key in ("mon", "tue", "wed", "thu", "fri", "sat", "sun")}}
NIGHT = {"code": "night", "name": "Night", "week": {d: ["00:00-06:00", "22:00-24:00"] for d in ("mon", "tue", "wed", "thu", "fri")}}
WORKING_SATURDAY = FIVE | {"exceptions": [{"from": "2027-01-09", "to": "2027-01-09", "shifts": ["08:00-12:00"]}]}
HOLIDAY = FIVE | {"exceptions": [{"from": "2027-01-05", "to": "2027-01-06", "shifts": []}]}


def seen(r: Results, code: str, *names: str) -> list[str | int | None]:
    """Some figures of a row, instants as month, day and time."""
    row = r.schedule.activities[code]
    values = [getattr(row, n) for n in names]
    return [
        to_text(v)[5:] if n.endswith(("start", "finish", "resume")) and v is not None else v for n, v in zip(names, values, strict=True)
    ]


class Time(unittest.TestCase):
    def ends(self, calendar: Doc, duration: str, **more: Any) -> str:
        a = {"code": "A", "calendar": calendar["code"], "duration": duration} | more
        calendars = [calendar] if calendar["code"] == "five" else [FIVE, calendar]
        return to_text(compute(book([a], calendars=calendars)).schedule.activities["A"].finish)[5:]

    def test_calendars(self) -> None:
        self.assertEqual(self.ends(FIVE, "6d"), "01-11T17:00")
        self.assertEqual(self.ends(WORKING_SATURDAY, "5.5d"), "01-09T12:00")
        self.assertEqual(self.ends(HOLIDAY, "2d"), "01-07T17:00")
        self.assertEqual(self.ends(CLOCK, "20h"), "01-05T04:00")
        # Nights from ten to six, written as two shifts: Monday from ten is two hours, Tuesday's eight follow.
        self.assertEqual(self.ends(NIGHT, "3h"), "01-05T01:00")
        self.assertEqual(self.ends(NIGHT, "9h"), "01-05T23:00")

    def test_units_of_duration(self) -> None:
        for text, days in (
            ("1w", "01-08T17:00"),
            ("90min", "01-04T09:30"),
            ("2.5d", "01-06T12:00"),
            ("12h", "01-05T12:00"),
            ("1mo", "01-29T17:00"),
        ):
            self.assertEqual(self.ends(FIVE, text), days, text)

    def test_a_pause_is_taken_out_of_one_activity(self) -> None:
        self.assertEqual(self.ends(FIVE, "2d", pauses=[{"from": "2027-01-04T12:00", "to": "2027-01-06T12:00"}]), "01-07T17:00")

    def test_a_milestone_with_a_link_in_is_on_the_close_before(self) -> None:
        m = {"code": "M", "kind": "milestone"}
        r = compute(book([{"code": "A", "duration": "5d"}, m], [{"from": "A", "to": "M"}]))
        self.assertEqual(seen(r, "M", "start", "finish"), ["01-08T17:00"] * 2)
        self.assertEqual(seen(compute(book([m], project={"start": "2027-01-08T17:00"})), "M", "start"), ["01-11T08:00"])
        held = m | {"constraint": {"type": "finish_on_or_after", "at": "2027-01-09T12:00"}}
        self.assertEqual(seen(compute(book([held])), "M", "finish"), ["01-09T12:00"])


class Constraints(unittest.TestCase):
    def under(self, kind: str, at: str) -> list[str | int | None]:
        """A of two days, then B of one; A is held."""
        a = {"code": "A", "duration": "2d", "constraint": {"type": kind, "at": f"2027-01-{at}"}}
        r = compute(book([a, {"code": "B"}, {"code": "C", "duration": "8d"}], [{"from": "A", "to": "B"}]))
        return seen(r, "A", "start", "late_finish", "total_float", "driven_by")

    def test_each_kind(self) -> None:
        self.assertEqual(self.under("start_on_or_after", "06T08:00"), ["01-06T08:00", "01-12T17:00", 3 * DAY, ["constraint"]])
        self.assertEqual(self.under("finish_on_or_after", "06T17:00"), ["01-05T08:00", "01-12T17:00", 4 * DAY, ["constraint"]])
        self.assertEqual(self.under("start_on_or_before", "05T08:00"), ["01-04T08:00", "01-06T17:00", DAY, ["start"]])
        self.assertEqual(self.under("finish_on_or_before", "06T17:00"), ["01-04T08:00", "01-06T17:00", DAY, ["start"]])
        self.assertEqual(self.under("must_start_on", "06T08:00"), ["01-06T08:00", "01-07T17:00", 0, ["constraint"]])
        self.assertEqual(self.under("must_finish_on", "07T17:00"), ["01-06T08:00", "01-07T17:00", 0, ["constraint"]])

    def test_logic_wins_over_a_date_it_cannot_meet(self) -> None:
        b = {"code": "B", "constraint": {"type": "must_start_on", "at": "2027-01-05T08:00"}}
        r = compute(book([{"code": "A", "duration": "3d"}, b], [{"from": "A", "to": "B"}]))
        self.assertEqual(seen(r, "B", "start", "total_float"), ["01-07T08:00", -2 * DAY])

    def test_a_start_that_has_happened_is_no_longer_held(self) -> None:
        a = {"code": "A", "duration": "4d", "constraint": {"type": "must_start_on", "at": "2027-01-06T08:00"}}
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "remaining": "2d"}
        r = compute(book([a], periods=[page("P", "2027-01-05T17:00", stated)]))
        self.assertEqual(seen(r, "A", "resume", "finish", "total_float", "driven_by"), ["01-06T08:00", "01-07T17:00", 0, ["status"]])

    def test_an_imposed_finish_limits_all(self) -> None:
        r = compute(book([{"code": "A", "duration": "3d"}], project={"imposed_finish": "2027-01-05T17:00"}))
        self.assertEqual(seen(r, "A", "total_float", "free_float", "critical"), [-DAY, -DAY, True])


class Links(unittest.TestCase):
    def after(self, lag: str, kind: str = "FS", basis: str = "working") -> str:
        link = {"from": "A", "to": "B", "type": kind, "lag": lag, "lag_basis": basis}
        r = compute(book([{"code": "A", "duration": "5d"}, {"code": "B", "duration": "2d"}], [link]))
        return to_text(r.schedule.activities["B"].start)[5:]

    def test_lags_and_leads(self) -> None:
        self.assertEqual(self.after("2d"), "01-13T08:00")
        self.assertEqual(self.after("-2d"), "01-07T08:00")
        self.assertEqual(self.after("12h", basis="elapsed"), "01-11T08:00")
        self.assertEqual(self.after("66h", basis="elapsed"), "01-11T11:00")
        self.assertEqual(self.after("2d", "SS"), "01-06T08:00")
        self.assertEqual(self.after("1d", "FF"), "01-08T08:00")
        self.assertEqual(self.after("4d", "SF"), "01-06T08:00")

    def test_ties_give_all_drivers(self) -> None:
        r = compute(book([{"code": c} for c in "ABC"], [{"from": "A", "to": "C"}, {"from": "B", "to": "C"}]))
        self.assertEqual(seen(r, "C", "driven_by"), [["link:A", "link:B"]])

    def test_free_float_is_the_room_before_the_next(self) -> None:
        acts = [{"code": "A", "duration": "1d"}, {"code": "B", "duration": "3d"}, {"code": "C"}, {"code": "D", "duration": "6d"}]
        r = compute(book(acts, [{"from": "A", "to": "C"}, {"from": "B", "to": "C"}]))
        self.assertEqual([seen(r, c, "free_float", "total_float") for c in "AB"], [[2 * DAY, 4 * DAY], [0, 2 * DAY]])


class Progress(unittest.TestCase):
    def stated(self, *, status: str = "2027-01-08T17:00", act: Doc | None = None, **statement: Any) -> Results:
        a = {"code": "A", "duration": "10d"} | (act or {})
        return compute(book([a], periods=[page("P", status, {"activity": "A"} | statement)]))

    def test_remaining_where_the_statement_is_silent(self) -> None:
        for statement, days, source in (
            ({"remaining": "3d", "percent": 10}, 3, "stated"),
            ({"percent": 30}, 7, "percent"),
            ({}, 5, "elapsed"),
        ):
            p = self.stated(actual_start="2027-01-04T08:00", **statement).progress["A"]
            self.assertEqual((p.remaining, p.remaining_from), (days * DAY, source))

    def test_percent_where_the_statement_is_silent(self) -> None:
        p = self.stated(actual_start="2027-01-04T08:00", remaining="15d").progress["A"]
        self.assertEqual((p.percent, p.percent_from), (D("0.25"), "elapsed"))
        self.assertEqual(self.stated(percent=40, remaining="1d").progress["A"].state, "not_started")

    def test_hours_to_go_drive_the_duration_of_work(self) -> None:
        crew = {"code": "F", "name": "Fitters"}
        a = {"code": "A", "driver": "work"}
        on = [{"activity": "A", "resource": "F", "units": 2, "work": "80h"}]
        b = book([a], resources=[crew], assignments=on, periods=[
            page("P", "2027-01-05T17:00", {"activity": "A", "actual_start": "2027-01-04T08:00"},
                 hours=[{"activity": "A", "resource": "F", "worked": "30h", "to_go": "60h"}]),
        ])  # fmt: skip
        p = compute(b).progress["A"]
        self.assertEqual((p.planned, p.remaining, p.remaining_from), (40 * 60, 30 * 60, "hours"))

    def test_carried_forward(self) -> None:
        r = self.stated(carry_to="2027-01-13T08:00")
        self.assertEqual(seen(r, "A", "start", "driven_by"), ["01-13T08:00", ["carry"]])
        r = self.stated(actual_start="2027-01-04T08:00", remaining="2d", carry_to="2027-01-13T08:00")
        self.assertEqual(seen(r, "A", "start", "resume", "finish"), ["01-04T08:00", "01-13T08:00", "01-14T17:00"])

    def test_nothing_remaining_ends_on_the_status_date(self) -> None:
        r = self.stated(actual_start="2027-01-04T08:00", remaining="0d")
        self.assertEqual(seen(r, "A", "state", "finish", "driven_by"), ["in_progress", "01-08T17:00", ["status"]])

    def test_a_milestone_reached_needs_one_date(self) -> None:
        r = self.stated(act={"kind": "milestone", "duration": "0d"}, actual_finish="2027-01-06T12:00")
        self.assertEqual(seen(r, "A", "state", "start", "finish"), ["complete", "01-06T12:00", "01-06T12:00"])

    def test_a_pinned_activity_once_started_is_like_any_other(self) -> None:
        pinned = {"mode": "fixed", "start": "2027-01-20T08:00", "finish": "2027-01-22T17:00"}
        self.assertEqual(seen(self.stated(act=pinned), "A", "start", "remaining"), ["01-20T08:00", 3 * DAY])
        r = self.stated(act=pinned, actual_start="2027-01-07T08:00", remaining="1d")
        self.assertEqual(seen(r, "A", "resume", "finish"), ["01-11T08:00", "01-11T17:00"])


class Value(unittest.TestCase):
    def earned(self, method: Doc, half_way: str = "2027-01-06T12:00", **statement: Any) -> tuple[D, D]:
        """PV and EV of 1000 over Monday to Friday, at Wednesday noon."""
        a = {"code": "A", "duration": "5d", "value_method": method}
        base = {
            "code": "A",
            "start": "2027-01-04T08:00",
            "finish": "2027-01-08T17:00",
            "value_method": method,
            "cost_lines": [line("1000.00")],
        }
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00"} | statement
        r = compute(book([a], baselines=[baseline(base)], project={"measured_against": "B0"}, periods=[page("P", half_way, stated)]))
        return r.project.pv, r.project.ev

    def test_each_method(self) -> None:
        steps = [{"name": "cut", "weight": 1, "at": 0.2}, {"name": "fit", "weight": 3, "at": 0.8}]
        for method, statement, pv, ev in (
            ({"type": "percent"}, {"percent": 40}, 500, 400),
            ({"type": "zero_hundred"}, {"percent": 99}, 0, 0),
            ({"type": "fifty_fifty"}, {"percent": 1}, 500, 500),
            ({"type": "start_share", "share": 0.2}, {}, 200, 200),
            ({"type": "milestones", "weights": steps}, {"milestones_reached": ["fit"]}, 250, 750),
            ({"type": "units", "planned": 40}, {"units_done": 10}, 500, 250),
            ({"type": "units", "planned": 40}, {"units_done": 99}, 500, 1000),
            ({"type": "duration"}, {"remaining": "7.5d"}, 500, 250),
            ({"type": "level_of_effort"}, {}, 500, 500),
        ):
            self.assertEqual(self.earned(method, **statement), (D(pv), D(ev)), method)
            done = {"actual_finish": "2027-01-06T12:00"}
            whole = 500 if method["type"] == "level_of_effort" else 1000
            self.assertEqual(self.earned(method, **statement | done)[1], D(whole), method)

    def test_profiles_and_accruals(self) -> None:
        # At 40 % of the working time: front 1 − 0.6², back 0.4², bell 3·0.16 − 2·0.064.
        for shape, pv in (
            ({"profile": "uniform"}, 400), ({"profile": "front"}, 640), ({"profile": "back"}, 160), ({"profile": "bell"}, 352),
            ({"accrual": "start"}, 1000), ({"accrual": "finish"}, 0),
        ):  # fmt: skip
            base = {"code": "A", "start": "2027-01-04T08:00", "finish": "2027-01-08T17:00", "cost_lines": [line("1000.00", **shape)]}
            b = book(
                [{"code": "A"}], baselines=[baseline(base)], project={"measured_against": "B0"}, periods=[page("P", "2027-01-05T17:00")]
            )
            self.assertEqual(compute(b).project.pv, D(pv), shape)

    def test_an_invoice_takes_the_place_of_its_accrual(self) -> None:
        costs = [
            {"activity": "A", "date": "2027-01-05", "amount": "100.00", "source": "accrual", "ref": "R"},
            {"activity": "A", "date": "2027-01-07", "amount": "120.00", "source": "invoice", "ref": "R"},
            {"activity": "A", "date": "2027-01-05", "amount": "7.00", "source": "accrual"},
        ]
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00"}
        b = book([{"code": "A", "duration": "5d"}], periods=[page("P", "2027-01-08T17:00", stated, costs=costs)])
        r = compute(b, bucket="day")
        self.assertEqual([str(p.ac) for p in r.points[:5]], ["0.00", "107.00", "107.00", "127.00", "127.00"])
        self.assertEqual({k: str(v) for k, v in r.project.ac_by_source.items()}, {"accrual": "7.00", "invoice": "120.00"})

    def test_the_earned_schedule(self) -> None:
        base = {"code": "A", "start": "2027-01-04T08:00", "finish": "2027-01-15T17:00", "cost_lines": [line("1000.00")]}
        stated = {"activity": "A", "actual_start": "2027-01-04T08:00", "percent": 25}
        b = book([{"code": "A", "duration": "10d"}], baselines=[baseline(base)], project={"measured_against": "B0"},
                 periods=[page("P", "2027-01-08T12:00", stated)])  # fmt: skip
        m = compute(b).project
        # 250 was planned half through day 3; Friday noon is day 4 and a half. Ten days ÷ (2.5 ÷ 4.5) is the 18th.
        self.assertEqual((m.earned_schedule, m.actual_time, m.sv_t, m.spi_t), (2.5, 4.5, -2.0, 0.555556))
        self.assertEqual(m.forecast_finish_t, "2027-01-27")

    def test_out_of_budget_enters_nothing(self) -> None:
        cost = {"activity": "A", "name": "Margin", "amount": "500.00", "in_budget": False}
        r = compute(book([{"code": "A"}], costs=[cost], periods=[page("P", "2027-01-08T17:00")]))
        self.assertEqual((r.project.bac, r.project.eac["bottom_up"]), (D("0.00"), D("0.00")))

    def test_work_only_in_the_baseline_keeps_its_budget_and_earns_nothing(self) -> None:
        base = {"code": "GONE", "start": "2027-01-04T08:00", "finish": "2027-01-05T17:00", "cost_lines": [line("300.00")]}
        b = book([{"code": "A"}], baselines=[baseline(base)], project={"measured_against": "B0"}, periods=[page("P", "2027-01-08T17:00")])
        r = compute(b)
        self.assertEqual((r.project.bac, r.project.pv, r.project.ev), (D("300.00"), D("300.00"), D("0.00")))
        changes = {code: d.change for (kind, code), d in r.differences.items() if kind == "activity"}
        self.assertEqual(changes, {"A": "added", "GONE": "removed"})
