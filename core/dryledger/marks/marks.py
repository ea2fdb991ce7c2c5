"""Marks: one status word for each activity, WBS element and the project, by the book's ordered rules.

Source: calculation contract, section 14. The first rule that holds gives the mark; where none does it is not due. Nothing
depends on the clock.
"""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from functools import cached_property, partial

from dryledger.book.mark_rules import MarkRule, kind_of, reason_parts
from dryledger.compute import Results
from dryledger.entry.grammar import format_day
from dryledger.figure_values import Value, whole
from dryledger.formats import format_number
from dryledger.marks.rules import calendar_of, first_that_holds, holds
from dryledger.marks.shipped import SHIPPED
from dryledger.readings import read, reader
from dryledger.words import spoken

__all__ = [
    "MARK_WORDS",
    "Mark",
    "Marks",
    "activity_marker",
    "days_text",
    "drift_days",
    "figures_in",
    "mark_word",
    "marks",
    "project_mark",
    "rules_of",
]

MARK_WORDS = {"done": "Done", "on_plan": "On plan", "watch": "Watch", "act": "Act", "soon": "Coming soon", "not_due": "Not due"}
TELLING = ("act", "watch")
"""Marks whose reasons are gathered from every rule of them that holds."""


def mark_word(mark: str) -> str:
    """What a mark is called; anything else is as it is."""
    return spoken(f"mark.{mark}", MARK_WORDS.get(mark, mark))


@dataclass(frozen=True)
class Mark:
    """A mark, and the rule that gave it."""

    mark: str
    rule: MarkRule | None = None
    tell: Callable[[], tuple[str, ...]] = field(default=tuple, repr=False, compare=False)

    @cached_property
    def reasons(self) -> tuple[str, ...]:
        """The reasons in words: its own first, then those of the other rules that hold. Put into words when somebody asks."""
        return self.tell()

    @property
    def word(self) -> str:
        """The mark in words."""
        return mark_word(self.mark)


@dataclass(frozen=True)
class Marks:
    """The mark of every row, and how many rows take theirs from each rule."""

    activities: dict[str, Mark]
    wbs: dict[str, Mark]
    project: Mark
    catches: dict[str, int] = field(default_factory=dict)


def rules_of(r: Results) -> Sequence[MarkRule]:
    """The rules of a book; where it has none the shipped ones."""
    return r.book.mark_rules or SHIPPED


def marks(r: Results, rules: Sequence[MarkRule] | None = None) -> Marks:
    """The marks of all rows, by the book's rules or by others that are tried."""
    used = rules_of(r) if rules is None else rules
    by = {scope: marker(r, scope, used) for scope in ("activity", "wbs", "project")}
    rows = {code: by["activity"](code) for code in r.schedule.activities}
    elements = {w.code: by["wbs"](w.code) for w in r.book.wbs}
    project = by["project"](r.book.project.code)
    catches = dict.fromkeys((rule.code for rule in used), 0)
    for mark in (*rows.values(), *elements.values(), project):
        if mark.rule is not None:
            catches[mark.rule.code] += 1
    return Marks(rows, elements, project, catches)


def marker(r: Results, scope: str, rules: Sequence[MarkRule]) -> Callable[[str], Mark]:
    """What says the mark of a row of a scope by its code."""
    first = first_that_holds(r, rules, scope)
    telling = [(rule, holds(r, rule)) for rule in rules if rule.scope == scope and rule.mark in TELLING and rule.reason]
    words = {rule.code: _reason(r, rule) for rule in rules if rule.scope == scope and rule.reason}

    def tell(rule: MarkRule, code: str) -> tuple[str, ...]:
        also = [other for other, test in telling if other is not rule and test(code)] if rule.mark in TELLING else []
        return tuple(dict.fromkeys(words[x.code](code) for x in (rule, *also) if x.reason))

    def marked(code: str) -> Mark:
        rule = first(code)
        return Mark("not_due") if rule is None else Mark(rule.mark, rule, partial(tell, rule, code))

    return marked


def activity_marker(r: Results) -> Callable[[str], Mark]:
    """What says the mark of an activity by its code."""
    return marker(r, "activity", rules_of(r))


def project_mark(r: Results) -> Mark:
    """The overall mark that the figures propose."""
    return marker(r, "project", rules_of(r))(r.book.project.code)


def _reason(r: Results, rule: MarkRule) -> Callable[[str], str]:
    """The reason of a rule for a row, with its figures in words."""
    parts = [(text, _shower(r, key, rule.scope) if key else None) for text, key in reason_parts(rule.reason)]
    return lambda code: "".join(text + (show(code) if show else "") for text, show in parts)


def figures_in(r: Results, rule: MarkRule, code: str) -> Iterable[tuple[str, str, Value]]:
    """The figures that a reason names, each with its kind, as they are for a row."""
    for _, key in reason_parts(rule.reason):
        if key:
            yield key, kind_of(key, rule.scope, r.book.fields) or "", reader(r, key, rule.scope)(code)


def _shower(r: Results, key: str, scope: str) -> Callable[[str], str]:
    read, kind = reader(r, key, scope), kind_of(key, scope, r.book.fields)
    return lambda code: _shown(r, read(code), kind, scope, code)


def _shown(r: Results, value: Value, kind: str | None, scope: str, code: str) -> str:
    if value is None:
        return "–"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if kind == "duration":
        return days_text(calendar_of(r, scope, code).days(whole(value) or 0), "")
    if kind == "instant":
        return format_day(whole(value) or 0)
    if kind == "ratio":
        return format_number(value, ".3f")
    if kind == "percent":
        return f"{format_number(value, '.1f')} %"
    if kind == "money":
        return f"{format_number(value, ',f')} {r.book.project.currency}"
    return str(value).replace("_", " ") if kind == "choice" else str(value)


def drift_days(r: Results, code: str | None = None, key: str = "finish_difference") -> Decimal | None:
    """Working days that the finish of an activity (or the project) lies after its baseline; None without one.

    `key` may be that of the difference from the first approved baseline.
    """
    usual = code is not None and key == "finish_difference"
    minutes = r.drift_of(code or "") if usual else whole(read(r, key, "project" if code is None else "activity", code))
    if minutes is None:
        return None
    calendar = r.book.project.calendar if code is None else r.book.activity_by_code[code].calendar
    return r.book.calendar_by_code[calendar].days(minutes)


def days_text(days: Decimal, of: str = "working ") -> str:
    """Days without needless decimals, with the word for them.

    >>> days_text(Decimal(6)), days_text(Decimal("0.55")), days_text(Decimal(1), "")
    ('6 working days', '0.6 working days', '1 day')
    """
    shown = days.quantize(Decimal("0.1")).normalize()
    return f"{format_number(shown if shown else Decimal(0))} {of}{'day' if shown == 1 else 'days'}"
