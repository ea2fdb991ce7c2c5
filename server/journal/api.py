"""Undo, redo, and what happened."""

from dataclasses import dataclass

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from server.accounts.roles import person_of
from server.journal.models import Step
from server.posting.actions import turn
from server.posting.api import EffectOut, Revision
from server.posting.pages import find_project
from server.shared.plain import plain
from server.shared.schema import serializer_for


@dataclass
class StepOut:
    """One step of the journal."""

    revision: int
    at: str
    by: str
    label: str
    subject: str
    undone: bool


@dataclass
class JournalOut:
    """The latest steps, newest first."""

    steps: list[StepOut]


class UndoView(APIView):
    """Take back the latest step."""

    @extend_schema(request=Revision, responses=EffectOut, operation_id="undo")
    def post(self, request: Request, project: str) -> Response:
        return _turn(request, project, True)


class RedoView(APIView):
    """Do the step that was undone last again."""

    @extend_schema(request=Revision, responses=EffectOut, operation_id="redo")
    def post(self, request: Request, project: str) -> Response:
        return _turn(request, project, False)


def _turn(request: Request, project: str, back: bool) -> Response:
    form = Revision(data=request.data)
    form.is_valid(raise_exception=True)
    return Response(plain(turn(person_of(request), project, form.validated_data["revision"], back)))


class JournalView(APIView):
    """What happened in a project."""

    @extend_schema(responses=serializer_for(JournalOut), operation_id="journal")
    def get(self, request: Request, project: str) -> Response:
        rows = Step.objects.filter(project=find_project(project)).select_related("by").order_by("-id")[:100]
        return Response(
            plain(
                JournalOut(
                    [StepOut(s.revision, s.at.isoformat(timespec="minutes"), s.by.full_name, s.label, s.subject, s.undone) for s in rows]
                )
            )
        )
