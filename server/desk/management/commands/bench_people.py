"""`./dry bench`: many projects and many people, on several processes as `./dry serve` starts them.

First the desk of 200 projects: the first time ever, again, and right after a start. Then 50 people at once on projects of the demo's
size: eight of them post every second, the others look at another screen every three. Said are milliseconds, how often somebody was
overtaken and tried again, and what is missing or went wrong: nothing may.
"""

import http.client
import json
import os
import socket
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable
from pathlib import Path
from statistics import median, quantiles
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

PROJECTS, PEOPLE, WRITERS, SECONDS, PROCESSES = 200, 50, 8, 20, 2
SCREENS = ("posting", "value", "balance", "checks", "marks", "timeline", "report", "curve?bucket=week")
ROOT: Path = settings.ROOT


class Refusal(Exception):
    """An answer that is no answer: its status."""


class Somebody:
    """A person at a browser: cookies, and how long each answer took."""

    def __init__(self, port: int) -> None:
        self.port, self.cookies = port, dict[str, str]()
        self.took: dict[str, list[float]] = {"read": [], "write": []}
        self.ask("GET", "../")  # the page, with the cookie against forged requests
        self.ask("POST", "session", {"username": "ines"})

    def ask(self, method: str, path: str, body: Any = None) -> Any:
        """Ask, with what time it took noted. Raises Refusal."""
        head = {"Content-Type": "application/json", "X-CSRFToken": self.cookies.get("csrftoken", "")}
        head["Cookie"] = "; ".join(f"{k}={v}" for k, v in self.cookies.items())
        began = time.perf_counter()
        to = http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        to.request(method, "/" if path == "../" else f"/api/{path}", None if body is None else json.dumps(body), head)
        answer = to.getresponse()
        content = answer.read()
        to.close()
        ms = (time.perf_counter() - began) * 1000
        for told in answer.headers.get_all("Set-Cookie") or []:
            name, _, rest = told.partition("=")
            self.cookies[name] = rest.partition(";")[0]
        if answer.status >= 400:
            raise Refusal(answer.status)
        self.took["write" if method == "PATCH" else "read"].append(ms)
        return json.loads(content) if content and path != "../" else None


class Command(BaseCommand):
    """Measure the desk and the load."""

    help = "Measure the desk of many projects, and many people at once."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--projects", type=int, default=PROJECTS)
        parser.add_argument("--seconds", type=int, default=SECONDS)

    def handle(self, *args: object, projects: int, seconds: int, **options: object) -> None:
        with tempfile.TemporaryDirectory() as folder:
            env = os.environ | {"DRY_DATA": folder, "DRY_DEMO": "1"}
            manage = [sys.executable, str(ROOT / "server" / "manage.py")]
            subprocess.run([*manage, "prepare", "--demo", str(ROOT / "demo")], env=env, check=True, stdout=subprocess.DEVNULL)
            subprocess.run([*manage, "many_projects", str(projects)], env=env, check=True)
            self.desk(env, projects)
            self.load(env, seconds)

    def served(self, env: dict[str, str], work: Callable[[int], None]) -> None:
        """Start the processes, work, stop them."""
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            port = free.getsockname()[1]
        told = [sys.executable, "-m", "gunicorn", "-c", "server/site/serving.py", f"--bind=127.0.0.1:{port}", f"--workers={PROCESSES}"]
        server = subprocess.Popen([*told, "server.site.wsgi:application"], env=env, cwd=ROOT, stdout=subprocess.DEVNULL)
        try:
            for _ in range(600):
                try:
                    http.client.HTTPConnection("127.0.0.1", port, timeout=1).request("GET", "/api/health")
                    break
                except OSError:
                    time.sleep(0.05)
            work(port)
        finally:
            server.terminate()
            server.wait()

    def desk(self, env: dict[str, str], count: int) -> None:
        """The desk and its people: the first time ever, again, and after a start."""
        found: dict[str, list[float]] = {"projects": [], "desk/people": []}

        def look(port: int) -> None:
            someone = Somebody(port)
            for path, took in found.items():
                took.clear()
                for _ in range(4):
                    someone.took["read"].clear()
                    someone.ask("GET", path)
                    took.append(someone.took["read"][0])

        self.served(env, look)
        before = {path: list(took) for path, took in found.items()}
        self.served(env, look)
        for path, took in found.items():
            first, *again = before[path]
            self.stdout.write(
                f"{path} of {count} projects, ms: {first:.0f} the first time ever, {min(again):.0f} again, "
                f"{took[0]:.0f} right after a start, {min(took[1:]):.0f} again"
            )

    def load(self, env: dict[str, str], seconds: int) -> None:
        """Fifty people at once; each posts into, or looks at, one of a few projects."""
        wrong: list[str] = []
        overtaken = [0]
        everybody: list[Somebody] = []
        kept: dict[tuple[str, str], str] = {}

        def post(person: Somebody, i: int, until: float) -> None:
            code = f"MANY{i % 4}"
            rows = person.ask("GET", f"projects/{code}/pages/now/posting")["rows"]
            mine = [r["code"] for r in rows if r["state"] == "in_progress"][i // 4 :: 2]
            n = 0
            while time.monotonic() < until and mine:
                activity, percent = mine[n % len(mine)], str(10 + n % 80)
                try:
                    revision = person.ask("GET", f"projects/{code}")["revision"]
                    body = {"revision": revision, "entries": [{"activity": activity, "percent": percent}]}
                    person.ask("PATCH", f"projects/{code}/pages/now/posting/entries", body)
                    kept[code, activity] = percent
                    n += 1
                except Refusal as no:
                    if no.args[0] != 409:
                        raise
                    overtaken[0] += 1
                time.sleep(1)

        def read(person: Somebody, i: int, until: float) -> None:
            n = i
            while time.monotonic() < until:
                code = f"MANY{n % 4}"
                person.ask("GET", f"projects/{code}/pages/now/{SCREENS[n % len(SCREENS)]}" if n % 9 else "projects")
                n += 1
                time.sleep(3)

        def current(i: int, until: float) -> None:
            try:
                (post if i < WRITERS else read)(everybody[i], i, until)
            except (Refusal, OSError, http.client.HTTPException, KeyError) as error:
                wrong.append(repr(error))

        def run(port: int) -> None:
            everybody.extend(Somebody(port) for _ in range(PEOPLE))
            for person in everybody:
                for n in range(4):
                    person.ask("GET", f"projects/MANY{n}")
                for told in person.took.values():
                    told.clear()
            until = time.monotonic() + seconds
            threads = [threading.Thread(target=current, args=(i, until)) for i in range(PEOPLE)]
            for t in threads:
                t.start()
            for t in threads:
                t.join()
            for (code, activity), percent in kept.items():
                rows = everybody[0].ask("GET", f"projects/{code}/pages/now/posting")["rows"]
                if next(r for r in rows if r["code"] == activity)["entry"]["percent"] != float(percent):
                    wrong.append(f"{code} {activity} is not {percent} %")

        self.served(env, run)
        reads, writes = ([ms for p in everybody for ms in p.took[kind]] for kind in ("read", "write"))
        self.stdout.write(
            f"{PEOPLE} people for {seconds} s on {PROCESSES} processes: {len(writes)} posts, median {median(writes):.0f} ms, "
            f"one in twenty over {quantiles(writes, n=20)[-1]:.0f} ms; {len(reads)} looks, median {median(reads):.0f} ms, "
            f"one in twenty over {quantiles(reads, n=20)[-1]:.0f} ms; overtaken {overtaken[0]} times; wrong: {wrong or 'nothing'}"
        )
