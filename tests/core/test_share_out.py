"""Sharing out a palette: touching things unlike, areas in proportion."""

from __future__ import annotations

from itertools import product

import numpy as np
from django.test import SimpleTestCase

from paleta.errors import WishError
from paleta.palette import share_out
from paleta.palette._share_out import SHARES, UNLIKE, price

GREY, ROSE, RED = (70.0, 2.0, 2.0), (60.0, 30.0, 5.0), (50.0, 60.0, 40.0)


def parts(chosen: list[int], areas: list[float], kinds: int) -> np.ndarray:
    return np.bincount(chosen, weights=areas, minlength=kinds) / sum(areas)


class ShareOutTest(SimpleTestCase):
    def test_the_quietest_leads_and_the_strongest_is_the_accent(self):  # common practice: 60-30-10
        areas = [1.0] * 10
        chosen = share_out(areas, {}, (RED, GREY, ROSE))
        np.testing.assert_allclose(parts(chosen, areas, 3), (0.1, 0.6, 0.3), atol=1e-9)

    def test_things_that_touch_are_unlike_where_that_can_be(self):
        """A ring of twelve in two colours, and four lands that all touch in four."""
        ring = {(place, (place + 1) % 12): 1.0 for place in range(12)}
        chosen = share_out([1.0] * 12, ring, (GREY, RED))
        self.assertTrue(all(chosen[one] != chosen[other] for one, other in ring))
        lands = {(one, other): 1.0 for one in range(4) for other in range(one)}
        self.assertEqual(len(set(share_out([1.0] * 4, lands, (GREY, ROSE, RED, (40.0, 0.0, -30.0))))), 4)

    def test_it_is_as_good_as_the_best_of_all_ways_or_nearly(self):
        """Every way to colour seven things in three colours, for forty pictures made by chance."""
        excess = []
        for seed in range(40):
            chance = np.random.default_rng(seed)
            areas = chance.uniform(5, 400, 7)
            touching = {
                (one, other): float(chance.uniform(2, 40))
                for one in range(7)
                for other in range(one)
                if chance.random() < 0.4
            }
            chosen = share_out(list(areas), touching, (GREY, ROSE, RED))
            borders = np.zeros((7, 7))
            for (one, other), length in touching.items():
                borders[one, other] = borders[other, one] = length
            borders *= UNLIKE / (borders.sum() / 2)
            measure = (areas / areas.sum(), borders, np.array(SHARES[3]))
            best = min(price(np.array(way), *measure) for way in product(range(3), repeat=7))
            excess.append(price(np.array(chosen), *measure) - best)
        self.assertLess(float(np.median(excess)), 0.02)
        self.assertLess(max(excess), 0.35)

    def test_the_same_picture_is_always_coloured_alike(self):
        chance = np.random.default_rng(3)
        areas = [float(area) for area in chance.uniform(1, 90, 60)]
        touching = {(one, one + step): 4.0 for one in range(50) for step in (1, 7)}
        self.assertEqual(share_out(areas, touching, (GREY, ROSE, RED)), share_out(areas, touching, (GREY, ROSE, RED)))

    def test_what_is_empty_or_impossible(self):
        self.assertEqual(share_out([], {}, (GREY,)), [])
        self.assertEqual(share_out([3.0, 4.0], {(0, 1): 2.0}, (GREY,)), [0, 0])
        for palette in ((), (GREY,) * 7):
            with self.assertRaises(WishError):
                share_out([1.0], {}, palette)
