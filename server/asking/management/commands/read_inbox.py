"""Read the sheets that lie in the inbox into the trays of their pages: python server/manage.py read_inbox [FOLDER]

What was read goes into the folder `read` beside them, what can't be into `refused`, with a line that says why.
"""

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from server.asking.inbox import read_inbox


class Command(BaseCommand):
    """Reads the inbox once."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("folder", nargs="?", default="")

    def handle(self, *args: Any, **options: Any) -> None:
        for line in read_inbox(Path(options["folder"] or settings.INBOX)):
            self.stdout.write(line)
