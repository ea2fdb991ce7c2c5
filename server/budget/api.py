"""The budget and estimates over HTTP."""

from django.http import HttpResponse
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.calendar.buckets import BUCKETS
from server.accounts.models import Role
from server.book.access import ProjectView
from server.budget import deciding, money, selectors, spending
from server.shared.files import CSV, XLSX, download
from server.shared.forms import Listed, OneOf, query
from server.shared.schema import serializer_for
from server.shared.words import sentence


class BudgetQuery(serializers.Serializer[object]):
    """By which buckets of time; the rows that the costs by kind are of, with commas between."""

    bucket = OneOf(BUCKETS, default="month")
    rows = Listed(default=list)


class EstimateQuery(serializers.Serializer[object]):
    """An estimate as it is typed."""

    measure = serializers.CharField(default="hours", max_length=40)
    total = serializers.CharField(default="", allow_blank=True, max_length=100)
    percent = serializers.CharField(default="", allow_blank=True, max_length=100)
    top = serializers.CharField(default="", allow_blank=True, max_length=100)


class BudgetView(ProjectView):
    """The budget by time."""

    @extend_schema(parameters=[BudgetQuery], responses=serializer_for(selectors.BudgetOut), operation_id="budget")
    def get(self, request: Request, project: str) -> Response:
        return Response(selectors.budget_out(self.access, **query(BudgetQuery, request)))


class MoneyView(ProjectView):
    """Orders, what is owed, the budget under change and the reserves at a page."""

    @extend_schema(responses=serializer_for(money.MoneyOut), operation_id="money")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(money.money_out(self.access, page))


class SpendingQuery(serializers.Serializer[object]):
    """By which buckets of time, and what the rows are."""

    bucket = OneOf(BUCKETS, default="month")
    by = serializers.CharField(default="wbs", max_length=100)


class SpendingView(ProjectView):
    """Spending against the budget by time."""

    @extend_schema(parameters=[SpendingQuery], responses=serializer_for(spending.SpendingOut), operation_id="spending")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(spending.spending_out(self.access.view(page), **query(SpendingQuery, request)))


class SpendingFile(ProjectView):
    """The same as CSV or workbook."""

    @extend_schema(
        parameters=[SpendingQuery],
        responses={(200, "text/csv"): OpenApiTypes.STR, (200, XLSX): OpenApiTypes.BINARY},
        operation_id="spending_file",
    )
    def get(self, request: Request, project: str, page: str, form: str) -> HttpResponse:
        v, asked = self.access.view(page), query(SpendingQuery, request)
        name = f"{v.project.code}-{v.page.code}-spending.{form}"
        if form == "csv":
            return download(spending.spending_csv(v, **asked), name, CSV)
        return download(spending.spending_xlsx(v, **asked), name, XLSX)


class Decision(serializers.Serializer[object]):
    """Whether a change is approved, and the revision that was seen."""

    revision = serializers.IntegerField()
    approve = serializers.BooleanField()


class Decided(serializers.Serializer[object]):
    """The project's revision after a decision."""

    revision = serializers.IntegerField()


class DecisionView(ProjectView):
    """Approving or refusing a change."""

    needs = {"post": (Role.APPROVER, sentence("budget.decide_change"))}

    @extend_schema(request=Decision, responses=Decided, operation_id="decide_change")
    def post(self, request: Request, project: str, change: str) -> Response:
        form = Decision(data=request.data)
        form.is_valid(raise_exception=True)
        d = form.validated_data
        return Response({"revision": deciding.decide(self.access, change, d["revision"], d["approve"])})


class EstimatesView(ProjectView):
    """The kept estimates."""

    @extend_schema(responses=serializer_for(selectors.EstimatesOut), operation_id="estimates")
    def get(self, request: Request, project: str) -> Response:
        return Response(selectors.estimates_out(self.access))


class TriedView(ProjectView):
    """An estimate as it would be."""

    @extend_schema(
        parameters=[EstimateQuery],
        responses=serializer_for(selectors.EstimateOut),
        operation_id="try_estimate",
    )
    def get(self, request: Request, project: str) -> Response:
        return Response(selectors.tried(self.access, **query(EstimateQuery, request)))
