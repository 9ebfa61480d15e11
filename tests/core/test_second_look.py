"""The second look at pairs of regions: the company each keeps, held against plain loops, SciPy and worked examples."""

from __future__ import annotations

from unittest.mock import patch

import numpy as np
from django.test import SimpleTestCase
from scipy.spatial.distance import cosine

from paleta.impression import _looks
from paleta.impression._company import MEASURES, company, go_between, grown, square_of
from paleta.impression._front_pairs import FEATURES as FRONT_FEATURES
from paleta.impression._looks import SECOND_FEATURES, first_look, likely, seen_again
from paleta.impression._thing_pairs import FEATURES, pairs_of
from paleta.impression._weights import weights_of
from tools import fit_things
from tools.networks import EXERCISES, FOLDS
from tools.things import OTHER_HAND, panel
from tools.things._table import SETS

SEED, SEEDS = 65_001, range(65_004, 65_008)


def by_chance(count: int, seed: int = 1) -> np.ndarray:
    one, other = np.triu_indices(count, 1)
    return square_of(count, one, other, np.random.default_rng(seed).random(len(one)).astype(np.float32))


def measured(square: np.ndarray) -> dict[str, np.ndarray]:
    return dict(zip(MEASURES, company(square), strict=True))


class CompanyTest(SimpleTestCase):
    def test_company_is_compared_over_all_thirds(self):
        square = by_chance(9)
        found = measured(square)
        for i, j in ((0, 1), (3, 7), (8, 2)):
            thirds = [k for k in range(9) if k not in (i, j)]
            own, others = square[i, thirds], square[j, thirds]
            with self.subTest(pair=(i, j)):
                self.assertAlmostEqual(found["same company"][i, j], 1 - cosine(own, others))
                self.assertAlmostEqual(found["company in common"][i, j], np.minimum(own, others).sum())
                self.assertAlmostEqual(found["company of one only"][i, j], np.abs(own - others).sum())
                self.assertAlmostEqual(found["best go-between"][i, j], (own * others).max())
                self.assertAlmostEqual(found["more mates"][i, j], max(own.sum(), others.sum()))
                of_each = square[i, j] / square[i].max(), square[i, j] / square[j].max()
                self.assertAlmostEqual(found["less of the likeliest"][i, j], min(of_each))

    def test_a_go_between_may_lead_from_one_likeness_to_another(self):
        parts, alike = np.zeros((3, 3)), np.zeros((3, 3))
        parts[0, 1] = parts[1, 0] = 0.5
        alike[1, 2] = alike[2, 1] = 0.8
        self.assertAlmostEqual(go_between(parts, alike)[0, 2], 0.4)
        self.assertEqual(go_between(parts, alike)[2, 0], 0)

    def test_whatever_is_said_of_two_holds_the_other_way_round_and_in_any_order(self):
        square = by_chance(12, seed=4)
        order = np.random.default_rng(3).permutation(12)
        turned = measured(square[np.ix_(order, order)])
        off = ~np.eye(12, dtype=bool)
        for name, found in measured(square).items():
            with self.subTest(measure=name):
                np.testing.assert_allclose(found[off], found.T[off], atol=1e-9)
                np.testing.assert_allclose(found[np.ix_(order, order)][off], turned[name][off], atol=1e-9)

    def test_two_circles_of_friends_and_one_who_stands_between(self):
        square = np.full((7, 7), 0.1)
        for circle in (slice(0, 3), slice(3, 6)):
            square[circle, circle] = 0.9
        square[6, :3] = square[:3, 6] = 0.4
        np.fill_diagonal(square, 0)
        found = measured(square)
        self.assertEqual(found["in one group at 0.55"][0, 1], 1)
        self.assertEqual(found["in one group at 0.55"][0, 3], 0)
        self.assertAlmostEqual(found["larger group at 0.55"][0, 6], np.log(3))
        self.assertAlmostEqual(found["groups together at 0.55"][0, 4], 0.1)
        # Average linkage takes the one between in at the mean of its likelihoods, below the high bar.
        self.assertEqual(found["in one group at 0.32"][0, 6], 1)
        self.assertEqual(found["in one group at 0.55"][0, 6], 0)
        self.assertAlmostEqual(found["grown together at"][0, 6], 0.4)
        self.assertAlmostEqual(found["greater pull at 0.55"][0, 1], 0.9)
        self.assertAlmostEqual(grown(square)[:, 2].min(), 0.1)


class LooksTest(SimpleTestCase):
    def test_of_many_regions_and_of_few_the_first_look_stands(self):
        pairs = pairs_of(panel(SEED, OTHER_HAND).region_map)
        first, both = first_look(pairs), likely(pairs)
        self.assertGreater(np.abs(first["alike"] - both["alike"]).max(), 0.05)
        for name, bound in (("MOST_SEEN_AGAIN", len(pairs.labels) - 1), ("FEWEST", len(pairs.labels) + 1)):
            with self.subTest(bound=name), patch.object(_looks, name, bound):
                np.testing.assert_array_equal(likely(pairs)["alike"], first["alike"])

    def test_what_is_seen_has_all_its_names_and_the_first_look_in_it(self):
        pairs = pairs_of(panel(SEED, OTHER_HAND).region_map)
        seen = seen_again(pairs, first_look(pairs))
        self.assertEqual(seen.shape, (len(pairs.one), len(SECOND_FEATURES)))
        self.assertTrue(np.isfinite(seen).all())
        odds = seen[:, SECOND_FEATURES.index("odds of alike")]
        np.testing.assert_allclose(1 / (1 + np.exp(-odds)), first_look(pairs)["alike"], atol=2e-4)
        np.testing.assert_array_equal(seen[:, -len(FEATURES) :], pairs.features)

    def test_it_learns_what_to_make_of_a_first_look_that_it_is_given(self):
        seen = fit_things.seen_in(SEED, OTHER_HAND, weights_of("_fronts.npz", FRONT_FEATURES, ""))
        own = weights_of("_things.npz", FEATURES, "")
        timid = {name: own[name] * (0 if name.endswith("_2") else 1) for name in own}
        odds = SECOND_FEATURES.index("odds of parts")
        for first in (own, timid):
            features, together = fit_things.shown_again(seen, first)
            likelihood = first_look(seen.pairs, first)["parts"][seen.told]
            np.testing.assert_allclose(1 / (1 + np.exp(-features[:, odds])), likelihood, atol=2e-4)
            np.testing.assert_array_equal(together, seen.together)
        self.assertAlmostEqual(float(np.ptp(features[:, odds])), 0, places=3)

    def test_of_each_drawing_it_is_told_by_networks_that_never_saw_its_kinds(self):
        drawings = [
            fit_things.seen_in(seed, OTHER_HAND, weights_of("_fronts.npz", FRONT_FEATURES, "")) for seed in SEEDS
        ]
        self.assertEqual({one.fold for one in drawings}, {0, 1, 2, 3})
        own = weights_of("_things.npz", FEATURES, "")
        firsts = [own | {"one_bias_2": np.full(2, 9 - 6 * fold, np.float32)} for fold in range(FOLDS)]
        with patch.object(fit_things, "fitted") as fitted:
            fit_things.fit_second(drawings, firsts)
        for one, (features, _) in zip(drawings, fitted.call_args.args[0], strict=True):
            np.testing.assert_array_equal(features, fit_things.shown_again(one, firsts[one.fold])[0])

    def test_no_drawing_is_learnt_from_that_they_are_measured_by(self):
        own = {seed for seed, _ in EXERCISES}
        self.assertEqual(len(own), len(EXERCISES))
        for name, (_, first) in SETS.items():
            self.assertFalse(own & set(range(first, first + 1000)), msg=name)

    def test_a_handful_and_a_crowd_teach_nothing(self):
        seen = fit_things.seen_in(SEED, OTHER_HAND, weights_of("_fronts.npz", FRONT_FEATURES, ""))
        for name, bound in (("MOST_SEEN_AGAIN", len(seen.pairs.labels) - 1), ("FEWEST", len(seen.pairs.labels) + 1)):
            with self.subTest(bound=name), patch.object(fit_things, name, bound):
                features, together = fit_things.shown_again(seen, weights_of("_things.npz", FEATURES, ""))
                self.assertEqual((len(features), len(together)), (0, 0))
