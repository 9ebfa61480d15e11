"""The whole walk: a stamped image in, a repeatable recipe out; by mouse and by keyboard."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Dialog, Route, expect

from tests.browser.base import BrowserTest
from tests.builders import line_drawing
from tests.server.builders import coloured, make_piece


class WalkTest(BrowserTest):
    def test_a_stamped_image_becomes_a_recipe_that_can_be_deleted_and_brought_back(self):
        page = self.sign_in()
        expect(page.get_by_text("Your shelf is empty")).to_be_visible()
        self.add_by_hand()
        expect(page.get_by_role("heading", name="owl")).to_be_visible()
        expect(page.locator("#part-regions")).to_be_visible()
        self.picture_is_drawn("view=regions")

        # Regions: rename one, join two, leave one as paper.
        self.click_picture(0.25, 0.37)
        page.get_by_role("textbox", name="Name").fill("Moon")
        page.get_by_role("textbox", name="Name").press("Enter")
        expect(page.get_by_role("button", name="Moon dome")).to_be_visible()
        self.click_picture(0.7, 0.35)
        self.click_picture(0.7, 0.65, modifiers=["Shift"])
        expect(page.get_by_text("2 regions in hand")).to_be_visible()
        page.get_by_role("button", name="Join into one").click()
        expect(page.locator("#part-regions").get_by_role("list", name="Regions").get_by_role("listitem")).to_have_count(
            2
        )
        page.get_by_role("button", name="Leave as paper").click()
        expect(page.get_by_role("button", name="Region 2 left as paper")).to_be_visible()

        # Light: along the track.
        self.section("Light")
        page.keyboard.press("4")
        before = page.get_by_role("slider", name="Lamp direction").input_value()
        lamp, card = page.get_by_test_id("lamp").bounding_box(), page.get_by_test_id("card").bounding_box()
        page.mouse.move(lamp["x"] + 25, lamp["y"] + 25)
        page.mouse.down()
        page.mouse.move(card["x"] + card["width"] + 40, card["y"] + 100, steps=6)
        self.picture_is_drawn("live=true")
        page.mouse.up()
        self.picture_is_drawn("version=")
        after = page.get_by_role("slider", name="Lamp direction").input_value()
        self.assertEqual(before, "315")
        self.assertLess(abs(int(after) - 62), 25)

        # Colours: a wish, a proposal, one chip changed by hand.
        self.section("Colours")
        self.click_picture(0.25, 0.37)
        page.get_by_label("Wished colour").fill("#b8506f")
        page.get_by_role("button", name="3", exact=True).click()
        ramps = page.get_by_role("radiogroup", name="Ramps from the drawer").get_by_role("radio")
        expect(ramps.first).to_be_visible()
        self.assertGreaterEqual(ramps.count(), 2)
        ramps.nth(1).click()
        expect(page.get_by_text("As proposed; choose a chip")).to_be_visible()
        page.get_by_role("button", name=", change").last.click()
        page.get_by_role("option").last.click()
        expect(page.get_by_text("Changed by hand; choose a chip")).to_be_visible()

        # Order.
        self.section("Order")
        page.get_by_label("Dark first, two coats").check()
        expect(page.get_by_role("list", name="Passes").get_by_role("button")).to_have_count(6)
        expect(page.get_by_text("for the first coat of Moon to dry").first).to_be_visible()
        expect(page.get_by_role("listbox", name="Passes in order").get_by_role("option")).to_have_count(6)

        # Keep, change, keep again; what changed is said.
        page.get_by_role("button", name="Keep as version 1").click()
        expect(page.get_by_role("button", name="Kept as version 1")).to_be_disabled()
        page.get_by_role("slider", name="Lamp direction").focus()
        page.keyboard.press("Shift+ArrowRight")
        page.get_by_role("button", name="Keep as version 2").click()
        page.get_by_role("button", name="Versions").click()
        expect(page.get_by_text("What changed since version 1")).to_be_visible()
        expect(page.get_by_text("Light: from")).to_be_visible()
        first = self.export(0)
        second = self.export(1)
        self.assertNotEqual(first, second)
        page.get_by_role("button", name="Back to the bench").click()

        # Delete and bring back.
        page.get_by_role("link", name="Shelf").click()
        page.get_by_role("button", name="Delete owl").click()
        page.get_by_role("button", name="Delete", exact=True).click()
        expect(page.get_by_text("Your shelf is empty")).to_be_visible()
        page.get_by_label("Recipe file").set_input_files(
            [{"name": "owl.json", "mimeType": "application/json", "buffer": second}]
        )
        expect(page.get_by_role("heading", name="owl")).to_be_visible()
        page.get_by_role("button", name="Versions").click()
        self.assertEqual(self.export(0), second)

        # The print view.
        page.get_by_role("link", name="Print view").click()
        expect(page.get_by_text("Recipe, version 2")).to_be_visible()
        page.get_by_role("link", name="In full, pass by pass").click()
        expect(page.get_by_role("heading", name="Passes in order")).to_be_visible()
        expect(page.get_by_text("Recipe, version 2")).to_be_visible()
        expect(page.locator("ol > li")).to_have_count(6)
        self.nothing_went_wrong_unseen()

    def export(self, index: int) -> bytes:
        """The bytes of the index-th kept version, oldest first."""
        with self.page.expect_download() as download:
            self.page.get_by_role("link", name="Export file").nth(index).click()
        path = download.value.path()
        return Path(path).read_bytes()

    def test_the_walk_works_by_keyboard_alone(self):
        page = self.open_piece(make_piece(self.ana), "?section=regions")

        def tab_to(role: str, name: str, exact: bool = False) -> None:
            """Press Tab until the named control has the focus, as a person would."""
            target = page.get_by_role(role, name=name, exact=exact).first
            for _ in range(70):
                if target.evaluate("element => element === document.activeElement"):
                    return
                page.keyboard.press("Tab")
            self.fail(f"Tab never reaches {name}")

        page.keyboard.press("Tab")
        tab_to("slider", "Lamp direction")
        page.keyboard.press("ArrowRight")
        page.keyboard.press("Shift+ArrowRight")
        page.keyboard.press("ArrowUp")
        expect(page.get_by_role("slider", name="Lamp direction")).to_have_value("331")
        expect(page.get_by_text("From 11:00, 41° high")).to_be_visible()
        tab_to("button", "Region 1 dome")
        page.keyboard.press("ArrowDown")
        page.keyboard.press("Space")
        expect(page.get_by_role("textbox", name="Name")).to_have_value("Region 2")
        page.keyboard.press("Shift+Tab")
        tab_to("button", "4 Colours")
        page.keyboard.press("Enter")
        tab_to("button", "2", exact=True)
        page.keyboard.press("Enter")
        of_two = page.get_by_role("radio", name=re.compile("^[^,:]+, [^,:]+: "))
        expect(of_two.first).to_be_visible()
        for _ in range(20):
            if page.evaluate("document.activeElement.getAttribute('role')") == "radio":
                break
            page.keyboard.press("Tab")
        page.keyboard.press("Space")
        expect(page.get_by_text("As proposed; choose a chip")).to_be_visible()
        ribbon = page.get_by_role("listbox", name="Passes in order")
        ribbon.focus()
        page.keyboard.press("End")
        expect(
            page.get_by_text("Pass 4 of 4" if ribbon.get_by_role("option").count() == 4 else "of 3:")
        ).to_be_visible()
        for key, view in (("1", "Line"), ("2", "Regions"), ("3", "Values"), ("4", "Coloured")):
            page.keyboard.press(key)
            expect(
                page.get_by_role("button", name=view, exact=False).and_(page.locator('[aria-pressed="true"]')).first
            ).to_be_visible()


class RegionTest(BrowserTest):
    def test_a_drawn_barrier_parts_a_region_and_undo_makes_it_whole(self):
        page = self.open_piece(make_piece(self.ana), "?section=regions&view=regions")
        rows = page.locator("#part-regions").get_by_role("list", name="Regions").get_by_role("listitem")
        expect(rows).to_have_count(3)
        page.get_by_role("button", name="Split a region with a drawn barrier").click()
        glass = page.get_by_test_id("barrier").bounding_box()
        page.mouse.move(glass["x"] + 0.25 * glass["width"], glass["y"] + 0.2 * glass["height"])
        page.mouse.down()
        page.mouse.move(glass["x"] + 0.25 * glass["width"], glass["y"] + 0.55 * glass["height"], steps=8)
        page.mouse.up()
        expect(rows).to_have_count(4)
        expect(page.get_by_text("2 regions in hand")).to_be_visible()
        page.keyboard.press("Control+z")
        expect(rows).to_have_count(3)

    def test_a_barrier_that_parts_nothing_is_refused_in_a_sentence(self):
        page = self.open_piece(make_piece(self.ana), "?section=regions&view=regions")
        page.get_by_role("button", name="Split a region with a drawn barrier").click()
        glass = page.get_by_test_id("barrier").bounding_box()
        page.mouse.move(glass["x"] + 0.23 * glass["width"], glass["y"] + 0.37 * glass["height"])
        page.mouse.down()
        page.mouse.move(glass["x"] + 0.27 * glass["width"], glass["y"] + 0.37 * glass["height"], steps=4)
        page.mouse.up()
        expect(page.get_by_role("alert")).to_contain_text("does not part the region")

    def test_a_region_is_split_from_the_keyboard_too(self):
        page = self.open_piece(make_piece(self.ana), "?section=regions")
        page.get_by_role("button", name="Region 1 dome").press("Enter")
        page.get_by_role("button", name="Split level").press("Enter")
        expect(page.get_by_role("button", name="Region 1 (2) dome")).to_be_visible()


class FindAgainTest(BrowserTest):
    def test_wider_gaps_find_a_broken_cell_and_names_are_carried_over(self):
        picture = line_drawing()
        # A break of 4 mm between dome and box; two ends that face each other are bridged up to twice the gap.
        picture[140:160, 247:271] = 255
        piece = make_piece(self.ana, picture=picture)
        page = self.open_piece(piece, "?section=regions&view=regions")
        rows = page.locator("#part-regions").get_by_role("list", name="Regions").get_by_role("listitem")
        expect(rows).to_have_count(2)
        page.get_by_role("button", name="Region 2 dome").click()
        page.get_by_role("textbox", name="Name").fill("Cupboard")
        page.get_by_role("textbox", name="Name").press("Enter")
        self.section("Stamp")
        page.get_by_label("Show only what was taken as ink").check()
        self.picture_is_drawn("view=ink")
        gaps = page.get_by_role("slider", name="Close gaps up to")
        gaps.fill("2")
        gaps.blur()
        page.get_by_role("button", name="Find the regions again").click()
        expect(page.get_by_role("status").filter(has_text="Found 3 regions with gaps up to 2.0 mm")).to_be_visible()
        self.section("Regions")
        expect(rows).to_have_count(3)
        expect(page.get_by_role("button", name="Cupboard dome")).to_be_visible()
        expect(page.get_by_role("button", name="Cupboard (2) dome")).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        expect(rows).to_have_count(2)


class LampTest(BrowserTest):
    def test_shift_and_arrow_turn_the_lamp_by_15_degrees_and_it_is_kept(self):
        piece = make_piece(self.ana)
        page = self.open_piece(piece)
        slider = page.get_by_role("slider", name="Lamp direction")
        slider.focus()
        page.keyboard.press("Shift+ArrowRight")
        expect(slider).to_have_value("330")
        self.picture_is_drawn("version=2")
        self.reload()
        expect(page.get_by_role("slider", name="Lamp direction")).to_have_value("330")

    def test_a_finger_drags_the_lamp_too(self):
        page = self.open_piece(make_piece(self.ana))
        lamp, card = page.get_by_test_id("lamp").bounding_box(), page.get_by_test_id("card").bounding_box()
        touch = self.context.new_cdp_session(page)

        def point(kind: str, x: float, y: float) -> None:
            points = [] if kind == "touchEnd" else [{"x": x, "y": y}]
            touch.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

        point("touchStart", lamp["x"] + 25, lamp["y"] + 25)
        for step in range(1, 6):
            point("touchMove", lamp["x"] + 25, lamp["y"] + 25 + step * (card["height"] / 5))
        point("touchEnd", 0, 0)
        expect(page.get_by_role("slider", name="Lamp direction")).to_have_value(re.compile("^2[0-5]."))
        self.picture_is_drawn("version=2")

    def test_turning_the_lamp_moves_the_shade_to_the_other_side(self):
        page = self.open_piece(make_piece(self.ana), "?view=values")

        def light_at(x: float) -> int:
            return page.evaluate(
                """x => { const c = document.querySelector('canvas[data-shown]');
                return c.getContext('2d').getImageData(Math.round(x * c.width), Math.round(0.37 * c.height), 1, 1).data[0]; }""",
                x,
            )

        left_lit = light_at(0.15) - light_at(0.36)
        slider = page.get_by_role("slider", name="Lamp direction")
        slider.fill("90")
        self.picture_is_drawn("version=2")
        self.assertGreater(left_lit, 10)
        self.assertLess(light_at(0.15) - light_at(0.36), -10)


class GlowTest(BrowserTest):
    def test_a_glow_is_added_dragged_moved_by_keys_and_removed(self):
        page = self.open_piece(make_piece(self.ana), "?section=light")
        page.get_by_role("button", name="Add a glow").click()
        marker = page.get_by_role("button", name=re.compile("^Glow 1, 30 mm from the left"))
        expect(marker).to_be_visible()
        card, box = page.get_by_test_id("card").bounding_box(), marker.bounding_box()
        page.mouse.move(box["x"] + 14, box["y"] + 14)
        page.mouse.down()
        page.mouse.move(card["x"] + 0.25 * card["width"], card["y"] + 0.5 * card["height"], steps=5)
        page.mouse.up()
        moved = page.get_by_role("button", name=re.compile("^Glow 1, 15 mm from the left"))
        expect(moved).to_be_visible()
        self.picture_is_drawn("version=3")
        moved.press("Shift+ArrowRight")
        expect(page.get_by_role("button", name=re.compile("^Glow 1, 20 mm from the left"))).to_be_visible()
        expect(page.get_by_role("button", name="3 Light")).to_contain_text("1 glow")
        page.get_by_role("button", name="Remove glow 1").click()
        expect(page.get_by_role("button", name="3 Light")).not_to_contain_text("glow")


class KeepingTest(BrowserTest):
    def test_undo_and_redo_by_key_and_a_reload_in_the_middle_lose_nothing(self):
        page = self.open_piece(make_piece(self.ana), "?section=light")
        for _ in range(2):
            page.get_by_role("slider", name="Lamp direction").focus()
            page.keyboard.press("Shift+ArrowLeft")
            page.get_by_role("slider", name="Lamp direction").blur()
        expect(page.get_by_role("slider", name="Lamp direction")).to_have_value("285")
        self.picture_is_drawn("version=3")
        page.keyboard.press("Control+z")
        expect(page.get_by_role("slider", name="Lamp direction")).to_have_value("300")
        self.reload()
        expect(page.get_by_role("button", name="Redo")).to_be_enabled()
        page.keyboard.press("Control+Shift+z")
        expect(page.get_by_role("slider", name="Lamp direction")).to_have_value("285")

    def test_leaving_while_changes_are_on_their_way_asks_and_a_field_with_the_cursor_is_kept(self):
        page = self.open_piece(make_piece(self.ana), "?section=stamp")
        asked = []

        def stay(dialog: Dialog) -> None:
            asked.append(dialog.type)
            dialog.dismiss()

        def hold(route: Route) -> None:
            held.append(route)

        held: list[Route] = []
        page.once("dialog", stay)
        page.route("**/api/v1/pieces/*/stamp/", hold)
        page.get_by_label("Title").fill("Owl at noon")
        page.evaluate("location.reload()")
        expect(page.locator("html[data-keeping]")).to_have_count(1)
        expect(page.get_by_text("Keeping…")).to_be_visible()
        self.assertEqual(asked, ["beforeunload"])
        held[0].continue_()
        self.reload()
        expect(page.get_by_label("Title")).to_have_value("Owl at noon")

    def test_two_tabs_do_not_overwrite_each_other_silently(self):
        piece = make_piece(self.ana)
        page = self.open_piece(piece, "?section=stamp")
        other = self.new_page()
        other.goto(f"{self.live_server_url}/pieces/{piece.pk}?section=stamp")
        other.get_by_role("combobox", name="Paper").select_option("kraft")
        expect(other.get_by_role("button", name="1 Stamp")).to_contain_text("kraft")
        page.get_by_role("combobox", name="Paper").select_option("cream")
        expect(page.get_by_role("alert")).to_contain_text("changed in another tab")
        expect(page.get_by_role("combobox", name="Paper")).to_have_value("kraft")
        page.get_by_role("combobox", name="Paper").select_option("cream")
        expect(page.get_by_role("button", name="1 Stamp")).to_contain_text("cream")

    def test_a_server_that_does_not_answer_is_said_and_can_be_tried_again(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=order")
        self.context.route("**/api/v1/pieces/*/school/", lambda route: route.abort())
        page.get_by_label("Dark first, two coats").click()
        expect(page.get_by_role("alert")).to_contain_text("does not answer")
        self.context.unroute("**/api/v1/pieces/*/school/")
        page.get_by_label("Dark first, two coats").check()
        expect(page.get_by_role("button", name="5 Order")).to_contain_text("Dark first")
