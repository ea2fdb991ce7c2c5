"""Planning backward: the late dates as the plan, from the imposed finish, else from the latest finish that there is.

Source: calculation contract, sections 3 and 5. Work that has not begun is held to its late start, so that it is as late as its links allow;
what has begun, what is pinned, and what is held by a must or a "before" of its own stays.
"""

from dryledger.calendar.calendar import to_text
from dryledger.changes.draft import Doc, Draft
from dryledger.entry.grammar import format_day
from dryledger.errors import ChangeRefused
from dryledger.formats import format_number
from dryledger.words import sentence

__all__ = ["do_backward"]

OWN = ("must_start_on", "must_finish_on", "start_on_or_before", "finish_on_or_before")
"""Constraints that stay: they bind the late dates already."""


def do_backward(draft: Draft, verb: Doc) -> None:
    """Hold all unstarted work, or that in `rows`, to its late start. Raises ChangeRefused where something has less than no float."""
    chosen = None if verb.get("rows") is None else {draft.record(*draft.find(x, "a")).code for x in verb["rows"]}
    _reachable(draft)
    moved = kept = 0
    for key, a in list(draft.records("activities")):
        row = draft.dates.get(a.code)
        if row is None or row.state != "not_started" or a.mode == "fixed" or (chosen is not None and a.code not in chosen):
            continue
        if not row.total_float or row.late_start is None:
            continue
        if a.constraint is not None and a.constraint.type in OWN:
            kept += 1
            continue
        # What has no duration lies at the close of a day as well as at the start of the next: it is held by its finish.
        kind = "start_on_or_after" if row.duration else "finish_on_or_after"
        draft.put("activities", key, {"constraint": {"type": kind, "at": to_text(row.late_start)}})
        moved += 1
    if not moved:
        raise ChangeRefused("nothing-there", sentence("backward.nothing"))
    told = "backward.moved_and_kept" if kept else "backward.moved"
    draft.labels.append(sentence(told, count=moved, kept=kept))


def _reachable(draft: Draft) -> None:
    """Refuses to plan from a finish that can't be met, with what is late and by how much."""
    late = [(row.total_float, row) for row in draft.dates.values() if row.total_float is not None and row.total_float < 0]
    if not late:
        return
    least, worst = min(late, key=lambda x: (x[0], x[1].code))
    a = draft.record("activities", draft.codes("activities")[worst.code])
    days = format_number(float(-draft.calendar_of(a).days(least)), "g")
    finish = draft.project.imposed_finish
    told = "backward.cant_from" if finish is not None else "backward.cant"
    on = format_day(finish) if finish is not None else ""
    raise ChangeRefused("too-late", sentence(told, finish=on, count=len(late), code=worst.code, name=a.name, days=days))
