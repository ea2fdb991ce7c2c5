"""`./dry backup FILE`: a checked copy of all data, made while it is in use."""

from pathlib import Path

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.book.backup import BackupRefused, back_up


class Command(BaseCommand):
    """Copy the data to a new file."""

    help = "Copy the data."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: object, file: Path, **options: object) -> None:
        try:
            projects = back_up(Path(str(settings.DATABASES["default"]["NAME"])), file)
        except BackupRefused as no:
            raise CommandError(str(no)) from None
        self.stdout.write(f"Copied {projects} projects to {file}, checked.")
