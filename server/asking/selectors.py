"""What the asking room reads: who was asked and who answered, the tray with the effect of each answer, and one's own work."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from types import MappingProxyType

from django.conf import settings
from django.db.models import Q

from dryledger.book.memory import Slot
from dryledger.calendar.calendar import from_text, to_text
from dryledger.compute import Results
from dryledger.entry.grammar import format_day, read_number
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.formats import format_number
from dryledger.posting.asking import AnswerPosted, answered, asked, own_resources, tried_together
from dryledger.posting.effects import balance, change, moved
from dryledger.posting.entries import describe, needs_entry
from dryledger.posting.hours import HoursRow, hours_rows
from dryledger.posting.look_ahead import days_left
from server.accounts.models import Person, Role
from server.accounts.roles import covers
from server.asking.models import Answer, Request, State
from server.book.access import people_at, role_at
from server.book.models import Page, Project
from server.book.results import View, view_of
from server.posting.sheet import before
from server.shared.words import sentence

WEEK = 7
KINDS = (".xlsx", ".csv")
"""What is read of the inbox."""


@dataclass
class OfferedOut:
    """Somebody who can be asked, and for how many activities; `signs_in` where there is a person of that name."""

    name: str
    signs_in: bool
    email: str
    count: int
    asked: bool


@dataclass
class RequestOut:
    """Somebody who was asked: for how many activities, how many of them are answered, how the message went."""

    id: int
    name: str
    signs_in: bool
    email: str
    asked: int
    answered: int
    until: str
    reminded: str | None
    sent: str


@dataclass
class TrayAnswer:
    """An answer in the tray: what it says against what stands, and what taking it would move.

    `since` says that something was posted of the activity on this page; `refused` why it can't be taken as it is.
    """

    id: int
    request: int
    name: str
    via: str
    at: str
    code: str
    activity: str
    cells: dict[str, str]
    hours: dict[str, dict[str, str]]
    says: str
    note: str
    stands: str
    since: bool
    moves: float | None
    finish: float | None
    eac: str | None
    refused: str
    field: str
    """The cell that it is refused for."""


@dataclass
class AllOut:
    """What taking all that can be taken would do: the finish before and after, how far EAC moves, rows that need an entry after it."""

    count: int
    was: str
    finish: str
    eac: str | None
    to_go: int


@dataclass
class AskingOut:
    """Who can be asked and who was, and the tray."""

    page: str
    status: str
    revision: int
    weeks: int
    open: bool
    offered: list[OfferedOut]
    requests: list[RequestOut]
    tray: list[TrayAnswer]
    together: AllOut | None
    inbox: int = 0
    """How many files lie in the inbox, to be read."""
    outbox: str = ""


@dataclass
class HoursAsked:
    """Hours of somebody on an activity: what was posted before, and what is left as far as is known."""

    resource: str
    name: str
    before: float
    left: float


@dataclass
class WorkRow:
    """An activity that somebody is asked for: what is known of it, and their latest answer."""

    code: str
    name: str
    wbs: str
    planned_start: str
    planned_finish: str
    state: str
    method: str
    percent: float
    days_left: float
    actual_start: str | None
    units: str | None
    hours: list[HoursAsked] = field(default_factory=list)
    cells: dict[str, str] | None = None
    typed_hours: dict[str, dict[str, str]] = field(default_factory=dict)
    answered: str = ""
    taken: bool = False


@dataclass
class WorkOut:
    """What somebody is asked for on one page of a project."""

    request: int
    project: str
    project_name: str
    page: str
    first: str
    status: str
    until: str
    by: str
    rows: list[WorkRow]


@dataclass
class MyWorkOut:
    """All that one is asked for, the earliest status date first."""

    name: str
    work: list[WorkOut]


def people_of(project: Project) -> dict[str, Person]:
    """Who signs in and has to do with a project, by their names in small letters; a name that several have stands for nobody."""
    out: dict[str, Person | None] = {}
    for p in people_at(project).exclude(full_name=""):
        key = p.full_name.strip().casefold()
        out[key] = None if key in out else p
    return {name: p for name, p in out.items() if p is not None}


Changed = Mapping[int, Mapping[str, str]]
"""Cells of answers that are taken otherwise than they were given, by the answers' keys."""


def read_answers(v: View, answers: Sequence[Answer], changed: Changed = MappingProxyType({})) -> list[AnswerPosted]:
    """What answers come to on the page, in the book's order; of several to one activity a later one goes on from those before.

    Raises ChangeRefused at the answer and its cell.
    """
    told: dict[str, tuple[dict[str, str], dict[str, dict[str, str]], int]] = {}
    for a in sorted(answers, key=lambda a: a.pk):
        cells, hours, _ = told.get(a.activity, ({}, {}, 0))
        own = {r: hours.get(r, {}) | dict(x) for r, x in a.hours.items()}
        told[a.activity] = (cells | dict(a.cells) | dict(changed.get(a.pk, {})), hours | own, a.pk)
    order = {a.code: i for i, a in enumerate(v.book.activities)}
    out = []
    for code, (cells, hours, pk) in sorted(told.items(), key=lambda x: order.get(x[0], -1)):
        try:
            if code not in order:
                raise EntryRefused("activity", sentence("asking.gone", code=code))
            out.append(answered(v.results, before(v), code, cells, hours))
        except EntryRefused as no:
            raise ChangeRefused("entry-refused", no.message, str(pk), no.field, no.nearest) from None
    return out


def in_words(a: Answer, known: Mapping[str, str], changed: Mapping[str, str] = MappingProxyType({})) -> str:
    """An answer as it was given, in a few words; or as it is taken, with cells that were changed."""
    c = a.cells | dict(changed)
    parts = [sentence(f"asking.says_{k}", text=_shown(k, c[k])) for k in WORDED if c.get(k)]
    for resource, own in a.hours.items():
        who = f"{known.get(resource, resource)}: " if len(a.hours) > 1 else ""
        parts += [who + sentence(f"asking.says_{k}", text=own[k]) for k in ("worked", "to_go") if own.get(k)]
    return ", ".join(parts) or sentence("asking.says_nothing")


def _shown(key: str, text: str) -> str:
    """A cell of an answer: dates in words, bare days with their unit."""
    if key == "remaining" and read_number(text) is not None:
        return f"{text} d"
    try:
        return format_day(from_text(f"{text[:10]}T00:00")) if key in DATES else text
    except ValueError:
        return text


DATES = ("actual_start", "actual_finish", "carry_to")
WORDED = ("actual_finish", "percent", "remaining", "units_done", "actual_start", "carry_to")


def asking(v: View, weeks: int = 0) -> AskingOut:
    """Who can be asked on a page and who was, and the tray."""
    rows = list(Request.objects.filter(page=v.page).select_related("person"))
    answers = list(Answer.objects.filter(request__page=v.page).exclude(state=State.PASSED).select_related("request"))
    waiting = [a for a in answers if a.state == State.WAITING]
    out = AskingOut(v.page.code, v.page.status, v.project.revision, weeks, v.page.state == "wet", [], [], [], None)
    out.inbox, out.outbox = waiting_in(settings.INBOX), settings.OUTBOX_VIEW
    if out.open:
        out.offered = _offered(v, rows, weeks)
        out.tray, sound = _tray(v, waiting)
        out.together = _together(v, sound) if sound else None
    for r in rows:
        own = {a.activity for a in answers if a.request_id == r.pk}
        reminded = r.reminded.isoformat(timespec="minutes") if r.reminded else None
        count = len(set(r.activities) & own)
        out.requests.append(RequestOut(r.pk, r.name, r.person_id is not None, r.email, len(r.activities), count, r.until, reminded, r.sent))
    return out


def waiting_in(folder: Path) -> int:
    """How many files lie in the inbox."""
    return sum(1 for f in folder.iterdir() if f.suffix.lower() in KINDS) if folder.is_dir() else 0


def _offered(v: View, rows: list[Request], weeks: int) -> list[OfferedOut]:
    known, emails = {r.name for r in rows}, dict[str, str]()
    for r in Request.objects.filter(page__project=v.project).exclude(email=""):
        emails[r.name] = r.email
    people = people_of(v.project)
    found = asked(v.results, before(v), weeks * WEEK)
    return [OfferedOut(n, n.casefold() in people, emails.get(n, ""), len(codes), n in known) for n, codes in found.items()]


def _tray(v: View, waiting: list[Answer]) -> tuple[list[TrayAnswer], list[Answer]]:
    r, out, sound = v.results, list[TrayAnswer](), list[Answer]()
    stated = {s.activity: s for s in r.at.periods[-1].statements}
    people = {x.code: x.name for x in v.book.resources}
    effects = v.workspace.memo.once(EFFECTS, dict)
    for a in waiting:
        known, mine = v.book.activity_by_code.get(a.activity), stated.get(a.activity)
        stands = describe(mine) if mine is not None else _stands(r, a.activity) if known is not None else ""
        row = TrayAnswer(
            a.pk,
            a.request_id,
            a.request.name,
            a.via,
            a.at.isoformat(timespec="minutes"),
            a.activity,
            a.activity if known is None else known.name,
            a.cells,
            a.hours,
            in_words(a, people),
            a.cells.get("note", ""),
            stands,
            mine is not None,
            None,
            None,
            None,
            "",
            "",
        )
        try:
            (given,) = read_answers(v, [a])
        except ChangeRefused as no:
            row.refused, row.field = no.message, no.field or ""
        else:
            sound.append(a)
            if a.pk not in effects:
                effects[a.pk] = _effect(r, given)
            row.moves, row.finish, row.eac = effects[a.pk]
        out.append(row)
    return out, sound


EFFECTS: Slot[dict[int, tuple[float, float, str | None]]] = Slot("what answers would move, by their keys")


def _effect(r: Results, given: AnswerPosted) -> tuple[float, float, str | None]:
    """What taking one answer moves: its activity's finish and the project's, in days, and EAC."""
    now = tried_together(r, [given]).results
    diff = change(balance(r), balance(now))
    days = next((float(m.days) for m in moved(r, now) if m.code == given.activity), 0.0)
    return days, float(diff.get("finish", 0)), f"{diff['eac']:f}" if "eac" in diff else None


def _stands(r: Results, code: str) -> str:
    p, row = r.progress[code], r.schedule.activities[code]
    if p.state == "in_progress":
        percent = format_number(round(p.percent * 100, 1).normalize())
        return sentence("asking.stands_going", percent=percent, days=format_number(days_left(r, code)))
    key = "asking.stands_complete" if p.state == "complete" else "asking.stands_due"
    return sentence(key, start=format_day(row.start), finish=format_day(row.finish))


def _together(v: View, answers: list[Answer]) -> AllOut | None:
    """What taking them all would do; None where they refute each other."""
    try:
        given = read_answers(v, answers)
    except ChangeRefused:
        return None
    r, now, start = v.results, tried_together(v.results, given).results, before(v)
    diff = change(balance(r), balance(now))
    stated = {s.activity for s in now.at.periods[-1].statements}
    to_go = sum(needs_entry(now, start, a.code) and a.code not in stated for a in v.book.activities)
    eac = f"{diff['eac']:f}" if "eac" in diff else None
    return AllOut(len(answers), to_text(r.schedule.finish), to_text(now.schedule.finish), eac, to_go)


def open_requests(person: Person) -> list[Request]:
    """What a person is asked for on pages that are open, where they still have to do with the project."""
    mine = Q(person=person) | Q(person=None, name__iexact=person.full_name or "\0")  # who signs in since they were asked too
    found = Request.objects.filter(mine, page__state="wet").select_related("page__project", "by").order_by("page__status", "pk")
    return [r for r in found if (role := role_at(person, r.page.project)) is not None and covers(role, Role.CONTRIBUTOR)]


def my_work(person: Person) -> MyWorkOut:
    """All that one is asked for."""
    return MyWorkOut(person.full_name or person.username, [work_of(r) for r in open_requests(person)])


def work_of(request: Request) -> WorkOut:
    """What a request asks: its activities as they stand, with the answers that were given."""
    page: Page = request.page
    v = view_of(page.project, page)
    r, start = v.results, before(v)
    latest = {a.activity: a for a in request.answers.exclude(state=State.PASSED)}
    mine = own_resources(v.book, request.name)
    own = defaultdict[str, list[HoursRow]](list)
    for h in hours_rows(r) if mine else ():
        if h.assigned and h.resource in mine:
            own[h.activity].append(h)
    rows = [_row(r, start, code, own[code], latest.get(code)) for code in request.activities if code in v.book.activity_by_code]
    first = to_text(start.status if start.status is not None else v.book.project.start)
    by = request.by.full_name or request.by.username
    return WorkOut(request.pk, page.project.code, page.project.name, page.code, first, page.status, request.until, by, rows)


def _row(r: Results, start: Results, code: str, own: list[HoursRow], answer: Answer | None) -> WorkRow:
    book, a, row, p = r.book, r.book.activity_by_code[code], start.schedule.activities[code], start.progress[code]
    base = r.baseline.by_code.get(code) if r.baseline else None
    method = base.value_method if base is not None else a.value_method
    out = WorkRow(
        code,
        a.name,
        next((w.name for w in book.wbs if w.code == a.wbs), ""),
        to_text(row.start if base is None else base.start),
        to_text(row.finish if base is None else base.finish),
        p.state,
        method.type,
        round(float(p.percent * 100), 1),
        float(days_left(start, code)),
        None if p.actual_start is None else to_text(p.actual_start),
        f"{method.planned.normalize():f}" if method.type == "units" else None,
    )
    names = {x.code: x.name for x in book.resources}
    out.hours = [HoursAsked(h.resource, names[h.resource], round(h.before / 60, 2), round(h.remaining / 60, 2)) for h in own]
    if answer is not None:
        out.cells, out.typed_hours, out.taken = answer.cells, answer.hours, answer.state == State.TAKEN
        out.answered = answer.at.isoformat(timespec="minutes")
    return out
