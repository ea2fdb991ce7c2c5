"""Files in and out over HTTP."""

from typing import Any

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.parsers import MultiPartParser
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.accounts.roles import person_of
from server.baseline.elsewhere import MatchOut
from server.book.access import Access, ProjectView, RoleView
from server.book.results import current_results
from server.exchange import bringing, writing
from server.exchange.as_baseline import as_baseline
from server.exchange.preview import PreviewOut
from server.exchange.sheets import MOST_BYTES
from server.shared.files import download
from server.shared.forms import query
from server.shared.problems import Refused
from server.shared.schema import serializer_for
from server.shared.words import sentence
from server.timeline.selectors import timeline
from server.value.curves import curve

TYPES = {
    "json": "application/json",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "csv": "application/zip",
    "ics": "text/calendar",
    "svg": "image/svg+xml",
    "png": "image/png",
}
FILES = ("book.json", "book.xlsx", "book.csv", "milestones.ics", "timeline.svg", "timeline.png", "curve.svg", "curve.png")


class ExportQuery(serializers.Serializer[object]):
    """The page of a picture."""

    page = serializers.CharField(default="now", max_length=100)


class ExportView(ProjectView):
    """A project as a file."""

    @extend_schema(
        parameters=[OpenApiParameter("file", str, OpenApiParameter.PATH, enum=FILES), ExportQuery],
        responses={(200, "*/*"): OpenApiTypes.BINARY},
        operation_id="export",
    )
    def get(self, request: Request, project: str, file: str) -> HttpResponse:
        if file not in FILES:
            raise Refused("not-found", sentence("exchange.project_had", names=", ".join(FILES)), 404)
        row = self.access.project
        what, _, kind = file.partition(".")
        content = _content(self.access, what, kind, query(ExportQuery, request)["page"])
        name = f"{row.code}.{'zip' if kind == 'csv' else kind}" if what == "book" else f"{row.code} {what}.{kind}"
        return download(content, name, TYPES[kind])


def _content(access: Access, what: str, kind: str, page: str) -> bytes:
    project = access.project
    if what == "book":
        return {"json": writing.as_json, "xlsx": writing.as_xlsx, "csv": writing.as_zip}[kind](project)
    if what == "milestones":
        return writing.as_icalendar(project, current_results(project))
    from server.exchange import pictures  # the library that draws is read when somebody wants a picture

    v = access.view(page)
    if what == "timeline":
        return pictures.timeline_picture(timeline(v), project.name, kind)
    c = curve(v, None, "week")
    base = v.results.baseline
    return pictures.curve_picture(c, project.name, project.currency, base.code if base else None, kind)


class FileForm(serializers.Serializer[object]):
    """A file to bring in; without `apply` only what it would do is said."""

    file = serializers.FileField()
    code = serializers.CharField(required=False, allow_blank=True, default="", max_length=40)
    apply = serializers.BooleanField(required=False, default=False)
    revision = serializers.IntegerField(required=False, allow_null=True, default=None)


def _file(request: Request, form_of: type[FileForm] = FileForm) -> dict[str, Any]:
    """The form of a file, read; one that is too large is refused before it is read."""
    form = form_of(data=request.data)
    form.is_valid(raise_exception=True)
    d: dict[str, Any] = form.validated_data
    if d["file"].size > MOST_BYTES:
        raise Refused("too-large", sentence("exchange.file_larger_mb_nothing"), 413, field="file")
    return d


class BringNewView(RoleView):
    """A file as a new project."""

    parser_classes = (MultiPartParser,)
    needs = {"post": (Role.ANALYST, sentence("exchange.import_file"))}

    @extend_schema(request={"multipart/form-data": FileForm}, responses=serializer_for(PreviewOut), operation_id="bring_new")
    def post(self, request: Request) -> Response:
        d = _file(request)
        return Response(bringing.bring_new(person_of(request), d["file"].name, d["file"].read(), d["code"], d["apply"]))


class BringView(ProjectView):
    """A file into a project that is there."""

    parser_classes = (MultiPartParser,)
    needs = {"post": (Role.ANALYST, sentence("exchange.import_file"))}

    @extend_schema(request={"multipart/form-data": FileForm}, responses=serializer_for(PreviewOut), operation_id="bring")
    def post(self, request: Request, project: str) -> Response:
        d = _file(request)
        return Response(bringing.bring_into(self.access, d["file"].name, d["file"].read(), d["apply"], d["revision"]))


class BaselineFileForm(FileForm):
    """A plan in a file that becomes a baseline; without `apply` only what it would give is told, row by row."""

    name = serializers.CharField(max_length=300, required=False, allow_blank=True, default="")
    reason = serializers.CharField(max_length=4000, required=False, allow_blank=True, default="")


class BaselineFileView(ProjectView):
    """A file as a baseline of a project that is there."""

    parser_classes = (MultiPartParser,)
    needs = {"post": (Role.ANALYST, sentence("baseline.ask_for"))}

    @extend_schema(request={"multipart/form-data": BaselineFileForm}, responses=serializer_for(MatchOut), operation_id="baseline_of_file")
    def post(self, request: Request, project: str) -> Response:
        d = _file(request, BaselineFileForm)
        words = d["name"], d["reason"]
        return Response(as_baseline(self.access, d["file"].name, d["file"].read(), words, d["apply"], d["revision"]))
