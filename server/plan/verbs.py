"""The verbs of a change, each one function: add, set, remove, place, indent, outdent, outline, chain, link, assign, replace."""

import itertools
from collections.abc import Callable
from typing import Any

from dryledger.entry.plan_cells import type_lag
from dryledger.errors import EntryRefused
from server.budget.verbs import do_apply, do_estimate
from server.plan import cells
from server.plan.changes import Draft, Verb, delete, new_row, place, set_cells
from server.plan.lists import last_place
from server.plan.models import Activity, Assignment, DirectCost, Link, Resource
from server.plan.outline import Parent
from server.posting.models import Statement
from server.shared.problems import Refused

WORDS = {"begin": "start", "end": "finish", "after": "links", "people": "resources", "direct_cost": "direct cost"}


def _said(row: Any) -> str:
    return str(getattr(row, "name", "") or getattr(row, "code", "") or "a row")


def do_set(draft: Draft, verb: Verb) -> None:
    """Put typed cells into a row."""
    name, row = draft.name(verb["row"]), draft.row(verb["row"])
    typed: dict[str, Any] = verb["cells"]
    set_cells(draft, name, row, typed)
    fields = ", ".join(WORDS.get(f, f.removeprefix("fields.").replace("_", " ")) for f in typed)
    draft.labels.append(f"{_said(row)}: {fields}")


def do_add(draft: Draft, verb: Verb) -> None:
    """A new row of a list, in the tree after a sibling or last, or with its own references (links, assignments, costs)."""
    kind, typed = str(verb["list"]), dict(verb.get("cells") or {})
    if kind in ("links", "assignments", "costs"):
        row = _new_part(draft, kind, verb)
        set_cells(draft, "", row, typed) if kind != "links" else draft.keep("", row)
        name = _name_of(draft, row)
        draft.labels.append(f"added {'a link' if kind == 'links' else _said(row) if kind == 'costs' else 'an assignment'}")
    else:
        tree = kind in ("activities", "wbs")
        parent, after = _spot(draft, verb) if tree else (None, None)
        order = place(draft, parent, after, first=bool(verb.get("first")))[0] if tree else None
        row = new_row(draft, kind, typed, parent, order)
        row.name = cells.required(typed.pop("name", None), "name")
        set_cells(draft, "", row, typed)
        name = _name_of(draft, row)
        if tree:
            draft.outline.put(name, parent, row.order)
        draft.labels.append(f"added {row.name}")
    if verb.get("as"):
        draft.named[str(verb["as"])] = name


def _name_of(draft: Draft, row: Any) -> str:
    return next(name for name, known in reversed(draft.rows.items()) if known is row)


def _spot(draft: Draft, verb: Verb) -> tuple[Parent, str | None]:
    after = draft.name(verb["after"]) if verb.get("after") else None
    if after is not None:
        if after not in draft.outline.parent:
            raise Refused("not-found", "The row it should stand after is not there any more.", 409)
        return draft.outline.parent[after], after
    return (draft.name(verb["parent"]) if verb.get("parent") else None), None


def _new_part(draft: Draft, kind: str, verb: Verb) -> Any:
    if kind == "links":
        source, target = draft.row(verb["from"]), draft.row(verb["to"])
        if source == target:
            raise EntryRefused("after", "An activity can't come after itself.")
        link = Link(project=draft.project, source=source, target=target, order=last_place(Link, draft.project))
        _put_link(draft, link, dict(verb.get("cells") or {}))
        if Link.objects.filter(source=source, target=target, type=link.type).exists():
            raise EntryRefused("after", f"“{target.name}” comes after “{source.name}” already.")
        return link
    activity = draft.row(verb["activity"])
    if kind == "costs":
        cost = DirectCost(
            project=draft.project, activity=activity, name="Direct cost", amount="0", order=last_place(DirectCost, draft.project)
        )
        return cost
    resource = draft.row(verb["resource"])
    if Assignment.objects.filter(activity=activity, resource=resource).exists():
        raise EntryRefused("people", f"“{resource.name}” is on “{activity.name}” already.")
    return Assignment(project=draft.project, activity=activity, resource=resource, order=last_place(Assignment, draft.project))


def _put_link(draft: Draft, link: Link, typed: dict[str, Any]) -> None:
    on = draft.book.calendar_by_code[draft.project.calendar]
    if "type" in typed:
        kind = str(typed["type"] or "FS").upper()
        if kind not in ("FS", "SS", "FF", "SF"):
            raise EntryRefused("type", "A link is one of FS, SS, FF and SF.")
        link.type = None if kind == "FS" else kind
    if "lag_basis" in typed:
        link.lag_basis = "elapsed" if typed["lag_basis"] == "elapsed" else None
    if "lag" in typed or "lag_basis" in typed:
        lag = type_lag(str(typed.get("lag", link.lag) or ""), on, link.lag_basis or "working")
        link.lag = None if lag == "0d" else lag


def do_link(draft: Draft, verb: Verb) -> None:
    """Change the type, lag or basis of a link."""
    link = draft.row(verb["row"])
    _put_link(draft, link, verb["cells"])
    draft.keep(draft.name(verb["row"]), link)
    draft.labels.append("changed a link")


def do_remove(draft: Draft, verb: Verb) -> None:
    """Take rows out, with what hangs on them."""
    for ref in verb["rows"]:
        name = draft.name(ref)
        if name[0] in "aw" and name not in draft.outline.parent:
            continue  # went with an element above it
        delete(draft, name)


def do_place(draft: Draft, verb: Verb) -> None:
    """Move rows of the tree after another row, or under an element (last, or `first`)."""
    rows = [draft.name(r) for r in verb["rows"]]
    rows = [r for r in rows if not set(rows).intersection(draft.outline.above(r))]  # the others come along
    parent, after = _spot(draft, verb)
    for name in rows:
        if parent is not None and (parent == name or name in draft.outline.above(parent)):
            raise Refused("loop", f"“{_said(draft.row(name))}” can't stand inside itself.", 422)
        _move(draft, name, parent, after, bool(verb.get("first")) and after is None)
        after = name
    draft.labels.append(f"moved {_said(draft.row(rows[0]))}" if len(rows) == 1 else f"moved {len(rows)} rows")


def _move(draft: Draft, name: str, parent: Parent, after: str | None, first: bool = False) -> None:
    if parent is not None and parent[0] != "w":
        parent = _into_element(draft, parent)
    row = draft.row(name)
    row.order = place(draft, parent, after, first=first)[0]
    if isinstance(row, Activity):
        row.wbs_id = int(parent[1:]) if parent else None
    else:
        row.parent = draft.row(parent).code if parent else None
    draft.keep(name, row)
    draft.outline.put(name, parent, row.order)


def _into_element(draft: Draft, name: str) -> str:
    """Make an activity that only has a name into a WBS element in its place; what it can't lose refuses that."""
    row = draft.row(name)
    has = [
        word
        for word, found in (
            ("links", Link.objects.filter(source=row).exists() or Link.objects.filter(target=row).exists()),
            ("resources", Assignment.objects.filter(activity=row).exists()),
            ("costs", DirectCost.objects.filter(activity=row).exists()),
            ("statements", Statement.objects.filter(activity=row).exists()),
        )
        if found
    ]
    if has:
        raise Refused(
            "not-empty",
            f"“{row.name}” has {' and '.join(has)}, and a WBS element only sums. "
            "Put both rows into a new element instead (Ctrl+Shift+Enter).",
            422,
            row=name,
        )
    parent, order = draft.outline.parent[name], draft.outline.order[name]
    label, row_name = row.name, row
    draft.outline.drop(name)
    draft.step.delete(row_name)
    draft.rows.pop(name, None)
    element = new_row(draft, "wbs", {}, parent, order)
    element.name = label
    made = draft.keep("", element)
    draft.outline.put(made, parent, order)
    draft.named[name] = made
    return made


def do_indent(draft: Draft, verb: Verb) -> None:
    """Put rows under the row above them; an activity above that has only a name becomes an element."""
    rows = [draft.name(r) for r in verb["rows"]]
    chosen = set(rows)
    for name in rows:
        name = draft.name(name)
        if any(up in chosen for up in draft.outline.above(name)):
            continue  # comes along with an element that moves
        siblings = draft.outline.children(draft.outline.parent[name])
        before = [r for r in siblings[: siblings.index(name)] if r not in chosen]
        if not before:
            raise Refused("no-parent", "There is no row above it to go under.", 422, row=name)
        target = before[-1]
        _move(draft, name, target if target[0] == "w" else _into_element(draft, target), None)
    draft.labels.append(f"indented {_said(draft.row(rows[0]))}" if len(rows) == 1 else f"indented {len(rows)} rows")


def do_outdent(draft: Draft, verb: Verb) -> None:
    """Take rows out of their element, to stand after it."""
    rows = [draft.name(r) for r in verb["rows"]]
    chosen = set(rows)
    after: dict[str, str] = {}
    for name in rows:
        if any(up in chosen for up in draft.outline.above(name)):
            continue
        parent = draft.outline.parent[name]
        if parent is None:
            raise Refused("at-top", "It stands at the top already.", 422, row=name)
        _move(draft, name, draft.outline.parent[parent], after.get(parent, parent))
        after[parent] = name
    draft.labels.append(f"outdented {_said(draft.row(rows[0]))}" if len(rows) == 1 else f"outdented {len(rows)} rows")


def do_outline(draft: Draft, verb: Verb) -> None:
    """Many rows at once from an indented block: a line with deeper lines under it is an element, the others activities."""
    lines = list(verb["lines"])
    parent, after = _spot(draft, verb)
    levels: list[tuple[int, Parent, str | None]] = []
    at: tuple[Parent, str | None] = (parent, after)
    for i, line in enumerate(lines):
        level, typed = int(line.get("level") or 0), dict(line.get("cells") or {})
        while levels and levels[-1][0] >= level:
            _, *rest = levels.pop()
            at = (rest[0], rest[1])
        deeper = i + 1 < len(lines) and int(lines[i + 1].get("level") or 0) > level
        kind = "wbs" if deeper else "activities"
        kept = {k: v for k, v in typed.items() if v not in (None, "")}
        try:
            order = place(draft, *at)[0]
            row = new_row(draft, kind, kept, at[0], order)
            row.name = cells.required(kept.pop("name", None), "name")
            set_cells(draft, "", row, {} if deeper else kept)
        except EntryRefused as wrong:
            raise EntryRefused(wrong.field, f"Line {i + 1}: {wrong.message}", wrong.nearest) from None
        name = _name_of(draft, row)
        draft.outline.put(name, at[0], row.order)
        if line.get("as"):
            draft.named[str(line["as"])] = name
        if deeper:
            levels.append((level, at[0], name))
            at = (name, None)
        else:
            at = (at[0], name)
    draft.labels.append(f"added {len(lines)} rows")


def do_chain(draft: Draft, verb: Verb) -> None:
    """Link activities one after the other, in the order given."""
    rows = [r for r in (draft.row(x) for x in verb["rows"]) if isinstance(r, Activity)]
    if len(rows) < 2:
        raise Refused("too-few", "Choose two activities or more to chain them.", 422)
    order = last_place(Link, draft.project)
    for source, target in itertools.pairwise(rows):
        if not Link.objects.filter(source=source, target=target).exists():
            draft.keep("", Link(project=draft.project, source=source, target=target, order=order))
            order += 1
    draft.labels.append(f"chained {len(rows)} activities")


def do_assign(draft: Draft, verb: Verb) -> None:
    """Put a resource on many activities at once."""
    resource, count = draft.row(verb["resource"]), 0
    for ref in verb["rows"]:
        activity = draft.row(ref)
        if not isinstance(activity, Activity):
            continue
        a = Assignment.objects.filter(activity=activity, resource=resource).first() or Assignment(
            project=draft.project, activity=activity, resource=resource, order=last_place(Assignment, draft.project)
        )
        set_cells(draft, f"s{a.pk}" if a.pk else "", a, dict(verb.get("cells") or {}))
        count += 1
    draft.labels.append(f"put {resource.name} on {count} {'activity' if count == 1 else 'activities'}")


def do_replace(draft: Draft, verb: Verb) -> None:
    """Put one resource in another's place everywhere, such as a person in a role's."""
    old, new = draft.row(verb["resource"]), draft.row(verb["by"])
    if not isinstance(old, Resource) or not isinstance(new, Resource) or old == new:
        raise Refused("bad-request", "Choose two resources.", 422)
    count = 0
    for a in Assignment.objects.filter(resource=old):
        same = Assignment.objects.filter(activity_id=a.activity_id, resource=new).first()
        if same is not None:
            if a.work or same.work or a.quantity or same.quantity:
                raise Refused(
                    "both-there", f"“{new.name}” is on “{a.activity.name}” already, with hours of its own. Settle that activity first.", 409
                )
            same.units = (1.0 if same.units is None else same.units) + (1.0 if a.units is None else a.units)
            draft.keep(f"s{same.pk}", same)
            draft.step.delete(a)
        else:
            a.resource = new
            draft.keep(f"s{a.pk}", a)
        count += 1
    draft.labels.append(f"put {new.name} in the place of {old.name} on {count} activities")


def do_element(draft: Draft, verb: Verb) -> None:
    """Make a new element in the place of rows that stand side by side, and put them into it."""
    rows = [draft.name(r) for r in verb["rows"]]
    parent = draft.outline.parent[rows[0]]
    siblings = draft.outline.children(parent)
    at = siblings.index(rows[0])
    order = place(draft, parent, siblings[at - 1] if at else None, first=at == 0)[0]
    row = new_row(draft, "wbs", {}, parent, order)
    row.name = cells.required(verb.get("name"), "name")
    name = draft.keep("", row)
    draft.outline.put(name, parent, order)
    after: str | None = None
    for r in rows:
        if draft.outline.parent[r] == parent:
            _move(draft, r, name, after)
            after = r
    draft.labels.append(f"put {len(rows)} rows into {row.name}")


VERBS: dict[str, Callable[[Draft, Verb], None]] = {
    "set": do_set,
    "add": do_add,
    "remove": do_remove,
    "place": do_place,
    "indent": do_indent,
    "outdent": do_outdent,
    "outline": do_outline,
    "chain": do_chain,
    "link": do_link,
    "assign": do_assign,
    "replace": do_replace,
    "element": do_element,
    "estimate": do_estimate,
    "apply": do_apply,
}
