"""Projects over HTTP: a project's own page, templates, states."""

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.book.registers import FIELD_KINDS
from server.accounts.models import Role
from server.accounts.roles import person_of
from server.book.access import ProjectView, RoleView
from server.projects import actions, kinds, selectors
from server.shared.forms import query
from server.shared.json_values import json_values
from server.shared.schema import serializer_for
from server.shared.words import sentence


class TemplatesView(RoleView):
    """The templates that ship, and what a new project can be told at once."""

    @extend_schema(responses=serializer_for(actions.TemplatesOut), operation_id="templates")
    def get(self, request: Request) -> Response:
        return Response(json_values(actions.templates()))


class ProjectPageView(ProjectView):
    """The project's fields and registers."""

    @extend_schema(responses=serializer_for(selectors.ProjectPage), operation_id="project_page")
    def get(self, request: Request, project: str) -> Response:
        return Response(json_values(selectors.project_page(self.access)))


class KindFieldForm(serializers.Serializer[object]):
    """An own field that a kind of project gives; a new one has no code yet."""

    code = serializers.CharField(max_length=100, default="", allow_blank=True)
    name = serializers.CharField(max_length=300, allow_blank=True)
    of = serializers.ChoiceField(("activity", "project"), default="activity")
    kind = serializers.ChoiceField(FIELD_KINDS, default="text")
    options = serializers.ListField(child=serializers.CharField(max_length=300, allow_blank=True), default=list, max_length=200)
    formula = serializers.CharField(max_length=500, default="", allow_blank=True)
    in_reports = serializers.ChoiceField(("yes", "no"), default="no")


class KindForm(serializers.Serializer[object]):
    """A kind of project: what it was called (for a new one nothing, revision 0), what it is called now, and its fields."""

    name = serializers.CharField(max_length=100, default="", allow_blank=True)
    called = serializers.CharField(max_length=100, allow_blank=True)
    revision = serializers.IntegerField(min_value=0)
    fields = serializers.ListField(child=KindFieldForm(), max_length=500)  # type: ignore[assignment]  # a field of the form


class KindName(serializers.Serializer[object]):
    """Which kind."""

    name = serializers.CharField(max_length=100)


class KindsView(RoleView):
    """The kinds of projects that the organisation keeps, with the own fields that each gives."""

    needs = dict.fromkeys(("put", "delete"), (Role.APPROVER, sentence("projects.change_organisations_lists")))

    @extend_schema(responses=serializer_for(kinds.ProjectKinds), operation_id="kinds")
    def get(self, request: Request) -> Response:
        return Response(json_values(kinds.kinds(person_of(request))))

    @extend_schema(request=KindForm, responses=serializer_for(kinds.KindKept), operation_id="keep_kind")
    def put(self, request: Request) -> Response:
        form = KindForm(data=request.data)
        form.is_valid(raise_exception=True)
        asked = form.validated_data
        fields = [kinds.KindField(**f) for f in asked["fields"]]
        return Response(json_values(kinds.keep(person_of(request), asked["name"], asked["called"], asked["revision"], fields)))

    @extend_schema(parameters=[KindName], responses={200: serializer_for(kinds.ProjectKinds)}, operation_id="drop_kind")
    def delete(self, request: Request) -> Response:
        return Response(json_values(kinds.drop(person_of(request), query(KindName, request)["name"])))


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
