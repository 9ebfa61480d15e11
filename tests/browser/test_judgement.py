"""Colour judgement and order on the bench: value guard, go-tos, palettes, own schools, batches."""

from __future__ import annotations

import json
import re

import numpy as np
from playwright.sync_api import expect

from server.pieces.colours.ramps import set_ramp
from server.pieces.regions.services import change_regions
from tests.browser.base import BrowserTest
from tests.builders import as_file
from tests.server.builders import coloured, make_piece


class ColoursTest(BrowserTest):
    def test_a_ramp_is_chosen_by_keyboard_alone(self):
        page = self.open_piece(make_piece(self.ana), "?section=colours")
        row = page.locator("#part-colours").get_by_role("list", name="Regions").get_by_role("button").first
        row.focus()
        page.keyboard.press("Enter")
        ramps = page.get_by_role("radiogroup", name="Ramps from the drawer").get_by_role("radio")
        expect(ramps.first).to_be_visible()
        ramps.first.focus()
        page.keyboard.press("Space")
        expect(ramps.first).to_be_checked()
        page.keyboard.press("ArrowDown")
        expect(ramps.nth(1)).to_be_checked()
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text("3 swatches")

    def test_the_value_guard_names_a_shallow_ramp_and_one_click_puts_it_right(self):
        piece = coloured(make_piece(self.ana))
        yellow = [one.code for one in self.ana.drawers.get(medium="marker").shades() if one.family == "yellow"][:2]
        set_ramp(
            actor=self.ana, piece=piece, version=piece.version, labels=[1], codes=yellow, wish_lab=None, by_hand=True
        )
        page = self.open_piece(piece, "?section=colours")
        page.get_by_text(re.compile("Value guard")).click()
        warnings = page.get_by_role("list", name="Value warnings").get_by_role("listitem")
        expect(warnings.filter(has_text="no depth beside the rest")).to_have_count(1)
        page.get_by_role("button", name="Take a ramp that goes deeper").click()
        expect(warnings.filter(has_text="no depth beside the rest")).to_have_count(0)
        page.get_by_role("button", name="Undo").click()
        expect(warnings.filter(has_text="no depth beside the rest")).to_have_count(1)
        page.get_by_role("button", name=re.compile("^Leave it as it is: .*no depth")).click()
        expect(warnings.filter(has_text="no depth beside the rest")).to_have_count(0)
        page.reload()
        page.get_by_text(re.compile("Value guard")).click()
        page.get_by_role("button", name="Show 1 line left as it is").click()
        page.get_by_role("button", name=re.compile("^Tell again: .*no depth")).click()
        expect(page.get_by_role("button", name=re.compile("left as it is"))).to_have_count(0)
        expect(warnings.filter(has_text="no depth beside the rest")).to_have_count(1)
        page.get_by_label("The picture is meant to be in").select_option("night")
        expect(warnings.filter(has_text="too light for night key")).to_have_count(1)

    def test_a_go_to_is_saved_and_used_on_another_region(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=colours")
        self.click_picture(0.25, 0.37)
        page.get_by_text(re.compile("^Go-tos")).click()
        page.get_by_label("Save these colours as").fill("Berry")
        page.get_by_role("button", name="Save go-to").click()
        expect(page.get_by_role("list", name="Go-tos").get_by_role("listitem")).to_have_count(1)
        self.click_picture(0.7, 0.35)
        page.get_by_text(re.compile("^Go-tos")).click()
        page.get_by_role("button", name="Use Berry here").click()
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text(re.compile("[56] swatches"))
        page.get_by_role("button", name="Forget Berry").click()
        expect(page.get_by_role("list", name="Go-tos").get_by_role("listitem")).to_have_count(0)

    def test_a_palette_from_the_wheel_keeps_what_is_locked(self):
        page = self.open_piece(make_piece(self.ana), "?section=colours")
        self.click_picture(0.25, 0.37)
        page.get_by_text("A palette").click()
        page.get_by_label("Scheme").select_option("triad")
        page.get_by_role("button", name="From the wheel").click()
        colours = page.get_by_role("list", name="Palette").get_by_role("listitem")
        expect(colours).to_have_count(4)
        first = colours.first.inner_text().split("\n")[0]
        colours.first.get_by_role("button", name=re.compile("^Lock")).click()
        page.get_by_label("First colour").fill("#3c7a9a")
        page.get_by_role("button", name="From the wheel").click()
        expect(colours.first).to_contain_text(first)
        expect(colours.first.get_by_role("button", name=re.compile("^Unlock"))).to_be_visible()
        colours.nth(1).get_by_role("button", name=re.compile("^Use")).click()
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text("3 swatches")
        page.get_by_role("button", name="Lay it over 2 open regions").click()
        expect(page.get_by_role("button", name="No region is open")).to_be_disabled()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("button", name="Lay it over 2 open regions")).to_be_enabled()
        self.click_picture(0.7, 0.35, modifiers=["Shift"])
        page.get_by_role("button", name="Lay it over these 2").click()
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text(re.compile("[456] swatches"))

    def test_a_palette_from_a_photo_is_used_on_a_region(self):
        """A picture of three colours gives three, though four were asked for."""
        page = self.open_piece(make_piece(self.ana), "?section=colours")
        self.click_picture(0.25, 0.37)
        page.get_by_text("A palette").click()
        picture = np.full((90, 120, 3), (40, 130, 60), np.uint8)
        picture[:30], picture[60:] = (200, 60, 90), (90, 150, 220)
        photo = {"name": "meadow.png", "mimeType": "image/png", "buffer": as_file(picture)}
        page.get_by_label("Photo for a palette").set_input_files([photo])
        colours = page.get_by_role("list", name="Palette").get_by_role("listitem")
        expect(colours).to_have_count(3)
        expect(colours.filter(has_text=re.compile("green"))).not_to_have_count(0)
        colours.filter(has_text=re.compile("green")).first.get_by_role("button", name=re.compile("^Use")).click()
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text("3 swatches")

    def test_a_missing_pen_is_named_and_the_same_ramp_is_found_in_pencil(self):
        marker = self.ana.drawers.get(medium="marker")
        marker.swatches.filter(family__in=("leaf", "lime", "sea green"), lightness__lt=60).delete()
        page = self.open_piece(coloured(make_piece(self.ana), hexes=("#4f8f3a",)), "?section=colours")
        self.click_picture(0.25, 0.37)
        expect(page.get_by_text(re.compile("Not in your drawer: .*green .*The nearest you own"))).to_be_visible()
        page.get_by_label("The same from").first.select_option(label="Pencil roll")
        pencils = {one.name for one in self.ana.drawers.get(medium="pencil").shades()}
        answer = page.locator("label", has_text="The same from").first.locator("xpath=following-sibling::span")
        chips = answer.locator("[title]")
        expect(chips).to_have_count(3)
        self.assertLessEqual({chips.nth(place).get_attribute("title").split(",")[0] for place in range(3)}, pencils)

    def test_colours_and_order_are_accessible(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=colours")
        self.click_picture(0.25, 0.37)
        for summary in ("Value guard", "A palette", "Go-tos"):
            page.get_by_text(re.compile(f"^{summary}")).first.click()
        self.passes_axe("colours in depth")
        self.section("Order")
        page.get_by_text("Several cards at once").click()
        self.passes_axe("order in depth")
        page.get_by_role("button", name="Write your own").click()
        self.passes_axe("school editor")


class OrderTest(BrowserTest):
    def test_a_school_of_ones_own_is_written_used_saved_and_read(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=order")
        page.get_by_role("button", name="Write your own from this one").click()
        page.get_by_label("Name", exact=True).fill("My quick way")
        page.get_by_role("button", name="Remove step 4").click()
        page.get_by_label("What the hand does in step 2").fill("lay the shade quickly")
        with page.expect_download() as saved:
            page.get_by_role("button", name="Save as a file").click()
        written = json.loads(saved.value.path().read_text())
        self.assertEqual(len(written["steps"]), 3)
        page.get_by_role("button", name="Keep this school").click()
        expect(page.get_by_role("radio", name="My quick way (yours)")).to_be_checked()
        expect(page.get_by_text("lay the shade quickly").first).to_be_visible()
        page.get_by_role("button", name="Edit this school").click()
        bad = {**written, "steps": [{"which": "palest", "after": 2}]}
        file = page.get_by_label("School file")
        file.set_input_files([{"name": "s.json", "mimeType": "application/json", "buffer": json.dumps(bad).encode()}])
        expect(page.get_by_role("alert")).to_contain_text("circle")
        good = {**written, "name": "From a friend"}
        file.set_input_files([{"name": "s.json", "mimeType": "application/json", "buffer": json.dumps(good).encode()}])
        expect(page.get_by_role("radio", name="From a friend (yours)")).to_be_checked()

    def test_a_wish_and_several_cards_change_the_figures(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=order")
        page.get_by_label("Go for").select_option("regions")
        cells = page.get_by_role("row", name=re.compile("^Pen changes")).get_by_role("cell")
        expect(cells.nth(0)).to_have_text(cells.nth(1).inner_text())
        page.get_by_label("Go for").select_option("focal")
        expect(page.get_by_text("Mark regions as focal under Regions first.")).to_be_visible()
        page.get_by_text("Several cards at once").click()
        page.get_by_label("How many").fill("6")
        expect(page.get_by_text(re.compile(r"Together about .* pen changes; one after the other"))).to_be_visible()
        expect(page.get_by_role("list", name="Stretches of the batch").get_by_role("listitem").first).to_be_visible()
        expect(page.get_by_text("Take care.")).to_be_visible()

    def test_finishing_touches_are_ticked_and_put_in_their_order(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=finish")
        for name in ("Gloss", "White pen"):
            page.get_by_role("checkbox", name=name).click()
        steps = page.get_by_role("list", name="Finishing touches in order").get_by_role("listitem")
        expect(steps).to_have_count(2)
        expect(steps.first).to_contain_text("White pen")
        expect(steps.first).to_contain_text("until the colouring is dry")
        self.reload()
        expect(page.get_by_role("checkbox", name="Gloss")).to_be_checked()
        self.passes_axe("finish")

    def test_a_masked_background_is_seen_in_the_order_and_a_noted_time_retimes_it(self):
        piece = coloured(make_piece(self.ana))
        change_regions(actor=self.ana, piece=piece, version=piece.version, labels=[3], changes={"role": "background"})
        page = self.open_piece(piece, "?section=order")
        passes = page.get_by_role("list", name="Passes", exact=True)
        page.get_by_label("Mask the figure for the background").click()
        expect(passes.get_by_text("Lay the mask")).to_have_count(1)
        expect(passes.get_by_text("Lift the mask")).to_have_count(1)
        ribbon = page.get_by_role("listbox", name="Passes in order")
        expect(ribbon.get_by_title("Lay the mask")).to_have_count(1)
        ribbon.press("End")
        expect(page.get_by_role("region", name="Shade ribbon")).to_contain_text("on Region 3")
        expect(page.get_by_text("Timed by common practice")).to_be_visible()
        page.get_by_role("button", name="6 Finish").click()
        page.get_by_label("Colouring took").fill("48")
        page.get_by_label("What to change next time").fill("A paler sky")
        page.keyboard.press("Enter")
        noted = page.get_by_role("list", name="Times noted").get_by_role("listitem")
        expect(noted).to_have_count(1)
        expect(noted).to_contain_text("48 min")
        self.passes_axe("finish with a time")
        page.get_by_role("button", name="5 Order").click()
        expect(page.get_by_text("Timed by the one time you noted")).to_be_visible()
        page.get_by_role("button", name="6 Finish").click()
        page.get_by_role("button", name="Forget the time of 48 min").click()
        expect(noted).to_have_count(0)
        page.goto(f"{self.live_server_url}/pieces/{piece.pk}/print?full=1")
        expect(page.get_by_text("Lay the mask")).to_be_visible()
        expect(page.get_by_text("Lift the mask")).to_be_visible()

    def test_pencil_is_laid_over_marker_and_a_kept_version_comes_back(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=colours")
        page.get_by_role("button", name="Keep as version 1").click()
        expect(page.get_by_role("button", name="Kept as version 1")).to_be_visible()
        page.get_by_label("Medium").select_option("pencil")
        page.get_by_role("button", name="Go over everything in coloured pencil").click()
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text("pencil")
        page.get_by_role("button", name="Versions").click()
        page.get_by_role("button", name="Lay version 1 on the bench again").click()
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text("marker")
        expect(page.get_by_role("button", name="Kept as version 1")).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("button", name="4 Colours")).to_contain_text("pencil")
        page.get_by_role("button", name="Versions").click()
        page.get_by_role("dialog").get_by_role("link", name="Print view").click()
        expect(page.get_by_text("Recipe, version 1")).to_be_visible()
        expect(page.get_by_text("Alcohol marker;")).to_be_visible()
