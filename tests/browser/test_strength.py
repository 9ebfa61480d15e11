"""One ink from a shade side to nothing: in soluble pen, in watercolour, from a pad."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.server.builders import make_piece


class DrawnOutTest(BrowserTest):
    def pixel(self, x: float, y: float) -> list[int]:
        return self.page.evaluate(
            """([x, y]) => { const c = document.querySelector('canvas[data-shown]');
            return [...c.getContext('2d').getImageData(Math.round(x * c.width), Math.round(y * c.height), 1, 1).data]; }""",
            [x, y],
        )

    def test_one_ink_is_drawn_out_to_bare_paper_in_every_medium_that_takes_water(self):
        piece = make_piece(self.ana)
        page = self.open_piece(piece, "?section=colours")
        self.click_picture(0.25, 0.37)
        version = 1
        for medium in ("soluble", "watercolour", "inkpad"):
            with self.subTest(medium):
                page.get_by_label("Medium", exact=True).select_option(medium)
                page.get_by_role("button", name="4", exact=True).click()
                ramps = page.get_by_role("radiogroup", name="Ramps from the drawer")
                last = ramps.get_by_role("radio", name=re.compile("to bare paper"))
                expect(last).to_be_enabled()
                version = int(page.locator("canvas[data-shown]").get_attribute("data-shown").split("version=")[1])
                last.click()
                self.everything_is_kept()
                self.picture_is_drawn(f"version={version + 1}")
                expect(page.get_by_role("button", name=re.compile("^Draw .* out to bare paper"))).to_be_visible()
                expect(page.get_by_title("bare paper").first).to_be_visible()
                light, deep = self.pixel(0.29, 0.28), self.pixel(0.15, 0.5)
                self.assertGreater(min(light[:3]), 225, light)  # the lamp's side is the paper
                self.assertLess(min(deep[:3]), min(light[:3]) - 40)

    def test_a_strength_is_typed_and_a_pen_drawn_out_by_the_keyboard(self):
        page = self.open_piece(make_piece(self.ana), "?section=colours")
        page.get_by_label("Medium", exact=True).select_option("soluble")
        self.click_picture(0.25, 0.37)
        page.get_by_role("radiogroup", name="Ramps from the drawer").get_by_role("radio").first.click()
        self.everything_is_kept()
        field = page.get_by_role("spinbutton", name=re.compile("^Strength of")).first
        field.fill("33")
        field.press("Enter")
        self.everything_is_kept()
        expect(page.get_by_role("spinbutton", name=re.compile("^Strength of")).first).to_have_value("33")
        expect(page.get_by_text("Changed by hand")).to_be_visible()
        field = page.get_by_role("spinbutton", name=re.compile("^Strength of")).first
        field.fill("2")
        field.press("Enter")
        expect(field).to_have_value("33")  # less than any strength that shows
        page.get_by_role("button", name=re.compile("^Draw .* out to bare paper")).press("Enter")
        self.everything_is_kept()
        expect(page.get_by_text(re.compile("^one pen drawn out with a damp brush to bare paper")).last).to_be_visible()
        self.reload()
        self.section("Colours")
        expect(page.get_by_title("bare paper").first).to_be_visible()
        self.nothing_went_wrong_unseen()
