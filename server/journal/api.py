"""What happened."""

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.book.access import ProjectView
from server.journal import trail
from server.shared.files import CSV, download
from server.shared.forms import query
from server.shared.schema import serializer_for


class StepsQuery(serializers.Serializer[object]):
    """Which steps: of a kind, by whom (a full name), of an activity (its code), with some words."""

    kind = serializers.CharField(default="", allow_blank=True, max_length=40)
    by = serializers.CharField(default="", allow_blank=True, max_length=200)
    of = serializers.CharField(default="", allow_blank=True, max_length=100)
    words = serializers.CharField(default="", allow_blank=True, max_length=200)


class TrailQuery(StepsQuery):
    """The same, before a step that is known."""

    before = serializers.IntegerField(required=False, min_value=0, max_value=2**62)


class JournalView(ProjectView):
    """What happened in a project."""

    @extend_schema(parameters=[TrailQuery], responses=serializer_for(trail.JournalOut), operation_id="journal")
    def get(self, request: Request, project: str) -> Response:
        return Response(trail.journal(self.access.project, query(TrailQuery, request)))


class JournalFileView(ProjectView):
    """The same as CSV."""

    @extend_schema(parameters=[StepsQuery], responses={(200, "text/csv"): OpenApiTypes.STR}, operation_id="journal_csv")
    def get(self, request: Request, project: str) -> HttpResponse:
        content = trail.journal_csv(self.access.project, query(StepsQuery, request))
        return download(content, f"{self.access.project.code}-journal.csv", CSV)
