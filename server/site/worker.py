"""The process that answers: gunicorn starts and watches it, waitress reads requests whole before a thread is given to them.

So whoever sends half a request, or sends it by the byte, keeps nobody else waiting.
"""

import os
import signal
import threading
from types import FrameType

from gunicorn.workers.base import Worker
from waitress import create_server

SILENT = 30
"""Seconds after which a line on which nothing is asked, or no more of it comes, is closed."""
MOST_LINES = 1000
MOST_MEMORY = 80 * 1024 * 1024
"""Bytes of a request or an answer that are held in memory: more than any of ours has, so that a full disk stops neither."""


class WholeRequests(Worker):  # type: ignore[misc]  # the library says nothing of its types
    """A worker of gunicorn around the server of waitress."""

    _leaving = threading.Event()
    """Whether it is about to go: each process has its own, as its copy of this module."""

    def run(self) -> None:
        threading.Thread(target=self._heartbeat, daemon=True).start()
        server = create_server(
            self.wsgi,
            sockets=[s.sock for s in self.sockets],
            threads=self.cfg.threads,
            channel_timeout=SILENT,
            cleanup_interval=SILENT // 3,
            connection_limit=MOST_LINES,
            asyncore_use_poll=True,
            max_request_body_size=MOST_MEMORY,
            inbuf_overflow=MOST_MEMORY,
            outbuf_overflow=MOST_MEMORY,
            clear_untrusted_proxy_headers=os.environ.get("DRY_HTTPS") != "1",
            ident=None,
        )
        server.run()

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        """Let what is being answered be answered, then go."""
        self._leaving.set()
        raise SystemExit(0)

    def _heartbeat(self) -> None:
        """Tell gunicorn that it lives; without it there is nobody to answer for."""
        while not self._leaving.is_set():
            if os.getppid() != self.ppid:
                os.kill(os.getpid(), signal.SIGTERM)
            self.notify()
            self._leaving.wait(1)
