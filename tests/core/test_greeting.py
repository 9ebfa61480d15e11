"""Whether a greeting can be read where it is stamped."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from django.test import SimpleTestCase

from paleta.card import Greeting, Picture, inches, lay_out
from paleta.card._legible import contrasts
from tests.core.test_card import PX_PER_MM, WHITE, codes, scene, spec


class ReadingTest(SimpleTestCase):
    """A greeting is read by [WCAG22]'s contrast with what lies under it."""

    def test_contrast_is_the_standards_own(self):
        """Black on white is 21 to 1; #767676 on white is the well-known grey that just reaches 4.5, #777777 does not,
        and #949494 just reaches 3. [WCAG22]"""
        white = np.array([255, 255, 255], np.uint8)
        self.assertAlmostEqual(float(contrasts("#000000", white)), 21.0, places=6)
        self.assertAlmostEqual(float(contrasts("#ffffff", white)), 1.0, places=6)
        for ink, least, reached in (("#767676", 4.5, True), ("#777777", 4.5, False), ("#949494", 3.0, True)):
            with self.subTest(ink=ink):
                self.assertEqual(bool(contrasts(ink, white) >= least), reached)

    def laid(self, shown: Picture, **greeting):
        more = {"x": inches(1), "y": inches("9/2"), "width": inches(2), "height": inches("5/8"), "strip": False}
        return lay_out(spec(greeting=Greeting(text="Hello", **{**more, **greeting})), shown)

    def shown(self, colour) -> Picture:
        """The scene in one colour, or in stripes of two."""
        plain = scene()
        seen = np.empty((*plain.labels.shape, 3), np.uint8)
        seen[:] = colour[0]
        seen[:, ::20], seen[:, 1::20] = colour[-1], colour[-1]
        for place in range(2, 10):
            seen[:, place::20] = colour[-1]
        return replace(plain, seen=seen)

    def test_dark_on_dark_is_told_and_white_powder_or_a_strip_mends_it(self):
        plan = self.laid(self.shown([(40, 40, 70)]))
        told = {one.code: one for one in plan.warnings}
        self.assertIn("hardly stands out from what lies under it", told["hard to read"].sentence)
        mended = told["hard to read"].mended
        self.assertEqual((mended.greeting.colour, mended.greeting.embossed), ("#ffffff", True))
        for code in ("hard to read", "or on a strip"):
            again = lay_out(told[code].mended, self.shown([(40, 40, 70)]))
            self.assertNotIn("hard to read", codes(again), code)

    def test_dark_on_pale_is_not_told(self):
        self.assertNotIn("hard to read", codes(self.laid(self.shown([(235, 230, 220)]))))

    def test_a_busy_ground_is_told_though_its_contrast_would_do(self):
        plan = self.laid(self.shown([(250, 250, 250), (150, 150, 150)]), colour="#000000")
        (told,) = [one for one in plan.warnings if one.code == "hard to read"]
        self.assertIn("from light to dark", told.sentence)

    def test_it_is_moved_where_it_is_read_and_hides_nothing_that_matters(self):
        shown = scene()
        seen = np.full((*shown.labels.shape, 3), 45, np.uint8)
        seen[int(75 * PX_PER_MM) : int(105 * PX_PER_MM)] = 245
        shown = replace(shown, seen=seen)
        told = {one.code: one for one in self.laid(shown).warnings}
        there = lay_out(told["or elsewhere"].mended, shown)
        self.assertFalse({"hard to read", "over"} & set(codes(there)))

    def test_on_its_strip_only_the_strip_counts(self):
        dark = replace(WHITE, name="Night", colour="#20242c")
        for stock, told in ((dark, True), (WHITE, False)):
            with self.subTest(stock=stock.name):
                one = Greeting(text="Hello", stock=stock.name)
                plan = lay_out(spec(greeting=one, stock=(WHITE, dark)), self.shown([(40, 40, 70)]))
                self.assertEqual("hard to read" in codes(plan), told)

    def test_nothing_is_said_while_nothing_is_known(self):
        self.assertNotIn("hard to read", codes(self.laid(scene())))
