"""The optics of the media against the published relations they stand on."""

from __future__ import annotations

from unittest.mock import patch

import numpy as np
from django.test import SimpleTestCase

from paleta.colour import difference
from paleta.errors import SwatchError
from paleta.materials import PAPERS, REFERENCE_PAPER, Paper
from paleta.media import Layer, Swatch, appearance, appearance_of_layers
from paleta.media._optics import YULE_NIELSEN_N, below_surface, k_over_s, reflectance_of, seen_through_surface
from paleta.media._spectrum import lab_to_reflectance, reflectance_to_lab
from paleta.starter import markers
from tests.builders import absorption_over_scattering

ROSE = (62.0, 34.0, 8.0)


def swatch(medium: str, lab=ROSE) -> Swatch:
    return Swatch(code="x-1", name="X 1", medium=medium, lab=lab)


class SpectrumTest(SimpleTestCase):
    def test_spectra_lead_back_to_the_colour_they_came_from(self):
        chance = np.random.default_rng(3)
        lab = np.stack([chance.uniform(25, 90, 60), chance.uniform(-20, 20, 60), chance.uniform(-20, 20, 60)], axis=1)
        self.assertLess(float(difference(reflectance_to_lab(lab_to_reflectance(lab)), lab).max()), 0.01)

    def test_reflectances_are_possible(self):
        spectra = lab_to_reflectance([(100, 0, 0), (0, 0, 0), (50, 128, -128)])
        self.assertTrue(((spectra > 0) & (spectra <= 1)).all())


class AppearanceTest(SimpleTestCase):
    def test_one_coat_on_the_measured_paper_is_the_measured_colour(self):
        for medium in ("marker", "watercolour", "pencil"):
            with self.subTest(medium=medium):
                self.assertLess(float(difference(appearance(swatch(medium), REFERENCE_PAPER), ROSE)), 0.05)

    def test_no_coat_shows_the_paper(self):
        for medium in ("marker", "watercolour", "pencil"):
            with self.subTest(medium=medium):
                self.assertLess(
                    float(difference(appearance(swatch(medium), REFERENCE_PAPER, coats=0), REFERENCE_PAPER.lab)), 0.05
                )

    def test_coats_of_marker_add_up_as_absorption_over_scattering_does(self):
        # [Kubelka1931] behind the surface of [Saunderson1942], written out: k1 = 0, k2 = 0.4.
        paper = absorption_over_scattering(lab_to_reflectance(REFERENCE_PAPER.lab))
        once, twice = (
            absorption_over_scattering(
                lab_to_reflectance(appearance(swatch("marker", (75, 12, 6)), REFERENCE_PAPER, coats=n))
            )
            - paper
            for n in (1, 2)
        )
        # Spectra come back from three numbers of colour, so they are close, not equal.
        np.testing.assert_allclose(twice.sum() / once.sum(), 2, rtol=0.05)

    def test_second_coats_of_markers_end_where_the_published_law_puts_them(self):
        # Worked outside of this code by [Kubelka1931] with [Saunderson1942]: L* and chroma of two coats.
        pens = {one.code: one for one in markers()}
        for code, light, chroma in (("brick-19", 54.5, 70.0), ("leaf-49", 57.9, None), ("violet-78", 21.8, None)):
            twice = appearance(pens[code], REFERENCE_PAPER, coats=2)
            with self.subTest(code=code):
                self.assertAlmostEqual(twice[0], light, delta=0.7)
                if chroma is not None:
                    self.assertAlmostEqual(float(np.hypot(twice[1], twice[2])), chroma, delta=1.0)

    def test_a_third_coat_of_marker_hardly_darkens(self):  # common practice
        for pen in markers()[::7]:
            lights = [appearance(pen, REFERENCE_PAPER, coats=n)[0] for n in (1, 2, 3, 10)]
            with self.subTest(code=pen.code):
                self.assertEqual(lights, sorted(lights, reverse=True))
                self.assertLess(lights[1] - lights[3], 0.35 * (lights[0] - lights[1]) + 0.2)

    def test_a_marker_never_lightens_any_paper(self):  # common practice: it only darkens
        for paper in PAPERS.values():
            for lab in ((97.0, 0, 0), (80, -20, 30), (40, 10, -40)):
                with self.subTest(paper=paper.code, lab=lab):
                    self.assertLessEqual(appearance(swatch("marker", lab), paper)[0], paper.lab[0] + 1e-6)

    def test_white_pencil_lightens_toned_paper(self):  # common practice
        white = swatch("pencil", (97.0, 0, 0))
        self.assertGreater(appearance(white, PAPERS["toned-grey"])[0], PAPERS["toned-grey"].lab[0] + 10)

    def test_kubelka_munk_gives_the_textbook_values(self):
        # (1 - R)^2 / 2R: R 0.5 -> 0.25, R 0.1 -> 4.05, R 0.8 -> 0.025. [Kubelka1931]
        np.testing.assert_allclose(k_over_s(np.array([0.5, 0.1, 0.8])), [0.25, 4.05, 0.025])
        np.testing.assert_allclose(reflectance_of(np.array([0.25, 4.05, 0.025])), [0.5, 0.1, 0.8])

    def test_saunderson_gives_its_worked_values_and_is_undone(self):
        # k1 + (1 - k1)(1 - k2) R / (1 - k2 R), k1 0.04, k2 0.6: R 0.5 -> 0.3143, R 1 -> 1, R 0 -> k1. [Saunderson1942]
        inner = np.array([0.5, 1.0, 0.0])
        seen = seen_through_surface(inner, outside=0.04, inside=0.6)
        np.testing.assert_allclose(seen, [0.04 + 0.192 / 0.7, 1.0, 0.04])
        np.testing.assert_allclose(below_surface(seen, outside=0.04, inside=0.6), inner, atol=1e-12)

    def test_watercolour_grows_paler_with_water_and_half_strength_is_half_the_absorption(self):
        paint = swatch("watercolour", (55, 20, 10))
        lights = [appearance(paint, REFERENCE_PAPER, dilution=share)[0] for share in (1, 0.6, 0.3, 0.1, 0)]
        self.assertEqual(lights, sorted(lights))
        paper = k_over_s(below_surface(lab_to_reflectance(REFERENCE_PAPER.lab)))
        with patch("paleta.media._optics.SETTLES", 0.0):  # the part that lies evenly
            full, half = (
                k_over_s(below_surface(lab_to_reflectance(appearance(paint, REFERENCE_PAPER, dilution=d)))) - paper
                for d in (1, 0.5)
            )
        np.testing.assert_allclose(half.sum() / full.sum(), 0.5, rtol=0.03)

    def test_pencil_coverage_follows_murray_davies_and_yule_nielsen(self):
        # R^(1/n) = a S^(1/n) + (1 - a) P^(1/n) is linear in the coverage a. [Murray1936], [Yule1951]
        pencil = swatch("pencil", (50, 10, 10))
        roots = [
            lab_to_reflectance(appearance(pencil, REFERENCE_PAPER, pressure=p)) ** (1 / YULE_NIELSEN_N)
            for p in (0, 0.5, 1)
        ]
        np.testing.assert_allclose(roots[1], (roots[0] + roots[2]) / 2, atol=2e-3)

    def test_layers_over_each_other_equal_one_call_after_the_other(self):
        pale, dark = swatch("marker", (85, 10, 5)), swatch("marker", (50, 25, 5))
        both = appearance_of_layers([Layer(pale), Layer(dark)], REFERENCE_PAPER)
        after = appearance(dark, Paper("primed", "Primed", appearance(pale, REFERENCE_PAPER)))
        self.assertLess(float(difference(both, after)), 0.1)


class PencilOverTest(SimpleTestCase):
    """What a pencil hides of what it goes over. That white covers best, pastels next, and that yellow is hardly seen on
    black is common practice."""

    black = Layer(swatch("marker", (18, 0, 0)))

    def over_black(self, lab) -> tuple[float, float, float]:
        return appearance_of_layers([self.black, Layer(swatch("pencil", lab))], REFERENCE_PAPER)

    def test_white_covers_best_and_strong_colours_let_black_through(self):
        white, pastel, yellow = (self.over_black(lab) for lab in ((96.5, 0, -1), (86, 15, 5), (88, 2, 80)))
        self.assertGreater(white[0], pastel[0] + 15)
        self.assertLess(yellow[0], 88 / 2)
        self.assertLess(yellow[0], white[0] - 20)

    def test_it_runs_smoothly_over_all_colours(self):
        """From one colour to the next, two apart, what is seen on black moves by no more than three times as much."""
        for hue in np.radians([20, 90, 150, 270]):
            for lightness in (45, 60, 75):
                ladder = [(lightness, c * np.cos(hue), c * np.sin(hue)) for c in range(0, 52, 2)]
                seen = np.array([self.over_black(tuple(map(float, lab))) for lab in ladder])
                steps = np.linalg.norm(np.diff(seen, axis=0), axis=1)
                self.assertLess(float(steps.max()), 6.0, (hue, lightness))

    def test_a_light_hand_of_the_palest_softens_and_does_not_take_over(self):
        petal = (62.0, 45.0, 5.0)
        both = [Layer(swatch("marker", petal)), Layer(swatch("pencil", (88, 2, 80)), pressure=0.4)]
        found = appearance_of_layers(both, REFERENCE_PAPER)
        self.assertLess(abs(found[0] - petal[0]), 5)
        self.assertGreater(found[2], petal[2])
        turned = np.degrees(np.arctan2(found[2], found[1]) - np.arctan2(petal[2], petal[1]))
        self.assertLess(turned, 40)


class RefusalTest(SimpleTestCase):
    def test_impossible_values_are_refused_by_name(self):
        for make, words in (
            (lambda: swatch("crayon"), "got 'crayon'"),
            (lambda: swatch("marker", (101, 0, 0)), "0..100"),
            (lambda: swatch("marker", (50, float("nan"), 0)), "three numbers"),
            (lambda: Swatch(code="", name="X", medium="marker", lab=ROSE), "needs a code"),
            (lambda: appearance(swatch("marker"), REFERENCE_PAPER, coats=-1), "0..20, got -1"),
            (lambda: appearance(swatch("watercolour"), REFERENCE_PAPER, dilution=1.2), "0..1, got 1.2"),
            (lambda: appearance(swatch("pencil"), REFERENCE_PAPER, pressure=9), "0..1.4, got 9"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(SwatchError, words):
                make()
