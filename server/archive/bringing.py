"""An archive brought in: every dry page as it was closed, every edition, the journal, and all of it verified before it counts."""

import zlib
from collections.abc import Callable

import msgspec
from django.db import DatabaseError, transaction
from django.utils import timezone

from server.accounts.models import Person
from server.archive.container import is_archive, is_signed, unpacked
from server.archive.shape import ArchiveHead, ClosedAs, EditionHead, StepHead, expanded, read_head, read_steps
from server.archive.signing import is_proved
from server.archive.writing import OWN
from server.book.documents import CODED
from server.book.loading import load_archived, read_text
from server.book.membership import Member
from server.book.models import Baseline, Page, Project, Seal
from server.book.verify import reckoned, verify
from server.exchange.bringing import code_fault
from server.exchange.preview import PreviewOut, Reason
from server.journal.models import Step
from server.report.models import Addition, Delivery, Draft, Edition, Recipient, ReviewEvent
from server.shared.problems import Refused
from server.shared.words import sentence

MOST_TOLD = 20


def bring_archive(person: Person | None, content: bytes, as_code: str, apply: bool) -> PreviewOut | None:
    """Read a file as an archive and say what is in it; with `apply`, bring it in. None where it is no archive.

    It is written, verified and, unless it is to stay, taken back, in one transaction; what takes long is reckoned before.
    """
    if not is_archive(content):
        return None
    contents = unpacked(content)
    try:
        return _brought(person, contents, as_code.strip(), apply, is_signed(content, is_proved))
    except (msgspec.MsgspecError, KeyError, ValueError, IndexError, zlib.error, DatabaseError, RecursionError):
        raise Refused("archive-unknown", sentence("archive.unknown"), 422, field="file") from None


class _TakenBack(Exception):
    """Leaves the transaction of a look at an archive."""


def _brought(person: Person | None, contents: dict[str, bytes], as_code: str, apply: bool, proved: bool) -> PreviewOut:
    head, steps = read_head(contents["project.json"]), read_steps(contents["journal.json"])
    dry = [p for p in head.pages if p.state == "dry"]
    notes = [sentence("archive.holds", pages=len(dry), editions=len(head.editions), steps=len(steps))]
    out = PreviewOut(head.code, head.name, True, False, {}, [], [], [], notes=notes)
    out.counts = {"add": 1, "change": 0, "leave": 0, "refuse": 0}
    code = as_code or head.code
    document, book = read_text(contents["book.json"])
    if [(p.code, p.state) for p in book.periods] != [(p.code, p.state) for p in head.pages]:
        raise ValueError("other pages than those of the book")
    if Project.objects.filter(uid=head.uid).exists():
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
        expanded(contents[f"pages/{p.uid}.results"])
        reckoned(expanded(contents[f"pages/{p.uid}.inputs"]), p.code)
    try:
        with transaction.atomic():
            people = _People(head.people, proved)
            made = load_archived(document, book, code, person, head.uid, _sealing(head, contents, people))
            _rest(made, head, contents, steps, person, people)
            told = _brought_in(person, head.code, proved)
            Project.objects.filter(pk=made.pk).update(brought_in=told)
            if not proved:
                Baseline.objects.filter(project=made).update(came_from=told)
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
        out.notes.append(sentence("archive.verified" if proved else "archive.not_proved"))
    return out


def _brought_in(person: Person | None, code: str, proved: bool) -> str:
    """Who brought a project in, from where, and whether a signature proves what it says of people."""
    who = sentence("archive.at_command") if person is None else person.full_name
    key = "archive.brought_in" if proved else "archive.brought_in_unproved"
    now = timezone.now()
    return sentence(key, who=who, code=code, day=f"{now.day} {now:%B} {now.year}")


class _People:
    """Who people of an archive are here: the same name and sign-in name; else somebody who does not sign in.

    Without a signature that is proved the archive may say anything of anybody: nobody who can sign in is taken for whom it names, and
    each name says so.
    """

    def __init__(self, told: dict[str, tuple[str, str]], proved: bool) -> None:
        self.told, self.found, self.proved = told, dict[int, Person](), proved

    def of(self, pk: int | None) -> Person | None:
        """Somebody by the key there."""
        return None if pk is None else self.must(pk)

    def must(self, pk: int) -> Person:
        """The same, where there is somebody. Raises KeyError for whom the archive does not name."""
        if pk not in self.found:
            username, full_name = self.told[str(pk)]
            here = Person.objects.filter(username=username, full_name=full_name).first() if self.proved else None
            name = full_name if self.proved else sentence("archive.name_not_proved", name=full_name)[:200]
            self.found[pk] = here or self._stranger(username, name)
        return self.found[pk]

    def _stranger(self, username: str, full_name: str) -> Person:
        name, n = username, 1
        while Person.objects.filter(username=name).exists():
            name, n = f"{username[:140]}-{n}", n + 1
        person = Person(username=name, full_name=full_name, role="none", is_active=False)
        person.set_unusable_password()
        person.save()
        return person


def _sealing(head: ArchiveHead, contents: dict[str, bytes], people: _People) -> Callable[[Project, list[Page]], None]:
    def seal(project: Project, pages: list[Page]) -> None:
        told = {p.code: p for p in head.pages}
        now = {name: dict(model.all_rows().filter(project=project).values_list("code", "pk")) for name, model in CODED.items()}
        for page in pages:
            x = told[page.code]
            page.uid, page.revision, page.state = x.uid, x.revision, x.state
            if x.draft:
                Draft.objects.create(page=page, **msgspec.to_builtins(x.draft))
            if page.state == "dry":
                page.digest, page.previous, page.calculation, page.mark = x.digest, x.previous, x.calculation, x.mark
                page.closed_as = msgspec.to_builtins(x.closed_as or ClosedAs(x.by, x.keys))
                page.keys = {name: {code: _key_now(head, now, name, pk) for code, pk in rows.items()} for name, rows in x.keys.items()}
                page.closed_by, page.closed_at = people.of(x.by), x.at
                page.inputs, page.results = contents[f"pages/{x.uid}.inputs"], contents[f"pages/{x.uid}.results"]
            page.save()

    return seal


def _key_now(head: ArchiveHead, now: dict[str, dict[str, int]], name: str, pk: int) -> int:
    """The key that a row has here, by the one it had there; 0 where it is gone."""
    return now[name].get(head.rows[name].get(str(pk), ""), 0)


def _rest(
    project: Project, head: ArchiveHead, contents: dict[str, bytes], steps: list[StepHead], person: Person | None, people: _People
) -> None:
    """Everything beside the book and its pages."""
    pages = {p.uid: p for p in Page.objects.filter(project=project).defer("inputs", "results")}
    seals = [Seal(project=project, number=n, kind=k, subject=s, content=c, digest=d) for n, k, s, c, d in head.seals]
    Seal.objects.bulk_create(seals)
    Recipient.objects.bulk_create([Recipient(project=project, name=n, email=e) for n, e in head.recipients])
    for x in head.pages:
        made: list[ReviewEvent] = []
        for kind, section, text, about, by, at, digest in x.review:
            event = ReviewEvent(page=pages[x.uid], kind=kind, section=section[:20], text=text, by=people.must(by), digest=digest)
            event.about = None if about is None else made[about]
            event.save()
            ReviewEvent.objects.filter(pk=event.pk).update(at=at)
            made.append(event)
        for a in x.added:
            addition = Addition.objects.create(page=pages[x.uid], subject=a.subject, mark=a.mark, text=a.text, by=people.must(a.by))
            Addition.objects.filter(pk=addition.pk).update(at=a.at)
    for e in head.editions:
        _edition(e, pages[e.page], contents, people)
    for s in steps:
        kept = {k: getattr(s, k) for k in ("revision", "kind", "role", "label", "subject", "changes", "undone", "undoable", "dropped")}
        step = Step.objects.create(project=project, by=people.must(s.by), sealed_as=msgspec.to_builtins(s.sealed_as), **kept)
        Step.objects.filter(pk=step.pk).update(at=s.at)
    Project.objects.filter(pk=project.pk).update(**{k: getattr(head, k) for k in OWN})
    if head.members_only and person is not None and person.role != "none":
        Member.objects.create(project=project, person=person, role=person.role)


def _edition(x: EditionHead, page: Page, contents: dict[str, bytes], people: _People) -> None:
    e = Edition.objects.create(
        page=page,
        number=x.number,
        status=x.status,
        issued_by=people.must(x.by),
        issued_as=x.by if x.as_ is None else x.as_,
        html=contents[f"{x.file}.html"].decode(),
        pdf=contents[f"{x.file}.pdf"],
        xlsx=contents.get(f"{x.file}.xlsx"),
        content=x.content,
        digest=x.digest,
    )
    Edition.objects.filter(pk=e.pk).update(issued_at=x.at)
    for name, email, state, detail, by, at in x.sent:
        d = Delivery.objects.create(edition=e, name=name, email=email, state=state, detail=detail, sent_by=people.must(by))
        Delivery.objects.filter(pk=d.pk).update(sent_at=at)
