"""Print the catalogue of figures as a page of the format's documentation."""

import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from dryledger.figures import CATALOGUE, SCOPES

HEAD = """# Figures

Every figure that Dry Ledger knows, made from the catalogue (`core/dryledger/figures.py`) by `./dry types`. Durations are working
minutes, per cents of 100, money is in the project's currency. A figure that has no value says why.

A formula of an own field calls a figure of an activity by its name in the last column; there durations are days of the activity's
calendar, work is hours, dates are texts such as 2027-01-04T08:00, and what has no value counts as 0. A field of one's own that has
the same name comes first. `field:CODE` is an own field.

| key | of | kind | word | formula | name in formulas |
|---|---|---|---|---|---|
"""


def page() -> str:
    """The page as Markdown."""
    rows = [
        f"| `{f.key}` | {', '.join(SCOPES[s] for s in f.scopes)} | {f.kind} | {f.word}{f' ({f.short})' if f.short else ''} "
        f"| {f.formula} | {f'`{f.variable}`' if f.means('activity') else ''} |"
        for f in CATALOGUE
    ]
    return HEAD + "\n".join(rows) + "\n"


if __name__ == "__main__":
    sys.stdout.write(page())
