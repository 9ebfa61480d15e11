"""Cards over the API: the spec kept and versioned, laid out, cut, drawn, matched; the one page as PDF and text."""

from __future__ import annotations

import io

import pypdf
from PIL import Image

from server.pieces.models import Piece
from server.pieces.steps import undo
from tests.server.base import ApiTestCase
from tests.server.builders import make_piece

LETTER = {"name": "White", "width": "8.5 in", "height": "11 in", "grain": "long", "gsm": 300, "owned": 1}
SPEC = {
    "base": {"width": "4¼ in", "height": '5-1/2"', "stock": "White"},
    "mats": [{"reveal": "1/8 in"}],
    "greeting": {"text": "With love", "x": "1/2 in", "y": "4 1/2 in"},
    "inside": {"text": "Dear all"},
    "stock": [LETTER],
}


class CardTest(ApiTestCase):
    def keep(self, spec=None):
        response = self.change("card", {"spec": SPEC if spec is None else spec})
        self.assertEqual(response.status_code, 200, response.content[:400])
        return response.json()["card"]["spec"]

    def get(self, path: str):
        return self.send("get", f"pieces/{self.piece.pk}/{path}")

    def test_what_people_write_is_kept_exactly_and_filled_in(self):
        spec = self.keep()
        self.assertEqual((spec["base"]["width"], spec["base"]["height"]), ("4 1/4 in", "5 1/2 in"))
        self.assertEqual(spec["panel"]["reveal"], "1/8 in")
        self.assertEqual(spec["cards"], 1)
        # Sent back as it came, nothing changes.
        version = Piece.objects.get(pk=self.piece.pk).version
        self.keep(spec)
        self.assertEqual(Piece.objects.get(pk=self.piece.pk).version, version)

    def test_a_weight_is_given_as_paper_is_sold(self):
        spec = self.keep({**SPEC, "stock": [{**LETTER, "gsm": "110 lb cover"}]})
        self.assertEqual(spec["stock"][0]["gsm"], 297.5)
        self.assertIn("110 lb", self.get("card-plan/").json()["laid"]["weights"][0]["said"])
        heavy = self.change("card", {"spec": {**SPEC, "stock": [{**LETTER, "gsm": "110 stone"}]}})
        self.assertProblem(heavy, 422, "invalid_fields", "is no weight of paper")

    def test_it_is_a_step_that_can_be_undone_and_stands_on_the_shelf(self):
        self.assertFalse(self.send("get", "pieces/").json()["results"][0]["has_card"])
        self.keep()
        self.assertTrue(self.send("get", "pieces/").json()["results"][0]["has_card"])
        piece = Piece.objects.get(pk=self.piece.pk)
        self.assertIn("The card: 4 1/4 in by 5 1/2 in", piece.steps.last().what)
        undo(actor=self.ana, piece=piece, version=piece.version)
        self.assertIsNone(self.get("").json()["card"]["spec"])
        self.assertFalse(Piece.objects.get(pk=self.piece.pk).has_card)

    def test_impossible_sizes_are_refused_where_they_stand(self):
        for change, words in (
            ({"base": {"width": "4 1/0 in", "height": "5 in"}}, "over nought"),
            ({"base": {"width": "0 in", "height": "5 in"}}, "must lie between"),
            ({"base": {"width": "-1 in", "height": "5 in"}}, "must lie between"),
            ({"base": {"width": "900 in", "height": "5 in"}}, "must lie between"),
            ({"base": {"width": "4", "height": "5 in"}}, "needs a unit"),
            ({"base": {"width": 4.25, "height": "5 in"}}, "written as text"),
            ({"base": {"width": "wide", "height": "5 in"}}, "is no length"),
            ({"cards": 10_000}, "1000"),
            ({"stock": [{**LETTER, "colour": "red"}]}, "colour"),
            ({"making": ["fly"]}, "making"),
            ({"mats": [{}] * 5}, "mats"),
            ({"cutouts": [{"name": "Sun", "regions": [0]}]}, "cutouts"),
            ({"stock": [{**LETTER, "name": " "}]}, "name"),
            ({"envelope": "brown"}, "envelope"),
            ({"base": None}, "base"),
        ):
            with self.subTest(change=str(change)[:60]):
                self.assertProblem(self.change("card", {"spec": {**SPEC, **change}}), 422, "invalid_fields", words)
        self.assertProblem(self.change("card", {"spec": {**SPEC, "stock": []}}), 422, "card_impossible", "White")
        lines = {**SPEC, "greeting": {"text": "two\nlines"}}
        self.assertProblem(self.change("card", {"spec": lines}), 422, "card_impossible", "stands on one line")
        self.assertIsNone(self.get("").json()["card"]["spec"])

    def test_without_a_size_there_is_nothing_to_cut(self):
        self.assertIsNone(self.get("card-plan/").json()["laid"])
        self.assertProblem(self.get("cutting/"), 409, "no_card", "choose its base")

    def test_everything_is_laid_out(self):
        self.keep()
        laid = self.get("card-plan/").json()["laid"]
        self.assertEqual([one["name"] for one in laid["layers"]], ["Base", "Mat", "Picture"])
        panel = laid["layers"][-1]["place"]
        self.assertEqual((panel["width"]["inches"], panel["height"]["inches"]), ("3 3/4", "5"))
        self.assertEqual(panel["width"]["mm"], "95.25")
        self.assertEqual([one["exact"] for one in laid["scores"]], ["4 1/4 in"])
        # The scan of 61 by 51 mm is smaller than the panel: said, with no remedy.
        self.assertIn("off the scan", [one["code"] for one in laid["warnings"]])
        self.assertEqual({one["at"]: one["length"]["exact"] for one in laid["sizes"]}["mats.0.reveal"], "1/8 in")
        self.assertEqual(laid["conflicts"], [])

    def test_a_remedy_sent_back_mends(self):
        self.keep({**SPEC, "panel": {"width": "6 in", "height": "5 in"}})
        warning = next(one for one in self.get("card-plan/").json()["laid"]["warnings"] if one["code"] == "hangs over")
        self.keep(warning["mended"])
        codes = [one["code"] for one in self.get("card-plan/").json()["laid"]["warnings"]]
        self.assertNotIn("hangs over", codes)

    def test_the_cutting_plan_says_what_to_buy(self):
        self.keep()
        plan = self.get("cutting/?cards=24").json()
        (need,) = plan["needs"]
        self.assertEqual(need["buy"], need["used"] - 1)
        self.assertEqual(plan["cards"], 24)
        self.assertGreaterEqual(need["used"], need["bound"])
        pieces = sum(sheet["count"] * len(sheet["pieces"]) for sheet in plan["sheets"])
        self.assertEqual(pieces, 24 * 4)
        for words in ("0", "10000", "many", "²", "1e9"):
            with self.subTest(cards=words):
                self.assertEqual(self.get(f"cutting/?cards={words}").status_code, 422)

    def test_a_piece_larger_than_its_sheet_is_said(self):
        self.keep({**SPEC, "stock": [{**LETTER, "width": "3 in", "height": "3 in"}]})
        self.assertProblem(self.get("cutting/"), 422, "card_impossible", "does not go on a sheet")
        # All else is still shown and drawn.
        self.assertEqual(self.get("card-plan/").status_code, 200)
        pages = pypdf.PdfReader(io.BytesIO(self.get("card.pdf/").content)).pages
        self.assertIn("does not go on a sheet", " ".join(page.extract_text() for page in pages))

    def test_cards_of_odd_shapes_are_drawn_in_bounds(self):
        for width, height in (("1/16 in", "40 in"), ("40 in", "1/16 in"), ("40 in", "40 in"), ("1/16 in", "1/16 in")):
            self.keep({**SPEC, "base": {"width": width, "height": height}})
            look = Image.open(io.BytesIO(self.get("card-look/?width_px=200").content))
            with self.subTest(width=width, height=height):
                self.assertLessEqual(max(look.size), 3 * 200 + 16)
                for path in ("card.pdf/", "card.svg/", "one-page.pdf/"):
                    self.assertEqual(self.get(path).status_code, 200)

    def test_a_version_keeps_its_card_and_says_what_changed(self):
        self.keep()
        self.change("recipes", method="post")
        self.keep({**SPEC, "base": {**SPEC["base"], "width": "5 in", "height": "7 in"}})
        self.change("recipes", method="post")
        lines = self.send("get", f"pieces/{self.piece.pk}/recipes/").json()
        self.assertIn("Card: 4 1/4 in by 5 1/2 in", lines[1]["changes"][0])
        self.assertIn("became 5 in by 7 in", lines[1]["changes"][0])
        first = self.get("card-plan/?recipe=1").json()["laid"]
        self.assertEqual(first["layers"][0]["place"]["width"]["exact"], "4 1/4 in")
        self.assertEqual(self.get("card-plan/?recipe=7").status_code, 404)

    def test_the_order_of_making_stands_in_the_plan(self):
        self.assertEqual(self.get("plan/").json()["making"], [])
        self.keep({**SPEC, "making": ["panel", "write"]})
        steps = [one["code"] for one in self.get("plan/").json()["making"]]
        self.assertLess(steps.index("panel"), steps.index("write"))
        conflicts = self.get("card-plan/").json()["laid"]["conflicts"]
        self.assertIn(("write", "panel"), {(one["before"], one["after"]) for one in conflicts})

    def test_it_is_read_at_the_end_of_colouring_along(self):
        self.keep()
        self.change("recipes", method="post")
        run = self.change("start-run", {"cards": 1}, method="post").json()
        steps = self.send("get", f"runs/{run['id']}/").json()["making"]
        self.assertEqual(steps[0]["name"], "Write and stamp the inside")

    def test_another_pieces_card_is_matched_with_the_figure_in_the_same_place(self):
        self.keep()
        other = make_piece(self.ana, "Second")
        answer = self.send("put", f"pieces/{other.pk}/card-like/", {"piece": self.piece.pk}, other.version)
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        first, second = (self.send("get", f"pieces/{pk}/card-plan/").json()["laid"] for pk in (self.piece.pk, other.pk))
        self.assertEqual(second["layers"], first["layers"])
        # It is the same picture: the same crop, to a hundredth of a millimetre.
        self.assertEqual(second["crop"], first["crop"])
        bens = make_piece(self.ben, "Ben's")
        fresh = Piece.objects.get(pk=other.pk)
        refused = self.send("put", f"pieces/{other.pk}/card-like/", {"piece": bens.pk}, fresh.version)
        self.assertEqual(refused.status_code, 404)

    def test_files_are_what_they_say(self):
        self.keep()
        pdf = self.get("card.pdf/?unit=mm&paper=a4")
        reader = pypdf.PdfReader(io.BytesIO(pdf.content))
        self.assertAlmostEqual(float(reader.pages[0].mediabox.width), 595.3, delta=0.2)
        self.assertIn("107.95 mm", reader.pages[0].extract_text())
        self.assertIn("card.pdf", pdf["Content-Disposition"])
        self.assertTrue(self.get("card.svg/").content.startswith(b"<svg"))
        self.assertIn(b'class="through"', self.get("cut-lines.svg/").content)
        look = Image.open(io.BytesIO(self.get("card-look/?width_px=200").content))
        self.assertEqual(look.width, 200)
        for query in ("unit=ell", "paper=vellum"):
            self.assertEqual(self.get(f"card.pdf/?{query}").status_code, 422)

    def test_a_masked_figure_has_its_mask_among_the_cut_lines(self):
        self.keep()
        self.assertNotIn(b'class="film"', self.get("cut-lines.svg/").content)
        self.change("regions", {"labels": [2], "role": "background"})
        self.change("order", {"masked": True})
        self.assertIn(b'class="film"', self.get("cut-lines.svg/").content)


class OnePageTest(ApiTestCase):
    def test_page_pdf_and_text_say_the_same(self):
        self.change("card", {"spec": SPEC})
        self.change("recipes", method="post")
        base = f"pieces/{self.piece.pk}"
        page = self.send("get", f"{base}/one-page/?recipe=1").json()
        self.assertEqual(page["version"], 1)
        self.assertEqual([one["letter"] for one in page["lettered"]], ["A", "B", "C"])
        text = self.send("get", f"{base}/one-page.txt/?recipe=1").content.decode()
        self.assertEqual(text, page["text"])
        pdf = self.send("get", f"{base}/one-page.pdf/?recipe=1")
        reader = pypdf.PdfReader(io.BytesIO(pdf.content))
        self.assertEqual(len(reader.pages), 1)
        words = " ".join(reader.pages[0].extract_text().split())
        for chip in page["chips"]:
            self.assertIn(chip["name"], words)
        for note in page["notes"]:
            self.assertIn(f"{note['name']}: ", words)

    def test_a_frozen_version_stays_as_it_was(self):
        self.change("recipes", method="post")
        base = f"pieces/{self.piece.pk}"
        before = self.send("get", f"{base}/one-page.txt/?recipe=1").content
        self.change("stamp", {"title": "Another"})
        self.change("lamp", {"azimuth_deg": 200, "elevation_deg": 60})
        self.assertEqual(self.send("get", f"{base}/one-page.txt/?recipe=1").content, before)
        self.assertNotEqual(self.send("get", f"{base}/one-page.txt/").content, before)

    def test_a_piece_without_colours_has_a_page_too(self):
        bare = make_piece(self.ana, "Bare")
        page = self.send("get", f"pieces/{bare.pk}/one-page/").json()
        self.assertEqual((page["lettered"], page["visits"]), ([], []))
        self.assertEqual(self.send("get", f"pieces/{bare.pk}/one-page.pdf/").status_code, 200)
