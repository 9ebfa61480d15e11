"""More than one medium on a card: which may lie on which, plans over media against every order there is, every rule
broken once, and the eight walks of the trade with their passes written out."""

from __future__ import annotations

from dataclasses import replace
from itertools import permutations

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, reject, settings
from hypothesis import strategies as st
from scipy.integrate import solve_ivp

from paleta.errors import PlanImpossible, SchoolError, SwatchError
from paleta.materials import REFERENCE_PAPER
from paleta.media import MEDIA, MEDIUMS, Layer, Swatch, appearance_of_layers, over, stack_fault
from paleta.media._optics import (
    EVEN_COVERAGE,
    YULE_NIELSEN_N,
    below_surface,
    k_over_s,
    seen_through_surface,
    spectrum_of,
)
from paleta.order import PACES, SCHOOLS, Job, Mask, Pace, Work, batch, check_batch, check_plan, make_plan
from paleta.picture import stack_look
from paleta.recipe import spread_over
from paleta.run import Handled, PassesLaid, Started, choices, plan_key, replay
from tests.builders import grey_pens
from tests.core.test_run import START_S, made

BRISK = {
    "marker": Pace(start_s=3, per_mm2_s=0, change_s=2, touch_dry_s=10, coat_dry_s=30, blend_s=40, setup_s=5),
    "pencil": Pace(start_s=4, per_mm2_s=0, change_s=3, touch_dry_s=0, coat_dry_s=0, blend_s=600, setup_s=7),
    "inkpad": Pace(start_s=5, per_mm2_s=0, change_s=4, touch_dry_s=20, coat_dry_s=25, blend_s=600, setup_s=9),
    "watercolour": Pace(start_s=5, per_mm2_s=0, change_s=4, touch_dry_s=35, coat_dry_s=35, blend_s=50, setup_s=12),
}
FLAT = {"marker": SCHOOLS["M2"], "pencil": SCHOOLS["P1"], "inkpad": SCHOOLS["B1"], "watercolour": SCHOOLS["W2"]}


def job(region: int, medium: str, *ramp: str, coat: int = 0, **more) -> Job:
    return Job(region, f"R{region}", 40.0, ramp, medium=medium, coat=coat, **more)


def told(plan) -> list[str]:
    """What is done in its order: passes as "region swatch, zone", masks by what is done with them."""
    steps = [(one.start_s, f"{one.region} {one.swatch}, {one.zone}") for one in plan.passes]
    steps += [(one.start_s, f"{one.kind} {one.name.split()[-1]}") for one in plan.handling]
    return [words for _, words in sorted(steps, key=lambda step: step[0])]


class OverTest(SimpleTestCase):
    def test_what_may_lie_on_what(self):  # common practice; docs/trade-notes.md, Coats
        for below, above, may in (
            ("marker", "pencil", True), ("pencil", "marker", False), ("watercolour", "pencil", True),
            ("inkpad", "watercolour", False), ("inkpad", "marker", True), ("soluble", "watercolour", False),
            ("soluble", "pencil", True), ("pencil", "watercolour", False), ("marker", "inkpad", True),
        ):  # fmt: skip
            with self.subTest(below=below, above=above):
                found = over(below, above)
                self.assertEqual(found.may, may)
                self.assertTrue(found.why.endswith("."))

    def test_every_pair_is_known_and_a_stack_is_looked_through(self):
        for below in MEDIA:
            for above in MEDIA:
                self.assertTrue(over(below, above).why)
        self.assertEqual(stack_fault(("marker", "pencil")), "")
        # What lies two below is felt too.
        self.assertIn("cannot lie over blended ink pad", stack_fault(("inkpad", "marker", "watercolour")))
        with self.assertRaisesMessage(SwatchError, "'oil'"):
            over("oil", "marker")


TURNS = {"watercolour": 0, "marker": 1, "inkpad": 1, "pencil": 2}


class MixedOrderTest(SimpleTestCase):
    """Small works against every order, timed by a simulation of its own."""

    def seconds(self, work: Work, order) -> float | None:
        """How long `order` (of passes) takes if each begins as soon as it may; None if it breaks a rule that waiting
        does not mend. Nothing here meets wet."""
        now, held = 0.0, None
        near = {region: set(others) for region, others in work.neighbours().items()}
        touched: dict[int, tuple[float, Pace]] = {}
        for one in order:
            pace = BRISK[one.medium]
            ready = now
            if held is not None and held.pen != one.pen:
                ready += pace.change_s + (pace.setup_s if held.medium != one.medium else 0)
            if one.join == "dry":
                end, last = touched[one.region]
                ready = max(ready, end + last.coat_dry_s)
            for other in near.get(one.region, ()):
                if other in touched:
                    end, last = touched[other]
                    ready = max(ready, end + last.touch_dry_s)
            now = ready + pace.laying_s(one.area_mm2)
            touched[one.region] = now, pace
            held = one
        return now

    @settings(max_examples=16)
    @given(
        st.lists(
            st.tuples(
                st.sampled_from(("marker", "watercolour", "inkpad")),
                st.sampled_from("ab"),
                st.sampled_from(("", "pencil")),
                st.sampled_from("cd"),
            ),
            min_size=1,
            max_size=3,
        ),
        st.frozensets(st.sampled_from(((1, 2), (2, 3), (1, 3)))),
    )
    def test_the_plan_is_the_best_of_all_orders(self, regions, touching):
        jobs = []
        for number, (medium, code, upper, other) in enumerate(regions, start=1):
            jobs.append(job(number, medium, code))
            if upper:
                jobs.append(job(number, upper, other, coat=1))
        work = Work(tuple(jobs), Work.pairs(touching))
        plan = make_plan(work, FLAT, BRISK)
        self.assertEqual(check_plan(work, plan), [])

        def touch(one, two) -> bool:
            return frozenset((one.region, two.region)) in work.touching

        best = min(
            self.seconds(work, order)
            for order in permutations(plan.passes)
            if all(
                order.index(one) < order.index(two)
                for one in order
                for two in order
                if (one.region == two.region and one.coat < two.coat)
                # Where they touch, water before marker and pad, and pencil last.
                or (touch(one, two) and TURNS[one.medium] < TURNS[two.medium])
            )
        )
        self.assertAlmostEqual(plan.duration_s, best, delta=0.2)
        self.assertAlmostEqual(plan.bound_s, plan.duration_s, delta=0.2)

    @settings(max_examples=14)
    @given(
        st.lists(
            st.tuples(
                st.sampled_from(tuple(FLAT)),
                st.lists(st.sampled_from("abcdef"), min_size=1, max_size=4, unique=True),
                st.booleans(),
            ),
            min_size=1,
            max_size=6,
        ),
        st.frozensets(st.tuples(st.integers(1, 6), st.integers(1, 6)).filter(lambda pair: pair[0] < pair[1])),
        st.frozensets(st.sampled_from("abcdef"), max_size=1),
        st.booleans(),
    )
    def test_no_plan_over_media_breaks_a_rule_or_its_bound(self, regions, touching, creepers, masked):
        jobs = []
        for number, (medium, ramp, upper) in enumerate(regions, start=1):
            rank = 2 if masked and number > 1 else 1
            jobs.append(job(number, medium, *ramp, rank=rank))
            if upper and medium != "pencil":
                jobs.append(job(number, "pencil", *ramp[:2], coat=1, rank=rank))
        behind = frozenset(range(2, len(regions) + 1)) if masked else frozenset()
        masks = (Mask(frozenset({1}), behind),) if behind else ()
        work = Work(tuple(jobs), Work.pairs(touching), creepers, masks)
        try:
            plan = make_plan(work, FLAT)
        except PlanImpossible:
            reject()  # hypothesis fails if hardly one is left
        self.assertEqual(check_plan(work, plan), [])
        self.assertLessEqual(plan.bound_s, plan.duration_s + 0.2)
        made_of = batch(work, plan, None, 3)
        self.assertEqual(check_batch(work, plan, made_of), [])

    def test_a_medium_is_set_up_once_where_nothing_asks_for_more(self):
        jobs = [job(1, "marker", "a"), job(2, "pencil", "b"), job(3, "marker", "c"), job(4, "pencil", "d")]
        plan = make_plan(Work(tuple(jobs)), FLAT, BRISK)
        media = [one.medium for one in plan.passes]
        self.assertEqual(media, sorted(media, key=media.index))
        self.assertEqual(plan.duration_s, 4 + 3 + 4 + (2 + 5) + 3 + 2 + 3)

    def test_the_same_code_in_two_media_is_two_pens(self):
        plan = make_plan(Work((job(1, "marker", "a"), job(2, "pencil", "a"))), FLAT, BRISK)
        self.assertEqual(plan.pen_changes, 1)


class BrokenRuleTest(SimpleTestCase):
    """A plan in which each rule of coats and media is broken once."""

    def setUp(self):
        jobs = (job(1, "marker", "a"), job(1, "pencil", "p", coat=1), job(2, "marker", "b"), job(3, "inkpad", "i", "k"))
        ranked = tuple(replace(one, rank=2 if one.region == 3 else 0) for one in jobs)
        mask = Mask(frozenset({1, 2}), frozenset({3}))
        self.work = Work(ranked, Work.pairs([(1, 2), (2, 3)]), masks=(mask,))
        self.plan = make_plan(self.work, FLAT)
        self.assertEqual(check_plan(self.work, self.plan), [])

    def kinds(self, plan) -> set[str]:
        return {fault.kind for fault in check_plan(self.work, plan)}

    def moved(self, which, by_s: float):
        """The plan with one pass begun so much earlier, nothing else changed."""
        passes = tuple(
            replace(one, start_s=one.start_s - by_s, end_s=one.end_s - by_s) if one is which else one
            for one in self.plan.passes
        )
        return replace(self.plan, passes=passes)

    def test_setting_up_another_medium_takes_its_time(self):
        pad = next(one for one in self.plan.passes if one.medium == "inkpad")
        self.assertIn("hand", self.kinds(self.moved(pad, PACES["inkpad"].setup_s)))

    def test_a_coat_over_a_wet_one_is_named(self):
        pencil = next(one for one in self.plan.passes if one.medium == "pencil")
        self.assertIn("coat", self.kinds(self.moved(pencil, PACES["marker"].coat_dry_s)))

    def test_the_upper_coat_first_is_named_with_its_reason(self):
        pencil = next(one for one in self.plan.passes if one.coat == 1)
        marker = next(one for one in self.plan.passes if one.region == 1 and one.coat == 0)
        turned = {
            marker.number: replace(pencil, number=marker.number),
            pencil.number: replace(marker, number=pencil.number),
        }
        plan = replace(self.plan, passes=tuple(turned.get(one.number, one) for one in self.plan.passes))
        faults = check_plan(self.work, plan)
        self.assertTrue({"coats", "chain"} <= {fault.kind for fault in faults})
        self.assertTrue(any("never over wax" in fault.sentence for fault in faults))

    def test_a_coat_that_is_left_out_is_named(self):
        passes = tuple(one for one in self.plan.passes if one.medium != "pencil")
        self.assertIn("chain", self.kinds(replace(self.plan, passes=passes)))

    def test_a_mask_that_is_not_wiped_between_two_inks_is_named(self):
        bare = tuple(one for one in self.plan.handling if one.kind != "wipe")
        self.assertEqual(len(self.plan.handling) - len(bare), 2)
        self.assertIn("soiled", self.kinds(replace(self.plan, handling=bare)))

    def test_the_other_mediums_swatch_of_the_same_code_is_no_substitute(self):
        wrong = replace(self.plan.passes[0], medium="pencil")
        self.assertIn("chain", self.kinds(replace(self.plan, passes=(wrong, *self.plan.passes[1:]))))

    def test_what_cannot_be_is_refused(self):
        for make, words in (
            (lambda: Work((job(1, "marker", "a"), job(1, "pencil", "b"))), "listed twice"),
            (lambda: job(1, "oil", "a"), "'oil'"),
            (lambda: job(1, "marker", "a", school=SCHOOLS["P1"]), "no school for its medium"),
            (lambda: job(1, "marker", "a", "b", place="rims"), "an accent has one swatch"),
            (lambda: job(1, "marker", "a", zones=((0,), (1,))), "1 shades for 2 zones"),
            (lambda: Mask(frozenset(), frozenset({1}), "glue"), "got 'glue'"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(PlanImpossible, words):
                make()
        with self.assertRaisesMessage(SchoolError, "no school for another medium"):
            make_plan(self.work, {"pencil": SCHOOLS["M1"]})

    def test_every_choice_of_along_is_in_the_plans_rules(self):
        """Following the first choice lays everything, the wiping too."""
        key, now = plan_key(self.plan), START_S
        log, kinds = [made(Started, key=key)], []
        for _ in range(400):
            state = replay(self.plan, log)
            if state.done:
                break
            offered = choices(state, now)
            if not offered:
                now += 10
                continue
            one = offered[0]
            kinds.append(one.kind)
            values = {"passes": (one.number,)} if one.kind == "pass" else {"step": one.number}
            event = PassesLaid if one.kind == "pass" else Handled
            now += 40
            log.append(made(event, now - START_S, key=key, **values))
        self.assertTrue(state.done)
        self.assertEqual([kind for kind in kinds if kind != "pass"], ["lay", "wipe", "wipe", "lift"])


class StackColourTest(SimpleTestCase):
    """Colour through the stack, against the differential equation and worked values."""

    def spectrum(self, *layers: Layer, paper=REFERENCE_PAPER):
        reflectance = spectrum_of(paper.lab)
        for layer in layers:
            reflectance = MEDIUMS[layer.swatch.medium].optics(reflectance, layer)
        return reflectance

    def test_a_glaze_over_a_coloured_ground_solves_kubelka_and_munks_equation(self):
        """dR/dX = S (R^2 - 2 (1 + K/S) R + 1) upwards through a film [Kubelka1931]: whatever lies at its bottom, a thick
        one ends at the R whose K/S is the sum of ground and pigment, which is what a glaze over a dry wash shows."""
        ground, glaze = (Swatch(code=c, name=c, medium="watercolour", lab=lab) for c, lab in (
            ("w", (70.0, -10.0, 25.0)), ("g", (60.0, 25.0, -5.0)),
        ))  # fmt: skip
        paper, first, second = (
            k_over_s(below_surface(one))
            for one in (self.spectrum(), self.spectrum(Layer(ground)), self.spectrum(Layer(glaze)))
        )
        seen = self.spectrum(Layer(ground), Layer(glaze))
        for place in range(0, len(seen), 9):
            ratio = first[place] + second[place] - paper[place]
            slope = lambda _, inner, ratio=ratio: inner**2 - 2 * (1 + ratio) * inner + 1  # noqa: E731
            found = solve_ivp(slope, (0, 400), [0.5], rtol=1e-9, atol=1e-11).y[0, -1]
            self.assertAlmostEqual(float(seen_through_surface(np.array(found))), float(seen[place]), delta=2e-3)

    def test_pencil_over_dyed_paper_follows_murray_davies_and_yule_nielsen(self):
        """R^(1/n) = c S^(1/n) + (1 - c) B^(1/n) with n = 2 [Yule1951]: on white paper a pencil measured at 0.49 that
        covers 0.7 of a paper of 0.81 has a solid of ((0.7 - 0.27) / 0.7)^2 = 0.37735; over a dye that leaves 0.25 it
        comes to (0.7 * 0.614286 + 0.3 * 0.5)^2 = 0.3364 if the grains hide it, and to (0.7 * 0.614286 * 0.5 / 0.9 + 0.3
        * 0.5)^2 = 0.151235 if they are as clear as a filter."""
        paper, measured, dyed = (np.full(3, value) for value in (0.81, 0.49, 0.25))
        root, share = 1 / YULE_NIELSEN_N, 0.7
        solid = (measured**root - (1 - share) * paper**root) / share
        np.testing.assert_allclose(solid**2, 0.37735, atol=1e-5)
        np.testing.assert_allclose((share * solid + (1 - share) * dyed**root) ** 2, 0.3364, atol=1e-9)
        clear = share * solid * dyed**root / paper**root + (1 - share) * dyed**root
        np.testing.assert_allclose(clear**2, 0.151235, atol=1e-5)
        # The same by the code, on real spectra: what it lays over a dyed paper lies between the two sums, at one place
        # for every wavelength.
        marker = Swatch(code="m", name="m", medium="marker", lab=(45.0, 40.0, 10.0))
        pencil = Swatch(code="p", name="p", medium="pencil", lab=(70.0, 5.0, 30.0))
        below, alone = self.spectrum(Layer(marker)), self.spectrum(Layer(pencil))
        bare = spectrum_of(REFERENCE_PAPER.lab)
        both = self.spectrum(Layer(marker), Layer(pencil))
        grain = (alone**root - (1 - EVEN_COVERAGE) * bare**root) / EVEN_COVERAGE
        hidden = EVEN_COVERAGE * grain + (1 - EVEN_COVERAGE) * below**root
        filtered = EVEN_COVERAGE * grain * (below / bare) ** root + (1 - EVEN_COVERAGE) * below**root
        place = (both**root - filtered) / (hidden - filtered)
        self.assertLess(float(np.ptp(place)), 1e-6)
        self.assertTrue(0.3 < place.mean() < 0.9, place)

    def test_coats_of_other_lengths_share_out_their_zones(self):
        self.assertEqual(spread_over(2, 3), (0, 0, 1))
        self.assertEqual(spread_over(1, 4), (0, 0, 0, 0))
        self.assertEqual(spread_over(3, 3), (0, 1, 2))
        markers, pencils = grey_pens(90, 70, 50), grey_pens(60, 30, medium="pencil")
        look = stack_look(((tuple(markers), SCHOOLS["M2"]), (tuple(pencils), SCHOOLS["P2"])), REFERENCE_PAPER)
        self.assertEqual(len(look), 3)
        self.assertEqual([lab[0] for lab in look], sorted(lab[0] for lab in look))
        alone = stack_look(((tuple(markers), SCHOOLS["M2"]),), REFERENCE_PAPER)
        self.assertTrue(all(both[0] < one[0] for both, one in zip(look, alone, strict=True)))

    def test_white_pencil_over_dark_marker_lightens_it_and_marker_over_ink_darkens_it(self):  # common practice
        dark, white = grey_pens(25)[0], Swatch(code="w", name="White", medium="pencil", lab=(95.0, 0, 1))
        pad = Swatch(code="i", name="Ink", medium="inkpad", lab=(80.0, 5.0, 20.0))

        def light(*layers: Layer) -> float:
            return appearance_of_layers(layers, REFERENCE_PAPER)[0]

        self.assertGreater(light(Layer(dark), Layer(white)), light(Layer(dark)) + 15)
        self.assertLess(light(Layer(pad), Layer(dark)), light(Layer(pad)))


class WalkTest(SimpleTestCase):
    """How eight cards of the trade are made, common practice (docs/trade-notes.md, Grounds and Coats)."""

    def plan(self, *jobs: Job, masks: tuple[Mask, ...] = (), touching=(), **schools: str) -> list[str]:
        work = Work(jobs, Work.pairs(touching), masks=masks)
        plan = make_plan(work, {medium: SCHOOLS[code] for medium, code in schools.items()})
        self.assertEqual(check_plan(work, plan), [])
        return told(plan)

    def test_a_marker_figure_before_a_sky_of_two_inks_behind_a_mask(self):
        figure = job(1, "marker", "rose-1", "rose-2", rank=1)
        sky = job(2, "inkpad", "sky", "night", rank=2, whole=True)
        masked = Mask(frozenset({1}), frozenset({2}))
        self.assertEqual(
            self.plan(figure, sky, masks=(masked,), touching=[(1, 2)], marker="M2", inkpad="B1"),
            ["1 rose-1, all over", "1 rose-2, shade", "lay mask", "2 sky, all over", "wipe mask", "2 night, shade",
             "wipe mask", "2 sky, all over", "lift mask"],
        )  # fmt: skip

    def test_the_same_with_the_sky_first(self):
        figure = job(1, "marker", "rose-1", rank=1)
        sky = job(2, "inkpad", "sky", "deep", "night", rank=0, whole=True)
        masked = Mask(frozenset({1}), frozenset({2}))
        self.assertEqual(
            self.plan(figure, sky, masks=(masked,), touching=[(1, 2)], marker="M2", inkpad="B3"),
            ["lay mask", "2 sky, all over", "wipe mask", "2 deep, middle", "wipe mask", "2 night, shade", "lift mask",
             "1 rose-1, all over"],
        )  # fmt: skip

    def test_a_night_wall_round_a_window_is_marked_first_and_coated_twice(self):
        wall = job(1, "marker", "glow", "dusk", "night", whole=True, school=SCHOOLS["M5"])
        self.assertEqual(
            self.plan(wall, marker="M1"),
            ["1 glow, light", "1 dusk, middle", "1 night, shade", "1 night, shade"],
        )

    def test_washed_walls_come_before_the_figure_and_splatter_last_on_them(self):
        walls = [job(region, "watercolour", "sand", "rust", rank=0, whole=True) for region in (1, 2)]
        drops = [
            job(region, "watercolour", "rust", coat=14, rank=0, place="splattered", how="last") for region in (1, 2)
        ]
        figure = job(3, "watercolour", "plum", rank=1)
        found = self.plan(*walls, *drops, figure, touching=[(1, 3), (2, 3)], watercolour="W3")
        self.assertEqual(found[-1], "3 plum, all over")
        self.assertEqual([words for words in found if "splattered" in words], found[-3:-1])

    def test_three_bands_by_tape_are_wiped_between_inks(self):
        bands = [job(region, "inkpad", ink, whole=True) for region, ink in ((1, "pale"), (2, "mid"), (3, "deep"))]
        taped = Mask(frozenset(), frozenset({1, 2, 3}), "tape")
        self.assertEqual(
            self.plan(*bands, masks=(taped,), inkpad="B1"),
            ["lay tape", "1 pale, all over", "wipe tape", "2 mid, all over", "wipe tape", "3 deep, all over",
             "lift tape"],
        )  # fmt: skip

    def test_pencil_over_all_of_the_marker_then_its_accents(self):
        jobs = [
            job(1, "marker", "m1", "m2"), job(1, "pencil", "p1", "p2", coat=1),
            job(1, "pencil", "black", coat=11, rank=3, place="shadow beneath"),
            job(1, "pencil", "white", coat=16, rank=3, place="lit rims"),
        ]  # fmt: skip
        self.assertEqual(
            self.plan(*jobs, marker="M2", pencil="P2"),
            ["1 m1, all over", "1 m2, shade", "1 p1, all over", "1 p2, shade", "1 black, shadow beneath",
             "1 white, lit rims"],
        )  # fmt: skip

    def test_soluble_pen_is_pulled_dried_and_deepened_with_dry_pigment(self):
        jobs = [
            job(1, "soluble", "s1", "s2"), job(1, "soluble", "pigment", coat=10, rank=3, place="deepest creases"),
        ]  # fmt: skip
        work = Work(tuple(jobs))
        plan = make_plan(work, SCHOOLS["D2"])
        self.assertEqual(told(plan), ["1 s2, shade", "1 s1, light", "1 s2, shade", "1 pigment, deepest creases"])
        self.assertEqual([one.join for one in plan.passes], ["start", "wet", "dry", "dry"])

    def test_on_kraft_white_pencil_makes_the_body_and_nothing_is_waited_for(self):
        work = Work((job(1, "pencil", "white", "grey", "black"),))
        plan = make_plan(work, SCHOOLS["P1"])
        self.assertEqual(told(plan), ["1 white, light", "1 grey, middle", "1 black, shade", "1 white, all over"])
        self.assertEqual(sum(one.wait_s for one in plan.passes), 0)

    def test_pounced_ink_dries_before_marker_details_go_over_it(self):
        ground = job(1, "inkpad", "leaf", "rust", rank=0, whole=True, school=SCHOOLS["B3"])
        details = job(1, "marker", "bark", coat=1, rank=1)
        work = Work((ground, details))
        plan = make_plan(work, {"inkpad": SCHOOLS["B3"], "marker": SCHOOLS["M2"]})
        self.assertEqual(told(plan), ["1 leaf, all over", "1 rust, shade", "1 bark, all over"])
        self.assertGreaterEqual(plan.passes[2].start_s - plan.passes[1].end_s, PACES["inkpad"].coat_dry_s - 0.2)
