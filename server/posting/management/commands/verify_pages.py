"""`./dry verify`: recompute every seal and the figures behind it."""

import sys

from django.core.management.base import BaseCommand

from server.plan.models import Project
from server.posting.models import Page
from server.posting.sealing import verify


class Command(BaseCommand):
    """Say for every project whether its dry pages are as they were closed."""

    help = "Verify the dry pages."

    def handle(self, *args: object, **options: object) -> None:
        wrong = []
        for project in Project.objects.all():
            found = verify(project)
            wrong += found
            dry = Page.objects.filter(project=project, state="dry").count()
            self.stdout.write(f"{project.code}: {dry} dry pages, {len(found)} wrong.")
        for sentence in wrong:
            self.stderr.write(sentence)
        if wrong:
            sys.exit(1)
