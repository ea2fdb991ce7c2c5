"""A project as an archive: its book, the pages with what was sealed of them, reports, editions, journal, and the chain over all."""

import json
from collections.abc import Iterable
from typing import Any

from server.accounts.models import Person
from server.archive.container import packed
from server.archive.signing import sign
from server.book.documents import CODED, book_document
from server.book.models import Page, Project, Seal
from server.exchange.writing import readable
from server.journal.models import Step
from server.journal.sealed import sealed_subject
from server.report.models import Addition, Delivery, Draft, Edition, Recipient, ReviewEvent
from server.shared import exact_json

Doc = dict[str, Any]
SEALED = ("digest", "previous", "calculation", "mark", "keys", "closed_as")
OWN = ("revision", "plan_revision", "sealed", "sealed_count", "members_only")
DRAFT = ("status", "reason", "words", "texts", "heads")


def archive(project: Project) -> bytes:
    """The whole project as a file."""
    pages = list(Page.objects.filter(project=project))
    contents = {"book.json": readable(book_document(project, exact=True))}
    people = set[int]()
    head: Doc = {"uid": str(project.uid), "code": project.code, "name": project.name, **{k: getattr(project, k) for k in OWN}}
    head["rows"] = {name: dict(model.all_rows().filter(project=project).values_list("pk", "code")) for name, model in CODED.items()}
    head["pages"] = [_page(p, people) for p in pages]
    head["seals"] = [[s.number, s.kind, s.subject, s.content, s.digest] for s in Seal.objects.filter(project=project)]
    head["recipients"] = [[x.name, x.email] for x in Recipient.objects.filter(project=project)]
    head["editions"] = [_edition(e, contents, people) for e in Edition.objects.filter(page__project=project).select_related("page")]
    steps = list(Step.objects.filter(project=project))
    people |= {s.by_id for s in steps}
    for page in pages:
        if page.state == "dry":
            contents[f"pages/{page.uid}.inputs"] = bytes(page.inputs or b"")
            contents[f"pages/{page.uid}.results"] = bytes(page.results or b"")
    contents["journal.json"] = _lines(map(_step, steps))
    found = Person.objects.filter(pk__in=people)
    head["people"] = {str(p.pk): [p.username, p.full_name] for p in found}
    contents["project.json"] = _json(head)
    return packed(contents, sign)


def _json(value: object) -> bytes:
    return (json.dumps(value, ensure_ascii=False, indent=1) + "\n").encode()


def _lines(rows: Iterable[Doc]) -> bytes:
    return b"".join(exact_json.indented(x, 0) + b"\n" for x in rows)


def _page(p: Page, people: set[int]) -> Doc:
    out: Doc = {"uid": str(p.uid), "code": p.code, "state": p.state, "revision": p.revision, **{k: getattr(p, k) for k in SEALED}}
    out |= {"by": p.closed_by_id, "at": p.closed_at.isoformat() if p.closed_at else None}
    people |= {p.closed_by_id} if p.closed_by_id else set()
    draft = Draft.objects.filter(page=p).first()
    out["draft"] = {k: getattr(draft, k) for k in DRAFT} if draft else None
    events = list(ReviewEvent.objects.filter(page=p))
    people |= {e.by_id for e in events}
    keys = {e.pk: i for i, e in enumerate(events)}
    out["review"] = [[e.kind, e.section, e.text, keys.get(e.about_id or 0), e.by_id, e.at.isoformat(), e.digest] for e in events]
    added = list(Addition.objects.filter(page=p))
    people |= {x.by_id for x in added}
    out["added"] = [{"subject": x.subject, "mark": x.mark, "text": x.text, "by": x.by_id, "at": x.at.isoformat()} for x in added]
    return out


def _edition(e: Edition, contents: dict[str, bytes], people: set[int]) -> Doc:
    name = f"editions/{e.page.code}-{e.number}"
    contents |= {f"{name}.html": e.html.encode(), f"{name}.pdf": bytes(e.pdf)}
    if e.xlsx is not None:
        contents[f"{name}.xlsx"] = bytes(e.xlsx)
    sent = list(Delivery.objects.filter(edition=e))
    people |= {e.issued_by_id, *(d.sent_by_id for d in sent)}
    return {
        "page": str(e.page.uid),
        "number": e.number,
        "file": name,
        "status": e.status,
        "by": e.issued_by_id,
        "as": e.issued_as,
        "at": e.issued_at.isoformat(),
        "digest": e.digest,
        "content": e.content,
        "sent": [[d.name, d.email, d.state, d.detail, d.sent_by_id, d.sent_at.isoformat()] for d in sent],
    }


def _step(s: Step) -> Doc:
    kept = ("revision", "kind", "role", "label", "subject", "changes", "undone", "undoable", "dropped")
    sealed = {"pk": sealed_subject(s), "by": s.by_id if s.sealed_as is None else s.sealed_as["by"]}
    return {"by": s.by_id, "at": s.at.isoformat(), "sealed_as": sealed, **{k: getattr(s, k) for k in kept}}
