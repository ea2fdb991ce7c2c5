"""The kind of a project: it decides which own fields the project, its activities and its resources have."""

from typing import Any

from dryledger.book.formulas import names_in
from dryledger.book.lists import LISTS
from dryledger.book.mark_rules import reason_parts
from dryledger.book.registers import FIELD_USUAL
from dryledger.changes.draft import Doc, Draft
from dryledger.errors import ChangeRefused
from dryledger.exchange.write import row_document
from dryledger.figures import FIELD
from dryledger.words import sentence

__all__ = ["do_kind"]

WRITTEN = ("name", "kind", "options", "formula", "in_reports", "of")
"""What the organisation says of a field that a kind gives."""


def do_kind(draft: Draft, verb: Doc) -> None:
    """Make the project one of a kind ("" for none), or bring its fields to what the organisation says of that kind now.

    Fields that the kind gives come in, or take the place of those of the same code; those that an earlier kind gave go, but for such as
    hold something or are called by a rule or a formula: these the project keeps as its own.
    """
    kind = str(verb["kind"])
    if kind and kind not in draft.kinds:
        raise ChangeRefused("not-found", sentence("kinds.none_of_that_name", kind=kind[:60]))
    given = {str(d["code"]): d for d in draft.kinds[kind]} if kind else {}
    used = _used(draft)
    for key, row in list(draft.records("fields")):
        if row.code not in given and row.given_by == "kind":
            if row.code in used:
                draft.put("fields", key, {"given_by": None})
            else:
                draft.drop("fields", key)
    there = draft.codes("fields")
    for code, d in given.items():
        cells: Doc = {key: _listed(d.get(key)) for key in WRITTEN} | {"given_by": "kind"}
        if code not in there:
            draft.add("fields", {"code": code} | {k: v for k, v in cells.items() if v is not None})
        elif (was := draft.record("fields", there[code])) and any(
            _in_words(row_document(LISTS["fields"], was), k) != _in_words(cells, k) for k in cells
        ):
            draft.put("fields", there[code], cells)
    if draft.project.kind != kind:
        draft.put_project({"kind": kind or None})
    draft.labels.append(sentence("kinds.is_of_kind", kind=kind) if kind else sentence("kinds.is_of_none"))


def _listed(value: Any) -> Any:
    return list(value) if isinstance(value, tuple) else value


def _in_words(row: Doc, key: str) -> Any:
    """What a definition says under a key, also where it does so by leaving it out."""
    return _listed(row.get(key)) or FIELD_USUAL.get(key)


def _used(draft: Draft) -> set[str]:
    """The codes of fields that hold something somewhere, or that a mark rule or a formula calls."""
    out = {code for rows in ("activities", "resources") for _, x in draft.records(rows) for code in x.fields} | set(draft.project.fields)
    for _, d in draft.records("fields"):
        out |= names_in(d.formula or "")
    for _, rule in draft.records("mark_rules"):
        figures = [c.figure for c in rule.conditions] + [c.than or "" for c in rule.conditions]
        figures += [key for _, key in reason_parts(rule.reason)]
        out |= {f.removeprefix(FIELD) for f in figures if f.startswith(FIELD)}
    return out
