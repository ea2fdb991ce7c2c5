"""Results as a seal holds them: figures of a page that was closed under an earlier calculation are shown as they were.

What a seal does not hold (curves of a branch, other buckets, workings) is worked out anew.
"""

from collections.abc import Mapping
from dataclasses import replace
from decimal import Decimal
from typing import Any

from dryledger.baseline.snapshot import Difference
from dryledger.calendar.calendar import Instant, from_text
from dryledger.compute import Results
from dryledger.schedule.schedule import Schedule, Scheduled
from dryledger.value.curve import Point
from dryledger.value.measures import Measures

__all__ = ["sealed_results"]

Doc = Mapping[str, Any]


def sealed_results(r: Results, document: Doc) -> Results:
    """The results of a page with the figures of a results document in the place of those that were worked out."""
    out = replace(r, schedule=_schedule(r.schedule, document["schedule"]))
    value, differences = document["value"], document["differences"]
    known = out.__dict__
    known["project"] = known["totals"] = _measures(value["project"])
    known["wbs"] = {m["code"]: _measures(m) for m in value["wbs"]}
    known["activities"] = {m["code"]: _measures(m) for m in value["activities"]}
    known["points"] = [_point(p) for p in document["curve"]["points"]]
    rows = {("activity", d["code"]): _difference(d) for d in differences["activities"]}
    rows |= {("wbs", d["code"]): _difference(d) for d in differences["wbs"]}
    if differences["project"] is not None:
        rows["project", differences["project"]["code"]] = _difference(differences["project"])
    known["differences"] = rows
    known["drifts"] = {code: d.finish for (kind, code), d in rows.items() if kind == "activity" and d.finish is not None}
    known["project_drift"] = next((d.finish for (kind, _), d in rows.items() if kind == "project"), None)
    return out


def _instant(text: str | None) -> Instant | None:
    return None if text is None else from_text(text)


def _money(text: str | None) -> Decimal | None:
    return None if text is None else Decimal(text)


def _schedule(known: Schedule, document: Doc) -> Schedule:
    rows = {x["code"]: _scheduled(known.activities.get(x["code"]), x) for x in document["activities"]}
    return Schedule(from_text(document["finish"]), known.span, known.ties, make=lambda: rows)


def _scheduled(known: Scheduled | None, x: Doc) -> Scheduled:
    elapsed = known.duration - known.remaining if known is not None else 0
    return Scheduled(
        x["code"],
        x["state"],
        from_text(x["start"]),
        from_text(x["finish"]),
        from_text(x["early_start"]),
        from_text(x["early_finish"]),
        elapsed + x["remaining"],
        x["remaining"],
        known.worked_to if known is not None else None,
        _instant(x["resume"]),
        _instant(x["late_start"]),
        _instant(x["late_finish"]),
        x["total_float"],
        x["free_float"],
        x["critical"],
        list(x["driven_by"]),
        x["out_of_sequence"],
    )


def _measures(m: Doc) -> Measures:
    zero = Decimal(m["bac"]) * 0
    out = Measures(
        m["code"],
        Decimal(m["bac"]),
        zero if m["pv"] is None else Decimal(m["pv"]),
        Decimal(m["ev"]),
        Decimal(m["ac"]),
        {k: Decimal(v) for k, v in m["ac_by_source"].items()},
    )
    for name in ("sv", "cv", "etc", "vac"):
        setattr(out, name, _money(m[name]))
    for name in ("sv_percent", "cv_percent", "spi", "cpi", "tcpi_bac", "tcpi_eac"):
        setattr(out, name, m[name])
    for name in ("earned_schedule", "actual_time", "sv_t", "spi_t", "forecast_finish_t"):
        setattr(out, name, m.get(name))
    out.eac = {k: _money(v) for k, v in m["eac"].items()}
    out.reasons = dict(m["reasons"])
    return out


def _point(p: Doc) -> Point:
    others = {k: Decimal(v) for k, v in p.get("others", {}).items()}
    return Point(from_text(p["end"]), Decimal(p["pv"]), _money(p["ev"]), _money(p["ac"]), _money(p["forecast"]), others)


def _difference(d: Doc) -> Difference:
    return Difference(d["code"], d["start"], d["finish"], d["duration"], d["work"], Decimal(d["cost"]), d["change"])
