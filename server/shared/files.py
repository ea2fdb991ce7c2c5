"""Files that people take away: texts that no spreadsheet runs, CSV, and the answer that a browser keeps as a file."""

import csv
import io
import re
from collections.abc import Iterable
from urllib.parse import quote

from django.http import HttpResponse

_RISKY = ("=", "+", "-", "@", "\t", "\r", "'")
_NEGATIVE = re.compile(r"-[0-9]+(\.[0-9]+)?")


def escaped(text: str) -> str:
    """A text that no spreadsheet takes for a formula: some drop spaces and line breaks before they look. A number is none."""
    if _NEGATIVE.fullmatch(text):
        return text
    return f"'{text}" if text.lstrip().startswith(_RISKY) or text.startswith(_RISKY) else text


def unescaped(text: str) -> str:
    """The text as it was before `escaped`."""
    return text[1:] if text.startswith("'") else text


def one_line(text: str) -> str:
    """A text on one line: mail and calendar programs take a line break for the end of a line of their own."""
    return " ".join(text.split())


def csv_text(titles: Iterable[str], rows: Iterable[Iterable[str]]) -> str:
    """Rows as CSV under their titles; every text as `escaped` keeps it."""
    text = io.StringIO()
    writer = csv.writer(text)
    writer.writerow(titles)
    writer.writerows([escaped(cell) for cell in row] for row in rows)
    return text.getvalue()


def download(content: str | bytes, name: str, kind: str) -> HttpResponse:
    """An answer that a browser keeps as a file of that name."""
    out = HttpResponse(content, content_type=kind)
    out["Content-Disposition"] = f"attachment; filename*=UTF-8''{quote(name)}"
    return out


CSV = "text/csv; charset=utf-8"
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
