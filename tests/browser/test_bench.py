"""The bench in detail: what each part of the sheet does to the picture and to the plan."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from server.pieces.models import Piece
from tests.browser.base import BrowserTest
from tests.server.builders import coloured, make_piece


class StampTest(BrowserTest):
    def test_lengths_are_shown_in_inches_as_fractions_or_in_centimetres(self):
        page = self.open_piece(make_piece(self.ana), "?section=stamp")
        expect(page.get_by_text("Scanned 2⅜ in by 2 in, 150 dpi.")).to_be_visible()
        page.get_by_role("button", name="Show in centimetres").click()
        expect(page.get_by_text("Scanned 6.1 cm by 5.1 cm, 150 dpi.")).to_be_visible()
        self.reload()
        expect(page.get_by_text("6.1 cm by 5.1 cm")).to_be_visible()

    def test_a_wrong_ink_or_paper_is_pointed_out_and_can_be_kept(self):
        page = self.open_piece(make_piece(self.ana), "?section=stamp")
        page.get_by_label("Outline ink").select_option("waterproof")
        expect(page.get_by_role("note")).to_contain_text("dragged grey by alcohol marker")
        page.get_by_role("combobox", name="Paper").select_option("kraft")
        expect(page.get_by_role("note")).to_have_count(2)
        page.get_by_label("Outline ink").select_option("dye")
        page.get_by_role("combobox", name="Paper").select_option("smooth-white")
        expect(page.get_by_role("note")).to_have_count(0)

    def test_a_title_is_kept_on_enter_and_taken_back_on_escape(self):
        page = self.open_piece(make_piece(self.ana), "?section=stamp")
        title = page.get_by_label("Title")
        title.fill("Ball in a box")
        title.press("Enter")
        expect(page.get_by_role("heading", name="Ball in a box")).to_be_visible()
        title.fill("Something else")
        title.press("Escape")
        expect(title).to_have_value("Ball in a box")
        title.fill("  ")
        title.press("Enter")
        expect(page.get_by_role("heading", name="Ball in a box")).to_be_visible()


class FormTest(BrowserTest):
    def pixel(self, x: float, y: float) -> list[int]:
        return self.page.evaluate(
            """([x, y]) => { const c = document.querySelector('canvas[data-shown]');
            return [...c.getContext('2d').getImageData(Math.round(x * c.width), Math.round(y * c.height), 1, 1).data]; }""",
            [x, y],
        )

    def test_another_form_changes_the_shading_of_that_region(self):
        page = self.open_piece(make_piece(self.ana), "?section=regions&view=values")
        before = self.pixel(0.12, 0.3)
        self.click_picture(0.25, 0.37)
        page.get_by_role("button", name="Hollow").click()
        self.picture_is_drawn("version=2")
        self.assertLess(self.pixel(0.12, 0.3)[0], before[0] - 15)  # the lamp's side of a hollow lies in shade
        page.get_by_role("button", name="Flat").click()
        self.picture_is_drawn("version=3")

    def test_two_regions_become_one_body_and_share_their_form(self):
        page = self.open_piece(make_piece(self.ana), "?section=regions")
        self.click_picture(0.7, 0.35)
        self.click_picture(0.7, 0.65, modifiers=["Shift"])
        page.get_by_role("button", name="Make one body").click()
        expect(page.get_by_role("button", name=re.compile("Region . dome · body"))).to_have_count(2)
        page.get_by_role("button", name="Let go").click()
        self.click_picture(0.7, 0.35)
        page.get_by_role("button", name="Tube", exact=True).click()
        expect(page.get_by_role("button", name=re.compile("Region . tube · body"))).to_have_count(2)
        page.get_by_role("button", name="Take its whole body").click()
        page.get_by_role("button", name="Take out of the body").click()
        expect(page.get_by_role("button", name=re.compile("· body"))).to_have_count(0)

    def test_cast_shadows_can_be_turned_off_and_on(self):
        page = self.open_piece(make_piece(self.ana), "?section=light")
        box = page.get_by_label("Nearer things cast shadows")
        expect(box).to_be_checked()
        box.click()
        self.picture_is_drawn("version=2")
        expect(box).not_to_be_checked()
        page.get_by_role("button", name="Undo").click()
        expect(box).to_be_checked()


class ColourTest(BrowserTest):
    def test_another_medium_leaves_what_is_coloured_and_is_taken_for_what_comes_next(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=colours")
        page.get_by_label("Medium").select_option("pencil")
        self.click_picture(0.25, 0.37)
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text("Alcohol marker;")
        page.get_by_label("Over what is there").uncheck()
        page.get_by_role("radiogroup", name="Ramps from the drawer").get_by_role("radio").first.click()
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text("Alcohol marker, Coloured pencil;")
        expect(page.get_by_role("button", name="5 Order")).to_contain_text("Light first, deepen in layers")

    def test_the_number_of_shades_and_the_lean_of_the_shade_change_the_proposals(self):
        page = self.open_piece(make_piece(self.ana), "?section=colours")
        self.click_picture(0.25, 0.37)
        page.get_by_label("Wished colour").fill("#d9618a")
        ramps = page.get_by_role("radiogroup", name="Ramps from the drawer").get_by_role("radio")
        for count in (1, 2, 4):
            page.get_by_role("button", name=str(count), exact=True).click()
            expect(ramps.first).to_have_accessible_name(re.compile(rf"^[^:,]+(, [^:,]+){{{count - 1}}}:"))
        first = ramps.first.get_attribute("aria-label")
        page.locator("#part-colours").get_by_role("combobox", name="Shade").select_option("cooler")
        expect(ramps.first).not_to_have_accessible_name(first or "")

    def test_several_regions_take_the_same_ramp_at_once_and_it_comes_off_again(self):
        page = self.open_piece(make_piece(self.ana), "?section=colours")
        self.click_picture(0.7, 0.35)
        self.click_picture(0.7, 0.65, modifiers=["Shift"])
        page.get_by_role("radiogroup", name="Ramps from the drawer").get_by_role("radio").first.click()
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text("3 swatches, 1 regions open")
        page.get_by_role("button", name="Take the colours off").click()
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text("no colours chosen yet")

    def test_only_the_schools_of_the_medium_are_offered(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=order")
        radios = page.locator("#part-order").get_by_role("radio")
        expect(radios).to_have_count(6)
        expect(page.get_by_label("Pale wash, drop the dark in")).to_have_count(0)


class RibbonTest(BrowserTest):
    def test_a_chip_takes_its_region_in_hand_and_says_its_pass(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=regions")
        chips = page.get_by_role("listbox", name="Passes in order").get_by_role("option")
        chips.nth(1).click()
        expect(page.get_by_text(re.compile(r"^Pass 2 of \d+:"))).to_be_visible()
        expect(page.get_by_role("textbox", name="Name")).to_be_visible()
        page.keyboard.press("ArrowRight")
        expect(page.get_by_text(re.compile(r"^Pass 2 of|^Pass 3 of"))).to_be_visible()

    def test_notes_on_finish_and_card_are_kept_and_printed(self):
        piece = coloured(make_piece(self.ana))
        page = self.open_piece(piece, "?section=finish")
        page.get_by_label("Finishing touches").fill("White pen on the rim")
        self.section("Card")
        page.get_by_label("Notes on the card").fill("4 x 5 1/4 panel")
        page.get_by_label("Notes on the card").blur()
        expect(page.get_by_role("button", name="7 Card")).to_contain_text("4 x 5 1/4 panel")
        page.goto(f"{self.live_server_url}/pieces/{piece.pk}/print")
        expect(page.get_by_text("White pen on the rim")).to_be_visible()
        expect(page.get_by_text("4 x 5 1/4 panel")).to_be_visible()
        expect(page.get_by_text("Working copy, not kept as a version yet")).to_be_visible()
        page.get_by_role("link", name="In full, pass by pass").click()
        expect(page.get_by_text("4 x 5 1/4 panel")).to_be_visible()
        expect(page.get_by_role("row")).to_have_count(4)


class QuickHandTest(BrowserTest):
    """Changes faster than the server answers: none undoes another."""

    def slow_down(self) -> None:
        self.page.route(
            "**/api/v1/pieces/*/finish/", lambda route: (self.page.wait_for_timeout(400), route.continue_())
        )

    def test_five_finishing_touches_ticked_at_once_are_all_kept(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=finish")
        self.slow_down()
        boxes = page.get_by_role("group", name="After the last pass").get_by_role("checkbox")
        for place in range(5):
            boxes.nth(place).check()
        for place in range(5):
            expect(boxes.nth(place)).to_be_checked()
        self.everything_is_kept()
        self.assertEqual(len(Piece.objects.get().sheet().finish.touches), 5)
        self.reload()
        for place in range(5):
            expect(boxes.nth(place)).to_be_checked()

    def test_an_arrow_that_is_pressed_thirty_times_is_one_step(self):
        piece = coloured(make_piece(self.ana))
        page = self.open_piece(piece, "?section=light")
        ambient = page.get_by_label("Ambient")
        before = int(ambient.input_value())
        ambient.focus()
        for _ in range(30):
            page.keyboard.press("ArrowRight")
        expect(page.get_by_role("button", name="Undo")).to_have_attribute("title", re.compile("Lamp"))
        self.everything_is_kept()
        expect(ambient).to_have_value(str(before + 30))
        self.assertEqual(Piece.objects.get().version, piece.version + 1)

    def test_direction_and_height_of_the_lamp_changed_one_after_the_other_are_both_kept(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=light")
        page.get_by_label(re.compile("^Direction")).fill("90")
        page.get_by_label(re.compile("^Height")).fill("20")
        page.get_by_label("Ambient").focus()
        self.everything_is_kept()
        lamp = Piece.objects.get().sheet().light.lamp
        self.assertEqual((lamp.azimuth_deg, lamp.elevation_deg), (90, 20))
