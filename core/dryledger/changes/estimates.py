"""The verbs of estimates: keep one, apply one; and what applying one would make of the plan."""

from collections.abc import Callable, Collection, Mapping
from decimal import Decimal
from typing import Any

from dryledger.book.durations import planned_duration, work_of
from dryledger.book.estimates import KeptEstimate
from dryledger.book.plan import Book
from dryledger.book.reader import duration_text
from dryledger.budget.apportioning import apportion, sharing
from dryledger.budget.lines import planned_cost, planned_work
from dryledger.budget.money import minor_unit, share_out
from dryledger.changes.draft import Doc, Draft
from dryledger.changes.keyed import name_of
from dryledger.changes.parts import resources_by_word
from dryledger.entry.grammar import type_amount, type_percent
from dryledger.entry.value_cells import required
from dryledger.errors import ChangeRefused, EntryRefused
from dryledger.schedule.schedule import Schedule
from dryledger.words import sentence

__all__ = ["ESTIMATED", "PROJECT", "do_apply", "do_estimate", "once_applied", "read_total", "type_spread"]

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
    book: Book, schedule: Schedule, measure: str, shares: Mapping[tuple[str, str], Decimal], spread_to: Collection[str] = ()
) -> dict[tuple[str, str], tuple[Decimal, Decimal]]:
    """What each place has now and would have once an estimate is applied: in money, or in minutes of work.

    Places are ("activity" | "wbs", code) and `PROJECT`; elements and project are the sums of the activities below them.
    Source: calculation contract, section 15. Money takes the place of the direct cost that an estimate put there before;
    hours take the place of all planned work of the activity, those that are spread to resources of theirs alone: what equipment among
    them works counts then too. An activity without a share keeps what it has.
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
            if spread_to:
                on = [c for c in book.assignments_of.get(a.code, ()) if c.resource in spread_to]
                theirs = {c.resource: work_of(book, a, c, planned_duration(book, a)) for c in on}
                has += sum((m for r, m in theirs.items() if book.resource_by_code[r].kind != "labour"), zero)
                put = sum(theirs.values(), zero)
        share = shares.get(("activity", a.code)) if a.code in takes else None
        after = has if share is None else has - put + share
        for place in (("activity", a.code), PROJECT, *(("wbs", w) for w in book.wbs_above.get(a.wbs or "", ()))):
            now, then = found.get(place, (zero, zero))
            found[place] = now + has, then + after
    return found


def type_spread(book: Book, measure: str, text: str) -> list[str]:
    """The resources that hours are spread to, from their codes or names with semicolons between, each once."""
    known, found = resources_by_word(book.resources), dict[str, None]()
    for part in filter(None, (p.strip() for p in text.split(";"))):
        x = known.get(part.lower())
        if x is None or x.kind == "material":
            raise EntryRefused("spread_to", sentence("estimates.no_resource" if x is None else "estimates.material", value=part[:60]))
        found[x.code] = None
    if found and measure == "money":
        raise EntryRefused("spread_to", sentence("estimates.money_spread"), "")
    return list(found)


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
    spread_to = type_spread(draft.book, measure, str(verb.get("spread_to") or ""))
    shares = [{"kind": kind, "code": code, "amount": f"{amount:f}"} for (kind, code), amount in found.shares.items()]
    doc: Doc = {"code": f"E{number}", "name": name, "measure": measure, "total": f"{found.total:f}", "top": top}
    key = draft.add("estimates", doc | {"spread_to": spread_to, "shares": shares})
    if verb.get("as"):
        draft.named[str(verb["as"])] = name_of("estimates", key)
    draft.labels.append(sentence("estimates.kept_estimate", name=name))


def do_apply(draft: Draft, verb: Doc) -> None:
    """Put the shares of a kept estimate on the activities: money as a direct cost, hours on who does the work."""
    _, key = draft.find(verb["estimate"], "e")
    estimate = draft.record("estimates", key)
    book = draft.book
    codes, known = draft.codes("activities"), draft.before.key_of("activities")
    takes = {known[code] for code in sharing(book)}
    wanted = [x for x in estimate.shares if x.kind == "activity" and x.code in codes]
    shares = [x for x in wanted if codes[x.code] in takes or codes[x.code] < 0]
    if not shares:
        raise ChangeRefused("nothing-there", sentence("estimates.nothing_takes", name=estimate.name))
    kinds = {x.code: x.kind for _, x in draft.records("resources")}
    for code in estimate.spread_to:
        if kinds[code] == "material":
            raise ChangeRefused("not-allowed", sentence("estimates.material", value=code))
    put = _putting(draft, book, estimate, kinds)
    for share in shares:
        put(codes[share.code], share.amount)
    draft.labels.append(sentence("estimates.applied_estimate", name=estimate.name))


def _putting(draft: Draft, book: Book, estimate: KeptEstimate, kinds: Mapping[str, str]) -> Callable[[int, Decimal], None]:
    """How a share is put on an activity, by its key: what is there already is looked for once."""
    money, chosen = estimate.measure == "money", estimate.spread_to

    def counts(x: Any) -> bool:
        if money:
            return bool(x.name == ESTIMATED)
        return x.resource in chosen if chosen else kinds[x.resource] == "labour"

    there: dict[str, list[tuple[int, Any]]] = {}
    for k, x in draft.records("costs" if money else "assignments"):
        if counts(x):
            there.setdefault(x.activity, []).append((k, x))

    def put(key: int, share: Decimal) -> None:
        on = there.get(draft.record("activities", key).code, [])
        if money:
            _put_money(draft, key, share, on)
        elif chosen:
            _spread_hours(draft, book, key, share, on, chosen)
        else:
            _put_hours(draft, key, share, on)

    return put


def _put_money(draft: Draft, key: int, share: Decimal, on: list[tuple[int, Any]]) -> None:
    """In the place of the direct cost that an estimate put there before."""
    if on:
        draft.put("costs", on[0][0], {"amount": f"{share:f}"})
    else:
        draft.add("costs", {"activity": draft.record("activities", key).code, "name": ESTIMATED, "amount": f"{share:f}"})


def _put_hours(draft: Draft, key: int, share: Decimal, on: list[tuple[int, Any]]) -> None:
    """Labour shares the hours by its units, and drives the duration; without any they become the duration."""
    if not on:
        text = duration_text(int(share), draft.calendar_of(draft.record("activities", key)), ("d", "h", "min"))
        draft.put("activities", key, {"duration": text, "driver": None})
        return
    for (k, _), mine in zip(on, share_out(Decimal(int(share)), [x.units for _, x in on], Decimal(1)), strict=True):
        draft.put("assignments", k, {"work": f"{int(mine)}min"})
    draft.put("activities", key, {"driver": "work"})


def _spread_hours(draft: Draft, book: Book, key: int, share: Decimal, on: list[tuple[int, Any]], chosen: Collection[str]) -> None:
    """Minutes go to those chosen resources that are on the activity, by their units, where none is to all of them; its duration stays.

    So their units are what the minutes ask for over the duration; whoever gets none is taken off.
    """
    activity = draft.record("activities", key)
    long = planned_duration(book, activity)
    if not long:
        raise ChangeRefused("nothing-there", sentence("estimates.no_duration", name=activity.name))
    if not on:
        on = [(draft.add("assignments", {"activity": activity.code, "resource": c}), None) for c in chosen]
    weights = [Decimal(1) if x is None else x.units for _, x in on]
    for (k, x), mine in zip(on, share_out(Decimal(int(share)), weights, Decimal(1)), strict=True):
        if not mine:
            draft.drop("assignments", k)
            continue
        given = {"work": f"{int(mine)}min"} if x is not None and x.work is not None else {}
        draft.put("assignments", k, {"units": float(round(mine / long, 12))} | given)
