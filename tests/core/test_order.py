"""The order of passes: every rule kept, the rules themselves, and small works against trying every order."""

from __future__ import annotations

from dataclasses import replace
from itertools import permutations

from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from paleta.errors import PlanImpossible, SchoolError
from paleta.media import MEDIA
from paleta.order import (
    DEFAULT_SCHOOL,
    PACES,
    SCHOOLS,
    Job,
    Pace,
    Plan,
    School,
    Step,
    Work,
    check_plan,
    expand,
    make_plan,
    plan_region_by_region,
    school_named,
)
from paleta.order._clock import Unit, measure
from tests.builders import make_work

PENS = tuple("abcdefg")
ramps = st.lists(st.permutations(PENS).map(lambda order: tuple(order[:3])), min_size=1, max_size=9)


def shades(school: str, count: int) -> list[tuple[int, str]]:
    """(shade, zone) of each pass of one region."""
    job = Job(region=1, name="R", area_mm2=10, ramp=PENS[:count])
    return [(stroke.shade, stroke.zone) for stroke in expand(job, SCHOOLS[school])]


class SchoolTest(SimpleTestCase):
    def test_schools_lay_their_shades_in_the_order_of_the_trade(self):  # common practice: handbook, section 5
        expected = {
            "M1": [(1, "all over"), (3, "shade"), (2, "middle"), (1, "all over")],
            "M2": [(1, "all over"), (3, "shade"), (2, "middle")],
            "M3": [(3, "shade"), (2, "middle"), (1, "light"), (3, "shade"), (2, "middle"), (1, "all over")],
            "M4": [(2, "middle"), (1, "all over"), (3, "shade")],
            "W1": [(3, "shade"), (2, "middle"), (1, "light"), (3, "shade")],
            "W2": [(1, "all over"), (2, "middle"), (3, "shade")],
            "W3": [(3, "shade"), (2, "middle"), (1, "light")],
            "P1": [(1, "light"), (2, "middle"), (3, "shade"), (1, "all over")],
            "P2": [(2, "middle"), (1, "all over"), (3, "shade")],
            "D1": [(3, "shade"), (2, "middle"), (1, "light")],
            "D2": [(3, "shade"), (2, "middle"), (1, "light"), (3, "shade")],
            "B1": [(1, "all over"), (2, "middle"), (3, "shade"), (1, "all over")],
            "B2": [(1, "all over"), (2, "middle"), (3, "shade")],
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

    def test_every_medium_has_a_default_school_of_its_own(self):
        self.assertEqual(set(DEFAULT_SCHOOL), set(MEDIA))
        for medium, code in DEFAULT_SCHOOL.items():
            self.assertEqual(school_named(code).medium, medium)

    def test_a_school_that_does_not_start_or_starts_twice_is_refused(self):
        start = Step("palest", "all over", "start", "lay")
        for steps, words in (((), "must start"), ((start, start), "only the first")):
            with self.subTest(words=words), self.assertRaisesMessage(SchoolError, words):
                School("X", "X", "marker", "", steps)
        with self.assertRaisesMessage(SchoolError, "no school 'M9'"):
            school_named("M9")


class MakePlanTest(SimpleTestCase):
    @settings(max_examples=25, deadline=None)
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

    def test_small_works_come_out_as_short_as_the_best_of_all_orders(self):
        # Every order of whole regions is tried: a brute-force optimum, not ours.
        pace = PACES["marker"]
        for chosen, touching in (
            ((("a", "b"), ("b", "a"), ("c", "b"), ("a", "c")), ((1, 2), (3, 4))),
            ((("a",), ("b",), ("a",), ("c",), ("b",)), ((1, 3),)),
        ):
            work = make_work(*chosen, touching=touching, area_mm2=200)
            units = [Unit(tuple(expand(job, SCHOOLS["M2"])), ((job.region, 0),)) for job in work.jobs]
            best = min(measure(order, pace, work.neighbours())[0] for order in permutations(units))
            with self.subTest(chosen=chosen):
                self.assertLessEqual(make_plan(work, SCHOOLS["M2"], pace).duration_s, best + 0.2)

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
