"""What the marks room reads: the rules in force, what each catches now and on the pages before, and what trying others changes."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from dryledger.book.mark_rules import MarkRule
from dryledger.marks.marks import Mark, Marks, marks, rules_of
from dryledger.marks.shipped import SHIPPED
from dryledger.marks.written import rule_document, with_rules
from server.book.models import Page
from server.book.results import View, results_of
from server.marks.models import RuleSet
from server.shared.json_values import floats

PAGES_BACK = 3
MOST_ROWS = 300


@dataclass
class RuleOut:
    """A rule as the book writes it, with how many rows take their mark from it now and on the pages before (None: not there)."""

    code: str
    scope: str
    match: str
    mark: str
    reason: str
    conditions: list[dict[str, Any]]
    catches: int
    before: list[int | None]


@dataclass
class RuleSetOut:
    """A set of rules that the organisation keeps."""

    id: int
    name: str
    rules: list[dict[str, Any]]


@dataclass
class MarksOut:
    """The rules of a page. `own`: the project has its own; `uncaught` counts the rows that no rule holds for, by scope."""

    page: str
    status: str
    revision: int
    own: bool
    before: list[str]
    rules: list[RuleOut]
    uncaught: dict[str, int]
    fields: list[list[str]]
    """The project's own fields: code, name, kind, and whether they are of each activity or of the project."""
    sets: list[RuleSetOut]


@dataclass
class MarkChange:
    """A row whose mark is another under the rules that are tried."""

    scope: str
    code: str
    name: str
    was: str
    becomes: str
    reason: str


@dataclass
class TriedMarks:
    """What rules would do: what each catches, which rows change their mark (the first of them), and how many do."""

    catches: dict[str, int]
    uncaught: dict[str, int]
    count: int
    changes: list[MarkChange]


def marks_out(v: View) -> MarksOut:
    """The rules of a page and what they catch."""
    found, rules = marks(v.results), rules_of(v.results)
    pages = list(Page.objects.filter(project=v.project, order__lt=v.page.order).defer("inputs", "results").order_by("-order")[:PAGES_BACK])
    earlier = [marks(results_of(v.project, page)).catches for page in pages]
    return MarksOut(
        v.page.code,
        v.page.status,
        v.project.revision,
        bool(v.book.mark_rules),
        [page.code for page in pages],
        [_rule(rule, found.catches[rule.code], [x.get(rule.code) for x in earlier]) for rule in rules],
        _uncaught(found),
        [[d.code, d.name, d.holds, d.scope] for d in v.book.fields],
        [RuleSetOut(s.pk, s.name, s.rules) for s in RuleSet.objects.all()],
    )


def kept_rule(rule: MarkRule) -> dict[str, Any]:
    """A rule as the book writes it, its numbers as JSON has them."""
    out: dict[str, Any] = floats(rule_document(rule))
    return out


def _rule(rule: MarkRule, catches: int, before: list[int | None]) -> RuleOut:
    conditions = kept_rule(rule).get("conditions", [])
    return RuleOut(rule.code, rule.scope, rule.match, rule.mark, rule.reason, conditions, catches, before)


def _rows(found: Marks, project: str) -> dict[str, dict[str, Mark]]:
    return {"activity": found.activities, "wbs": found.wbs, "project": {project: found.project}}


def _uncaught(found: Marks) -> dict[str, int]:
    return {scope: sum(m.rule is None for m in rows.values()) for scope, rows in _rows(found, "").items()}


def try_rules(v: View, rules: Sequence[object]) -> TriedMarks:
    """What rules would do on a page; nothing is written. Raises BookInvalid."""
    book = with_rules(v.book, list(rules))
    was, now = marks(v.results), marks(v.results, book.mark_rules or SHIPPED)
    names = {"activity": {a.code: a.name for a in v.book.activities}, "wbs": {w.code: w.name for w in v.book.wbs}}
    names["project"] = {v.book.project.code: v.book.project.name}
    before, after = _rows(was, v.book.project.code), _rows(now, v.book.project.code)
    changes = [
        MarkChange(scope, code, names[scope].get(code, ""), before[scope][code].mark, mark.mark, mark.reasons[0] if mark.reasons else "")
        for scope, rows in after.items()
        for code, mark in rows.items()
        if before[scope][code].mark != mark.mark
    ]
    return TriedMarks(now.catches, _uncaught(now), len(changes), changes[:MOST_ROWS])
