"""Compile the passes for large books once; the machine code is kept beside the source."""

import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from commands.make_book import make_book

from dryledger.compute import compute
from dryledger.exchange.book_json import book_from
from dryledger.network.engine import LARGE

if __name__ == "__main__":
    results = compute(book_from(make_book(LARGE, 1)))
    assert results.wbs and results.points
