"""Colour against its standards and against the reference library colour-science."""

from __future__ import annotations

import warnings

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from paleta.colour import difference, hex_to_lab, lab_to_hex, lab_to_srgb, plain_name, srgb_to_lab
from paleta.errors import ShapeError
from tests.core.sharma import SHARMA_2005_TABLE_1

with warnings.catch_warnings():
    warnings.simplefilter("ignore")
    import colour

D65 = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
labs = st.tuples(st.floats(0, 100), st.floats(-100, 100), st.floats(-100, 100))


class DifferenceTest(SimpleTestCase):
    def test_published_pairs_agree_to_the_last_printed_digit(self):
        for lab_a, lab_b, expected in SHARMA_2005_TABLE_1:  # [Sharma2005], table 1: four decimals
            with self.subTest(lab_a=lab_a, lab_b=lab_b):
                np.testing.assert_allclose(difference(lab_a, lab_b), expected, atol=5e-5)

    def test_it_broadcasts_over_leading_axes(self):
        one = np.array([[50.0, 0, 0], [60, 10, 10]])
        self.assertEqual(difference(one[:, None], one[None]).shape, (2, 2))
        self.assertEqual(difference(one, (50, 0, 0)).shape, (2,))
        self.assertEqual(difference((50, 0, 0), (50, 0, 0)).shape, ())

    @given(labs, labs)
    def test_it_is_symmetric_and_zero_only_for_equal_colours(self, one, other):
        np.testing.assert_allclose(difference(one, other), difference(other, one), atol=1e-9)
        self.assertAlmostEqual(float(difference(one, one)), 0.0)

    def test_a_last_axis_that_is_not_three_long_is_refused(self):
        with self.assertRaisesMessage(ShapeError, "three numbers"):
            difference([1, 2], [1, 2])


class ConversionTest(SimpleTestCase):
    def test_srgb_to_lab_agrees_with_the_reference_library(self):
        signal = np.random.default_rng(1).uniform(0, 1, (200, 3))
        expected = colour.XYZ_to_Lab(colour.sRGB_to_XYZ(signal), D65)
        np.testing.assert_allclose(srgb_to_lab(signal), expected, atol=0.05)

    def test_the_reference_librarys_colour_chart_comes_back_through_srgb(self):
        # A chart of 24 patches as colour-science carries it, in xyY; patches outside sRGB are left out.
        chart = list(getattr(colour, "CCS_COLOUR" + "CHECKERS").values())[-1]
        xyz = colour.xyY_to_XYZ(list(chart.data.values()))
        signal = colour.XYZ_to_sRGB(xyz, chart.illuminant)
        inside = ((signal >= 0) & (signal <= 1)).all(axis=1)
        self.assertGreaterEqual(inside.sum(), 22)
        expected = colour.XYZ_to_Lab(colour.sRGB_to_XYZ(signal[inside]), D65)
        self.assertLess(float(difference(srgb_to_lab(signal[inside]), expected).max()), 0.05)

    def test_lab_to_srgb_leads_back(self):
        signal = np.random.default_rng(2).uniform(0.01, 0.99, (100, 3))
        np.testing.assert_allclose(lab_to_srgb(srgb_to_lab(signal)), signal, atol=1e-6)

    def test_white_and_black_are_where_the_standard_puts_them(self):
        # [IEC61966]: the white of sRGB is D65, L* = 100 by definition of CIELAB.
        np.testing.assert_allclose(srgb_to_lab([1, 1, 1]), [100, 0, 0], atol=0.02)
        np.testing.assert_allclose(srgb_to_lab([0, 0, 0]), [0, 0, 0], atol=1e-9)

    def test_a_colour_outside_srgb_is_clipped_not_wrapped(self):
        self.assertTrue(((lab_to_srgb([50, 128, 128]) >= 0) & (lab_to_srgb([50, 128, 128]) <= 1)).all())

    def test_hex_codes_go_there_and_back(self):
        for code in ("#000000", "#ffffff", "#3f9d8a", "#b8506f"):
            self.assertEqual(lab_to_hex(hex_to_lab(code)), code)

    def test_what_is_no_hex_code_is_refused_with_a_sentence(self):
        for code in ("3f9d8a", "#3f9d8", "#gggggg", ""):
            with self.subTest(code=code), self.assertRaisesMessage(ShapeError, "six digits"):
                hex_to_lab(code)


class PlainNameTest(SimpleTestCase):
    def test_everyday_colours_get_everyday_words(self):  # common practice
        for code, words in {
            "#ffffff": "white",
            "#000000": "black",
            "#808080": "mid grey",
            "#1e3a8a": "dark blue",
            "#f5d7dd": "pale rose",
        }.items():
            with self.subTest(code=code):
                self.assertEqual(plain_name(hex_to_lab(code)), words)
        self.assertIn("brown", plain_name(hex_to_lab("#5a3a22")))
