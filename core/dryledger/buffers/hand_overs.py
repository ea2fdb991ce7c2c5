"""Hand-overs: in a levelled plan, who has a resource from whom.

Source: calculation contract, section 17, “Approving”. By resource, activities in order of start (resume of work under way), then finish,
then code: what one asks comes from what was free since the status date, else from those that have finished by then, latest finish first.
"""

from dryledger.book.options import Tie
from dryledger.budget.booking import Bookings
from dryledger.options.levelling import Levelled
from dryledger.schedule.ties import without_loops

__all__ = ["hand_overs"]


def hand_overs(levelled: Levelled) -> tuple[Tie, ...]:
    """The ties of a levelled plan's unfinished work, by resource; none that would close a loop with its links."""
    book, spans = levelled.book, levelled.plan.spans
    bookings = Bookings(book, book.project.start, levelled.to_go)
    by_resource: dict[str, dict[str, int]] = {}
    for row in levelled.plan.activities.values():
        for resource, parts in bookings.asked(row.code) if row.remaining else ():
            by_resource.setdefault(resource, {})[row.code] = parts
    out: list[Tie] = []
    for resource, asked in sorted(by_resource.items()):
        free, units = bookings.available[resource], book.resource_by_code[resource].units
        held: dict[str, int] = {}
        for code in sorted(asked, key=lambda c: (*spans[c][1:], c)):
            wanted = min(asked[code], bookings.available[resource])
            had = min(free, wanted)
            free -= had
            for giver in sorted(held, key=lambda c: (-spans[c][2], c)):
                given = min(held[giver], wanted - had)
                if given and spans[giver][2] <= spans[code][1]:
                    held[giver] -= given
                    had += given
                    out.append(Tie(giver, code, resource, units))
            held = {c: parts for c, parts in held.items() if parts} | {code: had}
    return without_loops(book, out).kept
