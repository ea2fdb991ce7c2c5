"""Proposals tried a part at a time: each request tries ideas for a moment, so that nobody waits and anybody can stop."""

from collections.abc import Callable
from dataclasses import dataclass, replace

from dryledger.calendar.calendar import to_text
from dryledger.options.board import more_over
from dryledger.options.proposals import Proposal
from dryledger.options.saying import change_words
from server.book.access import Access
from server.options.computing import Present, present_of
from server.options.shapes import ChangeOut
from server.shared.json_values import days

MOMENT = 0.6
"""Seconds that a request tries ideas for."""
MOST_TOLD = 6


@dataclass
class ProposalOut:
    """What comes of an idea: working days gained, change of the bottom-up estimate, hours over-allocated, and what it changes."""

    code: str
    kind: str
    gained_days: float
    cost: str
    finish: str
    over_hours: float
    more_over_hours: float
    """What of them there is more than at present; below 0 where there is less."""
    changes: list[ChangeOut]
    more: int
    """How many more changes it makes than are told."""


@dataclass
class ProposalsOut:
    """What came of some ideas, from where to go on (`next`), and how many there are in all."""

    revision: int
    next: int
    of: int
    found: list[ProposalOut]


def tried(access: Access, start: int, scope: frozenset[str] | None, clock: Callable[[], float]) -> ProposalsOut:
    """Try ideas from a number on, for a moment."""
    here = present_of(access.project)
    until, ideas = clock() + MOMENT, here.ideas(scope)
    found = []
    at = start
    while at < len(ideas):
        proposal = here.tried(ideas[at])
        at += 1
        if proposal is not None:
            found.append(_out(here, proposal))
        if clock() > until:
            break
    return ProposalsOut(here.workspace.revision, at, len(ideas), found)


def _out(here: Present, x: Proposal) -> ProposalOut:
    book, changes = here.results.book, x.changes
    if x.kind == "calendar":  # lengths that stay what they are need no words
        first = changes[0]
        changes = (replace(first, cells={"calendar": first.cells["calendar"]}),)
    elif x.kind == "relink":
        changes = changes[-1:]
    return ProposalOut(
        x.code,
        x.kind,
        days(book.project_calendar, x.gained),
        f"{x.cost:f}",
        to_text(x.finish),
        float(round(x.over_allocated / 60, 2)),
        float(round(more_over(x.over_allocated, here.standing()) / 60, 2)),
        [ChangeOut(*change_words(book, c)) for c in changes[:MOST_TOLD]],
        max(len(changes) - MOST_TOLD, 0),
    )
