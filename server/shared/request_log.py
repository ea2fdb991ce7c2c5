"""One line for every request of the API: when, what was asked, of which project, how it ended, how long it took. Nothing of people.

Addresses are told as their routes, so that no name, no search and nothing typed comes into the log; nor does who asked, or from where.
"""

import logging
import time
from collections.abc import Callable

from django.http import HttpRequest, HttpResponseBase

log = logging.getLogger("dry.requests")


class RequestLog:
    """Stands before everything else that answers."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        begun = time.perf_counter()
        answer = self.answer(request)
        match = request.resolver_match
        if match is not None and match.route.startswith("api/") and log.isEnabledFor(logging.INFO):
            took = (time.perf_counter() - begun) * 1000
            project = match.kwargs.get("project") if answer.status_code < 400 else None
            log.info("%s /%s %s %d %.0f ms", request.method, match.route, project or "-", answer.status_code, took)
        return answer
