"""`./dry export CODE --to FILE`: a project out as book.json, file.xlsx or a folder of CSV files."""

import sys
from pathlib import Path

from django.core.management.base import BaseCommand, CommandParser

from server.accounts.audit import note
from server.book.models import Project
from server.exchange.writing import write
from server.shared.problems import Refused
from server.shared.words import sentence


class Command(BaseCommand):
    """Write a project to a file."""

    help = "Write a project as JSON, XLSX or a folder of CSV files, by the ending of the name."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("code")
        parser.add_argument("--to", type=Path, required=True)

    def handle(self, *args: object, code: str, to: Path, **options: object) -> None:
        project = Project.objects.filter(code=code).first()
        if project is None:
            self.stderr.write(
                f"There is no project “{code}”. There are: {', '.join(Project.objects.values_list('code', flat=True)) or 'none'}."
            )
            sys.exit(2)
        if to.suffix not in (".json", ".xlsx", ""):
            self.stderr.write(f"{to.name}: give a name that ends in .json or .xlsx, or a folder for CSV files.")
            sys.exit(2)
        try:
            write(project, to)
        except OSError as error:
            self.stderr.write(f"{to} can't be written: {error.strerror}.")
            sys.exit(2)
        except Refused as refused:
            self.stderr.write(refused.detail)
            sys.exit(2)
        note("export", sentence("audit.exported"), None, code)
        self.stdout.write(f"Wrote {code} to {to}.")
