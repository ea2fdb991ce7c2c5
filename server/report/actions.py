"""Writing the words of a report, and issuing it."""

import hashlib

from django.db import transaction

from server.book.access import Access
from server.book.models import Page, Project
from server.book.sealing import add_seal
from server.book.workspace import workspace_of
from server.journal.steps import ask, locked, step
from server.journal.writing import after_step
from server.report.document import html, pdf
from server.report.facts import STATUSES, report
from server.report.models import Draft, Edition
from server.report.sealed import edition_content
from server.shared.problems import Refused
from server.shared.words import sentence

LONGEST = 20_000


def write_draft(access: Access, page_code: str, revision: int, status: str, reason: str, words: str) -> None:
    """Keep the words of the wet page's report. They are sealed with the page."""
    ask(access, "report")
    page, w = access.wet(page_code), workspace_of(access.project)
    if status and status not in STATUSES:
        raise Refused("bad-request", sentence("report.overall_status_plan_watch"), 400, field="status")
    for name, text in (("reason", reason), ("words", words)):
        if len(text) > LONGEST:
            raise Refused("entry-refused", sentence("report.most_characters_fit_here", longest=LONGEST, count=len(text)), field=name)
    with step(access, revision, "report", sentence("report.words_report", code=page.code)) as s:
        draft = Draft.objects.filter(page=page).first() or Draft(page=page)
        draft.status, draft.reason, draft.words = status, reason, words
        s.save(draft)
    after_step(access, w, s.rows)


def issue(access: Access, page_code: str, revision: int) -> Edition:
    """Issue the report of a page as its next edition. Needs a reason unless it is on plan. It is made before it is written."""
    project = locked(access.project, revision)
    r = report(access.view(page_code))
    status, reason = r.draft.status, r.draft.reason.strip()
    if not status and r.state == "dry":
        raise Refused(
            "entry-refused",
            sentence("report.words_page_were_sealed"),
            409,
            field="status",
        )
    if not status:
        raise Refused("entry-refused", sentence("report.choose_overall_status_first", proposed_word=r.proposed_word), field="status")
    if status != "on_plan" and not reason:
        raise Refused(
            "entry-refused",
            sentence("report.say_why_report_plan"),
            field="reason",
            nearest=" ".join(r.proposed_reasons) or None,
        )
    page = Page.objects.get(pk=access.page(page_code).pk)
    number = _next_number(page)
    text = html(r, status, reason, number, access.person.full_name)
    made = pdf(text)
    digest = hashlib.sha256(text.encode() + made).hexdigest()
    with transaction.atomic():
        locked(project, revision)
        if _next_number(page) != number:
            raise Refused("stale", sentence("report.somebody_issued_edition_meanwhile"), 409)
        found = Edition.objects.create(page=page, number=number, status=status, issued_by=access.person, html=text, pdf=made, digest=digest)
        found.refresh_from_db()
        add_seal(Project.objects.get(pk=project.pk), "edition", f"{page.uid}/{number}", edition_content(found))
    return found


def _next_number(page: Page) -> int:
    last = Edition.objects.filter(page=page).order_by("-number").values_list("number", flat=True).first()
    return (last or 0) + 1
