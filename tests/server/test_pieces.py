"""Pieces over the API: versions, steps, the sheet, uploads, cost."""

from __future__ import annotations

import tempfile
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from threading import Event

import cv2
import numpy as np
from django.test import TestCase

from paleta.light import Body, Lamp, illuminate, model_forms, relief_from_bytes, relief_to_bytes
from server.derived import disk
from server.derived.memory import Memory, bytes_of, memory
from server.pieces.models import Piece, Step
from tests.builders import as_file, disc, line_drawing, region_map
from tests.core.test_impression import huge_png
from tests.server.base import ApiTestCase


class VersionTest(ApiTestCase):
    def test_a_change_on_an_old_version_answers_412_and_changes_nothing(self):
        old = self.piece.version
        self.assertEqual(self.change("lamp", {"azimuth_deg": 10, "elevation_deg": 30}, version=old).status_code, 200)
        self.assertProblem(
            self.change("lamp", {"azimuth_deg": 99, "elevation_deg": 30}, version=old),
            412,
            "changed_elsewhere",
            "another tab",
        )
        self.assertEqual(self.send("get", f"pieces/{self.piece.pk}/").json()["light"]["lamp"]["azimuth_deg"], 10)

    def test_a_change_without_a_version_answers_428(self):
        self.assertProblem(
            self.send("put", f"pieces/{self.piece.pk}/lamp/", {"azimuth_deg": 1, "elevation_deg": 1}),
            428,
            "version_missing",
        )

    def test_undo_and_redo_walk_the_steps_and_a_new_step_drops_the_undone(self):
        lamps = lambda: self.send("get", f"pieces/{self.piece.pk}/").json()["light"]["lamp"]["azimuth_deg"]  # noqa: E731
        for azimuth in (10, 20, 30):
            self.change("lamp", {"azimuth_deg": azimuth, "elevation_deg": 30})
        self.change("undo", method="post")
        self.change("undo", method="post")
        self.assertEqual(lamps(), 10)
        self.change("redo", method="post")
        self.assertEqual(lamps(), 20)
        self.change("lamp", {"azimuth_deg": 77, "elevation_deg": 30})
        self.assertProblem(self.change("redo", method="post"), 409, "no_such_step", "nothing to redo")
        self.change("undo", method="post")
        self.assertEqual(lamps(), 20)

    def test_a_change_that_changes_nothing_is_no_step(self):
        lamp = {"azimuth_deg": 315, "elevation_deg": 40, "ambient": 0.2}
        self.assertEqual(self.change("lamp", lamp).json()["version"], self.piece.version)


class SheetTest(ApiTestCase):
    def test_a_region_is_renamed_reshaped_and_left_as_paper(self):
        body = self.change(
            "regions", {"labels": [1], "name": "Moon", "form": "tube", "axis_deg": 90, "left_as_paper": True}
        ).json()
        moon = body["regions"]["list"][0]
        self.assertEqual(
            (moon["name"], moon["form"], moon["axis_deg"], moon["left_as_paper"]), ("Moon", "tube", 90, True)
        )

    def test_joined_regions_keep_the_first_ones_name_and_their_summed_area(self):
        before = {
            region["label"]: region for region in self.send("get", f"pieces/{self.piece.pk}/").json()["regions"]["list"]
        }
        after = {
            region["label"]: region
            for region in self.change("join", {"labels": [3, 2]}, "post").json()["regions"]["list"]
        }
        self.assertEqual(set(after), {1, 2})
        self.assertEqual(after[2]["name"], before[3]["name"])
        self.assertAlmostEqual(after[2]["area_mm2"], before[2]["area_mm2"] + before[3]["area_mm2"], delta=0.2)

    def test_regions_made_one_body_share_its_form_until_they_are_taken_apart(self):
        self.change("regions", {"labels": [3], "form": "tube"})
        regions = self.change("body", {"labels": [3, 2]}).json()["regions"]["list"]
        self.assertEqual([region["body"] for region in regions], [0, 2, 2])
        self.assertEqual([region["form"] for region in regions[1:]], ["tube", "tube"])
        regions = self.change("regions", {"labels": [2], "bulge": 0.5, "name": "Lid"}).json()["regions"]["list"]
        self.assertEqual([region["bulge"] for region in regions], [1, 0.5, 0.5])
        self.assertEqual([region["name"] for region in regions[1:]], ["Lid", "Region 3"])
        regions = self.change("body", {"labels": [2, 3], "together": False}).json()["regions"]["list"]
        self.assertEqual([region["body"] for region in regions], [0, 0, 0])
        self.assertProblem(self.change("body", {"labels": [1]}), 422, "invalid_fields", "at least two")

    def test_true_to_the_scene_the_plan_leaves_out_zones_that_have_no_area(self):
        before = len(self.send("get", f"pieces/{self.piece.pk}/plan/").json()["passes"])
        self.change("regions", {"labels": [1, 2, 3], "form": "flat"})
        self.change("lamp", {"azimuth_deg": 0, "elevation_deg": 90})
        self.change("light", {"true_to_scene": 1})
        self.assertLess(len(self.send("get", f"pieces/{self.piece.pk}/plan/").json()["passes"]), before)

    def test_glows_are_kept_and_must_stand_on_the_picture(self):
        glow = {"x_mm": 20, "y_mm": 30, "height_mm": 8, "reach_mm": 15, "strength": 2}
        shown = {**glow, "tint": "", "reserve_mm": 0}
        self.assertEqual(self.change("glows", {"glows": [glow]}).json()["light"]["glows"], [shown])
        self.assertProblem(
            self.change("glows", {"glows": [glow | {"x_mm": 900}]}), 422, "invalid_fields", "stand on the picture"
        )
        self.assertProblem(self.change("glows", {"glows": [glow] * 13}), 422, "invalid_fields", "no more than 12")

    def test_a_split_region_keeps_its_colours_and_a_wrong_barrier_is_refused(self):
        regions = self.change("split", {"label": 1, "line": [[15.3, 5], [15.3, 32]]}, "post").json()["regions"]["list"]
        self.assertEqual([region["name"] for region in regions], ["Region 1", "Region 2", "Region 3", "Region 1 (2)"])
        self.assertEqual(regions[0]["coats"], regions[3]["coats"])
        self.assertProblem(
            self.change("split", {"label": 1, "line": [[0, 0], [1, 0]]}, "post"),
            422,
            "edit_impossible",
            "outline to outline",
        )

    def test_proposed_ramps_can_be_laid_and_changed_by_hand(self):
        ramps = self.change("ramp-proposals", {"wish_hex": "#4060c0", "shades": 3}, "post").json()
        self.assertGreaterEqual(len(ramps), 2)
        codes = [swatch["code"] for swatch in ramps[0]["swatches"]]
        region = self.change("ramp", {"labels": [1], "codes": codes, "wish_hex": "#4060c0"}).json()["regions"]["list"][
            0
        ]
        self.assertEqual([swatch["code"] for swatch in region["coats"][0]["ramp"]["swatches"]], codes)
        darkest = min(self.ana.drawers.get(medium="marker").swatches.all(), key=lambda one: one.lightness)
        by_hand = [*codes[:2], darkest.code]
        region = self.change("ramp", {"labels": [1], "codes": by_hand, "by_hand": True}).json()["regions"]["list"][0]
        self.assertTrue(region["by_hand"])
        self.assertEqual(region["wish_hex"], "#4060c0")

    def test_another_number_of_shades_takes_the_ramp_off(self):
        region = self.change("regions", {"labels": [1], "shades": 2}).json()["regions"]["list"][0]
        self.assertEqual(region["coats"], [])

    def test_watercolour_ramps_use_paints_at_several_strengths_and_one_is_drawn_out_to_paper(self):
        paints = self.ana.drawers.get(medium="watercolour")
        self.change("medium", {"medium": "watercolour", "drawer": paints.pk})
        ramps = self.change("ramp-proposals", {"wish_hex": "#7f9fd0", "shades": 3}, "post").json()
        self.assertTrue(any(swatch["strength"] < 100 for swatch in ramps[0]["swatches"]))
        self.assertEqual([ramp["bare_hex"] is None for ramp in ramps], [*[True] * (len(ramps) - 1), False])
        self.assertEqual(len({swatch["pen_code"] for swatch in ramps[-1]["swatches"]}), 1)
        self.assertEqual(len(ramps[-1]["swatches"]), 2)  # and the bare paper

    def test_a_swatch_is_laid_at_any_strength_and_drawn_out_over_the_zones(self):
        pens = self.ana.drawers.get(medium="soluble")
        self.change("medium", {"medium": "soluble", "drawer": pens.pk})
        own = min(pens.swatches.all(), key=lambda one: one.lightness)

        def region(**form):
            return self.change("ramp", {"labels": [1], **form}).json()["regions"]["list"][0]

        there = region(codes=[own.code], drawn_out=4)
        ramp = there["coats"][0]["ramp"]
        self.assertTrue(there["bare_highlight"] and ramp["bare_hex"])
        self.assertEqual([one["pen"] for one in ramp["swatches"]], [own.name] * 3)
        self.assertEqual(ramp["swatches"][-1]["strength"], 100)
        there = region(codes=[own.code] * 2, strengths=[37, 100], by_hand=True)
        self.assertEqual([one["strength"] for one in there["coats"][0]["ramp"]["swatches"]], [37, 100])
        self.assertTrue(there["bare_highlight"])  # nothing was said about it
        there = region(codes=[own.code], to_paper=False)
        self.assertFalse(there["bare_highlight"])
        self.assertEqual([one["strength"] for one in there["coats"][0]["ramp"]["swatches"]], [100])
        for form, words in (
            ({"codes": [own.code], "strengths": [50, 100]}, "one strength for each"),
            ({"codes": [own.code, "other"], "strengths": [100, 100]}, "no swatch"),
            ({"codes": [f"{own.code}~50", own.code], "drawn_out": 3}, "not several"),
            ({"codes": [own.code], "strengths": [2]}, "greater than or equal to 5"),
            ({"codes": ["nothing~40"]}, "no swatch"),
        ):
            with self.subTest(words):
                piece = Piece.objects.get(pk=self.piece.pk)
                response = self.send("put", f"pieces/{piece.pk}/ramp/", {"labels": [1], **form}, piece.version)
                self.assertEqual(response.status_code, 422)
                self.assertIn(words, response.content.decode())

    def test_a_ramp_is_changed_though_its_pen_is_in_no_drawer_any_more(self):
        pens = self.ana.drawers.get(medium="soluble")
        self.change("medium", {"medium": "soluble", "drawer": pens.pk})
        gone, other = pens.swatches.all()[:2]
        self.change("ramp", {"labels": [1], "codes": [f"{gone.code}~40", gone.code]})
        pens.swatches.filter(pk=gone.pk).update(retired=True)
        for strengths in ([40, 70], [40, 100]):
            body = {"labels": [1], "codes": [gone.code, other.code], "strengths": strengths, "medium": "soluble"}
            region = self.change("ramp", body).json()["regions"]["list"][0]
            codes = {one["code"] for one in region["coats"][0]["ramp"]["swatches"]}
            self.assertIn(f"{gone.code}~40", codes)

    def test_a_marker_is_laid_at_full_strength_only(self):
        own = self.ana.drawers.get(medium="marker").swatches.first()
        form = {"labels": [1], "codes": [own.code], "strengths": [40]}
        response = self.send("put", f"pieces/{self.piece.pk}/ramp/", form, self.piece.version)
        self.assertEqual(response.status_code, 422)
        self.assertIn("full strength only", response.json()["detail"])

    def test_the_plan_holds_every_pass_and_the_habit_to_compare_with(self):
        plan = self.send("get", f"pieces/{self.piece.pk}/plan/").json()
        self.assertEqual([one["number"] for one in plan["passes"]], list(range(1, len(plan["passes"]) + 1)))
        self.assertLessEqual(plan["pen_changes"], plan["by_region_pen_changes"])
        self.assertEqual(plan["uncoloured"], 0)

    def test_pictures_show_the_plan_and_follow_the_lamp(self):
        def pixels(query: str) -> np.ndarray:
            data = self.client.get(f"/api/v1/pieces/{self.piece.pk}/picture/?{query}").content
            return cv2.imdecode(np.frombuffer(data, np.uint8), cv2.IMREAD_COLOR).astype(int)

        coloured_, values = pixels("view=coloured"), pixels("view=values")
        self.assertEqual(coloured_.shape, (300, 360, 3))
        self.assertGreater(np.ptp(coloured_, axis=2).max(), 40)
        self.assertLess(np.ptp(values, axis=2).max(), 12)

        def ball(azimuth: int) -> tuple[int, int]:
            """The grey of the ball's left and right side; the live picture is a smaller one."""
            live = pixels(f"view=values&live=true&azimuth_deg={azimuth}&elevation_deg=30")
            step = 360 / live.shape[1]
            self.assertGreater(step, 1)
            left, right = (int(live[round(110 / step), round(x / step), 0]) for x in (50, 130))
            return left, right

        (from_left, away_left), (away_right, from_right) = ball(270), ball(90)
        self.assertGreater(from_left, away_right)
        self.assertGreater(from_right, away_left)

    def test_wrong_values_are_refused_with_the_field_at_fault(self):
        for path, body, pointer in (
            ("lamp", {"azimuth_deg": 400, "elevation_deg": 30}, "#/azimuth_deg"),
            ("lamp", {"elevation_deg": 30}, "#/azimuth_deg"),
            ("regions", {"labels": [99], "name": "x"}, "#/labels"),
            ("regions", {"labels": [1, 2], "name": "x"}, "#/name"),
            ("regions", {"labels": [], "name": "x"}, "#/labels"),
            ("regions", {"labels": [1], "form": "cube"}, "#/form"),
            ("school", {"school": "X9"}, "#/school"),
            ("stamp", {"paper": "foil"}, "#/paper"),
            ("ramp", {"labels": [1], "codes": [], "wish_hex": "red"}, "#/wish_hex"),
            ("medium", {"medium": "pencil", "drawer": self.ana.drawers.get(medium="marker").pk}, "#/drawer"),
        ):
            with self.subTest(path=path, body=body):
                self.assertProblem(self.change(path, body), 422, "invalid_fields", pointer)

    def test_core_refusals_keep_their_sentence(self):
        self.assertProblem(
            self.change("ramp", {"labels": [1], "codes": ["ghost-1"]}), 422, "recipe_unreadable", "no swatch 'ghost-1'"
        )
        self.assertProblem(self.change("join", {"labels": [1]}, "post"), 422, "edit_impossible", "at least two")
        self.assertProblem(
            self.client.get(f"/api/v1/pieces/{self.piece.pk}/picture/?view=xray"), 422, "view_unknown", "xray"
        )
        self.assertProblem(
            self.client.get(f"/api/v1/pieces/{self.piece.pk}/picture/?azimuth_deg=nan&elevation_deg=3"),
            422,
            "invalid_fields",
        )


class UploadTest(ApiTestCase):
    def test_a_scan_becomes_a_piece_on_top_of_the_shelf(self):
        response = self.upload(as_file(line_drawing()), width_mm="60")
        self.assertEqual(response.status_code, 201, response.content[:300])
        self.assertEqual(len(response.json()["regions"]["list"]), 3)
        self.assertAlmostEqual(response.json()["width_mm"], 60, delta=0.1)
        self.assertEqual(self.send("get", "pieces/").json()["results"][0]["title"], "Scan")

    def test_bad_pictures_are_refused_and_leave_nothing_behind(self):
        whole = as_file(line_drawing(), dpi=(150, 150))
        before = Piece.objects.count(), Step.objects.count()
        for data, code, words in (
            (b"", "not_an_image", "empty"),
            (b"words", "not_an_image", "not a PNG"),
            (whole[:900], "not_an_image", "cut short"),
            (as_file(line_drawing()), "resolution_missing", "Give the width"),
            (as_file(np.full((300, 300), 255, np.uint8), dpi=(150, 150)), "no_regions", "blank"),
            (as_file(np.zeros((300, 300), np.uint8), dpi=(150, 150)), "no_regions", "black"),
        ):
            with self.subTest(words=words):
                self.assertProblem(self.upload(data), 422, code, words)
        self.assertEqual((Piece.objects.count(), Step.objects.count()), before)

    def test_a_picture_with_too_many_pixels_answers_413(self):
        self.assertProblem(self.upload(huge_png(20_000, 10_000)), 413, "image_too_large")

    def test_a_missing_file_or_title_and_a_width_that_is_no_number_are_named(self):
        self.assertProblem(self.client.post("/api/v1/pieces/", {"title": "x"}), 422, "invalid_fields", "#/image")
        self.assertProblem(self.upload(as_file(line_drawing()), title=""), 422, "invalid_fields", "#/title")
        self.assertProblem(self.upload(as_file(line_drawing()), width_mm="wide"), 422, "invalid_fields", "#/width_mm")

    def test_a_file_over_the_limit_is_refused_before_it_is_read(self):
        with self.settings(LARGEST_UPLOAD_BYTES=1000):
            self.assertProblem(self.upload(as_file(line_drawing())), 413, "too_large", "are the most")


class CostTest(ApiTestCase):
    def test_a_shelf_of_one_and_of_twenty_takes_the_same_queries(self):
        with self.assertNumQueries(4):
            self.send("get", "pieces/")
        for number in range(20):
            copy = Piece.objects.get(pk=self.piece.pk)
            copy.pk, copy.title, copy.position = None, f"Copy {number}", 1
            copy.save()
            Step.objects.create(piece=copy, number=1, what="Copied")
        with self.assertNumQueries(4):
            self.assertEqual(self.send("get", "pieces/").json()["count"], 21)


class MemoryTest(TestCase):
    def test_it_keeps_what_was_used_last_within_its_room_and_makes_each_only_once(self):
        made = []
        memory = Memory(2 * bytes_of(bytes(1000)))
        for key in ("a", "b", "a", "c", "b"):
            memory.get(key, lambda key=key: made.append(key) or bytes(1000))
        self.assertEqual(made, ["a", "b", "c", "b"])
        self.assertLessEqual(memory.held_bytes, 2 * bytes_of(bytes(1000)))

    def test_what_is_larger_than_all_its_room_is_handed_over_but_not_kept(self):
        memory = Memory(1000)
        self.assertEqual(len(memory.get("large", lambda: bytes(5000))), 5000)
        self.assertEqual(memory.held_bytes, 0)

    def test_whoever_asks_meanwhile_waits_for_the_same_result(self):
        memory, begun, go, made = Memory(10_000), Event(), Event(), []

        def make() -> bytes:
            made.append(1)
            begun.set()
            go.wait(10)
            return b"made"

        with ThreadPoolExecutor(3) as pool:
            first = pool.submit(memory.get, "key", make)
            begun.wait(10)
            others = [pool.submit(memory.get, "key", make) for _ in range(2)]
            go.set()
            self.assertEqual([one.result(10) for one in (first, *others)], [b"made"] * 3)
        self.assertEqual(len(made), 1)

    def test_a_failing_maker_tells_those_who_wait_and_locks_out_nobody(self):
        memory, begun, go = Memory(10_000), Event(), Event()

        def fail() -> bytes:
            begun.set()
            go.wait(10)
            raise ValueError("no luck")

        with ThreadPoolExecutor(2) as pool:
            first = pool.submit(memory.get, "key", fail)
            begun.wait(10)
            second = pool.submit(memory.get, "key", fail)
            go.set()
            for one in (first, second):
                self.assertRaisesMessage(ValueError, "no luck", one.result, 10)
        self.assertEqual(memory.get("key", lambda: b"made"), b"made")


class DiskTest(TestCase):
    def test_kept_results_are_read_again_though_memory_forgot_them(self):
        with tempfile.TemporaryDirectory() as folder, self.settings(CACHE_ROOT=folder):
            made = []
            for _ in range(2):
                self.assertEqual(disk.kept("test", "one", lambda: made.append(1) or b"one"), b"one")
                memory.clear()
            self.assertEqual(len(made), 1)
            self.assertEqual(disk.peek("test", "one"), b"one")
            self.assertIsNone(disk.peek("test", "other"))

    def test_the_cache_is_bounded_by_bytes(self):
        with tempfile.TemporaryDirectory() as folder, self.settings(CACHE_ROOT=folder, CACHE_BYTES=3_000_000):
            for number in range(40):
                disk.kept("test", str(number), lambda: bytes(200_000))
            held = sum(place.stat().st_size for place in Path(folder).rglob("*") if place.is_file())
            self.assertLess(held, 4_500_000)
            self.assertEqual(disk.kept("test", "39", lambda: b"new"), bytes(200_000))

    def test_a_relief_comes_back_from_its_file_good_for_the_same_light(self):
        found = region_map(disc(200, 80))
        for form in ("dome", "hollow", "flat"):
            relief = model_forms(found, [Body((1,), form=form)])
            lamp = Lamp(azimuth_deg=70, elevation_deg=30)
            again = relief_from_bytes(relief_to_bytes(relief))
            with self.subTest(form=form):
                np.testing.assert_allclose(illuminate(again, lamp), illuminate(relief, lamp), atol=0.01)
                np.testing.assert_allclose(again.height, relief.height, rtol=1e-3, atol=1e-3)
