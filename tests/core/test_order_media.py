"""Where regions touch: what is laid with water first, then marker and pad, pencil last. Common practice.

The rules are written out here once more, apart from the planner's, and from its own checker's.
"""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import replace

import numpy as np
from django.test import SimpleTestCase

from paleta.checks import ground_advice
from paleta.ground import Fade
from paleta.order import (
    DEFAULT_SCHOOL,
    SCHOOLS,
    Job,
    Plan,
    Work,
    check_plan,
    make_plan,
    plan_region_by_region,
)
from paleta.recipe import RegionSetting, ground_rank, work_of
from paleta.run import choices, replay
from tests.builders import by_pen, coats, grey_pens, make_sheet, region_map

TURNS = {"watercolour": 0, "soluble": 0, "marker": 1, "inkpad": 1, "pencil": 2}
WAYS = {medium: SCHOOLS[DEFAULT_SCHOOL[medium]] for medium in TURNS}
MEDIA = ("watercolour", "soluble", "marker", "pencil")


def job(region: int, medium: str, coat: int = 0, rank: int = 0, dark: bool = False) -> Job:
    ramp = (f"{medium}-{region % 3}-pale", f"{medium}-dark" if dark else f"{medium}-{region % 3}")
    return Job(
        region=region, name=f"R{region}", area_mm2=30 + 7 * region, ramp=ramp, medium=medium, coat=coat, rank=rank
    )


def by_chance(seed: int) -> Work:
    """Up to nine regions of one or two coats, some with a dark swatch, in two ranks."""
    chance = random.Random(seed)
    jobs: list[Job] = []
    for region in range(1, chance.randint(3, 9)):
        rank, dark = chance.choice((0, 0, 1)), chance.random() < 0.3
        media = [chance.choice(MEDIA)] + (["pencil"] if chance.random() < 0.3 else [])
        jobs += [job(region, medium, coat, rank, dark and not coat) for coat, medium in enumerate(dict.fromkeys(media))]
    count = jobs[-1].region
    pairs = [(one, other) for one in range(1, count) for other in range(one + 1, count + 1) if chance.random() < 0.4]
    return Work(
        jobs=tuple(jobs),
        touching=Work.pairs(pairs),
        creepers=frozenset((medium, f"{medium}-dark") for medium in ("watercolour", "soluble", "marker")),
    )


def out_of_turn(work: Work, plan: Plan) -> Iterator[str]:
    """In words, what a practitioner would take the brush from the planner's hand for."""
    ranks = {(one.region, one.coat): one.rank for one in work.jobs}
    touching = {tuple(sorted(pair)) for pair in work.touching}
    chains: dict[int, list[str]] = {}
    for one in plan.passes:
        chains.setdefault(one.region, []).append(one.medium)
    straight = {region for region, media in chains.items() if sorted(media, key=TURNS.__getitem__) == media}
    dark = {one.region: one.medium for one in plan.passes if (one.medium, one.swatch) in work.creepers}
    for place, after in enumerate(plan.passes):
        for before in plan.passes[:place]:
            pair = tuple(sorted((before.region, after.region)))
            later_rank = ranks[after.region, after.coat] > ranks[before.region, before.coat]
            if before.region == after.region or pair not in touching or later_rank:
                continue
            if {before.region, after.region} <= straight and TURNS[after.medium] < TURNS[before.medium]:
                yield f"{before.medium} on {before.name} before {after.medium} on {after.name}"
            creeps = (before.medium, before.swatch) in work.creepers
            alike = TURNS[after.medium] == TURNS[before.medium]
            if creeps and alike and TURNS.get(dark.get(after.region, ""), -1) != TURNS[before.medium]:
                yield f"dark {before.medium} on {before.name} before pale {after.medium} on {after.name}"


class TurnsTest(SimpleTestCase):
    def test_no_plan_by_chance_lays_media_out_of_turn(self):
        several = 0
        for seed in range(60):
            work = by_chance(seed)
            plan = make_plan(work, WAYS)
            several += len({TURNS[one.medium] for one in plan.passes}) > 1
            with self.subTest(seed=seed):
                self.assertEqual(list(out_of_turn(work, plan)), [])
                self.assertEqual(check_plan(work, plan), [])
                self.assertEqual(list(out_of_turn(work, plan_region_by_region(work, WAYS))), [])
        self.assertGreater(several, 50, "works of one turn would show nothing")

    def test_pencil_waits_for_the_wash_beside_it_though_its_pen_is_in_the_hand(self):
        pair = ((1, 2), (2, 3))
        work = Work(jobs=(job(1, "pencil"), job(2, "watercolour"), job(3, "pencil")), touching=Work.pairs(pair))
        plan = make_plan(work, WAYS)
        self.assertEqual([one.medium for one in plan.passes][:2], ["watercolour"] * 2)
        apart = make_plan(Work(jobs=work.jobs), WAYS)
        self.assertLessEqual(apart.pen_changes, plan.pen_changes)

    def test_a_dark_marker_comes_after_a_pale_wash_and_a_dark_wash_after_a_pale_soluble_pen(self):
        for dark, pale in (("marker", "watercolour"), ("watercolour", "soluble"), ("soluble", "watercolour")):
            with self.subTest(dark=dark, pale=pale):
                work = Work(
                    jobs=(job(1, dark, dark=True), job(2, pale)),
                    touching=Work.pairs([(1, 2)]),
                    creepers=frozenset({(dark, f"{dark}-dark")}),
                )
                passes = make_plan(work, WAYS).passes
                creeping = next(one.number for one in passes if one.swatch == f"{dark}-dark")
                self.assertLess(max(one.number for one in passes if one.region == 2), creeping)

    def test_a_wash_over_marker_goes_its_own_way(self):
        """Each of the two would wait for the other."""
        jobs = (job(1, "marker"), job(1, "watercolour", 1), job(2, "marker"), job(2, "watercolour", 1))
        work = Work(jobs=jobs, touching=Work.pairs([(1, 2)]))
        self.assertEqual(check_plan(work, make_plan(work, WAYS)), [])

    def test_what_is_wished_first_is_first_whatever_its_medium(self):
        work = Work(jobs=(job(1, "pencil"), job(2, "watercolour", rank=1)), touching=Work.pairs([(1, 2)]))
        self.assertEqual(make_plan(work, WAYS).passes[0].medium, "pencil")

    def test_a_plan_that_breaks_it_is_told_by_name_and_along_does_not_offer_it(self):
        free = Work(jobs=(job(1, "pencil"), job(2, "watercolour", rank=1)), touching=Work.pairs([(1, 2)]))
        bad = make_plan(free, WAYS)
        work = Work(jobs=(job(1, "pencil"), job(2, "watercolour")), touching=free.touching)
        (fault,) = [one for one in check_plan(work, bad) if one.kind == "turn"]
        self.assertIn("laid in pencil before R2 beside it is finished in watercolour", fault.sentence)
        plan = make_plan(work, WAYS)
        offered = {plan.passes[one.number - 1].medium for one in choices(replay(plan, []), 0.0)}
        self.assertEqual(offered, {"watercolour"})


class GroundTest(SimpleTestCase):
    """A ground (1) round two things (2 and 3) that no mask covers. Common practice; docs/trade-notes.md, Grounds."""

    def plan(self, ground: str, figure: str = "marker", **order) -> list[bool]:
        """For every pass in turn whether it is one of the ground."""
        swatches, settings = [], {}
        for label, medium in ((1, ground), (2, figure), (3, figure)):
            pens = [
                replace(pen, code=f"{pen.code}-{medium}-{label % 2}") for pen in grey_pens(85, 60, 40, medium=medium)
            ]
            swatches += pens
            settings[label] = RegionSetting(
                name=f"R{label}",
                coats=coats(*(pen.code for pen in pens), medium=medium),
                fade=Fade() if label == 1 else None,
                role="background" if label == 1 else "",
            )
        labels = np.zeros((60, 90), int)
        labels[5:55, 5:85] = 1
        labels[15:45, 15:40], labels[15:45, 50:75] = 2, 3
        self.sheet = make_sheet(settings=settings, swatches=by_pen(swatches), **order)
        found = region_map(labels, dpi=60)
        work = work_of(self.sheet, found, dict.fromkeys(settings, (0.4, 0.3, 0.3)))
        schools = {medium: self.sheet.order.school_of(medium) for medium in self.sheet.media}
        plan = make_plan(work, schools)
        self.assertEqual(check_plan(work, plan), [])
        return [one.region == 1 for one in plan.passes]

    def test_it_comes_whole_and_before_the_figure(self):
        for medium in ("inkpad", "watercolour", "marker"):
            with self.subTest(medium=medium):
                passes = self.plan(medium)
                self.assertEqual(passes, sorted(passes, reverse=True))
        passes = self.plan("pencil", "pencil")
        self.assertEqual(passes, sorted(passes, reverse=True))

    def test_in_pencil_it_comes_after_a_figure_that_is_not(self):
        passes = self.plan("pencil")
        self.assertEqual(passes, sorted(passes))

    def test_a_mask_and_a_wish_say_otherwise(self):
        masked = self.plan("inkpad", masked=True)
        self.assertEqual(masked, sorted(masked))
        self.assertIsNone(ground_rank(self.sheet))
        self.plan("inkpad", wish="focal")
        self.assertIsNone(ground_rank(self.sheet))

    def test_what_ink_and_water_do_to_an_open_figure_is_said_before_the_first_pass(self):
        for medium, said in (("inkpad", "ink goes over its edges"), ("watercolour", "stop at its line")):
            with self.subTest(medium=medium):
                self.plan(medium)
                self.assertIn(said, " ".join(ground_advice(self.sheet, {1: 0.0})))
                self.plan(medium, masked=True)
                self.assertEqual(ground_advice(self.sheet, {1: 0.0}), [])
        self.plan("pencil")
        self.assertEqual(ground_advice(self.sheet, {1: 0.0}), [])
