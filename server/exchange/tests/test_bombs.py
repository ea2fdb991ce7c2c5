"""Files made to burst: small to send, boundless to read. Each is refused in a sentence before it is unpacked, or while it is."""

import io
import struct
import zipfile

from django.test import SimpleTestCase

from dryledger.errors import BookInvalid
from server.exchange.sheets import csv_grid, read_tables, to_xlsx
from server.shared.files import escaped, unescaped

HEAD = b'<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>'


def packed(files: dict[str, list[bytes]]) -> bytes:
    """A zip of files, each given in pieces."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as z:
        for name, pieces in files.items():
            with z.open(name, "w") as f:
                for piece in pieces:
                    f.write(piece)
    return out.getvalue()


def lying(data: bytes, size: int) -> bytes:
    """The same zip, whose directory says that each file is small."""
    out, at = bytearray(data), data.find(b"PK\x01\x02")
    while at >= 0:
        struct.pack_into("<I", out, at + 24, size)
        at = data.find(b"PK\x01\x02", at + 4)
    return bytes(out)


class Bombs(SimpleTestCase):
    def refused(self, name: str, data: bytes) -> None:
        with self.assertRaises(BookInvalid) as told:
            read_tables(name, data)
        self.assertTrue(str(told.exception).strip())

    def test_what_bursts_is_refused(self) -> None:
        commas = [b"," * 1_000_000] * 180
        self.refused("bomb.zip", packed({"activities.csv": commas}))
        self.refused("bomb.zip", lying(packed({"activities.csv": commas}), 1000))
        row = b"<row>" + b"<c><v>1</v></c>" * 1000 + b"</row>"
        whole = io.BytesIO(to_xlsx([csv_grid("Activities", b"Activity code\nA\n")]))
        with zipfile.ZipFile(whole) as z:
            files = {n: [z.read(n)] for n in z.namelist()}
        files["xl/worksheets/sheet1.xml"] = [HEAD, *([row] * 12_000), b"</sheetData></worksheet>"]
        self.refused("bomb.xlsx", packed(files))
        self.refused("bomb.xlsx", lying(packed(files), 1000))

    def test_cells_that_a_spreadsheet_would_run_are_escaped(self) -> None:
        for text in ("=1+1", " =1+1", "\n=1", "\t@x", "\r\n +1", "-x", "  -1+2", "'=x"):
            kept = escaped(text)
            self.assertEqual(kept[:1], "'", repr(text))
            self.assertEqual(unescaped(kept), text)
