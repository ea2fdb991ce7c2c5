"""The budget and estimates over HTTP."""

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.calendar.buckets import BUCKETS
from server.book.access import ProjectView
from server.budget import selectors
from server.shared.json_values import json_values
from server.shared.schema import serializer_for

BUCKET = OpenApiParameter("bucket", str, enum=BUCKETS)


class BudgetView(ProjectView):
    """The budget by time."""

    @extend_schema(parameters=[BUCKET, OpenApiParameter("rows", str)], responses=serializer_for(selectors.BudgetOut), operation_id="budget")
    def get(self, request: Request, project: str) -> Response:
        q = request.query_params
        return Response(json_values(selectors.budget_out(self.access, q.get("bucket") or "month", q.get("rows", ""))))


class EstimatesView(ProjectView):
    """The kept estimates."""

    @extend_schema(responses=serializer_for(selectors.EstimatesOut), operation_id="estimates")
    def get(self, request: Request, project: str) -> Response:
        return Response(json_values(selectors.estimates_out(self.access)))


class TriedView(ProjectView):
    """An estimate as it would be."""

    @extend_schema(
        parameters=[OpenApiParameter(n, str) for n in ("measure", "total", "percent", "top")],
        responses=serializer_for(selectors.EstimateOut),
        operation_id="try_estimate",
    )
    def get(self, request: Request, project: str) -> Response:
        q = request.query_params
        return Response(
            json_values(selectors.tried(self.access, q.get("measure", "hours"), q.get("total", ""), q.get("percent", ""), q.get("top", "")))
        )
