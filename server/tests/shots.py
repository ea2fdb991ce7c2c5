"""Take the pictures of docs/screenshots from a demo server that runs (`./dry demo`): `./dry shots [ADDRESS]`."""

import re
import subprocess
import sys
import tempfile
from pathlib import Path

from playwright.sync_api import Error, Page, sync_playwright

from server.tests.chromium import CHROMIUM, FLAGS

ROOT = Path(__file__).parents[2]
OUT = ROOT / "docs" / "screenshots"


def take(page: Page, name: str) -> None:
    page.wait_for_timeout(700)
    page.screenshot(path=OUT / f"{name}.png", animations="disabled")


def main() -> None:
    address = sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8750"
    OUT.mkdir(exist_ok=True)
    with sync_playwright() as p:
        browser = p.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, color_scheme="light")
        try:
            page.goto(address)
        except Error:
            sys.exit(f"Nothing answers at {address}. Start ./dry demo first.")
        page.get_by_role("button", name="Lorcan").wait_for()
        page.get_by_role("button", name="Lorcan").click()
        page.get_by_role("link", name="MV Corran Light").wait_for()
        take(page, "desk")
        posting(page, address)
        plan(page, address)
        rest(page, address)
        reading(page, address)
        my_work(browser.new_page(viewport={"width": 390, "height": 800}, color_scheme="light"), address)
        browser.close()


def posting(page: Page, address: str) -> None:
    page.goto(f"{address}/FERRY/P10/posting")
    page.locator('[data-cell="A460:activity"]').click()
    take(page, "posting")
    page.goto(f"{address}/FERRY/P10/checks")
    page.locator('[data-cell="finished_with_work:A430:text"]').click()
    take(page, "checks")
    page.goto(f"{address}/FERRY/P10/posting/answers")
    page.get_by_role("button", name=re.compile("^Take all")).first.wait_for()
    take(page, "answers")


def my_work(page: Page, address: str) -> None:
    page.goto(address)
    page.get_by_role("button", name="Ruan").click()
    page.locator("[data-row] button").nth(2).click()
    take(page, "my-work")


def plan(page: Page, address: str) -> None:
    page.goto(f"{address}/FERRY/P10/plan")
    page.wait_for_selector("[data-cell]")
    page.locator("[data-sheet]").evaluate("e => { e.scrollTop = 1060 }")
    page.locator('[data-cell="A375:name"]').click()
    take(page, "plan")


def reading(page: Page, address: str) -> None:
    page.goto(f"{address}/FERRY/P10/timeline?lines=pages&most=3")
    page.locator("[data-sheet]").evaluate("e => { e.scrollTop = 900 }")
    page.locator('[data-bar="A360"] [data-line="2"]').wait_for(state="attached")
    take(page, "timeline")
    page.goto(f"{address}/FERRY/P10/options")
    page.get_by_role("button", name="O3 Second crew").click()
    page.get_by_role("img", name="The finish of the present and of each option").wait_for()
    take(page, "options")
    page.goto(f"{address}/BUOYS/P06/buffers")
    page.get_by_role("heading", name="What to do first").wait_for()
    take(page, "buffers")
    page.goto(f"{address}/FERRY/P10/marks")
    page.get_by_role("button", name="Edit the rule").nth(1).click()
    page.get_by_label("Value", exact=True).first.fill("3d")
    page.get_by_role("region", name="What saving changes").get_by_role("row").first.wait_for()
    take(page, "marks")


def rest(page: Page, address: str) -> None:
    for name, path, ready in (
        ("resources", "plan/resources", "main [data-row]"),
        ("budget", "budget?show=against", "main path[data-line]"),
        ("orders", "budget?part=orders", "main tbody tr"),
        ("under-change", "budget?part=change", "main tbody tr"),
        ("baselines", "baselines", "main tbody tr"),
        ("exchange", "exchange", "main h2"),
    ):
        page.goto(f"{address}/FERRY/P10/{path}")
        page.wait_for_selector(ready)
        take(page, name)
    page.goto(f"{address}/FERRY/P10/value")
    page.locator('[data-figure="wbs:3:ev"]').click()
    page.wait_for_selector("path[data-line]")
    take(page, "value")
    page.goto(f"{address}/FERRY/P10/report")
    page.wait_for_selector("path[data-line]", state="attached")
    page.get_by_role("button", name="Estimate at completion, This page").click()
    page.wait_for_timeout(600)
    take(page, "report")
    with tempfile.TemporaryDirectory() as folder:
        paper = Path(folder) / "report.pdf"
        paper.write_bytes(page.request.get(f"{address}/api/projects/FERRY/pages/P10/report/editions/draft.pdf").body())
        subprocess.run(["pdftoppm", "-r", "70", "-f", "1", "-l", "1", "-singlefile", "-png", paper, OUT / "report-pdf"], check=True)


if __name__ == "__main__":
    main()
