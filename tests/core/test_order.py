"""The order of passes: every rule kept, the rules themselves, and small works against trying every order."""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise, permutations
from typing import Any
from unittest.mock import patch

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from paleta.errors import PlanImpossible, SchoolError
from paleta.media import MEDIA
from paleta.order import (
    DEFAULT_SCHOOL,
    OWN_PREFIX,
    PACES,
    SCHOOLS,
    Job,
    Pace,
    Plan,
    School,
    SchoolStep,
    Work,
    batch,
    check_batch,
    check_plan,
    expand,
    make_plan,
    plan_region_by_region,
    plan_touches,
    school_from_plain,
    school_named,
    school_to_plain,
)
from tests.builders import make_work

PENS = tuple("abcdefg")
ramps = st.lists(st.permutations(PENS).map(lambda order: tuple(order[:3])), min_size=1, max_size=9)


def shades(school: str, count: int) -> list[tuple[int, str]]:
    """(shade, zone) of each pass of one region."""
    job = Job(region=1, name="R", area_mm2=10, ramp=PENS[:count])
    return [(stroke.shade, stroke.zone) for stroke in expand(job, SCHOOLS[school])]


class SchoolTest(SimpleTestCase):
    def test_schools_lay_their_shades_in_the_order_of_the_trade(self):  # docs/trade-notes.md, Schools
        expected = {
            "M1": [(1, "all over"), (3, "shade"), (2, "middle"), (1, "all over")],
            "M2": [(1, "all over"), (3, "shade"), (2, "middle")],
            "M3": [(3, "shade"), (2, "middle"), (1, "light"), (3, "shade"), (2, "middle"), (1, "all over")],
            "M4": [(2, "middle"), (1, "all over"), (3, "shade")],
            "M5": [(1, "light"), (2, "middle"), (3, "shade"), (3, "shade")],
            "W1": [(3, "shade"), (2, "middle"), (1, "light"), (3, "shade")],
            "W2": [(1, "all over"), (2, "middle"), (3, "shade")],
            "W3": [(3, "shade"), (2, "middle"), (1, "light")],
            "P1": [(1, "light"), (2, "middle"), (3, "shade"), (1, "all over")],
            "P2": [(2, "middle"), (1, "all over"), (3, "shade")],
            "D1": [(3, "shade"), (2, "middle"), (1, "light")],
            "D2": [(3, "shade"), (2, "middle"), (1, "light"), (3, "shade")],
            "B1": [(1, "all over"), (2, "middle"), (3, "shade"), (1, "all over")],
            "B2": [(1, "all over"), (2, "middle"), (3, "shade")],
            "B3": [(1, "all over"), (2, "middle"), (3, "shade")],
            **{f"{medium}0": [(2, "all over")] for medium in "MWPD"},
        }
        self.assertEqual(set(expected), set(SCHOOLS))
        for code, passes in expected.items():
            with self.subTest(school=code):
                self.assertEqual(shades(code, 3), passes)

    def test_four_shades_of_m4_start_with_the_second_darkest(self):  # common practice
        self.assertEqual([shade for shade, _ in shades("M4", 4)], [3, 2, 1, 4])

    def test_a_single_shade_is_one_flat_coat_and_an_empty_ramp_is_nothing(self):
        for code in SCHOOLS:
            self.assertEqual(shades(code, 1), [(1, "all over")])
            self.assertEqual(shades(code, 0), [])

    def test_a_zone_of_no_area_gets_no_pass(self):
        job = Job(region=1, name="R", area_mm2=100, ramp=PENS[:3], shares=(0, 0.4, 0.6))
        self.assertEqual(
            [(one.shade, one.area_mm2) for one in expand(job, SCHOOLS["M1"])], [(1, 100), (2, 40), (1, 100)]
        )
        dark = Job(region=1, name="R", area_mm2=100, ramp=PENS[:2], shares=(1, 0))
        self.assertEqual([one.join for one in expand(dark, SCHOOLS["W3"])], ["start"])

    def test_where_there_are_no_steps_to_melt_the_same_coat_is_not_laid_twice(self):
        """A region in full light; but a second coat over a dry one is meant, and stays."""
        lit = Job(region=1, name="R", area_mm2=100, ramp=PENS[:3], shares=(0, 0, 1))
        for school in ("M1", "P1", "B1"):
            self.assertEqual([one.shade for one in expand(lit, SCHOOLS[school])], [1])
        self.assertEqual([one.shade for one in expand(lit, SCHOOLS["M3"])], [1])
        twice = replace(SCHOOLS["B2"], steps=tuple(replace(step, which="palest") for step in SCHOOLS["B2"].steps))
        self.assertEqual([one.shade for one in expand(lit, twice)], [1, 1, 1])

    def test_every_medium_has_a_default_school_of_its_own(self):
        self.assertEqual(set(DEFAULT_SCHOOL), set(MEDIA))
        for medium, code in DEFAULT_SCHOOL.items():
            self.assertEqual(school_named(code).medium, medium)

    def test_a_school_that_does_not_start_or_starts_twice_is_refused(self):
        start = SchoolStep("palest", "all over", "start", "lay")
        for steps, words in (((), "must start"), ((start, start), "only the first")):
            with self.subTest(words=words), self.assertRaisesMessage(SchoolError, words):
                School("X", "X", "marker", "", steps)
        with self.assertRaisesMessage(SchoolError, "no school 'M9'"):
            school_named("M9")


def hurried() -> Any:
    """The search for a shorter order is cut short: every rule holds whatever it finds, and chance makes many works."""
    return patch.multiple("paleta.order._search", MOST_ROUNDS=2000, PROVING_STEPS=2000)


class MakePlanTest(SimpleTestCase):
    @hurried()
    @settings(max_examples=40)
    @given(ramps, st.sets(st.tuples(st.integers(1, 9), st.integers(1, 9))), st.sampled_from(sorted(SCHOOLS)))
    def test_no_plan_breaks_a_rule_and_none_beats_the_bound(self, chosen, touching, code):
        work, school = make_work(*chosen, touching=tuple(touching)), SCHOOLS[code]
        pace = PACES[school.medium]
        for plan in (make_plan(work, school, pace), plan_region_by_region(work, school, pace)):
            self.assertEqual(check_plan(work, plan, school, pace), [])
            self.assertGreaterEqual(plan.duration_s, plan.bound_s - 0.2)

    def test_the_same_work_gives_the_same_plan(self):
        work = make_work(*(("a", "b", "c"), ("c", "d"), ("a", "b", "c"), ("d",)) * 3, touching=((1, 2), (2, 3)))
        self.assertEqual(
            make_plan(work, SCHOOLS["M1"], PACES["marker"]), make_plan(work, SCHOOLS["M1"], PACES["marker"])
        )

    def test_regions_with_the_same_pens_share_them_while_they_stay_wet(self):
        plan = make_plan(make_work(*[("a", "b", "c")] * 3, area_mm2=10), SCHOOLS["M1"], PACES["marker"])
        self.assertEqual(plan.pen_changes, 3)  # a, c, b, a: once for all three
        self.assertEqual([one.swatch for one in plan.passes], list("aaacccbbbaaa"))

    def test_one_pen_for_all_needs_no_change_and_no_work_needs_no_time(self):
        self.assertEqual(make_plan(make_work(("a",), ("a",)), SCHOOLS["M1"], PACES["marker"]).pen_changes, 0)
        self.assertEqual(make_plan(make_work(), SCHOOLS["M1"], PACES["marker"]), Plan((), 0, 0, 0))

    def test_pencil_layers_are_laid_pen_by_pen_over_the_whole_picture(self):  # common practice: it does not dry
        plan = make_plan(make_work(*[("a", "b", "c")] * 5, area_mm2=400), SCHOOLS["P1"], PACES["pencil"])
        self.assertLessEqual(plan.pen_changes, 4)

    def test_a_touching_region_waits_until_its_neighbour_is_dry(self):  # common practice
        plan = make_plan(make_work(("a",), ("b",), touching=((1, 2),)), SCHOOLS["M1"], PACES["marker"])
        self.assertGreaterEqual(plan.passes[1].start_s, plan.passes[0].end_s + PACES["marker"].touch_dry_s - 0.2)
        self.assertIn("touch dry", plan.passes[1].wait_for)


class CheckPlanTest(SimpleTestCase):
    def setUp(self):
        self.work = make_work(("a", "b"), ("c",), touching=((1, 2),))
        self.plan = make_plan(self.work, SCHOOLS["M3"], PACES["marker"])

    def kinds(self, plan: Plan, work: Work | None = None) -> set[str]:
        return {fault.kind for fault in check_plan(work or self.work, plan, "M3")}

    def moved(self, number: int, by_s: float) -> Plan:
        passes = [replace(one, start_s=one.start_s + by_s, end_s=one.end_s + by_s) if one.number == number else one
                  for one in self.plan.passes]  # fmt: skip
        return replace(self.plan, passes=tuple(passes))

    def test_a_sound_plan_has_no_faults(self):
        self.assertEqual(self.kinds(self.plan), set())

    def test_each_rule_is_noticed_when_it_is_broken(self):
        dry = next(one.number for one in self.plan.passes if one.join == "dry")
        wet = next(one.number for one in self.plan.passes if one.join == "wet")
        other = next(one.number for one in self.plan.passes if one.region == 2)
        self.assertIn("coat", self.kinds(self.moved(dry, -100)))
        self.assertIn("blend", self.kinds(self.moved(wet, 500)))
        self.assertIn("hand", self.kinds(self.moved(wet, -5)))
        beside = self.kinds(self.moved(other, self.plan.passes[0].end_s + 1 - self.plan.passes[other - 1].start_s))
        self.assertIn("wet neighbour", beside)
        self.assertIn("chain", self.kinds(replace(self.plan, passes=self.plan.passes[1:])))
        self.assertIn("chain", self.kinds(self.plan, make_work(("a", "b"))))
        hasty = replace(self.plan.passes[-1], end_s=self.plan.passes[-1].start_s)
        self.assertIn("laying", self.kinds(replace(self.plan, passes=(*self.plan.passes[:-1], hasty))))


class RefusalTest(SimpleTestCase):
    def test_impossible_work_and_pace_are_refused(self):
        job = Job(region=1, name="R1", area_mm2=1, ramp=("a",))
        for make, words in (
            (lambda: Work(jobs=(job, job)), "listed twice"),
            (lambda: Work(jobs=(replace(job, ramp=PENS[:6]),)), "6 shades"),
            (lambda: Work(jobs=(replace(job, area_mm2=-1),)), "negative area"),
            (lambda: Work(jobs=(replace(job, shares=(0.5, 0.5)),)), "1 shades but 2 zones"),
            (lambda: Pace(start_s=1, per_mm2_s=-1, change_s=1, touch_dry_s=1, coat_dry_s=1, blend_s=9), "below zero"),
            (
                lambda: Pace(start_s=1, per_mm2_s=1, change_s=9, touch_dry_s=1, coat_dry_s=1, blend_s=5),
                "no time to change",
            ),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(PlanImpossible, words):
                make()


class FirstThingsTest(SimpleTestCase):
    def test_dark_creepers_come_after_their_paler_neighbours(self):  # common practice
        work = replace(make_work(("pale", "ink"), ("pale", "mid"), touching=((1, 2),)), creepers=frozenset({"ink"}))
        plan = make_plan(work, SCHOOLS["M1"], PACES["marker"])
        self.assertEqual(check_plan(work, plan, "M1"), [])
        dark = next(one.number for one in plan.passes if one.swatch == "ink")
        self.assertGreater(dark, max(one.number for one in plan.passes if one.region == 2))

    def test_a_plan_that_lays_a_creeper_too_soon_is_rejected(self):
        work = make_work(("pale", "ink"), ("pale", "mid"), touching=((1, 2),))
        plan = make_plan(work, SCHOOLS["M1"], PACES["marker"])
        first = {one.number: one.region for one in plan.passes}[1]
        dark = frozenset({"ink"} if first == 1 else {"mid"})
        self.assertIn("creeper", {fault.kind for fault in check_plan(replace(work, creepers=dark), plan, "M1")})

    def test_what_is_wished_first_is_finished_first(self):
        work = make_work(("a", "b"), ("a", "b"), ("c", "d"))
        jobs = (*work.jobs[:2], replace(work.jobs[2], rank=-1))
        work = replace(work, jobs=jobs)
        plan = make_plan(work, SCHOOLS["M2"], PACES["marker"])
        self.assertEqual([one.region for one in plan.passes[:2]], [3, 3])
        self.assertEqual(check_plan(work, plan, "M2"), [])
        late = make_plan(
            replace(work, jobs=tuple(replace(job, rank=0) for job in jobs)), SCHOOLS["M2"], PACES["marker"]
        )
        last = late.passes[-1].region
        turned = replace(work, jobs=tuple(replace(job, rank=int(job.region != last)) for job in jobs))
        self.assertIn("rank", {fault.kind for fault in check_plan(turned, late, "M2")})

    @hurried()
    @settings(max_examples=40)
    @given(ramps, st.sets(st.sampled_from(PENS), max_size=3), st.data())
    def test_no_plan_breaks_a_rule_whatever_creeps_and_comes_first(self, chosen, dark, data):
        pairs = tuple((i, i + 1) for i in range(1, len(chosen)))
        work = make_work(*chosen, touching=pairs)
        jobs = tuple(replace(job, rank=data.draw(st.integers(0, 2))) for job in work.jobs)
        work = replace(work, jobs=jobs, creepers=frozenset(dark))
        for school in ("M1", "M3"):
            plan = make_plan(work, SCHOOLS[school], PACES["marker"])
            self.assertEqual(check_plan(work, plan, school), [])
            self.assertLessEqual(plan.bound_s, plan.duration_s + 0.2)


class SameTest(SimpleTestCase):
    def test_the_same_work_gives_the_same_plan(self):
        work = make_work(*[tuple(order) for order in list(permutations("abcd", 3))[:14]], touching=((1, 2), (3, 4)))
        first, second = (make_plan(work, SCHOOLS["M1"], PACES["marker"]) for _ in range(2))
        self.assertEqual(first, second)


class OwnSchoolTest(SimpleTestCase):
    def test_every_school_goes_through_its_shared_form_and_back(self):
        for school in SCHOOLS.values():
            with self.subTest(school=school.code):
                self.assertEqual(school_from_plain(school_to_plain(school)), school)

    def test_what_is_no_school_is_refused_with_its_fault(self):
        good = school_to_plain(SCHOOLS["M1"])
        step = {"which": "palest", "where": "all over", "join": "start", "how": "lay"}
        for change, words in (
            ({"steps": []}, "first step must start"),
            ({"steps": [{**step, "join": "wet"}]}, "first step must start"),
            ({"steps": [step, step]}, "only the first step"),
            ({"steps": [{**step, "which": "brightest"}]}, "which must be one of"),
            ({"steps": [{**step, "after": 2}]}, "circle"),
            ({"steps": [{"which": "palest"}]}, "needs which"),
            ({"steps": ["lay"]}, "Step 1"),
            ({"steps": [step] + [{**step, "join": "wet"}] * 12}, "up to 12 steps"),
            ({"medium": "crayon"}, "medium must be one of"),
            ({"name": " "}, "name of 1 to 60"),
            ({"name": 4}, "are text"),
            ({"colour": "red"}, "no field 'colour'"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(SchoolError, words):
                school_from_plain({**good, **change})
        with self.assertRaisesMessage(SchoolError, "written as an object"):
            school_from_plain([])
        self.assertTrue(school_from_plain(good, code=f"{OWN_PREFIX}4").own)


class BatchTest(SimpleTestCase):
    def test_one_card_takes_as_long_as_its_plan(self):
        work = make_work(("a", "b"), ("a", "c"), touching=((1, 2),))
        plan = make_plan(work, SCHOOLS["M2"], PACES["marker"])
        one = batch(work, plan, PACES["marker"], 1)
        self.assertAlmostEqual(one.duration_s, plan.duration_s, delta=0.5)

    def test_many_cards_dry_beside_each_other_and_share_pens(self):
        work = make_work(("a", "b", "c"), ("a", "b", "d"), touching=((1, 2),), area_mm2=30)
        for school, medium in (("M3", "marker"), ("P1", "pencil")):
            plan = make_plan(work, SCHOOLS[school], PACES[medium])
            found = batch(work, plan, PACES[medium], 10)
            with self.subTest(school=school):
                self.assertLess(found.duration_s, found.one_by_one_s)
                self.assertLessEqual(found.pen_changes, found.one_by_one_changes)
                self.assertEqual(found.lines[-1].last_pass, len(plan.passes))
        for copies in (0, 201):
            with self.assertRaises(PlanImpossible):
                batch(work, plan, PACES["pencil"], copies)

    @hurried()
    @settings(max_examples=25)
    @given(ramps, st.sets(st.tuples(st.integers(1, 9), st.integers(1, 9))), st.sampled_from(sorted(SCHOOLS)))
    def test_no_batch_breaks_a_rule(self, chosen, touching, code):
        work, school = make_work(*chosen, touching=tuple(touching)), SCHOOLS[code]
        plan = make_plan(work, school, PACES[school.medium])
        for copies in (1, 2, 5):
            self.assertEqual(check_batch(work, plan, batch(work, plan, PACES[school.medium], copies)), [])

    def test_each_rule_of_a_batch_is_noticed_when_it_is_broken(self):
        work = make_work(("a", "b"), ("a", "c"), touching=((1, 2),), area_mm2=30)
        plan = make_plan(work, SCHOOLS["M3"], PACES["marker"])
        good = batch(work, plan, PACES["marker"], 2)
        first, second = good.starts_s
        for kind, starts in (
            ("hand", (first, first)),
            ("order", (first, tuple(reversed(second)))),
            ("coat", (first, tuple(second[0] + 0.01 * place for place in range(len(second))))),
            ("blend", (first, tuple(500.0 * place for place in range(len(second))))),
        ):
            with self.subTest(kind=kind):
                faults = check_batch(work, plan, replace(good, starts_s=starts))
                self.assertIn(kind, {fault.kind for fault in faults})


class TouchTest(SimpleTestCase):
    def test_opaque_and_wet_things_come_last_and_wait_for_what_lies_below(self):  # docs/trade-notes.md, Finishing
        steps = plan_touches(["gloss", "white pen", "splatter", "unmask"], ["watercolour"])
        self.assertEqual([step.code for step in steps], ["unmask", "splatter", "white pen", "gloss"])
        self.assertGreater(steps[0].wait_s, 0)  # the washes dry first
        for before, after in pairwise(steps):
            self.assertGreaterEqual(after.start_s, before.end_s)
        self.assertEqual(steps[-1].wait_s, 120)  # the white pen dries 1 to 2 minutes

    def test_gloss_over_pencil_is_warned_of_and_an_unknown_touch_refused(self):
        (step,) = plan_touches(["gloss"], ["pencil"])
        self.assertIn("smears soft pencil", step.caution)
        self.assertEqual(plan_touches([], ["marker"]), [])
        with self.assertRaisesMessage(PlanImpossible, "'foil'"):
            plan_touches(["foil"], ["marker"])
