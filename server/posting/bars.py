"""Bars of the timeline as they are posted: what dragging a part of one would say and do. It is written as typed cells are."""

from dataclasses import dataclass

from dryledger.posting.bars import cells_of_bar
from dryledger.posting.planned import Filled
from dryledger.posting.typed import read_entries
from server.book.access import Access
from server.book.results import View
from server.posting.planned import TriedOut, tried_out
from server.posting.sheet import before
from server.shared.problems import Refused
from server.shared.words import sentence


@dataclass
class BarTried:
    """The cells that the drag stands for, what is filled in beside them, and what they would do."""

    cells: dict[str, str]
    filled: list[str]
    tried: TriedOut


def try_bar(access: Access, page_code: str, code: str, part: str, to: str) -> BarTried:
    """What dragging a part of an activity's bar to a date would do; nothing is written. Raises EntryRefused, Refused for a dry page."""
    cells, filled = dict[str, str](), list[str]()

    def make(v: View) -> Filled:
        if code not in v.book.activity_by_code:
            raise Refused("not-found", sentence("posting.no_activity", code=code[:60], code_2=access.project.code), 404)
        cells.update(cells_of_bar(v.results, code, part, to))
        read = [x.checked for x in read_entries(v.results, before(v), {code: cells}) if x.checked is not None]
        filled.extend(text for x in read for text in x.filled)
        return Filled([x.statement for x in read])

    return BarTried(cells, filled, tried_out(access, page_code, make))
