"""What stands in front of what: measured, guessed, and settled to depths."""

from __future__ import annotations

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as made

from demo.benches import match
from demo.lineart import DRAWINGS
from demo.scanner import scan
from paleta.checks import stamping_order
from paleta.errors import DepthCycle
from paleta.impression import Front, Level, PairScores, RegionMap, find_regions, guess_order, read
from paleta.impression.depth._border_classifier import BEFORE, BEHIND, LEVEL, likelihoods
from paleta.impression.depth._border_features import FEATURES, exchanged, touching_regions
from paleta.impression.depth._order import _helped
from paleta.impression.grouping._pairs import Pairs
from paleta.light import guess_bodies, put_before, settle_depths
from paleta.recipe import RegionSetting
from tests.builders import disc, make_sheet, region_map
from tools.things import FIFTH_HAND, HELD_BACK, ONCE_HELD_BACK, panel
from tools.things._measure import Fronts, fronts


def guess_fronts(region_map: RegionMap) -> list[Front]:
    return [guess for guess in guess_order(region_map) if isinstance(guess, Front)]


class GuessTest(SimpleTestCase):
    def test_a_through_line_is_the_outline_of_what_stands_in_front(self):
        # Two boxes side by side, and a disc before the line between them, where it ends on either side.
        labels = np.zeros((300, 300), np.int32)
        labels[40:260, 40:150], labels[40:260, 150:260] = 2, 3
        labels[disc(300, 60)] = 1
        fronts = {(front.nearer, front.farther) for front in guess_fronts(region_map(labels))}
        self.assertLessEqual({(1, 2), (1, 3)}, fronts)
        self.assertNotIn(1, {farther for _, farther in fronts})

    def test_the_lines_of_a_pattern_do_not_bring_what_lies_round_it_to_the_front(self):
        """A wall of tiles before a sky: all its joints end on its outline, beyond which the sky lies."""
        labels = np.zeros((400, 400), np.int32)
        labels[20:380, 20:380] = 1
        for number in range(9):
            row, col = divmod(number, 3)
            labels[100 + 70 * row : 170 + 70 * row, 100 + 70 * col : 170 + 70 * col] = number + 2
        found = region_map(labels)
        depths = {body.regions[0]: body.depth for body in guess_bodies(found)}
        for tile in (2, 3, 4, 5, 7, 8, 9, 10):
            with self.subTest(tile=tile):
                self.assertGreaterEqual(depths[tile], depths[1])

    def test_what_lies_in_a_hole_is_enclosed_also_together_with_others(self):
        labels = np.ones((300, 300), np.int32)
        labels[100:200, 100:150], labels[100:200, 150:200] = 2, 3
        labels[260:, :] = 4
        met = touching_regions(region_map(labels))
        enclosed = {
            (pair[turn], pair[1 - turn])
            for pair, row in zip(met.labels.tolist(), met.features, strict=True)
            for turn, side in enumerate(("one", "other"))
            if row[FEATURES.index(f"enclosed, {side}")]
        }
        self.assertEqual(enclosed, {(2, 1), (3, 1)})

    def test_lines_that_end_on_a_thing_are_counted_and_how_many_go_on_beyond_it(self):
        """A bar before two upright lines that part three fields: four stems, all of which go on."""
        labels = np.zeros((300, 400), np.int32)
        labels[20:280, 20:150], labels[20:280, 150:250], labels[20:280, 250:380] = 2, 3, 4
        labels[120:180, 10:390] = 1
        met = touching_regions(region_map(labels))
        row = met.features[next(at for at, pair in enumerate(met.labels.tolist()) if set(pair) == {1, 3})]
        side = "one" if met.labels.tolist()[0][0] == 1 else "other"
        self.assertGreater(row[FEATURES.index(f"stems, near, {side}")], 1)
        self.assertGreaterEqual(row[FEATURES.index(f"stems that go on, {side}")], 2)

    def test_seen_from_the_other_region_a_pair_is_the_same(self):
        met = touching_regions(find_regions(read(scan(DRAWINGS["balloon"]())[0])))
        there, back = likelihoods(met.features), likelihoods(exchanged(met.features))
        np.testing.assert_allclose(there, back[:, [LEVEL, BEHIND, BEFORE]], atol=1e-5)
        np.testing.assert_allclose(exchanged(exchanged(met.features)), met.features)

    def test_most_guesses_on_the_demo_agree_with_how_it_was_drawn(self):
        for name in ("balloon", "succulents"):
            drawing = DRAWINGS[name]()
            data, seen = scan(drawing)
            found = find_regions(read(data))
            true = {one.label: one.depth for one in match(found, drawing, seen, tilt_deg=0.6)}
            pairs = [
                (true[front.nearer], true[front.farther])
                for front in guess_fronts(found)
                if front.nearer in true and front.farther in true
            ]
            told = [near > far for near, far in pairs if near != far]
            with self.subTest(drawing=name):
                self.assertGreater(len(told), 30)
                self.assertGreater(np.mean(told), 0.75)

    def test_of_unseen_drawings_most_borders_are_right(self):
        """Eight drawings of kinds that nothing was fitted on; the whole table: python -m tools.things. Where lines that
        end on others were all that counted, 39 in a hundred were right and 25 wrong."""
        told = sum((fronts(panel(seed, HELD_BACK)) for seed in range(116_000, 116_008)), Fronts())
        self.assertGreater(told.right / (told.right + told.wrong + told.level), 0.8)
        self.assertLess(told.wrong, told.right / 5)

    def test_with_the_help_of_things_more_of_the_usual_sorts_is_right(self):
        """Four drawings by a hand that nothing was fitted on, told by each border alone and by what is alike."""
        alone = helped = Fronts()
        for seed in range(126_000, 126_004):
            drawn = panel(seed, FIFTH_HAND)
            helped += fronts(drawn)
            alone += fronts(drawn, guess_order(drawn.region_map))
        self.assertGreater(helped.right, alone.right)
        self.assertGreater(helped.right / (helped.right + helped.wrong + helped.level), 0.85)

    def test_what_is_alike_stands_as_its_like_does(self):
        """Three berries before three leaves, one of which is told to lie behind hers."""
        one, other = np.triu_indices(6, 1)
        like = np.where((one < 3) == (other < 3), 0.95, 0.0).astype(np.float32)
        pairs = Pairs(np.arange(1, 7), one, other, np.zeros((len(one), 0), np.float32))
        places = np.array([(0, 3), (1, 4), (2, 5)])
        told = np.array([(0.05, 0.9, 0.05), (0.05, 0.9, 0.05), (0.1, 0.4, 0.5)])
        helped = _helped(told, places, PairScores(pairs, {"alike": like}))
        np.testing.assert_allclose(helped.sum(axis=1), 1)
        self.assertGreater(helped[2, BEFORE], 0.5)
        turned = _helped(told[:, [LEVEL, BEHIND, BEFORE]], places[:, ::-1], PairScores(pairs, {"alike": like}))
        np.testing.assert_allclose(turned, helped[:, [LEVEL, BEHIND, BEFORE]])
        strangers = PairScores(pairs, {"alike": np.zeros_like(like)})
        np.testing.assert_allclose(_helped(told, places, strangers), told)

    def test_what_lies_side_by_side_mostly_stays_in_one_plane(self):
        """On other drawings of kinds that were fitted on: of those held back most pieces side by side do not."""
        told = sum((fronts(panel(seed, ONCE_HELD_BACK)) for seed in range(46_000, 46_008)), Fronts())
        self.assertGreater(told.one_plane + told.two_planes, 50)
        self.assertGreater(told.one_plane, told.two_planes)

    def test_what_fills_a_ring_alone_lies_in_its_plane(self):
        y, x = np.mgrid[:300, :300] - 150.0
        labels = np.zeros((300, 300), np.int32)
        away = np.hypot(x, y)
        labels[away < 120], labels[away < 70] = 1, 2
        self.assertEqual([(one.one, one.other) for one in guess_order(region_map(labels))], [(1, 2)])
        # Two that share the hole say nothing of the ring.
        labels[(away < 70) & (x > 0)] = 3
        pairs = {frozenset((one.nearer, one.farther)) for one in guess_fronts(region_map(labels))}
        self.assertNotIn(frozenset((1, 2)), pairs)

    def test_the_same_map_gives_the_same_order_and_one_region_or_none_has_none(self):
        found = panel(116_020, HELD_BACK).region_map
        self.assertEqual(guess_order(found), guess_order(found))
        alone = np.zeros((100, 100), np.int32)
        self.assertEqual(guess_order(region_map(alone)), [])
        alone[20:60, 20:60] = 1
        self.assertEqual(guess_order(region_map(alone)), [])


class DepthTest(SimpleTestCase):
    @given(
        made.lists(
            made.tuples(made.booleans(), made.integers(1, 7), made.integers(1, 7), made.integers(1, 5)), max_size=25
        )
    )
    def test_what_is_kept_holds_and_what_is_dropped_would_not(self, asked):
        """Any guesses at all: of those kept every nearer one is above, all that is level is as deep, and no front is
        dropped that could have been kept beside the fronts that are."""
        guessed = [
            Level(one, other, weight) if level else Front(one, other, weight)
            for level, one, other, weight in asked
            if one != other
        ]
        depths, dropped = settle_depths(range(1, 8), guessed)
        self.assertEqual(set(depths), set(range(1, 8)))
        self.assertEqual(min(depths.values()), 0)
        kept = list(guessed)
        for one in dropped:
            kept.remove(one)
        for one in kept:
            if isinstance(one, Front):
                self.assertGreater(depths[one.nearer], depths[one.farther])
            else:
                self.assertEqual(depths[one.one], depths[one.other])
        fronts = [one for one in kept if isinstance(one, Front)]
        for one in dropped:
            if isinstance(one, Front):
                self.assertTrue(self.leads(fronts, one.farther, one.nearer))

    @staticmethod
    def leads(fronts, start, goal) -> bool:
        """Whether `goal` stands behind `start`, by these fronts."""
        reached, todo = {start}, [start]
        while todo:
            at = todo.pop()
            for one in fronts:
                if one.nearer == at and one.farther not in reached:
                    reached.add(one.farther)
                    todo.append(one.farther)
        return goal in reached

    def test_the_order_in_which_guesses_come_changes_nothing(self):
        chance = np.random.default_rng(4)
        guessed = [
            Front(int(a), int(b), float(w)) if chance.random() < 0.6 else Level(int(a), int(b), float(w))
            for a, b, w in zip(*chance.integers(1, 12, (2, 40)), chance.permutation(40), strict=True)
            if a != b
        ]
        first = settle_depths(range(1, 12), guessed)[0]
        for _ in range(10):
            shuffled = [guessed[k] for k in chance.permutation(len(guessed))]
            self.assertEqual(settle_depths(range(1, 12), shuffled)[0], first)

    def test_what_is_level_gets_one_depth_unless_a_front_says_otherwise(self):
        guessed = [Front(1, 2, 0.9), Level(2, 3, 0.8), Level(1, 4, 0.7), Level(3, 1, 0.95)]
        depths, dropped = settle_depths([1, 2, 3, 4, 5], guessed)
        # The surest of the level ones comes first; then 2 cannot be level with 3 any more.
        self.assertEqual(depths, {1: 1, 2: 0, 3: 1, 4: 1, 5: 0})
        self.assertEqual(dropped, [Level(2, 3, 0.8)])

    def test_depths_put_every_nearer_thing_above_and_drop_the_weakest_of_a_circle(self):
        fronts = [Front(1, 2, 3), Front(2, 3, 2), Front(3, 1, 1)]
        depths, dropped = settle_depths([1, 2, 3, 4], fronts)
        self.assertEqual(depths, {1: 2, 2: 1, 3: 0, 4: 0})
        self.assertEqual(dropped, [Front(3, 1, 1)])

    def test_what_the_user_decided_wins_and_a_circle_of_it_is_named(self):
        depths, _ = settle_depths([1, 2], [Front(1, 2, 9)], [Front(2, 1)])
        self.assertGreater(depths[2], depths[1])
        with self.assertRaises(DepthCycle) as circle:
            settle_depths([1, 2, 3], [], [Front(1, 2), Front(2, 3), Front(3, 1)])
        self.assertEqual(set(circle.exception.labels), {1, 2, 3})

    def test_bringing_one_forward_pushes_on_what_stands_before_it(self):
        depths = put_before({1: 0, 2: 1, 3: 2, 4: 5}, 1, 3, [Front(2, 1)])
        self.assertEqual(depths, {1: 3, 2: 4, 3: 2, 4: 5})
        with self.assertRaises(DepthCycle):
            put_before({1: 0, 2: 1}, 1, 2, [Front(2, 1)])

    def test_stamping_goes_from_the_front_to_the_back(self):
        regions = {
            1: RegionSetting("Hill", depth=0),
            2: RegionSetting("Tree", depth=1),
            3: RegionSetting("Owl", depth=2),
        }
        steps = stamping_order(make_sheet("Wood", settings=regions), [(1, 2), (2, 3), (1, 3)])
        self.assertEqual([step.regions for step in steps], [(3,), (2,), (1,)])
        self.assertEqual(
            [step.what for step in steps],
            [
                "Stamp first: Owl. Mask it, cut just inside the line.",
                "Then, over the masks: Tree. Mask it too.",
                "Last, over all masks: Hill.",
            ],
        )
        self.assertEqual(stamping_order(make_sheet("Wood", settings={1: regions[1]}), []), [])

    def test_figures_are_stamped_and_not_their_cells(self):  # common practice
        """A hedgehog of four regions on a hill of two; its paw lies behind a leaf that lies behind its nose."""
        regions = {
            1: RegionSetting("Region 1", depth=0, thing="Hill"),
            2: RegionSetting("Region 2", depth=1, thing="Hill"),
            3: RegionSetting("Region 3", depth=5, thing="Hedgehog"),
            4: RegionSetting("Region 4", depth=6, thing="Hedgehog"),
            5: RegionSetting("Region 5", depth=2, thing="Hedgehog"),
            6: RegionSetting("Leaf", depth=4),
            7: RegionSetting("Moon", depth=0),
        }
        touching = [(1, 2), (1, 3), (3, 4), (2, 5), (5, 6), (3, 6), (1, 6)]
        steps = stamping_order(make_sheet("Wood", settings=regions), touching)
        self.assertEqual([step.regions for step in steps], [(3, 4, 5, 6), (1, 2, 7)])
        self.assertEqual(
            [step.what for step in steps],
            [
                "Stamp first: Hedgehog, Leaf. Mask Hedgehog, Leaf, cut just inside the line.",
                "Last, over all masks: Hill, Moon.",
            ],
        )

    def test_of_many_crests_one_behind_another_a_handful_of_rounds_is_told(self):
        regions = {label: RegionSetting(f"Crest {label}", depth=20 - label) for label in range(1, 13)}
        steps = stamping_order(make_sheet("Hills", settings=regions), [(one, one + 1) for one in range(1, 12)])
        self.assertEqual([len(step.regions) for step in steps], [1, 1, 1, 1, 8])
        self.assertEqual(steps[0].regions, (1,))
        self.assertTrue(steps[-1].what.startswith("Last, over all masks: Crest 5, "), steps[-1].what)
        self.assertNotIn("Mask ", steps[-1].what)

    def test_what_does_not_overlap_is_stamped_in_one_round(self):
        """Two trees on a hill at different depths, a sun apart, a bird of two regions before one tree, and a gap of
        bare paper between the trees."""
        regions = {
            1: RegionSetting("Hill", depth=0),
            2: RegionSetting("Tree", depth=1),
            3: RegionSetting("Bush", depth=4),
            4: RegionSetting("Sun", depth=3),
            5: RegionSetting("Wing", depth=5, body=1),
            6: RegionSetting("Bird", depth=5, body=1),
            7: RegionSetting("Gap", depth=0, left_as_paper=True),
        }
        touching = [(1, 2), (3, 1), (2, 6), (5, 6), (2, 7)]
        steps = stamping_order(make_sheet("Wood", settings=regions), touching)
        self.assertEqual([step.regions for step in steps], [(3, 5, 6), (2,), (1, 4)])
