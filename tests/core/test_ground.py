"""Grounds: fades against what they are by definition and by SciPy, taking and parting the paper round a figure, and
where accents lie."""

from __future__ import annotations

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import ndimage
from scipy.interpolate import PchipInterpolator

from paleta.checks import fit, ground_advice
from paleta.errors import EditError, FadeError
from paleta.ground import FADES, WAYS, Fade, bare, fade, length_mm, shades_for, smooth
from paleta.impression import MOST_BANDS, apply_edits
from paleta.light import ACCENTS, LEVELS, Lamp, accent_cover
from paleta.materials import PAPERS, Paper
from paleta.media import Swatch
from paleta.order import SCHOOLS
from paleta.recipe import RegionSetting, carry_over
from tests.builders import by_pen, coats, disc, make_sheet, region_map

PX = 4.0
"""Pixels to the mm."""


def panel(rows: int = 120, cols: int = 160) -> np.ndarray:
    return np.ones((rows, cols), bool)


class FadeTest(SimpleTestCase):
    @settings(max_examples=30)
    @given(st.floats(0, 360))
    def test_a_linear_fade_is_linear_in_the_drawn_direction(self, degrees):
        light = fade(panel(), Fade(kind="side", from_deg=degrees), px_per_mm=PX)
        rows, cols = np.mgrid[:120, :160]
        along = -np.sin(np.radians(degrees)) * cols + np.cos(np.radians(degrees)) * rows
        wanted = (along - along.min()) / (along.max() - along.min())
        np.testing.assert_allclose(light, wanted, atol=2e-4)

    def test_from_the_top_is_deepest_at_the_top_and_turned_round_at_the_bottom(self):
        light = fade(panel(), Fade(kind="side"), px_per_mm=PX)
        self.assertEqual((light[0].max(), light[-1].min()), (0, 1))
        turned = fade(panel(), Fade(kind="side", turned=True), px_per_mm=PX)
        np.testing.assert_allclose(turned, 1 - light, atol=1e-6)

    def test_beyond_its_reach_it_is_palest(self):
        light = fade(panel(), Fade(kind="side", reach_mm=10), px_per_mm=PX)
        self.assertTrue((light[40:] == 1).all())
        self.assertAlmostEqual(float(light[20, 0]), 0.5, delta=0.01)

    @settings(max_examples=15)
    @given(st.integers(20, 60), st.integers(30, 90), st.integers(0, 10_000))
    def test_an_edge_fade_follows_the_euclidean_distance(self, rows, cols, seed):
        """Against SciPy's exact transform, on panels and on round grounds."""
        chance = np.random.default_rng(seed)
        mask = panel(rows, cols) if seed % 2 else disc(2 * rows, rows - 2.0 - chance.uniform(0, 3))
        light = fade(mask, Fade(kind="edges"), px_per_mm=PX)
        away = ndimage.distance_transform_edt(np.pad(mask, 1))[1:-1, 1:-1]
        np.testing.assert_allclose(light[mask], (away / away.max())[mask], atol=0.01)

    def test_a_figure_is_no_edge_of_the_panel_but_a_fade_may_begin_at_it(self):
        figure = disc(160, 30)[20:140]
        mask = panel() & ~figure
        plain, holed = (fade(one, Fade(kind="edges"), px_per_mm=PX) for one in (panel(), mask))
        np.testing.assert_allclose(holed[mask], plain[mask] * plain.max() / plain[mask].max(), atol=0.02)
        outwards = fade(mask, Fade(kind="figure"), px_per_mm=PX)
        away = ndimage.distance_transform_edt(~figure)
        np.testing.assert_allclose(outwards[mask], (away / away[mask].max())[mask], atol=0.01)

    def test_round_a_point_it_falls_with_the_square_of_the_distance(self):
        spec = Fade(kind="point", x_mm=10, y_mm=10, reach_mm=2)
        light = fade(panel(400, 400), spec, px_per_mm=PX)

        def at(mm):
            return float(light[round(10 * PX), round((10 + mm) * PX)])

        for mm in (2.0, 20.0, 40.0, 80.0):
            from_centre = np.hypot(0.125, mm + 0.125)  # from the point to the pixel's middle
            self.assertAlmostEqual(at(mm), 1 / (1 + (from_centre / 2) ** 2), delta=1e-4)
        # Far away twice the distance is a quarter of the light.
        self.assertAlmostEqual(at(40) / at(80), 4, delta=0.1)

    def test_within_the_bare_ring_paper_stays_and_the_fade_begins_outside(self):
        spec = Fade(kind="point", x_mm=20, y_mm=15, bare_mm=5, profile="linear")
        ring = bare((120, 160), spec, px_per_mm=PX)
        rows, cols = np.mgrid[:120, :160]
        away = np.hypot((cols + 0.5) / PX - 20, (rows + 0.5) / PX - 15)
        np.testing.assert_array_equal(ring, away <= 5)
        light = fade(panel(), spec, px_per_mm=PX)
        self.assertGreater(float(light[ring].min()), 0.99)
        outside = away > 5
        wanted = 1 - (away[outside] - 5) / (away.max() - 5)
        np.testing.assert_allclose(light[outside], wanted, atol=0.01)

    def test_every_fade_stays_in_bounds_and_in_its_ground(self):
        mask = disc(160, 50)[20:140]
        for kind in FADES:
            with self.subTest(kind=kind):
                light = fade(mask, Fade(kind=kind, x_mm=5, y_mm=5), px_per_mm=PX)
                self.assertEqual((light.dtype, light.shape), (np.float32, mask.shape))
                self.assertTrue((light[~mask] == 0).all())
                self.assertTrue(((light >= 0) & (light <= 1)).all())

    def test_what_cannot_fade_is_refused(self):
        for make, words in (
            (lambda: Fade(kind="spiral"), "got 'spiral'"),
            (lambda: Fade(from_deg=400), "0..360, got 400"),
            (lambda: fade(~panel(), Fade(), px_per_mm=PX), "no paper left"),
            (lambda: fade(panel(), Fade(), px_per_mm=0), "make a millimetre"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(FadeError, words):
                make()

    def test_a_long_fade_takes_more_shades(self):  # common practice; docs/trade-notes.md, Grounds
        self.assertEqual([shades_for(mm) for mm in (0, 20, 50, 100, 200)], [1, 2, 3, 4, 5])
        self.assertEqual(length_mm(panel(), Fade(kind="even"), px_per_mm=PX), 0)
        self.assertAlmostEqual(length_mm(panel(), Fade(), px_per_mm=PX), 119 / PX)

    def test_every_way_of_laying_is_a_school_of_its_medium(self):
        for way in WAYS.values():
            self.assertEqual(SCHOOLS[way.school].medium, way.medium)
        self.assertIn("no heat tool", WAYS["pounced"].caution)


class CurveTest(SimpleTestCase):
    def test_a_hill_runs_through_its_handles_and_never_beyond_them(self):
        handles = [[0, 50], [20, 44], [40, 45], [90, 60]]
        line = np.array(smooth(handles))
        wanted = PchipInterpolator(*np.array(handles, float).T)(line[:, 0])
        np.testing.assert_allclose(line[:, 1], wanted, atol=1e-3)
        self.assertTrue((line[:, 1] >= 44).all() and (line[:, 1] <= 60).all())

    def test_two_handles_are_joined_straight(self):
        self.assertEqual(smooth([[0, 1], [9, 4]]), [[0.0, 1.0], [9.0, 4.0]])


class TakenTest(SimpleTestCase):
    """A figure of one region on paper, 254 dpi: 10 px to the mm."""

    def setUp(self):
        labels = np.zeros((300, 400), np.int32)
        labels[100:200, 150:250] = 1
        self.map = region_map(labels, dpi=254)
        self.ground = {"op": "ground", "label": 2, "margin_mm": 0}

    def edited(self, *edits):
        return apply_edits(self.map, edits).labels

    def test_the_paper_becomes_a_region_less_its_margin(self):
        labels = self.edited(self.ground)
        np.testing.assert_array_equal(labels == 2, self.map.labels == 0)
        narrow = self.edited({**self.ground, "margin_mm": 3})
        self.assertTrue((narrow[:30] == 0).all())
        self.assertEqual(narrow[31, 31], 2)

    def test_a_horizon_parts_it_behind_the_figure(self):
        line = {"op": "horizon", "region": 2, "label": 3, "handles": [[0, 12], [40, 18]]}
        labels = self.edited(self.ground, line)
        self.assertTrue((labels[100:200, 150:250] == 1).all())
        rows, cols = np.nonzero(labels == 3)
        self.assertTrue((rows + 0.5 > 120 + 60 * (cols + 0.5) / 400 - 1).all())
        # Left and right of the figure alike.
        self.assertEqual((labels[290, 5], labels[290, 395], labels[5, 5], labels[5, 395]), (3, 3, 2, 2))

    def test_bands_are_as_wide_as_they_were_asked_for(self):
        bands = {"op": "bands", "region": 2, "labels": [3, 4], "widths_mm": [5, 8, 6], "gap_mm": 2, "from_deg": 0}
        column = self.edited(self.ground, bands)[:, 5]
        self.assertEqual([int((column == label).sum()) for label in (2, 3, 4)], [50, 80, 60])
        self.assertTrue((column[50:70] == 0).all() and (column[230:] == 0).all())
        sideways = self.edited(self.ground, {**bands, "from_deg": 270})[5]
        self.assertEqual([int((sideways == label).sum()) for label in (2, 3, 4)], [50, 80, 60])
        self.assertEqual(sideways[0], 2)

    def test_what_does_not_fit_the_ground_is_refused_in_a_sentence(self):
        away = {"op": "horizon", "region": 2, "label": 3, "handles": [[0, -9], [40, -8]]}
        wide = {"op": "bands", "region": 2, "labels": [3], "widths_mm": [20, 20], "gap_mm": 0, "from_deg": 0}
        hidden = {"op": "bands", "region": 1, "labels": [], "widths_mm": [3, 3], "gap_mm": 0, "from_deg": 0}
        for edits, words in (
            ((self.ground, away), "crosses nothing of this ground"),
            ((self.ground, wide), "40.0 mm wide together; the ground has only 30.0 mm"),
            ((self.ground, self.ground), "There is a region 2 already"),
            (({**self.ground, "label": 1},), "There is a region 1 already"),
            (({**self.ground, "margin_mm": 15},), "no paper round the figure"),
            ((hidden,), "needs a label"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(EditError, words):
                self.edited(*edits)
        full = region_map(np.ones((50, 50)))
        with self.assertRaisesMessage(EditError, "no paper round the figure"):
            apply_edits(full, [self.ground])
        self.assertGreaterEqual(MOST_BANDS, 3)

    def test_a_ground_is_taken_again_when_the_regions_are_looked_for_again(self):
        line = {"op": "horizon", "region": 2, "label": 3, "handles": [[0, 15], [40, 15]]}
        names = {1: RegionSetting("Box"), 2: RegionSetting("Sky", fade=Fade()), 3: RegionSetting("Sea", fade=Fade())}
        sheet = make_sheet("Box", edits=(self.ground, line), settings=names)
        old = apply_edits(self.map, sheet.regions.edits)
        found = self.map.labels.copy()
        found[100:200, 200:250] = 2  # The box is two regions now.
        carried = carry_over(sheet, old, region_map(found, dpi=254))
        self.assertEqual([edit.get("label") for edit in carried.edits], [3, 4])
        self.assertEqual({one.name for one in carried.regions.values()}, {"Box", "Box (2)", "Sky", "Sea"})
        self.assertEqual(carried.lost, ())


class AccentTest(SimpleTestCase):
    """A lit ball of 30 px radius, 4 px to the mm, with the lamp at 9 o'clock."""

    def setUp(self):
        self.ball = disc(160, 30)
        self.labels = self.ball.astype(np.int32)
        cols = np.arange(160)
        light = np.where(self.ball, np.clip((110 - cols) / 60, 0, 1)[None, :], 1)
        self.levels = (light * (LEVELS - 1)).astype(np.int32)

    def cover(self, kind: str, elevation: float = 40.0):
        lamp = Lamp(azimuth_deg=270, elevation_deg=elevation)
        return accent_cover(kind, {1: 1}, self.labels, self.levels, lamp, px_per_mm=PX)

    def middle(self, share: np.ndarray) -> tuple[float, float]:
        row, col = ndimage.center_of_mass(share)
        return row - 80, col - 80

    def test_rims_face_the_lamp_and_lie_inside(self):
        share = self.cover("rim").share
        self.assertTrue((share[~self.ball] == 0).all())
        row, col = self.middle(share)
        self.assertAlmostEqual(row, 0, delta=1)
        self.assertLess(col, -20)

    def test_creases_lie_at_the_dark_edge(self):
        share = self.cover("crease").share
        self.assertTrue((share[~self.ball] == 0).all())
        self.assertGreater(self.middle(share)[1], 20)
        self.assertEqual(float(share[80, 60]), 0)

    def test_a_shadow_falls_away_from_the_lamp_and_is_longer_as_that_sinks(self):
        low, high = self.cover("shadow", 15).share, self.cover("shadow", 70).share
        for share in (low, high):
            self.assertTrue((share[self.ball] == 0).all())
            self.assertGreater(self.middle(share)[1], 20)
        self.assertGreater(low.sum(), 1.5 * high.sum())

    def test_a_halo_goes_all_round_outside(self):
        share = self.cover("halo").share
        self.assertTrue((share[self.ball] == 0).all())
        self.assertLess(np.hypot(*self.middle(share)), 1)
        away = ndimage.distance_transform_edt(~self.ball) / PX
        self.assertLess(away[share > 0].max(), 1.4)

    def test_touches_of_a_background_stay_on_it_and_are_the_same_each_time(self):
        for kind in (code for code, one in ACCENTS.items() if one.background):
            with self.subTest(kind=kind):
                cover = self.cover(kind)
                self.assertTrue((cover.share[~self.ball] == 0).all())
                self.assertTrue(0 < cover.areas[1] < 0.6 * self.ball.sum())
                np.testing.assert_array_equal(cover.share, self.cover(kind).share)

    def test_what_an_accent_covers_is_measured(self):
        for kind in ACCENTS:
            cover = self.cover(kind)
            self.assertAlmostEqual(cover.areas[1], float(cover.share.sum()), delta=0.02 * float(cover.share.sum()) + 1)


class AdviceTest(SimpleTestCase):
    def advice(self, *lights: float, **more) -> list[str]:
        pens = [Swatch(code=f"i{light}", name=f"Ink {light}", medium="inkpad", lab=(light, 0, -20)) for light in lights]
        ramp = coats(*(pen.code for pen in pens), medium="inkpad")
        setting = RegionSetting("Sky", fade=Fade(), coats=ramp, **{"by_hand": True, **more})
        return ground_advice(make_sheet(settings={1: setting}, swatches=by_pen(pens)), {1: 90.0})

    def test_two_inks_close_together_want_a_third(self):  # common practice; docs/trade-notes.md, Grounds
        self.assertIn("only 8 apart", self.advice(70, 62)[0])
        self.assertIn("third, deeper", self.advice(70, 62)[0])
        self.assertEqual(self.advice(80, 60, 40, 25), [])

    def test_a_long_fade_in_few_shades_is_told(self):
        self.assertIn("90 mm", self.advice(80, 40)[0])

    def test_what_was_proposed_is_the_most_there_is_and_asks_for_no_more(self):
        self.assertEqual(self.advice(80, 40, by_hand=False), [])

    def test_a_ground_far_from_its_wish_says_so_and_one_near_does_not(self):
        (told,) = self.advice(80, 40, by_hand=False, wish_lab=(60.0, 50.0, 40.0))
        self.assertIn("Sky will not look as wished: Ink", told)
        self.assertEqual(self.advice(80, 40, by_hand=False, wish_lab=(78.0, 0.0, -22.0)), [])

    def test_gloss_takes_neither_wax_nor_water(self):  # common practice; docs/trade-notes.md, Fit
        glossy = Paper("own-1", "Glossy card", PAPERS["smooth-white"].lab, 250, "cover", "glossy")
        self.assertIn("smears", fit("pencil", "dye", glossy)[0].why)
        self.assertEqual(fit("inkpad", "dye", glossy), ())
