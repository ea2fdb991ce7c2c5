"""Editions as the chain of seals holds them: what was issued stays, to the letter."""

import hashlib

from server.book.models import Project, Seal
from server.book.sealing import canonical, sha
from server.report.models import Edition
from server.shared.words import sentence


def edition_digest(html: str, pdf: bytes, xlsx: bytes | None, content: object) -> str:
    """The digest over all that an edition keeps; before content and workbook were kept it was over HTML and PDF alone."""
    if content is None:
        return hashlib.sha256(html.encode() + pdf).hexdigest()
    return sha(html.encode(), pdf, xlsx or b"", canonical(content))


def edition_content(e: Edition) -> str:
    """What the chain holds of an edition."""
    head = {
        "number": e.number,
        "status": e.status,
        "by": e.issued_by_id if e.issued_as is None else e.issued_as,
        "at": e.issued_at.isoformat(),
        "digest": e.digest,
    }
    return sha(canonical(head))


def edition_faults(project: Project, seals: list[Seal]) -> list[str]:
    """Editions that are gone, changed, or were never issued."""
    out = []
    issued = {s.subject: s.content for s in seals if s.kind == "edition"}
    there = {f"{e.page.uid}/{e.number}": e for e in Edition.objects.filter(page__project=project).select_related("page")}
    for subject, content in issued.items():
        e = there.get(subject)
        if e is None:
            out.append(sentence("sealed.edition_report_gone", code=project.code, value=subject.rpartition("/")[2]))
            continue
        name = sentence("sealed.edition_page", number=e.number, code=e.page.code, code_2=project.code)
        if (
            edition_digest(e.html, bytes(e.pdf), None if e.xlsx is None else bytes(e.xlsx), e.content) != e.digest
            or edition_content(e) != content
        ):
            out.append(sentence("sealed.what_issued", name=name))
    for subject in there.keys() - issued.keys():
        e = there[subject]
        out.append(sentence("sealed.edition_page_nobody_issued", number=e.number, code=e.page.code, code_2=project.code))
    return out
