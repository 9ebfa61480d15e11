"""Photos with corners, specks, borders, tags and the light check over the API."""

from __future__ import annotations

import json

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile

from demo.lineart import DRAWINGS
from demo.scanner import Faults, scan
from paleta.devices import photograph
from server.pieces.models import Piece
from tests.builders import as_file, line_drawing
from tests.server.base import ApiTestCase

BOW = "[[0,0],[1,1],[1,0],[0,1]]"


def photo() -> tuple[bytes, list[tuple[float, float]]]:
    drawing = DRAWINGS["succulents"]()
    return photograph(scan(drawing, faults=Faults(turn_deg=0), dpi=200)[0], seed=2)


class LookTest(ApiTestCase):
    def look(self, data: bytes):
        return self.client.post("/api/v1/pieces/look/", {"image": SimpleUploadedFile("photo.jpg", data)})

    def test_a_photo_is_looked_at_without_being_kept(self):
        data, corners = photo()
        before = Piece.objects.count()
        body = self.look(data).json()
        self.assertIsNone(body["width_mm"])
        for found, true in zip(body["corners"], corners, strict=True):
            self.assertAlmostEqual(found[0], true[0], delta=0.012)
            self.assertAlmostEqual(found[1], true[1], delta=0.012)
        self.assertTrue(body["preview"].startswith("data:image/jpeg;base64,"))
        self.assertEqual(Piece.objects.count(), before)

    def test_a_scan_knows_its_width_and_has_no_corners(self):
        body = self.look(as_file(line_drawing(), dpi=(150, 150))).json()
        self.assertEqual((body["corners"], body["width_mm"]), (None, 61.0))

    def test_what_is_no_picture_is_said_before_anything_is_asked(self):
        self.assertProblem(self.look(b"no picture"), 422, "not_an_image", "SVG drawing")

    def test_a_photo_is_laid_flat_between_its_corners(self):
        data, corners = photo()
        response = self.upload(data, corners=json.dumps(corners), width_mm=139.7)
        self.assertEqual(response.status_code, 201, response.content[:300])
        self.assertAlmostEqual(response.json()["width_mm"], 139.7, delta=0.5)
        self.assertGreater(len(response.json()["regions"]["list"]), 40)

    def test_a_bow_tie_is_refused_and_nothing_is_kept(self):
        data, _ = photo()
        before = Piece.objects.count()
        for corners in (BOW, "[[0,0],[1,0]]", "[1,2,3,4]", "no"):
            with self.subTest(corners=corners):
                response = self.upload(data, corners=corners, width_mm=139.7)
                self.assertIn(response.status_code, (400, 422), response.content[:200])
        self.assertProblem(self.upload(data, corners=BOW, width_mm=100), 422, "corners_wrong", "cross or fold")
        self.assertEqual(Piece.objects.count(), before)

    def test_svg_line_art_becomes_a_piece(self):
        response = self.upload(DRAWINGS["balloon"]().to_svg().encode())
        self.assertEqual(response.status_code, 201, response.content[:300])
        self.assertAlmostEqual(response.json()["width_mm"], 107.95, delta=0.3)

    def test_line_art_that_says_no_size_asks_for_one_and_can_be_cropped(self):
        data = (
            b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 72 36" fill="none" stroke="#000">'
            b'<rect x="6" y="6" width="24" height="24"/><circle cx="54" cy="18" r="12"/></svg>'
        )
        seen = self.look(data).json()
        self.assertEqual((seen["corners"], seen["width_mm"]), (None, None))
        self.assertProblem(self.upload(data), 422, "resolution_missing", "Give the width")
        self.assertProblem(self.upload(data, width_mm=460), 422, "invalid_fields", "450")
        whole = self.upload(data, width_mm=120).json()
        self.assertAlmostEqual(whole["width_mm"], 120, delta=0.2)
        self.assertAlmostEqual(whole["dpi"], 300, delta=1)
        areas = sorted(region["area_mm2"] for region in whole["regions"]["list"])
        scale = 120 / 72
        self.assertAlmostEqual(areas[0], np.pi * (12 * scale) ** 2, delta=0.04 * areas[0])
        self.assertAlmostEqual(areas[1], (24 * scale) ** 2, delta=0.04 * areas[1])
        half = json.dumps([[0.5, 0], [1, 0], [1, 1], [0.5, 1]])
        cropped = self.upload(data, width_mm=60, corners=half).json()
        self.assertEqual(len(cropped["regions"]["list"]), 1)
        self.assertAlmostEqual(cropped["width_mm"], 60, delta=0.2)
        self.assertAlmostEqual(cropped["dpi"], 300, delta=2)
        self.assertAlmostEqual(cropped["regions"]["list"][0]["area_mm2"], areas[0], delta=0.02 * areas[0])


class RegionTest(ApiTestCase):
    def shown(self, label: int) -> dict:
        regions = self.send("get", f"pieces/{self.piece.pk}/").json()["regions"]["list"]
        return next(region for region in regions if region["label"] == label)

    def test_a_speck_is_erased_and_comes_back_with_undo(self):
        self.assertEqual(len(self.change("erase", {"label": 3}, method="post").json()["regions"]["list"]), 2)
        self.assertEqual(len(self.change("undo", method="post").json()["regions"]["list"]), 3)
        self.change("redo", method="post")
        again = self.change("find-again", {"gap_mm": 0.8, "sensitivity": 0}, method="post").json()
        self.assertEqual(len(again["regions"]["list"]), 2)  # erased again on the new map
        self.assertProblem(self.change("erase", {"label": 77}, method="post"), 422, "invalid_fields", "no region 77")

    def test_tags_role_base_and_turn_are_kept_and_checked(self):
        changes = {
            "tags": ["Fur", "fur ", "warm"], "role": "focal", "base_mm": [10, 20], "turn_deg": -35, "bare_highlight": True,
        }  # fmt: skip
        self.assertEqual(self.change("regions", {"labels": [2], **changes}).status_code, 200)
        region = self.shown(2)
        self.assertEqual(region["tags"], ["fur", "warm"])
        self.assertEqual((region["role"], region["base_mm"], region["turn_deg"]), ("focal", [10, 20], -35))
        self.assertFalse(region["guessed"])
        for wrong in ({"turn_deg": 270}, {"role": "hero"}, {"tags": ["x" * 30]}, {"base_mm": [1]}):
            with self.subTest(wrong=wrong):
                self.assertEqual(self.change("regions", {"labels": [2], **wrong}).status_code, 422)

    def test_a_bare_highlight_leaves_paper_in_the_plan(self):
        before = self.send("get", f"pieces/{self.piece.pk}/plan/").json()["passes"]
        self.change("regions", {"labels": [1], "bare_highlight": True})
        after = self.send("get", f"pieces/{self.piece.pk}/plan/").json()["passes"]
        zones = {one["zone"] for one in after if one["region"] == 1}
        self.assertIn("all but the highlight", zones)
        self.assertNotIn("all over", zones)
        self.assertIn("all over", {one["zone"] for one in before if one["region"] == 1})

    def test_one_region_is_put_before_another_and_the_stamping_order_follows(self):
        piece = self.change("put-before", {"nearer": 3, "farther": 2}).json()
        depth = {region["label"]: region["depth"] for region in piece["regions"]["list"]}
        self.assertGreater(depth[3], depth[2])
        self.assertIn(3, piece["regions"]["stamping"][0]["regions"])
        depth = {
            region["label"]: region["depth"]
            for region in self.change("put-before", {"nearer": 2, "farther": 3}).json()["regions"]["list"]
        }
        self.assertGreater(depth[2], depth[3])

    def test_a_circle_of_fronts_is_named_and_changes_nothing(self):
        self.change("put-before", {"nearer": 1, "farther": 2})
        self.change("put-before", {"nearer": 2, "farther": 3})
        before = self.send("get", f"pieces/{self.piece.pk}/").json()
        response = self.change("put-before", {"nearer": 3, "farther": 1})
        self.assertProblem(response, 422, "invalid_fields", "Region 1 before Region 2, Region 2 before Region 3")
        self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/").json(), before)

    def test_regions_of_one_body_cannot_be_put_before_each_other(self):
        self.change("body", {"labels": [2, 3]})
        self.assertProblem(self.change("put-before", {"nearer": 2, "farther": 3}), 422, "invalid_fields", "one body")

    def test_the_light_check_names_what_was_turned_and_is_content_after(self):
        check = lambda: self.send("get", f"pieces/{self.piece.pk}/light-check/").json()  # noqa: E731
        self.assertEqual(check()["doubts"], [])
        self.change("regions", {"labels": [1], "form": "dome", "turn_deg": 180})
        (doubt,) = check()["doubts"]
        self.assertEqual((doubt["regions"], doubt["remedy"], doubt["name"]), ([1], "turn", "Region 1"))

    def test_the_light_check_speaks_once_of_a_thing(self):
        self.change("regions", {"labels": [1, 2], "form": "dome", "turn_deg": 180})
        self.change("thing", {"labels": [1, 2]})
        check = self.send("get", f"pieces/{self.piece.pk}/light-check/").json()
        (doubt,) = check["doubts"]
        self.assertEqual(doubt["regions"], [1, 2])
        self.assertEqual(check["looked_at"], 2)

    def test_zoning_changes_only_what_is_named(self):
        self.change("light", {"shade": 0.4})
        piece = self.change("light", {"follow": 0.6}).json()
        self.assertEqual(tuple(piece["light"][name] for name in ("shade", "follow", "shadows")), (0.4, 0.6, True))
        self.assertProblem(self.change("light", {}), 422, "invalid_fields", "Say what to change")
        self.assertEqual(self.change("light", {"shade": 3}).status_code, 422)
