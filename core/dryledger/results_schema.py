"""The JSON Schema (2020-12) of the results format, its measures made from the catalogue of figures.

`docs/formats/results.schema.json` is this, written down; a test keeps the two and the writer together.
"""

from dryledger.baseline.snapshot import Difference
from dryledger.book.lists import EAC_METHODS, SOURCES, TREATMENTS
from dryledger.book.mark_rules import MARKS
from dryledger.book.options import DOS
from dryledger.figures import figures_of
from dryledger.options.board import KINDS as KINDS_OF_COST
from dryledger.options.levelling import MODES
from dryledger.options.proposals import PROPOSAL_KINDS
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
    sources: Schema = {"type": "object", "propertyNames": {"enum": [*SOURCES, "progress"]}, "additionalProperties": MONEY}
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


def _money() -> Schema:
    cost = _object(
        {"activity": TEXT, "name": TEXT, "code": MAYBE} | dict.fromkeys(("expected", "ordered", "to_order", "counted", "to_pay"), MONEY)
    )
    amounts = dict.fromkeys(("original", "approved_changes", "authorised", "to_build", "unexplained", "baseline"), _or_null(MONEY))
    return _object(
        {
            "orders": _list(_object({"code": TEXT} | dict.fromkeys(("amount", "invoiced", "accrued", "left"), MONEY))),
            "costs": _list(cost),
            "outside": _list(cost),
            "budget": _object(
                {
                    "project": _object({**amounts, "reasons": REASONS}),
                    "wbs": _list(_object({"code": TEXT, **amounts, "reasons": REASONS})),
                }
            ),
            "reserves": _list(_object({"code": TEXT} | dict.fromkeys(("amount", "drawn", "left"), MONEY))),
        }
    )


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


def _standing(more: dict[str, Schema]) -> Schema:
    milestone = _object({"code": TEXT, "finish": INSTANT})
    return _object(
        more
        | {
            "finish": INSTANT,
            **{key: _or_null(MINUTES) for key in ("deadline_difference", "imposed_difference", "least_float")},
            **{key: _or_null(MONEY) for key in ("eac", "vac")},
            "milestones": _list(milestone),
            "over_allocated": NUMBER,
            "cost_by_kind": _object(dict.fromkeys(KINDS_OF_COST, MONEY)),
        }
    )


def _options_parts() -> dict[str, Schema]:
    """Levelling, chains, options and proposals."""
    codes = _list(TEXT)
    moved = dict.fromkeys(("was_start", "start", "was_finish", "finish"), INSTANT)
    over = {"resource": TEXT, "from": INSTANT, "to": INSTANT, "required": NUMBER, "available": NUMBER, "activities": codes}
    row = {"code": TEXT, "start": INSTANT, "finish": INSTANT, "even": MINUTES, "safety": MINUTES, "after": MAYBE}
    buffer = {"size": MINUTES, "start": INSTANT, "end": INSTANT}
    share: Schema = {"type": "number", "minimum": 0}
    point: dict[str, Schema] = {
        "progress": share,
        "use": _or_null(share),
        "zone": {"enum": ["fine", "watch", "act", "missed"]},
        "forecast_end": INSTANT,
        "pace": _or_null(_object({"rate": {"type": "number"}, "use": share, "date": INSTANT})),
        "used_by": _list(_object({"code": TEXT, "took": MINUTES, "waited": MINUTES})),
        "other": MINUTES,
    }
    feeding = _object({"join": MAYBE, **point, "reasons": REASONS}, ("reasons",))
    fever = _object({"period": TEXT, **point, "feeding": _list(feeding), "left_out": _list(codes), "reasons": REASONS}, ("reasons",))
    conflicts = _list(_object({"change": {"type": "integer", "minimum": 0}, "message": TEXT}))
    proposal: dict[str, Schema] = {
        "code": TEXT,
        "kind": {"enum": list(PROPOSAL_KINDS)},
        "gained": MINUTES,
        "cost": MONEY,
        "finish": INSTANT,
    }
    change: Schema = {"type": "object", "properties": {"do": {"enum": list(DOS)}}, "required": ["do"]}
    option = _standing({"code": TEXT, "conflicts": conflicts, "gained": MINUTES, "overlaps": _list(codes)})
    return {
        "chain": _object(
            {
                "page": MAYBE,
                "chain": _list(_object(row)),
                "length": MINUTES,
                "buffer": _or_null(_object(buffer)),
                "promise": _or_null(INSTANT),
                "feeding": _list(_object({"chain": _list(_object(row)), "join": MAYBE, **buffer, "shortage": MINUTES})),
                "without_safe": codes,
                "fever": _or_null(_object({"promise": TEXT, "date": INSTANT, "trail": _list(fever)})),
            }
        ),
        "level": _object(
            {
                "mode": {"enum": list(MODES)},
                "was_finish": INSTANT,
                "finish": INSTANT,
                "moved": _list(_object({"code": TEXT, **moved, "levelled": _or_null(INSTANT), "waits_for": codes})),
                "over_allocated": _list(_object(over)),
            }
        ),
        "options": _object({"present": _standing({}), "options": _list(option)}),
        "proposals": _list(_object({**proposal, "over_allocated": NUMBER, "changes": _list(change)})),
        "option": _object({"code": TEXT, "conflicts": conflicts}),
    }


def results_schema() -> Schema:
    """The whole schema."""
    bucket: Schema = {"enum": list(CURVE_BUCKETS)}
    scopes: Schema = _object({"project": _ref("statistics"), "wbs": _list(_ref("statistics"))})
    load = _object({"resource": TEXT} | {key: _list(NUMBER) for key in ("booked", "available", "over")})
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
        "money": _money(),
        "load": _object({"bucket": bucket, "ends": _list(INSTANT), "rows": _list(load), "reason": TEXT}, ("reason",)),
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
        **_options_parts(),
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
