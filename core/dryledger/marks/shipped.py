"""The rules that give marks where a book brings none of its own.

Source: calculation contract, section 14. A rule that catches for one of two reasons stands twice, so that each says its own.
"""

from decimal import Decimal

from dryledger.book.mark_rules import Condition, MarkRule, Scalar

__all__ = ["SHIPPED"]


def _rule(code: str, scope: str, mark: str, *conditions: Condition, reason: str = "") -> MarkRule:
    return MarkRule(code, scope, mark, "all", reason, conditions)


def _is(figure: str, comparison: str, value: Scalar) -> Condition:
    return Condition(figure, comparison, value)


LATE = "finishes {finish_difference} late"
FINISH = "The finish lies {finish_difference} after the baseline's."
BEHIND = "Earned value is below what was planned by this date (SPI {spi})."
DEAR = "Work done cost more than it earned (CPI {cpi})."
LOW, LOWER = Decimal("0.95"), Decimal("0.80")

SHIPPED: tuple[MarkRule, ...] = (
    _rule("A-done", "activity", "done", _is("state", "=", "complete")),
    _rule("A-act-late", "activity", "act", _is("finish_difference", ">=", "5d"), reason=LATE),
    _rule("A-act-float", "activity", "act", _is("total_float", "<", "0d"), reason="can't meet its constraint"),
    _rule("A-watch-late", "activity", "watch", _is("finish_difference", ">=", "1d"), reason=LATE),
    _rule("A-watch-order", "activity", "watch", _is("out_of_sequence", "=", True), reason="started out of sequence"),
    _rule("A-on-plan", "activity", "on_plan", _is("state", "=", "in_progress")),
    _rule("A-soon", "activity", "soon", Condition("start", "<=", working_days=Decimal(10))),
    _rule("W-done", "wbs", "done", _is("state", "=", "complete")),
    _rule("W-act-late", "wbs", "act", _is("finish_difference", ">=", "5d"), reason=FINISH),
    _rule("W-act-spi", "wbs", "act", _is("spi", "<", LOWER), reason=BEHIND),
    _rule("W-act-cpi", "wbs", "act", _is("cpi", "<", LOWER), reason=DEAR),
    _rule("W-watch-late", "wbs", "watch", _is("finish_difference", ">=", "1d"), reason=FINISH),
    _rule("W-watch-spi", "wbs", "watch", _is("spi", "<", LOW), reason=BEHIND),
    _rule("W-watch-cpi", "wbs", "watch", _is("cpi", "<", LOW), reason=DEAR),
    _rule("W-on-plan", "wbs", "on_plan", _is("state", "=", "in_progress")),
    _rule("P-done", "project", "done", _is("state", "=", "complete")),
    _rule("P-act-late", "project", "act", _is("finish_difference", ">=", "8d"), reason=FINISH),
    _rule(
        "P-act-deadline",
        "project",
        "act",
        _is("deadline_difference", ">", "0d"),
        reason="The finish misses the deadline by {deadline_difference}.",
    ),
    _rule("P-act-spi", "project", "act", _is("spi", "<", LOWER), reason=BEHIND),
    _rule("P-act-cpi", "project", "act", _is("cpi", "<", LOWER), reason=DEAR),
    _rule("P-watch-late", "project", "watch", _is("finish_difference", ">=", "1d"), reason=FINISH),
    _rule("P-watch-spi", "project", "watch", _is("spi", "<", LOW), reason=BEHIND),
    _rule("P-watch-cpi", "project", "watch", _is("cpi", "<", LOW), reason=DEAR),
    _rule("P-on-plan", "project", "on_plan"),
)
