"""The verbs of links: made, changed, taken away, and activities linked one after the other."""

import itertools
from typing import Any

from dryledger.changes.draft import Doc, Draft
from dryledger.changes.keyed import place_of
from dryledger.changes.remembered import remembered
from dryledger.entry.plan_cells import type_lag
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.words import sentence

__all__ = ["do_chain", "do_link", "do_unlink", "new_link"]

TYPES = ("FS", "SS", "FF", "SF")
ENDS = (("from", "ax"), ("to", "a"))
"""The ends of a link, and the lists whose rows may stand there."""


def new_link(draft: Draft, verb: Doc, given: Doc) -> int:
    """Makes the link that the cells of a verb say; gives its key. Raises ChangeRefused where it leads nowhere or is there already."""
    source, target = (draft.record(*draft.find(verb[end], letters)) for end, letters in ENDS)
    if source.code == target.code:
        raise EntryRefused("after", sentence("verbs.activity_cant_come_after"))
    cells = _link_cells(draft, given, None)
    kind = cells.get("type") or "FS"
    if any((x.source, x.target, x.type) == (source.code, target.code, kind) for _, x in draft.records("links")):
        raise EntryRefused("after", sentence("verbs.comes_after_already", name=target.name, name_2=source.name))
    return draft.add("links", {"from": source.code, "to": target.code} | cells)


def _link_cells(draft: Draft, given: Doc, known: Any) -> Doc:
    """Cells of a link as the book writes them; `known` is the link as it stands."""
    if not draft.typed:
        return dict(given)
    out: Doc = {}
    basis = "working" if known is None else known.lag_basis
    if "type" in given:
        kind = str(given["type"] or "FS").upper()
        if kind not in TYPES:
            raise EntryRefused("type", sentence("verbs.link_one_fs_ss"))
        out["type"] = None if kind == "FS" else kind
    if "lag_basis" in given:
        basis = "elapsed" if given["lag_basis"] == "elapsed" else "working"
        out["lag_basis"] = None if basis == "working" else basis
    if "lag" in given or "lag_basis" in given:
        now = "" if known is None else getattr(known.lag, "text", "") or f"{int(known.lag)}min"
        lag = type_lag(str(given.get("lag", now) or ""), draft.calendar_of(None), basis)
        out["lag"] = None if lag == "0d" else lag
    return out


def do_link(draft: Draft, verb: Doc) -> None:
    """Change the type, lag or basis of a link; by its ends, make it where it is not there."""
    if verb.get("row"):
        _, key = draft.find(verb["row"], "l")
    else:
        found = _link_of(draft, verb)
        remembered(draft, verb, "links", found, f"{verb['from']} → {verb['to']}")
        if found is None:
            given = dict(verb.get("cells") or {}) | ({"type": verb["type"]} if verb.get("type") else {})
            new_link(draft, verb, given)
            draft.labels.append("added a link")
            return
        key = found
    cells = _link_cells(draft, dict(verb.get("cells") or {}), draft.record("links", key))
    if cells:
        draft.put("links", key, cells)
    draft.labels.append(sentence("verbs.changed_link"))


def _link_of(draft: Draft, verb: Doc) -> int | None:
    """The first link between two activities of a type."""
    ends = [draft.record(*draft.find(verb[end], letters)).code for end, letters in ENDS]
    kind = str(verb.get("type") or "FS")
    if kind not in TYPES:
        raise EntryRefused("type", sentence("verbs.link_one_fs_ss"))
    rows = sorted(draft.rows_of("links").values(), key=place_of)
    return next((x.key for x in rows if [x.record.source, x.record.target, x.record.type] == [*ends, kind]), None)


def do_unlink(draft: Draft, verb: Doc) -> None:
    """Take a link away."""
    found = _link_of(draft, verb)
    if found is None:
        raise ChangeRefused("not-found", sentence("verbs.no_link_from_type", from_=verb["from"], to=verb["to"]))
    remembered(draft, verb, "links", found, f"{verb['from']} → {verb['to']}")
    draft.drop("links", found)
    draft.labels.append(sentence("verbs.deleted_link"))


def do_chain(draft: Draft, verb: Doc) -> None:
    """Link activities one after the other, in the order given."""
    found = [draft.find(x, "aw") for x in verb["rows"]]
    rows = [draft.record(n, k).code for n, k in found if n == "activities"]
    if len(rows) < 2:
        raise ChangeRefused("too-few", sentence("verbs.choose_two_activities_more"))
    there = {(x.source, x.target) for _, x in draft.records("links")}
    for source, target in itertools.pairwise(rows):
        if (source, target) not in there:
            draft.add("links", {"from": source, "to": target})
    draft.labels.append(sentence("verbs.chained_activities", count=len(rows)))
