"""What can be measured of the look: nothing cut, nothing over another, nothing out of sight, and borders that can be seen."""

from typing import Any

from server.tests.browser import BrowserTest

ROOMS = (
    "plan",
    "plan/resources",
    "plan/calendars",
    "plan/project",
    "budget",
    "budget?by=week",
    "budget?part=estimates",
    "baselines",
    "posting",
    "posting/hours",
    "posting/hours?by=person",
    "posting/costs",
    "marks",
    "value?part=summary",
    "value?part=work",
    "value?part=pages",
    "timeline?lines=pages",
    "posting/feeds",
    "posting/history?of=A150",
    "checks",
    "checks?part=quality",
    "checks?part=limits",
    "value",
    "timeline",
    "report",
    "exchange",
)
WAITS = "it waits"
WAITING = """window.waits = () =>
  [...document.querySelectorAll('[role=status]')].some((e) => e.textContent === 'Reading the page…');"""
MEASURE = """() => {
  if (waits()) return ['it waits'];
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


class Measured(BrowserTest):
    pages = 3

    def test_nothing_is_cut_and_borders_can_be_seen(self) -> None:
        page = self.open("/FERRY/now/plan")
        page.add_init_script(WAITING)
        told: list[str] = []
        for room in ROOMS:
            page.goto(f"{self.live_server_url}/FERRY/now/{room}")
            found: Any = [WAITS]
            while WAITS in found:  # it may wait once for its script and once for its figures
                page.locator("main h1").first.wait_for()
                page.wait_for_load_state("networkidle")
                page.wait_for_function("() => !waits()")
                found = page.evaluate(MEASURE) + page.evaluate(BORDERS)
            told += [f"{room}: {x}" for x in found]
        self.assertEqual(told, [])


class MeasuredWide(Measured):
    size = (1920, 1080)


class MeasuredAtHalfAgain(Measured):
    size = (853, 533)
    dark = True
