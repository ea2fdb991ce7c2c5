"""Baselines over HTTP."""

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.accounts.roles import require
from server.baseline import actions, selectors
from server.book.access import ProjectView
from server.shared.forms import query
from server.shared.json_values import json_values
from server.shared.schema import serializer_for
from server.shared.words import sentence


class TakeForm(serializers.Serializer[object]):
    """A baseline to be taken; `rows` narrows it to chosen activities and elements, `changes` are the approved ones that it builds in."""

    revision = serializers.IntegerField()
    name = serializers.CharField(max_length=300, allow_blank=True)
    reason = serializers.CharField(max_length=4000, allow_blank=True)
    rows = serializers.ListField(child=serializers.CharField(max_length=20), required=False, allow_null=True, max_length=20_000)
    changes = serializers.ListField(child=serializers.CharField(max_length=100), required=False, default=list, max_length=2_000)


class ChooseForm(serializers.Serializer[object]):
    """Which baseline is measured against, and which are drawn."""

    revision = serializers.IntegerField()
    measured = serializers.CharField(max_length=100, allow_null=True)
    drawn = serializers.ListField(child=serializers.CharField(max_length=100), max_length=100)


class BackForm(serializers.Serializer[object]):
    """The project that a baseline is brought back as."""

    code = serializers.CharField(max_length=40, allow_blank=True)
    name = serializers.CharField(max_length=300, allow_blank=True)


class Coded(serializers.Serializer[object]):
    """The code of what was made."""

    code = serializers.CharField()


class Taken(Coded):
    """A baseline that was taken, and the project's revision after it."""

    revision = serializers.IntegerField()


class ShelfView(ProjectView):
    """The shelf of baselines; taking one."""

    needs = {
        "post": (Role.APPROVER, sentence("baseline.approve_baseline")),
        "put": (Role.APPROVER, sentence("baseline.choose_baseline_performance_measured")),
    }

    @extend_schema(responses=serializer_for(selectors.ShelfOut), operation_id="shelf")
    def get(self, request: Request, project: str) -> Response:
        return Response(json_values(selectors.shelf(self.access)))

    @extend_schema(request=TakeForm, responses=Taken, operation_id="take_baseline")
    def post(self, request: Request, project: str) -> Response:
        form = TakeForm(data=request.data)
        form.is_valid(raise_exception=True)
        d = form.validated_data
        code = actions.take(self.access, d["revision"], d["name"], d["reason"], d.get("rows"), d["changes"])
        return Response({"code": code, "revision": self.access.project.revision})

    @extend_schema(request=ChooseForm, responses=serializer_for(selectors.ShelfOut), operation_id="choose_baseline")
    def put(self, request: Request, project: str) -> Response:
        form = ChooseForm(data=request.data)
        form.is_valid(raise_exception=True)
        d = form.validated_data
        actions.choose(self.access, d["revision"], d["measured"], d["drawn"])
        return Response(json_values(selectors.shelf(self.access)))


class BackView(ProjectView):
    """Bring a baseline back as a separate project."""

    needs = {"post": (Role.ANALYST, sentence("baseline.begin_project"))}

    @extend_schema(request=BackForm, responses=Coded, operation_id="bring_back")
    def post(self, request: Request, project: str, baseline: str) -> Response:
        require(self.access.person, *self.needs["post"])  # a project of the organisation, whatever one is in this one
        form = BackForm(data=request.data)
        form.is_valid(raise_exception=True)
        d = form.validated_data
        return Response({"code": actions.bring_back(self.access, baseline, d["code"], d["name"])})


class PairQuery(serializers.Serializer[object]):
    """Two baselines by their codes; the later may be the plan as it is (`now`)."""

    earlier = serializers.CharField(max_length=100)
    later = serializers.CharField(max_length=100)


class DifferencesView(ProjectView):
    """The differences between two baselines, or one and the present."""

    @extend_schema(
        parameters=[PairQuery],
        responses=serializer_for(selectors.DifferencesOut),
        operation_id="differences",
    )
    def get(self, request: Request, project: str) -> Response:
        return Response(json_values(selectors.differences(self.access, **query(PairQuery, request))))
