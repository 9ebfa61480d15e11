"""The second look at pairs of regions: the company each keeps, held against plain loops, SciPy and worked examples."""

from __future__ import annotations

from unittest.mock import patch

import numpy as np
from django.test import SimpleTestCase
from scipy.spatial.distance import cosine

from paleta.impression.grouping import _pair_classifier
from paleta.impression.grouping._cluster_features import MEASURES, average_linkage, cluster_features, square_of
from paleta.impression.grouping._matrices import max_product_path
from paleta.impression.grouping._pair_classifier import SECOND_FEATURES, first_look, likely, seen_again
from paleta.impression.grouping._pairs import FEATURES, pairs_of
from tools import fit_second_look
from tools.networks import EXERCISES
from tools.things import OTHER_HAND, panel
from tools.things._table import SETS

SEED = 65_001


def by_chance(count: int, seed: int = 1) -> np.ndarray:
    one, other = np.triu_indices(count, 1)
    return square_of(count, one, other, np.random.default_rng(seed).random(len(one)).astype(np.float32))


def measured(square: np.ndarray) -> dict[str, np.ndarray]:
    return dict(zip(MEASURES, cluster_features(square), strict=True))


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
        self.assertAlmostEqual(max_product_path(parts, alike)[0, 2], 0.4)
        self.assertEqual(max_product_path(parts, alike)[2, 0], 0)

    def test_two_that_were_not_looked_at_are_as_likely_as_their_likeliest_go_between(self):
        one, other = np.triu_indices(9, 1)
        looked = np.random.default_rng(2).random(len(one)) < 0.6
        likely = np.random.default_rng(3).uniform(0.1, 1, len(one)).astype(np.float32)
        whole = square_of(9, one, other, np.where(looked, likely, 0))
        found = square_of(9, one[looked], other[looked], likely[looked])
        for k, (i, j) in enumerate(zip(one.tolist(), other.tolist(), strict=True)):
            with self.subTest(pair=(i, j)):
                ways = [whole[i, third] * whole[third, j] for third in range(9)]
                expected = likely[k] if looked[k] else max(ways)
                self.assertAlmostEqual(found[i, j], float(expected))
                self.assertEqual(found[i, j], found[j, i])
        self.assertFalse(looked.all() or found.diagonal().any())

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
        self.assertAlmostEqual(average_linkage(square)[:, 2].min(), 0.1)


class LooksTest(SimpleTestCase):
    def test_of_many_regions_and_of_few_the_first_look_stands(self):
        pairs = pairs_of(panel(SEED, OTHER_HAND).region_map)
        first, both = first_look(pairs), likely(pairs)
        self.assertGreater(np.abs(first["alike"] - both["alike"]).max(), 0.05)
        for name, bound in (("MOST_SEEN_AGAIN", len(pairs.labels) - 1), ("FEWEST", len(pairs.labels) + 1)):
            with self.subTest(bound=name), patch.object(_pair_classifier, name, bound):
                np.testing.assert_array_equal(likely(pairs)["alike"], first["alike"])

    def test_what_is_seen_has_all_its_names_and_the_first_look_in_it(self):
        pairs = pairs_of(panel(SEED, OTHER_HAND).region_map)
        seen = seen_again(pairs, first_look(pairs))
        self.assertEqual(seen.shape, (len(pairs.one), len(SECOND_FEATURES)))
        self.assertTrue(np.isfinite(seen).all())
        odds = seen[:, SECOND_FEATURES.index("odds of alike")]
        np.testing.assert_allclose(1 / (1 + np.exp(-odds)), first_look(pairs)["alike"], atol=2e-4)
        np.testing.assert_array_equal(seen[:, -len(FEATURES) :], pairs.features)

    def test_it_learns_from_drawings_that_say_what_belongs_together(self):
        features, together = fit_second_look.samples(SEED, OTHER_HAND)
        drawn = panel(SEED, OTHER_HAND)
        pairs = pairs_of(drawn.region_map)
        truth = np.stack([drawn.part[pairs.labels], drawn.alike[pairs.labels]], axis=1)
        told = ((truth[pairs.one] > 0) & (truth[pairs.other] > 0)).all(axis=1)
        self.assertEqual(features.shape, (told.sum(), len(SECOND_FEATURES)))
        np.testing.assert_array_equal(together, (truth[pairs.one] == truth[pairs.other])[told])

    def test_no_drawing_is_learnt_from_that_others_are_fitted_on_or_measured_by(self):
        own = {seed for seed, _ in fit_second_look.DRAWINGS}
        self.assertEqual(len(own), len(fit_second_look.DRAWINGS))
        self.assertFalse(own & {seed for seed, _ in EXERCISES})
        for name, (_, first) in SETS.items():
            self.assertFalse(own & set(range(first, first + 1000)), msg=name)

    def test_a_handful_teaches_nothing(self):
        with patch.object(fit_second_look, "FEWEST", 10_000):
            features, together = fit_second_look.samples(SEED, OTHER_HAND)
        self.assertEqual((len(features), len(together)), (0, 0))
