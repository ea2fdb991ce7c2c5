"""Session sign-in that answers 401 when signed out."""

from drf_spectacular.extensions import OpenApiAuthenticationExtension
from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request


class SignedIn(SessionAuthentication):
    """Django's session, with the forged-request check; `WWW-Authenticate` makes the answer a 401, not a 403."""

    def authenticate_header(self, request: Request) -> str:
        return "Session"


class SignedInScheme(OpenApiAuthenticationExtension):
    """How the API document names it."""

    target_class = "server.accounts.session.SignedIn"
    name = "session"

    def get_security_definition(self, auto_schema: object) -> dict[str, str]:
        return {"type": "apiKey", "in": "cookie", "name": "sessionid"}
