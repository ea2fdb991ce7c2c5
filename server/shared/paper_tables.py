"""Tables on paper, thousands of rows in no time: A4 lying, heads again on every page, and told by what reads a document aloud."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from server.shared.pdf_pen import Element, PdfDrawing, PdfPen, width_of
from server.shared.pen import Look
from server.shared.words import sentence

WIDE, TALL, SIDE, TOP, BOTTOM = 11.69, 8.27, 0.55, 0.5, 0.6
INK, SOFT, RULE, STRONG = "#1B2333", "#5B6472", "#DDD6C6", "#B9B09B"
SIZE, LINE, PAD, WRITTEN = 7.4, 0.145, 0.04, 0.28
ROOM = WIDE - 2 * SIDE
NARROWEST = 0.6
"""A column of texts is made no narrower than that, in inches, where they are too wide together."""


@dataclass(frozen=True)
class PaperTable:
    """A table with what is said of it: its heads, which of its columns hold numbers or leave room to write, and its rows as texts."""

    title: str
    about: str
    heads: Sequence[str]
    numbers: Sequence[bool]
    rows: Sequence[Sequence[str]]
    room: Collection[int] = ()


class _Writer:
    """Writes from top to bottom, on one more page where there is no room."""

    def __init__(self, title: str) -> None:
        self.drawing = PdfDrawing(title)
        self.pen: PdfPen
        self.new_page()

    def new_page(self) -> None:
        self.pen, self.y = self.drawing.sheet(WIDE, TALL), TOP

    def need(self, tall: float) -> bool:
        """Whether a new page was begun for so many inches."""
        if self.y + tall <= TALL - BOTTOM:
            return False
        self.new_page()
        return True

    def say(self, of: Element, type: str, lines: Sequence[str], size: float, colour: str, bold: bool = False) -> None:
        """A heading or a paragraph."""
        with self.pen.saying(of.add(type)):
            for line in lines:
                self.y += size * 1.3 / 72
                self.pen.text(SIDE, self.y, f"{line} ", size, colour, bold)


def tables_on_paper(title: str, tables: Sequence[PaperTable], none: str) -> bytes:
    """A PDF of tables under a title; `none` is said where one has no rows."""
    w = _Writer(title)
    w.say(w.drawing.document_tree, "H1", [title], 15, INK, bold=True)
    for t in tables:
        w.need(1.1)
        w.y += 0.14
        w.say(w.drawing.document_tree, "H2", [t.title], 10, INK, bold=True)
        told = [line for part in (t.about, "" if t.rows else none) for line in wrapped(part, ROOM, SIZE)]
        w.say(w.drawing.document_tree, "P", told, SIZE, SOFT)
        if t.rows:
            _table(w, t)
    for n, pen in enumerate(w.drawing.pens, 1):
        with pen.saying(None):
            pen.text(SIDE, TALL - 0.3, title, 7, SOFT)
            pen.text(WIDE - SIDE, TALL - 0.3, f"{n} {sentence('document.of_pages')} {len(w.drawing.pens)}", 7, SOFT, end=True)
    return w.drawing.content()


def _table(w: _Writer, t: PaperTable) -> None:
    widths = _widths(t)
    lefts = [SIDE + sum(widths[:i]) for i in range(len(widths))]
    element = w.drawing.document_tree.add("Table")

    def row(cells: Sequence[Sequence[str]], of: Element | None, type: str) -> None:
        """A row of cells in lines; a head that is there again says nothing."""
        head = type == "TH"
        height = _height(t, cells, head)
        for left, wide, lines, number in zip(lefts, widths, cells, t.numbers, strict=True):
            with w.pen.saying(of.add(type) if of is not None else None):
                for n, line in enumerate(lines, 1):
                    x = left + wide - PAD if number else left + PAD
                    told = line if n == len(lines) else f" {line}" if number else f"{line} "  # apart where it is read aloud
                    w.pen.text(x, w.y + n * LINE, told, SIZE, SOFT if head else INK, head, end=number)
        with w.pen.saying(None):
            for i in () if head else t.room:
                w.pen.box(lefts[i] + PAD, w.y + 0.03, widths[i] - 2 * PAD, height - 0.04, Look(edge="#8C8468", width=0.6))
        w.y += height
        with w.pen.saying(None):
            w.pen.line(
                [(SIDE, w.y + 0.02), (SIDE + sum(widths), w.y + 0.02)], Look(edge=STRONG if head else RULE, width=0.7 if head else 0.4)
            )
        w.y += 0.03

    heads = [wrapped(h, wide - 2 * PAD, SIZE, bold=True) for h, wide in zip(t.heads, widths, strict=True)]
    row(heads, element.add("TR"), "TH")
    for texts in t.rows:
        cells = [[x] if n else wrapped(x, wide - 2 * PAD, SIZE) for x, wide, n in zip(texts, widths, t.numbers, strict=True)]
        if w.need(_height(t, cells, False) + 0.03):
            row(heads, None, "TH")
        row(cells, element.add("TR"), "TD")


def _height(t: PaperTable, cells: Sequence[Sequence[str]], head: bool) -> float:
    """How high a row is: its longest cell, and no lower than a hand writes."""
    return max(LINE * max(map(len, cells)) + PAD, WRITTEN if t.room and not head else 0)


def _widths(t: PaperTable) -> list[float]:
    """As wide as what stands in the columns; where that is too much together, those of texts give way; what is spare is to write in."""
    found = []
    for i, head in enumerate(t.heads):
        longest = max((width_of(word, SIZE, bold=True) for word in head.split()), default=0.0)
        texts = {row[i] for row in t.rows}
        found.append(max(longest, *(width_of(x, SIZE) for x in texts), NARROWEST if i in t.room else 0) + 2 * PAD + 0.04)
    free = ROOM - sum(x for x, n in zip(found, t.numbers, strict=True) if n)
    soft = [i for i, n in enumerate(t.numbers) if not n]
    while soft and sum(found[i] for i in soft) > free + 1e-6:
        widest = sorted(soft, key=lambda i: -found[i])
        next_wide = found[widest[1]] if len(widest) > 1 else NARROWEST
        over = sum(found[i] for i in soft) - free
        cut = min(over, max(found[widest[0]] - max(next_wide, NARROWEST), 0.1))
        if found[widest[0]] - cut < NARROWEST:
            break
        found[widest[0]] -= cut
    whole, takers = sum(found), set(t.room or range(len(found)))
    if whole > ROOM:
        return [x * ROOM / whole for x in found]
    return [x + (ROOM - whole) / len(takers) if i in takers else x for i, x in enumerate(found)]


def wrapped(text: str, room: float, size: float, bold: bool = False) -> list[str]:
    """A text in lines of at most so many inches, at its spaces; a longer word is broken.

    >>> wrapped("Hull and deck", 0.5, 7)
    ['Hull and', 'deck']
    """
    lines, line = list[str](), ""
    for word in text.split():
        while width_of(word, size, bold) > room and len(word) > 1:
            fits = next((n for n in range(len(word) - 1, 1, -1) if width_of(word[:n], size, bold) <= room), 1)
            if line:
                lines.append(line)
                line = ""
            lines.append(word[:fits])
            word = word[fits:]
        more = f"{line} {word}" if line else word
        if line and width_of(more, size, bold) > room:
            lines.append(line)
            line = word
        else:
            line = more
    return [*lines, line] if line or not lines else lines
