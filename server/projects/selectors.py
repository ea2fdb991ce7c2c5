"""The project's own page: its fields and registers."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from dryledger.book.registers import REGISTERS
from dryledger.changes.apply import apply_keyed
from dryledger.changes.elsewhere import OutsideContext
from dryledger.changes.keyed import KeyedBook
from dryledger.entry.cells import CELLS
from dryledger.entry.rhythms import rhythm_text
from dryledger.errors import ChangeRefused
from server.book.access import Access
from server.book.documents import rows_of
from server.book.organisation import Choice, Kind, kinds_by_name
from server.book.rows import number_text
from server.book.workspace import workspace_of
from server.plan.details import OwnField, own_fields
from server.shared.named import Named


@dataclass
class RegisterColumn:
    """A column of a register."""

    key: str
    kind: str
    options: list[str]
    fixed: bool
    """Whether nobody types it: it is written by what is pressed elsewhere."""


@dataclass
class RegisterOut:
    """A register with its columns and rows; each row holds its values by column."""

    key: str
    columns: list[RegisterColumn]
    rows: list[dict[str, Any]]


EARLIER = ("approved_by", "decided", "cost")
"""Columns that changes of earlier builds have: who decided and when stands in others, and a cost of theirs moves nothing."""


def _as_typed(values: dict[str, Any]) -> dict[str, Any]:
    """The values of a row of a register, lines of a change as they are typed; of an earlier build's decision by the names of now."""
    out = dict(values)
    if lines := values.get("lines"):
        out["lines"] = "; ".join(f"{x.get('wbs') or x.get('activity') or x.get('reserve')} {x['amount']}" for x in lines)
    if values.get("state") == "proposed":
        out["state"] = "raised"
    for old, new in (("approved_by", "decided_by"), ("decided", "decided_at")):
        if values.get(old) and not values.get(new):
            out[new] = values[old]
    return {key: number_text(x) if isinstance(x, Decimal) else x for key, x in out.items() if key not in EARLIER}


@dataclass
class ProjectPage:
    """The project's own page."""

    revision: int
    project: dict[str, Any]
    states: list[str]
    kinds: list[str]
    """The kinds of projects that the organisation keeps."""
    kind_state: str
    """How the project's fields stand to the organisation's: none (no kind), same, other (than there now), gone (no such kind any more)."""
    fields: list[OwnField]
    """Its own fields of the project itself."""
    calendars: list[Named]
    registers: list[RegisterOut]
    brought_in: str
    """Of a project that came in with an archive: who brought it, from where, and whether that is proved."""


def _kind_state(keyed: KeyedBook) -> str:
    kind = keyed.book.project.kind
    if not kind:
        return "none"
    known = kinds_by_name([kind])
    if kind not in known:
        return "gone"
    try:
        done = apply_keyed(keyed, [{"do": "kind", "kind": kind}], {}, OutsideContext(kinds=known))
    except ChangeRefused:
        return "other"
    return "other" if done.edits else "same"


def project_page(access: Access) -> ProjectPage:
    """The project's fields and registers."""
    project = access.project
    registers = []
    for key, columns in REGISTERS.items():
        rows = [{"id": f"g{r.pk}", "code": r.code, "name": r.name, **_as_typed(r.values)} for r in rows_of(project, key)]
        shown = [c for c in columns if c.key not in EARLIER]
        registers.append(RegisterOut(key, [RegisterColumn(c.key, c.kind, list(c.options), c.key not in CELLS[key]) for c in shown], rows))
    return ProjectPage(
        project.revision,
        {"id": f"p{project.pk}", **project.to_book(), "rhythm": rhythm_text(workspace_of(project).book.project.rhythm)},
        [c.word for c in Choice.objects.filter(list="state")],
        [k.name for k in Kind.objects.all()],
        _kind_state(workspace_of(project).keyed),
        own_fields(workspace_of(project).book, "project"),
        [Named(f"k{c.pk}", c.code, c.name) for c in rows_of(project, "calendars")],
        registers,
        project.brought_in,
    )
