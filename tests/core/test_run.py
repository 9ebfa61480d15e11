"""Colouring along: logs that add up to the same whatever the order, slips and rescues, and what came of it."""

from __future__ import annotations

import json
from dataclasses import replace
from itertools import count

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from paleta.errors import EventError
from paleta.fields import whole_numbers
from paleta.media import MEDIA
from paleta.order import PACES, SCHOOLS, Plan, make_plan
from paleta.recipe import plan_from_plain, plan_to_plain
from paleta.run import (
    RESCUES,
    SLIPS,
    AnotherPen,
    Event,
    ExtraCoat,
    Finished,
    Moved,
    Noted,
    PassesLaid,
    Rescued,
    Slip,
    Started,
    Undone,
    course_of,
    differed,
    event_from_plain,
    event_to_plain,
    pairs_between,
    plan_key,
    replay,
    rescues_for,
    seconds_of,
    what_moving_does,
)
from tests.builders import make_work

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
    return made(PassesLaid, at_s, passes=passes, card=card)


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


class PlanKeyTest(SimpleTestCase):
    def test_a_plan_has_the_same_name_before_and_after_it_is_written_to_a_file(self):
        plain = json.loads(json.dumps(whole_numbers(plan_to_plain(PLAN))))
        self.assertEqual(plan_key(plan_from_plain(plain)), KEY)


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

    def test_the_start_of_a_run_cannot_be_taken_back(self):
        log = [start := made(Started, cards=3), made(Undone, 5, event=start.id)]
        self.assertEqual(len(replay(PLAN, log).cards), 3)

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
        other = made(PassesLaid, passes=(1,), key="0" * 16)
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
        order = course_of(PLAN, 3)
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
