"""The card in the browser: sizes, crop, greeting, cutting and making, by mouse and by keyboard; the one page printed."""

from __future__ import annotations

import io
import re

import pypdf
from playwright.sync_api import expect

from server.pieces.models import Piece
from tests.browser.base import BrowserTest
from tests.server.builders import coloured, make_piece


class CardTest(BrowserTest):
    def spec(self, piece: Piece) -> dict:
        return Piece.objects.get(pk=piece.pk).current_sheet["card"]["spec"]

    def kept(self, holds) -> None:
        """Wait for what was done to be kept, and see that it was."""
        self.everything_is_kept()
        self.assertTrue(holds())

    def with_card(self) -> Piece:
        piece = coloured(make_piece(self.ana))
        page = self.open_piece(piece, "?section=card")
        page.get_by_role("button", name="Note card").click()
        expect(page.get_by_role("img", name="The finished card")).to_be_visible()
        return piece

    def test_a_size_is_chosen_and_the_crop_is_moved_by_mouse_and_by_keys(self):
        piece = self.with_card()
        page = self.page
        # The scan is wider than high: so is the card, and its fold is at the top.
        self.assertEqual(self.spec(piece)["base"]["width"], "5 1/2 in")
        expect(page.get_by_role("button", name="7 Card")).to_contain_text("5 1/2 in by 4 1/4 in")
        grip = page.get_by_role("button", name=re.compile("^Panel on the picture"))
        grip.focus()
        page.keyboard.press("ArrowRight")
        self.kept(lambda: self.spec(piece)["panel"]["crop_x"] is not None)
        first = self.spec(piece)["panel"]["crop_x"]
        box, card = grip.bounding_box(), page.get_by_test_id("card").bounding_box()
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.mouse.down()
        page.mouse.move(card["x"] + card["width"] * 0.5, card["y"] + card["height"] * 0.4, steps=4)
        page.mouse.up()
        self.kept(lambda: self.spec(piece)["panel"]["crop_x"] != first)
        # Half the scan's width of 2.4 in, to a sixteenth.
        self.assertEqual(self.spec(piece)["panel"]["crop_x"], "1 3/16 in", first)
        page.get_by_role("button", name="Centre on the figure").click()
        self.kept(lambda: self.spec(piece)["panel"]["crop_x"] != "1 3/16 in")
        page.get_by_role("button", name="Undo").click()
        self.kept(lambda: self.spec(piece)["panel"]["crop_x"] == "1 3/16 in")
        self.passes_axe("card section")

    def test_numbers_are_typed_over_where_they_stand(self):
        piece = self.with_card()
        page = self.page
        page.get_by_role("link", name="Layers, cutting and making").click()
        width = page.get_by_label("Width of the card")
        expect(width).to_have_value("5 1/2")
        width.fill("6¼")
        width.press("Enter")
        self.kept(lambda: self.spec(piece)["base"]["width"] == "6 1/4 in")
        expect(page.get_by_role("row").filter(has_text="Picture").filter(has_text="6 in").first).to_be_visible()
        width.fill("4 1/0")
        width.press("Enter")
        expect(page.get_by_text("has a fraction over nought").first).to_be_visible()
        self.assertEqual(self.spec(piece)["base"]["width"], "6 1/4 in")
        width.press("Escape")
        expect(width).to_have_value("6 1/4")
        page.get_by_role("button", name="Show in centimetres").click()
        expect(width).to_have_value("15.875")
        width.fill("16")
        width.press("Enter")
        self.kept(lambda: self.spec(piece)["base"]["width"] == "160 mm")
        page.reload()
        expect(page.get_by_label("Width of the card")).to_have_value("16")
        self.passes_axe("card page")

    def test_layers_greeting_inside_and_cut_outs(self):
        piece = self.with_card()
        page = self.page
        page.goto(f"{self.live_server_url}/pieces/{piece.pk}/card")
        page.get_by_role("button", name="Add a mat").click()
        expect(page.get_by_role("row").filter(has_text="Mat").filter(has_text="5 1/4 in")).to_be_visible()
        page.get_by_role("button", name="Add a greeting").click()
        words = page.get_by_label("Words", exact=True)
        words.fill("Good night")
        words.press("Enter")
        self.kept(lambda: (self.spec(piece)["greeting"] or {}).get("text") == "Good night")
        grip = page.get_by_role("button", name=re.compile("^Greeting on the front"))
        before = self.spec(piece)["greeting"]["y"]
        grip.focus()
        page.keyboard.press("Shift+ArrowUp")
        self.kept(lambda: self.spec(piece)["greeting"]["y"] != before)
        page.get_by_role("button", name="Write inside").click()
        page.get_by_label("Words inside").fill("Sleep well")
        page.get_by_label("Words inside").blur()
        self.kept(lambda: (self.spec(piece)["inside"] or {}).get("text") == "Sleep well")
        page.get_by_role("button", name="Inside", exact=True).click()
        expect(page.get_by_role("figure", name="The card laid open, to scale")).to_contain_text("Sleep well")
        page.get_by_role("button", name="Cut it out").click()
        self.kept(lambda: len(self.spec(piece)["cutouts"]) == 1)
        page.get_by_role("button", name="From the side").click()
        expect(page.get_by_role("figure", name="The card from the side")).to_contain_text("foam under")
        page.get_by_role("button", name="Finished").click()
        expect(page.get_by_role("img", name=re.compile("the finished card"))).to_be_visible()

    def test_a_warning_is_mended_with_one_click(self):
        piece = self.with_card()
        page = self.page
        page.goto(f"{self.live_server_url}/pieces/{piece.pk}/card")
        page.get_by_role("button", name="A size of its own").click()
        width = page.get_by_label("Picture: width")
        expect(width).to_have_value("5 1/4")
        width.fill("7")
        width.press("Enter")
        warnings = page.get_by_role("list", name="What to look at")
        expect(warnings).to_contain_text("Picture is larger than base")
        warnings.get_by_role("button", name=re.compile("show all round")).click()
        expect(warnings).not_to_contain_text("Picture is larger than base")

    def test_cutting_and_making(self):
        piece = self.with_card()
        page = self.page
        page.goto(f"{self.live_server_url}/pieces/{piece.pk}/card")
        cutting = page.get_by_role("region", name="Cutting")
        expect(cutting).to_contain_text("1 sheet, and no plan takes fewer")
        expect(cutting).to_contain_text("buy 1")
        cards = cutting.get_by_label("Cards")
        cards.fill("5")
        cards.press("Enter")
        expect(cutting).to_contain_text("3 sheets, and no plan takes fewer")
        cards = cutting.get_by_label("Cards")
        cards.fill("10000")
        cards.press("Enter")
        expect(page.get_by_text("less than or equal to 1000")).to_be_visible()
        expect(cards).to_have_value("5")
        cutting.get_by_text(re.compile(r"^\d cuts? in order$")).first.click()
        expect(cutting.get_by_text(re.compile("^Set to")).first).to_be_visible()
        making = page.get_by_role("region", name="Order of making")
        later = making.get_by_role("button", name="Let everything dry: later")
        later.focus()
        page.keyboard.press("Enter")
        expect(making.get_by_role("list", name="What speaks against this order")).to_contain_text(
            "smears under the ruler"
        )
        making.get_by_role("button", name="Back to Paleta’s order").click()
        expect(making.get_by_role("list", name="What speaks against this order")).to_have_count(0)

    def test_another_pieces_card_is_matched(self):
        self.with_card()
        other = make_piece(self.ana, "Second")
        page = self.open_piece(other, "?section=card")
        # Before any size is chosen, and again once it has another one.
        page.get_by_role("button", name="Match").click()
        expect(page.get_by_role("button", name="7 Card")).to_contain_text("5 1/2 in by 4 1/4 in")
        page.get_by_role("link", name="Layers, cutting and making").click()
        page.get_by_label("Size, folded").select_option("5x7")
        expect(page.get_by_label("Width of the card")).to_have_value("7")
        page.get_by_role("button", name="Match").click()
        expect(page.get_by_label("Width of the card")).to_have_value("5 1/2")
        self.kept(lambda: self.spec(other)["base"]["width"] == "5 1/2 in")

    def test_files_come_down(self):
        piece = self.with_card()
        page = self.page
        page.goto(f"{self.live_server_url}/pieces/{piece.pk}/card")
        with page.expect_download() as download:
            page.get_by_role("link", name="Drawings, cuts and making as PDF").click()
        reader = pypdf.PdfReader(io.BytesIO(download.value.path().read_bytes()))
        self.assertIn("Ball and box", reader.pages[0].extract_text())


class OnePageTest(BrowserTest):
    def test_the_print_view_is_one_page_and_its_text_is_copied(self):
        piece = coloured(make_piece(self.ana))
        self.context.grant_permissions(["clipboard-read", "clipboard-write"])
        page = self.open_piece(piece, "?section=colours")
        page.goto(f"{self.live_server_url}/pieces/{piece.pk}/print")
        expect(page.get_by_role("heading", name="Swatches as measured: L* a* b*, D65")).to_be_visible()
        page.wait_for_load_state("networkidle")
        printed = pypdf.PdfReader(io.BytesIO(page.pdf(format="Letter", margin={"top": "0.4in", "bottom": "0.4in"})))
        self.assertEqual(len(printed.pages), 1)
        page.get_by_role("button", name="Copy as text").click()
        expect(page.get_by_text("are on the clipboard")).to_be_visible()
        self.assertIn("Pens per part, palest first", page.evaluate("navigator.clipboard.readText()"))
        with page.expect_download() as download:
            page.get_by_role("link", name="As PDF").click()
        reader = pypdf.PdfReader(io.BytesIO(download.value.path().read_bytes()))
        self.assertEqual(len(reader.pages), 1)
