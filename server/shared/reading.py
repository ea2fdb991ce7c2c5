"""What is read of a request: no more than fits, and only JSON that can be kept and written again.

`Limits` stands before everything else and looks at the length alone; `StrictJSON` is how every body in JSON is read.
"""

import json
import math
from collections.abc import Callable, Mapping
from typing import IO, Any

from django.conf import settings
from django.http import HttpRequest, HttpResponseBase, JsonResponse
from rest_framework.exceptions import ParseError
from rest_framework.parsers import JSONParser

from dryledger.exchange.book_json import half_characters, nested_too_deeply
from server.shared.problems import problem
from server.shared.words import sentence

MOST_JSON: int = settings.DATA_UPLOAD_MAX_MEMORY_SIZE
MOST_FILE = 65 * 1024 * 1024
"""Bytes of a request: one in JSON, and one that brings a file."""
MOST_DIGITS = 40


class ReadingLimits:
    """Answers a request that is too long before any of it is read."""

    def __init__(self, answer: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.answer = answer

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        most = MOST_FILE if request.content_type == "multipart/form-data" else MOST_JSON
        told = request.META.get("CONTENT_LENGTH") or "0"
        if not told.isascii() or not told.isdigit() or int(told) > most:
            words = sentence("reading.more_sent_once_most", value=most // 1024 // 1024)
            return JsonResponse(problem("too-large", words, 413), status=413, content_type="application/problem+json")
        return self.answer(request)


class StrictJSON(JSONParser):
    """JSON whose numbers, texts and depth can all be kept; anything else is refused in words."""

    def parse(self, stream: IO[Any], media_type: str | None = None, parser_context: Mapping[str, Any] | None = None) -> Any:
        try:
            text = stream.read().decode("utf-8-sig")
            value = json.loads(text, parse_float=_number, parse_int=_whole, parse_constant=_number)
        except UnicodeDecodeError:
            raise ParseError(sentence("reading.what_sent_utf_text")) from None
        except RecursionError:
            raise ParseError(_TOO_DEEP) from None
        except ValueError as wrong:
            raise ParseError(sentence("reading.what_sent_json", wrong=wrong)) from None
        if nested_too_deeply(value):
            raise ParseError(_TOO_DEEP)
        halves = half_characters(text, value)
        if halves:
            raise ParseError(f"{halves[0].path or 'The text'} {halves[0].message}.")
        return value


_TOO_DEEP = sentence("reading.lists_objects_stand_too")


def _number(written: str) -> float:
    value = float(written)
    if not math.isfinite(value):
        raise ValueError(sentence("reading.beyond_all_numbers", value=written[:20]))
    return value


def _whole(written: str) -> int:
    if len(written) > MOST_DIGITS:
        raise ValueError(sentence("reading.more_digits", value=written[:20], most_digits=MOST_DIGITS))
    return int(written)
