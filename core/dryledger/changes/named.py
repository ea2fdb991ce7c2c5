"""Verbs of rows that are named by their codes and have a room of their own: orders, reserves, changes and mark rules. And `untie`."""

from dataclasses import replace

from dryledger.book.lists import LISTS
from dryledger.book.lists_beside import TIES
from dryledger.book.options import Tie, promise_at
from dryledger.changes.draft import Doc, Draft
from dryledger.changes.keyed import place_of
from dryledger.changes.remembered import called, fields_in_words, remembered
from dryledger.errors import ChangeRefused
from dryledger.exchange.write import row_document
from dryledger.words import sentence

__all__ = ["do_named", "do_untie"]


def do_named(draft: Draft, verb: Doc, list_name: str) -> None:
    """Make a row by its code or change its cells; without cells it is taken away."""
    code = str(verb["row"])
    key = draft.codes(list_name).get(code)
    remembered(draft, verb, list_name, key, code)
    if "cells" not in verb:
        if key is None:
            raise ChangeRefused("not-found", sentence("draft.no_row_book", value=code[:60]))
        draft.labels.append(sentence("verbs.deleted", name=called(draft.record(list_name, key))))
        draft.drop(list_name, key)
        return
    cells: Doc = {k: v for k, v in dict(verb["cells"]).items() if k != "code"}
    known = LISTS[list_name].by_key
    for cell in cells:
        if cell not in known:
            raise ChangeRefused("bad-request", sentence("rows.cant_written_here", value=cell[:60]), field=cell)
    if key is None:
        key = draft.add(list_name, {"code": code, "name": code} | cells if "name" in known else {"code": code} | cells)
    else:
        draft.put(list_name, key, cells)
    draft.labels.append(f"{called(draft.record(list_name, key))}: {fields_in_words(cells)}")


def do_untie(draft: Draft, verb: Doc) -> None:
    """Take a hand-over of the promise in force away, from a page on: the one that is named, else the last one."""
    pages = [x.record.code for x in sorted(draft.rows_of("periods").values(), key=place_of)]
    page = verb.get("page") or (pages[-1] if pages else None)
    if page not in pages:
        raise ChangeRefused("no-page", sentence("verbs.no_page", page=str(page or "")[:60]))
    ends = tuple(str(verb[key]) for key in ("from", "to", "resource"))
    in_force = promise_at(draft.book, pages.index(page) + 1)
    key = None if in_force is None else draft.codes("promises")[in_force.code]
    ties: tuple[Tie, ...] = () if key is None else draft.record("promises", key).ties
    until = pages.index(page)
    held = [t for t in ties if (t.source, t.target, t.resource) == ends and (t.ended is None or pages.index(t.ended) > until)]
    if key is None or not held:
        raise ChangeRefused("not-found", sentence("verbs.no_tie", source=ends[0][:60], target=ends[1][:60], resource=ends[2][:60]))
    now = [replace(t, ended=page) if t in held else t for t in ties]
    draft.put("promises", key, {"ties": [row_document(TIES, t) for t in now]})
    draft.labels.append(sentence("verbs.untied", source=ends[0], target=ends[1]))
