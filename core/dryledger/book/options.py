"""Options (named lists of changes on top of the plan), promises (chains and buffers as approved) and how buffers are kept."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from decimal import Decimal
from typing import TYPE_CHECKING, Any

from dryledger.calendar.calendar import Instant
from dryledger.errors import Fault
from dryledger.words import sentence

if TYPE_CHECKING:
    from dryledger.book.plan import Book

__all__ = [
    "DOS",
    "PLAN_DOS",
    "Buffer",
    "Buffers",
    "Change",
    "FeedingPromise",
    "Length",
    "Option",
    "Promise",
    "Tie",
    "line_ends",
    "option_faults",
    "promise_at",
    "rooms_of",
]

PLAN_DOS = ("set", "add", "delete", "link", "unlink", "assign", "unassign", "cost", "uncost", "resource", "project", "post")
"""What a change of an option can do to the plan, and what of it the application adopts."""
DOS = (*PLAN_DOS, "state", "hours", "pay", "order", "mark", "change", "reserve", "untie")
"""What a change of an option can do."""
NAMES: dict[str, tuple[str, ...]] = {
    **dict.fromkeys(("set", "add", "delete", "resource", "post", "state", "order", "mark", "change", "reserve"), ("row",)),
    **dict.fromkeys(("link", "unlink"), ("from", "to")),
    **dict.fromkeys(("assign", "unassign", "hours"), ("activity", "resource")),
    **dict.fromkeys(("cost", "uncost"), ("activity", "name")),
    "untie": ("from", "to", "resource"),
    "pay": (),
    "project": (),
}
"""What each names."""


@dataclass(frozen=True, slots=True)
class Buffers:
    """How buffers are sized, and the two slanted lines of a fever chart: where each begins and how it rises with progress."""

    size: str = "root"
    watch: tuple[Decimal, ...] = (Decimal("0.10"), Decimal("0.60"))
    act: tuple[Decimal, ...] = (Decimal("0.30"), Decimal("0.60"))


def line_ends(line: tuple[Decimal, ...]) -> tuple[Decimal, Decimal]:
    """Where a line of the fever chart begins, and where it is when all of the chain is done; shares of the buffer.

    >>> line_ends(Buffers().watch)
    (Decimal('0.10'), Decimal('0.70'))
    """
    return line[0], line[0] + line[1]


@dataclass(frozen=True, slots=True)
class Change:
    """One change of an option, by codes; `cells` and `was` are keys of the book with values as in the book, None: as if absent."""

    do: str
    row: str | None = None
    source: str | None = None
    target: str | None = None
    type: str | None = None
    activity: str | None = None
    resource: str | None = None
    name: str | None = None
    page: str | None = None
    cells: Mapping[str, Any] = field(default_factory=dict)
    was: Mapping[str, Any] = field(default_factory=dict)

    @property
    def verb(self) -> dict[str, Any]:
        """The change as `dryledger.changes.apply` does it.

        >>> Change("set", "A", cells={"duration": "2d"}).verb
        {'do': 'set', 'row': 'A', 'cells': {'duration': '2d'}}
        """
        named = {"row": self.row, "from": self.source, "to": self.target, "type": self.type}
        named |= {"activity": self.activity, "resource": self.resource, "name": self.name, "page": self.page}
        out: dict[str, Any] = {"do": self.do} | {k: v for k, v in named.items() if v is not None}
        bare = ("delete", "unlink", "unassign", "uncost", "untie")
        if self.do not in bare and (self.cells or self.do not in ("order", "mark", "change", "reserve")):
            out["cells"] = dict(self.cells)
        return out | ({"was": dict(self.was)} if self.was else {})


@dataclass(frozen=True, slots=True)
class Option:
    """A way to win back time or money: changes on top of the present plan, made in order."""

    code: str
    name: str
    state: str = "draft"
    notes: str = ""
    changes: tuple[Change, ...] = ()


@dataclass(frozen=True, slots=True)
class Length:
    """An activity of a promised chain with its length in working minutes, and when it was promised to start (None: not kept)."""

    code: str
    length: int
    start: Instant | None = None


@dataclass(frozen=True, slots=True)
class Buffer:
    """Room before a date: its size in working minutes of the project calendar, and where it sits."""

    size: int
    start: Instant
    end: Instant


@dataclass(frozen=True, slots=True)
class FeedingPromise:
    """A feeding chain as promised, and the activity that it joins; None: the end of the chain."""

    chain: tuple[Length, ...]
    join: str | None
    buffer: Buffer


@dataclass(frozen=True, slots=True)
class Tie:
    """A hand-over of a promise: `resource` goes from `source` on to `target`. `units` are those that the resource had when it was
    frozen, `ended` is the page from which it was untied.
    """

    source: str
    target: str
    resource: str
    units: Decimal = Decimal(1)
    ended: str | None = None


@dataclass(frozen=True, slots=True)
class Promise:
    """Chains, lengths, buffers and hand-overs as they were approved; from `page` on (None: before the first). No later plan changes
    them; of a tie it is noted when it was taken away.
    """

    code: str
    approved_by: str
    chain: tuple[Length, ...]
    buffer: Buffer
    page: str | None = None
    feeding: tuple[FeedingPromise, ...] = ()
    ties: tuple[Tie, ...] = ()


def promise_at(book: "Book", pages: int) -> Promise | None:
    """The promise in force on the last of so many pages: the last one whose page is not after it."""
    places = {p.code: i for i, p in enumerate(book.periods)}
    found = None
    for x in book.promises:
        if x.page is None or places.get(x.page, pages) < pages:
            found = x
    return found


def rooms_of(promise: Promise) -> dict[str, Buffer]:
    """The buffers of a promise by the activity behind which each stands: the last of its chain.

    >>> rooms_of(Promise("K", "Ann", (Length("A", 480),), Buffer(60, 0, 60)))
    {'A': Buffer(size=60, start=0, end=60)}
    """
    chains = [(f.chain, f.buffer) for f in promise.feeding] + [(promise.chain, promise.buffer)]
    return {chain[-1].code: buffer for chain, buffer in chains if chain and buffer.size}


def option_faults(book: "Book") -> Iterator[Fault]:
    """Every fault of options, promises and the choices of buffers, each at its place."""
    for i, option in enumerate(book.options):
        for j, change in enumerate(option.changes):
            named = change.verb
            for key in NAMES.get(change.do, ()):
                if not named.get(key):
                    yield Fault(f"options[{i}].changes[{j}].{key}", sentence("options.is_required", do=change.do))
    pages = {p.code for p in book.periods}
    for i, promise in enumerate(book.promises):
        if promise.page is not None and promise.page not in pages:
            yield Fault(f"promises[{i}].page", sentence("rules.no_code", what="page", code=promise.page))
        for j, tie in enumerate(promise.ties):
            if tie.ended is not None and tie.ended not in pages:
                yield Fault(f"promises[{i}].ties[{j}].ended", sentence("rules.no_code", what="page", code=tie.ended))
        for path, buffer in [("buffer", promise.buffer), *((f"feeding[{j}].buffer", f.buffer) for j, f in enumerate(promise.feeding))]:
            if buffer.end < buffer.start and path == "buffer":
                yield Fault(f"promises[{i}].{path}.end", sentence("rules.lies_before_its_start"))
    for key in ("watch", "act"):
        line = getattr(book.project.buffers, key)
        if not isinstance(line, tuple) or len(line) != 2 or not all(isinstance(x, Decimal) and 0 <= x <= 100 for x in line):
            yield Fault(f"project.buffers.{key}", sentence("options.two_numbers"))
