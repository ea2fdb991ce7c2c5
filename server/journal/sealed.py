"""The steps of the journal as the chain of seals holds them: none can be changed, taken away or put in without its being seen."""

from server.book.models import Project, Seal
from server.book.sealing import canonical, sha
from server.journal.models import Step
from server.shared.json_values import floats
from server.shared.words import sentence


def step_content(s: Step) -> str:
    """What the chain holds of a step: all of it that never changes."""
    head = {
        "at": s.at.isoformat(),
        "by": s.by_id if s.sealed_as is None else s.sealed_as["by"],
        "kind": s.kind,
        "role": s.role,
        "label": s.label,
        "subject": s.subject,
        "undoable": s.undoable,
    }
    return sha(canonical(head), canonical(floats(s.changes)))


def sealed_subject(s: Step) -> str:
    """How the chain names a step: by its key; one that came in with an archive by the one it had, and those after it apart from these."""
    if s.sealed_as is not None:
        return str(s.sealed_as["pk"])
    came = Step.objects.filter(project=s.project_id, sealed_as__isnull=False).exists()
    return f"{s.project.uid}/{s.pk}" if came else str(s.pk)


def journal_faults(project: Project, seals: list[Seal]) -> list[str]:
    """What of the journal is not as it was written."""
    out = []
    steps = {sealed_subject(s): s for s in Step.objects.filter(project=project)}
    undone: dict[str, bool] = {}
    for seal in seals:
        if seal.kind == "step":
            undone[seal.subject] = False
            s = steps.get(seal.subject)
            if s is None:
                out.append(sentence("sealed.step_journal_gone", code=project.code, subject=seal.subject))
            elif step_content(s) != seal.content:
                out.append(sentence("sealed.step_journal_changed", code=project.code, subject=seal.subject, label=s.label))
        elif seal.kind in ("undo", "redo"):
            undone[seal.subject] = seal.kind == "undo"
    for pk, s in steps.items():
        if pk not in undone:
            out.append(sentence("sealed.step_journal_put", code=project.code, pk=pk, label=s.label))
        elif undone[pk] != s.undone:
            out.append(sentence("sealed.step_journal_turned", code=project.code, pk=pk, label=s.label))
    return out
