"""The drawer as its owner keeps it: typing, pasting, searching, measuring."""

from __future__ import annotations

import math
import re

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.server.builders import coloured, make_piece


class DrawerTest(BrowserTest):
    def open_drawer(self, name: str = "Marker drawer"):
        page = self.sign_in()
        page.get_by_role("link", name="Drawer", exact=True).click()
        link = page.get_by_role("link", name=name)
        link.click()
        page.wait_for_url(re.compile(r"/drawers/\d+"))
        # The first drawer stands there before it is asked for; what is typed into it then would go.
        expect(link).to_have_attribute("aria-current", "page")
        expect(page.get_by_role("heading", name=name)).to_be_visible()
        return page

    def test_a_swatch_is_typed_in_and_edited_by_keyboard_alone(self):
        page = self.open_drawer()
        page.get_by_role("button", name="Add a swatch").press("Enter")
        for text in ("Dusk", "dusk-1", "plum"):
            page.keyboard.type(text)
            page.keyboard.press("Tab")
        page.keyboard.type("no colour")
        page.keyboard.press("Enter")
        expect(page.get_by_role("alert")).to_contain_text("three numbers")
        page.get_by_label("L* a* b* (or #rrggbb)").fill("42,5 18 -22")
        page.keyboard.press("Enter")
        card = page.get_by_role("complementary", name="Chosen swatch")
        expect(card).to_contain_text("42.5 · 18.0 · -22.0")
        card.get_by_role("button", name="Running low").click()
        expect(card.get_by_role("button", name="Restocked")).to_be_visible()
        card.get_by_role("button", name="Edit").click()
        page.get_by_label("Name", exact=True).fill("Late dusk")
        page.get_by_label("Two coats, L* a* b*").fill("30 22 -26")
        page.keyboard.press("Enter")
        expect(card.get_by_role("heading", name="Late dusk")).to_be_visible()
        expect(card).to_contain_text("30.0 · 22.0 · -26.0")
        card.get_by_role("button", name="Remove").click()
        expect(page.get_by_text("84 swatches in 16 families")).to_be_visible()

    def test_opacity_white_point_and_what_cannot_be_are_said(self):
        page = self.open_drawer("Paint box")
        page.get_by_role("button", name="Add a swatch").click()
        page.get_by_label("Name", exact=True).fill("Gouache white")
        page.get_by_label("L* a* b* (or #rrggbb)").fill("99 4 2")
        page.get_by_label("Opacity, %").fill("120")
        page.get_by_role("button", name="Keep").click()
        expect(page.get_by_role("alert")).to_contain_text("0 to 100")
        page.get_by_label("Opacity, %").fill("")
        page.get_by_label("White point").select_option("D50")
        page.get_by_role("button", name="Keep").click()
        card = page.get_by_role("complementary", name="Chosen swatch")
        expect(card).to_contain_text("paler than its paper")
        expect(card).not_to_contain_text("99.0 · 4.0 · 2.0")  # adapted to our own white
        card.get_by_role("button", name="Edit").click()
        page.get_by_label("Opacity, %").fill("90")
        page.get_by_role("button", name="Keep").click()
        expect(card).to_contain_text("90 %")
        expect(card).not_to_contain_text("paler than its paper")

    def test_a_table_is_pasted_looked_at_and_stored(self):
        page = self.open_drawer()
        page.get_by_role("button", name="Bring in a table").click()
        page.get_by_label("Or paste cells").fill("n1\tNight one\t#223355\nrose-11\tRose again\t#ffd0e0\nx\tBad\t#zz")
        page.get_by_role("button", name="Look at what was pasted").click()
        rows = page.get_by_role("table", name="Rows of the table").get_by_role("row")
        expect(rows).to_have_count(4)
        expect(rows.nth(3)).to_contain_text("#zz is no colour")
        page.get_by_role("button", name="Store 2").click()
        expect(page.get_by_text("85 swatches in 16 families")).to_be_visible()
        page.get_by_role("searchbox").fill("night one")
        expect(page.get_by_role("heading", name="Night one")).to_be_visible()

    def test_swatches_of_no_family_stand_in_the_order_of_hue_and_hide_none(self):
        """Eight hues at four near lightnesses, as a palette file without families brings them."""
        page = self.open_drawer()
        page.get_by_role("button", name="New drawer").click()
        page.get_by_role("dialog").get_by_label("Name").fill("Odds")
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Bring in a table").click()
        rows = ["code\tname\tL\ta\tb"] + [
            f"o{angle}-{light}\tOdd {angle} {light}\t{light}\t{40 * math.cos(math.radians(angle)):.1f}"
            f"\t{40 * math.sin(math.radians(angle)):.1f}"
            for angle in range(10, 360, 45)
            for light in (60, 61, 62, 66)
        ]
        page.get_by_label("Or paste cells").fill("\n".join(rows))
        page.get_by_role("button", name="Look at what was pasted").click()
        page.get_by_role("button", name="Store 32").click()
        expect(page.get_by_text("32 swatches", exact=True)).to_be_visible()
        chips = page.get_by_role("group", name="Swatches by hue and lightness").get_by_role("button")
        expect(chips).to_have_count(32)
        angles = [int(name.split()[1]) for name in chips.evaluate_all("all => all.map((one) => one.ariaLabel)")]
        self.assertEqual(angles, sorted(angles))
        boxes = chips.evaluate_all(
            "all => all.map((one) => one.getBoundingClientRect()).map(({x, y}) => [Math.round(x), Math.round(y)])"
        )
        for number, (x, y) in enumerate(boxes):
            for other_x, other_y in boxes[:number]:
                self.assertFalse(abs(x - other_x) < 30 and abs(y - other_y) < 18, (number, x, y))
        chips.first.press("ArrowRight")
        expect(page.get_by_role("complementary", name="Chosen swatch")).to_contain_text("Odd 55")

    def test_a_file_in_another_encoding_is_brought_in_and_a_bad_one_refused(self):
        page = self.open_drawer("Pencil roll")
        page.get_by_role("button", name="Bring in a table").click()
        files = page.get_by_label("Table", exact=True)
        files.set_input_files([{"name": "bad.csv", "mimeType": "text/csv", "buffer": b"name,price\nx,3\n"}])
        expect(page.get_by_role("alert")).to_contain_text("no column for")
        data = "Nr;Colour;L*;a*;b*\nm1;Grün;52,5;-40,2;30\n".encode("cp1252")
        files.set_input_files([{"name": "good.csv", "mimeType": "text/csv", "buffer": data}])
        page.get_by_role("button", name="Store 1").click()
        expect(page.get_by_text("49 swatches")).to_be_visible()
        with page.expect_download() as saved:
            page.get_by_role("link", name="CSV").click()
        self.assertIn("Grün", saved.value.path().read_text())

    def test_search_by_colour_puts_the_nearest_first(self):
        page = self.open_drawer()
        page.get_by_label("Like this").fill("#c25a7f")
        first = page.get_by_role("list", name="Swatches").get_by_role("button").first
        expect(first).to_contain_text("Rose 14")
        expect(first).to_contain_text("off by")
        page.get_by_role("button", name="Any colour").click()
        page.get_by_role("button", name="Map").click()
        expect(page.get_by_role("group", name="Swatches by hue and lightness")).to_be_visible()

    def test_a_chart_is_read_from_the_simulated_camera_and_kept(self):
        page = self.open_drawer()
        page.get_by_role("searchbox").fill("rose 1")
        page.get_by_role("button", name="Swatch chart").click()
        page.get_by_role("button", name="New chart of 6 swatches").click()
        expect(page.get_by_role("link", name="Print chart 1 (PDF)")).to_be_visible()
        page.get_by_label("Photo of the chart").set_input_files(
            [{"name": "p.png", "mimeType": "image/png", "buffer": b"no picture"}]
        )
        expect(page.get_by_role("alert")).to_contain_text("not a PNG")
        page.get_by_role("button", name="Use the simulated camera").click()
        rows = page.get_by_role("table", name="Readings").get_by_role("row")
        expect(rows).to_have_count(7)
        page.get_by_label("Keep Rose 11").click()
        page.get_by_role("button", name="Keep 5 readings").click()
        card = page.get_by_role("complementary", name="Chosen swatch")
        expect(card).to_contain_text("estimate from the cap")
        page.get_by_role("searchbox").fill("rose 14")
        expect(card).to_contain_text("photo of a swatch chart")

    def test_the_reader_wants_its_tile_first(self):
        page = self.open_drawer()
        card = page.get_by_role("complementary", name="Chosen swatch")
        card.get_by_text("Colour reader (simulated)").click()
        card.get_by_role("button", name=re.compile("^Read")).click()
        expect(card.get_by_role("alert")).to_contain_text("white tile first")
        card.get_by_role("button", name="White tile").click()
        expect(card.get_by_role("status")).to_contain_text("The tile was seen")
        card.get_by_role("button", name=re.compile("^Read")).click()
        card.get_by_role("button", name="Keep it").click()
        expect(card).to_contain_text("colour reader")

    def test_a_retired_pen_is_proposed_no_more_and_others_stand_in_for_it(self):
        piece = coloured(make_piece(self.ana), hexes=("#b8506f",))
        page = self.open_drawer()
        page.get_by_role("button", name="Rose 14").click()
        card = page.get_by_role("complementary", name="Chosen swatch")
        card.get_by_text("What could stand in").click()
        others = card.get_by_role("list", name="Substitutes").get_by_role("listitem")
        expect(others).to_have_count(5)
        expect(others.filter(has_text="Pencil roll").or_(others.filter(has_text="Paint box"))).not_to_have_count(0)
        card.get_by_role("button", name="Retire").click()
        expect(card.get_by_role("button", name="Bring back")).to_be_visible()
        self.everything_is_kept()
        page = self.open_piece(piece, "?section=colours")
        self.click_picture(0.25, 0.37)
        ramps = page.get_by_role("radiogroup", name="Ramps from the drawer")
        expect(ramps.get_by_role("radio").first).to_be_visible()
        expect(ramps.get_by_title(re.compile("^Rose 14,"))).to_have_count(0)
        expect(ramps.get_by_title(re.compile("^Rose "))).not_to_have_count(0)

    def test_a_new_drawer_starts_empty_and_is_deleted_again(self):
        page = self.open_drawer()
        page.get_by_role("button", name="New drawer").click()
        page.get_by_label("Name", exact=True).fill("Travel set")
        page.get_by_role("dialog").get_by_label("Medium").select_option("soluble")
        page.get_by_role("button", name="Make it").click()
        expect(page.get_by_text("This drawer is empty")).to_be_visible()
        page.get_by_role("button", name="Delete drawer").click()
        page.get_by_role("button", name="Delete", exact=True).click()
        expect(page.get_by_role("heading", name="Marker drawer")).to_be_visible()

    def test_the_drawer_and_its_questions_are_accessible(self):
        page = self.open_drawer()
        self.passes_axe("map")
        page.get_by_role("button", name="List").click()
        self.passes_axe("list")
        for ask in ("Add a swatch", "Bring in a table", "Swatch chart"):
            page.get_by_role("button", name=ask).click()
            expect(page.get_by_role("dialog").get_by_role("heading")).to_be_visible()
            self.passes_axe(ask)
            page.keyboard.press("Escape")
            expect(page.get_by_role("dialog")).to_have_count(0)
