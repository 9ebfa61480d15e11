"""Colouring along: logs that add up to the same whatever the order, choices that break no rule, and what came of it."""

from __future__ import annotations

import random
from dataclasses import replace
from itertools import count

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import nnls

from paleta.errors import EventError, PlanImpossible
from paleta.media import MEDIA, PAPERS
from paleta.order import PACES, SCHOOLS, Handling, Pace, Pass, Plan, TimedPasses, check_plan, learn, make_plan
from paleta.recipe import plan_from_plain, plan_to_plain
from paleta.run import (
    RESCUES,
    SLIPS,
    AnotherPen,
    Event,
    ExtraCoat,
    Finished,
    Handled,
    Laid,
    Moved,
    Noted,
    Rescued,
    RunState,
    Slip,
    Started,
    Undone,
    choices,
    course_of,
    differed,
    event_from_plain,
    event_to_plain,
    pairs_between,
    plan_key,
    replay,
    rescues_for,
    seconds_of,
    slowness,
    times_of,
    wetness,
    wetness_after,
    what_moving_does,
)
from tests.builders import make_work
from tests.core.test_masks_and_pace import masked_work

MARKER = PACES["marker"]
START_S = 1_800_000_000.0
IDS = count(1)


def one_plan(*, code: str = "M1", regions: int = 4) -> Plan:
    ramps = [("a", "b", "c"), ("a", "b"), ("d", "e", "c"), ("f",)][:regions]
    work = make_work(*ramps, touching=((1, 2), (2, 3)))
    return make_plan(work, SCHOOLS[code], PACES[SCHOOLS[code].medium])


PLAN = one_plan()
KEY = plan_key(PLAN)


def made(kind: type[Event], at_s: float = 0.0, *, key: str = KEY, **values: object) -> Event:
    return kind(id=f"event-{next(IDS):05}", at_s=START_S + at_s, plan=key, **values)


def laid(*passes: int, at_s: float = 0.0, card: int = 1) -> Event:
    return made(Laid, at_s, passes=passes, card=card)


@st.composite
def logs(draw: st.DrawFn) -> list[Event]:
    """Anything two busy devices could write, nonsense among it."""
    numbers = st.integers(1, len(PLAN.passes) + 2)
    found: list[Event] = [made(Started, cards=draw(st.integers(1, 3)))]
    for _ in range(draw(st.integers(0, 14))):
        at_s, card = draw(st.floats(0, 5000)), draw(st.integers(1, 4))
        one = draw(numbers)
        earlier = draw(st.sampled_from(found)).id
        found.append(
            draw(
                st.sampled_from(
                    [
                        laid(one, at_s=at_s, card=card),
                        made(ExtraCoat, at_s, passes=(one,), card=card),
                        made(AnotherPen, at_s, instead_of="a", code="z", passes=draw(st.sampled_from([(), (one,)]))),
                        made(Undone, at_s, event=earlier),
                        made(Slip, at_s, slip="stripe", passes=(one,)),
                        made(Rescued, at_s, event=earlier, rescue="melt again"),
                        made(Noted, at_s, text="a note", card=card),
                    ]
                )
            )
        )
    return found


class LogTest(SimpleTestCase):
    """A grow-only set of lines: merging is commutative, associative and idempotent [Shapiro2011]."""

    @settings(max_examples=60)
    @given(logs(), st.randoms(use_true_random=False))
    def test_any_order_and_any_repetition_give_the_same_state(self, log, chance):
        again = [*log, *chance.choices(log, k=len(log))]
        chance.shuffle(again)
        self.assertEqual(replay(PLAN, again), replay(PLAN, log))

    @settings(max_examples=40)
    @given(logs(), logs(), logs())
    def test_three_devices_agree_however_they_meet(self, one, two, three):
        left = replay(PLAN, [*[*one, *two], *three])
        self.assertEqual(left, replay(PLAN, [*three, *[*two, *one]]))
        self.assertEqual(left, replay(PLAN, [*two, *three, *one, *two]))

    def test_two_lines_of_one_id_are_settled_alike_everywhere(self):
        line = laid(1)
        other = replace(line, passes=(2,))
        self.assertEqual(replay(PLAN, [line, other]), replay(PLAN, [other, line]))

    def test_the_last_pass_is_taken_back_and_laid_anew(self):
        log = [laid(1), last := laid(2, at_s=9)]
        undone = [*log, made(Undone, 20, event=last.id)]
        self.assertEqual(replay(PLAN, log).next_up, (1, 3))
        self.assertEqual(replay(PLAN, undone).next_up, (1, 2))
        self.assertEqual(replay(PLAN, [*undone, laid(2, at_s=30)]).next_up, (1, 3))

    def test_a_pass_ticked_on_two_devices_is_laid_once_and_at_the_first_time(self):
        state = replay(PLAN, [laid(1, at_s=8), laid(1, at_s=3)])
        self.assertEqual(state.cards[0].laid[1].at_s, START_S + 3)
        self.assertEqual(state.cards[0].again, ())

    def test_another_pen_counts_here_only_or_from_now_on(self):
        first, later = [one.number for one in PLAN.passes if one.swatch == "a"][:2]
        here = made(AnotherPen, 1, instead_of="a", code="z", passes=(first,))
        taken = replay(PLAN, [laid(first, at_s=2), laid(later, at_s=5), here]).cards[0].laid
        self.assertEqual((taken[first].swatch, taken[later].swatch), ("z", "a"))
        onwards = made(AnotherPen, 3, instead_of="a", code="z")
        taken = replay(PLAN, [laid(first, at_s=2), laid(later, at_s=5), onwards]).cards[0].laid
        self.assertEqual((taken[first].swatch, taken[later].swatch), ("a", "z"))

    def test_what_does_not_belong_is_set_aside_with_a_reason(self):
        other = made(Laid, passes=(1,), key="0" * 16)
        log = [other, laid(10_000), laid(1, card=2), made(Rescued, event="nowhere-1", rescue="books"), laid(1)]
        state = replay(PLAN, log)
        self.assertEqual(len(state.set_aside), 4)
        self.assertTrue(all(sentence.endswith(".") for _, sentence in state.set_aside))
        self.assertEqual(set(state.cards[0].laid), {1})

    def test_a_run_ends_with_its_last_pass_or_when_it_is_called_finished(self):
        everything = laid(*(one.number for one in PLAN.passes))
        self.assertTrue(replay(PLAN, [everything]).done)
        self.assertFalse(replay(PLAN, [laid(1)]).done)
        self.assertTrue(replay(PLAN, [laid(1), made(Finished, 9)]).done)

    def test_several_cards_follow_the_batch(self):
        order = course_of(PLAN, 3, MARKER)
        self.assertEqual(len(set(order)), 3 * len(PLAN.passes))
        for card in (1, 2, 3):
            numbers = [number for of, number in order if of == card]
            self.assertEqual(numbers, sorted(numbers))
        state = replay(PLAN, [made(Started, cards=3), laid(1, card=1)])
        self.assertEqual(state.next_up, order[1])

    def test_events_come_back_from_json_and_odd_ones_are_refused_in_a_sentence(self):
        for event in (laid(1, 2), made(Slip, 4, slip="too dark"), made(Moved, 5, from_plan=KEY, pairs=((1, 2),))):
            self.assertEqual(event_from_plain(event_to_plain(event)), event)
        good = event_to_plain(laid(1))
        odd = [
            None,
            [],
            {"kind": "painted"},
            {**good, "passes": "12"},
            {**good, "passes": [0]},
            {**good, "passes": [1, 1]},
            {**good, "at_s": float("nan")},
            {**good, "at_s": -1},
            {**good, "id": "../../x"},
            {**good, "plan": "short"},
            {**good, "more": 1},
            {name: one for name, one in good.items() if name != "passes"},
            {**good, "card": 10**9},
            {**event_to_plain(made(Noted, text="x")), "text": "\ud800"},
            {**event_to_plain(made(Slip, slip="stripe")), "slip": "blotch"},
        ]
        for plain in odd:
            with self.subTest(plain=plain), self.assertRaisesRegex(EventError, r".+"):
                event_from_plain(plain)


class MovedTest(SimpleTestCase):
    def test_a_run_moved_to_another_plan_keeps_what_both_have(self):
        new = one_plan(regions=3)
        before = replay(PLAN, [laid(one.number, at_s=one.number) for one in PLAN.passes])
        log = [*before.log, made(Moved, 900, key=plan_key(new), from_plan=KEY, pairs=pairs_between(PLAN, new))]
        after = replay(new, log)
        self.assertIsNone(after.next_up)
        self.assertEqual(after.cards[0].beside, len(PLAN.passes) - len(new.passes))
        said = " ".join(what_moving_does(before, new))
        lost = next(one.name for one in PLAN.passes if one.region == 4)
        self.assertIn(lost, said)
        self.assertIn(f"{len(new.passes)} passes laid so far count", said)

    def test_a_run_may_be_moved_twice(self):
        new = one_plan(regions=3)
        log = [
            laid(1),
            made(Moved, 5, key=plan_key(new), from_plan=KEY, pairs=pairs_between(PLAN, new)),
            made(Moved, 9, key=KEY, from_plan=plan_key(new), pairs=pairs_between(new, PLAN)),
        ]
        first = PLAN.passes[0]
        self.assertEqual([PLAN.passes[number - 1] for number in replay(PLAN, log).cards[0].laid], [first])

    def test_the_same_plan_changes_nothing(self):
        self.assertEqual(what_moving_does(replay(PLAN, []), PLAN), ["The plan is the same: nothing changes."])


class Walk:
    """A hand that takes any of the choices, in its own time."""

    def __init__(self, test: SimpleTestCase, plan: Plan, chance: random.Random, cards: int = 1) -> None:
        self.test, self.plan, self.chance, self.pace = test, plan, chance, plan.pace
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
                start = self.now + (self.pace.change_s if pen not in (None, one.swatch) else 0)
                pen = one.swatch
                end = start + self.pace.laying_s(self.plan.passes[one.number - 1].area_mm2)
                event = Laid
                values = {"passes": (one.number,)}
            else:
                start = self.now
                end = start + (45 if one.kind == "lay" else 30)
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
    @settings(max_examples=30)
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
            return
        walk = Walk(self, plan, chance)
        walk.go()
        self.assertEqual(check_plan(work, walk.as_plan()), [])

    @settings(max_examples=15)
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
        log = [made(Laid, 0, key=plan_key(plan), passes=tuple(first))]
        offered = {plan.passes[one.number - 1].region for one in choices(replay(plan, log), START_S + 10)}
        self.assertEqual(offered, {3})
        offered = {plan.passes[one.number - 1].region for one in choices(replay(plan, log), START_S + 50)}
        self.assertEqual(offered, {2, 3})

    def test_an_open_blend_says_how_long_it_waits_and_a_late_one_comes_first(self):
        plan = make_plan(make_work(("a", "b"), ("c",)), SCHOOLS["M2"], MARKER)
        start = next(one.number for one in plan.passes if one.region == 1)
        log = [made(Laid, 0, key=plan_key(plan), passes=(start,))]
        soon = {one.number: one for one in choices(replay(plan, log), START_S + 5)}
        self.assertEqual(soon[start + 1].window_s, MARKER.blend_s - 5)
        self.assertEqual(soon[start + 1].against, ())
        late = choices(replay(plan, log), START_S + 500)
        self.assertEqual(late[0].number, start + 1)
        self.assertIn("dried", late[0].against[0])

    def test_slow_paper_makes_everything_wait_longer(self):
        self.assertGreater(slowness(PAPERS["cold-press"]), slowness(PAPERS["smooth-white"]))
        self.assertEqual(slowness(None), 1)

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
        self.assertEqual(wetness(replay(PLAN, log[:1]), START_S + 301)[1, region].state, "dry")
        self.assertEqual(wetness(replay(PLAN, log), START_S + 301)[1, region].state, "workable")


class RescueTest(SimpleTestCase):
    def test_every_slip_has_a_way_out_in_every_medium(self):  # docs/trade-notes.md, Rescues
        for slip in SLIPS:
            for medium in MEDIA:
                with self.subTest(slip=slip, medium=medium):
                    ways = [one.key for one in rescues_for(slip, medium)]
                    self.assertGreaterEqual(len(ways), 2)
                    self.assertEqual(ways[-1], "leave it")

    def test_the_trades_own_words(self):  # docs/trade-notes.md, Rescues
        first = {
            ("over the line", "marker"): "blender",
            ("over the line", "watercolour"): "lift",
            ("too dark", "marker"): "paler pen",
            ("too dark", "watercolour"): "clean water",
            ("too dark", "pencil"): "rub out",
            ("no depth", "pencil"): "darker",
            ("warped", "marker"): "books",
        }
        for (slip, medium), key in first.items():
            self.assertEqual(rescues_for(slip, medium)[0].key, key)

    def test_solvents_come_with_their_caution(self):
        self.assertTrue(all(one.caution for one in RESCUES if "lender" in one.name))


class OutcomeTest(SimpleTestCase):
    def test_what_differed_is_told_and_the_time_runs_to_the_last_pass(self):
        numbers = [one.number for one in PLAN.passes]
        first = next(one for one in PLAN.passes if one.swatch == "a")
        log = [
            made(Started),
            made(AnotherPen, 1, instead_of="a", code="z"),
            laid(*numbers, at_s=700),
            made(ExtraCoat, 800, passes=(first.number,)),
            slip := made(Slip, 810, slip="stripe", passes=(first.number,)),
            made(Rescued, 820, event=slip.id, rescue="melt again"),
            made(Noted, 2000, text="More rose next time"),
        ]
        state = replay(PLAN, log)
        self.assertEqual(seconds_of(state), 800)
        night = replay(PLAN, [made(Started), laid(1, at_s=60), laid(2, at_s=40_000), laid(3, at_s=40_060)])
        self.assertEqual(seconds_of(night), 60 + 900 + 60)
        told = [(one.kind, one.sentence) for one in differed(state, {"z": "Zinc 9", "a": "Ash 1"})]
        self.assertEqual([kind for kind, _ in told], ["pen", "extra coat", "slip", "note"])
        self.assertIn("Zinc 9 instead of Ash 1", told[0][1])
        self.assertIn("melt the step again", told[2][1])

    def test_a_plain_run_differs_in_nothing(self):
        state = replay(PLAN, [laid(*(one.number for one in PLAN.passes))])
        self.assertEqual(differed(state, {}), [])


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
            made(Laid, 20, key=key, passes=(by_region[1].number,)),
            made(Laid, 20 + 50 + 12, key=key, passes=(by_region[2].number,)),
            made(Laid, 5000, key=key, passes=(by_region[3].number,)),
        ]
        self.assertEqual([round(one.seconds) for one in times_of(replay(plan, log))], [20, 12])
