"""Every screen: reachable, readable by machine, and honest about what goes wrong."""

from __future__ import annotations

import json
import threading
from typing import Any
from unittest.mock import patch

import cv2
import numpy as np
import skimage.data
from playwright.sync_api import expect

from server.derived import worker
from server.pieces.models import Piece
from server.pieces.shelf import services as pieces
from server.recipes.services import export_recipe, keep_recipe
from tests.browser.base import BrowserTest
from tests.builders import as_file, line_drawing
from tests.server.builders import coloured, make_piece, make_user


class AccessTest(BrowserTest):
    def test_every_screen_passes_axe(self):
        piece = coloured(make_piece(self.ana))
        self.page.goto(self.live_server_url)
        expect(self.page.get_by_role("button", name="Sign in")).to_be_visible()
        self.passes_axe("sign-in")
        self.sign_in()
        expect(self.page.get_by_role("link", name="Ball and box")).to_be_visible()
        self.passes_axe("shelf")
        self.page.goto(f"{self.live_server_url}/drawers")
        expect(self.page.get_by_role("heading", name="Marker drawer")).to_be_visible()
        self.passes_axe("drawer")
        self.page.goto(f"{self.live_server_url}/pieces/{piece.pk}")
        expect(self.page.get_by_role("listbox", name="Passes in order")).to_be_visible()
        self.click_picture(0.25, 0.37)
        for section in ("stamp", "regions", "light", "colours", "order", "finish", "card"):
            if self.page.locator(f"#part-{section}").count() == 0:
                self.section(section)
            self.passes_axe(section)
        self.page.goto(f"{self.live_server_url}/pieces/{piece.pk}/print")
        expect(self.page.get_by_role("heading", name="Ramps, palest first")).to_be_visible()
        self.passes_axe("one page")
        self.page.get_by_role("link", name="In full, pass by pass").click()
        expect(self.page.get_by_role("heading", name="Passes in order")).to_be_visible()
        self.passes_axe("print in full")


class BusyTest(BrowserTest):
    def test_whoever_waits_long_is_told_how_much_is_in_line(self):
        page, go_on = self.sign_in(), threading.Event()
        look = pieces.look

        def slow(data: bytes) -> Any:
            go_on.wait(30)
            return look(data)

        in_line = patch.object(worker, "in_line", return_value=5)
        with in_line, patch.object(pieces, "look", slow):
            page.get_by_role("button", name="Add a stamped image").click()
            scan = {"name": "owl.png", "mimeType": "image/png", "buffer": as_file(line_drawing())}
            page.get_by_label("Scan or photo").set_input_files(scan)
            told = page.get_by_text("It is busy: 4 other tasks are in line. Yours goes on by itself.")
            expect(told).to_be_visible()
            go_on.set()
            expect(told).to_be_hidden()


class BadInputTest(BrowserTest):
    def test_bad_pictures_are_refused_where_the_user_is(self):
        page = self.sign_in()
        whole = as_file(line_drawing())
        page.get_by_role("button", name="Add a stamped image").click()
        page.get_by_role("button", name="Find the regions").click()
        expect(page.get_by_role("alert")).to_contain_text("Choose a scan or photo first")
        page.get_by_role("button", name="Cancel").click()
        for data, width, words in (
            (b"", "2", "empty"),
            (b"words, not pixels", "2", "not a PNG"),
            (whole[:700], "2", "cut short"),
            (whole, "", "Give the width"),
            (whole, "wide", "is no width"),
            (as_file(np.full((300, 300), 255, np.uint8)), "2", "looks blank"),
            (as_file(np.zeros((300, 300), np.uint8)), "2", "almost black"),
        ):
            self.add_by_hand("bad.png", data, width)
            expect(page.get_by_role("alert")).to_contain_text(words)
            page.get_by_role("button", name="Cancel").click()
        self.reload()
        expect(page.get_by_text("Your shelf is empty")).to_be_visible()

    def test_a_picture_of_which_nothing_is_found_is_read_otherwise_where_it_lies(self):
        page = self.sign_in()
        broken = np.full((300, 300), 255, np.uint8)
        cv2.rectangle(broken, (60, 60), (240, 240), 0, 4)
        broken[50:70, 140:158] = 255  # 3 mm of the upper side are missing
        self.add_by_hand("open.png", as_file(broken), "2")
        expect(page.get_by_role("alert")).to_contain_text("No closed region was found")
        expect(page.get_by_alt_text("As it was read")).to_be_visible()
        gaps = page.get_by_role("slider", name="Close gaps up to")
        gaps.fill("2")
        gaps.blur()
        page.get_by_role("button", name="Find the regions").click()
        expect(page.get_by_role("list", name="Regions").get_by_role("listitem")).to_have_count(1)
        piece = Piece.objects.get()
        self.assertEqual((piece.sheet().regions.gap_mm, piece.sheet().regions.sensitivity), (2.0, 0.0))

    def test_a_wrong_recipe_file_is_refused_in_a_sentence(self):
        piece = coloured(make_piece(self.ana))
        keep_recipe(actor=self.ana, piece=piece, version=piece.version)
        plain = json.loads(export_recipe(actor=self.ana, record=piece.recipes.get()))
        page = self.sign_in()
        for change, words in (
            ({"format_version": 9}, "format version 9"),
            ({"plan": 7}, "plan"),
            ({"format": "else"}, "not a Paleta recipe"),
        ):
            data = json.dumps(plain | change).encode()
            page.get_by_label("Recipe file").set_input_files(
                [{"name": "r.json", "mimeType": "application/json", "buffer": data}]
            )
            expect(page.get_by_role("alert").filter(has_text=words)).to_be_visible()
        expect(page.get_by_role("link", name="Ball and box")).to_have_count(1)

    def test_another_users_piece_is_not_there(self):
        other = make_piece(make_user("ben"))
        page = self.sign_in()
        page.goto(f"{self.live_server_url}/pieces/{other.pk}")
        expect(page.get_by_role("alert")).to_contain_text("not yours")

    def test_a_wrong_password_is_said_and_a_new_account_is_led_to_its_first_image(self):
        page = self.page
        page.goto(self.live_server_url)
        page.get_by_label("Name").fill("ana")
        page.get_by_label("Password").fill("guess")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("alert")).to_contain_text("do not fit together")
        page.get_by_role("button", name="I am new here").click()
        page.get_by_label("Name").fill("cleo")
        page.get_by_label("Password").fill("a-quiet-lantern")
        page.get_by_role("button", name="Open an account").click()
        expect(page.get_by_role("button", name="Add your first stamped image")).to_be_visible()
        page.get_by_role("button", name="Sign out").click()
        expect(page.get_by_role("button", name="Sign in")).to_be_visible()


class DrawerTest(BrowserTest):
    def test_arrow_keys_walk_the_map_and_the_card_follows(self):
        page = self.sign_in()
        page.get_by_role("link", name="Drawer").click()
        card = page.get_by_role("complementary", name="Chosen swatch")
        expect(card).to_contain_text("Rose 11")
        page.get_by_role("button", name="Rose 11").focus()
        page.keyboard.press("ArrowDown")
        expect(card).to_contain_text("Rose 12")
        page.keyboard.press("ArrowRight")
        expect(card).to_contain_text("Brick 18")
        page.get_by_role("link", name="Paint box").click()
        expect(page.get_by_role("heading", name="Paint box")).to_be_visible()


class ShelfTest(BrowserTest):
    def test_a_piece_is_deleted_only_when_that_is_meant(self):
        make_piece(self.ana)
        page = self.sign_in()
        page.get_by_role("button", name="Delete Ball and box").click()
        question = page.get_by_role("dialog")
        expect(question).to_contain_text("its kept recipes go")
        question.get_by_role("button", name="Keep it").click()
        expect(page.get_by_role("link", name="Ball and box")).to_be_visible()
        page.get_by_role("button", name="Delete Ball and box").click()
        page.keyboard.press("Escape")
        expect(question).to_have_count(0)
        expect(page.get_by_role("link", name="Ball and box")).to_be_visible()
        page.get_by_role("button", name="Delete Ball and box").click()
        page.get_by_role("dialog").get_by_role("button", name="Delete").click()
        expect(page.get_by_text("Your shelf is empty")).to_be_visible()

    def test_a_photo_of_something_else_is_taken_in_with_a_doubt(self):
        page = self.sign_in()
        self.add_by_hand("coins.png", as_file(skimage.data.coins()), "4")
        expect(page.locator("#part-regions")).to_be_visible()
        expect(page.get_by_text("neither bare paper nor line").first).to_be_visible()
        self.section("Stamp")
        expect(page.locator("#part-stamp").get_by_text("neither bare paper nor line")).to_be_visible()
