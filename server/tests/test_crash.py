"""A server killed in the middle of posting: what it acknowledged is there after a restart."""

import json
import os
import signal
import socket
import subprocess
import sys
import tempfile
import threading
import time
import unittest
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any

ROOT = Path(__file__).parents[2]


class Served:
    """A real server process on data of its own, and a client with its cookies."""

    def __init__(self, data: str, port: int) -> None:
        self.url = f"http://127.0.0.1:{port}"
        self.env = os.environ | {"DRY_DATA": data, "DRY_DEMO": "1", "DRY_TESTING": ""}
        self.port, self.jar = port, CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))

    def manage(self, *args: str) -> None:
        subprocess.run([sys.executable, ROOT / "server" / "manage.py", *args], env=self.env, check=True, stdout=subprocess.DEVNULL)

    def start(self) -> None:
        self.process = subprocess.Popen(
            [sys.executable, "-m", "waitress", f"--listen=127.0.0.1:{self.port}", "server.site.wsgi:application"],
            env=self.env,
            cwd=ROOT,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )
        for _ in range(300):
            try:
                self.opener.open(f"{self.url}/", timeout=5).read()
                return
            except OSError:
                time.sleep(0.1)
        raise RuntimeError("the server does not answer")

    def kill(self) -> None:
        self.process.send_signal(signal.SIGKILL)
        self.process.wait()

    def call(self, method: str, path: str, body: Any = None) -> Any:
        token = next((c.value or "" for c in self.jar if c.name == "csrftoken"), "")
        request = urllib.request.Request(
            f"{self.url}/api/{path}",
            json.dumps(body).encode() if body is not None else None,
            method=method,
            headers={"Content-Type": "application/json", "X-CSRFToken": token},
        )
        return json.loads(self.opener.open(request, timeout=20).read())


class Crash(unittest.TestCase):
    def test_what_was_acknowledged_is_there(self) -> None:
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        with tempfile.TemporaryDirectory() as data:
            served = Served(data, port)
            served.manage("prepare", "--demo", str(ROOT / "demo" / "ferry.json"))
            served.start()
            self.addCleanup(served.kill)
            served.call("POST", "session", {"username": "ines"})
            revision = served.call("GET", "projects/FERRY")["revision"]
            acknowledged, sure = 0, threading.Timer(1.0, served.kill)
            try:
                for percent in range(1, 2000):
                    text = str(percent % 100 or 1)
                    effect = served.call(
                        "PATCH", "projects/FERRY/pages/P10/posting/activities/A340", {"revision": revision, "percent": text}
                    )
                    revision, acknowledged = effect["revision"], int(text)
                    if percent == 1:
                        sure.start()
            except OSError:
                pass
            self.assertGreater(acknowledged, 0)
            served.start()
            sheet = served.call("GET", "projects/FERRY/pages/P10/posting")
            row = next(r for r in sheet["rows"] if r["code"] == "A340")
            # The entry on its way when the server died may or may not be written; none that was acknowledged is lost.
            self.assertIn(
                (sheet["revision"], row["entry"]["percent"]), ((revision, acknowledged), (revision + 1, (acknowledged + 1) % 100 or 1))
            )
            served.manage("verify_pages")
