"""The server's share of `./dry bench`: opening the plan sheet, and a changed duration with all its consequences.

For books of each size, in a database of its own: milliseconds to make and write out the sheet the first time and
again, and for a changed duration told as the page asks for it (the median and the slowest of those tried, and how
many activities one of them moved), with the growth from size to size.
"""

import gc
import json
import sys
import time
from collections.abc import Callable
from statistics import median
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand

from server.accounts.models import Person, Role
from server.book.loading import load_document
from server.plan.actions import Sight, change_plan
from server.plan.details import plan_out
from server.shared.plain import plain

sys.path.insert(0, str(settings.ROOT / "core"))
from commands.make_book import make_book

SIZES = (1_000, 10_000)
ROUNDS = 9


def took(work: Callable[[], Any]) -> tuple[float, Any]:
    """Milliseconds, and what came out."""
    start = time.perf_counter()
    out = work()
    return (time.perf_counter() - start) * 1000, out


class Command(BaseCommand):
    """Measure the server's share."""

    help = "Measure opening and changing large plans."

    def handle(self, *args: object, **options: object) -> None:
        gc.set_threshold(100_000, 50, 100)
        person = Person.objects.create_user("bench", full_name="Bench", role=Role.ANALYST)
        self.stdout.write("\nserver, ms        first sheet   sheet again changed dur.  the slowest  most moved")
        before: list[float] = []
        for size in SIZES:
            document = json.loads(json.dumps(make_book(size, 1), default=float))
            document.pop("periods", None)
            code = load_document(document, f"BENCH{size}").code
            first, sheet = took(lambda code=code: json.dumps(plain(plan_out(code))))
            again, _ = took(lambda code=code: json.dumps(plain(plan_out(code))))
            rows = [r["id"] for r in json.loads(sheet)["rows"] if r["kind"] == "task"]
            sight = Sight(frozenset(r["id"] for r in json.loads(sheet)["rows"][:40]))
            revision, tries, moved = json.loads(sheet)["revision"], [], 0
            for i in range(ROUNDS):
                verb = {"do": "set", "row": rows[i * len(rows) // ROUNDS], "cells": {"duration": f"{11 + i}d"}}
                ms, effect = took(lambda v=verb, r=revision, c=code, s=sight: change_plan(person, c, r, [v], sight=s))
                written, _ = took(lambda e=effect: json.dumps(plain(e)))
                plan_out(code)  # as the page does when something is left to read
                revision, moved = effect.revision, max(moved, effect.moved_count)
                tries.append(ms + written)
            figures = [first, again, median(tries), max(tries)]
            self.stdout.write(" ".join([f"{size:>6,}        ", *(f"{ms:>13.0f}" for ms in figures), f"{moved:>13,}"]))
            if before:
                self.stdout.write("growth         " + " ".join(f"{b / a:>13.1f}" for a, b in zip(before, figures, strict=True)))
            before = figures
