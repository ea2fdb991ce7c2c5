"""What the options room reads: the board, what levelling would do, and the drawings laid over each other."""

from collections.abc import Mapping
from datetime import datetime
from decimal import Decimal
from typing import Any

from dryledger.book.plan import Book
from dryledger.budget.booking import Over, over_allocated, over_by_resource
from dryledger.buffers.fever import buffer_of
from dryledger.calendar.calendar import to_text
from dryledger.compute import Results
from dryledger.errors import TooManyPoints
from dryledger.options.board import Standing, milestones_later
from dryledger.options.saying import change_words
from server.book.access import Access
from server.book.kept_models import Option
from server.options.computing import Present, Top, present_of
from server.options.models import Ask, Remark
from server.options.shapes import (
    AskOut,
    BoardOut,
    BufferStanding,
    ChangeOut,
    LaidOut,
    LevelledOut,
    LevelOut,
    MilestoneOut,
    OptionOut,
    OverlayOut,
    OverOut,
    RemarkOut,
    StandingOut,
)
from server.shared.json_values import days
from server.shared.problems import Refused

MOST_OVERLAID = 300


def board(access: Access) -> BoardOut:
    """The board of a project as it stands."""
    here = present_of(access.project)
    r, p = here.results, here.results.book.project
    ask = Ask.objects.filter(project=access.project, closed=False).select_related("by").last()
    return BoardOut(
        here.workspace.revision,
        r.at.periods[-1].code if r.at.periods else "",
        None if r.status is None else to_text(r.status),
        None if r.baseline is None else r.baseline.code,
        p.currency,
        p.eac,
        None if p.deadline is None else to_text(p.deadline),
        None if p.imposed_finish is None else to_text(p.imposed_finish),
        _standing(r, here.standing(), here.standing()),
        [option_out(here, row) for row in Option.objects.filter(project=access.project)],
        None if ask is None else AskOut(ask.by.full_name, _day(ask.at), ask.text),
        [
            RemarkOut(x.option_id, x.by.full_name, _day(x.at), x.text, x.chosen)
            for x in Remark.objects.filter(project=access.project).select_related("by")
        ],
    )


def _day(at: datetime) -> str:
    return at.date().isoformat()


def option_out(here: Present, row: Option) -> OptionOut:
    """An option beside the present."""
    adopted = row.state == "adopted"
    out = OptionOut(
        row.pk,
        row.code,
        row.name,
        row.notes or "",
        row.state or "draft",
        row.seen,
        not adopted and row.based_on < here.project.plan_revision,
        [],
        bool(row.past) and not adopted,
        bool(row.future) and not adopted,
    )
    book = here.results.book
    if adopted:
        out.changes = [ChangeOut(*change_words(book, x)) for x in here.option(row).changes]
        return out
    try:
        top, beside = here.top(row), here.compared(row)
    except Refused as no:
        out.problem = no.detail
        out.changes = [ChangeOut(*change_words(book, x)) for x in here.option(row).changes]
        return out
    out.changes = changes_out(book, top)
    out.gained_days = days(book.project_calendar, beside.gained)
    names = top.results.book.activity_by_code | book.activity_by_code
    out.overlaps = [f"{names[a].name} with {names[b].name}" for a, b in beside.overlaps]
    out.standing = _standing(top.results, beside.standing, here.standing())
    return out


def changes_out(book: Book, top: Top) -> list[ChangeOut]:
    """The changes of an option in words, each with why it does not fit."""
    conflicts = {c.change: c for c in top.applied.conflicts}
    out = []
    for i, x in enumerate(top.option.changes):
        found = conflicts.get(i)
        in_words = change_words(top.results.book if found is None else book, x)
        out.append(ChangeOut(*in_words, None if found is None else found.message, found is not None and found.code == "moved-on"))
    return out


def _standing(r: Results, s: Standing, present: Standing) -> StandingOut:
    book, on, later = r.book, r.book.project_calendar, milestones_later(r.book, s, present)

    return StandingOut(
        to_text(s.finish),
        days(on, s.deadline_difference),
        days(on, s.imposed_difference),
        _money(s.eac),
        _money(s.vac),
        days(on, s.least_float),
        float(round(s.over_allocated / 60, 2)),
        [MilestoneOut(code, book.activity_by_code[code].name, to_text(t), days(on, later[code])) for code, t in s.milestones],
        {k: f"{v:f}" for k, v in s.cost_by_kind.items()},
        _buffer(r),
    )


def _buffer(r: Results) -> BufferStanding | None:
    """What a plan makes of the promise in force."""
    x = buffer_of(r)
    if x is None:
        return None
    use = None if x.point.use is None else round(100 * x.point.use, 1)
    ends = to_text(x.point.forecast_end), to_text(x.promised)
    return BufferStanding(use, x.point.zone, *ends, days(r.book.project_calendar, x.late))


def _money(amount: Decimal | None) -> str | None:
    return None if amount is None else f"{amount:f}"


def level_out(access: Access, mode: str) -> LevelOut:
    """What levelling the present plan would move, and what would stay over-allocated."""
    here = present_of(access.project)
    x, book = here.levelled(mode), here.results.book
    was, now, key_of = x.present.activities, x.plan.activities, here.workspace.keyed.key_of("activities")
    names = {r.code: r.name for r in book.resources}
    return LevelOut(
        mode,
        to_text(x.present.finish),
        to_text(x.plan.finish),
        days(book.project_calendar, x.finish_later),
        [
            LevelledOut(
                f"a{key_of[c]}",
                c,
                book.activity_by_code[c].name,
                to_text(was[c].start),
                to_text(now[c].start),
                to_text(was[c].finish),
                to_text(now[c].finish),
                days(book.project_calendar, x.later(c)),
                [names[code] for code in x.waits_for.get(c, ())],
                c not in x.dates,
            )
            for c in x.moved
        ],
        over_out(book, over_allocated(book, here.results.schedule, here.results.at.to_go)),
        over_out(book, x.over),
    )


def over_out(book: Book, spans: list[Over]) -> list[OverOut]:
    """Over-allocation summed by resource."""
    return [
        OverOut(
            x.resource,
            book.resource_by_code[x.resource].name,
            float(round(x.unit_minutes / 60, 2)),
            to_text(x.start),
            to_text(x.end),
            x.spans,
            float(x.required),
            float(x.available),
            [book.activity_by_code[c].name for c in x.activities],
        )
        for x in over_by_resource(spans)
    ]


def overlay(access: Access) -> OverlayOut:
    """Timeline and curve of the present and of every option that is not adopted."""
    here = present_of(access.project)
    r = here.results
    tops: list[tuple[Option, Results]] = []
    for row in Option.objects.filter(project=access.project):
        if row.state != "adopted":
            try:
                tops.append((row, here.top(row).results))
            except Refused:
                continue
    was = r.schedule.spans
    names: dict[str, str] = {a.code: a.name for a in r.book.activities}
    different: dict[str, None] = {}
    for _, x in tops:
        names |= {a.code: a.name for a in x.book.activities if a.code not in names}
        different |= {code: None for code, span in x.schedule.spans.items() if was.get(code) != span}
    place = {code: i for i, code in enumerate(names)}
    rows = sorted(different, key=place.__getitem__)
    shown = rows[:MOST_OVERLAID]
    laid = [_laid(None, "", r, shown), *(_laid(row.pk, row.name, x, shown) for row, x in tops)]
    return OverlayOut(
        None if r.status is None else to_text(r.status),
        None if r.book.project.deadline is None else to_text(r.book.project.deadline),
        [[code, names[code]] for code in shown],
        len(rows) - len(shown),
        _points(r, planned=True),
        laid,
    )


def _laid(option: int | None, name: str, r: Results, codes: list[str]) -> LaidOut:
    spans: Mapping[str, tuple[Any, ...]] = r.schedule.spans
    found = {c: [to_text(spans[c][0]), to_text(spans[c][2])] for c in codes if c in spans}
    return LaidOut(option, name, to_text(r.schedule.finish), found, _points(r))


def _points(r: Results, planned: bool = False) -> list[list[str | None]]:
    try:
        points = r.curve_of(None, "week")
    except TooManyPoints:
        return []
    return [[to_text(p.end), _money(p.pv if planned else p.forecast if p.ac is None else p.ac)] for p in points]
