"""The heads of a report: where schedule and cost stand by the project's mark rules, and which way each head went.

Source: calculation contract, section 14. A head's mark is that of the first of the project's rules that holds, of those that
look at its figures; a rule of several causes counts for a head with those of them that are its own.
"""

from collections.abc import Iterator
from dataclasses import replace

from dryledger.book.mark_rules import Condition, MarkRule
from dryledger.compute import Results
from dryledger.marks.marks import Mark, marker, rules_of

__all__ = ["HEAD_MARKS", "head_mark", "trend_of"]

HEAD_MARKS = ("on_plan", "watch", "act")
"""What a head can be, the best first; a project that is done is on plan."""
FIGURES = {
    "Schedule": frozenset(
        (
            *("status_date", "start", "finish", "actual_start", "actual_finish", "baseline_start", "baseline_finish"),
            *("deadline", "imposed_finish", "forecast_finish_t", "total_float", "duration", "baseline_duration"),
            *("start_difference", "finish_difference", "duration_difference", "deadline_difference", "imposed_difference"),
            *("percent_planned", "pv", "sv", "sv_percent", "spi", "spi_t", "earned_schedule", "actual_time", "sv_t"),
        )
    ),
    "Cost": frozenset(
        (
            *("work", "work_actual", "work_remaining", "baseline_work", "work_difference", "percent_spent", "bac", "ac"),
            *("cv", "eac", "etc", "vac", "eac.bottom_up", "eac.cpi", "eac.budget", "eac.cpi_spi", "eac.recent", "ac.hours"),
            *("ac.invoice", "ac.accrual", "ac.feed", "ac.correction", "cost", "cost_difference", "cv_percent", "cpi"),
            *("tcpi_bac", "tcpi_eac"),
        )
    ),
}
"""The figures that each of the two heads looks at; EV and what is earned of the budget, state and texts belong to both."""


def head_mark(r: Results, head: str) -> Mark:
    """The mark that the figures propose for "Schedule" or "Cost", with its reasons; on plan where no rule of the head holds."""
    mine = [rule for x in rules_of(r) if x.scope == "project" for rule in _of_head(x, head)]
    found = marker(r, "project", mine)(r.book.project.code)
    return found if found.mark in HEAD_MARKS else Mark("on_plan", found.rule)


def _of_head(rule: MarkRule, head: str) -> Iterator[MarkRule]:
    """The rule as far as it looks at a head's figures."""
    others = frozenset().union(*(keys for name, keys in FIGURES.items() if name != head))
    mine = FIGURES[head]

    def strange(c: Condition) -> bool:
        return c.figure in others or c.than in others

    if rule.match == "any":
        kept = tuple(c for c in rule.conditions if not strange(c))
        if kept or not rule.conditions:
            yield replace(rule, conditions=kept)
    elif any(c.figure in mine or c.than in mine for c in rule.conditions) or not any(strange(c) for c in rule.conditions):
        yield rule


def trend_of(was: str | None, mark: str) -> str:
    """Which way a head went since the last page: better, worse or same; nothing where there was none.

    >>> trend_of("act", "watch"), trend_of("on_plan", "watch"), trend_of("watch", "watch"), trend_of(None, "act")
    ('better', 'worse', 'same', '')
    """
    if was not in HEAD_MARKS or mark not in HEAD_MARKS:
        return ""
    apart = HEAD_MARKS.index(was) - HEAD_MARKS.index(mark)
    return "better" if apart > 0 else "worse" if apart < 0 else "same"
