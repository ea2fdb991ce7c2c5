"""The hours lens of a page: its rows, and writing hours as one step."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date, timedelta
from typing import Any

from dryledger.book.pages import HoursEntry
from dryledger.calendar.calendar import DAY, date_of, midnight, to_text
from dryledger.changes.draft import Draft
from dryledger.changes.entering import set_hours, state
from dryledger.compute import Results
from dryledger.entry.grammar import read_number, type_duration
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.posting.assumed import said_by_hours
from dryledger.posting.entries import needs_entry
from dryledger.posting.hours import HoursRow, HoursTotal, hours_rows, hours_totals
from server.book.access import Access
from server.book.models import Activity
from server.book.results import View
from server.journal.steps import Changes, ask
from server.posting.actions import Effect, effect_of, enter, seen_page
from server.posting.models import DayHours
from server.posting.sheet import before
from server.shared.words import sentence

FIELDS = ("worked", "overtime", "to_go")
MOST_HOURS = 100_000
MOST_DAYS = 35


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


def page_days(r: Results, before: Results) -> list[date]:
    """The dates of a page, from the day after the status date of the page before; none where there are more than a month of them."""
    assert r.status is not None
    first = r.book.project.start if before.status is None else before.status + DAY - 1
    count = (midnight(date_of(r.status - 1)) - midnight(date_of(first))) // DAY + 1
    return [date_of(first) + timedelta(days=i) for i in range(count)] if count <= MOST_DAYS else []


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
        due or posted or state == "in_progress",
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


def typed_minutes(v: View, activity: str, text: str, name: str) -> int | None:
    """Typed hours in minutes: a bare number is hours; empty is nothing said."""
    bare = text.strip()
    if not bare:
        return None
    calendar = v.book.calendar_by_code[v.book.activity_by_code[activity].calendar]
    got = type_duration(f"{bare}h" if read_number(bare) is not None else bare, calendar, name)
    if got is not None and got[0] > MOST_HOURS * 60:
        raise EntryRefused(name, sentence("hours.too_many", most=MOST_HOURS))
    return None if got is None else int(got[0])


def _typed_days(v: View, activity: str, typed: Mapping[str, str], dates: Mapping[str, date]) -> dict[date, int]:
    """Typed hours by date in minutes. Raises EntryRefused at the day."""
    out = {}
    for day, text in typed.items():
        if day not in dates:
            raise EntryRefused(f"day:{day}", sentence("hours.not_of_page", day=day[:20]))
        minutes = typed_minutes(v, activity, text, f"day:{day}") or 0
        if minutes > 24 * 60 * 100:
            raise EntryRefused(f"day:{day}", sentence("hours.too_many", most=2400))
        out[dates[day]] = minutes
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
            typed = {k: typed_minutes(old, activity.code, e[k], k) for k in FIELDS if k in e}
            if "days" in e:
                pair = activity.code, resource.code
                kept = by_day.get(pair, {}) if known.get(row) and known[row].days else {}
                days[pair] = kept | _typed_days(old, activity.code, e["days"], page_dates)
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
        for entry in entered:
            set_hours(draft, page, entry)
        state(draft, page, said_by_hours(old.results, before(old), entered))

    enter(access, old, revision, "post", changes, label, subject, lambda s: _write_days(s, old, days))
    after = hours_sheet(access.view(page_code))
    effect = effect_of(access, was, old, label, subject)
    return HoursEffect(effect, [x for x in after.rows if known.get(x.id) != x], after.totals)
