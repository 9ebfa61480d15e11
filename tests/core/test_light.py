"""Form and light against solids whose shape and shading are known exactly."""

from __future__ import annotations

import numpy as np
from django.test import SimpleTestCase
from scipy.stats import spearmanr

from paleta.errors import FormError, LampError, ZoningError
from paleta.light import (
    NO_ZONE,
    Body,
    Glow,
    Lamp,
    Zoning,
    guess_bodies,
    illuminate,
    levels,
    model_forms,
    thresholds,
    zone_map,
    zone_shares,
)
from tests.builders import disc, region_map

RADIUS = 150


def hemisphere_normals(size: int) -> tuple[np.ndarray, np.ndarray]:
    """Exact normals of a half ball on every second pixel, and where it is not too close to the rim."""
    y, x = np.mgrid[0:size:2, 0:size:2] - size // 2
    z = np.sqrt(np.maximum(RADIUS**2 - x**2 - y**2, 0))
    return np.stack([x, y, z], axis=-1) / RADIUS, np.hypot(x, y) < 0.92 * RADIUS


class FormTest(SimpleTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.map = region_map(disc(400, RADIUS))
        cls.relief = model_forms(cls.map, [Body((1,))])

    def test_an_inflated_disc_is_the_hemisphere(self):
        # The solution of u_xx + u_yy = -4 on a disc is R^2 - r^2; its root is the half ball.
        y, x = np.mgrid[0:400:2, 0:400:2] - 200
        exact = np.sqrt(np.maximum(RADIUS**2 - x**2 - y**2, 0))
        inside = np.hypot(x, y) < 0.92 * RADIUS
        self.assertLess(np.abs(self.relief.height - exact)[inside].max(), 0.02 * RADIUS)

    def test_its_normals_are_within_three_degrees_of_the_ball(self):
        exact, inside = hemisphere_normals(400)
        cosine = np.clip((self.relief.normals * exact).sum(axis=-1)[inside], -1, 1)
        self.assertLess(np.degrees(np.arccos(cosine)).max(), 3)

    def test_its_shading_follows_lamberts_law(self):
        exact, inside = hemisphere_normals(400)
        for azimuth, elevation in ((315, 40), (90, 25), (180, 70)):
            lamp = Lamp(azimuth_deg=azimuth, elevation_deg=elevation, ambient=0.2)
            expected = 0.2 + 0.8 * np.clip(exact @ np.array(lamp.direction), 0, 1)  # [Lambert1760]
            found = illuminate(self.relief, lamp, full_size=False)
            with self.subTest(azimuth=azimuth, elevation=elevation):
                self.assertGreater(spearmanr(found[inside], expected[inside]).statistic, 0.99)
                self.assertLess(np.abs(found - expected)[inside].max(), 0.05)

    def test_a_strip_becomes_the_half_cylinder_however_it_lies(self):
        y, x = np.mgrid[:400, :400] - 200
        for deg in (0, 30, 63, 90, 140):
            along = np.array([np.sin(np.radians(deg)), -np.cos(np.radians(deg))])
            s, c = x * along[0] + y * along[1], x * along[1] - y * along[0]
            relief = model_forms(region_map((np.abs(s) < 160) & (np.abs(c) < 50)), [Body((1,), form="tube")])
            exact = np.sqrt(np.maximum(50**2 - c[::2, ::2] ** 2, 0))
            inside = (np.abs(c[::2, ::2]) < 42) & (np.abs(s[::2, ::2]) < 120)
            with self.subTest(deg=deg):
                self.assertLess(np.abs(relief.height - exact)[inside].mean(), 3)

    def test_a_hollow_is_lit_on_the_far_side(self):
        hollow = model_forms(self.map, [Body((1,), form="hollow")])
        light = illuminate(hollow, Lamp(azimuth_deg=270, elevation_deg=40))  # the lamp stands on the left
        self.assertGreater(light[200, 280], light[200, 120])

    def test_flat_regions_still_fade_away_from_the_lamp(self):  # common practice: walls darken towards the far end
        flat = model_forms(self.map, [Body((1,), form="flat")])
        light = illuminate(flat, Lamp(azimuth_deg=90, elevation_deg=40))
        self.assertGreater(light[200, 300], light[200, 100])

    def test_bulge_scales_the_height(self):
        half = model_forms(self.map, [Body((1,), bulge=0.5)])
        np.testing.assert_allclose(half.height.max() / self.relief.height.max(), 0.5, rtol=1e-3)


class GlowTest(SimpleTestCase):
    def test_a_glow_lights_what_is_near_and_what_faces_it(self):
        labels = np.zeros((300, 600), np.int32)
        labels[disc(600, 60, centre=(150, 150))[:300]], labels[disc(600, 60, centre=(150, 450))[:300]] = 1, 2
        relief = model_forms(region_map(labels), [Body((1,)), Body((2,))])
        dark = Lamp(azimuth_deg=0, elevation_deg=0, ambient=0)
        scale = 300 / 25.4
        glow = Glow(x_mm=300 / scale, y_mm=150 / scale, reach_mm=10)
        added = illuminate(relief, dark, [glow]) - illuminate(relief, dark)
        self.assertGreater(added[150, 190], added[150, 110])  # the side of the left ball that faces the glow
        self.assertGreater(added[150, 410], added[150, 490])
        np.testing.assert_allclose(added[150, 190], added[150, 410], rtol=0.1)
        far = illuminate(relief, dark, [Glow(x_mm=600 / scale, y_mm=150 / scale, reach_mm=3)])
        self.assertGreater(far[150, 490], far[150, 190])

    def test_light_falls_off_to_a_quarter_at_its_reach(self):
        labels = np.ones((200, 900), np.int32)
        relief = model_forms(region_map(labels), [Body((1,), form="flat")])
        scale, dark = 300 / 25.4, Lamp(azimuth_deg=0, elevation_deg=0, ambient=0)
        glow = Glow(x_mm=5, y_mm=8, height_mm=60, reach_mm=30)
        light = illuminate(relief, dark, [glow])
        below = light[round(8 * scale), round(5 * scale)]
        self.assertAlmostEqual(float(below), 1 / (1 + 60 / 30) ** 2, delta=0.01)


class CastShadowTest(SimpleTestCase):
    """A half ball of radius R on a level ground; the lamp stands in the west, so the shadow falls to the east."""

    RADIUS = 60

    def shadow(self, elevation: float, **more) -> np.ndarray:
        """Where light is missing along the row through the middle of the ball."""
        labels = np.ones((300, 700), np.int32)
        labels[disc(700, self.RADIUS, centre=(150, 150))[:300]] = 2
        relief = model_forms(region_map(labels), [Body((1,), form="flat"), Body((2,), depth=1)])
        lamp = Lamp(azimuth_deg=270, elevation_deg=elevation, ambient=0)
        lit = illuminate(relief, lamp, shadows=False)
        return (lit - illuminate(relief, lamp, **more))[150] > 0.25 * lit[150].max()

    def test_its_length_is_that_of_the_ray_that_touches_the_ball(self):
        # The ray that grazes a ball of radius R meets the ground at R / sin(elevation) from the ball's middle;
        # for a thing of height h with a sharp top that is the familiar h / tan(elevation).
        for elevation in (20, 35, 55):
            far = np.flatnonzero(self.shadow(elevation)).max() - 150
            with self.subTest(elevation=elevation):
                self.assertAlmostEqual(far, self.RADIUS / np.sin(np.radians(elevation)), delta=6)

    def test_it_falls_on_the_far_side_only_and_never_on_the_nearer_body(self):
        row = self.shadow(30)
        self.assertFalse(row[:90].any())
        self.assertFalse(row[100:200].any())
        self.assertTrue(row[215:250].all())

    def test_it_can_be_turned_off_and_an_overhead_lamp_casts_none(self):
        self.assertFalse(self.shadow(30, shadows=False).any())
        self.assertFalse(self.shadow(90).any())


class DepthTest(SimpleTestCase):
    def setUp(self):
        self.labels = np.zeros((300, 400), np.int32)
        self.labels[60:280, 20:380] = 1
        self.labels[disc(400, 50, centre=(170, 200))[:300]] = 2

    def middle_row(self, front_depth: int) -> np.ndarray:
        relief = model_forms(region_map(self.labels), [Body((1,)), Body((2,), depth=front_depth)])
        return relief.height[85]

    def test_a_hill_gets_no_rim_round_what_stands_in_front_of_it(self):
        alone = np.where(self.labels == 2, 1, self.labels)
        free = model_forms(region_map(alone), [Body((1,))]).height[85]
        own = (self.labels[170, ::2] == 1) & (np.arange(200) > 20) & (np.arange(200) < 180)
        np.testing.assert_allclose(self.middle_row(1)[own], free[own], rtol=0.02)

    def test_neighbours_of_equal_depth_are_its_own_outline(self):
        beside = np.flatnonzero(self.labels[170, ::2] == 2)[0] - 1
        self.assertLess(self.middle_row(0)[beside], 0.3 * self.middle_row(1)[beside])

    def test_a_region_inside_another_is_guessed_to_stand_in_front(self):
        depth = {body.regions[0]: body.depth for body in guess_bodies(region_map(self.labels))}
        self.assertEqual(depth, {1: 0, 2: 1})


class RefusalTest(SimpleTestCase):
    def test_impossible_lamps_and_bodies_say_which_rule_they_break(self):
        for make, words in (
            (lambda: Lamp(azimuth_deg=361, elevation_deg=0), "0..360, got 361"),
            (lambda: Lamp(azimuth_deg=0, elevation_deg=-5), "0..90, got -5"),
            (lambda: Lamp(azimuth_deg=0, elevation_deg=0, ambient=1), "0..0.9, got 1"),
            (lambda: Glow(x_mm=0, y_mm=0, reach_mm=0), "reach_mm must lie in 1..200"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(LampError, words):
                make()
        for make, words in (
            (lambda: Body((1,), form="cube"), "got 'cube'"),
            (lambda: Body((1,), bulge=3), "0.05..2, got 3"),
            (lambda: Body(()), "at least one region"),
            (lambda: model_forms(region_map(disc(40, 10)), [Body((1,)), Body((1,))]), "two bodies"),
            (lambda: model_forms(region_map(disc(40, 10)), [Body((7,))]), "no region 7"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(FormError, words):
                make()
        with self.assertRaisesMessage(ZoningError, "got 6"):
            Zoning(shades={1: 6})


class ZoneTest(SimpleTestCase):
    def setUp(self):
        self.map = region_map(disc(400, RADIUS))
        self.light = illuminate(model_forms(self.map, [Body((1,))]), Lamp(azimuth_deg=315, elevation_deg=45))

    def test_every_zone_gets_its_share_and_darker_zones_are_darker(self):
        zones = zone_map(self.light, self.map, Zoning(default=3))
        inside = self.map.labels == 1
        shares = np.bincount(zones[inside], minlength=3) / inside.sum()
        np.testing.assert_allclose(shares, (0.26, 0.36, 0.38), atol=0.03)
        means = [self.light[zones == zone].mean() for zone in range(3)]
        self.assertEqual(means, sorted(means))

    def test_paper_has_no_zone_and_so_has_a_region_left_as_paper(self):
        self.assertTrue((zone_map(self.light, self.map, Zoning())[self.map.labels == 0] == NO_ZONE).all())
        self.assertTrue((zone_map(self.light, self.map, Zoning(shades={1: 0})) == NO_ZONE).all())

    def test_the_deepest_zone_lies_opposite_the_lamp(self):
        zones = zone_map(self.light, self.map, Zoning(default=4))
        rows, cols = np.nonzero(zones == 0)
        away = np.degrees(np.arctan2(cols.mean() - 200, -(rows.mean() - 200))) % 360
        self.assertLess(abs(away - 135), 3)  # the lamp stands at 315 degrees

    def test_true_to_the_scene_leaves_a_region_in_shade_dark_all_over(self):
        labels = np.zeros((200, 400), np.int32)
        labels[50:150, 20:180], labels[50:150, 220:380] = 1, 2
        light = np.where(labels == 1, 0.2, 0.9).astype(np.float32)
        light += np.linspace(0, 0.05, 400, dtype=np.float32)
        zones = zone_map(light, region_map(labels), Zoning(default=3, true_to_scene=1))
        self.assertEqual((zones[labels == 1].max(), zones[labels == 2].min()), (1, 1))
        by_region = zone_map(light, region_map(labels), Zoning(default=3))
        self.assertEqual((by_region[labels == 1].max(), by_region[labels == 2].min()), (2, 0))


class BodyTest(SimpleTestCase):
    """A ball cut in two halves by a line from top to bottom, lit from the left."""

    def setUp(self):
        ball = disc(400, RADIUS)
        labels = np.where(ball, 1, 0)
        labels[:, 200:][ball[:, 200:]] = 2
        self.map = region_map(labels)
        self.lamp = Lamp(azimuth_deg=270, elevation_deg=45)

    def test_two_halves_of_one_body_bulge_like_the_whole_ball(self):
        one = model_forms(self.map, [Body((1, 2))])
        whole = model_forms(region_map(self.map.labels > 0), [Body((1,))])
        np.testing.assert_allclose(one.height, whole.height, atol=0.5)

    def test_zones_run_across_a_body_so_its_far_half_has_no_light_zone(self):
        light = illuminate(model_forms(self.map, [Body((1, 2))]), self.lamp)
        steps = levels(light)
        together = Zoning(default=3, bodies={1: 1, 2: 1})
        shares = zone_shares(steps, self.map.labels, thresholds(steps, self.map.labels, together))
        self.assertGreater(shares[1][2], 0.6)
        self.assertLess(shares[2][2], 0.15)
        alone = zone_shares(steps, self.map.labels, thresholds(steps, self.map.labels, Zoning(default=3)))
        self.assertAlmostEqual(alone[2][2], 0.38, delta=0.05)

    def test_shares_are_those_of_the_zone_map_and_add_up_to_one(self):
        light = illuminate(model_forms(self.map, [Body((1,)), Body((2,))]), self.lamp)
        zoning, steps = Zoning(default=4), levels(light)
        shares = zone_shares(steps, self.map.labels, thresholds(steps, self.map.labels, zoning))
        zones = zone_map(light, self.map, zoning)
        for label in (1, 2):
            counted = np.bincount(zones[self.map.labels == label], minlength=4) / (self.map.labels == label).sum()
            np.testing.assert_allclose(shares[label], counted, atol=1e-3)
            self.assertAlmostEqual(sum(shares[label]), 1, places=2)
