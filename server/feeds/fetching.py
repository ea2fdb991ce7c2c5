"""Getting the text of a feed from its address: only from hosts that an administrator allowed, in so much time and so much size.

One deadline holds for the whole of it: whatever a source dribbles, its line is cut when the time is over.
"""

import http.client
import socket
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from threading import BoundedSemaphore, Timer
from urllib.parse import SplitResult, quote, urlsplit

from django.conf import settings
from django.db import transaction

from server.accounts.models import Person
from server.feeds.models import Fetching
from server.shared.problems import Refused
from server.shared.words import sentence

MOST = 16 * 1024 * 1024
PART = 64 * 1024
MOST_OF_ONE, MOST_OF_ALL = 2, 3
"""Fetches that go on at a time: of one person, wherever they are answered, and of everybody in one process."""
_GOING_ON = BoundedSemaphore(MOST_OF_ALL)


@dataclass
class _Line:
    """The line to a source, by a descriptor of its own, so that it can be cut whatever reads from it."""

    sock: socket.socket | None = None
    cut: bool = field(default=False)

    def hold(self, sock: socket.socket) -> None:
        self.sock = sock.dup()
        if self.cut:
            self.end()

    def end(self) -> None:
        self.cut = True
        if self.sock is not None:
            try:
                self.sock.shutdown(socket.SHUT_RDWR)
            except OSError:
                return  # the other side was quicker

    def close(self) -> None:
        if self.sock is not None:
            self.sock.close()


def _parts(address: str) -> SplitResult:
    """The parts of an address. Raises Refused at `address` for one that is none."""
    try:
        parts = urlsplit(address)
        host, _ = parts.hostname or "", parts.port
    except ValueError:
        raise Refused("bad-address", sentence("feeds.no_address"), 422, field="address") from None
    if parts.scheme not in ("http", "https") or not host or not address.isprintable():
        raise Refused("bad-address", sentence("feeds.no_address"), 422, field="address")
    return parts


def check_address(address: str) -> SplitResult:
    """The parts of an address. Raises Refused at `address` for one that is none, or whose host is not allowed.

    A host is allowed with all its ports, or as `host:port` with one.
    """
    parts = _parts(address)
    port = parts.port or (443 if parts.scheme == "https" else 80)
    if not settings.FEED_HOSTS:
        raise Refused("host-not-allowed", sentence("feeds.no_hosts"), 422, field="address")
    if not {parts.hostname, f"{parts.hostname}:{port}"} & set(settings.FEED_HOSTS):
        message = sentence("feeds.host", host=str(parts.hostname)[:100], hosts=", ".join(settings.FEED_HOSTS))
        raise Refused("host-not-allowed", message, 422, field="address")
    return parts


@contextmanager
def _one_of_few(person: Person) -> Iterator[None]:
    """Raises Refused where a person, or this process, fetches as much as it may already."""
    with transaction.atomic():
        Fetching.objects.filter(begun__lt=time.time() - 2 * settings.FEED_SECONDS).delete()  # of processes that were stopped
        if Fetching.objects.filter(person=person).count() >= MOST_OF_ONE:
            raise Refused("busy", sentence("feeds.two_at_a_time", most=MOST_OF_ONE), 429)
        mine = Fetching.objects.create(person=person, begun=time.time())
    try:
        if not _GOING_ON.acquire(blocking=False):
            raise Refused("busy", sentence("feeds.busy"), 503)
        try:
            yield
        finally:
            _GOING_ON.release()
    finally:
        mine.delete()


def fetch(address: str, person: Person) -> bytes:
    """What the address answers. Raises Refused in a sentence where it does not, too late, too large or with a web page.

    Whatever keeps an answer from coming is told in one sentence: it says nothing of what else may run at the address.
    """
    parts = check_address(address)
    with _one_of_few(person):
        line, seconds = _Line(), float(settings.FEED_SECONDS)
        timer = Timer(seconds, line.end)
        timer.daemon = True
        timer.start()
        try:
            return _read(parts, line, seconds)
        except (OSError, ValueError, http.client.HTTPException):
            raise Refused("feed", sentence("feeds.no_answer", seconds=int(seconds)), 422) from None
        finally:
            timer.cancel()
            line.close()


def _read(parts: SplitResult, line: _Line, seconds: float) -> bytes:
    kind = http.client.HTTPSConnection if parts.scheme == "https" else http.client.HTTPConnection
    connection = kind(parts.hostname or "", parts.port, timeout=seconds)
    plug = connection._create_connection  # type: ignore[attr-defined]

    def connect(*args: object, **more: object) -> socket.socket:
        sock: socket.socket = plug(*args, **more)
        line.hold(sock)
        return sock

    connection._create_connection = connect  # type: ignore[attr-defined]
    path = quote(parts.path or "/", safe="/%:@!$&'()*+,;=~") + (f"?{quote(parts.query, safe='/%:@!$&()*+,;=~?')}" if parts.query else "")
    try:
        connection.request("GET", path, headers={"Accept": "text/csv, application/json", "User-Agent": "Dry Ledger"})
        with connection.getresponse() as answer:
            return _content(answer, line)
    finally:
        connection.close()


def _content(answer: http.client.HTTPResponse, line: _Line) -> bytes:
    """What an answer holds. An answer that sends elsewhere is not followed: the host there may not be allowed."""
    if answer.status != 200:
        raise Refused("feed", sentence("feeds.answered", status=answer.status), 422)
    if answer.headers.get_content_type() in ("text/html", "application/xhtml+xml"):
        raise Refused("feed", sentence("feeds.web_page"), 422)
    got, whole = bytearray(), answer.headers.get("Content-Length", "")
    while part := answer.read1(PART):
        got += part
        if len(got) > MOST:
            raise Refused("feed", sentence("feeds.too_large", most=MOST // 1024 // 1024), 422)
    if line.cut:
        raise TimeoutError
    if whole.isdecimal() and len(whole) < 20 and len(got) < int(whole):
        raise Refused("feed", sentence("feeds.cut_off"), 422)
    return bytes(got)
