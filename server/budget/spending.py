"""Spending against the budget by time, for the screen and as files."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.currencies import DIGITS
from dryledger.book.registers import fields_of
from dryledger.calendar.calendar import to_text
from dryledger.errors import TooManyPoints
from dryledger.figures import FIELD
from dryledger.spending import Spending, SpendingRow, spending
from server.book.results import View
from server.shared.files import csv_text
from server.shared.problems import Refused
from server.shared.saying import format_date
from server.shared.words import sentence
from server.shared.workbooks import Book, ColumnHead

SERIES = ("budget", "actual", "forecast", "difference", "running")
INKS = {"budget": "pv", "actual": "ac", "forecast": "forecast"}
OWN_ROWS = ("wbs", "resource", "kind")


@dataclass
class SpendingLine:
    """One row: each series by bucket, and in all; a running difference has no sum."""

    kind: str
    code: str
    name: str
    level: int
    sums: bool
    series: dict[str, list[str]]
    totals: dict[str, str]


@dataclass
class RowsChoice:
    """What the rows can be."""

    key: str
    name: str


@dataclass
class SpendingOut:
    """Budget, actual, forecast, difference and running difference by time; `of` says whose budget."""

    status: str
    baseline: str | None
    of: str
    currency: str
    bucket: str
    by: str
    choices: list[RowsChoice]
    ends: list[str]
    lines: list[SpendingLine]
    total: SpendingLine
    curve: dict[str, list[str]]
    """The running sums of budget, actual and forecast of all."""


def spending_of(v: View, bucket: str, by: str) -> Spending:
    """The rows and their total. Raises Refused for rows that there are none of, and where there would be too many buckets."""
    try:
        return spending(v.results, bucket, by)
    except TooManyPoints as error:
        raise Refused("too-many-points", str(error), 422, field="bucket") from None
    except KeyError:
        raise Refused("not-found", sentence("budget.no_rows", by=by[:60]), 404, field="by") from None


def spending_out(v: View, bucket: str, by: str) -> SpendingOut:
    """What the budget room shows by time."""
    return _out(v, spending_of(v, bucket, by), by)


def _out(v: View, s: Spending, by: str) -> SpendingOut:
    r = v.results
    own = [RowsChoice(FIELD + d.code, d.name) for d in fields_of(v.book.fields, "activity")]
    choices = [*(RowsChoice(key, sentence(f"budget.rows_{key}")) for key in OWN_ROWS), *own]
    baseline, currency = r.baseline.code if r.baseline else None, v.book.project.currency
    status = to_text(r.status) if r.status is not None else ""
    ends = [to_text(e) for e in s.ends]
    curve = {key: _texts(cells) for key, cells in s.total.cumulative.items()}
    return SpendingOut(status, baseline, s.of, currency, s.bucket, by, choices, ends, [_line(x) for x in s.rows], _line(s.total), curve)


def _line(x: SpendingRow) -> SpendingLine:
    series = {key: _texts(getattr(x, key)) for key in SERIES}
    totals = {key: f"{x.whole(key):f}" for key in SERIES if key != "running"}
    return SpendingLine(x.kind, x.code, x.name, x.level, x.sums, series, totals)


def _texts(cells: Iterable[Decimal]) -> list[str]:
    return [f"{c:f}" for c in cells]


def _last_days(s: Spending) -> list[str]:
    """The last day of each bucket."""
    return [to_text(end - 1)[:10] for end in s.ends]


def _rows(out: SpendingOut) -> Iterator[tuple[SpendingLine, str, list[str], str]]:
    for x in [*out.lines, out.total]:
        for key in SERIES:
            yield x, sentence(f"budget.series_{key}"), x.series[key], x.totals.get(key, "")


def spending_csv(v: View, bucket: str, by: str) -> str:
    """A line for each row and series."""
    s = spending_of(v, bucket, by)
    out = _out(v, s, by)
    titles = ("Kind", "Code", "Name", "Series", "Total", *_last_days(s))
    return csv_text(titles, ((x.kind, x.code, x.name, word, total, *cells) for x, word, cells, total in _rows(out)))


def spending_xlsx(v: View, bucket: str, by: str) -> bytes:
    """A workbook: the totals by time with their charts, drawn from the cells, and a sheet for each series."""
    s = spending_of(v, bucket, by)
    out, days = _out(v, s, by), _last_days(s)
    book = Book(DIGITS.get(out.currency, 2))
    page = book.sheet(sentence("budget.series_all"))
    page.line(sentence("value.as_of", project=v.book.project.name, date=format_date(out.status), currency=out.currency))
    page.gap()
    heads = [ColumnHead("end", sentence("value.until"), "day"), *(ColumnHead(k, sentence(f"budget.series_{k}"), "money") for k in SERIES)]
    first, last = page.table(heads, [[day, *(out.total.series[k][i] for k in SERIES)] for i, day in enumerate(days)])
    if days:
        page.bars(sentence("budget.series_all"), first, last, 1, [(INKS[k], i) for i, k in enumerate(SERIES, 2) if k in INKS], "H3")
        page.chart_over_time(sentence("budget.series_running"), first, last, 1, [("running", len(SERIES) + 1)], "H27")
    page.freeze("B4")
    page.fit()
    for key in SERIES:
        page = book.sheet(sentence(f"budget.series_{key}"))
        heads = [ColumnHead(k, sentence(f"value.head_{k}")) for k in ("code", "name")]
        heads += [ColumnHead(day, day, "money") for day in days]
        heads += [] if key == "running" else [ColumnHead("total", sentence("value.head_total"), "money")]
        told = [[x.code, x.name, *x.series[key], *([x.totals[key]] if key in x.totals else [])] for x in [*out.lines, out.total]]
        page.table(heads, told, 1)
        page.freeze("C2")
        page.fit()
    return book.content()
