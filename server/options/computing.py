"""Options computed on top of the present plan, each once a state of both; no lock of the project's is held for it."""

from dataclasses import dataclass
from functools import partial

from dryledger.book.lists_beside import OPTIONS
from dryledger.book.memory import Slot
from dryledger.book.options import Option as BookOption
from dryledger.book.reader import Reader
from dryledger.changes.keyed import KeyedBook
from dryledger.changes.option import Applied, with_keyed_changes
from dryledger.compute import Results
from dryledger.errors import BookInvalid
from dryledger.exchange.read import read_row
from dryledger.options.board import Compared, Standing, beside, results_of, standing
from dryledger.options.levelling import Levelled, level
from dryledger.options.proposals import Idea, Proposal, computed, ideas
from server.book.access import Access
from server.book.kept_models import Option
from server.book.lookup import last_page
from server.book.models import Project
from server.book.read import scope_of
from server.book.workspace import Workspace, workspace_of
from server.shared.problems import Refused
from server.shared.words import sentence

MOST_KEY = 2**62
"""More than any row's key is."""


@dataclass(frozen=True)
class Top:
    """An option put on the present plan."""

    option: BookOption
    applied: Applied
    results: Results

    @property
    def keyed(self) -> KeyedBook:
        """The changed book with the keys of its rows."""
        return self.applied.changed.after


TOPS: Slot[Top] = Slot("options put on the plan", most=100_000, weigh=lambda t: 200 + 4 * len(t.results.book.activities))
LEVELLED: Slot[Levelled] = Slot("the plan levelled", most=100_000, weigh=lambda x: 200 + 2 * len(x.book.activities))
IDEAS: Slot[list[Idea]] = Slot("what could be tried", most=100_000, weigh=lambda x: 50 + sum(len(i.changes) for i in x))
FOUND: Slot[Proposal | None] = Slot("what comes of an idea", most=100_000, weigh=lambda x: 20 if x is None else 20 + len(x.changes))
STANDING: Slot[Standing] = Slot("how the plan stands")
BESIDE: Slot[Compared] = Slot("options beside the plan", most=1_000)


@dataclass(frozen=True)
class Present:
    """The plan as it stands, which options are put on."""

    project: Project
    workspace: Workspace
    results: Results

    def standing(self) -> Standing:
        """How it stands."""
        return self.workspace.memo.once(STANDING, lambda: standing(self.results))

    def option(self, row: Option) -> BookOption:
        """An option as the book has it, by the codes that its rows have now."""
        keyed = self.workspace.keyed
        codes = {name: {k: x.record.code for k, x in keyed.rows[name].items()} for name in ("activities", "resources")}
        found: BookOption = read_row(Reader(row.to_book(codes), "", []), OPTIONS, scope_of(keyed))
        return found

    def top(self, row: Option) -> Top:
        """The present plan with an option on it. Raises Refused where the changed book can't be computed."""

        def make() -> Top:
            option = self.option(row)
            applied = with_keyed_changes(self.workspace.keyed, option.changes)
            try:
                return Top(option, applied, results_of(self.results, applied.book))
            except BookInvalid as wrong:
                raise Refused("not-computable", sentence("options.not_computable", why=wrong.faults[0].message), 422) from None

        return self.workspace.memo.once(TOPS, make, (row.pk, row.seen))

    def compared(self, row: Option) -> Compared:
        """An option beside the present."""
        top = self.top(row)
        made = partial(beside, self.results, top.results, row.code, top.applied.conflicts)
        return self.workspace.memo.once(BESIDE, made, (row.pk, row.seen))

    def levelled(self, mode: str) -> Levelled:
        """The plan levelled, within or beyond float."""
        return self.workspace.memo.once(LEVELLED, lambda: level(self.results, mode), mode)

    def ideas(self, scope: frozenset[str] | None) -> list[Idea]:
        """What could be tried, at a scope of activities or at all."""
        return self.workspace.memo.once(IDEAS, lambda: list(ideas(self.results, scope)), scope)

    def tried(self, idea: Idea) -> Proposal | None:
        """What comes of an idea."""
        return self.workspace.memo.once(FOUND, lambda: computed(self.results, idea), idea.code)


def present_of(project: Project) -> Present:
    """The plan of a project as it stands."""
    w = workspace_of(project)
    return Present(project, w, w.results(last_page(project).code))


def option_row(access: Access, pk: int) -> Option:
    """An option of the project by its number. Raises Refused."""
    found = Option.objects.filter(project=access.project, pk=pk).first() if pk <= MOST_KEY else None
    if found is None:
        raise Refused("not-found", sentence("options.gone"), 404)
    return found
