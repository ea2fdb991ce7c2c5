"""`./dry archive CODE FILE.zip`: a project as one file with everything that was sealed in it; `./dry import` brings it in elsewhere."""

import sys
from pathlib import Path

from django.core.management.base import BaseCommand, CommandParser

from server.accounts.audit import note
from server.archive.writing import archive
from server.book.models import Project
from server.shared.words import sentence


class Command(BaseCommand):
    """Write an archive; a file that is there is never written over."""

    help = "Write a project as an archive."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("code")
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, code: str, file: Path, **options: object) -> None:
        project = Project.objects.filter(code=code).first()
        if project is None:
            self.stderr.write(sentence("lookup.no_project", code=code))
            sys.exit(2)
        try:
            with file.open("xb") as out:
                out.write(archive(project))
        except OSError as error:
            self.stderr.write(sentence("archive.not_written", file=file, why=error.strerror))
            sys.exit(2)
        note("export", sentence("audit.archived"), None, code)
        self.stdout.write(f"Wrote {code} to {file}.")
