"""Write demo/buoys.json, radar.json, lights.json, winch.json and the two templates from the short lists below (all invented).

Run from the repository: `.venv/bin/python demo/authoring/make_others.py`.
"""

import json
import sys
from decimal import Decimal
from pathlib import Path
from typing import Any

HERE = Path(__file__).parent
ROOT = HERE.parents[1]
sys.path[:0] = [str(ROOT / "core"), str(HERE)]

from ferry_plan import CALENDARS
from make_ferry import _baseline

from dryledger.book.lists_beside import PROMISES
from dryledger.buffers.chain import chain_of, promised
from dryledger.calendar.calendar import from_text, to_text
from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from dryledger.exchange.write import row_document

Doc = dict[str, Any]
FIVE, _, TIDE = CALENDARS
PLAIN = {"code": "five-day", "name": "Five-day week",
         "week": dict.fromkeys(("mon", "tue", "wed", "thu", "fri"), ["08:00-12:00", "13:00-17:00"])}

# code, name, element, days, safe days, calendar, after, resources, direct cost
Row = tuple[str, str, str, float, float, str, str, str, str]
BUOYS: list[Row] = [
    ("B100", "Season opened", "1", 0, 0, "", "", "", ""),
    ("B110", "Inspect moorings by diver", "1", 6, 10, "tide", "B100", "DIV 2", ""),
    ("B120", "Agree positions with the pilots", "1", 3, 5, "", "B100", "NVO 1", ""),
    ("B130", "Order chain and sinkers", "1", 2, 3, "", "B110, B120", "NVO 0.5", "Chain and sinkers 38400.00"),
    ("B140", "Chain and sinkers delivered", "1", 15, 22, "", "B130", "", ""),
    ("B200", "Strip and blast bodies, first five", "2", 8, 12, "", "B100", "WKS 2", "Grit 2600.00"),
    ("B210", "Weld repairs, first five", "2", 5, 9, "", "B200", "WKS 2", ""),
    ("B220", "Coat bodies, first five", "2", 6, 9, "", "B210, B230", "WKS 2", "Coating 7900.00"),
    ("B230", "Strip and blast bodies, second five", "2", 8, 12, "", "B200", "WKS 2", "Grit 2600.00"),
    ("B240", "Weld repairs, second five", "2", 5, 9, "", "B230, B220", "WKS 2", ""),
    ("B250", "Coat bodies, second five", "2", 6, 9, "", "B240", "WKS 2", "Coating 7900.00"),
    ("B260", "Bodies ready", "2", 0, 0, "", "B220, B250", "", ""),
    ("B300", "Lanterns and batteries ordered", "3", 2, 3, "", "B120", "NVO 0.5", "Lanterns and batteries 54200.00"),
    ("B310", "Lanterns delivered", "3", 20, 30, "", "B300", "", ""),
    ("B320", "Program characters and sync", "3", 4, 7, "", "B310", "ELX 1", ""),
    ("B330", "Burn-in on the quay", "3", 5, 6, "", "B320", "ELX 0.5", ""),
    ("B400", "Load out first five", "4", 1, 2, "tide", "B220, B330, B140", "BRG 1", ""),
    ("B410", "Lay outer channel buoys", "4", 4, 7, "tide", "B400", "BRG 1, DIV 2", ""),
    ("B420", "Load out second five", "4", 1, 2, "tide", "B250, B410", "BRG 1", ""),
    ("B430", "Lay inner channel buoys", "4", 4, 7, "tide", "B420", "BRG 1, DIV 2", ""),
    ("B440", "Check positions and lights", "4", 3, 5, "", "B430", "NVO 1", ""),
    ("B450", "Notice to mariners", "4", 2, 3, "", "B440", "NVO 1", ""),
    ("B460", "Old buoys ashore", "4", 3, 5, "tide", "B430", "BRG 1", "Scrap handling 3100.00"),
    ("B470", "Channel lit", "4", 0, 0, "", "B450, B460", "", ""),
]
RADAR: list[Row] = [
    ("R100", "Ferry mast free", "1", 0, 0, "", "", "", ""),
    ("R110", "Site survey of the signal hill", "1", 3, 0, "", "", "RAD 1", ""),
    ("R120", "Coverage study", "1", 8, 0, "", "R110", "RAD 1", "Study software 4800.00"),
    ("R130", "Spectrum licence", "1", 20, 0, "", "R120", "", "Licence 2900.00"),
    ("R140", "Scanner and processor ordered", "2", 2, 0, "", "R120", "RAD 0.5", "First payment 61000.00"),
    ("R150", "Scanner and processor delivered", "2", 55, 0, "", "R140", "", "On delivery 92000.00"),
    ("R200", "Tower foundation", "3", 10, 0, "", "R120", "CIV 3", "Concrete 8700.00"),
    ("R210", "Tower erected", "3", 5, 0, "", "R200", "CIV 3, BRG 1", "Tower 46500.00"),
    ("R220", "Power and fibre to the hill", "3", 12, 0, "", "R120", "ELX 2", "Cable 15400.00"),
    ("R300", "Mount scanner", "4", 3, 0, "", "R150, R210, R100", "CIV 2, RAD 1", ""),
    ("R310", "Set to work", "4", 6, 0, "", "R300, R220, R130", "RAD 1, ELX 1", ""),
    ("R320", "Feed to the port control desk", "4", 5, 0, "", "R310", "ELX 1", ""),
    ("R330", "Parallel running", "4", 20, 0, "", "R320", "RAD 0.25", ""),
    ("R340", "Old radar switched off", "4", 0, 0, "", "R330", "", ""),
    ("R350", "Watch officers trained", "4", 4, 0, "", "R320", "RAD 1", ""),
]
LIGHTS: list[Row] = [
    ("L100", "Funds released", "1", 0, 0, "", "", "", ""),
    ("L110", "Survey of the breakwater lights", "1", 3, 0, "", "L100", "ELE 1", ""),
    ("L120", "Lanterns and solar panels ordered", "1", 2, 0, "", "L110", "HBO 0.5", "Lanterns and panels 31800.00"),
    ("L130", "Lanterns and panels delivered", "1", 18, 0, "", "L120", "", ""),
    ("L200", "Pedestals broken out and recast", "2", 8, 0, "", "L110", "CIV 2", "Concrete and bolts 4900.00"),
    ("L210", "Cable ducts cleared", "2", 5, 0, "", "L200", "CIV 2", ""),
    ("L220", "Old lanterns off, by barge", "2", 2, 0, "tide", "L200", "BRG 1, ELE 1", ""),
    ("L300", "New lanterns fitted, by barge", "3", 3, 0, "tide", "L130, L210, L220", "BRG 1, ELE 2", ""),
    ("L310", "Panels and batteries fitted", "3", 4, 0, "", "L300", "ELE 2", "Mountings 2700.00"),
    ("L320", "Characters set and logged", "3", 2, 0, "", "L310", "ELE 1, HBO 0.5", ""),
    ("L330", "Night check from the water", "3", 1, 0, "", "L320", "HBO 1", ""),
    ("L340", "Breakwater lit", "3", 0, 0, "", "L330", "", ""),
]
WINCH: list[Row] = [
    ("W100", "Slip closed", "1", 0, 0, "", "", "", ""),
    ("W110", "Wire and sheaves off", "1", 2, 0, "", "W100", "FTR 2", ""),
    ("W120", "Gearbox opened and measured", "1", 3, 0, "", "W110", "FTR 2", ""),
    ("W130", "Bearings and seals ordered", "1", 1, 0, "", "W120", "FTR 1", "Bearings and seals 6400.00"),
    ("W140", "Bearings and seals delivered", "1", 12, 0, "", "W130", "", ""),
    ("W200", "Motor rewound by contract", "2", 15, 0, "", "W110", "", "Rewinding 14200.00"),
    ("W210", "Starter panel renewed", "2", 6, 0, "", "W110", "ELE 1", "Panel 8800.00"),
    ("W220", "Gearbox closed and aligned", "2", 4, 0, "", "W140, W200", "FTR 2", ""),
    ("W230", "New wire reeved and load test", "2", 2, 0, "", "W220, W210", "FTR 2, ELE 1", "Wire 3900.00"),
    ("W240", "Slip open", "2", 0, 0, "", "W230", "", ""),
]
RISKS: dict[str, list[tuple[str, str, int, str, str]]] = {
    "BUOYS": [("K1", "Weld repairs beyond the survey", 40, "18000.00", "open"), ("K2", "Swell keeps the barge in", 25, "24000.00", "open")],
    "RADAR": [("K1", "The ferry's mast comes off late", 50, "22000.00", "open"), ("K2", "Licence held up", 20, "30000.00", "open"),
              ("K3", "Rock under the tower", 15, "40000.00", "open")],
    "LIGHTS": [("K1", "Pedestals cracked deeper", 20, "6000.00", "open")],
    "WINCH": [("K1", "Gear teeth worn past dressing", 30, "26000.00", "open"), ("K2", "Motor core burnt", 10, "19000.00", "open")],
}
QUAY: list[Row] = [
    ("A100", "Start", "1", 0, 0, "", "", "", ""),
    ("A110", "Ground and water survey", "1", 10, 0, "", "A100", "SUR 1", ""),
    ("A120", "Design", "1", 20, 0, "", "A110", "DES 2", ""),
    ("A130", "Consents", "1", 30, 0, "", "A120", "", ""),
    ("A200", "Order piles and steel", "2", 2, 0, "", "A120", "DES 0.5", ""),
    ("A210", "Piles and steel delivered", "2", 35, 0, "", "A200", "", ""),
    ("A300", "Site set up", "3", 5, 0, "", "A130", "CRW 1", ""),
    ("A310", "Dredge", "3", 12, 0, "", "A300", "CRW 1", ""),
    ("A320", "Drive piles", "3", 20, 0, "", "A210, A310", "CRW 1", ""),
    ("A330", "Deck and fendering", "3", 18, 0, "", "A320", "CRW 1", ""),
    ("A340", "Services and lighting", "3", 10, 0, "", "A330", "CRW 0.5", ""),
    ("A400", "Inspection", "4", 2, 0, "", "A340", "DES 1", ""),
    ("A410", "Berth open", "4", 0, 0, "", "A400", "", ""),
]
RENEWAL: list[Row] = [
    ("A100", "Start", "1", 0, 0, "", "", "", ""),
    ("A110", "Condition and need", "1", 5, 0, "", "A100", "ENG 1", ""),
    ("A120", "Specification", "1", 8, 0, "", "A110", "ENG 1", ""),
    ("A130", "Quotations and choice", "1", 15, 0, "", "A120", "ENG 0.5", ""),
    ("A200", "Order placed", "2", 0, 0, "", "A130", "", ""),
    ("A210", "Built and delivered", "2", 45, 0, "", "A200", "", ""),
    ("A220", "Foundations and supplies made ready", "2", 10, 0, "", "A200", "TEC 2", ""),
    ("A300", "Old equipment out", "3", 3, 0, "", "A210, A220", "TEC 2", ""),
    ("A310", "New equipment in", "3", 5, 0, "", "A300", "TEC 3", ""),
    ("A320", "Commissioning", "3", 5, 0, "", "A310", "ENG 1, TEC 1", ""),
    ("A330", "Training and papers", "3", 4, 0, "", "A320", "ENG 1", ""),
    ("A340", "In service", "3", 0, 0, "", "A330", "", ""),
]
PEOPLE = {
    "DIV": ("Osk Farrow, divers", "labour", 2, "68.00", "hour", False), "NVO": ("Hester Quill, navigation officer", "labour", 1, "61.00", "hour", False),
    "WKS": ("Buoy workshop", "labour", 2, "47.00", "hour", False), "ELX": ("Mirela Oakden's electricians", "labour", 2, "58.00", "hour", False),
    "BRG": ("Crane barge Stout Hand", "equipment", 1, "4800.00", "day", False), "RAD": ("Radar engineer", "labour", 1, "74.00", "hour", True),
    "CIV": ("Civil works crew", "labour", 3, "49.00", "hour", False), "SUR": ("Surveyor", "labour", 1, "", "hour", True),
    "DES": ("Design office", "labour", 2, "", "hour", True), "CRW": ("Works crew", "labour", 1, "", "hour", True),
    "ELE": ("Mirela Oakden's electricians", "labour", 3, "58.00", "hour", False), "FTR": ("Own fitters", "labour", 2, "54.00", "hour", False),
    "HBO": ("Harbour office", "labour", 1, "52.00", "hour", False),
    "ENG": ("Engineer", "labour", 1, "", "hour", True), "TEC": ("Technicians", "labour", 3, "", "hour", True),
}

SKILLS = {"ELE": ["high voltage", "cabling"], "BRG": ["lifting"]}
SHARED = {"ELE": "ELE", "ELX": "ELE", "BRG": "BRG"}
"""What is drawn from the organisation: its code there."""
DRAWING = ("BUOYS", "RADAR", "LIGHTS", "WINCH")


def marine(notice: str) -> Doc:
    """What the kind of project adds to the project's own page."""
    return {"kind": "Marine works", "fields": {"notice": notice}}


FIELDS: dict[str, list[Doc]] = {
    "Marine works": [{"code": "notice", "name": "Notice to mariners", "of": "project", "in_reports": "yes", "given_by": "kind"},
                     {"code": "slack_water", "name": "Needs slack water", "kind": "yes_no", "given_by": "kind"}],
    "Plant": [{"code": "asset", "name": "Asset number", "of": "project", "given_by": "kind"}],
}


def book(project: Doc, calendars: list[Doc], elements: list[str], rows: list[Row]) -> Doc:
    """A plan without pages from its short list."""
    activities, links, assignments, costs, used = [], [], [], [], dict[str, None]()
    for code, name, wbs, days, safe, calendar, after, people, cost in rows:
        row: Doc = {"code": code, "name": name, "wbs": wbs}
        row |= {"kind": "milestone"} if not days else {"duration": f"{days:g}d"}
        row |= {"safe_duration": f"{safe:g}d"} if safe else {}
        row |= {"calendar": calendar} if calendar else {}
        row |= {"fields": {"slack_water": True}} if calendar == "tide" else {}
        activities.append(row)
        links += [{"from": p, "to": code} for p in filter(None, after.split(", "))]
        for who in filter(None, people.split(", ")):
            key, units = who.split()
            used[key] = None
            assignments.append({"activity": code, "resource": key, **({"units": float(units)} if float(units) != 1 else {})})
        if cost:
            label, _, amount = cost.rpartition(" ")
            costs.append({"activity": code, "name": label, "kind": "fixed", "amount": amount, "accrual": "finish", "code": f"D{len(costs) + 1:02}"})
    resources = []
    for key in used:
        name, kind, units, amount, per, role = PEOPLE[key]
        rates = [{"from": "2026-01-01", "amount": amount, "per": per}] if amount else []
        on = {"calendar": "tide"} if key == "BRG" and any(c["code"] == "tide" for c in calendars) else {}
        shared = SHARED.get(key) if project.get("code") in DRAWING else None
        resources.append({"code": key, "name": name, "kind": kind, "units": units, **on, **({"role": True} if role else {}), "rates": rates,
                          **({"shared": shared, "skills": SKILLS[shared]} if shared else {})})
        if shared == "ELE":
            rates[0]["overtime"] = "87.00"
    own = {"fields": FIELDS[project["kind"]]} if "kind" in project else {}
    return {"format": "dry-ledger-book", "version": 1, "project": project, "calendars": calendars, "resources": resources, **own,
            "wbs": [{"code": str(i), "name": n} for i, n in enumerate(elements, 1)],
            "activities": activities, "links": links, "assignments": assignments, "costs": costs}


def promise(doc: Doc, by: str) -> None:
    """Level the plan, and promise the end of its project buffer before the first page."""
    chain = chain_of(compute(book_from(doc)))
    for a in doc["activities"]:
        if a["code"] in chain.levelled.dates:
            a["levelled"] = to_text(chain.levelled.dates[a["code"]])
    doc["promises"] = [row_document(PROMISES, promised(chain, "K1", None, by))]


def play(doc: Doc, days: list[str], pace: dict[str, float], notes: dict[tuple[str, str], str], spent: float = 0) -> None:
    """Weekly pages: each activity goes as the page before forecast it, at its own pace. `spent`: hours and costs are posted too, at
    that many times what was planned for the work done."""
    doc["periods"] = []
    for i, day in enumerate(days, 1):
        before = compute(book_from(doc))
        status, since = from_text(f"{day}T16:00"), before.status if before.status is not None else before.book.project.start
        page: Doc = {"code": f"P{i:02d}", "status": f"{day}T16:00", "state": "dry", "statements": []}
        for a in before.book.activities:
            p, row, axis = before.progress[a.code], before.schedule.activities[a.code], before.book.axes[a.code]
            if p.state == "complete" or row.start > status or (row.start == status and a.duration):
                continue
            s: Doc = {"activity": a.code, "actual_start": to_text(p.actual_start if p.actual_start is not None else row.start)}
            worked = axis.between(max(row.start if p.actual_start is None else since, since), status)
            left = max(Decimal(p.remaining) - worked * Decimal(str(pace.get(a.code, 1))), Decimal(0))
            if not a.duration or left < 60:
                s["actual_finish"] = to_text(min(row.finish, status))
            else:
                whole = round(left / 240) * 240 or 240
                s |= {"percent": max(min(round(100 * (1 - whole / (a.duration * 1.1))), 95), 1), "remaining": f"{whole / 480:g}d"}
            if (page["code"], a.code) in notes:
                s["note"] = notes[page["code"], a.code]
            page["statements"].append(s)
            if spent and a.duration:
                done = Decimal(min(worked, p.remaining))
                page.setdefault("hours", []).extend(
                    {"activity": a.code, "resource": x["resource"], "worked": f"{round(done * Decimal(str(spent)) * Decimal(str(x.get('units', 1))) / 30) / 2:g}h"}
                    for x in doc["assignments"] if x["activity"] == a.code and done)
            if spent and "actual_finish" in s:
                page.setdefault("costs", []).extend(
                    {"activity": a.code, "date": day, "amount": f"{Decimal(c['amount']) * Decimal(str(spent)):.2f}", "source": "invoice", "ref": f"{a.code}-{page['code']}"}
                    for c in doc["costs"] if c["activity"] == a.code)
        doc["periods"].append(page)
    doc["periods"][-1]["state"] = "dry"


def wait_for_ferry(radar: Doc, before: bool = False) -> None:
    """The mast is free eight days after the ferry's drive train is ready: as that was approved, or as it is on the ferry's open page."""
    ferry = compute(book_from(json.loads((ROOT / "demo" / "ferry.json").read_text())))
    code, row, base = "A480", ferry.schedule.activities["A480"], ferry.book.baseline_by_code["B0"].by_code["A480"]
    start, finish = (base.start, base.finish) if before else (row.start, row.finish)
    there: Doc = {"code": f"FERRY/{code}", "name": ferry.book.activity_by_code[code].name, "start": to_text(start), "finish": to_text(finish)}
    radar["externals"] = [there | ({} if before else {"state": row.state, "status": to_text(ferry.status or 0)})]
    radar["links"] = [k for k in radar["links"] if k["to"] != "R100"] + [{"from": f"FERRY/{code}", "to": "R100", "lag": "8d"}]


def rebase(winch: Doc) -> None:
    """After the second page the motor's core was found burnt: a change, and the baseline that carries it, by which the third page is measured."""
    pages = winch["periods"]
    winch["periods"] = pages[:2]
    next(c for c in winch["costs"] if c["name"] == "Rewinding")["amount"] = "16900.00"
    _baseline(winch, "B1", "With the motor core restacked", "2027-02-22T10:00", "Lorcan Astley", "Change C1: the motor core was burnt and is restacked", None)
    winch["periods"], winch["project"]["measured_against"] = pages, "B1"
    for page, code in zip(pages, ("B0", "B0", "B1"), strict=True):
        page["measured_against"] = code
    winch["changes"] = [{
        "code": "C1", "name": "Motor core restacked", "reason": "Found burnt when the windings came out", "from": "client", "days": 4, "cost": "2700.00",
        "lines": [{"activity": "W200", "amount": "2700.00"}], "raised": "2027-02-19", "state": "built", "decided_by": "Lorcan Astley",
        "decided_at": "2027-02-22T09:00", "baseline": "B1"}]


def write(path: Path, doc: Doc) -> None:
    found = RISKS.get(doc["project"].get("code", ""), [])
    if found:
        doc["risks"] = [{"code": c, "name": n, "probability": p, "impact": i, "state": s} for c, n, p, i, s in found]
    book_from({"project": {}} | doc | {"project": {"code": "X", "name": "X"} | doc["project"]})
    path.parent.mkdir(exist_ok=True)
    path.write_text(json.dumps(doc, indent=1, ensure_ascii=False) + "\n")


def main() -> None:
    common = {"currency": "EUR", "calendar": "five-day", "client": "Tarn Quay Harbour Trust"}
    buoys = book(common | {"code": "BUOYS", "name": "Navigation buoy renewal", "start": "2027-01-25T07:30", "manager": "Hester Quill", "benefit": "410000.00",
                           **marine("2027/14, outer channel"), "state": "Under way", "description": "Ten channel buoys renewed and relaid; planned with even-odds and safe durations."},
                 [FIVE, TIDE], ["Preparation", "Buoy bodies", "Lights", "Laying"], BUOYS)
    buoys["project"]["actuals"] = "progress"
    promise(buoys, "Lorcan Astley")
    _baseline(buoys, "B0", "Approved plan", "2027-01-20T16:00", "Lorcan Astley", "First approved plan", None)
    buoys["project"]["measured_against"] = "B0"
    play(buoys, ["2027-01-29", "2027-02-05", "2027-02-12", "2027-02-19", "2027-02-26", "2027-03-05"],
         {"B110": 0.8, "B200": 0.9, "B230": 0.75, "B210": 0.5, "B220": 0.45, "B240": 0.8, "B140": 0.9, "B310": 0.95},
         {("P03", "B230"): "Old coating thicker than on the samples; a day more of grit.",
          ("P04", "B210"): "Two bodies pitted deeper than surveyed, more weld than planned.",
          ("P05", "B220"): "A batch of primer refused, two bodies blasted again.",
          ("P06", "B220"): "Rain on three days under the open bay.",
          ("P06", "B310"): "Lanterns on the quay."})
    write(ROOT / "demo" / "buoys.json", buoys)
    lights = book(common | {"code": "LIGHTS", "name": "Breakwater lights", "start": "2027-02-01T07:30", "manager": "Hester Quill", "benefit": "90000.00",
                            **marine("2027/09, breakwater head"), "state": "Under way", "description": "Four lights on the breakwater, on new pedestals, without mains."},
                  [FIVE, TIDE], ["Preparation", "Pedestals", "Lights"], LIGHTS)
    _baseline(lights, "B0", "Approved plan", "2027-01-27T16:00", "Lorcan Astley", "First approved plan", None)
    lights["project"]["measured_against"] = "B0"
    play(lights, ["2027-02-05", "2027-02-12", "2027-02-19", "2027-02-26", "2027-03-05"], {}, {}, 0.98)
    lights["periods"][-1]["state"] = "wet"
    write(ROOT / "demo" / "lights.json", lights)
    winch = book(common | {"code": "WINCH", "name": "Slipway winch overhaul", "start": "2027-02-08T07:30", "manager": "Edda Marchbank", "benefit": "40000.00",
                           "kind": "Plant", "fields": {"asset": "SW-2"}, "state": "Under way", "description": "Gearbox, motor and starter of the slipway winch, before the spring hauling."},
                 [FIVE], ["Mechanical", "Electrical and test"], WINCH)
    _baseline(winch, "B0", "Approved plan", "2027-02-03T16:00", "Lorcan Astley", "First approved plan", None)
    winch["project"]["measured_against"] = "B0"
    play(winch, ["2027-02-12", "2027-02-19", "2027-02-26"], {"W120": 0.5, "W140": 0.7, "W200": 0.85},
         {("P02", "W120"): "Two planets pitted; measured again with the maker."}, 1.06)
    rebase(winch)
    write(ROOT / "demo" / "winch.json", winch)
    radar = book(common | {"code": "RADAR", "name": "Harbour radar replacement", "start": "2027-04-05T07:30", "manager": "Edda Marchbank", "benefit": "620000.00",
                           **marine("2027/21, radar out of service"), "state": "Approved", "description": "A new scanner on the signal hill. It waits for the ferry's mast to come off."},
                 [FIVE, TIDE], ["Design and licence", "Equipment", "Tower and supplies", "Set to work"], RADAR)
    wait_for_ferry(radar, before=True)
    _baseline(radar, "B0", "Approved plan", "2027-03-01T16:00", "Lorcan Astley", "First approved plan", None)
    radar["project"]["measured_against"] = "B0"
    wait_for_ferry(radar)
    radar["orders"] = [{"code": f"RO-{i}", "supplier": "Kestrel Marine", "text": c["name"], "date": "2027-03-05", "lines": [{"for": c["code"], "amount": c["amount"]}]}
                       for i, c in enumerate(radar["costs"][:2], 1)]
    write(ROOT / "demo" / "radar.json", radar)
    templates = ROOT / "server" / "projects" / "templates"
    common = {"currency": "EUR", "calendar": "five-day", "start": "2027-01-04T08:00"}
    write(templates / "quay-works.json",
          book(common | {"name": "Quay or berth works", "description": "Survey, design, consents, piling, deck and services, with roles to be filled."},
               [PLAIN], ["Design and consents", "Materials", "Works", "Handover"], QUAY))
    write(templates / "equipment-renewal.json",
          book(common | {"name": "Equipment renewal", "description": "From need and specification to the new equipment in service, with roles to be filled."},
               [PLAIN], ["Need and choice", "Order and preparation", "Change-over"], RENEWAL))


if __name__ == "__main__":
    main()
