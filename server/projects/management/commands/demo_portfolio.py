"""The demo's portfolio: its groups, a what-if copy that is in no sum, and a baseline that an analyst asks for."""

from django.core.management.base import BaseCommand

from server.accounts.models import Person, Role
from server.baseline.asking import ask_for
from server.baseline.models import Ask
from server.book.access import access
from server.book.models import Project
from server.projects.actions import NewProject, create

PLACES = {
    "FERRY": "Fleet / Refits",
    "WINCH": "Port / Slipway",
    "BUOYS": "Port / Fairways",
    "LIGHTS": "Port / Fairways",
    "RADAR": "Port / Fairways",
}
COPY = NewProject("Radar, with the old tower kept", "RADAR-B", "copy", "RADAR", what_if=True)
ASKED = ("After change 1", "Change CH1 is approved: the shell plates are in the plan.")


class Command(BaseCommand):
    """Put the demo's projects into their groups, once."""

    help = "Group the demo's projects, and try one of them otherwise."
    requires_system_checks: list[str] = []

    def handle(self, *args: object, **options: object) -> None:
        for code, place in PLACES.items():
            Project.objects.filter(code=code, place="").update(place=place)
        ines = Person.objects.filter(role=Role.ANALYST).order_by("pk").first()
        if ines is None:
            return
        if Project.objects.filter(code=COPY.of).exists() and not Project.objects.filter(code=COPY.code).exists():
            create(ines, COPY)
            Project.objects.filter(code=COPY.code).update(place=PLACES[COPY.of])
        ferry = Project.objects.filter(code="FERRY").first()
        if ferry is not None and not Ask.objects.filter(project=ferry).exists():
            ask_for(access(ines, ferry.code), *ASKED, None, [])
