"""Levelling, chains and buffers, options and proposals as the plain JSON of the results format.

Instants are texts, durations working minutes, over-allocation unit-minutes, money decimal texts.
"""

from collections.abc import Iterable
from decimal import Decimal

from dryledger.book.lists_beside import CHANGES
from dryledger.budget.booking import Over
from dryledger.buffers.chain import Chain, ChainRow, chain_of, without_safe
from dryledger.buffers.fever import Fever, TrailPoint, fever_of
from dryledger.calendar.calendar import Instant, to_text
from dryledger.changes.option import Conflict
from dryledger.compute import Results
from dryledger.exchange.write import row_document, shortest_number
from dryledger.options.board import Standing, compared, standing
from dryledger.options.levelling import Levelled, level
from dryledger.options.proposals import Proposal, proposals
from dryledger.schedule.schedule import Scheduled

__all__ = [
    "chain_document",
    "conflicts_document",
    "fever_document",
    "level_document",
    "options_document",
    "over_document",
    "proposal_document",
    "proposals_document",
    "standing_document",
]

Doc = dict[str, object]


def level_document(r: Results, mode: str) -> Doc:
    """What levelling would move, by how much and what for, and what stays over-allocated."""
    return levelled_document(level(r, mode))


def levelled_document(x: Levelled) -> Doc:
    """The same of a levelling that is done."""
    was, now = x.present.activities, x.plan.activities
    return {
        "mode": x.mode,
        "was_finish": to_text(x.present.finish),
        "finish": to_text(x.plan.finish),
        "moved": [
            {
                "code": c,
                "was_start": to_text(_begins(was[c])),
                "start": to_text(_begins(now[c])),
                "was_finish": to_text(was[c].finish),
                "finish": to_text(now[c].finish),
                "levelled": _instant(x.dates.get(c)),
                "waits_for": list(x.waits_for.get(c, ())),
            }
            for c in x.moved
        ],
        "over_allocated": over_document(x.over),
    }


def over_document(spans: Iterable[Over]) -> list[Doc]:
    """Where more is asked for than there is."""
    return [
        {
            "resource": s.resource,
            "from": to_text(s.start),
            "to": to_text(s.end),
            "required": shortest_number(s.required),
            "available": shortest_number(s.available),
            "activities": list(s.activities),
        }
        for s in spans
    ]


def chain_document(r: Results) -> Doc:
    """The chain of the page with its buffers, what lacks a safe duration, and the fever chart of the promise in force."""
    c, fever = chain_of(r), fever_of(r)
    return chain_only(r, c) | {"fever": None if fever is None else fever_document(fever)}


def chain_only(r: Results, c: Chain) -> Doc:
    """The same without the fever chart."""
    ends = None if c.start is None or c.end is None else {"size": c.size, "start": to_text(c.start), "end": to_text(c.end)}
    return {
        "page": r.at.periods[-1].code if r.at.periods else None,
        "chain": _rows(c.rows),
        "length": c.length,
        "buffer": ends,
        "promise": _instant(c.promise),
        "feeding": [
            {
                "chain": _rows(f.rows),
                "join": f.join,
                "size": f.size,
                "start": to_text(f.start),
                "end": to_text(f.end),
                "shortage": f.shortage,
            }
            for f in c.feeding
        ],
        "without_safe": without_safe(r),
    }


def _begins(x: Scheduled) -> Instant:
    """Where what is left begins."""
    return x.start if x.resume is None else x.resume


def _rows(rows: tuple[ChainRow, ...]) -> list[Doc]:
    return [
        {"code": x.code, "start": to_text(x.start), "finish": to_text(x.finish), "even": x.even, "safety": x.safety, "after": x.after}
        for x in rows
    ]


def fever_document(x: Fever) -> Doc:
    """The trail of pages against a promise."""
    return {"promise": x.promise.code, "date": to_text(x.date), "trail": [_point(p) for p in x.trail]}


def _point(p: TrailPoint) -> Doc:
    head: Doc = {"period": p.period} if p.own else {"join": p.join}
    out = head | {"progress": p.progress, "use": p.use, "zone": p.zone, "forecast_end": to_text(p.forecast_end)}
    out["pace"] = None if p.pace is None else {"rate": p.pace.rate, "use": p.pace.use, "date": to_text(p.pace.date)}
    out["used_by"] = [{"code": x.code, "took": x.took, "waited": x.waited} for x in p.used_by]
    out["other"] = p.other
    if p.own:
        out["feeding"] = [_point(f) for f in p.feeding]
        out["left_out"] = [list(x) for x in p.left_out]
    return out if p.reason is None else out | {"reasons": {"use": p.reason}}


def options_document(r: Results) -> Doc:
    """The present and every option that is not adopted yet."""
    found = [compared(r, o) for o in r.book.options if o.state != "adopted"]
    return {
        "present": standing_document(standing(r)),
        "options": [
            {"code": x.code, "conflicts": conflicts_document(x.conflicts), "gained": x.gained, "overlaps": [list(p) for p in x.overlaps]}
            | standing_document(x.standing)
            for x in found
        ],
    }


def conflicts_document(conflicts: Iterable[Conflict]) -> list[Doc]:
    """Changes that do not fit, each with why."""
    return [{"change": c.change, "message": c.message} for c in conflicts]


def standing_document(s: Standing) -> Doc:
    """How a plan stands."""
    return {
        "finish": to_text(s.finish),
        "deadline_difference": s.deadline_difference,
        "imposed_difference": s.imposed_difference,
        "eac": _money(s.eac),
        "vac": _money(s.vac),
        "least_float": s.least_float,
        "milestones": [{"code": code, "finish": to_text(t)} for code, t in s.milestones],
        "over_allocated": shortest_number(s.over_allocated),
        "cost_by_kind": {k: _money(v) for k, v in s.cost_by_kind.items()},
    }


def proposals_document(r: Results) -> list[Doc]:
    """All proposals, best first."""
    return [proposal_document(x) for x in proposals(r)]


def proposal_document(x: Proposal) -> Doc:
    """One proposal."""
    return {
        "code": x.code,
        "kind": x.kind,
        "gained": x.gained,
        "cost": _money(x.cost),
        "finish": to_text(x.finish),
        "over_allocated": shortest_number(x.over_allocated),
        "changes": [_short_numbers(row_document(CHANGES, c)) for c in x.changes],
    }


def _short_numbers(value: object) -> object:
    """A document with its exact decimals as numbers."""
    if isinstance(value, dict):
        return {k: _short_numbers(v) for k, v in value.items()}
    return (
        [_short_numbers(v) for v in value] if isinstance(value, list) else shortest_number(value) if isinstance(value, Decimal) else value
    )


def _instant(t: Instant | None) -> str | None:
    return None if t is None else to_text(t)


def _money(amount: Decimal | None) -> str | None:
    return None if amount is None else f"{amount:f}"
