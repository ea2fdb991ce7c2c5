"""Drawing on the resources of the organisation, and leaving them."""

from dataclasses import replace

from dryledger.book.lists import LISTS
from dryledger.book.numbering import resource_code
from dryledger.book.shared import taken_over
from dryledger.changes.draft import Doc, Draft
from dryledger.errors import ChangeRefused
from dryledger.exchange.write import row_document
from dryledger.words import sentence

__all__ = ["do_draw", "do_leave"]


def do_draw(draft: Draft, verb: Doc) -> None:
    """Draw on a resource of the organisation: a new row, or one (`row`) that is there and takes over what the organisation says now."""
    code = str(verb["shared"])
    kept = draft.shared.get(code)
    if kept is None:
        raise ChangeRefused("not-found", sentence("shared.none_of_that_code", code=code[:60]))
    key = draft.find(verb["row"], "r")[1] if verb.get("row") else next((k for k, r in draft.records("resources") if r.shared == code), None)
    if key is None:
        taken = draft.codes("resources")
        own = code if code not in taken else resource_code(kept.name, taken)
        key = draft.add("resources", {"code": own, "name": kept.name, "kind": kept.kind, "units": float(kept.units)})
        draft.put("resources", key, {"calendar": _calendar(draft, row_document(LISTS["calendars"], kept.calendar))})
    record = draft.record("resources", key)
    others = [r.name for k, r in draft.records("resources") if k != key and r.shared == code]
    if others:
        raise ChangeRefused("both-there", sentence("shared.drawn_on_already", name=kept.name, other=others[0]))
    changed = taken_over(kept, record, draft.project.currency)
    if changed:
        row = row_document(LISTS["resources"], replace(record, **changed))
        draft.put("resources", key, {k: row.get(k) for k in changed})
    now = draft.record("resources", key)
    told = "shared.draws_on" if now.rates or now.role else "shared.draws_on_without_rate"
    draft.labels.append(sentence(told, name=kept.name, currency=draft.project.currency))


def _calendar(draft: Draft, doc: Doc) -> str:
    """The code of the project's calendar that a resource comes with, put in where the project has none of that code."""
    code = str(doc["code"])
    if code not in draft.codes("calendars"):
        draft.add("calendars", doc)
    return code


def do_leave(draft: Draft, verb: Doc) -> None:
    """Draw on the organisation no more: what the resource was there, the project keeps as its own."""
    key = draft.find(verb["row"], "r")[1]
    draft.put("resources", key, {"shared": None, "own_rates": None})
    draft.labels.append(sentence("shared.own_again", name=draft.record("resources", key).name))
