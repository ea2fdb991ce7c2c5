"""What can be measured of the look of every screen: nothing cut, nothing over another, nothing out of sight, nothing that scrolls sideways,
borders that can be seen, and nothing that axe finds.
"""

from django.conf import settings
from django.core.management import call_command
from playwright.sync_api import Page

from server.accounts.models import Person
from server.tests.browser import WAITING, BrowserTest, cell, type_into

SCREENS = (
    "/",
    *(f"/?show={s}" for s in ("people", "risk", "summary", "curve")),
    "/account",
    *(f"/people?show={s}" for s in ("people", "projects&of=FERRY", "trail")),
    "/FERRY/P02/posting",
    "/FERRY/P02/plan",
    "/FERRY/P02/posting/costs",
)
ROOMS = (
    "plan",
    "plan/resources",
    "plan/calendars",
    "plan/project",
    "budget",
    "budget?by=week",
    "budget?show=against",
    "budget?part=orders",
    "budget?part=change",
    "budget?part=estimates",
    "baselines",
    "posting",
    "posting/hours",
    "posting/hours?by=person",
    "posting/costs",
    "posting/feeds",
    "posting/history?of=A150",
    "marks",
    "checks",
    "checks?part=quality",
    "checks?part=limits",
    "value",
    "value?part=summary",
    "value?part=work",
    "value?part=pages",
    "timeline",
    "timeline?lines=pages",
    "report",
    "exchange",
)
"""Of the open page of the demo project."""
AXE = (settings.ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text
TAGS = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]
THEME = ["color-contrast", "link-in-text-block"]
"""The rules that may find something in one theme or at one size and not in another."""
MEASURE = """() => {
  const found = [];
  const inSight = (r) => r.width > 0 && r.height > 0 && r.bottom > 0 && r.top < innerHeight;
  const say = (what, text, by) => found.push(`${what}: ${String(text).trim().slice(0, 40)} by ${Math.round(by)} px`);
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (walker.nextNode()) {
    const own = walker.currentNode.parentElement;
    if (!walker.currentNode.data.trim() || own.closest('svg, [hidden], option, style, script, [data-skip]')) continue;
    const range = document.createRange();
    range.selectNodeContents(walker.currentNode);
    const text = range.getBoundingClientRect();
    // Free texts may end in an ellipsis where the whole stands in a title; figures, dates and headings never.
    const free = own.closest('[data-free][data-tip]');
    for (let e = own; inSight(text) && !free && e !== document.body; e = e.parentElement) {
      const { overflowX, overflowY } = getComputedStyle(e);
      if (overflowX === 'visible' && overflowY === 'visible') continue;
      if (e.matches('[data-slides]') || /auto|scroll/.test(overflowX)) break;
      const box = e.getBoundingClientRect();
      if (box.width <= 1) break; // for the ear alone
      const by = Math.max(text.right - box.right, box.left - text.left);
      if (by > 0.1) say('cut', walker.currentNode.data, by);
    }
  }
  const wide = document.documentElement.scrollWidth - innerWidth;
  if (wide > 0) say('sideways', 'the page', wide);
  for (const control of document.querySelectorAll('button, select, input, a')) {
    const box = control.getBoundingClientRect();
    if (!inSight(box) || control.closest('[data-slides], nav, [data-skip]')) continue;
    if (box.right > innerWidth + 1) say('out of sight', control.textContent || control.ariaLabel, box.right - innerWidth);
  }
  for (const svg of document.querySelectorAll('svg')) {
    const texts = [...svg.querySelectorAll('text')].map((t) => [t.textContent, t.getBoundingClientRect()]);
    const labels = texts.filter(([t, r]) => t.trim() && inSight(r));
    labels.forEach(([a, one], i) => labels.slice(i + 1).forEach(([b, two]) => {
      const across = Math.min(one.right, two.right) - Math.max(one.left, two.left);
      const down = Math.min(one.bottom, two.bottom) - Math.max(one.top, two.top);
      if (across > 1 && down > 3) say('over', `${a} and ${b}`, across);
    }));
    const box = svg.getBoundingClientRect();
    if (!svg.closest('[data-slides]'))
      for (const [t, r] of labels) if (r.right > box.right + 1 || r.left < box.left - 1) say('beyond its drawing', t, r.right - box.right);
  }
  return found;
}"""
BORDERS = """() => {
  const canvas = document.createElement('canvas').getContext('2d');
  const rgb = (colour) => { canvas.fillStyle = colour; canvas.fillRect(0, 0, 1, 1); return [...canvas.getImageData(0, 0, 1, 1).data]; };
  const light = (colour) => {
    const [r, g, b] = rgb(colour).map((c) => c / 255).map((c) => (c <= 0.03928 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4));
    return 0.2126 * r + 0.7152 * g + 0.0722 * b;
  };
  const ground = (e) => {
    for (; e; e = e.parentElement) {
      const colour = getComputedStyle(e).backgroundColor;
      if (rgb(colour)[3] === 255 && colour !== 'rgba(0, 0, 0, 0)') return colour;
    }
    return '#fff';
  };
  const found = [];
  for (const e of document.querySelectorAll('button, input, select, textarea')) {
    const style = getComputedStyle(e);
    if (e.disabled || !e.offsetWidth || parseFloat(style.borderTopWidth) === 0 || rgb(style.borderTopColor)[3] === 0) continue;
    if (style.borderTopColor === 'rgba(0, 0, 0, 0)') continue;
    const [a, b] = [light(style.borderTopColor), light(ground(e.parentElement))].sort();
    const ratio = (b + 0.05) / (a + 0.05);
    if (ratio < 3) found.push(`${e.tagName} ${e.ariaLabel ?? e.textContent}: ${ratio.toFixed(2)}`);
  }
  return found;
}"""


def axe(page: Page, part: str = "html", rules: list[str] | None = None) -> list[str]:
    """What axe finds in a part of a page, by all rules of WCAG 2.2 AA or some."""
    only = {"type": "tag", "values": TAGS} if rules is None else {"type": "rule", "values": rules}
    found: list[str] = page.evaluate(
        """async ([part, runOnly]) => (await axe.run(part, {runOnly, resultTypes: ['violations']})).violations
             .map((v) => `${v.id}: ${v.nodes.slice(0, 3).map((n) => n.target + ' ' + n.html.slice(0, 140)).join(' ')}`)""",
        [part, only],
    )
    return found


class Measured(BrowserTest):
    """In the dark at the usual size, by every rule."""

    pages = 3
    dark = True
    rules: list[str] | None = None
    maxDiff = None

    def test_every_screen(self) -> None:
        Person.objects.filter(username="ines").update(administrator=True, role="approver")
        call_command("demo_organisation", settings.ROOT / "demo" / "organisation" / "lists.json")
        page = self.open("/account", bypass_csp=True)
        page.add_init_script(WAITING + AXE())
        told: list[str] = []
        page.goto(f"{self.live_server_url}/")
        for path in (*SCREENS, *(f"/FERRY/now/{room}" for room in ROOMS)):
            self.go(page, path)
            told += self.look(page, path)
        for path, do in AT_WORK.items():
            page.goto(f"{self.live_server_url}{path}")
            do(page)
            told += self.look(page, f"{path} at work")
        self.assertEqual(told, [])

    def look(self, page: Page, name: str) -> list[str]:
        """What is wrong with a screen, once all of it is there."""
        page.wait_for_function("() => !waits()")
        found = page.evaluate(MEASURE) + page.evaluate(BORDERS) + axe(page, rules=self.rules)
        return [f"{name}: {x}" for x in found]


class MeasuredWide(Measured):
    """On a large screen in the light."""

    size = (1920, 1080)
    dark = False
    rules = THEME


class MeasuredAtHalfAgain(Measured):
    """With everything half as large again."""

    size = (853, 533)
    dark = False
    rules = THEME


def _plan(page: Page) -> None:
    """A refused cell and chosen rows."""
    cell(page, "A150", "duration").click()
    page.keyboard.type("ages")
    page.keyboard.press("Enter")
    page.wait_for_selector("[role=gridcell] [role=alert]")
    page.keyboard.press("Shift+ArrowDown")
    page.wait_for_selector("[data-bulk]")


def _posting(page: Page) -> None:
    type_into(page, "A150", "percent", "140")
    page.wait_for_selector("[role=gridcell] [role=alert]")


def _resources(page: Page) -> None:
    cell(page, "ELE", "name").click()
    page.goto(f"{page.url.partition('?')[0]}?who=ELE&part=organisation")
    page.get_by_role("button", name="Change for all projects").click()


def _project(page: Page) -> None:
    page.get_by_role("button", name="Kinds of projects…").click()
    page.get_by_role("region", name="Kinds of projects").get_by_role("grid").wait_for()


AT_WORK = {
    "/FERRY/now/plan": _plan,
    "/FERRY/now/posting": _posting,
    "/FERRY/now/plan/resources": _resources,
    "/FERRY/now/plan/project": _project,
}
"""What is opened or refused in a room before it is looked at once more."""
