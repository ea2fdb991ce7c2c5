"""Whether the application answers and can read its data: for whoever watches it. It tells nothing else."""

from dataclasses import dataclass

from django.db import Error, connection
from drf_spectacular.utils import extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from server.shared.problems import Refused
from server.shared.schema import serializer_for
from server.shared.words import sentence


@dataclass
class HealthOut:
    """All is well."""

    status: str


class HealthView(APIView):
    """Asked by whoever watches; nobody needs to be signed in."""

    permission_classes = [AllowAny]
    authentication_classes = []

    @extend_schema(responses=serializer_for(HealthOut), operation_id="health")
    def get(self, request: Request) -> Response:
        try:
            with connection.cursor() as cursor:
                cursor.execute("SELECT 1 FROM django_migrations LIMIT 1")
        except Error:
            raise Refused("no-data", sentence("health.no_data"), 503) from None
        return Response(HealthOut("ok"))
