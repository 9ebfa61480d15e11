"""Things on the bench: taking, joining and parting them by mouse and keys, the quick round, and looking closely."""

from __future__ import annotations

import numpy as np
from playwright.sync_api import expect

from paleta.recipe import TAGS
from server.pieces.models import Piece
from server.pieces.regions.things import group_regions
from server.pieces.steps import keep_step
from tests.browser.base import BrowserTest
from tests.server.builders import coloured, make_piece
from tools.things import KINDS, Canvas


def tiles() -> np.ndarray:
    """A wall of tiles, as a picture."""
    canvas = Canvas(300, 400, 3, np.random.default_rng(8))
    KINDS["tiles"](canvas, 200, 150, 120)
    return np.repeat(((1 - canvas.ink) * 255).astype(np.uint8)[..., None], 3, axis=2)


class ThingTest(BrowserTest):
    def setUp(self):
        super().setUp()
        piece = make_piece(self.ana, "Wall", tiles())
        sheet = piece.sheet()
        self.labels = sorted(sheet.regions.settings)
        piece = group_regions(actor=self.ana, piece=piece, version=piece.version, labels=self.labels, together=False)
        self.piece = group_regions(
            actor=self.ana, piece=piece, version=piece.version, labels=self.labels[:4], together=True
        )
        self.name = self.piece.sheet().regions.settings[self.labels[0]].thing

    def at(self, label: int) -> tuple[float, float]:
        """A place inside of a region, 0..1 across the card."""
        from server.derived.maps import region_map

        found = {one.label: one for one in region_map(self.piece.stamping, self.piece.sheet()).regions}
        row, col = found[label].anchor
        return (col + 0.5) / self.piece.width_px, (row + 0.5) / self.piece.height_px

    def thing_row(self):
        return self.page.get_by_role("button", name=f"{self.name} (")

    def in_hand(self) -> list[int]:
        pressed = self.page.locator('#part-regions button[data-label][aria-pressed="true"]')
        return [int(one.get_attribute("data-label") or 0) for one in pressed.all()]

    def test_looking_for_things_says_what_came_of_it(self):
        page = self.open_piece(self.piece, "?section=regions&view=regions")
        alone = len(self.labels) - 4
        page.get_by_role("button", name="Look for things").click()
        expect(page.get_by_text(f"{alone} regions put together.")).to_be_visible()
        page.get_by_role("button", name="Look for things").click()
        nothing = page.get_by_text("Nothing more belongs together for sure.")
        expect(nothing).to_be_visible()
        page.get_by_role("button", name="Undo").click()
        expect(nothing).to_have_count(0)

    def test_a_click_takes_the_thing_a_second_one_the_region_and_escape_goes_back_up(self):
        page = self.open_piece(self.piece, "?section=regions&view=regions")
        self.click_picture(*self.at(self.labels[1]))
        expect(self.thing_row()).to_have_attribute("aria-pressed", "true")
        expect(page.get_by_text("4 regions in hand")).to_be_visible()
        expect(page.get_by_label("Name", exact=True)).to_have_count(0)
        self.click_picture(*self.at(self.labels[1]))
        expect(page.get_by_label("Name", exact=True)).to_be_visible()
        expect(page.locator(f'button[data-label="{self.labels[1]}"]')).to_have_attribute("aria-pressed", "true")
        self.assertEqual(self.in_hand(), [self.labels[1]])
        page.keyboard.press("Escape")
        expect(self.thing_row()).to_have_attribute("aria-pressed", "true")
        expect(page.get_by_label("Name", exact=True)).to_have_count(0)
        page.keyboard.press("Escape")
        expect(self.thing_row()).to_have_attribute("aria-pressed", "false")

    def test_one_is_left_out_others_are_taken_in_and_the_thing_is_split(self):
        page = self.open_piece(self.piece, "?section=regions&view=regions")
        self.click_picture(*self.at(self.labels[1]))
        self.click_picture(*self.at(self.labels[1]))
        page.get_by_role("button", name="Not this one").click()
        expect(self.thing_row()).to_contain_text("(3)")
        page.keyboard.press("Escape")
        self.click_picture(*self.at(self.labels[0]))
        self.click_picture(*self.at(self.labels[4]), modifiers=["Shift"])
        page.get_by_role("button", name=f"These too belong to {self.name}").click()
        expect(self.thing_row()).to_contain_text("(4)")
        page.get_by_label("Thing", exact=True).fill("Tiles by the door")
        page.get_by_label("Thing", exact=True).press("Enter")
        expect(page.get_by_role("button", name="Tiles by the door (")).to_be_visible()
        page.get_by_role("button", name="Split this thing").click()
        expect(page.get_by_role("button", name="Tiles by the door (")).to_have_count(0)
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_role("button", name="Tiles by the door (")).to_contain_text("(4)")

    def test_all_like_this_takes_in_what_looks_alike(self):
        page = self.open_piece(self.piece, "?section=regions&view=regions")
        self.click_picture(*self.at(self.labels[0]))
        page.get_by_role("button", name="All like this").click()
        expect(self.thing_row()).not_to_contain_text("(4)")
        self.everything_is_kept()
        things = {one.thing for one in Piece.objects.get(pk=self.piece.pk).sheet().regions.settings.values()}
        self.assertIn(self.name, things)

    def test_the_list_is_walked_by_keys_into_a_thing_and_out_again(self):
        page = self.open_piece(self.piece, "?section=regions")
        self.thing_row().focus()
        page.keyboard.press("Enter")
        inside = page.get_by_role("list", name=f"Regions of {self.name}").get_by_role("button")
        expect(inside.first).to_be_focused()
        page.keyboard.press("ArrowDown")
        page.keyboard.press("Space")
        expect(inside.nth(1)).to_have_attribute("aria-pressed", "true")
        page.keyboard.press("ArrowLeft")
        expect(self.thing_row()).to_be_focused()
        page.keyboard.press("Space")
        expect(self.thing_row()).to_have_attribute("aria-pressed", "true")
        self.passes_axe("things")

    def test_what_is_unsure_is_asked_in_one_quick_round(self):
        first, second, third = self.labels[4:7]
        sheet = self.piece.sheet().with_part("regions", unsure=((first, second), (second, third)))
        keep_step(actor=self.ana, piece=self.piece, version=self.piece.version, what="Asked", sheet=sheet)
        page = self.open_piece(self.piece, "?section=regions&view=regions")
        page.get_by_role("button", name="Look through them").click()
        asked = page.get_by_role("group", name="Quick round")
        expect(asked).to_contain_text("Are these 2 alike?")
        page.keyboard.press("y")
        expect(asked).to_contain_text("Are these 3 alike?")
        asked.get_by_role("button", name="Later").click()
        expect(page.get_by_text("1 group may be alike.")).to_be_visible()
        page.get_by_role("button", name="Look through them").click()
        page.keyboard.press("n")
        expect(page.get_by_role("group", name="Quick round")).to_have_count(0)
        self.everything_is_kept()
        settings = Piece.objects.get(pk=self.piece.pk).sheet().regions.settings
        self.assertEqual(settings[first].thing, settings[second].thing)
        self.assertEqual(settings[third].thing, "")

    def test_what_each_thing_is_is_said_with_one_key(self):
        page = self.open_piece(self.piece, "?section=regions&view=regions")
        page.get_by_role("button", name="What is this?").click()
        asked = page.get_by_role("group", name="What is this?")
        first = asked.locator("b").inner_text()
        page.keyboard.press("5")
        expect(asked.locator("b")).not_to_have_text(first)
        second = asked.locator("b").inner_text()
        page.keyboard.press("s")
        expect(asked.locator("b")).not_to_have_text(second)
        self.passes_axe("what is this")
        asked.get_by_role("button", name="Later").click()
        self.everything_is_kept()
        tags = {
            tag for one in Piece.objects.get(pk=self.piece.pk).sheet().regions.settings.values() for tag in one.tags
        }
        self.assertEqual(tags, {TAGS[4]})

    def test_opening_light_shows_the_clay_under_the_lamp(self):
        self.open_piece(self.piece, "?section=regions")
        self.section("Light")
        self.picture_is_drawn("view=clay")

    def test_a_ramp_and_a_palette_go_over_whole_things(self):
        page = self.open_piece(self.piece, "?section=colours&view=coloured")
        self.click_picture(*self.at(self.labels[2]))
        expect(page.get_by_text(f"{self.name} (4)").first).to_be_visible()
        page.get_by_role("radiogroup", name="Ramps from the drawer").get_by_role("radio").first.click()
        self.everything_is_kept()
        settings = Piece.objects.get(pk=self.piece.pk).sheet().regions.settings
        self.assertEqual(len({settings[label].coats for label in self.labels[:4]}), 1)
        self.assertTrue(settings[self.labels[0]].coats)
        self.assertFalse(settings[self.labels[5]].coats)


class CloserTest(BrowserTest):
    def width(self) -> float:
        box = self.page.get_by_test_id("card").bounding_box()
        assert box
        return box["width"]

    def wider_than(self, width: float) -> None:
        self.page.wait_for_function(
            "(w) => document.querySelector('[data-testid=card]').getBoundingClientRect().width > w", arg=width
        )

    def test_wheel_keys_and_buttons_go_closer_and_nought_shows_the_whole(self):
        page = self.open_piece(make_piece(self.ana), "?section=light")
        whole = self.width()
        box = page.get_by_test_id("card").bounding_box()
        assert box
        page.mouse.move(box["x"] + 0.3 * box["width"], box["y"] + 0.3 * box["height"])
        page.mouse.wheel(0, -400)
        self.wider_than(1.3 * whole)
        after = page.get_by_test_id("card").bounding_box()
        assert after
        # What lies under the pointer stays there.
        self.assertAlmostEqual((box["x"] + 0.3 * box["width"] - after["x"]) / after["width"], 0.3, delta=0.01)
        page.keyboard.press("0")
        expect(page.get_by_role("button", name="100 %")).to_be_visible()
        page.keyboard.press("+")
        expect(page.get_by_role("button", name="140 %")).to_be_visible()
        page.get_by_role("button", name="Zoom in").click()
        expect(page.get_by_role("button", name="196 %")).to_be_visible()
        before = page.get_by_test_id("card").bounding_box()
        page.keyboard.press("ArrowRight")  # the button has the focus: arrows move the picture
        page.wait_for_function(
            "(x) => document.querySelector('[data-testid=card]').getBoundingClientRect().x < x - 10", arg=before["x"]
        )
        page.keyboard.press("-")
        page.keyboard.press("-")
        expect(page.get_by_role("button", name="100 %")).to_be_visible()
        self.assertAlmostEqual(self.width(), whole, delta=1)

    def test_dragging_moves_the_picture_and_takes_nothing_in_hand(self):
        page = self.open_piece(coloured(make_piece(self.ana)), "?section=regions&view=regions")
        page.keyboard.press("+")
        page.keyboard.press("+")
        before = page.get_by_test_id("card").bounding_box()
        assert before
        page.mouse.move(380, 380)
        page.mouse.down()
        page.mouse.move(330, 350, steps=5)
        page.mouse.up()
        after = page.get_by_test_id("card").bounding_box()
        assert after
        self.assertAlmostEqual(after["x"] - before["x"], -50, delta=3)
        self.assertEqual(page.locator('#part-regions button[aria-pressed="true"][data-holds]').count(), 0)

    def test_a_double_click_goes_up_to_the_thing(self):
        page = self.open_piece(make_piece(self.ana), "?section=regions&view=regions")
        whole = self.width()
        box = page.get_by_test_id("card").bounding_box()
        assert box
        page.mouse.dblclick(box["x"] + 0.25 * box["width"], box["y"] + 0.37 * box["height"])
        self.wider_than(1.2 * whole)
        self.passes_axe("looked at closely")

    def test_the_picture_takes_the_room_there_is(self):
        tall = np.full((660, 510, 3), 255, np.uint8)
        tall[60:600, 60:450] = 0
        tall[66:594, 66:444] = 255
        self.open_piece(make_piece(self.ana, "Tall", tall), "?section=light")
        box = self.page.get_by_test_id("card").bounding_box()
        assert box
        self.assertGreaterEqual(box["height"], 560)
