"""The desk, the frame and the plan over HTTP."""

from typing import Any

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from server.accounts.roles import person_of
from server.plan import actions, details, projects
from server.plan.selectors import DeskOut, FrameOut, desk, frame
from server.shared.plain import plain
from server.shared.problems import Refused
from server.shared.schema import serializer_for

EffectOut = serializer_for(actions.PlanEffect)


class NewForm(serializers.Serializer[object]):
    """A new project: from nothing, a template, or as a copy of another."""

    name = serializers.CharField(allow_blank=True, max_length=300)
    code = serializers.CharField(allow_blank=True, max_length=100, default="")
    source = serializers.ChoiceField(("nothing", "template", "copy"), default="nothing")
    of = serializers.CharField(allow_blank=True, max_length=100, default="")
    progress = serializers.BooleanField(default=False)
    start = serializers.CharField(allow_blank=True, max_length=100, default="")
    currency = serializers.CharField(allow_blank=True, max_length=20, default="")


class DeskView(APIView):
    """All projects; a new one."""

    @extend_schema(responses=serializer_for(DeskOut), operation_id="desk")
    def get(self, request: Request) -> Response:
        return Response(plain(desk()))

    @extend_schema(request=NewForm, responses=serializer_for(projects.Created), operation_id="new_project")
    def post(self, request: Request) -> Response:
        form = NewForm(data=request.data)
        form.is_valid(raise_exception=True)
        return Response(plain(projects.create(person_of(request), projects.NewProject(**form.validated_data))))


class TemplatesView(APIView):
    """The templates that ship, and what a new project can be told at once."""

    @extend_schema(responses=serializer_for(projects.TemplatesOut), operation_id="templates")
    def get(self, request: Request) -> Response:
        return Response(plain(projects.templates()))


class FrameView(APIView):
    """One project: its pages, revision and baseline."""

    @extend_schema(responses=serializer_for(FrameOut), operation_id="frame")
    def get(self, request: Request, project: str) -> Response:
        return Response(plain(frame(project)))


class PlanView(APIView):
    """The plan sheet."""

    @extend_schema(responses=serializer_for(details.PlanOut), operation_id="plan")
    def get(self, request: Request, project: str) -> Response:
        return Response(plain(details.plan_out(project)))


class ProjectPageView(APIView):
    """The project's fields and registers."""

    @extend_schema(responses=serializer_for(details.ProjectPage), operation_id="project_page")
    def get(self, request: Request, project: str) -> Response:
        return Response(plain(details.project_page(project)))


class ListsView(APIView):
    """Calendars and resources."""

    @extend_schema(responses=serializer_for(details.ListsOut), operation_id="plan_lists")
    def get(self, request: Request, project: str) -> Response:
        return Response(plain(details.lists_out(project)))


class RowView(APIView):
    """All of one activity of the plan."""

    @extend_schema(responses=serializer_for(details.RowOut), operation_id="plan_row")
    def get(self, request: Request, project: str, row: str) -> Response:
        return Response(plain(details.row_out(project, row)))


class Turn(serializers.Serializer[object]):
    """The revision that the writer saw, and how much of the answer is wanted at once."""

    revision = serializers.IntegerField()
    seen = serializers.ListField(child=serializers.CharField(max_length=20), required=False, max_length=1_000)
    rest = serializers.BooleanField(required=False, default=False)


def _sight(data: dict[str, Any]) -> actions.Sight:
    return actions.Sight(frozenset(data["seen"]) if "seen" in data else None, data["rest"])


class Verbs(Turn):
    """What to do, in order, as one step. Each verb names what it does in `do`; see docs/formats/changes.md."""

    preview = serializers.BooleanField(required=False, default=False)
    verbs = serializers.ListField(child=serializers.DictField(), allow_empty=False)


class PlanChangesView(APIView):
    """Change the plan."""

    @extend_schema(request=Verbs, responses=EffectOut, operation_id="change_plan")
    def post(self, request: Request, project: str) -> Response:
        form = Verbs(data=request.data)
        form.is_valid(raise_exception=True)
        data = form.validated_data
        done = actions.change_plan(person_of(request), project, data["revision"], data["verbs"], data["preview"], _sight(data))
        return Response(plain(done))


class PlanTurnView(APIView):
    """Undo or redo, answered as a change of the plan is."""

    @extend_schema(
        request=Turn,
        responses=EffectOut,
        operation_id="turn_plan",
        parameters=[OpenApiParameter("way", str, OpenApiParameter.PATH, enum=("undo", "redo"))],
    )
    def post(self, request: Request, project: str, way: str) -> Response:
        if way not in ("undo", "redo"):
            raise Refused("not-found", "There is nothing at this address.", 404)
        form = Turn(data=request.data)
        form.is_valid(raise_exception=True)
        data = form.validated_data
        return Response(plain(actions.turn_plan(person_of(request), project, data["revision"], way == "undo", _sight(data))))


class ViewsForm(serializers.Serializer[object]):
    """The named views of the plan sheet."""

    views = serializers.ListField(child=serializers.DictField(), max_length=50)


class ViewsView(APIView):
    """Keep the named views of the plan sheet."""

    @extend_schema(request=ViewsForm, responses=ViewsForm, operation_id="keep_views")
    def put(self, request: Request, project: str) -> Response:
        form = ViewsForm(data=request.data)
        form.is_valid(raise_exception=True)
        return Response({"views": actions.keep_views(person_of(request), project, form.validated_data["views"])})


class StatesForm(serializers.Serializer[object]):
    """The life-cycle states that the organisation uses."""

    states = serializers.ListField(child=serializers.CharField(max_length=100, allow_blank=True), max_length=50)


class StatesView(APIView):
    """Keep the organisation's list of life-cycle states."""

    @extend_schema(request=StatesForm, responses=StatesForm, operation_id="keep_states")
    def put(self, request: Request) -> Response:
        form = StatesForm(data=request.data)
        form.is_valid(raise_exception=True)
        return Response({"states": actions.keep_states(person_of(request), form.validated_data["states"])})


class HolidaysView(APIView):
    """The public holidays of a country and year, from a holiday library, as exceptions of a calendar."""

    @extend_schema(
        parameters=[OpenApiParameter("country", str, required=True), OpenApiParameter("year", int, required=True)],
        responses=serializer_for(projects.HolidaysOut),
        operation_id="holidays",
    )
    def get(self, request: Request) -> Response:
        q = request.query_params
        return Response(plain(projects.holidays_of(q.get("country", ""), q.get("year", ""))))
