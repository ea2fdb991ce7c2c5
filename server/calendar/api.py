"""Holidays over HTTP."""

from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response

from server.book.access import RoleView
from server.calendar.holidays import HolidaysOut, holidays_of
from server.shared.json_values import json_values
from server.shared.schema import serializer_for


class HolidaysView(RoleView):
    """The public holidays of a country and year, from a holiday library, as exceptions of a calendar."""

    @extend_schema(
        parameters=[OpenApiParameter("country", str, required=True), OpenApiParameter("year", int, required=True)],
        responses=serializer_for(HolidaysOut),
        operation_id="holidays",
    )
    def get(self, request: Request) -> Response:
        q = request.query_params
        return Response(json_values(holidays_of(q.get("country", ""), q.get("year", ""))))
