"""Activities by the values of the project's own fields."""

from dryledger.book.registers import fields_of
from dryledger.compute import Results
from dryledger.readings import field_values

__all__ = ["value_of_field", "values_by_field"]


def value_of_field(r: Results, field: str) -> dict[str, str]:
    """The value of an own field of every activity, as a text; "" where it has none. Raises KeyError for a field that is not there."""
    definition = {d.code: d for d in fields_of(r.book.fields, "activity")}[field]
    if definition.kind == "formula":
        return {a.code: _text(field_values(r, a.code).get(field)) for a in r.book.activities}
    return {a.code: _text(a.fields.get(field)) for a in r.book.activities}


def values_by_field(r: Results, most: int) -> dict[str, list[str]]:
    """The values that activities have, sorted, by the code of each own field that is stated; with none or more than `most` left out."""
    stated = [d.code for d in fields_of(r.book.fields, "activity") if d.kind != "formula"]
    found = {code: sorted(set(value_of_field(r, code).values()) - {""}) for code in stated}
    return {code: values for code, values in found.items() if 0 < len(values) <= most}


def _text(value: object) -> str:
    return "" if value is None else str(value)
