"""Who asks for what: every view of a project stands on `ProjectView`, which finds project and page and asks the role."""

from dataclasses import dataclass
from typing import Any, ClassVar

from django.db.models import Q, QuerySet
from rest_framework.request import Request
from rest_framework.views import APIView

from server.accounts.models import Person, Role
from server.accounts.roles import covers, demand, person_of, require
from server.book.lookup import find_page, no_project, wet_page
from server.book.membership import Member
from server.book.models import Page, Project
from server.book.results import View, view_of
from server.shared.problems import NotAllowed
from server.shared.words import sentence

Needs = dict[str, tuple[Role, str]]
"""For a method of HTTP the least role, and what it is needed for (“post on a page”). Methods that are not named are for readers."""


@dataclass(frozen=True)
class Access:
    """A person at a project. Rooms get one; none of them looks for a project by itself."""

    person: Person
    project: Project
    role: str

    def may(self, role: Role) -> bool:
        """Whether the person has a role, or a higher one, here."""
        return covers(self.role, role)

    def require(self, role: Role, to_do: str) -> None:
        """Raises NotAllowed unless the person has the role here."""
        demand(self.role, role, to_do)

    def page(self, code: str) -> Page:
        """A page of the project; `now` is the wet one."""
        return find_page(self.project, code)

    def wet(self, code: str) -> Page:
        """A page that may be written."""
        return wet_page(self.project, code)

    def view(self, code: str) -> View:
        """The project at a page."""
        return view_of(self.project, self.page(code))

    def again(self) -> "Access":
        """The same with the project as it is now."""
        return access(self.person, self.project.code)


def access(person: Person, code: str) -> Access:
    """Somebody at a project by its code. Raises Refused where there is none, and in the same words where the person may not see it:
    who is only asked for progress there sees nothing of it but that."""
    project = Project.objects.filter(code=code).first()
    role = None if project is None else role_at(person, project)
    if project is None or role is None or not covers(role, Role.READER):
        raise no_project(code)
    return Access(person, project, role)


def role_at(person: Person, project: Project) -> str | None:
    """What a person is at a project: what it says of its members, else what its person is everywhere; None where that is nothing."""
    own = Member.objects.filter(project=project, person=person).values_list("role", flat=True).first()
    if own is not None:
        return own
    return None if project.members_only or person.role == "none" else person.role


def sees(person: Person | None, project: Project) -> bool:
    """Whether a person may see a project; nobody in particular (None) sees those that are not for members only."""
    role = None if person is None else role_at(person, project)
    return not project.members_only if person is None else role is not None and covers(role, Role.READER)


def visible(person: Person) -> QuerySet[Project]:
    """The projects that a person may see."""
    own = Q(pk__in=Member.objects.filter(person=person).exclude(role=Role.CONTRIBUTOR).values("project"))
    less = Q(pk__in=Member.objects.filter(person=person, role=Role.CONTRIBUTOR).values("project"))
    return Project.objects.filter(own if person.role == "none" else own | (Q(members_only=False) & ~less))


def people_at(project: Project) -> QuerySet[Person]:
    """Everybody who is somebody at a project, a contributor too."""
    members = Q(memberships__project=project)
    return Person.objects.filter(members if project.members_only else members | ~Q(role="none"), is_active=True).distinct()


class RoleView(APIView):
    """A view of the organisation that says which role each of its methods takes."""

    needs: ClassVar[Needs] = {}

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        super().initial(request, *args, **kwargs)
        need = self.needs.get((request.method or "").lower())
        if need is not None:
            require(person_of(request), *need)


class AdministratorView(APIView):
    """A view for administrators alone."""

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        super().initial(request, *args, **kwargs)
        if not person_of(request).administrator:
            raise NotAllowed(sentence("accounts.takes_administrator"))


class ProjectView(APIView):
    """A view of a project, found before anything else is done, that says which role there each of its methods takes."""

    needs: ClassVar[Needs] = {}
    access: Access

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        super().initial(request, *args, **kwargs)
        self.access = access(person_of(request), kwargs["project"])
        need = self.needs.get((request.method or "").lower())
        if need is not None:
            self.access.require(*need)
