"""`./dry import BOOK.json | FOLDER-OF-CSV | FILE.xlsx | ARCHIVE.zip`: a project into the database."""

import sys
from pathlib import Path

from django.core.management.base import BaseCommand, CommandParser

from dryledger.errors import BookInvalid, Fault
from server.book.loading import load_book, load_document
from server.book.models import Project
from server.exchange.bringing import bring_otherwise
from server.exchange.reading import document_of
from server.exchange.sheets import MOST_BYTES, read_folder, read_tables
from server.shared.problems import Refused


class Command(BaseCommand):
    """Load a book; say every fault where it can't be loaded."""

    help = "Load a book in the open format (JSON)."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("book", type=Path)
        parser.add_argument("--as", dest="code", help="give the project another code than the book's")

    def handle(self, *args: object, book: Path, code: str | None = None, **options: object) -> None:
        try:
            project = self.archived(book, code) or (
                load_book(book, code)
                if book.suffix.lower() not in (".xlsx", ".csv", ".zip") and not book.is_dir()
                else self.tables(book, code)
            )
        except OSError as error:
            self.stderr.write(f"{book} can't be read: {error.strerror}.")
            sys.exit(2)
        except Refused as refused:
            self.stderr.write(refused.detail)
            sys.exit(2)
        except BookInvalid as error:
            for f in error.faults:
                self.stderr.write(f"{f.path or book.name}: {f.message}")
            self.stderr.write(f"{book.name} was not loaded; nothing was changed.")
            sys.exit(2)
        self.stdout.write(f"Loaded {project.code}, {project.name}.")

    def archived(self, path: Path, code: str | None) -> Project | None:
        """Load an archive; None where it is none."""
        if path.is_dir() or path.suffix.lower() != ".zip":
            return None
        found = bring_otherwise(None, path.read_bytes(), code or "", True)
        return None if found is None else Project.objects.get(code=found.done)

    def tables(self, path: Path, code: str | None) -> Project:
        """Load a workbook or a folder of CSV files."""
        if not path.is_dir() and path.stat().st_size > MOST_BYTES:
            raise BookInvalid([Fault("", "the file is larger than 64 MB")])
        grids = read_folder(path) if path.is_dir() else read_tables(path.name, path.read_bytes())
        return load_document(document_of(grids), code)
