"""What is measured of two regions: how they stand to each other, what surrounds them, what lies between them."""

from __future__ import annotations

from itertools import pairwise

import cv2
import networkx
import numpy as np
from django.test import SimpleTestCase
from sklearn.neighbors import NearestNeighbors

from paleta.impression import RegionMap
from paleta.impression.grouping._between import MEASURES as BETWEEN
from paleta.impression.grouping._between import between
from paleta.impression.grouping._context import FAR, UNLIKE, _joined, context
from paleta.impression.grouping._context import MEASURES as CONTEXT
from paleta.impression.grouping._matrices import max_product_path
from paleta.impression.grouping._pairs import FEATURES, Pairs, pairs_of
from paleta.impression.grouping._poses import MEASURES as POSES
from paleta.impression.grouping._poses import _overlap, poses
from paleta.impression.grouping._shapes import shapes_of
from tests.builders import region_map
from tools.things import KINDS, SCENES, panel

SIZE = 400


def cells(*boxes: tuple[int, int, int, int], size: int = SIZE) -> np.ndarray:
    """Labels from 1 of boxes (top, left, bottom, right); later ones lie over earlier ones."""
    labels = np.zeros((size, size), np.int32)
    for k, (top, left, bottom, right) in enumerate(boxes):
        labels[top:bottom, left:right] = k + 1
    return labels


def turned(labels: np.ndarray, degrees: float) -> np.ndarray:
    matrix = cv2.getRotationMatrix2D((SIZE / 2, SIZE / 2), degrees, 1)
    return cv2.warpAffine(labels.astype(np.float32), matrix, labels.shape, flags=cv2.INTER_NEAREST).astype(np.int32)


def measured(pairs: Pairs, name: str) -> dict[tuple[int, int], float]:
    """One feature by pair of labels."""
    column = pairs.features[:, FEATURES.index(name)].tolist()
    named = zip(pairs.labels[pairs.one].tolist(), pairs.labels[pairs.other].tolist(), strict=True)
    return dict(zip(named, column, strict=True))


def of_two(labels: np.ndarray, name: str) -> float:
    """One feature of the regions 1 and 2."""
    return measured(pairs_of(region_map(labels)), name)[1, 2]


def touching_graph(found: RegionMap) -> networkx.Graph:
    graph = networkx.Graph()
    graph.add_nodes_from(region.label for region in found.regions)
    graph.add_edges_from((border.a, border.b) for border in found.borders if border.a)
    return graph


class PoseTest(SimpleTestCase):
    LIMB = np.array([[0, 0], [90, 10], [100, 40], [45, 52], [40, 110], [8, 100]])

    def limbs(self, change: int | None) -> np.ndarray:
        """A limb, and beside it the same as OpenCV flips it: 1 left to right, 0 top to bottom, None not at all."""
        mask = np.zeros((130, 120), np.uint8)
        cv2.fillPoly(mask, [np.int32(self.LIMB + np.array([8, 8]))], 1)
        labels = np.zeros((SIZE, SIZE), np.int32)
        labels[40:170, 30:150] = mask
        labels[200:330, 220:340] = 2 * (mask if change is None else cv2.flip(mask, change))
        return labels

    def test_what_is_moved_or_flipped_covers_the_other_as_it_was_flipped(self):
        for change, name in ((None, "same way up"), (1, "mirrored"), (0, "upside down")):
            labels = self.limbs(change)
            others = {"same way up", "mirrored", "upside down"} - {name}
            with self.subTest(name):
                self.assertGreater(of_two(labels, name), 0.97)
                self.assertLess(max(of_two(labels, other) for other in others), 0.85)

    def test_sizes_are_told_apart_one_by_one(self):
        """Two planks as thick, one twice as long."""
        labels = cells((50, 20, 80, 140), (200, 20, 230, 260))
        expected = {"thickness apart": 0, "length apart": np.log(2), "width apart": np.log(2), "height apart": 0}
        for name, value in expected.items():
            with self.subTest(name):
                self.assertAlmostEqual(of_two(labels, name), value, delta=0.04)

    def test_stretches_share_as_much_as_intervals_do(self):
        low, high = np.array([0.0, 0, 0, 5]), np.array([4.0, 4, 4, 5])
        others = np.array([2.0, 4, 1, 5]), np.array([6.0, 8, 3, 5])
        np.testing.assert_allclose(_overlap(low, high, *others), [2 / 6, 0, 2 / 4, 0])

    def test_boards_lie_side_by_side_and_pieces_of_a_stem_in_line_however_they_are_turned(self):
        boards = cells((100, 100, 300, 140), (100, 145, 300, 185))
        stem = cells((40, 180, 180, 210), (220, 180, 360, 210))
        for degrees in (0, 25, 70, 140):
            with self.subTest(degrees=degrees):
                self.assertGreater(of_two(turned(boards, degrees), "side by side, less"), 0.85)
                self.assertLess(of_two(turned(boards, degrees), "in line, more"), 0.15)
                self.assertGreater(of_two(turned(stem, degrees), "in line, less"), 0.75)
                self.assertLess(of_two(turned(stem, degrees), "side by side, more"), 0.15)
                self.assertGreater(of_two(turned(stem, degrees), "pointing at each other"), 0.7)
                self.assertLess(of_two(turned(boards, degrees), "pointing at each other"), 0.2)

    def test_arms_that_lean_apart_mirror_each_other_and_parallel_ones_do_not(self):
        arm = np.zeros((SIZE, SIZE), np.uint8)
        cv2.line(arm, (60, 260), (150, 120), 1, 24)
        leaning = arm + 2 * arm[:, ::-1].astype(np.int32)
        parallel = arm + 2 * np.roll(arm, 180, axis=1).astype(np.int32)
        self.assertGreater(of_two(leaning, "axes mirrored"), 0.7)
        self.assertLess(of_two(parallel, "axes mirrored"), 0.5)


class ContextTest(SimpleTestCase):
    def test_hops_and_figures_are_those_of_a_graph_of_what_touches(self):
        """NetworkX's shortest paths and connected components."""
        for seed in (3, 8):
            found = panel(seed, SCENES).region_map
            pairs, graph = pairs_of(found), touching_graph(found)
            lengths = dict(networkx.all_pairs_shortest_path_length(graph))
            hops, one_figure = measured(pairs, "hops"), measured(pairs, "one figure")
            for (a, b), value in hops.items():
                self.assertEqual(value, min(lengths[a].get(b, FAR), FAR))
                self.assertEqual(one_figure[a, b], float(b in lengths[a] and lengths[a][b] < FAR))

    def test_the_largest_step_on_the_way_of_smallest_steps_is_that_of_the_spanning_tree(self):
        """Single linkage and the minimum spanning tree say the same ([Gower1969]); the tree is NetworkX's."""
        found = panel(5, KINDS).region_map
        shapes, graph = shapes_of(found), touching_graph(found)
        unlike = shapes.unlike()
        place = {int(label): k for k, label in enumerate(shapes.labels)}
        for a, b in graph.edges:
            graph[a][b]["weight"] = unlike[place[a], place[b]]
        ways = dict(networkx.all_pairs_shortest_path(networkx.minimum_spanning_tree(graph)))
        steps = measured(pairs_of(found), "step over neighbours")
        self.assertTrue(any(value < UNLIKE for value in steps.values()))
        for (a, b), value in steps.items():
            way = ways[a].get(b)
            largest = max((graph[c][d]["weight"] for c, d in pairwise(way)), default=0) if way else UNLIKE
            self.assertAlmostEqual(value, largest, places=4)

    def test_company_is_who_is_joined_by_steps_no_larger(self):
        apart = np.full((5, 5), 9.0)
        for a, b, step in ((0, 1, 1.0), (1, 2, 2.0), (3, 4, 0.5)):
            apart[a, b] = apart[b, a] = step
        one, other = np.array([0, 0, 3, 0]), np.array([1, 2, 4, 4])
        step, company = _joined(apart, one, other)
        self.assertEqual(step.tolist(), [1, 2, 0.5, 9])
        np.testing.assert_allclose(np.exp(company), [2, 3, 2, 5])

    def test_who_lies_nearer_is_who_the_reference_library_finds_nearer(self):
        """scikit-learn's NearestNeighbors."""
        found = panel(11, KINDS).region_map
        shapes, pairs = shapes_of(found), pairs_of(found)
        order = NearestNeighbors(n_neighbors=len(shapes.labels)).fit(shapes.middle_mm).kneighbors(shapes.middle_mm)[1]
        rank = {(row[0], b): k for row in order.tolist() for k, b in enumerate(row)}
        fewer, more = (pairs.features[:, FEATURES.index(f"nearer ones, {name}")] for name in ("fewer", "more"))
        expected = np.array(
            [[rank[a, b], rank[b, a]] for a, b in zip(pairs.one.tolist(), pairs.other.tolist(), strict=True)]
        )
        agree = np.isclose(np.expm1(fewer), expected.min(axis=1), atol=1e-3)
        agree &= np.isclose(np.expm1(more), expected.max(axis=1), atol=1e-3)
        # Where two lie equally far away either may come first.
        self.assertGreater(agree.mean(), 0.99)

    def test_windows_in_one_wall_have_their_surroundings_in_common(self):
        wall = cells(
            (20, 20, 200, 380), (60, 60, 100, 100), (60, 200, 100, 240), (250, 20, 380, 380), (300, 60, 340, 100)
        )
        pairs = pairs_of(region_map(wall))
        common, hops = measured(pairs, "surroundings in common"), measured(pairs, "hops")
        self.assertAlmostEqual(common[2, 3], 1, places=5)
        self.assertEqual((common[2, 5], hops[2, 3], hops[2, 5]), (0, 2, FAR))
        self.assertLess(measured(pairs, "surroundings apart")[2, 5], measured(pairs, "surroundings apart")[1, 2])

    def test_how_far_from_the_paper_and_how_much_of_it_is_round_a_region(self):
        nested = cells((20, 20, 380, 380), (80, 80, 320, 320), (150, 150, 250, 250))
        pairs = pairs_of(region_map(nested))
        less, more = (measured(pairs, f"hops from paper, {name}") for name in ("less", "more"))
        self.assertEqual((less[1, 3], more[1, 3], more[1, 2]), (0, 2, 1))
        paper = measured(pairs, "paper around, more")
        self.assertGreater(paper[1, 2], 0.5)
        self.assertLess(paper[2, 3], 0.25)

    def test_a_pair_of_arms_is_as_far_from_the_middle_of_its_figure_and_nothing_of_another_is(self):
        labels = cells((100, 100, 200, 140), (120, 60, 180, 100), (120, 140, 180, 180), (300, 300, 350, 350))
        far = measured(pairs_of(region_map(labels)), "as far from the figure's middle")
        self.assertGreater(far[2, 3], 0.98)
        self.assertLess(far[1, 2], 0.1)
        self.assertEqual(far[2, 4], 0)


class BetweenTest(SimpleTestCase):
    def met(self, labels: np.ndarray, before: np.ndarray, unlike: np.ndarray | None = None) -> dict[str, float]:
        """What lies between the regions 1 and 2."""
        found = region_map(labels)
        shapes = shapes_of(found)
        looks = shapes.unlike() if unlike is None else unlike
        columns = between(found, shapes, looks, before, np.array([0]), np.array([1]))
        return {name: float(value[0]) for name, value in zip(BETWEEN, columns, strict=True)}

    def test_the_gap_is_the_way_between_the_nearest_points(self):
        labels = cells((100, 50, 200, 100), (100, 200, 200, 250))
        size = np.sqrt(50 * 100)
        self.assertAlmostEqual(self.met(labels, np.zeros((2, 2)))["gap"], np.log(101 / size + 0.05), delta=0.06)

    def test_what_lies_in_the_gap_is_paper_nearer_farther_or_something_else(self):
        """Paper for a fifth of the way, then three bands: before the first, behind the second, and of neither."""
        labels = cells(
            (100, 50, 200, 100), (100, 200, 200, 250), (50, 120, 350, 140), (50, 140, 300, 160), (50, 160, 330, 200)
        )  # fmt: skip
        before = np.zeros((5, 5))
        before[2, 0], before[1, 3] = 0.9, 0.8
        apart = np.full((5, 5), 2.0)
        met = self.met(labels, before, apart)
        self.assertAlmostEqual(met["paper between"], 0.2, delta=0.06)
        self.assertAlmostEqual(met["nearer between"], 0.2 * 0.9, delta=0.06)
        self.assertAlmostEqual(met["farther between"], 0.2 * 0.8, delta=0.06)
        self.assertAlmostEqual(met["others between"], 0.4, delta=0.06)
        self.assertEqual(met["like between"], 0)
        apart[4, 0] = 0.1
        met = self.met(labels, before, apart)
        self.assertAlmostEqual(met["like between"], 0.4, delta=0.06)
        self.assertLess(met["others between"], 0.06)


class ThirdTest(SimpleTestCase):
    def test_a_row_goes_on_beyond_two_and_has_one_midway(self):
        row = [(100, 20 + 90 * k, 150, 70 + 90 * k) for k in range(4)]
        pairs = pairs_of(region_map(cells(*row)))
        goes_on, midway = measured(pairs, "goes on"), measured(pairs, "midway")
        self.assertGreater(min(goes_on[1, 2], goes_on[2, 3], midway[1, 3], midway[2, 4]), 0.9)
        self.assertEqual((goes_on[1, 4], midway[1, 2]), (0, 0))
        # Of four the middle is between the second and the third, which is not quite midway.
        self.assertLess(midway[1, 4], 0.7)

    def test_a_row_does_not_go_on_with_what_looks_otherwise(self):
        labels = cells((100, 20, 150, 70), (100, 110, 150, 160), (120, 180, 130, 270))
        self.assertLess(measured(pairs_of(region_map(labels)), "goes on")[1, 2], 0.2)

    def flower(self, petals: int, reach: float) -> np.ndarray:
        """1 is the heart, the others lie round it at like distances, the last one farther out than the others."""
        labels = np.zeros((SIZE, SIZE), np.int32)
        for k in range(petals):
            way = 2 * np.pi * k / petals
            out = reach * (1.6 if k == petals - 1 else 1)
            middle = 200 + out * np.cos(way), 200 + out * np.sin(way)
            size = (int(out - 26), 22)
            cv2.ellipse(
                labels, (np.round(middle).astype(int).tolist(), (2 * size[0], 2 * size[1]), np.degrees(way)), k + 2, -1
            )
        cv2.circle(labels, (200, 200), 32, 1, -1)
        return labels

    def test_petals_lie_round_their_heart_as_far_away_and_point_at_it(self):
        pairs = pairs_of(region_map(self.flower(6, 80)))
        centred, equally, pointing = (
            measured(pairs, name) for name in ("round a centre", "as far from it", "pointing at it")
        )
        for pair in ((2, 3), (2, 5), (4, 6)):
            with self.subTest(pair=pair):
                self.assertGreater(equally[pair], 0.95)
                self.assertGreater(pointing[pair], 0.95)
                self.assertGreater(centred[pair], 1.4)
        # The one farther out still points at the heart.
        self.assertLess(equally[2, 7], 0.9)
        self.assertGreater(pointing[2, 7], 0.95)
        self.assertEqual(centred[1, 2], 0)

    def test_every_other_stripe_lies_across_one_that_borders_on_both(self):
        stripes = pairs_of(region_map(cells(*((50, 40 + 60 * k, 350, 100 + 60 * k) for k in range(5)))))
        straight, equal = measured(stripes, "straight across"), measured(stripes, "equal width across")
        self.assertGreater(min(straight[1, 3], straight[2, 4], straight[3, 5]), 0.5)
        self.assertAlmostEqual(equal[1, 3], 1, places=5)
        self.assertEqual((straight[1, 2], straight[1, 4], straight[1, 5]), (0, 0, 0))

    def test_what_two_are_towards_a_third_is_the_best_of_all_thirds(self):
        """Against plain loops."""
        towards = np.random.default_rng(4).random((9, 9)) * (np.random.default_rng(5).random((9, 9)) > 0.6)
        one, other = np.triu_indices(9, 1)
        expected = [max(towards[a, k] * towards[b, k] for k in range(9)) for a, b in zip(one, other, strict=True)]
        np.testing.assert_allclose(max_product_path(towards, towards.T)[one, other], expected)


class WholeTest(SimpleTestCase):
    def test_names_are_as_many_as_columns_and_none_is_told_twice(self):
        found = panel(2, KINDS).region_map
        self.assertEqual(pairs_of(found).features.shape[1], len(FEATURES))
        self.assertEqual(len(set(FEATURES)), len(FEATURES))
        self.assertTrue(np.isfinite(pairs_of(found).features).all())

    def test_a_drawing_turned_by_a_quarter_has_the_same_surroundings(self):
        found = panel(7, KINDS).region_map
        lying = RegionMap(
            np.ascontiguousarray(np.rot90(found.labels)), np.ascontiguousarray(np.rot90(found.ink)), found.dpi
        )
        standing, laid = pairs_of(found), pairs_of(lying)
        for name in ("hops", "one figure", "hops from paper, less", "surroundings in common", "paper around, more"):
            one, other = measured(standing, name), measured(laid, name)
            common = sorted(one.keys() & other.keys())
            self.assertGreater(len(common), 0.95 * len(one))
            with self.subTest(name):
                np.testing.assert_allclose([one[k] for k in common], [other[k] for k in common], atol=0.06)

    def test_of_one_region_and_of_none_there_are_no_pairs(self):
        for labels in (np.zeros((50, 50), np.int32), cells((10, 10, 40, 40), size=50)):
            self.assertEqual(pairs_of(region_map(labels)).features.shape, (0, len(FEATURES)))

    def test_what_is_asked_about_no_pairs_is_nothing(self):
        found = region_map(cells((10, 10, 40, 40), (60, 60, 90, 90)))
        shapes, nobody = shapes_of(found), np.zeros(0, np.intp)
        unlike = shapes.unlike()
        self.assertEqual(
            [len(one) for one in between(found, shapes, unlike, unlike, nobody, nobody)], [0] * len(BETWEEN)
        )
        columns = context(shapes, unlike, np.zeros((2, 2), np.float32), nobody, nobody)
        self.assertEqual([len(one) for one in columns], [0] * len(CONTEXT))
        self.assertEqual([len(one) for one in poses(shapes, nobody, nobody)], [0] * len(POSES))
