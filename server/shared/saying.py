"""Values in words, as documents and drawings say them: money, dates, ratios, days late or early."""

from datetime import date
from decimal import Decimal

from dryledger.entry.grammar import format_date as in_words
from dryledger.formats import format_number
from server.shared.words import sentence

MINUS = "\u2212"
NONE = "–"


def format_money(amount: str | None) -> str:
    """Money with thin spaces and a true minus, in the decimals it has.

    >>> format_money("-1234.50").replace(chr(0xa0), "_")
    '−1_234.50'
    """
    return "" if amount is None else format_number(Decimal(amount), ",f").replace("-", MINUS)


def format_date(instant: str | None) -> str:
    """A date as tables say it.

    >>> format_date("2027-03-12T16:00")
    '12 Mar 2027'
    """
    if not instant:
        return ""
    return in_words(date.fromisoformat(instant[:10]), short=True)


def late_in_words(days: str | float | None) -> str:
    """A drift in words."""
    if days is None:
        return sentence("document.baseline")
    late = float(days)
    if not late:
        return sentence("document.on_the_day")
    days = _days(abs(late))
    return sentence("document.late", days=days) if late > 0 else sentence("document.early", days=days)


def _days(days: float) -> str:
    return sentence("document.one_day" if abs(days) == 1 else "document.days", days=days).replace("-", MINUS)


def format_value(text: str | None, kind: str) -> str:
    """A value of any kind: money, ratio, percent, day, instant, date, days (late or early), length (in days), or words.

    >>> format_value("0.7274", "ratio"), format_value("12.50", "percent"), format_value("-1", "length"), format_value(None, "money")
    ('0.727', '12.5 %', '−1 day', '–')
    """
    if kind == "days":
        return late_in_words(text)
    if text is None:
        return NONE
    if kind == "length":
        return _days(float(text))
    if kind == "money":
        return format_money(text)
    if kind == "ratio":
        return format_number(float(text), ".3f")
    if kind == "percent":
        return f"{format_number(float(text), 'g')} %"
    if kind == "number":
        return format_number(float(text), "g").replace("-", MINUS)
    if kind in ("day", "instant", "date"):
        return format_date(text)
    return text
