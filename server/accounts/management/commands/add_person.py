"""`./dry person NAME`: somebody who may sign in; asks for the password. The first one added is an administrator."""

import getpass
import sys

from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction

from server.accounts.audit import note
from server.accounts.models import Default, Person
from server.accounts.passwords import choose
from server.accounts.roles import SYNONYMS
from server.shared.problems import Refused
from server.shared.words import sentence


class Command(BaseCommand):
    """Add a person, or give one a new password or role."""

    help = "Add a person, or give one a new password or role."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("username")
        parser.add_argument("--full-name", required=True)
        parser.add_argument("--role", choices=Default.values, default=Default.READER)
        parser.add_argument("--administrator", action="store_true")

    def handle(self, *args: object, username: str, full_name: str, role: str, administrator: bool, **options: object) -> None:
        password = getpass.getpass("Password: ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
        first = not Person.objects.filter(administrator=True, is_active=True).exists()
        with transaction.atomic():
            person, _ = Person.objects.get_or_create(username=username)
            person.full_name, person.role = full_name, role
            person.administrator = person.administrator or administrator or first
            try:
                choose(person, password)
            except Refused as no:
                self.stderr.write(no.detail)
                sys.exit(2)
            more = sentence("people.and_administrator") if person.administrator else ""
            note("people", sentence("people.added", name=full_name, username=username, role=SYNONYMS[role], more=more))
        self.stdout.write(f"{full_name} may sign in as {SYNONYMS[role]}{more}.")
