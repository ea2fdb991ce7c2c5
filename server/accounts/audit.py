"""The audit trail: every sign-in, change of role, seal, issue and export, in order. Nothing here changes or removes a line."""

import hashlib
from collections.abc import Callable, Iterable
from datetime import datetime

from django.db import transaction
from django.http import HttpRequest, HttpResponseBase
from django.utils import timezone

from server.accounts.models import Audit, Person
from server.shared.words import sentence

KINDS = ("sign-in", "refused", "password", "people", "access", "organisation", "seal", "issue", "export")


def note(kind: str, what: str, person: Person | None = None, project: str = "") -> None:
    """Write a line. It stands in the transaction of what it tells of, where there is one."""
    with transaction.atomic():
        last = Audit.objects.order_by("-number").values("number", "digest").first()
        number, before = (last["number"] + 1, last["digest"]) if last else (1, "")
        line = Audit(number=number, at=timezone.now(), who=person.full_name if person else "", person=person)
        line.kind, line.project, line.what = kind, project, what[:500]
        line.digest = _digest(before, line)
        line.save()


def _digest(before: str, line: Audit) -> str:
    at: datetime = line.at
    parts = (before, str(line.number), at.isoformat(), line.who, str(line.person_id), line.kind, line.project, line.what)
    return hashlib.sha256(b"".join(len(part.encode()).to_bytes(8, "big") + part.encode() for part in parts)).hexdigest()


def faults(lines: Iterable[Audit] | None = None) -> list[str]:
    """What of the trail is not as it was written: sentences."""
    before = ""
    for number, line in enumerate(Audit.objects.all() if lines is None else lines, 1):
        if line.number != number or line.digest != _digest(before, line):
            return [sentence("audit.broken", number=number)]
        before = line.digest
    return []


class Exports:
    """Notes whatever leaves as a file, whichever room it leaves from: such answers say that they are one."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        answer = self.answer(request)
        match = request.resolver_match
        if answer.status_code == 200 and answer.has_header("Content-Disposition") and match is not None:
            person = request.user if isinstance(request.user, Person) else None
            note("export", request.path.removeprefix("/api/"), person, match.kwargs.get("project", ""))
        return answer
