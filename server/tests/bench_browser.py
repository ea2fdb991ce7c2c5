"""The browser's share of `./dry bench`: what hands wait for, on large plans, in the real application.

Milliseconds from Enter to the next frame and to the settled figures of a changed duration, until a room that was open is
there again, and between frames while a sheet is slid (nine in ten are quicker), beside those of one empty page in the same
browser; and the kilobytes, gzipped, of the first load and of each room.
"""

import gzip
import json
import re
import sys
import tempfile
from pathlib import Path
from statistics import median, quantiles

ROOT = Path(__file__).parents[2]
sys.path[:0] = [str(ROOT), str(ROOT / "core")]

from commands.make_book import make_book
from playwright.sync_api import Page, sync_playwright

from server.tests.chromium import CHROMIUM, FLAGS
from server.tests.served import Served

SIZES, ROUNDS, FRAMES = (2_000, 10_000), 7, 120
TITLES = ("Enter, frame", "settled", "room again", "frame of 10", "slowest")
SLIDE = """([selector, frames]) => new Promise((done) => {
  const box = selector ? document.querySelector(selector) : null, took = [];
  let before = performance.now(), left = frames;
  const step = (now) => {
    took.push(now - before); before = now;
    if (box) box.scrollTop += 260;
    if (left--) requestAnimationFrame(step); else done(took.slice(1));
  };
  requestAnimationFrame(step);
})"""
ENTER = """() => new Promise((done) => {
  addEventListener("keydown", () => { const at = performance.now();
    requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - at))); }, { once: true, capture: true });
})"""
AGAIN = """(name) => new Promise((done) => {
  const at = performance.now(), station = document.querySelector(`nav a[data-tip="${name}"]`);
  const there = () => station.hasAttribute("aria-current") && document.querySelector("[data-row]");
  const look = () => requestAnimationFrame(there() ? () => done(performance.now() - at) : look);
  station.click();
  look();
})"""


def measure(page: Page, url: str, code: str) -> list[float]:
    """The figures of one project."""
    page.goto(f"{url}/{code}/P05/plan")
    page.locator("[data-row]").first.wait_for()
    page.wait_for_load_state("networkidle")
    frames, settled = [], []
    page.get_by_label("Show", exact=True).select_option("not started")
    cells = page.locator('[data-cell^="A"][data-cell$=":duration"]')
    for i in range(ROUNDS):
        cells.nth(i).click()
        page.keyboard.type(f"{31 + i}d")
        page.evaluate(f"void (window.measured = ({ENTER})())")
        with page.expect_response(lambda r: r.request.method == "POST" and r.url.endswith("/plan/changes")):
            at = page.evaluate("performance.now()")
            page.keyboard.press("Enter")
        page.evaluate("() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
        settled.append(page.evaluate("performance.now()") - at)
        frames.append(page.evaluate("window.measured"))
        page.wait_for_load_state("networkidle")
    page.evaluate(AGAIN, "Value")
    page.wait_for_load_state("networkidle")
    again = []
    for name in ("Plan", "Value") * 2:
        again.append(page.evaluate(AGAIN, name))
    page.evaluate(AGAIN, "Plan")
    slid = page.evaluate(SLIDE, ["[role$=grid]", FRAMES])
    return [median(frames), median(settled), median(again), quantiles(slid, n=10)[8], max(slid)]


def sizes() -> None:
    """What is loaded first, and what each room loads more."""
    assets = ROOT / "web" / "dist" / "assets"
    weight = {f.name: len(gzip.compress(f.read_bytes())) / 1000 for f in assets.glob("*.js")}

    def whole(name: str, known: set[str]) -> set[str]:
        for more in re.findall(r'(?:from|import)\s*"\./([\w.-]+\.js)"', (assets / name).read_text()):
            if more not in known:
                whole(more, known | {more})
                known.add(more)
        return known | {name}

    first = re.findall(r"assets/([\w.-]+\.js)", (ROOT / "web" / "dist" / "index.html").read_text())
    start = next(n for n in weight if n.startswith("start-"))
    loaded = whole(start, {start}) | set(first)
    print(f"\ngzipped, kB: first load {sum(weight[n] for n in loaded):.0f}; more for a room: ", end="")
    rooms = {n: sum(weight[x] for x in whole(n, {n}) - loaded) for n in weight if "Screen-" in n}
    print(", ".join(f"{n.split('Screen-')[0]} {kb:.0f}" for n, kb in sorted(rooms.items(), key=lambda x: -x[1])))


def main() -> None:
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        served = Served(folder, workers=1)
        served.manage("prepare", "--demo", str(ROOT / "demo" / "ferry.json"))
        for size in SIZES:
            book = Path(folder) / f"{size}.json"
            made = make_book(size, 1)
            made["project"]["code"] = f"BENCH{size}"
            book.write_text(json.dumps(made, default=float))
            served.manage("load_book", str(book))
        served.start()
        try:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            blank = page.evaluate(SLIDE, [None, FRAMES])
            page.goto(served.url)
            page.get_by_role("button", name="Ines").first.click()
            page.get_by_role("button", name="Sign out").wait_for()
            print(f"\nbrowser, ms   {' '.join(f'{t:>13}' for t in TITLES)}   (frames of an empty page: {quantiles(blank, n=10)[8]:.0f})")
            for size in SIZES:
                print(f"{size:>6,}        " + " ".join(f"{ms:>13.0f}" for ms in measure(page, served.url, f"BENCH{size}")))
        finally:
            served.kill()
    sizes()


if __name__ == "__main__":
    main()
