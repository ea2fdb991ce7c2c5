"""A plan from elsewhere as a baseline: of another project, or of a book that was read out of a file."""

from dataclasses import dataclass

from dryledger.baseline.matching import Matched, baseline_from
from dryledger.book.lists import LISTS
from dryledger.book.plan import Book
from dryledger.changes.apply import finished
from dryledger.changes.draft import Draft
from dryledger.compute import compute
from dryledger.exchange.write import row_document
from server.baseline.actions import named, next_code
from server.book.access import Access, visible
from server.book.models import Baseline
from server.book.results import current_results
from server.book.workspace import workspace_of
from server.journal.steps import ask
from server.journal.writing import write
from server.shared.problems import Refused
from server.shared.words import sentence


@dataclass
class Unmatched:
    """An activity that is in one plan alone, with its row in the file."""

    code: str
    name: str
    row: str


@dataclass
class MatchOut:
    """What a plan from elsewhere gives as a baseline: how much matches, and row by row what does not; the code once it is taken."""

    matched: int
    only_there: list[Unmatched]
    only_here: list[Unmatched]
    resources: list[str]
    budget: str
    revision: int
    code: str = ""


def book_of_project(access: Access, code: str) -> Book:
    """The plan of another project as it stands. Raises Refused where one does not see it."""
    found = visible(access.person).filter(code=code).exclude(pk=access.project.pk).first()
    if found is None:
        raise Refused("not-found", sentence("baseline.no_project", code=code[:60]), 422, field="project")
    return current_results(found).book


def bring(
    access: Access, revision: int, other: Book, rows: dict[str, str], words: tuple[str, str], came_from: str, apply: bool
) -> MatchOut:
    """Say what a plan from elsewhere gives as a baseline, matched by code; with `apply` take it.

    `words` are its name and the reason, `rows` says where activities stand. Raises ChangeRefused, EntryRefused.
    """
    ask(access, "baseline" if apply else "plan")
    name, reason = named(*words) if apply else (words[0].strip() or "-", words[1])
    w = workspace_of(access.project)
    results = compute(other, other.periods[-1].code if other.periods else None)
    at = results.status if results.status is not None else other.project.start
    by = access.person.full_name
    found = baseline_from(w.book, results.book, results.schedule, next_code(w.book), name, at, by, reason)
    out = _out(w.book, other, found, rows, w.revision)
    if not apply:
        return out
    draft = Draft(w.keyed)
    draft.add("baselines", row_document(LISTS["baselines"], found.baseline))
    if access.project.measured_against is None:
        draft.put_project({"measured_against": found.baseline.code})
    label = sentence("baseline.brought", code=found.baseline.code, name=name, source=came_from)
    write(access, revision, "baseline", finished(draft), w, label)
    Baseline.objects.filter(project=access.project, code=found.baseline.code).update(came_from=f"{by}, from {came_from}"[:300])
    out.code, out.revision = found.baseline.code, access.project.revision
    return out


def _out(book: Book, other: Book, found: Matched, rows: dict[str, str], revision: int) -> MatchOut:
    there = [Unmatched(c, other.activity_by_code[c].name, rows.get(c, "")) for c in found.only_there]
    here = [Unmatched(c, book.activity_by_code[c].name, "") for c in found.only_here]
    budget = f"{sum(a.budget for a in found.baseline.activities):f}"
    return MatchOut(len(found.baseline.activities), there, here, list(found.resources), budget, revision)
