"""Colouring along: choices that break no rule, how wet the paper is, and the pace that pass times teach."""

from __future__ import annotations

import random
from dataclasses import replace

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, reject, settings
from hypothesis import strategies as st
from scipy.optimize import nnls

from paleta.errors import PlanImpossible
from paleta.order import PACES, SCHOOLS, Handling, Pace, Pass, Plan, TimedPasses, check_plan, learn, make_plan
from paleta.recipe import plan_from_plain, plan_to_plain
from paleta.run import (
    Event,
    ExtraCoat,
    Handled,
    PassesLaid,
    RunState,
    Started,
    choices,
    plan_key,
    replay,
    times_of,
    ways_of,
    wetness_after,
)
from tests.builders import make_work
from tests.core.test_masks_and_pace import masked_work
from tests.core.test_run import PLAN, START_S, laid, made

MARKER = PACES["marker"]


class Walk:
    """A hand that takes any of the choices, in its own time."""

    def __init__(self, test: SimpleTestCase, plan: Plan, chance: random.Random, cards: int = 1) -> None:
        self.test, self.plan, self.chance = test, plan, chance
        self.paces = ways_of(plan).paces
        self.key = plan_key(plan)
        self.log: list[Event] = [made(Started, key=self.key, cards=cards)]
        self.steps: list[tuple[int, str, int, float, float]] = []
        self.now = START_S

    def go(self) -> RunState:
        pen = None
        while not (state := replay(self.plan, self.log)).done:
            while not (offered := choices(state, self.now)):
                self.now += 5
                self.test.assertLess(self.now, START_S + 1e6, "nothing is offered any more")
            one = self.chance.choice(offered)
            if one.kind == "pass":
                laying = self.plan.passes[one.number - 1]
                pace = self.paces[laying.medium]
                start = self.now
                if pen not in (None, (laying.medium, one.swatch)):
                    start += pace.change_s + (pace.setup_s if pen[0] != laying.medium else 0)
                pen = laying.medium, one.swatch
                end = start + pace.laying_s(laying.area_mm2)
                event = PassesLaid
                values = {"passes": (one.number,)}
            else:
                start = self.now
                end = start + {"lay": 45, "lift": 30, "wipe": 20}[one.kind]
                event, values = Handled, {"step": one.number}
            self.steps.append((one.card, one.kind, one.number, start - START_S, end - START_S))
            self.log.append(made(event, end - START_S, key=self.key, card=one.card, **values))
            self.now = end
        return state

    def as_plan(self) -> Plan:
        """What was done on card 1, as a plan to be checked."""
        passes: list[Pass] = []
        handling: list[Handling] = []
        pen = None
        for _, kind, number, start, end in self.steps:
            if kind == "pass":
                planned = self.plan.passes[number - 1]
                change = pen not in (None, planned.swatch)
                pen = planned.swatch
                timed = {"start_s": start, "end_s": end, "wait_s": 0.0, "change": change}
                passes.append(replace(planned, number=len(passes) + 1, **timed))
            else:
                step = self.plan.handling[number - 1]
                handling.append(replace(step, before_pass=len(passes) + 1, start_s=start, end_s=end, wait_s=0.0))
        ends = [one.end_s for one in (*passes, *handling)]
        return replace(
            self.plan,
            passes=tuple(passes),
            handling=tuple(handling),
            pen_changes=sum(one.change for one in passes),
            duration_s=max(ends, default=0.0),
        )


class ChoicesTest(SimpleTestCase):
    @settings(max_examples=18)
    @given(
        st.sampled_from([code for code in SCHOOLS if code[1] != "0"]),
        st.lists(st.lists(st.sampled_from("abcdef"), min_size=1, max_size=4, unique=True), min_size=1, max_size=5),
        st.frozensets(st.tuples(st.integers(1, 5), st.integers(1, 5)).filter(lambda pair: pair[0] < pair[1])),
        st.frozensets(st.sampled_from("abcdef"), max_size=1),
        st.randoms(use_true_random=False),
    )
    def test_whatever_is_chosen_check_plan_has_nothing_against_it(self, code, ramps, touching, creepers, chance):
        touching = [pair for pair in touching if max(pair) <= len(ramps)]
        work = replace(make_work(*map(tuple, ramps), touching=tuple(touching)), creepers=creepers)
        try:
            plan = make_plan(work, SCHOOLS[code], PACES[SCHOOLS[code].medium])
        except PlanImpossible:
            reject()  # of another kind; hypothesis fails if hardly one is left
        walk = Walk(self, plan, chance)
        walk.go()
        self.assertEqual(check_plan(work, walk.as_plan()), [])

    @settings(max_examples=10)
    @given(st.booleans(), st.integers(1, 3), st.integers(1, 2), st.randoms(use_true_random=False))
    def test_masks_are_laid_and_lifted_in_time(self, first, figures, behind, chance):
        work = masked_work(first=first, figures=figures, behind=behind)
        plan = make_plan(work, SCHOOLS["M1"], MARKER)
        walk = Walk(self, plan, chance)
        walk.go()
        done = walk.as_plan()
        self.assertEqual([one.kind for one in done.handling], ["lay", "lift"])
        self.assertEqual(check_plan(work, done), [])

    def test_something_else_is_offered_while_a_neighbour_dries(self):
        work = make_work(("a", "b"), ("a", "b"), ("c",), touching=((1, 2),))
        plan = make_plan(work, SCHOOLS["M2"], MARKER)
        first = [one.number for one in plan.passes if one.region == 1]
        log = [made(PassesLaid, 0, key=plan_key(plan), passes=tuple(first))]
        offered = {plan.passes[one.number - 1].region for one in choices(replay(plan, log), START_S + 10)}
        self.assertEqual(offered, {3})
        offered = {plan.passes[one.number - 1].region for one in choices(replay(plan, log), START_S + 50)}
        self.assertEqual(offered, {2, 3})

    def test_an_open_blend_says_how_long_it_waits_and_a_late_one_comes_first(self):
        plan = make_plan(make_work(("a", "b"), ("c",)), SCHOOLS["M2"], MARKER)
        start = next(one.number for one in plan.passes if one.region == 1)
        log = [made(PassesLaid, 0, key=plan_key(plan), passes=(start,))]
        soon = {one.number: one for one in choices(replay(plan, log), START_S + 5)}
        self.assertEqual(soon[start + 1].window_s, MARKER.blend_s - 5)
        self.assertEqual(soon[start + 1].against, ())
        late = choices(replay(plan, log), START_S + 500)
        self.assertEqual(late[0].number, start + 1)
        self.assertIn("dried", late[0].against[0])

    def test_slow_paper_makes_everything_wait_longer(self):
        work, ready = make_work(("a",), ("b",)), []
        for dries in (1.0, 4.0):
            plan = make_plan(work, SCHOOLS["M2"], MARKER.on(dries))
            log = [made(PassesLaid, 0, key=plan_key(plan), passes=(1,))]
            state = replay(plan, log)
            (touched,) = state.cards[0].touched.values()
            self.assertEqual(touched.pace.touch_dry_s, dries * MARKER.touch_dry_s)
            ready.append(touched.pace.coat_dry_s)
        self.assertEqual(ready[1], 4 * ready[0])

    def test_a_plan_without_its_work_says_so(self):
        bare = plan_from_plain(plan_to_plain(PLAN))
        self.assertIsNone(bare.work)
        with self.assertRaises(PlanImpossible):
            choices(replay(bare, []), START_S)


class WetnessTest(SimpleTestCase):
    def test_marker_is_workable_then_touch_dry_then_dry(self):  # docs/trade-notes.md, Drying
        self.assertEqual([wetness_after(age, MARKER).state for age in (0, 80, 149, 150)], [
            "workable", "touch dry", "touch dry", "dry",
        ])  # fmt: skip
        self.assertEqual(wetness_after(20, MARKER).touch_dry_s, 30)

    def test_pencil_never_waits(self):
        self.assertEqual(wetness_after(0, PACES["pencil"]).state, "dry")

    def test_every_touched_region_is_told_and_an_extra_coat_wets_it_again(self):
        log = [laid(1), made(ExtraCoat, 300, passes=(1,))]
        region = PLAN.passes[0].region
        for lines, state in ((log[:1], "dry"), (log, "workable")):
            (card,) = replay(PLAN, lines).cards
            touched = card.touched[region]
            self.assertEqual(wetness_after(START_S + 301 - touched.at_s, touched.pace).state, state)


class StopwatchTest(SimpleTestCase):
    """The pace that pass times teach, on made-up stopwatches whose truth is known."""

    def times(self, seed: int, *, breaks: float = 0.0, number: int = 120) -> list[TimedPasses]:
        chance = np.random.default_rng(seed)
        found = []
        for _ in range(number):
            area, change = float(chance.uniform(5, 200)), bool(chance.random() < 0.6)
            usual = 1.5 * MARKER.start_s + 0.7 * MARKER.per_mm2_s * area + 1.2 * MARKER.change_s * change
            seconds = usual * float(np.exp(chance.normal(0, 0.15)))
            found.append(TimedPasses(seconds + (600 if chance.random() < breaks else 0), 1, area, change))
        return found

    def seconds_for(self, pace: Pace, area: float = 80) -> float:
        return pace.laying_s(area) + pace.change_s

    def test_a_coffee_break_now_and_then_hardly_moves_it(self):
        truth = 1.5 * MARKER.start_s + 0.7 * MARKER.per_mm2_s * 80 + 1.2 * MARKER.change_s
        for seed in range(6):
            with self.subTest(seed=seed):
                timed = self.times(seed, breaks=0.12)
                learnt = learn("marker", timed)
                self.assertAlmostEqual(self.seconds_for(learnt.pace) / truth, 1, delta=0.12)
                # Plain least squares by SciPy, on the same times, is carried away.
                parts = [
                    [MARKER.start_s, MARKER.per_mm2_s * one.area_mm2, MARKER.change_s * one.change] for one in timed
                ]
                start, area, change = nnls(np.array(parts), np.array([one.seconds for one in timed]))[0]
                plain = start * MARKER.start_s + area * MARKER.per_mm2_s * 80 + change * MARKER.change_s
                self.assertGreater(abs(plain / truth - 1), abs(self.seconds_for(learnt.pace) / truth - 1))

    def test_more_times_are_surer_and_few_say_nothing(self):
        few, many = learn("marker", self.times(1, number=20)), learn("marker", self.times(1, number=400))
        self.assertGreater(few.doubt, many.doubt)
        nothing = learn("marker", self.times(1, number=5))
        self.assertEqual((nothing.pace, nothing.doubt), (MARKER, 1.0))

    def test_times_leave_out_waiting_and_long_breaks(self):
        work = make_work(("a",), ("b",), ("c",), touching=((1, 2),))
        plan = make_plan(work, SCHOOLS["M2"], MARKER)
        by_region = {one.region: one for one in plan.passes}
        key = plan_key(plan)
        log = [
            made(Started, 0, key=key),
            made(PassesLaid, 20, key=key, passes=(by_region[1].number,)),
            made(PassesLaid, 20 + 50 + 12, key=key, passes=(by_region[2].number,)),
            made(PassesLaid, 5000, key=key, passes=(by_region[3].number,)),
        ]
        self.assertEqual([round(one.seconds) for one in times_of(replay(plan, log))["marker"]], [20, 12])
