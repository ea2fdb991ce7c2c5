"""Sign in, sign out, who am I."""

from dataclasses import dataclass

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from server.accounts.models import Person
from server.accounts.session import SignedIn
from server.shared.plain import plain
from server.shared.problems import Refused
from server.shared.schema import serializer_for
from server.shared.words import sentence


@dataclass
class PersonOut:
    """A person as screens show them."""

    username: str
    full_name: str
    role: str


@dataclass
class SessionOut:
    """Who is signed in; the demo people to choose from, in demo mode only."""

    person: PersonOut | None
    demo_people: list[PersonOut]


class SignIn(serializers.Serializer[object]):
    """A name with a password; a demo person needs none in demo mode."""

    username = serializers.CharField(max_length=150)
    password = serializers.CharField(max_length=300, required=False, allow_blank=True, trim_whitespace=False)


def _out(person: Person) -> PersonOut:
    return PersonOut(person.username, person.full_name or person.username, person.role)


def _session(request: Request) -> Response:
    people = Person.objects.filter(demo=True).order_by("id") if settings.DEMO else []
    signed_in = isinstance(request.user, Person)
    return Response(
        plain(SessionOut(_out(request.user) if isinstance(request.user, Person) else None, [] if signed_in else [_out(p) for p in people]))
    )


class SessionView(APIView):
    """The session of this browser."""

    permission_classes = [AllowAny]

    @extend_schema(responses=serializer_for(SessionOut), operation_id="session")
    def get(self, request: Request) -> Response:
        return _session(request)

    @extend_schema(request=SignIn, responses=serializer_for(SessionOut), operation_id="sign_in")
    def post(self, request: Request) -> Response:
        SignedIn().enforce_csrf(request)
        form = SignIn(data=request.data)
        form.is_valid(raise_exception=True)
        name, password = form.validated_data["username"], form.validated_data.get("password", "")
        person: Person | None
        if settings.DEMO and not password:
            person = Person.objects.filter(username=name, demo=True, is_active=True).first()
            backend = "django.contrib.auth.backends.ModelBackend"
        else:
            person = authenticate(request._request, username=name, password=password)
            backend = None
        if person is None:
            raise Refused(
                "sign-in-refused",
                sentence("accounts.name_password_dont_belong"),
                400,
                field="password",
            )
        login(request._request, person, backend=backend)
        request.user = person
        return _session(request)

    @extend_schema(responses={204: None}, operation_id="sign_out")
    def delete(self, request: Request) -> Response:
        logout(request._request)
        return Response(status=204)
