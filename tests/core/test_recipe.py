"""Recipes: same recipe, same bytes; and every way a file can be wrong."""

from __future__ import annotations

import hashlib
import json
from dataclasses import replace
from pathlib import Path

import jsonschema
import numpy as np
from django.test import SimpleTestCase
from hypothesis import given, settings
from hypothesis import strategies as st

from paleta.card import Base, CardSpec, Greeting, inches
from paleta.errors import RecipeError
from paleta.ground import Fade
from paleta.impression import apply_edits
from paleta.light import Glow, Lamp
from paleta.materials import Paper
from paleta.media import Swatch
from paleta.order import PACES, SCHOOLS, check_plan, make_plan
from paleta.recipe import (
    SCHEMA,
    Accent,
    Coat,
    ImpressionRecord,
    Recipe,
    RegionSetting,
    _derived,
    carry_over,
    dump,
    load,
    once_per_sheet,
    what_changed,
    work_of,
)
from tests.builders import by_pen, coats, grey_pens, make_sheet, make_work, region_map

PICTURE, MAP = b"a picture", b"a map"
WRITTEN = st.characters(exclude_categories=("Cc", "Cs", "Cn"))
"""Everything that can be written down."""


def sha(data: bytes) -> str:
    return hashlib.sha256(data).hexdigest()


def make_recipe(**sheet) -> Recipe:
    pens = grey_pens(90, 70, 50)
    codes = [pen.code for pen in pens]
    setting = RegionSetting(name="Moon", coats=coats(*codes), wish_lab=(70.5, 1, -2))
    plan = make_plan(make_work(tuple(codes)), SCHOOLS["M1"], PACES["marker"])
    values = {"title": "Owl", "settings": {1: setting}, "swatches": by_pen(pens)} | sheet
    return Recipe(
        version=1,
        impression=ImpressionRecord(sha256=sha(PICTURE), regions_sha256=sha(MAP), width_px=10, height_px=20, dpi=300),
        sheet=make_sheet(**values),
        plan=plan,
        files={sha(PICTURE): PICTURE, sha(MAP): MAP},
    )


class FileTest(SimpleTestCase):
    def test_a_recipe_comes_back_equal_and_gives_the_same_bytes_again(self):
        recipe = make_recipe()
        data = dump(recipe)
        self.assertEqual(load(data), recipe)
        self.assertEqual(dump(load(data)), data)

    @settings(max_examples=30)
    @given(st.floats(0, 360), st.floats(0, 90), st.text(WRITTEN, min_size=1, max_size=40).filter(str.strip))
    def test_that_holds_for_any_lamp_and_any_title(self, azimuth, elevation, title):
        data = dump(make_recipe(title=title, lamp=Lamp(azimuth_deg=azimuth, elevation_deg=elevation)))
        self.assertEqual(dump(load(data)), data)

    def test_the_published_schema_is_the_one_in_use_and_a_sound_one(self):
        jsonschema.Draft202012Validator.check_schema(SCHEMA)
        published = Path(__file__).parents[2] / "docs" / "recipe.schema.json"
        self.assertEqual(json.loads(published.read_text()), SCHEMA)
        jsonschema.validate(json.loads(dump(make_recipe())), SCHEMA)


class DamagedFileTest(SimpleTestCase):
    def refused(self, words: str, change=None, data: bytes | None = None) -> None:
        if data is None:
            plain = json.loads(dump(make_recipe()))
            change(plain)
            data = json.dumps(plain).encode()
        with self.assertRaisesMessage(RecipeError, words):
            load(data)

    def test_what_is_no_recipe_is_refused_with_its_reason(self):
        self.refused("not JSON", data=b"\x89PNG")
        self.refused("not JSON", data=b"")
        self.refused("not JSON", data=b"[" * 100_000)
        self.refused("not a Paleta recipe", data=b"[]")
        self.refused("not a Paleta recipe", data=b'{"format": "else"}')
        self.refused("holds NaN", data=b'{"format": NaN}')

    def test_another_version_is_named(self):
        self.refused(
            "format version 7; this Paleta reads versions 1 to 6", lambda plain: plain.update(format_version=7)
        )

    def test_a_missing_field_a_wrong_type_and_an_unknown_field_are_placed(self):
        self.refused("sheet", lambda plain: plain["sheet"]["light"].pop("lamp"))
        self.refused(
            "sheet / light / lamp / azimuth_deg",
            lambda plain: plain["sheet"]["light"]["lamp"].update(azimuth_deg="left"),
        )
        self.refused("extra", lambda plain: plain.update(extra=1))
        self.refused(
            "sheet / regions / edits / 0",
            lambda plain: plain["sheet"]["regions"].update(edits=[{"op": "cut", "regions": [1, 2]}]),
        )

    def test_an_impossible_value_is_named(self):
        self.refused(
            "is greater than the maximum", lambda plain: plain["sheet"]["light"]["lamp"].update(elevation_deg=99)
        )
        self.refused("no school of shade order", lambda plain: plain["sheet"]["order"].update(schools=["Z1"]))

    def test_an_unknown_swatch_is_named_in_a_ramp_and_in_a_pass(self):
        self.refused(
            "'ghost-1', which is not on the sheet",
            lambda plain: plain["sheet"]["regions"]["settings"][0]["coats"][0].update(ramp=["ghost-1"]),
        )
        self.refused(
            "'ghost-1', which is not in the recipe", lambda plain: plain["plan"]["passes"][0].update(swatch="ghost-1")
        )

    def test_a_pass_on_no_region_is_named(self):
        self.refused("region 9, which is not in the recipe", lambda plain: plain["plan"]["passes"][0].update(region=9))

    def test_a_damaged_picture_is_noticed(self):
        self.refused("does not fit its checksum", lambda plain: plain["files"].update({sha(PICTURE): "AAAA"}))
        self.refused("not base64", lambda plain: plain["files"].update({sha(PICTURE): "?"}))


class OlderFormatTest(SimpleTestCase):
    """A file of format 1, written by the program that had it."""

    OLD = (Path(__file__).parent / "data" / "recipe-format-1.json").read_bytes()
    LAST = (Path(__file__).parent / "data" / "recipe-format-4.json").read_bytes()

    def test_pencil_over_marker_of_format_4_becomes_two_coats(self):
        recipe = load(self.LAST)
        moon = recipe.sheet.regions.settings[1]
        self.assertEqual([(coat.medium, coat.ramp) for coat in moon.coats], [
            ("marker", ("grey-90", "grey-70", "grey-50")), ("pencil", ("grey-90", "grey-70", "grey-50")),
        ])  # fmt: skip
        self.assertEqual((recipe.sheet.order.schools, recipe.sheet.order.school_of("marker").code), (("P2",), "M1"))
        self.assertEqual(recipe.sheet.colours.drawers, ("7",))
        self.assertEqual({(one.medium, one.coat) for one in recipe.plan.passes}, {("pencil", 1)})
        self.assertEqual(load(dump(recipe)), recipe)
        # The marker is planned now too, and the plan that is made of the lifted sheet is a sound one.
        work = work_of(recipe.sheet, region_map(np.ones((50, 50))), {})
        plan = make_plan(work, {medium: recipe.sheet.order.school_of(medium) for medium in recipe.sheet.media})
        self.assertEqual(check_plan(work, plan), [])
        self.assertEqual([one.medium for one in plan.passes], ["marker"] * 4 + ["pencil"] * 3)

    def test_a_file_of_format_1_is_lifted_with_everything_in_it(self):
        recipe = load(self.OLD)
        sheet = recipe.sheet
        self.assertEqual((sheet.stamp.paper, sheet.stamp.outline_ink), ("toned-grey", "pale"))
        self.assertEqual((sheet.light.lamp.azimuth_deg, sheet.light.glows[0].tint), (52, "#ffd27a"))
        self.assertEqual((sheet.light.shade, sheet.light.follow, sheet.light.true_to_scene), (0.25, 0.5, 0.5))
        self.assertEqual((sheet.regions.sensitivity, sheet.regions.gap_mm), (0.2, 0.8))
        self.assertEqual((sheet.order.wish, sheet.order.masked, sheet.colours.key), ("focal", True, "night"))
        self.assertEqual((sheet.finish.touches, sheet.finish.notes), (("gloss",), "Gloss on the lantern."))
        self.assertEqual(sheet.card.notes, "A2")
        self.assertEqual(sheet.regions.settings[1].coats, coats("grey-90", "grey-70", "grey-50"))
        self.assertEqual([one.swatch for one in recipe.plan.passes], ["grey-90", "grey-50", "grey-70", "grey-90"])
        self.assertEqual(load(dump(recipe)), recipe)

    def test_a_file_of_format_3_keeps_what_was_noted_of_its_card(self):
        plain = json.loads(self.LAST)
        plain["format_version"] = 3
        plain["sheet"]["card"] = {"notes": "Kraft, twine round it"}
        recipe = load(json.dumps(plain).encode())
        self.assertEqual((recipe.sheet.card.notes, recipe.sheet.card.spec), ("Kraft, twine round it", None))
        # What only the newer format knows is a fault in the older one.
        plain["sheet"]["card"]["spec"] = None
        with self.assertRaisesMessage(RecipeError, "at sheet / card"):
            load(json.dumps(plain).encode())

    def test_a_card_comes_back_exactly(self):
        spec = CardSpec(base=Base(width=inches("17/4"), height=inches("1/3")), greeting=Greeting(text="Joy"))
        recipe = make_recipe(card={"spec": spec})
        self.assertEqual(load(dump(recipe)).sheet.card.spec, spec)

    def test_a_fault_in_an_old_file_is_placed_in_the_old_files_words(self):
        plain = json.loads(self.OLD)
        plain["sheet"]["lamp"].pop("ambient")
        with self.assertRaisesMessage(RecipeError, "at sheet / lamp"):
            load(json.dumps(plain).encode())

    def test_a_paper_that_no_longer_ships_is_named(self):
        plain = json.loads(self.OLD)
        plain["sheet"]["swatches"][0].update(paper="parchment")
        with self.assertRaisesMessage(RecipeError, "unknown paper 'parchment'"):
            load(json.dumps(plain).encode())

    def test_a_bad_school_in_an_old_file_is_refused(self):
        plain = json.loads(self.OLD)
        plain["sheet"]["own_school"] = {"code": "own-1", "name": "", "medium": "oil", "summary": "", "steps": []}
        with self.assertRaises(RecipeError):
            load(json.dumps(plain).encode())


class HostileFileTest(SimpleTestCase):
    def refused(self, words: str, change) -> None:
        plain = json.loads(dump(make_recipe()))
        change(plain)
        with self.assertRaisesMessage(RecipeError, words):
            load(json.dumps(plain).encode())

    def test_half_of_a_surrogate_pair_is_refused_wherever_it_stands(self):
        self.refused("cannot be written down", lambda plain: plain["sheet"]["stamp"].update(title="\ud800"))
        self.refused("cannot be written down", lambda plain: plain["plan"]["passes"][0].update(how="\udfff"))

    def test_numbers_without_bound_are_refused(self):
        self.refused("version", lambda plain: plain.update(version=5000 * 10**9))
        self.refused("glows / 0", lambda plain: plain["sheet"]["light"].update(glows=[GLOW | {"x_mm": 1e300}]))
        self.refused("base_mm", lambda plain: plain["sheet"]["regions"]["settings"][0].update(base_mm=[1e300, 0]))
        self.refused("400 digits", lambda plain: plain["sheet"]["colours"]["swatches"][0].update(lab=[10**399, 0, 0]))

    def test_the_drawer_is_named_in_plain_digits(self):
        self.refused("drawer", lambda plain: plain["sheet"]["colours"].update(drawers=["²"]))
        self.refused("drawer", lambda plain: plain["sheet"]["colours"].update(drawers=["1" * 5000]))

    def test_a_list_that_is_too_long_is_refused_by_its_length(self):
        one = json.loads(dump(make_recipe()))["plan"]["passes"][0] | {"shade": "none"}
        self.refused("40,001 passes", lambda plain: plain["plan"].update(passes=[one] * 40_001))

    def test_deep_nesting_is_refused(self):
        nested = []
        for _ in range(200):
            nested = [nested]
        self.refused("nested", lambda plain: plain.update(extra=nested))


RIM = Accent(kind="rim", medium="pencil", code="white")
RIMMED = by_pen([*grey_pens(90, 70, 50), Swatch(code="white", name="White", medium="pencil", lab=(94, 0, 0))])
GLOW = {"x_mm": 1, "y_mm": 1, "height_mm": 8, "reach_mm": 20, "strength": 1, "tint": "", "reserve_mm": 0}


class OwnPaperTest(SimpleTestCase):
    def test_a_swatch_on_a_paper_of_its_own_comes_back_with_it(self):
        paper = Paper("mine", "Mother's blotting paper", (88.0, 1.0, 6.0), 120, "text")
        pens = by_pen(replace(pen, paper=paper) for pen in grey_pens(90, 70, 50))
        recipe = make_recipe(swatches=pens)
        self.assertEqual(load(dump(recipe)).sheet.colours.swatches["marker", "grey-70"].paper, paper)

    def test_a_picture_on_a_paper_of_its_own_comes_back_with_it(self):
        paper = Paper("own-1", "Mother's blotting paper", (88.0, 1.0, 6.0), 120, "text", "rough")
        recipe = make_recipe(paper="own-1", own_paper=paper)
        self.assertEqual(load(dump(recipe)).sheet.stamp.paper_used, paper)
        with self.assertRaisesMessage(RecipeError, "another paper than the one written"):
            make_sheet(own_paper=paper)

    def test_what_is_no_number_never_reaches_a_file(self):
        with self.assertRaisesMessage(RecipeError, "true_to_scene must lie"):
            make_sheet(true_to_scene=float("nan"))
        with self.assertRaisesMessage(RecipeError, "must lie in 0.05..2, got nan"):
            RegionSetting(name="Moon", bulge=float("nan"))


class WhatChangedTest(SimpleTestCase):
    def test_each_kind_of_change_is_said_in_a_sentence(self):
        before = make_recipe()
        setting = before.sheet.regions.settings[1]
        measured_anew = replace(before.sheet.colours.swatches["marker", "grey-90"], lab=(88.0, 1.0, 0.0))
        for sheet, words in (
            ({"lamp": Lamp(azimuth_deg=45, elevation_deg=30)}, "from 1:30, 30° high"),
            ({"glows": (Glow(x_mm=1, y_mm=2),)}, "0 became 1"),
            ({"shadows": False}, "Cast shadows: off"),
            ({"title": "Barn owl"}, "Owl became Barn owl"),
            ({"paper": "kraft"}, "became Kraft card"),
            ({"ink_name": "Soot"}, "no name became Soot"),
            ({"outline_ink": "embossed"}, "Heat-embossed"),
            ({"schools": ("M3",)}, "became Dark first"),
            ({"taped": True}, "grounds are taped"),
            ({"settings": {1: replace(setting, fade=Fade())}}, "fades from the top"),
            ({"settings": {1: replace(setting, accents=(RIM,))}, "swatches": RIMMED}, "accents are light rims"),
            ({"finish": {"notes": "gloss"}}, 'became "gloss"'),
            ({"settings": {1: replace(setting, name="Full moon")}}, "now called Full moon"),
            ({"settings": {1: replace(setting, left_as_paper=True)}}, "left as paper now"),
            ({"settings": {1: replace(setting, form="flat")}}, "dome became flat"),
            ({"settings": {1: replace(setting, depth=2)}}, "stands nearer"),
            ({"settings": {1: replace(setting, coats=coats(*setting.coats[0].ramp[:2]))}}, "became Grey 90 · Grey 70"),
            ({"settings": {1: replace(setting, coats=())}}, "became no colours"),
            ({"settings": {1: replace(setting, role="focal", tags=("fur",))}}, "marked as focal, fur"),
            ({"settings": {1: replace(setting, bare_highlight=True)}}, "highlight is left bare"),
            ({"settings": {1: replace(setting, base_mm=(1.0, 2.0))}}, "its base or its own light"),
            ({"settings": {1: replace(setting, turn_deg=30)}}, "its base or its own light"),
            ({"settings": {1: replace(setting, body=1)}}, "joined a body"),
            ({"shade": 0.25}, "shade +25%"),
            ({"follow": 0.5}, "50% after the printed shading"),
            ({"wish": "focal"}, "became focal image first"),
            ({"masked": True}, "masked for the background"),
            ({"key": "night"}, "none became night"),
            ({"touches": ("gloss", "gems")}, "gloss, gems now"),
            ({"card": {"notes": "A2"}}, 'became "A2"'),
            ({"edits": ({"op": "join", "regions": [1, 2]},)}, "Regions: 1 became 1"),
            (
                {"swatches": {**before.sheet.colours.swatches, ("marker", "grey-90"): measured_anew}},
                "Grey 90 was measured anew",
            ),
        ):
            with self.subTest(words=words):
                after = replace(make_recipe(**sheet), plan=before.plan)
                lines = what_changed(before, after)
                self.assertEqual(len(lines), 1, lines)
                self.assertIn(words, lines[0])

    def test_another_usual_medium_and_pencil_over_marker_are_said(self):
        before = make_recipe()
        pencils = {1: grey_pens(92, 72, 52, medium="pencil")}
        sheet = before.sheet.with_coat_over(pencils, SCHOOLS["P2"]).with_part("colours", medium="pencil")
        lines = what_changed(before, replace(before, sheet=sheet))
        self.assertIn("Usual medium: Alcohol marker became Coloured pencil.", lines)
        self.assertIn(
            "Moon: Grey 90 · Grey 70 · Grey 50 became Grey 90 · Grey 70 · Grey 50, then Grey 92 · Grey 72 · Grey 52.",
            lines,
        )
        self.assertIn("School: Light first, deepen in layers became Over markers.", lines)

    def test_another_order_is_said_in_passes_and_pen_changes(self):
        before = make_recipe()
        fewer = replace(before, plan=replace(before.plan, passes=before.plan.passes[:2], pen_changes=1))
        self.assertEqual(what_changed(before, fewer), ["Order: 4 passes and 3 pen changes became 2 and 1."])

    def test_equal_versions_have_nothing_to_say(self):
        self.assertEqual(what_changed(make_recipe(), make_recipe()), [])


class SheetTest(SimpleTestCase):
    def test_impossible_sheets_are_refused(self):
        for make, words in (
            (lambda: RegionSetting(name=" "), "1 to 60 characters"),
            (lambda: RegionSetting(name="x", form="cube"), "got 'cube'"),
            (lambda: RegionSetting(name="x", shades=9), "got 9"),
            (lambda: RegionSetting(name="x", coats=coats("a", "a")), "only once"),
            (lambda: make_sheet(""), "1 to 120 characters"),
            (lambda: make_sheet(paper="foil"), "no paper 'foil'"),
            (lambda: make_sheet(medium="oil"), "got 'oil'"),
            (lambda: make_sheet(outline_ink="tea"), "got 'tea'"),
            (lambda: make_sheet(schools=("Z9",)), "'Z9' is no school"),
            (lambda: make_sheet(schools=("M1", "M2")), "A medium has one school"),
            (lambda: Coat(medium="marker", ramp=("a",), school="P1"), "no school of shade order for alcohol marker"),
            (lambda: Coat(medium="marker", ramp=()), "at least one swatch"),
            (lambda: make_sheet(true_to_scene=2), "0..1, got 2"),
            (lambda: make_sheet(own_schools=(SCHOOLS["M2"],)), "other schools than those written"),
            (lambda: make_sheet(key="dusk"), "got 'dusk'"),
            (lambda: make_sheet(wish="luck"), "got 'luck'"),
            (lambda: make_sheet(shade=2), "shade must lie"),
            (lambda: make_sheet(touches=("foil",)), "got 'foil'"),
            (lambda: make_sheet(card={"notes": "x" * 2001}), "to 2,000 characters"),
            (lambda: RegionSetting("Moon", coats=coats("a") + coats("b")), "a medium is one coat"),
            (lambda: RegionSetting("Moon", coats=coats("a", medium="pencil") + coats("b")), "Marker never over wax"),
            (lambda: RegionSetting("Moon", coats=coats("a"), accents=(RIM, RIM)), "same accent is there twice"),
            (lambda: RegionSetting(name="x", axis_deg=400), "400"),
            (lambda: RegionSetting(name="x", role="hero"), "hero"),
        ):
            with self.subTest(words=words), self.assertRaisesMessage(RecipeError, words):
                make()

    def test_a_coat_takes_the_place_of_its_medium_or_lies_over_or_replaces_all(self):
        moon = make_recipe().sheet.regions.settings[1]
        pencil = Coat(medium="pencil", ramp=("p-1",))
        over = moon.with_coat(pencil, over=True)
        self.assertEqual([coat.medium for coat in over.coats], ["marker", "pencil"])
        self.assertEqual(moon.with_coat(pencil).coats, (pencil,))
        fewer = over.with_coat(coats("grey-90")[0])
        self.assertEqual([(coat.medium, len(coat.ramp)) for coat in fewer.coats], [("marker", 1), ("pencil", 1)])
        self.assertEqual(over.without_coat("marker").coats, (pencil,))
        self.assertEqual(over.without_coat().coats, ())

    def test_a_school_is_that_of_its_medium_and_the_rest_stay_usual(self):
        order = make_sheet().order.with_school(SCHOOLS["M3"]).with_school(SCHOOLS["P2"]).with_school(SCHOOLS["M2"])
        self.assertEqual((order.schools, order.own_schools), (("P2", "M2"), ()))
        self.assertEqual(
            [order.school_of(medium).code for medium in ("marker", "pencil", "inkpad")], ["M2", "P2", "B1"]
        )

    def test_a_swatch_that_is_in_no_drawer_cannot_be_laid(self):
        sheet = make_recipe().sheet
        with self.assertRaisesMessage(RecipeError, "no swatch 'ghost'"):
            sheet.with_regions({1: replace(sheet.regions.settings[1], coats=coats("ghost"))})

    def test_swatches_nobody_uses_leave_the_sheet(self):
        sheet = make_recipe().sheet
        bare = sheet.with_regions({1: replace(sheet.regions.settings[1], coats=coats("grey-90"))})
        self.assertEqual(list(bare.colours.swatches), [("marker", "grey-90")])


class CarryOverTest(SimpleTestCase):
    """Two boxes side by side, found once as 1 and 2, then again in another order or cut differently."""

    def setUp(self):
        self.labels = np.zeros((100, 200), np.int32)
        self.labels[10:90, 10:100], self.labels[10:90, 100:190] = 1, 2
        self.old = region_map(self.labels)
        self.sheet = make_sheet(
            "Boxes", settings={1: RegionSetting(name="Left", form="tube"), 2: RegionSetting(name="Right")}
        )

    def test_settings_follow_their_place_not_their_number(self):
        swapped = region_map(np.choose(self.labels, (0, 2, 1)))
        carried = carry_over(self.sheet, self.old, swapped)
        self.assertEqual({label: one.name for label, one in carried.regions.items()}, {1: "Right", 2: "Left"})
        self.assertEqual((carried.regions[2].form, carried.lost), ("tube", ()))

    def test_a_join_is_made_again_and_a_region_that_is_gone_is_named(self):
        joined = replace(
            self.sheet,
            regions=replace(
                self.sheet.regions,
                edits=({"op": "join", "regions": [1, 2]},),
                settings={1: RegionSetting(name="Both")},
            ),
        )
        old = apply_edits(self.old, joined.regions.edits)
        carried = carry_over(joined, old, self.old)
        self.assertEqual([one.name for one in carried.regions.values()], ["Both"])
        self.assertEqual(carried.edits, ({"op": "join", "regions": [1, 2]},))
        only_left = region_map(np.where(self.labels == 1, 1, 0))
        self.assertEqual(carry_over(self.sheet, self.old, only_left).lost, ("Right",))

    def test_a_barrier_is_drawn_again_where_it_still_parts_something(self):
        line = [[14 / 11.811 * 10, 0], [14 / 11.811 * 10, 9]]  # x = 140 px, upright through the right box
        split = {"op": "split", "region": 2, "line": line}
        settings = {**self.sheet.regions.settings, 3: RegionSetting(name="Far right")}
        sheet = self.sheet.with_part("regions", edits=(split,), settings=settings)
        old = apply_edits(self.old, [split])
        carried = carry_over(sheet, old, region_map(np.choose(self.labels, (0, 2, 1))))
        self.assertEqual(carried.edits, ({**split, "region": 1},))
        self.assertEqual({one.name for one in carried.regions.values()}, {"Left", "Right", "Far right"})
        nothing = region_map(np.where(self.labels == 1, 1, 0))
        self.assertIn("a barrier", carry_over(sheet, old, nothing).lost)


class OncePerSheetTest(SimpleTestCase):
    def test_what_follows_from_a_sheet_is_worked_out_once_and_goes_with_it(self):
        asked = []

        @once_per_sheet
        def title_of(sheet, more=""):
            asked.append(sheet.stamp.title)
            return [sheet.stamp.title + more]

        one, like_it = make_sheet("Owl"), make_sheet("Owl")
        self.assertIs(title_of(one), title_of(one))
        self.assertEqual(title_of(one, "!"), ["Owl!"])
        self.assertIsNot(title_of(one), title_of(like_it))
        self.assertEqual(asked, ["Owl"] * 3)
        place = id(one)
        self.assertIn(place, _derived._known)
        del one
        self.assertNotIn(place, _derived._known)
