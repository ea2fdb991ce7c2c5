"""Reading a feed's text: CSV (RFC 4180) or a JSON array of flat objects, into rows of texts by column."""

import csv
import hashlib
import io
import json
from typing import Any

from server.shared.problems import Refused
from server.shared.words import sentence

MOST_ROWS = 50_000
MOST_COLUMNS = 100
LONGEST = 2000

FIELDS: dict[str, tuple[tuple[str, bool], ...]] = {
    "timesheet": (
        *(("person", True), ("date", True), ("activity", True), ("hours", True)),
        *(("overtime", False), ("remaining", False), ("id", False), ("changed", False), ("text", False)),
    ),
    "cost": (
        *(("id", False), ("date", True), ("activity", True), ("amount", True), ("source", False)),
        *(("currency", False), ("reference", False), ("supplier", False), ("order", False), ("text", False)),
    ),
}
"""What a row of each kind of feed holds, and whether it must."""
_ALSO = {
    "person": ("employee", "name", "resource", "worker"),
    "date": ("week ending", "day", "booked on", "posting date", "invoice date"),
    "activity": ("task", "activity code", "wbs", "wbs element", "activity or wbs", "account"),
    "hours": ("worked", "normal hours", "regular"),
    "overtime": ("overtime hours",),
    "remaining": ("to go", "hours remaining", "estimate to complete"),
    "id": ("row", "entry", "number", "record"),
    "reference": ("ref", "invoice", "document"),
    "order": ("order number", "purchase order", "po"),
    "source": ("type", "kind"),
    "amount": ("cost", "value", "net"),
    "text": ("comment", "description", "remark", "note"),
    "changed": ("modified", "changed on"),
}
Row = dict[str, str]


def read_rows(content: bytes) -> tuple[list[str], list[Row]]:
    """The columns and the rows. Raises Refused in a sentence for what is neither, or breaks off."""
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise Refused("feed", sentence("feeds.not_text"), 422) from None
    start = text.lstrip()[:1]
    if not start:
        raise Refused("feed", sentence("feeds.empty"), 422)
    if start == "<":
        raise Refused("feed", sentence("feeds.web_page"), 422)
    if "\0" in text:
        raise Refused("feed", sentence("feeds.not_text"), 422)
    heads, rows = _json(text) if start in "[{" else _csv(text)
    if len(rows) > MOST_ROWS:
        raise Refused("feed", sentence("feeds.too_many", most=MOST_ROWS), 422)
    if len(heads) > MOST_COLUMNS:
        raise Refused("feed", sentence("feeds.too_wide", most=MOST_COLUMNS), 422)
    return heads, rows


def _json(text: str) -> tuple[list[str], list[Row]]:
    try:
        found = json.loads(text, parse_float=str, parse_int=str, parse_constant=str)
    except (ValueError, RecursionError):
        raise Refused("feed", sentence("feeds.broken_json"), 422) from None
    try:
        for x in found if isinstance(found, list) else ():
            "".join([*map(str, x), *map(str, x.values())] if isinstance(x, dict) else ()).encode()
    except UnicodeEncodeError:
        raise Refused("feed", sentence("feeds.not_text"), 422) from None
    if not isinstance(found, list) or not all(isinstance(x, dict) for x in found):
        raise Refused("feed", sentence("feeds.not_a_list"), 422)
    rows = []
    for i, x in enumerate(found):
        if any(isinstance(v, dict | list) for v in x.values()):
            raise Refused("feed", sentence("feeds.not_flat", row=i + 1), 422)
        rows.append({str(k).strip(): _text(v) for k, v in x.items()})
    heads = list(dict.fromkeys(k for row in rows for k in row))
    return heads, rows


def _text(value: Any) -> str:
    return "" if value is None else str(value).strip()[:LONGEST] if not isinstance(value, bool) else ("yes" if value else "no")


def _csv(text: str) -> tuple[list[str], list[Row]]:
    first = text.split("\n", 1)[0]
    mark = max(",;\t", key=first.count)
    try:
        lines = [
            line for line in csv.reader(io.StringIO(text, newline=""), delimiter=mark, strict=True) if any(cell.strip() for cell in line)
        ]
    except csv.Error:
        raise Refused("feed", sentence("feeds.broken_csv"), 422) from None
    heads = [cell.strip() for cell in lines[0]]
    if len(heads) < 2 or len(set(heads)) < len(heads):
        raise Refused("feed", sentence("feeds.no_heads"), 422)
    for i, line in enumerate(lines[1:], 2):
        if len(line) != len(heads):
            raise Refused("feed", sentence("feeds.half_row", row=i, count=len(line), all=len(heads)), 422)
    return heads, [{h: cell.strip()[:LONGEST] for h, cell in zip(heads, line, strict=True)} for line in lines[1:]]


def guessed(kind: str, heads: list[str], known: dict[str, str]) -> dict[str, str]:
    """Which column is which: what was mapped before where it is still there, else by its name."""
    by_name = {_letters(h): h for h in heads}
    out = {}
    for ours, _ in FIELDS[kind]:
        if known.get(ours) in heads:
            out[ours] = known[ours]
            continue
        found = next((by_name[n] for n in (_letters(x) for x in (ours, *_ALSO.get(ours, ()))) if n in by_name), None)
        if found is not None and found not in out.values():
            out[ours] = found
    return out


def _letters(text: str) -> str:
    return "".join(c for c in text.lower() if c.isalnum())


def key_of(raw: Row, columns: dict[str, str]) -> str:
    """By what a row is known: its id, or a digest of all that it says."""
    own = raw.get(columns.get("id", ""), "")
    if own:
        return f"id:{own[:90]}"
    texts = [raw.get(columns[c], "") for c in sorted(columns) if c not in ("changed", "text")]
    return "says:" + hashlib.sha256("\0".join(texts).encode()).hexdigest()[:40]
