"""What is wrong with a file, each fault at the row and column that it came from."""

import itertools

from dryledger.compute import compute
from dryledger.errors import BookInvalid, Fault
from dryledger.exchange.book_json import book_from
from server.exchange.preview import FilePlan, FileRow, Reason
from server.exchange.tables import TABLES
from server.exchange.untabling import Trouble
from server.shared.words import sentence


def reason_of(fault: Fault) -> Reason:
    """A fault of the book as a whole, with its place."""
    at = f"{fault.path}: " if fault.path else ""
    return Reason(None, f"{at}{fault.message}")


def refuse(plan: FilePlan, t: Trouble) -> None:
    """Refuse the row that a trouble stands in, or the file where it stands in none."""
    if t.row is None:
        plan.faults.append(Reason(t.column, f"{t.table}: {t.message}"))
        return
    row = plan.outcome.setdefault((t.table, t.row), FileRow(t.row, "refuse", ""))
    row.what = "refuse"
    row.changes = []
    reason = Reason(t.column, t.message)
    if reason not in row.reasons:
        row.reasons.append(reason)


def judge(plan: FilePlan) -> None:
    """Every fault of the book that the file would make, at the row and column it came from."""
    document = {"format": "dry-ledger-book", "version": 1} | plan.document
    if not document.get("project"):
        plan.faults.append(Reason(None, sentence("judging.no_table_project_bring")))
        return
    told = {(t.table, t.row, t.column) for t in plan.read.troubles}
    try:
        book = book_from(document)
        compute(book)
    except BookInvalid as wrong:
        for f in wrong.faults[:2000]:
            trouble = _at(plan, f)
            missing = f.message.startswith("is required") and (trouble.table, trouble.row, trouble.column) in told
            if not missing:
                refuse(plan, trouble)


def _at(plan: FilePlan, fault: Fault) -> Trouble:
    """Where in the file a fault of the book came from."""
    if fault.path == "links" and "→" in fault.message:
        chain = fault.message.split(": ", 1)[1].split(". ")[0].split(" → ")
        for i, k in enumerate(plan.document.get("links", [])):
            if (k.get("from"), k.get("to")) in itertools.pairwise(chain) and f"links[{i}]" in plan.origin:
                table, row = plan.origin[f"links[{i}]"]
                return Trouble(table, row, "Predecessors" if table != "Links" else "To", fault.message)
    path, rest = fault.path, ""
    while path:
        if path in plan.origin:
            table, row = plan.origin[path]
            return Trouble(table, row, _column(table, rest), fault.message)
        head = path.rsplit(".", 1)[0] if "." in path.rsplit("]", 1)[-1] else path.rsplit("[", 1)[0] if path.endswith("]") else ""
        rest = path[len(head) :].lstrip(".") + (f".{rest}" if rest else "")
        path = head
    return Trouble("The file", None, None, f"{fault.path}: {fault.message}" if fault.path else fault.message)


def _column(title: str, key: str) -> str | None:
    table = next((t for t in TABLES if t.title.lower() == title.lower()), None)
    bare_key = key.split("[")[0]
    found = [c.title for c in table.columns if c.key in (key, bare_key)] if table else []
    return found[0] if found else key or None
