"""The timeline of a page: every activity against its baseline, and the elements over them."""

from collections.abc import Sequence

from dryledger.book.memory import Slot
from dryledger.book.options import promise_at, rooms_of
from dryledger.book.outline import levels
from dryledger.book.plan import Book
from dryledger.book.plan import External as CoreExternal
from dryledger.calendar.calendar import to_text
from dryledger.changes.keyed import name_of
from dryledger.marks.marks import activity_marker, drift_days
from dryledger.posting.bars import done_to
from dryledger.schedule.driving import driving_path
from dryledger.schedule.schedule import Scheduled
from dryledger.working.gaps import share_earned
from dryledger.working.working import driver_words
from server.book.results import MOST_KEPT, View
from server.shared.problems import Refused
from server.shared.words import sentence
from server.timeline.shapes import Bar, Bracket, External, TimelineOut, Wait

TIMELINE: Slot[TimelineOut] = Slot("timeline of a page", most=MOST_KEPT, weigh=lambda made: len(made.bars))


def timeline(v: View, baselines: Sequence[str] = ()) -> TimelineOut:
    """The timeline of a page, with the spans that other baselines give, kept as long as nothing is written.

    Raises Refused for an unknown one.
    """
    return v.kept(TIMELINE, lambda: _timeline(v, baselines), *baselines)


def _timeline(v: View, baselines: Sequence[str]) -> TimelineOut:
    r, book = v.results, v.book
    assert r.status is not None
    for code in baselines:
        if code not in book.baseline_by_code:
            raise Refused("not-found", sentence("value.no_baseline", code=code[:60]), 404, field="baselines")
    others = {code: book.baseline_by_code[code].by_code for code in baselines}
    driving = driving_path(r.schedule)
    marked = activity_marker(r)
    heads = levels(book)
    order = {h.code: i for i, h in enumerate(heads)}
    promise = promise_at(book, len(r.at.periods))
    rooms = {} if promise is None else rooms_of(promise)
    keys, bars = v.workspace.keyed.key_of("activities"), []
    for a in sorted(book.activities, key=lambda a: order.get(a.wbs or "", -1)):
        row = r.schedule.activities[a.code]
        base = r.baseline.by_code.get(a.code) if r.baseline else None
        late = drift_days(r, a.code)
        worked_to = row.worked_to if row.state == "in_progress" else row.finish if row.state == "complete" else None
        slack = row.late_finish if row.late_finish is not None and row.late_finish > row.finish else None
        bars.append(
            Bar(
                a.code,
                a.name,
                a.wbs,
                a.kind if row.duration or a.kind == "milestone" else "milestone",
                row.state,
                marked(a.code).mark,
                to_text(row.start),
                to_text(row.finish),
                to_text(worked_to) if worked_to is not None else None,
                to_text(row.resume) if row.resume is not None else None,
                to_text(base.start) if base else None,
                to_text(base.finish) if base else None,
                None if late is None else float(round(late, 2)),
                to_text(slack) if slack is not None else None,
                a.code in driving,
                [driver_words(r, row.code, d) for d in row.driven_by],
                [[to_text(p.start), to_text(p.end), p.reason or ""] for p in a.pauses],
                round(float(r.progress[a.code].percent * 100), 1),
                row.out_of_sequence,
                {code: [to_text(x.start), to_text(x.finish)] for code, rows in others.items() if (x := rows.get(a.code)) is not None},
                [to_text(room.start), to_text(room.end)] if (room := rooms.get(a.code)) is not None else None,
                waits_of(book, row) if row.state != "complete" else [],
                name_of("activities", keys[a.code]) if a.code in keys else "",
                to_text(done) if (done := done_to(r, a.code)) is not None else None,
            )
        )
    starts = [b.start for b in bars] + [b.base_start for b in bars if b.base_start]
    ends = [b.finish for b in bars] + [b.base_finish for b in bars if b.base_finish]
    starts += [span[0] for b in bars for span in b.others.values()]
    ends += [span[1] for b in bars for span in b.others.values()]
    waited = {x.code for b in bars for x in b.outside}
    externals = [_external(x) for x in book.externals if x.code in waited]
    starts += [x.start for x in externals]
    ends += [b.buffer[1] for b in bars if b.buffer] + [x.finish for x in externals]
    deadline = book.project.deadline
    return TimelineOut(
        v.page.status,
        r.baseline.code if r.baseline else None,
        min(starts, default=to_text(book.project.start)),
        max(ends, default=to_text(book.project.start)),
        to_text(deadline) if deadline is not None else None,
        [_bracket(v, h.code, h.name, h.level) for h in heads],
        bars,
        [b.code for b in book.baselines if r.baseline is None or b.code != r.baseline.code],
        externals,
    )


def waits_of(book: Book, row: Scheduled) -> list[Wait]:
    """What an activity waits for in other projects: the date that each link counts from, and whether it sets the activity's own."""
    found = [(k, book.external_by_code[k.source]) for k in book.links_into.get(row.code, ()) if k.source in book.external_by_code]
    return [Wait(x.code, to_text(x.finish if k.type[0] == "F" else x.start), f"link:{x.code}" in row.driven_by) for k, x in found]


def _external(x: CoreExternal) -> External:
    return External(x.code, x.name, x.state, to_text(x.start), to_text(x.finish), to_text(x.status) if x.status is not None else None)


def _bracket(v: View, code: str, name: str, level: int) -> Bracket:
    r = v.results
    rows = [r.schedule.activities[c] for c in r.valuation.scope(code).activities if c in r.schedule.activities]
    m = r.wbs[code]
    return Bracket(
        code,
        name,
        level,
        to_text(min(x.start for x in rows)) if rows else None,
        to_text(max(x.finish for x in rows)) if rows else None,
        share_earned(m),
    )
