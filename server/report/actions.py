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

LONGEST = 20_000


def write_draft(access: Access, page_code: str, revision: int, status: str, reason: str, words: str) -> None:
    """Keep the words of the wet page's report. They are sealed with the page."""
    ask(access, "report")
    page, w = access.wet(page_code), workspace_of(access.project)
    if status and status not in STATUSES:
        raise Refused("bad-request", "The overall status is on_plan, watch or act.", 400, field="status")
    for name, text in (("reason", reason), ("words", words)):
        if len(text) > LONGEST:
            raise Refused("entry-refused", f"At most {LONGEST} characters fit here; this has {len(text)}.", field=name)
    with step(access, revision, "report", f"words of report {page.code}") as s:
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
            "The words of this page were sealed without an overall status, so it can't be issued any more.",
            409,
            field="status",
        )
    if not status:
        raise Refused("entry-refused", f"Choose the overall status first. The figures propose {r.proposed_word}.", field="status")
    if status != "on_plan" and not reason:
        raise Refused(
            "entry-refused",
            "Say why: a report that is not On plan needs a reason.",
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
            raise Refused("stale", "Somebody issued an edition meanwhile. Nothing of yours was issued: look at theirs first.", 409)
        found = Edition.objects.create(page=page, number=number, status=status, issued_by=access.person, html=text, pdf=made, digest=digest)
        found.refresh_from_db()
        add_seal(Project.objects.get(pk=project.pk), "edition", f"{page.uid}/{number}", edition_content(found))
    return found


def _next_number(page: Page) -> int:
    last = Edition.objects.filter(page=page).order_by("-number").values_list("number", flat=True).first()
    return (last or 0) + 1
