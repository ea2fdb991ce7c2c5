"""Projects over HTTP: a project's own page, templates, states."""

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.book.registers import FIELD_KINDS
from server.accounts.models import Role
from server.accounts.roles import person_of
from server.book.access import ProjectView, RoleView
from server.projects import actions, kinds, selectors, standing
from server.shared.forms import query, read
from server.shared.schema import serializer_for
from server.shared.words import sentence


class TemplatesView(RoleView):
    """The templates that ship, and what a new project can be told at once."""

    @extend_schema(responses=serializer_for(actions.TemplatesOut), operation_id="templates")
    def get(self, request: Request) -> Response:
        return Response(actions.templates())


class ProjectPageView(ProjectView):
    """The project's fields and registers."""

    @extend_schema(responses=serializer_for(selectors.ProjectPage), operation_id="project_page")
    def get(self, request: Request, project: str) -> Response:
        return Response(selectors.project_page(self.access))


class StandingForm(serializers.Serializer[object]):
    """How a project is to stand."""

    standing = serializers.ChoiceField(("real", "retired"))


class StandingView(ProjectView):
    """Make a what-if copy real, retire a project, or bring it back."""

    needs = {"post": (Role.APPROVER, sentence("projects.stand"))}

    @extend_schema(request=StandingForm, responses=StandingForm, operation_id="stand")
    def post(self, request: Request, project: str) -> Response:
        d = read(StandingForm, request)
        standing.stand(self.access, d["standing"])
        return Response(d)


class PlaceForm(serializers.Serializer[object]):
    """The group of a project: names from the top down, apart by slashes."""

    place = serializers.CharField(max_length=400, allow_blank=True)


class PlaceView(ProjectView):
    """Put a project into a group."""

    needs = {"put": (Role.ANALYST, sentence("plan.change_plan"))}

    @extend_schema(request=PlaceForm, responses=PlaceForm, operation_id="put_at")
    def put(self, request: Request, project: str) -> Response:
        return Response({"place": standing.put_at(self.access, read(PlaceForm, request)["place"])})


class DeleteForm(serializers.Serializer[object]):
    """The code of the project, typed once more."""

    code = serializers.CharField(max_length=100, allow_blank=True)


class DeleteView(ProjectView):
    """Delete a project in which nothing is dry."""

    needs = {"post": (Role.APPROVER, sentence("projects.delete"))}

    @extend_schema(request=DeleteForm, responses={204: None}, operation_id="delete_project")
    def post(self, request: Request, project: str) -> Response:
        standing.delete(self.access, read(DeleteForm, request)["code"])
        return Response(status=204)


class KindFieldForm(serializers.Serializer[object]):
    """An own field that a kind of project gives; a new one has no code yet."""

    code = serializers.CharField(max_length=100, default="", allow_blank=True)
    name = serializers.CharField(max_length=300, allow_blank=True)
    of = serializers.ChoiceField(("activity", "resource", "project"), default="activity")
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
        return Response(kinds.kinds(person_of(request)))

    @extend_schema(request=KindForm, responses=serializer_for(kinds.KindKept), operation_id="keep_kind")
    def put(self, request: Request) -> Response:
        form = KindForm(data=request.data)
        form.is_valid(raise_exception=True)
        asked = form.validated_data
        fields = [kinds.KindField(**f) for f in asked["fields"]]
        return Response(kinds.keep(person_of(request), asked["name"], asked["called"], asked["revision"], fields))

    @extend_schema(parameters=[KindName], responses={200: serializer_for(kinds.ProjectKinds)}, operation_id="drop_kind")
    def delete(self, request: Request) -> Response:
        return Response(kinds.drop(person_of(request), query(KindName, request)["name"]))


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
