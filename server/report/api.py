"""Reports over HTTP: the draft and its layout, the review, issuing, editions as HTML, PDF and workbook."""

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
from server.report.compared import EditionsCompared, compared
from server.report.content import edition_of, edition_out, report
from server.report.document import html, pdf
from server.report.review import ROLES, review
from server.report.shapes import EditionOut, ReportOut
from server.report.workbook import workbook
from server.shared.files import XLSX, download
from server.shared.forms import Revision, query, read
from server.shared.problems import Refused
from server.shared.schema import serializer_for
from server.shared.words import sentence

MOST_TEXT = 100_000


class HeadForm(serializers.Serializer[object]):
    """What is said of a head."""

    mark = serializers.CharField(allow_blank=True, max_length=20)
    reason = serializers.CharField(allow_blank=True, max_length=MOST_TEXT, trim_whitespace=False)


class DraftIn(Revision):
    """The words of a report; texts by section and heads by name stay as they are where they are not given."""

    status = serializers.CharField(allow_blank=True, max_length=20)
    reason = serializers.CharField(allow_blank=True, max_length=MOST_TEXT, trim_whitespace=False)
    words = serializers.CharField(allow_blank=True, max_length=MOST_TEXT, trim_whitespace=False)
    texts = serializers.DictField(
        child=serializers.CharField(allow_blank=True, max_length=MOST_TEXT, trim_whitespace=False), required=False
    )
    heads = serializers.DictField(child=HeadForm(), required=False)


class LayoutForm(Revision):
    """The layout of a report: the sections that are shown, in their order, heads of the project's own, WBS levels of money."""

    sections = serializers.ListField(child=serializers.CharField(max_length=40), max_length=40)
    heads = serializers.ListField(child=serializers.CharField(max_length=200, allow_blank=True), max_length=40)
    levels = serializers.IntegerField(min_value=1, max_value=20)


class ReviewForm(serializers.Serializer[object]):
    """One thing said in a review: ask, comment beside a section, settle a comment, send back, approve."""

    do = serializers.ChoiceField(choices=list(ROLES))
    section = serializers.CharField(allow_blank=True, max_length=20, default="")
    text = serializers.CharField(allow_blank=True, max_length=MOST_TEXT, default="")
    about = serializers.IntegerField(required=False, allow_null=True, default=None)


ReportAnswer = serializer_for(ReportOut)


class ReportView(ProjectView):
    """The report of a page, and its words."""

    needs = {"put": (Role.ANALYST, sentence("report.write_report"))}

    @extend_schema(responses=ReportAnswer, operation_id="report")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(report(self.access.view(page)))

    @extend_schema(request=DraftIn, responses=ReportAnswer, operation_id="write_report")
    def put(self, request: Request, project: str, page: str) -> Response:
        d = read(DraftIn, request)
        actions.write_draft(self.access, page, d["revision"], d["status"], d["reason"], d["words"], d.get("texts"), d.get("heads"))
        return Response(report(self.access.view(page)))


class LayoutView(ProjectView):
    """The layout of the project's report."""

    needs = {"put": (Role.ANALYST, sentence("report.write_report"))}

    @extend_schema(request=LayoutForm, responses=ReportAnswer, operation_id="set_report_layout")
    def put(self, request: Request, project: str, page: str) -> Response:
        d = read(LayoutForm, request)
        actions.set_layout(self.access, page, d["revision"], d["sections"], d["heads"], d["levels"])
        return Response(report(self.access.view(page)))


class AdditionForm(serializers.Serializer[object]):
    """Something added to the words of a dry page: to a section, or to `heads.` and a name; of these and overall, a mark."""

    subject = serializers.CharField(max_length=220)
    mark = serializers.CharField(allow_blank=True, max_length=20, default="")
    text = serializers.CharField(allow_blank=True, max_length=MOST_TEXT, default="")


class AdditionsView(ProjectView):
    """What is added to the sealed words of a dry page."""

    needs = {"post": (Role.ANALYST, sentence("report.write_report"))}

    @extend_schema(request=AdditionForm, responses=ReportAnswer, operation_id="add_to_report")
    def post(self, request: Request, project: str, page: str) -> Response:
        d = read(AdditionForm, request)
        actions.add(self.access, page, d["subject"], d["mark"], d["text"])
        return Response(report(self.access.view(page)))


class ReviewView(ProjectView):
    """The review of a page's report."""

    needs = {"post": (Role.ANALYST, sentence("report.comment"))}

    @extend_schema(request=ReviewForm, responses=ReportAnswer, operation_id="review_report")
    def post(self, request: Request, project: str, page: str) -> Response:
        d = read(ReviewForm, request)
        review(self.access, page, d["do"], d["section"], d["text"], d["about"])
        return Response(report(self.access.view(page)))


class IssueView(ProjectView):
    """Issue a report."""

    needs = {"post": (Role.APPROVER, sentence("report.issue_report"))}

    @extend_schema(request=Revision, responses=serializer_for(EditionOut), operation_id="issue_report")
    def post(self, request: Request, project: str, page: str) -> Response:
        return Response(edition_out(actions.issue(self.access, page, read(Revision, request)["revision"])))


PAPER = csp_replace({"style-src": ["'unsafe-inline'"], "script-src": [NONE], "font-src": [SELF]})
"""An edition carries its own style and no script."""


@method_decorator(PAPER, name="dispatch")
class EditionView(ProjectView):
    """An edition as it was issued, or the draft as it would be: `form` is html, pdf or xlsx."""

    @extend_schema(
        responses={
            (200, "text/html"): OpenApiTypes.STR,
            (200, "application/pdf"): OpenApiTypes.BINARY,
            (200, XLSX): OpenApiTypes.BINARY,
        },
        operation_id="edition",
    )
    def get(self, request: Request, project: str, page: str, number: str, form: str) -> HttpResponse:
        name = f"{project}-{page}-{number}.{form}"
        if number == "draft":
            r = report(self.access.view(page))
            if form == "xlsx":
                return download(workbook(r), name, XLSX)
            text = html(r)
            made = pdf(text) if form == "pdf" else b""
        else:
            found = edition_of(self.access, page, number)
            if form == "xlsx":
                if found.xlsx is None:
                    raise Refused("not-found", sentence("report.not_kept", number=number, page=page), 404)
                return download(bytes(found.xlsx), name, XLSX)
            text, made = found.html, bytes(found.pdf)
        if form == "pdf":
            answer = HttpResponse(made, content_type="application/pdf")
            answer["Content-Disposition"] = f"inline; filename*=UTF-8''{quote(name)}"
            return answer
        return HttpResponse(text, content_type="text/html; charset=utf-8")


class OtherQuery(serializers.Serializer[object]):
    """Another edition, as PAGE/NUMBER."""

    other = serializers.CharField(max_length=200)


class EditionsComparedView(ProjectView):
    """What an edition says otherwise than another."""

    @extend_schema(
        parameters=[OtherQuery],
        responses=serializer_for(EditionsCompared),
        operation_id="compare_editions",
    )
    def get(self, request: Request, project: str, page: str, number: str) -> Response:
        other_page, _, other = str(query(OtherQuery, request)["other"]).rpartition("/")
        return Response(compared(edition_of(self.access, page, number), edition_of(self.access, other_page, other)))
