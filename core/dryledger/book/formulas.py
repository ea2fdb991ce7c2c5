"""Formula fields: a project's own columns worked out from others, such as ``crew * days`` or ``cost / bac * 100``.

A formula is one expression in the syntax of the expression library: numbers, texts in quotes, + - * / %, comparisons,
and, or, not, `x if y else z`, and the functions below. Names are the codes of other fields and the figures of the
catalogue (`dryledger.figures`). Nothing else can be reached.
"""

import ast
from collections.abc import Mapping
from decimal import Decimal
from functools import lru_cache
from threading import Lock

from simpleeval import InvalidExpression, SimpleEval

from dryledger.book.plan import Entry
from dryledger.words import sentence

__all__ = ["names_in", "values_of"]


def _round(value: Decimal, places: Decimal | int = 0) -> Decimal:
    return round(Decimal(value), int(places))


FUNCTIONS = {"min": min, "max": max, "round": _round, "abs": abs, "len": len}
MOST = 500
_PARSING = Lock()
"""One text is parsed at a time: Python 3.11 counts the depth of what it parses for all threads together, and fails when they meet."""


@lru_cache(1000)
def names_in(formula: str) -> frozenset[str]:
    """The names that a formula calls; none where it can't be read.

    >>> sorted(names_in("round(cost / days, 0) if days else 0"))
    ['cost', 'days', 'round']
    """
    try:
        with _PARSING:
            tree = ast.parse(formula[:MOST].strip(), mode="eval")
    except (SyntaxError, ValueError, RecursionError, MemoryError):
        return frozenset()
    return frozenset(node.id for node in ast.walk(tree) if isinstance(node, ast.Name))


def values_of(definitions: tuple[Entry, ...], given: Mapping[str, object], figures: Mapping[str, object]) -> dict[str, object]:
    """The values of all fields of one activity, formulas worked out in the order of the definitions.

    A formula that can't be worked out gives its reason as a text beginning with "?".

    >>> fields = ({"code": "crew", "name": "Crew", "kind": "number"},
    ...           {"code": "load", "name": "Load", "kind": "formula", "formula": "crew * days"})
    >>> values_of(fields, {"crew": Decimal(3)}, {"days": Decimal(5)})
    {'crew': Decimal('3'), 'load': Decimal('15')}
    """
    out: dict[str, object] = {str(d["code"]): given[str(d["code"])] for d in definitions if str(d["code"]) in given}
    for d in definitions:
        if d.get("kind") == "formula":
            out[str(d["code"])] = _worked_out(str(d.get("formula", "")), {**figures, **out}, [str(x["code"]) for x in definitions])
    return out


@lru_cache(1000)
def _parsed(formula: str) -> ast.AST:
    """A formula as the expression library reads it. Raises what reading it raises."""
    with _PARSING:
        tree: ast.AST = SimpleEval.parse(formula)
    return tree


def _worked_out(formula: str, names: Mapping[str, object], fields: list[str]) -> object:
    if len(formula) > MOST:
        return sentence("formulas.formula_most_characters", most=MOST)
    known = dict.fromkeys([c for c in fields if c.isidentifier()], Decimal(0)) | dict(names)
    machine = SimpleEval(names=known, functions=FUNCTIONS)
    machine.nodes[ast.Constant] = lambda node: _constant(node.value)
    try:
        value = machine.eval(formula, _parsed(formula))
    except ZeroDivisionError:
        return sentence("formulas.divides_zero")
    except InvalidExpression as wrong:
        return f"? {str(wrong)[:120]}"
    except (ArithmeticError, TypeError, ValueError, SyntaxError, KeyError, AttributeError, RecursionError, MemoryError) as wrong:
        return sentence("formulas.cant_worked_out", value=str(wrong)[:80] or type(wrong).__name__)
    if isinstance(value, bool | str | Decimal):
        return value
    return Decimal(str(value)) if isinstance(value, int | float) else sentence("formulas.gives_no_single_value")


def _constant(value: object) -> object:
    """Numbers of a formula are exact decimals, as all others are."""
    return Decimal(str(value)) if type(value) in (int, float) else value
