"""Deciding a change: who approved or refused it is who pressed, and when."""

from django.utils import timezone

from dryledger.changes.apply import finished
from dryledger.changes.draft import Draft
from server.accounts.models import Role
from server.book.access import Access
from server.book.models import RegisterEntry
from server.book.organisation import DECIDED_APART, is_set
from server.book.workspace import workspace_of
from server.journal.models import Step
from server.journal.steps import ask, model_name
from server.journal.writing import write
from server.shared.problems import Refused
from server.shared.words import sentence

PAYS = "client"


def decide(access: Access, code: str, revision: int, approve: bool) -> int:
    """Approve or refuse a change that was raised; gives the project's revision after it. Takes an approver."""
    ask(access, "decide")
    access.require(Role.APPROVER, sentence("budget.decide_change"))
    w = workspace_of(access.project)
    draft = Draft(w.keyed)
    key = draft.codes("changes").get(code)
    if key is None:
        raise Refused("not-found", sentence("budget.no_change", code=code), 404)
    change = draft.record("changes", key)
    if change.stands != "raised":
        raise Refused("decided", sentence("budget.decided_already", code=code), 409)
    if is_set(DECIDED_APART) and wrote(access, key):
        raise Refused("own-change", sentence("budget.decided_apart", code=code), 403, field="from")
    if approve and change.source is None and sum(x.amount for x in change.lines):
        raise Refused("no-money", sentence("budget.whose_money", code=code), 422, field="from")
    now = timezone.localtime().strftime("%Y-%m-%dT%H:%M")
    cells = {"state": "approved" if approve else "refused", "decided_by": access.person.full_name, "decided_at": now}
    draft.put("changes", key, cells)
    label = sentence("budget.approved_change" if approve else "budget.refused_change", code=code, name=change.name)
    return write(access, revision, "decide", finished(draft), w, label).workspace.revision


def wrote(access: Access, key: int) -> bool:
    """Whether this person raised a change, or wrote to it: any step of theirs that did and still stands, but for decisions."""
    steps = Step.objects.filter(project=access.project, by=access.person, undone=False).exclude(kind="decide")
    model = model_name(RegisterEntry)
    return any(x["model"] == model and x["pk"] == key for changes in steps.values_list("changes", flat=True).iterator() for x in changes)
