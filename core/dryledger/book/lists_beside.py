"""The lists that stand beside the plan in a book, declared as those of the plan are: estimates, answers, mark rules, the report's
layout, progress lines, options and promises.
"""

from decimal import Decimal

from dryledger.book.answers import Answer
from dryledger.book.columns import CODE, NAME, Column, ListOf, choice, number
from dryledger.book.estimates import KeptEstimate, Share
from dryledger.book.mark_rules import COMPARISONS, MARKS, SCOPES, Condition, MarkRule
from dryledger.book.options import DOS, Buffer, Change, FeedingPromise, Length, Option, Promise, Tie
from dryledger.book.report_layout import KeptLine, ReportLayout

__all__ = ["ANSWERS", "CHANGES", "ESTIMATES", "MARK_RULES", "OPTIONS", "PROGRESS_LINES", "PROMISES", "REPORT_LAYOUT", "TIES"]

ONE = Decimal(1)
SHARES = ListOf(
    "shares",
    "Estimate shares",
    Share,
    (
        choice("kind", ("wbs", "activity"), required=True),
        Column("code", "code", required=True, names="kind"),
        Column("amount", "amount", required=True),
    ),
)
ESTIMATES = ListOf(
    "estimates",
    "Estimates",
    KeptEstimate,
    (
        CODE,
        NAME,
        choice("measure", ("hours", "money")),
        Column("total", "amount", required=True),
        Column("top", "code", names="wbs"),
        Column("spread_to", "texts", "Spread to", default=(), names="resources"),
        Column("shares", "rows", default=(), rows=SHARES),
    ),
)
ANSWERS = ListOf(
    "answers",
    "Answers to checks",
    Answer,
    (
        Column("check", attr="check_code", required=True),
        Column("row", "code", required=True, names="activities|resources"),
        Column("page", "code", required=True),
        Column("until", "code", "Until page"),
        Column("text", "long", required=True),
        Column("by", default=""),
    ),
)
CONDITIONS = ListOf(
    "mark_rules.conditions",
    "Mark conditions",
    Condition,
    (
        Column("figure", required=True),
        Column("is", "choice", attr="comparison", options=COMPARISONS, required=True),
        Column("value", "scalar"),
        Column("than"),
        Column("working_days", "number"),
    ),
)
MARK_RULES = ListOf(
    "mark_rules",
    "Mark rules",
    MarkRule,
    (
        Column("code", "code", required=True),
        choice("scope", SCOPES, "activity", required=True),
        choice("match", ("all", "any")),
        choice("mark", MARKS, "watch", required=True),
        Column("reason", "long", default=""),
        Column("conditions", "rows", default=(), rows=CONDITIONS),
    ),
)
REPORT_LAYOUT = ListOf(
    "report_layout",
    "Report layout",
    ReportLayout,
    (Column("sections", "texts", default=()), Column("heads", "texts", default=()), number("levels", ONE, least=ONE, most=Decimal(20))),
    single=True,
)
PROGRESS_LINES = ListOf(
    "progress_lines",
    "Progress lines",
    KeptLine,
    (Column("at", "instant", "Date", required=True), Column("name", default="")),
)
CHANGES = ListOf(
    "changes",
    "Option changes",
    Change,
    (
        choice("do", DOS, "set", required=True),
        Column("row"),
        Column("from", attr="source"),
        Column("to", attr="target"),
        Column("type"),
        Column("activity"),
        Column("resource"),
        Column("name"),
        Column("page", "code"),
        Column("cells", "doc"),
        Column("was", "doc"),
    ),
)
OPTIONS = ListOf(
    "options",
    "Options",
    Option,
    (
        CODE,
        NAME,
        choice("state", ("draft", "adopted")),
        Column("notes", "long", default=""),
        Column("changes", "rows", default=(), rows=CHANGES),
    ),
)
LENGTHS = ListOf(
    "chain",
    "Promised chain",
    Length,
    (
        Column("code", "code", "Activity code", required=True, names="activities", also=("code",)),
        Column("length", "span", on="project", required=True),
        Column("start", "instant", "Promised start"),
    ),
)
BUFFER = ListOf(
    "buffer",
    "Buffer",
    Buffer,
    (
        Column("size", "span", "Buffer size", on="project", required=True),
        Column("start", "instant", "Buffer start", required=True),
        Column("end", "instant", "Buffer end", required=True),
    ),
)
FEEDING = ListOf(
    "feeding",
    "Promised feeding chains",
    FeedingPromise,
    (
        Column("chain", "rows", required=True, default=(), rows=LENGTHS, inline=True),
        Column("join", "code", names="activities"),
        Column("buffer", "object", required=True, rows=BUFFER),
    ),
)
TIES = ListOf(
    "ties",
    "Promised hand-overs",
    Tie,
    (
        Column("from", "code", attr="source", required=True, names="activities"),
        Column("to", "code", attr="target", required=True, names="activities"),
        Column("resource", "code", required=True, names="resources"),
        number("units", default=ONE),
        Column("ended", "code", "Untied from page"),
    ),
)
PROMISES = ListOf(
    "promises",
    "Promises",
    Promise,
    (
        CODE,
        Column("page", "code"),
        Column("approved_by", required=True),
        Column("chain", "rows", required=True, default=(), rows=LENGTHS),
        Column("buffer", "object", required=True, rows=BUFFER),
        Column("feeding", "rows", default=(), rows=FEEDING),
        Column("ties", "rows", default=(), rows=TIES),
    ),
)
