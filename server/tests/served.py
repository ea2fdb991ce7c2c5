"""The application served as `./dry serve` does it, by processes of its own."""

import json
import os
import signal
import socket
import sqlite3
import subprocess
import sys
import urllib.request
from contextlib import closing, suppress
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any
from urllib.error import HTTPError

from django.db import connection

ROOT = Path(__file__).parents[2]


class Refusal(Exception):
    """What the server answered in the place of what was asked for: the status, and its words."""


class Served:
    """Real server processes on data of their own, and a client with its cookies."""

    def __init__(self, data: str, workers: int = 2, **env: str) -> None:
        # The door is open before the processes are there: whoever comes waits at it, and nobody knocks again and again.
        self.door = socket.create_server(("127.0.0.1", 0))
        self.port = self.door.getsockname()[1]
        self.url, self.workers = f"http://127.0.0.1:{self.port}", workers
        self.env = os.environ | {"DRY_DATA": data, "DRY_DEMO": "1", "DRY_TESTING": ""} | env
        self.log, self.jar = Path(data) / "log", CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))

    def manage(self, *args: str) -> None:
        subprocess.run([sys.executable, ROOT / "server" / "manage.py", *args], env=self.env, check=True, stdout=subprocess.DEVNULL)

    def lay(self) -> None:
        """A database with its tables and nothing in them: a copy of the tests' own, which was made by the same steps."""
        connection.ensure_connection()
        with closing(sqlite3.connect(self.log.with_name("dry.sqlite3"))) as made:
            connection.connection.backup(made)

    def start(self) -> None:
        self.process = subprocess.Popen(
            [
                *(sys.executable, "-m", "gunicorn", "-c", "server/site/serving.py", f"--bind=fd://{self.door.fileno()}"),
                *(f"--workers={self.workers}", "server.site.wsgi:application"),
            ],
            env=self.env,
            cwd=ROOT,
            stdout=subprocess.DEVNULL,
            stderr=self.log.open("ab"),
            start_new_session=True,
            pass_fds=[self.door.fileno()],
        )
        with suppress(HTTPError):
            self.opener.open(f"{self.url}/", timeout=60).read()

    def kill(self) -> None:
        with suppress(ProcessLookupError):
            os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()

    def call(self, method: str, path: str, body: Any = None) -> Any:
        token = next((c.value or "" for c in self.jar if c.name == "csrftoken"), "")
        request = urllib.request.Request(
            f"{self.url}/api/{path}",
            json.dumps(body).encode() if body is not None else None,
            method=method.upper(),
            headers={"Content-Type": "application/json", "X-CSRFToken": token},
        )
        try:
            return json.loads(self.opener.open(request, timeout=20).read())
        except HTTPError as no:
            raise Refusal(no.code, no.read().decode()) from None
