"""What happened."""

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from server.book.access import ProjectView
from server.journal import trail
from server.shared.files import CSV, download
from server.shared.json_values import json_values
from server.shared.schema import serializer_for

FILTER = [OpenApiParameter(name, str) for name in ("kind", "by", "of", "words")]


class JournalView(ProjectView):
    """What happened in a project."""

    @extend_schema(
        parameters=[*FILTER, OpenApiParameter("before", int)], responses=serializer_for(trail.JournalOut), operation_id="journal"
    )
    def get(self, request: Request, project: str) -> Response:
        return Response(json_values(trail.journal(self.access.project, request.query_params.dict())))


class JournalFileView(ProjectView):
    """The same as CSV."""

    @extend_schema(parameters=FILTER, responses={(200, "text/csv"): OpenApiTypes.STR}, operation_id="journal_csv")
    def get(self, request: Request, project: str) -> HttpResponse:
        content = trail.journal_csv(self.access.project, request.query_params.dict())
        return download(content, f"{self.access.project.code}-journal.csv", CSV)
