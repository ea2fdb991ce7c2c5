"""Session sign-in that answers 401 when signed out."""

from rest_framework.authentication import SessionAuthentication
from rest_framework.request import Request


class SignedIn(SessionAuthentication):
    """Django's session, with the forged-request check; `WWW-Authenticate` makes the answer a 401, not a 403."""

    def authenticate_header(self, request: Request) -> str:
        return "Session"
