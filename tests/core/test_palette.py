"""Ramps: what must hold for every one, and the search against trying everything."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import combinations

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from paleta.colour import difference, hex_to_lab
from paleta.errors import WishError
from paleta.materials import PAPERS
from paleta.media import Swatch, seen_on, split_code, strengths_of
from paleta.palette import find_ramps, judge, missing_pen
from paleta.palette._ramp import SMALL_STEP
from paleta.palette._search import _price, _Wish
from paleta.starter import markers, pencils, soluble_pens, watercolours
from tests.builders import grey_pens
from tools.bench.colours import drawer_by_chance, plain_ramp, sensible

GREEN = (58.0, -35.0, 25.0)


class OnThisPaperTest(SimpleTestCase):
    def test_on_kraft_a_step_is_one_as_it_is_seen_there(self):
        kraft, chance = PAPERS["kraft"], np.random.default_rng(3)
        wishes = [tuple(map(float, lab)) for lab in chance.uniform((35, -45, -45), (85, 55, 60), (40, 3))]
        melting = {None: 0, kraft: 0}
        for paper in melting:
            for wish in wishes:
                (ramp,) = find_ramps(markers(), wish, 3, alternatives=1, paper=paper)
                falls = -np.diff([seen_on(one, kraft)[0] for one in ramp.swatches])
                melting[paper] += bool((falls < SMALL_STEP).any())
                if paper is kraft:
                    self.assertGreater(falls.min(), 0)
                    np.testing.assert_allclose(ramp.steps, falls, atol=0.06)
        # 14 of 40 where they are found by how they look on white, 1 where by how they look on kraft.
        self.assertLessEqual(melting[kraft], 2)
        self.assertGreater(melting[None], 8)


class FindRampsTest(SimpleTestCase):
    def test_an_empty_drawer_or_one_too_small_gives_no_ramps(self):
        self.assertEqual(find_ramps((), GREEN, 3), [])
        self.assertEqual(find_ramps(grey_pens(80, 40), GREEN, 3), [])

    @settings(max_examples=40)
    @given(st.tuples(st.floats(15, 95), st.floats(-50, 50), st.floats(-50, 50)), st.integers(1, 5))
    def test_every_ramp_falls_strictly_and_uses_no_swatch_twice(self, target, n):
        for ramp in find_ramps(markers(), target, n):
            self.assertEqual(len(ramp.swatches), n)
            self.assertEqual(len({swatch.code for swatch in ramp.swatches}), n)
            self.assertTrue(all(step > 0 for step in ramp.steps))
            self.assertEqual(len(ramp.steps), n - 1)

    def test_best_comes_first_and_alternatives_differ(self):
        ramps = find_ramps(markers(), GREEN, 3)
        self.assertEqual([ramp.cost for ramp in ramps], sorted(ramp.cost for ramp in ramps))
        self.assertEqual(len({tuple(swatch.code for swatch in ramp.swatches) for ramp in ramps}), len(ramps))
        self.assertGreaterEqual(len(ramps), 2)

    def test_it_finds_nearly_the_best_of_all_ramps_of_a_small_drawer(self):
        drawer = pencils()[::2]
        chance = np.random.default_rng(4)
        near = 0
        for _ in range(12):
            target = np.array([chance.uniform(35, 80), chance.uniform(-40, 40), chance.uniform(-40, 40)])
            order = sorted(drawer, key=lambda swatch: -swatch.lab[0])
            best = min(
                _price(np.array([one.lab for one in trio]), _Wish(target, 3, "keep", "middle"))
                for trio in combinations(order, 3)
            )
            found = find_ramps(drawer, tuple(target), 3)[0].cost
            near += found <= 1.1 * best + 0.05
        self.assertGreaterEqual(near, 11)

    def test_a_green_wish_is_answered_in_greens_and_a_grey_one_in_greys(self):
        for family in ("leaf", "grey", "rose", "blue"):
            own = [swatch for swatch in markers() if swatch.family == family]
            middle = own[len(own) // 2]
            with self.subTest(family=family):
                best = find_ramps(markers(), middle.lab, 3)[0]
                self.assertGreaterEqual(sum(swatch.family == family for swatch in best.swatches), 2)

    def test_the_dark_of_a_yellow_is_browner_not_greener(self):  # common practice
        yellow = next(swatch for swatch in markers() if swatch.family == "yellow")
        dark = find_ramps(markers(), yellow.lab, 3)[0].swatches[-1]
        hue = np.degrees(np.arctan2(dark.lab[2], dark.lab[1]))
        self.assertLess(hue, 100)

    def test_a_wish_may_stand_as_the_palest_or_the_darkest(self):
        wish = hex_to_lab("#4f8f5b")
        for n in (2, 3, 4, 5):
            found = {
                meant: find_ramps(markers(), wish, n, meant=meant)[0] for meant in ("lightest", "middle", "darkest")
            }
            places = {"lightest": 0, "middle": (n - 1) // 2, "darkest": n - 1}
            for meant, place in places.items():
                with self.subTest(n=n, meant=meant):
                    self.assertLess(abs(found[meant].swatches[place].lab[0] - wish[0]), 13)
            lights = [found[meant].swatches[0].lab[0] for meant in ("lightest", "middle", "darkest")]
            self.assertEqual(lights, sorted(lights))

    def test_shade_hue_leans_where_it_is_told(self):
        # Hue drift is measured from the palest to the darkest; for a rose cooler is towards blue, warmer towards yellow.
        drift = {
            hue: find_ramps(markers(), hex_to_lab("#d9618a"), 4, shade_hue=hue)[0].hue_drift_deg
            for hue in ("keep", "cooler", "warmer")
        }
        self.assertLess(abs(drift["keep"]), 10)
        self.assertLess(drift["cooler"], -15)
        self.assertGreater(drift["warmer"], 15)

    def test_impossible_wishes_are_refused(self):
        for wishes, words in (
            ({"n": 6}, "got 6"),
            ({"n": 0}, "got 0"),
            ({"n": 2, "shade_hue": "sideways"}, "got 'sideways'"),
            ({"n": 2, "meant": "best"}, "got 'best'"),
            ({"n": 2, "step": 90}, "2..40, got 90"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(WishError, words):
                find_ramps(markers(), GREEN, **wishes)


class JudgeTest(SimpleTestCase):
    def test_steps_are_the_falls_in_lightness_and_the_weakest_is_named(self):
        ramp = judge(grey_pens(90, 75, 68, 50))
        self.assertEqual(ramp.steps, (15, 7, 18))
        self.assertEqual(ramp.weakest, 1)

    def test_close_wide_and_rising_steps_are_warned_of(self):  # common practice: no depth, stripe
        for lights, words in (((80, 77), "no depth"), ((95, 40), "stripe"), ((50, 70), "not darker")):
            with self.subTest(lights=lights):
                self.assertIn(words, " ".join(judge(grey_pens(*lights)).warnings))
        self.assertEqual(judge(grey_pens(90, 74, 58)).warnings, ())

    def test_hue_drift_goes_the_short_way_round(self):
        one = Swatch(code="a", name="A", medium="marker", lab=(80, 30, 5))
        other = Swatch(code="b", name="B", medium="marker", lab=(60, 30, -5))
        self.assertAlmostEqual(judge([one, other]).hue_drift_deg, -18.9, places=1)

    def test_a_swatch_twice_or_no_swatch_is_no_ramp(self):
        pens = grey_pens(80)
        for swatches, words in (([], "1 to 5"), (pens * 2, "stands twice")):
            with self.subTest(words=words), self.assertRaisesMessage(WishError, words):
                judge(swatches)


class DemoDrawersTest(SimpleTestCase):
    def test_the_drawers_hold_what_the_scenario_says_with_codes_of_their_own(self):
        for drawer, count in ((markers(), 84), (watercolours(), 36), (pencils(), 48)):
            self.assertEqual(len(drawer), count)
            self.assertEqual(len({swatch.code for swatch in drawer}), count)


class NoStrangersTest(SimpleTestCase):
    def pens(self, *labs) -> list[Swatch]:
        return [Swatch(f"s{k}", f"S {k}", "marker", lab) for k, lab in enumerate(labs)]

    def test_no_ramp_is_filled_up_with_another_hue(self):
        chance = np.random.default_rng(12)
        for _ in range(40):
            drawer = self.pens(*(tuple(chance.uniform((15, -60, -60), (95, 60, 60)).tolist()) for _ in range(18)))
            wish = tuple(chance.uniform((40, -40, -40), (75, 40, 40)).tolist())
            for ramp in find_ramps(drawer, wish, 3):
                labs = np.array([one.lab for one in ramp.swatches])
                chroma, hue = np.hypot(labs[:, 1], labs[:, 2]), np.degrees(np.arctan2(labs[:, 2], labs[:, 1]))
                for k in range(2):
                    if min(chroma[k : k + 2]) >= 10:
                        self.assertLessEqual(abs((hue[k] - hue[k + 1] + 180) % 360 - 180), 45)

    def test_equal_lightness_is_no_step(self):
        for fall, found in ((0.5, False), (1.9, False), (2.1, True)):
            with self.subTest(fall=fall):
                drawer = self.pens((60, 30, 10), (60, 31, 10), (60 - fall, 30, 11))
                self.assertEqual(bool(find_ramps(drawer, (60, 30, 10), 2)), found)

    def test_nearly_every_ladder_is_sensible_and_far_more_than_the_nearest_swatches_are(self):
        """What a sensible ladder is says tools/bench/colours.py; its drawers are few and wild, in families, crowded."""
        for kind in ("awkward", "families", "dense"):
            chance = np.random.default_rng(len(kind))
            ladders, plain = [], []
            for _ in range(20):
                drawer = drawer_by_chance(kind, chance)
                wish = tuple(chance.uniform((35, -40, -40), (75, 40, 40)).tolist())
                ladders += [sensible(ramp.swatches) for ramp in find_ramps(drawer, wish, 3)]
                plain.append(sensible(plain_ramp(drawer, wish)))
            with self.subTest(drawer=kind):
                self.assertGreater(len(ladders), 15)
                self.assertGreaterEqual(np.mean(ladders), 0.98)
                self.assertGreater(np.mean(ladders), np.mean(plain) + 0.1)

    def test_what_is_no_sensible_ladder(self):
        for labs, right in (
            (((80, 30, 10), (60, 30, 10)), True), (((60, 30, 10), (80, 30, 10)), False),
            (((80, 30, 0), (60, 0, 30)), False), (((80, 5, 0), (60, 0, 30)), True), (((60, 30, 10), (59, 30, 10)), False),
        ):  # fmt: skip
            self.assertEqual(sensible(self.pens(*labs)), right)

    def test_a_white_thing_gets_greys_and_lilacs(self):  # common practice
        drawer = self.pens((96, 0, 0), (90, -2, 60), (80, 0, 0), (72, -30, -5), (70, 8, -14), (60, 1, 1), (66, 40, 30))
        for ramp in find_ramps(drawer, (95, 0, 0), 4):
            self.assertTrue({one.code for one in ramp.swatches} <= {"s0", "s2", "s4", "s5"})

    def test_a_hundred_alike_hide_no_other(self):
        chance = np.random.default_rng(2)
        crowd = [(62 + x, 40 + y, 20 + z) for x, y, z in chance.uniform(-0.8, 0.8, (300, 3)).tolist()]
        drawer = self.pens(*crowd, (78, 30, 14), (46, 42, 22))
        (best, *_) = find_ramps(drawer, (62, 40, 20), 3)
        self.assertEqual((best.swatches[0].code, best.swatches[2].code), ("s300", "s301"))

    def test_no_pen_is_missing_that_is_owned_or_would_make_nothing_better(self):
        chance = np.random.default_rng(7)
        for _ in range(25):
            drawer = self.pens(*(tuple(chance.uniform((15, -50, -50), (95, 50, 50)).tolist()) for _ in range(40)))
            wish = tuple(chance.uniform((35, -40, -40), (75, 40, 40)).tolist())
            missing = missing_pen(drawer, wish, 3)
            if missing is None:
                continue
            labs = np.array([one.lab for one in drawer])
            self.assertGreaterEqual(float(difference(labs, missing.lab).min()), 3)
            before = find_ramps(drawer, wish, 3)
            after = find_ramps([*drawer, Swatch("new", "New", "marker", missing.lab)], wish, 3)
            if before:
                self.assertLess(after[0].cost, before[0].cost)


class LeaningTest(SimpleTestCase):
    """Shades of a white thing. Common practice: handbooks shade white with a very pale grey, lilac or blue."""

    def shade(self, shade_hue: str, drawer: Sequence[Swatch], wish=(94.0, 0.0, 1.0)) -> np.ndarray:
        """a* and b* of the deepest shade."""
        ramp = find_ramps(drawer, wish, 3, alternatives=1, shade_hue=shade_hue, meant="lightest")[0]
        return np.array(ramp.swatches[-1].lab[1:])

    def test_of_a_white_it_changes_what_comes_and_goes_where_it_is_told(self):
        drawer = [one for swatch in watercolours() for one in strengths_of(swatch)]
        cool, warm, violet = (self.shade(lean, drawer) for lean in ("cooler", "warmer", "violet"))
        self.assertLess(cool[1], -3, "blue")
        self.assertGreater(warm[1], 3, "yellow")
        self.assertGreater(violet[0], 2, "violet is redder than blue")
        self.assertLess(violet[1], 0)

    def test_whatever_it_leans_to_the_shades_of_a_white_stay_quiet(self):
        for lean in ("keep", "cooler", "warmer", "violet"):
            for ramp in find_ramps(markers(), (92.0, 0.0, 0.0), 3, shade_hue=lean, meant="lightest"):
                with self.subTest(lean=lean):
                    self.assertLess(max(float(np.hypot(*one.lab[1:])) for one in ramp.swatches), 22.1)


class AmongTest(SimpleTestCase):
    """Wishes for what a ramp is taken from, by wishes of colour as they come."""

    def setUp(self):
        chance = np.random.default_rng(5)
        self.wishes = [
            (float(light), float(chroma * np.cos(hue)), float(chroma * np.sin(hue)))
            for light, chroma, hue in zip(
                chance.uniform(35, 80, 24), chance.uniform(0, 45, 24), chance.uniform(0, 2 * np.pi, 24), strict=True
            )
        ]

    def test_one_family_is_one_in_every_proposal_and_its_order_is_that_of_the_cost(self):
        some = 0
        for wish in self.wishes:
            ramps = find_ramps(markers(), wish, 3, among="family")
            some += bool(ramps)
            with self.subTest(wish=wish):
                self.assertTrue(all(len({one.family for one in ramp.swatches}) == 1 for ramp in ramps))
                self.assertEqual([ramp.cost for ramp in ramps], sorted(ramp.cost for ramp in ramps))
                # What needs no other family is the best there is.
                free = find_ramps(markers(), wish, 3, alternatives=1)
                if free and len({one.family for one in free[0].swatches}) == 1:
                    self.assertEqual(ramps[0].swatches, free[0].swatches)
        self.assertGreater(some, 12)

    def test_fewest_pens_takes_what_is_at_hand_where_it_serves(self):
        at_hand = {one.code for one in markers()[::4]}
        new = {
            among: sum(
                len(
                    {one.code for one in find_ramps(markers(), wish, 3, among=among, at_hand=at_hand)[0].swatches}
                    - at_hand
                )
                for wish in self.wishes
            )
            for among in ("", "pens")
        }
        self.assertLess(new["pens"], 0.9 * new[""])

    def test_fewest_pens_draws_one_pen_out_rather_than_taking_several(self):
        drawer = [shade for swatch in soluble_pens() for shade in strengths_of(swatch)]

        def pens(among: str) -> int:
            ramps = (find_ramps(drawer, wish, 3, alternatives=1, among=among)[0] for wish in self.wishes)
            return sum(len({split_code(one.code)[0] for one in ramp.swatches}) for ramp in ramps)

        self.assertLess(pens("pens"), pens(""))

    def test_what_no_ramp_can_be_taken_from_is_refused(self):
        with self.assertRaisesMessage(WishError, "among must be one of family, pens"):
            find_ramps(markers(), (60, 0, 0), 3, among="friends")
