"""Values in words, as documents and drawings say them: money, dates, ratios, days late or early."""

from datetime import date
from decimal import Decimal

from server.shared.words import sentence

THIN, MINUS = "\u00a0", "\u2212"
NONE = "–"


def said_money(amount: str | None) -> str:
    """Money with thin spaces and a true minus, in the decimals it has.

    >>> said_money("-1234.50").replace(chr(0xa0), "_")
    '−1_234.50'
    """
    return "" if amount is None else f"{Decimal(amount):,f}".replace(",", THIN).replace("-", MINUS)


def said_date(instant: str | None) -> str:
    """A date as tables say it.

    >>> said_date("2027-03-12T16:00")
    '12 Mar 2027'
    """
    if not instant:
        return ""
    d = date.fromisoformat(instant[:10])
    return f"{d.day} {d:%b} {d.year}"


def said_late(days: str | float | None) -> str:
    """A drift in words."""
    if days is None:
        return sentence("document.baseline")
    late = float(days)
    if not late:
        return "on the day"
    return f"{abs(late):g} {'day' if abs(late) == 1 else 'days'} {'late' if late > 0 else 'early'}"


def said(text: str | None, kind: str) -> str:
    """A value of any kind: money, ratio, percent, day, instant, date, days (late or early), length (in days), or words.

    >>> said("0.7274", "ratio"), said("12.50", "percent"), said("-1", "length"), said(None, "money")
    ('0.727', '12.5 %', '−1 day', '–')
    """
    if kind == "days":
        return said_late(text)
    if text is None:
        return NONE
    if kind == "length":
        return f"{float(text):g} {'day' if abs(float(text)) == 1 else 'days'}".replace("-", MINUS)
    if kind == "money":
        return said_money(text)
    if kind == "ratio":
        return f"{float(text):.3f}"
    if kind == "percent":
        return f"{float(text):g} %"
    if kind == "number":
        return f"{float(text):g}".replace("-", MINUS)
    if kind in ("day", "instant", "date"):
        return said_date(text)
    return text
