"""Pens that look like themselves: what was measured comes out again, and more of it never goes the wrong way."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from django.test import SimpleTestCase

from paleta import starter
from paleta.colour import difference, to_d65
from paleta.errors import ShapeError, SwatchError
from paleta.materials import PAPERS
from paleta.media import (
    DILUTED,
    FIRM_PRESSURE,
    FURTHER,
    LIGHT_PRESSURE,
    Swatch,
    appearance,
    at_strength,
    doubt_of,
    read_table,
    write_csv,
)
from paleta.palette import judge
from paleta.recipe import swatch_from_plain, swatch_to_plain

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


class MeasuredTest(SimpleTestCase):
    """Whatever was measured of a swatch is what it looks like then."""

    LAYINGS = {
        "two_coats": {"coats": 2},
        "diluted": {"dilution": DILUTED},
        "light_pressure": {"pressure": LIGHT_PRESSURE},
        "firm_pressure": {"pressure": FIRM_PRESSURE},
    }
    OF_MEDIUM = {
        "marker": ("two_coats",),
        "watercolour": ("two_coats", "diluted"),
        "soluble": ("two_coats", "diluted"),
        "inkpad": ("two_coats",),
        "pencil": ("light_pressure", "firm_pressure"),
    }

    def drawers(self):
        made = (starter.markers, starter.watercolours, starter.pencils, starter.soluble_pens, starter.ink_pads)
        return [one for make in made for one in make()]

    def measured_otherwise(self, one: Swatch) -> Swatch:
        """As another hand would have it: a little less of everything than is usual."""
        less = {field: {way: 0.88 * value} for field, laying in self.LAYINGS.items() for way, value in laying.items()}
        further = {field: appearance(one, one.paper, **less[field]) for field in self.OF_MEDIUM[one.medium]}
        return Swatch(one.code, one.name, one.medium, one.lab, one.family, one.paper, **further)

    def test_every_starter_swatch_comes_out_as_itself(self):
        for one in self.drawers():
            with self.subTest(code=one.code, medium=one.medium):
                self.assertLess(float(difference(appearance(one, one.paper), one.lab)), 1.0)

    def test_strong_inks_outside_srgb_come_out_as_themselves(self):
        for lab in ((40.0, 15.0, -55.0), (52.0, -45.0, -12.0), (60.0, 10.0, 75.0), (87.0, 15.0, 11.0)):
            with self.subTest(lab=lab):
                one = Swatch("s", "S", "marker", lab)
                self.assertLess(float(difference(appearance(one, WHITE), lab)), 1.0)

    def test_every_further_measurement_comes_out_as_what_it_is_in_every_medium(self):
        for one in self.drawers()[::3]:
            known = self.measured_otherwise(one)
            for field in self.OF_MEDIUM[one.medium]:
                usual, got = (appearance(pen, one.paper, **self.LAYINGS[field]) for pen in (one, known))
                with self.subTest(code=one.code, field=field):
                    self.assertLess(float(difference(got, getattr(known, field))), 1.2)
                    if one.lab[0] < 70 and field != "firm_pressure":
                        self.assertGreater(float(difference(usual, got)), 0.6)

    def test_the_one_coat_stays_what_it_was(self):
        for one in self.drawers()[::5]:
            with self.subTest(code=one.code):
                known = self.measured_otherwise(one)
                self.assertLess(float(difference(appearance(known, one.paper), appearance(one, one.paper))), 0.05)

    def test_more_is_never_paler(self):
        steps = {"coats": (0.5, 1, 1.5, 2, 3), "dilution": (0.1, 0.42, 0.6, 1), "pressure": (0.2, 0.5, 0.8, 1, 1.4)}
        for one in self.drawers()[::4]:
            known = self.measured_otherwise(one)
            for way, values in steps.items():
                lights = [appearance(known, one.paper, **{way: value})[0] for value in values]
                if one.lab[0] > one.paper.lab[0] - 3:
                    continue  # white on white goes either way
                with self.subTest(code=one.code, way=way):
                    self.assertTrue(all(b <= a + 0.3 for a, b in pairwise(lights)), lights)

    def test_a_half_wash_is_the_diluted_box_where_that_was_measured(self):
        one = self.measured_otherwise(starter.watercolours()[5])
        half = at_strength(one, 0.65)  # 0.42 of its pigment
        np.testing.assert_allclose(half.lab, one.diluted, atol=0.8)
        self.assertTrue(all(getattr(half, field) is None for field in FURTHER))

    def test_recipes_and_tables_carry_all_that_is_known(self):
        pencil = Swatch(
            "p", "P", "pencil", (40, 10, 5), light_pressure=(70, 4, 2), firm_pressure=(34, 12, 6), opacity=0.8
        )
        self.assertEqual(swatch_from_plain(swatch_to_plain(pencil)), pencil)
        plain = Swatch("q", "Q", "pencil", (40, 10, 5))
        self.assertNotIn("further", swatch_to_plain(plain))
        text = "code,name,L,a,b,light pressure,firm pressure,opacity\np,P,40,10,5,70 4 2,34 12 6,0.8\n"
        (row,) = read_table(text)
        self.assertEqual((row.light_pressure, row.firm_pressure, row.opacity), ((70, 4, 2), (34, 12, 6), 0.8))
        self.assertEqual(read_table(write_csv([row])), [row])
        (bad,) = read_table("code,name,L,a,b,opacity\np,P,40,10,5,80\n")
        self.assertIn("opacity", bad.problem)


class OpacityTest(SimpleTestCase):
    def test_opaque_white_paint_lightens_toned_paper_and_transparent_paint_says_that_it_cannot(self):  # common practice
        glaze = Swatch("w", "White", "watercolour", (90.0, 0.0, 1.0), paper=GREY)
        self.assertIn("paler than its paper", doubt_of(glaze))
        self.assertIn(doubt_of(glaze), judge([glaze]).warnings)
        self.assertLessEqual(appearance(glaze, GREY)[0], GREY.lab[0] + 0.1)
        gouache = Swatch("w", "White", "watercolour", (90.0, 0.0, 1.0), paper=GREY, opacity=0.9)
        self.assertEqual(doubt_of(gouache), "")
        self.assertLess(float(difference(appearance(gouache, GREY), gouache.lab)), 0.5)
        lights = [appearance(gouache, GREY, coats=coats)[0] for coats in (0, 0.5, 1, 2)]
        self.assertEqual(lights, sorted(lights))

    def test_an_opaque_pencil_hides_more_of_what_is_below(self):
        thin, thick = (Swatch("p", "P", "pencil", (60, 20, 10), opacity=share) for share in (0.4, 0.95))
        dark = PAPERS["kraft"]
        apart = [float(difference(appearance(one, dark), one.lab)) for one in (thin, thick)]
        self.assertLess(apart[1], apart[0])
        for one in (thin, thick):
            self.assertLess(float(difference(appearance(one, WHITE), one.lab)), 0.5)

    def test_impossible_opacities_are_refused(self):
        for share in (-0.1, 1.1, float("nan")):
            with self.subTest(share=share), self.assertRaises(SwatchError):
                Swatch("p", "P", "pencil", (60, 20, 10), opacity=share)


class WhitePointTest(SimpleTestCase):
    def test_d50_is_adapted_as_the_reference_library_does(self):
        """colour-science: Bradford adaptation (Lam 1985) between its own D50 and D65 white points, 2 degree observer."""
        import colour

        whites = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]
        chart = colour.CCS_COLOURCHECKERS["ColorChecker24 - After November 2014"]  # published xyY under D50
        for xyy in chart.data.values():
            xyz = colour.xyY_to_XYZ(xyy)
            under_d50 = colour.XYZ_to_Lab(xyz, whites["D50"])
            adapted = colour.adaptation.chromatic_adaptation_VonKries(
                xyz, colour.xy_to_XYZ(whites["D50"]), colour.xy_to_XYZ(whites["D65"]), transform="Bradford"
            )
            with self.subTest(lab=under_d50):
                ours = to_d65(tuple(under_d50.tolist()), "D50")
                self.assertLess(float(difference(ours, colour.XYZ_to_Lab(adapted, whites["D65"]))), 0.05)

    def test_greys_stay_and_unknown_whites_are_refused(self):
        np.testing.assert_allclose(to_d65((50.0, 0.0, 0.0), "D50"), (50, 0, 0), atol=1e-3)
        self.assertEqual(to_d65((50.0, 10.0, 5.0), "D65"), (50.0, 10.0, 5.0))
        with self.assertRaises(ShapeError):
            to_d65((50.0, 0.0, 0.0), "C")

    def test_a_table_may_say_its_white_point(self):
        one, other = read_table("code,name,L,a,b,white\na,A,50,40,20,D50\nb,B,50,40,20,\n")
        self.assertEqual(other.lab, (50, 40, 20))
        self.assertEqual(one.lab, to_d65((50, 40, 20), "D50"))
        self.assertGreater(float(difference(one.lab, other.lab)), 0.5)
        self.assertIn("white point", read_table("code,name,L,a,b,white\na,A,50,40,20,D75\n")[0].problem)
