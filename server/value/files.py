"""The value room as files: measures, curve, pages, statistics and work by time, as CSV and as workbooks with charts.

The charts of a workbook are drawn from its cells, so that they follow a figure that somebody changes there.
"""

from collections.abc import Sequence

from dryledger.book.currencies import DIGITS
from dryledger.budget.following import any_follows
from dryledger.marks.marks import mark_word
from server.book.results import View
from server.shared.files import csv_text
from server.shared.saying import format_date
from server.shared.words import sentence
from server.shared.workbooks import Book, ColumnHead
from server.value.curves import Of, curve
from server.value.selectors import COLUMNS, value
from server.value.shapes import CurveOut, FigureOut, MeasureRow
from server.value.tables import IN_ORDER, SERIES, series_word, statistics_out, work_out
from server.value.trend import ComparedOut, PageFigures, trend

KINDS = {"instant": "day", "date": "day", "duration": "number", "flag": "text", "choice": "text"}
CURVE = ("pv", "ev", "ac", "forecast")
LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"
PAGE_KINDS = {"spi": "ratio", "cpi": "ratio", "spi_t": "ratio", "eac": "money", "finish": "day", "late_days": "days", "float_days": "days"}


def _digits(v: View) -> int:
    return DIGITS.get(v.book.project.currency, 2)


def _rows(v: View, asked: Sequence[str]) -> tuple[list[FigureOut], list[MeasureRow]]:
    keys = list(asked) or list(COLUMNS)
    if any_follows(v.book) and "ac" in keys and "ac.progress" not in keys:
        keys.append("ac.progress")
    found = value(v, keys)
    return found.columns, [*found.rows, found.project]


def value_csv(v: View, asked: Sequence[str]) -> str:
    """The measures as CSV, a line for each row, the project last."""
    columns, rows = _rows(v, asked)
    titles = ("Kind", "Code", "Name", "Mark", *(c.word for c in columns))
    return csv_text(titles, ((r.kind, r.code, r.name, r.mark or "", *(r.figures[c.key] or "" for c in columns)) for r in rows))


def value_xlsx(v: View, asked: Sequence[str], wbs: str | None, bucket: str, baselines: Sequence[str] | None, of: Of = None) -> bytes:
    """The measures, the curve and the pages as a workbook."""
    columns, rows = _rows(v, asked)
    book = Book(_digits(v))
    page = book.sheet(sentence("value.measures"))
    page.line(sentence("value.as_of", project=v.book.project.name, date=format_date(v.page.status), currency=v.book.project.currency))
    page.gap()
    heads = [ColumnHead(key, sentence(f"value.head_{key}")) for key in ("code", "name", "mark")]
    heads += [ColumnHead(c.key, c.head, KINDS.get(c.kind, c.kind)) for c in columns]
    told = [[r.code, r.name, mark_word(r.mark or ""), *(r.figures[c.key] for c in columns)] for r in rows]
    page.table(heads, told, 1)
    page.freeze("C4")
    page.fit()
    curve_sheet(book, sentence("value.curve"), curve(v, wbs, bucket, baselines, of))
    _trend_sheet(book, v)
    return book.content()


def curve_sheet(book: Book, title: str, c: CurveOut) -> None:
    """A sheet with the points of a curve, what each bucket adds, and their charts."""
    page = book.sheet(title)
    others = sorted({k for p in c.points for k in p.others})
    methods = [k for k in c.eac if k != "bottom_up" and any(k in p.forecasts for p in c.points)]
    heads = [ColumnHead("end", sentence("value.until"), "day"), *(ColumnHead(k, sentence(f"value.line_{k}"), "money") for k in CURVE)]
    heads += [ColumnHead(k, sentence("value.line_other", baseline=k), "money") for k in others]
    heads += [ColumnHead(f"forecast {k}", sentence(f"value.forecast_{k}"), "money") for k in methods]
    first_added = len(heads) + 1
    heads += [ColumnHead(k, sentence(f"value.{k}"), "money") for k in ("added_pv", "added_ev", "added_ac")]
    rows = [
        [
            *(p.end, p.pv, p.ev, p.ac, p.forecast),
            *(p.others.get(k) for k in others),
            *(p.forecasts.get(k) for k in methods),
            *(p.added_pv, p.added_ev, p.added_ac),
        ]
        for p in c.points
    ]
    first, last = page.table(heads, rows)
    page.freeze("B2")
    if rows:
        at = LETTERS[min(len(heads) + 1, 25)]
        page.chart_over_time(title, first, last, 1, [(h.key, i) for i, h in enumerate(heads, 1) if 1 < i < first_added], f"{at}2")
        bars = [(h.key, i) for i, h in enumerate(heads, 1) if i >= first_added]
        page.bars(sentence("value.added"), first, last, 1, bars, f"{at}26")
    page.fit()


def _trend_rows(pages: Sequence[PageFigures]) -> tuple[list[ColumnHead], list[list[str | None]]]:
    heads = [ColumnHead("page", sentence("value.head_page")), ColumnHead("status", sentence("value.head_status"), "day")]
    heads += [
        ColumnHead("mark", sentence("value.head_mark")),
        *(ColumnHead(k, sentence(f"value.head_{k}"), kind) for k, kind in PAGE_KINDS.items()),
    ]
    rows = []
    for p in pages:
        figures = [getattr(p, k) for k in PAGE_KINDS]
        rows.append([p.page, p.status, mark_word(p.mark), *(None if x is None else str(x) for x in figures)])
    return heads, rows


def _trend_sheet(book: Book, v: View) -> None:
    heads, rows = _trend_rows(trend(v).pages)
    page = book.sheet(sentence("value.pages"))
    first, last = page.table(heads, rows)
    page.freeze("B2")
    at = {h.key: i for i, h in enumerate(heads, 1)}
    page.chart_by_row(sentence("value.indices"), first, last, 1, [(k, at[k]) for k in ("spi", "cpi", "spi_t")], f"B{page.row + 1}")
    page.fit()


def trend_csv(v: View) -> str:
    """The figures of every page as CSV."""
    heads, rows = _trend_rows(trend(v).pages)
    return csv_text([h.title for h in heads], ([x or "" for x in row] for row in rows))


def trend_xlsx(v: View) -> bytes:
    """The figures of every page as a workbook with the indices drawn."""
    book = Book(_digits(v))
    _trend_sheet(book, v)
    return book.content()


def compared_csv(found: ComparedOut) -> str:
    """What changed since another page as CSV."""
    titles = [sentence(f"value.head_{key}") for key in ("code", "name", "was", "mark", "moved", "ev", "ac", "eac")]
    return csv_text(titles, ((r.code, r.name, r.was, r.mark, f"{r.days:g}", r.ev, r.ac, r.eac) for r in found.rows))


def statistics_xlsx(v: View) -> bytes:
    """Statistics as a workbook: a table for the project and each element, and their cost as bars."""
    out, book = statistics_out(v), Book(_digits(v))
    page = book.sheet(sentence("value.statistics"))
    heads = [ColumnHead("row", sentence("value.head_row")), *(ColumnHead(c, sentence(f"value.head_{c}"), "money") for c in IN_ORDER)]
    kinds = {"instant": "day", "days": "days", "hours": "hours", "money": "money"}
    for s in out.scopes:
        page.line(f"{s.code} {s.name}", bold=True)
        rows = []
        for x in s.rows:
            cells = [getattr(x, c) for c in IN_ORDER]
            if x.kind == "instant" and cells[-1] is not None:
                cells[-1] = sentence("value.days_apart", days=cells[-1])
            rows.append([sentence(f"value.row_{x.row}"), *cells])
        page.table(heads, rows, 0, [kinds[x.kind] for x in s.rows])
    page.fit()
    costs = book.sheet(sentence("value.cost"))
    shown = [(f"{s.code} {s.name}", *(getattr(s.rows[-1], c) for c in ("baseline", "now", "actual"))) for s in out.scopes]
    titles = [ColumnHead("name", sentence("value.head_name"))]
    titles += [ColumnHead(c, sentence(f"value.head_{c}"), "money") for c in ("baseline", "now", "actual")]
    first, last = costs.table(titles, shown)
    costs.bars(sentence("value.cost"), first, last, 1, [("pv", 2), ("forecast", 3), ("ac", 4)], "F2")
    costs.fit()
    return book.content()


def work_xlsx(v: View, bucket: str) -> bytes:
    """Work by time as a workbook: hours and cost by activity and person, and the sums of the hours drawn."""
    out, book = work_out(v, bucket), Book(_digits(v))
    for unit, kind in (("hours", "hours"), ("cost", "money")):
        page = book.sheet(sentence(f"value.unit_{unit}"))
        heads = [ColumnHead(k, sentence(f"value.head_{k}")) for k in ("code", "name", "person", "series")]
        heads += [ColumnHead("total", sentence("value.head_total"), kind), *(ColumnHead(e, e[:10], kind) for e in out.ends)]
        rows: list[list[object]] = []
        for x in [*out.lines, out.total]:
            for name in SERIES:
                s = getattr(x, name)
                if s is not None and (unit == "hours" or s.total_cost is not None):
                    cells = [s.total_hours, *s.hours] if unit == "hours" else [s.total_cost, *s.cost]
                    rows.append([x.activity, x.name or sentence("value.head_total"), x.person, series_word(x, name), *cells])
        totals = sum(1 for name in SERIES if getattr(out.total, name) is not None)
        page.table(heads, rows, totals if unit == "hours" else 0)
        page.freeze("F2")
        page.fit()
    sums = book.sheet(sentence("value.sums"))
    series = [name for name in SERIES if getattr(out.total, name) is not None]
    heads = [ColumnHead("end", sentence("value.until"), "day"), *(ColumnHead(n, sentence(f"value.series_{n}"), "hours") for n in series)]
    first, last = sums.table(heads, [[e, *(getattr(out.total, n).hours[i] for n in series)] for i, e in enumerate(out.ends)])
    inks = {"planned": "pv", "worked": "ac", "remaining": "forecast"}
    sums.bars(sentence("value.unit_hours"), first, last, 1, [(inks[n], i) for i, n in enumerate(series, 2)], "F2")
    sums.fit()
    return book.content()
