"""What a figure is, and how it is written."""

from decimal import Decimal

from dryledger.calendar.calendar import to_text

__all__ = ["Value", "whole", "written"]

Value = Decimal | float | int | str | bool | None
"""What a figure is: money and an own field's number Decimal, ratios, per cents and numbers float, durations and instants
int (minutes), dates and texts str, flags bool."""


def whole(value: Value) -> int | None:
    """An instant or a length as the minutes that it is.

    >>> whole(480), whole(None)
    (480, None)
    """
    assert value is None or (isinstance(value, int) and not isinstance(value, bool))
    return value


def written(value: Value, kind: str) -> str | None:
    """A figure as files and answers write it: instants as the book does, money and numbers in plain digits.

    >>> written(Decimal("12.50"), "money"), written(0, "instant"), written(True, "flag"), written(None, "date")
    ('12.50', '0001-01-01T00:00', 'true', None)
    """
    if value is None or isinstance(value, str):
        return value
    if isinstance(value, bool):
        return "true" if value else "false"
    if kind == "instant":
        assert isinstance(value, int)
        return to_text(value)
    return f"{value:f}" if isinstance(value, Decimal) else str(value)
