"""Calendars, resources and loads over HTTP."""

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.calendar.buckets import BUCKETS
from server.book.access import ProjectView
from server.resources import selectors
from server.resources.shapes import ListsSerializer
from server.shared.plain import plain
from server.shared.schema import serializer_for


class ListsView(ProjectView):
    """Calendars and resources."""

    @extend_schema(responses=ListsSerializer, operation_id="plan_lists")
    def get(self, request: Request, project: str) -> Response:
        return Response(plain(selectors.lists_out(self.access)))


class LoadsView(ProjectView):
    """The loads of the resources."""

    @extend_schema(
        parameters=[OpenApiParameter("bucket", str, enum=BUCKETS)], responses=serializer_for(selectors.LoadsOut), operation_id="loads"
    )
    def get(self, request: Request, project: str) -> Response:
        return Response(plain(selectors.loads_out(self.access, request.query_params.get("bucket") or "week")))
