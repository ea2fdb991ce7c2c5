"""The hours lens of a page: its rows, and writing hours as one step."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from dryledger.book.pages import HoursEntry
from dryledger.calendar.calendar import Calendar, to_text
from dryledger.changes.draft import Draft
from dryledger.compute import Results
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.posting.assumed import stated_by_hours
from dryledger.posting.entries import needs_entry
from dryledger.posting.hours import HoursRow, HoursTotal, hours_rows, hours_totals, page_days, type_hours
from server.book.access import Access
from server.book.models import Activity
from server.book.results import View
from server.journal.steps import Changes, ask
from server.posting.actions import Effect, effect_of, enter, put_on, seen_page
from server.posting.models import DayHours
from server.posting.sheet import before
from server.shared.words import sentence

FIELDS = ("worked", "overtime", "to_go")


@dataclass
class HoursLine:
    """One assignment on the hours sheet; figures in hours, what is typed as text."""

    id: str
    activity: str
    name: str
    wbs: str | None
    resource: str
    person: str
    assigned: bool
    due: bool
    """Whether it belongs on the sheet: due, in progress or posted to."""
    state: str
    planned: float | None
    before: float
    worked: str
    overtime: str
    to_go: str
    corrected: float
    remaining: float
    total: float
    reckoned: float
    """How much of the total follows progress."""
    budgeted: float
    change: float
    asks: bool
    """Whether hours stand here and nobody said what is still to go."""
    driver: str
    finish: str
    row: str
    """Its activity's name in changes of the plan."""
    days: dict[str, str] = field(default_factory=dict)
    """Its hours by date, where they were typed so."""


@dataclass
class HoursSum:
    """Hours of this page and remaining ones of an activity or a person, of the rows that are due and of all; in hours."""

    by: str
    code: str
    here: float
    remaining: float
    all_here: float
    all_remaining: float


@dataclass
class HoursSheet:
    """The hours of a page."""

    page: str
    status: str
    state: str
    revision: int
    rows: list[HoursLine] = field(default_factory=list)
    people: list[list[str]] = field(default_factory=list)
    """Whoever hours can be posted for: code and name."""
    activities: list[list[str]] = field(default_factory=list)
    totals: list[HoursSum] = field(default_factory=list)
    days: list[str] = field(default_factory=list)
    """The dates of the page, where it is no longer than a month."""


@dataclass
class HoursEffect:
    """What writing hours did, for the hours sheet and for all else."""

    effect: Effect
    rows: list[HoursLine]
    totals: list[HoursSum]


def _text(minutes: int | None) -> str:
    """Minutes as hours are typed: at most two places, else in minutes."""
    if minutes is None:
        return ""
    return f"{minutes / 60:g}" if minutes * 100 % 60 == 0 else f"{minutes}min"


def days_of(v: View) -> dict[tuple[str, str], dict[date, int]]:
    """Minutes by date of each activity and resource, as they were typed."""
    out: dict[tuple[str, str], dict[date, int]] = {}
    rows = DayHours.objects.filter(page=v.page).values_list("activity", "resource", "day", "minutes")
    for activity, resource, day, minutes in rows:
        out.setdefault((activity, resource), {})[day] = minutes
    return out


def line_id(activity: str, resource: str) -> str:
    """The name of a row."""
    return f"{activity}¦{resource}"


def hours_sheet(v: View) -> HoursSheet:
    """The hours of a page, every assignment of people and equipment; `due` says which belong on the sheet."""
    r, start = v.results, before(v)
    out = HoursSheet(v.page.code, v.page.status, v.page.state, v.project.revision)
    out.people = [[x.code, x.name] for x in v.book.resources if x.kind != "material"]
    out.activities = [[a.code, a.name] for a in v.book.activities]
    names = {x.code: x.name for x in v.book.resources}
    due = {a.code: needs_entry(r, start, a.code) for a in v.book.activities}
    keys = dict(Activity.objects.filter(project=v.project).values_list("code", "pk"))
    rows = list(hours_rows(r))
    out.rows = [_line(r, x, names[x.resource], due[x.activity], f"a{keys.get(x.activity, 0)}") for x in rows]
    out.days = [day.isoformat() for day in page_days(r, start)]
    by_day = days_of(v)
    for x, line in zip(rows, out.rows, strict=True):
        days = by_day.get((x.activity, x.resource), {})
        if days and sum(days.values()) == x.worked:
            line.days = {day.isoformat(): _text(minutes) for day, minutes in days.items()}
    shown = hours_totals(x for x, line in zip(rows, out.rows, strict=True) if line.due)
    none = HoursTotal(0, 0)
    out.totals = [
        HoursSum(by, code, *map(_hours, (shown.get((by, code), none).here, shown.get((by, code), none).remaining, t.here, t.remaining)))
        for (by, code), t in hours_totals(rows).items()
    ]
    return out


def _line(r: Results, x: HoursRow, person: str, due: bool, key: str) -> HoursLine:
    a, row = r.book.activity_by_code[x.activity], r.schedule.activities[x.activity]
    posted = bool(x.worked or x.overtime or x.to_go is not None or x.corrected)
    state = r.progress[x.activity].state
    return HoursLine(
        line_id(x.activity, x.resource),
        x.activity,
        a.name,
        a.wbs,
        x.resource,
        person,
        x.assigned,
        due
        or posted
        or state == "in_progress"
        or (state == "complete" and (x.activity, x.resource) in r.at.to_go and bool(r.at.to_go[x.activity, x.resource])),
        state,
        None if x.planned is None else _hours(x.planned),
        _hours(x.before),
        _text(x.worked) if x.worked else "",
        _text(x.overtime) if x.overtime else "",
        _text(x.to_go),
        _hours(x.corrected),
        _hours(x.remaining),
        _hours(x.total),
        _hours(x.reckoned),
        _hours(x.budgeted),
        _hours(x.change),
        bool(x.worked or x.overtime) and x.to_go is None and state != "complete",
        a.driver,
        to_text(row.finish),
        key,
    )


def _hours(minutes: int) -> float:
    return round(minutes / 60, 2)


def _typed_days(calendar: Calendar, typed: Mapping[str, str], dates: Mapping[str, date]) -> dict[date, int]:
    """Typed hours by date in minutes. Raises EntryRefused at the day."""
    out = {}
    for day, text in typed.items():
        if day not in dates:
            raise EntryRefused(f"day:{day}", sentence("hours.not_of_page", day=day[:20]))
        out[dates[day]] = type_hours(text, calendar, f"day:{day}") or 0
    return out


def _write_days(s: Changes, v: View, days: Mapping[tuple[str, str], Mapping[date, int]]) -> None:
    """Keep the hours by day of assignments, in the place of those that were kept of them."""
    if not days:
        return
    s.clear([x for x in DayHours.objects.filter(page=v.page) if (x.activity, x.resource) in days])
    s.add(
        [
            DayHours(page=v.page, activity=activity, resource=resource, day=day, minutes=minutes)
            for (activity, resource), own in days.items()
            for day, minutes in own.items()
            if minutes
        ]
    )


def post_hours(access: Access, page_code: str, revision: int, entries: Sequence[Mapping[str, Any]]) -> HoursEffect:
    """Write hours of several assignments, all or none, as one step. Hours on somebody who is not assigned assign them,
    with no planned work, where work drives.

    Raises ChangeRefused at the row and field, Stale, Refused.
    """
    ask(access, "post")
    old, was = seen_page(access, page_code, revision)
    known = {x.id: x for x in hours_sheet(old).rows}
    merged: dict[tuple[str, str], dict[str, Any]] = {}
    for e in entries:
        merged.setdefault((e["activity"], e["resource"]), {}).update(e)
    entries = list(merged.values())
    book, by_day, page_dates = old.book, days_of(old), {d.isoformat(): d for d in page_days(old.results, before(old))}
    read: list[tuple[str, str, dict[str, int | None]]] = []
    days: dict[tuple[str, str], dict[date, int]] = {}
    for e in entries:
        activity, resource = book.activity_by_code.get(e["activity"]), book.resource_by_code.get(e["resource"])
        row = line_id(e["activity"], e["resource"])
        if activity is None:
            told = sentence("posting.no_activity", code=e["activity"], code_2=access.project.code)
            raise ChangeRefused("not-found", told, row, "activity")
        if resource is None or resource.kind == "material":
            raise ChangeRefused("not-found", sentence("hours.nobody", code=e["resource"][:60]), row, "resource")
        try:
            calendar = book.calendar_by_code[activity.calendar]
            typed = {k: type_hours(e[k], calendar, k) for k in FIELDS if k in e}
            if "days" in e:
                pair = activity.code, resource.code
                kept = by_day.get(pair, {}) if known.get(row) and known[row].days else {}
                days[pair] = kept | _typed_days(calendar, e["days"], page_dates)
                typed["worked"] = sum(days[pair].values())
            read.append((activity.code, resource.code, typed))
        except EntryRefused as no:
            raise ChangeRefused("entry-refused", no.message, row, no.field, no.nearest) from None
    label, subject = sentence("hours.posted", count=len(read)), ""
    if len(read) == 1:
        (code, person, _), *_ = read
        label = sentence("hours.posted_one", person=book.resource_by_code[person].name, activity=book.activity_by_code[code].name)
        subject = code
    rows = {(x.activity, x.resource): x for x in hours_rows(old.results)}

    entered = list[HoursEntry]()
    for code, person, typed in read:
        x = rows.get((code, person))
        held = {} if x is None else {"worked": x.worked, "overtime": x.overtime, "to_go": x.to_go}
        now = dict.fromkeys(FIELDS) | held | typed
        entered.append(HoursEntry(code, person, now["worked"] or 0, now["overtime"] or 0, now["to_go"]))

    def changes(draft: Draft, page: int) -> None:
        put_on(old, draft, page, stated_by_hours(old.results, before(old), entered), entered)

    enter(access, old, revision, "post", changes, label, subject, lambda s: _write_days(s, old, days))
    after = hours_sheet(access.view(page_code))
    effect = effect_of(access, was, old, label, subject)
    return HoursEffect(effect, [x for x in after.rows if known.get(x.id) != x], after.totals)
