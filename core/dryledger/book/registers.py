"""The registers of a project: notes, documents, assumptions, constraints, risks, issues, changes, and its own fields.

What their columns hold is declared once in `REGISTERS`; reading, writing, the schema, spreadsheets and screens all follow that.
"""

import datetime
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from decimal import Decimal

from dryledger.book.columns import Column, ListOf
from dryledger.book.reader import Reader
from dryledger.calendar.calendar import midnight
from dryledger.errors import Fault
from dryledger.words import sentence

__all__ = [
    "FIELD_KINDS",
    "FIELD_USUAL",
    "RECORDS",
    "REGISTERS",
    "Assumption",
    "ChangeOrder",
    "Column",
    "FieldDefinition",
    "Issue",
    "Note",
    "Paper",
    "ProjectConstraint",
    "RegisterRow",
    "Risk",
    "field_faults",
    "fields_of",
    "read_values",
]


FIELD_USUAL = {"kind": "text", "in_reports": "no", "of": "activity"}
"""What the definition of an own field means where it leaves something out."""


@dataclass(frozen=True)
class RegisterRow:
    """A row of a register. What is not given is None, of a choice an empty text."""

    code: str
    name: str


@dataclass(frozen=True)
class Note(RegisterRow):
    """Something to remember, with its date."""

    date: datetime.date | None = None
    text: str | None = None


@dataclass(frozen=True)
class Paper(RegisterRow):
    """A paper of the project, and where it is kept."""

    address: str | None = None
    note: str | None = None


@dataclass(frozen=True)
class Assumption(RegisterRow):
    """What the plan takes for granted."""

    owner: str | None = None
    note: str | None = None


@dataclass(frozen=True)
class ProjectConstraint(RegisterRow):
    """What the project has to keep to."""

    owner: str | None = None
    note: str | None = None


@dataclass(frozen=True)
class Risk(RegisterRow):
    """What may happen: its probability in per cent, its impact in money."""

    probability: Decimal | None = None
    impact: Decimal | None = None
    delay: str | None = None
    response: str | None = None
    owner: str | None = None
    state: str = ""

    @property
    def exposure(self) -> Decimal | None:
        """Probability × impact in money, before rounding; None where either is not given. Source: contract, section 22.

        >>> Risk("R1", "Storm", Decimal("12.5"), Decimal(1000)).exposure
        Decimal('125.0')
        """
        return None if self.probability is None or self.impact is None else self.probability * self.impact / 100


@dataclass(frozen=True)
class Issue(RegisterRow):
    """What has happened and must be dealt with."""

    owner: str | None = None
    raised: datetime.date | None = None
    due: datetime.date | None = None
    state: str = ""
    note: str | None = None


@dataclass(frozen=True, slots=True)
class ChangeLine:
    """What a change moves the budget of an element, an activity or a reserve by: exactly one of them."""

    wbs: str | None = None
    activity: str | None = None
    reserve: str | None = None
    amount: Decimal = Decimal(0)


@dataclass(frozen=True)
class ChangeOrder(RegisterRow):
    """A change of scope or budget: raised, approved or refused, then built in by a baseline.

    Its `lines` move the budget, the money coming from `source`: a reserve, "client", or nowhere. `cost` is what a register of an earlier
    build has; it moves nothing. `decided_at` is an instant.
    """

    reason: str | None = None
    raised: datetime.date | None = None
    state: str = ""
    approved_by: str | None = None
    decided: datetime.date | None = None
    cost: Decimal | None = None
    note: str | None = None
    source: str | None = None
    days: Decimal | None = None
    lines: tuple[ChangeLine, ...] = ()
    decided_by: str | None = None
    decided_at: int | None = None
    baseline: str | None = None

    @property
    def moved(self) -> Decimal:
        """What its lines move the budget by, all together."""
        return sum((x.amount for x in self.lines), Decimal(0))

    @property
    def stands(self) -> str:
        """How it stands: raised (also where a register says proposed, or nothing), approved, refused or built."""
        return "raised" if self.state in ("", "proposed") else self.state

    @property
    def decided_when(self) -> int | None:
        """The instant of the decision; of one that has a date only, the minute after it began, as a dated entry counts."""
        return self.decided_at if self.decided_at is not None else None if self.decided is None else midnight(self.decided) + 1


@dataclass(frozen=True)
class FieldDefinition(RegisterRow):
    """An own field: what it holds, and whether activities have it, resources, or the project itself."""

    kind: str = ""
    options: tuple[str, ...] = ()
    formula: str | None = None
    in_reports: str = ""
    of: str = ""
    given_by: str = ""

    @property
    def holds(self) -> str:
        """What it holds: one of `FIELD_KINDS`; text where it does not say."""
        return self.kind or FIELD_USUAL["kind"]

    @property
    def scope(self) -> str:
        """Whose it is: "activity", also where it does not say, "resource" or "project"."""
        return self.of or FIELD_USUAL["of"]


FIELD_KINDS = ("text", "number", "date", "choice", "yes_no", "formula")
MOST_TEXT = 20_000


MOST = Decimal(MOST_TEXT)


def _column(key: str, kind: str = "text", options: tuple[str, ...] = (), signed: bool = False) -> Column:
    """A column of a register; an absent cell is empty."""
    default = {"texts": (), "choice": ""}.get(kind)
    return Column(key, kind, options=options, signed=signed, default=default, most=MOST if kind in ("text", "long") else None)


CHANGE_LINES = ListOf(
    "lines",
    "Change lines",
    ChangeLine,
    (
        Column("wbs", "code", names="wbs"),
        Column("activity", "code", names="activities"),
        Column("reserve", "code", names="reserves"),
        Column("amount", "amount", required=True, signed=True),
    ),
)
_OWNER, _NOTE = _column("owner"), _column("note", "long")
REGISTERS: dict[str, tuple[Column, ...]] = {
    "notes": (_column("date", "date"), _column("text", "long")),
    "documents": (_column("address"), _NOTE),
    "assumptions": (_OWNER, _NOTE),
    "constraints": (_OWNER, _NOTE),
    "risks": (
        _column("probability", "of_hundred"),
        _column("impact", "amount"),
        _column("delay"),
        _column("response", "long"),
        _OWNER,
        _column("state", "choice", ("open", "happened", "closed")),
    ),
    "issues": (_OWNER, _column("raised", "date"), _column("due", "date"), _column("state", "choice", ("open", "closed")), _NOTE),
    "changes": (
        _column("reason", "long"),
        _column("raised", "date"),
        _column("state", "choice", ("raised", "approved", "refused", "built", "proposed")),
        _column("approved_by"),
        _column("decided", "date"),
        _column("cost", "amount", signed=True),
        _NOTE,
        Column("from", word="Money from", attr="source", default=None),
        _column("days", "number"),
        Column("lines", "rows", default=(), rows=CHANGE_LINES, inline=True),
        _column("decided_by"),
        _column("decided_at", "instant"),
        Column("baseline", "code", names="baselines"),
    ),
    "fields": (
        _column("kind", "choice", FIELD_KINDS),
        _column("options", "texts"),
        _column("formula", "long"),
        _column("in_reports", "choice", ("yes", "no")),
        _column("of", "choice", ("activity", "resource", "project")),
        _column("given_by", "choice", ("project", "kind")),
    ),
}


RECORDS: dict[str, type[RegisterRow]] = {
    "notes": Note,
    "documents": Paper,
    "assumptions": Assumption,
    "constraints": ProjectConstraint,
    "risks": Risk,
    "issues": Issue,
    "changes": ChangeOrder,
    "fields": FieldDefinition,
}


def fields_of(definitions: Iterable[FieldDefinition], scope: str) -> tuple[FieldDefinition, ...]:
    """The own fields that rows of a scope have: each activity, each resource, or the project itself.

    >>> fields = (FieldDefinition("deck", "Deck"), FieldDefinition("berth", "Berth", of="project"))
    >>> [d.code for d in fields_of(fields, "activity")], [d.code for d in fields_of(fields, "project")]
    (['deck'], ['berth'])
    """
    return tuple(d for d in definitions if d.scope == scope)


def read_values(r: Reader) -> dict[str, object]:
    """The values that a row has in the project's own fields, by the field's code; their kinds are checked later."""
    child = r.child("fields")
    if child is None:
        return {}
    assert isinstance(child.value, dict)
    out: dict[str, object] = {}
    for key, value in child.value.items():
        if isinstance(value, bool) or (isinstance(value, str) and len(value) <= MOST_TEXT):
            out[key] = value
        elif isinstance(value, (int, float, Decimal)):
            out[key] = child.number(key)
        elif value is not None:
            child.fault("expected a text, a number, true or false", key)
    return out


def field_faults(
    definitions: tuple[FieldDefinition, ...], values: Mapping[str, Iterable[tuple[str, Mapping[str, object]]]]
) -> Iterator[Fault]:
    """Values that are not what their field holds; `values` gives by scope the path and the values of each row."""
    for i, d in enumerate(definitions):
        if d.kind == "choice" and not d.options:
            yield Fault(f"fields[{i}].options", sentence("registers.choice_needs_options"))
        if d.kind == "formula" and not d.formula:
            yield Fault(f"fields[{i}].formula", sentence("registers.formula_required"))
        if d.kind == "formula" and d.scope != "activity":
            yield Fault(f"fields[{i}].kind", sentence("registers.formula_of_activities"))
    for scope, rows in values.items():
        yield from _value_faults(fields_of(definitions, scope), rows)


def _value_faults(definitions: tuple[FieldDefinition, ...], rows: Iterable[tuple[str, Mapping[str, object]]]) -> Iterator[Fault]:
    known = {d.code: d for d in definitions}
    for path, values in rows:
        for code, value in values.items():
            at = f"{path}.fields.{code}"
            definition = known.get(code)
            if definition is None:
                yield Fault(at, sentence("registers.no_field", code=code))
            elif (wrong := _wrong(definition, value)) is not None:
                yield Fault(at, wrong)


def _wrong(definition: FieldDefinition, value: object) -> str | None:
    kind, name = definition.holds, definition.name
    if kind == "formula":
        return sentence("registers.by_formula", name=name)
    if kind == "number":
        return None if isinstance(value, Decimal) else sentence("registers.holds_number", name=name)
    if kind == "yes_no":
        return None if isinstance(value, bool) else sentence("registers.holds_flag", name=name)
    if not isinstance(value, str):
        return sentence("registers.holds_text", name=name)
    if kind == "date":
        try:
            datetime.date.fromisoformat(value)
        except ValueError:
            return sentence("registers.holds_date", name=name)
    if kind == "choice" and value not in definition.options:
        return sentence("registers.holds_one_of", name=name, options=", ".join(definition.options))
    return None
