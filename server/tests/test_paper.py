"""Tables and drawings as PDF: every row is there once, in words that are read, copied and searched. And answers as JSON."""

import random
import subprocess
from dataclasses import dataclass
from decimal import Decimal

from django.test import SimpleTestCase
from django.utils.translation import gettext_lazy

from server.shared.json_values import written
from server.shared.paper_tables import PaperTable, tables_on_paper, wrapped
from server.shared.pdf_pen import PdfDrawing, width_of
from server.shared.pen import Look


def told(content: bytes, *command: str) -> str:
    out = ["-"] if command[0] == "pdftotext" else []
    return subprocess.run([*command, "-", *out], input=content, capture_output=True, check=True).stdout.decode()


class Paper(SimpleTestCase):
    def test_every_row_once_under_its_heads(self) -> None:
        rows = [(f"R{i:03}", f"Rör Ж {i} ≥ " + "long and longer " * (i % 4 * 5), f"−{i}.50") for i in range(300)]
        table = PaperTable("Pipes", "All of them", ("Code", "Name of the pipe", "Cost"), (False, False, True), rows)
        empty = PaperTable("Valves", "None yet", ("Code",), (False,), ())
        made = tables_on_paper("Stores", [table, empty], "Nothing here.")
        pages = int(told(made, "pdfinfo").split("Pages:")[1].split()[0])
        text = told(made, "pdftotext", "-layout")
        self.assertGreater(pages, 8)
        self.assertEqual(text.count("Name of the pipe"), pages)
        for code, name, cost in rows:
            self.assertEqual(text.count(code), 1)
            self.assertIn(name[:8].strip(), text)
            self.assertIn(cost, text)
        self.assertIn("Nothing here.", text)
        self.assertIn(f"{pages} of {pages}", text)
        read = told(made, "pdfinfo", "-struct-text")
        self.assertEqual([read.count(f"  {part}\n") for part in ("TR", "H1 (block)", "H2 (block)", "Table (block)")], [301, 1, 2, 1])
        self.assertEqual(read.count("TH:"), 3)  # heads on further pages are not read again
        self.assertTrue('"Rör Ж 1 ≥ long and longer long and longer' in read.replace("  ", ""), "a cell of several lines is read as one")
        fonts = [line.split()[-5:-2] for line in told(made, "pdffonts").splitlines()[2:]]
        self.assertEqual(fonts, [["yes", "yes", "yes"]] * 2)  # embedded, a part of the font, and its letters are told
        self.assertLess(len(made), 120_000)

    def test_room_to_write_is_framed_and_high_enough(self) -> None:
        rows = [(f"R{i}", "") for i in range(60)]
        heads, numbers = ("Code", "On site"), (False, False)
        bare, room = (tables_on_paper("T", [PaperTable("T", "", heads, numbers, rows, r)], "") for r in ((), {1}))
        pages = [int(told(x, "pdfinfo").split("Pages:")[1].split()[0]) for x in (bare, room)]
        self.assertLess(*pages)
        grey = ("pdftoppm", "-r", "72", "-gray", "-l", "1", "-")
        drawn = [subprocess.run(grey, input=x, capture_output=True, check=True).stdout.split(b"\n255\n", 1)[1] for x in (bare, room)]
        self.assertLess(*(sum(p < 160 for p in x) for x in drawn))

    def test_wide_tables_keep_to_the_page(self) -> None:
        """Twelve columns of texts without a space in them are broken, and none is lost."""
        row = tuple(f"{n:x}" * 30 for n in range(12))
        text = told(tables_on_paper("T", [PaperTable("T", "", row, (False,) * 12, [row])], ""), "pdftotext", "-raw")
        for word in row:
            self.assertGreaterEqual(text.count(word[0]), 30)

    def test_lines_are_no_longer_than_their_room(self) -> None:
        chance = random.Random(4)
        for _ in range(200):
            text = " ".join("m" * chance.randrange(1, 30) for _ in range(chance.randrange(12)))
            room = chance.uniform(0.5, 3)
            lines = wrapped(text, room, 8)
            self.assertEqual("".join(lines).replace(" ", ""), text.replace(" ", ""))
            self.assertLessEqual(max(width_of(x, 8) for x in lines), room)

    def test_what_is_drawn_is_there(self) -> None:
        """A red square, a hatch, a dot and half a bar that is cut off, by the colours of the page."""
        drawing = PdfDrawing("Colours")
        pen = drawing.sheet(4, 2)
        pen.box(0, 0, 1, 1, Look("#FF0000"))
        pen.box(1, 0, 1, 1, Look(edge="#0000FF", hatch=True))
        pen.dot(2.5, 0.5, 36, "#00FF00")
        with pen.within(3, 0, 0.5, 1):
            pen.box(3, 0, 1, 1, Look("#000000", alpha=0.5))
        pen.line([(0, 1.5), (4, 1.5)], Look(edge="#000000", width=2, dash=(4, 4)))
        ppm = subprocess.run(["pdftoppm", "-r", "72", "-"], input=drawing.content(), capture_output=True, check=True).stdout
        pixels = ppm.split(b"\n255\n", 1)[1]

        def at(x: float, y: float) -> tuple[int, ...]:
            place = (int(y * 72) * 288 + int(x * 72)) * 3
            return tuple(pixels[place : place + 3])

        self.assertEqual([at(0.5, 0.5), at(2.5, 0.5), at(3.75, 0.5)], [(255, 0, 0), (0, 255, 0), (255, 255, 255)])
        self.assertAlmostEqual(at(3.25, 0.5)[0], 127, delta=2)
        hatched = [at(1 + i / 72, 0.5) for i in range(72)]
        self.assertTrue(18 < sum(p[0] < 100 for p in hatched) < 36, hatched)
        dashed = sum(at(i / 72, 1.5) != (255, 255, 255) for i in range(288))
        self.assertTrue(120 < dashed < 220, dashed)


@dataclass
class _Line:
    code: str
    amount: Decimal


class Written(SimpleTestCase):
    def test_answers(self) -> None:
        answer = written([_Line("Ä", Decimal("1E+3")), {1: (None, True)}, Decimal("0E-7"), float("nan"), gettext_lazy("x")])
        self.assertEqual(answer.decode(), '[{"code":"Ä","amount":"1000"},{"1":[null,true]},"0.0000000",null,"x"]')
        with self.assertRaises(TypeError):
            written(object())
