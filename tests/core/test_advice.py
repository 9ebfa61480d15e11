"""What a drawer lacks, what stands in, palettes, and the value guard."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations

import numpy as np
from colour.notation import munsell_value_ASTMD1535
from django.test import SimpleTestCase

from paleta.checks import value_warnings
from paleta.colour import difference, lab_to_srgb
from paleta.errors import WishError
from paleta.ground import Fade
from paleta.media import Swatch
from paleta.palette import counterparts, find_ramps, missing_pen, palette_of_photo, scheme, substitutes
from paleta.palette._search import (
    PREFERRED_STEP,
    STRANGER_DEG,
    _foreign,
    _hue_gap,
    _misfit,
    _price,
    _uneven,
    _unlike,
    _wanted,
    _Wish,
)
from paleta.recipe import RegionSetting
from paleta.starter import markers, pencils
from tests.builders import by_pen, coats, grey_pens, make_sheet, region_map


class LackTest(SimpleTestCase):
    def test_a_yellow_without_a_dark_misses_an_orange_brown(self):  # common practice: the dark of a yellow
        yellows = [one for one in markers() if one.family == "yellow"]
        missing = missing_pen(yellows, (84, 0, 60), 3)
        self.assertLess(missing.lab[0], 75)
        self.assertIn(missing.nearest, yellows)
        hue = np.degrees(np.arctan2(missing.lab[2], missing.lab[1]))
        self.assertLess(hue, 90)  # browner than the yellow's own 90 degrees

    def test_a_full_drawer_misses_nothing_and_an_empty_one_says_nothing(self):
        self.assertIsNone(missing_pen(grey_pens(*range(95, 10, -4)), (60, 0, 0), 3))
        self.assertIsNone(missing_pen([], (60, 0, 0), 3))

    def test_a_substitute_has_the_lightness_first(self):  # common practice
        near_hue = Swatch("hue", "Same hue, darker", "marker", (42, 30, 0))
        near_light = Swatch("light", "Same lightness, greyer", "marker", (60, 18, 6))
        (first, _), _ = substitutes((60, 30, 0), [near_hue, near_light])
        self.assertEqual(first, near_light)

    def test_as_many_pencils_as_markers_and_none_twice(self):
        ramp = markers()[:4]
        found = counterparts(ramp, pencils())
        self.assertEqual(len({one.code for one in found}), 4)
        # The assignment is the best of all: no swap of two makes it nearer (checked by trying all).
        cost = lambda chosen: sum(  # noqa: E731
            float(difference(a.lab, b.lab)) + 0.6 * abs(a.lab[0] - b.lab[0]) for a, b in zip(ramp, chosen, strict=True)
        )
        for i, j in combinations(range(4), 2):
            swapped = list(found)
            swapped[i], swapped[j] = swapped[j], swapped[i]
            self.assertLessEqual(cost(found), cost(swapped) + 1e-9)
        with self.assertRaisesMessage(WishError, "only 2"):
            counterparts(ramp, pencils()[:2])


class PaletteTest(SimpleTestCase):
    def test_a_triad_stands_120_degrees_apart_with_the_same_lightness(self):
        labs = scheme((60, 40, 0), "triad", 3)
        hues = sorted(np.degrees(np.arctan2(lab[2], lab[1])) % 360 for lab in labs)
        self.assertEqual([round(hue) for hue in hues], [0, 120, 240])
        self.assertEqual({lab[0] for lab in labs}, {60})
        for wrong in (("triad", 2), ("triad", 7), ("hexagon", 3)):
            with self.assertRaises(WishError):
                scheme((60, 40, 0), *wrong)

    def test_the_colours_of_a_picture_are_found_most_covering_first(self):
        true = [(70, 30, 40), (40, -30, 20), (55, 10, -45)]
        picture = np.zeros((90, 120, 3), np.float32)
        for lab, (left, right) in zip(true, ((0, 70), (70, 100), (100, 120)), strict=True):
            picture[:, left:right] = lab_to_srgb(lab)
        found = palette_of_photo(picture, 3)
        for lab, expected in zip(found, true, strict=True):
            self.assertLess(float(difference(lab, expected)), 1.5)


def cheapest_triple(labs: np.ndarray, wish: np.ndarray, known: float) -> float:
    """The price of the best of all ramps of three, or `known` if none is cheaper.

    Branch and bound: the palest and the darkest fix the size of the step and most of the price, so only pairs that are
    cheaper by themselves than the best triple so far are tried with every middle.
    """
    falls = labs[:, None, 0] - labs[None, :, 0]
    # A step far from the preferred one alone costs more than `known`.
    near = np.abs(falls / 2 - PREFERRED_STEP[3]) < 8 * np.sqrt(known)
    pale, dark = np.nonzero(near & (falls > 0))
    size = falls[pale, dark] / 2
    # Ideals for steps rounded to a twentieth: too little to matter.
    sizes, which = np.unique((size * 20).round() / 20, return_inverse=True)
    ideals = np.array([_wanted(_Wish(np.array(wish, float), 3, "keep", "middle"), one) for one in sizes])[which]
    outer = (_misfit(labs[pale], ideals[:, 0]) + _misfit(labs[dark], ideals[:, 2])) / 3
    outer += ((size - PREFERRED_STEP[3]) / 8) ** 2
    strange = _foreign(labs[pale], ideals[:, 0], wish) | _foreign(labs[dark], ideals[:, 2], wish)
    outer[strange] = np.inf
    middle = _wanted(_Wish(np.array(wish, float), 3, "keep", "middle"), 10.0)[1]
    middles = np.where(_foreign(labs, middle, wish), np.inf, _misfit(labs, middle))
    best = known
    for pair in np.argsort(outer):
        if outer[pair] >= best:
            break
        ends, step = labs[[pale[pair], dark[pair]]], size[pair]
        between = labs[(labs[:, 0] < ends[0, 0]) & (labs[:, 0] > ends[1, 0])]
        own = middles[(labs[:, 0] < ends[0, 0]) & (labs[:, 0] > ends[1, 0])]
        steps = _uneven(ends[0, 0] - between[:, 0], step) + _uneven(between[:, 0] - ends[1, 0], step)
        links = _unlike(ends[0], between, "keep") + _unlike(between, ends[1], "keep")
        gaps = np.maximum(_hue_gap(ends[0], between), _hue_gap(between, ends[1]))
        links = np.where(gaps > STRANGER_DEG, np.inf, links)
        best = min(best, outer[pair] + float((own + steps + links).min(initial=np.inf)) / 3)
    return best


class ExactTest(SimpleTestCase):
    def test_ramps_are_near_the_best_of_all_for_nearly_every_wish(self):
        chance = np.random.default_rng(4)
        for size, wishes in ((50, 24), (500, 8), (5000, 2)):
            drawer = [
                Swatch(f"s{k}", f"S {k}", "marker", tuple(chance.uniform((15, -40, -40), (95, 40, 40))))
                for k in range(size)
            ]
            labs = np.array([one.lab for one in drawer])
            near = 0
            for wish in chance.uniform((35, -30, -30), (80, 30, 30), (wishes, 3)):
                (best,) = find_ramps(drawer, tuple(wish), 3, alternatives=1) or [None]
                # A drawer without such a ramp has none either way.
                found = best.cost if best else cheapest_triple(labs, wish, 1e3)
                near += found <= cheapest_triple(labs, wish, found) * 1.05 + 0.05
            with self.subTest(swatches=size):
                self.assertGreaterEqual(near / wishes, 0.95)

    def test_the_exact_search_finds_what_trying_every_triple_finds(self):
        chance = np.random.default_rng(5)
        labs = chance.uniform((15, -40, -40), (95, 40, 40), (18, 3))
        wish = np.array((60.0, 10, -20))
        order = np.argsort(-labs[:, 0])
        best = min(
            _price(labs[list(triple)], _Wish(np.array(wish, float), 3, "keep", "middle"))
            for triple in combinations(order.tolist(), 3)
        )
        self.assertAlmostEqual(cheapest_triple(labs, wish, best + 1), best, delta=0.005)

    def test_even_steps_of_lightness_are_even_steps_of_munsell_value(self):
        # ASTM D1535 (as in colour-science): value 1 to 9 for the luminance of each lightness; L* is about ten times it.
        light = np.arange(20, 96, 5.0)
        luminance = 100 * ((light + 16) / 116) ** 3
        value = munsell_value_ASTMD1535(luminance)
        self.assertLess(np.abs(value - light / 10).max(), 0.25)
        self.assertLess(np.ptp(np.diff(value)), 0.12)


class GuardTest(SimpleTestCase):
    """Five regions in a row; what each case changes is written out."""

    def guard(self, looks: dict, **more) -> dict:
        return {one.kind: one for one in self.every_line(looks, **more)}

    def every_line(
        self,
        looks: dict,
        roles: dict | None = None,
        key: str = "",
        ramps: dict | None = None,
        paper: str = "smooth-white",
        things: dict | None = None,
    ) -> list:
        labels = np.zeros((200, 500), np.int32)
        for label in range(1, 6):
            labels[20:180, 90 * label - 70 : 90 * label + 20] = label
        pens = by_pen(grey_pens(*range(10, 100, 10)))
        regions = {
            label: RegionSetting(
                f"R{label}",
                coats=coats(*(ramps or {}).get(label, ("grey-90", "grey-50"))),
                role=(roles or {}).get(label, ""),
                thing=(things or {}).get(label, ""),
            )
            for label in looks
        }
        sheet = make_sheet("Row", settings=regions, swatches=pens, key=key, paper=paper)
        return value_warnings(sheet, looks, region_map(labels, dpi=254))

    def full(self, **changed) -> dict:
        looks = {
            1: [(30, 20, 10), (70, 20, 10)], 2: [(40, -30, 20), (85, -30, 20)], 3: [(25, 10, -30), (60, 10, -30)],
            4: [(45, 40, 40), (88, 40, 40)], 5: [(30, 0, 40), (72, 0, 40)],
        }  # fmt: skip
        return looks | {int(key[1:]): value for key, value in changed.items()}

    def test_white_things_in_a_night_scene_want_a_middle_grey(self):  # common practice; docs/trade-notes.md, Values
        moon = RegionSetting("Moon", coats=coats("grey-90"))
        night = RegionSetting("Sky", coats=coats("grey-20"), fade=Fade())
        map_ = np.ones((60, 60))
        map_[30:] = 2
        for sky, light, told in ((night, 88.0, 1), (night, 62.0, 0), (replace(night, fade=None), 88.0, 0)):
            with self.subTest(light=light, ground=sky.fade is not None):
                sheet = make_sheet(settings={1: moon, 2: sky}, swatches=by_pen(grey_pens(90, 20)))
                looks = {1: [(light, 1, 2)], 2: [(22.0, 0, -8)]}
                kinds = [one.kind for one in value_warnings(sheet, looks, region_map(map_))]
                self.assertEqual(kinds.count("white_at_night"), told)

    def test_too_dark_for_a_light_key_names_what_is_dark_and_not_the_sky(self):
        sky = RegionSetting("Sky", coats=coats("grey-90"), fade=Fade())
        thing = RegionSetting("Kettle", coats=coats("grey-20"))
        map_ = np.ones((100, 100))
        map_[:32] = 2  # the smaller one

        def named(sky_light: float, thing_light: float) -> int:
            sheet = make_sheet(settings={1: sky, 2: thing}, swatches=by_pen(grey_pens(90, 20)), key="light")
            looks = {1: [(sky_light, 0, -5)], 2: [(thing_light, 2, 3)]}
            (told,) = [one for one in value_warnings(sheet, looks, region_map(map_)) if one.kind == "key"]
            return told.regions[0]

        self.assertEqual(named(64, 40), 2)
        self.assertEqual(named(40, 64), 1)

    def test_an_outline_that_is_to_vanish_is_paler_than_every_shade(
        self,
    ):  # common practice; docs/trade-notes.md, Values
        pens = grey_pens(90, 50)
        one = RegionSetting("Moon", coats=coats("grey-90", "grey-50"))
        looks = {1: [(50.0, 0, 0), (90.0, 0, 0)]}
        for ink, outline, told in (("pale", 80.0, 1), ("pale", 92.0, 0), ("dye", 20.0, 0)):
            with self.subTest(ink=ink, outline=outline):
                sheet = make_sheet(settings={1: one}, swatches=by_pen(pens), outline_ink=ink)
                found = value_warnings(sheet, looks, region_map(np.ones((40, 40))), (outline, 0, 0))
                kinds = [warning.kind for warning in found]
                self.assertEqual(kinds.count("outline_shows"), told)

    def test_a_sound_picture_has_no_warnings(self):
        self.assertEqual(self.guard(self.full()), {})

    def test_a_region_without_depth_beside_the_rest_is_named(self):
        found = self.guard(self.full(r2=[(80, -30, 20), (85, -30, 20)]))
        self.assertEqual(found["no_depth"].regions, (2,))

    def test_neighbours_that_merge_and_greens_alike_are_named(self):
        ramps = {1: ("grey-80",), 2: ("grey-70",)}
        found = self.guard(self.full(r1=[(30, 20, 10), (70, 20, 10)], r2=[(31, 21, 10), (71, 21, 10)]), ramps=ramps)
        self.assertEqual(found["merging"].regions, (1, 2))
        green = [(30, -30, 20), (70, -30, 20)]
        self.assertEqual(self.guard(self.full(r1=green, r2=green))["greens_alike"].regions, (1, 2))

    def test_two_things_are_warned_of_once_and_changed_whole(self):
        green = [(30, -30, 20), (70, -30, 20)]
        things = {1: "Leaves", 3: "Leaves", 2: "Stem", 4: "Stem"}
        looks = self.full(r1=green, r2=green, r3=green, r4=green)
        found = self.guard(looks, things=things)["greens_alike"]
        self.assertEqual(found.regions, (1, 2, 3, 4))
        self.assertEqual(found.changed, (2, 4))
        self.assertEqual(found.sentence, "Leaves and Stem grow side by side in the same green.")

    def test_all_that_merge_for_the_same_ramps_are_one_line_and_no_more_are_changed_than_must_be(self):
        """Five leaves in one green round a stem are one line; the thing that each pair shares is what is changed."""
        green = [(30, -30, 20), (70, -30, 20)]
        things = {number: f"Leaf {number}" for number in (1, 3, 4, 5)} | {2: "Stem"}
        found = self.every_line(self.full(r1=green, r2=green, r3=green, r4=green, r5=green), things=things)
        (found,) = [one for one in found if one.kind == "greens_alike"]
        self.assertIn("more grow side by side in the same green", found.sentence)
        self.assertTrue(set(found.changed) < set(found.regions))

    def test_the_regions_of_one_thing_may_look_alike(self):
        green = [(30, -30, 20), (70, -30, 20)]
        found = self.guard(self.full(r1=green, r2=green), things={1: "Leaves", 2: "Leaves"})
        self.assertNotIn("greens_alike", found)

    def test_a_thing_is_named_once(self):
        flat = [(82, -30, 20), (85, -30, 20)]
        found = self.guard(self.full(r2=flat, r3=flat), things={2: "Petals", 3: "Petals"})["no_depth"]
        self.assertTrue(found.sentence.startswith("Petals fall"), found.sentence)

    def test_a_focal_image_must_stand_out_from_its_background(self):
        same = [(30, 20, -10), (72, 20, -10)]
        found = self.guard(self.full(r1=same, r3=same), roles={1: "focal", 3: "background"})
        self.assertEqual(found["focal_contrast"].regions, (3,))
        dark = self.guard(self.full(r3=[(8, 0, 0), (30, 0, 0)]), roles={1: "focal", 3: "background"})
        self.assertNotIn("focal_contrast", dark)

    def test_one_cause_is_one_warning_the_worst_first(self):
        flat = {"r2": [(82, -30, 20), (85, -30, 20)], "r4": [(80, 40, 40), (88, 40, 40)]}
        found = self.guard(self.full(**flat))["no_depth"]
        self.assertEqual(found.changed, (2, 4))
        self.assertIn("R2 and R4 fall by 3", found.sentence)

    def test_what_is_lighter_than_toned_paper_stands_out_and_what_is_as_light_does_not(self):  # common practice
        pale, alike = [(80, 0, 0), (90, 0, 0)], [(70, 0, 0), (72, 0, 0)]
        self.assertNotIn("white_vanishes", self.guard(self.full(r4=pale), paper="toned-grey"))
        red = [(70, 45, 25), (72, 45, 25)]
        self.assertEqual(self.guard(self.full(r4=alike), paper="toned-grey")["white_vanishes"].regions, (4,))
        self.assertNotIn("white_vanishes", self.guard(self.full(r4=red), paper="toned-grey"))

    def test_whites_that_vanish_and_a_wrong_key_are_named(self):
        self.assertEqual(self.guard(self.full(r4=[(95, 0, 0), (96, 0, 0)]))["white_vanishes"].regions, (4,))
        found = self.guard(self.full(), key="light")
        self.assertIn("too dark for light key", found["key"].sentence)
        self.assertNotIn("key", self.guard(self.full(), key="middle"))
