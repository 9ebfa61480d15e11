"""Where things stand: the lamp on its track, and screens of several sizes."""

from __future__ import annotations

import math

from playwright.sync_api import expect

from tests.browser.base import BrowserTest
from tests.server.builders import coloured, make_piece


class LampPlaceTest(BrowserTest):
    def place(self) -> tuple[float, float, float]:
        """The drawn lamp's direction from the middle of the card in degrees, its distance, and the card's half height."""
        lamp, card = (self.page.get_by_test_id(name).bounding_box() for name in ("lamp", "card"))
        dx = lamp["x"] + lamp["width"] / 2 - card["x"] - card["width"] / 2
        dy = lamp["y"] + lamp["height"] / 2 - card["y"] - card["height"] / 2
        return math.degrees(math.atan2(dx, -dy)) % 360, math.hypot(dx, dy), card["height"] / 2

    def settled(self, azimuth: float) -> float:
        """How many degrees off the lamp stands once it is drawn where it belongs, or after two seconds if it never is:
        the slider shows its value before the picture does."""
        for _ in range(40):
            found, _, _ = self.place()
            off = min(abs(found - azimuth), 360 - abs(found - azimuth))
            if off < 1.5:
                break
            self.page.wait_for_timeout(50)
        return off

    def test_the_lamp_stands_where_its_direction_says_and_always_beside_the_card(self):
        page = self.open_piece(make_piece(self.ana))
        slider = page.get_by_role("slider", name="Lamp direction")
        card = page.get_by_test_id("card").bounding_box()
        for azimuth in (0, 45, 120, 200, 270, 330):
            slider.fill(str(azimuth))
            expect(slider).to_have_value(str(azimuth))
            with self.subTest(azimuth=azimuth):
                self.assertLess(self.settled(azimuth), 1.5)
                lamp = page.get_by_test_id("lamp").bounding_box()
                x, y = lamp["x"] + lamp["width"] / 2, lamp["y"] + lamp["height"] / 2
                inside = card["x"] < x < card["x"] + card["width"] and card["y"] < y < card["y"] + card["height"]
                self.assertFalse(inside)

    def test_a_higher_lamp_stands_nearer_to_the_card(self):
        page = self.open_piece(make_piece(self.ana))
        slider = page.get_by_role("slider", name="Lamp direction")
        slider.focus()
        _, low, _ = self.place()
        for _ in range(6):
            page.keyboard.press("Shift+ArrowUp")
        expect(page.get_by_text("70° high", exact=True)).to_be_visible()
        _, high, _ = self.place()
        self.assertLess(high, low - 5)

    def test_a_click_on_the_track_brings_the_lamp_there(self):
        page = self.open_piece(make_piece(self.ana))
        card = page.get_by_test_id("card").bounding_box()
        page.mouse.click(card["x"] + card["width"] / 2, card["y"] + card["height"] + 30)
        expect(page.get_by_role("slider", name="Lamp direction")).to_have_value("180")


class SizeTest(BrowserTest):
    def overflow(self) -> int:
        return self.page.evaluate("document.documentElement.scrollWidth - document.documentElement.clientWidth")

    def test_no_screen_scrolls_sideways_at_1024_and_the_shelf_fits_a_phone(self):
        piece = coloured(make_piece(self.ana))
        page = self.open_piece(piece, "?section=colours")
        page.set_viewport_size({"width": 1024, "height": 768})
        for address in (
            f"/pieces/{piece.pk}",
            f"/pieces/{piece.pk}/print",
            f"/pieces/{piece.pk}/card",
            "/drawers",
            "/",
        ):
            page.goto(self.live_server_url + address)
            page.wait_for_load_state("networkidle")
            with self.subTest(address=address):
                self.assertLessEqual(self.overflow(), 0)
        page.set_viewport_size({"width": 390, "height": 800})
        page.goto(self.live_server_url)
        expect(page.get_by_role("link", name="Ball and box")).to_be_visible()
        self.assertLessEqual(self.overflow(), 0)

    def test_the_card_grows_with_the_window(self):
        page = self.open_piece(make_piece(self.ana))
        small = page.get_by_test_id("card").bounding_box()
        page.set_viewport_size({"width": 1800, "height": 1100})
        expect(page.get_by_test_id("card")).to_be_visible()
        page.wait_for_function(
            "width => document.querySelector('[data-testid=card]').clientWidth > width", arg=small["width"] + 50
        )
