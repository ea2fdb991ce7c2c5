"""Who asks for what: every view of a project stands on `ProjectView`, which finds project and page and asks the role."""

from dataclasses import dataclass
from typing import Any, ClassVar

from rest_framework.request import Request
from rest_framework.views import APIView

from server.accounts.models import Person, Role
from server.accounts.roles import may, person_of, require
from server.book.lookup import find_page, find_project, wet_page
from server.book.models import Page, Project
from server.book.results import View, view_of

Needs = dict[str, tuple[Role, str]]
"""For a method of HTTP the least role, and what it is needed for (“post on a page”). Methods that are not named are for readers."""


@dataclass(frozen=True)
class Access:
    """A person at a project. Rooms get one; none of them looks for a project by itself."""

    person: Person
    project: Project

    def may(self, role: Role) -> bool:
        """Whether the person has a role, or a higher one, here."""
        return may(self.person, role)

    def require(self, role: Role, to_do: str) -> None:
        """Raises NotAllowed unless the person has the role here."""
        require(self.person, role, to_do)

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
        return Access(self.person, Project.objects.get(pk=self.project.pk))


def access(person: Person, code: str) -> Access:
    """Somebody at a project by its code."""
    return Access(person, find_project(code))


class RoleView(APIView):
    """A view that says which role each of its methods takes."""

    needs: ClassVar[Needs] = {}

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        super().initial(request, *args, **kwargs)
        need = self.needs.get((request.method or "").lower())
        if need is not None:
            require(person_of(request), *need)


class ProjectView(RoleView):
    """A view of a project, found before anything else is done."""

    access: Access

    def initial(self, request: Request, *args: Any, **kwargs: Any) -> None:
        super().initial(request, *args, **kwargs)
        self.access = access(person_of(request), kwargs["project"])
