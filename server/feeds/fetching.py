"""Getting the text of a feed from its address: only from hosts that an administrator allowed, in so much time and so much size."""

import time
import urllib.error
import urllib.request
from typing import Any
from urllib.parse import urlsplit

from django.conf import settings

from server.shared.problems import Refused
from server.shared.words import sentence

MOST = 16 * 1024 * 1024
PART = 64 * 1024


class _NoWayRound(urllib.request.HTTPRedirectHandler):
    """An answer that sends elsewhere is not followed: the host there may not be allowed."""

    def redirect_request(self, *args: Any, **kwargs: Any) -> None:
        return None


_OPEN = urllib.request.OpenerDirector()
for _handler in (urllib.request.HTTPHandler, urllib.request.HTTPSHandler, _NoWayRound, urllib.request.HTTPErrorProcessor):
    _OPEN.add_handler(_handler())
_OPEN.add_handler(urllib.request.HTTPDefaultErrorHandler())


def check_address(address: str) -> None:
    """Raises Refused at `address` for one that is none, or whose host is not allowed."""
    try:
        parts = urlsplit(address)
        host, _ = parts.hostname or "", parts.port
    except ValueError:
        raise Refused("bad-address", sentence("feeds.no_address"), 422, field="address") from None
    if parts.scheme not in ("http", "https") or not host:
        raise Refused("bad-address", sentence("feeds.no_address"), 422, field="address")
    if host not in settings.FEED_HOSTS:
        raise Refused(
            "host-not-allowed", sentence("feeds.host", host=host[:100], hosts=", ".join(settings.FEED_HOSTS)), 422, field="address"
        )


def fetch(address: str) -> bytes:
    """What the address answers. Raises Refused in a sentence where it does not, too late, too large or with a web page."""
    check_address(address)
    seconds: float = settings.FEED_SECONDS
    end = time.monotonic() + seconds
    request = urllib.request.Request(address, headers={"Accept": "text/csv, application/json", "User-Agent": "Dry Ledger"})
    try:
        with _OPEN.open(request, timeout=seconds) as answer:
            if answer.status != 200:
                raise Refused("feed", sentence("feeds.answered", status=answer.status), 422)
            kind, got = answer.headers.get_content_type(), bytearray()
            if kind in ("text/html", "application/xhtml+xml"):
                raise Refused("feed", sentence("feeds.web_page"), 422)
            whole = answer.headers.get("Content-Length", "")
            while part := answer.read1(PART):
                got += part
                if len(got) > MOST:
                    raise Refused("feed", sentence("feeds.too_large", most=MOST // 1024 // 1024), 422)
                if time.monotonic() > end:
                    raise Refused("feed", sentence("feeds.too_slow", seconds=int(seconds)), 422)
            if whole.isdigit() and len(got) < int(whole):
                raise Refused("feed", sentence("feeds.cut_off"), 422)
            return bytes(got)
    except urllib.error.HTTPError as no:
        raise Refused("feed", sentence("feeds.answered", status=no.code), 422) from None
    except TimeoutError:
        raise Refused("feed", sentence("feeds.too_slow", seconds=int(seconds)), 422) from None
    except (OSError, ValueError, urllib.error.URLError) as no:
        if isinstance(getattr(no, "reason", None), TimeoutError):
            raise Refused("feed", sentence("feeds.too_slow", seconds=int(seconds)), 422) from None
        raise Refused("feed", sentence("feeds.no_answer"), 422) from None
