"""A changed book written into rows: what the core says became of each row is written, noted in the journal, and published."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, cast

from django.db import IntegrityError, models

from dryledger.changes.apply import Changed, finished
from dryledger.changes.draft import Draft, Edit
from dryledger.changes.keyed import LETTERS, name_of
from dryledger.changes.whole import whole_list
from dryledger.errors import EntryRefused
from dryledger.exchange.write import row_document
from server.book.access import Access
from server.book.documents import CODED
from server.book.loading import UNSUITED, row_of, values_of_entry
from server.book.lookup import find_again
from server.book.models import LISTS, PAGE_LISTS, Baseline, CostEntry, Page, Project, RegisterEntry
from server.book.read import read_again, read_project
from server.book.rows import columns_of, number_text, numbers_of
from server.book.workspace import Workspace, publish, workspace_of
from server.journal.steps import Changes, as_it_is, step, undo_or_redo_step, values_of
from server.shared.moment import one_moment
from server.shared.problems import Refused
from server.shared.words import sentence

ORDER = ("calendars", "resources", "wbs", "activities", "externals")
"""Lists whose rows must be there before others refer to them."""
Keys = dict[str, dict[int, int]]


@dataclass(frozen=True)
class WrittenStep:
    """A change that was written: the workspace after it, and the names of the rows that it made."""

    workspace: Workspace
    made: Mapping[str, str]


def write(
    access: Access,
    revision: int,
    kind: str,
    changed: Changed,
    before: Workspace,
    label: str = "",
    subject: str = "",
    beside: Callable[[Changes], None] | None = None,
) -> WrittenStep:
    """Write a changed book as one step, with what `beside` writes of rows that are not the book's.

    Raises Stale where the project has moved on from what was changed.
    """
    check_project(access.project, changed.project)
    keys: Keys = {}
    with step(access, revision, kind, label or changed.label, subject) as s:
        if before.revision != revision:  # somebody wrote after the book was read for this change
            as_it_is(access.project, before.revision)
        if changed.project:
            _project(s, access.project, changed.project)
        _rows(s, access.project, changed, keys)
        _open(s, access.project, changed, keys)
        _entries(s, access.project, changed, keys)
        _pages(s, changed)
        if beside is not None:
            beside(s)
    keyed = changed.after.rekeyed(keys)
    after = before if access.project.revision == before.revision else before.next(access.project.revision, keyed)
    publish(access.project, after)
    named = {name_of(x, old): name_of(x, new) for found in LETTERS.values() for x in found for old, new in keys.get(x, {}).items()}
    made = {alias: named.get(name, name) for alias, name in changed.made.items()}
    return WrittenStep(after, made)


def check_project(project: Project, cells: Mapping[str, Any]) -> None:
    """What of a project only the database knows: that its code is its own, and can stand in an address."""
    code = cells.get("code")
    if code is None or code == project.code:
        return
    if any(x in code for x in UNSUITED) or len(code) > 40 or code in (".", ".."):
        raise EntryRefused("code", sentence("writing.code_most_characters_none"))
    if Project.objects.filter(code=code).exclude(pk=project.pk).exists():
        raise EntryRefused("code", sentence("writing.already_project_another_code", code=code))


def _project(s: Changes, project: Project, cells: Mapping[str, Any]) -> None:
    row = Project.objects.get(pk=project.pk)
    before = values_of(row)
    columns = {key: column for key, column, _ in columns_of(Project)}
    values = {columns[key]: value for key, value in cells.items()}
    try:
        Project.objects.filter(pk=row.pk).update(**values)
    except IntegrityError:
        raise EntryRefused("code", sentence("writing.already_project_code_another")) from None
    s.note(row, before, before | values)


def _rows(s: Changes, project: Project, changed: Changed, keys: Keys) -> None:
    """New rows first, those that others refer to before these; then changes, then what is gone, in the reverse order."""
    by_list: dict[str, list[Edit]] = {}
    for e in changed.edits:
        if e.list != "periods":
            by_list.setdefault(e.list, []).append(e)
    lists = [*(n for n in ORDER if n in by_list), *(n for n in by_list if n not in ORDER)]
    known = {name: changed.after.key_of(name) for name in CODED}
    before = {name: _set_aside(name, by_list[name]) for name in lists}
    for name in lists:
        new = [e for e in by_list[name] if e.new]
        rows = [_new(project, e, known) for e in new]
        s.add(rows)
        if new:
            given = keys[name] = {e.key: row.pk for e, row in zip(new, rows, strict=True)}
            if name in known:
                known[name] = {code: given.get(key, key) for code, key in known[name].items()}
    for name in lists:
        _change(s, before[name], [e for e in by_list[name] if not e.new and not e.gone], known)
    for name in reversed(lists):
        gone = [e.key for e in by_list[name] if e.gone]
        for key in gone:
            if key in before[name]:
                s.note(before[name][key], values_of(before[name][key]), None)
        rows_gone = LISTS[name].all_rows().filter(pk__in=gone)
        rows_gone._raw_delete(rows_gone.db)


def _set_aside(name: str, edits: list[Edit]) -> dict[int, models.Model]:
    """The rows that are changed or taken out, as they are. A code that one of them leaves to another row of the step is free after it."""
    model = LISTS[name]
    rows: dict[int, models.Model] = model.all_rows().in_bulk([e.key for e in edits if not e.new])
    wanted = {e.cells["code"] for e in edits if not e.gone and "code" in e.cells}
    for e in edits:
        code = getattr(rows.get(e.key), "code", None)
        if not e.new and code in wanted and (e.gone or e.cells.get("code", code) != code):
            model.all_rows().filter(pk=e.key).update(code=f"\x00{e.key}")
    return rows


def _new(project: Project, e: Edit, known: dict[str, dict[str, int]]) -> models.Model:
    assert e.order is not None
    return row_of(e.list, project, e.order, e.cells, known)


def _change(s: Changes, rows: dict[int, models.Model], edits: list[Edit], known: dict[str, dict[str, int]]) -> None:
    changed = []
    fields: set[str] = set()
    for e in edits:
        row = rows[e.key]
        before = values_of(row)
        for column, value in _columns(row, e, known).items():
            setattr(row, column, value)
        after = values_of(row)
        if after != before:
            changed.append(row)
            fields |= {column for column, value in after.items() if before[column] != value}
            s.note(row, before, after)
    if changed:
        model = type(changed[0])
        names = [f.name for f in model._meta.concrete_fields if f.attname in fields]
        model._default_manager.bulk_update(changed, names, batch_size=500)


def _columns(row: models.Model, e: Edit, known: dict[str, dict[str, int]]) -> dict[str, Any]:
    """The columns that an edit writes, with their values."""
    out: dict[str, Any] = {} if e.order is None else {"order": e.order}
    cells = dict(e.cells)
    if isinstance(row, RegisterEntry):
        own = {k: v for k, v in (row.values | values_of_entry(cells)).items() if cells.get(k, v) is not None}
        return out | {k: cells[k] for k in ("code", "name") if k in cells} | {"values": own}
    if isinstance(row, Baseline):
        kept = {k: cells.pop(k) for k in Baseline.KEPT_WHOLE if k in cells}
        if kept:
            out["content"] = _codes_followed(row.content, kept)
    for key, column, refers in columns_of(type(row)):
        if key in cells:
            value = cells[key]
            out[column] = known[refers].get(value) if refers and value is not None else _kept(value, column in numbers_of(type(row)))
    return out


def _kept(value: Any, is_number: bool) -> Any:
    """A value as its column keeps it: numbers of columns of their own as decimal text."""
    return number_text(value) if is_number and value is not None else value


def _codes_followed(content: dict[str, Any], now: dict[str, Any]) -> dict[str, Any]:
    """A baseline's content in which only codes follow a rename: everything else stays to the letter as it was approved."""
    rows = []
    for was, new in zip(content.get("activities", []), now.get("activities", content.get("activities", [])), strict=True):
        row = dict(was) | {k: new[k] for k in ("code", "wbs") if k in new and k in was}
        if "base" in (was.get("value_method") or {}):
            row["value_method"] = was["value_method"] | {"base": new["value_method"]["base"]}
        if was.get("assignments"):
            pairs = zip(was["assignments"], new["assignments"], strict=True)
            row["assignments"] = [a | {"resource": b["resource"]} for a, b in pairs]
        rows.append(row)
    return content | {"activities": rows}


def _open(s: Changes, project: Project, changed: Changed, keys: Keys) -> None:
    """Pages that were opened."""
    for e in changed.edits:
        if e.list == "periods" and e.new:
            page = Page(project=project, order=e.order or 0, **e.cells)
            s.save(page)
            keys["periods"] = keys.get("periods", {}) | {e.key: page.pk}


def _pages(s: Changes, changed: Changed) -> None:
    """Cells of pages that were there before, and those that were taken back."""
    for e in changed.edits:
        if e.list != "periods" or e.new:
            continue
        page = Page.objects.get(pk=e.key)
        if e.gone:
            s.delete(page)
            continue
        for key, value in e.cells.items():
            setattr(page, key, value)
        s.save(page)


def _entries(s: Changes, project: Project, changed: Changed, keys: Keys) -> None:
    """What was entered on pages, a list at a time: those that are gone, then what changed, then new ones.

    Raises Refused for a dry page.
    """
    parts: dict[tuple[int, str], dict[int, Any]] = {}
    for (key, part, place), record in changed.entries.items():
        parts.setdefault((key, part), {})[place] = record
    known = {name: changed.after.key_of(name) for name in ("activities", "resources", "wbs")} if parts else {}
    for (key, part), records in parts.items():
        page, model = Page.objects.get(pk=keys.get("periods", {}).get(key, key)), cast(Any, PAGE_LISTS[part])
        if page.state != "wet":
            raise Refused("page-dry", sentence("lookup.page_dry_stays_closed", code=page.code), 409)
        rows: list[Any] = list(model.all_rows().filter(page=page))
        last = max((row.order for row in rows), default=-1.0)
        written, fresh = list[Any](), list[Any]()
        for place, record in records.items():
            if record is None:
                continue
            row = rows[place] if place >= 0 else model(project=project, page=page, order=last + 1 + len(fresh))
            (written if place >= 0 else fresh).append(row)
            _fill(row, row_document(model.LIST, record), known)
            if isinstance(row, CostEntry):
                row.typed = (key, place) in changed.own
        s.clear([rows[place] for place, record in records.items() if record is None])
        s.update(written)
        s.add(fresh)


def _fill(row: Any, doc: dict[str, Any], known: Mapping[str, Mapping[str, int]]) -> None:
    """Write a row of a page from its form in the book; what is nothing is not said."""
    numbers = numbers_of(cast(Any, type(row)))
    for key, column, refers in columns_of(cast(Any, type(row))):
        value = doc.get(key)
        if value == "0min" and key in ("worked", "overtime"):
            value = None
        setattr(row, column, known[refers][value] if refers and value is not None else _kept(value, column in numbers))


def write_list(access: Access, revision: int, kind: str, list_name: str, rows: Sequence[Mapping[str, Any]], label: str) -> None:
    """Write a list whole, from its rows as the book writes them, as one step."""
    w = workspace_of(access.project)
    draft = Draft(w.keyed)
    whole_list(draft, list_name, [dict(x) for x in rows])
    write(access, revision, kind, finished(draft), w, label)


def undo_or_redo(access: Access, revision: int, back: bool) -> str:
    """Undo (back) or redo one's own latest step, and say what was done. Raises as `undo_or_redo_step` does."""
    before = workspace_of(access.project)
    done = undo_or_redo_step(access, revision, back)
    after_step(access, before, done.changes)
    return sentence("writing.undid" if back else "writing.did_again", label=done.label)


def after_step(access: Access, before: Workspace, rows: list[dict[str, Any]]) -> None:
    """Publish the book after a step that wrote rows by itself; where somebody wrote since, it is read anew by whoever needs it."""
    project = access.project
    if project.revision == before.revision:
        return
    with one_moment():
        if find_again(project).revision != project.revision:
            return
        follows = before.revision + 1 == project.revision
        keyed = read_again(project, before.keyed, rows) if follows else read_project(project)[1]
        after = before.next(project.revision, keyed)
    publish(project, after)
