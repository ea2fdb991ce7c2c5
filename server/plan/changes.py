"""What can be done to a plan. Each request is a list of verbs, done in order as one step of the journal, or not at all.

Rows are named by a letter and their key (`a12`, `w3`, `l7`); a row that a verb makes is named by its own `as`.
"""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from django.db.models import Model

from dryledger.book.numbering import next_code, next_element, resource_code
from dryledger.book.plan import Book
from dryledger.book.reader import split_duration
from dryledger.book.registers import REGISTERS
from dryledger.calendar.calendar import from_text
from dryledger.errors import EntryRefused
from dryledger.schedule.schedule import Scheduled
from server.baseline.models import Baseline
from server.calendar.models import Calendar
from server.exchange.live import LivePlan
from server.journal.steps import Changes
from server.plan import cells
from server.plan.models import Activity, Assignment, DirectCost, Estimate, Link, Project, RegisterEntry, Resource, WbsElement
from server.plan.outline import Outline, Parent
from server.plan.shapes import LONGEST, check_shape
from server.posting.models import CostEntry, HoursEntry, Page, Statement
from server.posting.pages import opening_page
from server.shared.problems import Refused

Verb = dict[str, Any]
LETTERS: dict[str, tuple[str, type[Model]]] = {
    "a": ("activities", Activity),
    "w": ("wbs", WbsElement),
    "l": ("links", Link),
    "s": ("assignments", Assignment),
    "c": ("costs", DirectCost),
    "r": ("resources", Resource),
    "k": ("calendars", Calendar),
    "g": ("register", RegisterEntry),
    "e": ("estimates", Estimate),
    "b": ("baselines", Baseline),
    "p": ("project", Project),
}
LETTER_OF = {name: letter for letter, (name, _) in LETTERS.items()} | dict.fromkeys(REGISTERS, "g")
MOST_VERBS = 20_000


class CellRefused(Refused):
    """A refusal that stands beside a cell: the row, the field, and what was expected."""

    def __init__(self, row: str, wrong: EntryRefused) -> None:
        super().__init__("entry-refused", wrong.message, 422, row=row, field=wrong.field, nearest=wrong.nearest)


@dataclass
class Draft:
    """A step in the making: rows by name, the tree, and the book as it stood before."""

    project: Project
    plan: LivePlan
    step: Changes
    dates: dict[str, Scheduled]
    """The present dates of each activity by code."""

    def __post_init__(self) -> None:
        self.book: Book = self.plan.book
        self.named: dict[str, str] = {}
        self.rows: dict[str, Any] = {}
        self.codes = {name: set(known.values()) for name, known in self.plan.codes.items()}
        self.labels: list[str] = []

    @cached_property
    def outline(self) -> Outline:
        """The tree, read when a verb first asks for it."""
        return Outline(self.plan)

    def name(self, ref: Any) -> str:
        """The name of a row, where a verb made it under a name of its own."""
        return self.named.get(str(ref), str(ref))

    def row(self, ref: Any) -> Any:
        """A row by its name. Raises Refused where it is gone."""
        name = self.name(ref)
        if name not in self.rows:
            letter, key = name[:1], name[1:]
            model = LETTERS[letter][1] if letter in LETTERS else None
            found = None
            if model is Project:
                found = self.project
            elif model is not None and key.isdecimal() and len(key) <= LONGEST:
                found = model._default_manager.filter(project=self.project, pk=int(key)).first()
            if found is None:
                raise Refused("not-found", "That row is not there any more. Somebody else may have taken it out.", 409)
            self.rows[name] = found
        return self.rows[name]

    def around(self, row: Any = None) -> cells.Around:
        """What the cells of a row are read against."""
        code = getattr(row, "calendar", None) or self.project.calendar
        calendar = self.book.calendar_by_code.get(code) or self.book.calendar_by_code[self.project.calendar]
        near = self.book.project.start
        if isinstance(row, Activity) and row.start:
            near = from_text(row.start)
        return cells.Around(self.book, calendar, near)

    def keep(self, name: str, row: Any) -> str:
        """Save a row, new or changed."""
        self.step.save(row)
        name = name or f"{LETTER_OF[_list_of(row)]}{row.pk}"
        self.rows[name] = row
        return name

    def children_of(self, parent: Parent) -> list[str]:
        return self.outline.children(parent)


def _list_of(row: Any) -> str:
    return next(name for name, model in LETTERS.values() if type(row) is model)


def run(draft: Draft, verbs: list[Verb]) -> str:
    """Do the verbs; gives the label of the step. Raises CellRefused, EntryRefused or Refused."""
    if len(verbs) > MOST_VERBS:
        raise Refused("too-many", f"At most {MOST_VERBS:,} changes can be made at once.", 413)
    from server.plan.verbs import VERBS

    for verb in verbs:
        do = VERBS.get(str(verb.get("do")))
        if do is None:
            raise Refused("bad-request", f"“{verb.get('do')}” is nothing that can be done to a plan.", 400)
        try:
            check_shape(draft, verb)
            do(draft, verb)
        except EntryRefused as wrong:
            raise CellRefused(str(verb.get("row") or verb.get("as") or ""), wrong) from None
        except KeyError as gone:
            raise Refused("bad-request", f"The change “{verb.get('do')}” lacks {gone}.", 400) from None
    labels = list(dict.fromkeys(draft.labels))
    return labels[0] if len(labels) == 1 else f"{labels[0]} and {len(draft.labels) - 1} more" if labels else "nothing"


# Cells


def set_cells(draft: Draft, name: str, row: Any, typed: dict[str, Any]) -> None:
    """Put typed cells into a row. Cells that are lists of other rows (links, people, costs) are written as those."""
    kind = row.register if isinstance(row, RegisterEntry) else _list_of(row)
    readers = cells.CELLS[kind]
    around = draft.around(row)
    later: list[tuple[Callable[..., None], Any]] = []
    for key, value in typed.items():
        try:
            _read_cell(draft, kind, row, key, value, readers, around, later)
        except (TypeError, AttributeError, ValueError, ArithmeticError, RecursionError):
            raise EntryRefused(key, "That can't be read here. Write it as it is written in other rows.") from None
    if isinstance(row, Activity) and typed.get("duration") and row.kind != "milestone" and _nothing(row.duration):
        row.kind, row.duration = "milestone", None
    draft.keep(name, row)
    for write, value in later:
        write(draft, name, row, value)


def _read_cell(
    draft: Draft, kind: str, row: Any, key: str, value: Any, readers: dict[str, Any], around: cells.Around, later: list[Any]
) -> None:
    """Put one typed cell into a row; what stands for rows of other lists is written `later`, when the row is there."""
    from server.plan import lists

    if kind == "activities" and key in lists.LIST_CELLS:
        later.append((lists.LIST_CELLS[key], value))
    elif kind == "activities" and key.startswith("fields."):
        code = key.removeprefix("fields.")
        own = (row.fields or {}) | {code: cells.own_field(draft.book, code, value, around)}
        row.fields = {k: v for k, v in own.items() if v is not None}
    elif key not in readers:
        raise EntryRefused(key, f"“{key}” can't be written here.")
    else:
        _put(draft, row, key, readers[key](value, key, around))


def _nothing(duration: str | None) -> bool:
    found = split_duration(duration or "")
    return found is not None and found[0] == 0


def _put(draft: Draft, row: Any, field: str, value: Any) -> None:
    if field == "code" and value != row.code:
        rename(draft, row, value)
    elif isinstance(row, RegisterEntry) and field not in ("code", "name"):
        row.values = {k: v for k, v in (row.values | {field: value}).items() if v is not None}
    else:
        if isinstance(row, Project) and field == "start":
            if value is None:
                raise EntryRefused("start", "A project needs a start. Give a date such as 4 jan 2027.")
            move_opening_page(draft, value)
        if value is None and not row._meta.get_field(field).null:
            raise EntryRefused(field, "This can't be left empty. Take the whole row out if it is not wanted.")
        setattr(row, field, value)


def move_opening_page(draft: Draft, start: str) -> None:
    """The opening page stands as of the project's start as long as nothing is posted."""
    page = opening_page(draft.project)
    if page is not None and page.status != start:
        page = Page.objects.get(pk=page.pk)
        page.status = start
        draft.step.save(page)


def rename(draft: Draft, row: Any, code: str) -> None:
    """Give a row another code; everything that names it follows."""
    old, row.code = row.code, code
    project = draft.project
    if isinstance(row, Activity):
        _free(draft, "Activity", code)
        for other in Activity.objects.filter(project=project, value_method__base=old):
            other.value_method = other.value_method | {"base": code}
            draft.keep(f"a{other.pk}", other)
        _in_baselines(draft, lambda a: _renamed_activity(a, old, code))
    elif isinstance(row, WbsElement):
        _free(draft, "WbsElement", code)
        for other in WbsElement.objects.filter(project=project, parent=old):
            other.parent = code
            draft.keep(f"w{other.pk}", other)
        _in_baselines(draft, lambda a: a | {"wbs": code} if a.get("wbs") == old else a)
    elif isinstance(row, Resource):
        _free(draft, "Resource", code)
    elif isinstance(row, Calendar):
        if Calendar.objects.filter(project=project, code=code).exists():
            raise EntryRefused("code", f"There is already a calendar “{code}”. Give another code.")
        for model, letter in ((Activity, "a"), (Resource, "r")):
            for other in model.objects.filter(project=project, calendar=old):  # type: ignore[attr-defined]
                other.calendar = code
                draft.keep(f"{letter}{other.pk}", other)
        if project.calendar == old:
            project.calendar = code
            draft.keep(f"p{project.pk}", project)
    elif isinstance(row, Project) and Project.objects.filter(code=code).exclude(pk=project.pk).exists():
        raise EntryRefused("code", f"There is already a project “{code}”. Give another code.")


def _free(draft: Draft, kind: str, code: str) -> None:
    if code in draft.codes[kind]:
        raise EntryRefused("code", f"“{code}” is taken already. Give another code.")
    draft.codes[kind].add(code)


def _renamed_activity(a: dict[str, Any], old: str, code: str) -> dict[str, Any]:
    if a["code"] == old:
        a = a | {"code": code}
    method = a.get("value_method") or {}
    return a | {"value_method": method | {"base": code}} if method.get("base") == old else a


def _in_baselines(draft: Draft, change: Callable[[dict[str, Any]], dict[str, Any]]) -> None:
    """A code is who a row is, not what was approved of it: baselines follow a rename, and nothing else of them changes."""
    for b in Baseline.objects.filter(project=draft.project):
        rows = b.content.get("activities", [])
        new = [change(a) for a in rows]
        if new != rows:
            b.content = b.content | {"activities": new}
            draft.keep(f"b{b.pk}", b)


# Rows


def new_row(draft: Draft, kind: str, typed: dict[str, Any], parent: Parent = None, order: float | None = None) -> Any:
    """A new row of a list with its code given by the program; `typed` cells are put in by `set_cells`."""
    project = draft.project
    if kind == "activities":
        code = next_code(draft.codes["Activity"], _last_code(draft, parent))
        row: Any = Activity(project=project, code=code, name="")
        row.wbs_id = int(parent[1:]) if parent else None
        draft.codes["Activity"].add(code)
    elif kind == "wbs":
        above = draft.row(parent).code if parent else None
        code = next_element(draft.codes["WbsElement"], above)
        row = WbsElement(project=project, code=code, name="", parent=above)
        draft.codes["WbsElement"].add(code)
    elif kind == "resources":
        code = resource_code(str(typed.get("name") or ""), draft.codes["Resource"])
        row = Resource(project=project, code=code, name="")
        draft.codes["Resource"].add(code)
    elif kind == "calendars":
        taken = set(Calendar.objects.filter(project=project).values_list("code", flat=True))
        row = Calendar(project=project, code=resource_code(str(typed.get("name") or "calendar"), taken).lower(), name="", week={})
    elif kind in REGISTERS:
        taken = set(RegisterEntry.objects.filter(project=project, register=kind).values_list("code", flat=True))
        row = RegisterEntry(project=project, register=kind, code=next_code(taken, None, 1, f"{kind[0].upper()}1"), name="")
        if kind == "fields":
            row.code = _field_code(str(typed.get("name") or "field"), taken)
    else:
        raise Refused("bad-request", f"“{kind}” is no list of the plan.", 400)
    row.order = order if order is not None else _next_order(draft, row)
    return row


def _field_code(name: str, taken: set[str]) -> str:
    base = "".join(ch if ch.isalnum() else "_" for ch in name.lower()).strip("_") or "field"
    base = base if base[0].isalpha() else f"f_{base}"
    return next(c for c in (base, *(f"{base}_{n}" for n in range(2, 10_000))) if c not in taken)


def _last_code(draft: Draft, parent: Parent) -> str | None:
    siblings = [r for r in draft.children_of(parent) if r[0] == "a"]
    if siblings:
        return str(draft.plan.codes["Activity"].get(int(siblings[-1][1:]), "")) or None
    return next(reversed(draft.plan.codes["Activity"].values()), None)


def _next_order(draft: Draft, row: Any) -> float:
    last = type(row).objects.filter(project=draft.project).order_by("-order").values_list("order", flat=True).first()
    return 0.0 if last is None else last + 1


def place(draft: Draft, parent: Parent, after: str | None, count: int = 1, first: bool = False) -> list[float]:
    """Places in the tree; where no room is left between two rows their siblings are spread out first."""
    found = draft.outline.between(parent, after, count, first)
    if found is None:
        start = max(draft.outline.order.values(), default=0.0) + 1
        for i, name in enumerate(list(draft.outline.children(parent))):
            row = draft.row(name)
            row.order = start + i
            draft.keep(name, row)
            draft.outline.put(name, parent, row.order)
        found = draft.outline.between(parent, after, count, first)
        assert found is not None
    return found


def delete(draft: Draft, name: str) -> None:
    """Take a row out with what hangs on it. Raises Refused where the books hold it."""
    row = draft.row(name)
    label = getattr(row, "name", "") or getattr(row, "code", "")
    if isinstance(row, Activity):
        _unposted(row)
        links = Link.objects.filter(source=row) | Link.objects.filter(target=row)
        for x in (*links, *Assignment.objects.filter(activity=row), *DirectCost.objects.filter(activity=row)):
            draft.step.delete(x)
        draft.outline.drop(name)
    elif isinstance(row, WbsElement):
        for child in list(draft.outline.children(name)):
            delete(draft, child)
        _unheld(draft, row)
        draft.outline.drop(name)
    elif isinstance(row, Resource):
        _unused_resource(row)
    elif isinstance(row, Calendar):
        _unused_calendar(draft, row)
    elif isinstance(row, Baseline | Project):
        raise Refused("not-allowed", "A baseline is never taken away.", 409)
    draft.step.delete(row)
    draft.rows.pop(name, None)
    draft.labels.append(f"took out {label}" if label else "took out a row")


def _unheld(draft: Draft, row: WbsElement) -> None:
    label = f"“{row.code} {row.name}”"
    if CostEntry.objects.filter(wbs=row).exists():
        raise Refused("posted", f"Costs were posted on {label}, so it stays: it is in the books.", 409)
    for b in Baseline.objects.filter(project=draft.project):
        if any(a.get("wbs") == row.code for a in b.content.get("activities", [])):
            raise Refused("in-baseline", f"{label} holds work of baseline {b.code}, so it stays. It may be emptied or renamed.", 409)


def _unused_resource(row: Resource) -> None:
    used = Assignment.objects.filter(resource=row).count()
    if used:
        on = f"{used} {'activity' if used == 1 else 'activities'}"
        raise Refused("in-use", f"“{row.name}” is on {on}. Put another in its place, or take it off them first.", 409)
    if HoursEntry.objects.filter(resource=row).exists():
        raise Refused("posted", f"Hours of “{row.name}” were posted, so it stays: it is in the books.", 409)


def _unused_calendar(draft: Draft, row: Calendar) -> None:
    rows = (*draft.book.activities, *draft.book.resources)
    users = ["the project"] * (draft.project.calendar == row.code) + [x.name for x in rows if x.calendar == row.code]
    if users:
        more = f" and {len(users) - 2} more" if len(users) > 2 else ""
        raise Refused("in-use", f"“{row.name}” is used by {', '.join(users[:2])}{more}. Give them another calendar first.", 409)


def _unposted(row: Activity) -> None:
    for model in (Statement, HoursEntry, CostEntry):
        found = model.objects.filter(activity=row).select_related("page").first()  # type: ignore[attr-defined]
        if found is not None:
            raise Refused("posted", f"“{row.code} {row.name}” was posted on page {found.page.code}, so it stays: it is in the books.", 409)
