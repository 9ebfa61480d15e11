"""Papers and lines as they behave: bristol, a raised golden line, and a paper of one's own."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from server.drawers.models import OwnPaper
from server.pieces.models import Piece
from tests.browser.base import BrowserTest
from tests.server.builders import make_piece


class MaterialsTest(BrowserTest):
    def colour_in(self, page: Page, medium: str) -> None:
        page.get_by_role("combobox", name="Medium").select_option(medium)
        self.click_picture(0.25, 0.37)
        page.get_by_role("radiogroup", name="Ramps from the drawer").get_by_role("radio").first.click()
        self.everything_is_kept()

    def rim(self) -> list[int]:
        """The middle of the ball's outline, as the picture shows it."""
        return self.page.evaluate(
            """() => { const c = document.querySelector('canvas[data-shown]'), g = c.getContext('2d');
            return [...g.getImageData(Math.round(30 / 360 * c.width), Math.round(110 / 300 * c.height), 1, 1).data]
              .slice(0, 3); }"""
        )

    def test_bristol_takes_brush_pens_and_light_washes_and_says_that_it_curls(self):
        for medium, said in (("soluble", "curls"), ("watercolour", "light washes")):
            with self.subTest(medium):
                page = self.open_piece(make_piece(self.ana, medium), "?section=colours")
                self.colour_in(page, medium)
                self.section("Stamp")
                page.get_by_role("combobox", name="Outline ink").select_option("waterproof")
                page.get_by_role("combobox", name="Paper", exact=True).select_option("bristol")
                self.everything_is_kept()
                expect(page.get_by_role("note").filter(has_text=said)).to_be_visible()
                expect(page.get_by_role("note").filter(has_text=re.compile("buckles|pills"))).to_have_count(0)

    def test_a_line_embossed_in_gold_is_shown_so_and_wiped_at_the_end(self):
        page = self.open_piece(make_piece(self.ana, "Beetle"), "?section=colours")
        self.colour_in(page, "soluble")
        self.section("Stamp")
        page.get_by_role("combobox", name="Outline ink").select_option("embossed")
        page.get_by_role("combobox", name="Embossed with").select_option("gold")
        self.everything_is_kept()
        expect(page.get_by_role("note").filter(has_text="No roller press")).to_be_visible()
        expect(page.get_by_role("button", name=re.compile("Heat-embossed line, gold powder"))).to_be_visible()
        self.picture_is_drawn(f"version={Piece.objects.get(title='Beetle').version}")
        red, green, blue = self.rim()
        self.assertGreater(red, green)
        self.assertGreater(green, blue + 40, "gold is a yellow")
        self.section("Finish")
        expect(page.get_by_text("Wipe the raised line").first).to_be_visible()
        self.reload()
        self.section("Stamp")
        expect(page.get_by_role("combobox", name="Embossed with")).to_have_value("gold")
        self.nothing_went_wrong_unseen()

    def test_a_line_in_an_ink_of_another_colour_by_the_keyboard_and_back(self):
        page = self.open_piece(make_piece(self.ana, "Jug"), "?section=stamp")
        page.get_by_role("button", name="Other colour than in the scan").press("Enter")
        self.everything_is_kept()
        colour = page.get_by_label("Colour of the ink")
        colour.fill("#7a4a22")
        colour.blur()
        self.everything_is_kept()
        self.assertLess(Piece.objects.get(title="Jug").sheet().stamp.line_lab[0], 45)
        page.get_by_role("button", name="As in the scan").press("Enter")
        self.everything_is_kept()
        expect(colour).to_have_count(0)
        self.assertIsNone(Piece.objects.get(title="Jug").sheet().stamp.line_lab)

    def test_a_paper_of_ones_own_says_how_it_takes_water_and_dries(self):
        page = self.open_piece(make_piece(self.ana, "Jug"), "?section=stamp")
        page.get_by_text("Papers of your own").click()
        page.get_by_label("Name", exact=True).fill("Thin pulp")
        page.get_by_role("combobox", name="Water").select_option("much")
        page.get_by_label("Drying, × usual").fill("0,5")
        page.get_by_label("lets water carry colour past the line").check()
        page.get_by_role("button", name="Keep this paper").click()
        line = page.get_by_role("list", name="Papers of your own").get_by_role("listitem")
        expect(line).to_contain_text("made for water, lets water carry colour past the line, dries in 0.5")
        self.everything_is_kept()
        kept = OwnPaper.objects.get()
        self.assertEqual((kept.water, kept.behaves, kept.dries), ("much", ["leaks"], 0.5))
        self.assertEqual(Piece.objects.get(title="Jug").sheet().stamp.paper_used.dries, 0.5)

    def test_a_ramp_is_wished_from_one_family(self):
        page = self.open_piece(make_piece(self.ana, "Jug"), "?section=colours")
        self.click_picture(0.25, 0.37)
        ramps = page.get_by_role("radiogroup", name="Ramps from the drawer").get_by_role("radio")
        expect(ramps.first).to_be_visible()
        with page.expect_response(re.compile("ramp-proposals")) as answer:
            page.get_by_role("combobox", name="From", exact=True).select_option("family")
        for ramp in answer.value.json():
            self.assertEqual(len({one["family"] for one in ramp["swatches"]}), 1)
        ramps.first.click()
        self.everything_is_kept()
        self.assertEqual(len({one.family for one in Piece.objects.get().sheet().colours.swatches.values()}), 1)
