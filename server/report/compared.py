"""Two editions side by side: what one says otherwise than the other, section by section, row by row."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from server.report.content import title
from server.report.models import Edition
from server.shared.problems import Refused
from server.shared.words import sentence

Content = dict[str, Any]


@dataclass
class DifferentWords:
    """One thing that differs: where (section, row and column), its kind, and what each edition says; empty where it says nothing."""

    section: str
    row: str
    column: str
    kind: str
    was: str
    now: str


@dataclass
class EditionsCompared:
    """What an edition says otherwise than an earlier one, in the order of its sections; `same` counts what both say alike."""

    edition: str
    other: str
    same: int
    rows: list[DifferentWords]


def compared(edition: Edition, other: Edition) -> EditionsCompared:
    """What an edition says otherwise than another. Raises Refused where one keeps no content."""
    for e in (edition, other):
        if e.content is None:
            raise Refused("not-kept", sentence("report.not_kept", number=e.number, page=e.page.code), 409)
    was, now = _all(other.content or {}), _all(edition.content or {})
    order = [*now, *(key for key in was if key not in now)]
    rows = [
        DifferentWords(*key, kind, was.get(key, ("", ""))[1], now.get(key, ("", ""))[1])
        for key in order
        for kind in [(now.get(key) or was[key])[0]]
        if was.get(key, ("", ""))[1] != now.get(key, ("", ""))[1]
    ]
    alike = sum(1 for key in now if key in was and was[key][1] == now[key][1])
    return EditionsCompared(_name(edition), _name(other), alike, rows)


def _name(e: Edition) -> str:
    return f"{e.page.code}/{e.number}"


Place = tuple[str, str, str]


def _all(content: Content) -> dict[Place, tuple[str, str]]:
    """Everything that an edition says, by section, row and column, with its kind."""
    return dict(_in_words(content))


def _in_words(content: Content) -> Iterator[tuple[Place, tuple[str, str]]]:
    overall = title("overall")
    yield (overall, overall, ""), ("mark", str(content.get("status") or ""))
    yield (overall, sentence("report.col_reason"), ""), ("text", str(content.get("reason") or ""))
    for s in content.get("sections", []):
        if s["words"]:
            yield (s["title"], "", ""), ("text", s["words"])
        for i, x in enumerate(s.get("added", []), 1):
            yield (s["title"], sentence("report.addition", number=i), ""), ("text", x["line"])
        for h in s["heads"]:
            yield (s["title"], h["name"], sentence("report.col_mark")), ("mark", h["mark"])
            yield (s["title"], h["name"], sentence("report.col_reason")), ("text", h["reason"])
        for t in s["tables"]:
            yield from _table(s["title"], t)


def _table(section: str, t: Content) -> Iterator[tuple[Place, tuple[str, str]]]:
    where = f"{section}, {t['title'].lower()}" if t["title"] else section
    names = [str(row["cells"][0]["text"] or row["key"]) for row in t["rows"]]
    for row, name in zip(t["rows"], names, strict=True):
        shown = name if names.count(name) == 1 else f"{name} ({row['key']})"
        for column, cell in [x for x in zip(t["columns"], row["cells"], strict=True) if x[0]["key"] != "last"][1:]:
            yield (where, shown, column["title"]), (cell["kind"] or column["kind"], str(cell["text"] or ""))
        if row["cells"][0]["note"]:
            yield (where, shown, sentence("report.col_note")), ("text", row["cells"][0]["note"])
