"""The worked examples of the guide: each names a book and its figures, which must come out so, and stand in the words that follow."""

import json
import re
import unittest
from decimal import Decimal
from pathlib import Path

from core.tests.books import baseline, doc, line, page
from dryledger.book.plan import Book
from dryledger.book.shared import SharedResource
from dryledger.calendar.axis import DAY
from dryledger.calendar.calendar import Calendar
from dryledger.compute import Results, compute
from dryledger.desk.people import Asking, load_of, over_of
from dryledger.exchange.book_json import book_from
from dryledger.figure_values import written
from dryledger.figures import figure
from dryledger.readings import read

GUIDE = Path(__file__).parents[2] / "docs" / "guide"
EXAMPLE = re.compile(r"<!-- example (\w+): (.+?) -->\n(.+?)(?:\n\n|\Z)", re.DOTALL)
SHARED = re.compile(r"<!-- shared: (.+?) -->\n(.+?)(?:\n\n|\Z)", re.DOTALL)
IMAGE = re.compile(r"!\[[^\]]*\]\(([^)]+)\)")
LINK = re.compile(r"(?<!!)\[[^\]]*\]\(([^)]+)\)")


def books() -> dict[str, Book]:
    """The books of the examples, written as short as they can be."""
    out = {}
    for name, d in json.loads((GUIDE / "examples.json").read_text()).items():
        for b in d.get("baselines", []):
            rows = [{**{k: v for k, v in a.items() if k != "amount"}, "cost_lines": [line(a["amount"])]} for a in b["activities"]]
            d["baselines"] = [baseline(*rows, code=b["code"]) | {"approved_by": "Ann"}]
        d["periods"] = [page(p.pop("code"), p.pop("status"), *p.pop("statements", []), **p) for p in d.get("periods", [])]
        out[name] = book_from(doc(d.pop("activities"), d.pop("links", None), **d))
    return out


def in_words(key: str, value: str) -> str:
    """How the prose says a figure: days for minutes, three places, dates without the year."""
    kind = figure(key).kind
    if kind == "duration":
        return f"{int(value) // 480} day" if key != "planned_work" else f"{int(value) // 60} hours"
    if kind == "instant":
        day = value[8:10].lstrip("0")
        return f"{day} January" if "T" in value else value
    text = value.replace("-", "−")
    if kind == "ratio":
        return f"{float(value):.3f}".rstrip("0").replace("-", "−")
    if kind == "money":
        whole, _, part = text.partition(".")
        return f"{whole[:-3]} {whole[-3:]}.{part}" if len(whole) > 3 and whole[:-3] != "−" else text
    return text


class Examples(unittest.TestCase):
    def figure(self, r: Results, name: str) -> tuple[str, str]:
        """The key of a figure and its value; a code and a point before it name the activity."""
        scope, _, key = name.partition(".")
        if scope in r.book.activity_by_code:
            return key, written(read(r, key, "activity", scope), figure(key).kind) or ""
        return name, written(read(r, name, "project", r.book.project.code), figure(name).kind) or ""

    def test_every_figure_comes_out_and_stands_in_the_words(self) -> None:
        found, count = books(), 0
        for path in sorted(GUIDE.glob("*.md")):
            for book, figures, words in EXAMPLE.findall(path.read_text()):
                r = compute(found[book])
                stated = " ".join(words.split())
                for pair in figures.split():
                    name, _, wanted = pair.partition("=")
                    with self.subTest(page=path.stem, figure=name):
                        key, value = self.figure(r, name)
                        if figure(key).kind in ("money", "instant"):
                            self.assertEqual(value, wanted)
                        else:
                            self.assertAlmostEqual(float(value), float(wanted), 6)
                        self.assertIn(in_words(key, wanted), stated)
                        count += 1
        self.assertGreater(count, 30)

    def test_people_across_projects(self) -> None:
        [(stated, words)] = SHARED.findall((GUIDE / "desk.md").read_text())
        given = dict(pair.split("=") for pair in stated.split())
        five = Calendar("five", "Five-day week", (((480, 720), (780, 1020)),) * 5 + ((),) * 2)
        kept = SharedResource("ELE", "Electricians", five, units=Decimal(given["units"]))
        rows = [
            Asking(f"P{i}", "ELE", "A", "A", 480, 480 + 4 * DAY + 540, Decimal(n), five.axis, five.axis)
            for i, n in enumerate(given["asked"].split(","))
        ]
        load = load_of(kept, rows)
        found = (sum(load.sums) / 60, sum(load.there) / 60, sum(x.unit_minutes for x in over_of(kept, rows)) / 60)
        self.assertEqual(found, tuple(Decimal(given[key]) for key in ("work", "there", "over")))
        for text in (f"{given['units']} electricians", f"{given['work']} hours", f"{given['over']} hours over-allocated"):
            self.assertIn(text, " ".join(words.split()))

    def test_every_book_is_used_and_every_link_leads_somewhere(self) -> None:
        texts = {path: path.read_text() for path in GUIDE.glob("*.md")}
        self.assertEqual({book for text in texts.values() for book, _, _ in EXAMPLE.findall(text)}, set(books()))
        for path, text in texts.items():
            for to in (*IMAGE.findall(text), *LINK.findall(text)):
                self.assertTrue((path.parent / to.partition("#")[0]).exists(), f"{path.name}: {to}")
        index = texts[GUIDE / "README.md"]
        self.assertEqual({p.name for p in texts} - {"README.md"}, set(LINK.findall(index)))
