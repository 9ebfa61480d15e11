"""Is this card like that one, and the same stamp again, in the browser."""

from __future__ import annotations

from django.test import override_settings
from playwright.sync_api import expect

from paleta.devices import HandFault, photograph
from server.photo_check.models import PhotoCheck
from server.photo_check.services import simulated_photo
from tests.browser.base import BrowserTest
from tests.builders import as_file, line_drawing
from tests.server.builders import coloured, make_piece


@override_settings(LATER_AT_ONCE=True)
class PhotoCheckTest(BrowserTest):
    def setUp(self) -> None:
        super().setUp()
        self.piece = coloured(make_piece(self.ana, "Two things"))
        self.label = sorted(self.piece.sheet().regions.settings)[0]
        self.name = self.piece.sheet().regions.settings[self.label].name
        self.already_signed_in()

    def check(self) -> None:
        data = simulated_photo(self.piece, light="easy", faults=[HandFault("missing", (self.label,))], seed=2)
        self.page.goto(f"{self.live_server_url}/pieces/{self.piece.pk}/photo-check")
        self.page.get_by_label("Photo of a finished card").set_input_files(
            {"name": "card.jpg", "mimeType": "image/jpeg", "buffer": data}
        )
        expect(self.page.get_by_test_id("corners")).to_be_visible()

    def test_from_photo_to_report_by_mouse(self):
        self.check()
        self.page.get_by_role("button", name="Check the card").click()
        findings = self.page.get_by_role("list", name="Findings")
        expect(findings).to_be_visible()
        first = findings.get_by_role("button").filter(has_text=self.name).first
        first.click()
        expect(first).to_have_attribute("aria-expanded", "true")
        self.page.get_by_role("button", name="Seen and fine").click()
        expect(first).to_contain_text("Seen and fine.")
        self.page.reload()
        expect(self.page.get_by_role("list", name="Findings").get_by_text("Seen and fine.").first).to_be_visible()
        self.page.get_by_label("Show only how far each part is off").check()
        expect(self.page.get_by_alt_text("How far each part is off")).to_be_visible()

    def test_the_whole_way_by_keyboard(self):
        self.check()
        corner = self.page.get_by_role("button", name="Top left corner")
        before = corner.get_attribute("aria-label")
        corner.focus()
        for _ in range(4):
            self.page.keyboard.press("ArrowLeft")
        self.assertNotEqual(corner.get_attribute("aria-label"), before)
        self.page.get_by_role("button", name="Check the card").focus()
        self.page.keyboard.press("Enter")
        slider = self.page.get_by_role("slider", name="Photo on the left, the plan on the right")
        expect(slider).to_be_visible()
        slider.focus()
        self.page.keyboard.press("End")
        expect(slider).to_have_value("100")
        self.page.get_by_role("list", name="Findings").get_by_role("button").first.focus()
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_role("button", name="Seen and fine")).to_be_visible()
        self.assertEqual(PhotoCheck.objects.filter(owner=self.ana).count(), 1)

    def test_the_same_stamp_is_carried_over_and_another_refused(self):
        self.page.goto(f"{self.live_server_url}/pieces/{self.piece.pk}/photo-check")
        photo, _ = photograph(as_file(line_drawing()), seed=3)
        field = self.page.get_by_label("Scan or photo of another stamping")
        field.set_input_files({"name": "again.jpg", "mimeType": "image/jpeg", "buffer": photo})
        section = self.page.get_by_role("region", name="The same stamp again")
        expect(section.get_by_test_id("corners")).to_be_visible()
        section.get_by_role("button", name="Carry everything over").click()
        expect(section.get_by_role("link", name="Open the new piece")).to_be_visible()
        other = line_drawing()
        other[:] = 255
        other[40:44, 20:330] = other[200:204, 20:330] = 0
        other[40:204, 20:24] = other[40:204, 326:330] = 0
        field.set_input_files({"name": "other.png", "mimeType": "image/png", "buffer": as_file(other)})
        section.get_by_role("button", name="Carry everything over").click()
        expect(section.get_by_role("alert")).to_be_visible()
