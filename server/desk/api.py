"""The desk and the frame of a project over HTTP."""

from dataclasses import dataclass

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.calendar.buckets import BUCKETS
from server.accounts.models import Role
from server.accounts.roles import person_of
from server.book.access import ProjectView, RoleView
from server.book.models import Standing
from server.desk.files import desk_csv, desk_pdf, desk_xlsx
from server.desk.people import PeopleLoads, people_loads
from server.desk.selectors import chosen, desk, desk_curve, desk_statistics, drop_view, frame, keep_view, lines, sums_of
from server.desk.shapes import DeskCurve, DeskOut, DeskStatistics, DeskView, FrameOut, SumOut
from server.projects import actions
from server.shared.files import CSV, XLSX, download
from server.shared.forms import OneOf, query, read
from server.shared.schema import serializer_for
from server.shared.words import sentence


class NewForm(serializers.Serializer[object]):
    """A new project: from nothing, a template, or as a copy of another."""

    name = serializers.CharField(allow_blank=True, max_length=300)
    code = serializers.CharField(allow_blank=True, max_length=100, default="")
    source = serializers.ChoiceField(  # type: ignore[assignment]  # a field of a form, not the form's own source
        ("nothing", "template", "copy"), default="nothing"
    )
    of = serializers.CharField(allow_blank=True, max_length=100, default="")
    progress = serializers.BooleanField(default=False)
    start = serializers.CharField(allow_blank=True, max_length=100, default="")
    currency = serializers.CharField(allow_blank=True, max_length=20, default="")
    kind = serializers.CharField(allow_blank=True, max_length=100, default="")
    what_if = serializers.BooleanField(default=False)


class ProjectsView(RoleView):
    """All projects; a new one."""

    needs = {"post": (Role.ANALYST, sentence("desk.begin_project"))}

    @extend_schema(responses=serializer_for(DeskOut), operation_id="desk")
    def get(self, request: Request) -> Response:
        return Response(desk(person_of(request)))

    @extend_schema(request=NewForm, responses=serializer_for(actions.Created), operation_id="new_project")
    def post(self, request: Request) -> Response:
        form = NewForm(data=request.data)
        form.is_valid(raise_exception=True)
        return Response(actions.create(person_of(request), actions.NewProject(**form.validated_data)))


class DeskQuery(serializers.Serializer[object]):
    """Of which projects, by their codes; absent: of all. The currency of a curve."""

    codes = serializers.ListField(child=serializers.CharField(max_length=100), default=list, max_length=2000)
    currency = serializers.CharField(default="", allow_blank=True, max_length=10)


class PeopleQuery(serializers.Serializer[object]):
    """Of which projects, which resource (absent: all), by which bucket."""

    codes = serializers.ListField(child=serializers.CharField(max_length=100), default=list, max_length=2000)
    resource = serializers.CharField(default="", allow_blank=True, max_length=100)
    bucket = OneOf(BUCKETS, default="week")


class ViewForm(serializers.Serializer[object]):
    """A view of the desk."""

    name = serializers.CharField(max_length=100)
    filters = serializers.DictField(child=serializers.CharField(allow_blank=True, max_length=4000), default=dict)
    group = serializers.CharField(allow_blank=True, default="", max_length=100)
    order = serializers.CharField(allow_blank=True, default="", max_length=100)


class DeskViewForm(ViewForm):
    """A view of the desk that is kept; shared, everybody finds it."""

    shared = serializers.BooleanField(default=False)


class ViewName(serializers.Serializer[object]):
    """Which view."""

    name = serializers.CharField(max_length=100)


@dataclass
class ViewsOut:
    """The views that a person keeps."""

    views: list[DeskView]


class GroupsForm(serializers.Serializer[object]):
    """Groups of projects by their codes."""

    groups = serializers.ListField(
        child=serializers.ListField(child=serializers.CharField(max_length=100), max_length=2000), max_length=500
    )


@dataclass
class GroupSums:
    """The sums by currency of each group, in the order that was asked."""

    groups: list[list[SumOut]]


class DeskSumsView(RoleView):
    """The sums of groups of projects; what does not count is in none."""

    @extend_schema(request=GroupsForm, responses=serializer_for(GroupSums), operation_id="desk_sums")
    def post(self, request: Request) -> Response:
        return Response(GroupSums(sums_of(person_of(request), read(GroupsForm, request)["groups"])))


class DeskStatisticsView(RoleView):
    """Statistics of all projects."""

    @extend_schema(parameters=[DeskQuery], responses=serializer_for(DeskStatistics), operation_id="desk_statistics")
    def get(self, request: Request) -> Response:
        return Response(desk_statistics(chosen(person_of(request), query(DeskQuery, request)["codes"])))


class DeskCurveView(RoleView):
    """The curve of the projects of one currency."""

    @extend_schema(parameters=[DeskQuery], responses=serializer_for(DeskCurve), operation_id="desk_curve")
    def get(self, request: Request) -> Response:
        asked = query(DeskQuery, request)
        return Response(desk_curve(chosen(person_of(request), asked["codes"]), asked["currency"]))


class DeskPeopleView(RoleView):
    """The load of the organisation's resources over all projects."""

    @extend_schema(parameters=[PeopleQuery], responses=serializer_for(PeopleLoads), operation_id="desk_people")
    def get(self, request: Request) -> Response:
        return Response(people_loads(person_of(request), **query(PeopleQuery, request)))


class DeskViewsView(RoleView):
    """The views of the desk that one keeps for oneself."""

    @extend_schema(request=DeskViewForm, responses=serializer_for(ViewsOut), operation_id="keep_desk_view")
    def put(self, request: Request) -> Response:
        form = DeskViewForm(data=request.data)
        form.is_valid(raise_exception=True)
        return Response(ViewsOut(keep_view(person_of(request), dict(form.validated_data))))

    @extend_schema(parameters=[ViewName], responses={200: serializer_for(ViewsOut)}, operation_id="drop_desk_view")
    def delete(self, request: Request) -> Response:
        return Response(ViewsOut(drop_view(person_of(request), query(ViewName, request)["name"])))


class DeskFile(RoleView):
    """The desk as CSV, as a workbook or as PDF."""

    @extend_schema(
        responses={(200, "text/csv"): OpenApiTypes.STR, (200, XLSX): OpenApiTypes.BINARY, (200, "application/pdf"): OpenApiTypes.BINARY},
        operation_id="desk_file",
    )
    def get(self, request: Request, form: str) -> HttpResponse:
        person = person_of(request)
        found = lines(person)
        out = desk(person)
        out.projects = [p for p in out.projects if p.standing == Standing.REAL]
        if form == "csv":
            return download(desk_csv(out), "projects.csv", CSV)
        more = desk_statistics(found), desk_curve(found, ""), people_loads(person)
        if form == "pdf":
            return download(desk_pdf(out, *more), "projects.pdf", "application/pdf")
        return download(desk_xlsx(out, *more), "projects.xlsx", XLSX)


class FrameView(ProjectView):
    """One project: its pages, revision and baseline."""

    @extend_schema(responses=serializer_for(FrameOut), operation_id="frame")
    def get(self, request: Request, project: str) -> Response:
        return Response(frame(self.access))
