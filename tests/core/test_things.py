"""Things: what belongs together, how that is measured, and what the sheet makes of it."""

from __future__ import annotations

import json
import pickle
from dataclasses import replace
from pathlib import Path

import cv2
import numpy as np
from django.test import SimpleTestCase
from sklearn.metrics import adjusted_rand_score
from sklearn.metrics.cluster import pair_confusion_matrix

from paleta.impression import Group, PairScores, Things, find_things, t_junctions, weigh
from paleta.impression.grouping._pair_classifier import FEWEST
from paleta.impression.grouping._pairs import Pairs, pairs_of
from paleta.impression.grouping._poses import overlay
from paleta.impression.grouping._shapes import shapes_of
from paleta.order import PACES, SCHOOLS, make_plan
from paleta.palette import share_out, suits
from paleta.recipe import (
    FORMAT_VERSION,
    RegionSetting,
    Sheet,
    build,
    dump,
    load,
    new_name,
    proposed,
    stints_of,
    to_newest,
)
from tests.builders import make_work, region_map
from tools.things import HELD_BACK, KINDS, ONCE_HELD_BACK, Canvas, agreement, measured, members, panel, plain_things
from tools.things._canvas import box, circle
from tools.things._measure import exact


def drawn(kind: str, seed: int = 1, size: float = 200):
    canvas = Canvas(560, 640, 3, np.random.default_rng(seed))
    {**KINDS, **ONCE_HELD_BACK}[kind](canvas, 320, 280, size)
    return canvas.finished()


class MeasureTest(SimpleTestCase):
    def test_pairs_are_counted_as_the_reference_library_counts_them(self):
        """scikit-learn: pair_confusion_matrix counts each pair twice; adjusted_rand_score by Hubert and Arabie (1985)."""
        chance = np.random.default_rng(5)
        for _ in range(40):
            n = int(chance.integers(2, 60))
            found, truth = chance.integers(0, 8, n), chance.integers(0, 6, n)
            counts = agreement(found, truth)
            (apart, missed), (wrong, right) = pair_confusion_matrix(found, truth).T.tolist()
            self.assertEqual((2 * counts.right, 2 * counts.wrong, 2 * counts.missed), (right, missed, wrong))
            both = 2.0 * (right * apart - wrong * missed)
            whole = (right + missed) * (missed + apart) + (right + wrong) * (wrong + apart)
            if whole:
                self.assertAlmostEqual(both / whole, adjusted_rand_score(truth, found), places=9)

    def test_decisions_are_the_groups_and_what_must_be_moved(self):
        truth = np.array([1, 1, 1, 2, 2, 3])
        self.assertEqual(agreement(truth, truth).decisions, 3)
        self.assertEqual(agreement(np.arange(6), truth).decisions, 6 + 3)
        self.assertEqual(agreement(np.zeros(6, int), truth).decisions, 1 + 2)

    def test_the_truth_itself_leaves_a_decision_for_each_of_its_groups(self):
        one = drawn("fence", 1)
        for name, truth in (("parts", one.part), ("alike", one.alike)):
            told = truth[truth > 0]
            with self.subTest(grouping=name):
                self.assertEqual(exact(one)[name].f1, 1)
                self.assertEqual(exact(one)[name].decisions, len(set(told.tolist())))
                self.assertEqual(exact(one)[name].regions, len(told))

    def test_a_group_is_a_set_that_says_how_sure_it_is(self):
        group = Group([3, 1, 3], 0.8)
        self.assertEqual((group, group.sure), (frozenset({1, 3}), 0.8))
        again = pickle.loads(pickle.dumps(group))
        self.assertEqual((again, again.sure), (group, 0.8))
        self.assertEqual(members([group], 5).tolist(), [0, 1, 2, 1, 4])


class TruthTest(SimpleTestCase):
    def test_what_lies_on_a_thing_stands_where_that_does(self):
        """A ball before a sky and a bird before the ball; then a spot on the ball, beside the bird."""
        canvas = Canvas(300, 300, 3, np.random.default_rng(1))
        sky, ball, bird, spot = box(10, 10, 290, 290), circle(150, 150, 100), circle(150, 60, 40), circle(150, 180, 30)
        for outline in (sky, ball, bird, spot):
            canvas.shape(outline, wobble=0.0)
        self.assertEqual(canvas.over, {(2, 1), (3, 2), (3, 1), (4, 2), (4, 1), (3, 4)})

    def test_a_drawing_that_is_cut_further_is_the_same_each_time_and_shows_more(self):
        kinds = {"balloon": KINDS["balloon"]}
        plain, once, again = (panel(5, kinds, cut=cut) for cut in (False, True, True))
        np.testing.assert_array_equal(once.region_map.labels, again.region_map.labels)
        self.assertFalse(np.array_equal(once.region_map.labels, plain.region_map.labels))
        self.assertGreater(once.owner.max(), plain.owner.max())


class LikenessTest(SimpleTestCase):
    """Shapes that are only turned, mirrored or larger are alike, as OpenCV's invariants say too."""

    LIMB = np.array([[0, 0], [70, 5], [80, 40], [45, 52], [40, 90], [8, 80]], float)

    def shapes(self, *changes):
        labels = np.zeros((420, 900), np.int32)
        masks = []
        for k, (matrix, scale) in enumerate(changes):
            points = (self.LIMB - self.LIMB.mean(0)) @ np.array(matrix) * scale + (120 + 260 * k, 200)
            mask = np.zeros(labels.shape, np.uint8)
            cv2.fillPoly(mask, [points.astype(np.int32)], 1)
            labels[mask > 0] = k + 1
            masks.append(mask)
        return shapes_of(region_map(labels)), masks

    def test_turned_mirrored_and_scaled_shapes_come_out_equal(self):
        for turn in (0.4, 1.3, 2.9):
            cos, sin = np.cos(turn), np.sin(turn)
            for mirror in (1, -1):
                matrix = [[cos, sin], [-sin * mirror, cos * mirror]]
                shapes, masks = self.shapes(([[1, 0], [0, 1]], 1.0), (matrix, 1.6))
                hu = cv2.matchShapes(masks[0], masks[1], cv2.CONTOURS_MATCH_I2, 0)
                with self.subTest(turn=turn, mirror=mirror):
                    self.assertLess(hu, 0.25)
                    np.testing.assert_allclose(shapes.measures[0, :5], shapes.measures[1, :5], atol=0.06)
                    np.testing.assert_allclose(shapes.harmonics[0], shapes.harmonics[1], atol=0.04)
                    self.assertGreater(overlay(shapes)[0, 1], 0.85)

    def test_other_shapes_do_not(self):
        labels = np.zeros((300, 700), np.int32)
        cv2.ellipse(labels, (120, 150), (60, 60), 0, 0, 360, 1, -1)
        labels[120:170, 300:640] = 2
        shapes = shapes_of(region_map(labels))
        self.assertLess(overlay(shapes)[0, 1], 0.6)
        self.assertGreater(abs(shapes.measures[0, 0] - shapes.measures[1, 0]), 0.5)


class JunctionTest(SimpleTestCase):
    def test_the_line_that_runs_on_belongs_to_what_stands_in_front(self):
        labels = np.zeros((300, 300), np.int32)
        labels[60:150, 40:260], labels[150:250, 40:150], labels[150:250, 150:260] = 1, 2, 3
        (junction,) = (one for one in t_junctions(region_map(labels)) if {one.left, one.right} == {2, 3})
        self.assertEqual(junction.through, 1)
        # The stem leads down the screen: what lies on its left is the region on the right.
        self.assertEqual((junction.left, junction.right), (3, 2))
        self.assertGreater(junction.dy, 0.95)

    def test_a_line_behind_a_bar_is_one_line(self):
        """Relatable edges, Kellman and Shipley 1991: collinear stems on both sides of a nearer thing."""
        labels = np.zeros((400, 400), np.int32)
        labels[40:360, 120:200], labels[40:360, 200:280], labels[170:230, 40:360] = 1, 2, 5
        labels[230:360, 120:200], labels[230:360, 200:280] = 3, 4
        pairs = pairs_of(region_map(labels))
        place = {int(label): k for k, label in enumerate(pairs.labels)}
        from paleta.impression.grouping._pairs import FEATURES

        runs_on = {
            (int(pairs.labels[a]), int(pairs.labels[b])): float(value)
            for a, b, value in zip(
                pairs.one, pairs.other, pairs.features[:, FEATURES.index("runs on behind")], strict=True
            )
        }
        self.assertEqual(len(place), 5)
        self.assertGreater(runs_on[1, 3], 0.5)
        self.assertGreater(runs_on[2, 4], 0.5)
        self.assertEqual(runs_on[1, 4], 0)


class FindThingsTest(SimpleTestCase):
    def test_the_petals_of_a_flower_are_alike(self):
        one = drawn("rosette", 3)
        score = measured(one, "Paleta")["alike"]
        self.assertGreater(score.f1, 0.8)

    def test_every_other_stripe_is_alike_and_all_are_one_surface(self):
        score = measured(drawn("stripes", 2), "Paleta")
        self.assertGreater(score["parts"].f1, 0.8)
        self.assertGreater(score["alike"].f1, 0.6)

    def test_a_picket_cut_by_rails_is_one_surface_in_pieces(self):
        self.assertGreater(measured(drawn("fence", 4), "Paleta")["parts"].f1, 0.7)

    def test_unseen_drawings_are_grouped_better_than_by_a_plain_rule(self):
        """Ten drawings of kinds that nothing was fitted on; the whole table: python -m tools.things."""
        ours = theirs = None
        for seed in range(115_000, 115_010):
            one = panel(seed, HELD_BACK)
            found, plain = measured(one, "Paleta"), measured(one, "plain")
            ours = found["alike"] if ours is None else ours + found["alike"]
            theirs = plain["alike"] if theirs is None else theirs + plain["alike"]
        self.assertGreater(ours.f1, theirs.f1)
        self.assertGreater(ours.precision, 0.75)
        self.assertLess(ours.decisions_per_region, theirs.decisions_per_region - 0.05)

    def test_the_same_map_gives_the_same_groups_and_no_region_is_in_two(self):
        one = drawn("house", 7).region_map
        things = find_things(one)
        self.assertEqual(things, find_things(one))
        for groups in (things.parts, things.alike):
            labels = [label for group in groups for label in group]
            self.assertEqual(len(labels), len(set(labels)))
            self.assertTrue(all(len(group) > 1 and 0 < group.sure <= 1 for group in groups))

    def test_stricter_groups_lie_inside_of_looser_ones(self):
        weighed = weigh(drawn("pot", 5).region_map)
        loose = weighed.things(0.4).alike
        for group in weighed.things(0.8).alike:
            self.assertTrue(any(group <= other for other in loose))
            self.assertGreaterEqual(group.sure, 0.8)

    def test_one_region_or_none_has_no_groups(self):
        labels = np.zeros((200, 200), np.int32)
        self.assertEqual(find_things(region_map(labels)), Things((), ()))
        labels[50:150, 50:150] = 1
        self.assertEqual(find_things(region_map(labels)), Things((), ()))

    def test_of_too_many_regions_none_are_grouped(self):
        side = 40  # 1,600 squares
        rows = np.arange(6 * side) // 6
        labels = np.zeros((6 * side + 20, 6 * side + 20), np.int32)
        labels[10:-10, 10:-10] = rows[:, None] * side + rows[None] + 1
        self.assertEqual(find_things(region_map(labels)), Things((), ()))

    def test_the_plain_rule_joins_what_looks_alike_side_by_side(self):
        self.assertGreater(measured(drawn("tiles", 2), "plain")["alike"].f1, 0.9)
        self.assertEqual(plain_things(drawn("tiles", 2).region_map).parts, ())

    def test_the_plain_rule_follows_lines_behind_what_stands_before_them(self):
        """Strips over and under each other, and pickets behind rails."""
        for kind, seed in (("weave", 2), ("fence", 1)):
            with self.subTest(kind=kind):
                self.assertGreater(measured(drawn(kind, seed), "plain")["parts"].f1, 0.9)

    def test_of_a_handful_of_regions_each_is_left_to_itself(self):
        """What the network says of them stays to be asked for; one more berry and there are groups."""
        for berries, grouped in ((FEWEST - 1, False), (FEWEST + 1, True)):
            canvas = Canvas(400, 900, 3, np.random.default_rng(1))
            for k in range(berries):
                canvas.shape(circle(90 + 120 * k, 200, 50), wobble=0.0)
            weighed = weigh(canvas.finished().region_map)
            with self.subTest(berries=berries):
                self.assertEqual(bool(weighed.things().alike), grouped)
                self.assertEqual(weighed.things().parts, ())
                self.assertEqual(len(weighed.like(1, 0.5)), berries - 1)

    def test_of_a_floor_of_a_hundred_tiles_all_are_one_thing(self):
        """More than each is looked at beside: the rest go by those that lie between."""
        labels = np.zeros((420, 420), np.int32)
        tiles = np.arange(380) // 38
        labels[20:400, 20:400] = tiles[:, None] * 10 + tiles[None] + 1
        weighed = weigh(region_map(labels))
        self.assertLess(len(weighed.pairs.one), 100 * 99 / 2)
        (floor,) = weighed.things().alike
        self.assertEqual(floor, set(range(1, 101)))
        self.assertEqual(len(weighed.like(1, 0.5)), 99)

    def test_a_surface_goes_on_from_piece_to_piece(self):
        """Five pieces in a row, each only likely one with the next."""
        one, other = np.triu_indices(5, 1)
        parts = np.where(other - one == 1, 0.9, 0.2).astype(np.float32)
        alone = np.zeros(len(one), np.float32)
        nothing = np.zeros((len(one), 0), np.float32)
        weighed = PairScores(Pairs(np.arange(1, 6), one, other, nothing), {"parts": parts, "alike": alone})
        in_pairs = PairScores(weighed.pairs, {"parts": alone, "alike": parts})
        self.assertEqual(weighed.things().parts, ({1, 2, 3, 4, 5},))
        # What is alike does not: a leaf like a petal and like a berry makes no berry of the petal.
        self.assertNotIn({1, 2, 3, 4, 5}, in_pairs.things().alike)


def settings(count: int, **more) -> dict[int, RegionSetting]:
    return {label: RegionSetting(name=f"Region {label}", **more) for label in range(1, count + 1)}


class SheetThingsTest(SimpleTestCase):
    def sheet(self, **things: str) -> Sheet:
        own = settings(5)
        for label, thing in things.items():
            own[int(label[1:])] = replace(own[int(label[1:])], thing=thing)
        return Sheet.titled("Card").with_part("regions", settings=own)

    def test_what_is_sure_is_done_and_what_is_not_is_asked(self):
        one = drawn("rosette", 3).region_map
        own = {region.label: RegionSetting(name=f"Region {region.label}", form="petal") for region in one.regions}
        found, asked = proposed(weigh(one), own)
        things = {setting.thing for setting in found.values()} - {""}
        self.assertTrue(things)
        self.assertTrue(all(thing.startswith("Petals") for thing in things))
        for group in asked:
            self.assertGreater(len({found[label].thing or label for label in group}), 1)

    def test_what_has_a_thing_already_keeps_it(self):
        one = drawn("rosette", 3).region_map
        own = {region.label: RegionSetting(name=f"R {region.label}", thing="Mine") for region in one.regions}
        found, _ = proposed(weigh(one), own)
        self.assertEqual({setting.thing for setting in found.values()}, {"Mine"})

    def test_names_are_new(self):
        own = settings(3, form="leaf")
        self.assertEqual(new_name(own, [1, 2]), "Leaves 1")
        own[1] = replace(own[1], thing="Leaves 1")
        self.assertEqual(new_name(own, [2, 3]), "Leaves 2")

    def test_questions_are_those_that_still_stand(self):
        sheet = self.sheet(r1="A", r2="A", r3="B")
        sheet = sheet.with_part("regions", unsure=((1, 3), (1, 2), (4, 9), (4, 5)))
        self.assertEqual(sheet.regions.questions(), [(1, 2, 3), (4, 5)])

    def test_mates_and_leads_follow_the_thing_and_else_the_body(self):
        sheet = self.sheet(r2="A", r4="A")
        own = {
            **sheet.regions.settings,
            3: replace(sheet.regions.settings[3], body=3),
            5: replace(sheet.regions.settings[5], body=3),
        }
        sheet = sheet.with_part("regions", settings=own)
        self.assertEqual(sheet.regions.thing_mates(4), (2, 4))
        self.assertEqual(sheet.regions.thing_leads(), {1: 1, 2: 2, 3: 3, 4: 2, 5: 3})

    def test_a_change_of_thing_is_told(self):
        before, after = self.sheet(r1="A", r2="A"), self.sheet(r1="A")
        lines = after.regions.changes_from(before.regions)
        self.assertIn("Region 2 stands for itself now.", lines)


class StintTest(SimpleTestCase):
    def plan_and_sheet(self, *things: str):
        work = make_work(*[("a", "b")] * len(things))
        names = {job.region: job.name for job in work.jobs}
        own = {
            label: RegionSetting(name=names[label], thing=thing)
            for label, thing in zip(sorted(names), things, strict=True)
        }
        plan = make_plan(work, SCHOOLS["P1"], PACES["pencil"])
        return plan, Sheet.titled("x").with_part("regions", settings=own)

    def test_every_pass_is_in_one_stint_in_its_order(self):
        plan, sheet = self.plan_and_sheet("A", "A", "B", "B", "")
        stints = stints_of(sheet, plan)
        numbers = [n for stint in stints for n in range(stint.first_pass, stint.last_pass + 1)]
        self.assertEqual(numbers, [one.number for one in plan.passes])
        self.assertLess(len(stints), len(plan.passes))

    def test_within_a_stint_nothing_changes_but_the_region(self):
        plan, sheet = self.plan_and_sheet("A", "A", "B", "A", "")
        for stint in stints_of(sheet, plan):
            run = plan.passes[stint.first_pass - 1 : stint.last_pass]
            self.assertEqual(len({(one.swatch, one.zone, one.join, one.how) for one in run}), 1)
            self.assertEqual(stint.count, len({one.region for one in run}))
            self.assertTrue(all(one.wait_s == 0 for one in run[1:]))
            if stint.count > 1:
                self.assertEqual({sheet.regions.settings[one.region].thing for one in run}, {stint.name})
            else:
                self.assertEqual(stint.name, run[0].name)

    def test_without_things_every_region_is_a_line_of_its_own(self):
        plan, sheet = self.plan_and_sheet("", "", "")
        self.assertTrue(all(stint.count == 1 for stint in stints_of(sheet, plan)))


class FormatTwoTest(SimpleTestCase):
    OLD = (Path(__file__).parent / "data" / "recipe-format-2.json").read_bytes()

    def test_bodies_of_an_older_file_become_things(self):
        recipe = load(self.OLD)
        bodies = {one.body for one in recipe.sheet.regions.settings.values()} - {0}
        self.assertTrue(bodies)
        for one in recipe.sheet.regions.settings.values():
            self.assertEqual(one.thing, f"Body {one.body}" if one.body else "")
        self.assertEqual(load(dump(recipe)), recipe)
        self.assertEqual(json.loads(dump(recipe))["format_version"], FORMAT_VERSION)

    def test_its_plan_is_still_accepted(self):
        recipe = build(to_newest(json.loads(self.OLD)))
        self.assertTrue(recipe.plan.passes)


class SuitsTest(SimpleTestCase):
    GREEN, BLUE, BROWN, GREY = (50.0, -35.0, 30.0), (50.0, 0.0, -40.0), (45.0, 20.0, 35.0), (60.0, 0.0, 1.0)

    def test_no_blue_trees_and_no_brown_skies(self):  # common practice
        self.assertTrue(suits(["leaf"], self.GREEN))
        self.assertFalse(suits(["leaf"], self.BLUE))
        self.assertFalse(suits(["sky"], self.BROWN))
        self.assertTrue(suits(["sky"], self.GREY))
        self.assertFalse(suits(["leaf"], self.GREY))
        self.assertTrue(suits([], self.BLUE))
        self.assertTrue(suits(["stone"], self.BLUE))

    def test_a_palette_gives_what_suits_where_it_can(self):
        palette = (self.BLUE, self.BROWN, self.GREEN)
        chance = np.random.default_rng(1)
        for _ in range(30):
            areas = chance.uniform(1, 50, 8).tolist()
            tags = [["leaf"], ["sky"], [], ["leaf"], [], ["wood"], [], ["sky"]]
            touching = {
                (a, b): float(chance.uniform(1, 9)) for a in range(8) for b in range(a) if chance.random() < 0.5
            }
            chosen = share_out(areas, touching, palette, tags)
            for words, place in zip(tags, chosen, strict=True):
                self.assertTrue(suits(words, palette[place]), (words, place))

    def test_where_nothing_suits_something_is_given_all_the_same(self):
        self.assertEqual(share_out([1.0], {}, (self.BLUE,), [["leaf"]]), [0])
