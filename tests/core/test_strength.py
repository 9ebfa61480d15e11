"""One swatch from bare paper to its full strength, and ramps that are drawn out of one."""

from __future__ import annotations

from itertools import pairwise
from unittest.mock import patch

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from paleta import starter
from paleta.colour import difference
from paleta.errors import SwatchError, WishError
from paleta.materials import PAPERS
from paleta.media import (
    MEDIUMS,
    Layer,
    Swatch,
    appearance,
    at_strength,
    code_at,
    code_fault,
    pen_name,
    split_code,
    strengths_of,
)
from paleta.media import _optics as optics
from paleta.media._spectrum import lab_to_reflectance
from paleta.order import PACES, SCHOOLS, check_plan, make_plan
from paleta.palette import drawn_out, find_drawn_out, find_ramps, judge, usual_accent
from paleta.picture._planned import soft_of
from paleta.recipe import Coat, RegionSetting
from tests.builders import by_pen, make_sheet, make_work

KRAFT = PAPERS["kraft"]
WEAKER = [code for code, medium in MEDIUMS.items() if medium.weaker_by]
ULTRAMARINE = Swatch("u", "Ultramarine", "watercolour", (28, 25, -58))
SKY_WISH = (76.4, -11.0, -18.6)
"""#8fc3dc."""


def hue(lab: tuple[float, float, float]) -> float:
    return float(np.degrees(np.arctan2(lab[2], lab[1])) % 360)


class StrengthTest(SimpleTestCase):
    @settings(max_examples=60, deadline=None)
    @given(st.sampled_from(WEAKER), st.tuples(st.integers(25, 80), st.integers(-40, 40), st.integers(-40, 40)))
    def test_weaker_is_paler_down_to_the_paper(self, medium, lab):
        own = Swatch("x", "X", medium, lab)
        curve = [at_strength(own, percent / 100) for percent in (100, 80, 60, 40, 20, 5)]
        self.assertIs(curve[0], own)
        from_paper = [float(difference(one.lab, own.paper.lab)) for one in curve]
        self.assertTrue(all(less <= more + 0.5 for more, less in pairwise(from_paper)), from_paper)
        self.assertLess(from_paper[-1], from_paper[0] / 2)

    def test_a_thin_wash_lies_between_the_two_published_laws(self):
        bare = lab_to_reflectance(ULTRAMARINE.paper.lab)
        full = lab_to_reflectance(ULTRAMARINE.lab, bare)
        amount, back = 0.1, 0.4

        def ratio(seen):  # absorption over scattering below the surface, [Saunderson1942] and [Kubelka1931]
            inner = seen / (1 - back + back * seen)
            return (1 - inner) ** 2 / (2 * inner)

        def wash(settles: float):
            with patch.object(optics, "SETTLES", settles):
                return optics.lay_watercolour(bare, Layer(ULTRAMARINE, dilution=amount))

        expected = ratio(bare) + amount * (ratio(full) - ratio(bare))
        np.testing.assert_allclose(ratio(wash(0.0)), expected, rtol=0.02)
        grains = (np.sqrt(wash(1.0)) - np.sqrt(bare)) / (
            np.sqrt(full) - np.sqrt(bare)
        )  # one share in all bands [Yule1951]
        self.assertLess(float(np.ptp(grains)), 1e-6)
        between = np.sqrt(wash(optics.SETTLES))
        part = optics.SETTLES
        np.testing.assert_allclose(between, part * np.sqrt(wash(1.0)) + (1 - part) * np.sqrt(wash(0.0)), atol=1e-9)

    def test_a_thin_blue_stays_blue(self):
        for one in strengths_of(ULTRAMARINE):
            with self.subTest(one.name):
                self.assertLess(abs(hue(one.lab) - hue(ULTRAMARINE.lab)), 32)

    def test_what_was_measured_thinner_is_met(self):
        measured = Swatch("u", "U", "watercolour", ULTRAMARINE.lab, diluted=(41.0, 20.0, -50.0))
        np.testing.assert_allclose(appearance(measured, measured.paper, dilution=0.42), measured.diluted, atol=0.6)

    def test_codes_and_names_say_the_strength_and_whose_it_is(self):
        thin = at_strength(ULTRAMARINE, 0.35)
        self.assertEqual((split_code(thin.code), pen_name(thin.name, 0.35)), (("u", 0.35), "Ultramarine"))
        self.assertEqual(split_code("rose~12~40"), ("rose~12", 0.4))
        self.assertEqual(split_code("rose~100"), ("rose~100", 1.0))

    def test_what_cannot_be_is_refused(self):
        marker = Swatch("m", "M", "marker", (50, 10, 10))
        for swatch, strength, words in (
            (marker, 0.5, "full strength only"),
            (ULTRAMARINE, 0.01, "in 5 to 100 %"),
            (ULTRAMARINE, 1.2, "in 5 to 100 %"),
        ):
            with self.assertRaisesMessage(SwatchError, words):
                at_strength(swatch, strength)
        self.assertEqual(strengths_of(marker), [marker])
        for zones in (1, 7):
            with self.assertRaisesMessage(WishError, "over 2 to 6 zones"):
                drawn_out(ULTRAMARINE, zones)
        self.assertNotIn("drawn out", judge([marker], to_paper=True).explanation)

    def test_on_toned_paper_a_weaker_swatch_looks_as_the_swatch_itself_laid_weaker(self):
        """Measured on white it would have made kraft paler: a light hand of a dark pencil was off by 10."""
        most = {"watercolour": (1.5, 10), "soluble": (1.5, 9), "pencil": (0.5, 7), "inkpad": (2.0, 4)}
        owned = (*starter.watercolours(), *starter.soluble_pens(), *starter.pencils(), *starter.ink_pads())
        for medium, (median, worst) in most.items():
            laid = MEDIUMS[medium]
            off = [
                float(
                    difference(
                        appearance(own, KRAFT, **{laid.weaker_by: strength**laid.weaker_power}),
                        appearance(at_strength(own, strength), KRAFT),
                    )
                )
                for own in owned
                if own.medium == medium
                for strength in (0.85, 0.5, 0.2)
            ]
            with self.subTest(medium):
                self.assertLess(np.median(off), median)
                self.assertLess(max(off), worst)

    def test_no_swatch_of_ones_own_has_a_code_like_that_of_a_strength(self):
        self.assertIn("50 % of its strength", code_fault("rose~50"))
        for fine in ("rose~", "rose~5x", "~", "rose~0", "rose~100"):
            self.assertEqual(code_fault(fine), "")
        for percent in range(1, 101):
            self.assertEqual(split_code(code_at("rose", percent / 100)), ("rose", percent / 100))


class DrawnOutTest(SimpleTestCase):
    def test_zones_fall_evenly_from_the_paper_to_the_swatch(self):
        for own in (ULTRAMARINE, *starter.soluble_pens()[:4], *starter.ink_pads()[:4]):
            if own.paper.lab[0] - own.lab[0] < 15:
                continue
            for zones in (2, 3, 4, 5):
                ramp = drawn_out(own, zones)
                with self.subTest(own=own.name, zones=zones):
                    self.assertEqual(len(ramp.swatches), zones - 1)
                    self.assertIs(ramp.swatches[-1], own)
                    # Strengths are whole hundredths: a step may be off by what one of them does.
                    self.assertLess(max(ramp.steps) - min(ramp.steps), 5.5)
                    self.assertIn("to bare paper", ramp.explanation)
                    self.assertEqual({split_code(one.code)[0] for one in ramp.swatches}, {own.code})

    def test_the_swatch_that_comes_nearest_at_some_strength_is_taken(self):
        pens = starter.soluble_pens()
        (ramp,) = find_drawn_out([one for own in pens for one in strengths_of(own)], SKY_WISH, 4)
        chosen = split_code(ramp.swatches[-1].code)[0]

        def nearest(own: Swatch) -> float:
            return min(float(difference(one.lab, SKY_WISH)) for one in strengths_of(own))

        deep = [own for own in pens if own.paper.lab[0] - own.lab[0] >= 14]
        self.assertEqual(chosen, min(deep, key=nearest).code)
        self.assertEqual(find_drawn_out(pens, SKY_WISH, 1), [])
        self.assertEqual(find_drawn_out(starter.markers(), SKY_WISH, 3), [])

    def test_a_pale_sky_is_blue_where_only_darker_blues_are_owned(self):
        """Strength comes before another hue: full strength alone gave four greys."""
        for pens in (starter.soluble_pens(), starter.watercolours()):
            best = find_ramps([one for own in pens for one in strengths_of(own)], SKY_WISH, 4)[0]
            for one in best.swatches:
                self.assertLess(abs(hue(one.lab) - hue(SKY_WISH)), 45, best.swatches)
                self.assertGreater(float(np.hypot(one.lab[1], one.lab[2])), 8)

    def test_one_pen_at_all_its_strengths_is_one_pen_in_the_hand(self):
        work = make_work(("a~20", "a~50", "a"), ("a~20", "a~50", "a"))
        plan = make_plan(work, SCHOOLS["D1"], PACES["soluble"])
        self.assertEqual(plan.pen_changes, 0)
        self.assertEqual(check_plan(work, plan), [])
        other = make_plan(make_work(("b", "c", "a"), ("b", "c", "a")), SCHOOLS["D1"], PACES["soluble"])
        self.assertGreater(other.pen_changes, 0)

    def test_it_melts_all_the_way_and_other_ramps_as_their_medium_does(self):
        drawn = drawn_out(ULTRAMARINE, 4).swatches
        others = [Swatch(str(light), "X", "watercolour", (light, 0, -20)) for light in (80, 60, 40)]
        regions = {
            1: RegionSetting(name="A", coats=(Coat(medium="watercolour", ramp=tuple(one.code for one in drawn)),)),
            2: RegionSetting(name="B", coats=(Coat(medium="watercolour", ramp=tuple(one.code for one in others)),)),
        }
        soft = soft_of(make_sheet(settings=regions, swatches=by_pen([*drawn, *others])))
        self.assertEqual(soft[2], MEDIUMS["watercolour"].melts)
        self.assertGreater(soft[1], 0.9)

    def test_a_ramp_to_paper_says_the_step_from_it(self):
        ramp = judge([at_strength(ULTRAMARINE, 0.3), ULTRAMARINE], to_paper=True)
        self.assertEqual(len(ramp.steps), 2)
        self.assertAlmostEqual(sum(ramp.steps), ULTRAMARINE.paper.lab[0] - ULTRAMARINE.lab[0], delta=0.3)


class UsualAccentTest(SimpleTestCase):
    def test_a_dark_one_is_a_deeper_shade_of_what_it_lies_on_and_a_pale_one_the_palest(self):
        pencils = starter.pencils()
        for own in [one for one in pencils if 35 < one.lab[0] < 75 and np.hypot(*one.lab[1:]) > 25]:
            chosen = usual_accent(pencils, [one.lab for one in strengths_of(own)], dark=True)
            with self.subTest(own.name):
                self.assertLess(chosen.lab[0], own.lab[0])
                # The drawer's darkest, which it was for everything, is farther off than that.
                darkest = min(pencils, key=lambda one: one.lab[0])
                wish = (own.lab[0] - 10, *own.lab[1:])
                self.assertLessEqual(float(difference(chosen.lab, wish)), float(difference(darkest.lab, wish)))
        palest = max(pencils, key=lambda one: one.lab[0])
        self.assertEqual(usual_accent(pencils, [ULTRAMARINE.lab], dark=False), palest)
        self.assertEqual(usual_accent(pencils, [], dark=True), palest)
