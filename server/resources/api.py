"""Calendars, resources and loads over HTTP."""

from decimal import Decimal

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.calendar.buckets import BUCKETS
from server.accounts.models import Role
from server.accounts.roles import person_of
from server.book.access import ProjectView, RoleView
from server.resources import choosing, loads, organisation, selectors
from server.resources.shapes import ListsSerializer, SharedListSerializer
from server.shared.forms import OneOf, query, read
from server.shared.schema import serializer_for
from server.shared.words import sentence


class ListsView(ProjectView):
    """Calendars and resources."""

    @extend_schema(responses=ListsSerializer, operation_id="plan_lists")
    def get(self, request: Request, project: str) -> Response:
        return Response(selectors.lists_out(self.access))


class KeepForm(serializers.Serializer[object]):
    """Cells of a resource of the organisation as people type them, and the revision that the writer saw; 0 for a new one."""

    code = serializers.CharField(max_length=100, allow_blank=True)
    revision = serializers.IntegerField(min_value=0)
    cells = serializers.DictField(child=serializers.JSONField(allow_null=True))


class PutOutForm(serializers.Serializer[object]):
    """A resource of a project that becomes the organisation's; `code` where it is to have another one there."""

    project = serializers.CharField(max_length=100)
    row = serializers.CharField(max_length=20)
    code = serializers.CharField(max_length=100, default="", allow_blank=True)


class SharedCode(serializers.Serializer[object]):
    """Which resource of the organisation."""

    code = serializers.CharField(max_length=100)


class OrganisationView(RoleView):
    """The resources that the organisation keeps for all projects."""

    needs = dict.fromkeys(("put", "post", "delete"), (Role.APPROVER, sentence("projects.change_organisations_lists")))

    @extend_schema(responses=SharedListSerializer, operation_id="shared_resources")
    def get(self, request: Request) -> Response:
        return Response(selectors.organisation(person_of(request)))

    @extend_schema(request=KeepForm, responses=serializer_for(organisation.Kept), operation_id="keep_shared_resource")
    def put(self, request: Request) -> Response:
        form = KeepForm(data=request.data)
        form.is_valid(raise_exception=True)
        return Response(organisation.keep(person_of(request), **form.validated_data))

    @extend_schema(request=PutOutForm, responses=serializer_for(organisation.Kept), operation_id="share_resource")
    def post(self, request: Request) -> Response:
        form = PutOutForm(data=request.data)
        form.is_valid(raise_exception=True)
        return Response(organisation.put_out(person_of(request), **form.validated_data))

    @extend_schema(parameters=[SharedCode], responses={200: SharedListSerializer}, operation_id="drop_shared_resource")
    def delete(self, request: Request) -> Response:
        organisation.drop(person_of(request), query(SharedCode, request)["code"])
        return Response(selectors.organisation(person_of(request)))


class LoadsQuery(serializers.Serializer[object]):
    """By which buckets of time."""

    bucket = OneOf(BUCKETS, default="week")


class LoadsView(ProjectView):
    """The loads of the resources."""

    @extend_schema(parameters=[LoadsQuery], responses=serializer_for(loads.LoadsOut), operation_id="loads")
    def get(self, request: Request, project: str) -> Response:
        return Response(loads.loads_out(self.access, query(LoadsQuery, request)["bucket"]))


class OfferedForm(serializers.Serializer[object]):
    """For which activities of the plan, and how many units on each."""

    rows = serializers.ListField(child=serializers.CharField(max_length=20), allow_empty=True, max_length=choosing.MOST_ROWS)
    units = serializers.DecimalField(max_digits=12, decimal_places=4, default=Decimal(1), min_value=Decimal("0.0001"))


class OfferedView(ProjectView):
    """Who there is for some activities, what of each is free in their time, and whether it is too much. Nothing is kept of it."""

    @extend_schema(request=OfferedForm, responses=serializer_for(choosing.ChoiceOfResources), operation_id="offered_resources")
    def post(self, request: Request, project: str) -> Response:
        return Response(choosing.offered(self.access, **read(OfferedForm, request)))


class AssignedView(ProjectView):
    """The activities that a resource is on."""

    @extend_schema(responses=serializer_for(choosing.AssignedList), operation_id="assigned")
    def get(self, request: Request, project: str, row: str) -> Response:
        return Response(choosing.assigned(self.access, row))


class StretchQuery(serializers.Serializer[object]):
    """From when to when a resource is over-allocated."""

    start = serializers.CharField(max_length=40)
    end = serializers.CharField(max_length=40)


class RemediesView(ProjectView):
    """The ways to put an over-allocation right."""

    @extend_schema(parameters=[StretchQuery], responses=serializer_for(loads.RemediesOut), operation_id="remedies")
    def get(self, request: Request, project: str, row: str) -> Response:
        return Response(loads.remedies_out(self.access, row, **query(StretchQuery, request)))
