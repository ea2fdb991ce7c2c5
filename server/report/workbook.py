"""The report as a workbook: the same sections as on the screen, with charts that follow the figures in its sheets."""

from dryledger.book.currencies import DIGITS
from dryledger.marks.marks import mark_word
from server.report.document import head_line
from server.report.shapes import ReportOut, ReportSection, ReportTable
from server.shared.words import sentence
from server.shared.workbooks import Book, ColumnHead, WorkbookPage
from server.value.files import curve_sheet


def workbook(r: ReportOut, edition: int | None = None, issued_by: str = "") -> bytes:
    """The whole report: words on the first sheet, then a sheet for each section that has tables or a chart."""
    book = Book(DIGITS.get(r.balance.currency, 2))
    _words(book.sheet(sentence("report.report")), r, edition, issued_by)
    for s in r.sections:
        if s.chart == "curve":
            curve_sheet(book, s.title, r.curve)
        elif s.tables:
            _section(book.sheet(s.title), s)
    return book.content()


def _words(page: WorkbookPage, r: ReportOut, edition: int | None, issued_by: str) -> None:
    page.line(r.project_name, bold=True, size=15)
    page.line(head_line(r, edition, issued_by))
    page.gap()
    page.line(sentence("report.title_overall"), bold=True)
    page.line(mark_word(r.draft.status) or sentence("document.status_chosen_yet"))
    _paragraph(page, r.draft.reason)
    for text in (r.draft.sealed, *(x.line for x in r.draft.added if x.section == "overall")):
        _paragraph(page, text)
    for s in r.sections:
        if s.heads:
            page.gap()
            page.line(s.title, bold=True)
            heads = [ColumnHead(key, sentence(f"report.col_{key}")) for key in ("head", "mark", "trend")]
            rows = [(h.name, h.word, sentence(f"report.trend_{h.trend or 'none'}"), h.reason) for h in s.heads]
            page.table([*heads, ColumnHead("reason", sentence("report.col_reason"))], rows)
        words = s.words or s.drafted
        added = [x.line for x in s.added if s.key != "overall"]
        if words or s.sentences or added:
            page.gap()
            page.line(s.title, bold=True)
            _paragraph(page, words)
            for x in s.sentences:
                page.line(x)
            for text in added:
                _paragraph(page, text)
    page.fit()


def _paragraph(page: WorkbookPage, text: str) -> None:
    for line in text.splitlines():
        page.line(line)


def _section(page: WorkbookPage, s: ReportSection) -> None:
    for t in s.tables:
        if t.title:
            page.line(t.title, bold=True)
        if not t.rows:
            page.line(t.empty)
            page.gap()
            continue
        first, last = _table(page, t)
        if s.chart == "indices":
            at = {c.key: i for i, c in enumerate(_heads(t), 1)}
            page.chart_by_row(s.title, first, last, 1, [(k, at[k]) for k in ("spi", "cpi", "spi_t")], f"B{page.row + 1}")
    page.fit()


def _heads(t: ReportTable) -> list[ColumnHead]:
    heads = [ColumnHead(c.key, c.title, c.kind) for c in t.columns]
    return [*heads, ColumnHead("note", sentence("report.col_note"))] if any(c.note for r in t.rows for c in r.cells) else heads


def _table(page: WorkbookPage, t: ReportTable) -> tuple[int, int]:
    heads = _heads(t)
    noted = len(heads) > len(t.columns)
    rows = []
    for r in t.rows:
        cells = [mark_word(c.text or "") if h.kind == "mark" else c.text for c, h in zip(r.cells, t.columns, strict=True)]
        rows.append([*cells, *(["; ".join(c.note for c in r.cells if c.note)] if noted else [])])
    kinds = [next((c.kind for c in r.cells if c.kind), "") for r in t.rows]
    return page.table(heads, rows, sum(r.total for r in t.rows), kinds if any(kinds) else ())
