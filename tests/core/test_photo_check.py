"""Photos of cards against their plans, and one stamping laid on another."""

from __future__ import annotations

import io
from dataclasses import replace

import cv2
import numpy as np
from django.test import SimpleTestCase
from PIL import Image

from paleta.devices import HOME_LIGHTS, HandFault, colour_card, photograph_card
from paleta.errors import ImageTooLarge, NotAnImage
from paleta.impression import Impression, read
from paleta.photo_check import (
    FAULT_KINDS,
    NotTheSameStamp,
    NotThisCard,
    PhotoUnfit,
    Registration,
    against,
    compare,
    fault_from_plain,
    fault_to_plain,
    find_faults,
    reading_from_plain,
    reading_to_plain,
    register,
    swatches_measured,
    things_off,
    verdict,
)
from paleta.picture import looks_of, planned
from paleta.restamp import restamp
from tools.photo_check import HELD_BACK, pair, rate, recipe

SIZE = (1500, 2000)
WITHIN_MM = 0.2
SEED = 4


def photo_of(card: np.ndarray, light: str = "easy", seed: int = 1) -> bytes:
    home = replace(HOME_LIGHTS[light], size_px=SIZE)
    return photograph_card(card, home, px_per_mm=300 / 25.4, seed=seed)[0]


class CardTest(SimpleTestCase):
    """One recipe by chance, coloured and photographed with chosen faults."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.sheet, cls.region_map = recipe(SEED)
        cls.plan = planned(cls.sheet, cls.region_map)
        cls.photos: dict[str, bytes] = {}
        fair = [one for one in cls.region_map.regions if one.inradius_mm > 1.6 and one.area_mm2 > 14]
        settings = cls.sheet.regions.settings
        cls.labels = [one.label for one in fair if settings[one.label].coats]
        cls.shaded = [label for label in cls.labels if len(settings[label].coats[0].ramp) > 2]

    def card(self, *faults: HandFault, seed: int = 1) -> np.ndarray:
        return colour_card(self.plan, self.region_map, faults, seed=seed)

    def check(self, photo: bytes):
        return compare(photo, self.sheet, self.region_map, relief=self.plan.relief)

    @classmethod
    def as_planned(cls, light: str = "easy") -> bytes:
        """The photo of a card that was made as planned; many tests begin with the same one."""
        if light not in cls.photos:
            cls.photos[light] = photo_of(colour_card(cls.plan, cls.region_map, seed=1), light)
        return cls.photos[light]

    def test_a_card_made_as_planned_has_hardly_a_finding(self):
        report = self.check(self.as_planned())
        self.assertLess(len(report.faults), 0.06 * len(report.readings))
        self.assertGreater(report.laid, 0.98)
        sizes = sorted(one.size for one in report.readings.values())
        self.assertLess(sizes[len(sizes) // 2], 1.3)

    def test_every_kind_of_fault_of_a_region_is_found_where_it_was_made(self):
        looks = looks_of(self.sheet)
        darkest = min(self.shaded, key=lambda label: looks[label][-1][0])  # a pale blue cannot be much paler
        places = [darkest, *(label for label in self.shaded if label != darkest)][:5]
        faults = [HandFault(kind, (label,), size=10.0) for kind, label in zip(
            ("pale", "missing", "dark", "colour", "reversed"), places, strict=True)]  # fmt: skip
        card = self.card(*faults)
        for light in ("easy", "medium"):
            found = {}
            for fault in self.check(photo_of(card, light)).faults:
                found.setdefault(fault.region, fault)
            for made in faults:
                with self.subTest(light=light, kind=made.kind):
                    self.assertIn(made.regions[0], found)
            for made in faults[:3]:
                self.assertEqual(found[made.regions[0]].kind, made.kind)

    def test_a_pen_that_is_off_everywhere_is_told_as_one_fault_of_that_pen(self):
        uses: dict[tuple[str, str], int] = {}
        for label in self.labels:
            for pen in self.sheet.regions.settings[label].pens:
                uses[pen] = uses.get(pen, 0) + 1
        pen = max(sorted(uses), key=lambda one: uses[one])
        faults = self.check(photo_of(self.card(HandFault("pen", pen=pen, size=12.0)))).faults
        self.assertIn(pen, {fault.pen for fault in faults if fault.kind == "pen"})

    def test_colour_run_over_its_line_is_told_in_millimetres(self):
        label = next(
            label for label in self.labels if self.plan.lab_at(*np.nonzero(self.plan.labels == label))[:, 0].mean() < 60
        )
        faults = self.check(photo_of(self.card(HandFault("over", (label,), size=1.5)))).faults
        over = [fault for fault in faults if fault.kind == "over" and fault.region == label]
        self.assertEqual(len(over), 1)
        self.assertAlmostEqual(over[0].size, 1.5, delta=0.5)

    def test_the_light_as_laid_is_the_lamps_and_turns_with_it(self):
        photo = self.as_planned("medium")
        lamp = self.sheet.light.lamp
        light = self.check(photo).light
        self.assertIsNotNone(light)
        self.assertLess(abs((light.azimuth_deg - lamp.azimuth_deg + 180) % 360 - 180), 20)
        # The same card held against a plan that is lit from the other side.
        far = replace(lamp, azimuth_deg=(lamp.azimuth_deg + 180) % 360)
        other = compare(photo, self.sheet.with_part("light", lamp=far), self.region_map)
        self.assertLess(abs((other.light.azimuth_deg - lamp.azimuth_deg + 180) % 360 - 180), 30)
        self.assertIn("reversed", {fault.kind for fault in other.faults})

    def test_a_photo_upside_down_is_turned_and_says_so(self):
        picture = Image.open(io.BytesIO(self.as_planned())).rotate(180)
        out = io.BytesIO()
        picture.save(out, "JPEG", quality=92)
        report = self.check(out.getvalue())
        self.assertIn("The photo was turned by 180° and set upright.", report.notes)
        self.assertLess(len(report.faults), 0.08 * len(report.readings))

    def test_a_card_half_coloured_says_how_much_is_laid_and_lists_what_is_not(self):
        bare = [label for label, one in self.sheet.regions.settings.items() if one.coats and label % 2]
        report = self.check(photo_of(self.card(HandFault("missing", tuple(bare)))))
        self.assertLess(report.laid, 0.85)
        listed = {label for fault in report.faults if fault.kind == "missing" for label in fault.regions}
        shown = {label for label, one in report.readings.items() if one.laid is not None}
        self.assertGreaterEqual(len(listed & set(bare)), 0.98 * len(shown & set(bare)))
        self.assertLess(len(listed - set(bare)), 0.02 * len(shown))
        self.assertTrue(any("not finished" in note for note in report.notes))

    def test_photos_that_say_nothing_are_refused_with_the_reason(self):
        good = np.asarray(Image.open(io.BytesIO(self.as_planned())).convert("RGB"), np.float32) / 255
        other_sheet, other_map = recipe(SEED + 20)
        other = colour_card(planned(other_sheet, other_map), other_map)
        cases = {
            "almost black": (jpeg(good * 0.02), PhotoUnfit),
            "burnt out": (jpeg(np.clip(good + 0.9, 0, 1)), PhotoUnfit),
            "No table": (jpeg(np.full((800, 600, 3), 0.5)), NotThisCard),
            "another card": (photo_of(other), NotThisCard),
            "cut off": (jpeg(good[:, :600]), NotThisCard),
            "no picture": (b"nothing", NotAnImage),
        }
        for name, (photo, error) in cases.items():
            with self.subTest(name), self.assertRaises(error):
                self.check(photo)
        with self.assertRaises((PhotoUnfit, NotThisCard)):
            self.check(jpeg(cv2.GaussianBlur(good, (0, 0), 14)))

    def test_a_plan_without_colours_has_nothing_to_measure(self):
        bare = self.sheet.with_regions(
            {label: replace(one, coats=()) for label, one in self.sheet.regions.settings.items()}
        )
        left = bare.with_regions(
            {label: replace(one, left_as_paper=True) for label, one in bare.regions.settings.items()}
        )
        with self.assertRaisesMessage(PhotoUnfit, "could be measured"):
            compare(self.as_planned(), left, self.region_map)

    def test_a_picture_of_more_than_the_limit_is_refused_before_it_is_decoded(self):
        out = io.BytesIO()
        Image.new("1", (9000, 8000)).save(out, "PNG")
        with self.assertRaises(ImageTooLarge):
            self.check(out.getvalue())

    def test_one_card_is_held_against_another_and_the_verdict_counts_things(self):
        label = self.shaded[0]
        one = self.check(photo_of(self.card(seed=2), seed=2))
        other = self.check(photo_of(self.card(HandFault("pale", (label,), size=10.0), seed=3), "medium", seed=3))
        beside = against(other.readings, one.readings)
        self.assertGreater(beside[label].size, 5)
        turned = self.check(photo_of(self.card(HandFault("reversed", (label,)), seed=4), seed=4))
        kinds = {fault.kind for fault in find_faults(self.sheet, against(turned.readings, one.readings))
                 if label in fault.regions}  # fmt: skip
        self.assertIn("reversed", kinds)
        sizes = sorted(reading.size for reading in beside.values())
        self.assertLess(sizes[len(sizes) // 2], 2.2)
        line = verdict(self.sheet, one.readings, (), "the plan")
        things = things_off(self.sheet, one.readings)
        within = sum(1 for thing in things if thing.size <= 3)
        self.assertEqual(line, f"Like the plan: {within} of {len(things)} things within 3.")
        self.assertEqual(sorted(label for thing in things for label in thing.regions), sorted(one.readings))

    def test_three_cards_that_agree_offer_a_swatchs_measured_value_and_two_do_not(self):
        uses: dict[tuple[str, str], int] = {}
        for label in self.labels:
            pen = self.sheet.regions.settings[label].pens[-1]
            uses[pen] = uses.get(pen, 0) + 1
        pen = max(sorted(uses), key=lambda one: uses[one])
        card = colour_card(self.plan, self.region_map, (HandFault("pen", pen=pen, size=12.0),), seed=1, scatter=0.8)
        cards = [self.check(photo_of(card, seed=seed)).readings for seed in (1, 2, 3)]
        self.assertIn(pen, {one.pen for one in swatches_measured(self.sheet, cards)})
        self.assertEqual(swatches_measured(self.sheet, cards[:2]), [])
        # A third one that came out as planned does not agree with the other two.
        as_planned = self.check(photo_of(self.card(seed=5), seed=5)).readings
        self.assertNotIn(pen, {one.pen for one in swatches_measured(self.sheet, [*cards[:2], as_planned])})

    def test_readings_and_faults_survive_json(self):
        report = self.check(photo_of(self.card(HandFault("pale", (self.labels[0],), size=12.0))))
        for one in list(report.readings.values())[:5]:
            back = reading_from_plain(reading_to_plain(one))
            self.assertEqual((back.label, back.size, len(back.zones)), (one.label, one.size, len(one.zones)))
        self.assertEqual(fault_from_plain(fault_to_plain(report.faults[0])).kind, report.faults[0].kind)
        self.assertLessEqual({fault.kind for fault in report.faults}, FAULT_KINDS.keys())

    def test_a_fault_of_the_hand_that_does_not_exist_is_refused(self):
        with self.assertRaisesMessage(ValueError, "There is no fault 'smudge'"):
            HandFault("smudge")

    def test_the_same_seed_makes_the_same_photo(self):
        self.assertEqual(photo_of(self.card(), seed=1), self.as_planned())


def jpeg(pixels: np.ndarray) -> bytes:
    out = io.BytesIO()
    Image.fromarray((np.clip(pixels, 0, 1) * 255).astype(np.uint8)).save(out, "JPEG", quality=92)
    return out.getvalue()


class StampAgainTest(SimpleTestCase):
    def test_points_lie_where_a_warp_known_exactly_put_them(self):
        for kind in ("plain", "bent"):
            with self.subTest(kind=kind):
                one = pair(kind, HELD_BACK + 1)
                second = read(one.second, dpi=one.second_dpi)
                found = register(second, one.first)
                self.assertIsInstance(found, Registration)
                on_line = np.stack(np.nonzero(one.first_map.ink)[::-1], axis=1)[::40].astype(float)
                shrunk = second.dpi / one.second_dpi
                truth = (one.truth(on_line) + 0.5) * shrunk - 0.5
                off = np.hypot(*(found.to_photo(on_line) - truth).T) / second.px_per_mm
                self.assertLess(np.median(off), WITHIN_MM / 2 if kind == "plain" else WITHIN_MM)
                self.assertLess(np.percentile(off, 95), 2 * WITHIN_MM)

    def test_a_plain_pair_lies_where_opencvs_own_alignment_puts_it(self):
        """findTransformECC ([Evangelidis2008]) on the same pair, begun near the answer."""
        one = pair("plain", HELD_BACK + 4)
        height, width = one.first.pixels.shape[:2]
        turn = cv2.getRotationMatrix2D((width / 2, height / 2), 2.0, 1.0)
        moved = cv2.warpAffine(one.first.pixels, turn, (width, height), borderMode=cv2.BORDER_REPLICATE)
        found = register(Impression(pixels=moved, dpi=one.first.dpi), one.first)
        grey = [cv2.cvtColor(each, cv2.COLOR_RGB2GRAY) for each in (one.first.pixels, moved)]
        start = np.vstack([turn, (0, 0, 1)]).astype(np.float32)
        _, matrix = cv2.findTransformECC(grey[0], grey[1], start, cv2.MOTION_HOMOGRAPHY, (3, 60, 1e-6), None, 5)
        points = np.stack(np.nonzero(one.first_map.ink)[::-1], axis=1)[::200].astype(float)
        theirs = cv2.perspectiveTransform(points[None].astype(np.float32), matrix)[0]
        truth = cv2.transform(points[None], turn)[0]
        ours, ecc = (np.percentile(np.abs(each - truth), 90) for each in (found.to_photo(points), theirs))
        self.assertLess(ours, 0.6)
        self.assertLess(ours, ecc + 0.5)
        self.assertAlmostEqual(found.turned_deg, -2.0, delta=0.1)

    def test_all_regions_are_carried_onto_another_stamping(self):
        one = pair("plain", HELD_BACK + 6)
        done = restamp(read(one.second, dpi=one.second_dpi), one.first, one.first_map)
        self.assertEqual(done.region_map.labels.shape, one.first_map.labels.shape)
        self.assertEqual(set(np.unique(done.region_map.labels)), set(np.unique(one.first_map.labels)))
        # The carried picture lies upright on the first, so a plain pair's regions lie where they were.
        both = (done.region_map.labels == one.first_map.labels).mean()
        self.assertGreater(both, 0.97)

    def test_another_stamp_is_refused_and_one_of_like_design_too(self):
        for kind in ("other", "like"):
            with self.subTest(kind=kind):
                one = pair(kind, 0)
                found = restamp(read(one.second, dpi=one.second_dpi), one.first, one.first_map)
                self.assertIsInstance(found, NotTheSameStamp)
                self.assertIn(found.code, ("other", "nothing"))

    def test_what_is_missing_and_what_is_new_is_told_by_region(self):
        one = pair("plain", HELD_BACK + 6)
        second = one.first.pixels.copy()
        largest = max(one.first_map.regions, key=lambda region: region.inradius_mm)
        row, col = largest.anchor
        reach = int(2.5 * one.first_map.px_per_mm)
        cv2.line(second, (col - reach, row), (col + reach, row), (0.05, 0.05, 0.05), 4)
        done = restamp(Impression(pixels=second, dpi=one.first.dpi), one.first, one.first_map)
        self.assertIn(largest.label, done.new)
        self.assertEqual(done.cut, ())
        back = restamp(one.first, Impression(pixels=second, dpi=one.first.dpi), replace(one.first_map, ink=(
            one.first_map.ink | (np.abs(second - one.first.pixels).max(axis=-1) > 0.3))))  # fmt: skip
        self.assertIn(largest.label, back.missing)


class RateTest(SimpleTestCase):
    def test_rates_stand_in_wilsons_interval(self):
        """[Wilson1927]'s formula, written out."""
        yes, of, z = 45, 50, 1.959964
        share = yes / of
        middle = (share + z * z / (2 * of)) / (1 + z * z / of)
        half = z / (1 + z * z / of) * np.sqrt(share * (1 - share) / of + z * z / (4 * of * of))
        self.assertEqual(rate(yes, of), f"{share:.3f} ({middle - half:.2f}-{middle + half:.2f} of {of})")
