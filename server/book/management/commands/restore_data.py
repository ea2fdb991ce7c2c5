"""`./dry restore FILE`: put a copy in the place of the data. It is brought up to date and verified apart first."""

from pathlib import Path

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser

from server.book.backup import BackupRefused, checked, put_back


class Command(BaseCommand):
    """Check a copy (--check), or put one that is brought up to date in the place of the data."""

    help = "Put a copy back."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--check", action="store_true")

    def handle(self, *args: object, file: Path, check: bool = False, **options: object) -> None:
        try:
            if check:
                checked(file)
                return
            projects = put_back(file, Path(str(settings.DATABASES["default"]["NAME"])))
        except BackupRefused as no:
            raise CommandError(str(no)) from None
        self.stdout.write(f"Restored {projects} projects, checked.")
