"""The checks on what was posted: what cannot be true, and what needs an entry. `checks` names them and says why.

Source: calculation contract, section 18. Each rule gives the codes of the activities that it catches.
"""

from decimal import Decimal

from dryledger.book.answers import Limits
from dryledger.compute import Results
from dryledger.figure_values import whole
from dryledger.readings import reader
from dryledger.schedule.schedule import Scheduled, shift

__all__ = ["progress_rules"]

FULL = Decimal(1)


def progress_rules(r: Results, limits: Limits) -> dict[str, set[str]]:
    """The activities caught, by the code of the check."""
    always = {"pinned_breaks_link": _pinned(r), "deadline_missed": _deadlines(r)} | _waiting(r)
    if r.status is None:
        return always
    return always | _impossible(r) | _silent(r) | _doubtful(r, limits.percent / 100) | _costs(r)


def _waiting(r: Results) -> dict[str, set[str]]:
    """Unfinished activities that wait for one of another project that is late, told long ago, or moved since the last page."""
    last = r.at.periods[-2].status if len(r.at.periods) > 1 else None
    out: dict[str, set[str]] = {"external_late": set(), "external_old": set(), "external_moved": set()}
    for link in r.book.links if r.book.externals else ():
        x = r.book.external_by_code.get(link.source)
        if x is None or r.schedule.activities[link.target].state == "complete":
            continue
        if x.state != "complete" and r.status is not None and x.finish <= r.status:
            out["external_late"].add(link.target)
        if x.state != "complete" and x.status is not None and last is not None and x.status < last:
            out["external_old"].add(link.target)
        if x.moved:
            out["external_moved"].add(link.target)
    return out


def _impossible(r: Results) -> dict[str, set[str]]:
    finished, full, unstarted = set(), set(), set()
    for (code, _), minutes in r.at.to_go.items():
        if minutes and r.progress[code].state == "complete":
            finished.add(code)
    for code, s in r.at.latest.items():
        p = r.progress[code]
        if s.percent == FULL and p.state != "complete":
            full.add(code)
        if p.state == "not_started" and (s.percent or s.remaining is not None):
            unstarted.add(code)
    return {
        "finished_with_work": finished,
        "full_not_finished": full,
        "progress_fell": _fell(r),
        "cost_fell": _below_nothing(r),
        "pinned_breaks_link": _pinned(r),
        "progress_without_start": unstarted,
    }


def _fell(r: Results) -> set[str]:
    """Activities that state less done than an earlier page did, without correcting it; until a later page is at or above that."""
    highest: dict[tuple[str, str], Decimal | frozenset[str]] = {}
    fell: dict[tuple[str, str], bool] = {}
    for period in r.at.periods:
        for s in period.statements:
            for kind, value in (("percent", s.percent), ("units", s.units_done), ("reached", frozenset(s.milestones_reached) or None)):
                if value is None:
                    continue
                at = (s.activity, kind)
                known = highest.get(at)
                fell[at] = s.corrects is None and known is not None and not value >= known  # type: ignore[operator]  # of one kind
                if not fell[at]:
                    highest[at] = value
    return {activity for (activity, _), now in fell.items() if now}


def _below_nothing(r: Results) -> set[str]:
    """What has cost less than nothing to date: activities, elements, the project."""
    out = set()
    for scope, codes in (("activity", r.valuation.codes), ("wbs", [w.code for w in r.book.wbs]), ("project", [r.book.project.code])):
        spent = reader(r, "ac", scope)
        out |= {code for code in codes if (Decimal(str(spent(code) or 0))) < 0}
    return out


def _negative(r: Results) -> set[str]:
    """What has a cost below nothing entered on it, that is neither a correction nor an accrual taken back: a credit note, or a slip."""
    entries = (c for period in r.at.periods for c in period.costs if c.amount < 0 and c.source not in ("correction", "accrual"))
    return {c.activity if c.activity is not None else c.wbs or "" for c in entries}


def _pinned(r: Results) -> set[str]:
    """Pinned activities whose dates some link would not allow."""
    out = set()
    rows = r.schedule.activities
    for link in r.book.links:
        row, before = rows[link.target], r.book.external_by_code.get(link.source) or rows[link.source]
        if row.driven_by == ["fixed"]:
            asked = shift(r.book.axis, before.finish if link.type[0] == "F" else before.start, link)
            if (row.start if link.type[1] == "S" else row.finish) < asked:
                out.add(link.target)
    return out


def _deadlines(r: Results) -> set[str]:
    finish, deadline = reader(r, "finish", "activity"), reader(r, "deadline", "activity")
    return {a.code for a in r.book.activities if a.deadline is not None and (whole(finish(a.code)) or 0) > (whole(deadline(a.code)) or 0)}


def _silent(r: Results) -> dict[str, set[str]]:
    page, status = r.at.periods[-1], r.status
    assert status is not None
    spoken = {s.activity for s in page.statements}
    posted = spoken | {h.activity for h in page.hours} | {c.activity for c in page.costs if c.activity is not None}
    due_start, due_finish = (reader(r, f"baseline_{end}", "activity") for end in ("start", "finish"))
    earlier = _dates_before(r)
    start, finish, nothing = set(), set(), set()
    for code, p in r.progress.items():
        if p.state == "complete":
            continue
        begins, ends = whole(due_start(code)), whole(due_finish(code))
        if begins is None and code in earlier:
            begins, ends = earlier[code].start, earlier[code].finish
        if code not in spoken and begins is not None and ends is not None:
            if ends <= status:
                finish.add(code)
            elif begins <= status and p.state == "not_started":
                start.add(code)
        if p.state == "in_progress" and code not in posted:
            nothing.add(code)
    assumed = {code for code, s in r.at.latest.items() if s.assumed}
    return {"silent_start": start, "silent_finish": finish, "nothing_posted": nothing, "assumed_date": assumed}


def _dates_before(r: Results) -> dict[str, Scheduled]:
    """The dates of the page before, of the plan without progress on the first one: where the baseline lacks some of the work."""
    known = r.baseline.by_code if r.baseline is not None else {}
    if all(code in known for code in r.progress):
        return {}
    return r.without_progress.activities if r.before is None else r.before.schedule.activities


def _doubtful(r: Results, apart: Decimal) -> dict[str, set[str]]:
    unchanged, nothing, ahead, far = set(), set(), set(), set()
    earlier, out_of_sequence = [r.progress_before(back) for back in (1, 2)], reader(r, "out_of_sequence", "activity")
    for code, p in r.progress.items():
        if out_of_sequence(code):
            ahead.add(code)
        if p.state != "in_progress":
            continue
        was = [page.get(code) for page in earlier]
        if p.remaining and all(w is not None and w.state == "in_progress" and w.remaining == p.remaining for w in was):
            unchanged.add(code)
        if not p.remaining:
            nothing.add(code)
        whole = p.elapsed + p.remaining
        if whole and abs(p.percent - Decimal(p.elapsed) / whole) > apart:
            far.add(code)
    return {"remaining_unchanged": unchanged, "nothing_remaining": nothing, "out_of_sequence": ahead, "percent_far": far}


def _costs(r: Results) -> dict[str, set[str]]:
    out: dict[str, set[str]] = {
        k: set() for k in ("earned_without_cost", "cost_without_earned", "cost_above_budget", "unbudgeted", "only_accruals")
    }
    out["negative_cost"] = _negative(r)
    earned, spent, budget, change = (reader(r, key, "activity") for key in ("ev", "ac", "bac", "change"))
    for code in r.schedule.activities:
        ev, ac, bac = earned(code), spent(code), budget(code)
        assert isinstance(ev, Decimal) and isinstance(ac, Decimal) and isinstance(bac, Decimal)
        if ev > 0 and not ac:
            out["earned_without_cost"].add(code)
        if ac > 0 and not ev:
            out["cost_without_earned"].add(code)
        if bac and ac > bac:
            out["cost_above_budget"].add(code)
        if change(code) == "added":
            out["unbudgeted"].add(code)
        if ac and set(r.activities[code].ac_by_source) == {"accrual"}:
            out["only_accruals"].add(code)
    return out
