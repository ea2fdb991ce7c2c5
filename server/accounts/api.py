"""Sign in, sign out, who am I; one's own password and sessions."""

from dataclasses import asdict, dataclass

from django.conf import settings
from django.contrib.auth import authenticate, login, logout, update_session_auth_hash
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from server.accounts.audit import note
from server.accounts.models import Person
from server.accounts.passwords import Known, choose, due, still_holds
from server.accounts.roles import person_of
from server.accounts.session import SignedIn, carry_over, end_session, sessions_of
from server.shared.problems import Refused
from server.shared.schema import serializer_for
from server.shared.words import sentence


@dataclass
class FormatsOut:
    """How a person writes numbers and dates: "." or "," before decimals, the month before the day, the first day of a week."""

    decimal: str
    month_first: bool
    first_day: str


@dataclass
class PersonOut:
    """A person as screens show them."""

    username: str
    full_name: str
    role: str
    administrator: bool
    password_due: bool
    """Nothing else is done before the password is changed."""
    has_password: bool
    """The people of the demo have none."""
    formats: FormatsOut


@dataclass
class SignedInOut:
    """A session of one's own."""

    id: int
    at: str
    address: str
    agent: str
    here: bool


@dataclass
class SessionsOut:
    """Where one is signed in."""

    sessions: list[SignedInOut]


@dataclass
class SessionOut:
    """Who is signed in; the demo people to choose from, in demo mode only."""

    person: PersonOut | None
    demo_people: list[PersonOut]


class SignIn(serializers.Serializer[object]):
    """A name with a password; a demo person needs none in demo mode."""

    username = serializers.CharField(max_length=150)
    password = serializers.CharField(max_length=300, required=False, allow_blank=True, trim_whitespace=False)


class PasswordForm(serializers.Serializer[object]):
    """Another password; the one of now, so that nobody changes it at a screen that was left."""

    old = serializers.CharField(max_length=300, allow_blank=True, trim_whitespace=False)
    new = serializers.CharField(max_length=300, trim_whitespace=False)


class FormatsForm(serializers.ModelSerializer[Person]):
    """How one writes numbers and dates."""

    class Meta:
        model = Person
        fields = ("decimal", "month_first", "first_day")


def _out(person: Person) -> PersonOut:
    has, own = person.has_usable_password(), FormatsOut(**asdict(person.formats))
    return PersonOut(person.username, person.full_name or person.username, person.role, person.administrator, due(person), has, own)


def _session(request: Request) -> Response:
    people = Person.objects.filter(demo=True).order_by("id") if settings.DEMO else []
    signed_in = isinstance(request.user, Person)
    return Response(
        SessionOut(_out(request.user) if isinstance(request.user, Person) else None, [] if signed_in else [_out(p) for p in people])
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
        still_holds(person)
        login(request._request, person, backend=backend)
        request.user = person
        return _session(request)

    @extend_schema(responses={204: None}, operation_id="sign_out")
    def delete(self, request: Request) -> Response:
        logout(request._request)
        return Response(status=204)


class PasswordView(APIView):
    """One's own password."""

    permission_classes = [Known]

    @extend_schema(request=PasswordForm, responses=serializer_for(SessionOut), operation_id="change_password")
    def put(self, request: Request) -> Response:
        form = PasswordForm(data=request.data)
        form.is_valid(raise_exception=True)
        person = person_of(request)
        if not person.has_usable_password():
            raise Refused("no-password", sentence("accounts.no_password"), 409)
        still_holds(person)
        # As at sign-in, and counted with it: nobody guesses it at a screen that was left open.
        if authenticate(request._request, username=person.username, password=form.validated_data["old"]) is None:
            raise Refused("password-wrong", sentence("accounts.old_password_wrong"), 422, field="old")
        before = request.session.session_key or ""
        choose(person, form.validated_data["new"])
        update_session_auth_hash(request._request, person)  # all other sessions of the person end by it
        carry_over(before, request.session.session_key or "")
        note("password", sentence("audit.changed_own_password"), person)
        return _session(request)


class FormatsView(APIView):
    """One's own formats."""

    @extend_schema(request=FormatsForm, responses=serializer_for(SessionOut), operation_id="set_formats")
    def patch(self, request: Request) -> Response:
        form = FormatsForm(person_of(request), data=request.data, partial=True)
        form.is_valid(raise_exception=True)
        form.save()
        return _session(request)


class SessionsView(APIView):
    """Where one is signed in."""

    @extend_schema(responses=serializer_for(SessionsOut), operation_id="sessions")
    def get(self, request: Request) -> Response:
        here = request.session.session_key
        own = [SignedInOut(s.pk, s.at.isoformat(), s.address, s.agent, s.session == here) for s in sessions_of(person_of(request))]
        return Response(SessionsOut(own))


class OneSessionView(APIView):
    """End one of them."""

    @extend_schema(responses={204: None}, operation_id="end_session")
    def delete(self, request: Request, id: int) -> Response:
        own = next((s for s in sessions_of(person_of(request)) if s.pk == id), None)
        if own is None:
            raise Refused("not-found", sentence("accounts.no_session"), 404)
        end_session(own.session)
        return Response(status=204)
