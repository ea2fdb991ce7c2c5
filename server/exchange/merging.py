"""A document merged from a file and what was there, written over a project's rows."""

from typing import Any

from dryledger.book.registers import REGISTERS
from server.exchange.books import LISTS, rows_of
from server.exchange.load import row_of, values_of_entry
from server.exchange.tables import Doc
from server.journal.steps import Changes
from server.plan.models import Project


def write_over(s: Changes, project: Project, document: Doc) -> None:
    """Write a merged document into a project's rows: what is new is added, what differs is changed."""
    own = {k: v for k, v in document["project"].items() if k in Project.BOOK}
    if {k: v for k, v in project.to_book().items() if k in Project.BOOK} != own:
        for key, column in Project.BOOK.items():
            setattr(project, column, own.get(key))
        s.save(project)
    ids: dict[str, dict[str, int]] = {}
    for key in ("calendars", "resources", "wbs", "activities", "links", "assignments", "costs", *REGISTERS):
        model = LISTS[key]
        there = list(rows_of(project, key))
        first = (max((r.order for r in there), default=-1.0)) + 1
        for i, doc in enumerate(document.get(key, [])):
            row = row_of(model, project, first + i, doc, ids)
            if key in REGISTERS:
                row.register, row.values = key, values_of_entry(doc)  # type: ignore[attr-defined]
            if i < len(there):
                old = there[i]
                row.pk, row.order = old.pk, old.order
                row._state.adding = False
                if _columns_of(row) == _columns_of(old):
                    continue
            s.save(row)
            if i >= len(there):
                there.append(row)
        if key in ("activities", "resources", "wbs"):
            ids[model.__name__] = {r.code: r.pk for r in rows_of(project, key)}  # type: ignore[attr-defined]


def _columns_of(row: Any) -> Doc:
    return {f.attname: getattr(row, f.attname) for f in row._meta.concrete_fields}
