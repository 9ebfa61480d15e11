"""The ground behind a figure on the bench: taken, faded, laid and parted by mouse and by keys; coats, accents, a paper of
one's own."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from server.pieces.models import Piece
from tests.browser.base import BrowserTest
from tests.server.builders import coloured, make_piece


class GroundTest(BrowserTest):
    def setUp(self):
        super().setUp()
        self.piece = coloured(make_piece(self.ana))

    def settings(self):
        return Piece.objects.get(pk=self.piece.pk).sheet().regions.settings

    def grounds(self):
        return [one for one in self.settings().values() if one.fade is not None]

    def kept(self, words: str) -> None:
        """Wait until the server has kept the step: undo names it."""
        expect(self.page.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile(words))

    def take(self):
        page = self.open_piece(self.piece, "?section=regions")
        page.get_by_role("button", name="Colour it too").click()
        expect(page.get_by_role("combobox", name="Fades")).to_be_visible()
        return page

    def test_a_sky_by_mouse_from_the_paper_to_the_plan(self):
        page = self.take()
        page.get_by_role("combobox", name="Side").select_option("the bottom")
        self.kept("fades from the bottom")
        page.get_by_role("button", name="Lay it", exact=True).click()
        self.kept("Ink pad in small circles on Background")
        self.assertEqual(self.grounds()[0].coats[0].medium, "inkpad")
        page.locator('button[aria-controls="part-order"]').click()
        page.get_by_label("Mask the figure for the background").check()
        plan = page.locator("#part-order")
        expect(plan.get_by_text("Wipe the mask").first).to_be_visible()
        expect(plan.get_by_text("Lay the mask").first).to_be_visible()
        expect(plan.get_by_role("group", name=re.compile("for blended ink pad"))).to_be_visible()
        page.reload()
        self.picture_is_drawn()
        expect(page.get_by_text(re.compile("Alcohol marker, Blended ink pad"))).to_be_visible()

    def test_a_horizon_is_moved_by_keys_and_a_ring_of_light_by_the_arrows(self):
        page = self.take()
        page.get_by_role("button", name="Draw a horizon").press("Enter")
        handle = page.get_by_role("button", name=re.compile("^Horizon, handle 2"))
        handle.focus()
        before = Piece.objects.get(pk=self.piece.pk).sheet().regions.edits[-1]["handles"][1][1]
        handle.press("Shift+ArrowUp")
        self.kept("Moved the horizon")
        after = Piece.objects.get(pk=self.piece.pk).sheet().regions.edits[-1]["handles"][1][1]
        self.assertLess(after, before - 3)
        self.assertEqual(len(self.grounds()), 2)
        page.get_by_role("combobox", name="Fades").select_option("Round a point")
        point = page.get_by_role("button", name=re.compile("fades round a point"))
        point.focus()
        place = self.grounds()[0].fade.x_mm
        point.press("Shift+ArrowRight")
        self.kept("round a point")
        expect(point).to_have_attribute("aria-label", re.compile(f"point {round(place + 5)} mm"))
        self.passes_axe("ground")

    def test_bands_that_do_not_fit_are_refused_in_a_sentence_and_those_that_do_are_taped(self):
        page = self.take()
        page.get_by_text("Bands by tape").click()
        page.get_by_label("Widths in mm").fill("90, 90")
        page.get_by_role("button", name="Cut into bands").click()
        expect(page.get_by_text(re.compile("the ground has only"))).to_be_visible()
        page.get_by_label("Widths in mm").fill("6 6 8")
        page.get_by_role("button", name="Cut into bands").click()
        self.kept("3 bands")
        self.assertEqual([one.name for one in self.grounds()], ["Band 1", "Band 2", "Band 3"])
        page.locator('button[aria-controls="part-order"]').click()
        expect(page.get_by_label("Tape along the lines between the grounds")).to_be_checked()

    def test_pencil_goes_over_marker_and_white_along_the_rims(self):
        page = self.open_piece(self.piece, "?section=colours")
        page.get_by_label("Medium").select_option("Coloured pencil")
        page.get_by_role("button", name="Go over everything in coloured pencil").click()
        self.kept("over what is there")
        self.assertEqual([[coat.medium for coat in one.coats] for one in self.settings().values()],
                         [["marker", "pencil"]] * 3)  # fmt: skip
        self.click_picture(0.25, 0.37)
        page.get_by_text("Accents over the colours").click()
        add = page.get_by_role("button", name="Add: Light rims")
        expect(add).to_be_enabled()  # once the drawer's swatches are here
        add.press("Enter")
        self.kept("light rims")
        (accent,) = self.settings()[1].accents
        self.assertEqual((accent.kind, accent.medium), ("rim", "pencil"))
        page.get_by_role("button", name="Take the alcohol marker off").click()
        self.kept("no colours")
        self.assertEqual([coat.medium for coat in self.settings()[1].coats], ["pencil"])

    def test_a_paper_of_ones_own_is_kept_and_used(self):
        page = self.open_piece(self.piece, "?section=stamp")
        page.get_by_text("Papers of your own").click()
        page.get_by_label("Name", exact=True).fill("Blotting paper")
        reader = page.get_by_role("group", name="Colour reader (simulated)")
        reader.get_by_role("button", name="Read this sheet").click()
        expect(page.get_by_text(re.compile("on its white tile first"))).to_be_visible()
        reader.get_by_role("button", name="White tile").click()
        expect(page.get_by_text("The tile was seen")).to_be_visible()
        reader.get_by_role("button", name="Read this sheet").click()
        expect(page.get_by_text(re.compile("off the scan by"))).to_be_visible()
        expect(page.get_by_label("L*")).not_to_have_value("95")
        page.get_by_label("L*").fill("88")
        page.get_by_role("button", name="Keep this paper").click()
        self.kept("On blotting paper")
        expect(page.get_by_role("combobox", name="Paper").locator("option:checked")).to_have_text("Blotting paper")
        page.get_by_label("Name", exact=True).fill("Nonsense")
        page.get_by_label("L*").fill("188")
        page.get_by_role("button", name="Keep this paper").click()
        expect(page.get_by_role("alert")).to_contain_text("L*")
