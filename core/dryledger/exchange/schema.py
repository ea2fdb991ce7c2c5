"""The JSON Schema (2020-12) of the book format, made from the same words that reading knows.

`docs/formats/book.schema.json` is this, written down; a test keeps the two, the dataclasses and the reader together.
What a schema can't say (references, loops, overlaps, the order of periods) reading says.
"""

from dryledger.book.registers import REGISTERS, Column
from dryledger.exchange.records import ACCRUALS, CONSTRAINTS, EAC_METHODS, PERS, PROFILES, SOURCES, TREATMENTS, VALUE_METHODS, WEEKDAYS

__all__ = ["book_schema"]

Schema = dict[str, object]

TEXT: Schema = {"type": "string"}
CODE: Schema = {"type": "string", "pattern": r"\S"}
FLAG: Schema = {"type": "boolean"}
INSTANT: Schema = {"type": "string", "pattern": r"^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$"}
DATE: Schema = {"type": "string", "pattern": r"^\d{4}-\d{2}-\d{2}$"}
DURATION: Schema = {"type": "string", "pattern": r"^\d{1,9}(\.\d{1,9})?\s*(min|h|d|w|mo)$"}
LAG: Schema = {"type": "string", "pattern": r"^-?\d{1,9}(\.\d{1,9})?\s*(min|h|d|w|mo)$"}
AMOUNT: Schema = {"type": "string", "pattern": r"^\d{1,15}(\.\d{1,12})?$"}
SIGNED: Schema = {"type": "string", "pattern": r"^-?\d{1,15}(\.\d{1,12})?$"}
SHIFTS: Schema = {"type": "array", "items": {"type": "string", "pattern": r"^([01]\d|2[0-4]):[0-5]\d-([01]\d|2[0-4]):[0-5]\d$"}}


def _number(**bounds: object) -> Schema:
    return {"type": "number"} | bounds


def _one_of(words: tuple[str, ...]) -> Schema:
    return {"enum": list(words)}


def _maybe(schema: Schema) -> Schema:
    return {"anyOf": [schema, {"type": "null"}]}


def _object(required: str, exact: str = "", **properties: Schema) -> Schema:
    """An object; keys in `required` must be there, and neither they nor those in `exact` may be null."""
    firm = {*required.split(), *exact.split()}
    return {
        "type": "object",
        "properties": {k.rstrip("_"): v if k.rstrip("_") in firm else _maybe(v) for k, v in properties.items()},
        "patternProperties": {"^x-": {}},
        "additionalProperties": False,
        "required": required.split(),
    }


def _list(items: str | Schema) -> Schema:
    return {"type": "array", "items": {"$ref": f"#/$defs/{items}"} if isinstance(items, str) else items}


def _definitions() -> dict[str, Schema]:
    lists = "exceptions rates pauses cost_lines calendars activities statements hours costs weights"
    weight = _object("name weight at", name=CODE, weight=_number(minimum=0), at=_number(minimum=0, maximum=1))
    method = _object(
        "type",
        lists,
        type=_one_of(VALUE_METHODS),
        share=_number(minimum=0, maximum=1),
        weights=_list(weight),
        planned=_number(exclusiveMinimum=0),
        base=TEXT,
    )
    return {
        "calendar": _object(
            "code name week",
            lists,
            code=CODE,
            name=CODE,
            week=_object("", " ".join(WEEKDAYS), **dict.fromkeys(WEEKDAYS, SHIFTS)),
            exceptions=_list(_object("from to", "shifts", from_=DATE, to=DATE, shifts=SHIFTS, name=TEXT)),
            hours_per_day=_number(exclusiveMinimum=0, maximum=24),
            hours_per_week=_number(exclusiveMinimum=0, maximum=168),
            hours_per_month=_number(exclusiveMinimum=0, maximum=744),
        ),
        "pause": _object("from to", from_=INSTANT, to=INSTANT, reason=TEXT),
        "value_method": method,
        "resource": _object(
            "code name",
            lists,
            code=CODE,
            name=CODE,
            kind=_one_of(("labour", "equipment", "material")),
            units=_number(exclusiveMinimum=0),
            calendar=TEXT,
            role=FLAG,
            rates=_list(_object("from amount", from_=DATE, amount=AMOUNT, per=_one_of(PERS), overtime=AMOUNT)),
            skills=_list(TEXT),
        ),
        "wbs_element": _object("code name", code=CODE, name=CODE, parent=TEXT, weight=_number(minimum=0)),
        "activity": _object(
            "code name",
            lists,
            code=CODE,
            name=CODE,
            wbs=TEXT,
            calendar=TEXT,
            duration=DURATION,
            kind=_one_of(("task", "milestone")),
            mode=_one_of(("driven", "fixed")),
            start=INSTANT,
            finish=INSTANT,
            constraint=_object("type", type=_one_of(CONSTRAINTS), at=INSTANT),
            deadline=INSTANT,
            pauses=_list("pause"),
            driver=_one_of(("duration", "work")),
            value_method={"$ref": "#/$defs/value_method"},
            profile=_one_of(PROFILES),
            safe_duration=DURATION,
            weight=_number(minimum=0),
            fields={"type": "object", "additionalProperties": {"type": ["string", "number", "boolean", "null"]}},
        ),
        "link": _object(
            "from to",
            from_=CODE,
            to=CODE,
            type=_one_of(("FS", "SS", "FF", "SF")),
            lag=LAG,
            lag_basis=_one_of(("working", "elapsed")),
        ),
        "assignment": _object(
            "activity resource", activity=CODE, resource=CODE, units=_number(exclusiveMinimum=0), work=DURATION, quantity=_number(minimum=0)
        ),
        "direct_cost": _object(
            "activity name amount",
            activity=CODE,
            name=CODE,
            kind=_one_of(("fixed", "per_day")),
            amount=AMOUNT,
            accrual=_one_of(ACCRUALS),
            in_budget=FLAG,
        ),
        "baseline": _object(
            "code name taken calendar",
            lists,
            code=CODE,
            name=CODE,
            taken=INSTANT,
            approved_by=TEXT,
            reason=TEXT,
            calendar=CODE,
            calendars=_list("calendar"),
            activities=_list("baseline_activity"),
        ),
        "baseline_activity": _object(
            "code name start finish",
            lists,
            code=CODE,
            name=CODE,
            wbs=TEXT,
            calendar=TEXT,
            start=INSTANT,
            finish=INSTANT,
            duration=DURATION,
            work=DURATION,
            pauses=_list("pause"),
            value_method={"$ref": "#/$defs/value_method"},
            cost_lines=_list(_object("name amount", name=CODE, amount=AMOUNT, accrual=_one_of(ACCRUALS), profile=_one_of(PROFILES))),
        ),
        "period": _object(
            "code status",
            lists,
            code=CODE,
            status=INSTANT,
            state=_one_of(("dry", "wet")),
            statements=_list("statement"),
            hours=_list(
                _object("activity resource", activity=CODE, resource=CODE, worked=DURATION, overtime=DURATION, to_go=DURATION),
            ),
            costs=_list(
                _object("date amount source", activity=TEXT, wbs=TEXT, date=DATE, amount=SIGNED, source=_one_of(SOURCES), ref=TEXT),
            ),
        ),
        "estimate": _object(
            "code name total",
            "shares",
            code=CODE,
            name=CODE,
            measure=_one_of(("hours", "money")),
            total=AMOUNT,
            top=TEXT,
            shares=_list(_object("kind code amount", kind=_one_of(("wbs", "activity")), code=CODE, amount=AMOUNT)),
        ),
        "statement": _object(
            "activity",
            activity=CODE,
            actual_start=INSTANT,
            actual_finish=INSTANT,
            percent=_number(minimum=0, maximum=100),
            remaining=DURATION,
            carry_to=INSTANT,
            units_done=_number(minimum=0),
            milestones_reached=_list(TEXT),
            note=TEXT,
        ),
    }


def _register(columns: tuple[Column, ...]) -> Schema:
    """An entry of a register, as its columns are declared."""
    return _object("code name", "", code=CODE, name=CODE, **{c.key: _column(c) for c in columns})


def _column(c: Column) -> Schema:
    if c.kind == "choice":
        return _one_of(c.options)
    if c.kind == "amount":
        return SIGNED if c.signed else AMOUNT
    return {"date": DATE, "percent": _number(minimum=0, maximum=100), "texts": _list(TEXT)}.get(c.kind, TEXT)


def book_schema() -> Schema:
    """The whole schema."""
    project = _object(
        "code name currency start calendar",
        code=CODE,
        name=CODE,
        currency=CODE,
        start=INSTANT,
        calendar=CODE,
        imposed_finish=INSTANT,
        deadline=INSTANT,
        treatment=_one_of(TREATMENTS),
        critical_float=DURATION,
        measured_against=TEXT,
        compared_with=_list(TEXT),
        eac=_one_of(EAC_METHODS),
        client=TEXT,
        manager=TEXT,
        description=TEXT,
        state=TEXT,
    )
    lists = {
        "calendars": "calendar",
        "resources": "resource",
        "wbs": "wbs_element",
        "activities": "activity",
        "links": "link",
        "assignments": "assignment",
        "costs": "direct_cost",
        "baselines": "baseline",
        "periods": "period",
        **{key: key.removesuffix("s") for key in REGISTERS},
        "estimates": "estimate",
    }
    top = _object(
        "format version project calendars",
        " ".join(lists),
        format={"const": "dry-ledger-book"},
        version={"const": 1},
        project=project,
        **{key: _list(name) for key, name in lists.items()},
    )
    head: Schema = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Dry Ledger book, version 1",
        "description": "Everything of one project. Money is a decimal string, durations a number with min, h, d, w or mo.",
    }
    registers = {key.removesuffix("s"): _register(columns) for key, columns in REGISTERS.items()}
    return head | top | {"$defs": _definitions() | registers}
