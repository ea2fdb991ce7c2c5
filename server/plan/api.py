"""The desk and the frame over HTTP."""

from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from server.plan.selectors import DeskOut, FrameOut, desk, frame
from server.shared.plain import plain
from server.shared.schema import serializer_for


class DeskView(APIView):
    """All projects."""

    @extend_schema(responses=serializer_for(DeskOut), operation_id="desk")
    def get(self, request: Request) -> Response:
        return Response(plain(desk()))


class FrameView(APIView):
    """One project: its pages, revision and baseline."""

    @extend_schema(responses=serializer_for(FrameOut), operation_id="frame")
    def get(self, request: Request, project: str) -> Response:
        return Response(plain(frame(project)))
