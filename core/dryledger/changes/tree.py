"""The verbs of the tree: place, indent, outdent, outline, element."""

import re
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from dryledger.changes.draft import Draft
from dryledger.changes.keyed import name_of
from dryledger.changes.outline import Parent
from dryledger.changes.parts import LIST_CELLS
from dryledger.changes.rows import new_row, place
from dryledger.entry.value_cells import required
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.words import sentence

__all__ = ["do_element", "do_indent", "do_outdent", "do_outline", "do_place", "row_words", "spot"]

Verb = dict[str, Any]
TREE = "aw"


def _list(name: str) -> str:
    return "wbs" if name[0] == "w" else "activities"


def row_words(draft: Draft, name: str) -> str:
    """How a row of the tree is called in a label."""
    return str(draft.record(_list(name), int(name[1:])).name)


def spot(draft: Draft, verb: Verb) -> tuple[Parent, str | None]:
    """Under which element, and after which row of it, something is to stand."""
    if verb.get("after"):
        after = draft.name(verb["after"], TREE)
        return draft.outline.parent[after], after
    return (draft.name(verb["parent"], TREE) if verb.get("parent") else None), None


def do_place(draft: Draft, verb: Verb) -> None:
    """Move rows of the tree after another row, or under an element (last, or `first`)."""
    rows = [draft.name(r, TREE) for r in verb["rows"]]
    rows = [r for r in rows if not set(rows).intersection(draft.outline.above(r))]  # the others come along
    parent, after = spot(draft, verb)
    for name in rows:
        if parent is not None and (parent == name or name in draft.outline.above(parent)):
            raise ChangeRefused("loop", sentence("tree.cant_stand_inside_itself", name=row_words(draft, name)))
        _move(draft, name, parent, after, bool(verb.get("first")) and after is None)
        after = name
    draft.labels.append(f"moved {row_words(draft, rows[0])}" if len(rows) == 1 else sentence("tree.moved_rows", count=len(rows)))


def _move(draft: Draft, name: str, parent: Parent, after: str | None, first: bool = False) -> None:
    if parent is not None and parent[0] != "w":
        parent = _into_element(draft, parent)
    order = place(draft, parent, after, first=first)[0]
    above = draft.record("wbs", int(parent[1:])).code if parent else None
    key = int(name[1:])
    draft.put(_list(name), key, {"wbs" if name[0] == "a" else "parent": above})
    draft.place(_list(name), key, order)
    draft.outline.put(name, parent, order)


def _into_element(draft: Draft, name: str) -> str:
    """Make an activity that only has a name into a WBS element in its place; what it can't lose refuses that."""
    key = int(name[1:])
    row = draft.record("activities", key)
    pages = [p for _, p in draft.records("periods")]
    has = [
        word
        for word, found in (
            ("links", any(row.code in (x.source, x.target) for _, x in draft.records("links"))),
            ("resources", any(x.activity == row.code for _, x in draft.records("assignments"))),
            ("costs", any(x.activity == row.code for _, x in draft.records("costs"))),
            ("statements", any(x.activity == row.code for p in pages for x in p.statements)),
            ("posted hours", any(x.activity == row.code for p in pages for x in p.hours)),
            ("posted costs", any(x.activity == row.code for p in pages for x in p.costs)),
        )
        if found
    ]
    if has:
        raise ChangeRefused(
            "not-empty",
            sentence("tree.wbs_element_only_sums", name=row.name, names=" and ".join(has)),
            row=name,
        )
    parent, order = draft.outline.parent[name], draft.outline.order[name]
    draft.outline.drop(name)
    draft.drop("activities", key)
    made = name_of("wbs", new_row(draft, "wbs", {}, parent, order, name=row.name))
    draft.outline.put(made, parent, order)
    draft.named[name] = made
    return made


def do_indent(draft: Draft, verb: Verb) -> None:
    """Put rows under the row above them; an activity above that has only a name becomes an element."""
    rows = [draft.name(r, TREE) for r in verb["rows"]]
    chosen = set(rows)
    for row in rows:
        name = draft.named.get(row, row)
        if any(up in chosen for up in draft.outline.above(name)):
            continue  # comes along with an element that moves
        siblings = draft.outline.children(draft.outline.parent[name])
        before = [r for r in siblings[: siblings.index(name)] if r not in chosen]
        if not before:
            raise ChangeRefused("no-parent", sentence("tree.no_row_above_go"), row=name)
        target = before[-1]
        _move(draft, name, target if target[0] == "w" else _into_element(draft, target), None)
    first = draft.named.get(rows[0], rows[0])
    draft.labels.append(f"indented {row_words(draft, first)}" if len(rows) == 1 else sentence("tree.indented_rows", count=len(rows)))


def do_outdent(draft: Draft, verb: Verb) -> None:
    """Take rows out of their element, to stand after it."""
    rows = [draft.name(r, TREE) for r in verb["rows"]]
    chosen = set(rows)
    after: dict[str, str] = {}
    for name in rows:
        if any(up in chosen for up in draft.outline.above(name)):
            continue
        parent = draft.outline.parent[name]
        if parent is None:
            raise ChangeRefused("at-top", sentence("tree.stands_top_already"), row=name)
        _move(draft, name, draft.outline.parent[parent], after.get(parent, parent))
        after[parent] = name
    draft.labels.append(f"outdented {row_words(draft, rows[0])}" if len(rows) == 1 else sentence("tree.outdented_rows", count=len(rows)))


def do_outline(draft: Draft, verb: Verb) -> None:
    """Many rows at once from an indented block: a line with deeper lines under it is an element, the others activities.

    Lines may name one another as predecessors, by the codes that the block gives them. Where such a code is taken in the
    plan, as of rows that were copied from it, the new row gets one of its own.
    """
    lines = list(verb["lines"])
    at = spot(draft, verb)
    levels: list[tuple[int, Parent, str | None]] = []
    codes: dict[str, str] = {}
    linked: list[tuple[int, int, str]] = []
    for i, line in enumerate(lines):
        level, given = int(line.get("level") or 0), dict(line.get("cells") or {})
        while levels and levels[-1][0] >= level:
            _, *rest = levels.pop()
            at = (rest[0], rest[1])
        deeper = i + 1 < len(lines) and int(lines[i + 1].get("level") or 0) > level
        list_name = "wbs" if deeper else "activities"
        kept = {k: v for k, v in given.items() if v not in (None, "") and (not deeper or k in ("name", "code"))}
        after, own = str(kept.pop("after", "")), str(kept.get("code", ""))
        if own in draft.codes(list_name):
            del kept["code"]
        order = place(draft, *at)[0]
        with _of_line(i):
            key = new_row(draft, list_name, kept, at[0], order)
        name = name_of(list_name, key)
        draft.outline.put(name, at[0], order)
        if own:
            codes[own.lower()] = draft.record(list_name, key).code
        if after:
            linked.append((i, key, after))
        if line.get("as"):
            draft.named[str(line["as"])] = name
        if deeper:
            levels.append((level, at[0], name))
            at = (name, None)
        else:
            at = (at[0], name)
    for i, key, after in linked:
        with _of_line(i):
            LIST_CELLS["after"](draft, key, _CODE.sub(lambda m: codes.get(m[0].lower(), m[0]), after))
    draft.labels.append(sentence("tree.added_rows", count=len(lines)))


_CODE = re.compile(r"[^\s;,]+")


@contextmanager
def _of_line(i: int) -> Iterator[None]:
    """What is refused says on which line of the block it stands."""
    try:
        yield
    except EntryRefused as wrong:
        raise EntryRefused(wrong.field, sentence("tree.of_line", line=i + 1, message=wrong.message), wrong.nearest) from None


def do_element(draft: Draft, verb: Verb) -> None:
    """Make a new element in the place of rows that stand side by side, and put them into it."""
    rows = [draft.name(r, TREE) for r in verb["rows"]]
    parent = draft.outline.parent[rows[0]]
    siblings = draft.outline.children(parent)
    at = siblings.index(rows[0])
    order = place(draft, parent, siblings[at - 1] if at else None, first=at == 0)[0]
    label = required(verb.get("name"), "name")
    name = name_of("wbs", new_row(draft, "wbs", {}, parent, order, name=label))
    draft.outline.put(name, parent, order)
    after: str | None = None
    for r in rows:
        if draft.outline.parent[r] == parent:
            _move(draft, r, name, after)
            after = r
    draft.labels.append(sentence("tree.put_rows_into", count=len(rows), label=label))
