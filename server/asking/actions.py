"""Asking people for progress, keeping what they answer, and taking it onto the page as one step."""

import secrets
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from django.core.exceptions import ValidationError
from django.core.validators import validate_email
from django.db import transaction
from django.utils import timezone

from dryledger.calendar.calendar import from_text, to_text
from dryledger.changes.draft import Draft
from dryledger.entry.plan_cells import type_instant
from dryledger.posting.asking import CELLS, asked
from server.asking.keeping import KeptAnswer, keep
from server.asking.models import Answer, Request, State
from server.asking.selectors import WEEK, AskingOut, asking, in_words, open_requests, people_of, read_answers
from server.asking.sending import send_out
from server.book.access import Access
from server.book.results import View, view_of
from server.journal.steps import Changes, ask
from server.posting.actions import Effect, effect_of, enter, put_on, seen_page
from server.posting.sheet import before
from server.shared.files import one_line
from server.shared.problems import Refused
from server.shared.words import sentence

MOST_WEEKS, MOST_ANSWERS = 26, 2_000


@dataclass
class TakenOut:
    """What taking answers did, and the tray after it."""

    effect: Effect
    asking: AskingOut


def ask_people(access: Access, page_code: str, whom: Sequence[Mapping[str, Any]], weeks: int, until: str) -> AskingOut:
    """Ask people for progress on the open page; whoever was asked already is asked for more, or for less. Mail goes to who has an address.

    Raises Refused beside what is wrong; nobody is asked then.
    """
    page = access.wet(page_code)
    v = access.view(page_code)
    due, people = asked(v.results, before(v), weeks * WEEK), people_of(access.project)
    known = {n.casefold(): n for n in due}
    at = type_instant(until, "until", from_text(page.status), v.book.axis, True)
    made: list[Request] = []
    if not whom:
        raise Refused("entry-refused", sentence("asking.nobody_chosen"), 422, field="whom")
    with transaction.atomic():
        for x in whom:
            name, email = one_line(str(x["name"])), str(x.get("email", "")).strip()
            if name.casefold() not in known:
                raise Refused("entry-refused", sentence("asking.no_such_name", name=name[:60]), 422, field="whom")
            if email:
                try:
                    validate_email(email)
                    email.encode("ascii")
                except (ValidationError, UnicodeEncodeError):
                    raise Refused("entry-refused", sentence("report.address_wrong", email=email[:80]), 422, field="email") from None
            name = known[name.casefold()]
            codes = [c for c in x.get("activities") or due[name] if c in v.book.activity_by_code]
            if not codes:
                raise Refused("entry-refused", sentence("asking.nothing_to_ask", name=name), 422, field="whom")
            row = Request.objects.filter(page=page, name=name).first() or Request(page=page, name=name, token=secrets.token_urlsafe(32))
            row.person, row.email, row.by = people.get(name.casefold()), email or row.email, access.person
            row.activities, row.until = codes, "" if at is None else to_text(at)
            row.save()
            made.append(row)
    for row in made:
        send_out(row, remind=False)
    return asking(access.view(page_code), weeks)


def remind(access: Access, page_code: str, ids: Sequence[int]) -> AskingOut:
    """Remind people who have not answered everything. Raises Refused where one of them was not asked."""
    page = access.wet(page_code)
    rows = list(Request.objects.filter(page=page, pk__in=ids))
    if len(rows) != len(set(ids)) or not rows:
        raise Refused("not-found", sentence("asking.not_asked"), 404)
    for row in rows:
        row.reminded = timezone.now()
        row.save(update_fields=["reminded"])
        send_out(row, remind=True)
    return asking(access.view(page_code))


def take_back_request(access: Access, page_code: str, id: int) -> AskingOut:
    """Ask somebody no more; their answers that wait are gone with it."""
    if not Request.objects.filter(page=access.wet(page_code), pk=id).delete()[0]:
        raise Refused("not-found", sentence("asking.not_asked"), 404)
    return asking(access.view(page_code))


def answer_mine(person: Any, given: Sequence[Mapping[str, Any]]) -> list[KeptAnswer]:
    """Keep the answers of somebody who is asked, each by itself."""
    known, out, views = {r.pk: r for r in open_requests(person)}, list[KeptAnswer](), dict[int, View]()
    for x in given:
        request = known.get(x["request"])
        if request is None:
            out.append(KeptAnswer(x["uid"], False, sentence("asking.closed"), ""))
            continue
        v = views.get(request.pk) or views.setdefault(request.pk, view_of(request.page.project, request.page))
        out.append(keep(request, v, x["uid"], x["activity"], x.get("cells", {}), x.get("hours", {}), "page"))
    return out


def take(
    access: Access, page_code: str, revision: int, ids: Sequence[int], leave: Sequence[int], changed: Mapping[str, Mapping[str, str]]
) -> TakenOut:
    """Post answers as if typed, as one step, or leave them; `changed` are cells of an answer that are taken otherwise.

    Raises ChangeRefused at the answer and its cell, Stale for an old revision, Refused where an answer waits no more.
    """
    ask(access, "post")
    page = access.wet(page_code)
    rows = {
        a.pk: a for a in Answer.objects.filter(request__page=page, state=State.WAITING, pk__in=[*ids, *leave]).select_related("request")
    }
    if len(rows) != len({*ids, *leave}):
        raise Refused("answer-gone", sentence("asking.waits_no_more"), 409)
    old, was = seen_page(access, page_code, revision)
    people = {x.code: x.name for x in old.book.resources}
    told = {int(pk): {k: t for k, t in cells.items() if k in CELLS} for pk, cells in changed.items() if pk.isdecimal()}
    posted = read_answers(old, [rows[pk] for pk in ids], told)
    if not ids:
        Answer.objects.filter(pk__in=leave).update(state=State.LEFT)
        return TakenOut(effect_of(access, was, old, sentence("asking.left", count=len(leave))), asking(access.view(page_code)))
    one = rows[ids[0]]
    label = sentence("asking.took", count=len(ids), names=", ".join(sorted({rows[i].request.name for i in ids})))
    if len(ids) == 1:
        label = sentence("asking.took_one", name=one.request.name, activity=one.activity, says=in_words(one, people, told.get(one.pk, {})))

    def changes(draft: Draft, key: int) -> None:
        statements = [x.statement for x in posted if x.statement is not None]
        put_on(old, draft, key, statements, [h for x in posted for h in x.hours])

    def beside(s: Changes) -> None:
        for pk, a in rows.items():
            a.state = State.TAKEN if pk in ids else State.LEFT
        s.update(list(rows.values()))

    enter(access, old, revision, "post", changes, label, one.activity if len(ids) == 1 else "", beside)
    return TakenOut(effect_of(access, was, old, label, one.activity if len(ids) == 1 else ""), asking(access.view(page_code)))
