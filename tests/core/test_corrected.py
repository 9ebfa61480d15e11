"""A photo corrected from its light and from what the phone made of it, on charts whose colours are published."""

from __future__ import annotations

import colour
import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image, ImageEnhance

from paleta.colour import difference, lab_to_linear, linear_to_lab, linear_to_srgb, srgb_to_linear
from paleta.light import model_forms
from paleta.photo_check._cast import Corrected, correct_light
from paleta.photo_check._cells import DARKEST, LEAST_BELIEVED, Cells, _believed, cells_of, lab_of_log, log_light
from paleta.photo_check._phone import END, Phone
from paleta.picture import Planned, planned
from paleta.recipe import bodies_of
from tools.photo_check import recipe

WHITES = 6
"""So many places of bare paper lie beside the patches."""


def log_of(linear: np.ndarray) -> np.ndarray:
    return np.log(np.maximum(linear, 0) + DARKEST)


def chart() -> np.ndarray:
    """L*a*b* of those of the 24 published patches that sRGB holds, and of paper ([ColourScience])."""
    patches = colour.CCS_COLOURCHECKERS["ColorChecker24 - After November 2014"]
    d65 = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
    xyz = colour.adaptation.chromatic_adaptation_VonKries(
        colour.xyY_to_XYZ(np.array(list(patches.data.values()))),
        colour.xy_to_XYZ(patches.illuminant),
        colour.xy_to_XYZ(d65),
        transform="Bradford",
    )
    lab = colour.XYZ_to_Lab(xyz, d65)
    inside = (lab_to_linear(lab) >= 0).all(axis=1) & (lab_to_linear(lab) <= 1).all(axis=1)
    return np.concatenate([lab[inside], [(96.0, 0.0, 0.0)] * WHITES])


def seen_of(lab: np.ndarray, linear: np.ndarray) -> Cells:
    """The chart as cells, patch by patch, of which `linear` light was seen."""
    count = len(lab) - WHITES
    return Cells(
        region=np.concatenate([np.arange(1, count + 1), np.zeros(WHITES)]).astype(np.int32),
        zone=np.concatenate([np.zeros(count), np.full(WHITES, 255)]).astype(np.int32),
        at=np.stack([np.arange(len(lab)) % 6 * 14.0, np.arange(len(lab)) // 6 * 14.0], axis=1),
        pixels=np.full(len(lab), 200.0),
        count=np.full(len(lab), 200),
        seen=log_of(linear),
        plan=log_of(lab_to_linear(lab)),
        covered=1.0,
    )


class ChartTest(SimpleTestCase):
    def setUp(self) -> None:
        self.lab = chart()
        self.patches = slice(0, len(self.lab) - WHITES)

    def left(self, linear: np.ndarray) -> tuple[float, float]:
        """Median CIEDE2000 to the published colours once corrected, and before."""
        corrected: Corrected = correct_light(seen_of(self.lab, linear))
        return tuple(
            float(np.median(difference(each[self.patches], self.lab[self.patches])))
            for each in (lab_of_log(corrected.card), linear_to_lab(linear))
        )

    def test_the_cast_of_published_illuminants_is_taken_out(self):
        """[ColourScience]: chromaticities of CIE illuminants."""
        d65 = colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"]["D65"]
        for name, most in (("D50", 1.0), ("D75", 1.0), ("FL2", 2.0), ("A", 4.0)):
            source = colour.xy_to_XYZ(colour.CCS_ILLUMINANTS["CIE 1931 2 Degree Standard Observer"][name])
            tint = np.maximum(lab_to_linear(colour.XYZ_to_Lab(source, d65)), 0.02)
            seen = np.clip(0.8 * lab_to_linear(self.lab) * tint / tint.max(), 0, 1)
            left, before = self.left(seen)
            with self.subTest(illuminant=name):
                self.assertLess(left, most)
                self.assertLess(left, 0.4 * before)

    def test_colour_made_more_or_less_vivid_by_another_program_is_taken_back(self):
        """Pillow's own enhancer of colour is the reference: it draws every pixel to its grey or away from it."""
        for share in (0.88, 1.12):
            rgb = (np.clip(linear_to_srgb(0.8 * lab_to_linear(self.lab)), 0, 1) * 255 + 0.5).astype(np.uint8)
            vivid = ImageEnhance.Color(Image.fromarray(rgb[None])).enhance(share)
            left, before = self.left(srgb_to_linear(np.asarray(vivid)[0] / 255))
            with self.subTest(share=share):
                self.assertLess(left, 1.1)
                self.assertLess(left, 0.5 * before)

    def test_one_colour_that_is_off_stays_off(self):
        """Or the light would explain every fault away."""
        linear = 0.8 * lab_to_linear(self.lab)
        off = self.lab[3] + np.array([9.0, 0.0, 0.0])
        linear[3] = 0.8 * lab_to_linear(off[None])[0]
        corrected = lab_of_log(correct_light(seen_of(self.lab, linear)).card)
        self.assertLess(float(difference(corrected[3], off)), 2.0)
        self.assertGreater(float(difference(corrected[3], self.lab[3])), 5.0)


class PhoneTest(SimpleTestCase):
    @settings(deadline=None, max_examples=40)
    @given(st.lists(st.floats(-1, 1), min_size=END, max_size=END), st.floats(-0.4, 0.1))
    def test_what_a_phone_made_is_undone_but_for_what_is_too_dark(self, sides: list[float], fall: float):
        values = np.array(sides) * np.array([0.3] * 3 + [0.08, 0.02] + [0.006] * 6 + [0.08])
        light = np.random.default_rng(3).uniform(0.12, 0.85, (50, 3))
        plan, lit = log_of(light), np.full((50, 3), fall)
        phone = Phone(values)
        made, _, _ = phone.seen_as(plan, lit)
        np.testing.assert_allclose(phone.undone(made, lit), plan, atol=2e-3)

    def test_how_much_it_makes_of_light_is_the_difference_of_two_lights(self):
        phone = Phone(np.array([0.1, 0, -0.1, 0.04, 0.01, *[0.0] * 6, 0.0]))
        plan, lit = log_of(np.random.default_rng(4).uniform(0.02, 0.8, (30, 3))), np.zeros((30, 3))
        made, _, steep = phone.seen_as(plan, lit)
        more, _, _ = phone.seen_as(plan, lit + 1e-4)
        np.testing.assert_allclose((more - made) / 1e-4, steep, atol=1e-3)


class BelievedTest(SimpleTestCase):
    """What is seen where a shade ends says less than what is seen amid it."""

    plan: Planned

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        sheet, cls.region_map = recipe(4)
        cls.plan = planned(sheet, cls.region_map, model_forms(cls.region_map, bodies_of(sheet)))

    def test_an_edge_is_believed_least_and_an_even_place_wholly(self):
        wanted = log_of(np.full((60, 60, 3), 0.5)).astype(np.float32)
        wanted[:, 30:] = log_of(np.full((60, 30, 3), 0.3))
        believed = _believed(wanted, 6.0)
        self.assertGreater(believed[30, 5], 0.99)
        self.assertLess(believed[30, 30], 0.1)
        self.assertAlmostEqual(float(believed.min()), LEAST_BELIEVED, places=5)

    def test_cells_hold_every_clear_pixel_once_and_none_beneath_the_line(self):
        ink = np.ascontiguousarray(self.region_map.ink[::2, ::2])[: self.plan.labels.shape[0]]
        laid = (self.plan.rgb / 255).astype(np.float32)
        laid[ink] = 0.1
        cells = cells_of(self.plan, laid, ink)
        self.assertLess(int(cells.count.sum()), int((~ink).sum()))
        self.assertGreater(int(cells.count.sum()), 0.5 * int((~ink).sum()))
        self.assertTrue((cells.pixels <= cells.count + 1e-6).all())
        np.testing.assert_allclose(cells.seen, cells.plan, atol=0.02)
        self.assertEqual(log_light(np.zeros((1, 1, 3), np.float32)).shape, (1, 1, 3))
