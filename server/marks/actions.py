"""Saving the rules of a project as one step, and keeping sets of rules for the organisation."""

from collections.abc import Sequence
from dataclasses import dataclass

from django.db import transaction

from dryledger.errors import BookInvalid
from dryledger.marks.written import with_rules
from server.book.access import Access
from server.book.results import View
from server.book.workspace import workspace_of
from server.journal.steps import ask, unchanged
from server.journal.writing import write_list
from server.marks.models import RuleSet
from server.marks.selectors import MarksOut, TriedMarks, kept_rule, marks_out, try_rules
from server.shared.problems import Refused
from server.shared.words import sentence

MOST_RULES, MOST_SETS = 200, 100


@dataclass
class RulesSaved:
    """The rules as they are in force now."""

    label: str
    marks: MarksOut


def tried(v: View, rules: Sequence[object]) -> TriedMarks:
    """What rules would do. Raises Refused at the rule that is wrong."""
    try:
        return try_rules(v, rules)
    except BookInvalid as no:
        raise _refused(no) from None


def set_rules(access: Access, page_code: str, revision: int, rules: Sequence[object]) -> RulesSaved:
    """Save the rules of a project, as one step; none is the shipped set again. Raises Refused at the rule that is wrong, Stale."""
    ask(access, "marks")
    access.wet(page_code)
    unchanged(access, revision)
    w = workspace_of(access.project)
    try:
        book = with_rules(w.book, list(rules))
    except BookInvalid as no:
        raise _refused(no) from None
    label = sentence("marks.saved", count=len(book.mark_rules)) if book.mark_rules else sentence("marks.shipped")
    write_list(access, revision, "marks", "mark_rules", [kept_rule(x) for x in book.mark_rules], label)
    return RulesSaved(label, marks_out(access.view(page_code)))


def _refused(no: BookInvalid) -> Refused:
    """The first thing that is wrong, at its place."""
    first = no.faults[0]
    return Refused("rules-refused", first.message, 422, field=first.path)


def keep_set(access: Access, name: str, rules: Sequence[object]) -> None:
    """Keep a set of rules for the organisation under a name; one of that name is replaced. Raises Refused."""
    if not name.strip():
        raise Refused("entry-refused", sentence("marks.name_needed"), 422, field="name")
    try:
        book = with_rules(access.view("now").book, list(rules))
    except BookInvalid as no:
        raise _refused(no) from None
    documents = [kept_rule(x) for x in book.mark_rules]
    if not documents:
        raise Refused("entry-refused", sentence("marks.set_needs_rules"), 422, field="name")
    with transaction.atomic():
        held = RuleSet.objects.filter(name=name.strip()[:100]).first()
        if held is None and RuleSet.objects.count() >= MOST_SETS:
            raise Refused("too-many", sentence("marks.too_many_sets", most=MOST_SETS), 409)
        RuleSet.objects.update_or_create(name=name.strip()[:100], defaults={"rules": documents})


def drop_set(pk: int) -> None:
    """Delete a set of the organisation. Projects that took it over keep their rules."""
    if not RuleSet.objects.filter(pk=pk).delete()[0]:
        raise Refused("not-found", sentence("marks.set_gone"), 404)
