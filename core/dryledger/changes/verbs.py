"""The verbs of a plan, each one function: what can be done to it, by a person at a sheet or by an option."""

from collections.abc import Callable
from functools import partial

from dryledger.book.lists import LISTS
from dryledger.changes.backward import do_backward
from dryledger.changes.copying import do_copy
from dryledger.changes.draft import Doc, Draft
from dryledger.changes.entering import do_hours, do_page, do_pay, do_post, do_state
from dryledger.changes.estimates import do_apply, do_estimate
from dryledger.changes.keyed import name_of, place_of
from dryledger.changes.kinds import do_kind
from dryledger.changes.links import do_chain, do_link, do_unlink, new_link
from dryledger.changes.named import do_named, do_untie
from dryledger.changes.pages import do_close, do_open, do_take_back
from dryledger.changes.remembered import called, fields_in_words, remembered
from dryledger.changes.rows import delete, new_row, place, read_cells, set_cells, write_cells
from dryledger.changes.shapes import ANY
from dryledger.changes.shared import do_draw, do_leave
from dryledger.changes.tree import do_element, do_indent, do_outdent, do_outline, do_place, spot
from dryledger.changes.whole import whole_list
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.words import sentence

__all__ = ["NOT_TYPED", "VERBS"]

NOT_TYPED = (
    *("post", "state", "hours", "pay", "page", "close", "open", "take_back", "marks", "answers", "lines", "layout"),
    *("order", "reserve", "change", "mark", "untie"),
)
"""Verbs that people do not do at the plan sheet: each has a room of its own, which says who may."""

NOT_OF_PLAN = (
    *("externals", "baselines", "periods", "estimates", "answers", "mark_rules", "report_layout", "progress_lines", "options", "promises"),
)
"""Lists that rows are not added to by the plan's verbs."""


def do_set(draft: Draft, verb: Doc) -> None:
    """Write cells into a row."""
    cells: Doc = verb["cells"]
    name = draft.named.get(str(verb["row"]), str(verb["row"]))
    if draft.by_name and name[:1] == "p":
        do_project(draft, verb)
        return
    named = draft.by_name or str(verb["row"]) in draft.named
    list_name, key = draft.find(verb["row"], ANY if named else "a")
    remembered(draft, verb, list_name, key)
    set_cells(draft, list_name, key, cells)
    draft.labels.append(f"{called(draft.record(list_name, key))}: {fields_in_words(cells)}")


def do_project(draft: Draft, verb: Doc) -> None:
    """Write cells of the project."""
    cells: Doc = verb["cells"]
    remembered(draft, verb, "project", 0)
    written, _ = read_cells(draft, "project", draft.project, cells)
    draft.put_project(written)
    draft.labels.append(f"{draft.project.name}: {fields_in_words(cells)}")


def do_add(draft: Draft, verb: Doc) -> None:
    """A new row of a list, in the tree after a sibling or last, or with its own references (links, assignments, costs)."""
    given = dict(verb.get("cells") or {})
    if "list" not in verb and verb.get("row"):
        list_name, key = "activities", _add_activity(draft, str(verb["row"]), given)
    elif (list_name := str(verb["list"])) in ("links", "assignments", "costs"):
        key = _PARTS[list_name](draft, verb, given)
        label = {"links": "a link", "assignments": sentence("verbs.assignment")}.get(list_name) or called(draft.record(list_name, key))
        draft.labels.append(f"added {label}")
    else:
        if list_name not in LISTS or list_name in NOT_OF_PLAN:
            raise ChangeRefused("bad-request", sentence("verbs.no_list_plan", value=list_name[:60]))
        tree = list_name in ("activities", "wbs")
        parent, after = spot(draft, verb) if tree else (None, None)
        order = place(draft, parent, after, first=bool(verb.get("first")))[0] if tree else None
        key = new_row(draft, list_name, given, parent, order)
        if tree:
            assert order is not None
            draft.outline.put(name_of(list_name, key), parent, order)
        draft.labels.append(f"added {called(draft.record(list_name, key))}")
    if verb.get("as"):
        draft.named[str(verb["as"])] = name_of(list_name, key)


def _add_activity(draft: Draft, code: str, cells: Doc) -> int:
    """A new activity under a code of its own."""
    if code in draft.codes("activities"):
        raise EntryRefused("code", sentence("verbs.taken_already_another_code", value=code[:60]))
    if not cells.get("name"):
        raise EntryRefused("name", sentence("verbs.name_cant_empty_one"))
    cells = draft.by_code(LISTS["activities"], cells)
    key = draft.add("activities", {"code": code} | cells)
    draft.put_in_tree("activities", key)
    draft.labels.append(f"added {cells['name']}")
    return key


def _new_assignment(draft: Draft, verb: Doc, given: Doc) -> int:
    activity = draft.record("activities", draft.find(verb["activity"], "a")[1])
    resource = draft.record("resources", draft.find(verb["resource"], "r")[1])
    if any((x.activity, x.resource) == (activity.code, resource.code) for _, x in draft.records("assignments")):
        raise EntryRefused("people", sentence("verbs.already", name=resource.name, name_2=activity.name))
    key = draft.add("assignments", {"activity": activity.code, "resource": resource.code})
    set_cells(draft, "assignments", key, given)
    return key


def _new_cost(draft: Draft, verb: Doc, given: Doc) -> int:
    activity = draft.record("activities", draft.find(verb["activity"], "a")[1])
    key = draft.add("costs", {"activity": activity.code, "name": "Direct cost", "amount": "0"})
    set_cells(draft, "costs", key, given)
    return key


_PARTS: dict[str, Callable[[Draft, Doc, Doc], int]] = {"links": new_link, "assignments": _new_assignment, "costs": _new_cost}


def do_remove(draft: Draft, verb: Doc) -> None:
    """Take rows out, with what hangs on them."""
    rows = [draft.named.get(str(r), str(r)) for r in verb["rows"]]
    for ref, name in zip(verb["rows"], rows, strict=True):
        if draft.by_name and name[:1] in "aw" and name not in draft.outline.parent and name in rows[: rows.index(name)] + _gone(draft):
            continue  # went with an element above it
        if name[:1] == "p":
            raise ChangeRefused("not-allowed", sentence("verbs.project_never_taken_away"))
        list_name, key = draft.find(ref, ANY)
        delete(draft, list_name, key)


def _gone(draft: Draft) -> list[str]:
    """The rows of the tree that were taken out so far."""
    return [name_of(e.list, e.key) for e in draft.edits.values() if e.gone and e.list in ("activities", "wbs")]


def do_delete(draft: Draft, verb: Doc) -> None:
    """Take an activity out, with its links, assignments and costs."""
    _, key = draft.find(verb["row"], "a")
    remembered(draft, verb, "activities", key)
    delete(draft, "activities", key)


def do_assign(draft: Draft, verb: Doc) -> None:
    """Put a resource on one activity, or on many at once; cells change it where it is there already."""
    resource, count = draft.record("resources", draft.find(verb["resource"], "r")[1]), 0
    there = {(x.activity, x.resource): k for k, x in draft.records("assignments")}
    for ref in verb["rows"] if "rows" in verb else [verb["activity"]]:
        list_name, key = draft.find(ref, "aw")
        if list_name != "activities":
            continue
        code = draft.record("activities", key).code
        row = there.get((code, resource.code))
        remembered(draft, verb, "assignments", row, f"{code}, {resource.code}")
        if row is None:
            row = there[code, resource.code] = draft.add("assignments", {"activity": code, "resource": resource.code})
        if verb.get("cells"):
            set_cells(draft, "assignments", row, dict(verb["cells"]))
        count += 1
    draft.labels.append(sentence("verbs.put", name=resource.name, count=count, value="activity" if count == 1 else "activities"))


def do_unassign(draft: Draft, verb: Doc) -> None:
    """Take a resource off an activity."""
    activity = draft.record("activities", draft.find(verb["activity"], "a")[1])
    resource = draft.record("resources", draft.find(verb["resource"], "r")[1])
    for key, x in list(draft.records("assignments")):
        if (x.activity, x.resource) == (activity.code, resource.code):
            remembered(draft, verb, "assignments", key, f"{activity.code}, {resource.code}")
            draft.drop("assignments", key)
            draft.labels.append(sentence("verbs.took_off", name=resource.name, name_2=activity.name))
            return
    raise ChangeRefused("not-found", sentence("verbs.is_not_on", name=resource.name, name_2=activity.name))


def do_cost(draft: Draft, verb: Doc) -> None:
    """Make or change a direct cost by its activity and name."""
    activity = draft.record("activities", draft.find(verb["activity"], "a")[1])
    name, given = str(verb["name"]), dict(verb.get("cells") or {})
    key = _cost_of(draft, activity.code, name)
    remembered(draft, verb, "costs", key, f"{activity.code}, {name}")
    if key is None:
        if given.get("amount") is None:
            raise EntryRefused("amount", sentence("verbs.new_cost_needs_amount"))
        key = draft.add("costs", {"activity": activity.code, "name": name, "amount": "0"})
    set_cells(draft, "costs", key, given)
    draft.labels.append(f"{activity.name}: {name}")


def do_uncost(draft: Draft, verb: Doc) -> None:
    """Take a direct cost away."""
    activity = draft.record("activities", draft.find(verb["activity"], "a")[1])
    key = _cost_of(draft, activity.code, str(verb["name"]))
    if key is None:
        raise ChangeRefused("not-found", sentence("verbs.no_cost", name=activity.name, value=str(verb["name"])[:60]))
    remembered(draft, verb, "costs", key, f"{activity.code}, {verb['name']}")
    draft.drop("costs", key)
    draft.labels.append(sentence("verbs.deleted", name=verb["name"]))


def _cost_of(draft: Draft, activity: str, name: str) -> int | None:
    rows = sorted(draft.rows_of("costs").values(), key=place_of)
    return next((x.key for x in rows if (x.record.activity, x.record.name) == (activity, name)), None)


def do_resource(draft: Draft, verb: Doc) -> None:
    """Write cells of a resource."""
    _, key = draft.find(verb["row"], "r")
    remembered(draft, verb, "resources", key)
    set_cells(draft, "resources", key, dict(verb["cells"]))
    draft.labels.append(f"{draft.record('resources', key).name}: {fields_in_words(verb['cells'])}")


def do_list(draft: Draft, verb: Doc, list_name: str) -> None:
    """Write a list that is kept whole: other rows in the place of all that are there."""
    rows = [dict(x) for x in verb["rows"]]
    whole_list(draft, list_name, rows)
    draft.labels.append(sentence("verbs.wrote_list", list=LISTS[list_name].title.lower(), count=len(rows)))


def do_replace(draft: Draft, verb: Doc) -> None:
    """Put one resource in another's place everywhere, such as a person in a role's."""
    old, new = (draft.record("resources", draft.find(verb[end], "r")[1]) for end in ("resource", "by"))
    if old.code == new.code:
        raise ChangeRefused("too-few", sentence("verbs.choose_two_resources"))
    there = {x.activity: (k, x) for k, x in draft.records("assignments") if x.resource == new.code}
    names = {a.code: a.name for _, a in draft.records("activities")}
    count = 0
    for key, a in [(k, x) for k, x in draft.records("assignments") if x.resource == old.code]:
        same = there.get(a.activity)
        if same is None:
            draft.put("assignments", key, {"resource": new.code})
        elif a.work or same[1].work or a.quantity or same[1].quantity:
            message = sentence("verbs.already_hours_own_settle", name=new.name, value=names[a.activity])
            raise ChangeRefused("both-there", message)
        else:
            write_cells(draft, "assignments", same[0], {"units": float(same[1].units + a.units)})
            draft.drop("assignments", key)
        count += 1
    draft.labels.append(sentence("verbs.put_place_activities", name=new.name, name_2=old.name, count=count))


VERBS: dict[str, Callable[[Draft, Doc], None]] = {
    "set": do_set,
    "add": do_add,
    "remove": do_remove,
    "delete": do_delete,
    "place": do_place,
    "indent": do_indent,
    "outdent": do_outdent,
    "outline": do_outline,
    "chain": do_chain,
    "link": do_link,
    "unlink": do_unlink,
    "assign": do_assign,
    "unassign": do_unassign,
    "cost": do_cost,
    "uncost": do_uncost,
    "resource": do_resource,
    "project": do_project,
    "post": do_post,
    "state": do_state,
    "hours": do_hours,
    "pay": do_pay,
    "page": do_page,
    "close": do_close,
    "open": do_open,
    "take_back": do_take_back,
    "marks": partial(do_list, list_name="mark_rules"),
    "answers": partial(do_list, list_name="answers"),
    "lines": partial(do_list, list_name="progress_lines"),
    "layout": partial(do_list, list_name="report_layout"),
    "draw": do_draw,
    "leave": do_leave,
    "kind": do_kind,
    "order": partial(do_named, list_name="orders"),
    "reserve": partial(do_named, list_name="reserves"),
    "change": partial(do_named, list_name="changes"),
    "mark": partial(do_named, list_name="mark_rules"),
    "untie": do_untie,
    "backward": do_backward,
    "copy": do_copy,
    "replace": do_replace,
    "element": do_element,
    "estimate": do_estimate,
    "apply": do_apply,
}
"""By the word in `do`."""
