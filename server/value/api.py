"""Figures over HTTP: the catalogue, and all else below a page."""

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.value.curve import CURVE_BUCKETS
from server.book.access import ProjectView, RoleView
from server.shared.plain import plain
from server.shared.problems import Refused
from server.shared.schema import serializer_for
from server.shared.words import sentence
from server.value import selectors, shapes


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
        parameters=[OpenApiParameter("wbs", str), OpenApiParameter("bucket", str, enum=CURVE_BUCKETS)],
        responses=serializer_for(shapes.CurveOut),
        operation_id="curve",
    )
    def get(self, request: Request, project: str, page: str) -> Response:
        bucket = request.query_params.get("bucket") or "week"
        if bucket not in CURVE_BUCKETS:
            raise Refused("bad-request", sentence("value.curve_drawn", names=", ".join(CURVE_BUCKETS)), 400, field="bucket")
        return Response(plain(selectors.curve(self.access.view(page), request.query_params.get("wbs") or None, bucket)))


class WorkingView(ProjectView):
    """The working of a figure."""

    @extend_schema(
        parameters=[
            OpenApiParameter("measure", str, required=True),
            OpenApiParameter("kind", str, enum=("project", "wbs", "activity")),
            OpenApiParameter("code", str),
        ],
        responses=serializer_for(shapes.WorkingOut),
        operation_id="working",
    )
    def get(self, request: Request, project: str, page: str) -> Response:
        q = request.query_params
        kind = q.get("kind") or "project"
        if kind not in ("project", "wbs", "activity"):
            raise Refused("bad-request", sentence("value.figure_belongs_project_wbs"), 400, field="kind")
        return Response(plain(selectors.working_of(self.access.view(page), q.get("measure", ""), kind, q.get("code"))))


class TimelineView(ProjectView):
    """The timeline."""

    @extend_schema(responses=serializer_for(shapes.TimelineOut), operation_id="timeline")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(plain(selectors.timeline(self.access.view(page))))


class ActivityView(ProjectView):
    """One activity, for the margin."""

    @extend_schema(responses=serializer_for(shapes.ActivityOut), operation_id="activity")
    def get(self, request: Request, project: str, page: str, activity: str) -> Response:
        return Response(plain(selectors.activity(self.access.view(page), activity)))
