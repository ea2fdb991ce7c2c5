"""The rooms of plan and budget under people's hands: what is dragged, chosen, applied, taken and brought back."""

import json
from decimal import Decimal
from typing import Any

from playwright.sync_api import FloatRect, Page, expect

from server.book.models import Activity, Assignment, Baseline, Calendar, Estimate, Link, Project, RegisterEntry, Resource, Statement
from server.journal.models import Step
from server.plan.details import plan_out
from server.shared.json_values import written
from server.tests.browser import BrowserTest, box_of
from server.tests.test_plan_browser import cell


class Gestures(BrowserTest):
    """The plan sheet and its timeline by pointer."""

    pages = 3

    def sheet(self, find: str = "", look: str = "") -> Page:
        page = self.open(f"/FERRY/P03/plan{look}")
        page.wait_for_selector("[data-cell]")
        if find:
            page.get_by_placeholder("Find in the plan").fill(find)
            expect(page.locator('[data-row="A110"]')).to_have_count(0)
        return page

    def told(self, page: Page, text: str) -> None:
        expect(page.locator("main [role=status]").first).to_contain_text(text)

    def drag(self, page: Page, start: tuple[float, float], *to: tuple[float, float]) -> None:
        """Presses and moves; whoever asks lets go."""
        page.mouse.move(*start)
        page.mouse.down()
        for x, y in to:
            page.mouse.move(x, y, steps=4)

    def ends(self, page: Page, source: str, target: str) -> tuple[FloatRect, FloatRect]:
        """The handle at the end of one bar, and the other bar."""
        tie = page.locator(f'[data-bar="{source}"] [data-handle="tie-finish"]')
        return box_of(tie), box_of(page.locator(f'[data-bar="{target}"] [data-handle=body]'))

    def codes(self, page: Page) -> list[str]:
        found: list[str] = page.eval_on_selector_all("[data-row]", "rows => rows.map(r => r.dataset.row)")
        return found

    def test_rows_are_dragged_to_another_place(self) -> None:
        page = self.sheet()
        before = self.codes(page)
        row, target = page.locator('[data-row="A120"]'), box_of(page.locator('[data-row="A100"]'))
        row.hover()
        box = box_of(row)
        start = (box["x"] + 3, box["y"] + 14)
        self.drag(page, start, (box["x"] + 80, box["y"] - 20), (target["x"] + 120, target["y"] + 2))
        expect(page.locator("[data-landing]")).to_be_visible()
        expect(page.get_by_role("tooltip")).to_be_visible()  # what tells of the row below takes no key from the drag
        page.keyboard.press("Escape")
        expect(page.locator("[data-landing]")).to_have_count(0)
        page.mouse.up()
        self.assertEqual(self.codes(page), before)
        self.drag(page, start, (box["x"] + 80, box["y"] - 20), (target["x"] + 120, target["y"] + 2))
        page.mouse.up()
        self.told(page, "Moved")
        expect(page.locator("[data-row]").nth(1)).to_have_attribute("data-row", "A120")
        page.keyboard.press("Control+z")
        expect(page.locator("[data-row]").nth(1)).to_have_attribute("data-row", "A100")
        # An element goes with all in it, and not into itself.
        element, inside = page.locator('[data-row="1"]'), box_of(page.locator('[data-row="A110"]'))
        element.hover()
        self.drag(page, (box_of(element)["x"] + 3, box_of(element)["y"] + 14), (inside["x"] + 100, inside["y"] + 2))
        expect(page.locator("[data-landing]")).to_have_count(0)
        page.mouse.up()
        self.assertEqual(self.codes(page), before)

    def test_conditions_on_own_fields_and_others(self) -> None:
        page = self.sheet()
        page.get_by_role("button", name="Filter").click()
        page.get_by_label("Column", exact=True).select_option(label="Deck")
        page.get_by_label("Condition", exact=True).fill("quay")
        page.get_by_role("button", name="Add condition").click()
        page.get_by_label("Column", exact=True).nth(1).select_option(label="Duration")
        page.get_by_label("Condition", exact=True).nth(1).fill("> 5")
        page.keyboard.press("Escape")
        expect(page.locator('[data-row="A500"]')).to_have_count(0)
        shown = [c for c in self.codes(page) if c.startswith("A")]
        rows = {r["code"]: r for r in json.loads(written(plan_out(Project.objects.get(code="FERRY")).rows))}
        of_deck = [c for c, r in rows.items() if r.get("fields", {}).get("deck") == "Quay"]
        self.assertEqual(sorted(shown), sorted(c for c in of_deck if float(rows[c]["duration"].split("d")[0] or 0) > 5))
        page.get_by_role("button", name="Views").click()
        page.get_by_label("Name of this view").fill("Long on the quay")
        page.get_by_role("button", name="Save", exact=True).click()
        page.keyboard.press("Escape")
        page.get_by_role("button", name="Clear").click()
        expect(page.locator('[data-row="A100"]')).to_be_visible()
        page.get_by_role("button", name="Views").click()
        page.get_by_role("button", name="Long on the quay", exact=True).click()
        expect(page.locator('[data-row="A100"]')).to_have_count(0)
        self.assertEqual([c for c in self.codes(page) if c.startswith("A")], shown)

    def test_conditions_read_dates_as_typed_and_say_what_they_can_not_read(self) -> None:
        page = self.sheet()
        page.get_by_role("button", name="Filter").click()
        page.get_by_label("Column", exact=True).select_option(label="Start")
        page.get_by_label("Condition", exact=True).fill("> 20 jun")
        late = sorted(
            r.code for r in plan_out(Project.objects.get(code="FERRY")).rows if r.kind != "wbs" and (r.start or "") >= "2027-06-21"
        )
        self.assertTrue(late)
        expect(page.locator("[data-row]:not([data-look=wbs])")).to_have_count(len(late))
        self.assertEqual(sorted(c for c in self.codes(page) if c.startswith("A")), late)
        page.get_by_label("Condition", exact=True).fill("> soon")
        expect(page.get_by_role("alert")).to_contain_text("That is no date")
        expect(page.locator("[data-says=head]")).to_contain_text("No row matches")
        page.get_by_label("Condition", exact=True).fill("> 20 jun 1999")
        expect(page.get_by_role("alert")).to_have_count(0)

    def test_a_bar_a_pause_a_link_and_a_loop_are_drawn(self) -> None:
        page = self.sheet("A5", "?time=week")
        page.set_viewport_size({"width": 1600, "height": 800})
        cell(page, "A550", "name").click()
        expect(page.get_by_role("complementary")).to_contain_text("Erect charging tower")
        bar = page.locator('[data-bar="A550"] [data-handle=body]')
        begin = cell(page, "A550", "begin").inner_text()
        box = box_of(bar)
        middle = (box["x"] + box["width"] / 2, box["y"] + 13)
        self.drag(page, middle, (middle[0] + 40, middle[1]), (middle[0] + 80, middle[1]))
        expect(page.locator("[data-say]")).to_contain_text("moved")
        expect(cell(page, "A550", "begin")).to_have_text(begin)
        page.mouse.up()
        expect(cell(page, "A550", "begin")).not_to_have_text(begin)
        page.keyboard.press("Control+z")
        expect(cell(page, "A550", "begin")).to_have_text(begin)
        # A pause, with Alt held down.
        page.keyboard.down("Alt")
        self.drag(page, (middle[0] - 8, middle[1]), (middle[0] + 10, middle[1]))
        expect(page.locator("[data-say]")).to_contain_text("pauses")
        page.mouse.up()
        page.keyboard.up("Alt")
        self.told(page, "pauses")
        expect(page.get_by_role("complementary").get_by_role("button", name="Delete this pause")).to_have_count(1)
        page.keyboard.press("Control+z")
        self.told(page, "Undid")
        # A link, from the end of one to the start of another.
        bar.hover()
        tie, other = (
            box_of(page.locator('[data-bar="A550"] [data-handle="tie-finish"]')),
            box_of(page.locator('[data-bar="A560"] [data-handle=body]')),
        )
        at = (tie["x"] + 4, tie["y"] + 4)
        self.drag(page, at, (other["x"] + 30, other["y"] - 6), (other["x"] + 4, other["y"] + 13))
        expect(page.locator("[data-say]")).to_contain_text("Added a link")
        page.mouse.up()
        expect(cell(page, "A560", "after")).to_have_text("A540; A550")
        self.assertTrue(Link.objects.filter(source__code="A550", target__code="A560").exists())
        # And one that would make a loop is refused by the names on it.
        cell(page, "A560", "name").click()
        expect(page.get_by_role("complementary").get_by_role("heading", name="High-voltage cable and connection")).to_be_visible()
        tie, other = (
            box_of(page.locator('[data-bar="A560"] [data-handle="tie-finish"]')),
            box_of(page.locator('[data-bar="A550"] [data-handle=body]')),
        )
        self.drag(page, (tie["x"] + 4, tie["y"] + 4), (other["x"] + 30, other["y"] + 20), (other["x"] + 4, other["y"] + 13))
        expect(page.locator("[data-say=bad]")).to_contain_text("That would make a loop: A550 Erect charging tower → A560")
        page.mouse.up()
        expect(page.get_by_role("alert").first).to_contain_text("Nothing was changed")
        self.assertFalse(Link.objects.filter(source__code="A560", target__code="A550").exists())

    def test_a_milestone_by_one_key_and_weights_by_lines(self) -> None:
        page = self.sheet("A5")
        cell(page, "A560", "name").click()
        page.keyboard.press("Control+m")
        expect(cell(page, "A560", "duration")).to_have_text("–")
        self.assertEqual(Activity.objects.get(code="A560").kind, "milestone")
        page.keyboard.press("Control+z")
        expect(cell(page, "A560", "duration")).to_have_text("8 d")
        margin = page.get_by_role("complementary")
        margin.get_by_label("Method", exact=True).select_option("milestones")
        margin.get_by_role("button", name="Add a milestone").click()
        margin.get_by_label("Weight of Milestone 2").fill("3")
        margin.get_by_label("Weight of Milestone 2").press("Enter")
        margin.get_by_label("Done is due at, % of the work").fill("40")
        margin.get_by_label("Done is due at, % of the work").press("Enter")
        expect(margin.get_by_label("Done is due at, % of the work")).to_have_value("40")
        weights = [{"name": "Done", "weight": 1, "at": Decimal("0.4")}, {"name": "Milestone 2", "weight": 3, "at": 1}]
        self.until(lambda: Activity.objects.get(code="A560").value_method == {"type": "milestones", "weights": weights})
        margin.get_by_label("Weight of Milestone 2").fill("many")
        margin.get_by_label("Weight of Milestone 2").press("Enter")
        expect(margin.get_by_role("alert").first).to_be_visible()
        self.assertEqual(Activity.objects.get(code="A560").value_method["weights"][1]["weight"], 3)


class Rooms(BrowserTest):
    """Budget, baselines, resources, new projects and the report's own fields."""

    pages = 3

    def test_an_estimate_is_typed_adjusted_and_used(self) -> None:
        page = self.open("/FERRY/P03/budget")
        page.get_by_role("button", name="Estimates").click()
        page.get_by_role("grid", name="Estimates").locator("[data-row^=begun] [data-cell$=':name']").click()
        for text in ("Quay guess", "money", "5", "", "80 000"):
            page.keyboard.type(text)
            page.keyboard.press("Tab" if text != "80 000" else "Enter")
        expect(page.get_by_role("button", name="Use Quay guess")).to_be_visible()
        row = page.get_by_role("row").filter(has_text="Quay guess")
        row.locator("[data-cell$=':percent']").click()
        page.keyboard.type("25")
        page.keyboard.press("Enter")
        expect(row.locator("[data-cell$=':total']")).to_have_text("100 000")
        self.assertEqual(Estimate.objects.filter(project__code="FERRY", name="Quay guess").count(), 1)
        before = self.costs()
        page.get_by_role("button", name="Use Quay guess").click()
        expect(page.get_by_role("status").filter(has_text="applied")).to_be_visible()
        after = self.costs()
        grown = {c: after[c] - before[c] for c in after if after[c] != before[c]}
        self.assertEqual((sum(grown.values()), {c[:2] for c in grown}), (Decimal(100_000), {"A5"}))
        page.get_by_role("link", name="Plan", exact=True).click()
        page.wait_for_selector("[data-cell]")
        page.get_by_role("button", name="Undo").click()
        expect(page.locator("main [role=status]").first).to_contain_text("Undid")
        self.assertEqual(self.costs(), before)

    def test_hours_are_spread_to_who_is_named(self) -> None:
        page = self.open("/FERRY/P03/budget")
        page.get_by_role("button", name="Estimates").click()
        page.get_by_role("grid", name="Estimates").locator("[data-row^=begun] [data-cell$=':name']").click()
        for text in ("Yard count", "hours", "5", "", "800", "Nobody"):
            page.keyboard.type(text)
            page.keyboard.press("Tab" if text != "Nobody" else "Enter")
        expect(page.get_by_role("alert").filter(has_text="no resource “Nobody”")).to_be_visible()
        row = page.get_by_role("row").filter(has_text="Yard count")
        row.locator("[data-cell$=':spread_to']").click()
        page.keyboard.type("ele")
        page.keyboard.press("Enter")
        expect(row.locator("[data-cell$=':spread_to']")).to_have_text("Mirela Oakden's electricians")
        plan = Activity.objects.filter(project__code="FERRY")
        long = dict(plan.values_list("code", "duration"))
        page.get_by_role("button", name="Use Yard count").click()
        expect(page.get_by_role("status").filter(has_text="applied")).to_be_visible()
        on = Assignment.objects.filter(project__code="FERRY", activity__code__startswith="A5", resource__code="ELE")
        shares = Estimate.objects.get(project__code="FERRY", name="Yard count").shares
        self.assertEqual({x.activity.code for x in on}, {s["code"] for s in shares if s["kind"] == "activity"})
        self.assertEqual(dict(plan.values_list("code", "duration")), long, "durations stay")

    def costs(self) -> dict[str, Decimal]:
        rows: list[dict[str, Any]] = json.loads(written(plan_out(Project.objects.get(code="FERRY")).rows))
        return {r["code"]: Decimal(r.get("cost", "0")) for r in rows if r["kind"] != "wbs"}

    def test_a_baseline_in_part_chosen_drawn_and_brought_back(self) -> None:
        page = self.open("/FERRY/P03/baselines", "Lorcan")
        page.get_by_label("Name", exact=True).fill("Shore works again")
        page.get_by_role("button", name="Approve and take it").click()
        expect(page.get_by_role("alert").filter(has_text="Say why this plan is approved")).to_be_visible()
        expect(page.get_by_role("button", name="Yes, freeze it")).to_have_count(0)
        page.get_by_label("Reason").fill("The quay was planned anew")
        page.get_by_label("Only chosen elements and activities").check()
        page.get_by_label("5 Shore charging").check()
        page.get_by_role("button", name="Approve and take it").click()
        expect(page.get_by_text("It can't be changed afterwards")).to_be_visible()
        page.get_by_role("button", name="Yes, freeze it").click()
        expect(page.get_by_role("cell").filter(has_text="Shore works again").first).to_be_visible()
        made = Baseline.objects.get(project__code="FERRY", name="Shore works again")
        page.get_by_label(f"Show {made.code} on charts").check()
        expect(page.get_by_label(f"Show {made.code} on charts")).to_be_checked()
        page.get_by_label(f"Measure against {made.code}").check()
        expect(page.get_by_label(f"Measure against {made.code}")).to_be_checked()
        self.until(lambda: Project.objects.get(code="FERRY").measured_against == made.code)
        row = page.get_by_role("row").filter(has_text="Shore works again")
        row.get_by_role("button", name="start a project").click()
        page.get_by_label("Code of the project").fill("SHORE")
        page.get_by_role("button", name="Start the project", exact=True).click()
        page.wait_for_url("**/SHORE/**")
        page.wait_for_selector("[data-cell]")
        then = {a["code"]: a["start"] for a in made.content["activities"]}
        now = {r["code"]: r["start"] for r in json.loads(written(plan_out(Project.objects.get(code="SHORE")).rows)) if r["kind"] != "wbs"}
        self.assertEqual(now, then)

    def test_a_role_is_replaced_everywhere_and_one_goes_on_many(self) -> None:
        role = Assignment.objects.filter(project__code="FERRY").values_list("resource__code", "resource__name").order_by("id").first()
        assert role is not None
        held = set(Assignment.objects.filter(resource__code=role[0], project__code="FERRY").values_list("activity__code", flat=True))
        page = self.open(f"/FERRY/P03/plan/resources?part=assigned&who={role[0]}")
        picker = page.get_by_label("Replace with…")
        other = picker.locator("option").nth(1).inner_text()
        picker.select_option(label=other)
        page.get_by_role("button", name="Replace on all activities").click()
        expect(page.locator("main [role=status]").first).to_contain_text("replaced")
        self.assertFalse(Assignment.objects.filter(resource__code=role[0], project__code="FERRY").exists())
        now = set(Assignment.objects.filter(resource__name=other, project__code="FERRY").values_list("activity__code", flat=True))
        self.assertLessEqual(held, now)

    def test_the_desk_leads_to_what_is_late_and_is_taken_away(self) -> None:
        page = self.open("/", "Maud")
        first = page.locator("tbody tr").first
        expect(first).to_contain_text("against B0")
        expect(page.get_by_role("heading", name="By currency")).to_be_visible()
        with page.expect_download() as kept:
            page.get_by_role("link", name="CSV").click()
        self.assertEqual(kept.value.suggested_filename, "projects.csv")
        late = page.locator("table").last.get_by_role("link").first
        milestone = late.inner_text()
        late.click()
        page.wait_for_url("**/FERRY/P03/timeline")
        expect(page.get_by_text(milestone).first).to_be_visible()

    def test_a_project_from_a_copy_and_from_a_template(self) -> None:
        page = self.open("/", "Lorcan")
        page.get_by_role("button", name="New project").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_label("Name", exact=True).fill("The ferry once more")
        dialog.get_by_label("Code", exact=True).fill("AGAIN")
        dialog.locator("select").first.select_option("copy")
        dialog.locator("select").nth(1).select_option("FERRY")
        dialog.get_by_label("with its progress").or_(dialog.get_by_role("checkbox")).first.check()
        dialog.locator("button[type=submit]").click()
        page.wait_for_url("**/AGAIN/**")
        page.wait_for_selector("[data-cell]")
        stated = Statement.objects.filter(page__project__code="FERRY").count()
        self.assertEqual(Statement.objects.filter(page__project__code="AGAIN").count(), stated)
        dates = [
            {r["code"]: r.get("start") for r in json.loads(written(plan_out(Project.objects.get(code=code)).rows))}
            for code in ("FERRY", "AGAIN")
        ]
        self.assertEqual(*dates)
        page.goto(self.live_server_url)
        page.get_by_role("button", name="New project").click()
        dialog.get_by_label("Name", exact=True).fill("A new quay")
        dialog.get_by_label("Code", exact=True).fill("QUAY2")
        dialog.locator("select").first.select_option("template")
        dialog.get_by_role("radio").first.check()
        dialog.locator("button[type=submit]").click()
        page.wait_for_url("**/QUAY2/**")
        page.wait_for_selector("[data-cell]")
        self.assertGreater(Activity.objects.filter(project__code="QUAY2").count(), 10)

    def test_hours_and_rates_typed_one_after_the_other_are_all_kept(self) -> None:
        page = self.open("/FERRY/P03/plan/calendars")
        code = Project.objects.get(code="FERRY").calendar
        keys = page.keyboard
        page.get_by_label("Mon", exact=True).focus()
        for _ in range(3):
            keys.press("Control+a")
            keys.type("7-11, 12-16")
            keys.press("Tab")
        kept = ["07:00-11:00", "12:00-16:00"]
        self.until(lambda: [Calendar.objects.get(project__code="FERRY", code=code).week[d] for d in ("mon", "tue", "wed")] == [kept] * 3)
        page.get_by_label("Thu", exact=True).fill("late")
        keys.press("Tab")
        expect(page.get_by_role("alert").first).to_be_visible()
        expect(page.get_by_label("Thu", exact=True)).to_have_value("late")
        self.assertEqual(Calendar.objects.get(project__code="FERRY", code=code).week["mon"], kept)
        resource = next(r for r in Resource.objects.filter(project__code="FERRY") if r.rates)
        page.goto(f"{self.live_server_url}/FERRY/P03/plan/resources?part=rates&who={resource.code}")
        sheet = page.get_by_role("grid", name=f"Rates of {resource.name}")
        sheet.locator('[data-cell$=":amount"]').first.click()
        keys.type("91.5")
        keys.press("Tab")
        keys.press("Tab")
        keys.type("120")
        keys.press("Enter")
        self.until(lambda: "120" in str(Resource.objects.get(pk=resource.pk).rates[0].get("overtime")))
        self.assertEqual(Decimal(Resource.objects.get(pk=resource.pk).rates[0]["amount"]), Decimal("91.5"))

    def test_special_days_and_rates_are_added_in_the_row_at_the_foot(self) -> None:
        page = self.open("/FERRY/P03/plan/calendars")
        code = Project.objects.get(code="FERRY").calendar
        days = len(Calendar.objects.get(project__code="FERRY", code=code).exceptions or [])
        keys = page.keyboard
        last = page.get_by_role("grid", name="Special days of").locator("[data-row^=begun]").last
        last.locator('[data-cell$=":name"]').click()
        keys.type("Launch day")
        keys.press("Enter")
        expect(last.locator('[data-cell$=":name"]')).to_have_text("Launch day")  # the date is still to be typed
        last.locator('[data-cell$=":from"]').click()
        keys.type("3 jun 2027")
        keys.press("Tab")
        keys.press("Tab")
        keys.type("10-14")
        keys.press("Enter")
        kept = {"from": "2027-06-03", "to": "2027-06-03", "shifts": ["10:00-14:00"], "name": "Launch day"}
        self.until(lambda: kept in (Calendar.objects.get(project__code="FERRY", code=code).exceptions or []))
        self.assertEqual(len(Calendar.objects.get(project__code="FERRY", code=code).exceptions), days + 1)
        expect(last.locator('[data-cell$=":name"]')).to_have_text("")
        resource = next(r for r in Resource.objects.filter(project__code="FERRY") if r.rates)
        page.goto(f"{self.live_server_url}/FERRY/P03/plan/resources?part=rates&who={resource.code}")
        last = page.get_by_role("grid", name=f"Rates of {resource.name}").locator("[data-row^=begun]").last
        last.locator('[data-cell$=":per"]').click()
        keys.type("day")
        keys.press("Enter")
        for since, amount in (("1 jul 2027", "99.50"), ("1 aug 2027", "101")):
            last.locator('[data-cell$=":from"]').click()
            keys.type(since)
            keys.press("Tab")
            keys.type(amount)
            keys.press("Enter")
        rates = [("2027-07-01", Decimal("99.5"), "day"), ("2027-08-01", Decimal(101), "day")]

        def kept_rates() -> list[Any]:
            return [(r["from"], Decimal(r["amount"]), r["per"]) for r in Resource.objects.get(pk=resource.pk).rates]

        self.until(lambda: set(rates) <= set(kept_rates()))
        expect(last.locator('[data-cell$=":per"]')).to_have_text("day")

    def test_two_people_on_one_cell_of_a_register(self) -> None:
        one, other = self.open("/FERRY/P03/plan/project", "Ines"), self.open("/FERRY/P03/plan/project", "Tobin")
        for page in (one, other):
            page.get_by_role("tab", name="Risks").click()
            cell(page, "R1", "owner").click()
        other.keyboard.type("Tobin")
        one.keyboard.type("Ines")
        one.keyboard.press("Enter")
        expect(one.locator("main [role=status]").first).to_contain_text("owner")
        expect(cell(one, "R1", "owner")).to_have_text("Ines")
        other.keyboard.press("Enter")
        note = cell(other, "R1", "owner").get_by_role("alert")
        expect(note).to_contain_text("Ines Test wrote while you were typing")
        expect(cell(other, "R1", "owner")).to_contain_text("Tobin")
        note.get_by_role("button", name="Overwrite with mine").click()
        expect(cell(other, "R1", "owner")).to_have_text("Tobin")
        # On different cells neither notices.
        cell(one, "R2", "owner").click()
        one.keyboard.type("Ines")
        one.keyboard.press("Enter")
        expect(cell(one, "R2", "owner")).to_have_text("Ines")
        cell(other, "R3", "owner").click()
        other.keyboard.type("Tobin")
        other.keyboard.press("Enter")
        expect(cell(other, "R3", "owner")).to_have_text("Tobin")
        expect(other.get_by_role("alert")).to_have_count(0)

    def test_what_is_looked_for_comes_before_where_one_stood(self) -> None:
        page = self.open("/FERRY/P03/plan")
        cell(page, "A110", "name").click()
        page.get_by_role("link", name="Resources", exact=True).click()
        expect(page.get_by_role("heading", name="Resources", level=1)).to_be_visible()
        page.keyboard.press("/")
        page.keyboard.type("A550")
        expect(page.get_by_role("listbox").get_by_role("option").first).to_be_visible()
        page.keyboard.press("Enter")
        page.get_by_role("link", name="Sheet", exact=True).click()
        expect(page.locator('[data-row="A550"]')).to_be_visible()
        cell(page, "A560", "name").click()
        page.get_by_role("link", name="Resources", exact=True).click()
        page.get_by_role("link", name="Sheet", exact=True).click()
        expect(page.get_by_role("complementary").get_by_role("heading", name="High-voltage cable and connection")).to_be_visible()

    def test_own_fields_stand_in_the_report(self) -> None:
        page = self.open("/FERRY/P03/report")
        expect(page.get_by_role("columnheader", name="Hot work").first).to_be_visible()
        expect(page.get_by_role("columnheader", name="Cost a day")).to_have_count(0)
        expect(page.get_by_text("Berth: Slip")).to_be_visible()
        page.goto(f"{self.live_server_url}/FERRY/P03/plan/project")
        page.get_by_role("tab", name="Own fields").click()
        page.locator('[data-cell="deck:in_reports"]').click()
        page.keyboard.type("yes")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("The kind of project gives")
        page.locator('[data-cell="day_rate:in_reports"]').click()
        page.keyboard.type("yes")
        page.keyboard.press("Enter")
        self.until(lambda: RegisterEntry.objects.get(register="fields", code="day_rate").values.get("in_reports") == "yes")
        page.goto(f"{self.live_server_url}/FERRY/P03/report")
        expect(page.get_by_role("columnheader", name="Cost a day").first).to_be_visible()
        first = page.get_by_role("table").filter(has=page.get_by_role("columnheader", name="Cost a day")).first
        self.assertTrue([text for text in first.locator("td").all_inner_texts() if text.isdecimal()])

    def test_what_is_typed_in_an_entry_is_written_once(self) -> None:
        page = self.open("/FERRY/now/plan/project")
        client = page.get_by_label("Client", exact=True)
        before = Step.objects.count()
        for name in ("Corran Ferries Ltd", "Corran Ferries", "Corran Ferries"):
            client.fill(name)
            page.keyboard.press("Enter")
            page.keyboard.press("Tab")
        self.until(lambda: Project.objects.get(code="FERRY").client == "Corran Ferries")
        client.focus()
        page.keyboard.press("Tab")
        self.until(lambda: Step.objects.count() == before + 2)
        client.fill("Kestrel Lines")
        with page.expect_response(lambda answer: answer.request.method == "POST"):
            page.keyboard.press("Enter")
            client.fill("Kestrel Lines and")  # more is typed before the answer is there
        self.until(lambda: Project.objects.get(code="FERRY").client == "Kestrel Lines")
        expect(client).to_have_value("Kestrel Lines and")
        page.keyboard.press("Escape")
        expect(client).to_have_value("Kestrel Lines")
