"""Checks over HTTP: the working list, signs for the sheets, answers, limits, and the plan's quality as CSV."""

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.book.access import ProjectView
from server.checks import actions, selectors
from server.shared.files import CSV, download
from server.shared.forms import Revision, read
from server.shared.schema import serializer_for

MOST = 20_000


class AnswerForm(serializers.Serializer[object]):
    """A finding and why it is accepted, as typed; what is not named stays. An empty reason takes the answer back,
    an empty page makes it good for ever."""

    check = serializers.CharField(max_length=60)
    row = serializers.CharField(max_length=100)
    text = serializers.CharField(required=False, allow_blank=True, max_length=100_000)
    until = serializers.CharField(required=False, allow_blank=True, max_length=100)


class AnswersForm(Revision):
    """Answers to several findings, given together or not at all."""

    entries = serializers.ListField(child=AnswerForm(), allow_empty=False, max_length=MOST)


class LimitsForm(Revision):
    """Limits as typed. What is not named stays; an empty text is the usual one."""

    lag = serializers.CharField(required=False, allow_blank=True, max_length=40)
    float = serializers.CharField(required=False, allow_blank=True, max_length=40)
    duration = serializers.CharField(required=False, allow_blank=True, max_length=40)
    percent = serializers.CharField(required=False, allow_blank=True, max_length=40)


AnsweredOut = serializer_for(actions.Answered)


class ChecksView(ProjectView):
    """The checks of a page."""

    @extend_schema(responses=serializer_for(selectors.ChecksOut), operation_id="checks")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(selectors.checks_of(self.access.view(page)))


class SignsView(ProjectView):
    """The rows with open findings."""

    @extend_schema(responses=serializer_for(selectors.Signs), operation_id="signs")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(selectors.signs_of(self.access.view(page)))


class QualityView(ProjectView):
    """The quality of the plan as CSV."""

    @extend_schema(responses={(200, "text/csv"): OpenApiTypes.STR}, operation_id="plan_quality")
    def get(self, request: Request, project: str, page: str) -> HttpResponse:
        v = self.access.view(page)
        return download(selectors.quality_csv(v), f"{v.book.project.code}-{v.page.code}-plan-quality.csv", CSV)


class AnswersView(ProjectView):
    """Answers to findings on the open page."""

    needs = {"patch": (Role.ANALYST, "answer a check")}

    @extend_schema(request=AnswersForm, responses=AnsweredOut, operation_id="answer_checks")
    def patch(self, request: Request, project: str, page: str) -> Response:
        d = read(AnswersForm, request)
        return Response(actions.answer(self.access, page, d["revision"], d["entries"]))


class LimitsView(ProjectView):
    """The project's limits."""

    needs = {"patch": (Role.ANALYST, "change the plan")}

    @extend_schema(request=LimitsForm, responses=AnsweredOut, operation_id="set_limits")
    def patch(self, request: Request, project: str) -> Response:
        d = read(LimitsForm, request)
        return Response(actions.set_limits(self.access, d.pop("revision"), d))
