"""The search for orders, against orders that are found by trying them all, and against rules checked one by one."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import pairwise
from unittest.mock import patch

import numpy as np
from django.test import SimpleTestCase

from paleta.errors import PlanImpossible
from paleta.order import (
    PACES,
    Job,
    Mask,
    Pace,
    School,
    SchoolStep,
    Work,
    _search,
    check_plan,
    expand,
    make_plan,
    plan_plainly,
    plan_region_by_region,
    school_named,
)
from paleta.order._work import Stroke

LATE = 1e9


def earliest(order: Sequence[Stroke], work: Work, pace: Pace) -> float | None:
    """When the last of `order` ends at the soonest, by relaxing all least and longest gaps until none is broken
    (Bellman and Ford); None if there is no such time. Knows nothing of how the planner does it."""
    near = work.neighbours()
    gaps: list[tuple[int, int, float]] = []  # start of the second >= start of the first + so much
    for k, (one, other) in enumerate(pairwise(order)):
        change = pace.change_s if one.swatch != other.swatch else 0.0
        gaps.append((k, k + 1, pace.laying_s(one.area_mm2) + change))
    last: dict[int, int] = {}
    for k, stroke in enumerate(order):
        for j in range(k):
            if order[j].region in near.get(stroke.region, ()):
                gaps.append((j, k, pace.laying_s(order[j].area_mm2) + pace.touch_dry_s))
        if stroke.region in last:
            j = last[stroke.region]
            laid = pace.laying_s(order[j].area_mm2)
            if stroke.join == "dry":
                gaps.append((j, k, laid + pace.coat_dry_s))
            if stroke.join == "wet":
                gaps.append((k, j, -(laid + pace.blend_s)))
        last[stroke.region] = k
    start = [0.0] * len(order)
    for _ in range(len(order) + 1):
        late = [(k, start[j] + gap) for j, k, gap in gaps if start[j] + gap > start[k] + 1e-9]
        if not late:
            return start[-1] + pace.laying_s(order[-1].area_mm2)
        for k, when in late:
            start[k] = max(start[k], when)
    return None


def interleaved(chains: Sequence[Sequence[Stroke]]) -> Iterator[list[Stroke]]:
    if not any(chains):
        yield []
    for k, chain in enumerate(chains):
        if chain:
            for rest in interleaved([*chains[:k], chain[1:], *chains[k + 1 :]]):
                yield [chain[0], *rest]


def allowed(order: Sequence[Stroke], work: Work) -> bool:
    """Ranks in turn, and dark creepers after their paler neighbours."""
    rank = {job.region: job.rank for job in work.jobs}
    if any(rank[a.region] > rank[b.region] for a, b in pairwise(order)):
        return False
    dark = {stroke.region for stroke in order if stroke.swatch in work.creepers}
    near = work.neighbours()
    for k, stroke in enumerate(order):
        if stroke.swatch in work.creepers:
            for later in order[k + 1 :]:
                beside = later.region in near.get(stroke.region, ()) and later.region not in dark
                if beside and rank[later.region] <= rank[stroke.region]:
                    return False
    return True


def small_work(chance: np.random.Generator, regions: int, shades: int) -> Work:
    pens = [f"p{k}" for k in range(int(chance.integers(2, 6)))]
    jobs = tuple(
        Job(k, f"R{k}", float(chance.choice([5, 40, 120, 300])),
            tuple(chance.choice(pens, min(len(pens), int(chance.integers(1, shades + 1))), replace=False).tolist()),
            rank=int(chance.random() < 0.15))
        for k in range(1, regions + 1)
    )  # fmt: skip
    touching = [(a, b) for a in range(1, regions + 1) for b in range(1, a) if chance.random() < 0.4]
    return Work(jobs, Work.pairs(touching), frozenset(pens[-1:]) if chance.random() < 0.3 else frozenset())


class BestOrderTest(SimpleTestCase):
    def check(self, seed: int, regions: int, shades: int) -> bool:
        """Whether a work of this seed is small enough to try all its orders; and if so, that the plan is the best."""
        chance = np.random.default_rng(seed)
        school = school_named(str(chance.choice(["M1", "M2", "M3", "W1", "W2", "P1", "D1"])))
        pace = PACES[school.medium]
        work = small_work(chance, regions, shades)
        chains = [chain for chain in (expand(job, school) for job in work.jobs) if chain]
        if sum(map(len, chains)) > 8:
            return False
        ends = (earliest(order, work, pace) for order in interleaved(chains) if allowed(order, work))
        best = min((end for end in ends if end is not None), default=LATE)
        plan = make_plan(work, school, pace)
        self.assertEqual(check_plan(work, plan), [], msg=f"seed {seed}")
        self.assertAlmostEqual(plan.duration_s, best, delta=0.11, msg=f"seed {seed}, {school.code}")
        self.assertLessEqual(plan.bound_s, best + 0.11, msg=f"seed {seed}")
        return True

    def test_small_works_are_as_short_as_the_best_of_all_orders_and_no_bound_lies_above_it(self):
        """Every order of up to eight strokes is tried."""
        tried = [self.check(seed, 3, 2) for seed in range(26)] + [self.check(seed, 2, 3) for seed in range(26, 40)]
        self.assertGreater(sum(tried), 32)


class PlanComparedTest(SimpleTestCase):
    def many(self, seed: int, regions: int) -> Work:
        """Regions in families of pens, as a picture has them."""
        chance = np.random.default_rng(seed)
        families = [tuple(f"{k}-{shade}" for shade in range(4)) for k in range(max(2, regions // 7))]
        jobs = tuple(
            Job(k, f"R{k}", float(chance.lognormal(3.6, 0.8)),
                families[chance.integers(len(families))][: int(chance.integers(1, 5))])
            for k in range(1, regions + 1)
        )  # fmt: skip
        near = {(int(a), int(b)) for a, b in chance.integers(1, regions + 1, (regions, 2)) if a != b}
        return Work(jobs, Work.pairs(near))

    def test_no_plan_is_longer_than_the_plain_way(self):
        for seed, code in enumerate(("M1", "M3", "W2", "P1", "P2", "D1")):
            school = school_named(code)
            work = self.many(seed, 30)
            ours, plain = (make(work, school, PACES[school.medium]) for make in (make_plan, plan_plainly))
            with self.subTest(school=code):
                self.assertEqual(check_plan(work, ours), [])
                self.assertEqual(check_plan(work, plain), [])
                self.assertLess(ours.duration_s, plain.duration_s)
                self.assertLessEqual(ours.bound_s, ours.duration_s)

    def test_pencils_are_taken_up_as_seldom_as_their_chains_allow(self):  # common practice: they do not dry
        work = Work(tuple(Job(k, f"R{k}", 50, ("a", "b", "c")) for k in range(1, 40)))
        plan = make_plan(work, school_named("P1"), PACES["pencil"])
        self.assertEqual(plan.pen_changes, 3)  # a, b, c, and a over everything
        self.assertEqual(plan.bound_s, plan.duration_s)

    def test_two_masks_lie_one_after_the_other_and_the_plan_ends_with_the_last(self):
        jobs = tuple(Job(k, f"R{k}", 60, ("a", "b"), rank=k // 2) for k in range(1, 6))
        masks = (Mask(frozenset({1}), frozenset({2, 3})), Mask(frozenset({1, 2, 3}), frozenset({4, 5})))
        work = Work(jobs, Work.pairs([(1, 2), (3, 4)]), masks=masks)
        plan = make_plan(work, school_named("M1"), PACES["marker"])
        self.assertEqual(check_plan(work, plan), [])
        self.assertEqual(
            [(one.kind, one.mask) for one in plan.handling], [("lay", 0), ("lift", 0), ("lay", 1), ("lift", 1)]
        )
        self.assertAlmostEqual(plan.duration_s, max(one.end_s for one in (*plan.passes, *plan.handling)), delta=0.11)
        first, lifted, second, last = plan.handling
        swapped = replace(plan, handling=(first, replace(second, start_s=lifted.start_s - 1), lifted, last))
        sentences = {fault.sentence for fault in check_plan(work, swapped)}
        self.assertIn("A mask is lifted from beneath another.", sentences)

    def test_a_mask_never_makes_the_plan_longer_than_the_habit(self):
        for seed in range(5):
            work = self.many(100 + seed, 10)
            jobs = tuple(replace(job, rank=int(job.region > 5)) for job in work.jobs)
            work = replace(work, jobs=jobs, masks=(Mask(frozenset(range(1, 6)), frozenset(range(6, 11))),))
            ours, habit = (
                make(work, school_named("M1"), PACES["marker"]) for make in (make_plan, plan_region_by_region)
            )
            with self.subTest(seed=seed):
                self.assertEqual(check_plan(work, ours), [])
                self.assertLessEqual(ours.duration_s, habit.duration_s)

    def test_a_dark_middle_that_creeps_is_planned_though_it_stands_between_paler_coats(self):
        steps = [("darkest", "own zone", "start"), ("middle", "own zone", "dry"), ("palest", "all over", "dry")]
        own = School("own-1", "Dark, middle, pale", "marker", "", tuple(SchoolStep(*step, "lay it") for step in steps))
        work = Work(
            (Job(1, "one", 40, ("pale", "ink", "mid")), Job(2, "other", 40, ("pale", "mid", "deep"))),
            Work.pairs([(1, 2)]), frozenset({"ink"}),
        )  # fmt: skip
        plan = make_plan(work, own, PACES["marker"])
        self.assertEqual(check_plan(work, plan), [])


class CheckedTest(SimpleTestCase):
    def test_every_wrong_number_of_a_plan_is_noticed(self):
        work = Work((Job(1, "R1", 40, ("a", "b")), Job(2, "R2", 40, ("b", "c"))))
        plan = make_plan(work, school_named("M2"), PACES["marker"])
        first, *rest = plan.passes
        for kind, changed in (
            ("total", replace(plan, duration_s=plan.duration_s - 5)),
            ("total", replace(plan, duration_s=float("nan"))),
            ("total", replace(plan, pen_changes=plan.pen_changes + 1)),
            ("total", replace(plan, bound_s=plan.duration_s + 5)),
            ("total", replace(plan, passes=(first, replace(rest[0], change=not rest[0].change), *rest[1:]))),
            ("time", replace(plan, passes=(replace(first, start_s=-1.0), *rest))),
            ("time", replace(plan, passes=(replace(first, end_s=float("nan")), *rest))),
            ("number", replace(plan, passes=(replace(first, number=7), *rest))),
            ("area", replace(plan, passes=(replace(first, area_mm2=first.area_mm2 / 2), *rest))),
        ):
            with self.subTest(kind=kind):
                self.assertIn(kind, {fault.kind for fault in check_plan(work, changed)})

    def test_shares_of_a_region_are_shares(self):
        job = Job(1, "R1", 40, ("a", "b"))
        for wrong in (
            replace(job, reserved=2), replace(job, reserved=-0.1), replace(job, shares=(-0.2, 0.5)),
            replace(job, shares=(0.9, 0.9)), replace(job, area_mm2=float("nan")), replace(job, area_mm2=float("inf")),
        ):  # fmt: skip
            with self.subTest(wrong=wrong), self.assertRaises(PlanImpossible):
                Work((wrong,))


class GatheredTest(SimpleTestCase):
    """Passes of one thing stand together where that costs no time."""

    def test_things_with_one_ramp_are_told_in_few_lines(self):
        for code in ("M1", "M2", "W2", "P1"):
            school = school_named(code)
            pace, ramp = PACES[school.medium], ("pale", "middle", "dark")
            jobs = tuple(
                Job(region, f"R{region}", 30.0 + 7 * (region % 4), ramp, thing=1 + region % 3)
                for region in range(1, 25)
            )
            work = Work(jobs, Work.pairs((region, region + 1) for region in range(1, 24, 4)))
            plan, things = make_plan(work, school, pace), {job.region: job.thing for job in jobs}
            told = [(one.pen, one.zone, one.join, one.how, things[one.region]) for one in plan.passes]
            lines = 1 + sum(one != other for one, other in pairwise(told))
            with self.subTest(code=code), patch.object(_search, "_gathered", lambda tables, best, *_, **__: best):
                before = make_plan(work, school, pace)
                self.assertEqual(check_plan(work, plan), [])
                # What is laid wet into wet must be gone back to before it dries; the rest stands together.
                self.assertLess(lines, 0.5 * len(plan.passes))
                self.assertLessEqual(plan.duration_s, 1.02 * before.duration_s)
                self.assertLessEqual(plan.pen_changes, before.pen_changes)
