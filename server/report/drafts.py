"""What the analyst says of a page: the words that are sealed with it, what was added to them since, and how the report is laid out."""

from dryledger.book.report_layout import ReportLayout
from dryledger.marks.marks import mark_word
from server.book.models import Page
from server.book.results import View
from server.report.models import Addition, Draft
from server.report.shapes import AddedOut, DraftOut, HeadWords
from server.shared.saying import format_date
from server.shared.words import sentence

HEAD = "heads."
"""What the name of a head stands after where something is added to it."""


def layout_of(v: View) -> ReportLayout:
    """The layout of the report; the one that ships where the project has none."""
    return v.book.report_layout[0] if v.book.report_layout else ReportLayout()


def empty_draft() -> DraftOut:
    """The words of a page that nothing was said of."""
    return DraftOut("", "", "", {}, {}, "", [])


def draft_of(page: Page) -> DraftOut:
    """The words said of a page so far; the mark and reason that were added last stand for the sealed ones.

    What is added without a mark is the reason where none was given.
    """
    out, d = empty_draft(), Draft.objects.filter(page=page).first()
    if d is not None:
        out.status, out.reason, out.words, out.texts = d.status, d.reason, d.words, dict(d.texts)
        out.heads = {k: HeadWords(**x) for k, x in d.heads.items()}
    for x in Addition.objects.filter(page=page).select_related("by"):
        head = x.subject.removeprefix(HEAD) if x.subject.startswith(HEAD) else ""
        out.added.append(_added(x, head))
        was = out.heads.get(head, HeadWords("", "")) if head else HeadWords(out.status, out.reason)
        marked = head or x.subject == "overall"
        if not marked or (was.reason.strip() and not x.mark):
            continue
        now = HeadWords(x.mark or was.mark, x.text)
        if head:
            out.heads[head] = now
        else:
            out.status, out.reason = now.mark, now.reason
    if d is not None and d.status and (out.status, out.reason) != (d.status, d.reason):
        out.sealed = ". ".join(part for part in (sentence("report.sealed_as", word=mark_word(d.status)), d.reason) if part)
    return out


def _added(x: Addition, head: str) -> AddedOut:
    told = sentence("report.added_on", day=format_date(x.at.isoformat()), by=x.by.full_name)
    line = ". ".join(part for part in (head, mark_word(x.mark) if x.mark else "", x.text) if part)
    return AddedOut("heads" if head else x.subject, x.mark, f"{told}: {line}")


def words_of(draft: DraftOut, key: str) -> str:
    """What was said in a section."""
    return draft.words if key == "summary" else draft.texts.get(key, "")
