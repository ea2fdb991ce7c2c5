"""Results as the plain JSON document of the open format.

Source: the results format, version 1. `remaining`, floats and differences are working minutes, money decimal strings,
ratios rounded to six places.
"""

from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from operator import attrgetter

from dryledger.baseline.snapshot import Difference
from dryledger.calendar import calendar
from dryledger.calendar.calendar import Instant
from dryledger.changes.option import Conflict
from dryledger.checks.checks import checks
from dryledger.compute import CALCULATION, Results
from dryledger.errors import TooManyPoints
from dryledger.figures import figures_of
from dryledger.results_money import money_document
from dryledger.results_options import (
    chain_document,
    conflicts_document,
    level_document,
    options_document,
    proposals_document,
)
from dryledger.results_tables import (
    budget_document,
    lines_document,
    load_document,
    marks_document,
    selection_statistics,
    statistics_document,
    work_document,
)
from dryledger.schedule.schedule import Scheduled
from dryledger.value.curve import Point
from dryledger.value.measures import Measures

__all__ = ["MORE", "PARTS", "Asked", "measures_document", "results_document"]

to_text = lru_cache(100_000)(calendar.to_text)
"""The same few instants are written again and again."""
PARTS = ("schedule", "value", "curve", "differences", "checks")
MORE = ("money", "load", "marks", "statistics", "budget", "work", "progress_line", "chain", "level", "options", "proposals")
"""Parts that are only there where they are named."""


@dataclass(frozen=True)
class Asked:
    """What parts are asked for besides their names: the instants of progress lines (absent: the status date), the bars they
    are put on, a selection by its names ("wbs:2", "activity:A100"), how far levelling goes, and the option that was put on
    top with what of it did not fit.
    """

    at: tuple[Instant, ...] = ()
    against: str = "baseline"
    scope: tuple[str, ...] = ()
    level: str = "within_float"
    option: tuple[str, tuple[Conflict, ...]] | None = None


def results_document(r: Results, only: Collection[str] = PARTS, asked: Asked = Asked()) -> dict[str, object]:
    """Results as the plain JSON document of the open format; `only` names the parts wanted. Raises KeyError for a name of the
    selection that is not there.
    """
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
        out["curve"] = _curve(r.bucket, lambda: r.points)
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
    if "money" in only:
        out["money"] = money_document(r)
    if "load" in only:
        out["load"] = load_document(r, r.bucket)
    if "marks" in only:
        out["marks"] = marks_document(r)
    if "statistics" in only:
        out["statistics"] = statistics_document(r)
    if "budget" in only:
        out["budget"] = budget_document(r, r.bucket)
    if "work" in only:
        out["work"] = work_document(r, r.bucket)
    if "progress_line" in only:
        dates = asked.at or (() if r.status is None else (r.status,))
        out["progress_line"] = lines_document(r, dates, asked.against)
    if "chain" in only:
        out["chain"] = chain_document(r)
    if "level" in only:
        out["level"] = level_document(r, asked.level)
    if "options" in only:
        out["options"] = options_document(r)
    if "proposals" in only:
        out["proposals"] = proposals_document(r)
    if asked.option is not None:
        out["option"] = {"code": asked.option[0], "conflicts": conflicts_document(asked.option[1])}
    if asked.scope:
        out["selection"] = _selection(r, only, asked.scope)
    return out


def _selection(r: Results, only: Collection[str], names: Sequence[str]) -> dict[str, object]:
    """Value, curve and statistics of a union of branches and single activities."""
    parts = [name.partition(":") for name in names]
    activities, wbs = ([code for kind, _, code in parts if kind == wanted] for wanted in ("activity", "wbs"))
    for kind, _, code in parts:
        if code not in (r.valuation.activity_codes if kind == "activity" else r.book.wbs_above if kind == "wbs" else ()):
            raise KeyError(f"{kind}:{code}" if code else kind)
    scope = r.valuation.selection(activities, wbs)
    out: dict[str, object] = {"scope": list(names)}
    if "value" in only:
        out["value"] = measures_document(r.selection(activities, wbs), True)
    if "curve" in only:
        out["curve"] = _curve(r.bucket, lambda: r.curve_of_selection(activities, wbs))
    if "statistics" in only:
        out["statistics"] = selection_statistics(r, scope)
    return out


def _instant(t: Instant | None) -> str | None:
    return None if t is None else to_text(t)


def _money(amount: Decimal | None) -> str | None:
    return None if amount is None else f"{amount:f}"


_INSTANTS = [f.key for f in figures_of("activity", "schedule") if f.kind == "instant"]
_OTHERS = [f.key for f in figures_of("activity", "schedule") if f.kind != "instant"]
_instants, _others = attrgetter(*_INSTANTS), attrgetter(*_OTHERS)


def _scheduled(r: Results, x: Scheduled) -> dict[str, object]:
    percent = (r.progress[x.code].percent * 100).quantize(Decimal("1e-6"))
    out: dict[str, object] = {"code": x.code, "percent": float(percent), "driven_by": x.driven_by}
    out.update(zip(_OTHERS, _others(x), strict=True))
    out.update(zip(_INSTANTS, map(_instant, _instants(x)), strict=True))
    return out


_MEASURES = [f for f in figures_of("activity", "measures") if f.key != "eac" and "." not in f.key]
_AMOUNTS = [f.key for f in _MEASURES if f.kind == "money"]
_INDICES = [f.key for f in _MEASURES if f.kind != "money"]
_IN_TIME = [f.key for f in figures_of("project", "measures") if not f.means("activity")]
_amounts, _indices, _in_time = attrgetter(*_AMOUNTS), attrgetter(*_INDICES), attrgetter(*_IN_TIME)


def measures_document(m: Measures, with_schedule: bool) -> dict[str, object]:
    """The measures of one scope as JSON."""
    out: dict[str, object] = {"code": m.code}
    out.update(zip(_AMOUNTS, map(_money, _amounts(m)), strict=True))
    out.update(zip(_INDICES, _indices(m), strict=True))
    if "pv" in m.reasons:
        out["pv"] = None
    out["ac_by_source"] = {k: _money(v) for k, v in m.ac_by_source.items()}
    out["eac"] = {k: _money(v) for k, v in m.eac.items()}
    if with_schedule:
        out.update(zip(_IN_TIME, _in_time(m), strict=True))
    out["reasons"] = m.reasons
    return out


def _curve(bucket: str, points: Callable[[], list[Point]]) -> dict[str, object]:
    try:
        return {"bucket": bucket, "points": [_point(p) for p in points()]}
    except TooManyPoints as error:
        return {"bucket": bucket, "points": [], "reason": str(error)}


def _point(p: Point) -> dict[str, object]:
    out: dict[str, object] = {
        "end": to_text(p.end),
        "pv": _money(p.pv),
        "ev": _money(p.ev),
        "ac": _money(p.ac),
        "forecast": _money(p.forecast),
    }
    return out | {"others": {k: _money(v) for k, v in p.others.items()}} if p.others else out


_DIFFERENCES = [f.key.removesuffix("_difference") for f in figures_of("activity", "differences")]


def _difference(d: Difference) -> dict[str, object]:
    return {"code": d.code} | {k: f"{v:f}" if isinstance(v, Decimal) else v for k in _DIFFERENCES for v in (getattr(d, k),)}
