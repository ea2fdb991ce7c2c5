"""Approving a promise, and choosing how buffers are sized and judged. Each is one step of the journal."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from dryledger.book.options import Buffers, line_ends
from dryledger.buffers.chain import dates_to_write, promised
from dryledger.calendar.calendar import to_text
from dryledger.changes.apply import Changed, finished, run
from dryledger.changes.draft import Draft
from dryledger.changes.promise import approve_promise
from dryledger.entry.grammar import format_day, read_number
from dryledger.errors import EntryRefused
from server.book.access import Access
from server.book.workspace import workspace_of
from server.buffers.selectors import chain_at
from server.journal.steps import ask, unchanged
from server.journal.writing import write
from server.shared.problems import Refused
from server.shared.words import sentence

LEAST, MOST = Decimal(0), Decimal(1)


@dataclass
class Promised:
    """The project after a promise was approved, or buffers are judged otherwise."""

    revision: int
    label: str
    date: str | None = None


def promise(access: Access, page: str, revision: int) -> Promised:
    """Approve the chain and the buffers of the open page: the levelled dates go into the plan, all else is frozen. Takes an approver."""
    ask(access, "promise")
    wet = access.wet(page)
    unchanged(access, revision)
    v = access.view(wet.code)
    chain = chain_at(v)
    if chain.end is None:
        raise Refused("nothing-there", sentence("buffers.nothing_open"), 422)
    w = workspace_of(access.project)
    taken = {x.code for x in w.book.promises}
    code = next(c for c in (f"K{n}" for n in range(1, len(taken) + 2)) if c not in taken)
    new = promised(chain, code, wet.code, access.person.full_name)
    done = approve_promise(w.keyed, new, dates_to_write(v.results, chain, new))
    label = sentence("buffers.promised", code=code, date=format_day(chain.end))
    written = write(access, revision, "promise", done, w, label)
    return Promised(written.workspace.revision, label, to_text(chain.end))


def untie(access: Access, page: str, revision: int, giver: str, taker: str, resource: str) -> Promised:
    """Take a hand-over of the promise in force away, from the open page on. Raises ChangeRefused."""
    ask(access, "plan")
    wet, w = access.wet(page), workspace_of(access.project)
    verb = {"do": "untie", "from": giver, "to": taker, "resource": resource, "page": wet.code}
    done = run(Draft(w.keyed, typed=False, by_name=False), [verb])
    written = write(access, revision, "plan", done, w, done.label)
    return Promised(written.workspace.revision, done.label)


def choose(access: Access, revision: int, cells: dict[str, Any]) -> Promised:
    """How buffers are sized, and where the lines of the fever chart begin and how they rise, in per cent as typed."""
    ask(access, "plan")
    unchanged(access, revision)
    w = workspace_of(access.project)
    own: Buffers = w.book.project.buffers
    size = cells.get("size", own.size)
    lines = {
        name: [_share(cells, f"{name}_{end}", was) for end, was in zip(("from", "to"), line_ends(getattr(own, name)), strict=True)]
        for name in ("watch", "act")
    }
    for name, (begins, ends) in lines.items():
        if ends < begins:
            raise EntryRefused(f"{name}_to", sentence("buffers.line_falls"))
    for i, end in enumerate(("from", "to")):
        if lines["act"][i] < lines["watch"][i]:
            raise EntryRefused(f"act_{end}", sentence("buffers.act_below_watch"))
    kept = {"size": size} | {name: [float(a), float(b - a)] for name, (a, b) in lines.items()}
    label = sentence("buffers.chosen")
    written = write(access, revision, "plan", _changed(access, kept), w, label)
    return Promised(written.workspace.revision, label)


def _share(cells: dict[str, Any], key: str, was: Decimal) -> Decimal:
    if key not in cells:
        return was
    text = str(cells[key]).strip().removesuffix("%").strip()
    found = read_number(text)
    if found is None or not LEAST <= found / 100 <= MOST:
        raise EntryRefused(key, sentence("buffers.share", value=text[:30]))
    return found / 100


def _changed(access: Access, cells: dict[str, Any]) -> Changed:
    draft = Draft(workspace_of(access.project).keyed, typed=False)
    draft.put_project({"buffers": cells})
    return finished(draft)
