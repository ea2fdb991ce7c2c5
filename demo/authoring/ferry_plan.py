"""The plan of the FERRY demo project: calendars, resources, breakdown, activities, links and costs (all invented)."""

from typing import Any

from ferry_registers import ABOUT, ORDERS, REGISTERS, RESERVES, own_fields

Plan = dict[str, Any]

DAY = ["07:30-12:00", "12:30-16:00"]
HOLIDAYS = [{"from": "2027-03-26", "to": "2027-03-29", "shifts": [], "name": "Spring holiday"},
            {"from": "2027-05-03", "to": "2027-05-03", "shifts": [], "name": "May holiday"}]

CALENDARS = [
    {"code": "five-day", "name": "Five-day week", "week": dict.fromkeys(("mon", "tue", "wed", "thu", "fri"), DAY), "exceptions": HOLIDAYS},
    {"code": "yard", "name": "Six-day yard", "week": {**dict.fromkeys(("mon", "tue", "wed", "thu", "fri"), DAY), "sat": DAY},
     "exceptions": HOLIDAYS, "hours_per_week": 48, "hours_per_month": 192},
    {"code": "tide", "name": "Tide windows at the slip", "week": dict.fromkeys(("mon", "tue", "wed", "thu", "fri", "sat", "sun"),
                                                                             ["06:00-10:00", "14:00-18:00"]),
     "hours_per_week": 56, "hours_per_month": 240},
]

RESOURCES = [
    ("FIT", "Ruan Teale's fitters", "labour", 6, "yard", "54.00", "hour", "81.00"),
    ("ELE", "Mirela Oakden's electricians", "labour", 6, "five-day", "58.00", "hour", "87.00"),
    ("DES", "Corrie and Vane design office", "labour", 4, "five-day", "72.00", "hour", None),
    ("NAV", "Naval architect (role to be filled)", "labour", 1, "five-day", "82.00", "hour", None),
    ("PNT", "Joss Amberley's painters", "labour", 4, "yard", "49.00", "hour", "73.50"),
    ("CTL", "Petra Lindqvale, controls", "labour", 2, "five-day", "78.00", "hour", None),
    ("PMG", "Edda Marchbank, project manager", "labour", 1, "five-day", "76.00", "hour", None),
    ("BRG", "Crane barge Stout Hand", "equipment", 1, "tide", "4800.00", "day", None),
    ("CAB", "Propulsion cable", "material", 1, "five-day", "41.50", "unit", None),
    ("CLS", "Northmere classification society", "labour", 1, "five-day", None, "hour", None),
    ("REL", "Tove Harrick, relief electrician", "labour", 1, "five-day", "66.00", "hour", None),
]

PERSONS = {"FIT": "Ruan Teale", "ELE": "Mirela Oakden", "PNT": "Joss Amberley", "CTL": "Petra Lindqvale", "PMG": "Edda Marchbank"}
SKILLS = {"FIT": ["fitting", "welding", "rigging"], "ELE": ["high voltage", "cabling"], "DES": ["naval design"], "PNT": ["coating", "rigging"],
          "CTL": ["software", "high voltage"], "REL": ["high voltage"], "BRG": ["lifting"]}
MEASURES = {"FIT": "fitter", "ELE": "electrician", "REL": "electrician", "DES": "designer", "PNT": "painter", "CTL": "engineer", "BRG": "barge",
            "CAB": "m", "CLS": "surveyor"}
SUPPLIERS = {"DES": "Corrie and Vane", "REL": "Quayside Crew", "BRG": "Stout Hand Marine", "CLS": "Northmere"}
LEAVE = {"PNT": [{"from": "2027-04-12", "to": "2027-04-16", "name": "course at the paint maker", "units": 3}]}
INDUCTED = {"FIT": "2027-12-31", "ELE": "2027-12-31", "PNT": "2027-06-30"}
"""Until when a resource is inducted for the yard: an own field of resources."""
ANSWERS = {"2": "Joss Amberley", "3": "Ruan Teale", "4": "Ruan Teale", "5": "Mirela Oakden", "6": "Petra Lindqvale", "7": "Petra Lindqvale"}
"""Who is responsible for each element; the cables have somebody of their own, all else is the project's."""
CABLES = ("A455", "A460", "A465", "A470")
WBS = [("1", "Design approval"), ("2", "Dry-docking and survey"), ("3", "Battery room"), ("4", "Drive train"),
       ("5", "Shore charging"), ("6", "Wheelhouse systems"), ("7", "Sea trials"), ("8", "Handover")]

# code, name, days, calendar, predecessors ("A100", "A100+2"), resources ("DES 2"), direct costs ("name amount accrual")
ACTIVITIES: list[tuple[str, str, float, str, str, str, list[tuple[str, str, str]]]] = [
    ("A100", "Contract in force", 0, "", "", "", []),
    ("A110", "Hybrid system concept", 5, "", "A100", "DES 2, NAV 0.5", []),
    ("A120", "Stability and weight estimate", 6, "", "A110", "NAV 1, DES 0.5", []),
    ("A130", "Single-line diagram and load balance", 8, "", "A110", "DES 2", []),
    ("A140", "Battery room arrangement drawings", 7, "", "A110", "DES 1", []),
    ("A150", "Structural drawings, seatings and bulkheads", 8, "", "A110", "DES 1, NAV 0.5", []),
    ("A160", "Fire and ventilation concept", 6, "", "A140", "DES 1", []),
    ("A170", "Class plan approval, first round", 10, "", "A120, A130, A150", "CLS 1", [("Plan approval fee", "26500.00", "finish")]),
    ("A180", "Answer class comments", 5, "", "A170, A160", "DES 2, NAV 1", []),
    ("A190", "Flag state acceptance of the concept", 5, "", "A180", "CLS 1", [("Flag state fee", "7800.00", "finish")]),
    ("A195", "Design approved", 0, "", "A190", "", []),
    ("A200", "Ferry off service", 0, "", "A100", "", []),
    ("A210", "De-fuel and gas-free", 3, "yard", "A200", "FIT 2", [("Sludge disposal", "6400.00", "finish")]),
    ("A220", "Tow and dock on the slip", 1, "tide", "A210", "BRG 1", [("Tugs and pilots", "9200.00", "finish")]),
    ("A230", "Wash and blast hull", 6, "yard", "A220", "PNT 4", [("Grit and skips", "11800.00", "uniform")]),
    ("A240", "Hull thickness survey", 3, "yard", "A230", "CLS 1, FIT 1", [("Thickness survey", "8900.00", "finish")]),
    ("A250", "Survey findings: renew shell plates", 10, "yard", "A240", "FIT 4", [("Shell plate, grade A", "18400.00", "uniform")]),
    ("A260", "Tailshaft and rudder survey", 4, "yard", "A230", "FIT 2, CLS 1", [("Survey attendance", "5200.00", "finish")]),
    ("A270", "Sea chests and valves", 6, "yard", "A230", "FIT 2", [("Valve set", "12300.00", "start")]),
    ("A280", "Prepare and paint hull", 8, "yard", "A250, A260, A270", "PNT 4", [("Hull coating", "27600.00", "uniform")]),
    ("A290", "Undock on the tide", 1, "tide", "A280, A295", "BRG 1", [("Tugs and pilots", "9200.00", "finish")]),
    ("A295", "Docking survey signed", 0, "yard", "A250, A260, A270", "", []),
    ("A298", "Slip hire", 42, "yard", "A220", "", [("Slip hire", "61500.00", "uniform")]),
    ("A300", "Strip out forward void", 8, "yard", "A220", "FIT 3", [("Waste removal", "4700.00", "finish")]),
    ("A310", "Remove old ballast lines", 4, "yard", "A300", "FIT 2", []),
    ("A320", "Fit structural seatings", 10, "yard", "A300, A150", "FIT 4", [("Seating steel", "14200.00", "start")]),
    ("A330", "Bulkhead penetrations", 7, "yard", "A310, A160", "FIT 2", [("Transit frames", "9600.00", "start")]),
    ("A340", "Insulation and linings, forward void", 8, "yard", "A320, A330", "FIT 3", [("Fire insulation", "21700.00", "uniform")]),
    ("A350", "Ventilation and gas extraction", 8, "yard", "A320", "FIT 2, ELE 1", [("Fans and dampers", "33800.00", "start")]),
    ("A360", "Battery modules built and delivered", 66, "five-day", "A130", "",
     [("Battery modules, first payment", "138000.00", "start"), ("Battery modules, on delivery", "262000.00", "finish")]),
    ("A365", "Battery modules on the quay", 0, "five-day", "A360", "", []),
    ("A370", "Lower battery modules", 3, "tide", "A365, A340, A290", "BRG 1, FIT 4", []),
    ("A375", "Rack and connect modules", 10, "yard", "A370", "FIT 2, ELE 3", [("Rack hardware", "18600.00", "start")]),
    ("A380", "Battery cooling loop", 6, "yard", "A370, A350", "FIT 3", [("Chiller and pumps", "42500.00", "start")]),
    ("A385", "Water mist and fire detection", 7, "yard", "A340", "FIT 2, ELE 1", [("Water mist system", "38900.00", "start")]),
    ("A390", "Battery room class survey", 2, "five-day", "A375, A380, A385", "CLS 1", [("Survey attendance", "4600.00", "finish")]),
    ("A395", "Battery room complete", 0, "five-day", "A390", "", []),
    ("A405", "Electric motors built and delivered", 62, "five-day", "A130", "",
     [("Motors, first payment", "90000.00", "start"), ("Motors, on delivery", "170000.00", "finish")]),
    ("A410", "Remove port shaft generator", 4, "yard", "A300", "FIT 3", []),
    ("A415", "Remove starboard shaft generator", 4, "yard", "A410", "FIT 3", []),
    ("A420", "Starboard gearbox inspection", 5, "yard", "A415", "FIT 2", [("Gearbox maker's fitter", "8300.00", "finish")]),
    ("A425", "Port gearbox inspection", 5, "yard", "A410", "FIT 2", [("Gearbox maker's fitter", "8300.00", "finish")]),
    ("A430", "Align port motor foundation", 6, "yard", "A425, A150", "FIT 3", [("Foundation steel", "6900.00", "start")]),
    ("A435", "Align starboard motor foundation", 6, "yard", "A420, A430", "FIT 3", [("Foundation steel", "6900.00", "start")]),
    ("A440", "Install port motor", 5, "yard", "A405, A430, A290", "FIT 4, ELE 1", []),
    ("A445", "Install starboard motor", 5, "yard", "A440, A435", "FIT 4, ELE 1", []),
    ("A450", "Converters and switchboard built", 48, "five-day", "A130+3", "", [("Converters and switchboard", "128000.00", "finish")]),
    ("A455", "Install DC switchboard", 8, "yard", "A450, A290", "ELE 4, FIT 1", []),
    ("A460", "Main cable runs, forward", 10, "yard", "A330", "ELE 4, CAB 650", []),
    ("A465", "Main cable runs, aft", 10, "yard", "A460, A435", "ELE 4, CAB 600", []),
    ("A470", "Terminate and insulation test", 10, "yard", "A465, A455, A375, A445", "ELE 4", [("Terminations", "7400.00", "uniform")]),
    ("A475", "Shaft alignment check", 3, "yard", "A445", "FIT 2, CLS 1", []),
    ("A480", "Drive train ready", 0, "five-day", "A470, A475", "", []),
    ("A500", "Ground survey at berth 2", 4, "", "A100", "", [("Ground survey", "7600.00", "finish")]),
    ("A510", "Duct and draw pit, berth 2", 14, "", "A500+25", "FIT 2", [("Civil works, ducts", "46800.00", "uniform")]),
    ("A520", "Transformer plinth", 9, "", "A510", "", [("Civil works, plinth", "29400.00", "uniform")]),
    ("A530", "Transformer and charger built", 66, "", "A130", "",
     [("Transformer, first payment", "46000.00", "start"), ("Transformer, on delivery", "88000.00", "finish")]),
    ("A540", "Set transformer", 2, "tide", "A530, A520", "BRG 1, FIT 2", []),
    ("A550", "Erect charging tower", 6, "", "A540", "FIT 3", [("Charging tower", "52700.00", "start")]),
    ("A560", "High-voltage cable and connection", 8, "", "A540", "ELE 3, CAB 300", []),
    ("A570", "Network operator inspection", 3, "", "A550, A560", "", [("Connection fee", "16400.00", "finish")]),
    ("A580", "Shore supply live", 0, "", "A570", "", []),
    ("A600", "Power management software design", 15, "", "A130", "CTL 1", []),
    ("A610", "Remove old consoles", 4, "yard", "A300", "ELE 2", []),
    ("A620", "Power management factory test", 8, "", "A600", "CTL 1.5", [("Test rig hire", "9800.00", "uniform")]),
    ("A630", "New consoles", 8, "yard", "A610, A195", "ELE 2, FIT 1", [("Consoles", "36700.00", "start")]),
    ("A640", "Alarm and monitoring integration", 10, "", "A620, A630", "CTL 2, ELE 1", [("Sensors and panels", "24300.00", "start")]),
    ("A650", "Navigation equipment refit", 6, "", "A630", "ELE 2", [("Radar scanner overhaul", "11900.00", "finish")]),
    ("A660", "Wheelhouse handed to crew", 1, "", "A640, A650", "", []),
    ("A700", "Harbour acceptance tests", 6, "", "A480, A640", "CTL 2, ELE 2, FIT 2", []),
    ("A710", "Battery commissioning", 10, "", "A395, A470", "CTL 2, ELE 2", [("Battery maker's engineer", "17800.00", "uniform")]),
    ("A720", "Drive commissioning", 8, "", "A700, A710", "CTL 2, FIT 2", [("Motor maker's engineer", "14600.00", "uniform")]),
    ("A730", "Charging trials alongside", 4, "tide", "A710, A580", "CTL 1, ELE 2", []),
    ("A740", "Inclining test", 1, "tide", "A720", "NAV 1, FIT 2", []),
    ("A750", "Sea trials, battery and hybrid", 8, "tide", "A720, A730, A740", "CTL 2, FIT 2, NAV 1", [("Fuel and trial crew", "12700.00", "uniform")]),
    ("A760", "Defects from trials", 8, "yard", "A750", "FIT 3, ELE 3, CTL 1", []),
    ("A770", "Class and flag final survey", 2, "", "A760", "CLS 1", [("Final survey fee", "11300.00", "finish")]),
    ("A780", "Trials accepted", 0, "", "A770", "", []),
    ("A800", "Crew training", 8, "", "A720, A660", "CTL 1", [("Crew hours", "15200.00", "uniform")]),
    ("A810", "Operating manuals", 20, "", "A195+40", "DES 1", []),
    ("A820", "As-built drawings", 10, "", "A760", "DES 2", []),
    ("A830", "Spares aboard", 3, "", "A770", "", [("Spares", "21500.00", "finish")]),
    ("A840", "Passenger certificate", 4, "", "A780, A800", "", [("Certificate", "3900.00", "finish")]),
    ("A850", "Project management", 138, "", "A100", "PMG 1", []),
    ("A860", "Back in service", 0, "", "A840, A830, A820, A810", "", []),
]


def plan() -> Plan:
    """The whole plan as a book document, without baselines and pages."""
    activities, links, assignments, costs = [], [], [], []
    for code, name, days, calendar, preds, people, money in ACTIVITIES:
        milestone = days == 0 or code == "A660"
        row: Plan = {"code": code, "name": name, "wbs": code[1], "calendar": calendar or "five-day"}
        row |= {"kind": "milestone"} if milestone else {}
        row |= {"duration": f"{days:g}d"} if days else {}
        row |= _special(code)
        row |= {"responsible": "Mirela Oakden"} if code in CABLES else {}
        own = own_fields(code, code[1])
        row |= {"fields": own} if own else {}
        activities.append(row)
        for pred in filter(None, preds.split(", ")):
            source, _, lag = pred.partition("+")
            links.append({"from": source, "to": code, **({"lag": f"{lag}d"} if lag else {})})
        for who in filter(None, people.split(", ")):
            resource, amount = who.split()
            assignments.append({"activity": code, "resource": resource,
                                **({"quantity": int(amount)} if resource == "CAB" else {"units": float(amount)})})
        costs += [{"activity": code, "name": n, "kind": "fixed", "amount": a, "accrual": accrual, "code": f"D{len(costs) + i:02}"}
                  for i, (n, a, accrual) in enumerate(money, 1)]
    return {
        "format": "dry-ledger-book", "version": 1,
        "project": {"code": "FERRY", "name": "MV Corran Light, hybrid-electric refit", "currency": "EUR", "start": "2027-01-04T07:30",
                    "calendar": "five-day", "deadline": "2027-07-20T16:00", "benefit": "3400000.00",
                    "responsible": PERSONS["PMG"],
                    "benefit_basis": "Fuel and crew saved in ten years, of the business case of May 2026", **ABOUT},
        "calendars": CALENDARS,
        "resources": [resource_row(*row) for row in RESOURCES],
        "wbs": [{"code": c, "name": n, **({"responsible": ANSWERS[c]} if c in ANSWERS else {})} for c, n in WBS],
        "activities": activities, "links": links, "assignments": assignments, "costs": costs, **REGISTERS, "orders": orders(costs), "reserves": RESERVES,
    }


def resource_row(code: str, name: str, kind: str, units: int, calendar: str, amount: str | None, per: str, overtime: str | None) -> Plan:
    """A resource with all that is known of it."""
    rate = {"from": "2026-01-01", "amount": amount, "per": per, **({"overtime": overtime} if overtime else {})}
    more: Plan = {"skills": SKILLS.get(code), "unit": MEASURES.get(code), "supplier": SUPPLIERS.get(code), "person": PERSONS.get(code),
                  "exceptions": LEAVE.get(code), "fields": {"induction": INDUCTED[code]} if code in INDUCTED else None,
                  "role": code == "NAV" or None, "shared": code if code in ("ELE", "BRG") else None}
    return {"code": code, "name": name, "kind": kind, "units": units, "calendar": calendar, "rates": [rate] if amount else [],
            **{k: v for k, v in more.items() if v is not None}}


def orders(costs: list[Plan]) -> list[Plan]:
    """What was ordered early: each order with lines for the costs of an activity, in their order."""
    mine = {code: [c["code"] for c in costs if c["activity"] == code] for code, *_ in ORDERS.values()}
    return [{"code": order, "supplier": supplier, "text": text, "date": date, "state": state,
             "lines": [{"for": of, "amount": amount} for of, amount in zip(mine[code], amounts, strict=True)]}
            for order, (code, supplier, text, date, state, amounts) in ORDERS.items()]


def _special(code: str) -> Plan:
    return {
        "A200": {"constraint": {"type": "start_on_or_after", "at": "2027-02-01T07:30"}},
        "A300": {"value_method": {"type": "percent"}, "profile": "bell"},
        "A170": {"value_method": {"type": "fifty_fifty"}},
        "A190": {"value_method": {"type": "zero_hundred"}},
        "A360": {"value_method": {"type": "start_share", "share": 0.3}},
        "A405": {"value_method": {"type": "start_share", "share": 0.3}},
        "A530": {"value_method": {"type": "start_share", "share": 0.3}},
        "A450": {"value_method": {"type": "zero_hundred"}},
        "A850": {"value_method": {"type": "level_of_effort"}},
        "A860": {"deadline": "2027-07-20T16:00"},
    }.get(code, {})
