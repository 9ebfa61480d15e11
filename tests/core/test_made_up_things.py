"""Things made up by chance: what the drawing says of itself is what can be seen, and each is drawn the same again."""

from __future__ import annotations

from collections import Counter, defaultdict
from itertools import combinations, pairwise

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as made

from demo.lineart import DRAWINGS
from tools.networks import EXERCISES, FOLDS
from tools.things import (
    DPI,
    FOURTH_HAND,
    HELD_BACK,
    KINDS,
    ONCE_HELD_BACK,
    OTHER_HAND,
    SCENES,
    THIRD_HAND,
    Canvas,
    exercise,
    exercise_canvas,
    fold_of,
    made_up_kinds,
    panel,
)
from tools.things._canvas import Place, box, circle
from tools.things._figures import FIGURES, FLOWERS, bud, cottage, creature, parcel
from tools.things._made_up import OUTLINES, PATTERNS, STANDS, Body, _left_and_right, outline
from tools.things._of_the_demo import drawn_anew, of_the_demo

SIDE = 300
LEANING = {**THIRD_HAND, **FOURTH_HAND, **HELD_BACK}


def blank() -> Canvas:
    return Canvas(SIDE, SIDE, 2, np.random.default_rng(1))


class OverTest(SimpleTestCase):
    """Who was drawn over whom, as `Canvas.over` tells it."""

    def test_what_overlaps_lies_before_what_was_there_and_what_only_touches_does_not(self):
        large, small = circle(170, 150, 110), circle(60, 150, 12)
        tiles = [box(20 + 9 * place, 20, 29 + 9 * place, 40) for place in range(8)]
        for words, outlines, over in (
            ("two that overlap", [circle(120, 150, 60), circle(190, 150, 60)], {(2, 1)}),
            ("tiles that share an edge", tiles, set()),
            ("a small thing half hidden by a large one", [small, large], {(2, 1)}),
            ("a large thing that loses a sliver to a small one", [large, small], {(2, 1)}),
        ):
            canvas = blank()
            for points in outlines:
                canvas.shape(points, wobble=0.0)
            with self.subTest(words):
                self.assertEqual(canvas.over, over)

    def test_what_lies_on_one_body_side_by_side_is_in_one_plane(self):
        """Spots on a ball; a bird before the ball stands before them all."""
        canvas = blank()
        for points in (circle(150, 150, 100), circle(150, 60, 30), circle(110, 160, 20), circle(190, 160, 20)):
            canvas.shape(points, wobble=0.0)
        self.assertEqual(canvas.over, {(2, 1), (3, 1), (4, 1), (2, 3), (2, 4)})


class PatternTest(SimpleTestCase):
    @settings(max_examples=60, deadline=None)
    @given(pattern=made.sampled_from(sorted(set(PATTERNS), key=lambda one: one.__name__)), seed=made.integers(0, 9999))
    def test_a_pattern_stays_on_its_body(self, pattern, seed):
        canvas, chance = blank(), np.random.default_rng(seed)
        shape = outline(chance)
        place = Place(canvas, SIDE / 2, SIDE / 2, SIDE / 3)
        surface, sort = canvas.group(), canvas.group()
        mask = place.draw(shape, part=surface, alike=sort)
        pattern(Body(place, shape, mask, surface, sort), chance)
        self.assertTrue((canvas.owner[mask == 0] == 0).all())


class OutlineTest(SimpleTestCase):
    def test_every_outline_fits_its_place(self):
        for make in dict.fromkeys(OUTLINES):
            for seed in range(20):
                points = make(np.random.default_rng(seed))
                with self.subTest(outline=make.__name__, seed=seed):
                    self.assertLess(float(np.hypot(*points.T).max()), 2.5)
                    self.assertTrue(np.isfinite(points).all())

    def test_as_part_of_a_drawing_it_reaches_no_farther_than_the_corners_of_its_square(self):
        for seed in range(60):
            farthest = float(np.hypot(*outline(np.random.default_rng(seed), slim=0.6).T).max())
            with self.subTest(seed=seed):
                self.assertLessEqual(farthest, 2**0.5 + 1e-9)
                self.assertGreaterEqual(farthest, 0.6)


class StandTest(SimpleTestCase):
    def test_copies_left_and_right_are_mirrored(self):
        for seed in range(20):
            copies = _left_and_right(np.random.default_rng(seed))
            for right, left in zip(copies[::2], copies[1::2], strict=True):
                self.assertEqual((right.dx, right.dy, right.turn), (-left.dx, left.dy, -left.turn))
                self.assertNotEqual(right.mirrored, left.mirrored)

    def test_a_mirrored_place_draws_what_the_other_one_draws_in_a_mirror(self):
        shape = outline(np.random.default_rng(3))
        masks = []
        for mirrored in (False, True):
            place = Place(blank(), SIDE / 2 - 0.5, SIDE / 2 - 0.5, SIDE / 3)
            copy = place.within(-0.3 if mirrored else 0.3, 0.1, 0.5, turn=-0.4 if mirrored else 0.4, mirrored=mirrored)
            masks.append(copy.draw(shape))
        overlap = (masks[0] & masks[1][:, ::-1]).sum() / (masks[0] | masks[1][:, ::-1]).sum()
        self.assertGreater(float(overlap), 0.95)

    def test_each_way_to_stand_gives_some_copies(self):
        for stand in dict.fromkeys(STANDS):
            for seed in range(20):
                copies = stand(np.random.default_rng(seed))
                with self.subTest(stand=stand.__name__, seed=seed):
                    self.assertTrue(copies)
                    self.assertTrue(all(0.02 < one.size <= 1 for one in copies))


class PanelTest(SimpleTestCase):
    def test_a_drawing_of_a_number_is_the_same_each_time_and_others_are_other(self):
        drawings = [panel(seed, made_up_kinds(seed, 3)) for seed in (11, 11, 12)]
        same, again, other = (one.region_map.labels for one in drawings)
        np.testing.assert_array_equal(same, again)
        self.assertFalse(same.shape == other.shape and (same == other).all())
        self.assertEqual(drawings[0].over, drawings[1].over)

    def test_a_design_drawn_twice_is_alike_but_two_things(self):
        """As with every kind: two flowers on one panel are coloured apart."""
        canvas = Canvas(400, 800, 2, np.random.default_rng(2))
        kind = made_up_kinds(21, 1)["made up 0"]
        kind(canvas, 200, 200, 150)
        shapes = len(canvas.part)
        kind(canvas, 600, 200, 150)
        self.assertEqual(len(canvas.part) - shapes, shapes - 1)
        self.assertFalse(set(canvas.alike[1:shapes]) & set(canvas.alike[shapes:]))

    def test_nearer_and_farther_never_go_in_a_circle_between_two(self):
        for seed in range(4):
            over = exercise(seed).over
            self.assertFalse([pair for pair in over if pair[::-1] in over])

    def test_exercises_show_made_up_things_and_kinds_with_pieces_of_one_surface_among_them(self):
        drawn = [exercise(seed) for seed in range(6)]
        names = {name.split(" ")[0] for one in drawn for name in one.kinds}
        self.assertIn("made", names)
        self.assertTrue(names & set(KINDS))
        self.assertTrue(any(len(told) > len(set(told)) for one in drawn for told in [one.part[one.part > 0].tolist()]))


class FoldTest(SimpleTestCase):
    """A network that was fitted on the other folds never saw the kinds of this one."""

    def test_a_drawing_of_a_fold_shows_only_the_folds_own_kinds(self):
        folds, names = 4, [*OTHER_HAND]
        shown = {seed: set(exercise_canvas(seed, OTHER_HAND, folds).kinds) & set(names) for seed in range(24)}
        for seed, own in shown.items():
            self.assertLessEqual(own, set(names[seed % folds :: folds]), seed)
        self.assertGreater(len(set().union(*shown.values())), len(names) / 2)

    def test_the_folds_share_all_that_networks_are_fitted_on(self):
        self.assertEqual({fold_of(seed, FOLDS) for seed, _ in EXERCISES}, set(range(FOLDS)))
        self.assertEqual(len({seed for seed, _ in EXERCISES}), len(EXERCISES))


def by_part(canvas: Canvas) -> list[list[int]]:
    """Of every surface what its pieces are alike with."""
    sorts: dict[int, list[int]] = defaultdict(list)
    for part, sort in zip(canvas.part, canvas.alike, strict=True):
        sorts[part].append(sort)
    return [*sorts.values()]


class HandsTest(SimpleTestCase):
    """Each thing drawn by another hand, or a later one, says what its pieces are."""

    def drawn(self, name: str, seed: int = 3) -> Canvas:
        canvas = Canvas(500, 500, 2, np.random.default_rng(seed))
        {**OTHER_HAND, **LEANING}[name](canvas, 250, 240, 140)
        return canvas

    def test_no_two_sets_of_kinds_share_a_name(self):
        sets = [set(one) for one in (KINDS, OTHER_HAND, THIRD_HAND, FOURTH_HAND, SCENES, ONCE_HELD_BACK, HELD_BACK)]
        self.assertEqual(len(set().union(*sets)), sum(map(len, sets)))

    def test_surfaces_in_pieces_are_one_part_and_leave_the_paper_around_alone(self):
        for name, in_pieces in (
            ("airship", True), ("tent", True), ("pumpkin", True), ("plume", True), ("daisy", True), ("window", True),
            ("fir", False), ("grapes", False), ("rose", False), ("ladybird", False), ("shingles", False),
            ("cactus", True), ("bauble", True), ("snail", True), ("big_leaf", True), ("paper_kite", True), ("bee", True),
            ("mitten", True), ("castle", True), ("octopus", False), ("peacock", False), ("crown", False),
            ("beehive", True), ("striped_sock", True), ("pine_cone", False), ("wheat", False),
            ("bamboo", True), ("sheep", True), ("silk_bow", True), ("shells", True), ("penguins", False),
        ):  # fmt: skip
            canvas = self.drawn(name)
            parts = [part for part in canvas.part if part]
            with self.subTest(name):
                self.assertTrue((canvas.owner[[0, -1]] == 0).all())
                self.assertEqual(len(parts) > len(set(parts)), in_pieces)

    def test_stripes_of_one_surface_are_of_two_sorts_in_turn(self):
        for name in ("gnome", "paper_kite", "tabby", "striped_sock"):
            striped = max(by_part(self.drawn(name, seed=4)), key=len)
            with self.subTest(name):
                self.assertGreater(len(striped), 1)
                self.assertTrue(all(a != b for a, b in pairwise(striped)))

    def test_later_hands_draw_more_than_one_region_of_everything_and_lean_their_things(self):
        for name in LEANING:
            one, other = (self.drawn(name, seed) for seed in (1, 2))
            with self.subTest(name):
                self.assertGreater(len(set(one.owner[one.ink == 0].tolist())), 3)
                self.assertFalse(np.array_equal(one.ink, other.ink))
                self.assertTrue(np.array_equal(one.ink, self.drawn(name, 1).ink))


class SceneTest(SimpleTestCase):
    """Figures that stand together; each scene says what its pieces are."""

    def drawn(self, name: str, seed: int = 3, size: float = 190) -> Canvas:
        canvas = Canvas(560, 560, 2, np.random.default_rng(seed))
        SCENES[name](canvas, 280, 280, size)
        return canvas

    def test_every_scene_is_many_cells_large_and_fewer_small_within_its_place(self):
        for name in SCENES:
            large, small = (
                sum(len(self.drawn(name, seed, size).part) for seed in range(12)) / 12 for size in (190, 100)
            )
            with self.subTest(name):
                self.assertGreater(large, 8)
                self.assertLessEqual(small, large)
                self.assertTrue((self.drawn(name).owner[[0, -1]] == 0).all())

    def test_surfaces_in_pieces_are_one_part(self):
        for name, in_pieces in (
            ("boat", True), ("kite", True), ("egg", True), ("wreath", False), ("meadow", False), ("mandala", False),
        ):  # fmt: skip
            parts = [part for part in self.drawn(name, seed=5).part if part]
            with self.subTest(name):
                self.assertEqual(len(parts) > len(set(parts)), in_pieces)

    def test_the_two_sorts_of_a_kites_fields_lie_across_from_each_other(self):
        canvas = self.drawn("kite")
        fields = [sort for part, sort in zip(canvas.part, canvas.alike, strict=True) if canvas.part.count(part) == 4]
        self.assertEqual(fields[:2], fields[2:])
        self.assertNotEqual(fields[0], fields[1])

    def test_every_figure_is_the_same_in_a_mirror(self):
        """Its cells, what is alike and who stands before whom; the mirror is drawn from the same chance."""
        for figure in (*FIGURES, *FLOWERS):
            canvases = []
            for mirrored in (False, True):
                canvas = Canvas(401, 401, 2, np.random.default_rng(6))
                figure(Place(canvas, 200, 200, 120, mirrored=mirrored))
                canvases.append(canvas)
            one, other = canvases
            with self.subTest(figure.__name__):
                self.assertEqual((one.part, one.alike), (other.part, other.alike))
                # The hand's wobble is no mirror's, so edges may move by a few pixels.
                self.assertGreater((one.owner == other.owner[:, ::-1]).mean(), 0.97)
                self.assertGreater(len(one.part), 3)

    def test_what_a_figure_has_twice_is_alike_and_what_it_has_once_is_not(self):
        """Only a striped scarf is one surface in pieces."""
        for figure, shared, single, striped in (
            (creature, 3, 0, True), (cottage, 1, 3, False), (parcel, 1, 4, False), (bud, 2, 0, False),
        ):  # fmt: skip
            canvas = Canvas(401, 401, 2, np.random.default_rng(6))
            figure(Place(canvas, 200, 200, 120))
            counts = Counter(canvas.alike[1:])
            with self.subTest(figure.__name__):
                self.assertGreaterEqual(sum(count > 1 for count in counts.values()), shared)
                self.assertGreaterEqual(sum(count == 1 for count in counts.values()), single)
                self.assertEqual(len(set(canvas.part[1:])) < len(canvas.part) - 1, striped)

    def test_a_stroke_takes_nothing_from_what_it_is_drawn_on(self):
        canvas = blank()
        place = Place(canvas, SIDE / 2, SIDE / 2, SIDE / 3)
        place.draw(circle(0, 0, 1))
        owner, ink = canvas.owner.copy(), int(canvas.ink.sum())
        place.line(np.array([[-0.5, 0.0], [0.5, 0.1]]))
        place.line(circle(0.2, -0.5, 0.1, n=12), solid=True)
        np.testing.assert_array_equal(canvas.owner, owner)
        self.assertGreater(int(canvas.ink.sum()), ink + 100)
        self.assertEqual(int(canvas.finished().region_map.labels.max()), 1)


class OfTheDemoTest(SimpleTestCase):
    """The demo's drawings bear their own names and bodies; these are the truth here."""

    def test_the_envelope_is_one_surface_and_what_bears_one_name_is_alike(self):
        balloon = DRAWINGS["balloon"]()
        canvas = drawn_anew(balloon)
        shapes = [shape for shape in balloon.shapes if shape.closed and not shape.solid]
        part, alike = canvas.part[1:], canvas.alike[1:]
        self.assertEqual(len(shapes), len(part))
        for told, same in (
            (part, lambda one, other: bool(one.body) and one.body == other.body),
            (alike, lambda one, other: one.name.rstrip("0123456789. ") == other.name.rstrip("0123456789. ")),
        ):
            for (one, first), (other, second) in combinations(zip(shapes, told, strict=True), 2):
                self.assertEqual(first == second, same(one, other), (one.name, other.name))
        self.assertGreater(len(part), len(set(part)))
        self.assertGreater(len(alike), len(set(alike)))

    def test_it_is_drawn_as_the_demo_draws_it(self):
        pangolin = DRAWINGS["pangolin"]()
        canvas = drawn_anew(pangolin)
        ink, _ = pangolin.rasterise(DPI, whole=True)
        self.assertGreater((canvas.ink.astype(bool) == (ink > 127)).mean(), 0.98)
        inked = (canvas.ink > 0) & (ink > 127)
        self.assertGreater(inked.sum(), 0.75 * (ink > 127).sum())

    def test_all_numbers_are_drawings_and_neighbours_differ(self):
        drawn = [of_the_demo(number) for number in range(2, 6)]
        for one, other in pairwise(drawn):
            self.assertGreater(int(one.region_map.labels.max()), 10)
            self.assertNotEqual(one.over, other.over)
