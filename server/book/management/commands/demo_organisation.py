"""What the organisation of the demo keeps for all its projects: resources that they draw on, and kinds of projects."""

import json
from pathlib import Path

from django.core.management.base import BaseCommand, CommandParser

from server.book.organisation import Kind, Shared


class Command(BaseCommand):
    """Make the demo's lists of the organisation where they are missing."""

    help = "Load the lists of the demo's organisation where they are missing."
    requires_system_checks: list[str] = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("lists", type=Path)

    def handle(self, *args: object, lists: Path, **options: object) -> None:
        found = json.loads(lists.read_text())
        for x in found["resources"]:
            Shared.objects.get_or_create(code=x.pop("code"), defaults=x)
        for x in found["kinds"]:
            Kind.objects.get_or_create(name=x["name"], defaults={"fields": x["fields"]})
