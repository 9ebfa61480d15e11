"""The scripts that fit the small networks: what they learn from is true, and what they write is read as it was meant."""

from __future__ import annotations

import pickle

import numpy as np
from django.test import SimpleTestCase
from sklearn.metrics import log_loss
from sklearn.neural_network import MLPClassifier

from paleta.impression._networks import forward
from paleta.impression.depth._border_classifier import BEFORE, BEHIND, LEVEL, likelihoods
from paleta.impression.depth._border_features import FEATURES as FRONT_FEATURES
from paleta.impression.depth._border_features import exchanged, touching_regions
from paleta.impression.grouping._pairs import FEATURES, pairs_of
from tools import fit_fronts, fit_things, networks
from tools.networks import EXERCISES, FOLDS, LEAST_SPREAD, named, spread_of
from tools.things import HELD_BACK, OTHER_HAND, exercise

SEED = 7001


class NetworksTest(SimpleTestCase):
    def test_what_is_heard_is_what_scikit_learn_predicts(self):
        """Its own prediction by the same network stands against what is read from the weights as they are written."""
        chance = np.random.default_rng(1)
        features = chance.normal(3, 2, (400, 5)).astype(np.float32)
        scale = spread_of(features)
        shown = (features - scale["middle"]) / scale["spread"]
        for classes in (2, 3):
            net = MLPClassifier((8, 4), max_iter=20, random_state=1).fit(shown, np.arange(400) % classes)
            odds = forward(scale | named("some", net), "some", features)
            if classes == 2:
                likely = 1 / (1 + np.exp(-odds[:, 0]))
                theirs = net.predict_proba(shown)[:, 1]
            else:
                likely = np.exp(odds) / np.exp(odds).sum(axis=1, keepdims=True)
                theirs = net.predict_proba(shown)
            with self.subTest(classes=classes):
                np.testing.assert_allclose(likely, theirs, atol=1e-4)

    def test_a_network_for_two_questions_is_heard_as_scikit_learn_predicts(self):
        features = np.random.default_rng(2).normal(0, 1, (400, 5)).astype(np.float32)
        net = MLPClassifier((8, 4), max_iter=20, random_state=1).fit(features, (features[:, :2] > 0.5).astype(int))
        scale = {"middle": np.zeros(5, np.float32), "spread": np.ones(5, np.float32)}
        likely = 1 / (1 + np.exp(-forward(scale | named("some", net), "some", features)))
        np.testing.assert_allclose(likely, net.predict_proba(features), atol=1e-4)

    def test_weights_that_faded_away_are_written_as_nothing(self):
        features = np.random.default_rng(2).normal(0, 1, (60, 3)).astype(np.float32)
        net = MLPClassifier((4, 2), max_iter=5, random_state=1).fit(features, features[:, 0] > 0)
        net.coefs_[0][:, 1] = 1e-39
        written = named("some", net)
        self.assertFalse(written["some_0"][:, 1].any())
        np.testing.assert_array_equal(written["some_0"][:, 0], net.coefs_[0][:, 0].astype(np.float32))

    def test_a_measure_that_never_changes_is_not_divided_by_nothing(self):
        scale = spread_of(np.full((10, 2), 3, np.float32))
        np.testing.assert_allclose(scale["middle"], 3)
        np.testing.assert_allclose(scale["spread"], LEAST_SPREAD)


class FrontsTest(SimpleTestCase):
    def test_samples_are_the_borders_of_which_the_drawing_says_who_lies_before_whom(self):
        drawn = exercise(SEED, OTHER_HAND, FOLDS)
        features, truth = fit_fronts.samples(SEED, OTHER_HAND)
        met = touching_regions(drawn.region_map)
        at = {row.tobytes(): pair for row, pair in zip(met.features, met.labels.tolist(), strict=True)}
        self.assertGreater(len(truth), 10)
        self.assertGreater(len(set(truth.tolist())), 1)
        for row, told in zip(features, truth.tolist(), strict=True):
            one, other = (int(drawn.owner[label]) for label in at[row.tobytes()])
            self.assertNotEqual(drawn.part[at[row.tobytes()][0]], drawn.part[at[row.tobytes()][1]])
            over = BEFORE if (one, other) in drawn.over else BEHIND if (other, one) in drawn.over else LEVEL
            self.assertEqual(told, over)

    def test_a_rule_is_learnt_and_holds_from_either_side(self):
        """What lies lower in the picture stands before: by that measure alone."""
        chance = np.random.default_rng(2)
        features = chance.normal(0, 1, (3000, len(FRONT_FEATURES))).astype(np.float32)
        lower = features[:, FRONT_FEATURES.index("lower")]
        truth = np.where(lower > 0.5, BEFORE, np.where(lower < -0.5, BEHIND, LEVEL))
        net = fit_fronts.fit([(features[:1000], truth[:1000]), (features[1000:2500], truth[1000:2500])])
        fresh, told = features[2500:], truth[2500:]
        self.assertGreater((likelihoods(fresh, net).argmax(axis=1) == told).mean(), 0.85)
        turned = likelihoods(exchanged(fresh), net)[:, [LEVEL, BEHIND, BEFORE]]
        np.testing.assert_allclose(turned, likelihoods(fresh, net), atol=1e-5)


class ThingsTest(SimpleTestCase):
    def fronts(self, bias: tuple[float, float, float]) -> dict[str, np.ndarray]:
        """A network that says the same of every border."""
        count = len(FRONT_FEATURES)
        return {
            "middle": np.zeros(count, np.float32), "spread": np.ones(count, np.float32),
            "order_0": np.zeros((count, 2), np.float32), "order_bias_0": np.zeros(2, np.float32),
            "order_1": np.zeros((2, 2), np.float32), "order_bias_1": np.zeros(2, np.float32),
            "order_2": np.zeros((2, 3), np.float32), "order_bias_2": np.array(bias, np.float32),
        }  # fmt: skip

    def test_samples_are_the_pairs_of_which_the_drawing_says_whether_they_belong_together(self):
        drawn = exercise(SEED, OTHER_HAND, FOLDS)
        features, together = fit_things.samples(SEED, OTHER_HAND, self.fronts((0, 0, 0)))
        pairs = pairs_of(drawn.region_map, self.fronts((0, 0, 0)))
        first, second = pairs.labels[pairs.one], pairs.labels[pairs.other]
        told = np.all([truth[place] > 0 for truth in (drawn.part, drawn.alike) for place in (first, second)], axis=0)
        np.testing.assert_array_equal(features, pairs.features[told])
        for column, truth in enumerate((drawn.part, drawn.alike)):
            np.testing.assert_array_equal(together[:, column], (truth[first] == truth[second])[told])
            self.assertEqual(set(together[:, column].tolist()), {0, 1})

    def test_what_stands_in_front_is_told_by_the_network_that_is_asked(self):
        drawn = exercise(SEED, OTHER_HAND, FOLDS)
        column = FEATURES.index("in one plane")
        touching = FEATURES.index("touching")
        for bias, level in (((9.0, 0.0, 0.0), 1.0), ((-9.0, 0.0, 0.0), 0.0)):
            features = pairs_of(drawn.region_map, self.fronts(bias)).features
            told = features[features[:, touching] > 0, column]
            with self.subTest(level=level):
                self.assertAlmostEqual(float(np.median(told)), level, places=3)

    def test_each_grouping_is_learnt_and_as_likely_as_it_is(self):
        """By log loss against scikit-learn's own; that few of the pairs with nothing in common are shown moves nothing."""
        chance = np.random.default_rng(3)
        features = chance.normal(0, 1, (12000, 4)).astype(np.float32)
        likely = 1 / (1 + np.exp(4 - 3 * features[:, :2]))
        together = (chance.random(likely.shape) < likely).astype(np.int8)
        net = networks.fit(features[:10000], together[:10000], 1, hidden=(16, 8), rounds=20, batch=64, shown=3)
        found = net.predict_proba(features[10000:])
        for column in range(2):
            truth = together[10000:, column]
            best = log_loss(truth, likely[10000:, column])
            with self.subTest(column=column):
                self.assertLess(log_loss(truth, found[:, column]), 1.15 * best)
                self.assertAlmostEqual(float(found[:, column].mean()), float(likely[10000:, column].mean()), delta=0.02)

    def test_what_is_fitted_on_can_be_drawn_by_other_processes(self):
        for kinds in (*{id(kinds): kinds for _, kinds in EXERCISES}.values(), HELD_BACK):
            again = pickle.loads(pickle.dumps(kinds))
            self.assertEqual(list(again), list(kinds))

    def test_steps_fall_to_almost_nothing(self):
        steps = networks.steps(13)
        self.assertEqual(len(steps), 13)
        self.assertEqual(steps, sorted(steps, reverse=True))
        self.assertAlmostEqual(float(np.mean(steps)), networks.STEP / 2)
        self.assertLess(steps[-1], networks.STEP / 50)
