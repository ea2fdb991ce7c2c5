"""Figures over HTTP: the catalogue, and all else below a page."""

from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.value.curve import CURVE_BUCKETS
from dryledger.working.of_money import OF_MONEY
from server.book.access import ProjectView, RoleView
from server.shared.files import CSV, XLSX, download
from server.shared.forms import Listed, OneOf, query, read
from server.shared.schema import serializer_for
from server.value import curves, files, selectors, shapes, tables, trend


class ColumnsQuery(serializers.Serializer[object]):
    """Which figures stand in the columns, by their keys with commas between."""

    columns = Listed(default=list)


class BucketQuery(serializers.Serializer[object]):
    """By which buckets of time."""

    bucket = OneOf(CURVE_BUCKETS, default="week")


class CurveQuery(BucketQuery):
    """Of which element, or of which value of which own field (absent: the project), beside which baselines, by their codes with commas
    between (absent: the compared ones)."""

    wbs = serializers.CharField(required=False, allow_blank=True, max_length=100)
    field = serializers.CharField(required=False, allow_blank=True, max_length=100)
    value = serializers.CharField(required=False, allow_blank=True, max_length=2000)
    baselines = Listed(required=False)


def _value_of(q: dict[str, Any]) -> curves.Of:
    """The own field and its value that a curve is of; none for a scope of another kind."""
    return (q["field"], q.get("value", "")) if q.get("field") else None


class FileQuery(CurveQuery, ColumnsQuery):
    """What stands in a file of figures: the columns, and the curve."""


class WorkingQuery(serializers.Serializer[object]):
    """A figure, and of what it is."""

    measure = serializers.CharField(max_length=100)
    kind = OneOf(("project", "wbs", "activity", "risk", "change", *OF_MONEY), default="project")
    code = serializers.CharField(required=False, allow_blank=True, max_length=100)


class OtherPageQuery(serializers.Serializer[object]):
    """The page that is looked at beside this one."""

    def get_fields(self) -> dict[str, Any]:
        return {"with": serializers.CharField(max_length=100)}


class CatalogueView(RoleView):
    """The catalogue of figures."""

    @extend_schema(responses=serializer_for(shapes.CatalogueOut), operation_id="figures")
    def get(self, request: Request) -> Response:
        return Response(selectors.catalogue())


class BalanceView(ProjectView):
    """The balance line."""

    @extend_schema(responses=serializer_for(shapes.BalanceOut), operation_id="balance")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(selectors.balance_of(self.access.view(page)))


class ValueView(ProjectView):
    """The measures."""

    @extend_schema(parameters=[ColumnsQuery], responses=serializer_for(shapes.ValueOut), operation_id="value")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(selectors.value(self.access.view(page), query(ColumnsQuery, request)["columns"]))


class OfferedView(ProjectView):
    """Every figure that a column can show here, the project's own fields among them."""

    @extend_schema(responses=serializer_for(shapes.CatalogueOut), operation_id="offered_figures")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(shapes.CatalogueOut(selectors.offered(self.access.view(page))))


class ValueFile(ProjectView):
    """The measures as CSV, or with the curve and the pages as a workbook whose charts follow its cells."""

    @extend_schema(
        parameters=[FileQuery],
        responses={(200, "text/csv"): OpenApiTypes.STR, (200, XLSX): OpenApiTypes.BINARY},
        operation_id="value_file",
    )
    def get(self, request: Request, project: str, page: str, form: str) -> HttpResponse:
        v, asked = self.access.view(page), query(FileQuery, request)
        name = f"{v.project.code}-{v.page.code}-value.{form}"
        if form == "csv":
            return download(files.value_csv(v, asked["columns"]), name, CSV)
        made = files.value_xlsx(v, asked["columns"], asked.get("wbs") or None, asked["bucket"], asked.get("baselines"), _value_of(asked))
        return download(made, name, XLSX)


class CurveView(ProjectView):
    """A curve."""

    @extend_schema(
        parameters=[CurveQuery],
        responses=serializer_for(shapes.CurveOut),
        operation_id="curve",
    )
    def get(self, request: Request, project: str, page: str) -> Response:
        q = query(CurveQuery, request)
        found = curves.curve(self.access.view(page), q.get("wbs") or None, q["bucket"], q.get("baselines"), _value_of(q))
        return Response(found)


class WorkingView(ProjectView):
    """The working of a figure."""

    @extend_schema(
        parameters=[WorkingQuery],
        responses=serializer_for(shapes.WorkingOut),
        operation_id="working",
    )
    def get(self, request: Request, project: str, page: str) -> Response:
        q = query(WorkingQuery, request)
        return Response(selectors.working_of(self.access.view(page), q["measure"], q["kind"], q.get("code")))


class TrendView(ProjectView):
    """The figures of every page up to this one."""

    @extend_schema(responses=serializer_for(trend.TrendOut), operation_id="trend")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(trend.trend(self.access.view(page)))


class ComparedView(ProjectView):
    """What changed since another page."""

    @extend_schema(
        parameters=[OtherPageQuery],
        responses=serializer_for(trend.ComparedOut),
        operation_id="compare_pages",
    )
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(trend.compared(self.access, self.access.view(page), query(OtherPageQuery, request)["with"]))


class ActivityView(ProjectView):
    """One activity, for the margin."""

    @extend_schema(responses=serializer_for(shapes.ActivityOut), operation_id="activity")
    def get(self, request: Request, project: str, page: str, activity: str) -> Response:
        return Response(selectors.activity(self.access.view(page), activity))


class SelectionForm(serializers.Serializer[object]):
    """Activities and whole elements, and the buckets of their curve."""

    activities = serializers.ListField(child=serializers.CharField(max_length=100), required=False, max_length=20_000)
    wbs = serializers.ListField(child=serializers.CharField(max_length=100), required=False, max_length=20_000)
    bucket = serializers.ChoiceField(choices=CURVE_BUCKETS, required=False)
    columns = serializers.ListField(child=serializers.CharField(max_length=100), required=False, max_length=200)
    baselines = serializers.ListField(child=serializers.CharField(max_length=100), required=False, max_length=50)
    split = serializers.BooleanField(required=False, default=False)
    """Whether it is split by kind of cost."""


class SelectionView(ProjectView):
    """The measures and the curve of a selection. Nothing is written: it is a POST since a selection may be long."""

    @extend_schema(request=SelectionForm, responses=serializer_for(shapes.SelectionOut), operation_id="selection")
    def post(self, request: Request, project: str, page: str) -> Response:
        form = read(SelectionForm, request)
        chosen = form.get("activities", []), form.get("wbs", []), form.get("bucket", "week")
        found = curves.selection(self.access.view(page), *chosen, form.get("columns", []), form.get("baselines"), form["split"])
        return Response(found)


class StatisticsView(ProjectView):
    """Statistics of the project and its elements."""

    @extend_schema(responses=serializer_for(tables.StatisticsOut), operation_id="statistics")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(tables.statistics_out(self.access.view(page)))


class StatisticsFile(ProjectView):
    """The same as CSV or workbook."""

    @extend_schema(
        responses={(200, "text/csv"): OpenApiTypes.STR, (200, XLSX): OpenApiTypes.BINARY},
        operation_id="statistics_file",
    )
    def get(self, request: Request, project: str, page: str, form: str) -> HttpResponse:
        v = self.access.view(page)
        name = f"{v.project.code}-{v.page.code}-summary.{form}"
        return download(tables.statistics_csv(v), name, CSV) if form == "csv" else download(files.statistics_xlsx(v), name, XLSX)


class WorkView(ProjectView):
    """Work by time."""

    @extend_schema(parameters=[BucketQuery], responses=serializer_for(tables.WorkByTimeOut), operation_id="work_by_time")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(tables.work_out(self.access.view(page), query(BucketQuery, request)["bucket"]))


class WorkFile(ProjectView):
    """The same as CSV or workbook."""

    @extend_schema(
        parameters=[BucketQuery],
        responses={(200, "text/csv"): OpenApiTypes.STR, (200, XLSX): OpenApiTypes.BINARY},
        operation_id="work_file",
    )
    def get(self, request: Request, project: str, page: str, form: str) -> HttpResponse:
        v, bucket = self.access.view(page), query(BucketQuery, request)["bucket"]
        name = f"{v.project.code}-{v.page.code}-work.{form}"
        return download(tables.work_csv(v, bucket), name, CSV) if form == "csv" else download(files.work_xlsx(v, bucket), name, XLSX)


class PagesFile(ProjectView):
    """The figures of every page as CSV or workbook."""

    @extend_schema(
        responses={(200, "text/csv"): OpenApiTypes.STR, (200, XLSX): OpenApiTypes.BINARY},
        operation_id="trend_file",
    )
    def get(self, request: Request, project: str, page: str, form: str) -> HttpResponse:
        v = self.access.view(page)
        name = f"{v.project.code}-{v.page.code}-pages.{form}"
        return download(files.trend_csv(v), name, CSV) if form == "csv" else download(files.trend_xlsx(v), name, XLSX)


class ComparedFile(ProjectView):
    """What changed since another page as CSV."""

    @extend_schema(
        parameters=[OtherPageQuery],
        responses={(200, "text/csv"): OpenApiTypes.STR},
        operation_id="compared_csv",
    )
    def get(self, request: Request, project: str, page: str) -> HttpResponse:
        v = self.access.view(page)
        found = trend.compared(self.access, v, query(OtherPageQuery, request)["with"])
        return download(files.compared_csv(found), f"{v.project.code}-{v.page.code}-since-{found.other}.csv", CSV)
