"""Photos of cards from a home that the check was not made for, and photos that something is the matter with."""

from __future__ import annotations

import io
import warnings

import numpy as np
from django.test import SimpleTestCase
from PIL import Image
from scipy.linalg import LinAlgWarning

from paleta.colour import linear_to_srgb, srgb_to_linear
from paleta.devices import HandFault, colour_card
from paleta.errors import NotThisCard, PhotoUnfit
from paleta.photo_check import Fault, PhotoReport, Registration, compare, register, verdict
from paleta.photo_check._shine import VEILED, without_shine
from paleta.picture import planned
from tools.photo_check import HELD_BACK, ODD, other_photo, pair, recipe

SEED = 2
SIZE = (1800, 1350)


class OtherHomeTest(SimpleTestCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.sheet, cls.region_map = recipe(SEED)
        cls.plan = planned(cls.sheet, cls.region_map)
        cls.coloured = [label for label, one in cls.sheet.regions.settings.items() if one.coats]
        cls.fair = {
            one.label for one in cls.region_map.regions
            if one.inradius_mm >= 0.9 and one.area_mm2 >= 6 and one.label in set(cls.coloured)
        }  # fmt: skip
        cls.faulty = [label for label in sorted(cls.fair) if cls.sheet.regions.settings[label].shades > 1][:6]

    def check(self, odd: str = "", faults: tuple[HandFault, ...] = (), seed: int = SEED) -> PhotoReport:
        card = colour_card(self.plan, self.region_map, faults, seed=seed)
        photo = other_photo(card, px_per_mm=self.region_map.px_per_mm, seed=seed, odd=odd, size_px=SIZE)
        with warnings.catch_warnings():
            # A solver without an answer is a fault of the model.
            warnings.simplefilter("error", LinAlgWarning)
            warnings.simplefilter("error", RuntimeWarning)
            return compare(photo, self.sheet, self.region_map, relief=self.plan.relief)

    def told(self, report: PhotoReport, *kinds: str) -> set[int]:
        return {
            label for fault in report.faults for label in fault.regions
            if not fault.slight and (not kinds or fault.kind in kinds)
        }  # fmt: skip

    def test_faults_are_found_and_hardly_any_invented(self):
        made = tuple(
            HandFault(kind, (label,), size=8.0)
            for kind, label in zip(("missing", "pale", "dark", "colour", "missing"), self.faulty, strict=False)
        )
        report = self.check(faults=made)
        wrong = {label for one in made for label in one.regions}
        self.assertEqual(wrong - self.told(report), set())
        self.assertLessEqual(len((self.told(report) & self.fair) - wrong), 0.02 * len(self.fair) + 1)

    def test_a_stamping_without_any_colour_lists_all_of_it_as_not_coloured_yet(self):
        report = self.check(faults=(HandFault("missing", tuple(self.coloured)),))
        self.assertLess(report.laid, 0.02)
        seen = {label for label, one in report.readings.items() if one.laid is not None}
        self.assertLessEqual(seen & self.fair, self.told(report, "missing"))
        self.assertTrue(all("not coloured yet" in one.sentence for one in report.faults if one.kind == "missing"))

    def test_of_a_card_hardly_begun_what_is_laid_is_known(self):
        begun = sorted(self.fair)[:3]
        report = self.check(faults=(HandFault("missing", tuple(set(self.coloured) - set(begun))),))
        self.assertLess(report.laid, 0.85)
        missing = self.told(report, "missing")
        self.assertFalse(missing & set(begun))
        seen = {label for label, one in report.readings.items() if one.laid is not None} & self.fair
        self.assertGreaterEqual(len(missing & seen), 0.98 * len(seen - set(begun)))

    def test_what_cannot_be_judged_is_refused_with_the_reason(self):
        for odd, error, words in (
            ("black-and-white", PhotoUnfit, "black and white"),
            ("mirrored", NotThisCard, "mirrored"),
            ("overexposed", PhotoUnfit, "could be measured"),
            ("tone-mapped", PhotoUnfit, "without a filter"),
        ):
            with self.subTest(odd=odd), self.assertRaisesMessage(error, words):
                self.check(odd)

    def test_under_a_hard_shadow_only_what_is_larger_is_told_and_it_is_said(self):
        report = self.check("hard shadow", (HandFault("missing", tuple(self.faulty[:1])),))
        self.assertTrue(any("in patches" in note for note in report.notes))
        self.assertLessEqual(len((self.told(report) & self.fair) - {self.faulty[0]}), 0.15 * len(self.fair))
        self.assertIn(self.faulty[0], self.told(report))

    def test_what_a_shine_drowns_is_not_judged(self):
        for odd, most in (("soft glare", 0.45), ("burnt spot", 0.2)):
            with self.subTest(odd=odd):
                report = self.check(odd)
                self.assertTrue(any("shines" in note or "in patches" in note for note in report.notes))
                self.assertLess(len(self.told(report) & self.fair), most * len(self.fair))

    def test_a_blurred_photo_is_judged_as_well_or_refused(self):
        self.assertLessEqual(len(self.told(self.check("blur")) & self.fair), 0.02 * len(self.fair) + 1)

    def test_a_neighbour_shaded_from_the_wrong_side_is_not_taken_for_colour_run_over(self):
        made = tuple(HandFault("reversed", (label,)) for label in self.faulty)
        self.assertEqual(self.told(self.check(faults=made), "over"), set())

    def test_everything_that_can_be_the_matter_is_tried(self):
        tried = {"black-and-white", "mirrored", "overexposed", "tone-mapped", "hard shadow", "soft glare",
                 "burnt spot", "blur"}  # fmt: skip
        self.assertEqual(tried, set(ODD))


class ShineTest(SimpleTestCase):
    """A veil of light is added to line and colours alike; taken away again the colours are what they were."""

    PX_PER_MM = 6.0

    def setUp(self) -> None:
        self.ink = np.zeros((240, 320), bool)
        self.ink[::24] = self.ink[1::24] = self.ink[:, ::32] = self.ink[:, 1::32] = True
        self.light = np.full((240, 320, 3), (0.12, 0.3, 0.5))
        self.light[120:] = 0.06, 0.08, 0.2
        self.light[self.ink] = 0.01
        _, across = np.mgrid[0:240, 0:320]
        self.veil = 0.05 * np.exp(-(((across - 60) / 60) ** 2))[..., None]

    def seen(self, light: np.ndarray) -> np.ndarray:
        return linear_to_srgb(light).astype(np.float32)

    def test_a_veil_is_taken_away_but_for_what_thin_lines_leave_in_doubt(self):
        clear = without_shine(self.seen(self.light + self.veil), self.ink, self.PX_PER_MM)
        left = srgb_to_linear(clear) - self.light
        known = ~np.isnan(clear).any(axis=-1)
        self.assertGreater(known.mean(), 0.9)
        self.assertLess(float(np.abs(left[known]).max()), VEILED + 0.01)
        self.assertLess(float(np.abs(left[:, 200:]).max()), 1e-3)

    def test_a_bright_spot_is_left_out(self):
        clear = without_shine(self.seen(np.clip(self.light + 8 * self.veil, 0, 1)), self.ink, self.PX_PER_MM)
        self.assertTrue(np.isnan(clear[100:140, 40:80]).all())
        self.assertFalse(np.isnan(clear[:, 240:]).any())

    def test_a_line_of_gold_or_white_tells_of_no_shine(self):
        self.light[self.ink] = 0.7, 0.5, 0.25
        seen = self.seen(self.light)
        np.testing.assert_array_equal(without_shine(seen, self.ink, self.PX_PER_MM), seen)


class SlightTest(SimpleTestCase):
    def test_a_verdict_and_its_list_do_not_contradict_each_other(self):
        sheet, region_map = recipe(SEED)
        report = compare(
            other_photo(
                colour_card(planned(sheet, region_map), region_map, seed=5),
                px_per_mm=region_map.px_per_mm, seed=5, size_px=SIZE,
            ),
            sheet, region_map,
        )  # fmt: skip
        small = [Fault("pale", (one,), 2.4, f"Cell {one} is paler than planned by 2.") for one in (1, 2)]
        self.assertTrue(all(one.slight for one in small))
        self.assertRegex(
            verdict(sheet, report.readings, small, "the plan"), r"^Like the plan: \d+ of \d+ things within 3\.$"
        )
        large = Fault("dark", (3,), 5.0, "Cell 3 is darker than planned by 5.")
        self.assertTrue(
            verdict(sheet, report.readings, [large, *small], "the plan").endswith("darker than planned by 5.")
        )
        for kind in ("missing", "reversed", "pen", "uneven", "over"):
            self.assertFalse(Fault(kind, (1,), 1.2, "").slight)


class PartSeenTest(SimpleTestCase):
    def test_what_lies_outside_the_photo_does_not_speak_against_the_stamp(self):
        one = pair("plain", HELD_BACK + 6)
        picture = Image.open(io.BytesIO(one.second)).convert("RGB")
        whole = register(one.second, one.first)
        ink = np.stack(np.nonzero(one.first_map.ink)[::-1], axis=1).astype(float)
        beyond = whole.to_photo(np.array([(np.percentile(ink[:, 0], 80), whole.shape[0] / 2)]))
        middle = whole.to_photo(np.array([(whole.shape[1] / 2, whole.shape[0] / 2)]))
        across, right = int(beyond[0, 0]), bool(beyond[0, 0] > middle[0, 0])
        cut = picture.crop((0, 0, across, picture.height) if right else (across, 0, *picture.size))
        out = io.BytesIO()
        cut.save(out, "PNG")
        found = register(out.getvalue(), one.first)
        self.assertIsInstance(found, Registration)
        self.assertLess(found.share, 0.9)
        self.assertGreater(found.likeness, 0.9)
