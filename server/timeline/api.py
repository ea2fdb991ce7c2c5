"""The timeline over HTTP: its rows, progress lines, and a view of it as a file."""

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.timeline.progress_line import AGAINST
from server.accounts.models import Role
from server.book.access import ProjectView
from server.shared.files import download
from server.shared.forms import Listed, OneOf, Revision, query, read
from server.shared.schema import serializer_for
from server.shared.words import sentence
from server.timeline import lines, selectors, shapes
from server.timeline.paper import FITS, MOST_ROWS, PAPER


class TimelineQuery(serializers.Serializer[object]):
    """Which baselines stand beside the measured one: codes with commas between."""

    baselines = Listed(default=list)


class TimelineView(ProjectView):
    """The timeline."""

    @extend_schema(parameters=[TimelineQuery], responses=serializer_for(shapes.TimelineOut), operation_id="timeline")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(selectors.timeline(self.access.view(page), query(TimelineQuery, request)["baselines"]))


class PrintedRow(serializers.Serializer[object]):
    """A row as it stands: a group by its name, an element, an activity or what one waits for in another project by its code."""

    kind = serializers.ChoiceField(choices=("group", "wbs", "activity", "outside"))
    code = serializers.CharField(max_length=100, allow_blank=True, default="")
    name = serializers.CharField(max_length=300, allow_blank=True, default="")
    of = serializers.CharField(max_length=100, allow_blank=True, default="")
    """Who waits for it."""
    depth = serializers.IntegerField(min_value=0, max_value=100, default=0)


class PrintForm(serializers.Serializer[object]):
    """A view of the timeline as it stands, and the file that is wanted."""

    form = serializers.ChoiceField(choices=("svg", "png", "pdf"))
    paper = serializers.ChoiceField(choices=tuple(PAPER), default="A4")
    fit = serializers.ChoiceField(choices=FITS, default="page")
    rows = PrintedRow(many=True)
    columns = serializers.ListField(child=serializers.CharField(max_length=100), max_length=12, default=list)
    labels = serializers.ListField(child=serializers.CharField(max_length=100), max_length=12, default=list)
    baselines = serializers.ListField(child=serializers.CharField(max_length=100), max_length=12, default=list)
    most = serializers.IntegerField(min_value=1, max_value=lines.MOST, default=10)
    lines = serializers.ChoiceField(choices=("none", "strip", *lines.AT), default="none")
    against = serializers.ChoiceField(choices=AGAINST, default="baseline")
    dates = serializers.CharField(max_length=2000, allow_blank=True, default="")
    per_day = serializers.FloatField(min_value=0.02, max_value=400, default=8.0)

    def validate_rows(self, rows: list[object]) -> list[object]:
        if len(rows) > MOST_ROWS:
            raise serializers.ValidationError(sentence("drawn.most_rows", most=MOST_ROWS))
        return rows


class PrintView(ProjectView):
    """The timeline as it stands on the screen, as a file. Nothing is written: it is a POST since a view may be long."""

    @extend_schema(
        request=PrintForm,
        responses={(200, "application/pdf"): OpenApiTypes.BINARY, (200, "image/svg+xml"): OpenApiTypes.BINARY},
        operation_id="print_timeline",
    )
    def post(self, request: Request, project: str, page: str) -> HttpResponse:
        from server.timeline import printing  # the library that draws is read when somebody prints

        v, asked = self.access.view(page), printing.Printed(**read(PrintForm, request))
        kinds = {"pdf": "application/pdf", "svg": "image/svg+xml", "png": "image/png"}
        name = f"{v.project.code}-{v.page.code}-timeline.{asked.form}"
        return download(printing.print_view(v, asked), name, kinds[asked.form])


class KeptForm(Revision):
    """Dates that the project keeps progress lines for, as typed, commas between."""

    dates = serializers.CharField(max_length=2000, allow_blank=True)


class LinesQuery(serializers.Serializer[object]):
    """At which dates lines are drawn, against what, and at most how many, the newest. Dates as typed; of an interval where it begins."""

    at = OneOf(lines.AT, default="status")
    against = OneOf(AGAINST, default="baseline")
    dates = serializers.CharField(max_length=2000, allow_blank=True, default="")
    most = serializers.IntegerField(min_value=1, max_value=lines.MOST, default=10)


class LinesView(ProjectView):
    """Progress lines, and keeping the dates that the project draws them for."""

    needs = {"put": (Role.ANALYST, "change the plan")}

    @extend_schema(request=KeptForm, responses=serializer_for(lines.LinesOut), operation_id="keep_progress_lines")
    def put(self, request: Request, project: str, page: str) -> Response:
        form = read(KeptForm, request)
        lines.keep_lines(self.access, page, form["revision"], form["dates"])
        return Response(lines.lines_out(self.access.view(page), "kept", "baseline", "", lines.MOST))

    @extend_schema(
        parameters=[LinesQuery],
        responses=serializer_for(lines.LinesOut),
        operation_id="progress_lines",
    )
    def get(self, request: Request, project: str, page: str) -> Response:
        q = query(LinesQuery, request)
        return Response(lines.lines_out(self.access.view(page), q["at"], q["against"], q["dates"], q["most"]))
