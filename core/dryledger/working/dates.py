"""The working of an activity's dates, floats, remaining duration, percent and differences from the baseline.

Source: calculation contract, sections 1 to 5 and 12. Dates are instants as the book writes them; floats, durations and
differences are working minutes.
"""

from decimal import Decimal

from dryledger.book.options import Tie
from dryledger.book.plan import Link
from dryledger.calendar.calendar import Instant, to_text
from dryledger.compute import Results
from dryledger.readings import read
from dryledger.schedule.schedule import shift, shift_back
from dryledger.words import sentence
from dryledger.working.derivation import Operand, Working, WorkingRow

__all__ = ["driver_words", "explain_dates"]


def explain_dates(r: Results, out: Working, code: str) -> None:
    """Say of an activity's date, float, progress or difference what it was made from; other figures stay as they are."""
    row = r.schedule.activities.get(code)
    if out.measure.endswith("_difference") and out.measure != "deadline_difference":
        _difference(r, out, code, out.measure.removesuffix("_difference"))
    elif row is None:
        return
    elif out.measure == "start":
        out.rows = _asked(r, code)
    elif out.measure in ("remaining", "percent"):
        _progress(r, out, code)
    elif row.late_finish is None:
        return
    elif out.measure == "late_start":
        out.operands = [
            Operand("late finish", to_text(row.late_finish), "late_finish", "instant"),
            Operand(sentence("dates.working_minutes_needed"), _n(row.remaining), kind="duration"),
        ]
    elif out.measure == "late_finish":
        out.rows = _limits(r, code)
    elif out.measure == "total_float":
        out.operands = [
            Operand("early finish", to_text(row.early_finish), "early_finish", "instant"),
            Operand("late finish", to_text(row.late_finish), "late_finish", "instant"),
        ]
    elif out.measure == "free_float":
        out.rows = _slack(r, code)


def _n(minutes: int | None) -> Decimal | None:
    return None if minutes is None else Decimal(minutes)


def _link_words(link: Link) -> str:
    if not link.lag:
        return link.type
    return f"{link.type} {link.lag:+d} min{' by the clock' if link.lag_basis == 'elapsed' else ''}"


def _asked(r: Results, code: str) -> list[WorkingRow]:
    """What the activity waits for, with the instant that each asks for, what sets its date first."""
    row, a = r.schedule.activities[code], r.book.activity_by_code[code]
    out: list[tuple[bool, WorkingRow]] = []
    for link in r.book.links_into.get(code, ()):
        outside = r.book.external_by_code.get(link.source)
        before = outside or r.schedule.activities[link.source]
        t = shift(r.book.axis, before.finish if link.type[0] == "F" else before.start, link)
        drives = f"link:{link.source}" in row.driven_by
        name = (outside or r.book.activity_by_code[link.source]).name
        out.append((drives, WorkingRow(link.source, name, to_text(t), _link_words(link))))
    for tie in r.schedule.ties.kept:
        if tie.target == code:
            giver, driver = r.schedule.activities[tie.source], f"tie:{tie.source}"
            name = r.book.activity_by_code[tie.source].name
            out.append((driver in row.driven_by, WorkingRow(tie.source, name, to_text(giver.finish), _tie_words(r, tie))))
    dated: list[tuple[str, Instant | None]] = [
        ("actual", r.progress[code].actual_start),
        ("fixed", a.start if "fixed" in row.driven_by else None),
        ("start", r.book.project.start if row.state == "not_started" else None),
        ("status", r.status if row.state != "complete" else None),
        ("carry", r.progress[code].carry_to if row.state != "complete" else None),
        ("levelled", a.levelled if row.state != "complete" else None),
        ("constraint", a.constraint.at if a.constraint is not None and "constraint" in row.driven_by else None),
    ]
    out += [
        (name in row.driven_by, WorkingRow(code, a.name, to_text(t), driver_words(r, code, name))) for name, t in dated if t is not None
    ]
    return [x for drives, x in sorted(out, key=lambda pair: not pair[0])]


def _tie_words(r: Results, tie: Tie) -> str:
    return sentence("dates.hand_over", resource=r.book.resource_by_code[tie.resource].name, name=r.book.activity_by_code[tie.source].name)


def _limits(r: Results, code: str) -> list[WorkingRow]:
    """What limits the activity backward: each successor's late date taken back by the link, and the project's finish."""
    out = []
    for link in r.book.links:
        after = r.schedule.activities[link.target]
        late = after.late_start if link.type[1] == "S" else after.late_finish
        if link.source == code and late is not None:
            name = r.book.activity_by_code[link.target].name
            out.append(WorkingRow(link.target, name, to_text(shift_back(r.book.axis, late, link)), _link_words(link)))
    for tie in r.schedule.ties.kept:
        late = r.schedule.activities[tie.target].late_start
        if tie.source == code and late is not None:
            out.append(WorkingRow(tie.target, r.book.activity_by_code[tie.target].name, to_text(late), _tie_words(r, tie)))
    imposed = r.book.project.imposed_finish
    last = imposed if imposed is not None else max(x.early_finish for x in r.schedule.activities.values())
    out.append(
        WorkingRow(
            r.book.project.code,
            r.book.project.name,
            to_text(last),
            sentence("dates.imposed_finish") if imposed is not None else sentence("dates.projects_finish"),
        )
    )
    return out


def _slack(r: Results, code: str) -> list[WorkingRow]:
    """The successors whose early dates leave the room."""
    out = []
    for link in r.book.links:
        if link.source == code and r.schedule.activities[link.target].state != "complete":
            after = r.schedule.activities[link.target]
            t = shift_back(r.book.axis, after.early_start if link.type[1] == "S" else after.early_finish, link)
            out.append(WorkingRow(link.target, r.book.activity_by_code[link.target].name, to_text(t), _link_words(link)))
    for tie in r.schedule.ties.kept:
        if tie.source == code:
            t, name = r.schedule.activities[tie.target].early_start, r.book.activity_by_code[tie.target].name
            out.append(WorkingRow(tie.target, name, to_text(t), _tie_words(r, tie)))
    return out


def _progress(r: Results, out: Working, code: str) -> None:
    p = r.progress[code]
    source = p.remaining_from if out.measure == "remaining" else p.percent_from
    words = {
        "stated": "as stated",
        "hours": sentence("dates.longest_hours_go_units"),
        "percent": sentence("dates.percent_planned_duration"),
        "elapsed": sentence("dates.planned_time_gone") if out.measure == "remaining" else sentence("dates.time_gone_time_gone"),
        "state": {"complete": "complete", "not_started": "not started"}.get(p.state, sentence("dates.state_says")),
    }
    out.formula = words[source]
    lengths = ((sentence("dates.planned_duration"), p.planned), ("time gone", p.elapsed), ("remaining", p.remaining))
    out.operands = [Operand(word, _n(minutes), kind="duration") for word, minutes in lengths]
    for period in r.at.periods:
        if any(s is p.statement for s in period.statements):
            out.rows.append(WorkingRow(period.code, to_text(period.status)[:10], None, sentence("dates.statement_force")))


def _difference(r: Results, out: Working, code: str, what: str) -> None:
    base = r.baseline.by_code.get(code) if r.baseline else None
    row = r.schedule.activities.get(code)
    if base is None:
        out.reason = sentence("dates.baseline_nothing_compare")
    elif what in ("start", "finish"):
        if row is not None:
            out.operands = [Operand("now", to_text(getattr(row, what))), Operand("baseline", to_text(getattr(base, what)))]
    elif what == "cost":
        out.operands = [Operand("now", r.activities[code].eac["bottom_up"], "eac.bottom_up"), Operand("baseline", base.budget, "bac")]
    else:
        now = read(r, what, "activity", code)
        then = base.duration if what == "duration" else base.work
        out.operands = [
            Operand("now", _n(now if isinstance(now, int) else 0), kind="duration"),
            Operand("baseline", _n(then), kind="duration"),
        ]


def driver_words(r: Results, code: str, driver: str) -> str:
    """What drives an activity in words."""
    if driver.startswith("link:"):
        outside = r.book.external_by_code.get(driver[5:])
        if outside is not None:
            return sentence("dates.other_project", name=outside.name, code=outside.code)
        return sentence("dates.predecessor", name=r.book.activity_by_code[driver[5:]].name)
    if driver.startswith("tie:"):
        between = driver[4:], code
        by = [r.book.resource_by_code[t.resource].name for t in r.schedule.ties.kept if (t.source, t.target) == between]
        return sentence("dates.hand_over", resource=", ".join(dict.fromkeys(by)), name=r.book.activity_by_code[driver[4:]].name)
    return {
        "constraint": "constraint",
        "status": "status date",
        "carry": sentence("dates.carried_forward"),
        "levelled": sentence("dates.levelled"),
        "start": sentence("dates.project_start"),
        "fixed": "fixed dates",
        "actual": "actual dates",
    }[driver]
