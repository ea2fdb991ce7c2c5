"""Projects in number, for measuring: copies of those of the demo under codes of their own."""

import json

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from server.book.loading import load_document
from server.book.models import Project
from server.desk.summaries import refresh


class Command(BaseCommand):
    """Load MANY0, MANY1, …: the first four as the ferry's project, each with its pages; the others as the smaller ones in turn."""

    help = "Load many projects, for measuring."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("count", type=int)

    def handle(self, *args: object, count: int, **options: object) -> None:
        books = {f.stem: json.loads(f.read_text()) for f in sorted((settings.ROOT / "demo").glob("*.json"))}
        small = [name for name in books if name != "ferry"]
        for i in range(count):
            document = books["ferry" if i < 4 else small[i % len(small)]]
            document["project"]["code"] = f"MANY{i}"
            load_document(document)
        refresh(Project.objects.values_list("pk", flat=True))
