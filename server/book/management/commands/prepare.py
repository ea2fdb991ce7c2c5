"""What `./dry demo` and `./dry serve` do before serving: migrate, and for the demo its people and its book, in one go."""

from pathlib import Path

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandParser


class Command(BaseCommand):
    """Bring the database up to date; with --demo also make the demo people and load its books where they are missing."""

    help = "Migrate, and load the demo."
    requires_system_checks: list[str] = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--demo", type=Path)
        parser.add_argument("--sources", default="")

    def handle(self, *args: object, demo: Path | None = None, sources: str = "", **options: object) -> None:
        call_command("migrate", verbosity=0, skip_checks=True)
        if demo is not None:
            call_command("demo_people")
            lists = demo / "organisation" / "lists.json"
            if lists.exists():
                call_command("demo_organisation", lists)
            for book in [demo] if demo.is_file() else sorted(demo.glob("*.json"), key=lambda f: f.stem != "ferry"):
                call_command("demo_book", book, stdout=self.stdout)
            call_command("demo_asking")
            if demo.is_dir():
                call_command("demo_portfolio")
            if sources:
                call_command("demo_feeds", sources)
