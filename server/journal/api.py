"""What happened."""

from dataclasses import dataclass

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from server.book.access import ProjectView
from server.journal.models import Step
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


class JournalView(ProjectView):
    """What happened in a project."""

    @extend_schema(responses=serializer_for(JournalOut), operation_id="journal")
    def get(self, request: Request, project: str) -> Response:
        rows = Step.objects.filter(project=self.access.project).select_related("by").order_by("-id")[:100]
        return Response(
            plain(
                JournalOut(
                    [StepOut(s.revision, s.at.isoformat(timespec="minutes"), s.by.full_name, s.label, s.subject, s.undone) for s in rows]
                )
            )
        )
