"""Keeping an answer in the tray: the same one arrives once, and one that can't be is told and not kept."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from django.db import IntegrityError, transaction

from dryledger.calendar.calendar import to_text
from dryledger.errors import EntryRefused
from dryledger.posting.asking import CELLS, answered, own_resources
from server.asking.models import Answer, Request, State
from server.book.results import View
from server.posting.sheet import before
from server.shared.words import sentence

LONGEST, SHORT = 4_000, 100
DATES = ("actual_start", "actual_finish", "carry_to")
ISO = re.compile(r"\d{4}-\d{2}-\d{2}( \d{2}:\d{2})?")


@dataclass
class KeptAnswer:
    """What became of an answer that was sent: kept, or why not and beside which cell."""

    uid: str
    kept: bool
    why: str
    field: str


def keep(request: Request, v: View, uid: str, activity: str, cells: Mapping[str, str], hours: Mapping[str, Any], via: str) -> KeptAnswer:
    """Keep an answer in the tray; the same one arrives once. One that can't be is told, and not kept."""
    if request.answers.filter(uid=uid).exists():
        return KeptAnswer(uid, True, "", "")
    stated = {k: str(t).strip() for k, t in cells.items() if k in CELLS and str(t).strip()}
    own = {r: {k: str(t).strip() for k, t in x.items() if k in ("worked", "to_go") and str(t).strip()} for r, x in hours.items()}
    own = {r: x for r, x in own.items() if x}
    if activity not in request.activities:
        return KeptAnswer(uid, False, sentence("asking.not_asked_for", code=activity[:60]), "activity")
    if not stated and not own:
        return KeptAnswer(uid, False, sentence("asking.says_nothing"), "")
    if any(len(t) > SHORT for k, t in stated.items() if k != "note"):
        return KeptAnswer(uid, False, sentence("asking.cell_long", most=SHORT), next(k for k, t in stated.items() if len(t) > SHORT))
    if not own.keys() <= own_resources(v.book, request.name) & {x.resource for x in v.book.assignments_of.get(activity, ())}:
        return KeptAnswer(uid, False, sentence("asking.no_hours"), "worked")
    if len(stated.get("note", "")) > LONGEST:
        return KeptAnswer(uid, False, sentence("asking.note_long", most=LONGEST), "note")
    try:
        found = answered(v.results, before(v), activity, stated, own).statement
    except EntryRefused as no:
        return KeptAnswer(uid, False, no.message, no.field)
    for key in DATES:
        # Whoever takes it may write dates in another order.
        at: int | None = getattr(found, key, None)
        if at is not None and key in stated and not ISO.fullmatch(stated[key]):
            stated[key] = to_text(at).replace("T", " ")
    try:
        with transaction.atomic():
            request.answers.filter(activity=activity, state=State.WAITING).update(state=State.PASSED)
            Answer.objects.create(request=request, uid=uid, activity=activity, cells=stated, hours=own, via=via)
    except IntegrityError:
        pass  # the same answer, sent twice at once
    return KeptAnswer(uid, True, "", "")
