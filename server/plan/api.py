"""The plan over HTTP."""

from typing import Any

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.book.access import ProjectView
from server.plan import actions, details
from server.plan.shapes import PlanSerializer, VerbsField, ViewsField
from server.shared.problems import Refused
from server.shared.schema import serializer_for
from server.shared.words import sentence

EffectOut = serializer_for(actions.PlanEffect)


class PlanView(ProjectView):
    """The plan sheet."""

    @extend_schema(responses=PlanSerializer, operation_id="plan")
    def get(self, request: Request, project: str) -> Response:
        return Response(details.plan_out(self.access.project))


class RowView(ProjectView):
    """All of one activity of the plan."""

    @extend_schema(responses=serializer_for(details.RowOut), operation_id="plan_row")
    def get(self, request: Request, project: str, row: str) -> Response:
        return Response(details.row_out(self.access, row))


class UndoOrRedo(serializers.Serializer[object]):
    """The revision that the writer saw, and how much of the answer is wanted at once."""

    revision = serializers.IntegerField()
    seen = serializers.ListField(child=serializers.CharField(max_length=20), required=False, max_length=1_000)
    rest = serializers.BooleanField(required=False, default=False)


def sight_of(data: dict[str, Any]) -> actions.Sight:
    """What whoever asks sees of the sheet."""
    return actions.Sight(frozenset(data["seen"]) if "seen" in data else None, data["rest"])


class Verbs(UndoOrRedo):
    """What to do, in order, as one step. Each verb names what it does in `do`; see docs/formats/changes.md."""

    preview = serializers.BooleanField(required=False, default=False)
    verbs = VerbsField(allow_empty=False)


class PlanChangesView(ProjectView):
    """Change the plan."""

    needs = {"post": (Role.ANALYST, sentence("plan.change_plan"))}

    @extend_schema(request=Verbs, responses=EffectOut, operation_id="change_plan")
    def post(self, request: Request, project: str) -> Response:
        form = Verbs(data=request.data)
        form.is_valid(raise_exception=True)
        data = form.validated_data
        done = actions.change_plan(self.access, data["revision"], data["verbs"], data["preview"], sight_of(data))
        return Response(done)


class PlanUndoView(ProjectView):
    """Undo or redo, answered as a change of the plan is."""

    needs = {"post": (Role.ANALYST, "undo")}

    @extend_schema(
        request=UndoOrRedo,
        responses=EffectOut,
        operation_id="turn_plan",
        parameters=[OpenApiParameter("way", str, OpenApiParameter.PATH, enum=("undo", "redo"))],
    )
    def post(self, request: Request, project: str, way: str) -> Response:
        if way not in ("undo", "redo"):
            raise Refused("not-found", sentence("plan.nothing_address"), 404)
        form = UndoOrRedo(data=request.data)
        form.is_valid(raise_exception=True)
        data = form.validated_data
        return Response(actions.undo_or_redo_plan(self.access, data["revision"], way == "undo", sight_of(data)))


class ViewsForm(serializers.Serializer[object]):
    """The named views of the plan sheet, and the number of those that whoever saves them saw."""

    revision = serializers.IntegerField()
    views = ViewsField(max_length=50)


class ViewsView(ProjectView):
    """Keep the named views of the plan sheet."""

    needs = {"put": (Role.ANALYST, "keep a view")}

    @extend_schema(request=ViewsForm, responses=ViewsForm, operation_id="keep_views")
    def put(self, request: Request, project: str) -> Response:
        form = ViewsForm(data=request.data)
        form.is_valid(raise_exception=True)
        number, views = actions.keep_views(self.access, form.validated_data["revision"], form.validated_data["views"])
        return Response({"revision": number, "views": views})
