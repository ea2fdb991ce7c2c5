"""The organisation's resources: keeping them, putting one there out of a project, and letting the projects that draw on them follow."""

from dataclasses import dataclass
from typing import Any

from django.db import transaction

from dryledger.book.lists import LISTS
from dryledger.changes.apply import apply_keyed
from dryledger.changes.elsewhere import OutsideContext
from dryledger.changes.keyed import KeyedBook
from dryledger.errors import ChangeRefused
from dryledger.exchange.write import row_document
from server.accounts.audit import note
from server.accounts.models import Person, Role
from server.book.access import access
from server.book.models import Resource
from server.book.organisation import Shared, book_of, five_day_week, shared_resource
from server.book.rows import clean
from server.book.workspace import workspace_of
from server.journal.following import follow_all
from server.plan.actions import change_plan
from server.shared.json_values import floats
from server.shared.problems import Refused, Stale
from server.shared.words import sentence

Doc = dict[str, Any]
OF_PROJECT = ("code", "calendar", "shared", "own_rates", "actuals", "exceptions", "roles", "fields")
"""What a resource says for the project that it stands in alone."""
CELLS = ("name", "kind", "units", "role", "skills", "rates")
"""What is written of a resource, as in a plan; `code`, `currency` and `week` stand beside them."""


@dataclass
class Kept:
    """What was kept, and how many of the projects that one sees followed, or could not at once: these say so themselves."""

    code: str
    revision: int
    followed: int
    left: int


def keep(person: Person, code: str, revision: int, cells: Doc) -> Kept:
    """Write cells of a resource of the organisation, or begin one (revision 0). Raises ChangeRefused at the cell, Stale."""
    with transaction.atomic():
        row = Shared.objects.filter(code=code).first() if revision else _new(code, cells)
        if row is None:
            raise Refused("not-found", sentence("resources.no_shared", code=code), 404)
        if row.revision != max(revision, 1):
            raise Stale(row.revision, [])
        _write(row, cells)
        row.revision = revision + 1
        row.save()
    note("organisation", sentence("resources.kept", name=row.resource["name"]), person)
    return _follow(person, row)


def _new(code: str, cells: Doc) -> Shared:
    named = " ".join(str(cells.get("name") or "").split())
    code = " ".join(code.split())
    if not code or len(code) > 40:
        raise ChangeRefused("entry-refused", sentence("resources.shared_needs_code"), field="code")
    if Shared.objects.filter(code=code).exists():
        raise ChangeRefused("entry-refused", sentence("resources.shared_code_taken", code=code), field="code")
    if not named:
        raise ChangeRefused("entry-refused", sentence("resources.shared_needs_name"), field="name")
    return Shared(code=code, resource={"name": named}, calendar=five_day_week(), currency="EUR")


def _write(row: Shared, cells: Doc) -> None:
    """Cells as people type them, read and refused as in a plan."""
    book = book_of(row)
    verbs: list[Doc] = []
    own = {k: v for k, v in cells.items() if k in CELLS}
    if row.pk and own.get("kind", book.resources[0].kind) != book.resources[0].kind:
        raise ChangeRefused("entry-refused", sentence("resources.kind_stays"), field="kind")
    if own:
        verbs.append({"do": "set", "row": "r0", "cells": own})
    if "week" in cells:
        verbs.append({"do": "set", "row": "k0", "cells": {"week": cells["week"]}})
    if "currency" in cells:
        verbs.append({"do": "project", "cells": {"currency": cells["currency"]}})
    other = next((k for k in cells if k not in (*CELLS, "week", "currency")), None)
    if other is not None:
        raise ChangeRefused("entry-refused", sentence("resources.not_of_it", value=other[:60]), field=other)
    done = apply_keyed(KeyedBook.of(book), verbs, {}).book if verbs else book
    row.currency = done.project.currency
    row.resource = _document(row_document(LISTS["resources"], done.resources[0]), *OF_PROJECT)
    row.calendar = _document(row_document(LISTS["calendars"], done.calendars[0]))


def _document(doc: Doc, *but: str) -> Doc:
    out: Doc = clean(floats({k: v for k, v in doc.items() if k not in but}))
    return out


def put_out(person: Person, project: str, row: str, code: str) -> Kept:
    """Put a project's resource into the organisation's list; the project draws on it from then on."""
    at = access(person, project)
    at.require(Role.ANALYST, sentence("plan.change_plan"))
    book = workspace_of(at.project).keyed
    found = next((x.record for k, x in book.rows["resources"].items() if f"r{k}" == row), None)
    if found is None:
        raise Refused("not-found", sentence("resources.no_such_row"), 404)
    if found.shared is not None and Shared.objects.filter(code=found.shared).exists():
        raise Refused("both-there", sentence("resources.shared_already", name=found.name), 409)
    code = " ".join((code or found.shared or found.code).split())
    with transaction.atomic():
        made = _new(code, {"name": found.name})
        made.currency = book.book.project.currency
        made.resource = _document(row_document(LISTS["resources"], found), *OF_PROJECT)
        made.calendar = _document(row_document(LISTS["calendars"], book.book.calendar_by_code[found.calendar]))
        made.save()
    done = False
    try:
        change_plan(at, at.project.revision, [{"do": "draw", "shared": code, "row": row}])
        done = True
    finally:
        if not done:
            made.delete()
    note("organisation", sentence("resources.kept", name=found.name), person)
    return Kept(code, 1, 1, 0)


def drop(person: Person, code: str) -> None:
    """Take a resource off the organisation's list. Projects that draw on it keep what they have of it, as their own."""
    row = Shared.objects.filter(code=code).first()
    if row is None:
        raise Refused("not-found", sentence("resources.no_shared", code=code), 404)
    row.delete()
    note("organisation", sentence("resources.dropped", name=row.resource["name"]), person)


def _follow(person: Person, row: Shared) -> Kept:
    """Write what the organisation says of a resource into every project that draws on it."""
    own = {x.project_id: x for x in Resource.objects.filter(shared=row.code).select_related("project")}
    verbs = [(x.project, {"do": "draw", "shared": row.code, "row": f"r{x.pk}"}) for x in own.values()]
    return Kept(row.code, row.revision, *follow_all(person, verbs, OutsideContext(shared=[shared_resource(row)])))
