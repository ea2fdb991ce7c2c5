"""Baselines over HTTP."""

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.accounts.roles import require
from server.baseline import actions, asking, elsewhere, selectors, starting
from server.book.access import ProjectView
from server.shared.forms import query, read
from server.shared.schema import serializer_for
from server.shared.words import sentence


class AskBaselineForm(serializers.Serializer[object]):
    """A baseline; `rows` narrows it to chosen activities and elements, `changes` are the approved ones that it builds in."""

    name = serializers.CharField(max_length=300, allow_blank=True)
    reason = serializers.CharField(max_length=4000, allow_blank=True)
    rows = serializers.ListField(child=serializers.CharField(max_length=20), required=False, allow_null=True, max_length=20_000)
    changes = serializers.ListField(child=serializers.CharField(max_length=100), required=False, default=list, max_length=2_000)


class TakeForm(AskBaselineForm):
    """A baseline to be taken."""

    revision = serializers.IntegerField()


class ChooseForm(serializers.Serializer[object]):
    """Which baseline is measured against, and which are drawn."""

    revision = serializers.IntegerField()
    measured = serializers.CharField(max_length=100, allow_null=True)
    drawn = serializers.ListField(child=serializers.CharField(max_length=100), max_length=100)


class BackForm(serializers.Serializer[object]):
    """The project that a baseline is brought back as."""

    code = serializers.CharField(max_length=40, allow_blank=True)
    name = serializers.CharField(max_length=300, allow_blank=True)


class Coded(serializers.Serializer[object]):
    """The code of what was made."""

    code = serializers.CharField()


class Taken(Coded):
    """A baseline that was taken, and the project's revision after it."""

    revision = serializers.IntegerField()


class ShelfView(ProjectView):
    """The shelf of baselines; taking one."""

    needs = {
        "post": (Role.APPROVER, sentence("baseline.approve_baseline")),
        "put": (Role.APPROVER, sentence("baseline.choose_baseline_performance_measured")),
    }

    @extend_schema(responses=serializer_for(selectors.ShelfOut), operation_id="shelf")
    def get(self, request: Request, project: str) -> Response:
        return Response(selectors.shelf(self.access))

    @extend_schema(request=TakeForm, responses=Taken, operation_id="take_baseline")
    def post(self, request: Request, project: str) -> Response:
        d = read(TakeForm, request)
        code = actions.take(self.access, d["revision"], d["name"], d["reason"], d.get("rows"), d["changes"])
        return Response({"code": code, "revision": self.access.project.revision})

    @extend_schema(request=ChooseForm, responses=serializer_for(selectors.ShelfOut), operation_id="choose_baseline")
    def put(self, request: Request, project: str) -> Response:
        d = read(ChooseForm, request)
        actions.choose(self.access, d["revision"], d["measured"], d["drawn"])
        return Response(selectors.shelf(self.access))


class BackView(ProjectView):
    """Bring a baseline back as a separate project."""

    needs = {"post": (Role.ANALYST, sentence("baseline.begin_project"))}

    @extend_schema(request=BackForm, responses=Coded, operation_id="bring_back")
    def post(self, request: Request, project: str, baseline: str) -> Response:
        require(self.access.person, *self.needs["post"])  # a project of the organisation, whatever one is in this one
        d = read(BackForm, request)
        return Response({"code": starting.start_project(self.access, baseline, d["code"], d["name"])})


class DropForm(serializers.Serializer[object]):
    """Why a baseline is taken away."""

    revision = serializers.IntegerField()
    reason = serializers.CharField(max_length=4000, allow_blank=True)


class BaselineView(ProjectView):
    """Take a baseline away that nothing refers to."""

    needs = {"post": (Role.APPROVER, sentence("baseline.approve_baseline"))}

    @extend_schema(request=DropForm, responses=serializer_for(selectors.ShelfOut), operation_id="drop_baseline")
    def post(self, request: Request, project: str, baseline: str) -> Response:
        d = read(DropForm, request)
        actions.drop(self.access, d["revision"], baseline, d["reason"])
        return Response(selectors.shelf(self.access))


class AsksView(ProjectView):
    """Ask for a baseline."""

    needs = {"post": (Role.ANALYST, sentence("baseline.ask_for"))}

    @extend_schema(request=AskBaselineForm, responses=serializer_for(selectors.ShelfOut), operation_id="ask_for_baseline")
    def post(self, request: Request, project: str) -> Response:
        d = read(AskBaselineForm, request)
        asking.ask_for(self.access, d["name"], d["reason"], d.get("rows"), d["changes"])
        return Response(selectors.shelf(self.access))


class AnswerBaselineForm(serializers.Serializer[object]):
    """Whether a baseline that is asked for is taken; else why not."""

    revision = serializers.IntegerField()
    take = serializers.BooleanField()
    text = serializers.CharField(max_length=4000, allow_blank=True, default="")


class AskedView(ProjectView):
    """Take a baseline that is asked for, or send it back; one's own is withdrawn."""

    needs = {"post": (Role.ANALYST, sentence("baseline.ask_for"))}

    @extend_schema(request=AnswerBaselineForm, responses=serializer_for(selectors.ShelfOut), operation_id="answer_asked_baseline")
    def post(self, request: Request, project: str, pk: int) -> Response:
        d = read(AnswerBaselineForm, request)
        asking.answer(self.access, pk, d["revision"], d["take"], d["text"])
        return Response(selectors.shelf(self.access))


class ElsewhereForm(serializers.Serializer[object]):
    """The plan of another project as a baseline; without `apply` only what it would give is told."""

    project = serializers.CharField(max_length=100)
    name = serializers.CharField(max_length=300, allow_blank=True, default="")
    reason = serializers.CharField(max_length=4000, allow_blank=True, default="")
    revision = serializers.IntegerField()
    apply = serializers.BooleanField(default=False)


class ElsewhereView(ProjectView):
    """The plan of another project as a baseline of this one."""

    needs = {"post": (Role.ANALYST, sentence("baseline.ask_for"))}

    @extend_schema(request=ElsewhereForm, responses=serializer_for(elsewhere.MatchOut), operation_id="baseline_of_project")
    def post(self, request: Request, project: str) -> Response:
        d = read(ElsewhereForm, request)
        other = elsewhere.book_of_project(self.access, d["project"])
        done = elsewhere.bring(self.access, d["revision"], other, {}, (d["name"], d["reason"]), d["project"], d["apply"])
        return Response(done)


class PairQuery(serializers.Serializer[object]):
    """Two baselines by their codes; the later may be the plan as it is (`now`)."""

    earlier = serializers.CharField(max_length=100)
    later = serializers.CharField(max_length=100)


class DifferencesView(ProjectView):
    """The differences between two baselines, or one and the present."""

    @extend_schema(
        parameters=[PairQuery],
        responses=serializer_for(selectors.DifferencesOut),
        operation_id="differences",
    )
    def get(self, request: Request, project: str) -> Response:
        return Response(selectors.differences(self.access, **query(PairQuery, request)))
