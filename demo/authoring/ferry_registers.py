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
    "changes": [{"code": "CH3", "name": "Longer duct route at berth 2", "reason": "An old water main lies in the planned trench.",
                 "raised": "2027-02-08", "state": "approved", "approved_by": "Lorcan Astley", "decided": "2027-02-12", "cost": "0.00"}],
    "fields": [
        {"code": "deck", "name": "Deck", "kind": "choice", "options": ["Hull", "Engine room", "Forward void", "Wheelhouse", "Quay"],
         "given_by": "kind"},
        {"code": "permit", "name": "Hot work", "kind": "yes_no", "in_reports": "yes", "given_by": "kind"},
        {"code": "berth", "name": "Berth", "kind": "choice", "options": ["Slip", "Dry dock", "Quay"], "of": "project", "in_reports": "yes",
         "given_by": "kind"},
        {"code": "class_survey", "name": "Class survey due", "kind": "date", "of": "project", "given_by": "kind"},
        {"code": "day_rate", "name": "Cost a day", "kind": "formula", "formula": "round(cost / days, 0) if days else 0"},
    ],
}
DECKS = {"2": "Hull", "3": "Forward void", "4": "Engine room", "5": "Quay", "6": "Wheelhouse"}
HOT_WORK = ("A250", "A320", "A330", "A410", "A415", "A430", "A435")


def own_fields(code: str, wbs: str) -> dict[str, Any]:
    """The values of one activity in the project's own fields."""
    return ({"deck": DECKS[wbs]} if wbs in DECKS else {}) | ({"permit": True} if code in HOT_WORK else {})
