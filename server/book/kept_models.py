"""Rows that stand beside the plan in a book: estimates, answers, mark rules, the report's layout, options, promises."""

from typing import Any

from django.db import models

from dryledger.book import lists_beside
from server.book.rows import BookRow, JsonField, NumberField, untouched

Codes = dict[str, dict[int, str]]
REFERS = {"from": "activities", "to": "activities", "activity": "activities", "resource": "resources"}


def named_in(change: dict[str, Any]) -> dict[str, str]:
    """What the words of a change name: for each that is there the list in which it stands."""
    row = {"row": "resources" if change.get("do") == "resource" else "activities"}
    return {word: name for word, name in (row | REFERS).items() if isinstance(change.get(word), str)}


def unique(name: str, *columns: str) -> list[models.BaseConstraint]:
    """A code stands once in its list."""
    return [models.UniqueConstraint("project", *columns, name=name)]


class Estimate(BookRow):
    """A top-down estimate kept by name, with what each element and activity got of its total."""

    LIST = lists_beside.ESTIMATES

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    measure = models.CharField(max_length=10, null=True)
    total = models.CharField(max_length=40)
    top = models.CharField(max_length=100, null=True)
    spread_to = JsonField(default=list)
    shares = JsonField(default=list)

    class Meta(BookRow.Meta):
        constraints = unique("estimate_code", "code")


class Answer(BookRow):
    """Why a row that a check caught is accepted, and until which page."""

    LIST = lists_beside.ANSWERS

    check_code = models.CharField(max_length=60)
    row = models.CharField(max_length=100)
    page = models.CharField(max_length=100)
    until = models.CharField(max_length=100, null=True)
    text = models.TextField()
    by = models.CharField(max_length=200, null=True)


class MarkRule(BookRow):
    """A rule that gives a mark, with its conditions as the book writes them."""

    LIST = lists_beside.MARK_RULES

    code = models.CharField(max_length=100)
    scope = models.CharField(max_length=10)
    match = models.CharField(max_length=3, null=True)
    mark = models.CharField(max_length=10)
    reason = models.TextField(null=True)
    conditions = JsonField(default=list)

    class Meta(BookRow.Meta):
        constraints = unique("mark_rule_code", "code")


class ReportLayout(BookRow):
    """How the report is laid out: its sections in their order, its own heads."""

    LIST = lists_beside.REPORT_LAYOUT

    sections = JsonField(null=True)
    heads = JsonField(null=True)
    levels = NumberField(null=True)

    class Meta(BookRow.Meta):
        constraints = unique("one_report_layout")


class ProgressLine(BookRow):
    """A date that a progress line is kept for."""

    LIST = lists_beside.PROGRESS_LINES

    at = models.CharField(max_length=16)
    name = models.CharField(max_length=200, null=True)


class Option(BookRow):
    """A named list of changes on top of the plan. `keys` says who the rows are that it names, so that other codes are followed.

    No step of the journal writes it but the one that adopts it: what is done in an option is nobody else's concern. `past` and
    `future` are its lists of changes before and after an undo, `based_on` the plan's revision that it was last made to fit.
    """

    LIST = lists_beside.OPTIONS

    code = models.CharField(max_length=100)
    name = models.CharField(max_length=300)
    state = models.CharField(max_length=10, null=True)
    notes = models.TextField(null=True)
    changes = JsonField(default=list)
    keys = JsonField(default=dict)
    past = JsonField(default=list)
    future = JsonField(default=list)
    based_on = models.IntegerField(default=1)
    seen = models.IntegerField(default=1)
    """Counts what was done to it."""

    class Meta(BookRow.Meta):
        constraints = unique("option_code", "code")

    def to_book(self, codes: Codes, exact: bool = False) -> dict[str, Any]:
        out: dict[str, Any] = {"code": self.code, "name": self.name}
        out |= {key: value for key, value in (("state", self.state), ("notes", self.notes)) if value}
        changes = [self._named(x, codes) for x in self.changes]
        return out | {"changes": untouched(changes, exact)} | self.written_extra(exact)

    def _named(self, change: dict[str, Any], codes: Codes) -> dict[str, Any]:
        """A change with the codes that its rows have now; a row that is gone keeps the code it had."""
        out = dict(change)
        for word, name in named_in(change).items():
            key = self.keys.get(name, {}).get(out[word])
            out[word] = codes[name].get(key, out[word])
        return out

    def remember(self, keys: dict[str, dict[str, int]]) -> None:
        """Note who the rows are that its changes name; `keys` gives, by list, the key of each code."""
        out: dict[str, dict[str, int]] = {}
        for change in self.changes:
            for word, name in named_in(change).items():
                key = keys.get(name, {}).get(change[word])
                if key is not None:
                    out.setdefault(name, {})[change[word]] = key
        self.keys = out


class Promise(BookRow):
    """Chains, lengths, buffers and hand-overs as they were approved."""

    LIST = lists_beside.PROMISES

    code = models.CharField(max_length=100)
    page = models.CharField(max_length=100, null=True)
    approved_by = models.CharField(max_length=200)
    chain = JsonField(default=list)
    buffer = JsonField(default=dict)
    feeding = JsonField(default=list)
    ties = JsonField(default=list)

    class Meta(BookRow.Meta):
        constraints = unique("promise_code", "code")
