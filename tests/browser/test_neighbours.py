"""A trial saved in one garden and taken in by another, by two programs and a file."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path
from urllib.request import urlopen

from playwright.sync_api import expect

from tests.browser.support import demo_server, settle
from tests.browser.test_whole_job import BrowserCase

READ_ALREADY = 5  # the trial of the demo whose verdict is on record


class FromGardenToGarden(BrowserCase):
    def test_saved_without_names_looked_at_taken_in_and_taken_off(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        demo = self.enterContext(demo_server())
        own = self.serve("--data", str(folder / "own"))
        page = self.page()
        page.goto(f"{demo.address}/trial/{READ_ALREADY}/verdict")
        settle(page)
        with page.expect_download() as saved:
            page.get_by_role("link", name="To share: without names").click()
        file = folder / "shared.zip"
        saved.value.save_as(file)

        page.goto(f"{own.address}/known")
        settle(page)
        page.get_by_label("Look at a file").set_input_files(file)
        expect(page.get_by_role("heading", name="Aphids on lupins")).to_be_visible()
        self.assert_accessible(page)
        page.get_by_role("button", name="Take it in").click()
        expect(page.get_by_text("Say whose trial it is")).to_be_visible()
        page.get_by_label("Whose garden is it?").fill("Quillon Yard")
        page.get_by_role("button", name="Take it in").click()
        expect(page.get_by_text("Taken in from Quillon Yard.")).to_be_visible()
        page.goto(f"{own.address}/known/aphids")
        settle(page)
        expect(page.get_by_text("Quillon Yard: Aphids on lupins").first).to_be_visible()
        self.assert_accessible(page)
        page.get_by_role("button", name="Take off Aphids on lupins").click()
        expect(page.get_by_text("Quillon Yard: Aphids on lupins")).to_have_count(0)

        page.goto(f"{demo.address}/known")
        page.get_by_label("Look at a file").set_input_files(file)
        expect(page.get_by_text("This is your own trial")).to_be_visible()
        broken = folder / "broken.zip"
        broken.write_bytes(file.read_bytes()[:300])
        page.get_by_label("Look at a file").set_input_files(broken)
        expect(page.get_by_text("no whole ZIP file")).to_be_visible()

    def test_a_garden_and_a_trial_come_in_whole_beside_what_is_there(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        demo = self.enterContext(demo_server())
        own = self.serve("--data", str(folder / "own"))
        page = self.page()
        page.goto(f"{demo.address}/yard")
        with page.expect_download() as saved:
            page.get_by_role("link", name="Save the whole garden as one file").click()
        garden, trial = folder / "garden.zip", folder / "trial.zip"
        saved.value.save_as(garden)
        trial.write_bytes(
            urlopen(f"{demo.address}/api/trials/{READ_ALREADY}/bundle.zip", timeout=30).read()
        )
        for file, called in ((garden, "Lupins, last year"), (trial, "Lupins, last year (brought")):
            page.goto(f"{own.address}/yard")
            settle(page)
            page.get_by_label("Look at a file of a garden or a trial").set_input_files(file)
            expect(page.get_by_text(called)).to_be_visible()
            self.assert_accessible(page)
            page.get_by_role("button", name="Bring it in").click()
            expect(page.get_by_text("came in.")).to_be_visible()
        page.get_by_role("link", name="Go to Today").click()
        expect(page.get_by_text("Strawberries in the gutters").first).to_be_visible()
        wanted = demo.get(f"/api/trials/{READ_ALREADY}/verdict")["verdict"]
        came = [t for t in own.get("/api/today")["trials"] if t["name"].startswith("Lupins, last")]
        self.assertEqual(len(came), 2)
        for one in came:
            self.assertEqual(own.get(f"/api/trials/{one['id']}/verdict")["verdict"], wanted)


if __name__ == "__main__":
    unittest.main()
