"""Session sign-in that answers 401 when signed out; where people are signed in; who guessed too often."""

from datetime import datetime, timedelta
from importlib import import_module
from typing import Any

from axes.models import AccessAttempt
from axes.utils import reset
from django.conf import settings
from django.contrib.auth.signals import user_logged_in
from django.contrib.sessions.models import Session
from django.http import HttpRequest, JsonResponse
from django.utils import timezone
from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request

from server.accounts import audit
from server.accounts.models import Audit, Person, SignIn
from server.shared.problems import problem
from server.shared.words import sentence

KEPT_SIGN_INS = 50
"""How many of the latest sign-ins of a person are kept beside those that still are one."""


def address_of(request: HttpRequest) -> str:
    """Where a request comes from. Behind a proxy that ends HTTPS that is what the proxy saw: the last address that it names."""
    if settings.HTTPS and (told := str(request.META.get("HTTP_X_FORWARDED_FOR", "")).rsplit(",", 1)[-1].strip()):
        return told[:50]
    return str(request.META.get("REMOTE_ADDR", ""))[:50]


class SignedIn(SessionAuthentication):
    """Django's session, with the forged-request check; `WWW-Authenticate` makes the answer a 401, not a 403."""

    def authenticate_header(self, request: Request) -> str:
        return "Session"


class SignedInScheme(OpenApiAuthenticationExtension):  # type: ignore[no-untyped-call]
    """How the API document names it."""

    target_class = "server.accounts.session.SignedIn"
    name = "session"

    def get_security_definition(self, auto_schema: object) -> dict[str, str]:
        return {"type": "apiKey", "in": "cookie", "name": "sessionid"}


def note_sign_in(sender: object, request: HttpRequest | None, user: Person, **more: Any) -> None:
    """Keep where a session began, and tell the trail."""
    session = getattr(request, "session", None)
    if request is None or session is None or not session.session_key:
        return
    SignIn.objects.create(
        person=user,
        session=session.session_key,
        address=address_of(request),
        agent=str(request.META.get("HTTP_USER_AGENT", ""))[:200],
    )
    old = user.sign_ins.values_list("pk", flat=True)[KEPT_SIGN_INS:]
    SignIn.objects.filter(pk__in=list(old)).exclude(session__in=Session.objects.values("session_key")).delete()
    audit.note("sign-in", sentence("audit.signed_in"), user)


user_logged_in.connect(note_sign_in, dispatch_uid="sign-ins")


def sessions_of(*people: Person) -> list[SignIn]:
    """The sessions in which people are signed in still, the latest first; one under an earlier password is none."""
    own = {s.session: s for s in SignIn.objects.filter(person__in=people)}
    current = Session.objects.filter(session_key__in=own, expire_date__gt=timezone.now())
    hashes = {p.pk: p.get_session_auth_hash() for p in people}
    found = [own[s.session_key] for s in current if s.get_decoded().get("_auth_user_hash") == hashes[own[s.session_key].person_id]]
    return sorted(found, key=lambda s: -s.pk)


def carry_over(before: str, now: str) -> None:
    """A session that goes on under another key."""
    SignIn.objects.filter(session=before).update(session=now)


def end_session(key: str) -> None:
    """End a session, wherever it is."""
    import_module(settings.SESSION_ENGINE).SessionStore(key).delete()


def end_all(person: Person, but: str = "") -> int:
    """End every session of a person, but one where it is named; how many there were."""
    found = [s for s in sessions_of(person) if s.session != but]
    for s in found:
        end_session(s.session)
    return len(found)


def locked_out_names() -> dict[str, datetime]:
    """The names that are locked out, with until when."""
    wait = timedelta(hours=settings.AXES_COOLOFF_TIME)
    found = AccessAttempt.objects.filter(failures_since_start__gte=settings.AXES_FAILURE_LIMIT, attempt_time__gt=timezone.now() - wait)
    return {name: at + wait for name, at in found.order_by("attempt_time").values_list("username", "attempt_time")}


def lift(username: str) -> None:
    """Let somebody who was locked out try again."""
    reset(username=username)


def locked_out(request: HttpRequest, original_response: object = None, credentials: Any = None) -> JsonResponse:
    """What somebody is told who guessed a password too often."""
    name = str((credentials or {}).get("username") or "")
    person = Person.objects.filter(username=name).first()
    if person is not None:
        told, since = sentence("audit.locked_out", name=person.username), timezone.now() - timedelta(hours=settings.AXES_COOLOFF_TIME)
        if not Audit.objects.filter(kind="refused", what=told, at__gt=since).exists():  # once, however often it is tried meanwhile
            audit.note("refused", told)
    return JsonResponse(
        problem("too-many-tries", sentence("accounts.too_many_tries_name"), 429, field="password"),
        status=429,
        content_type="application/problem+json",
    )
