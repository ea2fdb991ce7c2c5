"""Answering findings, taking answers back, and the project's limits. Each is one step of the journal."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from decimal import Decimal

from dryledger.book.answers import Answer as Kept
from dryledger.book.answers import answers_at
from dryledger.changes.apply import finished
from dryledger.changes.draft import Draft
from dryledger.checks.checks import CHECKS, checks
from dryledger.entry.grammar import read_number
from dryledger.errors import ChangeRefused, EntryRefused
from server.book.access import Access
from server.book.models import Page
from server.book.results import View
from server.book.workspace import workspace_of
from server.checks.selectors import names_of
from server.journal.steps import ask, unchanged
from server.journal.writing import write
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
    draft = Draft(w.keyed)
    for key, text, until in read:
        if text:
            _write(draft, access, page, key, text, until)
        else:
            _end(draft, page, key, force[key])
    write(access, revision, "answer", finished(draft), w, label, subject)
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


def _held(draft: Draft, key: tuple[str, str], page: str) -> int | None:
    """The answer that a page gave to a finding."""
    return next((k for k, x in draft.records("answers") if (x.check_code, x.row, x.page) == (*key, page)), None)


def _write(draft: Draft, access: Access, page: Page, key: tuple[str, str], text: str, until: str | None) -> None:
    """The answer of this page: there is one for each finding."""
    cells = {"check": key[0], "row": key[1], "page": page.code, "text": text, "until": until, "by": access.person.full_name}
    held = _held(draft, key, page.code)
    if held is None:
        draft.add("answers", cells)
    else:
        draft.put("answers", held, cells)


def _end(draft: Draft, page: Page, key: tuple[str, str], found: Kept) -> None:
    """Take an answer back. One of an earlier page is sealed with it: it ends before this page instead."""
    held = _held(draft, key, found.page)
    assert held is not None
    if found.page == page.code:
        draft.drop("answers", held)
        return
    codes = [p.code for p in draft.book.periods]
    draft.put("answers", held, {"until": codes[codes.index(page.code) - 1]})


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
    kept = {k: float(x) if x % 1 else int(x) for k, x in now.items() if x != usual[k]} or None
    draft = Draft(w.keyed)
    if asdict(w.book.project.limits) != now:
        draft.put_project({"limits": kept})
    write(access, revision, "limits", finished(draft), w, label)
    return Answered(access.project.revision, label)
