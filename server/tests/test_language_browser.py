"""A made-up language, a file a floor: every room is walked in it, no word of the English catalogues is left and nothing is cut."""

import json
import mimetypes
import os
import re
import subprocess
import tempfile
from pathlib import Path
from string import Formatter
from typing import Any, ClassVar

from django.conf import settings
from playwright.sync_api import Page, Route

from dryledger import words as core_words
from dryledger.checks.checks import CHECKS
from dryledger.figures import CATALOGUE
from dryledger.marks.marks import MARK_WORDS
from server.accounts.models import Person
from server.shared import words
from server.tests.browser import WAITING, BrowserTest

WEB = settings.ROOT / "web"
PLACES = {
    "desk": ["/", "/people", "/account"],
    "plan": ["plan", "plan/resources", "plan/calendars", "plan/project", "budget", "budget?part=estimates", "baselines", "exchange"],
    "page": ["posting", "posting/hours", "posting/costs", "posting/history", "posting/feeds", "checks", "checks?part=quality", "marks"],
    "read": ["value", "value?part=summary", "value?part=work", "value?part=pages", "timeline", "options", "buffers", "report"],
}
WRITTEN = {"Approved plan", "FIT", "4 Jan 2027", "Approved", "Finished"}
"""What people wrote (in the demo; states of projects), as it happens in words of the catalogue."""
SEEN = """() => {
  const out = [];
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_ELEMENT | NodeFilter.SHOW_TEXT);
  for (let n = walk.currentNode; n; n = walk.nextNode()) {
    const at = n.parentElement, seen = n.nodeType === 3 && (at?.checkVisibility() || at?.closest("select")?.checkVisibility());
    if (n.nodeType === 3) { if (seen && !at.closest("script,style,textarea")) out.push(n.data); }
    else for (const a of ["aria-label", "data-tip", "title", "placeholder", "alt"]) if (n.hasAttribute(a)) out.push(n.getAttribute(a));
  }
  return out;
}"""
CUT = """() => [...document.querySelectorAll("button, a, h1, h2, h3, th, [role=tab], [role=columnheader], label")]
  .filter((e) => e.checkVisibility() && e.clientWidth && e.scrollWidth > e.clientWidth + 1 && getComputedStyle(e).overflowX !== "visible")
  .map((e) => e.textContent)"""


def made_up(text: str) -> str:
    """A sentence with every letter beside its values doubled, so that no word of it is English."""
    parts = []
    for literal, name, spec, _ in Formatter().parse(text):
        parts.append(re.sub(r"[A-Za-z]", lambda m: chr(0x0430 + (ord(m[0].lower()) - 97)), literal).replace("{", "{{").replace("}", "}}"))
        if name is not None:
            parts.append("{" + name + (f":{spec}" if spec else "") + "}")
    return "".join(parts)


def english() -> set[str]:
    """The texts of the English catalogues of the pages that are one piece."""
    told = subprocess.run(["node", "tests/madeUp.mjs", "--texts"], cwd=WEB, capture_output=True, text=True, check=True)
    return {x.strip().lower() for x in json.loads(told.stdout) if re.search("[A-Za-z]{3}", x)}


class Language(BrowserTest):
    pages = 3
    dist: ClassVar[Path]
    maxDiff = None

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        languages, cls.dist = Path(folder.name, "languages"), Path(folder.name, "dist")
        languages.mkdir()
        subprocess.run(["node", "tests/madeUp.mjs", languages / "zz.ts"], cwd=WEB, check=True)
        own = os.environ | {"DRY_LANGUAGES": str(languages)}
        subprocess.run(["npx", "vite", "build", "--outDir", cls.dist, "--logLevel", "error"], cwd=WEB, env=own, check=True)

    def setUp(self) -> None:
        super().setUp()
        declared = {f"figure.{x.key}": x.word for x in CATALOGUE} | {f"figure.{x.key}.short": x.short for x in CATALOGUE if x.short}
        declared |= {f"check.{x.code}.{part}": getattr(x, part) for x in CHECKS for part in ("says", "why", "mend")}
        declared |= {f"mark.{key}": word for key, word in MARK_WORDS.items()}
        for floor, more in ((core_words, declared), (words, {})):
            floor.speak({key: made_up(text) for key, text in (floor.SENTENCES | more).items()})
            self.addCleanup(floor.speak, {})

    def serve(self, route: Route) -> None:
        """The pages that were built with the made-up language, in place of those that ship."""
        path = route.request.url.split("/static/", 1)
        if len(path) == 2:
            file = self.dist / path[1].split("?")[0]
            route.fulfill(body=file.read_bytes(), content_type=mimetypes.guess_type(file.name)[0] or "")
        elif route.request.resource_type == "document":
            answer = route.fetch()
            route.fulfill(response=answer, body=(self.dist / "index.html").read_text().replace('lang="en"', 'lang="zz"'))
        else:
            route.fallback()

    def look(self, page: Page, place: str, texts: set[str]) -> dict[str, Any]:
        self.go(page, place)
        seen = {x.strip() for x in page.evaluate(SEEN)} - WRITTEN
        left = sorted(x for x in seen if x.lower() in texts)
        return {k: v for k, v in (("english", left), ("cut", page.evaluate(CUT))) if v}

    def test_every_room_is_said_in_it(self) -> None:
        Person.objects.filter(username="lorcan").update(administrator=True)
        texts = english()
        page = self.open("/account", "Lorcan")
        page.context.route("**/*", self.serve)
        page.add_init_script(WAITING)
        page.goto(f"{self.live_server_url}/account")
        found = {}
        for kind, places in PLACES.items():
            for place in places:
                path = place if kind == "desk" else f"/FERRY/P03/{place}"
                if trouble := self.look(page, path, texts):
                    found[place] = trouble
        self.assertEqual(found, {})
