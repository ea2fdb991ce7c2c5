"""What the FERRY project says of itself: its page, its registers and its own fields (all invented)."""

from typing import Any

ABOUT = {
    "client": "Tarn Quay Harbour Trust",
    "manager": "Edda Marchbank",
    "description": "The ferry is docked, surveyed and fitted with a battery room, electric drives and shore charging, and goes back "
    "into service before the summer timetable.",
    "state": "Under way",
    "kind": "Vessel refit",
    "fields": {"berth": "Slip", "class_survey": "2027-06-30"},
}
REGISTERS: dict[str, list[dict[str, Any]]] = {
    "notes": [
        {"code": "N1", "name": "Yard rules", "date": "2027-01-06", "text": "Hot work needs a permit from the harbour master the day before."},
        {"code": "N2", "name": "Tides", "date": "2027-01-12", "text": "Docking and undocking only on the morning tide; see the tide calendar."},
    ],
    "documents": [
        {"code": "D1", "name": "Contract and specification", "address": "share/ferry/contract.pdf"},
        {"code": "D2", "name": "Class correspondence", "address": "share/ferry/class/"},
    ],
    "assumptions": [{"code": "A1", "name": "The relief boat covers the crossing until August", "owner": "Edda Marchbank"}],
    "constraints": [{"code": "C1", "name": "Back in service by 20 July", "owner": "Lorcan Astley", "note": "The summer timetable is printed."}],
    "risks": [
        {"code": "R1", "name": "Battery modules late", "probability": 35, "impact": "42000.00", "delay": "10d", "owner": "Edda Marchbank",
         "response": "Weekly call with the maker; racks and cooling loop built ahead.", "state": "happened"},
        {"code": "R2", "name": "More shell plate than priced", "probability": 50, "impact": "25000.00", "delay": "6d", "owner": "Ruan Teale",
         "response": "Survey early; plate on call-off.", "state": "happened"},
        {"code": "R3", "name": "Network operator inspects late", "probability": 20, "impact": "0.00", "delay": "5d", "owner": "Petra Lindqvale",
         "response": "Date booked in April.", "state": "open"},
        {"code": "R4", "name": "Weather stops the trials", "probability": 30, "impact": "60000.00", "delay": "6d", "owner": "Edda Marchbank",
         "response": "A second trial window agreed with the harbour office.", "state": "open"},
    ],
    "issues": [{"code": "I2", "name": "Week 4: drawings booked twice", "owner": "Edda Marchbank", "raised": "2027-03-11", "due": "2027-03-12",
                "state": "open", "note": "The design office's 10 h on A150, page 4, should be 6 h. To be corrected on page 10."},
               {"code": "I1", "name": "Penetrations behind, cabling waits", "owner": "Mirela Oakden", "raised": "2027-03-05", "due": "2027-03-19",
                "state": "open", "note": "Cabling started on the finished ones."}],
    "changes": [
        {"code": "CH1", "name": "More shell plate", "reason": "Readings below limit on frames 22 to 31.", "raised": "2027-02-26", "from": "R1",
         "lines": [{"wbs": "2", "amount": "6300.00"}], "state": "approved", "decided_by": "Lorcan Astley", "decided_at": "2027-03-02T10:20"},
        {"code": "CH2", "name": "Second trial window", "reason": "Weather may stop the trials.", "raised": "2027-03-09", "from": "R1", "days": 4,
         "lines": [{"wbs": "7", "amount": "18000.00"}], "state": "raised"},
        {"code": "CH3", "name": "Longer duct route at berth 2", "reason": "An old water main lies in the planned trench.",
         "raised": "2027-02-08", "from": "R1", "days": 2, "lines": [{"activity": "A510", "amount": "4200.00"}], "state": "built",
         "decided_by": "Lorcan Astley", "decided_at": "2027-02-12T11:00", "baseline": "B1"},
        {"code": "CH4", "name": "Heater for the mess room", "reason": "Asked for by the crew.", "raised": "2027-02-15", "from": "R2",
         "lines": [{"wbs": "6", "amount": "9500.00"}], "state": "refused", "decided_by": "Lorcan Astley", "decided_at": "2027-02-19T15:40"},
    ],
    "fields": [
        {"code": "deck", "name": "Deck", "kind": "choice", "options": ["Hull", "Engine room", "Forward void", "Wheelhouse", "Quay"],
         "given_by": "kind"},
        {"code": "permit", "name": "Hot work", "kind": "yes_no", "in_reports": "yes", "given_by": "kind"},
        {"code": "berth", "name": "Berth", "kind": "choice", "options": ["Slip", "Dry dock", "Quay"], "of": "project", "in_reports": "yes",
         "given_by": "kind"},
        {"code": "class_survey", "name": "Class survey due", "kind": "date", "of": "project", "given_by": "kind"},
        {"code": "day_rate", "name": "Cost a day", "kind": "formula", "formula": "round(cost / days, 0) if days else 0"},
        {"code": "induction", "name": "Inducted until", "kind": "date", "of": "resource"},
    ],
}
RESERVES = [
    {"code": "R1", "name": "Refit contingency", "amount": "60000.00"},
    {"code": "R2", "name": "Management reserve", "amount": "90000.00", "held": "outside"},
]
ORDERS: dict[str, tuple[str, str, str, str, str, list[str]]] = {
    "PO-01": ("A360", "Velden Cells", "Battery modules, in two payments", "2027-01-15", "open", ["138000.00", "262000.00"]),
    "PO-02": ("A405", "Brask Motors", "Two motors, in two payments", "2027-01-15", "open", ["90000.00", "170000.00"]),
    "PO-03": ("A530", "Tarn Networks", "Transformer, in two payments", "2027-01-19", "open", ["46000.00", "88000.00"]),
    "PO-04": ("A510", "Hallet Civils", "Ducts, with the longer route", "2027-02-15", "open", ["51000.00"]),
    "PO-05": ("A240", "Sounding & Gauge", "Thickness survey", "2027-02-01", "closed", ["9400.00"]),
}
"""What was ordered: of an activity, from whom, what, when, and for how much of each of its costs."""
DECKS = {"2": "Hull", "3": "Forward void", "4": "Engine room", "5": "Quay", "6": "Wheelhouse"}
HOT_WORK = ("A250", "A320", "A330", "A410", "A415", "A430", "A435")


def own_fields(code: str, wbs: str) -> dict[str, Any]:
    """The values of one activity in the project's own fields."""
    return ({"deck": DECKS[wbs]} if wbs in DECKS else {}) | ({"permit": True} if code in HOT_WORK else {})
