"""The verbs of estimates: keep one, apply one; and what applying one would make of the plan."""

from collections.abc import Mapping
from decimal import Decimal
from typing import Any

from dryledger.book.plan import Book
from dryledger.book.reader import duration_text
from dryledger.budget.apportioning import apportion, sharing
from dryledger.budget.lines import planned_cost, planned_work
from dryledger.budget.money import minor_unit, share_out
from dryledger.changes.draft import Doc, Draft
from dryledger.changes.keyed import name_of
from dryledger.entry.cells import required
from dryledger.entry.grammar import type_amount, type_percent
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.schedule.schedule import Schedule
from dryledger.words import sentence

__all__ = ["ESTIMATED", "PROJECT", "do_apply", "do_estimate", "once_applied", "read_total"]

PROJECT = ("project", "")
"""The place of the project among those of `once_applied`."""

ESTIMATED = "Estimate"
"""The direct cost that applying an estimate of money puts on an activity, in the place of the one put there before."""


def read_total(currency: str, measure: str, total: str, percent: str) -> tuple[Decimal, Decimal]:
    """A typed total of money or hours, raised or lowered by a typed percentage; in minor units or minutes, and the unit."""
    if measure not in ("hours", "money"):
        raise EntryRefused("measure", sentence("estimates.estimate_one_hours_money"))
    unit = minor_unit(currency) if measure == "money" else Decimal(1)
    got = type_amount(total, unit if measure == "money" else Decimal("0.01"), "total")
    if got is None or got < 0:
        raise EntryRefused("total", sentence("estimates.total", measure=measure))
    sign = -1 if percent.strip().startswith(("-", "−")) else 1
    share = type_percent(percent.strip().lstrip("+-−"), "percent") or Decimal(0)
    return (got if measure == "money" else got * 60) * (1 + sign * share), unit


def once_applied(
    book: Book, schedule: Schedule, measure: str, shares: Mapping[tuple[str, str], Decimal]
) -> dict[tuple[str, str], tuple[Decimal, Decimal]]:
    """What each place has now and would have once an estimate is applied: in money, or in minutes of work.

    Places are ("activity" | "wbs", code) and `PROJECT`; elements and project are the sums of the activities below them.
    Source: calculation contract, section 15. Money takes the place of the direct cost that an estimate put there before;
    hours take the place of all planned work of the activity. An activity without a share keeps what it has.
    """
    found: dict[tuple[str, str], tuple[Decimal, Decimal]] = {}
    zero, takes = Decimal(0), sharing(book)
    for a in book.activities:
        x = schedule.activities[a.code]
        if measure == "money":
            has = planned_cost(book, a, x)
            put = sum((c.amount for c in book.costs_of.get(a.code, ()) if c.name == ESTIMATED), zero)
        else:
            has = put = planned_work(book, a, x)
        share = shares.get(("activity", a.code)) if a.code in takes else None
        after = has if share is None else has - put + share
        for place in (("activity", a.code), PROJECT, *(("wbs", w) for w in book.wbs_above.get(a.wbs or "", ()))):
            now, then = found.get(place, (zero, zero))
            found[place] = now + has, then + after
    return found


def do_estimate(draft: Draft, verb: Doc) -> None:
    """Keep an estimate by name: a total of hours or money shared down the tree by weights."""
    measure = str(verb.get("measure") or "hours")
    total, unit = read_total(draft.project.currency, measure, str(verb.get("total") or ""), str(verb.get("percent") or ""))
    top = str(verb.get("top") or "") or None
    if top is not None and top not in draft.codes("wbs"):
        raise EntryRefused("top", sentence("estimates.no_element", value=top[:60]))
    name = required(verb.get("name"), "name")
    found = apportion(draft.book, name, total, unit, top)
    taken = draft.codes("estimates")
    number = len(taken) + 1
    while f"E{number}" in taken:
        number += 1
    shares = [{"kind": kind, "code": code, "amount": f"{amount:f}"} for (kind, code), amount in found.shares.items()]
    doc: Doc = {"code": f"E{number}", "name": name, "measure": measure, "total": f"{found.total:f}", "top": top, "shares": shares}
    key = draft.add("estimates", doc)
    if verb.get("as"):
        draft.named[str(verb["as"])] = name_of("estimates", key)
    draft.labels.append(sentence("estimates.kept_estimate", name=name))


def do_apply(draft: Draft, verb: Doc) -> None:
    """Put the shares of a kept estimate on the activities: money as a direct cost, hours on who does the work."""
    _, key = draft.find(verb["estimate"], "e")
    estimate = draft.record("estimates", key)
    put = _put_money if estimate.measure == "money" else _put_hours
    codes, known = draft.codes("activities"), draft.before.key_of("activities")
    takes = {known[code] for code in sharing(draft.book)}
    wanted = [x for x in estimate.shares if x.kind == "activity" and x.code in codes]
    shares = [x for x in wanted if codes[x.code] in takes or codes[x.code] < 0]
    if not shares:
        raise ChangeRefused("nothing-there", sentence("estimates.nothing_takes", name=estimate.name))
    for share in shares:
        put(draft, codes[share.code], share.amount)
    draft.labels.append(sentence("estimates.applied_estimate", name=estimate.name))


def _put_money(draft: Draft, key: int, share: Decimal) -> None:
    code = draft.record("activities", key).code
    known = next((k for k, x in draft.records("costs") if x.activity == code and x.name == ESTIMATED), None)
    if known is None:
        draft.add("costs", {"activity": code, "name": ESTIMATED, "amount": f"{share:f}"})
    else:
        draft.put("costs", known, {"amount": f"{share:f}"})


def _put_hours(draft: Draft, key: int, share: Decimal) -> None:
    """Labour shares the hours by its units, and drives the duration; without any they become the duration."""
    activity = draft.record("activities", key)
    kinds = {x.code: x.kind for _, x in draft.records("resources")}
    people: list[tuple[int, Any]] = [
        (k, x) for k, x in draft.records("assignments") if x.activity == activity.code and kinds[x.resource] == "labour"
    ]
    if not people:
        text = duration_text(int(share), draft.calendar_of(activity), ("d", "h", "min"))
        draft.put("activities", key, {"duration": text, "driver": None})
        return
    for (k, _), mine in zip(people, share_out(Decimal(int(share)), [x.units for _, x in people], Decimal(1)), strict=True):
        draft.put("assignments", k, {"work": f"{int(mine)}min"})
    draft.put("activities", key, {"driver": "work"})
