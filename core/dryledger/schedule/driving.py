"""The driving path of a schedule.

Source: calculation contract, section 5: from the activities whose early finish is the latest (work that is only moved late sets no
finish) back along links, and ties of a promise, whose requirement sets the date; of several alike all. Links from other projects end it
(section 21).
"""

from dryledger.schedule.schedule import Schedule

__all__ = ["driving_path", "path_float"]


def driving_path(plan: Schedule) -> set[str]:
    """The driving path: from the activities that set the finish back along the links that set each date; open work only."""
    rows = plan.activities
    latest = max((x.early_finish for x in rows.values()), default=0)
    left = [c for c, x in rows.items() if x.early_finish == latest and x.state != "complete"]
    seen: set[str] = set()
    while left:
        code = left.pop()
        if code in seen:
            continue
        seen.add(code)
        before = (d.partition(":")[2] for d in rows[code].driven_by if d.startswith(("link:", "tie:")))
        left += [c for c in before if c in rows and rows[c].state != "complete"]  # an activity of another project ends the path
    return seen


def path_float(plan: Schedule) -> int | None:
    """The least total float on the driving path, in working minutes; None where no work is open."""
    floats = [plan.activities[code].total_float for code in driving_path(plan)]
    return min((x for x in floats if x is not None), default=None)
