"""The registers of a project: notes, documents, assumptions, constraints, risks, issues, changes, and its own fields.

A register is a list of plain rows, each with a code and a name. What its other columns hold is declared once in
`REGISTERS`; reading, writing, the schema, spreadsheets and screens all follow that.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import date
from decimal import Decimal

from dryledger.book.reader import Reader
from dryledger.errors import Fault

__all__ = ["FIELD_KINDS", "REGISTERS", "Column", "Entry", "entry_document", "field_faults", "read_entry", "read_values", "value_document"]

Entry = Mapping[str, object]
"""One row: texts as str, numbers and amounts as Decimal, dates as date, lists of texts as tuples. Absent keys are empty."""

FIELD_KINDS = ("text", "number", "date", "choice", "yes_no", "formula")
MOST_TEXT = 20_000


@dataclass(frozen=True)
class Column:
    """One column of a register: its key, what it holds, and for a choice the words."""

    key: str
    kind: str = "text"
    options: tuple[str, ...] = ()
    signed: bool = False


_OWNER, _NOTE = Column("owner"), Column("note", "long")
REGISTERS: dict[str, tuple[Column, ...]] = {
    "notes": (Column("date", "date"), Column("text", "long")),
    "documents": (Column("address"), _NOTE),
    "assumptions": (_OWNER, _NOTE),
    "constraints": (_OWNER, _NOTE),
    "risks": (
        Column("probability", "percent"),
        Column("impact", "amount"),
        Column("delay"),
        Column("response", "long"),
        _OWNER,
        Column("state", "choice", ("open", "happened", "closed")),
    ),
    "issues": (_OWNER, Column("raised", "date"), Column("due", "date"), Column("state", "choice", ("open", "closed")), _NOTE),
    "changes": (
        Column("reason", "long"),
        Column("raised", "date"),
        Column("state", "choice", ("proposed", "approved", "refused")),
        Column("approved_by"),
        Column("decided", "date"),
        Column("cost", "amount", signed=True),
        _NOTE,
    ),
    "fields": (
        Column("kind", "choice", FIELD_KINDS),
        Column("options", "texts"),
        Column("formula", "long"),
        Column("in_reports", "choice", ("yes", "no")),
    ),
}


def read_entry(r: Reader, columns: tuple[Column, ...]) -> Entry:
    """One row of a register."""
    out: dict[str, object] = {"code": r.text("code", required=True), "name": r.text("name", required=True)}
    for c in columns:
        value = _read(r, c)
        if value is not None and value != () and value != "":
            out[c.key] = value
    r.done()
    return out


def _read(r: Reader, c: Column) -> object:
    if c.kind == "date":
        return r.date(c.key)
    if c.kind == "percent":
        return r.number(c.key, least=Decimal(0), most=Decimal(100))
    if c.kind == "amount":
        return r.amount(c.key, negative=c.signed)
    if c.kind == "choice":
        return r.choice(c.key, c.options, "")
    if c.kind == "texts":
        return r.texts(c.key)
    text = r.maybe_text(c.key)
    if text is not None and len(text) > MOST_TEXT:
        r.fault(f"has {len(text):,} characters; at most {MOST_TEXT:,} are kept", c.key)
    return text


def value_document(value: object) -> object:
    """A value as the format writes it."""
    if isinstance(value, date):
        return value.isoformat()
    if isinstance(value, tuple):
        return list(value)
    if isinstance(value, Decimal):
        return int(value) if value == value.to_integral_value() else value
    return value


def entry_document(entry: Entry, columns: tuple[Column, ...]) -> dict[str, object]:
    """One row of a register as the format writes it; amounts as texts."""
    out: dict[str, object] = {"code": entry["code"], "name": entry["name"]}
    for c in columns:
        if c.key in entry:
            value = entry[c.key]
            out[c.key] = f"{value:f}" if c.kind == "amount" and isinstance(value, Decimal) else value_document(value)
    return out


def read_values(r: Reader) -> dict[str, object]:
    """The values that an activity has in the project's own fields, by the field's code; their kinds are checked later."""
    child = r.child("fields")
    if child is None:
        return {}
    assert isinstance(child.value, dict)
    out: dict[str, object] = {}
    for key, value in child.value.items():
        if isinstance(value, bool) or (isinstance(value, str) and len(value) <= MOST_TEXT):
            out[key] = value
        elif isinstance(value, (int, float, Decimal)):
            out[key] = child.number(key)
        elif value is not None:
            child.fault("expected a text, a number, true or false", key)
    return out


def field_faults(definitions: tuple[Entry, ...], activities: Iterator[tuple[str, Mapping[str, object]]]) -> Iterator[Fault]:
    """Values that are not what their field holds; `activities` gives the path and values of each."""
    known = {str(d["code"]): d for d in definitions}
    for i, d in enumerate(definitions):
        if d.get("kind") == "choice" and not d.get("options"):
            yield Fault(f"fields[{i}].options", "a choice needs at least one word to choose from")
        if d.get("kind") == "formula" and not d.get("formula"):
            yield Fault(f"fields[{i}].formula", "a formula is required for this kind of field")
    for path, values in activities:
        for code, value in values.items():
            at = f"{path}.fields.{code}"
            definition = known.get(code)
            if definition is None:
                yield Fault(at, f"there is no field “{code}”")
            elif (wrong := _wrong(definition, value)) is not None:
                yield Fault(at, wrong)


def _wrong(definition: Entry, value: object) -> str | None:
    kind, name = definition.get("kind", "text"), definition["name"]
    if kind == "formula":
        return f"“{name}” is worked out by its formula and holds no value of its own"
    if kind == "number":
        return None if isinstance(value, Decimal) else f"“{name}” holds a number"
    if kind == "yes_no":
        return None if isinstance(value, bool) else f"“{name}” holds true or false"
    if not isinstance(value, str):
        return f"“{name}” holds a text"
    if kind == "date":
        try:
            date.fromisoformat(value)
        except ValueError:
            return f"“{name}” holds a date such as 2027-01-28"
    options = definition.get("options") or ()
    if kind == "choice" and isinstance(options, tuple) and value not in options:
        return f"“{name}” holds one of {', '.join(options)}"
    return None
