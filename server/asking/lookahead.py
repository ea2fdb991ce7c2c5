"""The look-ahead: what the next weeks bring, by who is responsible, by resource or by element, with room to write, for people on site."""

from dryledger.calendar.calendar import to_text
from dryledger.formats import format_number
from dryledger.posting.look_ahead import days_left, look_ahead
from server.book.results import View
from server.shared.paper_tables import PaperTable, tables_on_paper
from server.shared.saying import format_date
from server.shared.words import sentence
from server.shared.workbooks import Book, ColumnHead

MOST_WEEKS = 26
KEYS = ("code", "activity", "planned_start", "planned_finish", "left", "state", "room", "note")
Row = dict[str, str]


def groups_of(v: View, weeks: int, by: str) -> list[tuple[str, list[Row]]]:
    """What the next weeks bring, in groups by their names."""
    elements = {w.code: f"{w.code} {w.name}" for w in v.book.wbs} if by == "element" else {}
    found = look_ahead(v.results, weeks, by).items()
    return [(elements.get(name, name) or sentence(f"asking.no_{by}"), [_row(v, code) for code in codes]) for name, codes in found]


def _row(v: View, code: str) -> Row:
    r, a = v.results, v.book.activity_by_code[code]
    row, p = r.schedule.activities[code], r.progress[code]
    going = sentence("asking.so_far", percent=format_number(round(p.percent * 100, 1).normalize()))
    return {
        "code": code,
        "activity": a.name,
        "planned_start": to_text(row.start),
        "planned_finish": to_text(row.finish),
        "left": format_number(days_left(r, code)),
        "state": going if p.state == "in_progress" else sentence("asking.not_begun"),
        "room": "",
        "note": a.note,
    }


def _title(v: View, weeks: int) -> str:
    return sentence("asking.look_ahead", project=v.book.project.name, weeks=weeks, date=format_date(v.page.status))


def look_ahead_xlsx(v: View, weeks: int, by: str) -> bytes:
    """The look-ahead as a workbook, a sheet for each group."""
    book, groups = Book(), groups_of(v, weeks, by)
    heads = [ColumnHead(k, sentence(f"asking.head_{k}"), "day" if k.startswith("planned") else "text") for k in KEYS]
    for name, rows in groups or [(sentence("asking.nothing_due"), [])]:
        page = book.sheet(name)
        page.line(_title(v, weeks), bold=True, size=14)
        page.line(name)
        page.gap()
        page.table(heads, [[x[k] for k in KEYS] for x in rows])
        page.widths[KEYS.index("room") + 1] = page.widths[KEYS.index("note") + 1] = 30
        page.freeze("C5")
        page.fit()
    return book.content()


def look_ahead_pdf(v: View, weeks: int, by: str) -> bytes:
    """The same on paper."""
    shown = {"planned_start": format_date, "planned_finish": format_date}
    heads = [sentence(f"asking.head_{k}") for k in KEYS]
    tables = []
    for name, rows in groups_of(v, weeks, by):
        texts = [[shown.get(k, str)(x[k]) for k in KEYS] for x in rows]
        told = sentence("asking.look_ahead_said", count=len(rows))
        tables.append(PaperTable(name, told, heads, [False] * len(KEYS), texts, {KEYS.index("room")}))
    return tables_on_paper(_title(v, weeks), tables, sentence("asking.nothing_due"))
