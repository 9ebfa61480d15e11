"""Masks between the passes, and a pace learnt from one's own times."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import nnls

from paleta.errors import PlanImpossible, SchoolError
from paleta.order import PACES, SCHOOLS, Mask, Timed, Work, batch, check_batch, check_plan, make_plan, own_pace
from tests.builders import make_work

MARKER = PACES["marker"]


def masked_work(*, first: bool = False, figures: int = 2, behind: int = 2) -> Work:
    """Figures 1 to n, and then the background that touches the last figure."""
    ramps = [("a", "b", "c")[: 2 + (i % 2)] for i in range(figures + behind)]
    touching = tuple((figures, figures + 1 + i) for i in range(behind))
    work = make_work(*ramps, touching=touching)
    over = frozenset(range(1, figures + 1))
    during = frozenset(range(figures + 1, figures + behind + 1))
    rank = -1 if first else 1
    jobs = tuple(replace(job, rank=rank if job.region in during else 0) for job in work.jobs)
    return replace(work, jobs=jobs, masks=(Mask(over, during),))


class MaskTest(SimpleTestCase):
    def test_the_background_lies_between_laying_and_lifting_the_mask(self):  # docs/trade-notes.md, Masks
        for first in (False, True):
            work = masked_work(first=first)
            plan = make_plan(work, SCHOOLS["M1"], MARKER)
            lay, lift = plan.handling
            behind = [one for one in plan.passes if one.region > 2]
            figures = [one for one in plan.passes if one.region <= 2]
            with self.subTest(first=first):
                self.assertEqual([lay.kind, lift.kind], ["lay", "lift"])
                self.assertLessEqual(lay.end_s, behind[0].start_s)
                self.assertGreaterEqual(lift.start_s, behind[-1].end_s + MARKER.touch_dry_s - 0.2)
                if first:
                    self.assertLessEqual(lift.end_s, figures[0].start_s)
                else:
                    self.assertGreaterEqual(lay.start_s, figures[-1].end_s + MARKER.touch_dry_s - 0.2)
                    self.assertEqual(plan.duration_s, lift.end_s)
                self.assertEqual(check_plan(work, plan), [])

    @settings(max_examples=15)
    @given(
        st.integers(1, 4),
        st.integers(0, 3),
        st.booleans(),
        st.sampled_from([code for code in SCHOOLS if code[1] != "0"]),
    )
    def test_no_masked_plan_breaks_a_rule_or_its_bound(self, figures, behind, first, code):
        work = masked_work(first=first, figures=figures, behind=behind)
        plan = make_plan(work, SCHOOLS[code], PACES[SCHOOLS[code].medium])
        self.assertEqual(check_plan(work, plan), [])
        self.assertEqual(len([one for one in plan.handling if one.kind != "wipe"]), 2 if behind else 0)
        self.assertLessEqual(plan.bound_s, plan.duration_s + 0.2)

    def test_every_wrong_place_of_a_mask_is_named(self):
        work = masked_work()
        plan = make_plan(work, SCHOOLS["M1"], MARKER)
        lay, lift = plan.handling

        def kinds(*handling) -> set[str]:
            return {fault.kind for fault in check_plan(work, replace(plan, handling=handling))}

        self.assertEqual(kinds() - {"total"}, {"mask"})
        self.assertEqual(kinds(lay) - {"total"}, {"mask"})
        early = replace(lift, start_s=plan.passes[-1].start_s, end_s=plan.passes[-1].start_s + 5)
        self.assertIn("mask", kinds(lay, early))
        self.assertIn("hand", kinds(lay, early))
        late = next(one for one in plan.passes if one.region == 3)
        self.assertIn("mask", kinds(replace(lay, start_s=late.end_s, end_s=late.end_s), lift))
        self.assertIn("mask", kinds(replace(lay, start_s=0.0, end_s=1.0), lift))

    def test_what_cannot_be_masked_is_refused(self):
        with self.assertRaisesMessage(PlanImpossible, "cannot lie under the mask"):
            Mask(frozenset({1, 2}), frozenset({2}))
        work = masked_work()
        # The figure's turn comes between two parts of what lies behind it, which are coloured under one mask.
        turns = {1: 1, 2: 1, 3: 0, 4: 2}
        mixed = replace(work, jobs=tuple(replace(job, rank=turns[job.region]) for job in work.jobs))
        with self.assertRaisesMessage(PlanImpossible, "while the mask is on"):
            make_plan(mixed, SCHOOLS["M1"], MARKER)

    def test_every_card_of_a_batch_is_masked_at_a_time_of_its_own(self):
        work = masked_work(figures=4, behind=3)
        plan = make_plan(work, SCHOOLS["M1"], MARKER)
        made = batch(work, plan, None, 6)
        self.assertEqual(check_batch(work, plan, made), [])
        self.assertEqual([len(card) for card in made.handled_s], [len(plan.handling)] * 6)
        self.assertEqual(len(set(made.handled_s)), 6)
        lays, lifts = zip(*made.handled_s, strict=True)
        for card, starts_s in enumerate(made.starts_s):
            behind = [start for start, one in zip(starts_s, plan.passes, strict=True) if one.region > 4]
            with self.subTest(card=card):
                self.assertLess(lays[card], min(behind))
                self.assertGreater(lifts[card], max(behind))

    def test_a_batch_that_handles_a_mask_while_the_hand_is_busy_is_named(self):
        work = masked_work(figures=4, behind=3)
        plan = make_plan(work, SCHOOLS["M1"], MARKER)
        made = batch(work, plan, None, 3)
        lay, lift = made.handled_s[0]
        for wrong in ((made.starts_s[1][0], lift), (lay, made.starts_s[1][-1])):
            broken = replace(made, handled_s=(wrong, *made.handled_s[1:]))
            self.assertIn("hand", {fault.kind for fault in check_batch(work, plan, broken)})

    def test_a_plan_knows_what_it_was_made_for_and_one_from_elsewhere_must_be_told(self):
        work = make_work(("a", "b"))
        plan = make_plan(work, SCHOOLS["M2"], MARKER)
        self.assertEqual(check_plan(work, plan), [])
        self.assertIn("chain", {fault.kind for fault in check_plan(work, plan, "M1")})
        with self.assertRaisesMessage(SchoolError, "name it"):
            check_plan(work, replace(plan, ways=None))


def runs_of(factors: tuple[float, float, float], count: int, noise: float = 0.0) -> list[Timed]:
    """Runs of a hand whose start, area and change differ from common practice by `factors`."""
    chance = np.random.default_rng(4)
    runs = []
    for _ in range(count):
        passes = int(chance.integers(20, 200))
        area, changes, waits = passes * chance.uniform(20, 300), int(passes * chance.uniform(0.2, 0.9)), 120.0
        parts = (MARKER.start_s * passes, MARKER.per_mm2_s * area, MARKER.change_s * changes)
        took = waits + sum(factor * part for factor, part in zip(factors, parts, strict=True))
        runs.append(Timed(took * chance.normal(1, noise), passes, area, changes, waits))
    return runs


class OwnPaceTest(SimpleTestCase):
    def test_without_runs_it_is_common_practice(self):
        self.assertEqual(own_pace("pencil", []), PACES["pencil"])

    def test_one_run_sets_the_overall_pace_and_leaves_drying_alone(self):
        run = runs_of((1.5, 1.5, 1.5), 1)
        found = own_pace("marker", run)
        self.assertAlmostEqual(found.per_mm2_s / MARKER.per_mm2_s, 1.5, delta=0.01)
        self.assertAlmostEqual(found.change_s / MARKER.change_s, 1.5, delta=0.01)
        self.assertEqual((found.touch_dry_s, found.blend_s), (MARKER.touch_dry_s, MARKER.blend_s))

    def test_the_noted_time_is_what_the_same_plan_foretells_from_then_on(self):
        work = make_work(("a", "b", "c"), ("c", "d"), ("a",), area_mm2=150)
        plan = make_plan(work, SCHOOLS["M1"], MARKER)
        took = plan.duration_s * 1.4
        again = make_plan(work, SCHOOLS["M1"], own_pace("marker", [Timed.of(plan, took)]))
        self.assertLess(abs(again.duration_s / took - 1), 0.05)

    def test_many_runs_tell_the_parts_apart_as_plain_least_squares_does(self):
        # Reference: SciPy's non-negative least squares on the same runs, without the pull to common practice.
        factors = (2.0, 0.7, 1.5)
        runs = runs_of(factors, 60, noise=0.03)
        parts = np.array([[3 * run.passes, 0.12 * run.area_mm2, 6 * run.changes] for run in runs])
        hand = np.array([run.seconds - run.waits_s for run in runs])
        plain, _ = nnls(parts / hand[:, None], np.ones(len(runs)))
        found = own_pace("marker", runs)
        ours = (found.start_s / 3, found.per_mm2_s / 0.12, found.change_s / 6)
        for mine, reference, truth in zip(ours, plain, factors, strict=True):
            self.assertLess(abs(mine - reference), 0.25)
            self.assertLess(abs(mine - truth), 0.35)

    def test_a_forgotten_clock_does_not_ruin_the_pace(self):
        found = own_pace("marker", [replace(runs_of((1, 1, 1), 1)[0], seconds=500_000)])
        self.assertLessEqual(found.change_s, MARKER.blend_s)
        self.assertLessEqual(found.per_mm2_s, 6 * MARKER.per_mm2_s)
        with self.assertRaises(PlanImpossible):
            Timed(0, 1, 1, 1, 0)
