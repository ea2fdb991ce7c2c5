"""Options over HTTP: the board, each option and its plan sheet, proposals in parts, levelling, adopting."""

import time

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.options.levelling import MODES
from server.accounts.models import Role
from server.book.access import ProjectView
from server.options import actions, adopting, asking, in_sheet, selectors, shapes
from server.options.computing import option_row, present_of
from server.options.trying import ProposalsOut, tried
from server.plan.api import EffectOut, UndoOrRedo, Verbs, sight_of
from server.plan.details import RowOut, row_of_sheet, sheet_out
from server.plan.shapes import PlanSerializer
from server.shared.forms import Revision, query, read
from server.shared.problems import Refused
from server.shared.schema import serializer_for
from server.shared.words import sentence

MAY = (Role.ANALYST, sentence("options.make"))
MadeOut = serializer_for(actions.OptionMade)


class Seen(serializers.Serializer[object]):
    """How often the option had been written when the writer saw it."""

    seen = serializers.IntegerField()


class NewOptionForm(serializers.Serializer[object]):
    """A new option: empty, or of other options and proposals."""

    name = serializers.CharField(max_length=1000, allow_blank=True)
    notes = serializers.CharField(max_length=100_000, allow_blank=True, required=False, default="")
    options = serializers.ListField(child=serializers.IntegerField(), required=False, max_length=60)
    proposals = serializers.ListField(child=serializers.CharField(max_length=300), required=False, max_length=200)


class DescribeForm(Seen):
    """Another name, other notes; what is not named stays."""

    name = serializers.CharField(max_length=1000, allow_blank=True, required=False)
    notes = serializers.CharField(max_length=100_000, allow_blank=True, required=False)


class RebaseForm(Seen):
    """Which of the changes that do not fit are kept all the same."""

    keep = serializers.ListField(child=serializers.IntegerField(min_value=0), required=False, max_length=20_000)


class AdoptForm(Revision, Seen):
    """Why an option is taken, and who approved it."""

    reason = serializers.CharField(max_length=100_000, allow_blank=True)


class AskForm(serializers.Serializer[object]):
    """What readers are asked; empty: nothing any more."""

    text = serializers.CharField(max_length=100_000, allow_blank=True)


class RemarkForm(serializers.Serializer[object]):
    """What somebody says of an option (null: of the present), and whether they would take it."""

    option = serializers.IntegerField(allow_null=True)
    text = serializers.CharField(max_length=100_000, allow_blank=True, required=False, default="")
    chosen = serializers.BooleanField(required=False, default=False)


class ProposalsForm(serializers.Serializer[object]):
    """From which idea on to go on trying, and at which activities (absent: the whole driving path)."""

    next = serializers.IntegerField(min_value=0, max_value=1_000_000)
    activities = serializers.ListField(child=serializers.CharField(max_length=100), required=False, max_length=10_000)


class OptionsView(ProjectView):
    """The board, and a new option."""

    needs = {"post": MAY}

    @extend_schema(responses=serializer_for(shapes.BoardOut), operation_id="options")
    def get(self, request: Request, project: str) -> Response:
        return Response(selectors.board(self.access))

    @extend_schema(request=NewOptionForm, responses=MadeOut, operation_id="make_option")
    def post(self, request: Request, project: str) -> Response:
        form = read(NewOptionForm, request)
        made = actions.create(self.access, form["name"], form["notes"], form.get("options", ()), form.get("proposals", ()))
        return Response(made, status=201)


class OptionView(ProjectView):
    """One option: its name and notes, and taking it away."""

    needs = {"patch": MAY, "delete": MAY}

    @extend_schema(request=DescribeForm, responses=MadeOut, operation_id="describe_option")
    def patch(self, request: Request, project: str, pk: int) -> Response:
        form = read(DescribeForm, request)
        return Response(actions.describe(self.access, pk, form["seen"], form.get("name"), form.get("notes")))

    @extend_schema(responses={204: None}, operation_id="drop_option", parameters=[Seen])
    def delete(self, request: Request, project: str, pk: int) -> Response:
        actions.drop(self.access, pk, query(Seen, request)["seen"])
        return Response(status=204)


class OptionChangeView(ProjectView):
    """Take one change out of an option."""

    needs = {"post": MAY}

    @extend_schema(request=Seen, responses=MadeOut, operation_id="drop_option_change")
    def post(self, request: Request, project: str, pk: int, number: int) -> Response:
        return Response(actions.without(self.access, pk, read(Seen, request)["seen"], number))


class RebaseView(ProjectView):
    """Make an option fit a plan that moved."""

    needs = {"post": MAY}

    @extend_schema(request=RebaseForm, responses=MadeOut, operation_id="rebase_option")
    def post(self, request: Request, project: str, pk: int) -> Response:
        form = read(RebaseForm, request)
        return Response(actions.rebase(self.access, pk, form["seen"], form.get("keep", ())))


class AdoptView(ProjectView):
    """Make an option the plan."""

    needs = {"post": (Role.ANALYST, sentence("options.adopt"))}

    @extend_schema(request=AdoptForm, responses=serializer_for(adopting.Adopted), operation_id="adopt_option")
    def post(self, request: Request, project: str, pk: int) -> Response:
        form = read(AdoptForm, request)
        done = adopting.adopt(self.access, pk, form["revision"], form["seen"], form["reason"])
        return Response(done)


class OptionPlanView(ProjectView):
    """The plan sheet with an option on top."""

    @extend_schema(responses=PlanSerializer, operation_id="option_plan")
    def get(self, request: Request, project: str, pk: int) -> Response:
        here, row = present_of(self.access.project), option_row(self.access, pk)
        sheet = in_sheet.option_sheet(here, here.top(row))
        return Response(sheet_out(self.access.project, sheet, in_sheet.revision_of(self.access, row)))


class OptionRowView(ProjectView):
    """All of one activity as an option has it."""

    @extend_schema(responses=serializer_for(RowOut), operation_id="option_row")
    def get(self, request: Request, project: str, pk: int, row: str) -> Response:
        here = present_of(self.access.project)
        sheet = in_sheet.option_sheet(here, here.top(option_row(self.access, pk)))
        return Response(row_of_sheet(sheet, row))


class OptionChangesView(ProjectView):
    """Change the plan in an option."""

    needs = {"post": MAY}

    @extend_schema(request=Verbs, responses=EffectOut, operation_id="change_option")
    def post(self, request: Request, project: str, pk: int) -> Response:
        data = read(Verbs, request)
        done = in_sheet.change_option(self.access, pk, data["revision"], data["verbs"], sight_of(data), data["preview"])
        return Response(done)


class OptionUndoView(ProjectView):
    """Undo or redo in an option."""

    needs = {"post": MAY}

    @extend_schema(
        request=UndoOrRedo,
        responses=EffectOut,
        operation_id="turn_option",
        parameters=[OpenApiParameter("way", str, OpenApiParameter.PATH, enum=("undo", "redo"))],
    )
    def post(self, request: Request, project: str, pk: int, way: str) -> Response:
        if way not in ("undo", "redo"):
            raise Refused("not-found", sentence("plan.nothing_address"), 404)
        data = read(UndoOrRedo, request)
        return Response(in_sheet.undo_or_redo_option(self.access, pk, data["revision"], way == "undo", sight_of(data)))


class OverlayView(ProjectView):
    """Timeline and curve of the present and the options, laid over each other."""

    @extend_schema(responses=serializer_for(shapes.OverlayOut), operation_id="options_overlay")
    def get(self, request: Request, project: str) -> Response:
        return Response(selectors.overlay(self.access))


class LevelView(ProjectView):
    """What levelling would do."""

    @extend_schema(
        responses=serializer_for(shapes.LevelOut),
        operation_id="level",
        parameters=[OpenApiParameter("mode", str, OpenApiParameter.PATH, enum=MODES)],
    )
    def get(self, request: Request, project: str, mode: str) -> Response:
        if mode not in MODES:
            raise Refused("not-found", sentence("plan.nothing_address"), 404)
        return Response(selectors.level_out(self.access, mode))


class ProposalsView(ProjectView):
    """Try the next ideas for a while, and say what came of them. Whoever asks goes on asking, or stops."""

    @extend_schema(request=ProposalsForm, responses=serializer_for(ProposalsOut), operation_id="proposals")
    def post(self, request: Request, project: str) -> Response:
        form = read(ProposalsForm, request)
        scope = frozenset(form["activities"]) if "activities" in form else None
        return Response(tried(self.access, form["next"], scope, time.monotonic))


class AskView(ProjectView):
    """Ask readers for a choice."""

    needs = {"put": (Role.ANALYST, sentence("options.ask"))}

    @extend_schema(request=AskForm, responses={204: None}, operation_id="ask_for_choice")
    def put(self, request: Request, project: str) -> Response:
        asking.ask_for_choice(self.access, read(AskForm, request)["text"])
        return Response(status=204)


class RemarksView(ProjectView):
    """Say something of an option, or choose it."""

    @extend_schema(request=RemarkForm, responses={204: None}, operation_id="remark_option")
    def post(self, request: Request, project: str) -> Response:
        form = read(RemarkForm, request)
        asking.remark(self.access, form["option"], form["text"], form["chosen"])
        return Response(status=204)
