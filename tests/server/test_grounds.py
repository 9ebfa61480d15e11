"""Grounds over the API: taken, faded, parted, laid, left; papers of one's own."""

from __future__ import annotations

from xml.etree import ElementTree

import cv2
import numpy as np

from paleta.colour import hex_to_lab
from server.drawers.models import OwnPaper
from tests.server.base import ApiTestCase


class GroundTestCase(ApiTestCase):
    def at(self, path: str) -> str:
        return f"pieces/{self.piece.pk}/{path}/"

    def take(self) -> int:
        """The label of the ground that the paper becomes."""
        return next(one["label"] for one in self.grounds(self.change("ground", {}, "post").json()))

    def grounds(self, piece: dict) -> list[dict]:
        return [one for one in piece["regions"]["list"] if one["fade"]]

    def picture(self, view: str = "values") -> np.ndarray:
        data = self.client.get(f"/api/v1/pieces/{self.piece.pk}/picture/?view={view}").content
        return cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_COLOR).astype(int)


class GroundTest(GroundTestCase):
    def two_pads(self) -> list[str]:
        pads = sorted(self.ana.drawers.get(medium="inkpad").swatches.all(), key=lambda one: one.lightness)
        return [pads[-1].code, pads[0].code]

    def test_a_sky_is_taken_faded_and_laid_behind_a_mask(self):
        label = self.take()
        piece = self.change("lay-ground", {"labels": [label], "way": "circles", "wish_hex": "#5b86c2"}).json()
        (sky,) = self.grounds(piece)
        self.assertEqual((sky["name"], sky["role"], sky["form"]), ("Background", "background", "ground"))
        self.assertEqual(sky["coats"][0]["medium"], "inkpad")
        self.assertGreaterEqual(len(sky["coats"][0]["ramp"]["swatches"]), 2)
        grey = self.picture()[..., 0]
        self.assertLess(grey[3:8].mean() + 10, grey[-8:-3].mean())
        turned = {**sky["fade"], "from_deg": 180}
        self.assertEqual(self.change("regions", {"labels": [label], "fade": turned}).status_code, 200)
        grey = self.picture()[..., 0]
        self.assertGreater(grey[3:8].mean(), grey[-8:-3].mean() + 10)
        self.assertTrue(self.change("order", {"masked": True}).json()["order"]["masked"])
        # One ink at several strengths needs no wiping of the mask, several inks do.
        pens = {one["pen_code"] for one in sky["coats"][0]["ramp"]["swatches"]}
        for codes, between in (((), set()), (self.two_pads(), {"wipe"})):
            if codes:
                self.change("ramp", {"labels": [label], "codes": codes, "medium": "inkpad"})
            plan = self.send("get", self.at("plan")).json()
            kinds = [one["kind"] for one in plan["handling"]]
            self.assertEqual((kinds[0], kinds[-1], set(kinds[1:-1])), ("lay", "lift", between))
        self.assertEqual(len(pens), 1)
        self.assertEqual(plan["passes"][-1]["region"], label)

    def test_a_background_in_pads_makes_no_region_of_the_figure_too_narrow(self):
        before = {
            one["label"]: one["too_small"] for one in self.send("get", self.at("")[:-1]).json()["regions"]["list"]
        }
        label = self.take()
        self.change("ramp", {"labels": [1], "codes": []})
        piece = self.change("lay-ground", {"labels": [label], "way": "circles", "wish_hex": "#5b86c2"}).json()
        after = {one["label"]: one["too_small"] for one in piece["regions"]["list"]}
        self.assertEqual(after, before | {label: False})

    def test_a_glow_is_left_bare_and_palest_beside_it(self):
        label = self.take()
        fade = {"kind": "point", "x_mm": 12, "y_mm": 5, "bare_mm": 2}
        self.change("regions", {"labels": [label], "fade": fade})
        self.change("lay-ground", {"labels": [label], "way": "one way", "wish_hex": "#304a80"})
        plan = self.send("get", self.at("plan")).json()
        self.assertIn("never colour over it", plan["before"][0])
        own = [(one["zone"], one["join"]) for one in plan["passes"] if one["region"] == label]
        self.assertEqual((own[0][1], own[-1][1]), ("start", "dry"))
        picture, px = self.picture("coloured"), 360 / self.send("get", self.at("")[:-1]).json()["width_mm"]
        paper = picture[round(5 * px), round(12 * px)]
        self.assertGreater(int(paper.min()), 235)
        beside, far = picture[round(5 * px), round(15 * px)], picture[-4, -4]
        self.assertGreater(int(beside.sum()), int(far.sum()) + 60)

    def test_a_horizon_is_drawn_moved_and_undone(self):
        label = self.take()
        piece = self.change("horizon", {"label": label, "handles": [[1, 14], [15, 12], [29, 14]]}).json()
        self.assertEqual(len(self.grounds(piece)), 2)
        (line,) = piece["regions"]["horizons"]
        self.assertEqual((line["label"], line["handles"][1]), (label, [15, 12]))
        before = {one["label"]: one["area_mm2"] for one in self.grounds(piece)}
        moved = self.change("horizon", {"label": label, "handles": [[1, 7], [29, 7]]}).json()
        after = {one["label"]: one["area_mm2"] for one in self.grounds(moved)}
        self.assertEqual(after.keys(), before.keys())
        self.assertLess(after[label], before[label])
        back = self.change("undo", method="post").json()
        self.assertEqual({one["label"]: one["area_mm2"] for one in self.grounds(back)}, before)

    def test_bands_laid_together_go_down_one_ramp_from_the_deepest_at_the_top(self):
        label = self.take()
        piece = self.change("bands", {"label": label, "widths_mm": [5, 6, 7], "gap_mm": 2}, "post").json()
        labels = [one["label"] for one in self.grounds(piece)]
        for order in (labels, labels[::-1]):
            laid = {"labels": order, "way": "circles", "wish_hex": "#5b86c2"}
            bands = self.grounds(self.change("lay-ground", laid).json())
            swatches = [one["coats"][0]["ramp"]["swatches"] for one in bands]
            self.assertTrue(all(len(one) == 1 for one in swatches))
            lights = [one[0]["lab"][0] for one in swatches]
            self.assertEqual(lights, sorted(lights), "the deepest lies at the top")
            self.assertEqual(len({one[0]["code"] for one in swatches}), 3)

    def test_bands_are_taped_and_each_is_laid_by_itself(self):
        label = self.take()
        piece = self.change("bands", {"label": label, "widths_mm": [5, 6, 7], "gap_mm": 2}, "post").json()
        bands = self.grounds(piece)
        self.assertEqual([one["name"] for one in bands], ["Band 1", "Band 2", "Band 3"])
        self.assertTrue(piece["order"]["taped"])
        pads = self.ana.drawers.get(medium="inkpad").swatches.all()
        for band, pad in zip(bands, pads, strict=False):
            self.change("ramp", {"labels": [band["label"]], "codes": [pad.code], "medium": "inkpad"})
        plan = self.send("get", self.at("plan")).json()
        self.assertEqual([one["kind"] for one in plan["handling"]], ["lay", "wipe", "wipe", "lift"])
        self.assertEqual({one["name"] for one in plan["handling"]}, {"Lay the tape", "Wipe the tape", "Lift the tape"})

    def test_the_paper_is_left_as_it_was_again(self):
        before = self.send("get", f"pieces/{self.piece.pk}/").json()["regions"]["list"]
        label = self.take()
        self.change("horizon", {"label": label, "handles": [[1, 14], [29, 14]]})
        self.assertEqual(self.change("leave-ground", method="post").json()["regions"]["list"], before)
        self.assertProblem(self.change("leave-ground", method="post"), 422, "invalid_fields", "no ground to leave")

    def test_what_does_not_fit_is_refused_in_a_sentence(self):
        label = self.take()
        horizon = {"label": label, "handles": [[1, -9], [29, -9]]}
        for path, body, method, words in (
            ("ground", {}, "post", "a ground already"),
            ("horizon", horizon, "put", "crosses nothing of this ground"),
            ("bands", {"label": label, "widths_mm": [90, 90]}, "post", "the ground has only"),
            ("horizon", {**horizon, "label": 1}, "put", "is no ground"),
            ("regions", {"labels": [label], "fade": {"kind": "spiral"}}, "put", "fade"),
        ):
            with self.subTest(words=words):
                answer = self.change(path, body, method)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, answer.content.decode())
        self.ana.drawers.filter(medium="inkpad").delete()
        answer = self.change("lay-ground", {"labels": [label], "way": "circles", "wish_hex": "#5b86c2"})
        self.assertProblem(answer, 422, "invalid_fields", "no drawer of blended ink pad yet")

    def test_the_mask_is_a_line_to_cut_at_full_size(self):
        self.take()
        root = ElementTree.fromstring(self.client.get(f"/api/v1/pieces/{self.piece.pk}/mask.svg/").content)
        piece = self.send("get", f"pieces/{self.piece.pk}/").json()
        self.assertEqual(root.get("width"), f"{piece['width_mm']:g}mm")
        self.assertGreaterEqual(len(list(root.iter("{http://www.w3.org/2000/svg}path"))), 2)


class OwnPaperTest(GroundTestCase):
    def test_a_paper_is_kept_used_everywhere_and_outlives_its_row(self):
        paper = {"name": "Mother's kraft", "lab": [60, 8, 20], "gsm": 250, "surface": "tooth"}
        made = self.send("post", "papers/", paper).json()
        self.assertEqual(self.send("get", "papers/").json(), [made])
        stamp = self.change("stamp", {"paper": made["code"]}).json()["stamp"]
        self.assertEqual(stamp["paper"], made["code"])
        self.assertIn("Mother's kraft", stamp["paper_name"])
        self.assertTrue(any("only darkens" in one["why"] for one in stamp["fit"]))
        corner = self.picture("coloured")[3, 3][::-1]
        lab = hex_to_lab("#" + "".join(f"{value:02x}" for value in corner))
        np.testing.assert_allclose(lab, (60, 8, 20), atol=1.5)
        self.assertEqual(self.send("delete", f"papers/{made['id']}/").status_code, 204)
        again = self.change("stamp", {"title": "Still on it"}).json()["stamp"]
        self.assertIn("Mother's kraft", again["paper_name"])
        self.assertEqual(self.change("stamp", {"paper": "kraft"}).json()["stamp"]["paper"], "kraft")

    def test_the_reader_wants_its_tile_first_and_then_reads_the_sheet(self):
        read = f"pieces/{self.piece.pk}/paper-reader/"
        refused = self.send("post", read, {})
        self.assertGreaterEqual(refused.status_code, 400)
        self.assertIn("white tile first", refused.content.decode())
        self.assertIsNone(self.send("post", read, {"tile": True}).json()["lab"])
        first, again = (self.send("post", read, {}).json() for _ in range(2))
        scan = self.send("get", f"pieces/{self.piece.pk}/paper-white/").json()["lab"]
        np.testing.assert_allclose(first["lab"], scan, atol=1.5)
        self.assertNotEqual(first["lab"], again["lab"])
        self.assertLess(first["difference"], 2)

    def test_a_white_read_off_as_a_colour_and_impossible_papers(self):
        made = self.send("post", "papers/", {"name": "Ivory", "hex": "#fdf6e3"}).json()
        self.assertGreater(made["lab"][0], 95)
        for wrong in ({"name": "X"}, {"name": "X", "lab": [120, 0, 0]}, {"name": "", "lab": [90, 0, 0]},
                      {"name": "X", "lab": [90, 0, 0], "surface": "furry"}):  # fmt: skip
            with self.subTest(wrong=wrong):
                self.assertEqual(self.send("post", "papers/", wrong).status_code, 422)
        self.client.force_login(self.ben)
        self.assertEqual(self.send("get", "papers/").json(), [])
        self.assertEqual(self.send("delete", f"papers/{made['id']}/").status_code, 404)
        self.assertTrue(OwnPaper.objects.filter(pk=made["id"]).exists())
