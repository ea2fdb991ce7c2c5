"""Writing the words of a report, and issuing it."""

import hashlib

from django.db import transaction

from server.accounts.models import Person, Role
from server.accounts.roles import require
from server.journal import steps
from server.posting.models import Page
from server.posting.pages import find_project, wet_page
from server.report.document import html, pdf
from server.report.facts import STATUSES, report
from server.report.models import Draft, Edition
from server.shared.problems import Refused
from server.value.results import view

LONGEST = 20_000


def write_draft(person: Person, project_code: str, page_code: str, revision: int, status: str, reason: str, words: str) -> None:
    """Keep the words of the wet page's report. They are sealed with the page."""
    require(person, Role.ANALYST, "write a report")
    project = find_project(project_code)
    page = wet_page(project, page_code)
    if status and status not in STATUSES:
        raise Refused("bad-request", "The overall status is on_plan, watch or act.", 400, field="status")
    for name, text in (("reason", reason), ("words", words)):
        if len(text) > LONGEST:
            raise Refused("entry-refused", f"At most {LONGEST} characters fit here; this has {len(text)}.", field=name)
    with steps.step(project, person, revision, "report", f"words of report {page.code}") as s:
        draft = Draft.objects.filter(page=page).first() or Draft(page=page)
        draft.status, draft.reason, draft.words = status, reason, words
        s.save(draft)


def issue(person: Person, project_code: str, page_code: str, revision: int) -> Edition:
    """Issue the report of a page as its next edition. Needs a reason unless it is on plan."""
    require(person, Role.APPROVER, "issue a report")
    with transaction.atomic():
        v = view(project_code, page_code)
        steps.locked(v.project, revision)
        r = report(v)
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
        page = Page.objects.get(pk=v.page.pk)
        last = Edition.objects.filter(page=page).order_by("-number").values_list("number", flat=True).first()
        number = (last or 0) + 1
        text = html(r, status, reason, number, person.full_name)
        made = pdf(text)
        digest = hashlib.sha256(text.encode() + made).hexdigest()
        return Edition.objects.create(page=page, number=number, status=status, issued_by=person, html=text, pdf=made, digest=digest)
