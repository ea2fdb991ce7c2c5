"""An archive brought in: every dry page as it was closed, every edition, the journal, and all of it verified before it counts."""

import json
import uuid
import zlib
from collections.abc import Callable
from datetime import datetime
from typing import Any

from django.db import transaction

from server.accounts.models import Person
from server.archive.container import is_archive, unpacked
from server.archive.writing import DRAFT, OWN, SEALED
from server.book.documents import CODED
from server.book.loading import load_archived, read_text
from server.book.membership import Member
from server.book.models import Page, Project, Seal
from server.book.verify import reckoned, verify
from server.exchange.bringing import code_fault
from server.exchange.preview import PreviewOut, Reason
from server.journal.models import Step
from server.report.models import Delivery, Draft, Edition, Recipient, ReviewEvent
from server.shared.problems import Refused
from server.shared.words import sentence

Doc = dict[str, Any]
MOST_TOLD = 20


def bring_archive(person: Person | None, content: bytes, as_code: str, apply: bool) -> PreviewOut | None:
    """Read a file as an archive and say what is in it; with `apply`, bring it in. None where it is no archive.

    It is written, verified and, unless it is to stay, taken back, in one transaction; what takes long is reckoned before.
    """
    if not is_archive(content):
        return None
    contents = unpacked(content)
    try:
        return _brought(person, contents, as_code.strip(), apply)
    except (KeyError, TypeError, ValueError, IndexError, AttributeError, zlib.error):
        raise Refused("archive-unknown", sentence("archive.unknown"), 422, field="file") from None


class _TakenBack(Exception):
    """Leaves the transaction of a look at an archive."""


def _brought(person: Person | None, contents: dict[str, bytes], as_code: str, apply: bool) -> PreviewOut:
    head: Doc = json.loads(contents["project.json"])
    steps = [json.loads(line) for line in contents["journal.json"].splitlines()]
    dry = [p for p in head["pages"] if p["state"] == "dry"]
    notes = [sentence("archive.holds", pages=len(dry), editions=len(head["editions"]), steps=len(steps))]
    out = PreviewOut(str(head["code"]), str(head["name"]), True, False, {}, [], [], [], notes=notes)
    out.counts = {"add": 1, "change": 0, "leave": 0, "refuse": 0}
    code = as_code or str(head["code"])
    document, book = read_text(contents["book.json"])
    if Project.objects.filter(uid=head["uid"]).exists():
        if apply:
            raise Refused("here-already", sentence("archive.here_already"), 409, field="file")
        out.faults.append(Reason(None, sentence("archive.here_already")))
        return out
    if (wrong := code_fault(code)) is not None:
        if apply:
            raise Refused("entry-refused", wrong, 422, field="code")
        out.faults.append(Reason("code", wrong))
        return out
    for p in dry:
        reckoned(zlib.decompress(contents[f"pages/{p['uid']}.inputs"]), p["code"])
    try:
        with transaction.atomic():
            made = load_archived(document, book, code, person, uuid.UUID(head["uid"]), _sealing(head, contents))
            _rest(made, head, contents, steps, person)
            found = verify(made)
            out.faults += [Reason(None, told) for told in found.wrong[:MOST_TOLD]]
            out.notes += found.differently[:MOST_TOLD]
            if out.faults or not apply:
                raise _TakenBack
            out.done = made.code
    except _TakenBack:
        pass
    out.ready = not out.faults
    if out.faults and apply:
        raise Refused("archive-wrong", out.faults[0].message, 422, field="file")
    if out.ready:
        out.notes.append(sentence("archive.verified"))
    return out


class _People:
    """Who people of an archive are here: the same name and sign-in name; else somebody who does not sign in."""

    def __init__(self, told: Doc) -> None:
        self.told, self.found = told, dict[int, Person]()

    def of(self, pk: int | None) -> Person | None:
        if pk is None:
            return None
        if pk not in self.found:
            username, full_name = self.told[str(pk)]
            here = Person.objects.filter(username=username, full_name=full_name).first()
            self.found[pk] = here or self._stranger(username, full_name)
        return self.found[pk]

    def must(self, pk: int) -> Person:
        found = self.of(pk)
        assert found is not None
        return found

    def _stranger(self, username: str, full_name: str) -> Person:
        name, n = username, 1
        while Person.objects.filter(username=name).exists():
            name, n = f"{username}-{n}", n + 1
        person = Person(username=name, full_name=full_name, role="none", is_active=False)
        person.set_unusable_password()
        person.save()
        return person


def _sealing(head: Doc, contents: dict[str, bytes]) -> Callable[[Project, list[Page]], None]:
    people = _People(head["people"])

    def seal(project: Project, pages: list[Page]) -> None:
        told = {p["code"]: p for p in head["pages"]}
        now = {name: dict(model.all_rows().filter(project=project).values_list("code", "pk")) for name, model in CODED.items()}
        for page in pages:
            x = told[page.code]
            page.uid, page.revision, page.state = uuid.UUID(x["uid"]), x["revision"], x["state"]
            if x["draft"]:
                Draft.objects.create(page=page, **{k: x["draft"][k] for k in DRAFT})
            if page.state == "dry":
                for key in SEALED:
                    setattr(page, key, x[key])
                page.closed_as = x["closed_as"] or {"by": x["by"], "keys": x["keys"]}
                was = {name: {str(pk): code for pk, code in rows.items()} for name, rows in head["rows"].items()}
                page.keys = {
                    name: {code: now[name].get(was[name].get(str(pk), ""), 0) for code, pk in rows.items()}
                    for name, rows in x["keys"].items()
                }
                page.closed_by, page.closed_at = people.of(x["by"]), datetime.fromisoformat(x["at"]) if x["at"] else None
                page.inputs, page.results = contents[f"pages/{x['uid']}.inputs"], contents[f"pages/{x['uid']}.results"]
            page.save()

    return seal


def _rest(project: Project, head: Doc, contents: dict[str, bytes], steps: list[Doc], person: Person | None) -> None:
    """Everything beside the book and its pages."""
    people = _People(head["people"])
    pages = {str(p.uid): p for p in Page.objects.filter(project=project).defer("inputs", "results")}
    seals = [Seal(project=project, number=n, kind=k, subject=s, content=c, digest=d) for n, k, s, c, d in head["seals"]]
    Seal.objects.bulk_create(seals)
    Recipient.objects.bulk_create([Recipient(project=project, name=n, email=e) for n, e in head["recipients"]])
    for x in head["pages"]:
        made: list[ReviewEvent] = []
        for kind, section, text, about, by, at, digest in x["review"]:
            event = ReviewEvent(page=pages[x["uid"]], kind=kind, section=section, text=text, by=people.must(by), digest=digest)
            event.about = None if about is None else made[about]
            event.save()
            ReviewEvent.objects.filter(pk=event.pk).update(at=at)
            made.append(event)
    for x in head["editions"]:
        _edition(x, pages[x["page"]], contents, people)
    for x in steps:
        kept = {k: x[k] for k in ("revision", "kind", "role", "label", "subject", "changes", "undone", "undoable", "dropped")}
        step = Step.objects.create(project=project, by=people.must(x["by"]), sealed_as=x["sealed_as"], **kept)
        Step.objects.filter(pk=step.pk).update(at=x["at"])
    Project.objects.filter(pk=project.pk).update(**{k: head[k] for k in OWN})
    if head["members_only"] and person is not None and person.role != "none":
        Member.objects.create(project=project, person=person, role=person.role)


def _edition(x: Doc, page: Page, contents: dict[str, bytes], people: _People) -> None:
    e = Edition.objects.create(
        page=page,
        number=x["number"],
        status=x["status"],
        issued_by=people.must(x["by"]),
        issued_as=x["as"] or x["by"],
        html=contents[f"{x['file']}.html"].decode(),
        pdf=contents[f"{x['file']}.pdf"],
        xlsx=contents.get(f"{x['file']}.xlsx"),
        content=x["content"],
        digest=x["digest"],
    )
    Edition.objects.filter(pk=e.pk).update(issued_at=x["at"])
    for name, email, state, detail, by, at in x["sent"]:
        d = Delivery.objects.create(edition=e, name=name, email=email, state=state, detail=detail, sent_by=people.must(by))
        Delivery.objects.filter(pk=d.pk).update(sent_at=at)
