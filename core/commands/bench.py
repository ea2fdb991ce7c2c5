"""`./dry bench`: how long the core takes, in one run on one machine, beside a well-known reference.

For books of each size: seconds and peak memory for reading, schedule (both passes), value, weekly curve, all of these
three, and the measures of every single activity; the ratios to networkx.dag_longest_path_length on the same network;
the growth from each size to the next; and how long a changed statement takes at 2,000 activities. Each size runs in a
process of its own without garbage collection, as `./dry compute` does. Seconds are the best of several rounds that
take turns with the reference; a ratio is the median over the rounds, each beside the reference of its own round, so
that a busy machine disturbs them least. Then levelling beyond float with fifty resources, and proposals, beside computing the
same book once.
"""

import argparse
import gc
import itertools
import json
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from dataclasses import replace
from decimal import Decimal
from functools import partial
from pathlib import Path
from statistics import median
from typing import TypeVar

sys.path.insert(0, str(Path(__file__).parents[1]))

import networkx
from commands.make_book import make_book

from dryledger.book.plan import Assignment, Book, Resource
from dryledger.compute import Results, compute
from dryledger.exchange.book_json import read_book
from dryledger.options.levelling import level
from dryledger.options.proposals import computed, ideas

T = TypeVar("T")
SIZES = (1_000, 10_000, 100_000)
PARTS = ("read", "schedule", "value", "curve", "all", "rows")
CHANGED = 2_000


def best(rounds: int, work: Callable[[], T]) -> tuple[float, T]:
    """The least seconds of some rounds, and what the last one gave."""
    least = float("inf")
    for _ in range(rounds):
        gc.collect()
        start = time.perf_counter()
        out = work()
        least = min(least, time.perf_counter() - start)
    return least, out


def fresh(book: Book) -> Book:
    """The same book with nothing worked out yet."""
    return replace(book)


def value(r: Results) -> None:
    """PV, EV, AC and what is left of every activity, every measure of every WBS element and of the project.

    An activity's own ratios and estimates are worked out when it is asked for; `rows` asks for them all.
    """
    assert r.project.code and r.wbs and r.valuation.sums


def curve(r: Results) -> None:
    """The weekly curve of the project."""
    assert r.points


def rows(r: Results) -> None:
    """Every measure of every activity."""
    assert list(r.activities.values())


def network(book: Book) -> "networkx.DiGraph[str]":
    """The same network for the reference, links weighted by the predecessor's duration."""
    graph: networkx.DiGraph[str] = networkx.DiGraph()
    graph.add_nodes_from(a.code for a in book.activities)
    graph.add_edges_from((k.source, k.target, {"weight": book.activity_by_code[k.source].duration}) for k in book.links)
    return graph


def measure(size: int, file: Path) -> dict[str, float]:
    """All figures of one size; the first round also gives the peak of memory after each part."""
    gc.disable()
    text = file.read_bytes()
    out = dict.fromkeys(("schedule", "value", "curve", "all", "rows", "networkx"), float("inf"))
    out["read"], book = best(1, partial(read_book, text))
    del text
    out["read_mb"] = peak()
    compute(fresh(book))  # compiles or loads the passes
    graph, ratios = None, []
    for undo_or_redo in range(7 if size <= 10_000 else 3):
        gc.collect()
        plan = fresh(book)
        times, peaks = [time.perf_counter()], []
        r = compute(plan)
        for part in (None, value, curve, rows):
            if part is not None:
                part(r)
            times.append(time.perf_counter())
            peaks.append(peak())
        for name, a, b in (("schedule", 0, 1), ("value", 1, 2), ("curve", 2, 3), ("all", 0, 3), ("rows", 3, 4)):
            out[name] = min(out[name], times[b] - times[a])
            if not undo_or_redo:
                out[f"{name}_mb"] = peaks[b - 1]
        del r, plan
        graph = graph or network(book)
        gc.collect()
        beside = best(1, partial(networkx.dag_longest_path_length, graph))[0]
        out["networkx"] = min(out["networkx"], beside)
        ratios.append(((times[1] - times[0]) / beside, (times[3] - times[0]) / beside))
    out["schedule_ratio"], out["all_ratio"] = (median(x) for x in zip(*ratios, strict=True))
    return out


def peak() -> float:
    """The most memory that the process has held so far, in MB."""
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def changed() -> dict[str, float]:
    """Seconds to compute a book again after one changed statement, everything as in `measure`."""
    gc.disable()
    book = read_book(json.dumps(make_book(CHANGED, 1)).encode())
    before = compute(book)
    value(before)
    assert before.points
    open_work = [s for s in book.periods[-1].statements if s.actual_finish is None]
    out = {"again": float("inf")}
    for i in range(10):
        stated = open_work[i % len(open_work)]
        new = replace(stated, percent=(stated.percent or Decimal(0)) / 2 + Decimal("0.1"), remaining=(stated.remaining or 960) + 480)
        last = book.periods[-1]
        page = replace(last, statements=tuple(new if s is stated else s for s in last.statements))
        gc.collect()
        start = time.perf_counter()
        r = compute(book.with_periods((*book.periods[:-1], page)), before=before)
        value(r)
        assert r.points
        out["again"] = min(out["again"], time.perf_counter() - start)
        before, book = r, r.book
    return out


LEVELLED, RESOURCES = (1_000, 10_000), 50


def crowded(book: Book) -> Book:
    """The same plan with fifty resources, each in the place of one that there is."""
    known = [x for x in book.resources if x.kind != "material"]
    many = [replace(known[i % len(known)], code=f"R{i}") for i in range(RESOURCES)]
    kept: list[Resource] = [*many, *(x for x in book.resources if x.kind == "material")]
    place = {x.code: i for i, x in enumerate(known)}

    def other(n: int, a: Assignment) -> Assignment:
        if a.resource not in place:
            return a
        turns = -(-(RESOURCES - place[a.resource]) // len(known))
        return replace(a, resource=f"R{place[a.resource] + len(known) * (n % turns)}")

    assignments = tuple(other(n, a) for n, a in enumerate(book.assignments))
    return replace(book, resources=tuple(kept), assignments=assignments, periods=tuple(replace(p, hours=()) for p in book.periods))


def levelled(size: int) -> dict[str, float]:
    """Seconds to level a book beyond float, beside those to compute it."""
    book = crowded(read_book(json.dumps(make_book(size, 1)).encode()))
    r = compute(book)
    assert r.schedule.activities
    once = best(3, lambda: compute(fresh(book)))[0]
    seconds, found = best(2, lambda: level(r))
    return {"once": once, "level": seconds, "moved": len(found.moved)}


def proposed() -> dict[str, float]:
    """Seconds until ten proposals are found, and until all are."""
    r = compute(read_book(json.dumps(make_book(CHANGED, 1)).encode()))
    assert r.points
    start, ten, tried, found = time.perf_counter(), 0.0, 0, 0
    for idea in ideas(r):
        tried += 1
        found += computed(r, idea) is not None
        if found == 10 and not ten:
            ten = time.perf_counter() - start
    return {"ten": ten, "all": time.perf_counter() - start, "tried": tried, "found": found}


def apart(what: str, file: str = "") -> dict[str, float]:
    """One measurement in a process of its own."""
    done = subprocess.run([sys.executable, __file__, "--one", what, "--file", file], check=True, stdout=subprocess.PIPE, text=True)
    found: dict[str, float] = json.loads(done.stdout)
    return found


def of_size(size: int) -> dict[str, float]:
    """The figures of one size, from a book written to a file first."""
    with tempfile.NamedTemporaryFile("w", suffix=".json") as file:
        make = Path(__file__).with_name("make_book.py")
        subprocess.run([sys.executable, make, "--activities", str(size)], check=True, stdout=file)
        return apart(str(size), file.name)


def main() -> None:
    parser = argparse.ArgumentParser(prog="./dry bench", description="Measure the core.")
    parser.add_argument("--sizes", default=",".join(map(str, SIZES)), help="sizes with commas")
    parser.add_argument("--one", help=argparse.SUPPRESS)
    parser.add_argument("--file", type=Path, help=argparse.SUPPRESS)
    args = parser.parse_args()
    if args.one:
        other = {"changed": changed, "proposed": proposed} | {f"level {n}": partial(levelled, n) for n in LEVELLED}
        print(json.dumps(other[args.one]() if args.one in other else measure(int(args.one), args.file)))
        return
    sizes = [int(s) for s in args.sizes.split(",")]
    found = {size: of_size(size) for size in sizes}
    head = "".join(f"{part:>10}" for part in PARTS)
    print(f"{'seconds':13}{head}{'networkx':>10}{'schedule ÷ networkx':>22}{'all ÷ networkx':>17}")
    for size, f in found.items():
        times = "".join(f"{f[part]:10.3f}" for part in (*PARTS, "networkx"))
        print(f"{size:<13,}{times}{f['schedule_ratio']:22.2f}{f['all_ratio']:17.2f}")
    print(f"\n{'growth':13}{head}{'networkx':>10}")
    for small, large in itertools.pairwise(sizes):
        print(f"{f'to {large:,}':13}" + "".join(f"{found[large][part] / found[small][part]:10.1f}" for part in (*PARTS, "networkx")))
    print(f"\n{'peak MB':13}{head}")
    for size, f in found.items():
        print(f"{size:<13,}" + "".join(f"{f[f'{part}_mb']:10.0f}" for part in PARTS))
    print(f"\nComputed again after one changed statement at {CHANGED:,} activities: {apart('changed')['again'] * 1000:.0f} ms")
    for size in LEVELLED:
        x = apart(f"level {size}")
        beside = f"{x['level'] / x['once']:.1f} times as long as computing it"
        print(f"Levelled beyond float, {size:,} activities, {RESOURCES} resources: {x['level']:.2f} s, {beside}; {x['moved']:.0f} move")
    p = apart("proposed")
    print(f"Proposals at {CHANGED:,} activities: ten after {p['ten']:.1f} s, all {p['tried']:.0f} tried in {p['all']:.1f} s")


if __name__ == "__main__":
    main()
