"""Holidays over HTTP."""

from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response

from server.book.access import RoleView
from server.calendar.holidays import HolidaysOut, holidays_of
from server.shared.forms import query
from server.shared.schema import serializer_for
from server.shared.words import sentence

YEAR: dict[str, Any] = dict.fromkeys(("invalid", "min_value", "max_value", "max_string_length"), sentence("holidays.year_from"))


class HolidaysQuery(serializers.Serializer[object]):
    """Of which country, by its two letters, and year."""

    country = serializers.CharField(default="", allow_blank=True, max_length=40)
    region = serializers.CharField(default="", allow_blank=True, max_length=40)
    year = serializers.IntegerField(min_value=1970, max_value=2100, error_messages=YEAR)


class HolidaysView(RoleView):
    """The public holidays of a country and year, from a holiday library, as exceptions of a calendar."""

    @extend_schema(
        parameters=[HolidaysQuery],
        responses=serializer_for(HolidaysOut),
        operation_id="holidays",
    )
    def get(self, request: Request) -> Response:
        return Response(holidays_of(**query(HolidaysQuery, request)))
