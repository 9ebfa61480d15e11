"""Pens that look like themselves: what was measured comes out again, and more of it never goes the wrong way."""

from __future__ import annotations

import numpy as np
from django.test import SimpleTestCase

from paleta.colour import difference
from paleta.media import PAPERS, Swatch, appearance

WHITE, GREY = PAPERS["smooth-white"], PAPERS["toned-grey"]


def pencils() -> list[Swatch]:
    """Over the whole range: near blacks, deep and strong colours, near whites on toned paper."""
    chance = np.random.default_rng(4)
    labs = [(10.0, 0.0, 0.0), (16.0, 4.0, -8.0), (25.0, 30.0, 15.0), (38.0, 0.0, 0.0), (30.0, 5.0, -30.0)]
    labs += [tuple(chance.uniform((12, -25, -25), (85, 25, 25)).tolist()) for _ in range(40)]
    made = [Swatch(f"p{k}", f"P {k}", "pencil", lab) for k, lab in enumerate(labs)]
    return [*made, Swatch("w", "White", "pencil", (88.0, 0.0, 1.0), paper=GREY)]


class PencilTest(SimpleTestCase):
    def test_a_measured_pencil_comes_out_as_itself(self):
        for swatch in pencils():
            got = appearance(swatch, swatch.paper)
            with self.subTest(lab=swatch.lab):
                self.assertLess(float(difference(got, swatch.lab)), 0.5)

    def test_layers_and_pressure_go_deeper_and_a_light_hand_stays_paler(self):
        for swatch in pencils()[:-1]:
            light, even, firm, twice = (
                appearance(swatch, WHITE, **how)[0] for how in ({"pressure": 0.5}, {}, {"pressure": 1.4}, {"coats": 3})
            )
            with self.subTest(lab=swatch.lab):
                self.assertGreater(light, even)
                self.assertLessEqual(firm, even + 0.05)
                self.assertLessEqual(twice, even + 0.05)

    def test_white_pencil_lightens_toned_paper_and_never_darkens_it(self):  # common practice
        white = Swatch("w", "White", "pencil", (88.0, 0.0, 1.0), paper=GREY)
        steps = [appearance(white, GREY, pressure=pressure)[0] for pressure in (0.2, 0.6, 1.0, 1.4)]
        self.assertEqual(steps, sorted(steps))
        self.assertGreater(steps[0], GREY.lab[0])


class InkPadTest(SimpleTestCase):
    def test_no_coat_makes_it_lighter(self):
        for lab in ((70.0, 20.0, 30.0), (45.0, -12.0, -12.0), (25.0, 5.0, 5.0), (92.0, 0.0, 5.0)):
            pad = Swatch("i", "Ink", "inkpad", lab)
            steps = [appearance(pad, WHITE, coats=coats)[0] for coats in (0, 0.5, 1, 2, 3, 4, 8)]
            with self.subTest(lab=lab):
                self.assertEqual(steps, sorted(steps, reverse=True))
                self.assertLess(float(difference(appearance(pad, WHITE), lab)), 0.5)

    def test_chalky_ink_covers_a_darker_paper_in_part(self):  # common practice: blending inks are half opaque
        pad = Swatch("i", "Ink", "inkpad", (85.0, 0.0, 10.0))
        once = appearance(pad, PAPERS["kraft"])[0]
        self.assertGreater(once, PAPERS["kraft"].lab[0])
        self.assertLess(once, 85.0)
