"""Reports over HTTP: the draft, issuing, editions as HTML and PDF."""

from urllib.parse import quote

from csp.constants import NONE, SELF
from csp.decorators import csp_replace
from django.http import HttpResponse
from django.utils.decorators import method_decorator
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.book.access import ProjectView
from server.report import actions
from server.report.document import html, pdf
from server.report.facts import EditionOut, ReportOut, edition_out, report
from server.report.models import Edition
from server.shared.forms import Revision
from server.shared.plain import plain
from server.shared.problems import Refused
from server.shared.schema import serializer_for
from server.shared.words import sentence


class DraftIn(Revision):
    """The words of a report."""

    status = serializers.CharField(allow_blank=True, max_length=20)
    reason = serializers.CharField(allow_blank=True, max_length=100_000, trim_whitespace=False)
    words = serializers.CharField(allow_blank=True, max_length=100_000, trim_whitespace=False)


class ReportView(ProjectView):
    """The report of a page, and its words."""

    needs = {"put": (Role.ANALYST, sentence("report.write_report"))}

    @extend_schema(responses=serializer_for(ReportOut), operation_id="report")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(plain(report(self.access.view(page))))

    @extend_schema(request=DraftIn, responses=serializer_for(ReportOut), operation_id="write_report")
    def put(self, request: Request, project: str, page: str) -> Response:
        form = DraftIn(data=request.data)
        form.is_valid(raise_exception=True)
        d = form.validated_data
        actions.write_draft(self.access, page, d["revision"], d["status"], d["reason"], d["words"])
        return Response(plain(report(self.access.view(page))))


class IssueView(ProjectView):
    """Issue a report."""

    needs = {"post": (Role.APPROVER, sentence("report.issue_report"))}

    @extend_schema(request=Revision, responses=serializer_for(EditionOut), operation_id="issue_report")
    def post(self, request: Request, project: str, page: str) -> Response:
        form = Revision(data=request.data)
        form.is_valid(raise_exception=True)
        return Response(plain(edition_out(actions.issue(self.access, page, form.validated_data["revision"]))))


PAPER = csp_replace({"style-src": ["'unsafe-inline'"], "script-src": [NONE], "font-src": [SELF]})
"""An edition carries its own style and no script."""


@method_decorator(PAPER, name="dispatch")
class EditionView(ProjectView):
    """An edition as it was issued, or the draft as it would be: `form` is html or pdf."""

    @extend_schema(responses={(200, "text/html"): OpenApiTypes.STR, (200, "application/pdf"): OpenApiTypes.BINARY}, operation_id="edition")
    def get(self, request: Request, project: str, page: str, number: str, form: str) -> HttpResponse:
        if number == "draft":
            r = report(self.access.view(page))
            text = html(r, r.draft.status, r.draft.reason)
            made = pdf(text) if form == "pdf" else b""
        else:
            found = Edition.objects.filter(page=self.access.page(page), number=int(number)).first() if number.isdigit() else None
            if found is None:
                raise Refused("not-found", sentence("report.page_no_edition", page=page, number=number), 404)
            text, made = found.html, bytes(found.pdf)
        if form == "pdf":
            answer = HttpResponse(made, content_type="application/pdf")
            answer["Content-Disposition"] = f"inline; filename*=UTF-8''{quote(f'{project}-{page}-{number}.pdf')}"
            return answer
        return HttpResponse(text, content_type="text/html; charset=utf-8")
