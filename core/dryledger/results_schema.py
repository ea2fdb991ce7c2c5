"""The JSON Schema (2020-12) of the results format, its measures made from the catalogue of figures.

`docs/formats/results.schema.json` is this, written down; a test keeps the two and the writer together.
"""

from dryledger.baseline.snapshot import Difference
from dryledger.book.lists import EAC_METHODS, SOURCES, TREATMENTS
from dryledger.book.mark_rules import MARKS
from dryledger.figures import figures_of
from dryledger.timeline.progress_line import AGAINST
from dryledger.value.curve import CURVE_BUCKETS
from dryledger.value.statistics import COLUMNS, ROWS

__all__ = ["results_schema"]

Schema = dict[str, object]
TEXT: Schema = {"type": "string"}
MAYBE: Schema = {"type": ["string", "null"]}
MINUTES: Schema = {"type": "integer"}
MONEY: Schema = {"type": "string", "pattern": r"^-?\d+(\.\d+)?$"}
INSTANT: Schema = {"type": "string", "pattern": r"^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$"}
NUMBER: Schema = {"type": "number"}
FLAG: Schema = {"type": "boolean"}
REASONS: Schema = {"type": "object", "additionalProperties": TEXT}
KINDS: dict[str, Schema] = {
    **dict.fromkeys(("text", "choice", "date"), TEXT),
    **dict.fromkeys(("percent", "ratio", "number"), NUMBER),
    "money": MONEY,
    "instant": INSTANT,
    "duration": MINUTES,
    "flag": FLAG,
}


def _or_null(of: Schema) -> Schema:
    return {"anyOf": [of, {"type": "null"}]}


def _object(properties: dict[str, Schema], optional: tuple[str, ...] = ()) -> Schema:
    required = [key for key in properties if key not in optional]
    return {"type": "object", "properties": properties, "required": required, "additionalProperties": False}


def _list(of: Schema) -> Schema:
    return {"type": "array", "items": of}


def _ref(name: str) -> Schema:
    return {"$ref": f"#/$defs/{name}"}


def _scheduled() -> Schema:
    figures = {f.key: _or_null(KINDS[f.kind]) for f in figures_of("activity", "schedule")}
    return _object({"code": TEXT, "percent": NUMBER, "driven_by": _list(TEXT)} | figures)


def _measures(with_schedule: bool) -> Schema:
    scope = "project" if with_schedule else "activity"
    figures = {f.key: _or_null(KINDS[f.kind]) for f in figures_of(scope, "measures") if f.key != "eac" and "." not in f.key}
    sources: Schema = {"type": "object", "propertyNames": {"enum": list(SOURCES)}, "additionalProperties": MONEY}
    return _object(
        {"code": TEXT}
        | figures
        | {"ac_by_source": sources, "eac": _object({key: _or_null(MONEY) for key in EAC_METHODS}), "reasons": REASONS}
    )


def _difference() -> Schema:
    fields = Difference.__dataclass_fields__
    kinds: dict[str, Schema] = {"code": TEXT, "cost": MONEY, "change": {"enum": ["both", "added", "removed"]}}
    return _object({key: kinds.get(key, _or_null(MINUTES)) for key in fields})


def _curve() -> Schema:
    point = _object(
        {
            "end": INSTANT,
            "pv": MONEY,
            **{key: _or_null(MONEY) for key in ("ev", "ac", "forecast")},
            "others": {"type": "object", "additionalProperties": MONEY},
        },
        ("others",),
    )
    return _object({"bucket": {"enum": list(CURVE_BUCKETS)}, "points": _list(point), "reason": TEXT}, ("reason",))


def _statistics() -> Schema:
    rows: dict[str, Schema] = {}
    for name in ROWS:
        kind = INSTANT if name in ("start", "finish") else MONEY if name == "cost" else MINUTES
        apart = MINUTES if kind is INSTANT else kind
        rows[name] = _object({c: _or_null(apart if c == "variance" else kind) for c in COLUMNS})
    return _object({"code": TEXT} | rows | {"reasons": REASONS}, ("code",))


def _mark() -> Schema:
    figure: Schema = {"type": ["string", "number", "boolean", "null"]}
    named: Schema = {"type": "object", "additionalProperties": figure}
    return _object({"code": TEXT, "mark": {"enum": list(MARKS)}, "rule": MAYBE, "reason": MAYBE, "figures": named})


def _phased() -> Schema:
    cells = _list(MONEY)
    row = _object({"activity": TEXT, "wbs": TEXT, "cells": cells, "total": MONEY}, ("activity", "wbs"))
    return _object(
        {
            "rows": _list(row),
            "wbs": _list(_object({"code": TEXT, "cells": cells, "total": MONEY})),
            "cells": cells,
            "total": MONEY,
            "cumulative": cells,
        }
    )


def _work() -> Schema:
    amounts = _object({"minutes": _list(MINUTES), "total_minutes": MINUTES, "cost": _or_null(_list(MONEY)), "total_cost": _or_null(MONEY)})
    return _object(
        {
            "activity": TEXT,
            "resource": TEXT,
            "planned": _or_null(amounts),
            "worked": amounts,
            "remaining": amounts,
            "reasons": REASONS,
        }
    )


def results_schema() -> Schema:
    """The whole schema."""
    bucket: Schema = {"enum": list(CURVE_BUCKETS)}
    scopes: Schema = _object({"project": _ref("statistics"), "wbs": _list(_ref("statistics"))})
    line = _object({"date": INSTANT, "page": MAYBE, "points": _list(_object({"code": TEXT, "at": INSTANT}))})
    parts: dict[str, Schema] = {
        "schedule": _object({"finish": INSTANT, "activities": _list(_ref("scheduled"))}),
        "value": _object({"project": _ref("measures"), "wbs": _list(_ref("measures")), "activities": _list(_ref("activity_measures"))}),
        "curve": _ref("curve"),
        "differences": _object(
            {"activities": _list(_ref("difference")), "wbs": _list(_ref("difference")), "project": _or_null(_ref("difference"))}
        ),
        "checks": _list(_object({"check": TEXT, "severity": {"enum": ["error", "ask", "plan"]}, "rows": _list(TEXT), "message": TEXT})),
        "marks": _object(
            {
                "activities": _list(_ref("mark")),
                "wbs": _list(_ref("mark")),
                "project": _ref("mark"),
                "rules": _list(_object({"code": TEXT, "catches": {"type": "integer", "minimum": 0}})),
            }
        ),
        "statistics": scopes,
        "budget": _object(
            {
                "bucket": bucket,
                "ends": _list(INSTANT),
                "of": {"enum": ["baseline", "present"]},
                **{key: _ref("phased") for key in ("budget", "actual", "remaining")},
                "reason": TEXT,
            },
            ("of", "budget", "actual", "remaining", "reason"),
        ),
        "work": _object({"bucket": bucket, "ends": _list(INSTANT), "rows": _list(_ref("work")), "reason": TEXT}, ("reason",)),
        "progress_line": _object({"against": {"enum": list(AGAINST)}, "lines": _list(line)}),
        "selection": _object(
            {"scope": _list(TEXT), "value": _ref("measures"), "curve": _ref("curve"), "statistics": _ref("statistics")},
            ("value", "curve", "statistics"),
        ),
    }
    head: dict[str, Schema] = {
        "format": {"const": "dry-ledger-results"},
        "version": {"const": 1},
        "calculation": {"type": "integer"},
        "status": _or_null(INSTANT),
        "treatment": {"enum": list(TREATMENTS)},
        "baseline": MAYBE,
    }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Dry Ledger results, version 1",
        "description": "All figures of a book at one page. Durations are minutes, money is a decimal string.",
        **_object(head | parts, tuple(parts)),
        "$defs": {
            "scheduled": _scheduled(),
            "measures": _measures(True),
            "activity_measures": _measures(False),
            "difference": _difference(),
            "curve": _curve(),
            "mark": _mark(),
            "statistics": _statistics(),
            "phased": _phased(),
            "work": _work(),
        },
    }
