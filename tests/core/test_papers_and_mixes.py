"""Paper weights by their published definition, and what happens where pens meet."""

from __future__ import annotations

import numpy as np
from django.test import SimpleTestCase

from paleta.colour import difference
from paleta.errors import SwatchError
from paleta.materials import PAPERS, grams_per_m2, pounds_of
from paleta.media import Swatch, appearance, blended, tip_to_tip
from paleta.media._spectrum import lab_to_reflectance
from paleta.palette import in_betweens
from paleta.starter import ink_pads, markers, soluble_pens
from tests.builders import absorption_over_scattering

WHITE = PAPERS["smooth-white"]


class WeightTest(SimpleTestCase):
    """Basis weight: pounds of 500 sheets of the basis size; cover 20 x 26, text 25 x 38, bond 17 x 22, index 25 1/2 x 30 1/2,
    bristol 22 1/2 x 28 1/2, tag 24 x 36 in (the last three from memory of published tables), watercolour
    full sheet 22 x 30 in (published definition, see docs/trade-notes.md, section Papers)."""

    def test_pounds_become_grams_by_the_definition(self):
        # 1 lb = 453.59237 g and 1 in = 25.4 mm exactly; worked by hand.
        for pounds, kind, grams in (
            (140, "watercolour", 298.3),
            (80, "cover", 216.4),
            (110, "cover", 297.5),
            (20, "bond", 75.2),
            (70, "text", 103.6),
            (110, "index", 198.9),
            (67, "bristol", 146.9),
            (100, "tag", 162.75),
        ):
            with self.subTest(kind=kind, pounds=pounds):
                self.assertAlmostEqual(grams_per_m2(pounds, kind), grams, delta=0.15)
                self.assertAlmostEqual(pounds_of(grams_per_m2(pounds, kind), kind), pounds)

    def test_papers_say_their_weight_in_pounds_too(self):
        self.assertEqual(WHITE.weighed_name, "Smooth white card, 250 g/m2 (92 lb cover stock)")
        self.assertIn("(141 lb watercolour)", PAPERS["cold-press"].weighed_name)

    def test_impossible_weights_are_refused(self):
        for weight, kind in ((0, "cover"), (-3, "cover"), (80, "newsprint")):
            with self.assertRaises(SwatchError):
                grams_per_m2(weight, kind)


class MixTest(SimpleTestCase):
    def test_tips_touched_together_mix_their_absorption_over_scattering(self):
        # [Kubelka1931] behind the surface of [Saunderson1942], written out: the mean of both pens' at every wavelength.
        pale, dark = markers()[0], markers()[4]
        mean = sum(absorption_over_scattering(lab_to_reflectance(appearance(one, WHITE))) for one in (pale, dark)) / 2
        inner = 1 + mean - np.sqrt(mean**2 + 2 * mean)
        expected = 0.6 * inner / (1 - 0.4 * inner)
        found = lab_to_reflectance(tip_to_tip(pale, dark, WHITE))
        # The mix comes back from three numbers of colour, so its spectrum is close, not equal.
        self.assertLess(np.abs(found - expected).max(), 0.04)
        self.assertLess(np.abs(found - expected).mean(), 0.01)

    def test_a_mix_lies_between_and_its_ends_are_the_pens(self):
        pale, dark = markers()[0], markers()[4]
        lights = [tip_to_tip(pale, dark, WHITE, share=share)[0] for share in (0, 0.3, 0.6, 1)]
        self.assertEqual(lights, sorted(lights, reverse=True))
        self.assertAlmostEqual(lights[0], appearance(pale, WHITE)[0], places=6)
        self.assertAlmostEqual(lights[-1], appearance(dark, WHITE)[0], places=6)
        with self.assertRaises(SwatchError):
            tip_to_tip(pale, soluble_pens()[0], WHITE)
        with self.assertRaises(SwatchError):
            tip_to_tip(pale, dark, WHITE, share=2)

    def test_a_blender_carries_dye_off_but_never_adds_light_to_the_paper(self):
        for one in markers()[::9]:
            self.assertGreater(blended(one, WHITE)[0], appearance(one, WHITE)[0])
            self.assertLessEqual(blended(one, WHITE)[0], WHITE.lab[0] + 0.01)

    def test_a_step_too_wide_to_melt_is_offered_its_in_between(self):
        far = [Swatch("a", "Pale", "marker", (90, 5, 5)), Swatch("b", "Dark", "marker", (45, 30, 10))]
        ((pale, dark, mix),) = in_betweens(far)
        self.assertEqual((pale.code, dark.code), ("a", "b"))
        self.assertTrue(45 < mix[0] < 90)
        self.assertEqual(in_betweens(markers()[:2]), [])


class MoreMediaTest(SimpleTestCase):
    def test_one_coat_on_its_own_paper_is_the_measured_colour_in_every_medium(self):
        for one in (*soluble_pens()[::5], *ink_pads()[::2]):
            with self.subTest(code=one.code):
                # Colours outside sRGB are pulled to its edge.
                self.assertLess(float(difference(appearance(one, one.paper), one.lab)), 3)

    def test_chalky_ink_covers_toned_paper_in_part_and_a_pen_of_dye_never_lightens_it(self):
        pale = max(ink_pads(), key=lambda one: one.lab[0])
        kraft = PAPERS["kraft"]
        self.assertGreater(appearance(pale, kraft)[0], kraft.lab[0])
        self.assertLessEqual(appearance(markers()[0], kraft)[0], kraft.lab[0] + 0.01)

    def test_two_measured_coats_are_what_two_coats_look_like(self):
        one = markers()[2]
        two = appearance(one, WHITE, coats=1.6)  # a pen whose second coat adds little
        measured = Swatch(one.code, one.name, "marker", one.lab, two_coats=two)
        np.testing.assert_allclose(appearance(measured, WHITE, coats=2), two, atol=1.5)
        np.testing.assert_allclose(appearance(measured, WHITE), appearance(one, WHITE), atol=1e-6)
