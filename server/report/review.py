"""The review of a page's report: asked for, commented beside its sections, sent back or approved.

What is said is kept as it was said; where a review stands follows from the last of it. Words that change after it was sent back
or approved take that back: then they are being written again.
"""

from dryledger.book.report_layout import SECTIONS
from server.accounts.models import Role
from server.book.access import Access
from server.book.models import Page
from server.book.sealing import sha, text_of
from server.report.models import Addition, ReviewEvent
from server.report.shapes import CommentOut, ReviewOut
from server.shared.problems import Refused
from server.shared.words import sentence

LONGEST = 20_000
STATES = {"asked": "review", "sent_back": "sent_back", "approved": "approved"}
ROLES = {
    "ask": (Role.ANALYST, sentence("report.ask_review")),
    "comment": (Role.ANALYST, sentence("report.comment")),
    "settle": (Role.ANALYST, sentence("report.comment")),
    "send_back": (Role.APPROVER, sentence("report.review")),
    "approve": (Role.APPROVER, sentence("report.review")),
}
"""What can be done in a review, with the role that it takes."""


def words_digest(page: Page) -> str:
    """The digest of a page's words, with how often the page has changed: figures may be others after that."""
    now = Page.objects.defer("inputs", "results").select_related("draft").get(pk=page.pk)
    added = [f"{x.subject} {x.mark} {x.text}".encode() for x in Addition.objects.filter(page=page)]
    return sha(text_of(now), str(now.revision).encode(), *added)


def review_of(page: Page) -> ReviewOut:
    """Where the review of a page stands."""
    events = list(ReviewEvent.objects.filter(page=page).select_related("by"))
    settled = {e.about_id: e.by.full_name for e in events if e.kind == "settled"}
    comments = [
        CommentOut(e.pk, e.section, e.text, e.by.full_name, e.at.isoformat(timespec="minutes"), settled.get(e.pk, ""))
        for e in events
        if e.kind == "comment"
    ]
    last = next((e for e in reversed(events) if e.kind in STATES), None)
    if last is None:
        return ReviewOut("writing", "", "", "", False, comments)
    changed = last.digest != words_digest(page)
    state = "writing" if changed and last.kind != "asked" else STATES[last.kind]
    return ReviewOut(state, last.by.full_name, last.at.isoformat(timespec="minutes"), last.text, changed, comments)


def review(access: Access, page_code: str, do: str, section: str, text: str, about: int | None) -> None:
    """One thing said in a review. Raises NotAllowed for whom it is not, Refused where it can't be said now."""
    access.require(*ROLES[do])
    page = access.page(page_code)
    now = review_of(page)
    if len(text) > LONGEST:
        raise Refused("entry-refused", sentence("report.most_characters_fit_here", longest=LONGEST, count=len(text)), field="text")
    if do in ("send_back", "comment") and not text.strip():
        raise Refused("entry-refused", sentence(f"report.say_{do}"), field="text")
    if section and section not in SECTIONS:
        raise Refused("bad-request", sentence("report.no_such_section"), 400, field="section")
    if do in ("send_back", "approve") and now.state != "review":
        raise Refused("not-in-review", sentence("report.not_in_review"), 409)
    if do == "ask" and now.state == "review":
        raise Refused("in-review", sentence("report.asked_already", by=now.by), 409)
    if do == "settle" and not any(c.id == about and not c.settled_by for c in now.comments):
        raise Refused("not-found", sentence("report.comment_gone"), 404)
    kinds = {"ask": "asked", "send_back": "sent_back", "approve": "approved", "comment": "comment", "settle": "settled"}
    ReviewEvent.objects.create(
        page=page,
        kind=kinds[do],
        section=section,
        text=text.strip(),
        about_id=about if do == "settle" else None,
        by=access.person,
        digest=words_digest(page),
    )
