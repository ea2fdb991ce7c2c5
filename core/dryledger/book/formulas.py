"""Formula fields: a project's own columns worked out from others, such as ``crew * days`` or ``cost / bac * 100``.

A formula is one expression: numbers, texts in quotes, + - * / % and ** of numbers, + of texts, comparisons, `in`, and, or,
not, `x if y else z`, and the functions below. Names are the codes of other fields and the figures of the catalogue
(`dryledger.figures`). Nothing else can be reached, numbers and texts stay within bounds, and so does the time it takes.
"""

import ast
from collections.abc import Callable, Mapping, Sequence
from decimal import Context, Decimal, localcontext
from functools import lru_cache
from threading import Lock
from typing import Any

from simpleeval import InvalidExpression, SimpleEval

from dryledger.book.registers import FieldDefinition
from dryledger.errors import EntryRefused
from dryledger.words import sentence

__all__ = ["check_formula", "names_in", "values_of"]

MOST, LONGEST = 500, 2000
"""Characters of a formula, and of a text that it makes."""
PLACES, HIGHEST = 15, 100
"""Places that are rounded to, and exponents, either way."""
EXACT = Context(prec=28, Emax=24, Emin=-60)
"""What a formula is worked out in: a number of more than 25 digits before the point is refused."""
_PARSING = Lock()
"""One text is parsed at a time: Python 3.11 counts the depth of what it parses for all threads together, and fails when they meet."""
_KNOWN = (
    *(ast.Expression, ast.BinOp, ast.UnaryOp, ast.BoolOp, ast.Compare, ast.IfExp, ast.Call, ast.Constant, ast.Name, ast.Load),
    *(ast.Add, ast.Sub, ast.Mult, ast.Div, ast.Mod, ast.Pow, ast.UAdd, ast.USub, ast.Not, ast.And, ast.Or),
    *(ast.Eq, ast.NotEq, ast.Lt, ast.LtE, ast.Gt, ast.GtE, ast.In, ast.NotIn),
)


class _Beyond(ArithmeticError):
    """A number or text that is beyond what a formula may make; its text says so."""


def _round(value: object, places: object = Decimal(0)) -> Decimal:
    if not -PLACES <= _number(places) <= PLACES:
        raise _Beyond(sentence("formulas.too_many_places", most=PLACES))
    return round(_number(value), int(_number(places)))


FUNCTIONS: dict[str, Callable[..., Any]] = {"min": min, "max": max, "round": _round, "abs": abs, "len": len}


@lru_cache(1000)
def names_in(formula: str) -> frozenset[str]:
    """The names that a formula calls; none where it can't be read.

    >>> sorted(names_in("round(cost / days, 0) if days else 0"))
    ['cost', 'days', 'round']
    """
    tree = _parsed(formula)
    return frozenset() if isinstance(tree, str) else frozenset(node.id for node in ast.walk(tree) if isinstance(node, ast.Name))


def check_formula(formula: str) -> None:
    """Whether a formula can be kept: one that can be read, and holds nothing but what formulas are made of. Raises EntryRefused.

    >>> check_formula("round(cost / days, 0)")
    >>> check_formula("name.upper()")
    Traceback (most recent call last):
    ...
    dryledger.errors.EntryRefused: A formula is made of numbers, texts, names, + - * / % and min, max, round, abs, len. Write it so.
    """
    tree = _parsed(formula)
    if isinstance(tree, str):
        raise EntryRefused("formula", tree)


def values_of(definitions: Sequence[FieldDefinition], given: Mapping[str, object], figures: Mapping[str, object]) -> dict[str, object]:
    """The values of all fields of one activity, formulas worked out in the order of the definitions.

    A formula that can't be worked out gives its reason as a text beginning with "?".

    >>> fields = (FieldDefinition("crew", "Crew", "number"), FieldDefinition("load", "Load", "formula", formula="crew * days"))
    >>> values_of(fields, {"crew": Decimal(3)}, {"days": Decimal(5)})
    {'crew': Decimal('3'), 'load': Decimal('15')}
    """
    out: dict[str, object] = {d.code: given[d.code] for d in definitions if d.code in given}
    for d in definitions:
        if d.kind == "formula":
            out[d.code] = _worked_out(d.formula or "", {**figures, **out}, [x.code for x in definitions])
    return out


@lru_cache(1000)
def _parsed(formula: str) -> ast.expr | str:
    """A formula as it is worked out, or in words why it can't be."""
    if len(formula) > MOST:
        return sentence("formulas.formula_most_characters", most=MOST)
    try:
        with _PARSING:
            tree = ast.parse(formula.strip(), mode="eval")
    except (SyntaxError, ValueError, RecursionError, MemoryError):
        return sentence("formulas.not_read")
    for node in ast.walk(tree):
        if not isinstance(node, _KNOWN) or (isinstance(node, ast.Call) and not _is_known_call(node)):
            return sentence("formulas.made_of")
        if isinstance(node, ast.Constant):
            try:
                _constant(node.value)
            except _Beyond as beyond:
                return str(beyond)
    return tree.body


def _is_known_call(node: ast.Call) -> bool:
    return isinstance(node.func, ast.Name) and node.func.id in FUNCTIONS and not node.keywords


def _worked_out(formula: str, names: Mapping[str, object], fields: list[str]) -> object:
    tree = _parsed(formula)
    if isinstance(tree, str):
        return f"? {tree}"
    known = dict.fromkeys([c for c in fields if c.isidentifier()], Decimal(0)) | dict(names)
    machine = SimpleEval(operators=_OPERATORS, names=known, functions=FUNCTIONS)
    machine.nodes[ast.Constant] = lambda node: _constant(node.value)
    try:
        with localcontext(EXACT):
            value = _bounded(machine.eval(formula, tree))
    except ZeroDivisionError:
        return sentence("formulas.divides_zero")
    except _Beyond as beyond:
        return f"? {beyond}"
    except InvalidExpression as wrong:
        return f"? {str(wrong)[:120]}"
    except ArithmeticError:
        return f"? {sentence('formulas.too_large')}"
    except (TypeError, ValueError, KeyError, RecursionError) as wrong:
        return sentence("formulas.cant_worked_out", value=str(wrong)[:80] or type(wrong).__name__)
    return value if isinstance(value, bool | str | Decimal) else sentence("formulas.gives_no_single_value")


def _constant(value: object) -> object:
    """Numbers of a formula are exact decimals, as all others are. Raises _Beyond for a number or text that can't be kept."""
    if isinstance(value, bool):
        return value
    if isinstance(value, str) and all(c.isprintable() for c in value):
        return value
    if type(value) in (int, float):
        return _bounded(Decimal(str(value)))
    raise _Beyond(sentence("formulas.made_of"))


def _bounded(value: object) -> object:
    """A value within the bounds of formulas, whole numbers as decimals. Raises _Beyond."""
    if isinstance(value, str) and len(value) > LONGEST:
        raise _Beyond(sentence("formulas.text_too_long", most=LONGEST))
    if type(value) in (int, float):
        value = Decimal(str(value))
    if isinstance(value, Decimal) and (not value.is_finite() or value.adjusted() > EXACT.Emax):
        raise _Beyond(sentence("formulas.too_large"))
    return value


def _number(value: object) -> Decimal:
    if isinstance(value, Decimal):
        return value
    if isinstance(value, bool):
        return Decimal(value)
    raise _Beyond(sentence("formulas.not_a_number", value=str(value)[:40]))


def _of_numbers(work: Callable[[Decimal, Decimal], Decimal]) -> Callable[[object, object], object]:
    return lambda a, b: _bounded(work(_number(a), _number(b)))


def _plus(a: object, b: object) -> object:
    return _bounded(a + b if isinstance(a, str) and isinstance(b, str) else _number(a) + _number(b))


def _power(a: object, b: object) -> object:
    if abs(_number(b)) > HIGHEST:
        raise _Beyond(sentence("formulas.too_large"))
    return _bounded(_number(a) ** _number(b))


_OPERATORS: dict[type[ast.AST], Callable[..., object]] = {
    ast.Add: _plus,
    ast.Sub: _of_numbers(lambda a, b: a - b),
    ast.Mult: _of_numbers(lambda a, b: a * b),
    ast.Div: _of_numbers(lambda a, b: a / b),
    ast.Mod: _of_numbers(lambda a, b: a % b),
    ast.Pow: _power,
    ast.UAdd: _number,
    ast.USub: lambda a: -_number(a),
    ast.Not: lambda a: not a,
    ast.Eq: lambda a, b: a == b,
    ast.NotEq: lambda a, b: a != b,
    ast.Lt: lambda a, b: a < b,
    ast.LtE: lambda a, b: a <= b,
    ast.Gt: lambda a, b: a > b,
    ast.GtE: lambda a, b: a >= b,
    ast.In: lambda a, b: a in b,
    ast.NotIn: lambda a, b: a not in b,
}
