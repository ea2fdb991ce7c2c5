"""A file as a baseline of a project that is there: the plan in it is read as a book, its rows by where they stand."""

from typing import Any

from dryledger.book.plan import Book
from dryledger.errors import BookInvalid
from server.baseline.elsewhere import MatchOut, bring
from server.book.access import Access
from server.book.documents import book_document
from server.book.loading import read_text
from server.exchange.reading import read_file
from server.shared import exact_json
from server.shared.problems import Refused
from server.shared.words import sentence

LENT = ("project", "calendars", "resources", "wbs", "fields")
"""What a file may lack of a plan: the project's own stands in for it."""


def as_baseline(access: Access, file: str, content: bytes, words: tuple[str, str], apply: bool, revision: int | None) -> MatchOut:
    """Say what a file gives as a baseline, row by row; with `apply` take it. Raises BookInvalid, Refused, ChangeRefused."""
    book, rows = _plan(access, file, content)
    seen = access.project.revision if revision is None else revision
    return bring(access, seen, book, rows, words, file, apply)


def _plan(access: Access, file: str, content: bytes) -> tuple[Book, dict[str, str]]:
    """The plan in a file, and in which row of it each activity stands."""
    plan = read_file(file, content, None)
    rows = [a["code"] for a in plan.document.get("activities") or [] if isinstance(a, dict) and a.get("code")]
    places = {code: sentence("baseline.row_of_file", row=i) for i, code in enumerate(rows, 1)}
    for path, (table, number) in plan.origin.items():
        if path.startswith("activities[") and path.endswith("]") and path[11:-1].isdigit() and int(path[11:-1]) < len(rows):
            places[rows[int(path[11:-1])]] = sentence("baseline.row_of_table", table=table, row=number)
    if plan.book is not None:
        return plan.book, places
    if not rows:
        if plan.faults:
            raise Refused("not-readable", plan.faults[0].message, 422, field="file")
        raise Refused("nothing-there", sentence("baseline.no_activities_in_file"), 422, field="file")
    document: dict[str, Any] = {"format": "dry-ledger-book", "version": 1} | plan.document
    own = book_document(access.project)
    for key in LENT:
        if not document.get(key):
            document[key] = own.get(key) or []
    document["project"] = {k: v for k, v in document["project"].items() if k not in ("measured_against", "compared_with")}
    document.pop("periods", None)
    try:
        return read_text(exact_json.encode(document))[1], places
    except BookInvalid as wrong:
        raise Refused(
            "not-readable",
            sentence("baseline.file_is_no_plan", why=f"{wrong.faults[0].path}: {wrong.faults[0].message}"),
            422,
            field="file",
        ) from None
