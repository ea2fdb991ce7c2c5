"""Which rule a row takes its mark from: the conditions of mark rules, evaluated over the figures of the catalogue.

Source: calculation contract, section 14. A figure that is None, or another figure that is None, makes every comparison but
`empty` false. Figures compare as Results print them; where either side is a date, both compare by date.
"""

import operator
from collections.abc import Callable, Sequence
from datetime import date
from decimal import Decimal
from typing import Any

from dryledger.book.mark_rules import Condition, MarkRule, Scalar, kind_of
from dryledger.book.reader import duration_minutes, split_duration
from dryledger.calendar.calendar import DAY, Calendar, Instant, from_text, midnight
from dryledger.compute import Results
from dryledger.figure_values import Value
from dryledger.readings import reader

__all__ = ["Test", "calendar_of", "first_that_holds", "holds"]

Test = Callable[[str], bool]
_ORDER: dict[str, Callable[[Any, Any], Any]] = {
    "=": operator.eq,
    "!=": operator.ne,
    "<": operator.lt,
    "<=": operator.le,
    ">": operator.gt,
    ">=": operator.ge,
}
Comparable = Decimal | int | str | bool
ZERO_DAY = "0d"


def first_that_holds(r: Results, rules: Sequence[MarkRule], scope: str) -> Callable[[str], MarkRule | None]:
    """The first rule of a scope that holds for a row, by its code."""
    own = [(rule, holds(r, rule)) for rule in rules if rule.scope == scope]

    def first(code: str) -> MarkRule | None:
        for rule, test in own:
            if test(code):
                return rule
        return None

    return first


def holds(r: Results, rule: MarkRule) -> Test:
    """Whether a rule holds for a row, by its code; one without conditions always does."""
    tests = [_condition(r, c, rule.scope) for c in rule.conditions]
    if len(tests) == 1:
        return tests[0]
    wanted = rule.match == "any" and bool(tests)

    def test(code: str) -> bool:
        for one in tests:
            if one(code) is wanted:
                return wanted
        return not wanted

    return test


def calendar_of(r: Results, scope: str, code: str) -> Calendar:
    """The calendar that a row's durations and working days count on: the activity's, else the project's."""
    return r.book.calendar_by_code[r.book.activity_by_code[code].calendar if scope == "activity" else r.book.project.calendar]


def _condition(r: Results, c: Condition, scope: str) -> Test:
    figure, kind = reader(r, c.figure, scope), kind_of(c.figure, scope, r.book.fields) or ""
    if c.comparison == "empty":
        return lambda code: figure(code) is None
    if c.comparison == "not_empty":
        return lambda code: figure(code) is not None
    if c.working_days is not None:
        return _against_working_days(r, c, scope, figure)
    if c.than is not None:
        other, other_kind = reader(r, c.than, scope), kind_of(c.than, scope, r.book.fields) or ""
        by_date = "date" in (kind, other_kind)

        def against(code: str) -> bool:
            a, b = _exact_or_none(figure(code), kind, by_date), _exact_or_none(other(code), other_kind, by_date)
            return a is not None and b is not None and _compared(c.comparison, a, b)

        return against
    values = c.value if isinstance(c.value, tuple) else (c.value,)
    if kind == "duration":
        return _against_durations(r, c, scope, figure, [str(x) for x in values])
    sides = [(_written(x, kind, by_date), by_date) for x in values if x is not None for by_date in [_is_by_date(x, kind)]]
    comparison = "=" if c.comparison == "one_of" else c.comparison

    def test(code: str) -> bool:
        found = figure(code)
        return found is not None and any(_compared(comparison, _exact(found, kind, by_date), side) for side, by_date in sides)

    return test


def _is_by_date(value: Scalar, kind: str) -> bool:
    """Whether a written value compares by date: each of a list for itself."""
    return kind == "date" or (kind == "instant" and isinstance(value, str) and len(value) == 10)


def _against_durations(r: Results, c: Condition, scope: str, figure: Callable[[str], Value], values: list[str]) -> Test:
    """Durations are reckoned on the row's calendar."""
    splits = [split_duration(x) or split_duration(ZERO_DAY) for x in values]
    known: dict[str, list[int]] = {}

    def test(code: str) -> bool:
        a = figure(code)
        if a is None:
            return False
        calendar = calendar_of(r, scope, code)
        sides = known.get(calendar.code)
        if sides is None:
            sides = known[calendar.code] = [duration_minutes(*split, calendar) for split in splits if split is not None]
        if c.comparison == "one_of":
            return a in sides
        return _compared(c.comparison, _number(a), sides[0])

    return test


def _against_working_days(r: Results, c: Condition, scope: str, figure: Callable[[str], Value]) -> Test:
    """The n-th date with working time in the row's calendar after that of the status date; 0 is that date itself."""
    count, known = int(c.working_days or 0), dict[str, Instant | None]()

    def test(code: str) -> bool:
        a = _exact_or_none(figure(code), "date" if isinstance(figure(code), str) else "instant", True)
        if a is None or r.status is None:
            return False
        calendar = calendar_of(r, scope, code)
        if calendar.code not in known:
            known[calendar.code] = _working_day(calendar, r.status, count)
        day = known[calendar.code]
        return day is not None and _compared(c.comparison, a, day)

    return test


MOST_DAYS_AWAY = 366 * 200


def _working_day(calendar: Calendar, status: Instant, count: int) -> Instant | None:
    """The midnight that opens the n-th date with working time after (before, where n < 0) the date of an instant."""
    day, step = status // DAY, 1 if count > 0 else -1
    left, gone = abs(count), 0
    while left:
        day += step
        gone += 1
        if gone > MOST_DAYS_AWAY or day < 0:
            return None
        if calendar.axis.between(day * DAY, (day + 1) * DAY):
            left -= 1
    return day * DAY


def _exact_or_none(value: Value, kind: str, by_date: bool) -> Comparable | None:
    return None if value is None else _exact(value, kind, by_date)


def _exact(value: Decimal | float | int | str | bool, kind: str, by_date: bool) -> Comparable:
    """A figure in a form that compares: dates and instants as instants (by date as the midnight that opens it), ratios exact."""
    if kind in ("instant", "date"):
        t = _date(value) if isinstance(value, str) else int(value)
        return t // DAY * DAY if by_date else t
    if kind in ("number", "percent", "ratio", "money", "duration"):
        return _number(value)
    return value if isinstance(value, bool) else str(value)


def _number(value: Value) -> Comparable:
    if isinstance(value, bool | int | Decimal):
        return value
    return Decimal(str(value)) if isinstance(value, float) else str(value)


def _date(text: str) -> Instant:
    return midnight(date.fromisoformat(text)) if len(text) == 10 else from_text(text)


def _written(value: Scalar, kind: str, by_date: bool) -> Comparable:
    """The other side as it is written, in the same form."""
    if kind in ("instant", "date") and isinstance(value, str):
        t = _date(value)
        return t // DAY * DAY if by_date else t
    if kind == "money":
        return Decimal(str(value))
    return value if isinstance(value, bool | Decimal | str) else ""


def _compared(comparison: str, a: Comparable, b: Comparable) -> bool:
    if isinstance(a, str) != isinstance(b, str) or isinstance(a, bool) != isinstance(b, bool):
        return False  # of an own field that holds something else
    return bool(_ORDER[comparison](a, b))
