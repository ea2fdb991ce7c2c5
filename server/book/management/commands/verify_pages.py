"""`./dry verify`: recompute every seal, the figures behind it, and the audit trail."""

import sys

from django.core.management.base import BaseCommand

from server.accounts.audit import faults
from server.book.models import Project
from server.book.verify import verify


class Command(BaseCommand):
    """Say for every project whether its dry pages are as they were closed."""

    help = "Verify the dry pages."

    def handle(self, *args: object, **options: object) -> None:
        wrong, differently = [], []
        for project in Project.objects.all():
            found = verify(project)
            wrong += found.wrong
            differently += found.differently
            since = f", {len(found.differently)} reckoned differently since" if found.differently else ""
            self.stdout.write(f"{project.code}: {found.dry} dry pages, {len(found.wrong)} wrong{since}.")
        wrong += faults()
        for told in differently:
            self.stdout.write(told)
        for told in wrong:
            self.stderr.write(told)
        if wrong:
            sys.exit(1)
