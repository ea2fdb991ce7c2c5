"""A real browser on a real server with the demo book. Any error in the browser's console fails the test."""

import itertools
import sqlite3
import threading
import time
from collections.abc import Callable
from typing import Any, ClassVar

from django.conf import settings
from django.core.management import call_command
from django.core.signals import request_finished
from django.db import connection
from django.db.models import F
from django.test import Client, LiveServerTestCase, override_settings
from playwright.sync_api import Browser, BrowserContext, FloatRect, Locator, Page, Playwright, Request, expect, sync_playwright

from server.accounts.models import Person
from server.book.cache import LruCache
from server.book.loading import load_document
from server.book.models import Page as BookPage
from server.book.models import Project
from server.tests.base import ferry, make_people
from server.tests.chromium import CHROMIUM, FLAGS

PATIENCE = 45
"""Seconds until something is given up that does not come about: far more than it takes on a machine short of its processor."""
expect.set_options(timeout=PATIENCE * 1000)

ANSWERED = threading.Event()
"""Set whenever the server has answered a request."""
request_finished.connect(lambda **_: ANSWERED.set(), weak=False)
REFUSALS = ("status of 422", "status of 409", "status of 403", "status of 401")
"""Refusals that a test provokes: the browser logs them, the page shows them in words."""

WAITING = """
  window.flying = 0;
  const asked = window.fetch;
  window.fetch = (...of) => { window.flying += 1; return asked(...of).finally(() => { window.flying -= 1; }); };
  window.waits = () => window.flying > 0 || !document.querySelector('main h1, main h2');
"""
"""A script that knows whether a page waits for what it reads."""

REVISIONS = itertools.count(0, 1000)
"""How far the revisions of a test's book are moved on: none of another test's is the same."""
STARTS: dict[int | None, sqlite3.Connection] = {}
"""The database that tests start from, with the people and the demo book of so many pages."""


def box_of(part: Locator) -> FloatRect:
    """Where something stands, once it stands still."""
    part.element_handle().wait_for_element_state("stable")
    box = part.bounding_box()
    assert box is not None
    return box


def cell(page: Page, code: str, field: str) -> Locator:
    return page.locator(f'[data-cell="{code}:{field}"]')


def paste(page: Page, text: str) -> None:
    """What a spreadsheet would paste onto the cell that the cursor is on."""
    script = """(text) => {
        const data = new DataTransfer();
        data.setData("text/plain", text);
        document.activeElement.dispatchEvent(new ClipboardEvent("paste", { clipboardData: data, bubbles: true, cancelable: true }));
    }"""
    page.evaluate(script, text)


def type_into(page: Page, code: str, field: str, text: str, leave: str = "Enter") -> None:
    cell(page, code, field).click()
    page.keyboard.type(text)
    page.keyboard.press(leave)


def _answered(page: Page, under_way: set[Request]) -> None:
    """Waits until what was written has been answered, before the book it is written to goes."""
    for request in [] if page.is_closed() else list(under_way):
        request.response()


@override_settings(DEMO=True)
class BrowserTest(LiveServerTestCase):
    """One browser for a class; a fresh book for each test. Its first window keeps what it has loaded for the next test's."""

    playwright: Playwright
    browser: Browser
    first: ClassVar[BrowserContext]
    pages: int | None = None
    dark = False
    size = (1280, 800)

    @staticmethod
    def static_handler(application: Any) -> Any:
        """The pages and scripts come as they do in use, to be kept by the browser."""
        return application

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.addClassCleanup(call_command, "flush", verbosity=0, interactive=False)
        cls.playwright = sync_playwright().start()
        cls.browser = cls.playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        cls.addClassCleanup(cls.playwright.stop)
        cls.addClassCleanup(cls.browser.close)
        cls.first = cls._window()

    def setUp(self) -> None:
        LruCache.forget_all()
        self._start()
        self.trouble: list[str] = []
        self.opened = False

    def _start(self) -> None:
        """The people and the book: loaded once, then copied over whatever the test before has left."""
        connection.ensure_connection()
        if kept := STARTS.get(self.pages):
            kept.backup(connection.connection)
        else:
            make_people()
            load_document(ferry(self.pages))
            STARTS[self.pages] = sqlite3.connect(":memory:", check_same_thread=False)
            connection.connection.backup(STARTS[self.pages])
        # What an answer still under way works out of the book before is not taken for this one's.
        since = next(REVISIONS)
        Project.objects.update(revision=F("revision") + since, plan_revision=F("plan_revision") + since)
        BookPage.objects.update(revision=F("revision") + since)

    def _fixture_teardown(self) -> None:
        """Nothing: the next test of the class copies its own start over it, and after the last one all is flushed."""

    def tearDown(self) -> None:
        self.assertEqual(self.trouble, [])

    def open(self, path: str, who: str = "Ines", **more: Any) -> Page:
        """A new browser window, signed in as a demo person, at a path; at the desk signed in by hand."""
        context = self._free(**more)
        page = context.new_page()
        page.bring_to_front()
        page.set_default_timeout(PATIENCE * 1000)
        under_way: set[Request] = set()
        page.on("request", lambda r: under_way.add(r) if r.method != "GET" else None)
        page.on("requestfinished", lambda r: under_way.discard(r))
        page.on("requestfailed", lambda r: under_way.discard(r))
        self.addCleanup(_answered, page, under_way)
        page.on("pageerror", lambda e: self.trouble.append(str(e)))
        page.on("console", lambda m: self.trouble.append(m.text) if m.type == "error" and not any(r in m.text for r in REFUSALS) else None)
        if path != "/":
            signed_in = Client()
            signed_in.force_login(Person.objects.get(username=who.lower()), backend="django.contrib.auth.backends.ModelBackend")
            name = settings.SESSION_COOKIE_NAME
            context.add_cookies([{"name": name, "value": signed_in.cookies[name].value, "url": self.live_server_url}])
        page.goto(f"{self.live_server_url}{path}")
        if path == "/":
            page.get_by_role("button", name=who).click()
        page.get_by_role("button", name="Sign out").wait_for()
        return page

    def go(self, page: Page, path: str) -> None:
        """To another place as a link goes there, without loading all anew; until it is drawn with all that it reads.

        The window has to be made with `WAITING`.
        """
        page.evaluate("(to) => { history.pushState(null, '', to); dispatchEvent(new PopStateEvent('popstate')); }", path)
        page.wait_for_function("(to) => document.documentElement.dataset.place === to && !waits()", arg=path)

    @classmethod
    def _window(cls, **more: Any) -> BrowserContext:
        size, scheme = {"width": cls.size[0], "height": cls.size[1]}, "dark" if cls.dark else "light"
        return cls.browser.new_context(**{"viewport": size, "color_scheme": scheme, "reduced_motion": "reduce"} | more)

    def _free(self, **more: Any) -> BrowserContext:
        """The class's window, where nothing else is asked for and this test has not had it yet; a window of its own beside it."""
        if more or self.opened:
            context = self._window(**more)
            self.addCleanup(context.close)
            return context
        self.opened = True
        self.addCleanup(self._empty)
        return self.first

    def _empty(self) -> None:
        """What one test did in the class's window is unknown to the next."""
        page, *others = self.first.pages or [self.first.new_page()]
        kept = {"origin": self.live_server_url, "storageTypes": "local_storage"}
        self.first.new_cdp_session(page).send("Storage.clearDataForOrigin", kept)
        for x in (page, *others):
            x.close()
        self.first.unroute_all()
        self.first.set_offline(False)
        self.first.clear_cookies()

    def until(self, holds: Callable[[], object], seconds: int = PATIENCE) -> None:
        """Waits for what the server is still about to do: looks again whenever it has answered a request."""
        ends = time.monotonic() + seconds
        while not holds():
            left = ends - time.monotonic()
            if left <= 0:
                raise AssertionError("it did not come about")
            ANSWERED.wait(left)
            ANSWERED.clear()
