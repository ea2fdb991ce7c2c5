"""Posting over HTTP: the sheet and its lenses, corrections, posting as planned, carrying forward, treatments."""

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from dryledger.book.lists import TREATMENTS
from dryledger.posting.bars import BAR_PARTS
from dryledger.posting.planned import PARTS, WAYS
from server.accounts.models import Role
from server.book.access import Access, ProjectView
from server.posting import actions, bars, corrections, costs, history, hours, planned
from server.posting.sheet import Sheet, sheet
from server.shared.forms import Revision, query, read
from server.shared.schema import serializer_for
from server.shared.words import sentence


class RowEntry(serializers.Serializer[object]):
    """Cells of an activity as typed. A cell that is not named stays; an empty text clears it."""

    activity = serializers.CharField(max_length=100)
    actual_start = serializers.CharField(required=False, allow_blank=True, max_length=100, trim_whitespace=False)
    actual_finish = serializers.CharField(required=False, allow_blank=True, max_length=100, trim_whitespace=False)
    percent = serializers.CharField(required=False, allow_blank=True, max_length=100, trim_whitespace=False)
    remaining = serializers.CharField(required=False, allow_blank=True, max_length=100, trim_whitespace=False)
    carry_to = serializers.CharField(required=False, allow_blank=True, max_length=100, trim_whitespace=False)
    units_done = serializers.CharField(required=False, allow_blank=True, max_length=100, trim_whitespace=False)
    milestones_reached = serializers.CharField(required=False, allow_blank=True, max_length=2000, trim_whitespace=False)
    cost = serializers.CharField(required=False, allow_blank=True, max_length=100, trim_whitespace=False)
    note = serializers.CharField(required=False, allow_blank=True, max_length=100_000, trim_whitespace=False)


class Entries(Revision):
    """Cells of activities, and activities of which the page is to say nothing; written together or not at all."""

    entries = serializers.ListField(child=RowEntry(), required=False, max_length=20_000)
    clear = serializers.ListField(child=serializers.CharField(max_length=100), required=False, max_length=20_000)


class HoursEntryForm(serializers.Serializer[object]):
    """Hours of one assignment as typed. What is not named stays; an empty text clears it. A bare number is hours."""

    activity = serializers.CharField(max_length=100)
    resource = serializers.CharField(max_length=100)
    worked = serializers.CharField(required=False, allow_blank=True, max_length=100)
    overtime = serializers.CharField(required=False, allow_blank=True, max_length=100)
    to_go = serializers.CharField(required=False, allow_blank=True, max_length=100)
    days = serializers.DictField(child=serializers.CharField(allow_blank=True, max_length=100), required=False)
    """Hours by day of the page, as dates: what is worked is their sum then."""


class HoursForm(Revision):
    """Hours of several assignments, written together or not at all."""

    entries = serializers.ListField(child=HoursEntryForm(), allow_empty=False, max_length=20_000)


class CostForm(serializers.Serializer[object]):
    """A cost entry as typed: without an id a new one, which refusals and the answer call by its `line`. What is not named stays.

    `carried`, instead of an amount: what the open accrual of that reference stands at from now; 0 releases it.
    """

    id = serializers.CharField(required=False, max_length=40)
    line = serializers.CharField(required=False, max_length=40)
    date = serializers.CharField(required=False, allow_blank=True, max_length=100)
    on = serializers.CharField(required=False, allow_blank=True, max_length=400)
    amount = serializers.CharField(required=False, allow_blank=True, max_length=100)
    carried = serializers.CharField(required=False, allow_blank=True, max_length=100)
    pays = serializers.CharField(required=False, allow_blank=True, max_length=310)
    kind = serializers.CharField(required=False, allow_blank=True, max_length=40)
    ref = serializers.CharField(required=False, allow_blank=True, max_length=2000)
    text = serializers.CharField(required=False, allow_blank=True, max_length=100_000)


class CostsForm(Revision):
    """Cost entries to write and ids of those to delete, done together or not at all."""

    entries = serializers.ListField(child=CostForm(), required=False, max_length=20_000)
    remove = serializers.ListField(child=serializers.CharField(max_length=40), required=False, max_length=20_000)


class CorrectionForm(Revision):
    """What a dry page should have said, as typed, and why: hours of a resource, a cost by its reference, or cells of a statement."""

    corrects = serializers.CharField(max_length=100)
    on = serializers.CharField(max_length=400)
    resource = serializers.CharField(required=False, allow_blank=True, max_length=100)
    worked = serializers.CharField(required=False, allow_blank=True, max_length=100)
    overtime = serializers.CharField(required=False, allow_blank=True, max_length=100)
    amount = serializers.CharField(required=False, allow_blank=True, max_length=100)
    ref = serializers.CharField(required=False, allow_blank=True, max_length=2000)
    actual_start = serializers.CharField(required=False, allow_blank=True, max_length=100)
    actual_finish = serializers.CharField(required=False, allow_blank=True, max_length=100)
    percent = serializers.CharField(required=False, allow_blank=True, max_length=100)
    remaining = serializers.CharField(required=False, allow_blank=True, max_length=100)
    units_done = serializers.CharField(required=False, allow_blank=True, max_length=100)
    milestones_reached = serializers.CharField(required=False, allow_blank=True, max_length=4000)
    reason = serializers.CharField(allow_blank=True, max_length=100_000)


class CorrectionGone(Revision):
    """The correction that is deleted."""

    remove = serializers.CharField(max_length=40)


class Chosen(Revision):
    """The activities that are meant; absent: all that need an entry."""

    activities = serializers.ListField(child=serializers.CharField(max_length=100), required=False, allow_null=True, max_length=20_000)


class PlannedForm(Chosen):
    """Posting as planned: each to the status date, or only those that should be finished by it; absent `parts` are all."""

    way = serializers.ChoiceField(choices=WAYS, required=False)
    parts = serializers.ListField(child=serializers.ChoiceField(choices=PARTS), required=False)


class CarryForm(Chosen):
    """Carrying forward to a date as typed."""

    to = serializers.CharField(max_length=100, allow_blank=True)


class BarForm(serializers.Serializer[object]):
    """A part of an activity's bar, and the date or instant that it is dragged to."""

    activity = serializers.CharField(max_length=100)
    part = serializers.ChoiceField(choices=BAR_PARTS)
    to = serializers.CharField(max_length=40)


class TreatmentForm(Revision):
    """The treatment of out-of-sequence work."""

    treatment = serializers.ChoiceField(choices=TREATMENTS)


CorrectionAnswer = serializer_for(corrections.CorrectionEffect)
TriedAnswer = serializer_for(planned.TriedOut)
EffectOut = serializer_for(actions.Effect)


class SheetView(ProjectView):
    """The posting sheet of a page."""

    @extend_schema(responses=serializer_for(Sheet), operation_id="posting_sheet")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(sheet(self.access.view(page)))


class EntriesView(ProjectView):
    """Cells of activities on a page."""

    needs = {"patch": (Role.ANALYST, sentence("posting.post_page"))}

    @extend_schema(request=Entries, responses=EffectOut, operation_id="post_entries")
    def patch(self, request: Request, project: str, page: str) -> Response:
        form = read(Entries, request)
        entries: dict[str, dict[str, str]] = {}
        for row in form.get("entries", []):
            typed = {k: v for k, v in row.items() if k in actions.FIELDS}
            if not typed:
                raise serializers.ValidationError({"entries": sentence("posting.name_one_cell_of", activity=row["activity"])})
            entries.setdefault(row["activity"], {}).update(typed)
        clear = form.get("clear", [])
        if not entries and not clear:
            raise serializers.ValidationError({"entries": sentence("posting.name_least_one_cell")})
        return Response(actions.post_entries(self.access, page, form["revision"], entries, clear))


class HoursView(ProjectView):
    """The hours of a page."""

    needs = {"patch": (Role.ANALYST, "post on a page")}

    @extend_schema(responses=serializer_for(hours.HoursSheet), operation_id="hours_sheet")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(hours.hours_sheet(self.access.view(page)))

    @extend_schema(request=HoursForm, responses=serializer_for(hours.HoursEffect), operation_id="post_hours")
    def patch(self, request: Request, project: str, page: str) -> Response:
        form = read(HoursForm, request)
        return Response(hours.post_hours(self.access, page, form["revision"], form["entries"]))


class CostsView(ProjectView):
    """The cost entries of a page."""

    needs = {"patch": (Role.ANALYST, "post on a page")}

    @extend_schema(responses=serializer_for(costs.CostsSheet), operation_id="costs_sheet")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(costs.costs_sheet(self.access.view(page)))

    @extend_schema(request=CostsForm, responses=serializer_for(costs.CostsEffect), operation_id="post_costs")
    def patch(self, request: Request, project: str, page: str) -> Response:
        data = read(CostsForm, request)
        entries, remove = data.get("entries", []), data.get("remove", [])
        if not entries and not remove:
            raise serializers.ValidationError({"entries": sentence("posting.name_least_one_cell")})
        return Response(costs.post_costs(self.access, page, data["revision"], entries, remove))


class TotalsQuery(serializers.Serializer[object]):
    """Of which activity or WBS element; absent: the project."""

    of = serializers.CharField(default="", allow_blank=True, max_length=400)


class CostTotalsView(ProjectView):
    """Actual cost by source of any part of the project."""

    @extend_schema(
        parameters=[TotalsQuery],
        responses=serializer_for(costs.CostTotals),
        operation_id="cost_totals",
    )
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(costs.cost_totals(self.access, page, query(TotalsQuery, request)["of"]))


class CorrectionsView(ProjectView):
    """Corrections of dry pages: those that a page makes and those that it receives."""

    needs = dict.fromkeys(("post", "patch"), (Role.ANALYST, sentence("posting.post_page")))

    @extend_schema(responses=serializer_for(corrections.CorrectionsOut), operation_id="corrections")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(corrections.corrections_of(self.access, page))

    @extend_schema(request=CorrectionForm, responses=CorrectionAnswer, operation_id="correct")
    def post(self, request: Request, project: str, page: str) -> Response:
        typed = read(CorrectionForm, request)
        return Response(corrections.correct(self.access, page, typed["revision"], typed))

    @extend_schema(request=CorrectionGone, responses=CorrectionAnswer, operation_id="delete_correction")
    def patch(self, request: Request, project: str, page: str) -> Response:
        typed = read(CorrectionGone, request)
        return Response(corrections.take_away(self.access, page, typed["revision"], typed["remove"]))


class HistoryView(ProjectView):
    """What every page says of an activity."""

    @extend_schema(responses=serializer_for(history.HistoryOut), operation_id="history")
    def get(self, request: Request, project: str, activity: str) -> Response:
        return Response(history.history(self.access, activity))


class PlannedView(ProjectView):
    """Posting as planned: what it would do, and doing it."""

    needs = dict.fromkeys(("post", "patch"), (Role.ANALYST, sentence("posting.post_page")))

    @extend_schema(request=PlannedForm, responses=TriedAnswer, operation_id="try_planned")
    def post(self, request: Request, project: str, page: str) -> Response:
        form = read(PlannedForm, request)
        return Response(planned.try_planned(self.access, page, form.get("way", WAYS[0]), form.get("activities"), form.get("parts", PARTS)))

    @extend_schema(request=PlannedForm, responses=EffectOut, operation_id="post_planned")
    def patch(self, request: Request, project: str, page: str) -> Response:
        form = read(PlannedForm, request)
        way, codes, parts = form.get("way", WAYS[0]), form.get("activities"), form.get("parts", PARTS)
        return Response(planned.post_planned(self.access, page, form["revision"], way, codes, parts))


class CarryView(ProjectView):
    """Carrying unfinished work forward: what it would do, and doing it."""

    needs = dict.fromkeys(("post", "patch"), (Role.ANALYST, sentence("posting.post_page")))

    @extend_schema(request=CarryForm, responses=TriedAnswer, operation_id="try_carry")
    def post(self, request: Request, project: str, page: str) -> Response:
        form = read(CarryForm, request)
        return Response(planned.try_carry(self.access, page, form["to"], form.get("activities")))

    @extend_schema(request=CarryForm, responses=EffectOut, operation_id="carry_forward")
    def patch(self, request: Request, project: str, page: str) -> Response:
        form = read(CarryForm, request)
        return Response(planned.carry(self.access, page, form["revision"], form["to"], form.get("activities")))


class BarsView(ProjectView):
    """Dragging a bar of the timeline: what it would say and do. Nothing is written."""

    needs = {"post": (Role.ANALYST, sentence("posting.post_page"))}

    @extend_schema(request=BarForm, responses=serializer_for(bars.BarTried), operation_id="try_bar")
    def post(self, request: Request, project: str, page: str) -> Response:
        form = read(BarForm, request)
        return Response(bars.try_bar(self.access, page, form["activity"], form["part"], form["to"]))


class TreatmentsView(ProjectView):
    """The treatments of out-of-sequence work, side by side, and choosing one."""

    needs = {"patch": (Role.ANALYST, "change the plan")}

    @extend_schema(responses=serializer_for(planned.TreatmentsOut), operation_id="treatments")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(planned.treatments(self.access.view(page)))

    @extend_schema(request=TreatmentForm, responses=EffectOut, operation_id="choose_treatment")
    def patch(self, request: Request, project: str, page: str) -> Response:
        form = read(TreatmentForm, request)
        return Response(planned.choose_treatment(self.access, page, form["revision"], form["treatment"]))


class UndoView(ProjectView):
    """Take back the latest step."""

    needs = {"post": (Role.ANALYST, "undo")}

    @extend_schema(request=Revision, responses=EffectOut, operation_id="undo")
    def post(self, request: Request, project: str) -> Response:
        return _undo_or_redo(self.access, request, True)


class RedoView(ProjectView):
    """Do the step that was undone last again."""

    needs = {"post": (Role.ANALYST, "undo")}

    @extend_schema(request=Revision, responses=EffectOut, operation_id="redo")
    def post(self, request: Request, project: str) -> Response:
        return _undo_or_redo(self.access, request, False)


def _undo_or_redo(access: Access, request: Request, back: bool) -> Response:
    return Response(actions.undo_or_redo_entry(access, read(Revision, request)["revision"], back))
