"""Writing the words of a report, laying it out, and issuing it."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from typing import Any

from django.db import transaction

from dryledger.book.report_layout import OWN_HEADS, SECTIONS, ReportLayout, layout_faults
from server.accounts.audit import note
from server.book.access import Access
from server.book.models import Page, Project
from server.book.sealing import add_seal
from server.book.workspace import workspace_of
from server.journal.steps import as_it_is, ask, step
from server.journal.writing import after_step, write_list
from server.report.content import STATUSES, report
from server.report.document import html, pdf
from server.report.drafts import HEAD, layout_of
from server.report.models import Addition, Draft, Edition
from server.report.sealed import edition_content, edition_digest
from server.report.shapes import ReportOut
from server.report.workbook import workbook
from server.shared.problems import Refused
from server.shared.words import sentence

LONGEST = 20_000
Heads = Mapping[str, Mapping[str, str]]


def write_draft(
    access: Access,
    page_code: str,
    revision: int,
    status: str,
    reason: str,
    words: str,
    texts: Mapping[str, str] | None = None,
    heads: Heads | None = None,
) -> None:
    """Keep the words of the wet page's report; texts and heads that are not given stay. They are sealed with the page."""
    ask(access, "report")
    page, w = access.wet(page_code), workspace_of(access.project)
    _check(status, {"reason": reason, "words": words, **{f"texts.{k}": x for k, x in (texts or {}).items()}})
    _check_heads(heads or {})
    if any(key not in SECTIONS or key == "summary" for key in texts or {}):
        raise Refused("bad-request", sentence("report.no_such_section"), 400, field="texts")
    with step(access, revision, "report", sentence("report.words_report", code=page.code)) as s:
        draft = Draft.objects.filter(page=page).first() or Draft(page=page)
        draft.status, draft.reason, draft.words = status, reason, words
        if texts is not None:
            draft.texts = {key: text for key, text in texts.items() if text.strip()}
        if heads is not None:
            draft.heads = {name: dict(x) for name, x in heads.items() if x["mark"] or x["reason"].strip()}
        s.save(draft)
    after_step(access, w, s.rows)


def _check(status: str, texts: Mapping[str, str]) -> None:
    if status and status not in STATUSES:
        raise Refused("bad-request", sentence("report.overall_status_plan_watch"), 400, field="status")
    for name, text in texts.items():
        if len(text) > LONGEST:
            raise Refused("entry-refused", sentence("report.most_characters_fit_here", longest=LONGEST, count=len(text)), field=name)


def add(access: Access, page_code: str, subject: str, mark: str, text: str) -> None:
    """Add to the words of a dry page: they are sealed, so it stands dated beside them and takes nothing back.

    `subject` is a section, or `heads.` and the name of a head; a mark is given of heads and of the whole. Raises Refused.
    """
    v = access.view(page_code)
    marked = ("overall", *(HEAD + name for name in (*OWN_HEADS, *layout_of(v).heads)))
    if v.page.state != "dry":
        raise Refused("page-open", sentence("report.still_wet"), 409)
    if subject not in SECTIONS and subject not in marked:
        raise Refused("bad-request", sentence("report.no_such_section"), 400, field="subject")
    if mark and subject not in marked:
        raise Refused("bad-request", sentence("report.mark_of_section"), 400, field="mark")
    _check(mark, {"text": text})
    if not text.strip() and mark != "on_plan":
        raise Refused("entry-refused", sentence("report.say_addition"), field="text")
    Addition.objects.create(page_id=v.page.pk, subject=subject, mark=mark, text=text.strip(), by=access.person)


def _check_heads(heads: Heads) -> None:
    for name, x in heads.items():
        if x["mark"] and x["mark"] not in STATUSES:
            raise Refused("bad-request", sentence("report.overall_status_plan_watch"), 400, field=f"heads.{name}")
        if len(x["reason"]) > LONGEST:
            told = sentence("report.most_characters_fit_here", longest=LONGEST, count=len(x["reason"]))
            raise Refused("entry-refused", told, field=f"heads.{name}")


def set_layout(access: Access, page_code: str, revision: int, sections: Sequence[str], heads: Sequence[str], levels: int) -> None:
    """Lay the report out for the project, as one step. Raises Refused where the layout is none, Stale."""
    ask(access, "layout")
    access.wet(page_code)
    chosen = ReportLayout(tuple(sections), tuple(h.strip() for h in heads), ReportLayout().levels * levels)
    for fault in layout_faults((chosen,)):
        raise Refused("entry-refused", f"{fault.message[:1].upper()}{fault.message[1:]}.", 422, field=fault.path.rpartition(".")[2])
    if not sections:
        raise Refused("entry-refused", sentence("report.show_something"), 422, field="sections")
    as_shipped = chosen.shown == SECTIONS and not chosen.heads and chosen.levels == 1
    kept = [] if chosen.shown == SECTIONS else list(chosen.sections)
    rows = [] if as_shipped else [{"sections": kept, "heads": list(chosen.heads), "levels": levels}]
    write_list(access, revision, "layout", "report_layout", rows, sentence("report.laid_out"))


def _ready(r: ReportOut) -> None:
    """Raises Refused where something that a report must say is not said: each mark that is not on plan has its reason."""
    status, reason = r.draft.status, r.draft.reason.strip()
    if not status and r.state == "dry":
        raise Refused("entry-refused", sentence("report.words_page_were_sealed"), 409, field="status")
    if not status:
        raise Refused("entry-refused", sentence("report.choose_overall_status_first", proposed_word=r.proposed_word), field="status")
    if status != "on_plan" and not reason:
        near = " ".join(r.proposed_reasons) or None
        raise Refused("entry-refused", sentence("report.say_why_report_plan"), field="reason", nearest=near)
    for section in r.sections:
        for head in section.heads:
            if not head.mark:
                raise Refused("entry-refused", sentence("report.say_head", name=head.name), field=f"heads.{head.name}")
            if head.mark != "on_plan" and not head.reason.strip():
                near = " ".join(head.proposed_reasons) or None
                raise Refused("entry-refused", sentence("report.say_why_head", name=head.name), field=f"heads.{head.name}", nearest=near)
    if r.review.state == "sent_back":
        raise Refused("sent-back", sentence("report.was_sent_back", by=r.review.by, text=r.review.text), 409)


def issue(access: Access, page_code: str, revision: int) -> Edition:
    """Issue the report of a page as its next edition. It is made before it is written, so that nobody waits for it."""
    project = as_it_is(access.project, revision)
    v = access.view(page_code)
    r = report(v)
    _ready(r)
    page = Page.objects.get(pk=access.page(page_code).pk)
    number = _next_number(page)
    text = html(r, number, access.person.full_name)
    made, book = pdf(text), workbook(r, number, access.person.full_name)
    content = content_of(r)
    digest = edition_digest(text, made, book, content)
    with transaction.atomic():
        as_it_is(project, revision)
        if _next_number(page) != number:
            raise Refused("stale", sentence("report.somebody_issued_edition_meanwhile"), 409)
        found = Edition.objects.create(
            page=page,
            number=number,
            status=r.draft.status,
            issued_by=access.person,
            html=text,
            pdf=made,
            xlsx=book,
            content=content,
            digest=digest,
        )
        found.refresh_from_db()
        add_seal(Project.objects.get(pk=project.pk), "edition", f"{page.uid}/{number}", edition_content(found))
        note("issue", sentence("audit.issued", number=number, page=page.code), access.person, project.code)
    return found


def content_of(r: ReportOut) -> dict[str, Any]:
    """What an edition says, as data: overall status, reason, and its sections."""
    return {"status": r.draft.status, "reason": r.draft.reason, "sections": [asdict(s) for s in r.sections]}


def _next_number(page: Page) -> int:
    last = Edition.objects.filter(page=page).order_by("-number").values_list("number", flat=True).first()
    return (last or 0) + 1
