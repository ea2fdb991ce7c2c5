"""What the screens read off a whole Results: the gaps of the curve in words and in time, the driving path, shares done.

Source: calculation contract, sections 5, 10 and 11. Instants are minutes since 0001-01-01T00:00.
"""

from collections.abc import Iterable
from decimal import Decimal

from dryledger.calendar.calendar import DAY, Instant
from dryledger.compute import Results
from dryledger.formats import format_number
from dryledger.marks.marks import days_text
from dryledger.value.measures import Measures
from dryledger.words import sentence

__all__ = ["earned_on", "gap_sentences", "share_earned"]


def share_earned(m: Measures) -> float:
    """EV ÷ BAC of a scope to four places; 0 without a budget."""
    return round(float(m.ev / m.bac), 4) if m.bac else 0.0


def earned_on(r: Results, codes: Iterable[str], m: Measures) -> Instant | None:
    """The instant on the plan at which some activities had the value that they have earned now."""
    if m.earned_schedule is None or r.baseline is None:
        return None
    start = min(r.baseline.by_code[c].start for c in codes if c in r.baseline.by_code)
    axis = r.book.axis
    per_day = r.book.project_calendar.minutes_per_day
    return axis.first(axis.pos(start // DAY * DAY) + round(m.earned_schedule * per_day))


def gap_sentences(r: Results, m: Measures) -> list[str]:
    """What SV, CV and the time gap mean, a plain sentence each; nothing for a measure that is null."""
    unit, name = r.book.project.currency, r.baseline.code if r.baseline else ""

    def amount_words(value: Decimal) -> str:
        return f"{format_number(abs(value), ',f')} {unit}"

    out = []
    if m.sv is not None:
        out.append(
            sentence("gaps.sv_work_done_date", amount=amount_words(m.sv), value="less" if m.sv < 0 else "more", name=name)
            if m.sv
            else sentence("gaps.sv_much_done_planned", name=name)
        )
    if m.cv is not None:
        out.append(
            sentence("gaps.cv_work_done_cost", amount=amount_words(m.cv), value="more" if m.cv < 0 else "less")
            if m.cv
            else sentence("gaps.cv_as_budgeted")
        )
    if m.sv_t is not None:
        days = days_text(abs(Decimal(str(m.sv_t))))
        out.append(
            sentence("gaps.time_had_much_earned", name=name, days=days, value="before" if m.sv_t < 0 else "after")
            if m.sv_t
            else sentence("gaps.time_on_date", name=name)
        )
    return out
