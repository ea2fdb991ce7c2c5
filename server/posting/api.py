"""Posting over HTTP: the sheet, an entry, to plan, closing."""

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.accounts.models import Role
from server.book.access import Access, ProjectView
from server.posting import actions
from server.posting.sheet import Sheet, sheet
from server.shared.forms import Revision
from server.shared.plain import plain
from server.shared.schema import serializer_for


class Cells(serializers.Serializer[object]):
    """Cells as typed. A cell that is not named stays; an empty text clears it."""

    actual_start = serializers.CharField(required=False, allow_blank=True, max_length=100, trim_whitespace=False)
    actual_finish = serializers.CharField(required=False, allow_blank=True, max_length=100, trim_whitespace=False)
    percent = serializers.CharField(required=False, allow_blank=True, max_length=100, trim_whitespace=False)
    remaining = serializers.CharField(required=False, allow_blank=True, max_length=100, trim_whitespace=False)
    cost = serializers.CharField(required=False, allow_blank=True, max_length=100, trim_whitespace=False)
    note = serializers.CharField(required=False, allow_blank=True, max_length=100_000, trim_whitespace=False)


class Entry(Cells):
    """Cells of one activity."""

    revision = serializers.IntegerField()


class RowEntry(Cells):
    """Cells of one of several activities."""

    activity = serializers.CharField(max_length=100)


class Entries(Revision):
    """Cells of several activities, written together or not at all."""

    entries = serializers.ListField(child=RowEntry(), allow_empty=False, max_length=20_000)


class ToPlan(Revision):
    """The activities to post to plan; absent: all that want a word."""

    activities = serializers.ListField(child=serializers.CharField(max_length=100), required=False, allow_null=True, max_length=20_000)


class Closed(serializers.Serializer[object]):
    """The page that is open now."""

    page = serializers.CharField()


EffectOut = serializer_for(actions.Effect)


class SheetView(ProjectView):
    """The posting sheet of a page."""

    @extend_schema(responses=serializer_for(Sheet), operation_id="posting_sheet")
    def get(self, request: Request, project: str, page: str) -> Response:
        return Response(plain(sheet(self.access.view(page))))


class EntryView(ProjectView):
    """The cells of one activity on a page."""

    needs = dict.fromkeys(("patch", "delete"), (Role.ANALYST, "post on a page"))

    @extend_schema(request=Entry, responses=EffectOut, operation_id="post_entry")
    def patch(self, request: Request, project: str, page: str, activity: str) -> Response:
        form = Entry(data=request.data)
        form.is_valid(raise_exception=True)
        typed = {k: v for k, v in form.validated_data.items() if k in actions.FIELDS}
        if not typed:
            raise serializers.ValidationError({"activity": "Name at least one cell to write."})
        return Response(plain(actions.post_entry(self.access, page, activity, form.validated_data["revision"], typed)))

    @extend_schema(request=Revision, responses=EffectOut, operation_id="clear_entry")
    def delete(self, request: Request, project: str, page: str, activity: str) -> Response:
        return Response(plain(actions.clear_entry(self.access, page, activity, _revision(request))))


class EntriesView(ProjectView):
    """Cells of several activities on a page."""

    needs = {"patch": (Role.ANALYST, "post on a page")}

    @extend_schema(request=Entries, responses=EffectOut, operation_id="post_entries")
    def patch(self, request: Request, project: str, page: str) -> Response:
        form = Entries(data=request.data)
        form.is_valid(raise_exception=True)
        entries: dict[str, dict[str, str]] = {}
        for row in form.validated_data["entries"]:
            typed = {k: v for k, v in row.items() if k in actions.FIELDS}
            if not typed:
                raise serializers.ValidationError({"entries": f"Name at least one cell of {row['activity']} to write."})
            entries.setdefault(row["activity"], {}).update(typed)
        return Response(plain(actions.post_entries(self.access, page, form.validated_data["revision"], entries)))


class ToPlanView(ProjectView):
    """Post to plan."""

    needs = {"post": (Role.ANALYST, "post on a page")}

    @extend_schema(request=ToPlan, responses=EffectOut, operation_id="post_to_plan")
    def post(self, request: Request, project: str, page: str) -> Response:
        form = ToPlan(data=request.data)
        form.is_valid(raise_exception=True)
        data = form.validated_data
        return Response(plain(actions.post_to_plan(self.access, page, data["revision"], data.get("activities"))))


class CloseView(ProjectView):
    """Close the page."""

    needs = {"post": (Role.ANALYST, "close a page")}

    @extend_schema(request=Revision, responses=Closed, operation_id="close_page")
    def post(self, request: Request, project: str, page: str) -> Response:
        following = actions.close_page(self.access, page, _revision(request))
        return Response({"page": following.code})


def _revision(request: Request) -> int:
    form = Revision(data=request.data)
    form.is_valid(raise_exception=True)
    revision: int = form.validated_data["revision"]
    return revision


class UndoView(ProjectView):
    """Take back the latest step."""

    needs = {"post": (Role.ANALYST, "undo")}

    @extend_schema(request=Revision, responses=EffectOut, operation_id="undo")
    def post(self, request: Request, project: str) -> Response:
        return _turn(self.access, request, True)


class RedoView(ProjectView):
    """Do the step that was undone last again."""

    needs = {"post": (Role.ANALYST, "undo")}

    @extend_schema(request=Revision, responses=EffectOut, operation_id="redo")
    def post(self, request: Request, project: str) -> Response:
        return _turn(self.access, request, False)


def _turn(access: Access, request: Request, back: bool) -> Response:
    form = Revision(data=request.data)
    form.is_valid(raise_exception=True)
    return Response(plain(actions.turn(access, form.validated_data["revision"], back)))
