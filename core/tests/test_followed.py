"""A project followed for eight pages: by progress alone, by time sheets alone, and mixed, worked by hand at three of them."""

import unittest
from decimal import Decimal as D
from typing import Any

from core.tests.books import Doc, baseline, book, line, page
from dryledger.compute import Results, compute
from dryledger.posting.hours import hours_rows
from dryledger.value.curve import curve
from dryledger.value.work_by_time import work_by_time
from dryledger.working.working import working

FRIDAYS = ("01-08", "01-15", "01-22", "01-29", "02-05", "02-12", "02-19", "02-26")
LEFT = ("15d", "10d", "8d", "5d")
"""What is left of A at the first four pages; it ends on the fifth, a week late. B is left for 10, 5 and 2 d."""
HOURS = (76, 76, 76, 76, 60)
TO_GO = (244, 168, 140, 100, 0)
BASE = [
    {"code": "A", "start": "2027-01-04T08:00", "finish": "2027-01-29T17:00", "duration": "20d", "cost_lines": [line("24000.00")]},
    {"code": "B", "start": "2027-02-01T08:00", "finish": "2027-02-19T17:00", "duration": "15d", "cost_lines": [line("4800.00")]},
]


def followed(count: int, actuals: str, fitters: str = "", sheets: str = "", invoiced: bool = False) -> Results:
    """Two fitters at 50 for 20 d and glass for 8 000, then an electrician at 40 for 15 d; `sheets` are who has time sheets."""
    pages = []
    for i, day in enumerate(FRIDAYS[:count]):
        given: list[Doc] = [{"activity": "A", "actual_start": "2027-01-04T08:00"} | (
            {"remaining": LEFT[i], "percent": 20 * (i + 1)} if i < 4 else {"actual_finish": "2027-02-05T17:00"})]  # fmt: skip
        if i > 4:
            given.append(
                {"activity": "B", "actual_start": "2027-02-08T08:00", "remaining": ("10d", "5d", "2d")[i - 5], "percent": 30 * (i - 4)}
            )
        hours: list[Doc] = []
        if "F" in sheets and i < 5:
            hours.append({"activity": "A", "resource": "F", "worked": f"{HOURS[i]}h", "to_go": f"{TO_GO[i]}h"})
        if "E" in sheets and i > 4:
            hours.append({"activity": "B", "resource": "E", "worked": "38h", "to_go": ("80h", "48h", "20h")[i - 5]})
        paid = {1: "3000", 4: "5000"}.get(i) if invoiced else None
        costs = [{"activity": "A", "for": "G", "date": f"2027-{day}", "amount": paid, "source": "invoice"}] if paid else []
        pages.append(page(f"P{i + 1}", f"2027-{day}T17:00", *given, hours=hours, costs=costs))

    def crew(code: str, units: int, rate: str, own: str = "") -> Doc:
        rates = [{"from": "2026-01-01", "per": "hour", "amount": rate}]
        return {"code": code, "name": code, "units": units, "rates": rates} | ({"actuals": own} if own else {})

    b = book(
        [{"code": "A", "duration": "20d"}, {"code": "B", "duration": "15d"}],
        [{"from": "A", "to": "B"}],
        project={"actuals": actuals, "measured_against": "B0"},
        resources=[crew("F", 2, "50", fitters), crew("E", 1, "40")],
        assignments=[{"activity": "A", "resource": "F", "units": 2}, {"activity": "B", "resource": "E"}],
        costs=[{"code": "G", "activity": "A", "name": "Glass", "amount": "8000", "accrual": "uniform"}],
        baselines=[baseline(*BASE)],
        periods=pages,
    )
    return compute(b)


class Followed(unittest.TestCase):
    def holds(self, expected: dict[int, tuple[int, int, int]], **how: Any) -> None:
        """AC, EAC bottom up and hours worked at some of the pages."""
        for count, (ac, eac, work) in expected.items():
            r = followed(count, **how)
            worked = sum(x.worked.total_minutes for x in work_by_time(r.valuation, "week").rows) // 60
            self.assertEqual((int(r.project.ac), int(r.project.eac["bottom_up"] or 0), worked), (ac, eac, work), count)
            self.assertEqual(sum(r.project.ac_by_source.values()), r.project.ac)
            spent = [p.ac for p in curve(r.valuation, "day") if p.ac is not None]
            self.assertEqual(spent, sorted(spent))

    def test_by_progress_alone(self) -> None:
        """P1: 5 d × 16 h × 50, and 5/20 of the glass. P4: 20 d, and 20/25 of it. P8: 25 d, all of it, and 15 d × 8 h × 40."""
        p1 = 4000 + 2000, 6000 + 12000 + 6000 + 4800, 80
        p4 = 16000 + 6400, 22400 + 4000 + 1600 + 4800, 320
        p8 = 20000 + 8000 + 4800, 32800 + 2 * 8 * 40, 520
        self.holds({1: p1, 4: p4, 8: p8}, actuals="progress")

    def test_by_time_sheets_alone(self) -> None:
        """P1: 76 h × 50; 244 h to go, the glass, B. P4: 304 h and 3 000 paid; 100 h to go, 5 000 to pay. P8: 364 h, 8 000, 114 h × 40."""
        p1 = 3800, 3800 + 12200 + 8000 + 4800, 76
        p4 = 15200 + 3000, 18200 + 5000 + 5000 + 4800, 304
        p8 = 18200 + 8000 + 4560, 30760 + 20 * 40, 478
        self.holds({1: p1, 4: p4, 8: p8}, actuals="posted", sheets="FE", invoiced=True)

    def test_mixed(self) -> None:
        """The fitters by their sheets; the glass and the electrician follow progress."""
        p1 = 3800 + 2000, 5800 + 12200 + 6000 + 4800, 76
        p4 = 15200 + 6400, 21600 + 5000 + 1600 + 4800, 304
        p8 = 18200 + 8000 + 4800, 31000 + 640, 484
        self.holds({1: p1, 4: p4, 8: p8}, actuals="progress", fitters="posted", sheets="F")

    def test_two_of_five_people_have_time_sheets(self) -> None:
        """Five on one activity for ten days, five of them over, 40 an hour each: who has sheets by their sheets, the rest 40 h each."""
        people = [
            {"code": c, "name": c, "rates": [{"from": "2026-01-01", "per": "hour", "amount": "40"}]}
            | ({"actuals": "posted"} if c in "AB" else {})
            for c in "ABCDE"
        ]
        hours = [{"activity": "W", "resource": "A", "worked": "38h"}, {"activity": "W", "resource": "B", "worked": "20h", "overtime": "2h"}]
        given = {"activity": "W", "actual_start": "2027-01-04T08:00", "percent": 50, "remaining": "5d"}
        r = compute(
            book(
                [{"code": "W", "duration": "10d"}],
                project={"actuals": "progress"},
                resources=people,
                assignments=[{"activity": "W", "resource": c} for c in "ABCDE"],
                periods=[page("P1", "2027-01-08T17:00", given, hours=hours)],
            )
        )
        self.assertEqual(r.project.ac_by_source, {"hours": D((38 + 22) * 40), "progress": D(3 * 40 * 40)})
        worked = {x.resource: x.total // 60 for x in hours_rows(r)}
        self.assertEqual(worked, {"A": 38, "B": 22, "C": 40, "D": 40, "E": 40})
        self.assertEqual(sum(worked.values()) * 40, r.project.ac)
        notes = {row.code: row.note for row in working(r, "ac", "activity", "W").rows}
        self.assertEqual([notes[c] for c in "CDE"], ["follows progress: 1 unit × 5 d elapsed × 40.00"] * 3)
        self.assertEqual(r.project.eac["bottom_up"], r.project.ac + 5 * 5 * 8 * 40)
