"""Problem documents (RFC 9457): every refusal has a code, a plain sentence and, where there is one, the field."""

import errno
import logging
import sys
from typing import Any

from django.http import Http404, HttpRequest, JsonResponse
from rest_framework import exceptions
from rest_framework.response import Response

from dryledger.errors import BookInvalid, ChangeRefused, EntryRefused, TooManyPoints, UnknownPeriod
from server.shared.words import sentence

log = logging.getLogger(__name__)


class Refused(Exception):
    """Something a person asked for that can't be done. `status` is the HTTP status, the rest is told to the person."""

    def __init__(self, code: str, detail: str, status: int = 422, **more: Any) -> None:
        self.code, self.detail, self.status, self.more = code, detail, status, more
        super().__init__(detail)


class Stale(Refused):
    """A write that carries an old revision; `changes` says what happened since."""

    def __init__(self, revision: int, changes: list[dict[str, Any]]) -> None:
        super().__init__(
            "stale",
            sentence("problems.somebody_changed_project_while"),
            409,
            revision=revision,
            changes=changes,
        )


class NotAllowed(Refused):
    """A person's role does not allow it."""

    def __init__(self, detail: str) -> None:
        super().__init__("not-allowed", detail, 403)


REFUSED = {"bad-request": 400, "too-many": 413} | dict.fromkeys(
    (
        *("not-found", "posted", "in-use", "in-baseline", "not-allowed", "both-there", "moved-on"),
        *("no-page", "page-dry", "page-open", "page-in-use", "only-page"),
    ),
    409,
)
"""The HTTP status of a change that is refused, by its code; absent: 422."""


def problem(code: str, detail: str, status: int, **more: Any) -> dict[str, Any]:
    """The body of a problem document."""
    return {
        "type": f"urn:dry-ledger:problem:{code}",
        "title": code.replace("-", " ").capitalize(),
        "status": status,
        "code": code,
        "detail": detail,
        **{k: v for k, v in more.items() if v is not None},
    }


def _respond(body: dict[str, Any]) -> Response:
    return Response(body, status=body["status"], content_type="application/problem+json")


def is_disk_full(error: BaseException | None) -> bool:
    """Whether an error comes of a disk without room: SQLite then has taken back what it had begun to write."""
    if error is None:
        return False
    name = getattr(error, "sqlite_errorname", getattr(error.__cause__, "sqlite_errorname", ""))
    return name == "SQLITE_FULL" or getattr(error, "errno", None) == errno.ENOSPC


def handle(error: Exception, context: dict[str, Any]) -> Response | None:
    """Turn any error of a view into a problem document; nothing reaches a person as a traceback."""
    if isinstance(error, Refused):
        return _respond(problem(error.code, error.detail, error.status, **error.more))
    if isinstance(error, EntryRefused):
        return _respond(problem("entry-refused", error.message, 422, field=error.field, nearest=error.nearest))
    if isinstance(error, ChangeRefused):
        status = REFUSED.get(error.code, 422)
        return _respond(problem(error.code, error.message, status, row=error.row, field=error.field, nearest=error.nearest))
    if isinstance(error, UnknownPeriod):
        return _respond(problem("not-found", str(error), 404))
    if isinstance(error, TooManyPoints):
        return _respond(problem("too-many-points", f"{error}.", 422))
    if isinstance(error, BookInvalid):
        faults = [{"path": f.path, "message": f.message} for f in error.faults]
        return _respond(problem("book-invalid", sentence("problems.book_cant_computed", error=error), 422, errors=faults))
    if isinstance(error, (exceptions.NotAuthenticated, exceptions.AuthenticationFailed)):
        return _respond(problem("signed-out", sentence("problems.sign_first"), 401))
    if isinstance(error, exceptions.PermissionDenied):
        return _respond(problem("not-allowed", str(error.detail), 403))
    if isinstance(error, (Http404, exceptions.NotFound)):
        return _respond(problem("not-found", str(error) or sentence("problems.nothing_here"), 404))
    if isinstance(error, exceptions.ValidationError):
        field, detail = _first(error.detail)
        return _respond(problem("bad-request", detail, 400, field=field))
    if isinstance(error, exceptions.APIException):
        return _respond(problem(error.default_code.replace("_", "-"), str(error.detail), error.status_code))
    if is_disk_full(error):
        log.error("the disk is full")
        return _respond(problem("disk-full", sentence("problems.disk_full"), 507))
    log.exception("unexpected error")
    return _respond(problem("unexpected", sentence("problems.something_went_wrong_here"), 500))


def _first(detail: Any, field: str = "") -> tuple[str | None, str]:
    if isinstance(detail, dict) and detail:
        key, value = next(iter(detail.items()))
        return _first(value, f"{field}.{key}" if field else str(key))
    if isinstance(detail, list) and detail:
        return _first(detail[0], field)
    return field or None, f"{field}: {detail}" if field else str(detail)


def not_found(request: HttpRequest) -> JsonResponse:
    """An address under /api/ that is none of ours."""
    return JsonResponse(problem("not-found", sentence("problems.nothing_address"), 404), status=404)


def page_not_found(request: HttpRequest, exception: Exception) -> JsonResponse:
    """Django's own 404 as a problem document."""
    return not_found(request)


def server_error(request: HttpRequest) -> JsonResponse:
    """Django's own 500 as a problem document: of what failed outside a view, such as keeping a session."""
    if is_disk_full(sys.exc_info()[1]):
        return JsonResponse(problem("disk-full", sentence("problems.disk_full"), 507), status=507, content_type="application/problem+json")
    return JsonResponse(problem("unexpected", sentence("problems.went_wrong"), 500), status=500, content_type="application/problem+json")
