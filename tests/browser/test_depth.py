"""Photos, corners, bases, borders, lassos and the light check, as a user does them."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from demo.lineart import DRAWINGS
from demo.scanner import Faults, scan
from paleta.devices import photograph
from tests.browser.base import BrowserTest
from tests.server.builders import coloured, make_piece


class PhotoTest(BrowserTest):
    def choose_photo(self) -> None:
        data, _ = photograph(scan(DRAWINGS["succulents"](), dpi=200, faults=Faults(turn_deg=0))[0], seed=2)
        self.sign_in()
        self.page.get_by_role("button", name="stamped image").first.click()
        self.page.get_by_label("Scan or photo").set_input_files(
            [{"name": "shelf.jpg", "mimeType": "image/jpeg", "buffer": data}]
        )
        expect(self.page.get_by_test_id("corners")).to_be_visible()

    def test_a_photos_sheet_is_found_and_accepted_with_enter(self):
        self.choose_photo()
        page = self.page
        expect(page.get_by_text("What lies between the corners is laid flat")).to_be_visible()
        width = page.get_by_label("Width of the sheet between the corners")
        width.fill("5 1/2")
        width.press("Enter")
        expect(page.get_by_role("heading", name="shelf")).to_be_visible()
        self.section("Stamp")
        expect(page.get_by_text(re.compile("Scanned 5½ in by"))).to_be_visible()

    def test_corners_dragged_into_a_bow_tie_are_refused_and_moved_back_by_keys(self):
        self.choose_photo()
        page = self.page
        page.get_by_label("Width of the sheet between the corners").fill("5 1/2")
        frame = page.get_by_test_id("corners").bounding_box()
        corner = page.get_by_role("button", name="Top left corner")
        box = corner.bounding_box()
        page.mouse.move(box["x"] + 14, box["y"] + 14)
        page.mouse.down()
        page.mouse.move(frame["x"] + frame["width"] * 0.97, frame["y"] + frame["height"] * 0.6, steps=5)
        page.mouse.up()
        page.get_by_role("button", name="Find the regions").click()
        expect(page.get_by_role("alert")).to_contain_text("cross or fold in")
        corner.focus()
        for _ in range(31):
            page.keyboard.press("Shift+ArrowLeft")
        for _ in range(16):
            page.keyboard.press("Shift+ArrowUp")
        page.get_by_role("button", name="Find the regions").click()
        expect(page.get_by_role("heading", name="shelf")).to_be_visible()

    def test_line_art_comes_in_with_its_width_typed_as_a_fraction(self):
        page = self.sign_in()
        art = (
            b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 80 40" fill="none" stroke="#000">'
            b'<circle cx="20" cy="20" r="14"/><rect x="45" y="6" width="28" height="28" transform="rotate(10 59 20)"/>'
            b"</svg>"
        )
        page.get_by_role("button", name="stamped image").first.click()
        file = {"name": "two-things.svg", "mimeType": "image/svg+xml", "buffer": art}
        page.get_by_label("Scan or photo").set_input_files([file])
        expect(page.get_by_text("The whole picture is used.")).to_be_visible()
        page.get_by_role("button", name="Find the regions").click()
        expect(page.get_by_role("alert")).to_contain_text("Give the width it has on paper")
        page.get_by_label("Width of the picture on paper").fill("2½")
        page.get_by_role("button", name="Find the regions").click()
        rows = page.locator("#part-regions").get_by_role("list", name="Regions").get_by_role("listitem")
        expect(rows).to_have_count(2)
        page.get_by_role("button", name="1 Stamp").click()
        expect(page.get_by_text("Scanned 2½ in by 1¼ in, 300 dpi.")).to_be_visible()

    def test_without_a_width_it_asks_for_one(self):
        self.choose_photo()
        self.page.get_by_role("button", name="Find the regions").click()
        expect(self.page.get_by_role("alert")).to_contain_text("Give the width of the sheet")


class BodyTest(BrowserTest):
    def test_a_base_is_set_dragged_and_moved_by_keys(self):
        page = self.open_piece(make_piece(self.ana), "?section=light")
        self.click_picture(0.25, 0.37)
        page.get_by_role("button", name="Set a base").click()
        handle = page.get_by_role("button", name=re.compile("^Base of Region 1"))
        expect(handle).to_be_visible()
        before = handle.get_attribute("aria-label")
        box, card = handle.bounding_box(), page.get_by_test_id("card").bounding_box()
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.mouse.down()
        page.mouse.move(card["x"] + card["width"] * 0.25, card["y"] + card["height"] * 0.2, steps=5)
        page.mouse.up()
        self.picture_is_drawn("version=3")
        self.assertNotEqual(handle.get_attribute("aria-label"), before)
        handle.focus()
        page.keyboard.press("ArrowDown")
        self.picture_is_drawn("version=4")
        page.get_by_role("button", name="Undo").click()
        page.get_by_role("button", name="Take the base off").click()
        expect(handle).to_have_count(0)

    def test_a_border_is_turned_round_by_a_click_and_in_the_list(self):
        page = self.open_piece(make_piece(self.ana), "?section=light")
        page.get_by_role("button", name="Say on the picture what stands in front").click()
        self.click_picture(0.72, 0.5)  # the line between dome and box
        expect(page.get_by_role("button", name="Undo")).to_be_enabled()
        page.get_by_role("button", name="Stop").click()
        self.click_picture(0.7, 0.35)
        page.get_by_text("What stands before what").click()
        put = page.get_by_role("button", name=re.compile("^Put Region . (before|behind) Region"))
        first = put.get_attribute("aria-label")
        put.click()
        expect(put).not_to_have_accessible_name(first)
        self.section("Stamp")
        page.get_by_text("Stamping and masking order").click()
        expect(page.get_by_text(re.compile("^Stamp first: Region"))).to_be_visible()

    def test_a_lasso_takes_many_in_hand_and_they_are_tagged_at_once(self):
        page = self.open_piece(make_piece(self.ana), "?section=regions")
        page.get_by_role("button", name="Take many with a lasso").click()
        card = page.get_by_test_id("card").bounding_box()
        corners = ((0.5, 0.1), (0.98, 0.1), (0.98, 0.95), (0.5, 0.95))
        page.mouse.move(card["x"] + corners[0][0] * card["width"], card["y"] + corners[0][1] * card["height"])
        page.mouse.down()
        for x, y in corners[1:]:
            page.mouse.move(card["x"] + x * card["width"], card["y"] + y * card["height"], steps=4)
        page.mouse.up()
        expect(page.get_by_text("2 regions in hand", exact=True)).to_be_visible()
        page.get_by_label("Tags").fill("wood")
        page.get_by_label("Tags").press("Enter")
        expect(page.get_by_role("button", name="Take off the tag wood")).to_be_visible()
        page.get_by_role("button", name="Let go").click()
        page.get_by_role("button", name="Take all wood").click()
        page.get_by_role("button", name="Mark as background").click()
        expect(page.get_by_role("button", name=re.compile("Region . .*background"))).to_have_count(2)

    def test_a_speck_is_erased_and_undone(self):
        page = self.open_piece(make_piece(self.ana), "?section=regions")
        rows = page.locator("#part-regions").get_by_role("list", name="Regions").get_by_role("listitem")
        self.click_picture(0.7, 0.65)
        page.get_by_role("button", name="Erase as a speck").click()
        expect(rows).to_have_count(2)
        page.get_by_role("button", name="Undo").click()
        expect(rows).to_have_count(3)


class LightTest(BrowserTest):
    def test_the_light_check_names_what_was_swapped_and_puts_it_right(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=light")
        self.click_picture(0.25, 0.37)
        page.get_by_role("button", name="Swap light and shade").click()
        page.get_by_role("button", name="Is my light right?").click()
        doubts = page.get_by_role("list", name="Lit against the lamp").get_by_role("listitem")
        expect(doubts).to_contain_text("lit from 4:30, but the lamp stands at 10:30")
        page.get_by_role("button", name="Take back the turn").click()
        expect(page.get_by_text(re.compile("Yes: all 3 things are lit"))).to_be_visible()

    def test_a_glow_is_added_tinted_and_keeps_paper_bare(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=light")
        page.get_by_role("button", name="Add a glow").click()
        glow = page.get_by_role("group", name="Glow 1")
        glow.get_by_label("Tint").select_option("#ffd27a")
        bare = glow.get_by_role("slider", name="Paper left bare")
        bare.fill("4")
        bare.blur()
        expect(page.get_by_role("button", name="3 Light")).to_contain_text("1 glow")
        self.reload()
        expect(page.get_by_role("slider", name="Paper left bare")).to_have_value("4")
        expect(page.get_by_label("Tint")).to_have_value("#ffd27a")
        self.section("Order")
        expect(page.get_by_text(re.compile("Before the first pass.*4 mm round glow 1"))).to_be_visible()

    def test_every_new_part_is_accessible(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=light")
        self.click_picture(0.25, 0.37)
        page.get_by_role("button", name="Petal").click()
        page.get_by_role("button", name="Is my light right?").click()
        self.passes_axe("light in depth")
        self.section("Regions")
        self.passes_axe("regions in depth")
