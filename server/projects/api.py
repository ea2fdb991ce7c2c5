"""Projects over HTTP: a project's own page, templates, states."""

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.book.access import ProjectView, RoleView
from server.projects import actions, selectors
from server.shared.plain import plain
from server.shared.schema import serializer_for
from server.shared.words import sentence


class TemplatesView(RoleView):
    """The templates that ship, and what a new project can be told at once."""

    @extend_schema(responses=serializer_for(actions.TemplatesOut), operation_id="templates")
    def get(self, request: Request) -> Response:
        return Response(plain(actions.templates()))


class ProjectPageView(ProjectView):
    """The project's fields and registers."""

    @extend_schema(responses=serializer_for(selectors.ProjectPage), operation_id="project_page")
    def get(self, request: Request, project: str) -> Response:
        return Response(plain(selectors.project_page(self.access)))


class StatesForm(serializers.Serializer[object]):
    """The life-cycle states that the organisation uses."""

    states = serializers.ListField(child=serializers.CharField(max_length=100, allow_blank=True), max_length=50)


class StatesView(RoleView):
    """Keep the organisation's list of life-cycle states."""

    needs = {"put": (Role.APPROVER, sentence("projects.change_organisations_lists"))}

    @extend_schema(request=StatesForm, responses=StatesForm, operation_id="keep_states")
    def put(self, request: Request) -> Response:
        form = StatesForm(data=request.data)
        form.is_valid(raise_exception=True)
        return Response({"states": actions.keep_states(form.validated_data["states"])})
