"""A project's rows as a document in the open format, for sealing and export."""

from typing import Any

from django.db.models import QuerySet

from dryledger.book.lists import LISTS as BOOK_LISTS
from dryledger.book.registers import REGISTERS
from server.book.models import LISTS, PAGE_LISTS, Activity, External, Page, Project, Resource, WbsElement
from server.book.rows import BookRow, untouched

CODED: dict[str, type[BookRow]] = {"activities": Activity, "resources": Resource, "wbs": WbsElement, "externals": External}
"""The lists that rows of others refer to by key."""


def codes_of(project: Project) -> dict[str, dict[int, str]]:
    """For each list that others refer to, the code of each key."""
    return {key: dict(model.all_rows().filter(project=project).values_list("pk", "code")) for key, model in CODED.items()}


def rows_of(project: Project, key: str) -> "QuerySet[Any]":
    """The rows of one of the book's lists, in its order."""
    found = LISTS[key].all_rows().filter(project=project)
    return found.filter(register=key) if key in REGISTERS else found


def plan_document(project: Project, codes: dict[str, dict[int, str]], exact: bool = False) -> dict[str, Any]:
    """The book without its periods."""
    out: dict[str, Any] = {"format": "dry-ledger-book", "version": 1, "project": project.to_book(exact)}
    for key in LISTS:
        out |= BOOK_LISTS[key].written([row.to_book(codes, exact) for row in rows_of(project, key)])
    return {**out, **untouched(project.book_extra, exact)}


def page_document(page: Page, codes: dict[str, dict[int, str]], exact: bool = False) -> dict[str, Any]:
    """One page as the book writes it."""
    out = page.to_book(codes, exact)
    note = out.pop("note", None)
    for key, model in PAGE_LISTS.items():
        out[key] = [row.to_book(codes, exact) for row in model.all_rows().filter(page=page)]
    return out if note is None else out | {"note": note}


def book_document(project: Project, until: Page | None = None, exact: bool = False) -> dict[str, Any]:
    """The whole book as a document; `until` leaves out the pages after that one. Numbers are decimals where `exact`, else plain."""
    codes = codes_of(project)
    pages = Page.objects.filter(project=project).defer("inputs", "results")
    if until is not None:
        pages = pages.filter(order__lte=until.order)
    return plan_document(project, codes, exact) | {"periods": [page_document(p, codes, exact) for p in pages]}
