"""Results as the plain JSON document of the open format.

Source: the results format, version 1. `remaining`, floats and differences are working minutes, money decimal strings,
ratios rounded to six places.
"""

from collections.abc import Collection
from decimal import Decimal
from functools import lru_cache

from dryledger.baseline.snapshot import Difference
from dryledger.calendar import calendar
from dryledger.calendar.calendar import Instant
from dryledger.checks.checks import checks
from dryledger.compute import CALCULATION, Results
from dryledger.errors import TooManyPoints
from dryledger.schedule.schedule import Scheduled
from dryledger.value.curve import Point
from dryledger.value.measures import Measures

__all__ = ["PARTS", "measures_document", "results_document"]

to_text = lru_cache(100_000)(calendar.to_text)
"""The same few instants are written again and again."""
PARTS = ("schedule", "value", "curve", "differences", "checks")


def results_document(r: Results, only: Collection[str] = PARTS) -> dict[str, object]:
    """Results as the plain JSON document of the open format; `only` names the parts wanted."""
    out: dict[str, object] = {
        "format": "dry-ledger-results",
        "version": 1,
        "calculation": CALCULATION,
        "status": _instant(r.status),
        "treatment": r.treatment,
        "baseline": r.baseline.code if r.baseline else None,
    }
    if "schedule" in only:
        out["schedule"] = {"finish": to_text(r.schedule.finish), "activities": [_scheduled(r, x) for x in r.schedule.activities.values()]}
    if "value" in only:
        out["value"] = {
            "project": measures_document(r.project, True),
            "wbs": [measures_document(m, True) for m in r.wbs.values()],
            "activities": [measures_document(m, False) for m in r.activities.values()],
        }
    if "curve" in only:
        out["curve"] = _curve(r)
    if "differences" in only:
        rows: dict[str, list[dict[str, object]]] = {"activity": [], "wbs": [], "project": []}
        for (kind, _), d in r.differences.items():
            rows[kind].append(_difference(d))
        out["differences"] = {
            "activities": rows["activity"],
            "wbs": rows["wbs"],
            "project": rows["project"][0] if rows["project"] else None,
        }
    if "checks" in only:
        out["checks"] = [{"check": f.check, "severity": f.severity, "rows": list(f.rows), "message": f.message} for f in checks(r)]
    return out


def _instant(t: Instant | None) -> str | None:
    return None if t is None else to_text(t)


def _money(amount: Decimal | None) -> str | None:
    return None if amount is None else f"{amount:f}"


def _scheduled(r: Results, x: Scheduled) -> dict[str, object]:
    percent = (r.progress[x.code].percent * 100).quantize(Decimal("1e-6"))
    return {
        "code": x.code,
        "state": x.state,
        "start": to_text(x.start),
        "finish": to_text(x.finish),
        "resume": _instant(x.resume),
        "remaining": x.remaining,
        "early_start": to_text(x.early_start),
        "early_finish": to_text(x.early_finish),
        "late_start": _instant(x.late_start),
        "late_finish": _instant(x.late_finish),
        "total_float": x.total_float,
        "free_float": x.free_float,
        "critical": x.critical,
        "driven_by": x.driven_by,
        "percent": float(percent),
        "out_of_sequence": x.out_of_sequence,
    }


def measures_document(m: Measures, with_schedule: bool) -> dict[str, object]:
    """The measures of one scope as JSON."""
    out: dict[str, object] = {
        "code": m.code,
        "bac": _money(m.bac),
        "pv": None if "pv" in m.reasons else _money(m.pv),
        "ev": _money(m.ev),
        "ac": _money(m.ac),
        "ac_by_source": {k: _money(v) for k, v in m.ac_by_source.items()},
        "sv": _money(m.sv),
        "cv": _money(m.cv),
        "sv_percent": m.sv_percent,
        "cv_percent": m.cv_percent,
        "spi": m.spi,
        "cpi": m.cpi,
        "eac": {k: _money(v) for k, v in m.eac.items()},
        "etc": _money(m.etc),
        "vac": _money(m.vac),
        "tcpi_bac": m.tcpi_bac,
        "tcpi_eac": m.tcpi_eac,
    }
    if with_schedule:
        out |= {
            "earned_schedule": m.earned_schedule,
            "actual_time": m.actual_time,
            "sv_t": m.sv_t,
            "spi_t": m.spi_t,
            "forecast_finish_t": m.forecast_finish_t,
        }
    return out | {"reasons": m.reasons}


def _curve(r: Results) -> dict[str, object]:
    try:
        return {"bucket": r.bucket, "points": [_point(p) for p in r.points]}
    except TooManyPoints as error:
        return {"bucket": r.bucket, "points": [], "reason": str(error)}


def _point(p: Point) -> dict[str, object]:
    out: dict[str, object] = {
        "end": to_text(p.end),
        "pv": _money(p.pv),
        "ev": _money(p.ev),
        "ac": _money(p.ac),
        "forecast": _money(p.forecast),
    }
    return out | {"others": {k: _money(v) for k, v in p.others.items()}} if p.others else out


def _difference(d: Difference) -> dict[str, object]:
    return {
        "code": d.code,
        "start": d.start,
        "finish": d.finish,
        "duration": d.duration,
        "work": d.work,
        "cost": _money(d.cost),
        "change": d.change,
    }
