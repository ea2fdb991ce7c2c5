"""The people of the demo: one of each role and an administrator, offered on the sign-in page in demo mode only. They have no password."""

from django.core.management.base import BaseCommand

from server.accounts.models import Person, Role

PEOPLE = [
    ("ines", "Ines Halloran", Role.ANALYST),
    ("lorcan", "Lorcan Astley", Role.APPROVER),
    ("maud", "Maud Ferrier", Role.READER),
    ("tobin", "Tobin Sallow", Role.ANALYST),
    ("wren", "Wren Oakley", Role.READER),
]


class Command(BaseCommand):
    """Make the demo people where they are missing."""

    help = "Make the demo people."

    def handle(self, *args: object, **options: object) -> None:
        for username, full_name, role in PEOPLE:
            known = {"demo": True, "administrator": username == "wren"}
            person, made = Person.objects.get_or_create(username=username, defaults=known | {"full_name": full_name, "role": role})
            if made:
                person.set_unusable_password()
                person.save()
