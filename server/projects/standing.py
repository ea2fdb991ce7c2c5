"""How a project stands in the portfolio: real, a what-if copy, or retired; its place among the groups; and deleting one."""

from django.db import transaction

from dryledger.errors import EntryRefused
from server.accounts.audit import note
from server.accounts.models import Role
from server.book.access import Access
from server.book.models import Activity, External, Page, Project, Resource, Standing
from server.shared.problems import Refused
from server.shared.words import sentence

LONGEST_PLACE = 300
PART = "/"


def stand(access: Access, standing: str) -> None:
    """Make a what-if copy real, retire a project, or bring a retired one back; the audit trail says who. Raises Refused."""
    access.require(Role.APPROVER, sentence("projects.stand"))
    project = access.project
    if standing == Standing.WHAT_IF:
        raise EntryRefused("standing", sentence("projects.what_if_from_copy"))
    if project.standing == standing:
        return
    Project.objects.filter(pk=project.pk).update(standing=standing)
    note("project", sentence(f"projects.now_{standing}", code=project.code), access.person)


def put_at(access: Access, place: str) -> str:
    """Put a project into a group of the tree: names apart by slashes, from the top down; nothing for none."""
    access.require(Role.ANALYST, sentence("plan.change_plan"))
    parts = [" ".join(p.split()) for p in place.split(PART)]
    found = f" {PART} ".join(p for p in parts if p)
    if len(found) > LONGEST_PLACE:
        raise EntryRefused("place", sentence("projects.place_long", most=LONGEST_PLACE))
    Project.objects.filter(pk=access.project.pk).update(place=found)
    return found


def delete(access: Access, code: str) -> None:
    """Delete a project in which nothing is dry and on which no other project waits. `code` is its code, typed once more. Raises Refused."""
    access.require(Role.APPROVER, sentence("projects.delete"))
    project = access.project
    if code.strip() != project.code:
        raise EntryRefused("code", sentence("projects.type_code", code=project.code))
    with transaction.atomic():
        Project.objects.select_for_update().get(pk=project.pk)
        dry = Page.objects.filter(project=project, state="dry").count()
        if dry:
            raise Refused("sealed", sentence("projects.only_retire", code=project.code, count=dry), 409)
        own = Activity.objects.filter(project=project).values("pk")
        waiting = External.objects.filter(of__in=own).exclude(project=project).values_list("project__code", flat=True).distinct()
        if waiting:
            raise Refused("in-use", sentence("projects.waited_for", code=project.code, names=", ".join(sorted(waiting))), 409)
        for rows in (Page, Activity, Resource):  # each goes before what it refers to
            rows.objects.filter(project=project).delete()
        project.delete()
    note("project", sentence("projects.deleted", code=code), access.person)
