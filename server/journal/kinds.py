"""The kinds of steps, each with the role that it takes: doing one, undoing it and doing it again ask the same."""

from typing import Any

from server.accounts.models import Role

KINDS: dict[str, tuple[Role, str]] = {
    "post": (Role.ANALYST, "post on a page"),
    "clear": (Role.ANALYST, "post on a page"),
    "as planned": (Role.ANALYST, "post on a page"),
    "feed": (Role.ANALYST, "post on a page"),
    "carry": (Role.ANALYST, "post on a page"),
    "plan": (Role.ANALYST, "change the plan"),
    "import": (Role.ANALYST, "import a file"),
    "report": (Role.ANALYST, "write a report"),
    "layout": (Role.ANALYST, "lay out a report"),
    "status": (Role.ANALYST, "move a status date"),
    "note": (Role.ANALYST, "post on a page"),
    "answer": (Role.ANALYST, "answer a check"),
    "marks": (Role.ANALYST, "change the mark rules"),
    "lines": (Role.ANALYST, "change the plan"),
    "limits": (Role.ANALYST, "change the plan"),
    "option": (Role.ANALYST, "adopt an option"),
    "promise": (Role.APPROVER, "approve a promise"),
    "shared": (Role.APPROVER, "change the organisation's lists"),
    "follow": (Role.APPROVER, "change the plan"),
    "close": (Role.ANALYST, "close a page"),
    "baseline": (Role.APPROVER, "approve a baseline"),
    "decide": (Role.APPROVER, "approve or refuse a change"),
    "measure": (Role.APPROVER, "choose the baseline that performance is measured against"),
}
FOLLOWED = ("shared", "follow")
"""Kinds of steps by which a project follows what another or the organisation changed: nobody's own, so that no undo comes upon them."""
CHOSEN = ("measured_against", "compared_with")
"""What of a project only an approver writes, in whatever step."""


def role_of(kind: str, changes: list[dict[str, Any]]) -> tuple[Role, str]:
    """The role that a step takes by its kind and by what it wrote."""
    if any(_of_baseline(c) for c in changes):
        return KINDS["measure"] if kind != "baseline" else KINDS["baseline"]
    return KINDS.get(kind, KINDS["plan"])


def _of_baseline(change: dict[str, Any]) -> bool:
    """Whether a row that a step wrote takes or chooses a baseline; a baseline that follows a new code is not that."""
    before, after = change["before"], change["after"]
    if change["model"] == "book.Baseline":
        return before is None or after is None
    if change["model"] != "book.Project" or before is None or after is None:
        return False
    return any((before.get(key) or None) != (after.get(key) or None) for key in CHOSEN if key in before)
