"""The picture: every pixel follows from light, thresholds and looks, and ink stays on top."""

from __future__ import annotations

from dataclasses import replace

import cv2
import numpy as np
from django.test import SimpleTestCase

from paleta.colour import difference, lab_to_srgb, srgb_to_lab
from paleta.impression import Impression, RegionMap, find_regions, read
from paleta.light import LEVELS, Body, Lamp, Zoning, illuminate, levels, model_forms, thresholds
from paleta.materials import PAPERS, REFERENCE_PAPER
from paleta.media import Swatch, appearance
from paleta.order import SCHOOLS
from paleta.picture import VIEWS, looks_of, make_canvas, paint, stack_look
from paleta.picture._paint import ViewUnknown
from paleta.picture._texture import NEUTRAL, POUNCED, texture
from paleta.recipe import RegionSetting
from tests.builders import as_file, disc, grey_pens, make_sheet

PAPER = REFERENCE_PAPER.lab


class PaintTest(SimpleTestCase):
    """A ball with an inked rim on white paper, two zones: one deep red, one pale."""

    def setUp(self):
        labels = np.where(disc(200, 80), 1, 0).astype(np.int32)
        ink = disc(200, 82) & ~disc(200, 78)
        self.map = RegionMap(labels=labels, ink=ink, dpi=300)
        photo = np.where(ink[..., None], 0.1, np.float32((0.95, 0.95, 0.97))).astype(np.float32)
        photo[5, 5] = 0.3  # a stray speck
        self.canvas = make_canvas(Impression(photo, 300), self.map)
        relief = model_forms(self.map, [Body((1,))])
        self.steps = levels(illuminate(relief, Lamp(azimuth_deg=270, elevation_deg=40)))
        self.starts = thresholds(self.steps, labels, Zoning(default=2))
        self.looks = {1: ((40.0, 45.0, 25.0), (85.0, 10.0, 5.0))}

    def paint(self, view: str, **more) -> np.ndarray:
        values = {"looks": self.looks, "thresholds": self.starts, "paper_lab": PAPER} | more
        return paint(self.canvas, view, light_levels=self.steps, **values)

    def lab(self, picture: np.ndarray, row: int, col: int) -> np.ndarray:
        return srgb_to_lab(picture[row, col] / 255)

    def test_the_far_side_shows_the_deep_look_and_the_near_side_the_pale_one(self):
        picture = self.paint("coloured")
        self.assertLess(float(difference(self.lab(picture, 100, 165), self.looks[1][0])), 3)
        self.assertLess(float(difference(self.lab(picture, 100, 60), self.looks[1][1])), 3)

    def test_paper_stays_paper_and_specks_of_the_scan_do_not_come_along(self):
        picture = self.paint("coloured")
        for place in ((2, 2), (5, 5), (195, 100)):
            self.assertLess(float(difference(self.lab(picture, *place), PAPER)), 1)

    def test_ink_is_dark_in_every_view_but_only_the_scan_keeps_its_speck(self):
        for view in VIEWS:
            with self.subTest(view=view):
                picture = self.paint(view)
                self.assertLess(self.lab(picture, 100, 20)[0], 25)
                self.assertEqual(self.lab(picture, 5, 5)[0] < 60, view == "line")

    def test_values_have_the_lightness_of_the_coloured_picture_and_no_colour(self):
        coloured, values = self.paint("coloured"), self.paint("values")
        for place in ((100, 165), (100, 60), (60, 100)):
            self.assertAlmostEqual(self.lab(values, *place)[0], self.lab(coloured, *place)[0], delta=1)
            self.assertLess(np.abs(self.lab(values, *place)[1:]).max(), 0.6)

    def test_clay_shows_form_and_light_alone_whatever_is_planned(self):
        clay = self.paint("clay")
        self.assertTrue((clay == clay[..., :1]).all())
        np.testing.assert_array_equal(clay, self.paint("clay", looks={}, thresholds={}))
        inside = disc(200, 70)
        tones, light = clay[..., 0][inside].astype(int), self.steps[inside]
        order = np.argsort(light, kind="stable")
        self.assertGreaterEqual(np.diff(tones[order]).min(), 0)
        self.assertGreater(tones[order[-1]] - tones[order[0]], 60)

    def test_between_two_shades_the_colour_melts_without_a_jump(self):
        row = self.paint("values")[100, 40:165, 0].astype(int)
        self.assertLess(np.abs(np.diff(row)).max(), 25)

    def test_a_region_without_a_look_shows_the_paper(self):
        self.assertLess(float(difference(self.lab(self.paint("coloured", looks={}), 100, 100), PAPER)), 1)

    def test_every_second_pixel_gives_the_same_picture_smaller(self):
        small = make_canvas(Impression(np.ones((200, 200, 3), np.float32), 300), self.map, 2)
        picture = paint(
            small,
            "coloured",
            light_levels=self.steps[::2, ::2].copy(),
            looks=self.looks,
            thresholds=self.starts,
            paper_lab=PAPER,
        )
        self.assertEqual(picture.shape, (100, 100, 3))
        self.assertLess(float(difference(self.lab(picture, 50, 82), self.looks[1][0])), 4)

    def test_an_unknown_view_is_refused(self):
        with self.assertRaisesMessage(ViewUnknown, "no view 'xray'"):
            self.paint("xray")


class TextureTest(SimpleTestCase):
    """A square of one region on paper, 12 px to the mm."""

    def setUp(self):
        self.labels = np.zeros((120, 120), np.int32)
        self.labels[20:100, 20:100] = 1

    def field(self, medium: str) -> np.ndarray:
        return texture(self.labels, {1: medium}, 12)[..., 0].astype(float) / NEUTRAL

    def test_marker_dries_smooth(self):  # common practice
        self.assertIsNone(texture(self.labels, {1: "marker"}, 12))

    def test_watercolour_dries_darker_at_its_edge_and_pens_less_so(self):  # common practice
        edges = {}
        for medium in ("watercolour", "soluble"):
            field = self.field(medium)
            rim, middle = field[21:99, 21:23].mean(), field[50:70, 50:70].mean()
            edges[medium] = middle - rim
        self.assertGreater(edges["watercolour"], 0.08)
        self.assertGreater(edges["watercolour"], 1.5 * edges["soluble"])
        self.assertGreater(edges["soluble"], 0.03)

    def test_pencil_shows_the_tooth_of_the_paper_and_an_ink_pad_hardly_anything(self):
        inside = (slice(30, 90), slice(30, 90))
        pencil, pad = self.field("pencil")[inside].std(), self.field("inkpad")[inside].std()
        self.assertGreater(pencil, 0.03)
        self.assertLess(pad, 0.03)

    def test_pounced_ink_is_mottled_and_blended_ink_only_a_little_cloudy(self):  # common practice
        inside = (slice(30, 90), slice(30, 90))
        self.assertGreater(self.field(POUNCED)[inside].std(), 2 * self.field("inkpad")[inside].std())

    @staticmethod
    def alike(field: np.ndarray, degrees: float) -> float:
        """How much each pixel is like that 9 px away in a direction, against the clock from the right."""
        rows, cols = round(-9 * np.sin(np.radians(degrees))), round(9 * np.cos(np.radians(degrees)))
        moved = np.roll(field, (-rows, -cols), axis=(0, 1))[20:-20, 20:-20]
        return float(np.corrcoef(moved.ravel(), field[20:-20, 20:-20].ravel())[0, 1])

    def test_pencil_far_from_any_edge_runs_in_strokes_of_one_direction(self):
        field = texture(np.ones((400, 400), np.int32), {1: "pencil"}, 12)[..., 0].astype(float)
        self.assertGreater(self.alike(field, 58), self.alike(field, 148) + 0.15)

    def test_pencil_follows_the_form(self):  # common practice
        """In a round thing strokes run round it: up and down beside its middle, across above and below."""
        labels = np.zeros((480, 480), np.int32)
        rows, cols = np.mgrid[-240:240, -240:240]
        labels[np.hypot(rows, cols) < 150] = 1
        field = texture(labels, {1: "pencil"}, 12)[..., 0].astype(float)
        around = {
            "right": (slice(180, 300), slice(290, 380), 90),
            "left": (slice(180, 300), slice(100, 190), 90),
            "above": (slice(100, 190), slice(180, 300), 0),
            "below": (slice(290, 380), slice(180, 300), 0),
        }
        for side, (high, wide, along) in around.items():
            with self.subTest(side=side):
                part = field[high, wide]
                self.assertGreater(self.alike(part, along), self.alike(part, along + 90) + 0.15)

    def test_no_texture_shifts_a_colour_by_much_nor_touches_bare_paper(self):
        for medium in ("watercolour", "soluble", "pencil", "inkpad"):
            with self.subTest(medium=medium):
                field = self.field(medium)
                self.assertAlmostEqual(field[40:80, 40:80].mean(), 1, delta=0.05)
                self.assertTrue((field[self.labels == 0] == 1).all())
                np.testing.assert_array_equal(field, self.field(medium))


def ladder(chance: np.random.Generator, medium: str) -> tuple[Swatch, ...]:
    """Three swatches of one hue with steps of 12 to 18 in L*, palest first, as one coat of each can look."""
    hue, chroma, light = chance.uniform(0, 2 * np.pi), chance.uniform(8, 32), chance.uniform(80, 88)
    swatches = []
    for number in range(3):
        lab = (light, chroma * np.cos(hue), chroma * np.sin(hue))
        made = Swatch(f"{medium}-{number}", f"No {number}", medium, lab)
        swatches.append(replace(made, lab=appearance(made, made.paper)))
        light -= chance.uniform(12, 18)
    return tuple(swatches)


class LooksTest(SimpleTestCase):
    def test_deeper_zones_look_darker_in_every_school(self):
        for code, school in SCHOOLS.items():
            ramp = tuple(grey_pens(88, 68, 48, medium=school.medium))
            look = stack_look(((ramp, school),), REFERENCE_PAPER)
            with self.subTest(school=code):
                self.assertEqual([lab[0] for lab in look], sorted(lab[0] for lab in look))

    def test_a_single_flat_coat_is_the_swatch_itself(self):
        (pen,) = grey_pens(70)
        (look,) = stack_look((((pen,), SCHOOLS["M1"]),), REFERENCE_PAPER)
        self.assertLess(float(difference(look, appearance(pen, REFERENCE_PAPER))), 0.01)

    def test_every_zone_ends_near_its_swatch_unless_the_school_says_otherwise(self):
        """Common practice: ramps are chosen by their swatches because the blend ends near them. Drawers by chance."""
        chance = np.random.default_rng(11)
        for code, school in SCHOOLS.items():
            dry = {step.which for step in school.steps if step.join == "dry"}
            if code.endswith("0") or code == "P2":
                continue  # one flat colour for all zones, and accents over marker
            for _ in range(6):
                ramp = ladder(chance, school.medium)
                look = stack_look(((ramp, school),), ramp[0].paper)
                for zone, (seen, one) in enumerate(zip(look, reversed(ramp), strict=True)):
                    again = bool(dry & {"darkest", "all"}) if zone == 0 else bool(dry)
                    with self.subTest(school=code, zone=zone, ramp=[swatch.lab for swatch in ramp]):
                        if again:  # a dry second coat: between the swatch and two whole coats of it
                            twice = appearance(one, one.paper, coats=2)
                            self.assertGreaterEqual(seen[0], twice[0] - 1.5)
                            self.assertLessEqual(seen[0], one.lab[0] + 5)
                        else:
                            self.assertLess(abs(seen[0] - one.lab[0]), 5)
                            self.assertLess(float(difference(seen, one.lab)), 8)

    def test_a_second_time_over_in_a_wet_blend_darkens_less_than_a_second_dry_coat(self):  # common practice
        ramp = tuple(grey_pens(85, 55))
        melted = stack_look(((ramp, SCHOOLS["M1"]),), REFERENCE_PAPER)[1]
        self.assertLess(melted[0], 85)
        self.assertGreater(melted[0], appearance(ramp[0], REFERENCE_PAPER, coats=2)[0])

    def test_regions_left_as_paper_have_no_look_and_unchosen_ones_are_the_paper_in_less_light(self):
        sheet = make_sheet(
            settings={1: RegionSetting(name="a", left_as_paper=True), 2: RegionSetting(name="b", shades=3)}
        )
        looks = looks_of(sheet)
        self.assertEqual(set(looks), {2})
        self.assertEqual(len(looks[2]), 3)
        light, a, b = PAPERS["smooth-white"].lab
        for lab in looks[2]:
            np.testing.assert_allclose(np.array(lab[1:]) / (a, b), lab[0] / light, rtol=1e-6)

    def test_unchosen_greys_are_never_lighter_than_toned_paper(self):
        sheet = make_sheet(paper="kraft", settings={1: RegionSetting(name="a", shades=4)})
        self.assertLess(max(lab[0] for lab in looks_of(sheet)[1]), PAPERS["kraft"].lab[0] + 1)


class LevelsTest(SimpleTestCase):
    def test_light_is_sorted_into_all_levels(self):
        steps = levels(np.linspace(0, 1, 5001, dtype=np.float32))
        self.assertEqual((steps.min(), steps.max()), (0, LEVELS - 1))
        self.assertEqual(len(np.unique(steps)), LEVELS)


class LineAndPaperTest(SimpleTestCase):
    def test_a_white_line_on_kraft_stays_white_and_what_is_bare_shows_the_paper(self):
        kraft, white = np.array((190, 152, 110)), np.array((240, 238, 230))
        pixels = np.empty((200, 200, 3), np.uint8)
        pixels[:] = kraft
        cv2.rectangle(pixels, (50, 50), (150, 150), white.tolist(), 5)
        impression = read(as_file(pixels), dpi=150)
        found = find_regions(impression)
        canvas = make_canvas(impression, found)
        levels = np.full(found.labels.shape, 200, np.int32)
        common = {"light_levels": levels, "looks": {}, "thresholds": {}}
        coloured = paint(canvas, "coloured", paper_lab=PAPERS["kraft"].lab, **common)
        line = coloured[50, 60:140].astype(int).mean(axis=0)
        self.assertLess(np.abs(line - white).max(), 12)
        paper = lab_to_srgb(np.array(PAPERS["kraft"].lab)) * 255
        self.assertLess(np.abs(coloured[100, 100] - paper).max(), 3)
        grey = paint(canvas, "values", paper_lab=PAPERS["kraft"].lab, **common)[50, 100]
        self.assertLessEqual(int(np.ptp(grey)), 3)  # lightness alone, the line's too
        self.assertGreater(int(grey.min()), 200)

    def test_a_gold_line_stays_gold_in_every_view_and_grey_in_the_values(self):
        gold = np.array((176, 140, 62))
        pixels = np.full((200, 200, 3), 246, np.uint8)
        cv2.rectangle(pixels, (50, 50), (150, 150), gold.tolist(), 5)
        impression = read(as_file(pixels), dpi=150)
        canvas = make_canvas(impression, find_regions(impression))
        common = {"light_levels": np.full((200, 200), 200, np.int32), "looks": {}, "thresholds": {}}
        for view in ("coloured", "regions"):
            line = paint(canvas, view, paper_lab=PAPERS["smooth-white"].lab, **common)[50, 60:140].astype(int)
            self.assertLess(np.abs(line.mean(axis=0) - gold).max(), 14)
        grey = paint(canvas, "values", paper_lab=PAPERS["smooth-white"].lab, **common)[50, 100]
        self.assertLessEqual(int(np.ptp(grey)), 3)

    def test_a_black_line_is_black_however_bright_the_lamp(self):
        pixels = np.full((200, 200, 3), 250, np.uint8)
        cv2.rectangle(pixels, (50, 50), (150, 150), (48, 44, 46), 5)
        impression = read(as_file(pixels), dpi=150)
        canvas = make_canvas(impression, find_regions(impression))
        self.assertLess(int(canvas.ink_rgb.max()), 30)
