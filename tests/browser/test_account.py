"""The account's own screen: a backup out and in again, another password, keys turned off; and a screen that breaks."""

from __future__ import annotations

import json
import zipfile
from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import Page, expect

from server.accounts import throttle
from server.accounts.models import DemoAccount
from server.accounts.visits import DEMO_USERNAME
from server.backup.services import write_backup
from server.backup.tidy import tidy
from server.files import store
from server.pieces.models import Piece
from tests.browser.base import WORD, BrowserTest
from tests.server.builders import coloured, make_piece, make_user


class AccountTest(BrowserTest):
    def open_account(self) -> Page:
        self.already_signed_in()
        self.page.goto(f"{self.live_server_url}/account")
        expect(self.page.get_by_role("heading", name="Account of ana")).to_be_visible()
        return self.page

    def restore(self, data: bytes) -> None:
        file = {"name": "backup.zip", "mimeType": "application/zip", "buffer": data}
        self.page.get_by_label("Backup file").set_input_files([file])

    def test_a_piece_deleted_by_mistake_comes_back_from_the_backup(self):
        coloured(make_piece(self.ana))
        page = self.open_account()
        with page.expect_download() as caught:
            page.get_by_role("link", name="Save a backup").click()
        with TemporaryDirectory() as folder:
            place = Path(folder) / caught.value.suggested_filename
            caught.value.save_as(place)
            data = place.read_bytes()
            self.assertIn("manifest.json", zipfile.ZipFile(place).namelist())
        Piece.objects.all().delete()
        self.restore(data)
        expect(page.get_by_text("Brought back: 1 piece.")).to_be_visible()
        expect(page.get_by_text("Here already: 5 drawers.")).to_be_visible()
        page.get_by_role("link", name="Shelf").click()
        page.get_by_role("link", name="Ball and box").click()
        self.picture_is_drawn()
        expect(page.get_by_role("listbox", name="Passes in order")).to_be_visible()

    def test_what_lies_here_is_shown_and_what_is_lost_is_said_before_a_backup(self):
        piece = make_piece(self.ana)
        page = self.open_account()
        expect(page.get_by_role("region", name="What lies here")).to_contain_text("1 piece of at most 20,000")
        expect(page.get_by_text("Left out")).to_have_count(0)
        # The file alone goes, as by a hand in the media folder; other tests stand on the same one.
        data = store.fetch(piece.regions_sha256)
        store.place_of(piece.regions_sha256).unlink()
        self.addCleanup(store.keep, data)
        tidy(by_the_server=False)
        page.reload()
        expect(page.get_by_text("Left out, since their pictures are gone from the disk: Ball and box.")).to_be_visible()
        expect(page.get_by_role("region", name="What lies here")).to_contain_text("Housekeeping, once a day")

    def test_a_copy_of_the_demo_says_that_it_goes(self):
        DemoAccount.objects.create(user=make_user(DEMO_USERNAME))
        throttle.counts().clear()
        self.page.goto(self.live_server_url)
        self.page.get_by_role("button", name="Open the demo bench").click()
        expect(self.page.get_by_text("it goes a day after you last used it")).to_be_visible()
        self.page.get_by_role("link", name="Account").click()
        expect(self.page.get_by_role("heading", name=f"Account of {DEMO_USERNAME}")).to_be_visible()
        expect(self.page.get_by_role("region", name="A copy of the demo")).to_be_visible()
        expect(self.page.get_by_role("region", name="Another password")).to_have_count(0)

    def test_a_damaged_backup_says_so_and_brings_nothing(self):
        other = make_user("ben")
        make_piece(other)
        whole = b"".join(write_backup(other))
        page = self.open_account()
        for data, words in ((b"no zip", "not a backup"), (whole[: len(whole) // 2], "cut off"), (b"", "not a backup")):
            self.restore(data)
            expect(page.get_by_role("alert")).to_contain_text(words)
        self.assertFalse(Piece.objects.owned_by(self.ana).exists())
        self.restore(whole)
        expect(page.get_by_text("Brought back: 1 piece.")).to_be_visible()
        expect(page.get_by_role("alert")).to_have_count(0)

    def test_a_password_is_changed_and_the_new_one_signs_in(self):
        page = self.open_account()
        now, new = page.get_by_label("The one you have now"), page.get_by_label("The new one")
        for old, fresh, words in (("guessed", "another-quiet-word", "not the password"), (WORD, "short", "too short")):
            now.fill(old)
            new.fill(fresh)
            page.get_by_role("button", name="Change it").click()
            expect(page.get_by_role("alert")).to_contain_text(words)
        now.fill(WORD)
        new.fill("another-quiet-word")
        page.get_by_role("button", name="Change it").click()
        expect(page.get_by_text("The password is changed.")).to_be_visible()
        page.get_by_role("button", name="Sign out").click()
        page.get_by_label("Name").fill("ana")
        page.get_by_label("Password").fill("another-quiet-word")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("heading", name="Shelf", exact=True)).to_be_visible()

    def test_single_keys_can_be_turned_off_and_stay_off(self):
        # [WCAG22], 2.1.4.
        page = self.open_piece(coloured(make_piece(self.ana)), "?view=coloured")
        page.keyboard.press("3")
        self.picture_is_drawn("view=values")
        page.get_by_role("link", name="Account").click()
        page.get_by_label("Single keys do something by themselves").uncheck()
        self.passes_axe("account")
        page.get_by_role("link", name="Bench").click()
        self.picture_is_drawn("view=coloured")
        page.keyboard.press("3")
        page.wait_for_timeout(300)
        expect(page.locator('canvas[data-shown*="view=coloured"]')).to_be_visible()
        page.reload()
        self.picture_is_drawn("view=coloured")
        page.keyboard.press("3")
        page.wait_for_timeout(300)
        expect(page.locator('canvas[data-shown*="view=coloured"]')).to_be_visible()


class BrokenScreenTest(BrowserTest):
    def test_a_screen_that_breaks_says_so_and_leads_back(self):
        piece = make_piece(self.ana)
        self.already_signed_in()
        address = f"**/api/v1/pieces/{piece.pk}/"
        self.page.route(address, lambda route: route.fulfill(status=200, body=json.dumps({"id": piece.pk})))
        self.page.goto(f"{self.live_server_url}/pieces/{piece.pk}")
        expect(self.page.get_by_role("alert")).to_contain_text("broke")
        self.passes_axe("broken screen")
        self.page.get_by_role("link", name="Shelf").first.click()
        expect(self.page.get_by_role("link", name="Ball and box")).to_be_visible()
        self.page.get_by_role("link", name="Ball and box").click()
        expect(self.page.get_by_role("alert")).to_contain_text("broke")
        self.page.unroute(address)
        self.page.get_by_role("button", name="Try again").click()
        self.picture_is_drawn()
