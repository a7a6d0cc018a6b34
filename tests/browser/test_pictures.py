"""Notes, photos, the leaf camera and practice, as a gardener uses them on a phone."""

from __future__ import annotations

import io
import re
import tempfile
import zipfile
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.support import Server, phone, settle
from tests.browser.test_whole_job import BrowserCase
from tests.browser.walks import small_trial


class Pictures(BrowserCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.server = Server("--data", folder.name)
        self.addCleanup(self.server.stop)
        self.trial = small_trial(self.server, setup={"samples": 2, "beside": ["young", "dead"]})
        self.context = phone(self.browser)
        self.addCleanup(self.context.close)
        self.shown = self.context.new_page()

    def at(self, path: str) -> Page:
        """A page of the application."""
        self.shown.goto(f"{self.server.address}{path}")
        settle(self.shown)
        return self.shown

    def photo(self) -> Path:
        """A photo that tells where it was made."""
        told = Image.Exif()
        told.get_ifd(0x8825)[2] = (52.0, 30.0, 0.0)
        path = self.folder / "photo.jpg"
        Image.new("RGB", (2400, 1800), (70, 130, 60)).save(path, exif=told)
        return path

    def test_notes_and_photos_made_without_signal_are_kept_and_come_in_once(self) -> None:
        page = self.at(f"/trial/{self.trial['id']}/look/0")
        page.get_by_role("button", name="Note, photo").tap()
        page.get_by_role("button", name="Ants").tap()
        expect(page.get_by_text("Seen: ants")).to_be_visible()
        self.assert_accessible(page)
        self.context.set_offline(True)
        page.get_by_role("textbox", name="Note").fill("Tips curl")
        page.get_by_role("button", name="Keep the note").tap()
        page.get_by_role("textbox", name="Note").fill("With a photo")
        page.set_input_files("input[type=file]", self.photo())
        expect(page.get_by_text("kept here, not sent yet")).to_have_count(2)
        self.context.set_offline(False)
        expect(page.get_by_text("kept here, not sent yet")).to_have_count(0)
        page.reload()
        page.get_by_role("button", name="Note, photo").tap()
        expect(page.get_by_role("button", name="Ants", pressed=True)).to_be_visible()
        expect(page.get_by_text("Tips curl")).to_have_count(1)
        content = page.request.get(
            f"{self.server.address}/api/trials/{self.trial['id']}/bundle.zip"
        ).body()
        archive = zipfile.ZipFile(io.BytesIO(content))
        (name,) = [name for name in archive.namelist() if name.endswith(".jpg")]
        with Image.open(io.BytesIO(archive.read(name))) as image:
            self.assertEqual((image.size, dict(image.getexif())), ((1600, 1200), {}))

    def test_a_leaf_is_counted_by_marks_on_the_lens_s_picture(self) -> None:
        page = self.at(f"/trial/{self.trial['id']}/look/0")
        page.get_by_role("button", name="Note, photo").tap()
        page.get_by_role("button", name="Leaf camera").tap()
        page.get_by_role("button", name="Propose marks").tap()
        expect(page.get_by_text(re.compile(r"\d+ marks? proposed"))).to_be_visible()
        self.assert_accessible(page)
        use = page.locator(".use")
        before = int(re.findall(r"\d+", use.inner_text())[0])
        page.get_by_role("button", name=re.compile("^live")).tap()
        page.locator("svg.taps").tap(position={"x": 4, "y": 4})
        expect(use).to_have_text(f"Count {before + 1} live")
        use.tap()
        expect(page.get_by_role("button", name=f"Keep {before + 1}")).to_be_visible()

    def test_practice_tells_the_truth_after_the_count_and_how_one_counts(self) -> None:
        page = self.at("/practice?pest=thrips")
        page.get_by_role("button", name="Begin with the first leaf").tap()
        for number in range(1, 7):
            page.get_by_role("button", name="Five more").tap()
            page.get_by_role("button", name="One more: young").tap()
            page.get_by_role("button", name="Keep 6").tap()
            expect(page.get_by_role("row", name="Truth")).to_be_visible()
            last = "How did I count?" if number == 6 else f"Leaf {number + 1}"
            page.get_by_role("button", name=last).tap()
        expect(page.get_by_text(re.compile("Of 100 live ones"))).to_be_visible()
        self.assert_accessible(page)
        page.reload()  # what was counted stands
        expect(page.get_by_role("row")).to_have_count(7)
        self.assertEqual(page.evaluate("document.documentElement.scrollWidth"), 390)
