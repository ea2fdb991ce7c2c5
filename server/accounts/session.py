"""Session sign-in that answers 401 when signed out."""

from django.http import HttpRequest, JsonResponse
from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request

from server.shared.problems import problem
from server.shared.words import sentence


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


def locked_out(request: HttpRequest, original_response: object = None, credentials: object = None) -> JsonResponse:
    """What somebody is told who guessed a password too often."""
    return JsonResponse(
        problem("too-many-tries", sentence("accounts.too_many_tries_name"), 429, field="password"),
        status=429,
        content_type="application/problem+json",
    )
