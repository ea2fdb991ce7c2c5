"""Figures over HTTP: the catalogue, and all else below a page."""

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.timeline.progress_line import AGAINST
from dryledger.value.curve import CURVE_BUCKETS
from server.book.access import ProjectView, RoleView
from server.shared.files import CSV, download
from server.shared.forms import read
from server.shared.plain import plain
from server.shared.problems import Refused
from server.shared.schema import serializer_for
from server.shared.words import sentence
from server.value import lines, selectors, shapes, tables, trend

BUCKET = OpenApiParameter("bucket", str, enum=CURVE_BUCKETS)


def _bucket(request: Request) -> str:
    bucket = request.query_params.get("bucket") or "week"
    if bucket not in CURVE_BUCKETS:
        raise Refused("bad-request", sentence("value.curve_drawn", names=", ".join(CURVE_BUCKETS)), 400, field="bucket")
    return bucket


class CatalogueView(RoleView):
    """The catalogue of figures."""

    @extend_schema(responses=serializer_for(shapes.CatalogueOut), operation_id="figures")
    def get(self, request: Request) -> Response:
        return Response(plain(selectors.catalogue()))


class BalanceView(ProjectView):
    """The balance line."""

    @extend_schema(responses=serializer_for(shapes.BalanceOut), operation_id="balance")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(plain(selectors.balance_of(self.access.view(page))))


class ValueView(ProjectView):
    """The measures."""

    @extend_schema(responses=serializer_for(shapes.ValueOut), operation_id="value")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(plain(selectors.value(self.access.view(page))))


class CurveView(ProjectView):
    """A curve."""

    @extend_schema(
        parameters=[OpenApiParameter("wbs", str), BUCKET],
        responses=serializer_for(shapes.CurveOut),
        operation_id="curve",
    )
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(plain(selectors.curve(self.access.view(page), request.query_params.get("wbs") or None, _bucket(request))))


WORKED = ("project", "wbs", "activity", "risk")
"""What a figure can belong to."""


class WorkingView(ProjectView):
    """The working of a figure."""

    @extend_schema(
        parameters=[
            OpenApiParameter("measure", str, required=True),
            OpenApiParameter("kind", str, enum=WORKED),
            OpenApiParameter("code", str),
        ],
        responses=serializer_for(shapes.WorkingOut),
        operation_id="working",
    )
    def get(self, request: Request, project: str, page: str) -> Response:
        q = request.query_params
        kind = q.get("kind") or "project"
        if kind not in WORKED:
            raise Refused("bad-request", sentence("value.figure_belongs_project_wbs"), 400, field="kind")
        return Response(plain(selectors.working_of(self.access.view(page), q.get("measure", ""), kind, q.get("code"))))


class TimelineView(ProjectView):
    """The timeline."""

    @extend_schema(responses=serializer_for(shapes.TimelineOut), operation_id="timeline")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(plain(selectors.timeline(self.access.view(page))))


class TrendView(ProjectView):
    """The figures of every page up to this one."""

    @extend_schema(responses=serializer_for(trend.TrendOut), operation_id="trend")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(plain(trend.trend(self.access.view(page))))


class ComparedView(ProjectView):
    """What changed since another page."""

    @extend_schema(
        parameters=[OpenApiParameter("with", str, required=True, description="The other page.")],
        responses=serializer_for(trend.ComparedOut),
        operation_id="compare_pages",
    )
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(plain(trend.compared(self.access, self.access.view(page), request.query_params.get("with", "")[:100])))


class LinesView(ProjectView):
    """Progress lines."""

    @extend_schema(
        parameters=[
            OpenApiParameter("at", str, enum=lines.AT),
            OpenApiParameter("against", str, enum=AGAINST),
            OpenApiParameter("dates", str, description="Dates as typed, commas between; of an interval where it begins."),
            OpenApiParameter("most", int, description="At most so many, the newest."),
        ],
        responses=serializer_for(lines.LinesOut),
        operation_id="progress_lines",
    )
    def get(self, request: Request, project: str, page: str) -> Response:
        given = request.query_params
        at, against, most = given.get("at") or "status", given.get("against") or "baseline", given.get("most") or "10"
        for name, value, options in (("at", at, lines.AT), ("against", against, AGAINST)):
            if value not in options:
                raise Refused("bad-request", sentence("lines.one_of", names=", ".join(options)), 400, field=name)
        count = int(most) if most.isdigit() and len(most) < 4 else 0
        if not 1 <= count <= lines.MOST:
            raise Refused("bad-request", sentence("lines.most", most=lines.MOST), 400, field="most")
        return Response(plain(lines.lines_out(self.access.view(page), at, against, given.get("dates", "")[:2000], count)))


class ActivityView(ProjectView):
    """One activity, for the margin."""

    @extend_schema(responses=serializer_for(shapes.ActivityOut), operation_id="activity")
    def get(self, request: Request, project: str, page: str, activity: str) -> Response:
        return Response(plain(selectors.activity(self.access.view(page), activity)))


class SelectionForm(serializers.Serializer[object]):
    """Activities and whole elements, and the buckets of their curve."""

    activities = serializers.ListField(child=serializers.CharField(max_length=100), required=False, max_length=20_000)
    wbs = serializers.ListField(child=serializers.CharField(max_length=100), required=False, max_length=20_000)
    bucket = serializers.ChoiceField(choices=CURVE_BUCKETS, required=False)


class SelectionView(ProjectView):
    """The measures and the curve of a selection. Nothing is written: it is a POST since a selection may be long."""

    @extend_schema(request=SelectionForm, responses=serializer_for(shapes.SelectionOut), operation_id="selection")
    def post(self, request: Request, project: str, page: str) -> Response:
        form = read(SelectionForm, request)
        chosen = form.get("activities", []), form.get("wbs", []), form.get("bucket", "week")
        return Response(plain(selectors.selection(self.access.view(page), *chosen)))


class StatisticsView(ProjectView):
    """Statistics of the project and its elements."""

    @extend_schema(responses=serializer_for(tables.StatisticsOut), operation_id="statistics")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(plain(tables.statistics_out(self.access.view(page))))


class StatisticsFile(ProjectView):
    """The same as CSV."""

    @extend_schema(responses={(200, "text/csv"): OpenApiTypes.STR}, operation_id="statistics_csv")
    def get(self, request: Request, project: str, page: str) -> HttpResponse:
        v = self.access.view(page)
        return download(tables.statistics_csv(v), f"{v.project.code}-{v.page.code}-statistics.csv", CSV)


class WorkView(ProjectView):
    """Work by time."""

    @extend_schema(parameters=[BUCKET], responses=serializer_for(tables.WorkByTimeOut), operation_id="work_by_time")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(plain(tables.work_out(self.access.view(page), _bucket(request))))


class WorkFile(ProjectView):
    """The same as CSV."""

    @extend_schema(parameters=[BUCKET], responses={(200, "text/csv"): OpenApiTypes.STR}, operation_id="work_csv")
    def get(self, request: Request, project: str, page: str) -> HttpResponse:
        v = self.access.view(page)
        return download(tables.work_csv(v, _bucket(request)), f"{v.project.code}-{v.page.code}-work.csv", CSV)
