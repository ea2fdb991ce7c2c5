"""The desk and the frame of a project over HTTP."""

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.accounts.roles import person_of
from server.book.access import ProjectView, RoleView
from server.desk.files import desk_csv, desk_xlsx
from server.desk.selectors import desk, frame
from server.desk.shapes import DeskOut, FrameOut
from server.projects import actions
from server.shared.files import CSV, XLSX, download
from server.shared.plain import plain
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


class ProjectsView(RoleView):
    """All projects; a new one."""

    needs = {"post": (Role.ANALYST, sentence("desk.begin_project"))}

    @extend_schema(responses=serializer_for(DeskOut), operation_id="desk")
    def get(self, request: Request) -> Response:
        return Response(plain(desk(person_of(request))))

    @extend_schema(request=NewForm, responses=serializer_for(actions.Created), operation_id="new_project")
    def post(self, request: Request) -> Response:
        form = NewForm(data=request.data)
        form.is_valid(raise_exception=True)
        return Response(plain(actions.create(person_of(request), actions.NewProject(**form.validated_data))))


class DeskFile(RoleView):
    """The desk as CSV or as a workbook."""

    @extend_schema(responses={(200, "text/csv"): OpenApiTypes.STR, (200, XLSX): OpenApiTypes.BINARY}, operation_id="desk_file")
    def get(self, request: Request, form: str) -> HttpResponse:
        found = desk(person_of(request))
        content = desk_csv(found) if form == "csv" else desk_xlsx(found)
        return download(content, f"projects.{form}", CSV if form == "csv" else XLSX)


class FrameView(ProjectView):
    """One project: its pages, revision and baseline."""

    @extend_schema(responses=serializer_for(FrameOut), operation_id="frame")
    def get(self, request: Request, project: str) -> Response:
        return Response(plain(frame(self.access)))
