"""The verbs of estimates: keep one, apply one."""

from decimal import Decimal
from typing import Any

from dryledger.book.reader import duration_text
from dryledger.budget.apportioning import apportion
from dryledger.errors import EntryRefused
from server.budget.selectors import ESTIMATED, read_total
from server.plan import cells
from server.plan.lists import last_place
from server.plan.models import Activity, Assignment, DirectCost, Estimate


def do_estimate(draft: Any, verb: dict[str, Any]) -> None:
    """Keep an estimate by name: a total of hours or money shared down the tree by weights."""
    book = draft.book
    measure = str(verb.get("measure") or "hours")
    total, unit = read_total(book, measure, str(verb.get("total") or ""), str(verb.get("percent") or ""))
    top = str(verb.get("top") or "") or None
    if top is not None and all(w.code != top for w in book.wbs):
        raise EntryRefused("top", f"There is no element “{top}”.")
    name = cells.required(verb.get("name"), "name")
    found = apportion(book, name, total, unit, top)
    count = Estimate.objects.filter(project=draft.project).count()
    row = Estimate(
        project=draft.project,
        code=f"E{count + 1}",
        name=name,
        measure=measure,
        total=f"{found.total:f}",
        top=top,
        shares=[{"kind": kind, "code": code, "amount": f"{amount:f}"} for (kind, code), amount in found.shares.items()],
        order=last_place(Estimate, draft.project),
    )
    while Estimate.objects.filter(project=draft.project, code=row.code).exists():
        count += 1
        row.code = f"E{count + 1}"
    made = draft.keep("", row)
    if verb.get("as"):
        draft.named[str(verb["as"])] = made
    draft.labels.append(f"kept the estimate {name}")


def do_apply(draft: Any, verb: dict[str, Any]) -> None:
    """Put the shares of a kept estimate on the activities: money as a direct cost, hours on who does the work."""
    estimate = draft.row(verb["estimate"])
    shares = {s["code"]: Decimal(s["amount"]) for s in estimate.shares if s["kind"] == "activity"}
    for row in Activity.objects.filter(project=draft.project, code__in=shares):
        share = shares[row.code]
        if estimate.measure == "money":
            _put_money(draft, row, share)
        else:
            _put_hours(draft, row, share)
    draft.labels.append(f"applied the estimate {estimate.name}")


def _put_money(draft: Any, row: Activity, share: Decimal) -> None:
    cost = DirectCost.objects.filter(activity=row, name=ESTIMATED).first()
    cost = cost or DirectCost(project=draft.project, activity=row, name=ESTIMATED, order=last_place(DirectCost, draft.project))
    cost.amount = f"{share:f}"
    draft.keep(f"c{cost.pk}" if cost.pk else "", cost)


def _put_hours(draft: Any, row: Activity, share: Decimal) -> None:
    """Labour shares the hours by its units, and drives the duration; without any they become the duration."""
    people = [a for a in Assignment.objects.filter(activity=row).select_related("resource") if (a.resource.kind or "labour") == "labour"]
    if not people:
        calendar = draft.around(row).calendar
        row.duration, row.driver = duration_text(int(share), calendar, ("d", "h", "min")), None
    units = sum((Decimal(str(1 if a.units is None else a.units)) for a in people), Decimal(0))
    left = int(share)
    for i, a in enumerate(people):
        mine = left if i == len(people) - 1 else int(share * Decimal(str(1 if a.units is None else a.units)) / units)
        left -= mine
        a.work = f"{mine}min"
        draft.keep(f"s{a.pk}", a)
        row.driver = "work"
    draft.keep(f"a{row.pk}", row)
