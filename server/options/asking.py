"""What people say: a choice that is asked for, choices and remarks."""

from django.db import transaction

from dryledger.errors import EntryRefused
from server.accounts.models import Role
from server.book.access import Access
from server.book.lookup import find_again
from server.options.actions import text_of
from server.options.computing import option_row
from server.options.models import Ask, Remark
from server.shared.words import sentence


def ask_for_choice(access: Access, text: str) -> None:
    """Ask readers for a choice; an empty text takes the question back."""
    access.require(Role.ANALYST, "ask for a choice")
    find_again(access.project)
    text = text_of(text, "text")
    with transaction.atomic():
        Ask.objects.filter(project=access.project, closed=False).update(closed=True)
        if text:
            Ask.objects.create(project=access.project, by=access.person, text=text)


def remark(access: Access, option: int | None, text: str, chosen: bool) -> None:
    """Say something of an option, or choose it; anybody who may read may. Choosing takes back one's earlier choice."""
    text = text_of(text, "text")
    if not text and not chosen:
        raise EntryRefused("text", sentence("options.say_something"))
    row = None if option is None else option_row(access, option)
    with transaction.atomic():
        if chosen:
            Remark.objects.filter(project=access.project, by=access.person, chosen=True).update(chosen=False)
        Remark.objects.create(project=access.project, option=row, by=access.person, text=text, chosen=chosen)
