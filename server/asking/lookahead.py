"""The look-ahead: what the next weeks bring, by who is responsible, by resource or by element, with room to write, for people on site."""

from collections.abc import Iterator
from decimal import Decimal

from dryledger.book.outline import levels
from dryledger.book.responsible import responsible_for
from dryledger.calendar.calendar import DAY, to_text
from dryledger.formats import format_number
from server.asking.sheet import paper
from server.book.results import View
from server.shared.saying import format_date
from server.shared.words import sentence
from server.shared.workbooks import Book, ColumnHead

WAYS = ("person", "resource", "element")
MOST_WEEKS = 26
KEYS = ("code", "activity", "planned_start", "planned_finish", "left", "state", "room", "note")
Row = dict[str, str]


def look_ahead(v: View, weeks: int, by: str) -> list[tuple[str, list[Row]]]:
    """What is unfinished and lies in the `weeks` after the status date, in groups by name; who has none comes last."""
    r, book = v.results, v.book
    assert r.status is not None
    until, groups = r.status + weeks * 7 * DAY, dict[str, list[Row]]()
    names = {w.code: f"{w.code} {w.name}" for w in levels(book)}
    people = {x.code: x.name for x in book.resources}

    def of(code: str, wbs: str | None) -> Iterator[str]:
        if by == "person":
            yield responsible_for(book, code)
        elif by == "element":
            yield names.get(wbs or "", "")
        else:
            yield from [people[x.resource] for x in book.assignments_of.get(code, ())] or [""]

    for a in sorted(book.activities, key=lambda a: (r.schedule.activities[a.code].start, a.code)):
        row, p = r.schedule.activities[a.code], r.progress[a.code]
        begin = row.resume if row.resume is not None else row.start
        if p.state == "complete" or begin >= until:
            continue
        days = book.calendar_by_code[a.calendar].days(p.remaining if p.state == "in_progress" else p.planned)
        told = {
            "code": a.code,
            "activity": a.name,
            "planned_start": to_text(row.start),
            "planned_finish": to_text(row.finish),
            "left": format_number(round(days, 2).normalize()),
            "state": sentence("asking.so_far", percent=format_number(round(p.percent * Decimal(100), 1).normalize()))
            if p.state == "in_progress"
            else sentence("asking.not_begun"),
            "room": "",
            "note": a.note,
        }
        for name in of(a.code, a.wbs):
            groups.setdefault(name, []).append(told)
    order = (
        sorted(groups, key=lambda n: (not n, n.casefold()))
        if by != "element"
        else sorted(groups, key=lambda n: (not n, list(names.values()).index(n) if n else 0))
    )
    return [(name or sentence(f"asking.no_{by}"), groups[name]) for name in order]


def _title(v: View, weeks: int) -> str:
    return sentence("asking.look_ahead", project=v.book.project.name, weeks=weeks, date=format_date(v.page.status))


def look_ahead_xlsx(v: View, weeks: int, by: str) -> bytes:
    """The look-ahead as a workbook, a sheet for each group."""
    book, groups = Book(), look_ahead(v, weeks, by)
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
    tables = [
        {
            "title": name,
            "said": sentence("asking.look_ahead_said", count=len(rows)),
            "heads": [{"title": sentence(f"asking.head_{k}")} for k in KEYS],
            "rows": [[{"text": shown.get(k, str)(x[k]), "room": k == "room"} for k in KEYS] for x in rows],
        }
        for name, rows in look_ahead(v, weeks, by)
    ]
    return paper(_title(v, weeks), tables)
