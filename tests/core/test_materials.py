"""Papers and lines as the trade knows them: said before the first pass, shown in the picture, kept in the plan."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
from django.test import SimpleTestCase

from paleta.checks import fit, line_advice
from paleta.colour import difference, srgb_to_lab
from paleta.errors import RecipeError, SwatchError
from paleta.impression import Impression, RegionMap
from paleta.materials import PAPERS, POWDERS, Paper
from paleta.order import PACES, TOUCHES, plan_touches
from paleta.picture import make_canvas
from paleta.picture._planned import compose
from paleta.recipe import RegionSetting, Stamp, dump, load, sheet_5_to_6, touches_of
from tests.builders import by_pen, coats, disc, grey_pens, make_sheet

WHITE = PAPERS["smooth-white"].lab


def words(advice) -> str:
    return " ".join(one.why for one in advice)


class PaperTest(SimpleTestCase):
    """Common practice (docs/trade-notes.md, section Fit)."""

    def test_bristol_takes_brush_pens_and_light_washes_and_curls(self):
        washes = words(fit("watercolour", "waterproof", "bristol"))
        self.assertNotIn("buckles", washes)
        self.assertIn("light washes", washes)
        self.assertIn("curls", washes)
        pens = words(fit("soluble", "waterproof", "bristol"))
        self.assertNotIn("pills", pens)
        self.assertIn("curls", pens)
        self.assertEqual(fit("marker", "dye", "bristol"), ())

    def test_card_that_was_not_made_for_water_is_still_warned_of(self):
        self.assertIn("buckles", words(fit("watercolour", "waterproof", "cream")))

    def test_cheap_watercolour_paper_leaks_and_good_one_does_not(self):
        for medium in ("watercolour", "soluble"):
            with self.subTest(medium=medium):
                self.assertIn("past the line", words(fit(medium, "waterproof", "student-watercolour")))
                self.assertEqual(fit(medium, "waterproof", "cold-press"), ())

    def test_on_glossy_card_inks_slide_markers_streak_and_the_line_needs_heat(self):
        self.assertIn("slides", words(fit("marker", "dye", "glossy")))
        self.assertIn("streaks", words(fit("marker", "dye", "glossy")))
        self.assertIn("slides", words(fit("inkpad", "dye", "glossy")))
        self.assertIn("heat", line_advice(Stamp(title="Jug", paper="glossy"))[0].instead)
        self.assertEqual(line_advice(Stamp(title="Jug", paper="smooth-white")), ())

    def test_a_paper_that_dries_late_stays_workable_for_as_much_longer(self):
        usual, late = PACES["marker"], PACES["marker"].on(4.0)
        self.assertEqual((late.touch_dry_s, late.coat_dry_s), (4 * usual.touch_dry_s, 4 * usual.coat_dry_s))
        self.assertEqual(late.blend_s, 4 * usual.blend_s)
        self.assertEqual((late.change_s, late.per_mm2_s), (usual.change_s, usual.per_mm2_s))
        # However quickly it dries, a blend holds for as long as a change of pens: else none could be planned.
        self.assertEqual(usual.on(0.01).blend_s, usual.change_s)

    def test_what_no_paper_can_be_is_refused_by_name(self):
        for wrong, said in (
            ({"water": "lots"}, "how it takes water"), ({"behaves": ("sings",)}, "how it behaves"), ({"dries": 0}, "dries"),
        ):  # fmt: skip
            with self.subTest(wrong=wrong), self.assertRaisesMessage(SwatchError, said):
                Paper("mine", "Mine", WHITE, **wrong)


class LineTest(SimpleTestCase):
    def test_a_raised_line_has_the_colour_of_its_powder(self):
        for powder in ("white", "gold", "silver", "black"):
            with self.subTest(powder=powder):
                stamp = Stamp(title="Jug", outline_ink="embossed", powder=powder)
                self.assertEqual(stamp.line_lab, POWDERS[powder].lab)
                self.assertIn(powder, stamp.line_said)

    def test_through_clear_powder_one_sees_the_ink_or_else_the_paper(self):
        brown = (35.0, 14.0, 20.0)
        clear = {"outline_ink": "embossed", "powder": "clear"}
        self.assertEqual(Stamp(title="Jug", ink_lab=brown, **clear).line_lab, brown)
        self.assertEqual(Stamp(title="Jug", paper="kraft", **clear).line_lab, PAPERS["kraft"].lab)

    def test_powder_counts_on_a_raised_line_only(self):
        self.assertIsNone(Stamp(title="Jug", outline_ink="dye", powder="gold").line_lab)

    def test_a_line_that_no_camera_sees_comes_with_the_way_to_get_it(self):
        def unseen(**stamp) -> bool:
            advice = line_advice(Stamp(title="Jug", outline_ink="embossed", **stamp))
            return any("dark ink on scrap" in one.instead for one in advice)

        self.assertTrue(unseen(powder="white"))
        self.assertTrue(unseen(powder="clear"))
        self.assertTrue(unseen(powder="clear", paper="kraft"))
        self.assertFalse(unseen(powder="white", paper="kraft"))
        self.assertFalse(unseen(powder="gold"))
        self.assertFalse(unseen(powder="clear", ink_lab=(35.0, 14.0, 20.0)))

    def test_a_raised_line_is_wiped_after_the_colour_and_before_what_stays_on_top(self):
        pens = grey_pens(90, 70)
        setting = RegionSetting(name="Jug", coats=coats("grey-90", "grey-70"))
        values = {"settings": {1: setting}, "swatches": by_pen(pens), "touches": ("gloss", "unmask"), "masked": True}
        raised = touches_of(make_sheet(outline_ink="embossed", **values))
        self.assertEqual(set(raised), {"gloss", "wipe line"})
        self.assertEqual([one.code for one in plan_touches(raised, ["marker"])], ["wipe line", "gloss"])
        self.assertEqual(touches_of(make_sheet(**values)), ("gloss",))
        # Nobody ticks it: it follows from the line.
        self.assertFalse(TOUCHES["wipe line"].chosen)
        with self.assertRaises(RecipeError):
            make_sheet(touches=("wipe line",))

    def test_no_roller_press_for_a_raised_line(self):
        advice = line_advice(Stamp(title="Jug", outline_ink="embossed", powder="gold"))
        self.assertIn("No roller press", advice[0].instead)


class PictureTest(SimpleTestCase):
    """A ball with a thick inked rim, scanned black on white."""

    def setUp(self):
        labels = np.where(disc(200, 80), 1, 0).astype(np.int32)
        ink = disc(200, 88) & ~disc(200, 76)
        photo = np.where(ink[..., None], 0.05, np.float32((0.95, 0.95, 0.97))).astype(np.float32)
        self.map = RegionMap(labels=labels, ink=ink, dpi=300)
        self.canvas = make_canvas(Impression(photo, 300), self.map)

    def line(self, view: str, **stamp) -> np.ndarray:
        """Lab in the middle of the rim."""
        sheet = make_sheet(settings={1: RegionSetting(name="Ball")}, **stamp)
        light = np.full((200, 200), 0.5, np.float32)
        picture = compose(sheet, self.canvas, view, light, px_per_mm=self.map.px_per_mm)
        return srgb_to_lab(picture[100, 100 + 82] / 255)

    def test_the_line_is_painted_in_its_colour_on_the_card(self):
        white = self.line("coloured", outline_ink="embossed", powder="white", paper="kraft")
        self.assertLess(float(difference(white, POWDERS["white"].lab)), 2)
        brown = self.line("coloured", ink_lab=(35.0, 14.0, 20.0))
        self.assertLess(float(difference(brown, (35.0, 14.0, 20.0))), 2)
        self.assertLess(self.line("coloured")[0], 20)

    def test_values_show_its_lightness_alone_and_the_scan_stays_as_it_is(self):
        grey = self.line("values", outline_ink="embossed", powder="gold")
        self.assertLess(abs(float(grey[0]) - POWDERS["gold"].lab[0]), 2)
        self.assertLess(float(np.hypot(*grey[1:])), 2)
        for view in ("line", "ink", "regions"):
            with self.subTest(view=view):
                self.assertLess(self.line(view, outline_ink="embossed", powder="white")[0], 30)


class FormatTest(SimpleTestCase):
    """A file of format 5, written by the program that had it."""

    LAST = (Path(__file__).parent / "data" / "recipe-format-5.json").read_bytes()

    def test_a_file_of_format_5_has_the_line_of_its_scan_and_papers_as_they_counted_then(self):
        recipe = load(self.LAST)
        stamp = recipe.sheet.stamp
        self.assertEqual((stamp.line_lab, stamp.powder, stamp.paper_used.water), (None, "", "none"))
        self.assertEqual(load(dump(recipe)), recipe)

    def test_an_own_paper_whose_pounds_count_as_watercolour_was_made_for_water(self):
        plain = json.loads(self.LAST)["sheet"]
        own = {
            "code": "own-1",
            "name": "Mine",
            "lab": [94, 0, 3],
            "gsm": 300,
            "kind": "watercolour",
            "surface": "rough",
        }
        plain["stamp"] |= {"paper": "own-1", "own_paper": own}
        lifted = sheet_5_to_6(plain)
        self.assertEqual((lifted["stamp"]["own_paper"]["water"], lifted["stamp"]["own_paper"]["dries"]), ("much", 1.25))
        self.assertEqual({one["paper"]["water"] for one in lifted["colours"]["swatches"]}, {"none"})
