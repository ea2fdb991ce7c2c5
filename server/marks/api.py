"""Marks over HTTP: the rules with what they catch, trying and saving them, and the organisation's sets."""

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.accounts.roles import require
from server.book.access import ProjectView
from server.marks import actions, selectors
from server.shared.forms import Revision, read
from server.shared.schema import serializer_for


class RulesField(serializers.ListField):
    """Rules as the book writes them."""

    child = serializers.DictField()


class TryForm(serializers.Serializer[object]):
    """Rules to be tried, in their order."""

    rules = RulesField(max_length=actions.MOST_RULES)


class RulesForm(Revision):
    """Rules to be saved, in their order; none is the shipped set."""

    rules = RulesField(max_length=actions.MOST_RULES)


class SetForm(serializers.Serializer[object]):
    """A set of rules for the organisation."""

    name = serializers.CharField(max_length=100, allow_blank=True)
    rules = RulesField(max_length=actions.MOST_RULES)


MarksAnswer = serializer_for(selectors.MarksOut)


class MarksView(ProjectView):
    """The rules of a page, and saving those of the open one."""

    needs = {"put": (Role.ANALYST, "change the mark rules")}

    @extend_schema(responses=MarksAnswer, operation_id="marks")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(selectors.marks_out(self.access.view(page)))

    @extend_schema(request=RulesForm, responses=serializer_for(actions.RulesSaved), operation_id="set_mark_rules")
    def put(self, request: Request, project: str, page: str) -> Response:
        form = read(RulesForm, request)
        return Response(actions.set_rules(self.access, page, form["revision"], form["rules"]))


class TryView(ProjectView):
    """What rules would do."""

    @extend_schema(request=TryForm, responses=serializer_for(selectors.TriedMarks), operation_id="try_mark_rules")
    def post(self, request: Request, project: str, page: str) -> Response:
        return Response(actions.tried(self.access.view(page), read(TryForm, request)["rules"]))


class SetsView(ProjectView):
    """Sets of rules that the organisation keeps: for who approves there, whatever they are in one project."""

    needs = {"post": (Role.APPROVER, "change what the organisation keeps")}

    @extend_schema(request=SetForm, responses=MarksAnswer, operation_id="keep_rule_set")
    def post(self, request: Request, project: str, page: str) -> Response:
        require(self.access.person, *self.needs["post"])
        form = read(SetForm, request)
        actions.keep_set(self.access, form["name"], form["rules"])
        return Response(selectors.marks_out(self.access.view(page)))


class SetView(ProjectView):
    """One set of the organisation."""

    needs = {"delete": (Role.APPROVER, "change what the organisation keeps")}

    @extend_schema(responses={200: MarksAnswer}, operation_id="delete_rule_set")
    def delete(self, request: Request, project: str, page: str, pk: int) -> Response:
        require(self.access.person, *self.needs["delete"])
        actions.drop_set(pk)
        return Response(selectors.marks_out(self.access.view(page)))
