"""`./dry person NAME`: somebody who may sign in; asks for the password."""

import getpass
import sys

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandParser

from server.accounts.models import Person, Role


class Command(BaseCommand):
    """Add a person, or give one a new password or role."""

    help = "Add a person, or give one a new password or role."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("username")
        parser.add_argument("--full-name", required=True)
        parser.add_argument("--role", choices=Role.values, default=Role.READER)

    def handle(self, *args: object, username: str, full_name: str, role: str, **options: object) -> None:
        password = getpass.getpass("Password: ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
        try:
            validate_password(password)
        except ValidationError as error:
            self.stderr.write(" ".join(error.messages))
            sys.exit(2)
        person, _ = Person.objects.get_or_create(username=username)
        person.full_name, person.role = full_name, role
        person.set_password(password)
        person.save()
        self.stdout.write(f"{full_name} may sign in as {role}.")
