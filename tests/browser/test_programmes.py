"""A trial of whole programmes in the browser: asked, carried out day by day, judged."""

from __future__ import annotations

import unittest
from datetime import date, timedelta

from playwright.sync_api import Page, expect

from tests.browser.support import Server, choose, choose_from_open, settle
from tests.browser.test_whole_job import BrowserCase
from tests.browser.walks import add_counted_plants, mix_as_helper, send, start_round, unfold

START = date.today() - timedelta(days=6)
# What comes on each day: plants of five remedies, three of each, on paper a week ago.
DUE = {0: 15, 1: 3, 2: 3, 3: 6, 4: 3, 5: 3}


class Programmes(BrowserCase):
    def test_a_daily_jet_soap_every_third_day_weekly_neem_a_card_and_nothing(self) -> None:
        server = self.fresh()
        page = self.page()
        page.goto(f"{server.address}/new")
        unfold(page)
        self.ask(page)
        self.bench(page)
        self.plan(page)
        page.goto(f"{server.address}/trial/1/look/0")
        self.count(page, server, 0)
        page.goto(f"{server.address}/trial/1/mix")
        mix_as_helper(page, bottles=2)
        for number, (day, plants) in enumerate(DUE.items(), start=1):
            self.treat(page, server, number, day, plants)
        page.goto(f"{server.address}/trial/1/look/2")
        self.count(page, server, 2)
        page.goto(f"{server.address}/trial/1/verdict")
        for name in ("Mild soap", "Water jet", "Yellow", "neem"):
            expect(page.get_by_text(name).first).to_be_visible()
        verdict = server.get("/api/trials/1/verdict")["verdict"]
        self.assertEqual(verdict["remedies"][0]["name"], "Mild soap")
        self.assertEqual(len(verdict["remedies"]), 5)
        self.assert_accessible(page)

    def test_soap_and_the_next_day_neem(self) -> None:
        """A step is asked for, stands in the timetable, has its own bottle, and only that fits."""
        server = self.fresh()
        page = self.page()
        page.goto(f"{server.address}/new")
        unfold(page)
        page.get_by_label("Name of the trial").fill("In two steps")
        choose(page, "Pest or disease", "Whiteflies")
        for name in ("Water only", "Mild soap"):
            page.locator("button.remedy").filter(has_text=name).first.click()
            settle(page)
        first = page.get_by_role("group", name="Remedy 1").get_by_label("Name").first
        expect(first).to_have_value("Mild soap")  # made by now: a step given before would be lost
        page.get_by_role("button", name="Something follows a day or more later in remedy 1").click()
        page.get_by_label("Recipe of step 2 of remedy 1").fill("5 ml neem oil, 2 ml soap per litre")
        page.get_by_label("Spray on days").fill("0, 5")
        page.get_by_role("button", name="Next: the plants").click()
        expect(page.get_by_text("a step has no name")).to_be_visible()
        page.get_by_label("Name of step 2 of remedy 1").fill("neem")
        self.assert_accessible(page)
        page.get_by_role("button", name="Next: the plants").click()
        add_counted_plants(page, "T", 1, [20, 21, 22, 23])
        page.get_by_role("link", name="Next: the layout").click()
        table = page.get_by_role("region", name="Timetable of remedies by days")
        soap = table.get_by_role("row").filter(has_text="Mild soap")
        expect(soap.get_by_text("neem", exact=True)).to_have_count(2)
        expect(soap.get_by_label("given")).to_have_count(2)
        page.get_by_role("button", name="Draw at random").click()
        expect(page.get_by_role("heading", name="What stands where")).to_be_visible()
        page.goto(f"{server.address}/trial/1/patch")
        expect(page.get_by_text("Put each part on leaves of its own")).to_be_visible()
        page.goto(f"{server.address}/trial/1/mix")
        mix_as_helper(page, bottles=2)
        self.assertEqual(server.get("/api/trials/1")["batches"], [])  # sizes would tell the key
        send(server, "POST", "/api/trials/1/key")
        steps = {b["id"]: b["step"] for b in server.get("/api/trials/1")["batches"]}
        self.assertEqual(sorted(steps.values()), [0, 1])
        for number, step in ((1, 0), (2, 1)):
            page.goto(f"{server.address}/trial/1/round/{number}")
            (batch,) = [b for b, of in steps.items() if of == step]
            expect(page.locator("div.bottle")).to_have_count(1)
            expect(page.locator("div.bottle").get_by_text(f"Batch {batch},")).to_be_visible()

    def test_if_soap_is_not_enough_neem_follows_and_the_verdict_says_so(self) -> None:
        """A rule is typed, a look sets it off, its bottle is due, and both are judged as one."""
        begin = date.today() - timedelta(days=9)
        server = self.fresh()
        page = self.page()
        page.goto(f"{server.address}/new?pest=aphids")
        page.get_by_label("How many plants").fill("8")
        page.get_by_label("What they are").fill("lupins")
        page.get_by_label("First spray").fill(begin.isoformat())
        page.get_by_role("button", name="Mild soap", exact=True).click()
        page.get_by_role("button", name="If it is not enough, something else in remedy 1").click()
        typed = page.get_by_label("More than so many are left, rule of remedy 1")
        typed.click()
        page.keyboard.press("Control+A")
        page.keyboard.type("10,5")
        page.keyboard.press("Tab")
        expect(typed).to_have_value("10.5")
        rounds = page.get_by_label("Rounds before the rule of remedy 1")
        rounds.fill("1")
        rounds.press("Tab")
        page.get_by_label("Name of step 2 of remedy 1").fill("neem")
        page.get_by_label("Recipe of step 2 of remedy 1").fill("5 ml neem, 2 ml soap per litre")
        page.get_by_role("button", name="live pests").click()
        page.get_by_role("group", name="Tallied beside it").get_by_text("Height").click()
        page.get_by_role("button", name="Let the lot draw").click()
        expect(page.get_by_role("heading", name="What stands where")).to_be_visible()
        rule = "neem instead after 1 round, if more than 10.5 are left"
        expect(page.get_by_text(f"Mild soap: {rule}")).to_be_visible()
        trial = server.get("/api/trials/1")
        plants = [p["name"] for p in trial["plants"]]
        days = [(begin + timedelta(days=day)).isoformat() for day in (0, 2, 5, 9)]
        paper = {
            "rounds": [{"number": 1, "on": days[0]}, {"number": 2, "on": days[2]}],
            "looks": [{"number": k, "on": day} for k, day in enumerate(days)],
            "counts": [
                {"plant": plant, "look": look, "measure": "live", "value": value + k % 3}
                for k, plant in enumerate(plants)
                for look, value in enumerate((40, 30, 20, 3))
            ],
        }
        send(server, "POST", "/api/trials/1/paper", paper)
        soap = next(r["id"] for r in trial["remedies"] if r["name"] == "Mild soap")
        given = [r["steps"] for r in server.get("/api/trials/1")["rounds"]]
        self.assertEqual(given, [{}, {str(soap): 1}])
        page.goto(f"{server.address}/trial/1/look/3")
        page.get_by_label("Height (cm)").fill("31,5")
        page.get_by_label("Height (cm)").press("Tab")
        expect(page.get_by_text("all kept")).to_be_visible()
        self.assert_accessible(page)
        page.goto(f"{server.address}/trial/1/verdict")
        expect(
            page.get_by_text("It held from round 2 on: 1 of 2 rounds gave neem.")
        ).to_be_visible()

    def ask(self, page: Page) -> None:
        """The question with each remedy's own days."""
        page.get_by_label("Name of the trial").fill("Whitefly programmes")
        choose(page, "Pest or disease", "Whiteflies")
        for name in ("Left alone", "Water jet", "Mild soap", "Cold-pressed neem", "Yellow"):
            page.locator("button.remedy").filter(has_text=name).first.click()
            settle(page)
        expect(page.locator(".rhythm")).to_have_count(4)  # all are there before one is changed
        for index, every in ((2, "3"), (3, "7")):
            page.locator(".rhythm").nth(index - 1).locator(".el-select").last.click()
            choose_from_open(page, "every so many days")
            days = page.get_by_label(f"Days between two times of remedy {index}")
            days.fill(every)
            days.press("Tab")
            expect(days).to_have_value(every)
        page.get_by_label("First spray").fill(START.isoformat())
        page.get_by_label("Spray on days").fill("0")
        looks = page.get_by_label("Count again on days")
        looks.fill("2, 6")
        looks.press("Tab")
        self.assert_accessible(page)
        page.get_by_role("button", name="Next: the plants").click()

    def bench(self, page: Page) -> None:
        """Fifteen plants with their match counts."""
        add_counted_plants(page, "T", 1, [20 + k % 4 for k in range(15)])

    def plan(self, page: Page) -> None:
        """The timetable stands in the plan, and the critic says what it compares."""
        page.get_by_role("link", name="Next: the layout").click()
        table = page.get_by_role("region", name="Timetable of remedies by days")
        expect(
            table.get_by_role("row").filter(has_text="Water jet").get_by_label("given")
        ).to_have_count(6)
        expect(
            table.get_by_role("row").filter(has_text="Mild soap").get_by_label("given")
        ).to_have_count(2)
        expect(page.get_by_text("Some remedies come more often than others")).to_be_visible()
        page.get_by_role("button", name="Draw at random").click()
        expect(page.get_by_role("heading", name="What stands where")).to_be_visible()

    def treat(self, page: Page, server: Server, number: int, day: int, plants: int) -> None:
        """One day's round, entered from paper: only what is due is asked for and walked to."""
        page.goto(f"{server.address}/trial/1/round/{number}")
        settle(page)  # what is still loading would move it from under the press
        page.get_by_text("It was done already").click()
        page.get_by_label("Done on").fill((START + timedelta(days=day)).isoformat())
        settle(page)
        # The key is sealed: what has a bottle and what has none is not told.
        expect(page.locator("div.bottle")).to_have_count(plants // 3)
        start_round(page)
        status = page.get_by_role("status").first
        expect(status).to_have_text(f"0 of {plants}")
        for k in range(plants):
            page.keyboard.press("Enter")
            expect(status).to_have_text(f"{k + 1} of {plants}")

    def count(self, page: Page, server: Server, look: int) -> None:
        """Count every plant by keys, on the day of the look."""
        settle(page)
        on_its_day = page.get_by_role("button", name="On its day")
        if on_its_day.count():
            on_its_day.click()
        expect(page.locator("output")).to_be_visible()
        trial = server.get("/api/trials/1")
        names = {r["id"]: r["name"] for r in trial["remedies"]}
        bottles = server.get("/api/trials/1/bottles?helper=true")
        soap = {b["letter"] for b in bottles if names[b["remedy_id"]] == "Mild soap"}
        letters = {p["name"]: p["letter"] for p in trial["plants"]}
        for _ in range(15):
            here = page.locator(".name > span").first.inner_text()
            number = 20 if look == 0 else 1 if letters[here] in soap else 18
            page.keyboard.type(str(number))
            expect(page.locator("output")).to_have_text(str(number))
            page.keyboard.press("Enter")
        expect(page.get_by_text("All 15 plants are counted")).to_be_visible()
        expect(page.get_by_text("✓ all kept")).to_be_visible()


if __name__ == "__main__":
    unittest.main()
