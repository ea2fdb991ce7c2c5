"""The server's share of `./dry bench`: bringing a book in, opening the plan sheet, changing a duration, posting a percent.

For books of each size, in a database of its own: milliseconds to bring the book in as a file, to make and write out the
sheet the first time and again, for a changed duration told as the page asks for it (the median and the slowest of those
tried, and how many activities one of them moved), and for a posted percent; with the growth from size to size. The small
size beside them says what a person feels; the last line is the memory of the whole process.
"""

import gc
import json
import resource
import sys
import time
from collections.abc import Callable
from functools import partial
from statistics import median
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand

from server.accounts.models import Person, Role
from server.book.access import access
from server.book.loading import load_text
from server.book.workspace import workspace_of
from server.plan.actions import Sight, change_plan
from server.plan.details import plan_out
from server.posting.actions import post_entries
from server.shared.json_values import written

sys.path.insert(0, str(settings.ROOT / "core"))
from commands.make_book import make_book

SIZES = (2_000, 10_000)
ROUNDS = 9
TITLES = ("brought in", "first sheet", "sheet again", "changed dur.", "the slowest", "posted %", "most moved")


def took(work: Callable[[], Any]) -> tuple[float, Any]:
    """Milliseconds, and what came out."""
    start = time.perf_counter()
    out = work()
    return (time.perf_counter() - start) * 1000, out


class Command(BaseCommand):
    """Measure the server's share."""

    help = "Measure bringing in, opening, changing and posting on large plans."

    def handle(self, *args: object, **options: object) -> None:
        gc.set_threshold(100_000, 50, 100)
        self.person = Person.objects.create_user("bench", full_name="Bench", role=Role.ANALYST)
        self.stdout.write("\nserver, ms    " + " ".join(f"{title:>13}" for title in TITLES))
        before: list[float] = []
        for size in SIZES:
            figures, moved = self.measure(size)
            self.stdout.write(" ".join([f"{size:>6,}        ", *(f"{ms:>13.0f}" for ms in figures), f"{moved:>13,}"]))
            if before:
                self.stdout.write("growth         " + " ".join(f"{b / a:>13.1f}" for a, b in zip(before, figures, strict=True)))
            before = figures
        self.stdout.write(f"the process held at most {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB")

    def measure(self, size: int) -> tuple[list[float], int]:
        """The figures of one size, and how many activities one change moved."""
        text = json.dumps(make_book(size, 1), default=float).encode()
        brought, project = took(partial(load_text, text))
        code = project.code
        sheet = partial(self.sheet, code)
        (first, written), (again, _) = took(sheet), took(sheet)
        told = json.loads(written)
        rows = [r["id"] for r in told["rows"] if r["kind"] == "task" and r.get("state", "not_started") == "not_started"]
        sight = Sight(frozenset(r["id"] for r in told["rows"][:40]))
        tries, moved, revision = [], 0, told["revision"]
        for i in range(ROUNDS):
            verb = {"do": "set", "row": rows[i * len(rows) // ROUNDS], "cells": {"duration": f"{11 + i}d"}}
            asked = access(self.person, code)
            ms, effect = took(partial(self.changed, asked, revision, verb, sight))
            sheet()  # as the page does when something is left to read
            revision, moved = effect.revision, max(moved, effect.moved_count)
            tries.append(ms)
        return [brought, first, again, median(tries), max(tries), self.posted(code, revision)], moved

    def sheet(self, code: str) -> bytes:
        """The sheet as the page reads it."""
        return written(plan_out(access(self.person, code).project))

    def changed(self, asked: Any, revision: int, verb: dict[str, Any], sight: Sight) -> Any:
        """A change with its answer written out."""
        effect = change_plan(asked, revision, [verb], sight=sight)
        written(effect)
        return effect

    def posted(self, code: str, revision: int) -> float:
        """The median of a posted percent, with its answer written out."""
        tries = []
        book = workspace_of(access(self.person, code).project).book
        states = {s.activity: s for p in book.periods for s in p.statements}
        begun = [code for code, s in states.items() if s.actual_start is not None and s.actual_finish is None]
        for i in range(ROUNDS):
            asked = access(self.person, code)
            page = book.periods[-1].code
            ms, _ = took(
                partial(
                    lambda *given: written(post_entries(*given)),
                    asked,
                    page,
                    revision,
                    {begun[i]: {"percent": f"{20 + i}"}},
                )
            )
            revision += 1
            tries.append(ms)
        return median(tries)
