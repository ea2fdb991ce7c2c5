"""The demo's two feeds, at the ports on this machine where their stand-ins answer; three wrong rows wait in the timesheets' tray."""

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from server.accounts.models import Person, Role
from server.book.access import access
from server.book.models import Project
from server.feeds.actions import fetch_feed
from server.feeds.models import Feed

FEEDS = (("Yard timesheets", "timesheet", "timesheets.csv"), ("Harbour ledger", "cost", "costs.json"))
WAITING = ("TS-1004", "TS-1006", "TS-1007")


class Command(BaseCommand):
    """Name the demo's feeds once, and say where their sources answer now."""

    help = "Name the feeds of the demo."
    requires_system_checks: list[str] = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("sources", help="ports of the timesheets and of the ledger, with a comma between")

    def handle(self, *args: object, sources: str, **options: object) -> None:
        project = Project.objects.filter(code="FERRY").first()
        if project is None:
            return
        for (name, kind, file), port in zip(FEEDS, sources.split(","), strict=True):
            feed, made = Feed.objects.get_or_create(project=project, name=name, defaults={"kind": kind})
            feed.address = f"http://127.0.0.1:{port}/{file}"
            feed.save()
            if made and kind == "timesheet":
                lines = (settings.ROOT / "stand_ins" / file).read_text().splitlines()
                wrong = [lines[0], *(line for line in lines if line.startswith(WAITING))]
                analyst = Person.objects.filter(role=Role.ANALYST).order_by("pk")[0]
                fetch_feed(access(analyst, project.code), feed.pk, "\n".join(wrong))
