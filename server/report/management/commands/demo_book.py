"""A book of the demo with what was said in its reports, the editions that were issued, and its distribution list."""

import json
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from server.accounts.models import Person, Role
from server.book.access import Access, access
from server.book.loading import load_book
from server.book.models import Page, Project
from server.report.actions import issue
from server.report.models import Draft, Recipient
from server.shared.problems import Refused


class Command(BaseCommand):
    """Load a book of the demo once; beside it, in `words/`, stands what its reports say."""

    help = "Load a book of the demo where it is missing."
    requires_system_checks: list[str] = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("book", type=Path)

    def handle(self, *args: object, book: Path, **options: object) -> None:
        code = json.loads(book.read_text())["project"]["code"]
        if Project.objects.filter(code=code).exists():
            return
        beside = book.parent / "words" / book.name
        words_beside: dict[str, Any] = json.loads(beside.read_text()) if beside.exists() else {}
        pages: dict[str, Any] = words_beside.get("pages", {})

        def words(page: Page) -> None:
            if page.code in pages:
                Draft.objects.create(page=page, **pages[page.code])

        project = load_book(book, before_sealing=words)
        for page in Page.objects.filter(project=project, state="wet"):
            words(page)
        Recipient.objects.bulk_create([Recipient(project=project, **x) for x in words_beside.get("distribution", [])])
        approver = Person.objects.filter(role=Role.APPROVER).first()
        for page_code in words_beside.get("issued", []) if approver else []:
            assert approver is not None
            _issue(access(approver, project.code), page_code)


def _issue(access: Access, page: str) -> None:
    """Issue the report of a page; where the machine can't make a PDF the demo has no edition."""
    try:
        issue(access.again(), page, access.again().project.revision)
    except Refused as no:
        if no.code != "pdf-missing":
            raise
