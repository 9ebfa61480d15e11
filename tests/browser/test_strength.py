"""One ink from a shade side to nothing: in soluble pen, in watercolour, from a pad."""

from __future__ import annotations

import re
from itertools import pairwise

from playwright.sync_api import expect

from server.pieces.models import Piece
from tests.browser.base import BrowserTest
from tests.server.builders import make_piece


class DrawnOutTest(BrowserTest):
    def greys_across_the_ball(self) -> list[int]:
        """The darkest channel of pixels from the ball's shade side to its light, as the picture shows them."""
        return self.page.evaluate(
            """() => { const c = document.querySelector('canvas[data-shown]'), g = c.getContext('2d');
            return [...Array(25).keys()].map((k) => {
              const t = (k - 12) / 12 * 0.62, x = (90 - 60 * t) / 360, y = (110 - 60 * t) / 300;
              return Math.min(...g.getImageData(Math.round(x * c.width), Math.round(y * c.height), 1, 1).data.slice(0, 3));
            }); }"""
        )

    def test_one_ink_is_drawn_out_to_bare_paper_in_every_medium_that_takes_water(self):
        for medium in ("soluble", "watercolour", "inkpad"):
            with self.subTest(medium):
                page = self.open_piece(make_piece(self.ana, medium), "?section=colours")
                page.get_by_role("combobox", name="Medium").select_option(medium)
                self.click_picture(0.25, 0.37)
                page.get_by_role("button", name="4", exact=True).click()
                last = page.get_by_role("radiogroup", name="Ramps from the drawer").get_by_role("radio").last
                expect(last).to_have_accessible_name(re.compile("to bare paper"))
                last.click()
                self.everything_is_kept()
                expect(page.get_by_role("button", name=re.compile("^Draw .* out to bare paper"))).to_be_visible()
                expect(page.get_by_title("bare paper").first).to_be_visible()
                version = Piece.objects.get(title=medium).version
                self.picture_is_drawn(f"version={version}")
                greys = self.greys_across_the_ball()
                self.assertGreater(max(greys), 235, greys)  # the light is the paper
                self.assertLess(min(greys), 150, greys)
                self.assertLess(max(abs(one - other) for one, other in pairwise(greys)), 75, greys)  # and no step shows

    def test_a_strength_is_typed_and_a_pen_drawn_out_by_the_keyboard(self):
        page = self.open_piece(make_piece(self.ana), "?section=colours")
        page.get_by_role("combobox", name="Medium").select_option("soluble")
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
