"""The equations of heights and the cast shadows, each against something plain that knows nothing of the compiled loops,
and what they are solved with against SciPy's direct solver."""

from __future__ import annotations

import numpy as np
from django.test import SimpleTestCase
from scipy.sparse.linalg import spsolve

from paleta.light import Body, Lamp, model_forms
from paleta.light._bodies import PAPER_DEPTH
from paleta.light._poisson import assemble, selling_weights, solve
from paleta.light._relief import body_map_of
from paleta.light._shadow import EDGE_BLUR_PX, cast_shadow
from paleta.light._tubes import straight_tubes
from tests.builders import disc, region_map

FORMS_TRIED = ("dome", "tube", "flat", "petal")


def patchwork(seed: int, size: int = 60) -> tuple[np.ndarray, list[Body]]:
    """A map of five rectangles over each other, and bodies of chance forms, axes and depths on it."""
    chance = np.random.default_rng(seed)
    labels = np.zeros((size, size), np.int32)
    for label in range(1, 6):
        top, left = chance.integers(0, size - 20, 2)
        labels[top : top + chance.integers(12, 40), left : left + chance.integers(12, 40)] = label
    known = [int(label) for label in np.unique(labels) if label]
    bodies = [
        Body((label,), form=FORMS_TRIED[chance.integers(4)], depth=int(chance.integers(0, 3)),
             axis_deg=float(chance.uniform(0, 180)))
        for label in known
    ]  # fmt: skip
    return labels, bodies


def seen_from(field: np.ndarray, down: int, across: int) -> np.ndarray:
    """Of each pixel what stands so many rows and columns from it; beyond the picture stands nothing."""
    far = max(abs(down), abs(across))
    rows, columns = field.shape
    return np.pad(field, far)[far + down : far + down + rows, far + across : far + across + columns]


def plainly(body_map: np.ndarray, bodies: list[Body], row: int, col: int) -> dict[tuple[int, int], float]:
    """The equation of one pixel whose body lies in one layer: what each pixel's height counts in it, its own among
    them. Written down from what the module says, one pixel at a time."""
    own = body_map[row, col]
    body, tube = bodies[own - 1], straight_tubes(body_map, bodies).get(int(own))
    flows = selling_weights(tube.axis_deg, tube.leak) if tube else [((0, 1), 1.0), ((1, 0), 1.0)]
    counted = {(row, col): 1e-6}
    for (down, across), weight in flows:
        for sign in (1, -1):
            there = (row + sign * down, col + sign * across)
            inside = all(0 <= place < size for place, size in zip(there, body_map.shape, strict=True))
            other = body_map[there] if inside else 0
            nearer = other > 0 and bodies[other - 1].depth > body.depth
            beyond = tube is not None and any(y * there[0] + x * there[1] > reach for y, x, reach in tube.ends)
            if other == own:
                counted[there] = -weight
            if other == own or not (nearer or beyond):
                counted[row, col] += weight
    return counted


class EquationsTest(SimpleTestCase):
    def test_every_row_is_what_one_pixel_written_down_by_hand_gives(self):
        looked_at = 0
        for seed in range(8):
            labels, bodies = patchwork(seed)
            body_map = body_map_of(region_map(labels), bodies)
            system = assemble(body_map, bodies)
            places = {int(number): place for place, number in np.ndenumerate(system.indices[0]) if number >= 0}
            matrix = system.matrix.tocsr()
            for number in range(0, len(places), 7):
                row, col = places[number]
                if (
                    any(index[row, col] >= 0 for index in system.indices[1:])
                    or system.layers[0][row, col] != (body_map[row, col])
                ):
                    continue
                # Rows of bodies that run on beneath others see pixels the map does not show.
                found = {
                    places[int(at)]: value
                    for at, value in zip(matrix[number].indices, matrix[number].data, strict=True)
                }
                if any(system.layers[0][at] != body_map[at] for at in found):
                    continue
                wanted = plainly(body_map, bodies, row, col)
                self.assertEqual(found.keys(), wanted.keys())
                for at, value in wanted.items():
                    self.assertAlmostEqual(found[at], value, places=12)
                looked_at += 1
        self.assertGreater(looked_at, 300)

    def test_heights_are_those_of_a_direct_solver(self):
        for seed in range(8):
            labels, bodies = patchwork(seed, 120)
            body_map = body_map_of(region_map(labels), bodies)
            system = assemble(body_map, bodies)
            if not len(system.right):
                continue
            exact = spsolve(system.matrix.tocsc(), system.right)
            found, wanted = solve(system, body_map), np.zeros(body_map.shape)
            for layer, index in zip(system.layers, system.indices, strict=True):
                own = (layer == body_map) & (layer > 0)
                wanted[own] = exact[index[own]]
            with self.subTest(seed=seed):
                np.testing.assert_allclose(np.sqrt(np.maximum(found, 0)), np.sqrt(np.maximum(wanted, 0)), atol=0.05)

    def test_what_stands_apart_is_linked_to_nothing_that_stands_apart(self):
        for seed in range(8):
            labels, bodies = patchwork(seed)
            system = assemble(body_map_of(region_map(labels), bodies), bodies)
            linked = system.matrix[system.apart][:, system.apart].tocoo()
            self.assertTrue((linked.row == linked.col).all())

    def test_a_tube_conducts_as_its_tensor_says(self):
        """The sum of w * e e^T over the offsets is the tensor ([Selling1874])."""
        for axis in range(0, 180, 7):
            angle = np.radians(axis)
            # Clockwise from the top edge, on a page whose x runs right and y down.
            along = np.array([np.sin(angle), -np.cos(angle)])
            total = sum(weight * np.outer((x, y), (x, y)) for (y, x), weight in selling_weights(axis, 0.06))
            np.testing.assert_allclose(total, np.eye(2) - (1 - 0.06) * np.outer(along, along), atol=1e-9)


class ShadowTest(SimpleTestCase):
    def test_a_shadow_lies_where_walking_towards_the_lamp_meets_something_nearer_and_high_enough(self):
        """Ball before a wall: pixel by pixel, in steps as long as the relief's pixels, up to 24 of them."""
        labels = np.where(disc(200, 40), 2, 1).astype(np.int32)
        relief = model_forms(region_map(labels), [Body((1,), form="flat"), Body((2,), form="dome", depth=1)])
        depth, height = relief.depth, relief.casting.height
        for azimuth in (0, 45, 110, 200, 300):
            lamp = Lamp(azimuth_deg=azimuth, elevation_deg=40)
            x, y, _ = np.array(lamp.direction) / np.hypot(*lamp.direction[:2])
            wanted = np.zeros(depth.shape, bool)
            for step in range(1, 25):
                far_height, far_depth = (
                    seen_from(field, round(step * y), round(step * x)) for field in (height, depth)
                )
                rises = far_height > step * np.tan(np.radians(40))
                wanted |= rises & (far_depth > depth) & (depth > PAPER_DEPTH)
            found = cast_shadow(relief, lamp)
            with self.subTest(azimuth=azimuth):
                self.assertGreater(wanted.sum(), 20)
                # What blurs the edge is two pixels wide.
                reach = int(np.ceil(2 * EDGE_BLUR_PX))
                padded = np.pad(wanted, reach)
                windows = np.lib.stride_tricks.sliding_window_view(padded, (2 * reach + 1,) * 2)
                inner, outer = windows.all(axis=(2, 3)), windows.any(axis=(2, 3))
                self.assertTrue((found[inner] > 0.5).all())
                self.assertTrue((found[~outer] < 0.5).all())
                self.assertGreater(outer.sum(), inner.sum())
