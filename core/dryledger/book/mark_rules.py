"""Rules that give marks: what a row must be for a mark, as data of the book, and what must hold of them.

Source: calculation contract, section 14.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import TYPE_CHECKING

from dryledger.book.reader import read_amount, split_duration
from dryledger.book.registers import FieldDefinition
from dryledger.calendar.calendar import from_text
from dryledger.errors import Fault
from dryledger.figures import CATALOGUE, FIELD, figure
from dryledger.words import sentence

if TYPE_CHECKING:
    from dryledger.book.plan import Book
    from dryledger.book.since import New

__all__ = ["COMPARISONS", "MARKS", "SCOPES", "Condition", "MarkRule", "Scalar", "kind_of", "mark_rule_faults", "reason_parts"]

SCOPES = ("activity", "wbs", "project")
MARKS = ("done", "on_plan", "watch", "act", "soon", "not_due")
COMPARISONS = ("=", "!=", "<", "<=", ">", ">=", "empty", "not_empty", "one_of")
ORDERED = ("<", "<=", ">", ">=")
_FAMILIES = ({"money"}, {"duration"}, {"instant", "date"}, {"number", "percent", "ratio"}, {"text"}, {"choice"}, {"flag"})
_FIELD_KINDS = {"text": "text", "number": "number", "date": "date", "choice": "choice", "yes_no": "flag", "formula": "number"}

Scalar = str | Decimal | bool | tuple[str | Decimal | bool, ...]
"""What a figure is compared with: a text, a number, true or false, or several of them."""


@dataclass(frozen=True, slots=True)
class Condition:
    """A figure compared with a value, with another figure of its scope, or with the n-th working day from the status date."""

    figure: str
    comparison: str
    value: Scalar | None = None
    than: str | None = None
    working_days: Decimal | None = None


@dataclass(frozen=True, slots=True)
class MarkRule:
    """A mark for the rows of a scope of which all (or any) conditions hold; the reason may name figures in braces."""

    code: str
    scope: str
    mark: str
    match: str = "all"
    reason: str = ""
    conditions: tuple[Condition, ...] = ()


def kind_of(key: str, scope: str, fields: Sequence[FieldDefinition]) -> str | None:
    """The kind of a figure in a scope, None where it has no meaning there. `fields` are the project's own."""
    if key.startswith(FIELD):
        own = next((d for d in fields if d.code == key[len(FIELD) :]), None)
        return None if own is None or scope != own.scope else _FIELD_KINDS[own.holds]
    found = figure(key) if key in _KEYS else None
    return found.kind if found is not None and found.means(scope) else None


_KEYS = {f.key for f in CATALOGUE}


def reason_parts(reason: str) -> list[tuple[str, str]]:
    """A reason as plain texts, each with the key of the figure that follows it ("" after the last). Raises ValueError.

    >>> reason_parts("Finish {finish_difference} late {{really}}")
    [('Finish ', 'finish_difference'), (' late {really}', '')]
    """
    out, text, i = list[tuple[str, str]](), "", 0
    while i < len(reason):
        two = reason[i : i + 2]
        if two in ("{{", "}}"):
            text += two[0]
            i += 2
        elif reason[i] == "{":
            end = reason.find("}", i)
            key = reason[i + 1 : end] if end > 0 else ""
            if not key or "{" in key:
                raise ValueError(reason)
            out.append((text, key))
            text, i = "", end + 1
        elif reason[i] == "}":
            raise ValueError(reason)
        else:
            text += reason[i]
            i += 1
    return [*out, (text, "")]


def mark_rule_faults(book: "Book", new: "New") -> Iterator[Fault]:
    """Every fault of the rules, each at its place."""
    if not new.lists("mark_rules", "fields"):
        return
    for i, rule in enumerate(book.mark_rules):
        path = f"mark_rules[{i}]"
        try:
            parts = reason_parts(rule.reason)
        except ValueError:
            yield Fault(f"{path}.reason", sentence("mark_rules.braces"))
        else:
            for _, key in parts:
                if key and kind_of(key, rule.scope, book.fields) is None:
                    yield Fault(f"{path}.reason", sentence("mark_rules.no_figure", figure=key[:60], scope=_word(rule.scope)))
        for j, c in enumerate(rule.conditions):
            yield from _condition(c, rule.scope, book.fields, f"{path}.conditions[{j}]")


_SCOPE_WORDS = {"activity": "mark_rules.activity", "wbs": "mark_rules.wbs", "project": "mark_rules.project"}
_VALUE_WORDS = {
    "money": "mark_rules.value_money",
    "duration": "mark_rules.value_duration",
    "instant": "mark_rules.value_instant",
    "date": "mark_rules.value_date",
    "number": "mark_rules.value_number",
    "percent": "mark_rules.value_percent",
    "ratio": "mark_rules.value_ratio",
    "flag": "mark_rules.value_flag",
    "text": "mark_rules.value_text",
    "choice": "mark_rules.value_text",
}


def _word(scope: str) -> str:
    return sentence(_SCOPE_WORDS[scope])


def _condition(c: Condition, scope: str, fields: Sequence[FieldDefinition], at: str) -> Iterator[Fault]:
    kind = kind_of(c.figure, scope, fields)
    if kind is None:
        yield Fault(f"{at}.figure", sentence("mark_rules.no_figure", figure=c.figure[:60], scope=_word(scope)))
        return
    if kind in ("text", "choice", "flag") and c.comparison in ORDERED:
        yield Fault(f"{at}.is", sentence("mark_rules.no_order", figure=c.figure))
    sides = [key for key, x in (("value", c.value), ("than", c.than), ("working_days", c.working_days)) if x is not None]
    if c.comparison in ("empty", "not_empty"):
        if sides:
            yield Fault(f"{at}.{sides[0]}", sentence("mark_rules.no_other_side", comparison=c.comparison.replace("_", " ")))
        return
    if len(sides) != 1:
        yield Fault(at, sentence("mark_rules.one_other_side"))
        return
    if c.than is not None:
        yield from _other_figure(c, kind, scope, fields, at)
    elif c.working_days is not None:
        if kind not in ("instant", "date") or c.comparison == "one_of":
            yield Fault(f"{at}.working_days", sentence("mark_rules.days_of_dates", figure=c.figure))
        elif c.working_days != int(c.working_days):
            yield Fault(f"{at}.working_days", sentence("mark_rules.whole_days"))
    elif (c.comparison == "one_of") != isinstance(c.value, tuple):
        yield Fault(f"{at}.value", sentence("mark_rules.list_for_one_of"))
    elif not all(_suits(x, kind) for x in (c.value if isinstance(c.value, tuple) else (c.value,))):
        yield Fault(f"{at}.value", sentence(_VALUE_WORDS[kind], figure=c.figure))


def _other_figure(c: Condition, kind: str, scope: str, fields: Sequence[FieldDefinition], at: str) -> Iterator[Fault]:
    other = kind_of(c.than or "", scope, fields)
    if other is None:
        yield Fault(f"{at}.than", sentence("mark_rules.no_figure", figure=(c.than or "")[:60], scope=_word(scope)))
    elif c.comparison == "one_of":
        yield Fault(f"{at}.than", sentence("mark_rules.list_for_one_of"))
    elif not any(kind in family and other in family for family in _FAMILIES):
        yield Fault(f"{at}.than", sentence("mark_rules.other_kind", figure=c.figure, other=c.than or ""))


def _suits(value: object, kind: str) -> bool:
    """Whether a value is one of a kind, as the book writes it."""
    if kind == "flag":
        return isinstance(value, bool)
    if kind in ("number", "percent", "ratio"):
        return isinstance(value, Decimal)
    if not isinstance(value, str):
        return False
    if kind == "money":
        return read_amount(value) is not None
    if kind == "duration":
        return split_duration(value) is not None
    if kind in ("instant", "date"):
        return _is_date(value)
    return value != ""


def _is_date(text: str) -> bool:
    try:
        if len(text) == 10:
            date.fromisoformat(text)
        else:
            from_text(text)
    except ValueError:
        return False
    return len(text) in (10, 16)
