"""Copying activities out of another project's plan: with the links between them, their people and their costs.

A resource is known by its code, else by the code that the organisation knows it by, else by its name; one that is not here comes along with
its rates, on the calendar of the same code or the project's. Nothing of the other project's progress, baselines and dates comes along.
"""

from dryledger.book.lists import LISTS
from dryledger.book.numbering import resource_code
from dryledger.book.plan import Activity, Book, Resource
from dryledger.changes.draft import Doc, Draft
from dryledger.changes.keyed import name_of
from dryledger.changes.rows import place
from dryledger.errors import ChangeRefused
from dryledger.exchange.write import row_document
from dryledger.words import sentence

__all__ = ["do_copy"]

LEFT = ("code", "wbs", "fields", "levelled", "start", "finish", "mode", "calendar", "responsible")
"""What of an activity is its project's own."""
OF_PROJECT = ("calendar", "fields", "roles", "exceptions", "shared")
"""The same of a resource."""


def do_copy(draft: Draft, verb: Doc) -> None:
    """Copy activities (`rows`, by code) of another project (`from`) under an element, or to the top. Raises ChangeRefused."""
    other = draft.books.get(str(verb["from"]))
    if other is None:
        raise ChangeRefused("not-found", sentence("copying.no_project", code=str(verb["from"])[:60]))
    wanted = {str(code) for code in verb["rows"]}
    rows = [a for a in other.activities if a.code in wanted]
    if not rows:
        raise ChangeRefused("nothing-there", sentence("copying.none"))
    if other.project.currency != draft.project.currency:
        raise ChangeRefused("currency", sentence("copying.currency", here=draft.project.currency, there=other.project.currency))
    new = _activities(draft, rows, verb.get("parent"))
    for link in other.links:
        if link.source in new and link.target in new:
            draft.add("links", row_document(LISTS["links"], link) | {"from": new[link.source], "to": new[link.target]})
    people, came = _resources(draft, other, new)
    for x in other.assignments:
        if x.activity in new:
            doc = row_document(LISTS["assignments"], x) | {"activity": new[x.activity], "resource": people[x.resource]}
            draft.add("assignments", {k: v for k, v in doc.items() if k not in ("to_order", "closed")})
    for c in other.costs:
        if c.activity in new:
            doc = row_document(LISTS["costs"], c) | {"activity": new[c.activity]}
            draft.add("costs", {k: v for k, v in doc.items() if k not in ("code", "to_order", "closed")})
    told = sentence("copying.copied", count=len(rows), project=other.project.code)
    along = sentence("copying.came_along", names=", ".join(came)) if came else ""
    draft.labels.append("; ".join(filter(None, (told, along))))


def _activities(draft: Draft, rows: list[Activity], parent: str | None) -> dict[str, str]:
    """New activities in the order of the other plan; gives their codes here by those there, the same ones as far as these are free."""
    taken, calendars = set(draft.codes("activities")) | set(draft.codes("wbs")), draft.codes("calendars")
    orders = place(draft, parent, None, len(rows))
    new: dict[str, str] = {}
    for a, order in zip(rows, orders, strict=True):
        code, n = a.code, 1
        while code in taken:
            n += 1
            code = f"{a.code}-{n}"
        taken.add(code)
        new[a.code] = code
        doc = {k: v for k, v in row_document(LISTS["activities"], a).items() if k not in LEFT} | {"code": code}
        base = doc.get("value_method", {}).get("base") if isinstance(doc.get("value_method"), dict) else None
        if base is not None:
            doc.pop("value_method")
        if a.calendar in calendars:
            doc["calendar"] = a.calendar
        if parent is not None:
            doc["wbs"] = draft.record("wbs", int(parent[1:])).code
        key = draft.add("activities", doc, order)
        draft.outline.put(name_of("activities", key), parent, order)
    return new


def _resources(draft: Draft, other: Book, new: dict[str, str]) -> tuple[dict[str, str], list[str]]:
    """By its code there what each resource is here, and the names of those that came along."""
    out: dict[str, str] = {}
    came = []
    for x in other.resources:
        if not any(y.activity in new for y in other.assignments if y.resource == x.code):
            continue
        found = _known(draft, x)
        if found is None:
            found = x.code if x.code not in draft.codes("resources") else resource_code(x.name, draft.codes("resources"))
            doc = {
                k: v
                for k, v in row_document(LISTS["resources"], x).items()
                if k not in ("calendar", "fields", "roles", "exceptions", "shared")
            }
            on = {"calendar": x.calendar} if x.calendar in draft.codes("calendars") else {}
            draft.add("resources", doc | on | {"code": found})
            came.append(x.name)
        out[x.code] = found
    return out, came


def _known(draft: Draft, x: Resource) -> str | None:
    rows = [r for _, r in draft.records("resources") if r.kind == x.kind]
    ways = [r for r in rows if x.shared and r.shared == x.shared], [r for r in rows if r.code == x.code and r.name == x.name]
    for found in (*ways, [r for r in rows if r.name == x.name]):
        if found:
            return str(found[0].code)
    return None
