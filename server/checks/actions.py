"""Answering findings, taking answers back, and the project's limits. Each is one step of the journal."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from decimal import Decimal

from dryledger.book.answers import Answer as Kept
from dryledger.book.answers import answers_at
from dryledger.checks.checks import CHECKS, checks
from dryledger.entry.grammar import read_number
from dryledger.errors import ChangeRefused, EntryRefused
from server.book.access import Access
from server.book.kept_models import Answer
from server.book.models import Page, Project
from server.book.results import View
from server.book.workspace import workspace_of
from server.checks.selectors import names_of
from server.journal.steps import Changes, ask, step, unchanged
from server.journal.writing import after_step
from server.shared.words import sentence

LONGEST = 4000
LIMITS = {"lag": 10_000, "float": 10_000, "duration": 10_000, "percent": 100}


@dataclass
class Answered:
    """The project after an answer was given or taken back, or its limits were changed."""

    revision: int
    label: str


def answer(access: Access, page_code: str, revision: int, entries: Sequence[Mapping[str, str]]) -> Answered:
    """Accept findings with a reason, until a page or for good; an empty reason takes the answer in force back. One step.

    Each entry names `check` and `row`, and `text` or `until` or both; what is not named stays. Raises ChangeRefused at the
    finding (“check:row”) and the field.
    """
    ask(access, "answer")
    page = access.wet(page_code)
    unchanged(access, revision)
    v = access.view(page_code)
    w, force = v.workspace, answers_at(v.book, page.code)
    caught = {(f.check, row) for f in checks(v.results) for row in f.rows}
    read: list[tuple[tuple[str, str], str, str | None]] = []
    for e in entries:
        key = e["check"], e["row"]
        name, was = f"{e['check']}:{e['row']}", force.get(key)
        if key not in caught:
            raise ChangeRefused("not-found", sentence("checks.not_caught", row=e["row"][:60]), name, "text")
        try:
            text = e["text"].strip() if "text" in e else (was.text if was else "")
            until = _until(access, page, e["until"]) if "until" in e else (was.until if was else None)
            if not text and was is None:
                raise EntryRefused("text" if "text" in e else "until", sentence("checks.reason_needed"))
            if len(text) > LONGEST:
                raise EntryRefused("text", sentence("checks.long_reason", most=LONGEST, count=len(text)))
        except EntryRefused as no:
            raise ChangeRefused("entry-refused", no.message, name, no.field, no.nearest) from None
        read.append((key, text, until))
    label, subject = _label(v, read)
    last = Answer.objects.filter(project=access.project).order_by("order").last()
    place = 0 if last is None else int(last.order) + 1
    with step(access, revision, "answer", label, subject) as s:
        for i, (key, text, until) in enumerate(read):
            if text:
                _write(s, access, page, key, text, until, place + i)
            else:
                _end(s, access, page, key, force[key])
    after_step(access, w, s.rows)
    return Answered(access.project.revision, label)


def _label(v: View, read: list[tuple[tuple[str, str], str, str | None]]) -> tuple[str, str]:
    """What is done in words, and the activity that it is about, where it is one."""
    (check, row), text, _ = read[0]
    if not text:
        return sentence("checks.taken_back"), ""
    says = next(c for c in CHECKS if c.code == check).says
    what = names_of(v.book).get(row, row) if len(read) == 1 else sentence("checks.rows", count=len(read))
    alone = len(read) == 1 and row in v.book.activity_by_code
    return sentence("checks.accepted", what=what, says=says), row if alone else ""


def _write(s: Changes, access: Access, page: Page, key: tuple[str, str], text: str, until: str | None, place: int) -> None:
    """The answer of this page: there is one for each finding."""
    check, row = key
    made = Answer.objects.filter(project=access.project, page=page.code, check_code=check, row=row).first()
    if made is None:
        made = Answer(project_id=access.project.pk, order=place, check_code=check, row=row, page=page.code)
    made.text, made.until, made.by = text, until, access.person.full_name
    s.save(made)


def _end(s: Changes, access: Access, page: Page, key: tuple[str, str], found: Kept) -> None:
    """Take an answer back. One of an earlier page is sealed with it: it ends before this page instead."""
    held = Answer.objects.filter(project=access.project, check_code=key[0], row=key[1])
    if found.page == page.code:
        s.delete(held.get(page=page.code))
        return
    before = Page.objects.filter(project=access.project, order__lt=page.order).order_by("order").last()
    old = held.filter(page=found.page).last()
    assert old is not None and before is not None
    old.until = before.code
    s.save(old)


def _until(access: Access, page: Page, typed: str) -> str | None:
    """The page that an answer is good until: one that there is from this on, or one to come; empty is for good."""
    code = typed.strip()
    if not code:
        return None
    found = Page.objects.filter(project=access.project, code__iexact=code).first()
    if found is None:
        head, number = page.code.rstrip("0123456789"), page.code[len(page.code.rstrip("0123456789")) :]
        rest = code[len(head) :]
        if code[: len(head)].upper() != head.upper() or not rest.isdecimal() or not number.isdecimal() or int(rest) <= int(number):
            raise EntryRefused("until", sentence("checks.no_page", code=code[:60], page=page.code), page.code)
        return f"{head}{int(rest):0{len(number)}d}"
    if found.order < page.order:
        raise EntryRefused("until", sentence("checks.page_past", code=found.code, page=page.code), page.code)
    return found.code


def set_limits(access: Access, revision: int, typed: Mapping[str, str]) -> Answered:
    """Change the project's limits; an empty text is the usual one. Raises EntryRefused at the limit."""
    ask(access, "limits")
    unchanged(access, revision)
    w, label = workspace_of(access.project), sentence("checks.limits")
    now = asdict(w.book.project.limits)
    usual = asdict(type(w.book.project.limits)())
    for key, text in typed.items():
        number = read_number(text.strip().rstrip("%d ")) if text.strip() else usual[key]
        if number is None or not 0 <= number <= LIMITS[key]:
            raise EntryRefused(key, sentence("checks.limit", most=LIMITS[key]))
        now[key] = Decimal(number)
    with step(access, revision, "limits", label) as s:
        project = Project.objects.get(pk=access.project.pk)
        kept = {k: float(x) if x % 1 else int(x) for k, x in now.items() if x != usual[k]} or None
        if project.limits != kept:
            project.limits = kept
            s.save(project)
    after_step(access, w, s.rows)
    return Answered(access.project.revision, label)
