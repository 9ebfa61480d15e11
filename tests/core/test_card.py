"""The card laid out: hand-worked cases of the trade, warnings one by one, the order of making, lines to cut."""

from __future__ import annotations

from dataclasses import replace
from itertools import permutations

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import ndimage

from paleta.card import (
    STEP_NAMES,
    ZERO,
    Base,
    CardLayer,
    CardSpec,
    CutOut,
    Greeting,
    Inside,
    Panel,
    Picture,
    Place,
    Stock,
    Thing,
    check_making,
    cut_card,
    cut_lines,
    inches,
    lay_out,
    making,
    millimetres,
    on_picture,
    show,
    stack,
    steps_of,
)
from paleta.errors import CardError
from tests.builders import disc

NOTE = Base(width=inches("17/4"), height=inches("11/2"))
WHITE = Stock(name="White", width=inches("17/2"), height=inches(11), grain="long", gsm=300)
PX_PER_MM = 4.0


def spec(**values) -> CardSpec:
    return CardSpec(**{"base": NOTE, "stock": (WHITE,), **values})


def scene(width_mm: float = 108, height_mm: float = 140) -> Picture:
    """A face (focal) in the upper half, a stripe of sea at the bottom, a bird in a corner."""
    size = int(height_mm * PX_PER_MM), int(width_mm * PX_PER_MM)
    labels = np.zeros(size, np.int32)
    y, x = np.mgrid[: size[0], : size[1]] / PX_PER_MM
    labels[(y > height_mm - 25)] = 2
    labels[np.hypot(x - width_mm / 2, y - 45) < 20] = 1
    labels[(x > width_mm - 8) & (y < 8)] = 3
    things = (
        Thing("Face", (1,), focal=True),
        Thing("Sea", (2,), figure=False),
        Thing("Bird", (3,)),
    )
    return Picture(labels, PX_PER_MM, things, {1: 0.4, 2: 0.7, 3: 0.3})


def codes(plan) -> list[str]:
    return [one.code for one in plan.warnings]


class TradeTest(SimpleTestCase):
    """docs/trade-notes.md, Cards: common practice, worked by hand."""

    def test_a_reveal_of_an_eighth_on_a_note_card(self):
        plan = lay_out(spec())
        panel = plan.panel.place
        self.assertEqual((panel.width, panel.height), (inches(4), inches("21/4")))
        self.assertEqual((panel.x, panel.y), (inches("1/8"), inches("1/8")))
        self.assertEqual(plan.open_sheet, (inches("17/2"), inches("11/2")))
        self.assertEqual(plan.scores, (inches("17/4"),))

    def test_the_same_on_five_by_seven(self):
        plan = lay_out(spec(base=Base(width=inches(5), height=inches(7))))
        self.assertEqual((plan.panel.place.width, plan.panel.place.height), (inches("19/4"), inches("27/4")))
        self.assertEqual((plan.open_sheet, plan.scores), ((inches(10), inches(7)), (inches(5),)))

    def test_half_an_inch_off_is_a_quarter_per_side(self):
        plan = lay_out(spec(panel=Panel(width=inches("15/4"), height=inches(5))))
        self.assertEqual(plan.panel.place.x, inches("1/4"))

    def test_slimline_trimmed_to_three_by_eight(self):
        """A 4 x 9 blank, trimmed by half an inch a side, on 3 1/2 x 8 1/2."""
        plan = lay_out(
            spec(
                base=Base(width=inches("7/2"), height=inches("17/2")),
                panel=Panel(width=inches(3), height=inches(8), trim=inches("1/2")),
            ),
            scene(),
        )
        self.assertEqual((plan.rough.width, plan.rough.height), (inches(4), inches(9)))

    def test_a_mat_then_the_panel(self):
        plan = lay_out(spec(mats=(CardLayer(),)))
        self.assertEqual([str(show(one.place.width)) for one in plan.layers], ["4 1/4 in", "4 in", "3 3/4 in"])

    def test_foam_is_an_eighth_smaller_overall(self):
        plan = lay_out(spec(panel=Panel(foam=millimetres(2))))
        foam = plan.foams[0].place
        self.assertEqual((foam.width, foam.height), (inches("31/8"), inches("41/8")))
        self.assertEqual(foam.x - plan.panel.place.x, inches("1/16"))

    def test_no_foam_is_cut_for_what_is_smaller_than_its_rim(self):
        plan = lay_out(spec(panel=Panel(width=inches("1/8"), height=inches(3), foam=millimetres(1))))
        self.assertEqual(plan.foams, ())

    def test_a_top_fold_is_scored_across(self):
        plan = lay_out(spec(base=replace(NOTE, fold="top")))
        self.assertEqual((plan.open_sheet, plan.scores), ((inches("17/4"), inches(11)), (inches("11/2"),)))

    def test_millimetres_stay_millimetres(self):
        plan = lay_out(
            spec(base=Base(width=millimetres(110), height=millimetres(150)), panel=Panel(reveal=millimetres(3)))
        )
        self.assertEqual((plan.panel.place.width, plan.panel.place.height), (millimetres(104), millimetres(144)))
        self.assertEqual(plan.open_sheet, (millimetres(220), millimetres(150)))

    def test_thickness_adds_up(self):
        """Twice the base, the panel, the foam. From memory: 300 g/m2 is 0.39 mm, unknown card 0.36."""
        plan = lay_out(spec(panel=Panel(foam=millimetres(2))))
        self.assertEqual(plan.thickness, millimetres("0.39") * 2 + millimetres("0.36") + millimetres(2))
        stamped = lay_out(spec(), stamped_gsm=200)
        self.assertEqual(stamped.thickness, millimetres("0.39") * 2 + millimetres("0.26"))
        self.assertEqual(max(slab.lift + slab.thick for slab in stack(plan)), plan.thickness)

    def test_what_stands_up_begins_where_the_picture_ends(self):
        plan = lay_out(spec(cutouts=(CutOut(name="Bird", regions=(3,)),), greeting=Greeting(text="Joy")), scene())
        slabs = {slab.name: slab for slab in stack(plan)}
        picture = slabs["Picture"]
        for name in ("Foam under bird", "Greeting strip"):
            self.assertEqual(slabs[name].lift, picture.lift + picture.thick)
        self.assertEqual(max(slab.lift + slab.thick for slab in slabs.values()), plan.thickness)

    def test_gems_make_it_thicker(self):
        self.assertEqual(lay_out(spec(), touches=("gems",)).thickness - lay_out(spec()).thickness, millimetres(3))


class WarningTest(SimpleTestCase):
    def mend(self, plan, code, picture=None):
        """What its remedy leaves of a warning."""
        one = next(it for it in plan.warnings if it.code == code)
        self.assertIsNotNone(one.mended, one)
        self.assertNotIn(code, codes(lay_out(one.mended, picture)))
        return one

    def test_a_sound_card_has_none(self):
        self.assertEqual(codes(lay_out(spec(envelope="note"), scene())), [])

    def test_larger_than_what_it_lies_on(self):
        plan = lay_out(
            spec(mats=(CardLayer(width=inches(3), height=inches(4)),), panel=Panel(width=inches(4), height=inches(5)))
        )
        self.assertIn("Picture is larger than mat", self.mend(plan, "hangs over").sentence)

    def test_off_the_edge(self):
        plan = lay_out(spec(panel=Panel(right=inches(1))))
        self.assertIn("hangs over the edge of base", self.mend(plan, "hangs over").sentence)

    def test_reveals_that_leave_nothing(self):
        plan = lay_out(spec(panel=Panel(reveal=inches(3))))
        self.assertGreater(plan.panel.place.width, ZERO)

    def test_foam_that_shows(self):
        plan = lay_out(spec(panel=Panel(foam=millimetres(1), foam_less=ZERO)))
        self.mend(plan, "foam shows")

    def test_a_thing_too_narrow_for_foam(self):
        labels = np.zeros((200, 200), np.int32)
        labels[20:180, 100:104] = 1
        picture = Picture(labels, PX_PER_MM, (Thing("Mast", (1,)),), {1: 0.5})
        plan = lay_out(spec(cutouts=(CutOut(name="Mast", regions=(1,)),)), picture)
        self.assertIn("Mast is nowhere wider", self.mend(plan, "foam shows", picture).sentence)

    def test_a_thing_that_is_no_longer_there(self):
        plan = lay_out(spec(cutouts=(CutOut(name="Ghost", regions=(99,)),)), scene())
        self.assertEqual(self.mend(plan, "gone", scene()).mended.cutouts, ())

    def test_the_greeting_over_the_face_is_moved_off_it(self):
        picture = scene()
        plan = lay_out(spec(greeting=Greeting(text="Hello", x=inches("1/2"), y=inches("3/2"))), picture)
        self.assertEqual(plan.covered[0][0], "Face")
        one = self.mend(plan, "over", picture)
        self.assertIn("what the eye shall rest on", one.sentence)
        after = lay_out(one.mended, picture)
        self.assertTrue(after.front.holds(after.greeting.place))
        self.assertNotIn("Face", dict(after.covered))

    def test_what_is_covered_is_measured(self):
        """A square of 20 mm, half of it under the greeting."""
        labels = np.zeros((400, 400), np.int32)
        labels[160:240, 160:240] = 1
        picture = Picture(labels, PX_PER_MM, (Thing("Tile", (1,)),), {1: 0.5})
        self.assertEqual(
            picture.shares_in(Place(millimetres(40), millimetres(40), millimetres(10), millimetres(40))), {0: 0.5}
        )

    def test_the_greeting_off_the_card(self):
        plan = lay_out(spec(greeting=Greeting(text="Hello", x=inches(3), y=inches(5))))
        self.mend(plan, "greeting off")

    def test_the_envelope(self):
        plan = lay_out(spec(base=Base(width=inches(5), height=inches(7)), envelope="note"))
        one = self.mend(plan, "envelope")
        self.assertEqual(one.mended.envelope, "5x7")
        self.assertEqual(codes(lay_out(spec(envelope="note"))), [])
        huge = lay_out(spec(base=Base(width=inches(12), height=inches(20)), envelope="note"))
        self.assertIsNone(next(one for one in huge.warnings if one.code == "envelope").mended)

    def test_too_thick_defers_to_the_carrier(self):
        plan = lay_out(spec(panel=Panel(foam=millimetres(4))))
        self.assertIn("ask your carrier", next(one.sentence for one in plan.warnings if one.code == "thick"))

    def test_a_panel_off_the_scan_is_moved_onto_it(self):
        picture = scene()
        plan = lay_out(spec(panel=Panel(crop_x=millimetres(-20), crop_y=ZERO)), picture)
        self.mend(plan, "off the scan", picture)
        small = scene(60, 60)
        one = next(it for it in lay_out(spec(), small).warnings if it.code == "off the scan")
        self.assertIn("larger than the picture", one.sentence)
        self.assertIsNone(one.mended)

    def test_what_is_cut_away_need_not_be_coloured(self):
        plan = lay_out(spec(panel=Panel(crop_x=ZERO, crop_y=millimetres(9))), scene())
        self.assertIn("Bird", next(one.sentence for one in plan.warnings if one.code == "cut away"))

    def test_embossing_keeps_out_of_the_press(self):
        plan = lay_out(spec(greeting=Greeting(text="Joy", embossed=True)))
        self.assertIn("roller press", next(one.sentence for one in plan.warnings if one.code == "press"))

    def test_an_unknown_grain_is_said(self):
        self.assertIn("grain", codes(lay_out(spec(stock=(replace(WHITE, grain=""),)))))

    def test_reveals_that_leave_nothing_are_said_and_mended(self):
        base = Base(width=inches("17/4"), height=inches("11/2"))
        for spec in (
            CardSpec(base=base, panel=Panel(reveal=inches("17/8"))),
            CardSpec(base=base, mats=(CardLayer(reveal=inches(3)),)),
            CardSpec(base=base, inside=Inside(reveal=inches(3))),
        ):
            found = [one for one in lay_out(spec).warnings if one.code == "nothing left"]
            with self.subTest(spec=spec):
                self.assertTrue(found)
                self.assertFalse([one for one in lay_out(found[0].mended).warnings if one.code == "nothing left"])


class PictureTest(SimpleTestCase):
    def test_the_figure_comes_into_the_middle(self):
        picture = scene()
        plan = lay_out(spec(panel=Panel(width=inches(2), height=inches(2))), picture)
        x, y = picture.middle()
        self.assertEqual((plan.crop.x + plan.crop.width / 2, plan.crop.y + plan.crop.height / 2), (x, y))
        # The box round face and bird, the sea being background.
        self.assertAlmostEqual(float(x.mm), (34 + 108) / 2, delta=0.5)

    def test_by_weight_is_scipys_centre_of_mass(self):
        picture = scene()
        weight = np.where(picture.labels == 1, 0.4, 0.0) + np.where(picture.labels == 3, 0.3, 0.0)
        row, column = ndimage.center_of_mass(weight)
        x, y = picture.middle("weight")
        self.assertAlmostEqual(float(x.mm), (column + 0.5) / PX_PER_MM, delta=0.02)
        self.assertAlmostEqual(float(y.mm), (row + 0.5) / PX_PER_MM, delta=0.02)

    def test_two_pictures_change_places_in_the_same_spot(self):
        plan = lay_out(spec(pull_out=True), scene())
        self.assertEqual(next(one.count for one in plan.pieces if one.name == "Picture"), 2)

    def test_a_place_on_the_front_is_found_on_the_picture(self):
        plan = lay_out(spec(panel=Panel(crop_x=millimetres(3), crop_y=millimetres(4))), scene())
        spot = on_picture(plan, Place(inches("1/8"), inches("1/8"), inches(1), inches(1)))
        self.assertEqual((spot.x, spot.y), (millimetres(3), millimetres(4)))


class OutlineTest(SimpleTestCase):
    def test_a_disc_is_cut_along_a_circle_of_the_wanted_radius(self):
        """Radius and margin add up; a margin inwards takes away. Exact geometry of a circle."""
        labels = disc(400, 80).astype(np.int32)
        for margin in (-2.0, 0.0, 3.0):
            path = cut_lines(labels, (1,), margin, PX_PER_MM)[0]
            np.testing.assert_array_equal(path[0], path[-1])
            radii = np.hypot(*(path - 200.5 / PX_PER_MM).T)
            self.assertLess(np.abs(radii - (20 + margin)).max(), 0.2)

    def test_a_ring_has_a_hole_and_specks_are_left(self):
        labels = (disc(400, 120) & ~disc(400, 60)).astype(np.int32)
        labels[5:8, 5:8] = 1
        self.assertEqual(len(cut_lines(labels, (1,), 0.0, PX_PER_MM)), 2)
        self.assertEqual(cut_lines(labels, (7,), 0.0, PX_PER_MM), [])

    def test_a_thing_at_the_scans_edge_closes(self):
        labels = np.zeros((100, 100), np.int32)
        labels[:, :50] = 1
        path = cut_lines(labels, (1,), 1.0, PX_PER_MM)[0]
        np.testing.assert_array_equal(path[0], path[-1])


class MakingTest(SimpleTestCase):
    FULL = spec(
        mats=(CardLayer(),),
        greeting=Greeting(text="Joy"),
        inside=Inside(text="Dear all"),
        cutouts=(CutOut(name="Bird", regions=(3,)),),
        pull_out=True,
        panel=Panel(foam=millimetres(1)),
    )

    def test_a_card_with_everything_has_every_step_in_an_order_without_conflict(self):
        steps = making(self.FULL, ("gloss",), ("marker",))
        self.assertEqual({one.code for one in steps}, set(STEP_NAMES))
        self.assertEqual(check_making([one.code for one in steps]), [])
        wait = {one.code: one.wait_s for one in steps}
        self.assertEqual(wait["dry"], 1800)  # gloss, the slowest of what has to dry (docs/trade-notes.md, Finishing)

    def test_a_plain_card_has_few(self):
        plain = spec(panel=Panel(trim=ZERO), base=replace(NOTE, fold="flat"))
        self.assertEqual(steps_of(plain), ("cut", "dry", "panel"))

    def test_every_rule_of_the_trade_is_named_when_it_is_broken(self):
        """docs/trade-notes.md, Assembling."""
        for before, after in (
            ("write", "panel"),
            ("write", "inside"),
            ("greeting", "trim"),
            ("dry", "mats"),
            ("dry", "panel"),
            ("trim", "panel"),
            ("score", "panel"),
            ("mats", "panel"),
            ("panel", "foam"),
            ("strip", "foam"),
            ("cut out", "foam"),
            ("alike", "trim"),
        ):
            with self.subTest(before=before, after=after):
                self.assertEqual(check_making([before, after]), [])
                found = check_making([after, before])
                self.assertEqual([(one.before, one.after) for one in found], [(before, after)])
                self.assertTrue(found[0].sentence.endswith("."))

    def test_the_makers_own_order_is_kept_and_judged(self):
        codes_by_hand = ("panel", "write", *(code for code in STEP_NAMES if code not in ("panel", "write")))
        own = replace(self.FULL, making=codes_by_hand)
        steps = [one.code for one in making(own)]
        self.assertEqual(tuple(steps), codes_by_hand)
        self.assertIn(("write", "panel"), {(one.before, one.after) for one in check_making(steps)})

    def test_a_step_that_comes_to_the_card_later_finds_its_place(self):
        plain = spec(making=tuple(steps_of(spec())))
        with_mat = replace(plain, mats=(CardLayer(),))
        self.assertEqual(check_making([one.code for one in making(with_mat)]), [])

    @settings(max_examples=40, deadline=None)
    @given(st.sets(st.sampled_from(["mats", "greeting", "inside", "cutouts", "pull_out"])))
    def test_no_card_is_made_against_a_rule(self, parts):
        values = {name: getattr(self.FULL, name) for name in parts}
        self.assertEqual(check_making([one.code for one in making(spec(**values))]), [])

    def test_of_all_orders_of_five_steps_the_check_passes_just_those_that_keep_every_rule(self):
        steps = ("write", "dry", "trim", "panel", "foam")
        fine = [order for order in permutations(steps) if not check_making(order)]
        self.assertEqual(
            set(fine),
            {("write", "dry", "trim", "panel", "foam"), ("dry", "write", "trim", "panel", "foam"),
             ("dry", "trim", "write", "panel", "foam")},
        )  # fmt: skip


class SpecTest(SimpleTestCase):
    def test_what_cannot_be_is_refused(self):
        for words, make in (
            ("no paper 'Gold'", lambda: spec(base=replace(NOTE, stock="Gold"))),
            ("same name", lambda: spec(stock=(WHITE, WHITE))),
            ("cards", lambda: spec(cards=10_000)),
            ("reveal", lambda: CardLayer(reveal=inches(-1))),
            ("making", lambda: spec(making=("fly",))),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(CardError, words):
                make()

    def test_the_pieces_of_a_card_are_cut_from_the_papers_they_name(self):
        gold = replace(WHITE, name="Gold", width=inches(6), height=inches(6), owned=1)
        plan = lay_out(spec(mats=(CardLayer(stock="Gold"),), stock=(WHITE, gold)), scene())
        cutting = cut_card(plan, 2)
        self.assertEqual(
            {need.stock.name: (need.used, need.buy) for need in cutting.needs}, {"White": (1, 1), "Gold": (2, 1)}
        )
        self.assertEqual(cutting.uncut, ("Picture",))
