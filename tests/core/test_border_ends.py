"""What lies round the ends of a border, against junctions whose angles are known."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as made

from paleta.impression.depth._border_ends import BORDER_ENDS, NO_THIRD, RINGS_MM, border_ends
from paleta.impression.depth._border_features import FEATURES, exchanged, touching_regions
from tests.builders import region_map

PX_PER_MM = 25.0
SIDE = 201
TOLERANCE = 1 / 24


def junction(*degrees: float) -> np.ndarray:
    """Regions 1, 2, ... round the middle of a square, each from one of these directions to the next."""
    rows, cols = np.mgrid[:SIDE, :SIDE] - SIDE // 2
    turn = (np.degrees(np.arctan2(rows - 0.5, cols - 0.5)) - degrees[0]) % 360
    labels = np.zeros((SIDE, SIDE), np.int32)
    for label, (start, end) in enumerate(pairwise(degrees), 1):
        labels[(turn >= start - degrees[0]) & (turn < end - degrees[0])] = label
    return labels


def seen(labels: np.ndarray, *pairs: tuple[int, int]) -> list[dict[str, float]]:
    rows = border_ends(labels, np.array(pairs, np.int64).reshape(-1, 2), PX_PER_MM)
    return [dict(zip(BORDER_ENDS, row.tolist(), strict=True)) for row in rows]


class KnownAnglesTest(SimpleTestCase):
    """Shares of a ring are angles over a full turn."""

    def test_what_a_line_ends_on_takes_half_of_the_ring(self):
        # 1 above a straight line, 2 and 3 below it.
        with_front, parted = seen(junction(180, 360, 450, 540), (1, 2), (2, 3))
        for mm in RINGS_MM:
            with self.subTest(mm=mm):
                self.assertAlmostEqual(abs(with_front[f"more at first end, {mm} mm"]), 0.25, delta=TOLERANCE)
                self.assertAlmostEqual(with_front[f"rest at first end, {mm} mm"], 0.25, delta=TOLERANCE)
                self.assertAlmostEqual(parted[f"more at first end, {mm} mm"], 0.0, delta=TOLERANCE)
                self.assertAlmostEqual(parted[f"rest at first end, {mm} mm"], 0.5, delta=TOLERANCE)

    @settings(max_examples=60, deadline=None)
    @given(first=made.integers(40, 170), second=made.integers(40, 150), mm=made.sampled_from(RINGS_MM))
    def test_any_three_angles_come_out(self, first, second, mm):
        (one,) = seen(junction(0, first, first + second, 360), (1, 2))
        self.assertAlmostEqual(one[f"more at first end, {mm} mm"], (first - second) / 360, delta=TOLERANCE)
        self.assertAlmostEqual(one[f"rest at first end, {mm} mm"], 1 - (first + second) / 360, delta=TOLERANCE)

    def test_a_border_from_edge_to_edge_or_all_round_has_no_end(self):
        labels = np.ones((SIDE, SIDE), np.int32)
        labels[60:140, 60:140] = 2
        (one,) = seen(labels, (1, 2))
        self.assertEqual(one["ends"], 0)
        self.assertEqual(one[f"more at first end, {RINGS_MM[0]} mm"], 0)
        self.assertAlmostEqual(one[f"rest at second end, {RINGS_MM[0]} mm"], NO_THIRD, places=5)

    def test_the_end_that_says_most_comes_first(self):
        # 2 lies in a corner of 1: one end of their border is a T, the other a fork.
        labels = np.full((SIDE, SIDE), 3, np.int32)
        labels[:100] = 1
        labels[100:, :60] = 2
        rows, cols = np.mgrid[:SIDE, :SIDE]
        labels[(rows < 100) & (cols < 100 - rows)] = 4
        (one,) = seen(labels, (1, 2))
        first, second = (abs(one[f"more at {end} end, 0.8 mm"]) for end in ("first", "second"))
        self.assertGreater(first, second + TOLERANCE)

    def test_no_pairs_give_no_rows(self):
        self.assertEqual(border_ends(np.ones((9, 9), np.int32), np.zeros((0, 2), np.int64), PX_PER_MM).shape[0], 0)


class ExchangedTest(SimpleTestCase):
    @settings(max_examples=25, deadline=None)
    @given(first=made.integers(40, 170), second=made.integers(40, 150), turn=made.integers(0, 89))
    def test_from_the_other_region_the_same_pairs_are_seen(self, first, second, turn):
        """Labels are names only: with 1 and 2 in each other's place, what is measured is measured the other way."""
        labels = junction(turn, turn + first, turn + first + second, turn + 360)
        labels = np.pad(labels, 20, constant_values=0)
        table = np.array([0, 2, 1, 3], np.int32)
        here, there = touching_regions(region_map(labels)), touching_regions(region_map(table[labels]))
        names = [name for name in FEATURES if name.startswith(("more at", "rest at", "ends"))]
        columns = [FEATURES.index(name) for name in names]
        pair = [set(row) == {1, 2} for row in here.labels.tolist()].index(True)
        other = [set(row) == {1, 2} for row in there.labels.tolist()].index(True)
        np.testing.assert_allclose(
            exchanged(there.features)[other, columns], here.features[pair, columns], atol=2 * TOLERANCE
        )
