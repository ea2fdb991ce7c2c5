"""Drawings as PDF (ISO 32000-1), by its own operators: thousands of rows take no longer than writing them down.

Each font is embedded once, with the glyphs that are used.
"""

import io
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from dataclasses import dataclass, field
from functools import cache
from importlib.util import find_spec
from math import ceil
from pathlib import Path
from typing import Any

import pydyf
from django.conf import settings
from fontTools import subset
from fontTools.ttLib import TTFont

from server.shared.pen import Look

POINTS = 72
ROUND = 0.5523
"""Where a quarter of a circle has its middle points, as a part of its radius."""
HATCH = 3.0
"""Points between two strokes of a hatch."""
FACES = {False: "DejaVuSans", True: "DejaVuSans-Bold"}


@cache
def _file(bold: bool) -> Path:
    """The font that ships with the library that draws curves."""
    found = find_spec("matplotlib")
    assert found is not None and found.submodule_search_locations
    return Path(found.submodule_search_locations[0]) / "mpl-data" / "fonts" / "ttf" / f"{FACES[bold]}.ttf"


class _Face:
    """What is known of a font: the glyph of a character, and its width in thousandths of the size."""

    def __init__(self, bold: bool) -> None:
        font = TTFont(_file(bold), lazy=True)
        self.order: dict[str, int] = font.getReverseGlyphMap()
        self.glyphs: dict[int, str] = font.getBestCmap()
        per = 1000 / font["head"].unitsPerEm
        self.widths: dict[str, float] = {name: advance * per for name, (advance, _) in font["hmtx"].metrics.items()}
        self.box = [round(getattr(font["head"], side) * per) for side in ("xMin", "yMin", "xMax", "yMax")]
        self.ascent, self.descent = round(font["hhea"].ascent * per), round(font["hhea"].descent * per)

    @cache  # noqa: B019 - there are two of them, for as long as the process lives
    def glyph(self, letter: str) -> tuple[int, float]:
        """The number of a character's glyph, and its width; those of the empty box where the font lacks it."""
        name = self.glyphs.get(ord(letter), ".notdef")
        return self.order[name], self.widths[name]


@cache
def _face(bold: bool) -> _Face:
    return _Face(bold)


@dataclass
class Element:
    """A part of what a document says, by its standard type (ISO 32000-1, 14.8): what reads it aloud goes by it."""

    type: str
    kids: list["Element | tuple[PdfPen, int]"] = field(default_factory=list)

    def add(self, type: str) -> "Element":
        """A part of it."""
        self.kids.append(Element(type))
        last = self.kids[-1]
        assert isinstance(last, Element)
        return last


def width_of(text: str, size: float, bold: bool = False) -> float:
    """How wide a line of text is, in inches."""
    return sum(_face(bold).glyph(c)[1] for c in text) * size / 1000 / POINTS


def _rgb(colour: str) -> str:
    return " ".join(f"{int(colour[i : i + 2], 16) / 255:.3f}" for i in (1, 3, 5))


class PdfPen:
    """The pen of one page of a document."""

    def __init__(self, document: "PdfDrawing", wide: float, tall: float) -> None:
        self.document, self.wide, self.tall = document, wide * POINTS, tall * POINTS
        self.told: list[str] = []
        self.marks: list[Element] = []

    def _at(self, x: float, y: float) -> str:
        return f"{x * POINTS:.2f} {self.tall - y * POINTS:.2f}"

    def _look(self, look: Look) -> str:
        out = [f"/{self.document.alpha(look.alpha)} gs"]
        if look.fill:
            out.append(f"{_rgb(look.fill)} rg")
        if look.edge and look.width:
            out.append(f"{_rgb(look.edge)} RG {look.width:.2f} w [{' '.join(f'{x:.1f}' for x in look.dash)}] 0 d")
        return " ".join(out)

    def box(self, x: float, y: float, wide: float, tall: float, look: Look) -> None:
        stroked = bool(look.edge and look.width)
        if look.fill or stroked:
            how = "B" if look.fill and stroked else "f" if look.fill else "S"
            self.told.append(f"{self._look(look)} {self._at(x, y + tall)} {wide * POINTS:.2f} {tall * POINTS:.2f} re {how}")
        if look.hatch:
            with self.within(x, y, wide, tall):
                self.told.append(f"/{self.document.alpha(look.alpha)} gs {_rgb(look.edge)} RG 0.6 w [] 0 d")
                high, low = tall * POINTS, self.tall - (y + tall) * POINTS
                for n in range(ceil((wide * POINTS + high) / HATCH) + 1):
                    a = x * POINTS - high + n * HATCH
                    self.told.append(f"{a:.2f} {low:.2f} m {a + high:.2f} {low + high:.2f} l")
                self.told.append("S")

    def line(self, points: Sequence[tuple[float, float]], look: Look) -> None:
        first, *others = points
        self.told.append(f"{self._look(look)} {self._at(*first)} m {' '.join(f'{self._at(*p)} l' for p in others)} S")

    def dot(self, x: float, y: float, across: float, colour: str) -> None:
        r = across / 2
        k, a, b = r * ROUND, x * POINTS, self.tall - y * POINTS
        quarters = (
            (a + r, b + k, a + k, b + r, a, b + r),
            (a - k, b + r, a - r, b + k, a - r, b),
            (a - r, b - k, a - k, b - r, a, b - r),
            (a + k, b - r, a + r, b - k, a + r, b),
        )
        round_it = " ".join(f"{' '.join(f'{v:.2f}' for v in q)} c" for q in quarters)
        self.told.append(f"/{self.document.alpha(1)} gs {_rgb(colour)} rg {a + r:.2f} {b:.2f} m {round_it} f")

    def text(self, x: float, y: float, text: str, size: float, colour: str, bold: bool = False, end: bool = False) -> None:
        if not text:
            return
        glyphs = [_face(bold).glyph(c) for c in text]
        self.document.used[bold].update(text)
        left = x * POINTS - (sum(w for _, w in glyphs) * size / 1000 if end else 0)
        codes = "".join(f"{number:04X}" for number, _ in glyphs)
        look = f"/{self.document.alpha(1)} gs {_rgb(colour)} rg"
        self.told.append(f"{look} BT /F{int(bold)} {size:.2f} Tf {left:.2f} {self.tall - y * POINTS:.2f} Td <{codes}> Tj ET")

    @contextmanager
    def within(self, x: float, y: float, wide: float, tall: float) -> Iterator[None]:
        self.told.append(f"q {self._at(x, y + tall)} {wide * POINTS:.2f} {tall * POINTS:.2f} re W n")
        yield
        self.told.append("Q")

    @contextmanager
    def saying(self, element: Element | None) -> Iterator[None]:
        """What is drawn meanwhile is what a part of the document says; without one, decoration that nobody reads aloud."""
        if element is None:
            self.told.append("/Artifact BMC")
        else:
            number = len(self.marks)
            self.told.append(f"/{element.type} <</MCID {number}>> BDC")
            self.marks.append(element)
            element.kids.append((self, number))
        yield
        self.told.append("EMC")


class PdfDrawing:
    """A PDF of drawn sheets, each of its own size in inches.

    >>> drawing = PdfDrawing("Nothing")
    >>> drawing.sheet(11.69, 8.27).text(1, 1, "Ahoy", 10, "#000000")
    >>> drawing.content()[:8]
    b'%PDF-1.7'
    """

    def __init__(self, title: str) -> None:
        self.title = title
        self.pens: list[PdfPen] = []
        self.used: dict[bool, set[str]] = {False: set(), True: set()}
        self._alphas: dict[float, str] = {}
        self.document_tree = Element("Document")

    def alpha(self, value: float) -> str:
        """The name of a state in which colours cover so much."""
        return self._alphas.setdefault(round(value, 2), f"A{round(value * 100)}")

    def sheet(self, wide: float, tall: float) -> PdfPen:
        """One more page, and what draws it."""
        self.pens.append(PdfPen(self, wide, tall))
        return self.pens[-1]

    def content(self) -> bytes:
        """The file."""
        pdf = pydyf.PDF()
        pdf.info.update({"Title": pydyf.String(self.title), "Creator": pydyf.String("Dry Ledger")})
        pdf.catalog["ViewerPreferences"] = pydyf.Dictionary({"DisplayDocTitle": "true"})
        fonts = pydyf.Dictionary({f"F{int(bold)}": _embedded(pdf, bold, used) for bold, used in self.used.items() if used})
        states = {name: pydyf.Dictionary({"CA": value, "ca": value}) for value, name in self._alphas.items()}
        resources = pydyf.Dictionary({"Font": fonts, "ExtGState": pydyf.Dictionary(states)})
        pdf.add_object(resources)
        pages = []
        for number, pen in enumerate(self.pens):
            stream = pydyf.Stream(["\n".join(pen.told)], compress=True)
            pdf.add_object(stream)
            size = pydyf.Array([0, 0, round(pen.wide, 2), round(pen.tall, 2)])
            of = {"Type": "/Page", "Parent": pdf.pages.reference, "MediaBox": size}
            more = {"StructParents": number} if self.document_tree.kids else {}
            pages.append(pydyf.Dictionary({**of, **more, "Contents": stream.reference, "Resources": resources.reference}))
            pdf.add_page(pages[-1])
        if self.document_tree.kids:
            self._tag(pdf, dict(zip(self.pens, pages, strict=True)))
        out = io.BytesIO()
        pdf.write(out, compress=True)
        return out.getvalue()

    def _tag(self, pdf: Any, pages: dict[PdfPen, Any]) -> None:
        """The tree of what the document says, with the place of each part on its page."""
        root = pydyf.Dictionary({"Type": "/StructTreeRoot"})
        pdf.add_object(root)
        made: dict[int, Any] = {}

        def put(element: Element, parent: Any) -> Any:
            out = pydyf.Dictionary({"Type": "/StructElem", "S": f"/{element.type}", "P": parent.reference})
            pdf.add_object(out)
            made[id(element)] = out
            if element.type == "TH":
                out["A"] = pydyf.Dictionary({"O": "/Table", "Scope": "/Column"})
            out["K"] = pydyf.Array([put(k, out).reference if isinstance(k, Element) else _mark(pages[k[0]], k[1]) for k in element.kids])
            return out

        root["K"] = put(self.document_tree, root).reference
        numbers = [x for n, pen in enumerate(self.pens) for x in (n, pydyf.Array([made[id(e)].reference for e in pen.marks]))]
        root["ParentTree"] = pydyf.Dictionary({"Nums": pydyf.Array(numbers)})
        pdf.catalog["StructTreeRoot"] = root.reference
        pdf.catalog["MarkInfo"] = pydyf.Dictionary({"Marked": "true"})
        pdf.catalog["Lang"] = pydyf.String(settings.LANGUAGE)


def _mark(page: Any, number: int) -> Any:
    return pydyf.Dictionary({"Type": "/MCR", "Pg": page.reference, "MCID": number})


def _embedded(pdf: Any, bold: bool, used: set[str]) -> bytes:
    """A font with the glyphs of some characters, embedded as a composite font whose codes are the glyphs' numbers."""
    face, name = _face(bold), f"DRYLGR+{FACES[bold]}"
    font = TTFont(_file(bold))
    keep = subset.Options(retain_gids=True, notdef_outline=True, hinting=False, layout_features=[], glyph_names=False)
    cut = subset.Subsetter(keep)
    cut.populate(text="".join(used))
    cut.subset(font)
    file = io.BytesIO()
    font.save(file)
    data = pydyf.Stream([file.getvalue()], {"Length1": len(file.getvalue())}, compress=True)
    pdf.add_object(data)
    about = {"Type": "/FontDescriptor", "FontName": f"/{name}", "Flags": 4, "FontBBox": pydyf.Array(face.box), "ItalicAngle": 0}
    about |= {"Ascent": face.ascent, "Descent": face.descent, "CapHeight": 729, "StemV": 120 if bold else 80}
    descriptor = pydyf.Dictionary({**about, "FontFile2": data.reference})
    pdf.add_object(descriptor)
    known = sorted({face.glyph(c): c for c in used if ord(c) in face.glyphs}.items())
    widths = pydyf.Array([x for (number, width), _ in known for x in (number, pydyf.Array([round(width, 1)]))])
    system = pydyf.Dictionary({"Registry": pydyf.String("Adobe"), "Ordering": pydyf.String("Identity"), "Supplement": 0})
    below = {"Type": "/Font", "Subtype": "/CIDFontType2", "BaseFont": f"/{name}", "CIDSystemInfo": system, "W": widths}
    inner = pydyf.Dictionary({**below, "FontDescriptor": descriptor.reference, "DW": 600, "CIDToGIDMap": "/Identity"})
    pdf.add_object(inner)
    letters = pydyf.Stream([_letters([(number, c) for (number, _), c in known])], compress=True)
    pdf.add_object(letters)
    whole = {"Type": "/Font", "Subtype": "/Type0", "BaseFont": f"/{name}", "Encoding": "/Identity-H"}
    top = pydyf.Dictionary({**whole, "DescendantFonts": pydyf.Array([inner.reference]), "ToUnicode": letters.reference})
    pdf.add_object(top)
    reference: bytes = top.reference
    return reference


def _letters(known: Sequence[tuple[int, str]]) -> str:
    """Which character each glyph stands for: so the text can be searched, copied and read aloud."""
    out = ["/CIDInit /ProcSet findresource begin 12 dict begin begincmap /CMapName /Letters def /CMapType 2 def"]
    out.append("1 begincodespacerange <0000> <FFFF> endcodespacerange")
    for i in range(0, len(known), 100):
        some = known[i : i + 100]
        out.append(f"{len(some)} beginbfchar")
        out += [f"<{number:04X}> <{c.encode('utf-16-be').hex().upper()}>" for number, c in some]
        out.append("endbfchar")
    return "\n".join([*out, "endcmap CMapName currentdict /CMap defineresource pop end end"])
