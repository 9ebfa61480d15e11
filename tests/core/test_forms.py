"""Forms with a base, what a hand turns, who stands in front, and the question whether the light is right."""

from __future__ import annotations

from collections.abc import Collection

import cv2
import numpy as np
from django.test import SimpleTestCase
from scipy.stats import spearmanr

from paleta.checks import check_light, light_directions, narrowest_shaded_mm
from paleta.errors import FormError
from paleta.impression import Level, PairScores, RegionMap, guess_order
from paleta.impression.grouping._pairs import pairs_of
from paleta.light import (
    Body,
    Glow,
    Lamp,
    Zoning,
    glow_tint,
    guess_bodies,
    illuminate,
    levels,
    model_forms,
    printed_shading,
    relief_from_bytes,
    relief_to_bytes,
    reserved_zones,
    thresholds,
    zone_shares,
)
from tests.builders import disc, region_map

MM = 300 / 25.4
LOW = Lamp(azimuth_deg=270, elevation_deg=35, ambient=0)


def ellipse_map(a: float, b: float, size: int = 400) -> RegionMap:
    y, x = np.mgrid[:size, :size] - size // 2
    return region_map((x / a) ** 2 + (y / b) ** 2 < 1)


class ConeTest(SimpleTestCase):
    """A half cone lying on the paper: z^2 = (k (x - tip))^2 - y^2, seen from above a triangle."""

    def test_a_narrowing_thing_is_lit_as_the_exact_half_cone(self):
        y, x = np.mgrid[:400, :400].astype(float) - 200
        k, tip = 0.35, -190.0
        inside = (np.abs(y) < k * (x - tip)) & (x < 180)
        relief = model_forms(region_map(inside), [Body((1,), form="cone", base_mm=(390 / MM, 200 / MM))])
        y, x = y[::2, ::2], x[::2, ::2]
        radius = np.maximum(k * (x - tip), 1e-6)
        z = np.sqrt(np.maximum(radius**2 - y**2, 0))
        exact = np.stack([-k * radius, y, z], axis=-1)
        exact /= np.maximum(np.linalg.norm(exact, axis=-1, keepdims=True), 1e-6)
        middle = (np.abs(y) < 0.85 * radius) & (x > -90) & (x < 110)
        for azimuth in (0, 180, 30):
            lamp = Lamp(azimuth_deg=azimuth, elevation_deg=35, ambient=0)
            expected = np.clip(exact @ np.array(lamp.direction), 0, 1)
            found = illuminate(relief, lamp, full_size=False) / np.maximum(1 - relief.tuck, 0.1)
            with self.subTest(azimuth=azimuth):
                self.assertGreater(spearmanr(found[middle], expected[middle]).statistic, 0.97)


class BaseTest(SimpleTestCase):
    def test_a_petal_is_dark_at_its_centre_end_light_in_the_middle_and_turns_away_at_the_tip(self):
        # Common practice: the flower's centre is deep set, the petal arches up into light and turns away at its tip.
        petal = model_forms(ellipse_map(150, 60), [Body((1,), form="petal", base_mm=(50 / MM, 200 / MM))])
        along = illuminate(petal, Lamp(azimuth_deg=0, elevation_deg=60, ambient=0.1))[200, 60:340]
        base, middle, tip = along[:30].mean(), along[120:170].mean(), along[-20:].mean()
        self.assertGreater(middle, base + 0.25)
        self.assertGreater(middle, tip + 0.05)
        self.assertGreater(tip, base)

    def test_one_half_of_a_leaf_is_darker_along_its_vein(self):  # common practice
        leaf = model_forms(ellipse_map(150, 60), [Body((1,), form="leaf", base_mm=(50 / MM, 200 / MM))])
        light = illuminate(leaf, Lamp(azimuth_deg=0, elevation_deg=40, ambient=0.1))
        upper, lower = light[160:190, 150:300].mean(), light[210:240, 150:300].mean()
        self.assertGreater(upper, lower + 0.2)

    def test_a_base_darkens_any_form_beside_it_and_fades(self):
        plain = model_forms(region_map(disc(400, 150)), [Body((1,))])
        tucked = model_forms(region_map(disc(400, 150)), [Body((1,), base_mm=(200 / MM, 345 / MM))])
        lost = illuminate(plain, LOW) - illuminate(tucked, LOW)
        self.assertGreater(lost[330, 200], 0.1)
        self.assertLess(lost[100, 200], 0.02)

    def test_ground_is_lit_by_a_lamp_at_the_top_edge_and_dim_from_the_bottom(self):
        ground = model_forms(region_map(np.ones((200, 400), bool)), [Body((1,), form="ground")])
        far = illuminate(ground, Lamp(azimuth_deg=0, elevation_deg=30)).mean()
        near = illuminate(ground, Lamp(azimuth_deg=180, elevation_deg=30)).mean()
        self.assertGreater(far, near + 0.3)

    def test_a_turn_by_hand_is_the_lamp_turned_with_it(self):
        for form in ("dome", "flat", "tube"):
            turned = model_forms(ellipse_map(150, 120), [Body((1,), form=form, axis_deg=0, turn_deg=70)])
            plain = model_forms(ellipse_map(150, 120), [Body((1,), form=form, axis_deg=0)])
            with self.subTest(form=form):
                found = illuminate(turned, Lamp(azimuth_deg=200, elevation_deg=40))
                expected = illuminate(plain, Lamp(azimuth_deg=270, elevation_deg=40))
                np.testing.assert_allclose(found, expected, atol=0.01)

    def test_a_relief_with_bases_packs_into_a_file_and_back(self):
        relief = model_forms(ellipse_map(150, 60), [Body((1,), form="petal", base_mm=(4, 17))])
        back = relief_from_bytes(relief_to_bytes(relief))
        np.testing.assert_allclose(illuminate(back, LOW), illuminate(relief, LOW), atol=0.01)

    def test_a_turn_beyond_half_a_circle_is_refused(self):
        with self.assertRaisesMessage(FormError, "turn_deg"):
            Body((1,), turn_deg=200)


def flower() -> np.ndarray:
    """Six petals, the first to the right, round a heart in the middle."""
    labels = np.zeros((500, 500), np.int32)
    y, x = np.mgrid[:500, :500] - 250.0
    for k in range(6):
        angle = np.radians(60 * k)
        along, across = x * np.cos(angle) + y * np.sin(angle), y * np.cos(angle) - x * np.sin(angle)
        labels[((along - 110) / 95) ** 2 + (across / 42) ** 2 < 1] = k + 1
    labels[np.hypot(x, y) < 40] = 7
    return labels


def told_alike(found: RegionMap, among: Collection[int], grouping: str = "alike") -> PairScores:
    """As if all `among` were as good as sure to belong together, and nothing else."""
    pairs = pairs_of(found)
    first, second = pairs.labels[pairs.one], pairs.labels[pairs.other]
    sure = (np.isin(first, [*among]) & np.isin(second, [*among])).astype(np.float32) * 0.95
    nothing = np.zeros_like(sure)
    return PairScores(pairs, {"parts": nothing, "alike": nothing} | {grouping: sure})


class GuessTest(SimpleTestCase):
    def test_pointed_pairs_round_a_centre_are_petals_with_their_base_there(self):
        labels = flower()
        bodies = guess_bodies(region_map(labels))
        self.assertEqual([body.form for body in bodies[:6]], ["petal"] * 6)
        for body in bodies[:6]:
            away = np.hypot(body.base_mm[0] - 250 / MM, body.base_mm[1] - 250 / MM)
            self.assertLess(away, 60 / MM)

    def test_a_petal_hidden_in_part_is_one_by_its_fellows(self):
        labels = flower()
        labels[190:400, 330:490] = 8  # before all but the base of the first one
        found = region_map(labels)
        alone, helped = (guess_bodies(found, told_alike(found, among)) for among in ((), range(1, 7)))
        self.assertNotEqual(alone[0].form, "petal")
        self.assertEqual([body.form for body in helped[:6]], ["petal"] * 6)
        self.assertLess(np.hypot(helped[0].base_mm[0] - 250 / MM, helped[0].base_mm[1] - 250 / MM), 60 / MM)
        # Where petals are few among what is alike, nothing is a petal for their sake.
        self.assertEqual(guess_bodies(found, told_alike(found, (1, 2, 7, 8)))[0].form, alone[0].form)

    def test_pieces_of_one_hill_are_one_ground(self):
        labels = np.zeros((300, 400), np.int32)
        labels[200:290, 10:300], labels[200:290, 320:390], labels[150:290, 300:320] = 1, 2, 3
        labels[30:80, 50:100], labels[30:80, 250:300] = 4, 5
        found = region_map(labels)
        self.assertEqual([body.form for body in guess_bodies(found, told_alike(found, ()))][:2], ["ground", "dome"])
        one_hill = told_alike(found, (1, 2), grouping="parts")
        self.assertEqual([body.form for body in guess_bodies(found, one_hill)][:3], ["ground", "ground", "tube"])

    def test_what_reaches_across_the_bottom_is_ground(self):
        labels = np.zeros((300, 400), np.int32)
        labels[220:290, 10:390], labels[60:160, 150:250] = 2, 1
        self.assertEqual([body.form for body in guess_bodies(region_map(labels))], ["dome", "ground"])
        bar = np.zeros((300, 400), np.int32)
        bar[240:280, 20:380] = 1
        self.assertEqual(guess_bodies(region_map(bar))[0].form, "tube")

    def test_a_staff_is_a_tube_however_it_is_turned(self):
        for angle in (0, 30, 45, 80):
            staff = np.zeros((400, 400), np.uint8)
            box = cv2.boxPoints(((200, 200), (260, 80), angle)).round().astype(np.int32)
            cv2.fillPoly(staff, [box], 1)
            with self.subTest(angle=angle):
                self.assertEqual(guess_bodies(region_map(staff))[0].form, "tube")

    def test_a_ring_is_a_tube_that_winds_and_what_is_seen_through_it_does_not_stand_on_it(self):
        """Against the exact torus: a half circle over the band, wherever it runs."""
        y, x = np.mgrid[:300, :300] - 150.0
        for outer, inner in ((120, 70), (120, 45)):
            labels = np.zeros((300, 300), np.int32)
            away = np.hypot(x, y)
            labels[away < outer], labels[away < inner] = 1, 2
            found = region_map(labels)
            bodies = guess_bodies(found)
            with self.subTest(inner=inner):
                self.assertEqual(bodies[0].form, "tube")
                self.assertEqual(guess_order(found), [Level(1, 2)])
                relief = model_forms(found, bodies)
                height = relief.height
                middle, half = (outer + inner) / 2, (outer - inner) / 2
                torus = np.sqrt(np.maximum(half**2 - (away[::2, ::2] - middle) ** 2, 0))
                band = labels[::2, ::2] == 1
                self.assertGreater(spearmanr(height[band], torus[band]).statistic, 0.97)
        spotted = np.zeros((300, 300), np.int32)
        spotted[np.hypot(x, y) < 120], spotted[np.hypot(x - 40, y + 30) < 18] = 1, 2
        self.assertEqual(guess_bodies(region_map(spotted))[0].form, "dome")  # a spot makes no ring


class LightCheckTest(SimpleTestCase):
    def setUp(self):
        labels = np.zeros((400, 800), np.int32)
        labels[disc(800, 150, (200, 200))[:400]], labels[disc(800, 150, (200, 600))[:400]] = 1, 2
        self.map = region_map(labels)

    def doubts(self, *bodies: Body, lamp: Lamp = LOW) -> list:
        light = illuminate(model_forms(self.map, bodies), lamp, full_size=False, shadows=False)
        return check_light(light, self.map.labels[::2, ::2], bodies, lamp, px_per_mm=MM / 2)

    def test_the_direction_is_read_off_the_light_to_three_degrees(self):
        for azimuth in (20, 135, 300):
            light = illuminate(
                model_forms(self.map, [Body((1,))]), Lamp(azimuth_deg=azimuth, elevation_deg=40), full_size=False
            )
            (seen,) = light_directions(light, self.map.labels[::2, ::2], [Body((1,))])
            self.assertLess(abs(seen - azimuth), 3)

    def test_it_names_what_a_hand_turned_against_the_lamp(self):
        self.assertEqual(self.doubts(Body((1,)), Body((2,), turn_deg=20)), [])
        (doubt,) = self.doubts(Body((1,)), Body((2,), turn_deg=180))
        self.assertEqual((doubt.region, doubt.remedy), (2, "turn"))
        self.assertIn("lit from 3:00, but the lamp stands at 9:00", doubt.why)

    def test_it_names_a_contact_shadow_on_the_lamps_side(self):
        facing, away = (60 / MM, 200 / MM), (340 / MM, 200 / MM)
        self.assertEqual([one.remedy for one in self.doubts(Body((1,), base_mm=facing), Body((2,)))], ["base"])
        self.assertEqual(self.doubts(Body((1,), base_mm=away), Body((2,))), [])

    def test_a_lamp_overhead_contradicts_nothing(self):
        self.assertEqual(self.doubts(Body((1,), turn_deg=180), lamp=Lamp(azimuth_deg=0, elevation_deg=85)), [])


class ZoneWishTest(SimpleTestCase):
    def test_more_shade_gives_the_darker_zones_more_of_every_region(self):
        found = region_map(disc(400, 150))
        steps = levels(illuminate(model_forms(found, [Body((1,))]), LOW))
        deep = [
            zone_shares(steps, found.labels, thresholds(steps, found.labels, Zoning(shade=shade)))[1][0]
            for shade in (-1, 0, 1)
        ]
        self.assertLess(deep[0], deep[1] - 0.05)
        self.assertGreater(deep[2], deep[1] + 0.1)

    def test_printed_hatching_is_seen_inside_and_followed(self):
        labels = np.zeros((400, 400), np.int32)
        labels[50:350, 50:350] = 1
        ink = np.zeros(labels.shape, bool)
        ink[50:350:8, 200:340] = True  # hatched on the right
        ink[48:53, 48:352] = True  # the outline
        found = RegionMap(labels=labels, ink=ink, dpi=300)
        tone = printed_shading(found)
        self.assertGreater(tone[100, 140], 0.3)
        self.assertLess(tone[100, 50], 0.02)
        relief = model_forms(found, [Body((1,), form="flat")])
        followed = illuminate(relief, LOW, printed=tone, follow=1)
        plain = illuminate(relief, LOW)
        self.assertLess(followed[200, 280], plain[200, 280] - 0.1)
        self.assertAlmostEqual(followed[200, 100], plain[200, 100], delta=0.02)

    def test_a_glow_reserves_a_circle_of_paper_and_lends_its_tint(self):
        glow = Glow(x_mm=10, y_mm=12, height_mm=25, reserve_mm=3, tint="#ffd27a")
        bare = reserved_zones((300, 300), [glow], px_per_mm=10)
        self.assertAlmostEqual(bare.sum() / 100, np.pi * 9, delta=0.3)
        self.assertIsNone(reserved_zones((9, 9), [Glow(x_mm=1, y_mm=1)], px_per_mm=10))
        ((tint, share),) = glow_tint(
            model_forms(region_map(disc(400, 150)), [Body((1,))]), [glow, Glow(x_mm=1, y_mm=1)]
        )
        self.assertEqual(tint, "#ffd27a")
        self.assertGreater(share[int(12 * MM), int(10 * MM)], share[300, 300])

    def test_tips_decide_what_is_too_small_to_shade(self):  # common practice: tiny things one flat colour
        self.assertEqual(narrowest_shaded_mm("marker"), 2.0)
        self.assertLess(narrowest_shaded_mm("pencil"), narrowest_shaded_mm("watercolour"))
